//! A ticket as one document: out as JSON with a version, and in again elsewhere, whole or not at all; its lists as CSV.
//! The format is described in `docs/ticket-format.md`.

mod container;
mod limits;
pub mod lists;
pub mod report;
mod upgrade;

use std::fs::File;
use std::future::ready;
use std::io::Read;

use axum::Json;
use axum::body::Body as HttpBody;
use axum::extract::State;
use axum::http::{StatusCode, header};
use axum::response::{IntoResponse, Response};
use futures_util::{StreamExt, stream};
use owl_core::tray::status::to_do;
use serde::{Deserialize, Serialize};
use serde_json::{Map, Value, json};
use time::OffsetDateTime;
use tokio::sync::Semaphore;
use utoipa::ToSchema;
use uuid::Uuid;

use self::container::Pieces;
use crate::app::App;
use crate::aside::aside;
use crate::attachment;
use crate::body::Id;
use crate::database::Database;
use crate::error::{ApiError, Problem};
use crate::picture_store;
use crate::tray::load;
use crate::tray::view::parts_in;
use crate::upload::{empty_file, not_written, to_file};

/// What the document calls itself.
pub const FORMAT: &str = "restless-owl ticket";
/// The version that is written; older ones are read.
pub const VERSION: u64 = 9;
/// The largest rows that are taken, in megabytes.
pub const LARGEST_MB: usize = 64;
/// The largest container: the rows and as many files as a ticket keeps.
const LARGEST_CONTAINER_MB: usize = LARGEST_MB + attachment::MOST as usize * attachment::LARGEST_MB;
/// So many containers are on their way at once: each takes its size of the disk.
static COMING_IN: Semaphore = Semaphore::const_new(4);
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

/// A ticket as one document, without the bytes of its pictures and sheets.
///
/// # Errors
/// 404.
#[utoipa::path(get, path = "/api/tickets/{id}/record.json", operation_id = "export_ticket", tag = "record", params(("id" = Uuid, Path)), responses(
    (status = 200, body = Object, description = "docs/ticket-format.md"), (status = 404, body = Problem)))]
pub async fn export(State(app): State<App>, Id(id): Id) -> Result<Response, ApiError> {
    let (name, doc) = document(&app, id).await?;
    Ok(file(&name, "json", "application/json", text_of(&doc)?))
}

/// A ticket with its pictures and sheets in one container, as it is written: `record.json`, and each file under `files/`.
///
/// # Errors
/// 404.
#[utoipa::path(get, path = "/api/tickets/{id}/record.tar", operation_id = "export_ticket_with_files", tag = "record", params(("id" = Uuid, Path)), responses(
    (status = 200, body = Vec<u8>, content_type = "application/x-tar", description = "docs/ticket-format.md"),
    (status = 404, body = Problem)))]
pub async fn archive(State(app): State<App>, Id(id): Id) -> Result<Response, ApiError> {
    let (name, doc) = document(&app, id).await?;
    let now = OffsetDateTime::now_utc();
    let files: Vec<Uuid> = doc["attachments"].as_array().into_iter().flatten().filter_map(id_of).collect();
    let rows = container::entry(container::ROWS, &text_of(&doc)?, now).map_err(not_written);
    // One after the other, each when the one before is on its way. One that was taken away meanwhile breaks the stream off:
    // a container that is not whole is refused where it comes in.
    let files = stream::iter(files).then(move |id| {
        let app = app.clone();
        async move {
            let (_, _, content) = attachment::content(&app, id, false).await?;
            container::entry(&container::name_of(id), &content, now).map_err(not_written)
        }
    });
    let all = stream::once(ready(rows)).chain(files).chain(stream::once(ready(Ok(container::END))));
    Ok(file(&name, "tar", "application/x-tar", HttpBody::from_stream(all)))
}

/// The name of the set, and the rows of its ticket with the format's name and version.
async fn document(app: &App, id: Uuid) -> Result<(String, Value), ApiError> {
    let ticket = crate::table::ticket::find(&app.db, id).await?;
    let mut doc = Map::new();
    doc.insert("format".to_owned(), json!(FORMAT));
    doc.insert("version".to_owned(), json!(VERSION));
    if let Value::Object(rows) = crate::table::record::rows(&app.db, id).await? {
        doc.extend(rows);
    }
    if let Some(Value::Object(ticket)) = doc.get_mut("ticket") {
        ticket.remove("demo");
    }
    Ok((ticket.name, Value::Object(doc)))
}

