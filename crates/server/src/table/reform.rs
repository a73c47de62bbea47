//! All SQL of reforming.

use owl_core::part::Position;
use owl_core::reform::bench::Bench;
use owl_core::reform::run::{Phase, Run};
use owl_core::stored::Stored;
use owl_core::verdict::School;
use sqlx::types::Json;
use sqlx::{PgConnection, PgExecutor};
use time::OffsetDateTime;
use uuid::Uuid;

use super::error::{Row, StoreError};
use crate::table::reform_row::count;
pub use crate::table::reform_row::{News, RunRow};
use crate::table::reform_samples;

/// How long a server may be silent before another one takes its runs over, in second.
pub const LEASE_SECONDS: f64 = 4.0;

/// As the database has it.
struct Record {
    id: Uuid,
    part_id: Uuid,
    ticket_id: Uuid,
    part: String,
    set: String,
    position: Option<Position>,
    section: String,
    speed: f64,
    school: School,
    state: Json<Stored<Run>>,
    bench: Option<Json<Stored<Bench>>>,
    expected_s: f64,
    samples: i64,
    words: i64,
    clock_s: f64,
    advanced_at: OffsetDateTime,
    driver: Option<Uuid>,
    driven_until: Option<OffsetDateTime>,
    created_at: OffsetDateTime,
    switched_on_at: Option<OffsetDateTime>,
    thinned: Option<String>,
    now: OffsetDateTime,
}

impl Record {
    fn row(self) -> RunRow {
        RunRow {
            run: self.state.0.0,
            bench: self.bench.map(|b| b.0.0),
            id: self.id,
            part_id: self.part_id,
            ticket_id: self.ticket_id,
            part: self.part,
            set: self.set,
            position: self.position,
            section: self.section,
            speed: self.speed,
            school: self.school,
            expected_s: self.expected_s,
            samples: self.samples,
            words: self.words,
            clock_s: self.clock_s,
            advanced_at: self.advanced_at,
            driver: self.driver,
            driven_until: self.driven_until,
            created_at: self.created_at,
            switched_on_at: self.switched_on_at,
            thinned: self.thinned,
            now: self.now,
        }
    }
}

impl RunRow {
    /// Seconds since its clock was last set.
    #[must_use]
    pub fn elapsed(&self) -> f64 {
        (self.now - self.advanced_at).as_seconds_f64().max(0.0)
    }

    /// Whether the server that drove it has been silent for too long while it may be charged.
    #[must_use]
    pub fn adrift(&self) -> bool {
        let live = matches!(self.run.phase, Phase::Feeding(_) | Phase::Emptying(_));
        live && self.driven_until.is_some_and(|until| until < self.now)
    }
}

macro_rules! runs {
    ($where:literal $(, $arg:expr)*) => {
        sqlx::query_as!(
            Record,
            r#"select id as "id!", part_id as "part_id!", ticket_id as "ticket_id!", part as "part!", set as "set!", position,
                      section as "section!", speed as "speed!", school as "school!", state as "state!", bench,
                      expected_s as "expected_s!", samples as "samples!", words as "words!", clock_s as "clock_s!",
                      advanced_at as "advanced_at!", driver, driven_until, created_at as "created_at!", switched_on_at, thinned,
                      now as "now!" from reform_now where "# + $where
            $(, $arg)*
        )
    };
}

/// One run.
///
/// # Errors
/// [`StoreError::Gone`].
pub async fn find(db: impl PgExecutor<'_>, id: Uuid) -> Result<RunRow, StoreError> {
    let found = runs!("id = $1", id).fetch_optional(db).await?;
    found.map(Record::row).ok_or_else(|| StoreError::Gone(Row::ReformRun))
}

/// One run, held until the transaction ends.
///
/// # Errors
/// [`StoreError::Gone`].
pub async fn lock(db: &mut PgConnection, id: Uuid) -> Result<RunRow, StoreError> {
    sqlx::query!("select id from reform_run where id = $1 for update", id).fetch_optional(&mut *db).await?;
    find(&mut *db, id).await
}

/// Those that are not over: under way first, then as they were prepared.
pub async fn open(db: impl PgExecutor<'_>) -> Result<Vec<RunRow>, StoreError> {
    let rows = runs!("phase <> 'over' order by phase = 'ready', ordinal").fetch_all(db).await?;
    Ok(rows.into_iter().map(Record::row).collect())
}

