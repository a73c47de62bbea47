//! The evening at the reforming bench: what lies on it, what comes next and when, and what could be added.

use axum::Json;
use axum::extract::State;
use owl_core::part::Part;
use owl_core::quantity::{Quantity, Second, format::format};
use owl_core::reform::evening::{BenchItem, times};
use owl_core::reform::refusal::{is_finished, unfit};
use owl_core::reform::run::Phase;
use owl_core::tray::TrayPart;
use owl_core::tray::installed::{Installed, installed};
use owl_core::tray::left::can_reform;
use time::{Duration, OffsetDateTime};

use super::wire::{CanSection, Candidate, CurveView, Desk, OfPart, PastRun, QueuedRun, SampleView, line};
use crate::app::App;
use crate::body::Id;
use crate::error::{ApiError, Problem};
use crate::table::reform::RunRow;
use crate::table::reform_samples;
use crate::tray::load;

/// Why a part is not reformed; `None` where it can be.
#[must_use]
pub fn refused(sits: &Installed) -> Option<String> {
    unfit(sits.part.as_ref(), &sits.looks)
}

/// What lies on the bench, and what comes next.
///
/// # Errors
/// When the database does not answer.
#[utoipa::path(get, path = "/api/reform/desk", operation_id = "reform_desk", tag = "reforming",
    responses((status = 200, body = Desk)))]
pub async fn desk(State(app): State<App>) -> Result<Json<Desk>, ApiError> {
    let runs = crate::table::reform::open(&app.db).await?;
    let (queue, done_at) = planned(&runs)?;
    Ok(Json(Desk { queue, done_at }))
}

/// Electrolytics on the trays that nothing is prepared for, and why those that cannot be reformed are not.
///
/// # Errors
/// When the database does not answer.
#[utoipa::path(get, path = "/api/reform/candidates", operation_id = "reform_candidates", tag = "reforming",
    responses((status = 200, body = Vec<Candidate>)))]
pub async fn candidates(State(app): State<App>) -> Result<Json<Vec<Candidate>>, ApiError> {
    let busy = crate::table::reform::open_parts(&app.db).await?;
    let mut candidates = Vec::new();
    let mut tx = app.db.snapshot().await?;
    for ticket in crate::table::ticket::with_electrolytics(&mut *tx).await? {
        let loaded = load::of_ticket(&mut tx, ticket.0).await?;
        for part in loaded.parts.iter().filter(|p| !busy.contains(&p.id)) {
            let lying = loaded.part(part.id)?;
            if !can_reform(&loaded.tray, lying) {
                continue;
            }
            let sits = installed(&loaded.tray, lying);
            candidates.push(Candidate {
                part_id: part.id,
                ticket_id: part.ticket_id,
                part: part.name.clone(),
                set: ticket.1.clone(),
                what: what(&sits),
                refused: refused(&sits),
            });
        }
    }
    Ok(Json(candidates))
}

/// The queue with its times. What is fed ends as was expected when it was prepared; what is being emptied waits for a meter
/// and has no time.
fn planned(runs: &[RunRow]) -> Result<(Vec<QueuedRun>, Option<OffsetDateTime>), ApiError> {
    let lying = |row: &RunRow| {
        let waits = matches!(row.run.phase, Phase::Ready { .. });
        let fed = row.run.fed_from_s.map_or(0.0, |from| row.run.now_s - from);
        let left = if timed(row) { ((row.expected_s - fed) / row.speed).max(0.0) } else { 0.0 };
        BenchItem { waits, left: Second::computed(left) }
    };
    let all: Vec<BenchItem> = runs.iter().map(lying).collect();
    let at = |row: &RunRow, seconds: f64| row.now + Duration::seconds_f64(seconds);
    let mut done = None;
    let mut lines = Vec::new();
    for ((row, l), (begin, end)) in runs.iter().zip(&all).zip(times(&all)) {
        let planned_at = timed(row).then(|| at(row, if l.waits { begin } else { end }));
        done = done.max(Some(at(row, end)));
        lines.push(QueuedRun { planned_at, ..line(row)? });
    }
    Ok((lines, done))
}

