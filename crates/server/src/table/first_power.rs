//! All SQL of first power.

use owl_core::first_power::{LampStory, PowerSign};
use sqlx::PgExecutor;
use time::OffsetDateTime;
use uuid::Uuid;

use super::error::StoreError;

/// A step of the way up as stored.
#[derive(Debug, Clone)]
pub struct PowerRow {
    /// Its id.
    pub id: Uuid,
    /// What the variable transformer gave.
    pub volts: f64,
    /// The lamp in series, in watt.
    pub bulb: Option<f64>,
    /// What flowed.
    pub amperes: Option<f64>,
    /// What the lamp did.
    pub story: LampStory,
    /// What was noticed.
    pub signs: Vec<PowerSign>,
    /// A note.
    pub note: String,
    /// When.
    pub done_at: OffsetDateTime,
}

/// All steps of a ticket, oldest first.
pub async fn of_ticket(db: impl PgExecutor<'_>, ticket_id: Uuid) -> Result<Vec<PowerRow>, StoreError> {
    Ok(sqlx::query_as!(
        PowerRow,
        "select id, volts, bulb, amperes, story, signs, note, done_at from power_up where ticket_id = $1 order by ordinal",
        ticket_id
    )
    .fetch_all(db)
    .await?)
}

/// Adds a step, as of this moment.
pub async fn insert(db: impl PgExecutor<'_>, ticket_id: Uuid, p: &PowerRow) -> Result<(), StoreError> {
    sqlx::query!(
        "insert into power_up (id, ticket_id, volts, bulb, amperes, story, signs, note, done_at)
         values ($1, $2, $3, $4, $5, $6, $7, $8, clock_timestamp()) on conflict (id) do nothing",
        p.id,
        ticket_id,
        p.volts,
        p.bulb,
        p.amperes,
        p.story as _,
        &p.signs as _,
        p.note
    )
    .execute(db)
    .await?;
    Ok(())
}
