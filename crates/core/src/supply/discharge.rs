//! Emptying a capacitor through a resistor.

use super::{SupplyError, positive};
use crate::quantity::{Ampere, Farad, Ohm, Second, Volt, Watt};

/// What is counted as empty before a hand goes near (practice, strict).
pub const SAFE_VOLTS: f64 = 5.0;

/// How a discharge goes.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Discharge {
    /// Until the safe voltage; none where it is there already.
    pub time: Second,
    /// What is stored, in joule.
    pub energy_joules: f64,
    /// What the resistor takes in the first moment.
    pub peak: Watt,
    /// What flows in the first moment.
    pub peak_current: Ampere,
}

/// The discharge of `capacitance` from `voltage` through `resistor` down to `safe`: t = RC ln(V/V₁), ½CV².
///
/// # Errors
/// [`SupplyError`] for a capacitance, a resistor or a safe voltage that is not above zero.
pub fn discharge(
    capacitance: Farad,
    voltage: Volt,
    resistor: Ohm,
    safe: Volt,
) -> Result<Discharge, SupplyError> {
    let c = positive("capacitance", capacitance)?;
    let r = positive("resistor", resistor)?;
    let end = positive("safe", safe)?;
    let v = voltage.abs();
    let peak_current = v / r;
    Ok(Discharge {
        time: r * c * (v / end).ln().max(0.0),
        energy_joules: 0.5 * c.farads() * v.volts().powi(2),
        peak: v * peak_current,
        peak_current,
    })
}
