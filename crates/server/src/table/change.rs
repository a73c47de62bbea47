//! All SQL of changes.

use owl_core::change::ChangeKind;
use owl_core::proof::ProofOutcome;
use sqlx::{PgConnection, PgExecutor};
use time::OffsetDateTime;
use uuid::Uuid;

use super::error::{Row, StoreError};

/// A change as stored, with its proof and its undoing.
#[derive(Debug, Clone)]
pub struct ChangeRow {
    /// Its id; of a fitting, that of the fitting.
    pub id: Uuid,
    /// What kind.
    pub kind: ChangeKind,
    /// In words.
    pub what: String,
    /// The part that it is about, where it is about one.
    pub part: Option<String>,
    /// The change that it undoes.
    pub undoes: Option<Uuid>,
    /// Why it was begun while another was open.
    pub over_open: String,
    /// When.
    pub begun_at: OffsetDateTime,
    /// How the set was for it, by its last proof.
    pub outcome: Option<ProofOutcome>,
    /// What was seen.
    pub seen: Option<String>,
    /// When it was proven.
    pub proven_at: Option<OffsetDateTime>,
    /// When it was undone.
    pub undone_at: Option<OffsetDateTime>,
    /// Where what was taken out lies.
    pub bag: Option<String>,
    /// The stage that it is of.
    pub stage: Option<Uuid>,
}

/// All changes of a ticket, in the order in which they were begun.
pub async fn of_ticket(db: impl PgExecutor<'_>, ticket_id: Uuid) -> Result<Vec<ChangeRow>, StoreError> {
    Ok(sqlx::query_as!(
        ChangeRow,
        r#"select c.id, c.kind, c.what, p.name as "part?", c.undoes, c.over_open, c.begun_at, pr.outcome as "outcome?: ProofOutcome",
                  pr.seen as "seen?", pr.proven_at as "proven_at?", u.begun_at as "undone_at?", f.bag as "bag?", c.stage
           from change c left join part p on p.id = c.part_id left join last_proof pr on pr.change_id = c.id
                left join change u on u.undoes = c.id left join fitting f on f.id = c.id
           where c.ticket_id = $1 order by c.ordinal"#,
        ticket_id
    )
    .fetch_all(db)
    .await?)
}

/// A change that begins.
#[derive(Debug, Clone, Copy)]
pub struct Begins<'a> {
    /// Its id.
    pub id: Uuid,
    /// On which ticket.
    pub ticket_id: Uuid,
    /// What kind.
    pub kind: ChangeKind,
    /// In words.
    pub what: &'a str,
    /// The part that it is about.
    pub part_id: Option<Uuid>,
    /// The change that it undoes.
    pub undoes: Option<Uuid>,
    /// Why it is begun while another is open.
    pub over_open: &'a str,
    /// The stage that it is of.
    pub stage: Option<Uuid>,
}

/// Adds a change, as of this moment; says whether it was new.
pub async fn insert(db: &mut PgConnection, c: Begins<'_>) -> Result<bool, StoreError> {
    let done = sqlx::query!(
        "insert into change (id, ticket_id, kind, what, part_id, undoes, over_open, stage, begun_at)
         values ($1, $2, $3, $4, $5, $6, $7, $8, clock_timestamp()) on conflict (id) do nothing",
        c.id,
        c.ticket_id,
        c.kind as _,
        c.what,
        c.part_id,
        c.undoes,
        c.over_open,
        c.stage
    )
    .execute(db)
    .await?;
    Ok(done.rows_affected() == 1)
}

/// Lets one change at a time begin or end on a ticket, until the transaction ends.
pub async fn hold_ticket(db: &mut PgConnection, ticket_id: Uuid) -> Result<(), StoreError> {
    sqlx::query_scalar!("select id from ticket where id = $1 for no key update", ticket_id)
        .fetch_optional(db)
        .await?
        .map(|_| ())
        .ok_or_else(|| StoreError::Gone(Row::Ticket))
}

/// The ticket of a change, its kind, and whether it is known.
#[derive(Debug, Clone)]
pub struct Known {
    /// Its ticket.
    pub ticket_id: Uuid,
    /// What kind.
    pub kind: ChangeKind,
    /// In words.
    pub what: String,
    /// How the set was for it, by its last proof.
    pub outcome: Option<ProofOutcome>,
    /// The key of its undoing.
    pub undone: Option<Uuid>,
}

/// A change and what became of it.
pub async fn find(db: &mut PgConnection, id: Uuid) -> Result<Known, StoreError> {
    sqlx::query_as!(
        Known,
        r#"select c.ticket_id, c.kind, c.what, pr.outcome as "outcome?: ProofOutcome", u.id as "undone?"
           from change c left join last_proof pr on pr.change_id = c.id left join change u on u.undoes = c.id
           where c.id = $1"#,
        id
    )
    .fetch_optional(db)
    .await?
    .ok_or_else(|| StoreError::Gone(Row::Change))
}

/// The part of that name on a ticket.
pub async fn part_of(db: &mut PgConnection, ticket_id: Uuid, name: &str) -> Result<Option<Uuid>, StoreError> {
    Ok(sqlx::query_scalar!(
        "select id from part where ticket_id = $1 and lower(name) = lower($2)",
        ticket_id,
        name
    )
    .fetch_optional(db)
    .await?)
}
