//! How long things took in this workshop.

use sqlx::PgExecutor;

use super::error::StoreError;

/// Medians, in seconds.
#[derive(Debug, Clone)]
pub struct Past {
    /// From a reading to the next one of the same ticket.
    pub reading: Option<f64>,
    /// From a decision to the fitting that followed.
    pub fitting: Option<f64>,
    /// From a fitting to its proof.
    pub proof: Option<f64>,
    /// How many pairs of readings that rests on.
    pub readings: i64,
}

/// The workshop's pace. Gaps of more than half an hour are pauses, and those of less than two seconds were not a hand's.
pub async fn past(db: impl PgExecutor<'_>) -> Result<Past, StoreError> {
    Ok(sqlx::query_as!(
        Past,
        r#"with gap as (
             select extract(epoch from taken_at - lag(taken_at) over (partition by ticket_id order by ordinal))::float8 as s
             from reading
           ), step as (
             select extract(epoch from f.fitted_at - (select max(decided_at) from decision d
                                                      where d.part_id = f.part_id and d.decided_at < f.fitted_at))::float8 as fit,
                    extract(epoch from (select proven_at from proof where change_id = f.id) - f.fitted_at)::float8 as prove
             from fitting f
           )
           select (select percentile_cont(0.5) within group (order by s) from gap where s between 2 and 1800) as reading,
                  (select percentile_cont(0.5) within group (order by fit) from step where fit between 2 and 7200) as fitting,
                  (select percentile_cont(0.5) within group (order by prove) from step where prove between 2 and 7200) as proof,
                  (select count(*) from gap where s between 2 and 1800) as "readings!""#
    )
    .fetch_one(db)
    .await?)
}
