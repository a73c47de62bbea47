//! All SQL of fittings.

use owl_core::part::{MadeOf, PartKind, SafetyClass};
use owl_core::proof::ProofOutcome;
use sqlx::{PgConnection, PgExecutor};
use time::OffsetDateTime;
use uuid::Uuid;

use super::error::{Row, StoreError};

/// A fitting as stored, with its proof.
#[derive(Debug, Clone)]
pub struct FittingRow {
    /// Its id.
    pub id: Uuid,
    /// The part in whose place it went.
    pub part_id: Uuid,
    /// What went in is of this kind.
    pub kind: PartKind,
    /// In words.
    pub description: String,
    /// Its value, in the base unit of its kind.
    pub value: Option<f64>,
    /// Its tolerance, a fraction.
    pub tolerance: Option<f64>,
    /// Its rated watts.
    pub watts: Option<f64>,
    /// Its rated volts.
    pub volts: Option<f64>,
    /// Its type number.
    pub type_number: String,
    /// How it is made.
    pub family: Option<MadeOf>,
    /// The safety class that is marked on it.
    pub safety: Option<SafetyClass>,
    /// What it measured before it went in, in the base unit of what such a part is read in.
    pub measured: Option<f64>,
    /// How old stock was tested.
    pub test: String,
    /// Why it went in although it fell short of its place; empty where it did not.
    pub despite: String,
    /// A note.
    pub note: String,
    /// Where the old part lies.
    pub bag: String,
    /// When.
    pub fitted_at: OffsetDateTime,
    /// How the set was for it, by its last proof.
    pub outcome: Option<ProofOutcome>,
    /// What was seen.
    pub seen: Option<String>,
    /// What was checked, in words.
    pub checks: Vec<String>,
    /// What earlier proofs said, the first first.
    pub earlier: Vec<String>,
    /// When it was proven last.
    pub proven_at: Option<OffsetDateTime>,
    /// When it was undone.
    pub withdrawn_at: Option<OffsetDateTime>,
    /// Why.
    pub withdrawn_why: Option<String>,
    /// What was taken for it, and where it lay.
    pub taken: Vec<String>,
}

/// All fittings of some parts, oldest first, those that were undone among them.
pub async fn of_parts(db: impl PgExecutor<'_>, parts: &[Uuid]) -> Result<Vec<FittingRow>, StoreError> {
    Ok(sqlx::query_as!(
        FittingRow,
        r#"select f.id, part_id, f.kind, description, value, f.tolerance, f.watts, volts, type_number, f.family, safety,
                  measured, test, despite, f.note, bag, fitted_at, outcome as "outcome?: _",
                  seen as "seen?",
                  array(select jsonb_array_elements_text(coalesce(pr.checks, '[]'))) as "checks!", proven_at as "proven_at?",
                  array(select pf.outcome || ': ' || pf.seen from proof pf where pf.change_id = f.id and pf.id <> pr.id
                        order by pf.proven_at, pf.id) as "earlier!",
                  withdrawn_at as "withdrawn_at?", why as "withdrawn_why?",
                  array(select case when count > 1 then count || ' × ' else '' end || fp.description
                               || case when lies_in <> '' then ', ' || lies_in else '' end
                        from fitting_piece fp where fp.fitting_id = f.id order by place) as "taken!"
           from fitting f left join last_proof pr on pr.change_id = f.id
                left join withdrawal w on w.fitting_id = f.id
           where part_id = any($1) order by f.ordinal"#,
        parts
    )
    .fetch_all(db)
    .await?)
}

/// Adds a fitting, as of this moment; says whether it was new.
pub async fn insert(db: &mut PgConnection, f: &FittingRow) -> Result<bool, StoreError> {
    let done = sqlx::query!(
        "insert into fitting (id, part_id, kind, description, value, tolerance, watts, volts, type_number, family, safety,
                              measured, test, note, bag, despite, fitted_at)
         values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14, $15, $16, clock_timestamp())
         on conflict (id) do nothing",
        f.id,
        f.part_id,
        f.kind as _,
        f.description,
        f.value,
        f.tolerance,
        f.watts,
        f.volts,
        f.type_number,
        f.family as _,
        f.safety as _,
        f.measured,
        f.test,
        f.note,
        f.bag,
        f.despite
    )
    .execute(db)
    .await?;
    Ok(done.rows_affected() == 1)
}

