//! The feeds of a ticket: told a part a line, held against the chart, and the guilty part sought in them.

use std::collections::BTreeMap;

use axum::Json;
use axum::extract::State;
use axum::http::header;
use axum::response::IntoResponse;
use owl_core::chart::{SheetMeter, Taken, expected};
use owl_core::feed::line::{Told, told, written};
use owl_core::feed::{Element, FeedKind, FeedPart, RAIL, netlist};
use owl_core::named::Named;
use owl_core::quantity::{Ampere, Farad, Fraction, Ohm, Quantity, Watt};
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;

use super::store::{self, FeedNodeRow, FeedPartRow, FeedRow, FeedRows};
use super::tray::from_tray;
use super::wire::{FeedAnswer, FeedPartBody, FeedQuestion, LoadAs};
use super::{Asked, GROUND, asked_in_thread};
use crate::amount::Amount;
use crate::body::{Body, Id, Query};
use crate::chart::store::ChartRows;
use crate::chart::view::{point_of, sheet_meter};
use crate::error::{ApiError, Problem};
use crate::name::{FeedKindName, Name, stored};
use crate::reading::amount::typed_optional;
use crate::router::App;
use crate::ticket::checked_text;
use crate::ticket::store::TicketRow;

/// Which set of readings is held against a feed.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct WhichRun {
    /// The newest where it does not say.
    run: Option<Uuid>,
}

/// A feed, as told.
#[derive(Debug, Deserialize, ToSchema)]
pub struct FeedBody {
    /// Chosen by the client.
    pub id: Uuid,
    /// The version that was seen; null for a new one.
    pub version: Option<i32>,
    /// What it is called.
    #[schema(min_length = 1, max_length = 60)]
    pub name: String,
    /// Volts of its rail by the sheet, as typed.
    #[schema(max_length = 40)]
    pub rail: String,
    /// Its parts, a line each: `R9 from rail to screen 3k3 1W`.
    #[schema(max_length = 20000)]
    pub parts: String,
    /// What nodes should have and have, where the chart does not say.
    #[serde(default)]
    #[schema(max_items = 200)]
    pub nodes: Vec<FeedNodeBody>,
}

/// A node, as typed; empty is unknown, or as the chart says.
#[derive(Debug, Deserialize, ToSchema)]
pub struct FeedNodeBody {
    /// Its name.
    #[schema(max_length = 40)]
    pub node: String,
    /// Volts by the sheet.
    #[serde(default)]
    #[schema(max_length = 40)]
    pub sheet: String,
    /// Volts as read.
    #[serde(default)]
    #[schema(max_length = 40)]
    pub measured: String,
}

/// The feeds of a ticket.
#[derive(Debug, Serialize, ToSchema)]
pub struct FeedsView {
    /// In the order in which they were drawn.
    pub feeds: Vec<FeedView>,
    /// What the tray knows of connections, told a part a line; empty where it knows none.
    pub from_tray: String,
    /// The rail of those, where the tray knows it.
    pub tray_rail: Option<Amount>,
    /// The nodes of those, with what the tray knows of their volts.
    pub tray_nodes: Vec<FeedNodeView>,
    /// The points of the chart, which a node can be.
    pub points: Vec<String>,
}

/// A feed with what is said of it.
#[derive(Debug, Serialize, ToSchema)]
pub struct FeedView {
    /// Its id.
    pub id: Uuid,
    /// Rises with every change.
    pub version: i32,
    /// What it is called.
    pub name: String,
    /// Volts of its rail by the sheet.
    pub rail: Amount,
    /// Its parts, told a part a line.
    pub told: String,
    /// The same, for the drawing.
    pub parts: Vec<DrawnPart>,
    /// Its nodes.
    pub nodes: Vec<FeedNodeView>,
    /// Which part is guilty; null where nothing is read or a load is not known.
    pub answer: Option<FeedAnswer>,
    /// Why there is no answer.
    pub missing: Option<String>,
}

