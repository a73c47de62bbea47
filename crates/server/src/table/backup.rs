//! The backups that were written, and those that failed.

use sqlx::PgPool;
use time::OffsetDateTime;

use super::error::StoreError;
use crate::database::Database;

/// How the backups stand.
#[derive(Debug, Clone, PartialEq)]
pub struct Standing {
    /// When the last good one was begun.
    pub last: Option<OffsetDateTime>,
    /// Why the newest one failed, if it did.
    pub failed: Option<String>,
    /// Since when there is a workshop to back up.
    pub since: Option<OffsetDateTime>,
    /// The database's time.
    pub now: OffsetDateTime,
}

/// How the backups stand.
///
/// # Errors
/// When the database does not answer.
pub async fn standing(db: &Database) -> Result<Standing, StoreError> {
    Ok(sqlx::query_as!(
        Standing,
        r#"select (select begun_at from backup where bytes is not null order by n desc limit 1) as last,
                  (select failed from backup where ended_at is not null order by n desc limit 1) as failed,
                  (select min(created_at) from ticket) as since,
                  clock_timestamp() as "now!""#
    )
    .fetch_one(db)
    .await?)
}

/// Notes that a backup is begun; its number.
///
/// # Errors
/// When the database does not answer.
pub async fn begin(pool: &PgPool, file: &str) -> Result<i64, StoreError> {
    Ok(sqlx::query_scalar!("insert into backup (file) values ($1) returning n", file).fetch_one(pool).await?)
}

/// Notes how it ended: so many bytes, or why it failed.
///
/// # Errors
/// When the database does not answer.
pub async fn end(pool: &PgPool, n: i64, done: Result<i64, String>) -> Result<(), StoreError> {
    let (bytes, failed) = match done {
        Ok(bytes) => (Some(bytes), None),
        Err(why) => (None, Some(why.chars().take(1000).collect::<String>())),
    };
    sqlx::query!(
        "update backup set ended_at = clock_timestamp(), bytes = $2, failed = $3 where n = $1",
        n,
        bytes,
        failed
    )
    .execute(pool)
    .await?;
    Ok(())
}

/// Takes the turn of a scheduled backup where the last one was begun so long ago, failed or not; of several servers one
/// gets it.
///
/// # Errors
/// When the database does not answer.
pub async fn take_turn(pool: &PgPool, file: &str, every_s: f64) -> Result<Option<i64>, StoreError> {
    let mut tx = pool.begin().await?;
    sqlx::query!("select pg_advisory_xact_lock(7304044, 1)").execute(&mut *tx).await?;
    // What failed is tried again sooner; what never ended was cut off.
    let n = sqlx::query_scalar!(
        "insert into backup (file)
         select $1 where not exists (
             select from backup
             where begun_at > clock_timestamp() - make_interval(secs => case
                 when failed is not null then least($2::double precision, 600)
                 when ended_at is null then least($2::double precision, 3600)
                 else $2::double precision end))
         returning n",
        file,
        every_s
    )
    .fetch_optional(&mut *tx)
    .await?;
    tx.commit().await?;
    Ok(n)
}
