//! How many networks there are to choose from.

/// The number of different networks of up to `parts` parts out of `n` values, each as often as needed; with
/// `pinned`, of those that hold a certain part once. Combinations with repetition, topology by topology.
pub(super) fn networks(n: u64, parts: usize, pinned: bool) -> u64 {
    let two = n * (n + 1) / 2;
    let three = two * (n + 2) / 3;
    let four = three.saturating_mul(n + 3) / 4;
    // Every topology but the single part has its dual.
    let of: [u64; 4] = if pinned {
        [
            1,
            2 * n,
            2 * (two + n * n + two),
            2 * (three + (n * two + two * n) + (two * n + three) + n * two + (n * n * n + 2 * two * n)),
        ]
    } else {
        [
            n,
            2 * two,
            2 * (three + two * n),
            2u64.saturating_mul(
                four.saturating_add(two.saturating_mul(two))
                    .saturating_add(three.saturating_mul(n))
                    .saturating_add(two.saturating_mul(two + 1) / 2)
                    .saturating_add(two.saturating_mul(n).saturating_mul(n)),
            ),
        ]
    };
    of.iter().take(parts).fold(0, |sum, x| sum.saturating_add(*x))
}
