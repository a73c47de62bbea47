//! All SQL of readings.

use owl_core::quantity::{Fraction, Hertz, Volt};
use owl_core::reading::{Accuracy, Mode, ReadQuantity, Reading, Setting, Shown, State};
use sqlx::{PgConnection, PgExecutor};
use time::OffsetDateTime;
use uuid::Uuid;

use super::error::StoreError;

/// A reading as stored.
#[derive(Debug, Clone)]
pub struct ReadingRow {
    /// Its id.
    pub id: Uuid,
    /// Its part.
    pub part_id: Uuid,
    /// What was read.
    pub quantity: ReadQuantity,
    /// At which pin, of a circuit.
    pub pin: Option<i16>,
    /// In the base unit; `None` beyond the range.
    pub value: Option<f64>,
    /// Where the range ends.
    pub ceiling: Option<f64>,
    /// How the part sat.
    pub state: State,
    /// Whether it was hot.
    pub hot: bool,
    /// How the meter measured.
    pub mode: Mode,
    /// At which voltage.
    pub test_volts: Option<f64>,
    /// At which frequency.
    pub test_hertz: Option<f64>,
    /// How a leakage tester's switch stood.
    pub setting: Option<Setting>,
    /// The meter.
    pub instrument_id: Option<Uuid>,
    /// Its name then.
    pub instrument: String,
    /// What it calls the way in which it measured.
    pub way: String,
    /// Its share of the reading.
    pub of_reading: Option<f64>,
    /// Its counts.
    pub counts: Option<f64>,
    /// What a count is worth.
    pub resolution: Option<f64>,
    /// What was typed.
    pub typed: String,
    /// When.
    pub taken_at: OffsetDateTime,
    /// Why it was voided, where it was.
    pub voided: Option<String>,
    /// When it was voided.
    pub voided_at: Option<OffsetDateTime>,
}

fn corrupt(e: impl std::fmt::Display) -> StoreError {
    StoreError::broken(e)
}

impl ReadingRow {
    /// A reading about to be added: with which instrument, its name, and what it calls the way; and what was typed.
    #[must_use]
    pub fn new(
        id: Uuid,
        part_id: Uuid,
        r: &Reading,
        (instrument_id, instrument, way): (Option<Uuid>, String, String),
        typed: String,
    ) -> Self {
        let ceiling = match r.shown {
            Shown::Value { .. } => None,
            Shown::Overrange { ceiling_si } => ceiling_si,
        };
        Self {
            id,
            part_id,
            quantity: r.quantity,
            pin: r.pin.map(i16::from),
            value: r.value_si(),
            ceiling,
            state: r.state,
            hot: r.hot,
            mode: r.mode,
            test_volts: r.test_voltage.map(Volt::volts),
            test_hertz: r.test_frequency.map(Hertz::hertz),
            setting: r.setting,
            instrument_id,
            instrument,
            way,
            of_reading: r.accuracy.map(|a| a.of_reading.fraction()),
            counts: r.accuracy.map(|a| a.counts),
            resolution: r.accuracy.map(|a| a.resolution_si),
            typed,
            taken_at: OffsetDateTime::UNIX_EPOCH,
            voided: None,
            voided_at: None,
        }
    }

    fn accuracy(&self) -> Result<Option<Accuracy>, StoreError> {
        match (self.of_reading, self.counts, self.resolution) {
            (Some(p), Some(counts), Some(resolution_si)) => {
                Ok(Some(Accuracy { of_reading: Fraction::new(p).map_err(corrupt)?, counts, resolution_si }))
            }
            _ => Ok(None),
        }
    }

    /// The reading as the core knows it.
    ///
    /// # Errors
    /// [`StoreError::Broken`] for a row that cannot be.
    pub fn reading(&self) -> Result<Reading, StoreError> {
        let shown = match self.value {
            Some(si) => Shown::Value { si },
            None => Shown::Overrange { ceiling_si: self.ceiling },
        };
        Ok(Reading {
            quantity: self.quantity,
            shown,
            pin: self.pin.and_then(|n| u8::try_from(n).ok()),
            state: self.state,
            hot: self.hot,
            since_soldering: None,
            mode: self.mode,
            test_voltage: self.test_volts.map(Volt::new).transpose().map_err(corrupt)?,
            test_frequency: self.test_hertz.map(Hertz::new).transpose().map_err(corrupt)?,
            setting: self.setting,
            accuracy: self.accuracy()?,
        })
    }
}

