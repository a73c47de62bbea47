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
    let i = positive("current", current)?;
    positive("supply", supply)?;
    if load < Volt::ZERO {
        return Err(SupplyError::NotPositive("load"));
    }
    let drop = supply - load;
    if drop <= Volt::ZERO {
        return Err(SupplyError::NothingToDrop { supply, load });
    }
    let (resistor, dissipated) = (drop / i, drop * i);
    let preferred = nearest(resistor).map(|r| bought(supply, i, r));
    Ok(Dropper { resistor, dissipated, rating: Rating::of(dissipated), preferred })
}

/// What flows through a resistor that is there: its drop by its own ohms.
///
/// # Errors
/// [`SupplyError`] for volts or ohms that are not above zero.
pub fn current_through(drop: Volt, through: Ohm) -> Result<Ampere, SupplyError> {
    Ok(positive("drop", drop)? / positive("through", through)?)
}

/// What a resistor of E24 makes of it, the load drawing the same current.
fn bought(supply: Volt, i: Ampere, value: Ohm) -> Preferred {
    let drop = i * value;
    let dissipated = drop * i;
    Preferred { value, dissipated, size: Rating::of(dissipated).size(), volts: supply - drop }
}
