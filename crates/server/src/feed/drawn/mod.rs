//! The feeds of a ticket: told a part a line, held against the chart, and the guilty part sought in them.

mod typed;
pub mod wire;

use std::collections::BTreeMap;

use axum::Json;
use axum::extract::State;
use axum::http::header;
use axum::response::IntoResponse;
use owl_core::chart::{ChartStatus, Point, SheetMeter, Taken, expected, held};
use owl_core::feed::{FeedKind, RAIL, feeds_by_itself, netlist};
use owl_core::quantity::{Ohm, Quantity, Volt};
use owl_core::tray::branch::{as_read, branch};
use owl_core::verdict::Policy;
use uuid::Uuid;

use self::typed::{told_again, typed};
use self::wire::{DrawnPart, FeedBody, FeedNodeView, FeedRunView, FeedView, FeedsView, WhichRun};
use super::wire::{FeedAnswer, FeedPartBody, FeedQuestion, LoadAs};
use super::{Asked, GROUND, asked_in_thread};
use crate::amount::Amount;
use crate::app::App;
use crate::body::{Body, Id, Query};
use crate::chart::view::{point_of, sheet_meter};
use crate::error::{ApiError, Problem};
use crate::table::chart::ChartRows;
use crate::table::feed::{FeedPartRow, FeedRow, FeedRows};
use crate::table::ticket::TicketRow;

/// The feeds of a ticket, each with its guilty part.
///
/// # Errors
/// 404.
#[utoipa::path(get, path = "/api/tickets/{id}/feeds", operation_id = "list_feeds", tag = "chart",
    params(("id" = Uuid, Path), WhichRun), responses(
    (status = 200, body = FeedsView), (status = 404, body = Problem), (status = 422, body = Problem)))]
pub async fn list(
    State(app): State<App>,
    Id(id): Id,
    Query(which): Query<WhichRun>,
) -> Result<Json<FeedsView>, ApiError> {
    Ok(Json(view(&app, id, which.run).await?))
}

/// Draws a feed, or draws one anew.
///
/// # Errors
/// 404, 409 when it was drawn anew in the meantime, 422 with the line to blame.
#[utoipa::path(put, path = "/api/tickets/{id}/feeds", operation_id = "put_feed", tag = "chart", params(("id" = Uuid, Path)),
    request_body = FeedBody, responses(
    (status = 200, body = FeedsView), (status = 404, body = Problem), (status = 409, body = Problem)))]
pub async fn put(
    State(app): State<App>,
    Id(id): Id,
    Body(body): Body<FeedBody>,
) -> Result<Json<FeedsView>, ApiError> {
    let mut tx = app.begin().await?;
    crate::table::change::hold_ticket(&mut tx, id).await?;
    let chart = crate::table::chart::of_ticket(&mut tx, id).await?;
    let ticket = crate::table::ticket::find(&mut *tx, id).await?;
    let (row, parts, nodes) = typed(id, &body, &chart, &rails_of(&ticket))?;
    crate::table::deed::begin(&mut tx, id, None, &format!("branch {} drawn", row.name)).await?;
    crate::table::feed::put(&mut tx, &row, body.version, &parts, &nodes).await?;
    tx.commit().await?;
    Ok(Json(view(&app, id, None).await?))
}

/// Takes a feed away.
///
/// # Errors
/// 404.
#[utoipa::path(delete, path = "/api/feeds/{id}", operation_id = "remove_feed", tag = "chart", params(("id" = Uuid, Path)), responses(
    (status = 200, body = FeedsView), (status = 404, body = Problem)))]
pub async fn remove(State(app): State<App>, Id(id): Id) -> Result<Json<FeedsView>, ApiError> {
    let ticket = crate::table::feed::ticket_of(&app.db, id).await?;
    let mut tx = app.begin().await?;
    crate::table::deed::begin(&mut tx, ticket, None, "a branch taken away").await?;
    crate::table::feed::remove(&mut tx, id).await?;
    tx.commit().await?;
    Ok(Json(view(&app, ticket, None).await?))
}

