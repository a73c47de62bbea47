//! Inputs of the bench sheets that cannot well hold together: named, so that a slip is seen before a resistor is bought.

use crate::quantity::{Ampere, Volt, Watt};

/// No set on a bench takes more from one rail (practice: a kilowatt is a large transmitter's).
const MOST: Watt = Watt::computed(2000.0);
/// A rail under this share of the volts AC leaves most of the power in the resistor (practice).
const LEAST_SHARE: f64 = 0.5;

/// What is odd about `current` at `volts`: `24.4 A at 210 V are 5.12 kW`; none where nothing is.
#[must_use]
pub fn of_power(volts: Volt, current: Ampere) -> Option<String> {
    let watts = volts.abs() * current;
    (watts > MOST).then(|| {
        let small = current * 1e-3;
        format!("{current} at {volts} are {watts}: was {small} meant?")
    })
}

/// What is odd about a rail of `target` out of `line` volts AC; none where nothing is.
#[must_use]
pub fn of_rail(line: Volt, target: Volt) -> Option<String> {
    (target < line * LEAST_SHARE && target > Volt::ZERO).then(|| {
        format!(
            "a rail of {target} out of {line} AC leaves most of the power in the resistor: are both right?"
        )
    })
}
