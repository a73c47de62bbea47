//! What is left on a ticket, in rounds, with an estimate from the workshop's own past.

use axum::Json;
use axum::extract::State;
use owl_core::plan::{Item, Pace, RoundKind, rounds};
use owl_core::quantity::{Quantity, Second};
use owl_core::substitute::Rarity;
use owl_core::tray::left::left;
use owl_core::tray::verdict::judged;
use serde::Serialize;
use utoipa::ToSchema;

use crate::amount::Amount;
use crate::app::App;
use crate::body::Id;
use crate::error::{ApiError, Problem};
use crate::tray::{load, uuid};

/// What is left.
#[derive(Debug, Serialize, ToSchema)]
pub struct PlanView {
    /// In the order in which they are best done.
    pub rounds: Vec<RoundView>,
    /// How long all of it will take, as far as the workshop's past says.
    pub expected: Option<Amount>,
    /// On how many past readings the estimate rests.
    pub rests_on: i64,
}

/// One sitting.
#[derive(Debug, Serialize, ToSchema)]
pub struct RoundView {
    /// What it is about.
    pub kind: RoundKind,
    /// The valve that is pulled.
    pub valve: Option<String>,
    /// The parts or points.
    pub names: Vec<String>,
    /// How long it will take.
    pub expected: Option<Amount>,
}

/// What is left on a ticket.
///
/// # Errors
/// 404.
#[utoipa::path(get, path = "/api/tickets/{id}/plan", operation_id = "read_plan", tag = "tickets", params(("id" = Uuid, Path)), responses(
    (status = 200, body = PlanView), (status = 404, body = Problem)))]
pub async fn plan(State(app): State<App>, Id(id): Id) -> Result<Json<PlanView>, ApiError> {
    let needs = crate::drawers::shopping::feasible(&app, id).await?.needs;
    let reforming = crate::table::reform::open_parts(&app.db).await?;
    let chart = crate::chart::of(&app, id).await?;
    let past = crate::table::plan::past(&app.db).await?;
    let mut tx = app.db.snapshot().await?;
    let ticket = crate::table::ticket::find(&mut *tx, id).await?;
    let policy = crate::table::policy::of_ticket(&mut *tx, &ticket).await?;
    let loaded = load::of_ticket(&mut tx, id).await?;
    drop(tx);
    let second = |s: Option<f64>| s.and_then(|s| Second::new(s).ok());
    let pace =
        Pace { reading: second(past.reading), fitting: second(past.fitting), proof: second(past.proof) };
    let items: Vec<Item<'_>> = loaded
        .tray
        .parts()
        .iter()
        .filter_map(|p| {
            let to_buy = needs.iter().any(|n| n.part == p.name && n.rarity != Rarity::InDrawers);
            let judged = judged(&loaded.tray, p, &policy);
            let left = left(&judged, to_buy, reforming.contains(&uuid(p.id)))?;
            Some(Item { name: &p.name, place: &p.place, left })
        })
        .collect();
    let newest = chart.after.or(chart.before);
    let read = |p: &crate::chart::wire::ChartPointView| {
        if chart.after.is_some() { p.after.is_some() } else { p.before.is_some() }
    };
    let unread: Vec<&str> = chart
        .points
        .iter()
        .filter(|p| newest.is_some() && p.sheet.is_some() && !read(p))
        .map(|p| p.name.as_str())
        .collect();
    let found = rounds(&items, &unread, pace);
    let total: f64 = found.iter().filter_map(|s| s.expected).map(Second::seconds).sum();
    let time = |s: Second| Amount::rounded(Quantity::Time, s.seconds(), 2);
    Ok(Json(PlanView {
        expected: (total > 0.0).then(|| Amount::rounded(Quantity::Time, total, 2)),
        rests_on: past.readings,
        rounds: found
            .into_iter()
            .map(|s| RoundView {
                kind: s.kind,
                valve: s.valve,
                names: s.names,
                expected: s.expected.map(time),
            })
            .collect(),
    }))
}
