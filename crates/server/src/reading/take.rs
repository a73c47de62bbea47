//! Recording a reading: with which instrument, in which of its ways, and how closely that measures.

use owl_core::named::Named;
use owl_core::part::MadeOf;
use owl_core::quantity::{Hertz, Volt};
use owl_core::reading::{MeterFunction, Mode, ReadQuantity, Setting, State as PartState, is_readable};
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
    let kind = part.kind()?;
    if !is_readable(kind, t.quantity) {
        let why = format!("{} is a {kind}: no {} is measured of it here", part.name, t.quantity.called());
        return Err(ApiError::field(t.field, why));
    }
    let chosen = if t.station.is_some() { None } else { choose(db, part, t).await? };
    let mut row = ReadingRow {
        id: t.key,
        part_id: part.id,
        quantity: t.quantity.name().to_owned(),
        value: t.value_si,
        ceiling: None,
        state: t.state.name().to_owned(),
        hot: t.hot,
        mode: t.mode.unwrap_or(Mode::Dc).name().to_owned(),
        test_volts: t.test_voltage.map(Volt::volts),
        test_hertz: t.test_frequency.map(Hertz::hertz),
        setting: t.setting.map(|s| s.name().to_owned()),
        instrument_id: None,
        instrument: t.station.unwrap_or_default().to_owned(),
        way: String::new(),
        of_reading: None,
        counts: None,
        resolution: None,
        typed: t.typed.replace('\0', "").chars().take(200).collect(),
        taken_at: time::OffsetDateTime::UNIX_EPOCH,
        voided: None,
        voided_at: None,
    };
    if let Some((instrument, way)) = &chosen {
        measured_with(&mut row, instrument, way, t)?;
    }
    crate::table::reading::insert(db, &row).await
}

/// Fills in what the way of measuring says of the reading.
fn measured_with(
    row: &mut ReadingRow,
    instrument: &InstrumentRow,
    way: &MeterFunction,
    t: &Taking<'_>,
) -> Result<(), ApiError> {
    row.instrument_id = Some(instrument.id);
    row.instrument.clone_from(&instrument.name);
    row.way.clone_from(&way.name);
    if t.mode.is_none() {
        way.mode.name().clone_into(&mut row.mode);
    }
    row.test_volts = row.test_volts.or(way.test_voltage.map(Volt::volts));
    row.test_hertz = row.test_hertz.or(way.test_frequency.map(Hertz::hertz));
    row.setting = row.setting.take().or_else(|| way.setting.map(|s| s.name().to_owned()));
    match (t.value_si, way.ceiling_si()) {
        (Some(v), Some(ceiling)) if v.abs() > ceiling * (1.0 + 1e-9) => {
            let why = format!(
                "{} ends at {}; say OL if it showed overrange",
                instrument.name,
                t.quantity.written(ceiling)
            );
            return Err(ApiError::field(t.field, why));
        }
        (Some(v), _) => {
            if let Some(a) = way.accuracy_at_si(v) {
                row.of_reading = Some(a.of_reading.fraction());
                row.counts = Some(a.counts);
                row.resolution = Some(a.resolution_si);
            }
        }
        (None, ceiling) => row.ceiling = ceiling,
    }
    Ok(())
}

/// The instrument and the way: as asked, or as last used on the ticket for this, or the first that measures it.
async fn choose(
    db: &mut PgConnection,
    part: &PartRow,
    t: &Taking<'_>,
) -> Result<Option<(InstrumentRow, MeterFunction)>, ApiError> {
    let all = instruments(&mut *db).await?;
    let ways = ways(&mut *db).await?;
    let quantity = t.quantity.name();
    let of = |w: &WayRow| all.iter().find(|i| i.id == w.instrument_id).cloned();
    if let Some(id) = t.way {
        let way = ways.iter().find(|w| w.id == id && w.quantity == quantity);
        let way = way.ok_or_else(|| {
            ApiError::field("way", format!("the workshop has no such way to measure {}", t.quantity.called()))
        })?;
        return of(way).map(|i| Ok((i, way.way()?))).transpose();
    }
    // Nobody who does not say so puts a paper part on the electrolytic setting.
    let family = part.family.as_deref().and_then(|f| MadeOf::from_name(f).ok());
    let setting = t.setting.or_else(|| family.and_then(Setting::of));
    let fits = |w: &&WayRow| {
        let setting = setting.is_none_or(|s| w.setting.as_deref().is_none_or(|o| o == s.name()));
        w.quantity == quantity && setting && of(w).is_some_and(|i| !i.retired)
    };
    let wanted = match t.instrument {
        Some(id) if !all.iter().any(|i| i.id == id) => {
            return Err(ApiError::field("instrument", "the workshop has no such instrument"));
        }
        Some(id) => ways.iter().filter(fits).find(|w| w.instrument_id == id),
        None => {
            let last = crate::table::reading::last_instruments(db, part.ticket_id).await?;
            last.iter().find_map(|(instrument, q, way)| {
                ways.iter()
                    .filter(fits)
                    .find(|w| w.instrument_id == *instrument && q == quantity && w.name == *way)
            })
        }
    };
    // The way whose frequency was said, where it was said; otherwise the first in the workshop's order.
    let said = |w: &&WayRow| {
        fits(w)
            && t.test_frequency
                .is_some_and(|f| w.test_hertz.is_some_and(|h| (h / f.hertz() - 1.0).abs() < 0.01))
    };
    let way = ways.iter().find(said).or(wanted).or_else(|| ways.iter().find(fits));
    way.and_then(|w| of(w).map(|i| Ok((i, w.way()?)))).transpose()
}
