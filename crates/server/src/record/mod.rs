//! A ticket as one document: out as JSON with a version, and in again elsewhere, whole or not at all; its lists as CSV.
//! The format is described in `docs/ticket-format.md`.

mod limits;
pub mod lists;
pub mod report;
mod upgrade;

use axum::Json;
use axum::body::Body as HttpBody;
use axum::extract::State;
use axum::http::{StatusCode, header};
use axum::response::{IntoResponse, Response};
use owl_core::tray::status::to_do;
use serde::{Deserialize, Serialize};
use serde_json::{Map, Value, json};
use sqlx::PgPool;
use time::OffsetDateTime;
use tokio::sync::Semaphore;
use utoipa::ToSchema;
use uuid::Uuid;

use crate::app::App;
use crate::aside::aside;
use crate::body::Id;
use crate::error::{ApiError, Problem};
use crate::tray::load;
use crate::tray::view::parts_in;

/// What the document calls itself.
pub const FORMAT: &str = "restless-owl ticket";
/// The version that is written; older ones are read.
pub const VERSION: u64 = 8;
/// The largest document that is taken, in megabytes.
pub const LARGEST_MB: usize = 64;
/// Each takes several times its size while it comes in.
static ONE_AT_A_TIME: Semaphore = Semaphore::const_new(1);

/// The tables of a document; `ticket` stands beside them.
pub const TABLES: [&str; 28] = [
    "parts",
    "readings",
    "strikes",
    "explanations",
    "junction_tests",
    "decisions",
    "causes",
    "changes",
    "fittings",
    "fitting_pieces",
    "withdrawals",
    "proofs",
    "safety_ticks",
    "power_ups",
    "chart_points",
    "chart_runs",
    "chart_readings",
    "feeds",
    "feed_parts",
    "feed_nodes",
    "banks",
    "bank_members",
    "reform_runs",
    "reform_samples",
    "reform_said",
    "soaks",
    "soak_checks",
    "attachments",
];

/// A ticket that came in.
#[derive(Debug, Serialize, ToSchema)]
pub struct TicketTaken {
    /// Its id.
    pub id: Uuid,
    /// The set.
    pub name: String,
    /// How many parts lie on its tray.
    pub parts: usize,
}

/// A ticket as one document.
///
/// # Errors
/// 404.
#[utoipa::path(get, path = "/api/tickets/{id}/record.json", operation_id = "export_ticket", tag = "record", params(("id" = Uuid, Path)), responses(
    (status = 200, body = Object, description = "docs/ticket-format.md"), (status = 404, body = Problem)))]
pub async fn export(State(app): State<App>, Id(id): Id) -> Result<Response, ApiError> {
    let ticket = crate::table::ticket::find(&app.pool, id).await?;
    let mut doc = Map::new();
    doc.insert("format".to_owned(), json!(FORMAT));
    doc.insert("version".to_owned(), json!(VERSION));
    if let Value::Object(rows) = crate::table::record::rows(&app.pool, id).await? {
        doc.extend(rows);
    }
    if let Some(Value::Object(ticket)) = doc.get_mut("ticket") {
        ticket.remove("demo");
    }
    let bytes = serde_json::to_vec(&doc).map_err(|e| ApiError::Internal(e.to_string()))?;
    Ok(file(&ticket.name, "json", "application/json", bytes))
}

#[derive(Deserialize)]
struct Head {
    format: Option<String>,
    version: Option<Value>,
}

/// Takes a ticket in that another workshop wrote out. Whole or not at all.
///
/// # Errors
/// 409 when it is here already, 413, 422 in words for a document of another kind or version, or that does not hold
/// together.
#[utoipa::path(post, path = "/api/tickets/import", operation_id = "import_ticket", tag = "record",
    request_body(content = Object, content_type = "application/json"), responses(
    (status = 201, body = TicketTaken), (status = 409, body = Problem)))]
pub async fn import(
    State(app): State<App>,
    body: HttpBody,
) -> Result<(StatusCode, Json<TicketTaken>), ApiError> {
    let bytes = crate::csv_file::within(body, LARGEST_MB * 1024).await?;
    // Parsing, looking through and unpacking pictures: not on the threads that serve, one record at a time.
    let turn = ONE_AT_A_TIME.acquire().await.map_err(|e| ApiError::Internal(e.to_string()))?;
    let rows = aside(move || checked(&bytes)).await??;
    let id: Uuid = rows["ticket"]["id"]
        .as_str()
        .and_then(|s| s.parse().ok())
        .ok_or_else(|| ApiError::field("file", "the ticket in this file has no id"))?;
    let mut tx = app.begin().await?;
    if crate::table::record::is_here(&mut tx, id).await? {
        let detail = "this ticket is here already; nothing was changed".to_owned();
        return Err(ApiError::Conflict { detail, changed: vec![] });
    }
    crate::table::record::take(&mut tx, &rows).await?;
    let (name, parts) = whole(&mut tx, id).await?;
    tx.commit().await?;
    drop(turn);
    Ok((StatusCode::CREATED, Json(TicketTaken { id, name, parts })))
}