/// A feed as a SPICE netlist.
///
/// # Errors
/// 404, 422 where a load is not known.
#[utoipa::path(get, path = "/api/feeds/{id}/netlist", operation_id = "feed_netlist", tag = "chart", params(("id" = Uuid, Path)), responses(
    (status = 200, body = String, content_type = "text/plain"), (status = 404, body = Problem), (status = 422, body = Problem)))]
pub async fn as_netlist(State(app): State<App>, Id(id): Id) -> Result<impl IntoResponse, ApiError> {
    let ticket = crate::table::feed::ticket_of(&app.db, id).await?;
    let mut db = app.db.snapshot().await?;
    let of_ticket = crate::table::ticket::find(&mut *db, ticket).await?;
    let policy = crate::table::policy::of_ticket(&mut *db, &of_ticket).await?;
    let rows = crate::table::feed::of_ticket(&mut db, ticket).await?;
    let chart = crate::table::chart::of_ticket(&mut db, ticket).await?;
    let feed = rows.feeds.iter().find(|f| f.id == id).ok_or_else(|| ApiError::no_such("feed"))?;
    let rails = rails_of(&of_ticket);
    let asked = Asked::of(&question(feed, &Of::new(&of_ticket, &rows, &chart, &rails, &policy)?, None)?)?;
    let text = netlist(asked.feed(), &feed.name).text;
    let headers = [
        (header::CONTENT_TYPE, "text/plain; charset=utf-8"),
        (header::CONTENT_DISPOSITION, "attachment; filename=\"feed.cir\""),
    ];
    Ok((headers, text))
}

/// What a ticket holds against its feeds.
#[derive(Clone, Copy)]
struct Of<'a> {
    rows: &'a FeedRows,
    chart: &'a ChartRows,
    /// The rails of the set, by their names.
    rails: &'a [(String, f64)],
    /// How its sheet was made, but for the line: the rail goes with that.
    made: SheetMeter,
    /// By which limits a reading is off.
    policy: &'a Policy,
}

impl<'a> Of<'a> {
    fn new(
        ticket: &TicketRow,
        rows: &'a FeedRows,
        chart: &'a ChartRows,
        rails: &'a [(String, f64)],
        policy: &'a Policy,
    ) -> Result<Self, ApiError> {
        Ok(Self { rows, chart, rails, made: SheetMeter { line: None, ..sheet_meter(ticket)? }, policy })
    }
}

/// What the chart and the feed itself say of a node: the feed's own word first.
fn node_view(feed: &FeedRow, node: &str, of: &Of<'_>, run: Option<Uuid>) -> Result<FeedNodeView, ApiError> {
    let Of { rows, chart, made, policy, .. } = *of;
    let own = rows.nodes.iter().find(|n| n.feed_id == feed.id && n.node == node);
    let point = chart.points.iter().find(|p| p.name == node);
    let run = run.or(chart.runs.last().map(|r| r.id));
    let read = point.zip(run).and_then(|(p, run)| {
        chart.readings.iter().find(|r| r.run_id == run && r.point_id == p.id).map(|r| r.volts)
    });
    let volt = |v: f64| Amount::of(Quantity::Voltage, v);
    let measured = own.and_then(|n| n.measured);
    let of_set = rails_in(feed, of).get(node).copied();
    let sheet = own.and_then(|n| n.sheet).or(of_set);
    let free = match (sheet, point) {
        (None, Some(p)) => expected(point_of(p)?, made, Taken::default()).map_err(internal)?,
        _ => None,
    };
    Ok(FeedNodeView {
        node: node.to_owned(),
        sheet: sheet
            .map(volt)
            .or(free.as_ref().map(|e| Amount::rounded(Quantity::Voltage, e.volts.volts(), 3))),
        measured: measured.or(read).map(volt),
        from_chart: measured.is_none() && read.is_some(),
        sheet_from_chart: sheet.is_none() && free.is_some(),
        off: off(sheet.or(free.as_ref().map(|e| e.volts.volts())), measured.or(read), policy)?,
    })
}

