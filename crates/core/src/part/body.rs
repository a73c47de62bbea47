//! From the size of a carbon composition body to its watts.

use std::sync::LazyLock;

use serde::Deserialize;

use crate::source::Source;
use crate::table::rows;

/// A body and the power that it is made for.
#[derive(Debug, Clone, Deserialize)]
pub struct Body {
    /// Rated power in watt.
    pub watts: f64,
    /// Length without the wires, in millimetre.
    pub length_mm: f64,
    /// Diameter in millimetre.
    pub diameter_mm: f64,
    /// Where the row comes from.
    pub source: Source,
}

static BODIES: LazyLock<Vec<Body>> =
    LazyLock::new(|| rows("marking/body_size.csv", include_str!("../../data/marking/body_size.csv")));

/// The bodies, smallest first.
#[must_use]
pub fn bodies() -> &'static [Body] {
    &BODIES
}

/// The body of that size, from `9.5x3.5mm` or `14x6`; `None` where the text is no size, or where no
/// body is within a quarter of it both ways.
#[must_use]
pub fn of_size(text: &str) -> Option<&'static Body> {
    let lower = text.to_lowercase();
    let (length, diameter) = lower.trim_end_matches("mm").split_once(['x', '×', '*'])?;
    let (length, diameter): (f64, f64) =
        (length.trim_end_matches("mm").trim().parse().ok()?, diameter.trim().parse().ok()?);
    if !(length > 0.0 && diameter > 0.0) {
        return None;
    }
    let off = |b: &Body| (length / b.length_mm).ln().abs().max((diameter / b.diameter_mm).ln().abs());
    BODIES.iter().filter(|b| off(b) < 0.25).min_by(|a, b| off(a).total_cmp(&off(b)))
}
