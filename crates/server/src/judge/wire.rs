//! The JSON shapes of verdicts.

use owl_core::part::{MadeOf, PartKind, Position, SafetyClass, VisualSign};
use owl_core::reading::{Mode, ReadQuantity, Setting, State};
use owl_core::verdict::School;
use std::collections::BTreeMap;

use serde::Deserialize;
use utoipa::ToSchema;

/// A part, its readings and where it sits.
#[derive(Debug, Deserialize, ToSchema)]
pub struct JudgeQuestion {
    /// The part as marked.
    pub part: PartBody,
    /// Where it sits, where that is known.
    pub position: Option<Position>,
    /// Its readings, oldest first.
    #[schema(max_items = 1000)]
    pub readings: Vec<ReadingBody>,
    /// What is known of the circuit: `voltage` across the part, `rail`, `grid_resistor`, `bias`, `feed_resistor`,
    /// `feed_power`, `source_resistance`, `turns_ratio`, in base units. Unknown is null or left out; facts that no
    /// rule asks for are not looked at.
    pub circuit: Option<BTreeMap<String, Option<f64>>>,
    /// Whose limits decide.
    pub school: School,
    /// The tight variant of 'test first'.
    #[serde(default)]
    pub tight: bool,
    /// What is seen on it.
    #[serde(default)]
    #[schema(max_items = 10)]
    pub looks: Vec<VisualSign>,
    /// The other half of a matched pair.
    pub pair: Option<PairBody>,
    /// The others of a matched group.
    #[serde(default)]
    #[schema(max_items = 20)]
    pub group: Vec<PairBody>,
}

/// A part as marked.
#[derive(Debug, Deserialize, ToSchema)]
pub struct PartBody {
    /// What it is.
    pub kind: PartKind,
    /// How it is made; null where that is not known, except of a resistor.
    pub family: Option<MadeOf>,
    /// In the base unit of its kind, above zero; not needed of coils and diodes.
    #[schema(exclusive_minimum = 0)]
    pub value: Option<f64>,
    /// As a fraction; null where none is marked.
    #[schema(exclusive_minimum = 0, exclusive_maximum = 1)]
    pub tolerance: Option<f64>,
    /// Rated watts.
    #[schema(minimum = 0)]
    pub power: Option<f64>,
    /// Rated volts.
    #[schema(minimum = 0)]
    pub voltage: Option<f64>,
    /// Of a coil: its direct-current resistance by the sheet, in ohm.
    #[schema(exclusive_minimum = 0)]
    pub resistance: Option<f64>,
    /// Of a coil: its inductance, in henry.
    #[schema(exclusive_minimum = 0)]
    pub inductance: Option<f64>,
    /// Of a selenium stack: plates that conduct one after the other.
    #[schema(minimum = 1, maximum = 200)]
    pub plates: Option<u16>,
    /// Of a transistor: the six readings of its junctions.
    pub junctions: Option<crate::transistor::identify::IdentifyQuestion>,
    /// Of a diode or a transistor: its type number.
    #[schema(max_length = 40)]
    pub type_number: Option<String>,
    /// Of a lamp: its current, in ampere.
    #[schema(exclusive_minimum = 0)]
    pub current: Option<f64>,
    /// Of a capacitor: the safety class for the line that is marked on it; null where none is known.
    pub safety: Option<SafetyClass>,
    /// Years since it was made.
    pub years: Option<u16>,
    /// Whether it is a new part.
    #[serde(default)]
    pub new: bool,
    /// Whether it is to be tested warm.
    #[serde(default)]
    pub test_warm: bool,
}

/// Another part of a matched pair or group.
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
    /// What was read.
    pub quantity: ReadQuantity,
    /// In its base unit, percent as a fraction; null beyond the meter's range.
    pub value: Option<f64>,
    /// Whether it is beyond the meter's range.
    pub overrange: Option<bool>,
    /// How the part sat.
    pub state: State,
    /// Whether it was hot.
    pub hot: Option<bool>,
    /// Seconds since the iron was on it, where that is known.
    #[schema(minimum = 0)]
    pub since_soldering: Option<f64>,
    /// At which voltage.
    pub test_voltage: Option<f64>,
    /// At which frequency.
    #[schema(minimum = 0)]
    pub test_frequency: Option<f64>,
    /// How the meter measured; direct current where it does not say.
    pub mode: Option<Mode>,
    /// How a leakage tester's switch stood.
    pub setting: Option<Setting>,
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
    /// What one count is worth, in the base unit.
    #[schema(minimum = 0)]
    pub resolution: f64,
}
