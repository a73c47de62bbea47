//! The JSON shapes of voltage charts.

use owl_core::quantity::Fraction;
use owl_core::quantity::format::{percent, signed_percent};
use owl_core::supply::line::{HEATER_WINDOW, Scaled};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// A chart of volts.
#[derive(Debug, Deserialize, ToSchema)]
pub struct ChartQuestion {
    /// Volts of the line that the sheet assumes.
    pub sheet_line: f64,
    /// Volts of the line now, at the wall or behind the variable transformer.
    pub line: f64,
    /// The points.
    #[schema(max_items = 200)]
    pub points: Vec<PointBody>,
    /// One half of a secondary.
    pub half_a: Option<f64>,
    /// The other half.
    pub half_b: Option<f64>,
}

/// A point of the chart.
#[derive(Debug, Deserialize, ToSchema)]
pub struct PointBody {
    /// What it is called.
    #[schema(max_length = 60)]
    pub name: String,
    /// By the sheet.
    pub volts: f64,
    /// What it has.
    pub measured: Option<f64>,
    /// Whether it is a heater, which must be close.
    #[serde(default)]
    pub heater: bool,
}

/// The chart at today's line.
#[derive(Debug, Serialize, ToSchema)]
pub struct ChartAnswer {
    /// In the order of the question.
    pub points: Vec<PointView>,
    /// How far the halves of the secondary are apart, as a fraction.
    pub halves_apart: Option<f64>,
    /// In words.
    pub halves_text: Option<String>,
}

/// A point at today's line.
#[derive(Debug, Serialize, ToSchema)]
pub struct PointView {
    /// What it is called.
    pub name: String,
    /// What it should have.
    pub expected: f64,
    /// As shown.
    pub expected_text: String,
    /// What it has against that, as a fraction.
    pub deviation: Option<f64>,
    /// As shown.
    pub deviation_text: Option<String>,
    /// Whether a heater is too far off.
    pub heater_off: bool,
}

/// Halves that are further apart are a fault (rule R9).
const HALVES: f64 = 0.03;

impl ChartAnswer {
    pub(in crate::supply) fn of(points: &[Scaled], q: &ChartQuestion, halves: Option<Fraction>) -> Self {
        let point = |(s, p): (&Scaled, &PointBody)| PointView {
            name: p.name.chars().take(60).collect(),
            expected: s.expected.volts(),
            expected_text: s.expected.to_string(),
            deviation: s.deviation.map(Fraction::fraction),
            deviation_text: s.deviation.map(|d| signed_percent(d.fraction())),
            heater_off: p.heater && s.deviation.is_some_and(|d| d.fraction().abs() > HEATER_WINDOW),
        };
        Self {
            points: points.iter().zip(&q.points).map(point).collect(),
            halves_apart: halves.map(Fraction::fraction),
            halves_text: halves.map(|h| {
                let h = h.fraction();
                let verdict =
                    if h <= HALVES { "they agree" } else { "more than 3 %: a shorted turn or a bad joint" };
                format!("{} apart: {verdict}", percent(h))
            }),
        }
    }
}