/// Whether it is known how long it still takes.
fn timed(row: &RunRow) -> bool {
    matches!(row.run.phase, Phase::Ready { .. } | Phase::Feeding(_))
}

/// `24 µF 350 V · reservoir`.
fn what(sits: &Installed) -> String {
    let Some(Part::Capacitor(c)) = &sits.part else { return String::new() };
    let volts = c.rated.map(|v| format!(" {v}")).unwrap_or_default();
    let place = sits.position.map(|p| format!(" · {p}")).unwrap_or_default();
    format!("{}{volts}{place}", c.value)
}

/// What is known of a part for reforming it, and its runs so far.
///
/// # Errors
/// 404.
#[utoipa::path(get, path = "/api/parts/{id}/reform", operation_id = "reform_of_part", tag = "reforming",
    params(("id" = Uuid, Path)), responses((status = 200, body = OfPart), (status = 404, body = Problem)))]
pub async fn of_part(State(app): State<App>, Id(id): Id) -> Result<Json<OfPart>, ApiError> {
    let mut tx = app.db.snapshot().await?;
    let row = crate::table::part::find(&mut *tx, id).await?;
    let loaded = load::around(&mut tx, row.id).await?;
    let lying = loaded.part(id)?;
    let sits = installed(&loaded.tray, lying);
    let ticket = crate::table::ticket::find(&mut *tx, row.ticket_id).await?;
    let policy = crate::table::policy::of_ticket(&mut *tx, &ticket).await?;
    let typed = |quantity: Quantity, v: f64| format(quantity, v).to_string();
    let capacitor = match &sits.part {
        Some(Part::Capacitor(c)) => Some(c),
        _ => None,
    };
    let last = crate::table::reform::last(&mut *tx).await?;
    let mut runs = Vec::new();
    for run in crate::table::reform::of_part(&mut *tx, id).await? {
        runs.push(past(&mut tx, &run).await?);
    }
    Ok(Json(OfPart {
        part: row.name.clone(),
        what: what(&sits),
        capacitance: capacitor.map(|c| typed(Quantity::Capacitance, c.value.farads())),
        rated: capacitor.and_then(|c| c.rated).map(|v| typed(Quantity::Voltage, v.volts())),
        sections: sections(lying),
        working: sits.reforming_volts(&policy).map(|v| typed(Quantity::Voltage, v.volts())),
        idle_years: capacitor.and_then(|c| c.years),
        vented: is_finished(&sits.looks),
        refused: refused(&sits),
        supply: last.map(|r| supply_words(&r)).unwrap_or_default(),
        runs,
    }))
}

/// The sections of a can, as its accepted marking has them; empty of a part that has one.
fn sections(part: &TrayPart) -> Vec<CanSection> {
    let all = part.mark.as_ref().map(|m| m.sections.as_slice()).filter(|s| s.len() > 1).unwrap_or_default();
    all.iter()
        .zip('A'..='Z')
        .map(|(s, name)| CanSection {
            name: name.to_string(),
            capacitance: s.capacitance.to_string(),
            rated: s.rating.map(|r| r.volts.to_string()),
        })
        .collect()
}

/// A supply as it would be typed: volts, ohm, watt, ampere.
fn supply_words(row: &RunRow) -> Vec<String> {
    let s = &row.run.plan.supply;
    let or_nothing = |text: Option<String>| text.unwrap_or_default();
    vec![
        s.volts.to_string(),
        or_nothing(s.series.map(|r| r.to_string())),
        or_nothing(s.series_rating.map(|w| w.to_string())),
        or_nothing(s.limit.map(|i| i.to_string())),
    ]
}

/// Points of a curve that lies over others.
const POINTS: i64 = 400;

async fn past(db: &mut sqlx::PgConnection, row: &RunRow) -> Result<PastRun, ApiError> {
    let from = row.run.fed_from_s.unwrap_or(0.0);
    let samples = reform_samples::after(&mut *db, row.id, 0, POINTS).await?;
    Ok(PastRun {
        id: row.id,
        at: row.switched_on_at.unwrap_or(row.created_at),
        ended: line(row)?.state,
        curve: CurveView { samples: samples.iter().map(|s| SampleView::of(s, from)).collect() },
    })
}
