//! All SQL of banks.

use owl_core::bank::BankKind;
use sqlx::{PgConnection, PgExecutor};
use uuid::Uuid;

use super::error::{Row, StoreError};

/// A bank as stored.
#[derive(Debug, Clone)]
pub struct BankRow {
    /// Its id.
    pub id: Uuid,
    /// Its ticket.
    pub ticket_id: Uuid,
    /// What it is called.
    pub name: String,
    /// What is in series.
    pub kind: BankKind,
    /// Volts across all of it.
    pub volts: f64,
    /// Rises with every change.
    pub version: i32,
}

/// A member of a bank as stored.
#[derive(Debug, Clone, Copy)]
pub struct MemberRow {
    /// Of which bank.
    pub bank_id: Uuid,
    /// The part.
    pub part_id: Uuid,
    /// The resistor across it.
    pub across_id: Option<Uuid>,
}

/// The banks of a ticket, in the order in which they were put together, and their members from the high end to the low.
pub async fn of_ticket(
    db: &mut PgConnection,
    ticket_id: Uuid,
) -> Result<(Vec<BankRow>, Vec<MemberRow>), StoreError> {
    let banks = sqlx::query_as!(
        BankRow,
        "select id, ticket_id, name, kind, volts, version from bank where ticket_id = $1 order by ordinal",
        ticket_id
    )
    .fetch_all(&mut *db)
    .await?;
    if banks.is_empty() {
        return Ok((banks, vec![]));
    }
    let members = sqlx::query_as!(
        MemberRow,
        "select bank_id, part_id, across_id from bank_member where ticket_id = $1 order by bank_id, place",
        ticket_id
    )
    .fetch_all(&mut *db)
    .await?;
    Ok((banks, members))
}

/// One bank's ticket.
pub async fn ticket_of(db: impl PgExecutor<'_>, id: Uuid) -> Result<Uuid, StoreError> {
    sqlx::query_scalar!("select ticket_id from bank where id = $1", id)
        .fetch_optional(db)
        .await?
        .ok_or_else(|| StoreError::Gone(Row::Bank))
}

/// Writes a bank with its members; `seen` is the version that was seen, none for a new one.
///
/// # Errors
/// [`StoreError::Changed`] when somebody else wrote it since.
pub async fn put(
    db: &mut PgConnection,
    row: &BankRow,
    seen: Option<i32>,
    members: &[MemberRow],
) -> Result<(), StoreError> {
    let now = sqlx::query!("select ticket_id, version from bank where id = $1 for update", row.id)
        .fetch_optional(&mut *db)
        .await?;
    match (now, seen) {
        (None, None) => {
            sqlx::query!(
                "insert into bank (id, ticket_id, name, kind, volts) values ($1, $2, $3, $4, $5)",
                row.id,
                row.ticket_id,
                row.name,
                row.kind as _,
                row.volts
            )
            .execute(&mut *db)
            .await
            .map_err(|e| StoreError::naming(Row::Bank, &row.name, e))?;
        }
        (Some(now), Some(seen)) if now.ticket_id == row.ticket_id && now.version == seen => {
            sqlx::query!(
                "update bank set name = $2, kind = $3, volts = $4, version = version + 1 where id = $1",
                row.id,
                row.name,
                row.kind as _,
                row.volts
            )
            .execute(&mut *db)
            .await
            .map_err(|e| StoreError::naming(Row::Bank, &row.name, e))?;
            sqlx::query!("delete from bank_member where bank_id = $1", row.id).execute(&mut *db).await?;
        }
        (Some(now), _) if now.ticket_id == row.ticket_id => return Err(StoreError::Changed(Row::Bank)),
        (Some(_) | None, _) => return Err(StoreError::Gone(Row::Bank)),
    }
    for (place, m) in (0_i32..).zip(members) {
        sqlx::query!(
            "insert into bank_member (bank_id, ticket_id, place, part_id, across_id) values ($1, $2, $3, $4, $5)",
            row.id,
            row.ticket_id,
            place,
            m.part_id,
            m.across_id
        )
        .execute(&mut *db)
        .await?;
    }
    Ok(())
}

/// Takes a bank away; its parts stay on the tray.
pub async fn remove(db: &mut PgConnection, id: Uuid) -> Result<(), StoreError> {
    // Its members go first, so that they come back after it when that is undone.
    sqlx::query!("delete from bank_member where bank_id = $1", id).execute(&mut *db).await?;
    sqlx::query!("delete from bank where id = $1", id).execute(db).await?;
    Ok(())
}
