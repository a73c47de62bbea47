//! The evening at the reforming bench: what lies on it, what comes next and when, and what could be added.

use axum::Json;
use axum::extract::State;
use owl_core::part::{CapacitorFamily, Fact, Part};
use owl_core::quantity::{Quantity, Second, write::write};
use owl_core::reform::evening::{Lying, times};
use owl_core::reform::refusal::{is_finished, unfit};
use owl_core::reform::run::Phase;
use time::{Duration, OffsetDateTime};

use super::samples;
use super::store::{self, RunRow};
use super::wire::{CanSection, Candidate, CurveView, Desk, OfPart, PastRun, RunLine, SampleView, line};
use crate::body::Id;
use crate::error::{ApiError, Problem};
use crate::part::sitting::{Sitting, sitting};
use crate::router::App;

/// Why a part is not reformed; `None` where it can be.
#[must_use]
pub fn refused(sitting: &Sitting<'_>) -> Option<String> {
    unfit(sitting.part.as_ref(), &sitting.looks)
}

/// What lies on the bench, and what comes next.
///
/// # Errors
/// When the database does not answer.
#[utoipa::path(get, path = "/api/reform/desk", operation_id = "reform_desk", tag = "reforming",
    responses((status = 200, body = Desk)))]
pub async fn desk(State(app): State<App>) -> Result<Json<Desk>, ApiError> {
    let runs = store::open(&app.pool).await?;
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
    let busy = store::open_parts(&app.pool).await?;
    let mut candidates = Vec::new();
    let mut tx = app.pool.begin_with("begin isolation level repeatable read read only").await?;
    for ticket in crate::ticket::store::with_electrolytics(&mut *tx).await? {
        let tray = crate::part::store::tray(&mut tx, ticket.0).await?;
        for part in tray.parts.iter().filter(|p| p.kind == "capacitor" && !busy.contains(&p.id)) {
            let sitting = sitting(part, &tray)?;
            let Some(Part::Capacitor(c)) = &sitting.part else { continue };
            let replaced = sitting.last_fitting.is_some() || tray.decided_to_go(part.id);
            if c.family != Some(CapacitorFamily::Electrolytic) || replaced {
                continue;
            }
            candidates.push(Candidate {
                part_id: part.id,
                ticket_id: part.ticket_id,
                part: part.name.clone(),
                set: ticket.1.clone(),
                what: what(&sitting),
                refused: refused(&sitting),
            });
        }
    }
    Ok(Json(candidates))
}

/// The queue with its times. What is fed ends as was expected when it was prepared; what is being emptied waits for a meter
/// and has no time.
fn planned(runs: &[RunRow]) -> Result<(Vec<RunLine>, Option<OffsetDateTime>), ApiError> {
    let lying = |row: &RunRow| {
        let waits = matches!(row.run.phase, Phase::Ready { .. });
        let fed = row.run.fed_from_s.map_or(0.0, |from| row.run.now_s - from);
        let left = if timed(row) { ((row.expected_s - fed) / row.speed).max(0.0) } else { 0.0 };
        Lying { waits, left: Second::new(left).unwrap_or(Second::ZERO) }
    };
    let all: Vec<Lying> = runs.iter().map(lying).collect();
    let at = |row: &RunRow, seconds: f64| row.now + Duration::seconds_f64(seconds);
    let mut done = None;
    let mut lines = Vec::new();
    for ((row, l), (begin, end)) in runs.iter().zip(&all).zip(times(&all)) {
        let planned_at = timed(row).then(|| at(row, if l.waits { begin } else { end }));
        done = done.max(Some(at(row, end)));
        lines.push(RunLine { planned_at, ..line(row)? });
    }
    Ok((lines, done))
}

/// Whether it is known how long it still takes.
fn timed(row: &RunRow) -> bool {
    matches!(row.run.phase, Phase::Ready { .. } | Phase::Feeding(_))
}

/// `24 µF 350 V · reservoir`.
fn what(sitting: &Sitting<'_>) -> String {
    let Some(Part::Capacitor(c)) = &sitting.part else { return String::new() };
    let volts = c.rated.map(|v| format!(" {v}")).unwrap_or_default();
    let place = sitting.position.map(|p| format!(" · {p}")).unwrap_or_default();
    format!("{}{volts}{place}", c.value)
}

/// What is known of a part for reforming it, and its runs so far.
///
/// # Errors
/// 404.
#[utoipa::path(get, path = "/api/parts/{id}/reform", operation_id = "reform_of_part", tag = "reforming",
    params(("id" = Uuid, Path)), responses((status = 200, body = OfPart), (status = 404, body = Problem)))]
pub async fn of_part(State(app): State<App>, Id(id): Id) -> Result<Json<OfPart>, ApiError> {
    let mut tx = app.pool.begin_with("begin isolation level repeatable read read only").await?;
    let row = crate::part::store::find(&mut *tx, id).await?;
    let tray = crate::part::store::tray(&mut tx, row.ticket_id).await?;
    let sitting = sitting(&row, &tray)?;
    let typed = |quantity: Quantity, v: f64| write(quantity, v).to_string();
    let capacitor = match &sitting.part {
        Some(Part::Capacitor(c)) => Some(c),
        _ => None,
    };
    let last = store::last(&mut *tx).await?;
    let mut runs = Vec::new();
    for run in store::of_part(&mut *tx, id).await? {
        runs.push(past(&mut tx, &run).await?);
    }
    Ok(Json(OfPart {
        part: row.name.clone(),
        what: what(&sitting),
        capacitance: capacitor.map(|c| typed(Quantity::Capacitance, c.value.farads())),
        rated: capacitor.and_then(|c| c.rated).map(|v| typed(Quantity::Voltage, v.volts())),
        sections: sections(&row),
        working: sitting.circuit.get_si(Fact::Voltage).map(|v| typed(Quantity::Voltage, v)),
        idle_years: capacitor.and_then(|c| c.years),
        vented: is_finished(&sitting.looks),
        refused: refused(&sitting),
        supply: last.map(|r| supply_words(&r)).unwrap_or_default(),
        runs,
    }))
}

/// The sections of a can, as its accepted marking has them; empty of a part that has one.
fn sections(row: &crate::part::store::PartRow) -> Vec<CanSection> {
    let all = row.mark.as_ref().and_then(|m| m.get("sections")).and_then(serde_json::Value::as_array);
    let all = all.filter(|a| a.len() > 1).into_iter().flatten();
    let number = |s: &serde_json::Value, field: &str| s.get(field).and_then(serde_json::Value::as_f64);
    all.zip('A'..='Z')
        .filter_map(|(s, name)| {
            Some(CanSection {
                name: name.to_string(),
                capacitance: write(Quantity::Capacitance, number(s, "value")?).to_string(),
                rated: number(s, "voltage").map(|v| write(Quantity::Voltage, v).to_string()),
            })
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
    let samples = samples::after(&mut *db, row.id, 0, POINTS).await?;
    Ok(PastRun {
        id: row.id,
        at: row.switched_on_at.unwrap_or(row.created_at),
        ended: line(row)?.state,
        curve: CurveView { samples: samples.iter().map(|s| SampleView::of(s, from)).collect() },
    })
}