/// The runs of a part, latest first.
pub async fn of_part(db: impl PgExecutor<'_>, part_id: Uuid) -> Result<Vec<RunRow>, StoreError> {
    let rows = runs!("part_id = $1 order by ordinal desc limit 20", part_id).fetch_all(db).await?;
    Ok(rows.into_iter().map(Record::row).collect())
}

/// The last one prepared, for its supply.
pub async fn last(db: impl PgExecutor<'_>) -> Result<Option<RunRow>, StoreError> {
    Ok(runs!("true order by ordinal desc limit 1").fetch_optional(db).await?.map(Record::row))
}

/// Several runs.
pub async fn all_of(db: &mut PgConnection, ids: &[Uuid]) -> Result<Vec<RunRow>, StoreError> {
    let rows = runs!("id = any($1) order by ordinal", ids).fetch_all(db).await?;
    Ok(rows.into_iter().map(Record::row).collect())
}

/// Who drove a run before.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Before {
    /// Nobody: its clock begins now.
    Nobody,
    /// This server.
    Me,
    /// Another one, which is silent.
    Another,
}

/// Takes the lease of all open runs that `driver` holds or that nobody does; with `over`, of those too whose holder is
/// silent. Says which, and who held them before. Runs that somebody is just telling something are
/// left out this time.
pub async fn claim(
    db: &mut PgConnection,
    driver: Uuid,
    over: bool,
) -> Result<Vec<(Uuid, Before)>, StoreError> {
    let rows = sqlx::query!(
        r#"with mine as (
             select id, driver from reform_run
             where phase <> 'over' and (driver is null or driver = $1 or ($2 and driven_until < clock_timestamp()))
             order by ordinal for update skip locked
           )
           update reform_run r set driver = $1, driven_until = clock_timestamp() + make_interval(secs => $3)
           from mine where r.id = mine.id
           returning r.id, mine.driver as before"#,
        driver,
        over,
        LEASE_SECONDS
    )
    .fetch_all(db)
    .await?;
    let before = |d: Option<Uuid>| match d {
        None => Before::Nobody,
        Some(d) if d == driver => Before::Me,
        Some(_) => Before::Another,
    };
    Ok(rows.into_iter().map(|r| (r.id, before(r.before))).collect())
}

/// A run to be prepared, as it is stored.
pub struct NewRow<'a> {
    /// Its id.
    pub id: Uuid,
    /// Its part.
    pub part_id: Uuid,
    /// Which section.
    pub section: &'a str,
    /// How fast the simulated bench runs.
    pub speed: f64,
    /// Whose limits decide.
    pub school: &'a str,
    /// The state machine.
    pub run: &'a Run,
    /// The simulated bench.
    pub bench: Option<&'a Bench>,
    /// How long a part as assumed would take.
    pub expected_s: f64,
    /// Which server drives it; none leaves it to the first that comes.
    pub driver: Option<Uuid>,
}

/// Whether a run is there already under that id. To be asked with the part held: an insertion that would meet another
/// one in the index of open runs could wait for the driver's turn while that waits for it.
///
/// # Errors
/// [`StoreError::OnTheReformingBench`] where the section lies on a bench already.
pub async fn is_there(
    db: &mut PgConnection,
    id: Uuid,
    part_id: Uuid,
    section: &str,
) -> Result<bool, StoreError> {
    let found = sqlx::query_scalar!(
        "select id from reform_run where id = $1 or (part_id = $2 and section = $3 and phase <> 'over')",
        id,
        part_id,
        section
    )
    .fetch_all(db)
    .await?;
    if found.iter().any(|other| *other != id) {
        return Err(StoreError::OnTheReformingBench);
    }
    Ok(!found.is_empty())
}

/// Prepares a run.
pub async fn insert(db: &mut PgConnection, n: &NewRow<'_>) -> Result<(), StoreError> {
    sqlx::query!(
        "insert into reform_run (id, part_id, section, way, speed, school, phase, state, bench, expected_s, driver, driven_until)
         values ($1, $2, $3, $4, $5, $6, 'ready', $7, $8, $9, $10,
                 case when $10::uuid is null then null else clock_timestamp() + make_interval(secs => $11) end)",
        n.id,
        n.part_id,
        n.section,
        owl_core::named::Named::name(n.run.mode),
        n.speed,
        n.school,
        Json(Stored(n.run)) as _,
        n.bench.map(|b| Json(Stored(b))) as _,
        n.expected_s,
        n.driver,
        LEASE_SECONDS
    )
    .execute(db)
    .await?;
    Ok(())
}

