//! All SQL of lots.

use owl_core::transistor::circuit::Stage;
use sqlx::{PgConnection, PgExecutor};
use uuid::Uuid;

use super::error::{Row, StoreError};

/// A lot as stored.
#[derive(Debug, Clone)]
pub struct LotRow {
    /// Its id.
    pub id: Uuid,
    /// Its version.
    pub version: i32,
    /// What it is called.
    pub name: String,
    /// The type of its pieces.
    pub type_number: String,
    /// The stage that the pairs are for.
    pub stage: Option<Stage>,
    /// The current of the gain test, in ampere.
    pub test_amperes: Option<f64>,
    /// The emitter resistors, in ohm.
    pub emitter_ohms: Option<f64>,
    /// The quiescent current, in ampere.
    pub idle_amperes: Option<f64>,
}

/// A piece as stored.
#[derive(Debug, Clone)]
pub struct PieceRow {
    /// Its lot.
    pub lot_id: Uuid,
    /// What is written on it.
    pub label: String,
    /// Its gain.
    pub gain: f64,
    /// Its base volts.
    pub base_volts: f64,
}

/// All lots with their pieces, or one.
pub async fn rows(
    db: &mut PgConnection,
    id: Option<Uuid>,
) -> Result<(Vec<LotRow>, Vec<PieceRow>), StoreError> {
    let lots = sqlx::query_as!(
        LotRow,
        "select id, version, name, type_number, stage, test_amperes, emitter_ohms, idle_amperes from match_lot
         where $1::uuid is null or id = $1 order by lower(name)",
        id
    )
    .fetch_all(&mut *db)
    .await?;
    let pieces = sqlx::query_as!(
        PieceRow,
        "select lot_id, label, gain, base_volts from match_piece where $1::uuid is null or lot_id = $1
         order by lot_id, place",
        id
    )
    .fetch_all(db)
    .await?;
    Ok((lots, pieces))
}

/// Adds a lot; `false` where it is there already.
pub async fn insert(db: &mut PgConnection, row: &LotRow) -> Result<bool, StoreError> {
    let new = sqlx::query!(
        "insert into match_lot (id, name, type_number, test_amperes, emitter_ohms, idle_amperes, stage)
         values ($1, $2, $3, $4, $5, $6, $7) on conflict (id) do nothing",
        row.id,
        row.name,
        row.type_number,
        row.test_amperes,
        row.emitter_ohms,
        row.idle_amperes,
        row.stage as _
    )
    .execute(db)
    .await
    .map_err(|e| StoreError::naming(Row::MatchLot, &row.name, e))?;
    Ok(new.rows_affected() == 1)
}

/// The version of a lot, which is held until the transaction ends.
pub async fn lock(db: &mut PgConnection, id: Uuid) -> Result<i32, StoreError> {
    sqlx::query_scalar!("select version from match_lot where id = $1 for update", id)
        .fetch_optional(db)
        .await?
        .ok_or_else(|| StoreError::Gone(Row::MatchLot))
}

/// Changes a lot.
pub async fn update(db: &mut PgConnection, row: &LotRow) -> Result<(), StoreError> {
    sqlx::query!(
        "update match_lot set name = $2, type_number = $3, test_amperes = $4, emitter_ohms = $5, idle_amperes = $6, stage = $7,
                              version = version + 1, updated_at = now() where id = $1",
        row.id,
        row.name,
        row.type_number,
        row.test_amperes,
        row.emitter_ohms,
        row.idle_amperes,
        row.stage as _
    )
    .execute(db)
    .await
    .map_err(|e| StoreError::naming(Row::MatchLot, &row.name, e))?;
    Ok(())
}

/// Writes the pieces of a lot anew.
pub async fn put_pieces(
    db: &mut PgConnection,
    id: Uuid,
    pieces: &[(String, f64, f64)],
) -> Result<(), StoreError> {
    sqlx::query!("delete from match_piece where lot_id = $1", id).execute(&mut *db).await?;
    let labels: Vec<String> = pieces.iter().map(|p| p.0.clone()).collect();
    let gains: Vec<f64> = pieces.iter().map(|p| p.1).collect();
    let volts: Vec<f64> = pieces.iter().map(|p| p.2).collect();
    sqlx::query!(
        "insert into match_piece (lot_id, place, label, gain, base_volts)
         select $1, (n - 1)::integer, l, g, v
         from unnest($2::text[], $3::double precision[], $4::double precision[]) with ordinality as p (l, g, v, n)",
        id,
        &labels,
        &gains,
        &volts
    )
    .execute(db)
    .await?;
    Ok(())
}

/// Takes a lot away; says how many there were.
pub async fn delete(db: impl PgExecutor<'_>, id: Uuid) -> Result<u64, StoreError> {
    Ok(sqlx::query!("delete from match_lot where id = $1", id).execute(db).await?.rows_affected())
}
