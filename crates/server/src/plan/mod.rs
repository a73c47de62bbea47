//! What is left on a ticket, in sittings, with an estimate from the workshop's own past.

pub mod store;

use axum::Json;
use axum::extract::State;
use owl_core::caution::Step;
use owl_core::part::Standing;
use owl_core::plan::{Item, Left, Pace, sittings};
use owl_core::quantity::{Quantity, Second};
use owl_core::substitute::Rarity;
use owl_core::verdict::Call;
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;

use crate::amount::Amount;
use crate::body::Id;
use crate::error::{ApiError, Problem};
use crate::name::{Name, SittingKindName};
use crate::part::wire::PartView;
use crate::router::App;

/// What is left.
#[derive(Debug, Serialize, ToSchema)]
pub struct PlanView {
    /// In the order in which they are best done.
    pub sittings: Vec<SittingView>,
    /// How long all of it will take, as far as the workshop's past says.
    pub expected: Option<Amount>,
    /// On how many past readings the estimate rests.
    pub rests_on: i64,
}

/// One sitting.
#[derive(Debug, Serialize, ToSchema)]
pub struct SittingView {
    /// What it is about.
    pub kind: SittingKindName,
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
    let ticket = crate::ticket::view(&app, id).await?;
    let needs = crate::drawers::shopping::feasibility(State(app.clone()), Id(id)).await?.0.needs;
    let reforming = crate::reform::store::open_parts(&app.pool).await?;
    let chart = crate::chart::of(&app, id).await?;
    let past = store::past(&app.pool).await?;
    let second = |s: Option<f64>| s.and_then(|s| Second::new(s).ok());
    let pace =
        Pace { reading: second(past.reading), fitting: second(past.fitting), proof: second(past.proof) };
    let items: Vec<Item<'_>> = ticket
        .parts
        .iter()
        .filter_map(|p| {
            let missing = needs.iter().any(|n| n.part == p.name && n.rarity.0 != Rarity::InDrawers);
            Some(Item { name: &p.name, place: &p.place, left: left(p, missing, &reforming)? })
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
    let found = sittings(&items, &unread, pace);
    let total: f64 = found.iter().filter_map(|s| s.expected).map(Second::seconds).sum();
    let time = |s: Second| Amount::rounded(Quantity::Time, s.seconds(), 2);
    Ok(Json(PlanView {
        expected: (total > 0.0).then(|| Amount::rounded(Quantity::Time, total, 2)),
        rests_on: past.readings,
        sittings: found
            .into_iter()
            .map(|s| SittingView {
                kind: Name(s.kind),
                valve: s.valve,
                names: s.names,
                expected: s.expected.map(time),
            })
            .collect(),
    }))
}

fn left(p: &PartView, missing: bool, reforming: &[Uuid]) -> Option<Left> {
    if reforming.contains(&p.id) {
        return Some(Left::Reform);
    }
    let measure = Left::Measure { warm: p.test_warm, by_valve: p.isolate.contains("valve") };
    match (p.standing.0, p.step.0) {
        (Standing::Proven, _) => None,
        (Standing::Fitted, _) => Some(Left::Prove),
        (Standing::Unread | Standing::Unmeasured | Standing::Failed, _) => {
            (!p.readable.is_empty()).then_some(measure)
        }
        (Standing::Judged, _) => match p.judgement.as_ref().map(|j| j.verdict.0) {
            Some(Call::MeasureAgain) => Some(measure),
            _ => Some(Left::Decide),
        },
        (Standing::Decided, Step::Fit) => Some(Left::Fit { to_buy: missing }),
        (Standing::Decided, Step::Measure) => Some(measure),
        (Standing::Decided, _) => None,
    }
}