/// Writes runs back with what is new of them. All in a few statements, because two hundred runs write twice a second.
pub async fn write(db: &mut PgConnection, runs: &mut [(RunRow, News)]) -> Result<(), StoreError> {
    let (mut states, mut benches) = (Vec::new(), Vec::new());
    for (row, news) in runs.iter_mut() {
        row.samples += count(news.samples.len());
        row.words += count(news.said.len());
        states.push(Json(Stored(row.run.clone())));
        benches.push(row.bench.clone().map(|b| Json(Stored(b))));
    }
    let each = |f: &dyn Fn(&RunRow) -> f64| runs.iter().map(|(r, _)| f(r)).collect::<Vec<_>>();
    let ids: Vec<Uuid> = runs.iter().map(|(r, _)| r.id).collect();
    let phases: Vec<String> = runs.iter().map(|(r, _)| r.phase().to_owned()).collect();
    let endings: Vec<Option<String>> = runs.iter().map(|(r, _)| r.ending().map(str::to_owned)).collect();
    let nows: Vec<OffsetDateTime> = runs.iter().map(|(r, _)| r.now).collect();
    let samples: Vec<i64> = runs.iter().map(|(r, _)| r.samples).collect();
    let words: Vec<i64> = runs.iter().map(|(r, _)| r.words).collect();
    sqlx::query!(
        r#"update reform_run r set state = n.state, bench = n.bench, phase = n.phase, ending = n.ending, clock_s = n.clock_s,
                  advanced_at = n.now, speed = n.speed, samples = n.samples, words = n.words,
                  switched_on_at = case when r.phase = 'ready' and n.phase <> 'ready' then n.now else r.switched_on_at end,
                  over_at = case when n.phase <> 'over' then null when r.phase <> 'over' then n.now else r.over_at end
           from unnest($1::uuid[], $2::jsonb[], $3::jsonb[], $4::text[], $5::text[], $6::float8[], $7::timestamptz[],
                       $8::float8[], $9::int8[], $10::int8[])
                as n (id, state, bench, phase, ending, clock_s, now, speed, samples, words)
           where r.id = n.id"#,
        &ids,
        &states as _,
        &benches as _,
        &phases,
        &endings as &[Option<String>],
        &each(&|r| r.clock_s),
        &nows,
        &each(&|r| r.speed),
        &samples,
        &words
    )
    .execute(&mut *db)
    .await?;
    reform_samples::write(&mut *db, runs).await?;
    reform_samples::write_said(db, runs).await
}

/// Who acknowledged the cautions in a session.
pub async fn acknowledged(db: &mut PgConnection, session: Uuid) -> Result<Option<String>, StoreError> {
    Ok(sqlx::query_scalar!("select name from acknowledgement where session = $1", session)
        .fetch_optional(db)
        .await?)
}

/// Keeps an acknowledgement.
pub async fn acknowledge(
    db: &mut PgConnection,
    session: Uuid,
    run_id: Uuid,
    name: &str,
    cautions: &[String],
) -> Result<(), StoreError> {
    sqlx::query!(
        "insert into acknowledgement (id, session, run_id, name, cautions) values ($1, $2, $3, $4, $5)
         on conflict (session) do nothing",
        Uuid::now_v7(),
        session,
        run_id,
        name,
        cautions
    )
    .execute(db)
    .await?;
    Ok(())
}

/// Whether another section of the same part is fed or being emptied.
pub async fn neighbour_is_live(db: &mut PgConnection, row: &RunRow) -> Result<bool, StoreError> {
    let found = sqlx::query_scalar!(
        "select 1 as one from reform_run where part_id = $1 and id <> $2 and phase in ('feeding', 'emptying')",
        row.part_id,
        row.id
    )
    .fetch_optional(db)
    .await?;
    Ok(found.is_some())
}

/// Removes a run that was never switched on; says whether it was one.
pub async fn remove(db: &mut PgConnection, id: Uuid) -> Result<bool, StoreError> {
    let done =
        sqlx::query!("delete from reform_run where id = $1 and phase = 'ready'", id).execute(db).await?;
    Ok(done.rows_affected() == 1)
}

/// Which runs of a ticket's parts are open: part and section.
pub async fn open_parts(db: impl PgExecutor<'_>) -> Result<Vec<Uuid>, StoreError> {
    Ok(sqlx::query_scalar!("select part_id from reform_run where phase <> 'over'").fetch_all(db).await?)
}
