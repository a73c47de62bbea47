//! All SQL of fittings.

use sqlx::{PgConnection, PgExecutor};
use time::OffsetDateTime;
use uuid::Uuid;

use crate::error::ApiError;

/// A fitting as stored, with its proof.
#[derive(Debug, Clone)]
pub struct FittingRow {
    /// Its id.
    pub id: Uuid,
    /// The part in whose place it went.
    pub part_id: Uuid,
    /// In words.
    pub description: String,
    /// Its value, in ohm.
    pub ohm: f64,
    /// Its tolerance, a fraction.
    pub tolerance: f64,
    /// Its rated watts.
    pub watts: Option<f64>,
    /// How it is made.
    pub family: String,
    /// What it measured before it went in, in ohm.
    pub measured_ohm: f64,
    /// A note.
    pub note: String,
    /// When.
    pub fitted_at: OffsetDateTime,
    /// Whether it worked, once that was proven.
    pub worked: Option<bool>,
    /// What was seen.
    pub seen: Option<String>,
    /// When it was proven.
    pub proven_at: Option<OffsetDateTime>,
}

/// All fittings of a ticket's parts, oldest first.
pub async fn of_ticket(db: impl PgExecutor<'_>, ticket_id: Uuid) -> Result<Vec<FittingRow>, ApiError> {
    Ok(sqlx::query_as!(
        FittingRow,
        r#"select f.id, part_id, description, ohm, f.tolerance, f.watts, f.family, measured_ohm, f.note, fitted_at,
                  worked as "worked?", seen as "seen?", proven_at as "proven_at?"
           from fitting f join part p on p.id = f.part_id left join proof on fitting_id = f.id
           where p.ticket_id = $1 order by f.ordinal"#,
        ticket_id
    )
    .fetch_all(db)
    .await?)
}

/// Adds a fitting, as of this moment; says whether it was new.
pub async fn insert(db: &mut PgConnection, f: &FittingRow) -> Result<bool, ApiError> {
    let done = sqlx::query!(
        "insert into fitting (id, part_id, description, ohm, tolerance, watts, family, measured_ohm, note, fitted_at)
         values ($1, $2, $3, $4, $5, $6, $7, $8, $9, clock_timestamp()) on conflict (id) do nothing",
        f.id,
        f.part_id,
        f.description,
        f.ohm,
        f.tolerance,
        f.watts,
        f.family,
        f.measured_ohm,
        f.note
    )
    .execute(db)
    .await?;
    Ok(done.rows_affected() == 1)
}

/// The part of a fitting, and the key of its proof where it is proven.
pub async fn find(db: &mut PgConnection, id: Uuid) -> Result<(Uuid, Option<Uuid>), ApiError> {
    let row = sqlx::query!(
        r#"select part_id, pr.id as "proof_id?" from fitting f left join proof pr on fitting_id = f.id where f.id = $1"#,
        id
    )
    .fetch_optional(db)
    .await?
    .ok_or_else(|| ApiError::no_such("fitting"))?;
    Ok((row.part_id, row.proof_id))
}

/// Whether a fitting under that key is there already.
pub async fn known(db: &mut PgConnection, key: Uuid) -> Result<bool, ApiError> {
    Ok(sqlx::query_scalar!("select exists (select from fitting where id = $1) as \"known!\"", key)
        .fetch_one(db)
        .await?)
}

/// Adds the proof of a fitting, as of this moment.
pub async fn prove(
    db: &mut PgConnection,
    key: Uuid,
    id: Uuid,
    worked: bool,
    seen: &str,
) -> Result<(), ApiError> {
    sqlx::query!(
        "insert into proof (id, fitting_id, worked, seen, proven_at) values ($1, $2, $3, $4, clock_timestamp())
         on conflict (id) do nothing",
        key,
        id,
        worked,
        seen
    )
    .execute(db)
    .await?;
    Ok(())
}
