//! The readings of reforming by years: the year that is made ready, and those that are written out and thinned.

use std::io::Write;

use sqlx::{AssertSqlSafe, PgPool};
use tokio_stream::StreamExt;

use super::error::StoreError;

/// Makes the part for the coming year ready, where it is not.
///
/// # Errors
/// When the database does not answer.
pub async fn foresee(pool: &PgPool) -> Result<(), StoreError> {
    sqlx::query!("select reform_year(y) as \"done: _\" from generate_series(extract(year from now())::int, extract(year from now())::int + 1) y")
        .fetch_all(pool)
        .await?;
    Ok(())
}

/// The years that lie further back than so many, are not written out yet, and in which nothing is under way; oldest first.
///
/// # Errors
/// When the database does not answer.
pub async fn due(pool: &PgPool, years: u16) -> Result<Vec<i32>, StoreError> {
    Ok(sqlx::query_scalar!(
        r#"select y as "year!" from generate_series(1900, extract(year from now() at time zone 'UTC')::int - 1 - $1) y
           where to_regclass('reform_curve_' || y) is not null
             and not exists (select from reform_archive where year = y)
             and not exists (select from reform_run where phase <> 'over' and extract(year from created_at at time zone 'UTC') = y)
           order by y"#,
        i32::from(years)
    )
    .fetch_all(pool)
    .await?)
}

/// Writes the curves of a year out as CSV and thins them to about so many readings each. `settle` puts what was written
/// in its place: nothing is thinned before. How many readings were written; `None` where another server is at it.
///
/// # Errors
/// When the database does not answer, or the file cannot be written; then nothing was thinned.
pub async fn archive<W: Write + Send>(
    pool: &PgPool,
    year: i32,
    points: i32,
    file: &str,
    mut out: W,
    settle: impl FnOnce(W) -> anyhow::Result<()>,
) -> anyhow::Result<Option<i64>> {
    let mut tx = pool.begin().await?;
    let mine = sqlx::query_scalar!(r#"select pg_try_advisory_xact_lock(7304044, 2) as "mine!""#)
        .fetch_one(&mut *tx)
        .await?;
    if !mine {
        return Ok(None);
    }
    // A long backup reads the curves, too: the next turn tries again, and nobody who writes waits behind this.
    sqlx::query!("set local lock_timeout = '2s'").execute(&mut *tx).await?;
    // Nothing comes in between what is written out and what is thinned. A year is a number: nothing to quote.
    sqlx::query(AssertSqlSafe(format!("lock table reform_curve_{year} in exclusive mode")))
        .execute(&mut *tx)
        .await?;
    let copy = format!(
        "copy (select t.name as set, p.name as part, r.section, r.id as run, r.created_at as begun_at, c.at_s as seconds,
                      c.set_volts as ordered_volts, c.volts, c.amperes
               from reform_curve_{year} c join reform_run r on r.id = c.run_id join part p on p.id = r.part_id
               join ticket t on t.id = p.ticket_id order by r.created_at, r.id, c.n) to stdout with (format csv, header)"
    );
    {
        let mut lines = tx.copy_out_raw(&copy).await?;
        while let Some(some) = lines.try_next().await? {
            tokio::task::block_in_place(|| out.write_all(&some))?;
        }
    }
    tokio::task::block_in_place(|| settle(out))?;
    let readings = sqlx::query_scalar!(r#"select thin_year($1, $2, $3) as "n!""#, year, points, file)
        .fetch_one(&mut *tx)
        .await?;
    tx.commit().await?;
    Ok(Some(readings))
}
