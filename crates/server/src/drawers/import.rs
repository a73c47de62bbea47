//! Drawers from CSV: good rows are kept, bad ones reported line by line, all in one transaction.

use std::collections::HashMap;

use axum::Json;
use axum::body::Body as HttpBody;
use axum::extract::State;
use owl_core::drawers::Lot;
use owl_core::drawers::csv::{header, read_row};
use serde::Deserialize;
use sha2::{Digest, Sha256};
use sqlx::PgConnection;
use time::OffsetDateTime;
use utoipa::IntoParams;
use uuid::Uuid;

use super::row_id;
use crate::app::App;
use crate::aside::aside;
use crate::body::Query;
use crate::csv_file::{ImportView, Refusal, Rows, rows, whole};
use crate::error::ApiError;

/// How a file is taken.
#[derive(Debug, Default, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct Taking {
    /// Whether what is asked about it was answered with yes.
    #[serde(default)]
    pub confirmed: bool,
}

/// Takes a file of CSV. A row with an `id` that is there changes that lot; any other adds one.
///
/// # Errors
/// 413 for a file that is too large, 422 for one without our header or of which no row can be read.
#[utoipa::path(post, path = "/api/drawers/import", operation_id = "import_drawers", tag = "drawers",
    params(Taking), request_body(content = String, content_type = "text/csv"), responses((status = 200, body = ImportView)))]
pub async fn import(
    State(app): State<App>,
    Query(taking): Query<Taking>,
    body: HttpBody,
) -> Result<Json<ImportView>, ApiError> {
    let bytes = whole(body).await?;
    let hash: [u8; 32] = Sha256::digest(&bytes).into();
    let read = aside(move || read(&bytes)).await??;
    let lots: Vec<(Uuid, &Lot)> = read.taken.iter().map(|(id, lot)| (*id, lot)).collect();
    let mut tx = app.begin().await?;
    let again = crate::table::drawers::file_taken(&mut tx, &hash).await?;
    if !taking.confirmed
        && let Some(question) = asked_first(&mut tx, &lots, again).await?
    {
        return Err(ApiError::ask(question, "file"));
    }
    let added = crate::table::drawers::put(&mut tx, &lots).await?;
    tx.commit().await?;
    Ok(Json(ImportView {
        added,
        changed: lots.len() as u64 - added,
        refused: read.refused,
        refused_in_all: read.refused_in_all,
    }))
}

/// What is asked before a file is taken: whether its counts stand over those of the drawers, and whether what has no id
/// is to be added once more.
async fn asked_first(
    tx: &mut PgConnection,
    lots: &[(Uuid, &Lot)],
    again: Option<OffsetDateTime>,
) -> Result<Option<String>, ApiError> {
    let ids: Vec<Uuid> = lots.iter().map(|(id, _)| *id).collect();
    let there = crate::table::drawers::counts_of(tx, &ids).await?;
    let other =
        |(id, lot): &&(Uuid, &Lot)| there.get(id).is_some_and(|n| i64::from(*n) != i64::from(lot.count));
    let changed: Vec<_> = lots.iter().filter(other).collect();
    if let Some((id, lot)) = changed.first() {
        let lots = if changed.len() == 1 { "1 lot".to_owned() } else { format!("{} lots", changed.len()) };
        let now = there.get(id).copied().unwrap_or(0);
        return Ok(Some(format!(
            "{lots} of this file have another count than the drawers (the first: {} in the file, {now} in the drawer): \
             does the file count?",
            lot.count
        )));
    }
    let new = lots.iter().filter(|(id, _)| !there.contains_key(id)).count();
    Ok(again.filter(|_| new > 0).map(|at| {
        let rows = if new == 1 { "is its row".to_owned() } else { format!("are its {new} rows") };
        format!("this very file was taken on {}: {rows} without an id to be added once more?", at.date())
    }))
}

fn read(bytes: &[u8]) -> Result<Rows<(Uuid, Lot)>, ApiError> {
    let mut seen: HashMap<Uuid, u64> = HashMap::new();
    rows(
        bytes,
        |first| header(first.iter().copied()).map_err(|e| e.to_string()),
        |columns, fields, line| {
            let row = read_row(columns, fields)
                .map_err(|e| Refusal { column: Some(e.column().to_owned()), why: e.to_string() })?;
            let of_id = |why: String| Refusal { column: Some("id".to_owned()), why };
            let id = row_id(&row.id).map_err(|e| of_id(e.to_string()))?;
            match seen.insert(id, line) {
                Some(first) => Err(of_id(format!("the lot of line {first} again"))),
                None => Ok((id, row.lot)),
            }
        },
    )
}
