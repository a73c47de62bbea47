//! What was typed of a chart, read and checked.

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

/// The pins of a valve, a transistor or a circuit that are read, in the order in which they are probed; not those that stand
/// there already.
pub fn valve(body: &ChartValveBody, chart: &ChartRows) -> Result<Vec<PointRow>, ApiError> {
    let at = owner(&body.at)?;
    let typed = checked_text("valve", &body.valve, 20)?;
    let (named, pins) = if let Some(valve) = valve_of(&typed) {
        let pins = valve.in_probing_order().into_iter();
        let heater = |code: &str| code.starts_with(['h', 'f']);
        (valve.name.clone(), pins.map(|(pin, r)| (pin, String::new(), heater(&r.code))).collect::<Vec<_>>())
    } else if let Some(circuit) = owl_core::ic::device(&typed) {
        let pins = circuit.in_probing_order().into_iter();
        (circuit.type_number.clone(), pins.map(|p| (p.number, p.name.clone(), false)).collect())
    } else {
        return Err(ApiError::field(
            "valve",
            format!("{typed} is in no table here: put its pins in one by one, by its sheet"),
        ));
    };
    let there = |name: &str| chart.points.iter().any(|p| p.name == name);
    let rows: Vec<PointRow> = (1..)
        .zip(pins)
        .map(|(i, (pin, note, heater))| PointRow {
            id: Uuid::now_v7(),
            name: name(&at, Some(i16::from(pin))),
            valve: named.clone(),
            pin: Some(i16::from(pin)),
            note,
            sheet: None,
            fed_through: None,
            heater,
            steady: false,
            pair_id: None,
            place: last_place(chart) + i,
        })
        .filter(|row| !there(&row.name))
        .collect();
    if rows.is_empty() {
        return Err(ApiError::field("at", format!("all pins of {at} stand in the chart already")));
    }
    Ok(rows)
}

/// A meter of today (practice).
const METER: f64 = 10e6;

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
