//! Recording a reading: with which instrument, in which of its ways, and how closely that measures.

use owl_core::quantity::{Hertz, Volt};
use owl_core::reading::choose::{OnBench, Sought, choose};
use owl_core::reading::{
    MeterFunction, Mode, ReadQuantity, Reading, Setting, Shown, State as PartState, is_readable,
};
use sqlx::PgConnection;
use uuid::Uuid;

use crate::error::ApiError;
use crate::table::instrument::{InstrumentRow, WayRow, instruments, ways};
use crate::table::part::PartRow;
use crate::table::reading::ReadingRow;

/// A reading about to be recorded.
pub struct Taking<'a> {
    /// Chosen by the client, so that sending twice records once.
    pub key: Uuid,
    /// What was read.
    pub quantity: ReadQuantity,
    /// At which pin, of a circuit.
    pub pin: Option<u8>,
    /// In the base unit; `None` beyond the meter's range.
    pub value_si: Option<f64>,
    /// How the part sat.
    pub state: PartState,
    /// Whether it was hot.
    pub hot: bool,
    /// How the meter measured; the way's own where it was not said.
    pub mode: Option<Mode>,
    /// At which voltage; the way's own where it was not said.
    pub test_voltage: Option<Volt>,
    /// At which frequency; the way's own where it was not said.
    pub test_frequency: Option<Hertz>,
    /// How a leakage tester's switch stood; the way's own where it was not said.
    pub setting: Option<Setting>,
    /// The instrument; the one last used for this where it was not said.
    pub instrument: Option<Uuid>,
    /// Which of its ways.
    pub way: Option<Uuid>,
    /// What read it, where that is none of the workshop's instruments.
    pub station: Option<&'static str>,
    /// What was typed.
    pub typed: &'a str,
    /// The input that a value beyond the meter is blamed on.
    pub field: &'static str,
}

/// Records a reading with its instrument's accuracy as it is now; says whether it was new.
///
/// # Errors
/// 422 for what such a part is not read in, or a value beyond the instrument.
pub async fn record(db: &mut PgConnection, part: &PartRow, t: &Taking<'_>) -> Result<bool, ApiError> {
    let kind = part.kind;
    if !is_readable(kind, t.quantity) {
        let why = format!("{} is a {kind}: no {} is measured of it here", part.name, t.quantity.called());
        return Err(ApiError::field(t.field, why));
    }
    let pin =
        owl_core::ic::pin_of(part.name.as_str(), t.quantity, t.pin).map_err(|e| ApiError::field("pin", e))?;
    let mut reading = Reading {
        pin,
        state: t.state,
        hot: t.hot,
        mode: t.mode.unwrap_or(Mode::Dc),
        test_voltage: t.test_voltage,
        test_frequency: t.test_frequency,
        setting: t.setting,
        ..Reading::of(
            t.quantity,
            t.value_si.map_or(Shown::Overrange { ceiling_si: None }, |si| Shown::Value { si }),
        )
    };
    let mut with = (None, t.station.unwrap_or_default().to_owned(), String::new());
    if t.station.is_none()
        && let Some((instrument, way)) = chosen(db, part, t).await?
    {
        way.read(&mut reading, t.mode.is_some())
            .map_err(|e| ApiError::field(t.field, format!("{}: {e}", instrument.name)))?;
        with = (Some(instrument.id), instrument.name, way.name);
    }
    let typed = t.typed.replace('\0', "").chars().take(200).collect();
    Ok(crate::table::reading::insert(db, &ReadingRow::new(t.key, part.id, &reading, with, typed)).await?)
}

/// The instrument and the way, as the core chooses among what the workshop has.
async fn chosen(
    db: &mut PgConnection,
    part: &PartRow,
    t: &Taking<'_>,
) -> Result<Option<(InstrumentRow, MeterFunction)>, ApiError> {
    let all = instruments(&mut *db).await?;
    let rows = ways(&mut *db).await?;
    let of = |id: Uuid| all.iter().find(|i| i.id == id);
    if t.instrument.is_some_and(|id| of(id).is_none()) {
        return Err(ApiError::field("instrument", "the workshop has no such instrument"));
    }
    let at = if let Some(id) = t.way {
        let said = rows.iter().position(|w| w.id == id && w.quantity == t.quantity);
        Some(said.ok_or_else(|| {
            ApiError::field("way", format!("the workshop has no such way to measure {}", t.quantity.called()))
        })?)
    } else {
        let functions: Vec<MeterFunction> = rows.iter().map(WayRow::way).collect::<Result<_, _>>()?;
        let in_use = |id: Uuid| of(id).is_some_and(|i| !i.retired);
        let bench: Vec<OnBench<'_, Uuid>> = rows
            .iter()
            .zip(&functions)
            .map(|(w, way)| OnBench { instrument: w.instrument_id, in_use: in_use(w.instrument_id), way })
            .collect();
        let last = crate::table::reading::last_instruments(db, part.ticket_id, t.quantity).await?;
        choose(
            &bench,
            &Sought {
                quantity: t.quantity,
                setting: t.setting,
                family: part.family,
                test_frequency: t.test_frequency,
                instrument: t.instrument,
                last: &last,
            },
        )
    };
    let Some(way) = at.and_then(|i| rows.get(i)) else { return Ok(None) };
    of(way.instrument_id).map(|i| Ok((i.clone(), way.way()?))).transpose()
}
