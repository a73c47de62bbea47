//! What a filter section leaves of the ripple, and the corner of a coupling.

use super::{SupplyError, positive};
use crate::quantity::{Farad, Fraction, Henry, Hertz, Ohm, Second, Volt};

/// What stands between two capacitors.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Section {
    /// A resistor.
    Resistor(Ohm),
    /// A choke or a field coil; its resistance does nothing to the ripple that counts.
    Choke(Henry),
}

/// Its reactance over the capacitor's: 1.5 times its resonance, squared.
const LEAST_CHOKE: f64 = 2.25;

/// The share of the ripple of a frequency that a section with a capacitor behind it leaves.
///
/// Resistor: 1/√(1 + (2πf·RC)²). Choke: 1/(ω²LC − 1), above its resonance (below 1.5 times it the section rings and is
/// refused). For the fundamental; the harmonics of a sawtooth are smaller and are filtered better.
///
/// # Errors
/// [`SupplyError`] for numbers that are not above zero, and for a choke too near its resonance.
pub fn left(section: Section, capacitance: Farad, frequency: Hertz) -> Result<Fraction, SupplyError> {
    let f = positive("frequency", frequency)?;
    let xc = positive("capacitance", capacitance)?.reactance(f);
    let left = match section {
        Section::Resistor(r) => 1.0 / (1.0 + (positive("resistor", r)? / xc).powi(2)).sqrt(),
        Section::Choke(l) => {
            let x = positive("choke", l)?.reactance(f) / xc;
            if x < LEAST_CHOKE {
                return Err(SupplyError::OutOfRange {
                    what: "choke",
                    least: l.henries() * LEAST_CHOKE / x,
                    most: 1e6,
                });
            }
            1.0 / (x - 1.0)
        }
    };
    Ok(Fraction::computed(left))
}

/// What is left of a ripple behind sections one after the other.
///
/// # Errors
/// As [`left`].
pub fn after(
    ripple: Volt,
    frequency: Hertz,
    sections: &[(Section, Farad)],
) -> Result<Vec<Volt>, SupplyError> {
    let mut now = ripple;
    sections
        .iter()
        .map(|(section, c)| {
            now = now * left(*section, *c, frequency)?.fraction();
            Ok(now)
        })
        .collect()
}

/// The −3 dB corner of a resistor and a capacitor: 1/(2πRC); none where there is no time constant.
#[must_use]
pub fn corner(resistor: Ohm, capacitance: Farad) -> Option<Hertz> {
    Some(resistor * capacitance).filter(|t| *t > Second::ZERO).map(Second::corner)
}
