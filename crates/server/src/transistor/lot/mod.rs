//! Lots that are measured to find pairs: kept, drawn, labelled.

mod show;
mod typed;
pub mod wire;

use std::fmt::Write;

use axum::Json;
use axum::extract::State;
use axum::http::{StatusCode, header};
use axum::response::{IntoResponse, Response};
use owl_core::part::Material;
use uuid::Uuid;

use self::typed::typed;
use self::wire::{HowPaired, LotTyped, MatchLotView, PairedLot};
use super::pairs::{PairStage, PairsQuestion, PieceBody, answer};
use crate::amount::Amount;
use crate::app::App;
use crate::aside::{AT_ONCE, search};
use crate::body::{Body, Id};
use crate::error::{ApiError, Problem};
use crate::table::match_lot::{delete, insert, lock, put_pieces, rows, update};
use crate::text::checked_text;

/// All lots.
///
/// # Errors
/// 503 without a database.
#[utoipa::path(get, path = "/api/transistors/lots", tag = "transistors", operation_id = "list_match_lots",
    responses((status = 200, body = [MatchLotView])))]
pub async fn list(State(app): State<App>) -> Result<Json<Vec<MatchLotView>>, ApiError> {
    let mut tx = app.db.snapshot().await?;
    Ok(Json(views(&mut tx, None).await?))
}

async fn one(app: &App, id: Uuid) -> Result<MatchLotView, ApiError> {
    let mut tx = app.db.snapshot().await?;
    views(&mut tx, Some(id)).await?.pop().ok_or_else(|| ApiError::no_such("lot"))
}

fn question(lot: &MatchLotView, material: Option<Material>, how: &HowPaired) -> PairsQuestion {
    let value = |a: &Option<Amount>| a.as_ref().map(|a| a.value);
    let stage = Some(PairStage {
        stage: lot.stage,
        material,
        test_current: value(&lot.test_current),
        emitter_resistor: value(&lot.emitter_resistor),
        idle_current: value(&lot.idle_current),
    });
    PairsQuestion {
        transistors: lot
            .pieces
            .iter()
            .map(|p| PieceBody { id: p.label.clone(), hfe: p.gain, vbe: p.base_volts })
            .collect(),
        count: how.count,
        size: how.size,
        stage,
    }
}

/// A lot with its best pairs or quads.
///
/// # Errors
/// 404, 422 where more pairs are asked for than there can be.
#[utoipa::path(get, path = "/api/transistors/lots/{id}", tag = "transistors", operation_id = "read_match_lot",
    params(("id" = Uuid, Path), HowPaired), responses((status = 200, body = PairedLot), (status = 404, body = Problem)))]
pub async fn read_lot(
    State(app): State<App>,
    Id(id): Id,
    crate::body::Query(how): crate::body::Query<HowPaired>,
) -> Result<Json<PairedLot>, ApiError> {
    let lot = one(&app, id).await?;
    Ok(Json(paired(&app, lot, how).await?))
}

async fn paired(app: &App, lot: MatchLotView, how: HowPaired) -> Result<PairedLot, ApiError> {
    let quads = how.size == Some(owl_core::transistor::pairs::GroupSize::Quads);
    let enough = lot.pieces.len() >= if quads { 4 } else { 2 };
    let material = app.types.all(&app.db).await?.meant(&lot.type_number).and_then(|d| d.material);
    let q = question(&lot, material, &how);
    let found = if enough { Some(search(AT_ONCE, move |asker| answer(&q, asker)).await??) } else { None };
    Ok(PairedLot { lot, paired: found })
}

/// Keeps a new lot.
///
/// # Errors
/// 409 where the name is taken, 422 with the field to blame.
#[utoipa::path(post, path = "/api/transistors/lots/{id}", tag = "transistors", operation_id = "add_match_lot",
    params(("id" = Uuid, Path)), request_body = LotTyped,
    responses((status = 201, body = PairedLot), (status = 409, body = Problem)))]
pub async fn add(
    State(app): State<App>,
    Id(id): Id,
    Body(l): Body<LotTyped>,
) -> Result<(StatusCode, Json<PairedLot>), ApiError> {
    let name = lot_name(&l)?;
    let type_number = checked_text("type_number", &l.type_number, 40)?;
    let t = typed(&l)?;
    let mut tx = app.begin().await?;
    let row = t.row(id, name, type_number);
    if insert(&mut tx, &row).await? {
        put_pieces(&mut tx, id, &t.pieces).await?;
    }
    tx.commit().await?;
    let lot = one(&app, id).await?;
    Ok((StatusCode::CREATED, Json(paired(&app, lot, HowPaired { size: None, count: None }).await?)))
}

fn lot_name(l: &LotTyped) -> Result<String, ApiError> {
    let name = checked_text("name", &l.name, 60)?;
    if name.is_empty() { Err(ApiError::field("name", "a lot needs a name")) } else { Ok(name) }
}

