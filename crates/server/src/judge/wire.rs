//! The JSON shapes of verdicts.

use serde::Deserialize;
use utoipa::ToSchema;

use crate::name::{
    MadeOfName, ModeName, PartKindName, PositionName, ReadQuantityName, SchoolName, StateName,
};

/// A part, its readings and where it sits.
#[derive(Debug, Deserialize, ToSchema)]
pub struct JudgeQuestion {
    /// The part as marked.
    pub part: PartBody,
    /// Where it sits, where that is known.
    pub position: Option<PositionName>,
    /// Its readings, oldest first.
    #[schema(max_items = 1000)]
    pub readings: Vec<ReadingBody>,
    /// What is known of the circuit; no rule for resistors asks for it so far.
    pub circuit: Option<serde_json::Value>,
    /// Whose limits decide.
    pub school: SchoolName,
    /// The tight variant of 'test first'.
    #[serde(default)]
    pub tight: bool,
    /// The other half of a matched pair.
    pub pair: Option<PairBody>,
}

/// A part as marked.
#[derive(Debug, Deserialize, ToSchema)]
pub struct PartBody {
    /// Only resistors so far.
    pub kind: PartKindName,
    /// How it is made.
    pub family: MadeOfName,
    /// In ohm, above zero.
    #[schema(exclusive_minimum = 0)]
    pub value: f64,
    /// As a fraction; null where no band shows one, which means 20 %.
    #[schema(exclusive_minimum = 0, exclusive_maximum = 1)]
    pub tolerance: Option<f64>,
    /// Rated watts.
    #[schema(minimum = 0)]
    pub power: Option<f64>,
    /// Rated volts; not used for resistors.
    pub voltage: Option<f64>,
}

/// The other half of a pair.
#[derive(Debug, Deserialize, ToSchema)]
pub struct PairBody {
    /// What it is called.
    #[schema(max_length = 40)]
    pub name: String,
    /// What it measures, in ohm.
    #[schema(exclusive_minimum = 0)]
    pub measured: f64,
    /// What it is marked, in ohm.
    #[schema(exclusive_minimum = 0)]
    pub marked: f64,
}

/// One reading.
#[derive(Debug, Deserialize, ToSchema)]
pub struct ReadingBody {
    /// Only resistance so far.
    pub quantity: ReadQuantityName,
    /// In ohm; null beyond the meter's range.
    #[schema(minimum = 0)]
    pub value: Option<f64>,
    /// Whether it is beyond the meter's range.
    pub overrange: Option<bool>,
    /// How the part sat.
    pub state: StateName,
    /// Whether it was hot.
    pub hot: Option<bool>,
    /// Seconds since the iron was on it, where that is known.
    #[schema(minimum = 0)]
    pub since_soldering: Option<f64>,
    /// Not used for resistance.
    pub test_voltage: Option<f64>,
    /// Not used for resistance.
    pub test_frequency: Option<f64>,
    /// How the meter measured; direct current where it does not say.
    pub mode: Option<ModeName>,
    /// The meter's uncertainty.
    pub accuracy: Option<AccuracyBody>,
}

/// ±(`percent` of the reading + `counts` × `resolution`).
#[derive(Debug, Deserialize, ToSchema)]
pub struct AccuracyBody {
    /// Percent of the reading.
    #[schema(minimum = 0, exclusive_maximum = 100)]
    pub percent: f64,
    /// Counts in the last digit.
    #[schema(minimum = 0)]
    pub counts: f64,
    /// What one count is worth, in ohm.
    #[schema(minimum = 0)]
    pub resolution: f64,
}
