//! A ticket's parts, readings and voltages as CSV.

use axum::extract::State;
use axum::response::Response;
use owl_core::named::Named;

use super::file;
use crate::app::App;
use crate::body::Id;
use crate::csv_file::safe;
use crate::error::{ApiError, Problem};
use crate::tray::view::parts_in;

pub(crate) fn written(header: &[&str], rows: Vec<Vec<String>>) -> Result<Vec<u8>, ApiError> {
    let mut out = csv::Writer::from_writer(Vec::new());
    let wrong = |e: csv::Error| ApiError::Internal(e.to_string());
    out.write_record(header).map_err(wrong)?;
    for row in rows {
        out.write_record(row.iter().map(|c| safe(c))).map_err(wrong)?;
    }
    out.into_inner().map_err(|e| ApiError::Internal(e.to_string()))
}

fn number(v: Option<f64>) -> String {
    v.map(|v| format!("{v}")).unwrap_or_default()
}

/// The parts of a ticket.
///
/// # Errors
/// 404.
#[utoipa::path(get, path = "/api/tickets/{id}/parts.csv", operation_id = "export_parts", tag = "record", params(("id" = Uuid, Path)), responses(
    (status = 200, body = String, content_type = "text/csv"), (status = 404, body = Problem)))]
pub async fn parts(State(app): State<App>, Id(id): Id) -> Result<Response, ApiError> {
    let mut tx = app.db.snapshot().await?;
    let t = crate::table::ticket::find(&mut *tx, id).await?;
    let all = parts_in(&mut tx, &t).await?;
    let rows = all
        .iter()
        .map(|p| {
            let fitted = p.fittings.iter().rfind(|f| f.withdrawn_at.is_none());
            vec![
                p.strip.name.clone(),
                p.strip.kind.to_string(),
                p.strip.family.map(|f| f.name().to_owned()).unwrap_or_default(),
                p.strip.position.map(|x| x.to_string()).unwrap_or_default(),
                p.strip.place.clone(),
                number(p.strip.sheet.as_ref().map(|a| a.value)),
                number(p.strip.marked.as_ref().map(|a| a.value)),
                number(p.tolerance),
                number(p.measured.as_ref().and_then(|r| r.measured.as_ref()).map(|a| a.value)),
                p.judgement.as_ref().map(|j| j.verdict.to_string()).unwrap_or_default(),
                p.decision.as_ref().map(|d| d.decided.to_string()).unwrap_or_default(),
                fitted.map(|f| f.description.clone()).unwrap_or_default(),
                p.strip.note.clone(),
            ]
        })
        .collect();
    let header = [
        "part",
        "kind",
        "family",
        "position",
        "place",
        "sheet",
        "marked",
        "tolerance",
        "measured",
        "verdict",
        "decided",
        "fitted",
        "note",
    ];
    Ok(file(&format!("{}-parts", t.name), "csv", "text/csv; charset=utf-8", written(&header, rows)?))
}

/// The readings of a ticket, in SI base units.
///
/// # Errors
/// 404.
#[utoipa::path(get, path = "/api/tickets/{id}/readings.csv", operation_id = "export_readings", tag = "record", params(("id" = Uuid, Path)), responses(
    (status = 200, body = String, content_type = "text/csv"), (status = 404, body = Problem)))]
pub async fn readings(State(app): State<App>, Id(id): Id) -> Result<Response, ApiError> {
    let mut tx = app.db.snapshot().await?;
    let t = crate::table::ticket::find(&mut *tx, id).await?;
    let all = parts_in(&mut tx, &t).await?;
    let mut rows = Vec::new();
    for p in &all {
        for r in &p.readings {
            rows.push(vec![
                p.strip.name.clone(),
                r.quantity.to_string(),
                number(r.measured.as_ref().map(|a| a.value)),
                r.overrange.to_string(),
                r.state.to_string(),
                r.hot.to_string(),
                r.mode.to_string(),
                r.test_voltage.clone().unwrap_or_default(),
                r.test_frequency.clone().unwrap_or_default(),
                r.instrument.clone(),
                r.voided.clone().unwrap_or_default(),
                stamp(r.taken_at),
            ]);
        }
    }
    let header = [
        "part",
        "quantity",
        "value",
        "overrange",
        "state",
        "hot",
        "mode",
        "test_voltage",
        "test_frequency",
        "instrument",
        "voided",
        "taken_at",
    ];
    Ok(file(&format!("{}-readings", t.name), "csv", "text/csv; charset=utf-8", written(&header, rows)?))
}

/// The voltages of a ticket, every set of readings.
///
/// # Errors
/// 404.
#[utoipa::path(get, path = "/api/tickets/{id}/voltages.csv", operation_id = "export_voltages", tag = "record", params(("id" = Uuid, Path)), responses(
    (status = 200, body = String, content_type = "text/csv"), (status = 404, body = Problem)))]
pub async fn voltages(State(app): State<App>, Id(id): Id) -> Result<Response, ApiError> {
    let ticket = crate::table::ticket::find(&app.db, id).await?;
    let mut db = app.db.snapshot().await?;
    let chart = crate::table::chart::of_ticket(&mut db, id).await?;
    let mut rows = Vec::new();
    for run in &chart.runs {
        for p in &chart.points {
            let Some(r) = chart.readings.iter().find(|r| r.run_id == run.id && r.point_id == p.id) else {
                continue;
            };
            rows.push(vec![
                run.name.clone(),
                number(run.line_volts),
                number(run.meter),
                p.name.clone(),
                p.valve.clone(),
                p.pin.map(|n| n.to_string()).unwrap_or_default(),
                number(p.sheet),
                number(Some(r.volts)),
                p.note.clone(),
            ]);
        }
    }
    let header = ["set", "line", "meter", "point", "valve", "pin", "sheet", "volts", "note"];
    Ok(file(&format!("{}-voltages", ticket.name), "csv", "text/csv; charset=utf-8", written(&header, rows)?))
}

/// A moment as RFC 3339 writes it.
pub(crate) fn stamp(at: time::OffsetDateTime) -> String {
    at.format(&time::format_description::well_known::Rfc3339).unwrap_or_default()
}
