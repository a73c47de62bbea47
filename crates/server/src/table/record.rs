//! All SQL of records that leave and come in.

use serde_json::Value;
use sqlx::{PgConnection, PgExecutor};
use uuid::Uuid;

use super::error::StoreError;

/// The rows of a ticket, table by table.
pub async fn rows(db: impl PgExecutor<'_>, ticket: Uuid) -> Result<Value, StoreError> {
    Ok(sqlx::query_scalar!("select ticket_rows($1) as \"rows!\"", ticket).fetch_one(db).await?)
}

/// Whether a ticket of that id is here.
pub async fn is_here(db: &mut PgConnection, ticket: Uuid) -> Result<bool, StoreError> {
    Ok(sqlx::query_scalar!("select exists (select from ticket where id = $1) as \"here!\"", ticket)
        .fetch_one(db)
        .await?)
}

/// Takes rows in. What does not hold together is refused; the transaction is to be thrown away then.
///
/// # Errors
/// [`StoreError::Refused`].
pub async fn take(db: &mut PgConnection, rows: &Value) -> Result<(), StoreError> {
    match sqlx::query_scalar!("select take_ticket_rows($1)", rows).fetch_one(db).await {
        Ok(_) => Ok(()),
        Err(sqlx::Error::Database(e)) => {
            let class = e.code().map(|c| c.chars().take(2).collect::<String>()).unwrap_or_default();
            match class.as_str() {
                // Data that is none (22), that a constraint refuses (23), or that a row cannot be made of (42).
                "22" | "23" | "42" => Err(StoreError::Refused(e.message().to_owned())),
                _ => Err(sqlx::Error::Database(e).into()),
            }
        }
        Err(e) => Err(e.into()),
    }
}