/// A part of a drawn feed.
#[derive(Debug, Serialize, ToSchema)]
pub struct DrawnPart {
    /// What it is called.
    #[serde(rename = "ref")]
    pub name: String,
    /// Resistor, capacitor or load.
    pub kind: FeedKindName,
    /// The node of one end.
    pub a: String,
    /// The node of the other.
    pub b: String,
    /// As shown; empty where it is not said.
    pub value: String,
    /// What it may dissipate.
    pub rating: Option<Amount>,
    /// Whether it lies on the tray.
    pub on_tray: bool,
}

/// A node of a drawn feed.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct FeedNodeView {
    /// Its name.
    pub node: String,
    /// Volts by the sheet.
    pub sheet: Option<Amount>,
    /// Volts as read.
    pub measured: Option<Amount>,
    /// Whether the chart says what was read.
    pub from_chart: bool,
    /// Whether the chart says what it should have: without the load of the sheet's meter, where that is known.
    pub sheet_from_chart: bool,
}

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
    let mut tx = app.pool.begin().await?;
    crate::change::store::hold_ticket(&mut tx, id).await?;
    let chart = crate::chart::store::of_ticket(&mut tx, id).await?;
    let (row, parts, nodes) = typed(id, &body, &chart)?;
    store::put(&mut tx, &row, body.version, &parts, &nodes).await?;
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
    let ticket = store::ticket_of(&app.pool, id).await?;
    store::remove(&app.pool, id).await?;
    Ok(Json(view(&app, ticket, None).await?))
}

/// A feed as a SPICE netlist.
///
/// # Errors
/// 404, 422 where a load is not known.
#[utoipa::path(get, path = "/api/feeds/{id}/netlist", operation_id = "feed_netlist", tag = "chart", params(("id" = Uuid, Path)), responses(
    (status = 200, body = String, content_type = "text/plain"), (status = 404, body = Problem), (status = 422, body = Problem)))]
pub async fn as_netlist(State(app): State<App>, Id(id): Id) -> Result<impl IntoResponse, ApiError> {
    let ticket = store::ticket_of(&app.pool, id).await?;
    let mut db = app.pool.acquire().await?;
    let of_ticket = crate::ticket::store::find(&mut *db, ticket).await?;
    let rows = store::of_ticket(&mut db, ticket).await?;
    let chart = crate::chart::store::of_ticket(&mut db, ticket).await?;
    let feed = rows.feeds.iter().find(|f| f.id == id).ok_or_else(|| ApiError::no_such("feed"))?;
    let asked = Asked::of(&question(feed, &Of::new(&of_ticket, &rows, &chart)?, None)?)?;
    let text = netlist(asked.feed(), &feed.name).text;
    let headers = [
        (header::CONTENT_TYPE, "text/plain; charset=utf-8"),
        (header::CONTENT_DISPOSITION, "attachment; filename=\"feed.cir\""),
    ];
    Ok((headers, text))
}

