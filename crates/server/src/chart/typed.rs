//! What was typed of a chart, read and checked.

use owl_core::chart::board::{OnBoard, Probe, probes, told};
use owl_core::quantity::Quantity;
use owl_core::socket::valve as valve_of;
use time::OffsetDateTime;
use uuid::Uuid;

use super::wire::{ChartPointBody, ChartRunBody, ChartValveBody};
use crate::amount::{above_zero_below, typed_optional};
use crate::error::ApiError;
use crate::table::chart::{ChartRows, PointRow, RunRow};
use crate::text::checked_text;

/// The most points of a chart.
const MOST_POINTS: usize = 1000;

/// Whether so many more points have room.
pub fn room(chart: &ChartRows, id: &Uuid, more: usize) -> Result<(), ApiError> {
    let there = chart.points.iter().any(|p| p.id == *id);
    if !there && chart.points.len() + more > MOST_POINTS {
        return Err(ApiError::field("at", format!("a chart has at most {MOST_POINTS} points")));
    }
    Ok(())
}

fn owner(at: &str) -> Result<String, ApiError> {
    let at = checked_text("at", at, 30)?;
    if at.is_empty() {
        return Err(ApiError::field("at", "say the valve or the node: V3, B+ 2"));
    }
    Ok(at)
}

/// What a point is called.
fn name(at: &str, pin: Option<i16>) -> String {
    pin.map_or_else(|| at.to_owned(), |p| format!("{at} pin {p}"))
}

fn last_place(chart: &ChartRows) -> i32 {
    chart.points.iter().map(|p| p.place).max().unwrap_or(0)
}

/// A point as typed, and the one that it belongs with.
pub fn point(body: &ChartPointBody, chart: &ChartRows) -> Result<(PointRow, Option<Uuid>), ApiError> {
    let at = owner(&body.at)?;
    if let Some(pin) = body.pin.filter(|p| !(1..=20).contains(p)) {
        return Err(ApiError::field("pin", format!("{pin} is no pin: 1 to 20")));
    }
    let valve = checked_text("valve", &body.valve, 20)?;
    if let (Some(v), Some(pin)) = (valve_of(&valve), body.pin)
        && pin > i16::from(v.base.pins)
    {
        return Err(ApiError::field("pin", format!("{} has {} pins", v.name, v.base.pins)));
    }
    let there = chart.points.iter().find(|p| p.id == body.id);
    let sheet =
        typed_optional(Quantity::Voltage, body.sheet.as_deref()).map_err(|e| ApiError::field("sheet", e))?;
    if sheet.is_some_and(|v| v.abs() >= 1e6) {
        return Err(ApiError::field("sheet", "those are more volts than any bench has"));
    }
    let pair = match body.pair.as_deref().map(str::trim).filter(|p| !p.is_empty()) {
        None => None,
        Some(other) => {
            let found = chart.points.iter().find(|p| p.name.eq_ignore_ascii_case(other) && p.id != body.id);
            Some(
                found.ok_or_else(|| ApiError::field("pair", format!("no other point is called {other}")))?.id,
            )
        }
    };
    let row = PointRow {
        id: body.id,
        name: name(&at, body.pin),
        valve,
        pin: body.pin,
        note: checked_text("note", &body.note, 120)?,
        sheet,
        fed_through: above_zero_below(
            "fed_through",
            Quantity::Resistance,
            body.fed_through.as_deref(),
            1e12,
        )?,
        heater: body.heater,
        steady: body.steady,
        pair_id: there.and_then(|p| p.pair_id),
        place: there.map_or_else(|| last_place(chart) + 1, |p| p.place),
    };
    Ok((row, pair))
}

/// What is put in with all its pins: one by its name and type, or a whole board.
pub fn pins(body: &ChartValveBody, chart: &ChartRows) -> Result<Vec<PointRow>, ApiError> {
    let board = checked_text("board", &body.board, 2000)?;
    if board.is_empty() {
        let typed = checked_text("valve", &body.valve, 20)?;
        let at = owner(&body.at)?;
        let rows = points(&at, &typed, chart, last_place(chart))
            .ok_or_else(|| ApiError::field("valve", unknown(&typed)))?;
        if rows.is_empty() {
            return Err(ApiError::field("at", format!("all pins of {at} stand in the chart already")));
        }
        return Ok(rows);
    }
    let rows = told_pins(&told(&board).map_err(|e| ApiError::field("board", e))?, chart)?;
    if rows.is_empty() {
        return Err(ApiError::field("board", "all of them stand in the chart already"));
    }
    Ok(rows)
}

/// The pins of a whole board that are not in the chart yet.
pub fn told_pins(board: &[OnBoard], chart: &ChartRows) -> Result<Vec<PointRow>, ApiError> {
    let mut rows = Vec::new();
    for one in board {
        let at = owner(&one.at).map_err(|_| ApiError::field("board", format!("'{}' is too long", one.at)))?;
        let place = last_place(chart) + i32::try_from(rows.len()).unwrap_or(0);
        let more = points(&at, &one.typed, chart, place);
        rows.extend(more.ok_or_else(|| ApiError::field("board", format!("{at}: {}", unknown(&one.typed))))?);
    }
    Ok(rows)
}

fn unknown(typed: &str) -> String {
    format!("{typed} is in no table here: put its pins in one by one, by its sheet")
}

/// The points of one, in the order in which they are probed, behind a place of the chart; not those that stand there
/// already. `None` for a type that is in no table.
fn points(at: &str, typed: &str, chart: &ChartRows, behind: i32) -> Option<Vec<PointRow>> {
    let (named, pins) = probes(typed)?;
    let there = |name: &str| chart.points.iter().any(|p| p.name == name);
    let called = |p: &Probe| match p.pin {
        Some(pin) => name(at, Some(i16::from(pin))),
        None => format!("{at} {}", p.what),
    };
    let drawn = valve_of(&named).is_some();
    let rows = (1..)
        .zip(&pins)
        .map(|(i, p)| PointRow {
            id: Uuid::now_v7(),
            name: called(p),
            valve: named.clone(),
            pin: p.pin.map(i16::from),
            // What its drawing says beside the pin is not said twice.
            note: p.pin.filter(|_| !drawn).map_or_else(String::new, |_| p.what.clone()),
            sheet: None,
            fed_through: None,
            heater: p.heater,
            steady: false,
            pair_id: None,
            place: behind + i,
        })
        .filter(|row| !there(&row.name));
    Some(rows.collect())
}

/// A meter of today (practice).
const METER: f64 = 10e6;

/// The first set of readings, of which nothing was said.
#[must_use]
pub fn first_run(id: Uuid) -> RunRow {
    RunRow {
        id,
        name: "before".to_owned(),
        line_volts: None,
        meter: Some(METER),
        begun_at: OffsetDateTime::UNIX_EPOCH,
    }
}

/// A set of readings as typed.
pub fn run(body: &ChartRunBody) -> Result<RunRow, ApiError> {
    let name = checked_text("name", &body.name, 60)?;
    if name.is_empty() {
        return Err(ApiError::field("name", "say which moment: before, after, warm"));
    }
    let meter = above_zero_below("meter", Quantity::Resistance, body.meter.as_deref(), 1e15)?;
    Ok(RunRow {
        id: body.id,
        name,
        line_volts: above_zero_below("line", Quantity::Voltage, body.line.as_deref(), 1e4)?,
        meter: meter.or(Some(METER)),
        begun_at: OffsetDateTime::UNIX_EPOCH,
    })
}
