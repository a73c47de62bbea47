//! The drawers: what lies where, in and out as CSV, labels, and what is to be bought.

pub mod import;
pub mod label;
pub mod shopping;
pub mod wire;

use std::collections::BTreeMap;

use axum::Json;
use axum::extract::State;
use axum::http::{StatusCode, header};
use axum::response::{IntoResponse, Response};
use owl_core::drawers::Lot;
use owl_core::drawers::csv::{COLUMNS, header as header_of, read_row, write_row};
use owl_core::drawers::search::words;
use uuid::Uuid;

use self::wire::{CountChange, DrawerSearch, DrawersView, LotChange, LotView, NewLot, columns};
use crate::app::App;
use crate::body::{Body, Id, Query};
use crate::error::{ApiError, Problem};
use crate::table::drawers::Question;
use crate::table::error::StoreError;

/// The most that is shown at once.
const MOST_SHOWN: i64 = 500;

impl DrawerSearch {
    fn question(&self) -> Result<Question, ApiError> {
        let search = self.search.as_deref().unwrap_or("");
        if search.chars().count() > 200 {
            return Err(ApiError::field("search", "at most 200 characters are looked at"));
        }
        Ok(Question {
            words: words(&search.replace('\0', "")),
            kind: self.kind,
            low: self.low.unwrap_or(false),
            limit: self.limit.unwrap_or(100).clamp(1, MOST_SHOWN),
            offset: self.offset.unwrap_or(0).clamp(0, 1_000_000_000),
        })
    }
}

/// What lies in the drawers.
///
/// # Errors
/// 422 for a search that is too long.
#[utoipa::path(get, path = "/api/drawers", operation_id = "list_drawers", tag = "drawers", params(DrawerSearch), responses(
    (status = 200, body = DrawersView)))]
pub async fn list(
    State(app): State<App>,
    Query(q): Query<DrawerSearch>,
) -> Result<Json<DrawersView>, ApiError> {
    let (rows, total) = crate::table::drawers::find_all(&app.db, &q.question()?).await?;
    let (all, low) = crate::table::drawers::counts(&app.db).await?;
    let lots = rows.iter().map(LotView::of).collect::<Result<_, _>>()?;
    Ok(Json(DrawersView { lots, total, all, low, columns: columns() }))
}

/// Adds a lot.
///
/// # Errors
/// 422 with the column to blame.
#[utoipa::path(post, path = "/api/drawers", operation_id = "add_lot", tag = "drawers", request_body = NewLot, responses(
    (status = 201, body = LotView)))]
pub async fn add(
    State(app): State<App>,
    Body(new): Body<NewLot>,
) -> Result<(StatusCode, Json<LotView>), ApiError> {
    let lot = lot_of(&new.fields)?;
    let mut tx = app.begin().await?;
    // Sent twice it is there already, and stays as it is.
    if let Err(StoreError::Gone(_)) = crate::table::drawers::find(&mut *tx, new.id).await {
        crate::table::drawers::put(&mut tx, &[(new.id, &lot)]).await?;
    }
    let row = crate::table::drawers::find(&mut *tx, new.id).await?;
    tx.commit().await?;
    Ok((StatusCode::CREATED, Json(LotView::of(&row)?)))
}

/// Changes a lot.
///
/// # Errors
/// 404, 409 when it was changed in the meantime, 422 with the column to blame.
#[utoipa::path(patch, path = "/api/drawers/{id}", operation_id = "change_lot", tag = "drawers", params(("id" = Uuid, Path)),
    request_body = LotChange, responses((status = 200, body = LotView), (status = 404, body = Problem),
    (status = 409, body = Problem)))]
pub async fn change(
    State(app): State<App>,
    Id(id): Id,
    Body(change): Body<LotChange>,
) -> Result<Json<LotView>, ApiError> {
    let mut tx = app.begin().await?;
    let row = crate::table::drawers::lock(&mut tx, id).await?;
    let before = row.lot()?;
    if row.version != change.version {
        let detail = format!("this drawer was changed in the meantime: there are {} now", before.count);
        return Err(ApiError::Conflict { detail, changed: vec![] });
    }
    let mut fields: BTreeMap<String, String> =
        COLUMNS.iter().zip(write_row("", &before)).map(|(c, v)| ((*c).to_owned(), v)).collect();
    fields.extend(change.fields);
    crate::table::drawers::put(&mut tx, &[(id, &lot_of(&fields)?)]).await?;
    let row = crate::table::drawers::find(&mut *tx, id).await?;
    tx.commit().await?;
    Ok(Json(LotView::of(&row)?))
}

/// Takes pieces out of a lot by hand, or puts some in.
///
/// # Errors
/// 404, 422 for more than there are.
#[utoipa::path(post, path = "/api/drawers/{id}/count", operation_id = "count_lot", tag = "drawers",
    params(("id" = Uuid, Path)), request_body = CountChange, responses((status = 200, body = LotView),
    (status = 404, body = Problem)))]
