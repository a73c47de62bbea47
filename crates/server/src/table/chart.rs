//! All SQL of voltage charts.

use sqlx::{PgConnection, PgExecutor};
use time::OffsetDateTime;
use uuid::Uuid;

use super::error::{Row, StoreError};

/// A point as stored.
#[derive(Debug, Clone)]
pub struct PointRow {
    /// Its id.
    pub id: Uuid,
    /// What it is called: also the node of a feed.
    pub name: String,
    /// The type of the valve or transistor that it is at.
    pub valve: String,
    /// The pin there.
    pub pin: Option<i16>,
    /// In words.
    pub note: String,
    /// Volts by the sheet.
    pub sheet: Option<f64>,
    /// Ohms that feed it.
    pub fed_through: Option<f64>,
    /// A heater must be closer.
    pub heater: bool,
    /// Does not follow the line.
    pub steady: bool,
    /// The point that it belongs with.
    pub pair_id: Option<Uuid>,
    /// Where it stands in the chart.
    pub place: i32,
}

/// A set of readings as stored.
#[derive(Debug, Clone)]
pub struct RunRow {
    /// Its id.
    pub id: Uuid,
    /// Before, after, or any other moment.
    pub name: String,
    /// The line at that moment.
    pub line_volts: Option<f64>,
    /// The meter's resistance.
    pub meter: Option<f64>,
    /// When it was begun.
    pub begun_at: OffsetDateTime,
}

/// A reading as stored.
#[derive(Debug, Clone, Copy)]
pub struct VoltsRow {
    /// In which set.
    pub run_id: Uuid,
    /// At which point.
    pub point_id: Uuid,
    /// In volt.
    pub volts: f64,
}

/// A ticket's chart.
#[derive(Debug, Clone)]
pub struct ChartRows {
    /// In the order of the chart.
    pub points: Vec<PointRow>,
    /// Oldest first.
    pub runs: Vec<RunRow>,
    /// All readings.
    pub readings: Vec<VoltsRow>,
}

/// The chart of a ticket.
pub async fn of_ticket(db: &mut PgConnection, ticket_id: Uuid) -> Result<ChartRows, StoreError> {
    let points = sqlx::query_as!(
        PointRow,
        "select id, name, valve, pin, note, sheet, fed_through, heater, steady, pair_id, place
         from chart_point where ticket_id = $1 order by place, name",
        ticket_id
    )
    .fetch_all(&mut *db)
    .await?;
    let runs = sqlx::query_as!(
        RunRow,
        "select id, name, line_volts, meter, begun_at from chart_run where ticket_id = $1 order by ordinal",
        ticket_id
    )
    .fetch_all(&mut *db)
    .await?;
    let readings = sqlx::query_as!(
        VoltsRow,
        "select run_id, point_id, volts from chart_reading c join chart_run r on r.id = c.run_id where r.ticket_id = $1",
        ticket_id
    )
    .fetch_all(&mut *db)
    .await?;
    Ok(ChartRows { points, runs, readings })
}

/// Adds a point at the end of the chart, or writes one back under its id.
pub async fn put_point(db: &mut PgConnection, ticket_id: Uuid, p: &PointRow) -> Result<(), StoreError> {
    let done = sqlx::query!(
        "insert into chart_point (id, ticket_id, name, valve, pin, note, sheet, fed_through, heater, steady, pair_id, place)
         values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12)
         on conflict (id) do update set name = excluded.name, valve = excluded.valve, pin = excluded.pin,
             note = excluded.note, sheet = excluded.sheet, fed_through = excluded.fed_through, heater = excluded.heater,
             steady = excluded.steady, pair_id = excluded.pair_id
         where chart_point.ticket_id = excluded.ticket_id",
        p.id,
        ticket_id,
        p.name,
        p.valve,
        p.pin,
        p.note,
        p.sheet,
        p.fed_through,
        p.heater,
        p.steady,
        p.pair_id,
        p.place
    )
    .execute(db)
    .await;
    match done {
        Ok(done) if done.rows_affected() == 0 => Err(StoreError::Gone(Row::Point)),
        Ok(_) => Ok(()),
        Err(e) => Err(StoreError::naming(Row::Point, &p.name, e)),
    }
}