/// All readings of some parts, oldest first, the voided among them.
pub async fn of_parts(db: impl PgExecutor<'_>, parts: &[Uuid]) -> Result<Vec<ReadingRow>, StoreError> {
    Ok(sqlx::query_as!(
        ReadingRow,
        r#"select r.id, part_id, quantity, pin, value, ceiling, state, hot, mode, test_volts, test_hertz, setting, instrument_id,
                  instrument, way, of_reading, counts, resolution, typed, taken_at, s.why as "voided?",
                  s.struck_at as "voided_at?"
           from reading r left join strike s on s.reading_id = r.id
           where r.part_id = any($1) order by ordinal"#,
        parts
    )
    .fetch_all(db)
    .await?)
}

/// Adds a reading, as of this moment; says whether it was new. The same reading sent twice is
/// added once.
pub async fn insert(db: &mut PgConnection, r: &ReadingRow) -> Result<bool, StoreError> {
    let done = sqlx::query!(
        "insert into reading (id, part_id, ticket_id, quantity, value, overrange, ceiling, state, hot, mode, test_volts, test_hertz,
                              setting, instrument_id, instrument, way, of_reading, counts, resolution, typed, pin, taken_at)
         values ($1, $2, (select ticket_id from part where id = $2), $3, $4, $4::float8 is null, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14, $15, $16, $17, $18, $19,
                 clock_timestamp())
         on conflict (id) do nothing",
        r.id,
        r.part_id,
        r.quantity as _,
        r.value,
        r.ceiling,
        r.state as _,
        r.hot,
        r.mode as _,
        r.test_volts,
        r.test_hertz,
        r.setting as _,
        r.instrument_id,
        r.instrument,
        r.way,
        r.of_reading,
        r.counts,
        r.resolution,
        r.typed,
        r.pin
    )
    .execute(db)
    .await?;
    Ok(done.rows_affected() == 1)
}

/// With what a quantity was last read on a ticket, and in which of its ways, latest first.
pub async fn last_instruments(
    db: &mut PgConnection,
    ticket_id: Uuid,
    quantity: ReadQuantity,
) -> Result<Vec<(Uuid, String)>, StoreError> {
    let rows = sqlx::query!(
        r#"select instrument_id as "instrument_id!", way from reading
           where ticket_id = $1 and quantity = $2 and instrument_id is not null order by ordinal desc limit 40"#,
        ticket_id,
        quantity as _
    )
    .fetch_all(db)
    .await?;
    Ok(rows.into_iter().map(|r| (r.instrument_id, r.way)).collect())
}

/// The part that a reading is of; `None` where there is no such reading.
pub async fn part_of(db: &mut PgConnection, reading_id: Uuid) -> Result<Option<Uuid>, StoreError> {
    Ok(sqlx::query_scalar!("select part_id from reading where id = $1", reading_id)
        .fetch_optional(db)
        .await?)
}

/// What the voiding of that reading was sent under; `None` where it counts.
pub async fn voided(db: &mut PgConnection, reading_id: Uuid) -> Result<Option<Uuid>, StoreError> {
    Ok(sqlx::query_scalar!("select id from strike where reading_id = $1", reading_id)
        .fetch_optional(db)
        .await?)
}

/// Voids a reading, as of this moment.
pub async fn void(db: &mut PgConnection, key: Uuid, reading_id: Uuid, why: &str) -> Result<(), StoreError> {
    sqlx::query!(
        "insert into strike (id, reading_id, why, struck_at) values ($1, $2, $3, clock_timestamp())",
        key,
        reading_id,
        why
    )
    .execute(db)
    .await?;
    Ok(())
}
