//! A chart as it is sent: every reading held against its sheet.

use std::collections::HashMap;

use owl_core::chart::{Point, SheetMeter, Taken, expected, held, pair};
use owl_core::quantity::format::signed_percent;
use owl_core::quantity::{Ohm, Quantity, QuantityError, Volt};
use owl_core::socket::{PinRole, valve};
use owl_core::verdict::Policy;
use uuid::Uuid;

use super::wire::{
    ChartCell, ChartPairView, ChartPointView, ChartRunView, VoltageChartView, WhichRuns, about, volt,
};
use crate::amount::Amount;
use crate::error::ApiError;
use crate::table::chart::{ChartRows, PointRow, RunRow};
use crate::table::ticket::TicketRow;

/// A chart with two of its sets beside each other.
///
/// # Errors
/// 422 for a set that is not of this chart; [`ApiError::Internal`] for a row that cannot be.
pub fn chart_view(
    ticket: &TicketRow,
    chart: &ChartRows,
    which: &WhichRuns,
    policy: &Policy,
) -> Result<VoltageChartView, ApiError> {
    let find = |field: &str, id: Option<Uuid>| match id {
        None => Ok(None),
        Some(id) => {
            let run = chart.runs.iter().find(|r| r.id == id);
            run.map(Some).ok_or_else(|| ApiError::field(field, "that set of readings is not of this ticket"))
        }
    };
    let before = find("before", which.before)?.or(chart.runs.first());
    let after = find("after", which.after)?.or(chart.runs.last().filter(|_| chart.runs.len() > 1));
    let all: HashMap<(Uuid, Uuid), f64> =
        chart.readings.iter().map(|r| ((r.run_id, r.point_id), r.volts)).collect();
    let names: HashMap<Uuid, &str> = chart.points.iter().map(|p| (p.id, p.name.as_str())).collect();
    let sheet = sheet_meter(ticket)?;
    let newest = chart.runs.last();
    let points = chart
        .points
        .iter()
        .map(|p| {
            let point = point_of(p)?;
            let cell = |run: Option<&RunRow>| -> Result<Option<ChartCell>, ApiError> {
                let Some(run) = run else { return Ok(None) };
                let Some(v) = all.get(&(run.id, p.id)) else { return Ok(None) };
                let read = Volt::new(*v).map_err(internal)?;
                let held = held(point, sheet, taken(run)?, read, policy).map_err(internal)?;
                let doubt = role(p).and_then(|r| r.doubts(point.sheet, read)).map(str::to_owned);
                Ok(Some(ChartCell { doubt, ..ChartCell::of(*v, &held) }))
            };
            let (left, right) = (cell(before)?, cell(after)?);
            let now = newest.map(taken).transpose()?.unwrap_or_default();
            Ok(ChartPointView {
                id: p.id,
                name: p.name.clone(),
                at: at(p),
                pin: p.pin,
                valve: p.valve.clone(),
                role: role(p).map(|r| r.name.clone()),
                note: p.note.clone(),
                sheet: p.sheet.map(volt),
                fed_through: p.fed_through.map(|r| Amount::of(Quantity::Resistance, r)),
                heater: p.heater,
                steady: p.steady,
                pair: p.pair_id.and_then(|id| names.get(&id)).map(|n| (*n).to_owned()),
                change: change(left.as_ref(), right.as_ref()),
                expected: expected(point, sheet, now).map_err(internal)?.map(|e| about(e.volts.volts())),
                before: left,
                after: right,
            })
        })
        .collect::<Result<Vec<_>, ApiError>>()?;
    let mut pairs = Vec::new();
    for run in [before, after].into_iter().flatten() {
        pairs.extend(pairs_of(chart, run, &all, &names, policy)?);
    }
    let count = |run: &RunRow| chart.readings.iter().filter(|r| r.run_id == run.id).count();
    Ok(VoltageChartView {
        points,
        runs: chart.runs.iter().map(|r| run_view(r, count(r))).collect(),
        before: before.map(|r| r.id),
        after: after.map(|r| r.id),
        pairs,
        from_tray: String::new(),
    })
}

