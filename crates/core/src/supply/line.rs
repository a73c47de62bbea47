//! What a sheet's volts are at another line: unregulated volts follow the line, heaters likewise.

use super::{SupplyError, positive};
use crate::quantity::{Fraction, Volt};

/// How far heaters may be off (memory: makers of valves, 10 %; 5 % for long life).
pub const HEATER_WINDOW: f64 = 0.1;

/// A point of a chart.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Scaled {
    /// What it should have at today's line.
    pub expected: Volt,
    /// What it has against that, as a fraction, where it was measured.
    pub deviation: Option<Fraction>,
}

/// A point's volts at today's line: volts ∝ line.
///
/// # Errors
/// [`SupplyError`] for lines that are not above zero.
pub fn scaled(
    sheet_line: Volt,
    line: Volt,
    sheet: Volt,
    measured: Option<Volt>,
) -> Result<Scaled, SupplyError> {
    let factor = positive("line", line)? / positive("sheet_line", sheet_line)?;
    let expected = sheet * factor;
    let deviation =
        measured.filter(|_| expected != Volt::ZERO).map(|m| Fraction::computed(m / expected - 1.0));
    Ok(Scaled { expected, deviation })
}

/// How far the halves of a secondary are apart: |a − b| over their mean.
///
/// # Errors
/// [`SupplyError`] for volts that are not above zero.
pub fn halves_apart(a: Volt, b: Volt) -> Result<Fraction, SupplyError> {
    let (a, b) = (positive("halves", a)?, positive("halves", b)?);
    Ok(Fraction::computed((a - b).abs() / ((a + b) * 0.5)))
}
