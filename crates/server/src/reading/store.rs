//! All SQL of readings.

use owl_core::quantity::{Fraction, Ohm};
use owl_core::reading::{Accuracy, Reading, Shown};
use sqlx::{PgConnection, PgExecutor};
use time::OffsetDateTime;
use uuid::Uuid;

use crate::amount::Amount;
use crate::error::ApiError;
use crate::name::{Name, stored};
use crate::part::wire::ReadingView;

/// A reading as stored.
#[derive(Debug, Clone)]
pub struct ReadingRow {
    /// Its id.
    pub id: Uuid,
    /// Its part.
    pub part_id: Uuid,
    /// In ohm; `None` beyond the range.
    pub ohm: Option<f64>,
    /// Where the range ends.
    pub ceiling_ohm: Option<f64>,
    /// How the part sat.
    pub state: String,
    /// Whether it was hot.
    pub hot: bool,
    /// How the meter measured.
    pub mode: String,
    /// The meter.
    pub instrument_id: Option<Uuid>,
    /// Its name then.
    pub instrument: String,
    /// Its share of the reading.
    pub of_reading: Option<f64>,
    /// Its counts.
    pub counts: Option<f64>,
    /// What a count is worth.
    pub resolution_ohm: Option<f64>,
    /// What was typed.
    pub typed: String,
    /// When.
    pub taken_at: OffsetDateTime,
}

fn corrupt(e: impl std::fmt::Display) -> ApiError {
    ApiError::Internal(format!("stored reading: {e}"))
}

impl ReadingRow {
    fn accuracy(&self) -> Result<Option<Accuracy>, ApiError> {
        match (self.of_reading, self.counts, self.resolution_ohm) {
            (Some(p), Some(counts), Some(r)) => Ok(Some(Accuracy {
                of_reading: Fraction::new(p).map_err(corrupt)?,
                counts,
                resolution: Ohm::new(r).map_err(corrupt)?,
            })),
            _ => Ok(None),
        }
    }

    /// The reading as the core knows it.
    ///
    /// # Errors
    /// [`ApiError::Internal`] for a row that cannot be.
    pub fn reading(&self) -> Result<Reading, ApiError> {
        let shown = match self.ohm {
            Some(v) => Shown::Value(Ohm::new(v).map_err(corrupt)?),
            None => {
                Shown::Overrange { ceiling: self.ceiling_ohm.map(Ohm::new).transpose().map_err(corrupt)? }
            }
        };
        Ok(Reading {
            shown,
            state: stored(&self.state)?,
            hot: self.hot,
            since_soldering: None,
            mode: stored(&self.mode)?,
            accuracy: self.accuracy()?,
        })
    }

    /// The reading as it is sent.
    ///
    /// # Errors
    /// [`ApiError::Internal`] for a row that cannot be.
    pub fn view(&self, before_fitting: bool) -> Result<ReadingView, ApiError> {
        let value = self.ohm.map(Ohm::new).transpose().map_err(corrupt)?;
        let half = value.zip(self.accuracy()?).map(|(v, a)| a.band(v).1.ohms() - v.ohms());
        let accuracy = half.map(Ohm::new).transpose().map_err(corrupt)?;
        Ok(ReadingView {
            id: self.id,
            measured: value.map(Amount::from),
            overrange: value.is_none(),
            state: Name(stored(&self.state)?),
            hot: self.hot,
            mode: Name(stored(&self.mode)?),
            instrument: self.instrument.clone(),
            accuracy: accuracy.map(|a| {
                format!(
                    "±{}",
                    owl_core::quantity::write::write_as(
                        owl_core::quantity::Quantity::Resistance,
                        a.ohms(),
                        2,
                        owl_core::quantity::write::CapacitanceStyle::WithNano,
                    )
                )
            }),
            typed: self.typed.clone(),
            taken_at: self.taken_at,
            before_fitting,
        })
    }
}

/// All readings of a ticket's parts, oldest first.
pub async fn of_ticket(db: impl PgExecutor<'_>, ticket_id: Uuid) -> Result<Vec<ReadingRow>, ApiError> {
    Ok(sqlx::query_as!(
        ReadingRow,
        "select r.id, part_id, ohm, ceiling_ohm, state, hot, mode, instrument_id, instrument, of_reading, counts,
                resolution_ohm, typed, taken_at
         from reading r join part p on p.id = r.part_id
         where p.ticket_id = $1 order by ordinal",
        ticket_id
    )
    .fetch_all(db)
    .await?)
}

/// Adds a reading, as of this moment; says whether it was new. The same reading sent twice is
/// added once.
pub async fn insert(db: &mut PgConnection, r: &ReadingRow) -> Result<bool, ApiError> {
    let done = sqlx::query!(
        "insert into reading (id, part_id, ohm, overrange, ceiling_ohm, state, hot, mode, instrument_id, instrument,
                              of_reading, counts, resolution_ohm, typed, taken_at)
         values ($1, $2, $3, $3::float8 is null, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, clock_timestamp())
         on conflict (id) do nothing",
        r.id,
        r.part_id,
        r.ohm,
        r.ceiling_ohm,
        r.state,
        r.hot,
        r.mode,
        r.instrument_id,
        r.instrument,
        r.of_reading,
        r.counts,
        r.resolution_ohm,
        r.typed
    )
    .execute(db)
    .await?;
    Ok(done.rows_affected() == 1)
}

/// The meter that was last read on a ticket.
pub async fn last_meter(db: &mut PgConnection, ticket_id: Uuid) -> Result<Option<Uuid>, ApiError> {
    Ok(sqlx::query_scalar!(
        "select instrument_id from reading r join part p on p.id = r.part_id
         where p.ticket_id = $1 and instrument_id is not null order by ordinal desc limit 1",
        ticket_id
    )
    .fetch_optional(db)
    .await?
    .flatten())
}
