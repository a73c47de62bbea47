//! Drawers from CSV: good rows are kept, bad ones reported line by line, all in one transaction.

use std::collections::HashMap;

use axum::Json;
use axum::body::Body as HttpBody;
use axum::extract::State;
use owl_core::drawers::Lot;
use owl_core::drawers::csv::{header, read_row};
use uuid::Uuid;

use super::row_id;
use crate::app::App;
use crate::csv_file::{ImportView, Refusal, Rows, rows, whole};
use crate::error::ApiError;

/// Takes a file of CSV. A row with an `id` that is there changes that lot; any other adds one.
///
/// # Errors
/// 413 for a file that is too large, 422 for one without our header or of which no row can be read.
#[utoipa::path(post, path = "/api/drawers/import", operation_id = "import_drawers", tag = "drawers",
    request_body(content = String, content_type = "text/csv"), responses((status = 200, body = ImportView)))]
pub async fn import(State(app): State<App>, body: HttpBody) -> Result<Json<ImportView>, ApiError> {
    let bytes = whole(body).await?;
    let read = tokio::task::spawn_blocking(move || read(&bytes))
        .await
        .map_err(|e| ApiError::Internal(e.to_string()))??;
    let lots: Vec<(Uuid, &Lot)> = read.taken.iter().map(|(id, lot)| (*id, lot)).collect();
    let mut tx = app.begin().await?;
    let added = crate::table::drawers::put(&mut tx, &lots).await?;
    tx.commit().await?;
    Ok(Json(ImportView {
        added,
        changed: lots.len() as u64 - added,
        refused: read.refused,
        refused_in_all: read.refused_in_all,
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
