//! The evening at the reforming bench: when each part begins and is done. A bench has one supply, so what waits follows
//! one after the other, with time between for clips, looks and measuring.

use crate::quantity::Second;

/// Between two parts (practice: five minutes).
pub const CHANGE_SECONDS: f64 = 300.0;

/// A part on the bench or in its queue.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct BenchItem {
    /// Whether it waits for its turn.
    pub waits: bool,
    /// What is left of its time, as the clock on the wall goes.
    pub left: Second,
}

/// When each begins and is done, in second from now; in the order given, in which what is under way comes first.
///
/// ```
/// use owl_core::quantity::Second;
/// use owl_core::reform::evening::{BenchItem, times};
/// let lying = |waits, left| BenchItem { waits, left: Second::new(left).unwrap() };
/// let all = times(&[lying(false, 600.0), lying(true, 3600.0), lying(true, 900.0)]);
/// assert_eq!(all, [(0.0, 600.0), (900.0, 4500.0), (4800.0, 5700.0)]);
/// assert!(times(&[]).is_empty());
/// ```
#[must_use]
pub fn times(lying: &[BenchItem]) -> Vec<(f64, f64)> {
    let mut free = 0.0_f64;
    lying
        .iter()
        .map(|l| {
            let begin = if l.waits { free } else { 0.0 };
            let end = begin + l.left.seconds();
            free = free.max(end + CHANGE_SECONDS);
            (begin, end)
        })
        .collect()
}
