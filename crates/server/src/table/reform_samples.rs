//! The SQL of readings and of what was said: both are only ever added to.

use owl_core::reform::Sample;
use owl_core::reform::run::Weight;
use sqlx::{PgConnection, PgExecutor};
use uuid::Uuid;

use super::error::StoreError;
use crate::table::reform_row::{News, RunRow, count};

/// Something said, as stored.
#[derive(Debug, Clone)]
pub struct SaidRow {
    /// When, in second of the run.
    pub at_s: f64,
    /// How pressing.
    pub weight: Weight,
    /// In words.
    pub text: String,
}

/// A reading with its number.
#[derive(Debug, Clone, Copy)]
pub struct SampleRow {
    /// Its number in the run.
    pub n: i64,
    /// Since the run was prepared.
    pub at_s: f64,
    /// What was ordered.
    pub set_volts: Option<f64>,
    /// Across the part.
    pub volts: f64,
    /// Into the part.
    pub amperes: f64,
}

impl SampleRow {
    /// The reading as the core knows it.
    #[must_use]
    pub fn sample(&self) -> Sample {
        Sample { at_s: self.at_s, set_volts: self.set_volts, volts: self.volts, amperes: self.amperes }
    }
}

/// The readings after the n-th, at most so many: with more of them, every so-manieth, and the last.
pub async fn after(
    db: impl PgExecutor<'_>,
    run_id: Uuid,
    after: i64,
    most: i64,
) -> Result<Vec<SampleRow>, StoreError> {
    Ok(sqlx::query_as!(
        SampleRow,
        r#"with begun as (select created_at from reform_run where id = $1),
                wanted as (select count(*) as many, max(n) as last from reform_curve
                           where run_id = $1 and run_at = (select created_at from begun) and n > $2)
           select n, at_s, set_volts, volts, amperes from reform_curve, wanted
           where run_id = $1 and run_at = (select created_at from begun) and n > $2 and ((n - $2) % greatest((many + $3 - 1) / $3, 1) = 0 or n = last)
           order by n"#,
        run_id,
        after,
        most
    )
    .fetch_all(db)
    .await?)
}

/// What was said of a run, latest first.
pub async fn said(db: impl PgExecutor<'_>, run_id: Uuid, most: i64) -> Result<Vec<SaidRow>, StoreError> {
    Ok(sqlx::query_as!(
        SaidRow,
        "select at_s, weight, text from reform_said where run_id = $1 order by n desc limit $2",
        run_id,
        most
    )
    .fetch_all(db)
    .await?)
}

/// Whether a reading was taken under that key.
pub async fn taken(db: &mut PgConnection, key: Uuid) -> Result<bool, StoreError> {
    Ok(sqlx::query_scalar!("select 1 as one from reform_key where key = $1", key)
        .fetch_optional(db)
        .await?
        .is_some())
}

/// Adds the new readings of runs.
pub(super) async fn write(db: &mut PgConnection, runs: &[(RunRow, News)]) -> Result<(), StoreError> {
    let (mut ids, mut begun, mut ns, mut at, mut set, mut volts, mut amperes) =
        (vec![], vec![], vec![], vec![], vec![], vec![], vec![]);
    let (mut keys, mut keyed) = (vec![], vec![]);
    for (row, news) in runs {
        let first = row.samples - count(news.samples.len());
        for (n, (s, key)) in (first + 1..).zip(&news.samples) {
            ids.push(row.id);
            begun.push(row.created_at);
            ns.push(n);
            at.push(s.at_s);
            set.push(s.set_volts);
            volts.push(s.volts);
            amperes.push(s.amperes);
            if let Some(key) = key {
                keys.push(*key);
                keyed.push(row.id);
            }
        }
    }
    if ids.is_empty() {
        return Ok(());
    }
    sqlx::query!(
        "insert into reform_curve (run_id, run_at, n, at_s, set_volts, volts, amperes)
         select * from unnest($1::uuid[], $2::timestamptz[], $3::int8[], $4::float8[], $5::float8[], $6::float8[], $7::float8[])",
        &ids,
        &begun,
        &ns,
        &at,
        &set as &[Option<f64>],
        &volts,
        &amperes
    )
    .execute(&mut *db)
    .await?;
    if !keys.is_empty() {
        sqlx::query!(
            "insert into reform_key (key, run_id) select * from unnest($1::uuid[], $2::uuid[])",
            &keys,
            &keyed
        )
        .execute(db)
        .await?;
    }
    Ok(())
}

/// Adds what was said of runs.
pub(super) async fn write_said(db: &mut PgConnection, runs: &[(RunRow, News)]) -> Result<(), StoreError> {
    let (mut ids, mut ns, mut at, mut weights, mut texts) = (vec![], vec![], vec![], vec![], vec![]);
    for (row, news) in runs {
        let first = row.words - count(news.said.len());
        for (n, s) in (first + 1..).zip(&news.said) {
            ids.push(row.id);
            ns.push(n);
            at.push(s.at_s);
            weights.push(s.weight.to_string());
            texts.push(s.text.clone());
        }
    }
    if ids.is_empty() {
        return Ok(());
    }
    sqlx::query!(
        "insert into reform_said (run_id, n, at_s, weight, text)
         select * from unnest($1::uuid[], $2::int8[], $3::float8[], $4::text[], $5::text[])",
        &ids,
        &ns,
        &at,
        &weights,
        &texts
    )
    .execute(db)
    .await?;
    Ok(())
}
