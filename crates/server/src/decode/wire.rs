//! The JSON shapes of markings.

use owl_core::marking::encode::{bands, chip, digits, eia96, letters};
use owl_core::marking::scheme::layouts;
use owl_core::marking::{Code, Colour, Meaning, Scheme, Section, Tolerance, Value, VoltsKind};
use owl_core::named::Named;
use owl_core::part::{MadeOf, PartKind, SafetyClass};
use owl_core::quantity::format::percent;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::amount::Amount;

/// A marking: what is printed, or the colours in order.
#[derive(Debug, Clone, Default, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct DecodeQuestion {
    /// What is printed, or colours named in words.
    #[schema(max_length = 120, example = "8K2J")]
    pub text: Option<String>,
    /// The colours in the order of the scheme; `none` for a dot or band that is missing.
    #[schema(max_items = 20)]
    pub colours: Option<Vec<String>>,
    /// How the colours are to be read; null for every scheme that fits.
    pub scheme: Option<Scheme>,
    /// What the part is; null for every kind.
    pub part: Option<PartKind>,
    /// What the meter says, in the base unit of the part.
    #[schema(minimum = 0)]
    pub measured: Option<f64>,
    /// What the sheet says, in the base unit of the part.
    #[schema(minimum = 0)]
    pub expected: Option<f64>,
    /// Whether the first band is wider than the others.
    #[serde(default)]
    pub wide_first: bool,
    /// What the meter says, as typed; needs `part`.
    #[schema(max_length = 200)]
    pub measured_text: Option<String>,
    /// What the sheet says, as typed; needs `part`.
    #[schema(max_length = 200)]
    pub expected_text: Option<String>,
}

/// The readings of a marking, likeliest first.
#[derive(Debug, Serialize, ToSchema)]
pub struct DecodeAnswer {
    /// At least one.
    pub readings: Vec<MeaningView>,
    /// The colours as they were given or named in the text; null for anything printed.
    pub seen: Option<Vec<Colour>>,
}

/// A tolerance downwards and upwards, as fractions.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct ToleranceView {
    /// Downwards.
    pub minus: f64,
    /// Upwards.
    pub plus: f64,
}

/// One capacitor of a can.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct SectionView {
    /// The sign beside its lug.
    pub sign: Option<String>,
    /// In farad.
    pub value: f64,
    /// Its rated volts.
    pub voltage: Option<f64>,
    /// Value and rating as shown.
    #[serde(serialize_with = "crate::dialect::said")]
    pub text: String,
}

/// How a value would be marked by another code.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct Spelling {
    /// The code.
    pub code: String,
    /// What would be printed.
    pub text: String,
}

/// One reading of a marking.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct MeaningView {
    /// What it is.
    pub part: PartKind,
    /// The code that it is read by.
    pub code: Code,
    /// In the base unit; null where the part has a type number instead.
    pub value: Option<f64>,
    /// `Ω`, `F`, `H`, `V`; empty for a type number.
    pub unit: String,
    /// The value as shown; null for a type number.
    pub shown: Option<Amount>,
    /// The type number of a diode.
    pub type_number: Option<String>,
    /// The tolerance as fractions; null where the marking shows none or an absolute one.
    pub tolerance: Option<ToleranceView>,
    /// The tolerance as shown: `±10 %`.
    pub tolerance_text: Option<String>,
    /// An absolute tolerance, in farad.
    pub tolerance_abs: Option<f64>,
    /// Rated volts, where marked.
    pub voltage: Option<f64>,
    /// What kind of volts.
    pub voltage_kind: Option<VoltsKind>,
    /// The rating as shown: `250 V AC`.
    pub voltage_text: Option<String>,
    /// What it stands for a moment, in volt.
    pub surge: Option<f64>,
    /// Rated watts, where marked.
    pub power: Option<f64>,
    /// The watts as shown.
    pub power_text: Option<String>,
    /// The current of a lamp, in ampere.
    pub current: Option<f64>,
    /// What it says of temperature.
    pub temperature: Option<String>,
    /// How it is made, where the code tells.
    pub family: Option<MadeOf>,
    /// The sections of a can; empty for a single capacitor.
    pub sections: Vec<SectionView>,
    /// The safety class, where marked.
    pub safety: Option<SafetyClass>,
    /// What else it says.
    #[serde(serialize_with = "crate::dialect::said")]
    pub notes: Vec<String>,
    /// Everything in one line.
    #[serde(serialize_with = "crate::dialect::said")]
    pub in_words: String,
    /// Share of belief, 0 to 1.
    pub likelihood: f64,
    /// The same as shown: `58 %`.
    pub likelihood_text: String,
    /// Why.
    #[serde(serialize_with = "crate::dialect::said")]
    pub because: Vec<String>,
    /// The table that it is read by.
    pub source: String,
    /// How the colours were read; null for printed markings.
    pub scheme: Option<Scheme>,
    /// The colours that it has, or the bands that it would have; null where there are none.
    pub bands: Option<Vec<Colour>>,
    /// What stands below each of them: `4`, `7`, `× 1 k`, `±10 %`.
    pub band_words: Vec<String>,
    /// How the value would be marked by other codes.
    pub looks: Vec<Spelling>,
}

