//! A field coil that is short of its resistance, or gone: what makes up for it, and whether the choke is kept.

use super::{Preferred, Rating, SupplyError, nearest, positive};
use crate::quantity::{Ampere, Ohm, Volt};

/// What is known of the coil and its place.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct FieldCoil {
    /// The direct-current resistance by the sheet.
    pub wanted: Ohm,
    /// What is there: the coil that is used; none where it is left out.
    pub present: Ohm,
    /// What flows through it, or the volts across what is missing.
    pub known: Known,
}

/// From which number the current follows.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Known {
    /// The current itself.
    Current(Ampere),
    /// Volts measured across the resistor that makes up.
    Drop(Volt),
}

/// What makes up for the missing resistance.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct MadeUp {
    /// What is missing.
    pub missing: Ohm,
    /// What goes in, of E24, with what it dissipates; `volts` are those across it.
    pub resistor: Preferred,
    /// What flows.
    pub current: Ampere,
    /// What it should be rated at.
    pub rating: Rating,
    /// Whether a coil stays that still smooths.
    pub choke_kept: bool,
    /// What the whole then has, relative to the sheet, as a fraction.
    pub deviation: f64,
}

/// The resistor in series with what is there: missing = wanted − present.
///
/// # Errors
/// [`SupplyError`] where nothing is missing, or a number is not above zero.
pub fn made_up(coil: FieldCoil) -> Result<MadeUp, SupplyError> {
    let wanted = positive("wanted", coil.wanted)?;
    if coil.present >= wanted {
        return Err(SupplyError::NothingMissing { wanted, have: coil.present });
    }
    let missing = Ohm::computed(wanted.ohms() - coil.present.ohms());
    let value = nearest(missing).ok_or(SupplyError::NotPositive("wanted"))?;
    let current = match coil.known {
        Known::Current(i) => positive("current", i)?,
        Known::Drop(v) => positive("drop", v)? / value,
    };
    let volts = current * value;
    let dissipated = volts * current;
    let rating = Rating::of(dissipated);
    Ok(MadeUp {
        missing,
        resistor: Preferred { value, dissipated, size: rating.size(), volts },
        current,
        rating,
        choke_kept: coil.present > Ohm::ZERO,
        deviation: (coil.present + value) / wanted - 1.0,
    })
}
