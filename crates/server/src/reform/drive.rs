//! Who turns the simulated bench's knob: one task in each server, twice a second, for all runs whose lease it holds.
//!
//! Nothing is kept in memory between two turns. Each reads the runs as they are stored, leads them to the present, and
//! stores them with their readings in one transaction: a server that is killed loses what came after its last turn,
//! and a database that was away gets all of it once it is back. It only ever drives the simulation inside this
//! program: no address of a real supply can be entered anywhere.

use std::panic::{AssertUnwindSafe, catch_unwind};
use std::time::{Duration, Instant};

use owl_core::quantity::{Second, Volt};
use owl_core::reform::Sample;
use owl_core::reform::run::{Event, Phase, Said, Weight};
use tokio::sync::watch;
use uuid::Uuid;

use crate::database::Database;
use crate::error::ApiError;
use crate::table::reform::{Before, News, RunRow};

/// How often a turn is taken.
const TURN: Duration = Duration::from_millis(500);
/// Whoever could not take a turn for so long has been away: what happened meanwhile is not known.
const AWAY_SECONDS: f64 = 30.0;
/// A server takes over the runs of another only when it has had the database for so long itself.
const STEADY: Duration = Duration::from_secs(3);

/// Drives runs until told to stop. At the end of an orderly stop the leases are let run out: another server, or this
/// one started anew, finds the runs and shows them as interrupted.
pub async fn drive(db: Database, driver: Uuid, mut stop: watch::Receiver<bool>) {
    let mut steady_since: Option<Instant> = None;
    let mut turn = tokio::time::interval(TURN);
    turn.set_missed_tick_behavior(tokio::time::MissedTickBehavior::Delay);
    loop {
        tokio::select! {
            _ = turn.tick() => {}
            _ = stop.changed() => return,
        }
        let steady = steady_since.is_some_and(|s| s.elapsed() >= STEADY);
        match one_turn(&db, driver, steady).await {
            Ok(()) => steady_since = steady_since.or_else(|| Some(Instant::now())),
            Err(ApiError::Database) => steady_since = None,
            Err(e) => {
                steady_since = None;
                tracing::error!(?e, "a turn at the reforming bench failed");
            }
        }
    }
}

/// Leads all runs of this server to the present.
async fn one_turn(db: &Database, driver: Uuid, steady: bool) -> Result<(), ApiError> {
    let mut tx = db.begin().await?;
    let claimed = crate::table::reform::claim(&mut tx, driver, steady).await?;
    if claimed.is_empty() {
        return Ok(());
    }
    let ids: Vec<Uuid> = claimed.iter().map(|(id, _)| *id).collect();
    let rows = crate::table::reform::all_of(&mut tx, &ids).await?;
    let mut led = tokio::task::spawn_blocking(move || {
        rows.into_iter()
            .map(|mut row| {
                let before =
                    claimed.iter().find(|(id, _)| *id == row.id).map_or(Before::Another, |(_, b)| *b);
                // A fault of ours in one run must not leave the others without a hand.
                let led = catch_unwind(AssertUnwindSafe(|| {
                    let mut row = row.clone();
                    let news = advance(&mut row, before);
                    (row, news)
                }));
                led.unwrap_or_else(|_| {
                    tracing::error!(run = %row.id, "leading a run failed: it is interrupted");
                    let (mut news, at) = (News::default(), row.run.now_s);
                    happens(&mut row, at, Event::Restarted, &mut news);
                    row.advanced_at = row.now;
                    (row, news)
                })
            })
            .collect::<Vec<_>>()
    })
    .await
    .map_err(|e| ApiError::Internal(e.to_string()))?;
    crate::table::reform::write(&mut tx, &mut led).await?;
    tx.commit().await?;
    Ok(())
}

/// How far apart readings of the simulated bench are, in second of the run.
fn apart(row: &RunRow, fast: bool) -> f64 {
    let speed = if fast { row.speed } else { 1.0 };
    (speed / 60.0).clamp(1.0, 10.0).min(row.run.plan.silence.seconds() / 3.0)
}

/// Whether a run goes at the speed that was asked for; while it waits for a hand it goes at its own.
fn is_fast(row: &RunRow) -> bool {
    match &row.run.phase {
        Phase::Feeding(_) => true,
        Phase::Emptying(e) => e.connected,
        Phase::Ready { .. } | Phase::Over { .. } => false,
    }
}

/// Leads a run to the present: a guided one hears the clock, a simulated one is driven.
fn advance(row: &mut RunRow, before: Before) -> News {
    let mut news = News::default();
    if before == Before::Nobody {
        row.advanced_at = row.now;
    }
    if before == Before::Another || row.elapsed() > AWAY_SECONDS {
        if row.run.fed_from_s.is_some() {
            row.clock_s = row.clock_s.max(row.run.now_s);
        }
        happens(row, row.clock_s, Event::Restarted, &mut news);
        row.advanced_at = row.now;
        if row.bench.is_some() {
            return news;
        }
    }
    let fast = is_fast(row);
    row.clock_s += row.elapsed() * if fast && row.bench.is_some() { row.speed } else { 1.0 };
    row.advanced_at = row.now;
    if row.bench.is_some() {
        simulate(row, fast, &mut news)
    } else {
        happens(row, row.clock_s, Event::Tick, &mut news)
    }
    news
}

/// Lets a simulated run go on for so many seconds of its own at once: the demo begins in the middle of an evening.
pub fn lead_on(row: &mut RunRow, seconds: f64) -> News {
    let mut news = News::default();
    row.clock_s += seconds;
    simulate(row, true, &mut news);
    news
}

/// Lets the simulated bench run until its clock, reading its meter.
fn simulate(row: &mut RunRow, fast: bool, news: &mut News) {
    let apart = apart(row, fast);
    loop {
        let order = row.run.order();
        let at = row.run.now_s + apart;
        let Some(bench) = row.bench.as_mut().filter(|_| at <= row.clock_s) else { return };
        let until = Second::computed(at);
        bench.pass(&row.run.plan, order, until);
        let meter = bench.read(&row.run.plan, order);
        if let (Some(m), true) = (meter, row.run.fed_from_s.is_some())
            && let (Some(volts), Some(amperes)) = (m.volts, m.amperes)
        {
            let set_volts = order.fed().map(Volt::volts);
            news.samples.push((Sample { at_s: at, set_volts, volts, amperes }, None));
        }
        happens(row, at, meter.map_or(Event::Tick, Event::Read), news);
        if fast && !is_fast(row) {
            // The clock goes at its own pace from here.
            row.clock_s = at;
            return;
        }
    }
}

/// Lets something happen to a run.
pub fn happens(row: &mut RunRow, at_s: f64, event: Event, news: &mut News) {
    let at = Second::computed(at_s.max(0.0));
    let step = row.run.clone().step(at, event);
    row.run = step.run;
    news.said.extend(step.said);
}

/// The time of a run at this moment, for what a hand does: a simulated bench's clock only moves in its turns.
#[must_use]
pub fn moment(row: &RunRow) -> f64 {
    if row.bench.is_some() { row.run.now_s } else { row.clock_s + row.elapsed() }
}

/// A word for the record.
#[must_use]
pub fn word(row: &RunRow, text: &str) -> Said {
    Said { at_s: moment(row), weight: Weight::Note, text: text.to_owned() }
}
