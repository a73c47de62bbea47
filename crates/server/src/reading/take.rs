//! Recording a reading: with which instrument, in which of its ways, and how closely that measures.

use owl_core::quantity::{Hertz, Volt};
use owl_core::reading::choose::{BeyondRange, OnBench, Sought, choose, reaching};
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
    /// With what it was measured where the instrument could not show it: as a question offered it, or in own words.
    pub with: &'a str,
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
    let with = measured_with(db, part, t, &mut reading).await?;
    let typed = t.typed.replace('\0', "").chars().take(200).collect();
    Ok(crate::table::reading::insert(db, &ReadingRow::new(t.key, part.id, &reading, with, typed)).await?)
}

/// With what it was measured: the instrument, what it is called and its way; and fills in what that says of the reading. A
/// value that the instrument cannot have shown is not refused: it is asked with what else it was measured.
async fn measured_with(
    db: &mut PgConnection,
    part: &PartRow,
    t: &Taking<'_>,
    reading: &mut Reading,
) -> Result<(Option<Uuid>, String, String), ApiError> {
    let nobodys = |called: &str| Ok((None, called.to_owned(), String::new()));
    if let Some(station) = t.station {
        return nobodys(station);
    }
    let bench = Bench { instruments: instruments(&mut *db).await?, ways: ways(&mut *db).await? };
    if !t.with.is_empty() {
        let Some((instrument, way)) = bench.called(t.with, t.quantity)? else { return nobodys(t.with) };
        // What was answered is kept, whatever the ranges that were entered say of it.
        return match way.read(reading, t.mode.is_some()) {
            Ok(()) => Ok((Some(instrument.id), instrument.name.clone(), way.name)),
            Err(_) => nobodys(t.with),
        };
    }
    if t.quantity == ReadQuantity::LeakageEye {
        return nobodys("go/no-go eye");
    }
    let Some((instrument, way)) = bench.chosen(db, part, t).await? else { return nobodys("") };
    match way.read(reading, t.mode.is_some()) {
        Ok(()) => Ok((Some(instrument.id), instrument.name.clone(), way.name)),
        Err(e) => {
            let question = format!("{}: {e}. With what was it measured?", instrument.name);
            let mut choices = bench.reaching(&e, t.setting.or_else(|| part.family.and_then(Setting::of)))?;
            choices.extend([format!("{}, another range", instrument.name), "another meter".to_owned()]);
            Err(ApiError::Ask { question, field: t.field.to_owned(), choices })
        }
    }
}

/// What stands on the bench.
struct Bench {
    instruments: Vec<InstrumentRow>,
    ways: Vec<WayRow>,
}

impl Bench {
    fn instrument(&self, id: Uuid) -> Option<&InstrumentRow> {
        self.instruments.iter().find(|i| i.id == id)
    }

    /// What a way is called beside its instrument.
    fn label(&self, way: &WayRow) -> String {
        let whose = self.instrument(way.instrument_id).map_or("", |i| i.name.as_str());
        let several = self.ways.iter().filter(|w| w.instrument_id == way.instrument_id).count() > 1;
        if several { format!("{whose}, {}", way.name) } else { whose.to_owned() }
    }

    /// The way of that label that measures it.
    fn called(
        &self,
        label: &str,
        of: ReadQuantity,
    ) -> Result<Option<(&InstrumentRow, MeterFunction)>, ApiError> {
        let is = |w: &&WayRow| w.quantity == of.measured_as() && self.label(w).eq_ignore_ascii_case(label);
        let Some(row) = self.ways.iter().find(is) else { return Ok(None) };
        self.instrument(row.instrument_id).map(|i| Ok((i, row.way()?))).transpose()
    }

    fn functions(&self) -> Result<Vec<MeterFunction>, ApiError> {
        Ok(self.ways.iter().map(WayRow::way).collect::<Result<_, _>>()?)
    }

    fn as_placed<'a>(&self, functions: &'a [MeterFunction]) -> Vec<OnBench<'a, Uuid>> {
        let in_use = |id: Uuid| self.instrument(id).is_some_and(|i| !i.retired);
        let rows = self.ways.iter().zip(functions);
        rows.map(|(w, way)| OnBench { instrument: w.instrument_id, in_use: in_use(w.instrument_id), way })
            .collect()
    }

    /// The labels of the ways that can have shown what another could not.
    fn reaching(&self, beyond: &BeyondRange, setting: Option<Setting>) -> Result<Vec<String>, ApiError> {
        let functions = self.functions()?;
        let places = reaching(&self.as_placed(&functions), beyond.quantity, beyond.value_si, setting);
        Ok(places.into_iter().filter_map(|i| self.ways.get(i)).map(|w| self.label(w)).collect())
    }

    /// The instrument and the way, as the core chooses among what the workshop has.
    async fn chosen(
        &self,
        db: &mut PgConnection,
        part: &PartRow,
        t: &Taking<'_>,
    ) -> Result<Option<(&InstrumentRow, MeterFunction)>, ApiError> {
        let rows = &self.ways;
        let of = |id: Uuid| self.instrument(id);
        if t.instrument.is_some_and(|id| of(id).is_none()) {
            return Err(ApiError::field("instrument", "the workshop has no such instrument"));
        }
        let at = if let Some(id) = t.way {
            let said = rows.iter().position(|w| w.id == id && w.quantity == t.quantity);
            Some(said.ok_or_else(|| {
                ApiError::field(
                    "way",
                    format!("the workshop has no such way to measure {}", t.quantity.called()),
                )
            })?)
        } else {
            let functions = self.functions()?;
            let bench = self.as_placed(&functions);
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
        of(way.instrument_id).map(|i| Ok((i, way.way()?))).transpose()
    }
}