fn typed(
    ticket_id: Uuid,
    body: &FeedBody,
    chart: &ChartRows,
) -> Result<(FeedRow, Vec<FeedPartRow>, Vec<FeedNodeRow>), ApiError> {
    let name = checked_text("name", &body.name, 60)?;
    if name.is_empty() {
        return Err(ApiError::field("name", "say which feed it is: screens, B+ of the output stage"));
    }
    let volts = |field: &str, text: &str| {
        let v = typed_optional(Quantity::Voltage, Some(text)).map_err(|e| ApiError::field(field, e))?;
        match v {
            Some(v) if v.abs() >= 1e6 => {
                Err(ApiError::field(field, "those are more volts than any bench has"))
            }
            v => Ok(v),
        }
    };
    let rail = volts("rail", &body.rail)?
        .filter(|v| *v != 0.0)
        .ok_or_else(|| ApiError::field("rail", "say the volts of the rail by the sheet"))?;
    let known: Vec<String> = chart.points.iter().map(|p| p.name.clone()).collect();
    let text = checked_text("parts", &body.parts, 20_000)?;
    let mut all: Vec<Told> = Vec::new();
    for (i, line) in text.lines().enumerate().filter(|(_, l)| !l.trim().is_empty()) {
        let at = |why: String| ApiError::field("parts", format!("line {}: {why}", i + 1));
        let one = told(line, &known).map_err(|e| at(e.to_string()))?;
        for (what, text) in [("name", &one.part.name), ("node", &one.part.a), ("node", &one.part.b)] {
            if text.chars().count() > 40 {
                return Err(at(format!(
                    "the {what} '{}…' is too long",
                    text.chars().take(20).collect::<String>()
                )));
            }
        }
        if all.iter().any(|t| t.part.name == one.part.name) {
            return Err(at(format!("{} stands there twice", one.part.name)));
        }
        if one.part.a == one.part.b {
            return Err(at(format!("both ends of {} are on the same node", one.part.name)));
        }
        all.push(one);
    }
    if all.is_empty() {
        return Err(ApiError::field("parts", "say at least one part: R9 from rail to screen 3k3"));
    }
    if all.len() > owl_core::feed::MOST_PARTS {
        return Err(ApiError::field("parts", format!("at most {} parts", owl_core::feed::MOST_PARTS)));
    }
    let nodes = body
        .nodes
        .iter()
        .enumerate()
        .map(|(i, n)| {
            Ok(FeedNodeRow {
                feed_id: body.id,
                node: checked_text(&format!("nodes[{i}].node"), &n.node, 40)?,
                sheet: volts(&format!("nodes[{i}].sheet"), &n.sheet)?,
                measured: volts(&format!("nodes[{i}].measured"), &n.measured)?,
            })
        })
        .collect::<Result<Vec<_>, ApiError>>()?;
    // A node is kept as long as a part has an end there.
    let used = |n: &FeedNodeRow| {
        let here = |t: &Told| t.part.a == n.node || t.part.b == n.node || n.node == RAIL;
        (n.sheet.is_some() || n.measured.is_some()) && all.iter().any(here)
    };
    let mut kept: Vec<FeedNodeRow> = Vec::new();
    for n in nodes.into_iter().filter(used) {
        if kept.iter().all(|k| k.node != n.node) {
            kept.push(n);
        }
    }
    let row = FeedRow { id: body.id, ticket_id, name, rail, version: 1 };
    Ok((row, all.iter().map(|t| part_row(body.id, t)).collect(), kept))
}

fn part_row(feed_id: Uuid, t: &Told) -> FeedPartRow {
    let (value, as_ohms) = match t.part.element {
        Element::Resistor(r) => (Some(r.ohms()), false),
        Element::Resistance(r) => (Some(r.ohms()), true),
        Element::Capacitor(c) => (c.map(Farad::farads), false),
        Element::Current(a) => (t.valued.then(|| a.amperes()), false),
    };
    FeedPartRow {
        feed_id,
        name: t.part.name.clone(),
        kind: t.part.element.kind().name().to_owned(),
        node_a: t.part.a.clone(),
        node_b: t.part.b.clone(),
        value,
        as_ohms,
        tolerance: t.part.tolerance.map(Fraction::fraction),
        rating: t.part.rating.map(Watt::watts),
    }
}

/// A stored part as it would be told.
fn told_again(p: &FeedPartRow) -> Result<String, ApiError> {
    let kind: FeedKind = stored(&p.kind)?;
    let value = p.value.unwrap_or(0.0);
    let element = match kind {
        FeedKind::Resistor => Element::Resistor(Ohm::new(value).map_err(internal)?),
        FeedKind::Capacitor => Element::Capacitor(p.value.map(Farad::new).transpose().map_err(internal)?),
        FeedKind::Load if p.as_ohms => Element::Resistance(Ohm::new(value).map_err(internal)?),
        FeedKind::Load => Element::Current(Ampere::new(value).map_err(internal)?),
    };
    let part = FeedPart {
        name: p.name.clone(),
        element,
        a: p.node_a.clone(),
        b: p.node_b.clone(),
        tolerance: p.tolerance.map(Fraction::new).transpose().map_err(internal)?,
        rating: p.rating.map(Watt::new).transpose().map_err(internal)?,
    };
    Ok(written(&part, p.value.is_some()))
}

