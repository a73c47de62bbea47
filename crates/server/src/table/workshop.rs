//! All SQL of the workshop.

use owl_core::dialect::Dialect;
use sqlx::PgExecutor;

use super::error::StoreError;
use crate::database::Database;

/// The workshop's own row.
pub struct Named {
    /// Its name.
    pub name: String,
    /// Where it is.
    pub place: String,
}

/// The workshop's name; a nameless one before it was given a name.
pub async fn named(db: &Database) -> Result<Named, StoreError> {
    let row = sqlx::query_as!(Named, "select name, place from workshop").fetch_optional(db).await?;
    Ok(row.unwrap_or(Named { name: "The bench".to_owned(), place: String::new() }))
}

/// Names the workshop, unless it has a name.
pub async fn name(db: impl PgExecutor<'_>, name: &str, place: &str) -> Result<(), StoreError> {
    sqlx::query!(
        "insert into workshop (name, place) values ($1, $2)
         on conflict (id) do nothing",
        name,
        place
    )
    .execute(db)
    .await?;
    Ok(())
}

/// The words that it has chosen; the British trade's before it chose any.
pub async fn dialect(db: &Database) -> Result<Dialect, StoreError> {
    let row =
        sqlx::query_as!(Dialect, "select valve, supply, anode, earth, heater, capacitance from workshop")
            .fetch_optional(db)
            .await?;
    Ok(row.unwrap_or(Dialect::BRITISH))
}

/// Chooses them.
pub async fn choose_dialect(db: impl PgExecutor<'_>, d: Dialect) -> Result<(), StoreError> {
    sqlx::query!(
        "insert into workshop (name, valve, supply, anode, earth, heater, capacitance)
         values ('The bench', $1, $2, $3, $4, $5, $6)
         on conflict (id) do update set valve = excluded.valve, supply = excluded.supply, anode = excluded.anode,
             earth = excluded.earth, heater = excluded.heater, capacitance = excluded.capacitance",
        d.valve as _,
        d.supply as _,
        d.anode as _,
        d.earth as _,
        d.heater as _,
        d.capacitance as _,
    )
    .execute(db)
    .await?;
    Ok(())
}