/// A piece that was taken for a fitting.
#[derive(Debug, Clone)]
pub struct PieceRow {
    /// From which lot; none where it was bought for this.
    pub lot_id: Option<Uuid>,
    /// How many.
    pub count: i32,
    /// In a line.
    pub description: String,
    /// Where it lay.
    pub lies_in: String,
}

/// Adds the pieces of a fitting.
pub async fn insert_pieces(
    db: &mut PgConnection,
    fitting: Uuid,
    pieces: &[PieceRow],
) -> Result<(), StoreError> {
    for (i, p) in pieces.iter().enumerate() {
        sqlx::query!(
            "insert into fitting_piece (fitting_id, place, lot_id, count, description, lies_in)
             values ($1, $2, $3, $4, $5, $6)",
            fitting,
            i32::try_from(i).unwrap_or(i32::MAX),
            p.lot_id,
            p.count,
            p.description,
            p.lies_in
        )
        .execute(&mut *db)
        .await?;
    }
    Ok(())
}

/// The pieces of a fitting that came from drawers which are still there, and what one of them measured.
pub async fn pieces(db: &mut PgConnection, fitting: Uuid) -> Result<Vec<(Uuid, i32)>, StoreError> {
    let rows = sqlx::query!(
        r#"select lot_id as "lot_id!", count from fitting_piece where fitting_id = $1 and lot_id is not null
           order by lot_id"#,
        fitting
    )
    .fetch_all(db)
    .await?;
    Ok(rows.into_iter().map(|r| (r.lot_id, r.count)).collect())
}

/// What is known of a fitting that is proven or undone.
#[derive(Debug, Clone)]
pub struct Past {
    /// The part in whose place it went.
    pub part_id: Uuid,
    /// The key of its withdrawal, where it was undone.
    pub withdrawal: Option<Uuid>,
    /// What it measured.
    pub measured: Option<f64>,
}

/// A fitting and what became of it.
pub async fn find(db: &mut PgConnection, id: Uuid) -> Result<Past, StoreError> {
    sqlx::query_as!(
        Past,
        r#"select part_id, w.id as "withdrawal?", measured
           from fitting f left join withdrawal w on w.fitting_id = f.id where f.id = $1"#,
        id
    )
    .fetch_optional(db)
    .await?
    .ok_or_else(|| StoreError::Gone(Row::Fitting))
}

/// Whether a fitting of a part is there already under that key.
pub async fn known(db: &mut PgConnection, key: Uuid, part: Uuid) -> Result<bool, StoreError> {
    let known = sqlx::query_scalar!(
        "select exists (select from fitting where id = $1 and part_id = $2) as \"known!\"",
        key,
        part
    );
    Ok(known.fetch_one(db).await?)
}

/// Whether something was fitted in that place after this one and not undone.
pub async fn followed(db: &mut PgConnection, id: Uuid) -> Result<bool, StoreError> {
    Ok(sqlx::query_scalar!(
        r#"select exists (select from fitting f join fitting g on g.part_id = f.part_id and g.ordinal > f.ordinal
                          where f.id = $1 and not exists (select from withdrawal w where w.fitting_id = g.id))
           as "followed!""#,
        id
    )
    .fetch_one(db)
    .await?)
}

/// Whether a proof of a change under that key is there already.
pub async fn proven_under(db: &mut PgConnection, key: Uuid, change: Uuid) -> Result<bool, StoreError> {
    let known = sqlx::query_scalar!(
        "select exists (select from proof where id = $1 and change_id = $2) as \"known!\"",
        key,
        change
    );
    Ok(known.fetch_one(db).await?)
}

/// Adds a proof of a change, as of this moment.
pub async fn prove(
    db: &mut PgConnection,
    key: Uuid,
    id: Uuid,
    outcome: ProofOutcome,
    seen: &str,
    checks: &[String],
) -> Result<(), StoreError> {
    let checks = serde_json::Value::from(checks.to_vec());
    sqlx::query!(
        "insert into proof (id, change_id, outcome, seen, checks, proven_at)
         values ($1, $2, $3, $4, $5, clock_timestamp())
         on conflict (id) do nothing",
        key,
        id,
        outcome as _,
        seen,
        checks
    )
    .execute(db)
    .await?;
    Ok(())
}

/// Undoes a fitting, as of this moment.
pub async fn withdraw(db: &mut PgConnection, key: Uuid, id: Uuid, why: &str) -> Result<(), StoreError> {
    sqlx::query!(
        "insert into withdrawal (id, fitting_id, why, withdrawn_at) values ($1, $2, $3, clock_timestamp())",
        key,
        id,
        why
    )
    .execute(db)
    .await?;
    Ok(())
}
