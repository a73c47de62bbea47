//! The JSON shapes of voltage charts.

use owl_core::chart::{ChartStatus, Held};
use owl_core::quantity::format::signed_percent;
use owl_core::quantity::{Fraction, Quantity};
use serde::{Deserialize, Serialize};
use time::OffsetDateTime;
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;

use crate::amount::Amount;

/// Which two sets of readings stand beside each other; the first and the last where it does not say.
#[derive(Debug, Default, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct WhichRuns {
    /// The left one.
    pub before: Option<Uuid>,
    /// The right one.
    pub after: Option<Uuid>,
}

/// A point, as typed; empty is unknown.
#[derive(Debug, Deserialize, ToSchema)]
pub struct ChartPointBody {
    /// Chosen by the client; a point under that id is written over.
    pub id: Uuid,
    /// A valve, a transistor or a node: `V3`, `B+ 2`. With a pin the point is called `V3 pin 5`.
    #[schema(min_length = 1, max_length = 30)]
    pub at: String,
    /// The pin.
    pub pin: Option<i16>,
    /// The type of the valve there.
    #[serde(default)]
    #[schema(max_length = 20)]
    pub valve: String,
    /// In words.
    #[serde(default)]
    #[schema(max_length = 120)]
    pub note: String,
    /// Volts by the sheet.
    #[schema(max_length = 40)]
    pub sheet: Option<String>,
    /// Ohms that feed it.
    #[schema(max_length = 40)]
    pub fed_through: Option<String>,
    /// A heater must be closer than others.
    #[serde(default)]
    pub heater: bool,
    /// Does not follow the line: regulated, or a battery.
    #[serde(default)]
    pub steady: bool,
    /// The name of the point that it belongs with.
    #[schema(max_length = 40)]
    pub pair: Option<String>,
    /// The point as it was seen before it was changed here: what was changed elsewhere since stays, or is shown.
    pub seen: Option<PointSeen>,
}

/// A point as it was shown.
#[derive(Debug, Deserialize, ToSchema)]
pub struct PointSeen {
    /// The type of the valve there.
    #[serde(default)]
    #[schema(max_length = 20)]
    pub valve: String,
    /// In words.
    #[serde(default)]
    #[schema(max_length = 120)]
    pub note: String,
    /// Volts by the sheet, as they were shown.
    #[serde(default)]
    #[schema(max_length = 40)]
    pub sheet: String,
    /// Ohms that feed it, as they were shown.
    #[serde(default)]
    #[schema(max_length = 40)]
    pub fed_through: String,
    /// A heater must be closer than others.
    #[serde(default)]
    pub heater: bool,
    /// Does not follow the line.
    #[serde(default)]
    pub steady: bool,
    /// The name of the point that it belongs with.
    #[serde(default)]
    #[schema(max_length = 40)]
    pub pair: String,
}

/// All pins of a valve, a transistor or a circuit that are read, put into the chart at once; or of a whole board.
#[derive(Debug, Deserialize, ToSchema)]
pub struct ChartValveBody {
    /// What it is called: `V3`.
    #[serde(default)]
    #[schema(max_length = 30)]
    pub at: String,
    /// Its type.
    #[serde(default)]
    #[schema(max_length = 20)]
    pub valve: String,
    /// In its place a whole board, each with its type: `V1 ECH81, V2 EF89, Q1 AF126`.
    #[serde(default)]
    #[schema(max_length = 2000)]
    pub board: String,
}

/// A set of readings, as typed.
#[derive(Debug, Deserialize, ToSchema)]
pub struct ChartRunBody {
    /// Chosen by the client; a set under that id is written over.
    pub id: Uuid,
    /// Before, after, or any other moment.
    #[schema(min_length = 1, max_length = 60)]
    pub name: String,
    /// The line at that moment.
    #[schema(max_length = 40)]
    pub line: Option<String>,
    /// The meter's resistance; 10 MΩ where it is left out.
    #[schema(max_length = 40)]
    pub meter: Option<String>,
}

/// A reading, as typed; empty takes it away.
#[derive(Debug, Deserialize, ToSchema)]
pub struct ChartReadingBody {
    /// At which point.
    pub point: Uuid,
    /// In volt.
    #[schema(max_length = 40)]
    pub volts: String,
    /// What was shown there before this was typed: where something else stands by now, it is not written over.
    #[schema(max_length = 40)]
    pub seen: Option<String>,
}