/// The rows of a document that is one of ours.
fn checked(bytes: &[u8]) -> Result<Value, ApiError> {
    let wrong = |why: &str| ApiError::field("file", why.to_owned());
    let head: Head = serde_json::from_slice(bytes).map_err(|e| match e.classify() {
        serde_json::error::Category::Data => wrong("this is no record of a ticket"),
        _ => ApiError::Malformed(format!("this is not JSON: {e}")),
    })?;
    if head.format.as_deref() != Some(FORMAT) {
        return Err(wrong(
            "this is no record of a ticket: it does not say 'restless-owl ticket' as its format",
        ));
    }
    let version = match head.version.as_ref().and_then(Value::as_u64) {
        Some(n @ 1..=VERSION) => n,
        Some(n) => {
            return Err(wrong(&format!(
                "this record has version {n}; versions 1 to {VERSION} are read here"
            )));
        }
        None => return Err(wrong("this record does not say its version")),
    };
    let mut rows: Value = serde_json::from_slice(bytes).map_err(|e| ApiError::Malformed(e.to_string()))?;
    if !rows["ticket"].is_object() {
        return Err(wrong("there is no ticket in this record"));
    }
    for table in TABLES {
        match &rows[table] {
            Value::Array(all) if all.iter().all(Value::is_object) => {}
            _ => return Err(wrong(&format!("'{table}' is missing in this record, or is no list of rows"))),
        }
    }
    upgrade::upgrade(&mut rows, version);
    // Whose demo it was is nothing to this workshop.
    rows["ticket"]["demo"] = json!(false);
    limits::check(&rows, &TABLES, OffsetDateTime::now_utc())?;
    limits::clean_files(&mut rows)?;
    Ok(rows)
}

/// Whether a ticket opens, and comes back from its own record just as it is. Changes nothing.
///
/// # Errors
/// What does not, in words.
pub async fn comes_back(pool: &PgPool, id: Uuid) -> Result<(), ApiError> {
    let mut tx = pool.begin().await?;
    let before = crate::table::record::rows(&mut *tx, id).await?;
    limits::check(&before, &TABLES, OffsetDateTime::now_utc())?;
    crate::table::ticket::remove(&mut *tx, id).await?;
    crate::table::record::take(&mut tx, &before).await?;
    let after = crate::table::record::rows(&mut *tx, id).await?;
    whole(&mut tx, id).await?;
    tx.rollback().await?;
    match TABLES.iter().chain(&["ticket"]).find(|t| before[**t] != after[**t]) {
        Some(table) => {
            Err(ApiError::Internal(format!("its {table} do not come back from its record as they are")))
        }
        None => Ok(()),
    }
}

/// Reads everything that came in the way the screens do: what no screen could show is refused before it is kept. The
/// name of the set, and how many parts lie on its tray.
async fn whole(tx: &mut sqlx::PgConnection, id: Uuid) -> Result<(String, usize), ApiError> {
    let read = async {
        let row = crate::table::ticket::find(&mut *tx, id).await?;
        let parts = parts_in(&mut *tx, &row).await?;
        let loaded = load::of_ticket(&mut *tx, id).await?;
        for p in &loaded.parts {
            let left = to_do(loaded.part(p.id)?);
            crate::table::part::keep_to_do(&mut *tx, p.id, left).await?;
        }
        crate::change::views(&crate::table::change::of_ticket(&mut *tx, id).await?)?;
        crate::first_power::views(&row, &crate::table::first_power::of_ticket(&mut *tx, id).await?)?;
        let policy = crate::table::policy::of_ticket(&mut *tx, &row).await?;
        let chart = crate::table::chart::of_ticket(&mut *tx, id).await?;
        crate::chart::view::chart_view(&row, &chart, &crate::chart::wire::WhichRuns::default(), &policy)?;
        for part in &parts {
            crate::table::reform::of_part(&mut *tx, part.strip.id).await?;
        }
        Ok::<_, ApiError>((row.name, parts.len()))
    };
    read.await.map_err(|e| match e {
        ApiError::Internal(why) => {
            ApiError::field("file", format!("this record says what no ticket can: {}", short(&why)))
        }
        other => other,
    })
}

fn short(why: &str) -> String {
    why.chars().take(160).collect()
}

/// A file to be kept, named after the set.
pub(crate) fn file(set: &str, end: &str, media: &'static str, bytes: Vec<u8>) -> Response {
    let name: String =
        set.to_lowercase().chars().map(|c| if c.is_ascii_alphanumeric() { c } else { '-' }).collect();
    let disposition = format!("attachment; filename=\"{name}.{end}\"");
    ([(header::CONTENT_TYPE, media.to_owned()), (header::CONTENT_DISPOSITION, disposition)], bytes)
        .into_response()
}
