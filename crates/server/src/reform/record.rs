//! The record of a run: as CSV and JSON, as a chart in SVG, and its leakage taken over as a reading of the part.

use std::fmt::Write as _;

use axum::Json;
use axum::extract::State;
use axum::http::{StatusCode, header};
use axum::response::{IntoResponse, Response};
use owl_core::reading::{Mode, ReadQuantity, Setting, State as PartState};
use owl_core::reform::run::{Phase, ReformMode};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use super::wire::{RunView, SampleView};
use crate::app::App;
use crate::body::{Body, Id};
use crate::error::{ApiError, Problem};
use crate::table::reform::RunRow;
use crate::table::reform_samples::{self, SampleRow};
use crate::tray::{Written, written};

/// All readings of a run, whole.
const ALL: i64 = 1_000_000;

/// A run with all its readings.
#[derive(Debug, Serialize, ToSchema)]
pub struct Record {
    /// The run.
    pub run: RunView,
    /// Its readings.
    pub samples: Vec<SampleView>,
}

/// The record as JSON.
///
/// # Errors
/// 404.
#[utoipa::path(get, path = "/api/reform/runs/{id}/record.json", operation_id = "reform_record", tag = "reforming",
    params(("id" = Uuid, Path)), responses((status = 200, body = Record), (status = 404, body = Problem)))]
pub async fn json(State(app): State<App>, Id(id): Id) -> Result<Json<Record>, ApiError> {
    let (row, samples) = whole(&app, id).await?;
    let from = row.run.fed_from_s.unwrap_or(0.0);
    let run = super::view(&app, id).await?;
    Ok(Json(Record { run, samples: samples.iter().map(|s| SampleView::of(s, from)).collect() }))
}

async fn whole(app: &App, id: Uuid) -> Result<(RunRow, Vec<SampleRow>), ApiError> {
    let row = crate::table::reform::find(&app.db, id).await?;
    let samples = reform_samples::after(&app.db, id, 0, ALL).await?;
    Ok((row, samples))
}

/// The readings as CSV.
///
/// # Errors
/// 404.
#[utoipa::path(get, path = "/api/reform/runs/{id}/record.csv", operation_id = "reform_csv", tag = "reforming",
    params(("id" = Uuid, Path)),
    responses((status = 200, body = String, content_type = "text/csv"), (status = 404, body = Problem)))]
pub async fn csv(State(app): State<App>, Id(id): Id) -> Result<Response, ApiError> {
    let (row, samples) = whole(&app, id).await?;
    let from = row.run.fed_from_s.unwrap_or(0.0);
    let mut out = csv::Writer::from_writer(Vec::new());
    let wrong = |e: csv::Error| ApiError::Internal(e.to_string());
    out.write_record(["seconds", "ordered_volts", "volts", "amperes"]).map_err(wrong)?;
    for s in &samples {
        let ordered = s.set_volts.map(|v| format!("{v}")).unwrap_or_default();
        let line =
            [format!("{:.3}", s.at_s - from), ordered, format!("{}", s.volts), format!("{:e}", s.amperes)];
        out.write_record(line).map_err(wrong)?;
    }
    let text = out.into_inner().map_err(|e| ApiError::Internal(e.to_string()))?;
    Ok(file(text, "text/csv; charset=utf-8", &row, "csv"))
}

fn file(text: Vec<u8>, kind: &'static str, row: &RunRow, end: &str) -> Response {
    let name: String = row.part.chars().filter(char::is_ascii_alphanumeric).collect();
    let disposition = format!("attachment; filename=\"reform-{name}.{end}\"");
    ([(header::CONTENT_TYPE, kind.to_owned()), (header::CONTENT_DISPOSITION, disposition)], text)
        .into_response()
}

/// The chart as SVG: volts in a line, current on a scale of decades, the limit dashed.
///
/// # Errors
/// 404.
#[utoipa::path(get, path = "/api/reform/runs/{id}/chart.svg", operation_id = "reform_chart", tag = "reforming",
    params(("id" = Uuid, Path)),
    responses((status = 200, body = String, content_type = "image/svg+xml"), (status = 404, body = Problem)))]
pub async fn chart(State(app): State<App>, Id(id): Id) -> Result<Response, ApiError> {
    let row = crate::table::reform::find(&app.db, id).await?;
    Ok(file(drawing(&app, &row).await?.into_bytes(), "image/svg+xml", &row, "svg"))
}

/// The chart of a run in SVG.
///
/// # Errors
/// 503 without a database.
pub async fn drawing(app: &App, row: &RunRow) -> Result<String, ApiError> {
    Ok(svg(row, &reform_samples::after(&app.db, row.id, 0, 2000).await?))
}

/// The drawing's field: left, top, width, height.
const FIELD: (f64, f64, f64, f64) = (60.0, 50.0, 820.0, 380.0);

