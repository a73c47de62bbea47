//! What silicon meets when a supply is switched on: an empty filter, no load, and no heater to wait for (rule R9).

use super::rectifier::{Arrangement, Steady, Supply};
use super::{Rating, SupplyError};
use crate::network::balance::chain_stands;
use crate::preferred::{Series, neighbours};
use crate::quantity::{Ohm, Volt};
use crate::transistor::diode_device::Device;
use crate::verdict::{Policy, PolicyNumber};

/// What stands and flows at switch-on.
#[derive(Debug, Clone, PartialEq)]
pub struct SwitchOn {
    /// On the filter before the valves draw: √2 × the winding without load with the line at its highest.
    pub volts: Volt,
    /// What is wrong with it, in words; empty where nothing is.
    pub warnings: Vec<String>,
}

/// How many equal diodes stand `volts` the wrong way, the worst of them getting more than its part by the tolerance of the
/// resistors across them; `None` where the volts or the rating are none.
#[must_use]
pub fn diodes_in_series(volts: Volt, rated: Volt) -> Option<u32> {
    if rated <= Volt::ZERO || volts <= Volt::ZERO {
        return None;
    }
    (1..=1000).find(|n| chain_stands(rated, *n) >= volts * (1.0 - 1e-9))
}

/// What stands behind a winding before the valves draw: √2 × its volts without load with the line at its highest.
#[must_use]
pub fn before_the_valves_draw(winding: Volt, policy: &Policy) -> Volt {
    let empty = policy.number_si(PolicyNumber::NoLoad) * policy.number_si(PolicyNumber::LineHigh);
    winding * (std::f64::consts::SQRT_2 * empty)
}

/// What silicon diodes meet in `supply`; `diode` is the type where it is chosen.
///
/// # Errors
/// [`SupplyError`] as [`Supply::steady`].
pub fn switch_on(
    supply: &Supply,
    steady: &Steady,
    policy: &Policy,
    diode: Option<&Device>,
) -> Result<SwitchOn, SupplyError> {
    let high = policy.number_si(PolicyNumber::LineHigh);
    let mut warnings = Vec::new();
    let path = supply.source + supply.series;
    if path <= Ohm::ZERO {
        warnings.push(
            "nothing at all limits the first charge: measure the winding's ohms, or fit a series resistor"
                .to_owned(),
        );
    }
    if let Some(d) = diode {
        warnings.extend(surge(supply, steady, high, d)?);
        warnings.extend(reverse(supply, policy.number_si(PolicyNumber::ReverseFactor), d));
    }
    Ok(SwitchOn { volts: before_the_valves_draw(supply.line, policy), warnings })
}

/// The first charge against one half wave of the diode, and the resistor that keeps it.
fn surge(supply: &Supply, steady: &Steady, high: f64, d: &Device) -> Result<Option<String>, SupplyError> {
    let first = steady.inrush.amperes() * high;
    let Some(stands) = d.surge_amperes else {
        return Ok(Some(format!(
            "the first charge is {:.1} A; what {} stands of it is not known: look it up",
            first, d.type_number
        )));
    };
    if first <= stands {
        return Ok(None);
    }
    let crest = supply.line.volts() * std::f64::consts::SQRT_2 * high;
    let missing = crest / stands - (supply.source + supply.series).ohms();
    let more = Ohm::computed(neighbours(Series::E12, missing.max(0.1)).map_or(missing, |n| n.above));
    let with = Supply { series: supply.series + more, ..*supply };
    let heat = with.steady()?.rms_current;
    let watts = Rating::of(heat * (heat * more)).size();
    let size = watts.map_or_else(String::new, |w| format!(" of {w}"));
    Ok(Some(format!(
        "the first charge of {first:.1} A is more than the {stands} A that {} stands for a half wave: {more}{size} more in \
         series",
        d.type_number
    )))
}

/// What stands across a diode the wrong way, and the string that would do.
fn reverse(supply: &Supply, margin: f64, d: &Device) -> Option<String> {
    // The filter at its crest, and the winding the other way round; a high line and no load are in the margin.
    let crest = supply.line.volts() * std::f64::consts::SQRT_2;
    let worst = match supply.arrangement {
        Arrangement::Bridge => crest,
        Arrangement::HalfWave | Arrangement::FullWave => 2.0 * crest,
    };
    let needs = Volt::computed(worst * margin);
    let rated = Volt::computed(d.reverse_volts);
    let n = diodes_in_series(needs, rated)?;
    (n > 1).then(|| {
        format!(
            "{needs} are wanted the wrong way, {margin} times the worst: {rated} are too few; {n} × {} in series, with \
             resistors and capacitors across each",
            d.type_number
        )
    })
}
