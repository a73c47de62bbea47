//! Resistors that share direct volts among capacitors in series.
//!
//! Leakage, not capacitance, decides how capacitors in series share direct volts after a while. A resistor across
//! each, that carries ten times what they may leak, makes the shares even.

use crate::preferred::{Series, neighbours};
use crate::quantity::{Ampere, Farad, Ohm, Volt, Watt};

/// The least leak that is reckoned with, ampere: a small electrolytic as new (memory: IEC 60384-4, 3 µA).
const LEAST_LEAK: Ampere = Ampere::computed(3e-6);
/// What an electrolytic may leak as new, at so many volts: 0.01 · C(µF) · V µA, and never less than 3 µA.
#[must_use]
pub fn leak_as_new(capacitance: Farad, volts: Volt) -> Ampere {
    Ampere::computed(0.01 * capacitance.farads() * volts.volts()).max(LEAST_LEAK)
}

/// How many times the leak goes through the resistors (practice: ten times).
pub const TIMES_LEAK: f64 = 10.0;

/// How far the resistors across the members of a chain may be off (IEC 60063, E24).
const TOLERANCE: f64 = 0.05;

/// What a chain of `count` members stands whose weakest is rated `weakest`, while a resistor across each shares the volts:
/// one of them high and all others low, it gets the most. Never more than so many times the weakest.
#[must_use]
pub fn chain_stands(weakest: Volt, count: u32) -> Volt {
    weakest * (1.0 + f64::from(count.saturating_sub(1)) * (1.0 - TOLERANCE) / (1.0 + TOLERANCE))
}

/// What goes across each capacitor.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Balancing {
    /// The resistor across each: the preferred value (E12) at or below what is needed.
    pub resistor: Ohm,
    /// What each dissipates.
    pub dissipated: Watt,
    /// The leak that was reckoned with.
    pub leak: Ampere,
    /// The volts across each.
    pub across: Volt,
}

/// The balancing resistors of a string of `count` electrolytics of the smallest `capacitance`, with `volts` across
/// all: R = volts each / (10 · leak), the leak being 0.01 · C(µF) · V(each) µA as of new parts.
///
/// `None` for less than two capacitors, or without volts.
#[must_use]
pub fn balancing(capacitance: Farad, volts: Volt, count: usize) -> Option<Balancing> {
    if count < 2 || volts == Volt::ZERO || capacitance == Farad::ZERO {
        return None;
    }
    let across = volts.abs() / count as f64;
    let leak = leak_as_new(capacitance, across);
    let resistor = Ohm::computed(neighbours(Series::E12, (across / (leak * TIMES_LEAK)).ohms())?.below);
    Some(Balancing { resistor, dissipated: across * (across / resistor), leak, across })
}