/// The ticket of a point.
pub async fn ticket_of_point(db: impl PgExecutor<'_>, id: Uuid) -> Result<Uuid, StoreError> {
    sqlx::query_scalar!("select ticket_id from chart_point where id = $1", id)
        .fetch_optional(db)
        .await?
        .ok_or_else(|| StoreError::Gone(Row::Point))
}

/// What a point is called.
pub async fn name_of_point(db: impl PgExecutor<'_>, id: Uuid) -> Result<String, StoreError> {
    sqlx::query_scalar!("select name from chart_point where id = $1", id)
        .fetch_optional(db)
        .await?
        .ok_or_else(|| StoreError::Gone(Row::Point))
}

/// Takes a point out of the chart, with what was read there.
pub async fn remove_point(db: impl PgExecutor<'_>, id: Uuid) -> Result<(), StoreError> {
    sqlx::query!("delete from chart_point where id = $1", id).execute(db).await?;
    Ok(())
}

/// Pairs two points with each other, and frees those that they were paired with.
pub async fn pair(db: &mut PgConnection, a: Uuid, b: Option<Uuid>) -> Result<(), StoreError> {
    sqlx::query!(
        "update chart_point set pair_id = null where id = $1 or pair_id = $1 or id = $2 or pair_id = $2",
        a,
        b
    )
    .execute(&mut *db)
    .await?;
    if let Some(b) = b {
        sqlx::query!(
            "update chart_point set pair_id = case when id = $1 then $2 else $1 end where id in ($1, $2)",
            a,
            b
        )
        .execute(&mut *db)
        .await?;
    }
    Ok(())
}

/// Begins a set of readings, or writes its name, line and meter back.
pub async fn put_run(db: impl PgExecutor<'_>, ticket_id: Uuid, r: &RunRow) -> Result<(), StoreError> {
    let done = sqlx::query!(
        "insert into chart_run (id, ticket_id, name, line_volts, meter) values ($1, $2, $3, $4, $5)
         on conflict (id) do update set name = excluded.name, line_volts = excluded.line_volts, meter = excluded.meter
         where chart_run.ticket_id = excluded.ticket_id",
        r.id,
        ticket_id,
        r.name,
        r.line_volts,
        r.meter
    )
    .execute(db)
    .await?;
    if done.rows_affected() == 0 { Err(StoreError::Gone(Row::ChartRun)) } else { Ok(()) }
}

/// The ticket of a set of readings.
pub async fn ticket_of_run(db: impl PgExecutor<'_>, id: Uuid) -> Result<Uuid, StoreError> {
    sqlx::query_scalar!("select ticket_id from chart_run where id = $1", id)
        .fetch_optional(db)
        .await?
        .ok_or_else(|| StoreError::Gone(Row::ChartRun))
}

/// Writes a reading down, as of this moment; `None` takes it away.
pub async fn read(
    db: impl PgExecutor<'_>,
    run: Uuid,
    point: Uuid,
    volts: Option<f64>,
) -> Result<(), StoreError> {
    match volts {
        Some(v) => sqlx::query!(
            "insert into chart_reading (run_id, point_id, volts, read_at) values ($1, $2, $3, clock_timestamp())
             on conflict (run_id, point_id) do update set volts = excluded.volts, read_at = excluded.read_at",
            run,
            point,
            v
        )
        .execute(db)
        .await?,
        None => sqlx::query!("delete from chart_reading where run_id = $1 and point_id = $2", run, point)
            .execute(db)
            .await?,
    };
    Ok(())
}

/// What was read at a point in a set.
pub async fn volts_at(db: impl PgExecutor<'_>, run: Uuid, point: Uuid) -> Result<Option<f64>, StoreError> {
    let there = sqlx::query_scalar!(
        "select volts from chart_reading where run_id = $1 and point_id = $2",
        run,
        point
    );
    Ok(there.fetch_optional(db).await?)
}
