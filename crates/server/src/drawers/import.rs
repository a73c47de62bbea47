//! Drawers from CSV: good rows are kept, bad ones reported line by line, all in one transaction. A file that is too
//! large is read to its end and thrown away, so that the answer arrives; it is never kept in memory.

use std::collections::HashMap;

use axum::Json;
use axum::body::Body as HttpBody;
use axum::extract::State;
use owl_core::drawers::Lot;
use owl_core::drawers::csv::{Header, read_row};
use tokio_stream::StreamExt;
use uuid::Uuid;

use super::wire::{ImportView, RowRefused};
use super::{row_id, store};
use crate::error::ApiError;
use crate::router::App;

/// The largest file that is taken, in kilobytes: some fifty thousand rows.
pub const LARGEST_KB: usize = 8 * 1024;
/// Past this nobody listens any more.
const MOST_DRAINED: usize = 256 * 1024 * 1024;
/// The most rows.
const MOST_ROWS: usize = 60_000;
/// The most bad rows that are told one by one.
const MOST_TOLD: usize = 100;

/// Takes a file of CSV. A row with an `id` that is there changes that lot; any other adds one.
///
/// # Errors
/// 413 for a file that is too large, 422 for one without our header or of which no row can be read.
#[utoipa::path(post, path = "/api/drawers/import", operation_id = "import_drawers", tag = "drawers",
    request_body(content = String, content_type = "text/csv"), responses((status = 200, body = ImportView)))]
pub async fn import(State(app): State<App>, body: HttpBody) -> Result<Json<ImportView>, ApiError> {
    let bytes = whole(body).await?;
    let read = tokio::task::spawn_blocking(move || rows(&bytes))
        .await
        .map_err(|e| ApiError::Internal(e.to_string()))??;
    let lots: Vec<(Uuid, &Lot)> = read.lots.iter().map(|(id, lot)| (*id, lot)).collect();
    let mut tx = app.pool.begin().await?;
    let added = store::put(&mut tx, &lots).await?;
    tx.commit().await?;
    Ok(Json(ImportView {
        added,
        changed: lots.len() as u64 - added,
        refused: read.refused,
        refused_in_all: read.refused_in_all,
    }))
}

async fn whole(body: HttpBody) -> Result<Vec<u8>, ApiError> {
    let mut stream = body.into_data_stream();
    let (mut bytes, mut seen) = (Vec::new(), 0usize);
    while let Some(chunk) = stream.next().await {
        let chunk = chunk.map_err(|_| ApiError::Malformed("the file broke off on its way".to_owned()))?;
        seen += chunk.len();
        if seen > MOST_DRAINED {
            break;
        }
        if seen > LARGEST_KB * 1024 {
            bytes = Vec::new();
        } else {
            bytes.extend_from_slice(&chunk);
        }
    }
    if seen > LARGEST_KB * 1024 { Err(ApiError::TooLarge(LARGEST_KB)) } else { Ok(bytes) }
}

/// What was read of a file.
struct Rows {
    lots: Vec<(Uuid, Lot)>,
    refused: Vec<RowRefused>,
    refused_in_all: u64,
}

impl Rows {
    fn refuse(&mut self, line: u64, column: Option<&str>, why: String) {
        self.refused_in_all += 1;
        if self.refused.len() < MOST_TOLD {
            self.refused.push(RowRefused { line, column: column.map(str::to_owned), why });
        }
    }
}

fn rows(bytes: &[u8]) -> Result<Rows, ApiError> {
    if bytes.is_empty() {
        return Err(ApiError::field("file", "the file is empty"));
    }
    let mut reader = csv::ReaderBuilder::new().flexible(true).from_reader(bytes);
    let header = match reader.byte_headers() {
        Ok(h) => text(h).ok_or_else(|| ApiError::field("file", "the header is not UTF-8 text"))?,
        Err(e) => return Err(ApiError::field("file", format!("the header cannot be read: {e}"))),
    };
    let width = header.len();
    let header = Header::read(header.iter().map(String::as_str)).map_err(|e| ApiError::field("file", e))?;
    let mut out = Rows { lots: vec![], refused: vec![], refused_in_all: 0 };
    let mut seen: HashMap<Uuid, u64> = HashMap::new();
    let mut record = csv::ByteRecord::new();
    loop {
        match reader.read_byte_record(&mut record) {
            Ok(true) => {}
            Ok(false) => break,
            Err(e) => {
                out.refuse(e.position().map_or(0, csv::Position::line), None, e.to_string());
                continue;
            }
        }
        let line = record.position().map_or(0, |p| line_of(bytes, p));
        if record.iter().all(|f| f.iter().all(u8::is_ascii_whitespace)) {
            continue;
        }
        if record.len() > width {
            out.refuse(
                line,
                None,
                format!("{} fields where the header has {width}: a comma too many?", record.len()),
            );
            continue;
        }
        let Some(fields) = text(&record) else {
            out.refuse(line, None, "this is not UTF-8 text".to_owned());
            continue;
        };
        let fields: Vec<&str> = fields.iter().map(String::as_str).collect();
        let row = match read_row(&header, &fields) {
            Ok(row) => row,
            Err(e) => {
                let told = e.to_string();
                out.refuse(line, Some(e.column()), told);
                continue;
            }
        };
        let id = match row_id(&row.id) {
            Ok(id) => id,
            Err(e) => {
                out.refuse(line, Some("id"), e.to_string());
                continue;
            }
        };
        if let Some(first) = seen.insert(id, line) {
            out.refuse(line, Some("id"), format!("the lot of line {first} again"));
            continue;
        }
        if out.lots.len() == MOST_ROWS {
            return Err(ApiError::field("file", format!("more than {MOST_ROWS} rows: split the file")));
        }
        out.lots.push((id, row.lot));
    }
    Ok(out)
}

/// The line on which a record stands: the reader names the first of the empty lines before it.
fn line_of(bytes: &[u8], position: &csv::Position) -> u64 {
    let start = usize::try_from(position.byte()).unwrap_or(0).min(bytes.len());
    let empty = bytes[start..].iter().take_while(|b| matches!(b, b'\r' | b'\n'));
    position.line() + empty.filter(|b| **b == b'\n').count() as u64
}

fn text(record: &csv::ByteRecord) -> Option<Vec<String>> {
    record.iter().map(|f| String::from_utf8(f.to_vec()).ok()).collect()
}