/// What a ticket holds against its feeds.
#[derive(Clone, Copy)]
struct Of<'a> {
    rows: &'a FeedRows,
    chart: &'a ChartRows,
    /// How its sheet was made, but for the line: the rail goes with that.
    made: SheetMeter,
}

impl<'a> Of<'a> {
    fn new(ticket: &TicketRow, rows: &'a FeedRows, chart: &'a ChartRows) -> Result<Self, ApiError> {
        Ok(Self { rows, chart, made: SheetMeter { line: None, ..sheet_meter(ticket)? } })
    }
}

/// What the chart and the feed itself say of a node: the feed's own word first.
fn node_view(feed: &FeedRow, node: &str, of: &Of<'_>, run: Option<Uuid>) -> Result<FeedNodeView, ApiError> {
    let Of { rows, chart, made } = *of;
    let own = rows.nodes.iter().find(|n| n.feed_id == feed.id && n.node == node);
    let point = chart.points.iter().find(|p| p.name == node);
    let run = run.or(chart.runs.last().map(|r| r.id));
    let read = point.zip(run).and_then(|(p, run)| {
        chart.readings.iter().find(|r| r.run_id == run && r.point_id == p.id).map(|r| r.volts)
    });
    let volt = |v: f64| Amount::of(Quantity::Voltage, v);
    let measured = own.and_then(|n| n.measured);
    let sheet = own.and_then(|n| n.sheet);
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
    })
}

fn internal(e: owl_core::quantity::QuantityError) -> ApiError {
    ApiError::Internal(format!("stored row: {e}"))
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
            kind: Name(stored(&p.kind)?),
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
    let mut tx = app.pool.begin_with("begin isolation level repeatable read read only").await?;
    let ticket = crate::ticket::store::find(&mut *tx, ticket_id).await?;
    let rows = store::of_ticket(&mut tx, ticket_id).await?;
    let chart = crate::chart::store::of_ticket(&mut tx, ticket_id).await?;
    if run.is_some_and(|id| chart.runs.iter().all(|r| r.id != id)) {
        return Err(ApiError::field("run", "that set of readings is not of this ticket"));
    }
    let tray = crate::part::store::tray(&mut tx, ticket_id).await?;
    drop(tx);
    let of = Of::new(&ticket, &rows, &chart)?;
    let mut feeds = Vec::new();
    for feed in &rows.feeds {
        let on_tray = |name: &str| tray.parts.iter().any(|p| p.name == name);
        let parts: Vec<&FeedPartRow> = rows.parts.iter().filter(|p| p.feed_id == feed.id).collect();
        let told = parts.iter().map(|p| told_again(p)).collect::<Result<Vec<_>, _>>()?.join("\n");
        let drawn = parts.iter().map(|p| drawn(p, on_tray(&p.name))).collect::<Result<Vec<_>, ApiError>>()?;
        let (answer, missing) = match answered(question(feed, &of, run)?).await {
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
    let known = from_tray(&tray)?;
    Ok(FeedsView {
        feeds,
        from_tray: known.told.join("\n"),
        tray_rail: known.rail.map(|v| Amount::of(Quantity::Voltage, v)),
        tray_nodes: known.nodes,
        points: chart.points.iter().map(|p| p.name.clone()).collect(),
    })
}

async fn answered(q: FeedQuestion) -> Result<FeedAnswer, ApiError> {
    asked_in_thread(Asked::of(&q)?).await
}

fn drawn(p: &FeedPartRow, on_tray: bool) -> Result<DrawnPart, ApiError> {
    let kind: FeedKind = stored(&p.kind)?;
    let of = match kind {
        FeedKind::Resistor => Quantity::Resistance,
        FeedKind::Capacitor => Quantity::Capacitance,
        FeedKind::Load if p.as_ohms => Quantity::Resistance,
        FeedKind::Load => Quantity::Current,
    };
    Ok(DrawnPart {
        name: p.name.clone(),
        kind: Name(kind),
        a: p.node_a.clone(),
        b: p.node_b.clone(),
        value: p.value.map(|v| Amount::of(of, v).text).unwrap_or_default(),
        rating: p.rating.map(|w| Amount::of(Quantity::Power, w)),
        on_tray,
    })
}
