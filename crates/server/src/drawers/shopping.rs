//! What is to be bought for the open tickets, and whether a set is worth it: the count, cost and rarity of what it
//! needs.

use axum::Json;
use axum::extract::State;
use axum::response::Response;
use owl_core::drawers::Lot;
use owl_core::drawers::csv::price_text;
use owl_core::drawers::shopping::{Lack, list};
use owl_core::set::SetClass;
use owl_core::substitute::{Choice, Rarity};
use owl_core::transistor::device::Device;
use owl_core::tray::left::is_needed;
use owl_core::tray::verdict::judged;
use owl_core::verdict::Policy;
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;

use super::file;
use super::wire::{ShoppingLine, ShoppingView};
use crate::app::App;
use crate::aside::aside;
use crate::body::Id;
use crate::csv_file::safe;
use crate::error::{ApiError, Problem};
use crate::substitute::need::of_part;
use crate::table::drawers::{LotRow, Question, find_all, of_kinds};
use crate::tray::load::{self, Loaded};

/// What a part that goes needs.
struct NeededPart {
    name: String,
    /// The best that there is; none where nothing off the shelf goes in.
    best: Option<Choice>,
    /// What else there is to do.
    advice: Vec<String>,
}

/// The parts of a ticket that go and have nothing fitted, each with the best that there is. What is taken from a
/// drawer for one is not there for the next.
async fn needed(app: &App, ticket_id: Uuid, left: &mut Vec<Lot>) -> Result<Vec<NeededPart>, ApiError> {
    let mut tx = app.db.snapshot().await?;
    let ticket = crate::table::ticket::find(&mut *tx, ticket_id).await?;
    let policy = crate::table::policy::of_ticket(&mut *tx, &ticket).await?;
    let loaded = load::of_ticket(&mut tx, ticket_id).await?;
    drop(tx);
    let types = app.types.all(&app.db).await?;
    // Every lot is looked at for every part: not on the threads that serve.
    let mut lots = std::mem::take(left);
    let (lots, found) = aside(move || {
        let found = chosen(&loaded, &policy, ticket.class(), types.devices(), &mut lots);
        (lots, found)
    })
    .await?;
    *left = lots;
    found
}

fn chosen(
    loaded: &Loaded,
    policy: &Policy,
    set: SetClass,
    types: &[Device],
    left: &mut [Lot],
) -> Result<Vec<NeededPart>, ApiError> {
    let mut out = Vec::new();
    for row in &loaded.parts {
        if !is_needed(&judged(&loaded.tray, loaded.part(row.id)?, policy)) {
            continue;
        }
        let found =
            of_part(loaded, row.id, set).ok().and_then(|wanted| wanted.first(policy, left, types).ok());
        let found = found.unwrap_or_default();
        let best = found.choices.into_iter().next();
        if let Some(choice) = &best {
            choice.take_from(left);
        }
        let advice = found.advice.into_iter().map(|a| a.text).collect();
        out.push(NeededPart { name: row.name.clone(), best, advice });
    }
    Ok(out)
}

async fn all_lots(app: &App) -> Result<Vec<Lot>, ApiError> {
    let rows = of_kinds(&app.db, owl_core::named::Named::ALL, None).await?;
    Ok(rows.iter().map(LotRow::lot).collect::<Result<_, _>>()?)
}

/// What the open tickets lack, and what has run low.
///
/// # Errors
/// None of its own.
#[utoipa::path(get, path = "/api/shopping", operation_id = "shopping", tag = "drawers", responses((status = 200, body = ShoppingView)))]
pub async fn shopping(State(app): State<App>) -> Result<Json<ShoppingView>, ApiError> {
    Ok(Json(view(&app).await?))
}

async fn view(app: &App) -> Result<ShoppingView, ApiError> {
    let mut left = all_lots(app).await?;
    let (mut lacks, mut without) = (Vec::new(), Vec::new());
    for ticket in crate::table::ticket::open(&app.db).await? {
        for part in needed(app, ticket.id, &mut left).await? {
            let wanted_for = format!("{} of {}", part.name, ticket.name);
            let Some(best) = part.best else {
                without.push(wanted_for);
                continue;
            };
            for piece in best.pieces.iter().filter(|p| p.lot.is_none()) {
                lacks.push(Lack {
                    piece: piece.piece.clone(),
                    count: 1,
                    wanted_for: wanted_for.clone(),
                    price_hundredths: None,
                });
            }
        }
    }
    let low = Question { low: true, limit: 500, ..Question::default() };
    for row in find_all(&app.db, &low).await?.0 {
        let lot = row.lot()?;
        lacks.push(Lack {
            count: lot.low_water - lot.count,
            wanted_for: if lot.place.is_empty() { "drawer".to_owned() } else { lot.place.clone() },
            price_hundredths: lot.price_hundredths,
            piece: lot.piece,
        });
    }
    let lines = list(&lacks);
    let cost: Option<u64> =
        lines.iter().map(|l| Some(u64::from(l.price_hundredths?) * u64::from(l.order))).sum();
    Ok(ShoppingView {
        cost: cost.filter(|_| !lines.is_empty()).and_then(|c| u32::try_from(c).ok()).map(price_text),
        lines: lines.iter().map(ShoppingLine::from).collect(),
        without,
    })
}

