//! Small dials: one read quantity against its limit, for the picture of an electrolytic's value, ESR and
//! leakage side by side.

use super::Outcome;
use crate::reading::ReadQuantity;
use crate::source::Source;

/// A dial.
#[derive(Debug, Clone, PartialEq)]
pub struct Dial {
    /// What it shows.
    pub of: ReadQuantity,
    /// What was read, in the base unit; `None` where nothing was.
    pub value_si: Option<f64>,
    /// The least that passes, in the base unit; `None` where less is always better.
    pub low_si: Option<f64>,
    /// The most that passes, in the base unit.
    pub high_si: f64,
    /// Other limits beside it, each with its name, in the base unit.
    pub others: Vec<(String, f64)>,
    /// Where the dial ends, in the base unit.
    pub end_si: f64,
    /// What it says by itself; `None` where nothing was read.
    pub call: Option<Outcome>,
    /// Where the limit comes from.
    pub source: Source,
}

impl Dial {
    /// A dial up to one and a half times the larger of limit and reading, with the limit always in its upper half
    /// so that a good part can be told from a better one.
    #[must_use]
    pub fn new(of: ReadQuantity, value_si: Option<f64>, high_si: f64, source: Source) -> Self {
        let end_si = value_si.map_or(0.0, |v| v.min(6.0 * high_si) * 1.1).max(1.6 * high_si);
        Self { of, value_si, low_si: None, high_si, others: vec![], end_si, call: None, source }
    }
}
