//! A resistor that takes volts away from a steady load.

use super::{Preferred, Rating, SupplyError, nearest, positive};
use crate::quantity::{Ampere, Ohm, Volt, Watt};

/// A dropping resistor.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Dropper {
    /// What it must be.
    pub resistor: Ohm,
    /// What it dissipates.
    pub dissipated: Watt,
    /// What it should be rated at.
    pub rating: Rating,
    /// What can be bought, and the volts that the load then has.
    pub preferred: Option<Preferred>,
}

/// The resistor between `supply` and a load of `load` volts that draws `current`: R = ΔV / I, P = I²R.
///
/// ```
/// use owl_core::quantity::{Ampere, Volt};
/// use owl_core::supply::dropper::dropper;
/// let d = dropper(Volt::new(210.0).unwrap(), Volt::new(90.0).unwrap(), Ampere::new(0.004).unwrap()).unwrap();
/// assert_eq!(d.resistor.ohms(), 30_000.0);
/// assert!(dropper(Volt::new(90.0).unwrap(), Volt::new(210.0).unwrap(), Ampere::new(0.004).unwrap()).is_err());
/// ```
///
/// # Errors
/// [`SupplyError`] where there is nothing to drop, or no current.
pub fn dropper(supply: Volt, load: Volt, current: Ampere) -> Result<Dropper, SupplyError> {
    let i = positive("current", current.amperes())?;
    positive("supply", supply.volts())?;
    if load.volts() < 0.0 {
        return Err(SupplyError::NotPositive("load"));
    }
    let drop = supply.volts() - load.volts();
    if drop <= 0.0 {
        return Err(SupplyError::NothingToDrop { supply, load });
    }
    let r = drop / i;
    let dissipated = Watt::new(drop * i)?;
    Ok(Dropper {
        resistor: Ohm::new(r)?,
        dissipated,
        rating: Rating::of(dissipated),
        preferred: nearest(r).map(|v| of(supply, i, v)).transpose()?,
    })
}

/// What a resistor of E24 makes of it, the load drawing the same current.
fn of(supply: Volt, i: f64, value: f64) -> Result<Preferred, SupplyError> {
    let dissipated = Watt::new(i * i * value)?;
    Ok(Preferred {
        value: Ohm::new(value)?,
        dissipated,
        size: Rating::of(dissipated).size(),
        volts: Volt::new(supply.volts() - i * value)?,
    })
}
