//! The JSON shapes of markings.

use owl_core::marking::Meaning;
use owl_core::marking::colour_bands::places;
use owl_core::marking::encode::{bands, letters};
use owl_core::part::PartKind;
use owl_core::quantity::write::percent;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::amount::Amount;
use crate::name::{CodeName, ColourName, Name, PartKindName, SchemeName};

/// A marking: what is printed, or the colours in order.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(deny_unknown_fields)]
pub struct DecodeQuestion {
    /// What is printed, or colours named in words.
    #[schema(max_length = 120, example = "8K2J")]
    pub text: Option<String>,
    /// The colours, first band first.
    #[schema(max_items = 20)]
    pub colours: Option<Vec<String>>,
    /// How the colours are to be read; only bands so far.
    pub scheme: Option<SchemeName>,
    /// What the part is; only resistors so far.
    pub part: Option<PartKindName>,
    /// What the meter says, in ohm.
    #[schema(minimum = 0)]
    pub measured: Option<f64>,
    /// What the sheet says, in ohm.
    #[schema(minimum = 0)]
    pub expected: Option<f64>,
}

/// The readings of a marking, likeliest first.
#[derive(Debug, Serialize, ToSchema)]
pub struct DecodeAnswer {
    /// At least one.
    pub readings: Vec<MeaningView>,
}

/// A tolerance to either side, as fractions.
#[derive(Debug, Serialize, ToSchema)]
pub struct ToleranceView {
    /// Downwards.
    pub minus: f64,
    /// Upwards.
    pub plus: f64,
}

/// One reading of a marking.
#[derive(Debug, Serialize, ToSchema)]
pub struct MeaningView {
    /// What it is.
    pub part: PartKindName,
    /// The code that it is read by.
    pub code: CodeName,
    /// In ohm.
    pub value: f64,
    /// `Ω`.
    pub unit: &'static str,
    /// The value as shown.
    pub shown: Amount,
    /// The tolerance as a fraction; null where the marking shows none.
    pub tolerance: Option<ToleranceView>,
    /// The tolerance as shown: `±10 %`.
    pub tolerance_text: Option<String>,
    /// An absolute tolerance, for capacitors below 10 pF; null here.
    pub tolerance_abs: Option<f64>,
    /// Rated volts, where marked.
    pub voltage: Option<f64>,
    /// Rated watts, where marked.
    pub power: Option<f64>,
    /// The temperature coefficient, where marked.
    pub temperature: Option<String>,
    /// The sections of a can; empty here.
    pub sections: Vec<f64>,
    /// Share of belief, 0 to 1.
    pub likelihood: f64,
    /// Why.
    pub because: Vec<String>,
    /// The table that it is read by.
    pub source: String,
    /// The bands that it has or would have; null where it cannot be banded.
    pub bands: Option<Vec<ColourName>>,
    /// What stands below each of them: `4`, `7`, `× 1 k`, `±10 %`.
    pub band_words: Vec<String>,
    /// How it would be printed in letters; null where it cannot be.
    pub letters: Option<String>,
}

impl MeaningView {
    /// A meaning as it is sent.
    #[must_use]
    pub fn of(m: &Meaning) -> Self {
        let colours =
            if m.colours.is_empty() { bands(m.value, m.tolerance) } else { Some(m.colours.clone()) };
        Self {
            part: Name(PartKind::Resistor),
            code: Name(m.code),
            value: m.value.ohms(),
            unit: "Ω",
            shown: m.value.into(),
            tolerance: m.tolerance.map(|t| ToleranceView { minus: t.fraction(), plus: t.fraction() }),
            tolerance_text: m.tolerance.map(|t| format!("±{}", percent(t.fraction()))),
            tolerance_abs: None,
            voltage: None,
            power: m.power.map(|p| p.watts()),
            temperature: m.temperature_ppm.map(|p| format!("{p} ppm/K")),
            sections: vec![],
            likelihood: m.likelihood,
            because: m.because.clone(),
            source: m.source.to_string(),
            band_words: colours.as_deref().map(places).unwrap_or_default(),
            bands: colours.map(|c| c.into_iter().map(Name).collect()),
            letters: letters(m.value, m.tolerance),
        }
    }
}
