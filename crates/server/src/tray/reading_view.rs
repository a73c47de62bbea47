//! A reading as it is sent, with what it cannot tell.

use owl_core::reading::pitfall::{Pitfall, Warning};
use owl_core::reading::{Mode, ReadQuantity, Setting, State};
use serde::Serialize;
use time::OffsetDateTime;
use utoipa::ToSchema;
use uuid::Uuid;

use crate::amount::Amount;
use crate::error::ApiError;
use crate::table::reading::ReadingRow;

/// What a way of measuring cannot tell.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct WarningView {
    /// The pitfall.
    pub pitfall: Pitfall,
    /// Whether the reading can pass nothing because of it.
    pub bars: bool,
    /// In words.
    #[serde(serialize_with = "crate::dialect::said")]
    pub text: String,
    /// What to do about it.
    #[serde(serialize_with = "crate::dialect::said")]
    pub next: String,
    /// Where that comes from.
    pub source: String,
}

impl From<&Warning> for WarningView {
    fn from(w: &Warning) -> Self {
        Self {
            pitfall: w.pitfall,
            bars: w.bars,
            text: w.text.clone(),
            next: w.next.clone(),
            source: w.source.to_string(),
        }
    }
}

/// A reading as it was taken.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct ReadingView {
    /// Its id.
    pub id: Uuid,
    /// What was read.
    pub quantity: ReadQuantity,
    /// At which pin, of a circuit.
    pub pin: Option<u8>,
    /// What was read, in words: `ESR`.
    pub called: String,
    /// The value; null beyond the meter's range.
    pub measured: Option<Amount>,
    /// Whether it is beyond the meter's range.
    pub overrange: bool,
    /// How the part sat.
    pub state: State,
    /// Whether it was hot.
    pub hot: bool,
    /// How the meter measured.
    pub mode: Mode,
    /// At which voltage, as shown.
    pub test_voltage: Option<String>,
    /// At which frequency, as shown.
    pub test_frequency: Option<String>,
    /// How a leakage tester's switch stood.
    pub setting: Option<Setting>,
    /// The meter.
    pub instrument: String,
    /// Which of its ways.
    pub way: String,
    /// Its uncertainty at this reading: `±1.2 Ω`.
    pub accuracy: Option<String>,
    /// What it cannot tell.
    pub warnings: Vec<WarningView>,
    /// What was typed.
    pub typed: String,
    /// When.
    #[serde(with = "time::serde::rfc3339")]
    pub taken_at: OffsetDateTime,
    /// Whether it is of a part that has been taken out since.
    pub before_fitting: bool,
    /// Why it was voided; null where it counts.
    pub voided: Option<String>,
}

impl ReadingView {
    /// The same without what stands on the list of readings already.
    #[must_use]
    pub fn in_short(&self) -> Self {
        Self { warnings: vec![], typed: String::new(), ..self.clone() }
    }

    /// A reading as it is sent.
    ///
    /// # Errors
    /// [`ApiError::Internal`] for a row that cannot be.
    pub fn of(row: &ReadingRow, before_fitting: bool, warnings: &[Warning]) -> Result<Self, ApiError> {
        let reading = row.reading()?;
        Ok(Self {
            id: row.id,
            quantity: reading.quantity,
            pin: reading.pin,
            called: reading.pin.map_or_else(|| reading.quantity.called().to_owned(), |n| format!("pin {n}")),
            measured: row.value.map(|v| Amount::of(reading.quantity.quantity(), v)),
            overrange: row.value.is_none(),
            state: reading.state,
            hot: row.hot,
            mode: row.mode,
            test_voltage: reading.test_voltage.map(|v| v.to_string()),
            test_frequency: reading.test_frequency.map(|f| f.to_string()),
            setting: reading.setting,
            instrument: row.instrument.clone(),
            way: row.way.clone(),
            accuracy: reading.uncertainty(),
            warnings: warnings.iter().map(WarningView::from).collect(),
            typed: row.typed.clone(),
            taken_at: row.taken_at,
            before_fitting,
            voided: row.voided.clone(),
        })
    }
}
