//! An accepted reading of a marking as it is kept: a type of its own with a version, so that what was accepted in
//! one year is read in another, whatever the screens show by then.
//!
//! | version | written |
//! |---|---|
//! | 1 | until 2026-11: the JSON that the screen was sent, without a version |
//! | 2 | since: this type |

use serde::{Deserialize, Serialize};

use super::{Code, Colour, Meaning, Rating, Scheme, Section, Tolerance, Value, VoltsKind};
use crate::part::{MadeOf, PartKind, SafetyClass};
use crate::quantity::{Ampere, Farad, Fraction, Henry, Ohm, Volt, Watt};
use crate::source::Source;

/// The version that is written.
pub const VERSION: u8 = 2;

/// An accepted reading as it is kept. Numbers in SI base units, fractions as fractions.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct StoredMark {
    #[serde(default = "first_version")]
    version: u8,
    part: PartKind,
    code: Code,
    value: Option<f64>,
    type_number: Option<String>,
    tolerance: Option<Sides>,
    tolerance_abs: Option<Farad>,
    #[serde(alias = "voltage")]
    volts: Option<Volt>,
    #[serde(alias = "voltage_kind")]
    volts_kind: Option<VoltsKind>,
    surge: Option<Volt>,
    #[serde(alias = "power")]
    watts: Option<Watt>,
    #[serde(alias = "current")]
    amperes: Option<Ampere>,
    temperature: Option<String>,
    family: Option<MadeOf>,
    #[serde(default)]
    sections: Vec<StoredSection>,
    safety: Option<SafetyClass>,
    #[serde(default)]
    notes: Vec<String>,
    scheme: Option<Scheme>,
    /// Version 1 kept the bands that the screen drew, which are the colours where there were colours.
    #[serde(alias = "bands")]
    colours: Option<Vec<Colour>>,
    #[serde(default = "yes")]
    as_seen: bool,
    likelihood: f64,
    #[serde(default)]
    because: Vec<String>,
    source: String,
}

#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
struct Sides {
    minus: Fraction,
    plus: Fraction,
}

#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
struct StoredSection {
    sign: Option<String>,
    #[serde(alias = "value")]
    farads: Farad,
    #[serde(alias = "voltage")]
    volts: Option<Volt>,
    #[serde(default)]
    volts_kind: Option<VoltsKind>,
    #[serde(default)]
    surge: Option<Volt>,
}

fn first_version() -> u8 {
    1
}

fn yes() -> bool {
    true
}

/// Why what was kept is no marking.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
pub enum StoredError {
    /// Written by a later release.
    #[error("an accepted marking of version {0} is not read here; version {VERSION} is the newest")]
    Newer(u8),
    /// Neither a value nor a type number, or one that cannot be.
    #[error("an accepted marking says no value: {0}")]
    NoValue(String),
}

fn rating(volts: Option<Volt>, kind: Option<VoltsKind>, surge: Option<Volt>) -> Option<Rating> {
    Some(Rating { volts: volts?, kind: kind.unwrap_or(VoltsKind::Unstated), surge })
}

impl From<&Meaning> for StoredMark {
    fn from(m: &Meaning) -> Self {
        let (tolerance, tolerance_abs) = match m.tolerance {
            Some(Tolerance::Relative { minus, plus }) => (Some(Sides { minus, plus }), None),
            Some(Tolerance::Absolute(c)) => (None, Some(c)),
            None => (None, None),
        };
        Self {
            version: VERSION,
            part: m.part,
            code: m.code,
            value: m.value.number().map(|(_, v)| v),
            type_number: m.type_number().map(str::to_owned),
            tolerance,
            tolerance_abs,
            volts: m.rating.map(|r| r.volts),
            volts_kind: m.rating.map(|r| r.kind),
            surge: m.rating.and_then(|r| r.surge),
            watts: m.power,
            amperes: m.current,
            temperature: m.temperature.clone(),
            family: m.made,
            sections: m
                .sections
                .iter()
                .map(|s| StoredSection {
                    sign: s.sign.clone(),
                    farads: s.capacitance,
                    volts: s.rating.map(|r| r.volts),
                    volts_kind: s.rating.map(|r| r.kind),
                    surge: s.rating.and_then(|r| r.surge),
                })
                .collect(),
            safety: m.safety,
            notes: m.notes.clone(),
            scheme: m.scheme,
            colours: Some(m.colours.clone()),
            as_seen: m.as_seen,
            likelihood: m.likelihood,
            because: m.because.clone(),
            source: m.source.stored(),
        }
    }
}

impl TryFrom<StoredMark> for Meaning {
    type Error = StoredError;

    fn try_from(s: StoredMark) -> Result<Self, StoredError> {
        if s.version > VERSION {
            return Err(StoredError::Newer(s.version));
        }
        let value = value(&s)?;
        let tolerance = match (s.tolerance, s.tolerance_abs) {
            (Some(t), _) => Some(Tolerance::Relative { minus: t.minus, plus: t.plus }),
            (None, abs) => abs.map(Tolerance::Absolute),
        };
        let sections = s.sections.into_iter().map(|x| Section {
            rating: rating(x.volts, x.volts_kind, x.surge),
            sign: x.sign,
            capacitance: x.farads,
        });
        // Version 1 drew bands for printed values too; only a scheme says that there were colours.
        let seen = s.version > 1 || s.scheme.is_some();
        Ok(Self {
            tolerance,
            rating: rating(s.volts, s.volts_kind, s.surge),
            power: s.watts,
            current: s.amperes,
            temperature: s.temperature,
            made: s.family,
            sections: sections.collect(),
            safety: s.safety,
            notes: s.notes,
            scheme: s.scheme,
            colours: s.colours.filter(|_| seen).unwrap_or_default(),
            as_seen: s.as_seen,
            likelihood: s.likelihood,
            because: s.because,
            ..Self::new(s.part, s.code, value, Source::from_stored(&s.source))
        })
    }
}

fn value(s: &StoredMark) -> Result<Value, StoredError> {
    let wrong = |why: &dyn std::fmt::Display| StoredError::NoValue(why.to_string());
    let number = || s.value.ok_or_else(|| wrong(&"there is no number"));
    if let Some(name) = &s.type_number {
        return Ok(Value::TypeNumber(name.clone()));
    }
    Ok(match s.part {
        PartKind::Resistor | PartKind::Loudspeaker => {
            Value::Resistance(Ohm::new(number()?).map_err(|e| wrong(&e))?)
        }
        PartKind::Capacitor => Value::Capacitance(Farad::new(number()?).map_err(|e| wrong(&e))?),
        PartKind::Coil => Value::Inductance(Henry::new(number()?).map_err(|e| wrong(&e))?),
        PartKind::Lamp => Value::Voltage(Volt::new(number()?).map_err(|e| wrong(&e))?),
        PartKind::Fuse => Value::Current(Ampere::new(number()?).map_err(|e| wrong(&e))?),
        PartKind::Diode | PartKind::Transistor | PartKind::Ic | PartKind::Valve | PartKind::Switch => {
            return Err(wrong(&"there is no type number"));
        }
    })
}