pub async fn count(
    State(app): State<App>,
    Id(id): Id,
    Body(change): Body<CountChange>,
) -> Result<Json<LotView>, ApiError> {
    if !(-1000..=1000).contains(&change.by) {
        return Err(ApiError::field("by", "at most a thousand at once"));
    }
    let mut tx = app.begin().await?;
    crate::table::drawers::lock(&mut tx, id).await?;
    let first = match change.key {
        Some(key) => crate::table::drawers::first_count(&mut tx, key, id).await?,
        None => true,
    };
    if !first {
        // It was counted when it came the first time.
    } else if change.by >= 0 {
        crate::table::drawers::give_back(&mut tx, id, change.by, None).await?;
    } else if !crate::table::drawers::take(&mut tx, id, -change.by, None).await? {
        return Err(ApiError::field("by", "there are not so many"));
    }
    let row = crate::table::drawers::find(&mut *tx, id).await?;
    tx.commit().await?;
    Ok(Json(LotView::of(&row)?))
}

/// Takes a lot out of the drawers for good; what was fitted from it stays fitted.
///
/// # Errors
/// 404.
#[utoipa::path(delete, path = "/api/drawers/{id}", operation_id = "remove_lot", tag = "drawers", params(("id" = Uuid, Path)), responses(
    (status = 204), (status = 404, body = Problem)))]
pub async fn remove(State(app): State<App>, Id(id): Id) -> Result<StatusCode, ApiError> {
    let mut tx = app.begin().await?;
    crate::table::drawers::lock(&mut tx, id).await?;
    crate::table::drawers::remove(&mut tx, id).await?;
    tx.commit().await?;
    Ok(StatusCode::NO_CONTENT)
}

/// A lot from the columns as they are typed.
fn lot_of(fields: &BTreeMap<String, String>) -> Result<Lot, ApiError> {
    if let Some(unknown) = fields.keys().find(|k| !COLUMNS.contains(&k.as_str())) {
        return Err(ApiError::field(unknown.clone(), "the drawers have no such column"));
    }
    let header = header_of(COLUMNS).map_err(|e| ApiError::Internal(e.to_string()))?;
    let row: Vec<&str> = COLUMNS.iter().map(|c| fields.get(*c).map_or("", String::as_str)).collect();
    let row = read_row(&header, &row).map_err(|e| {
        // "count: says nothing" stands beside the field of that name.
        let text = e.to_string();
        let why = text.split_once(": ").map_or(text.as_str(), |(_, why)| why).to_owned();
        ApiError::field(e.column(), why)
    })?;
    Ok(row.lot)
}

/// The drawers as CSV; read in again they are the same.
///
/// # Errors
/// 422 for a search that is too long.
#[utoipa::path(get, path = "/api/drawers/export", operation_id = "export_drawers", tag = "drawers", params(DrawerSearch), responses(
    (status = 200, body = String, content_type = "text/csv")))]
pub async fn export(State(app): State<App>, Query(q): Query<DrawerSearch>) -> Result<Response, ApiError> {
    let question = Question { limit: i64::MAX, offset: 0, ..q.question()? };
    let (rows, _) = crate::table::drawers::find_all(&app.db, &question).await?;
    let mut out = csv::Writer::from_writer(Vec::new());
    let internal = |e: csv::Error| ApiError::Internal(e.to_string());
    out.write_record(COLUMNS).map_err(internal)?;
    for row in &rows {
        out.write_record(write_row(&row.id.to_string(), &row.lot()?)).map_err(internal)?;
    }
    let bytes = out.into_inner().map_err(|e| ApiError::Internal(e.to_string()))?;
    Ok(file("drawers.csv", "text/csv; charset=utf-8", bytes))
}

/// A sheet of labels for the drawers that are searched for, five hundred at most.
///
/// # Errors
/// 422 for a search that is too long.
#[utoipa::path(get, path = "/api/drawers/labels", operation_id = "drawer_labels", tag = "drawers", params(DrawerSearch), responses(
    (status = 200, body = String, content_type = "image/svg+xml")))]
pub async fn labels(State(app): State<App>, Query(q): Query<DrawerSearch>) -> Result<Response, ApiError> {
    let question = Question { limit: MOST_SHOWN, ..q.question()? };
    let (rows, _) = crate::table::drawers::find_all(&app.db, &question).await?;
    let lots = rows.iter().map(crate::table::drawers::LotRow::lot).collect::<Result<Vec<_>, _>>()?;
    Ok(file("labels.svg", "image/svg+xml; charset=utf-8", label::sheet(&lots).into_bytes()))
}

/// A file to keep.
fn file(name: &str, media_type: &'static str, bytes: Vec<u8>) -> Response {
    let disposition = format!("attachment; filename=\"{name}\"");
    ([(header::CONTENT_TYPE, media_type.to_owned()), (header::CONTENT_DISPOSITION, disposition)], bytes)
        .into_response()
}

/// The id under which a row of CSV is kept: its own, or a new one.
fn row_id(text: &str) -> Result<Uuid, ApiError> {
    if text.is_empty() {
        return Ok(Uuid::now_v7());
    }
    text.parse().map_err(|_| ApiError::field("id", "no id of ours: leave it empty for a new lot"))
}
