//! Sentences about a valve: they go into the voltage chart.

use owl_core::chart::spoken::{Volts, placed};
use owl_core::quantity::{Quantity, Volt};
use owl_core::say::{OfValve, ValveSays};
use sqlx::PgConnection;
use uuid::Uuid;

use super::wire::{Said, Say, Understanding};
use crate::amount::Amount;
use crate::chart::typed::{first_run, room, told_pins};
use crate::chart::view::at;
use crate::error::ApiError;
use crate::sites::standing;
use crate::table::chart::{ChartRows, PointRow, of_ticket, put_point, put_run, read};

/// What the sentence does to the chart.
struct Deed {
    /// Points that are put in, or whose sheet volts change.
    points: Vec<PointRow>,
    /// What is read, at points of the chart.
    readings: Vec<(Uuid, Volt)>,
    in_words: String,
    was: Vec<String>,
}

/// How a sentence about a valve is understood.
pub async fn preview(
    db: &mut PgConnection,
    ticket_id: Uuid,
    said: &OfValve,
) -> Result<Understanding, ApiError> {
    let chart = of_ticket(db, ticket_id).await?;
    let answer = match deed(&chart, said) {
        Ok(d) => Understanding { was: d.was, ..Understanding::of(&said.at, d.in_words, &said.chips) },
        Err(ApiError::Impossible { detail, .. }) => {
            Understanding { problem: Some(detail), ..Understanding::default() }
        }
        Err(other) => return Err(other),
    };
    Ok(answer)
}

/// Takes a sentence about a valve into the chart. The set of readings that is open takes what was read; the first one is
/// begun under the sentence's key where there is none.
pub async fn take(db: &mut PgConnection, ticket_id: Uuid, q: &Say, said: &OfValve) -> Result<Said, ApiError> {
    let chart = of_ticket(db, ticket_id).await?;
    let d = deed(&chart, said)?;
    let new = d.points.iter().filter(|p| !chart.points.iter().any(|q| q.id == p.id)).count();
    room(&chart, &Uuid::nil(), new).map_err(|e| e.moved_to("text"))?;
    crate::table::deed::begin(db, ticket_id, None, q.text.trim()).await?;
    for p in &d.points {
        put_point(db, ticket_id, p).await?;
    }
    if !d.readings.is_empty() {
        let run = match chart.runs.last() {
            Some(run) => run.id,
            None => {
                put_run(&mut *db, ticket_id, &first_run(q.key)).await?;
                q.key
            }
        };
        for (point, volts) in &d.readings {
            read(&mut *db, run, *point, Some(volts.volts())).await?;
        }
    }
    let was = if d.was.is_empty() { String::new() } else { format!(" (it was {})", d.was.join(", ")) };
    let in_words = format!("{}: {}{was}", said.at, d.in_words);
    Ok(Said { valve: Some(said.at.clone()), ..Said::of(in_words) })
}

fn deed(chart: &ChartRows, said: &OfValve) -> Result<Deed, ApiError> {
    let refused = |e: &dyn std::fmt::Display| ApiError::field("text", e);
    match &said.says {
        ValveSays::Look => Ok(Deed {
            points: vec![],
            readings: vec![],
            in_words: "look at it in the chart".to_owned(),
            was: vec![],
        }),
        ValveSays::Is(board) => {
            let points = told_pins(board, chart).map_err(|e| refused(&e))?;
            let types: Vec<String> = board.iter().map(|b| format!("{} {}", b.at, b.typed)).collect();
            let in_words = match points.len() {
                0 => format!("{}: in the chart already", types.join(", ")),
                n => format!("{}: {n} pins into the chart", types.join(", ")),
            };
            Ok(Deed { points, readings: vec![], in_words, was: vec![] })
        }
        ValveSays::Volts { sheet, volts } => {
            volts_of(chart, &said.at, *sheet, volts).map_err(|e| refused(&e))
        }
    }
}

fn volts_of(chart: &ChartRows, valve: &str, sheet: bool, volts: &Volts) -> Result<Deed, ApiError> {
    let names: Vec<String> = chart.points.iter().map(at).collect();
    let found = placed(&standing(chart, &names), valve, volts).map_err(|e| ApiError::field("text", e))?;
    let run = chart.runs.last();
    let mut d = Deed { points: vec![], readings: vec![], in_words: String::new(), was: vec![] };
    let mut words = Vec::new();
    for (i, v) in found {
        let Some(p) = chart.points.get(i) else { continue };
        let before = if sheet {
            p.sheet
        } else {
            let here = |r: &&crate::table::chart::VoltsRow| {
                r.point_id == p.id && Some(r.run_id) == run.map(|r| r.id)
            };
            chart.readings.iter().find(here).map(|r| r.volts)
        };
        let called = called(p, valve);
        let other = before.filter(|b| (b - v.volts()).abs() > 0.0);
        d.was.extend(other.map(|b| format!("{called} {}", Amount::of(Quantity::Voltage, b).text)));
        words.push(format!("{called} {v}"));
        if sheet {
            d.points.push(PointRow { sheet: Some(v.volts()), ..p.clone() });
        } else {
            d.readings.push((p.id, v));
        }
    }
    let begins = !sheet && run.is_none();
    d.in_words = format!(
        "{}{}{}",
        if sheet { "the sheet says " } else { "read " },
        words.join(", "),
        if begins { "; the first set of readings is begun" } else { "" }
    );
    Ok(d)
}

/// A point without its valve: `plate at pin 7`.
fn called(p: &PointRow, valve: &str) -> String {
    let pin = p.name.get(valve.len()..).unwrap_or(&p.name).trim();
    crate::chart::view::role(p).map_or_else(|| pin.to_owned(), |r| format!("{} at {pin}", r.name))
}