/// The shopping list as CSV.
///
/// # Errors
/// None of its own.
#[utoipa::path(get, path = "/api/shopping/export", operation_id = "export_shopping", tag = "drawers", responses(
    (status = 200, body = String, content_type = "text/csv")))]
pub async fn export(State(app): State<App>) -> Result<Response, ApiError> {
    let view = view(&app).await?;
    let mut out = csv::Writer::from_writer(Vec::new());
    let internal = |e: csv::Error| ApiError::Internal(e.to_string());
    out.write_record(["part", "lacking", "order", "price", "wanted_for"]).map_err(internal)?;
    for l in &view.lines {
        let price = l.price.clone().unwrap_or_default();
        let wanted = l.wanted_for.join("; ");
        let (what, wanted) = (safe(&l.description), safe(&wanted));
        out.write_record([&what, &l.lacking.to_string(), &l.order.to_string(), &price, &wanted])
            .map_err(internal)?;
    }
    let bytes = out.into_inner().map_err(|e| ApiError::Internal(e.to_string()))?;
    Ok(file("shopping.csv", "text/csv; charset=utf-8", bytes))
}

/// What a ticket needs: for the decision whether the set is put aside.
#[derive(Debug, Serialize, ToSchema)]
pub struct FeasibilityView {
    /// Parts that go and have nothing fitted yet.
    pub parts: usize,
    /// Of those: all of it is in the drawers.
    pub in_drawers: usize,
    /// Of those: can be bought.
    pub to_buy: usize,
    /// Of those: nothing off the shelf goes in.
    pub rare: usize,
    /// What is known of the cost.
    pub cost: Option<String>,
    /// Parts of which no price is known.
    pub without_price: usize,
    /// Part by part.
    pub needs: Vec<NeedView>,
}

/// What one part needs.
#[derive(Debug, Serialize, ToSchema)]
pub struct NeedView {
    /// Which part.
    pub part: String,
    /// Whether it is there, can be bought, or neither.
    pub rarity: Rarity,
    /// The best that there is.
    #[serde(serialize_with = "crate::dialect::said")]
    pub best: Option<String>,
    /// The drawers that are opened for it, each once.
    pub places: Vec<String>,
    /// What all of it costs, where that is known.
    pub price: Option<String>,
    /// Why nothing off the shelf goes in, or what else there is to do.
    #[serde(serialize_with = "crate::dialect::said")]
    pub advice: Vec<String>,
}

/// The count, cost and rarity of what a ticket needs.
///
/// # Errors
/// 404.
#[utoipa::path(get, path = "/api/tickets/{id}/feasibility", tag = "tickets", params(("id" = Uuid, Path)), responses(
    (status = 200, body = FeasibilityView), (status = 404, body = Problem)))]
pub async fn feasibility(State(app): State<App>, Id(id): Id) -> Result<Json<FeasibilityView>, ApiError> {
    Ok(Json(feasible(&app, id).await?))
}

/// What a ticket needs.
///
/// # Errors
/// 404.
pub async fn feasible(app: &App, id: Uuid) -> Result<FeasibilityView, ApiError> {
    let mut left = all_lots(app).await?;
    let places: Vec<String> = left.iter().map(|l| l.place.clone()).collect();
    let opened = |n: &NeededPart| {
        let pieces = n.best.iter().flat_map(|c| &c.pieces);
        let mut all: Vec<String> = pieces.filter_map(|p| places.get(p.lot?).cloned()).collect();
        all.dedup();
        all
    };
    let needed = needed(app, id, &mut left).await?;
    let rarity = |n: &NeededPart| Rarity::of(n.best.as_ref());
    let count = |r| needed.iter().filter(|n| rarity(n) == r).count();
    let prices: Vec<Option<u32>> = needed.iter().map(|n| n.best.as_ref()?.price_hundredths).collect();
    let known: u32 = prices.iter().flatten().sum();
    Ok(FeasibilityView {
        parts: needed.len(),
        in_drawers: count(Rarity::InDrawers),
        to_buy: count(Rarity::ToBuy),
        rare: count(Rarity::Rare),
        cost: (known > 0).then(|| price_text(known)),
        without_price: prices.iter().filter(|p| p.is_none()).count(),
        needs: needed
            .iter()
            .map(|n| NeedView {
                part: n.name.clone(),
                rarity: rarity(n),
                best: n.best.as_ref().map(|b| b.description.clone()),
                places: opened(n),
                price: n.best.as_ref().and_then(|b| b.price_hundredths).map(price_text),
                advice: n.advice.clone(),
            })
            .collect(),
    })
}
