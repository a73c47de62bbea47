//! All SQL of the workshop.

use sqlx::{PgExecutor, PgPool};

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
