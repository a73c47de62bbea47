//! Why did it fail? A part that was overloaded raises the question, which stays open until it is answered.

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use serde::Deserialize;
use time::OffsetDateTime;
use utoipa::ToSchema;
use uuid::Uuid;

use crate::app::App;
use crate::body::{Body, Id};
use crate::error::{ApiError, Problem};
use crate::table::cause::CauseRow;
use crate::text::checked_text;
use crate::tray::{Written, load, written};

/// An answer to be recorded.
#[derive(Debug, Deserialize, ToSchema)]
pub struct NewCause {
    /// Chosen by the client, so that sending twice records once.
    pub key: Uuid,
    /// The version of the part that was seen.
    pub version: i32,
    /// In words; may be empty where a culprit is named.
    #[schema(max_length = 400)]
    pub answer: Option<String>,
    /// The part that did it, by name, where it is one on the tray.
    #[schema(max_length = 10)]
    pub culprit: Option<String>,
}

/// Answers the question why a part failed.
///
/// # Errors
/// 404, 409 when something changed since it was seen, 422 where nothing asks or nothing is answered.
#[utoipa::path(post, path = "/api/parts/{id}/causes", tag = "parts", params(("id" = Uuid, Path)),
    request_body = NewCause, responses(
    (status = 201, body = Written),
    (status = 404, body = Problem), (status = 409, body = Problem)))]
pub async fn answer(
    State(app): State<App>,
    Id(part_id): Id,
    Body(new): Body<NewCause>,
) -> Result<(StatusCode, Json<Written>), ApiError> {
    let mut tx = app.begin().await?;
    let part = crate::table::part::lock(&mut tx, part_id).await?;
    let loaded = load::of_ticket(&mut tx, part.ticket_id).await?;
    let named = new.culprit.as_deref().map(str::trim).filter(|n| !n.is_empty());
    let culprit = match named {
        None => None,
        Some(name) => Some(
            loaded
                .parts
                .iter()
                .find(|p| p.name.eq_ignore_ascii_case(name) && p.id != part_id)
                .ok_or_else(|| ApiError::field("culprit", format!("there is no other {name} on the tray")))?,
        ),
    };
    let mut text = checked_text("answer", new.answer.as_deref().unwrap_or(""), 400)?;
    if text.is_empty() {
        text = match culprit {
            Some(p) => format!("{} drew too much through it", p.name),
            None => return Err(ApiError::field("answer", "say what it was, or which part did it")),
        };
    }
    let what = format!("{}: why it failed: {text}", part.name);
    crate::table::deed::begin(&mut tx, part.ticket_id, Some(part_id), &what).await?;
    let row = CauseRow {
        part_id,
        culprit_id: culprit.map(|p| p.id),
        answer: text,
        answered_at: OffsetDateTime::UNIX_EPOCH,
    };
    let new_answer = crate::table::cause::insert(&mut tx, new.key, &row).await?;
    if new_answer {
        crate::tray::unchanged_since(&mut tx, &part, new.version).await?;
    }
    let answer = written(&mut tx, part_id, new_answer).await?;
    tx.commit().await?;
    Ok((StatusCode::CREATED, Json(answer)))
}
