//! What a candidate may dissipate against what is asked, both at the same temperature and reference.

use super::limit::{LimitCheck, LimitName, least};
use crate::quantity::Quantity;
use crate::quantity::format::format;
use crate::transistor::circuit::CircuitNeed;
use crate::transistor::device::{Device, PowerReference};
use crate::transistor::package::package;

/// Why a power is as it is.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(super) enum PowerWhy {
    /// Against the circuit, at its temperature.
    Circuit(f64),
    /// Both quoted alike, compared at the warmer of their temperatures.
    Alike(PowerReference, f64),
    /// The candidate's outline cools so in free air.
    Outline(f64),
    /// How it cools in free air is not known.
    NoOutline,
    /// Its rating in free air is enough for the case as well.
    EvenInAir,
    /// What it stands on a heat sink is not known.
    NoCase,
    /// Where the temperature is held is not known.
    NoReference,
}

/// Needed watts, watts that there are at the same temperature and reference, and why. `asked` is what the circuit asks
/// for in watts, and at how many °C.
pub(super) fn powers(
    wanted: &Device,
    asked: Option<(f64, f64)>,
    d: &Device,
) -> (Option<f64>, Option<f64>, PowerWhy) {
    use PowerReference::{Ambient, Case};
    if let Some((watts, celsius)) = asked {
        // In free air it cannot be cooler than the air that the heat sink warms.
        let has = d.power_reference.and_then(|_| d.power_at(celsius));
        return (Some(watts), has, PowerWhy::Circuit(celsius));
    }
    match (wanted.power_reference, d.power_reference) {
        (Some(a), Some(b)) if a == b => {
            let at = wanted.power_at_celsius.into_iter().chain(d.power_at_celsius).fold(f64::MIN, f64::max);
            (wanted.power_at(at), d.power_at(at), PowerWhy::Alike(a, at))
        }
        (Some(Ambient), Some(Case)) => {
            let at = wanted.power_at_celsius.unwrap_or(25.0);
            let air = package(&d.package)
                .and_then(|p| p.free_air_kelvin_per_watt)
                .zip(d.junction_celsius)
                .map(|(rth, tj)| (tj - at) / rth);
            let why = if air.is_some() { PowerWhy::Outline(at) } else { PowerWhy::NoOutline };
            (wanted.power_watts, air, why)
        }
        (Some(Case), Some(Ambient)) => {
            let at = wanted.power_at_celsius.unwrap_or(25.0);
            // What it stands in free air it stands on a heat sink as well.
            match (wanted.power_at(at), d.power_at(at)) {
                (Some(w), Some(h)) if h >= w => (Some(w), Some(h), PowerWhy::EvenInAir),
                (w, _) => (w, None, PowerWhy::NoCase),
            }
        }
        _ => (wanted.power_watts, None, PowerWhy::NoReference),
    }
}

/// What a candidate may dissipate, and what it must.
pub(super) fn power(wanted: &Device, need: &CircuitNeed, d: &Device) -> LimitCheck {
    let asked = need.watts();
    let (needed, has, why) = powers(wanted, asked.as_ref().map(|a| (a.si, need.celsius())), d);
    let why = match (why, asked) {
        (PowerWhy::Circuit(at), Some(a)) => format!("{}, at {at:.0} °C", a.because),
        (PowerWhy::Circuit(at), None) => format!("at {at:.0} °C"),
        (PowerWhy::Alike(reference, at), _) => format!("{reference} at {at:.0} °C"),
        (PowerWhy::Outline(at), _) => format!("in free air at {at:.0} °C, as its outline usually cools"),
        (PowerWhy::NoOutline, _) => "quoted at the case; how it cools in free air is not known".to_owned(),
        (PowerWhy::EvenInAir, _) => "even in free air".to_owned(),
        (PowerWhy::NoCase, _) => "quoted in free air; what it stands on a heat sink is not known".to_owned(),
        (PowerWhy::NoReference, _) => "where the temperature is held is not known".to_owned(),
    };
    let unknown = d.power_watts.is_some() && has.is_none() && needed.is_some();
    let mut cell = least(LimitName::Power, true, Quantity::Power, has, needed, why.clone());
    if unknown {
        cell.why = why;
        cell.has = d.power_watts.map_or_else(String::new, |w| format(Quantity::Power, w).to_string());
    }
    cell
}
