//! The voltage chart of a ticket: points, sets of readings, and how each reading stands to its sheet.

mod seen;
pub(crate) mod typed;
pub mod view;
pub mod wire;

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use owl_core::chart::board::probes;
use owl_core::marking::Meaning;
use owl_core::quantity::Quantity;
use uuid::Uuid;

use self::view::chart_view;
use self::wire::{
    ChartPointBody, ChartReadingBody, ChartRunBody, ChartValveBody, VoltageChartView, WhichRuns,
};
use crate::amount::typed_optional;
use crate::app::App;
use crate::body::{Body, Id, Query};
use crate::error::{ApiError, Problem};
use crate::overtaken::{shown, unless_overtaken};
use crate::table::deed::begin;

/// A chart with two sets of readings beside each other.
///
/// # Errors
/// 404.
#[utoipa::path(get, path = "/api/tickets/{id}/chart", operation_id = "read_chart", tag = "chart",
    params(("id" = Uuid, Path), WhichRuns), responses(
    (status = 200, body = VoltageChartView), (status = 404, body = Problem), (status = 422, body = Problem)))]
pub async fn read(
    State(app): State<App>,
    Id(id): Id,
    Query(which): Query<WhichRuns>,
) -> Result<Json<VoltageChartView>, ApiError> {
    Ok(Json(view_of(&app, id, &which).await?))
}

/// Puts a point into the chart, or writes one over.
///
/// # Errors
/// 404, 409 with what another bench changed, 422 with the input to blame.
#[utoipa::path(put, path = "/api/tickets/{id}/chart/points", operation_id = "put_chart_point", tag = "chart", params(("id" = Uuid, Path)),
    request_body = ChartPointBody, responses(
    (status = 200, body = VoltageChartView), (status = 404, body = Problem), (status = 409, body = Problem)))]
pub async fn put_point(
    State(app): State<App>,
    Id(id): Id,
    Body(body): Body<ChartPointBody>,
) -> Result<Json<VoltageChartView>, ApiError> {
    let mut tx = app.begin().await?;
    crate::table::change::hold_ticket(&mut tx, id).await?;
    let chart = crate::table::chart::of_ticket(&mut tx, id).await?;
    typed::room(&chart, &body.id, 1)?;
    let mut new = typed::point(&body, &chart)?;
    if let (Some(seen), Some(now)) = (&body.seen, chart.points.iter().find(|p| p.id == body.id)) {
        let pair = chart.points.iter().find(|p| Some(p.id) == now.pair_id).map_or("", |p| &p.name);
        new = seen::together(&body, seen, new, now, pair)?;
    }
    let (row, pair) = new;
    begin(&mut tx, id, None, &format!("the point {}", row.name)).await?;
    crate::table::chart::put_point(&mut tx, id, &row).await?;
    if pair != chart.points.iter().find(|p| p.id == row.id).and_then(|p| p.pair_id) {
        crate::table::chart::pair(&mut tx, row.id, pair).await?;
    }
    tx.commit().await?;
    Ok(Json(of(&app, id).await?))
}

/// Puts every pin that is read into the chart, of a valve, a transistor, a circuit or a whole board.
///
/// # Errors
/// 404, 422 with the input to blame: a valve that is in no table.
#[utoipa::path(post, path = "/api/tickets/{id}/chart/valves", operation_id = "add_chart_valve", tag = "chart", params(("id" = Uuid, Path)),
    request_body = ChartValveBody, responses(
    (status = 201, body = VoltageChartView), (status = 404, body = Problem)))]
pub async fn add_valve(
    State(app): State<App>,
    Id(id): Id,
    Body(body): Body<ChartValveBody>,
) -> Result<(StatusCode, Json<VoltageChartView>), ApiError> {
    let mut tx = app.begin().await?;
    crate::table::change::hold_ticket(&mut tx, id).await?;
    let chart = crate::table::chart::of_ticket(&mut tx, id).await?;
    let rows = typed::pins(&body, &chart)?;
    typed::room(&chart, &Uuid::nil(), rows.len())?;
    let names: Vec<&str> = rows.iter().map(|r| r.name.as_str()).collect();
    begin(&mut tx, id, None, &format!("into the chart: {}", names.join(", "))).await?;
    for row in &rows {
        crate::table::chart::put_point(&mut tx, id, row).await?;
    }
    tx.commit().await?;
    Ok((StatusCode::CREATED, Json(of(&app, id).await?)))
}

/// Takes a point out of the chart, with what was read there.
///
/// # Errors
/// 404.
#[utoipa::path(delete, path = "/api/chart/points/{id}", operation_id = "remove_chart_point", tag = "chart", params(("id" = Uuid, Path)), responses(
    (status = 200, body = VoltageChartView), (status = 404, body = Problem)))]
