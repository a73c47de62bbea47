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
    /// What it says by itself; `None` where nothing was read.
    pub call: Option<Outcome>,
    /// Where the limit comes from.
    pub source: Source,
}

impl Dial {
    /// What was read, if anything, against the most that passes.
    #[must_use]
    pub fn new(of: ReadQuantity, value_si: Option<f64>, high_si: f64, source: Source) -> Self {
        Self { of, value_si, low_si: None, high_si, others: vec![], call: None, source }
    }
}
