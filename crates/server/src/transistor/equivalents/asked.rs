//! What was asked, checked: ratings, and what the circuit needs.

use owl_core::part::{Circuit, Fact};
use owl_core::transistor::circuit::CircuitNeed;
use owl_core::transistor::device::{Device, DeviceKind, Polarity, PowerReference};
use owl_core::transistor::place;

use super::wire::{CircuitBody, WantedBody};
use crate::error::ApiError;

pub fn positive(field: &str, v: Option<f64>, most: f64) -> Result<Option<f64>, ApiError> {
    match v {
        Some(v) if v > 0.0 && v < most => Ok(Some(v)),
        Some(_) => Err(ApiError::field(field, "a value above zero is needed; unknown is left out")),
        None => Ok(None),
    }
}

pub fn circuit(c: &CircuitBody) -> Result<CircuitNeed, ApiError> {
    let said = [
        (Fact::Rail, "supply", c.supply, 1e5),
        (Fact::Voltage, "across", c.across, 1e5),
        (Fact::LoadResistance, "load", c.load, 1e9),
        (Fact::PeakCurrent, "current", c.current, 1e4),
        (Fact::RestCurrent, "rest_current", c.rest_current, 1e4),
        (Fact::WorkingFrequency, "frequency", c.frequency, 1e12),
        (Fact::LeastGain, "least_gain", c.least_gain, 1e6),
        (Fact::BaseUpper, "upper", c.upper, 1e12),
        (Fact::BaseLower, "lower", c.lower, 1e12),
    ];
    let mut facts = Circuit::default();
    for (fact, name, value, most) in said {
        let field = format!("circuit.{name}");
        if let Some(v) = positive(&field, value, most)? {
            facts.set_si(fact, v).map_err(|e| ApiError::field(field, e))?;
        }
    }
    if let Some(t) = c.case_temperature {
        facts.set_si(Fact::CaseTemperature, t).map_err(|e| ApiError::field("circuit.case_temperature", e))?;
    }
    let need = place::need(c.stage, &facts);
    let dissipated = positive("circuit.dissipation", c.dissipation, 1e5)?;
    Ok(CircuitNeed {
        dissipated_watts: dissipated.or(need.dissipated_watts),
        other_material: c.other_material,
        ..need
    })
}

pub fn ratings(w: &WantedBody) -> Result<Device, ApiError> {
    let p = |name: &str, v, most| positive(&format!("wanted.{name}"), v, most);
    let polarity = w.polarity.ok_or_else(|| {
        ApiError::field("wanted.polarity", "say its polarity: three leads on the meter tell it")
    })?;
    let field = matches!(polarity, Polarity::NChannel | Polarity::PChannel);
    let kind = w.kind.unwrap_or(if field { DeviceKind::Jfet } else { DeviceKind::Bipolar });
    if kind.has_base() == field {
        return Err(ApiError::field("wanted.polarity", format!("no {kind} type is {polarity}")));
    }
    let mut d = Device::unknown(kind, polarity);
    d.material = w.material;
    d.vcbo_volts = p("vcbo", w.vcbo, 1e5)?;
    d.vceo_volts = p("vceo", w.vceo, 1e5)?;
    d.vebo_volts = p("vebo", w.vebo, 1e5)?;
    d.ic_amperes = p("ic", w.ic, 1e4)?;
    d.power_watts = p("power", w.power, 1e5)?;
    d.power_reference = d.power_watts.map(|_| w.power_reference.unwrap_or(PowerReference::Ambient));
    d.power_at_celsius = d.power_watts.map(|_| w.power_at.unwrap_or(25.0));
    d.junction_celsius = w.tj;
    d.gain_min = p("hfe_min", w.hfe_min, 1e6)?;
    d.gain_max = p("hfe_max", w.hfe_max, 1e6)?;
    d.gain_at_amperes = p("hfe_ic", w.hfe_ic, 1e4)?;
    d.ft_hertz = p("ft", w.ft, 1e12)?;
    d.cob_farads = p("cob", w.cob, 1e-3)?;
    d.package = w.package.clone().unwrap_or_default().trim().chars().take(20).collect();
    d.pinout = match w.pinout.as_deref().map(str::trim) {
        None | Some("") => None,
        Some(text) => Some(text.parse().map_err(|e| ApiError::field("wanted.pinout", e))?),
    };
    Ok(d)
}