pub async fn remove_point(State(app): State<App>, Id(id): Id) -> Result<Json<VoltageChartView>, ApiError> {
    let ticket = crate::table::chart::ticket_of_point(&app.db, id).await?;
    let mut tx = app.begin().await?;
    begin(&mut tx, ticket, None, "a point taken out of the chart").await?;
    crate::table::chart::remove_point(&mut *tx, id).await?;
    tx.commit().await?;
    Ok(Json(of(&app, ticket).await?))
}

/// Begins a set of readings, or writes its name, line and meter over.
///
/// # Errors
/// 404, 422 with the input to blame.
#[utoipa::path(put, path = "/api/tickets/{id}/chart/runs", operation_id = "put_chart_run", tag = "chart", params(("id" = Uuid, Path)),
    request_body = ChartRunBody, responses(
    (status = 200, body = VoltageChartView), (status = 404, body = Problem)))]
pub async fn put_run(
    State(app): State<App>,
    Id(id): Id,
    Body(body): Body<ChartRunBody>,
) -> Result<Json<VoltageChartView>, ApiError> {
    crate::table::ticket::find(&app.db, id).await?;
    let mut tx = app.begin().await?;
    crate::table::chart::put_run(&mut *tx, id, &typed::run(&body)?).await?;
    tx.commit().await?;
    Ok(Json(of(&app, id).await?))
}

/// Writes a reading down; an empty one takes it away.
///
/// # Errors
/// 404, 409 with what another bench read there, 422 with the input to blame.
#[utoipa::path(put, path = "/api/chart/runs/{id}/readings", operation_id = "put_chart_reading", tag = "chart", params(("id" = Uuid, Path)),
    request_body = ChartReadingBody, responses(
    (status = 200, body = VoltageChartView), (status = 404, body = Problem), (status = 409, body = Problem)))]
pub async fn put_reading(
    State(app): State<App>,
    Id(id): Id,
    Body(body): Body<ChartReadingBody>,
) -> Result<Json<VoltageChartView>, ApiError> {
    let ticket = crate::table::chart::ticket_of_run(&app.db, id).await?;
    if crate::table::chart::ticket_of_point(&app.db, body.point).await? != ticket {
        return Err(ApiError::field("point", "that point stands in another ticket's chart"));
    }
    let volts =
        typed_optional(Quantity::Voltage, Some(&body.volts)).map_err(|e| ApiError::field("volts", e))?;
    if volts.is_some_and(|v| v.abs() >= 1e6) {
        return Err(ApiError::field("volts", "those are more volts than any bench has"));
    }
    let mut tx = app.begin().await?;
    let said = if volts.is_some() { body.volts.trim() } else { "a reading taken away" };
    crate::table::change::hold_ticket(&mut tx, ticket).await?;
    let point = crate::table::chart::name_of_point(&mut *tx, body.point).await?;
    if let Some(seen) = &body.seen {
        let now = crate::table::chart::volts_at(&mut *tx, id, body.point).await?;
        unless_overtaken(&point, seen, &shown(Quantity::Voltage, now), volts == now)?;
    }
    begin(&mut tx, ticket, None, &format!("{point}: {said}")).await?;
    crate::table::chart::read(&mut *tx, id, body.point, volts).await?;
    tx.commit().await?;
    Ok(Json(of(&app, ticket).await?))
}

/// The chart of a ticket as it stands.
///
/// # Errors
/// 404.
pub async fn of(app: &App, ticket_id: Uuid) -> Result<VoltageChartView, ApiError> {
    view_of(app, ticket_id, &WhichRuns::default()).await
}

/// The chart of a ticket with two of its sets beside each other.
///
/// # Errors
/// 404, 422 for a set of another ticket.
pub async fn view_of(app: &App, ticket_id: Uuid, which: &WhichRuns) -> Result<VoltageChartView, ApiError> {
    let mut tx = app.db.snapshot().await?;
    let ticket = crate::table::ticket::find(&mut *tx, ticket_id).await?;
    let policy = crate::table::policy::of_ticket(&mut *tx, &ticket).await?;
    let chart = crate::table::chart::of_ticket(&mut tx, ticket_id).await?;
    let parts = crate::table::part::parts_of(&mut *tx, ticket_id).await?;
    let there = |at: &str| chart.points.iter().any(|p| p.name.starts_with(&format!("{at} ")));
    let typed = parts.iter().filter(|p| !there(&p.name)).filter_map(|p| {
        let mark = Meaning::try_from(p.mark.as_ref()?.0.clone()).ok()?;
        Some(format!("{} {}", p.name, mark.type_number().filter(|t| probes(t).is_some())?))
    });
    let from_tray: Vec<String> = typed.collect();
    Ok(VoltageChartView { from_tray: from_tray.join(", "), ..chart_view(&ticket, &chart, which, &policy)? })
}