fn svg(row: &RunRow, samples: &[SampleRow]) -> String {
    let (left, top, width, height) = FIELD;
    let from = row.run.fed_from_s.unwrap_or(0.0);
    let end = samples.last().map_or(60.0, |s| s.at_s - from).max(60.0);
    let most_volts = row.run.plan.aim.volts() * 1.1;
    let x = |s: f64| left + width * (s / end).clamp(0.0, 1.0);
    let y = |v: f64| top + height * (1.0 - (v / most_volts).clamp(0.0, 1.0));
    let (low, high) = (1e-5_f64.log10(), 1e-1_f64.log10());
    let decade = |i: f64| top + height * (1.0 - ((i.max(1e-9).log10() - low) / (high - low)).clamp(0.0, 1.0));
    let path = |f: &dyn Fn(&SampleRow) -> f64| {
        let points = samples.iter().map(|s| format!("{:.1},{:.1}", x(s.at_s - from), f(s)));
        points.collect::<Vec<_>>().join(" ")
    };
    let mut out = String::from(
        "<svg xmlns=\"http://www.w3.org/2000/svg\" viewBox=\"0 0 940 480\" font-family=\"sans-serif\" font-size=\"13\">\n\
         <rect width=\"940\" height=\"480\" fill=\"#fff\"/>\n",
    );
    let title = escaped(&format!(
        "{} {} · {} {} · {}",
        row.set,
        row.part,
        row.run.plan.capacitance,
        row.run.plan.rated,
        row.phase()
    ));
    let limit = decade(row.run.plan.acceptance.below.amperes());
    // Writing to a string does not fail.
    let _ok = writeln!(out, "<text x=\"{left}\" y=\"28\" font-size=\"16\">{title}</text>");
    for n in 0..=4 {
        let v = most_volts * f64::from(n) / 4.0;
        let at = y(v);
        let _ok = writeln!(
            out,
            "<path d=\"M{left} {at:.1}H{}\" stroke=\"#ddd\"/><text x=\"{}\" y=\"{:.1}\" text-anchor=\"end\">{v:.0} V</text>",
            left + width,
            left - 6.0,
            at + 4.0
        );
        let i = 10f64.powi(n - 5);
        let shown = owl_core::quantity::format::format(owl_core::quantity::Quantity::Current, i);
        let _ok = writeln!(
            out,
            "<text x=\"{}\" y=\"{:.1}\" fill=\"#a05a00\">{shown}</text>",
            left + width + 6.0,
            decade(i) + 4.0
        );
        let t = end * f64::from(n) / 4.0;
        let _ok = writeln!(
            out,
            "<text x=\"{:.1}\" y=\"{}\" text-anchor=\"middle\">{:.0} min</text>",
            x(t),
            top + height + 20.0,
            t / 60.0
        );
    }
    let _ok = writeln!(
        out,
        "<path d=\"M{left} {limit:.1}H{}\" stroke=\"#08724b\" stroke-dasharray=\"6 4\"/>\n\
         <polyline points=\"{}\" fill=\"none\" stroke=\"#222\" stroke-width=\"2\"/>\n\
         <polyline points=\"{}\" fill=\"none\" stroke=\"#c76a00\" stroke-width=\"2\"/>\n</svg>",
        left + width,
        path(&|s| y(s.volts)),
        path(&|s| decade(s.amperes))
    );
    out
}

fn escaped(text: &str) -> String {
    text.replace('&', "&amp;").replace('<', "&lt;").replace('>', "&gt;")
}

/// Which reading is to be taken over.
#[derive(Debug, Deserialize, ToSchema)]
pub struct TakeOver {
    /// Chosen by the client, so that sending twice takes it once.
    pub key: Uuid,
}

/// Takes what the part leaked at its last voltage over as a reading of it, to be judged with the others.
///
/// # Errors
/// 404, 409 before it is over, 422 where nothing was measured that says something of the part.
#[utoipa::path(post, path = "/api/reform/runs/{id}/leakage", operation_id = "take_reform_leakage", tag = "reforming",
    params(("id" = Uuid, Path)), request_body = TakeOver,
    responses((status = 201, body = Written), (status = 404, body = Problem), (status = 409, body = Problem)))]
pub async fn leakage(
    State(app): State<App>,
    Id(id): Id,
    Body(new): Body<TakeOver>,
) -> Result<(StatusCode, Json<Written>), ApiError> {
    let mut tx = app.begin().await?;
    let row = crate::table::reform::lock(&mut tx, id).await?;
    if !matches!(row.run.phase, Phase::Over { .. }) {
        return Err(super::conflict("it is not over: its leakage is taken when it was seen empty"));
    }
    let (volts, amperes) = row.leakage().ok_or_else(|| ApiError::Impossible {
        detail: "nothing was measured that tells its leakage".to_owned(),
        field: None,
    })?;
    let part = crate::table::part::lock(&mut tx, row.part_id).await?;
    let bench = match row.run.mode {
        ReformMode::Guided => "reforming bench",
        ReformMode::Simulated => "simulated bench",
    };
    let typed = format!("{amperes} at {volts} on the {bench}");
    let taking = crate::reading::take::Taking {
        pin: None,
        key: new.key,
        quantity: ReadQuantity::LeakageCurrent,
        value_si: Some(amperes.amperes()),
        state: PartState::OutOfCircuit,
        hot: false,
        mode: Some(Mode::Dc),
        test_voltage: Some(volts),
        test_frequency: None,
        setting: Some(Setting::Electrolytic),
        instrument: None,
        way: None,
        station: Some(bench),
        with: "",
        typed: &typed,
        field: "key",
    };
    let new = crate::reading::take::record(&mut tx, &part, &taking).await?;
    let answer = written(&mut tx, row.part_id, new).await?;
    tx.commit().await?;
    Ok((StatusCode::CREATED, Json(answer)))
}
