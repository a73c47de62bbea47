//! All SQL of the workshop.

use owl_core::quantity::{Fraction, Ohm};
use owl_core::reading::Meter;
use sqlx::{PgExecutor, PgPool};
use uuid::Uuid;

use crate::error::ApiError;

/// The workshop's own row.
pub struct Named {
    /// Its name.
    pub name: String,
    /// Where it is.
    pub place: String,
}

/// The workshop's name; a nameless one before it was given a name.
pub async fn named(pool: &PgPool) -> Result<Named, ApiError> {
    let row = sqlx::query_as!(Named, "select name, place from workshop").fetch_optional(pool).await?;
    Ok(row.unwrap_or(Named { name: "The bench".to_owned(), place: String::new() }))
}

/// Names the workshop.
pub async fn name(db: impl PgExecutor<'_>, name: &str, place: &str) -> Result<(), ApiError> {
    sqlx::query!(
        "insert into workshop (name, place) values ($1, $2)
         on conflict (id) do update set name = excluded.name, place = excluded.place",
        name,
        place
    )
    .execute(db)
    .await?;
    Ok(())
}

/// A meter as stored.
#[derive(Debug, Clone)]
pub struct MeterRow {
    /// Its id.
    pub id: Uuid,
    /// Its name.
    pub name: String,
    /// How it measures.
    pub mode: String,
    /// Share of the reading.
    pub of_reading: f64,
    /// Counts in the last digit.
    pub counts: f64,
    /// Counts of the display.
    pub display: i32,
    /// Resolution of the lowest range.
    pub finest_ohm: f64,
    /// The most that it can show.
    pub ceiling_ohm: f64,
}

impl MeterRow {
    /// The meter as the core knows it.
    ///
    /// # Errors
    /// [`ApiError::Internal`] if the row is impossible.
    pub fn meter(&self) -> Result<Meter, ApiError> {
        let internal = |e: &dyn std::fmt::Display| ApiError::Internal(format!("meter {}: {e}", self.name));
        Ok(Meter {
            of_reading: Fraction::new(self.of_reading).map_err(|e| internal(&e))?,
            counts: self.counts,
            display: u32::try_from(self.display).map_err(|e| internal(&e))?,
            finest: Ohm::new(self.finest_ohm).map_err(|e| internal(&e))?,
            ceiling: Ohm::new(self.ceiling_ohm).map_err(|e| internal(&e))?,
        })
    }
}

/// All meters, in the workshop's order.
pub async fn meters(db: impl PgExecutor<'_>) -> Result<Vec<MeterRow>, ApiError> {
    Ok(sqlx::query_as!(
        MeterRow,
        "select id, name, mode, of_reading, counts, display, finest_ohm, ceiling_ohm
         from instrument order by place, name"
    )
    .fetch_all(db)
    .await?)
}

/// Adds a meter.
pub async fn add_meter(db: impl PgExecutor<'_>, m: &MeterRow, place: i32) -> Result<(), ApiError> {
    sqlx::query!(
        "insert into instrument (id, name, mode, of_reading, counts, display, finest_ohm, ceiling_ohm, place)
         values ($1, $2, $3, $4, $5, $6, $7, $8, $9)",
        m.id,
        m.name,
        m.mode,
        m.of_reading,
        m.counts,
        m.display,
        m.finest_ohm,
        m.ceiling_ohm,
        place
    )
    .execute(db)
    .await?;
    Ok(())
}