fn text_of(doc: &Value) -> Result<Vec<u8>, ApiError> {
    serde_json::to_vec(doc).map_err(|e| ApiError::Internal(e.to_string()))
}

fn id_of(row: &Value) -> Option<Uuid> {
    row["id"].as_str()?.parse().ok()
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
    request_body(content((Object = "application/json"), (Vec<u8> = "application/x-tar"))), responses(
    (status = 201, body = TicketTaken), (status = 409, body = Problem)))]
pub async fn import(
    State(app): State<App>,
    body: HttpBody,
) -> Result<(StatusCode, Json<TicketTaken>), ApiError> {
    let coming = COMING_IN.acquire().await.map_err(|e| ApiError::Internal(e.to_string()))?;
    let given = to_file(body, LARGEST_CONTAINER_MB).await?;
    drop(coming);
    // Parsing, looking through and unpacking pictures: not on the threads that serve, one record at a time.
    let turn = ONE_AT_A_TIME.acquire().await.map_err(|e| ApiError::Internal(e.to_string()))?;
    let (rows, mut files) = aside(move || checked(given)).await??;
    let id =
        id_of(&rows["ticket"]).ok_or_else(|| ApiError::field("file", "the ticket in this file has no id"))?;
    let mut tx = app.begin().await?;
    if crate::table::record::is_here(&mut tx, id).await? {
        let detail = "this ticket is here already; nothing was changed".to_owned();
        return Err(ApiError::Conflict { detail, changed: vec![] });
    }
    crate::table::record::take(&mut tx, &rows).await?;
    attachment::room_in_all(&mut *tx).await?;
    for file in rows["attachments"].as_array().into_iter().flatten().filter_map(id_of) {
        let content = files.read(file).map_err(not_written)?.unwrap_or_default();
        if let Some(content) = app.pictures.keep(&picture_store::sum(&content), &content).await? {
            crate::table::attachment::put_content(&mut *tx, file, content).await?;
        }
    }
    let (name, parts) = whole(&mut tx, id).await?;
    tx.commit().await?;
    drop(turn);
    Ok((StatusCode::CREATED, Json(TicketTaken { id, name, parts })))
}

/// The rows of a document that is one of ours, and its files as they are kept.
fn checked(mut given: File) -> Result<(Value, Pieces), ApiError> {
    let most = LARGEST_MB as u64 * 1024 * 1024;
    let (bytes, mut files) = if container::is_one(&mut given).map_err(not_written)? {
        let (rows, files) = container::open(given, most)?;
        (rows, Some(files))
    } else {
        let mut text = Vec::new();
        given.take(most + 1).read_to_end(&mut text).map_err(not_written)?;
        if text.len() as u64 > most {
            return Err(ApiError::TooLarge(LARGEST_MB * 1024));
        }
        (text, None)
    };
    let mut rows = rows_of(&bytes)?;
    let mut kept = Pieces::in_file(empty_file()?);
    limits::clean_files(&mut rows, files.as_mut(), &mut kept)?;
    Ok((rows, kept))
}

/// The rows of a document that is one of ours, held to the limits of the screens.
fn rows_of(bytes: &[u8]) -> Result<Value, ApiError> {
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
    Ok(rows)
}

/// Whether a ticket opens, and comes back from its own record just as it is. Changes nothing.
///
/// # Errors
/// What does not, in words.
pub async fn comes_back(db: &Database, id: Uuid) -> Result<(), ApiError> {
    let mut tx = db.begin().await?;
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
pub(crate) fn file(set: &str, end: &str, media: &'static str, body: impl Into<HttpBody>) -> Response {
    let name: String =
        set.to_lowercase().chars().map(|c| if c.is_ascii_alphanumeric() { c } else { '-' }).collect();
    let disposition = format!("attachment; filename=\"{name}.{end}\"");
    ([(header::CONTENT_TYPE, media.to_owned()), (header::CONTENT_DISPOSITION, disposition)], body.into())
        .into_response()
}