/// Whether a node is off, by the rule of the voltage chart; not where either number is missing.
fn off(sheet: Option<f64>, read: Option<f64>, policy: &Policy) -> Result<bool, ApiError> {
    let (Some(sheet), Some(read)) = (sheet, read) else { return Ok(false) };
    let point = Point {
        sheet: Some(Volt::new(sheet).map_err(internal)?),
        fed_through: None,
        heater: false,
        steady: true,
    };
    let read = Volt::new(read).map_err(internal)?;
    let held = held(point, SheetMeter::default(), Taken::default(), read, policy).map_err(internal)?;
    Ok(held.status != ChartStatus::Right)
}

pub(super) fn internal(e: owl_core::quantity::QuantityError) -> ApiError {
    ApiError::Internal(format!("stored row: {e}"))
}

/// The rails of a set, as its page has them.
fn rails_of(ticket: &TicketRow) -> Vec<(String, f64)> {
    ticket.set().rails.iter().map(|r| (r.name.clone(), r.volts.volts())).collect()
}

/// The rails of the set that feed a branch beside its own.
fn rails_in(feed: &FeedRow, of: &Of<'_>) -> BTreeMap<String, f64> {
    let parts = || of.rows.parts.iter().filter(|p| p.feed_id == feed.id);
    let ends = || parts().map(|p| (p.node_a.as_str(), p.node_b.as_str()));
    of.rails.iter().filter(|(n, _)| feeds_by_itself(n, ends())).cloned().collect()
}

/// The nodes of a feed, the rail first, in the order in which its parts name them.
fn nodes_of(feed: &FeedRow, of: &Of<'_>, run: Option<Uuid>) -> Result<Vec<FeedNodeView>, ApiError> {
    let mut names: Vec<&str> = vec![RAIL];
    for p in of.rows.parts.iter().filter(|p| p.feed_id == feed.id) {
        for n in [p.node_a.as_str(), p.node_b.as_str()] {
            if n != GROUND && !names.contains(&n) {
                names.push(n);
            }
        }
    }
    names.into_iter().map(|n| node_view(feed, n, of, run)).collect()
}

fn question(feed: &FeedRow, of: &Of<'_>, run: Option<Uuid>) -> Result<FeedQuestion, ApiError> {
    let Of { rows, chart, .. } = *of;
    let nodes = nodes_of(feed, of, run)?;
    let map = |of: fn(&FeedNodeView) -> Option<f64>| -> BTreeMap<String, Option<f64>> {
        nodes.iter().map(|n| (n.node.clone(), of(n))).collect()
    };
    let meter = run.map_or_else(|| chart.runs.last(), |id| chart.runs.iter().find(|r| r.id == id));
    let body = |p: &FeedPartRow| -> Result<FeedPartBody, ApiError> {
        Ok(FeedPartBody {
            name: p.name.clone(),
            kind: p.kind,
            a: p.node_a.clone(),
            b: p.node_b.clone(),
            value: p.value,
            unit: p.as_ohms.then_some(LoadAs::Resistance),
            tolerance: p.tolerance,
            rating: p.rating,
        })
    };
    Ok(FeedQuestion {
        rail: feed.rail,
        rails: rails_in(feed, of),
        parts: rows.parts.iter().filter(|p| p.feed_id == feed.id).map(body).collect::<Result<_, _>>()?,
        measured: map(|n| n.measured.as_ref().map(|a| a.value)),
        sheet: Some(map(|n| n.sheet.as_ref().map(|a| a.value))),
        ground: None,
        meter: meter.and_then(|r| r.meter),
    })
}

/// The feeds of a ticket, held against its newest readings.
///
/// # Errors
/// 404.
pub async fn of(app: &App, ticket_id: Uuid) -> Result<FeedsView, ApiError> {
    view(app, ticket_id, None).await
}