impl MeaningView {
    /// A meaning as it is sent.
    #[must_use]
    pub fn of(m: &Meaning) -> Self {
        let fraction = m.tolerance_fraction();
        let colours = match (&m.value, m.colours.is_empty()) {
            (_, false) => Some(m.colours.clone()),
            (Value::Resistance(v), true) => bands(*v, fraction),
            (_, true) => None,
        };
        let scheme = m.scheme.unwrap_or(Scheme::Bands);
        let number = m.value.number();
        Self {
            part: m.part,
            code: m.code,
            value: number.map(|(_, v)| v),
            unit: match m.value {
                Value::Resistance(_) => "Ω",
                Value::Capacitance(_) => "F",
                Value::Inductance(_) => "H",
                Value::Voltage(_) => "V",
                Value::Current(_) => "A",
                Value::TypeNumber(_) => "",
            }
            .to_owned(),
            shown: number.map(|(q, v)| Amount::of(q, v)),
            type_number: match &m.value {
                Value::TypeNumber(name) => Some(name.clone()),
                _ => None,
            },
            tolerance: match m.tolerance {
                Some(Tolerance::Relative { minus, plus }) => {
                    Some(ToleranceView { minus: minus.fraction(), plus: plus.fraction() })
                }
                _ => None,
            },
            tolerance_text: m.tolerance.map(|t| t.to_string()),
            tolerance_abs: match m.tolerance {
                Some(Tolerance::Absolute(c)) => Some(c.farads()),
                _ => None,
            },
            voltage: m.rating.map(|r| r.volts.volts()),
            voltage_kind: m.rating.map(|r| r.kind),
            voltage_text: m.rating.map(|r| r.to_string()),
            surge: m.rating.and_then(|r| r.surge).map(|s| s.volts()),
            power: m.power.map(|p| p.watts()),
            power_text: m.power.map(|p| p.to_string()),
            current: m.current.map(|c| c.amperes()),
            temperature: m.temperature.clone(),
            family: m.made,
            sections: m.sections.iter().map(section).collect(),
            safety: m.safety,
            notes: m.notes.clone(),
            in_words: m.in_words(),
            likelihood: m.likelihood,
            likelihood_text: likelihood(m.likelihood),
            because: m.because.clone(),
            source: m.source.to_string(),
            scheme: m.scheme,
            band_words: colours.as_deref().map(|c| words(scheme, m.code, c)).unwrap_or_default(),
            bands: colours,
            looks: looks(m),
        }
    }
}

/// A section of a can in words: its value and its volts.
#[must_use]
pub fn section_text(s: &Section) -> String {
    let rating = s.rating.map(|r| format!(", {r}")).unwrap_or_default();
    format!("{}{rating}", s.capacitance)
}

fn section(s: &Section) -> SectionView {
    SectionView {
        sign: s.sign.clone(),
        value: s.capacitance.farads(),
        voltage: s.rating.map(|r| r.volts.volts()),
        text: section_text(s),
    }
}

/// `58 %`, `0.7 %`, `under 0.1 %`.
fn likelihood(share: f64) -> String {
    if share >= 0.01 {
        format!("{:.0} %", share * 100.0)
    } else if share >= 0.001 {
        percent((share * 1000.0).round() / 1000.0)
    } else {
        "under 0.1 %".to_owned()
    }
}

/// What each colour says in its place.
fn words(scheme: Scheme, code: Code, colours: &[Colour]) -> Vec<String> {
    let fits = |exact: bool| {
        layouts()
            .iter()
            .find(|l| l.scheme == scheme && l.places.len() == colours.len() && (!exact || l.code == code))
    };
    let Some(layout) = fits(true).or_else(|| fits(false)) else { return vec![] };
    colours.iter().enumerate().map(|(i, c)| layout.word(i, *c)).collect()
}

/// How the value would look by other codes.
fn looks(m: &Meaning) -> Vec<Spelling> {
    let fraction = m.tolerance_fraction();
    let mut looks = Vec::new();
    let mut add = |code: &str, text: Option<String>| {
        looks.extend(text.map(|text| Spelling { code: code.to_owned(), text }));
    };
    match &m.value {
        Value::Resistance(v) if v.ohms() > 0.0 => {
            let spelled = |c: Vec<Colour>| c.iter().map(|c| c.name()).collect::<Vec<_>>().join(" ");
            if m.colours.is_empty() {
                add("bands", bands(*v, fraction).map(spelled));
            }
            add("letters", letters(*v, fraction));
            if fraction.is_some_and(|t| t.fraction() < 0.015) {
                add("chip", chip(*v, true));
                add("EIA-96", eia96(*v));
            } else {
                add("chip", chip(*v, false));
            }
        }
        Value::Capacitance(v) if m.sections.is_empty() => add("digits", digits(*v, fraction)),
        _ => {}
    }
    looks
}
