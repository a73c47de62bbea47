//! What a technician says when the sheet, the mark and the meter disagree. Kept with the values that it
//! was said about; when one of them changes, the question comes again.

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use owl_core::marking::disagreement::Explanation;
use owl_core::tray::question::{compared_si, disagreement};
use serde::Deserialize;
use time::OffsetDateTime;
use utoipa::ToSchema;
use uuid::Uuid;

use crate::app::App;
use crate::body::{Body, Id};
use crate::error::{ApiError, Problem};
use crate::table::explanation::ExplanationRow;
use crate::text::checked_text;
use crate::tray::{Written, load, written};

/// An answer to be recorded.
#[derive(Debug, Deserialize, ToSchema)]
pub struct NewExplanation {
    /// Chosen by the client, so that sending twice records once.
    pub key: Uuid,
    /// The version of the part that was seen.
    pub version: i32,
    /// The answer.
    pub answer: Explanation,
    /// What is to be added to it.
    #[schema(max_length = 2000)]
    pub note: Option<String>,
}

/// Answers the question that a part's three values raise.
///
/// # Errors
/// 404, 409 when something changed since it was seen, 422 where there is no question or the answer does
/// not fit it.
#[utoipa::path(post, path = "/api/parts/{id}/explanations", tag = "parts", params(("id" = Uuid, Path)),
    request_body = NewExplanation, responses(
    (status = 201, body = Written),
    (status = 404, body = Problem), (status = 409, body = Problem)))]
pub async fn explain(
    State(app): State<App>,
    Id(part_id): Id,
    Body(new): Body<NewExplanation>,
) -> Result<(StatusCode, Json<Written>), ApiError> {
    let mut tx = app.begin().await?;
    let part = crate::table::part::lock(&mut tx, part_id).await?;
    let known = crate::table::explanation::known(&mut tx, new.key, part_id).await?;
    if !known {
        crate::tray::unchanged_since(&mut tx, &part, new.version).await?;
        let loaded = load::around(&mut tx, part.id).await?;
        let lying = loaded.part(part_id)?;
        let found = disagreement(lying).ok_or_else(|| {
            ApiError::field("answer", "sheet, mark and meter agree: there is nothing to answer")
        })?;
        if !found.takes(new.answer) {
            let known = found.answer_names().join("', '");
            return Err(ApiError::field("answer", format!("the answers to this are '{known}'")));
        }
        let what = format!("{}: why its values differ: {}", part.name, new.answer);
        crate::table::deed::begin(&mut tx, part.ticket_id, Some(part_id), &what).await?;
        let row = ExplanationRow {
            part_id,
            pair: found.between,
            sheet: part.sheet,
            marked: part.marked,
            measured: compared_si(lying),
            question: found.question,
            answer: new.answer,
            note: checked_text("note", new.note.as_deref().unwrap_or(""), 2000)?,
            answered_at: OffsetDateTime::UNIX_EPOCH,
        };
        crate::table::explanation::insert(&mut tx, new.key, &row).await?;
    }
    let answer = written(&mut tx, part_id, !known).await?;
    tx.commit().await?;
    Ok((StatusCode::CREATED, Json(answer)))
}
