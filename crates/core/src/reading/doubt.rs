//! Readings that are more likely a slip of the finger than a part.

use super::ReadQuantity;
use crate::quantity::{Quantity, format};

/// From this factor above or below the expected value the technician is asked (practice: a
/// drifted part is tens of times off at most; a wrong prefix is a thousand or more). Asking costs
/// one more press of Enter, a wrong prefix in the record costs a part.
pub const ASK_FROM: f64 = 500.0;

/// A question about a reading that is far from what is expected.
#[derive(Debug, Clone, PartialEq)]
pub struct Doubt {
    /// The question, in words.
    pub question: String,
    /// What was perhaps meant, in the base unit: the same digits with another prefix.
    pub perhaps_si: Option<f64>,
}

/// Asks about a `value` of `of` when it is [`ASK_FROM`] times or more from `expected` (both in the base unit);
/// zero is not asked about, because a short reads zero.
///
/// ```
/// use owl_core::reading::{doubt::doubt, ReadQuantity::Resistance};
/// assert!(doubt(Resistance, 3.3e9, 3300.0).is_some());
/// assert!(doubt(Resistance, 33e3, 3300.0).is_none());
/// ```
#[must_use]
pub fn doubt(of: ReadQuantity, value: f64, expected: f64) -> Option<Doubt> {
    let ratio = value / expected;
    if value == 0.0 || !ratio.is_finite() || (ratio < ASK_FROM && ratio > 1.0 / ASK_FROM) {
        return None;
    }
    let (times, way) = if ratio > 1.0 { (ratio, "above") } else { (1.0 / ratio, "below") };
    // Factors of a thousand, because a wrong prefix is what happens.
    let perhaps = (-4..=4)
        .map(|k| value * 1000f64.powi(k))
        .min_by(|a, b| (a / expected).ln().abs().total_cmp(&(b / expected).ln().abs()))
        .filter(|v| (0.2..5.0).contains(&(v / expected)));
    let meant = perhaps.map(|p| format!(" Perhaps {} was meant.", of.written(p))).unwrap_or_default();
    Some(Doubt {
        question: format!(
            "{} is {} times {way} {}.{meant} Record it anyway?",
            of.written(value),
            grouped(times),
            of.written(expected)
        ),
        perhaps_si: perhaps,
    })
}

/// About how many times, with thin spaces between thousands.
fn grouped(times: f64) -> String {
    let rounded = 10f64.powf(times.log10().floor()) * (times / 10f64.powf(times.log10().floor())).round();
    if rounded >= 1e15 {
        return format::format(Quantity::Fraction, rounded / 100.0).number;
    }
    let digits = format!("{rounded:.0}");
    let mut out = String::new();
    for (i, c) in digits.chars().enumerate() {
        if i > 0 && (digits.len() - i) % 3 == 0 {
            out.push('\u{202f}');
        }
        out.push(c);
    }
    out
}