/// Changes a lot.
///
/// # Errors
/// 404, 409 when somebody else changed it since, 422 with the field to blame.
#[utoipa::path(patch, path = "/api/transistors/lots/{id}", tag = "transistors", operation_id = "change_match_lot",
    params(("id" = Uuid, Path)), request_body = LotTyped,
    responses((status = 200, body = PairedLot), (status = 404, body = Problem), (status = 409, body = Problem)))]
pub async fn change(
    State(app): State<App>,
    Id(id): Id,
    Body(l): Body<LotTyped>,
) -> Result<Json<PairedLot>, ApiError> {
    let name = lot_name(&l)?;
    let type_number = checked_text("type_number", &l.type_number, 40)?;
    let t = typed(&l)?;
    let mut tx = app.begin().await?;
    let now = lock(&mut tx, id).await?;
    if Some(now) != l.version {
        let detail = "this lot was changed by someone else: look at it again".to_owned();
        return Err(ApiError::Conflict { detail, changed: vec![] });
    }
    update(&mut tx, &t.row(id, name, type_number)).await?;
    put_pieces(&mut tx, id, &t.pieces).await?;
    tx.commit().await?;
    let lot = one(&app, id).await?;
    Ok(Json(paired(&app, lot, HowPaired { size: None, count: None }).await?))
}

/// Takes a lot away.
///
/// # Errors
/// 404.
#[utoipa::path(delete, path = "/api/transistors/lots/{id}", tag = "transistors", operation_id = "remove_match_lot",
    params(("id" = Uuid, Path)), responses((status = 204), (status = 404, body = Problem)))]
pub async fn remove(State(app): State<App>, Id(id): Id) -> Result<StatusCode, ApiError> {
    let mut tx = app.begin().await?;
    if delete(&mut *tx, id).await? == 0 {
        return Err(ApiError::no_such("lot"));
    }
    tx.commit().await?;
    Ok(StatusCode::NO_CONTENT)
}

/// A sheet of labels, as SVG to print and cut: each piece with its numbers and its fellow.
///
/// # Errors
/// 404.
#[utoipa::path(get, path = "/api/transistors/lots/{id}/labels", tag = "transistors", operation_id = "match_lot_labels",
    params(("id" = Uuid, Path), HowPaired), responses((status = 200, content_type = "image/svg+xml", body = String),
    (status = 404, body = Problem)))]
pub async fn labels(
    State(app): State<App>,
    Id(id): Id,
    crate::body::Query(how): crate::body::Query<HowPaired>,
) -> Result<Response, ApiError> {
    let found = paired(&app, one(&app, id).await?, how).await?;
    let fellow = |label: &str| -> String {
        let Some(p) = &found.paired else { return String::new() };
        let pair = p.pairs.iter().find(|x| x.a == label || x.b == label);
        let pair = pair.map(|x| format!("with {}", if x.a == label { &x.b } else { &x.a }));
        let quad = p.quads.iter().find(|q| q.members.iter().any(|m| m == label));
        pair.or_else(|| quad.map(|q| format!("quad {}", q.members.join(", ")))).unwrap_or_default()
    };
    let lines: Vec<[String; 3]> = found
        .lot
        .pieces
        .iter()
        .map(|p| {
            let title = format!("{} {}", p.label, found.lot.type_number);
            [title, p.text.clone(), format!("{} {}", fellow(&p.label), found.lot.name)]
        })
        .collect();
    let headers = [
        (header::CONTENT_TYPE, "image/svg+xml; charset=utf-8"),
        (header::CONTENT_DISPOSITION, "inline; filename=\"pairs.svg\""),
    ];
    Ok((headers, crate::drawers::label::labels(&lines)).into_response())
}

/// A lot as CSV.
///
/// # Errors
/// 404.
#[utoipa::path(get, path = "/api/transistors/lots/{id}/csv", tag = "transistors", operation_id = "match_lot_csv",
    params(("id" = Uuid, Path)), responses((status = 200, content_type = "text/csv", body = String),
    (status = 404, body = Problem)))]
pub async fn export(State(app): State<App>, Id(id): Id) -> Result<Response, ApiError> {
    let lot = one(&app, id).await?;
    let mut text = "label,gain,base_volts\n".to_owned();
    for p in &lot.pieces {
        let _written = writeln!(text, "\"{}\",{},{}", p.label.replace('"', "\"\""), p.gain, p.base_volts);
    }
    let headers = [
        (header::CONTENT_TYPE, "text/csv; charset=utf-8"),
        (header::CONTENT_DISPOSITION, "attachment; filename=\"lot.csv\""),
    ];
    Ok((headers, text).into_response())
}

/// All lots with their pieces, or one.
async fn views(db: &mut sqlx::PgConnection, id: Option<Uuid>) -> Result<Vec<MatchLotView>, ApiError> {
    let (lots, pieces) = rows(db, id).await?;
    Ok(lots.iter().map(|l| show::view(l, &pieces)).collect())
}