async fn view(app: &App, ticket_id: Uuid, run: Option<Uuid>) -> Result<FeedsView, ApiError> {
    let mut tx = app.db.snapshot().await?;
    let ticket = crate::table::ticket::find(&mut *tx, ticket_id).await?;
    let policy = crate::table::policy::of_ticket(&mut *tx, &ticket).await?;
    let rows = crate::table::feed::of_ticket(&mut tx, ticket_id).await?;
    let chart = crate::table::chart::of_ticket(&mut tx, ticket_id).await?;
    if run.is_some_and(|id| chart.runs.iter().all(|r| r.id != id)) {
        return Err(ApiError::field("run", "that set of readings is not of this ticket"));
    }
    let loaded = crate::tray::load::of_ticket(&mut tx, ticket_id).await?;
    drop(tx);
    let rails = rails_of(&ticket);
    let of = Of::new(&ticket, &rows, &chart, &rails, &policy)?;
    let read = as_read(&loaded.tray);
    let mut feeds = Vec::new();
    for feed in &rows.feeds {
        let on_tray = |name: &str| loaded.tray.called(name).is_some();
        let parts: Vec<&FeedPartRow> = rows.parts.iter().filter(|p| p.feed_id == feed.id).collect();
        let told = parts.iter().map(|p| told_again(p)).collect::<Result<Vec<_>, _>>()?.join("\n");
        let ohms = |name: &str| read.iter().find(|(n, _)| n == name).map(|(_, r)| *r);
        let drawn = parts.iter().map(|p| drawn(p, on_tray(&p.name), ohms(&p.name))).collect();
        let (answer, missing) = match answered(question(feed, &of, run)?, read.clone()).await {
            Ok(answer) => (Some(answer), None),
            Err(ApiError::Impossible { detail, .. }) => (None, Some(detail)),
            Err(e) => return Err(e),
        };
        feeds.push(FeedView {
            id: feed.id,
            version: feed.version,
            name: feed.name.clone(),
            rail: Amount::of(Quantity::Voltage, feed.rail),
            told,
            parts: drawn,
            nodes: nodes_of(feed, &of, run)?,
            answer,
            missing,
        });
    }
    let known = branch(&loaded.tray);
    Ok(FeedsView {
        feeds,
        from_tray: known.lines.join("\n"),
        tray_rail: known.rail.map(|v| Amount::of(Quantity::Voltage, v.volts())),
        tray_nodes: known
            .nodes
            .into_iter()
            .map(|(node, v)| FeedNodeView {
                node,
                sheet: Some(Amount::of(Quantity::Voltage, v.volts())),
                measured: None,
                from_chart: false,
                sheet_from_chart: false,
                off: false,
            })
            .collect(),
        points: rails
            .iter()
            .map(|(n, _)| n.clone())
            .chain(chart.points.iter().map(|p| p.name.clone()))
            .collect(),
        run: run.or(chart.runs.last().map(|r| r.id)),
        runs: chart.runs.iter().map(|r| FeedRunView { id: r.id, name: r.name.clone() }).collect(),
    })
}

async fn answered(q: FeedQuestion, read: Vec<(String, Ohm)>) -> Result<FeedAnswer, ApiError> {
    asked_in_thread(Asked::of(&q)?.with_read(&read)).await
}

fn drawn(p: &FeedPartRow, on_tray: bool, read: Option<Ohm>) -> DrawnPart {
    let kind = p.kind;
    let of = match kind {
        FeedKind::Resistor | FeedKind::Contact => Quantity::Resistance,
        FeedKind::Capacitor => Quantity::Capacitance,
        FeedKind::Load if p.as_ohms => Quantity::Resistance,
        FeedKind::Load => Quantity::Current,
    };
    DrawnPart {
        name: p.name.clone(),
        kind,
        a: p.node_a.clone(),
        b: p.node_b.clone(),
        value: p.value.map(|v| Amount::of(of, v).text).unwrap_or_default(),
        rating: p.rating.map(|w| Amount::of(Quantity::Power, w)),
        read: read
            .filter(|_| kind == FeedKind::Resistor)
            .map(|r| Amount::rounded(Quantity::Resistance, r.ohms(), 3)),
        on_tray,
    }
}
