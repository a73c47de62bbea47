//! Two parts and what they make, sorted; and how to find a place in them.

use std::ops::RangeInclusive;

/// Two places in the stock and the value that they make together.
#[derive(Debug, Clone, Copy)]
pub(super) struct Pair {
    pub(super) value: f64,
    pub(super) a: u16,
    pub(super) b: u16,
}

/// What two values make in a bundle.
pub(super) fn bundle(a: f64, b: f64) -> f64 {
    a * b / (a + b)
}

/// What must be bundled with `have` to make `target`; infinite where `have` is not more than the target.
pub(super) fn beside(target: f64, have: f64) -> f64 {
    if have > target { 1.0 / (1.0 / target - 1.0 / have) } else { f64::INFINITY }
}

/// Chains and bundles, each sorted by value.
#[derive(Debug, Clone, Default)]
pub(super) struct Pairs {
    pub(super) chains: Vec<Pair>,
    pub(super) bundles: Vec<Pair>,
}

impl Pairs {
    /// All pairs that are of use and that `enough` allows, of which `first` says where the first may stand.
    pub(super) fn new(
        values: &[f64],
        first: Option<u16>,
        of_use: &RangeInclusive<f64>,
        enough: impl Fn(u16, u16) -> bool,
    ) -> Self {
        let n = values.len() as u16;
        let mut out = Self::default();
        for a in first.map_or(0..n, |f| f..f + 1) {
            for b in (if first.is_some() { 0 } else { a })..n {
                let (x, y) = (values[usize::from(a)], values[usize::from(b)]);
                let (chain, bundle) = (x + y, bundle(x, y));
                if (of_use.contains(&chain) || of_use.contains(&bundle)) && enough(a, b) {
                    if of_use.contains(&chain) {
                        out.chains.push(Pair { value: chain, a, b });
                    }
                    if of_use.contains(&bundle) {
                        out.bundles.push(Pair { value: bundle, a, b });
                    }
                }
            }
        }
        out.chains.sort_unstable_by(|x, y| x.value.total_cmp(&y.value).then((x.a, x.b).cmp(&(y.a, y.b))));
        out.bundles.sort_unstable_by(|x, y| x.value.total_cmp(&y.value).then((x.a, x.b).cmp(&(y.a, y.b))));
        out
    }

    /// Those of which both pass.
    pub(super) fn only(&self, chain: impl Fn(&Pair) -> bool, bundle: impl Fn(&Pair) -> bool) -> Self {
        Self {
            chains: self.chains.iter().copied().filter(|p| chain(p)).collect(),
            bundles: self.bundles.iter().copied().filter(|p| bundle(p)).collect(),
        }
    }
}

/// The first place in `sorted` that is not below `at`, looked for from `hint` in doubling steps: the questions
/// of a search move on little by little.
pub(super) fn seek(sorted: &[Pair], at: f64, hint: usize) -> usize {
    let n = sorted.len();
    let below = |i: usize| sorted[i].value < at;
    let (mut low, mut high);
    let mut step = 1;
    if hint < n && below(hint) {
        low = hint;
        high = hint + 1;
        while high < n && below(high) {
            low = high;
            high = (high + step).min(n);
            step *= 2;
        }
        low += 1;
    } else {
        high = hint.min(n);
        low = high;
        while low > 0 && !below(low - 1) {
            high = low - 1;
            low = low.saturating_sub(step);
            step *= 2;
        }
    }
    low + sorted[low..high.max(low)].partition_point(|p| p.value < at)
}
