//! `/api/refused-sentences`: what the line did not understand, so that it can learn it; and the grammar by its examples.

use axum::Json;
use axum::extract::State;
use axum::response::Response;
use owl_core::say::guide::examples;
use serde::Serialize;
use time::OffsetDateTime;
use utoipa::ToSchema;

use crate::app::App;
use crate::error::ApiError;
use crate::record::file;
use crate::record::lists::{stamp, written};
use crate::table::refused_sentence::newest;

/// The most that are listed.
const LISTED: i64 = 100;

/// A sentence that was refused.
#[derive(Debug, Serialize, ToSchema)]
pub struct RefusedSentence {
    /// When.
    #[serde(with = "time::serde::rfc3339")]
    pub said_at: OffsetDateTime,
    /// Of which set; null where its ticket is gone.
    pub set: Option<String>,
    /// As typed.
    pub sentence: String,
    /// Why.
    #[serde(serialize_with = "crate::dialect::said")]
    pub why: String,
}

/// An example of what can be said.
#[derive(Debug, Serialize, ToSchema)]
pub struct SpeechExample {
    /// What it is an example of.
    pub section: String,
    /// The sentence.
    pub say: String,
    /// What is understood, piece by piece: the name first.
    #[serde(serialize_with = "crate::dialect::said")]
    pub pieces: Vec<String>,
    /// Whether the pieces are meanings of which one is asked for.
    pub asked: bool,
}

/// What can be said, and what is understood by it.
///
/// # Errors
/// None of its own.
#[utoipa::path(get, path = "/api/speech", tag = "owl line", operation_id = "speech", responses(
    (status = 200, body = Vec<SpeechExample>)))]
pub async fn speech() -> Json<Vec<SpeechExample>> {
    let view = |e: &owl_core::say::guide::Example| {
        let asked = e.meaning.starts_with("? ");
        let pieces = e.meaning.trim_start_matches("? ").split(" | ").map(str::to_owned).collect();
        SpeechExample { section: e.section.clone(), say: e.say.clone(), pieces, asked }
    };
    Json(examples().iter().map(view).collect())
}

/// The sentences that were refused last, the newest first.
///
/// # Errors
/// 503 without a database.
#[utoipa::path(get, path = "/api/refused-sentences", tag = "owl line", operation_id = "refused_sentences", responses(
    (status = 200, body = Vec<RefusedSentence>)))]
pub async fn list(State(app): State<App>) -> Result<Json<Vec<RefusedSentence>>, ApiError> {
    let rows = newest(&app.db, LISTED).await?;
    let view = |r: crate::table::refused_sentence::RefusedRow| RefusedSentence {
        said_at: r.said_at,
        set: r.set_name,
        sentence: r.sentence,
        why: r.why,
    };
    Ok(Json(rows.into_iter().map(view).collect()))
}

/// All of them as CSV.
///
/// # Errors
/// 503 without a database.
#[utoipa::path(get, path = "/api/refused-sentences/export", tag = "owl line", operation_id = "export_refused_sentences",
    responses((status = 200, body = String, content_type = "text/csv")))]
pub async fn export(State(app): State<App>) -> Result<Response, ApiError> {
    let rows = newest(&app.db, i64::MAX).await?.into_iter().map(|r| {
        let set = r.set_name.unwrap_or_default();
        vec![stamp(r.said_at), set, r.sentence, r.why]
    });
    let header = ["said_at", "set", "sentence", "why"];
    Ok(file("refused-sentences", "csv", "text/csv; charset=utf-8", written(&header, rows.collect())?))
}
