//! The JSON shapes of instruments.

use owl_core::quantity::format::{format, percent};
use owl_core::quantity::{Fraction, Hertz, Quantity, Volt};
use owl_core::reading::instrument::decades;
use owl_core::reading::{InstrumentKind, MeterFunction, Mode, Range, ReadQuantity, Setting};
use serde::{Deserialize, Serialize};
use time::Date;
use utoipa::ToSchema;
use uuid::Uuid;

use crate::amount::typed_optional;
use crate::error::ApiError;
use crate::table::instrument::{InstrumentRow, WayRow};

/// An instrument.
#[derive(Debug, Serialize, ToSchema)]
pub struct InstrumentView {
    /// Its id.
    pub id: Uuid,
    /// Rises with every change.
    pub version: i32,
    /// What the workshop calls it.
    pub name: String,
    /// What it is.
    pub kind: InstrumentKind,
    /// When it was last checked: `2031-05-17`.
    pub checked_on: Option<String>,
    /// Whether that is more than a year ago.
    pub overdue: bool,
    /// Whether it is out of use.
    pub retired: bool,
    /// Where it answers on the network.
    pub address: Option<String>,
    /// What it measures, and how.
    pub ways: Vec<WayView>,
}

/// One way in which an instrument measures one thing.
#[derive(Debug, Serialize, ToSchema)]
pub struct WayView {
    /// Its id.
    pub id: Uuid,
    /// What the instrument calls it.
    pub name: String,
    /// What it measures.
    pub quantity: ReadQuantity,
    /// With direct or alternating current.
    pub mode: Mode,
    /// Its test frequency, as shown.
    pub test_frequency: Option<String>,
    /// Its test voltage, as shown.
    pub test_voltage: Option<String>,
    /// How a leakage tester's switch stands for it.
    pub setting: Option<Setting>,
    /// Its accuracy in a line, where it is the same in all ranges.
    pub accuracy: Option<String>,
    /// Its ranges.
    pub ranges: Vec<RangeView>,
}

/// A range, as shown and as it would be typed.
#[derive(Debug, Serialize, ToSchema)]
pub struct RangeView {
    /// The most that it can show.
    pub up_to: String,
    /// Percent of the reading.
    pub percent: String,
    /// Counts in the last digit.
    pub counts: f64,
    /// What one count is worth.
    pub resolution: String,
}

/// An instrument to be added or changed.
#[derive(Debug, Deserialize, ToSchema)]
pub struct InstrumentBody {
    /// Chosen by the client, so that sending twice adds one.
    pub id: Option<Uuid>,
    /// The version that was seen, where it is changed.
    pub version: Option<i32>,
    /// What the workshop calls it.
    #[schema(min_length = 1, max_length = 80)]
    pub name: String,
    /// What it is.
    pub kind: InstrumentKind,
    /// When it was last checked: `2031-05-17`; empty for never.
    #[schema(max_length = 20)]
    pub checked_on: Option<String>,
    /// Whether it is out of use.
    #[serde(default)]
    pub retired: bool,
    /// Where it answers on the network, on this machine or in a private one: `192.168.1.40:5025`; empty for nowhere.
    #[schema(max_length = 60)]
    pub address: Option<String>,
    /// What it measures, and how.
    #[schema(max_items = 30)]
    pub ways: Vec<WayBody>,
}

/// One way, as typed.
#[derive(Debug, Deserialize, ToSchema)]
pub struct WayBody {
    /// What the instrument calls it.
    #[schema(min_length = 1, max_length = 40)]
    pub name: String,
    /// What it measures.
    pub quantity: ReadQuantity,
    /// With direct or alternating current.
    pub mode: Mode,
    /// Its test frequency: `1k`; empty for none.
    #[schema(max_length = 40)]
    pub test_frequency: Option<String>,
    /// Its test voltage: `500`; empty for none.
    #[schema(max_length = 40)]
    pub test_voltage: Option<String>,
    /// How a leakage tester's switch stands for it.
    pub setting: Option<Setting>,
    /// Its ranges, the lowest first.
    #[serde(default)]
    #[schema(max_items = 20)]
    pub ranges: Vec<RangeBody>,
    /// Instead of ranges: a meter that picks them itself.
    pub automatic: Option<AutomaticBody>,
}

/// A range, as typed.
#[derive(Debug, Deserialize, ToSchema)]
pub struct RangeBody {
    /// The most that it can show: `200k`.
    #[schema(max_length = 40)]
    pub up_to: String,
    /// Percent of the reading: `0.5`.
    #[schema(max_length = 40)]
    pub percent: String,
    /// Counts in the last digit.
    #[schema(minimum = 0, maximum = 999)]
    pub counts: f64,
    /// What one count is worth: `0.1k`.
    #[schema(max_length = 40)]
    pub resolution: String,
}

/// Ranges a factor of ten apart with one accuracy.
#[derive(Debug, Deserialize, ToSchema)]
pub struct AutomaticBody {
    /// Percent of the reading: `0.5`.
    #[schema(max_length = 40)]
    pub percent: String,
    /// Counts in the last digit.
    #[schema(minimum = 0, maximum = 999)]
    pub counts: f64,
    /// Counts of the display: 6000.
    #[schema(minimum = 100, maximum = 10_000_000)]
    pub display: u32,
    /// Resolution of the lowest range: `0.1`.
    #[schema(max_length = 40)]
    pub finest: String,
    /// The most that it can show: `60M`.
    #[schema(max_length = 40)]
    pub ceiling: String,
}

