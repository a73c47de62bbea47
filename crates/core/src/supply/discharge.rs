//! Emptying a capacitor through a resistor.

use super::{SupplyError, positive};
use crate::named::named;
use crate::part::size::sizes;
use crate::quantity::{Ampere, Farad, Ohm, Second, Volt, Watt};

/// What is counted as empty before a hand goes near (practice, strict).
pub const SAFE_VOLTS: f64 = 5.0;

named! {
    /// What a charged capacitor can do to a hand.
    "danger" Danger {
        /// A spark at most.
        Little = "little",
        /// It hurts, and makes a hand jump.
        Hurts = "hurts",
        /// It can kill by itself.
        Kills = "kills",
    }
}

/// Above these volts, or this energy, a hand is warned (practice: the volts that may be touched, dry).
const HURTS: (f64, f64) = (60.0, 1.0);
/// From these volts, or this energy, it can kill by itself (memory: 10 J of a charged capacitor, IEC 60479).
const KILLS: (f64, f64) = (1000.0, 10.0);

/// What so many volts and joules can do to a hand.
#[must_use]
pub fn danger(voltage: Volt, joules: f64) -> Danger {
    let v = voltage.abs().volts();
    if v >= KILLS.0 || joules >= KILLS.1 {
        Danger::Kills
    } else if v > HURTS.0 || joules > HURTS.1 {
        Danger::Hurts
    } else {
        Danger::Little
    }
}

/// What is said before a hand goes in: short, in the order in which it is done. Local code and licensed practice come
/// first.
#[must_use]
pub fn cautions(d: &Discharge, voltage: Volt) -> Vec<String> {
    let mut all = Vec::new();
    match d.danger {
        Danger::Little => return all,
        Danger::Hurts => all.push(format!(
            "{voltage} and {:.1} J: it hurts, and the hand jumps into something else. Unplugged first, then the \
             resistor, with insulated clips.",
            d.energy_joules
        )),
        Danger::Kills => all.push(format!(
            "{voltage} and {:.1} J can kill. Plug out and locked out, one hand, a second person in the room; the \
             discharge stick on first and left on. Local code and licensed practice come first.",
            d.energy_joules
        )),
    }
    if d.bodies > 1 {
        all.push(format!(
            "The resistor's bodies must stand {voltage}: {} in series of the largest size, each of an equal share.",
            d.bodies
        ));
    }
    all.push(
        "Measure twice: when the time is over, and again a minute after the resistor is off. Charge comes back.".to_owned(),
    );
    all
}

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
    /// What it can do to a hand.
    pub danger: Danger,
    /// Over how many bodies of the largest size the volts are to be shared.
    pub bodies: u32,
}

/// The discharge of `capacitance` from `voltage` through `resistor` down to `safe`: t = RC ln(V/V₁), ½CV².
///
/// # Errors
/// [`SupplyError`] for a capacitance, a resistor or a safe voltage that is not above zero, and for a safe voltage above
/// [`SAFE_VOLTS`]: safe is nothing looser.
pub fn discharge(
    capacitance: Farad,
    voltage: Volt,
    resistor: Ohm,
    safe: Volt,
) -> Result<Discharge, SupplyError> {
    let c = positive("capacitance", capacitance)?;
    let r = positive("resistor", resistor)?;
    let end = positive("safe", safe)?;
    if end.volts() > SAFE_VOLTS {
        return Err(SupplyError::OutOfRange { what: "safe", least: 0.0, most: SAFE_VOLTS });
    }
    let v = voltage.abs();
    let energy_joules = 0.5 * c.farads() * v.volts().powi(2);

    let body = sizes().iter().map(|s| s.volts.volts()).fold(1.0, f64::max);
    let peak_current = v / r;
    Ok(Discharge {
        time: r * c * (v / end).ln().max(0.0),
        energy_joules,
        peak: v * peak_current,
        peak_current,
        danger: danger(v, energy_joules),
        bodies: (v.volts() / body).ceil().max(1.0) as u32,
    })
}