fn run_view(r: &RunRow, count: usize) -> ChartRunView {
    ChartRunView {
        id: r.id,
        name: r.name.clone(),
        line: r.line_volts.map(volt),
        meter: r.meter.map(|m| Amount::of(Quantity::Resistance, m)),
        begun_at: r.begun_at,
        count,
    }
}

fn internal(e: QuantityError) -> ApiError {
    ApiError::Internal(format!("stored row: {e}"))
}

/// How the ticket's sheet was made.
pub(crate) fn sheet_meter(t: &TicketRow) -> Result<SheetMeter, ApiError> {
    Ok(SheetMeter {
        line: t.sheet_line_volts.map(Volt::new).transpose().map_err(internal)?,
        ohms_per_volt: t.sheet_ohms_per_volt.map(Ohm::new).transpose().map_err(internal)?,
        range: None,
    })
}

/// How a set of readings was taken.
pub(crate) fn taken(run: &RunRow) -> Result<Taken, ApiError> {
    Ok(Taken {
        line: run.line_volts.map(Volt::new).transpose().map_err(internal)?,
        meter: run.meter.map(Ohm::new).transpose().map_err(internal)?,
    })
}

/// A point as the rule sees it.
pub(crate) fn point_of(p: &PointRow) -> Result<Point, ApiError> {
    Ok(Point {
        sheet: p.sheet.map(Volt::new).transpose().map_err(internal)?,
        fed_through: p.fed_through.map(Ohm::new).transpose().map_err(internal)?,
        heater: p.heater,
        steady: p.steady,
    })
}

/// A point's name without its pin.
/// What a point is at: its name without its pin.
#[must_use]
pub(crate) fn at(p: &PointRow) -> String {
    let tail = p.pin.map(|n| format!(" pin {n}")).unwrap_or_default();
    p.name.strip_suffix(&tail).unwrap_or(&p.name).to_owned()
}

/// What the pin of a point is.
pub(crate) fn role(p: &PointRow) -> Option<&'static PinRole> {
    let pin = u8::try_from(p.pin?).ok()?;
    valve(&p.valve)?.role(pin)
}

fn change(before: Option<&ChartCell>, after: Option<&ChartCell>) -> Option<String> {
    let (b, a) = (before?.volts.value, after?.volts.value);
    // From nothing, or through it, a share says nothing.
    let share = (b.abs() > 0.5 && a * b > 0.0).then(|| signed_percent(a / b - 1.0));
    Some(share.unwrap_or_else(|| format!("{} → {}", volt(b).text, volt(a).text)))
}

fn pairs_of(
    chart: &ChartRows,
    run: &RunRow,
    all: &HashMap<(Uuid, Uuid), f64>,
    names: &HashMap<Uuid, &str>,
    policy: &Policy,
) -> Result<Vec<ChartPairView>, ApiError> {
    let mut out = Vec::new();
    for p in &chart.points {
        let Some(other) = p.pair_id else { continue };
        // Each pair once: from the one that stands first.
        let first = chart.points.iter().find(|q| q.id == p.id || q.id == other).is_some_and(|q| q.id == p.id);
        let (Some(a), Some(b)) = (all.get(&(run.id, p.id)), all.get(&(run.id, other))) else { continue };
        if !first {
            continue;
        }
        let (va, vb) = (Volt::new(*a).map_err(internal)?, Volt::new(*b).map_err(internal)?);
        if let Some(found) = pair(va, vb, policy).map_err(internal)? {
            out.push(ChartPairView {
                a: p.name.clone(),
                b: names.get(&other).map(|n| (*n).to_owned()).unwrap_or_default(),
                run: run.id,
                agree: found.agree,
                text: found.text,
            });
        }
    }
    Ok(out)
}