impl InstrumentView {
    /// An instrument as it is sent. `today` tells whether its check is overdue.
    ///
    /// # Errors
    /// [`ApiError::Internal`] for rows that cannot be.
    pub fn of(row: &InstrumentRow, ways: &[WayRow], today: Date) -> Result<Self, ApiError> {
        Ok(Self {
            id: row.id,
            version: row.version,
            name: row.name.clone(),
            kind: row.kind,
            checked_on: row.checked_on.map(|d| d.to_string()),
            overdue: row.overdue(today).is_some(),
            retired: row.retired,
            address: row.address.clone(),
            ways: ways
                .iter()
                .filter(|w| w.instrument_id == row.id)
                .map(|w| w.way().map(|way| WayView::of(w.id, &way)))
                .collect::<Result<_, _>>()?,
        })
    }
}

impl WayView {
    fn of(id: Uuid, way: &MeterFunction) -> Self {
        let quantity = way.quantity.quantity();
        let first = way.ranges.first();
        let same =
            first.filter(|f| way.ranges.iter().all(|r| r.of_reading == f.of_reading && r.counts == f.counts));
        Self {
            id,
            name: way.name.clone(),
            quantity: way.quantity,
            mode: way.mode,
            test_frequency: way.test_frequency.map(|f| f.to_string()),
            test_voltage: way.test_voltage.map(|v| v.to_string()),
            setting: way.setting,
            accuracy: same.map(|r| {
                let counts = if r.counts == 1.0 { "count" } else { "counts" };
                format!("±({} + {} {counts})", percent(r.of_reading.fraction()), r.counts)
            }),
            ranges: way
                .ranges
                .iter()
                .map(|r| RangeView {
                    up_to: format(quantity, r.up_to_si).to_string(),
                    percent: percent(r.of_reading.fraction()),
                    counts: r.counts,
                    resolution: format(quantity, r.resolution_si).to_string(),
                })
                .collect(),
        }
    }
}

impl WayBody {
    /// The way as the core knows it; `field` names it in a refusal.
    ///
    /// # Errors
    /// 422 with the input to blame.
    pub fn way(&self, field: &str) -> Result<MeterFunction, ApiError> {
        let name = self.name.trim().replace('\0', "");
        if name.is_empty() || name.chars().count() > 40 {
            return Err(ApiError::field(format!("{field}.name"), "a name of 1 to 40 characters is needed"));
        }
        let hertz = typed_optional(Quantity::Frequency, self.test_frequency.as_deref())
            .and_then(|v| v.map(Hertz::new).transpose().map_err(|e| e.to_string()))
            .map_err(|e| ApiError::field(format!("{field}.test_frequency"), e))?;
        let volts = typed_optional(Quantity::Voltage, self.test_voltage.as_deref())
            .and_then(|v| v.map(Volt::new).transpose().map_err(|e| e.to_string()))
            .map_err(|e| ApiError::field(format!("{field}.test_voltage"), e))?;
        if hertz.is_some() && self.mode == owl_core::reading::Mode::Dc {
            let why = "direct current has no frequency: set it to alternating";
            return Err(ApiError::field(format!("{field}.test_frequency"), why));
        }
        let ranges = match &self.automatic {
            Some(a) => a.ranges(self.quantity.quantity(), field)?,
            None => self.typed_ranges(field)?,
        };
        let way = MeterFunction {
            name,
            quantity: self.quantity,
            mode: self.mode,
            test_frequency: hertz.filter(|f| f.hertz() > 0.0),
            test_voltage: volts.filter(|v| v.volts() > 0.0),
            setting: self.setting,
            ranges,
        };
        way.check().map_err(|e| ApiError::field(format!("{field}.ranges"), e))?;
        Ok(way)
    }

    fn typed_ranges(&self, field: &str) -> Result<Vec<Range>, ApiError> {
        let quantity = self.quantity.quantity();
        let one = |i: usize, r: &RangeBody| -> Result<Range, ApiError> {
            let at = |name: &str| format!("{field}.ranges[{i}].{name}");
            Ok(Range {
                up_to_si: needed(quantity, &r.up_to, &at("up_to"))?,
                of_reading: share(&r.percent, &at("percent"))?,
                counts: r.counts,
                resolution_si: needed(quantity, &r.resolution, &at("resolution"))?,
            })
        };
        self.ranges.iter().enumerate().map(|(i, r)| one(i, r)).collect()
    }
}

impl AutomaticBody {
    fn ranges(&self, quantity: Quantity, field: &str) -> Result<Vec<Range>, ApiError> {
        let at = |name: &str| format!("{field}.automatic.{name}");
        Ok(decades(
            share(&self.percent, &at("percent"))?,
            self.counts,
            self.display,
            needed(quantity, &self.finest, &at("finest"))?,
            needed(quantity, &self.ceiling, &at("ceiling"))?,
        ))
    }
}

fn needed(quantity: Quantity, text: &str, field: &str) -> Result<f64, ApiError> {
    typed_optional(quantity, Some(text))
        .and_then(|v| v.ok_or_else(|| "a value is needed".to_owned()))
        .map_err(|e| ApiError::field(field, e))
}

/// `0.5` and `0.5 %` are both half a percent.
fn share(text: &str, field: &str) -> Result<Fraction, ApiError> {
    let text = text.trim().trim_end_matches('%').trim();
    let value: f64 =
        text.parse().map_err(|_| ApiError::field(field, format!("'{text}' is no percentage")))?;
    Fraction::new(value / 100.0).map_err(|e| ApiError::field(field, e))
}