/// A chart with two sets of readings beside each other.
#[derive(Debug, Serialize, ToSchema)]
pub struct VoltageChartView {
    /// In the order of the chart.
    pub points: Vec<ChartPointView>,
    /// Every set of readings, oldest first.
    pub runs: Vec<ChartRunView>,
    /// The set at the left.
    pub before: Option<Uuid>,
    /// The set at the right, where there are two.
    pub after: Option<Uuid>,
    /// Points that belong together and do not agree, in words.
    pub pairs: Vec<ChartPairView>,
    /// What lies on the tray with a type that has pins, and is not in the chart: as a board is told.
    pub from_tray: String,
}

/// A set of readings.
#[derive(Debug, Serialize, ToSchema)]
pub struct ChartRunView {
    /// Its id.
    pub id: Uuid,
    /// Before, after, or any other moment.
    pub name: String,
    /// The line at that moment.
    pub line: Option<Amount>,
    /// The meter's resistance.
    pub meter: Option<Amount>,
    /// When it was begun.
    #[serde(with = "time::serde::rfc3339")]
    pub begun_at: OffsetDateTime,
    /// How many points were read.
    pub count: usize,
}

/// A point.
#[derive(Debug, Serialize, ToSchema)]
pub struct ChartPointView {
    /// Its id.
    pub id: Uuid,
    /// What it is called.
    pub name: String,
    /// Without its pin.
    pub at: String,
    /// The pin.
    pub pin: Option<i16>,
    /// The type of the valve there.
    pub valve: String,
    /// What the pin is: `screen`.
    #[serde(serialize_with = "crate::dialect::said")]
    pub role: Option<String>,
    /// In words.
    pub note: String,
    /// By the sheet.
    pub sheet: Option<Amount>,
    /// What feeds it.
    pub fed_through: Option<Amount>,
    /// A heater must be closer than others.
    pub heater: bool,
    /// Does not follow the line.
    pub steady: bool,
    /// The name of the point that it belongs with.
    pub pair: Option<String>,
    /// In the set at the left.
    pub before: Option<ChartCell>,
    /// In the set at the right.
    pub after: Option<ChartCell>,
    /// What it should show at the newest set's line and meter, before anything was read.
    pub expected: Option<Amount>,
    /// How far the two sets are apart, in words.
    pub change: Option<String>,
}

/// A reading and how it stands.
#[derive(Debug, Serialize, ToSchema)]
pub struct ChartCell {
    /// What was read.
    pub volts: Amount,
    /// What it should have been.
    pub expected: Option<Amount>,
    /// How far it is off, as a fraction.
    pub deviation: Option<f64>,
    /// As shown.
    pub deviation_text: Option<String>,
    /// In a word.
    pub status: ChartStatus,
    /// How the expectation came about.
    #[serde(serialize_with = "crate::dialect::said")]
    pub because: Vec<String>,
    /// What speaks against the reading itself, by what the pin is; null where nothing does.
    #[serde(serialize_with = "crate::dialect::said")]
    pub doubt: Option<String>,
}

impl ChartCell {
    /// A reading as it is sent.
    #[must_use]
    pub fn of(volts: f64, held: &Held) -> Self {
        let expected = held.expected.as_ref();
        Self {
            volts: volt(volts),
            expected: expected.map(|e| about(e.volts.volts())),
            deviation: held.deviation.map(Fraction::fraction),
            deviation_text: held.deviation.map(|d| signed_percent(d.fraction())),
            status: held.status,
            because: expected.map(|e| e.because.clone()).unwrap_or_default(),
            doubt: None,
        }
    }
}

/// Two points that belong together.
#[derive(Debug, Serialize, ToSchema)]
pub struct ChartPairView {
    /// One.
    pub a: String,
    /// The other.
    pub b: String,
    /// In which set of readings.
    pub run: Uuid,
    /// Whether they agree.
    pub agree: bool,
    /// In words.
    #[serde(serialize_with = "crate::dialect::said")]
    pub text: String,
}

/// Volts that were read or typed.
pub(crate) fn volt(v: f64) -> Amount {
    Amount::of(Quantity::Voltage, v)
}

/// Volts that were computed: three digits, as no sheet is better.
pub(crate) fn about(v: f64) -> Amount {
    Amount { value: v, ..Amount::rounded(Quantity::Voltage, v, 3) }
}
