//! What a technician says when the sheet, the mark and the meter disagree. Kept with the values that it
//! was said about; when one of them changes, the question comes again.

pub mod store;

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use owl_core::marking::disagreement::Disagreement;
use owl_core::named::Named;
use serde::{Deserialize, Serialize};
use time::OffsetDateTime;
use utoipa::ToSchema;
use uuid::Uuid;

use self::store::ExplanationRow;
use crate::body::{Body, Id};
use crate::error::{ApiError, Problem};
use crate::name::{BetweenName, ExplanationName, Name, stored};
use crate::part::view::{counts, disagreement};
use crate::part::wire::PartView;
use crate::router::App;
use crate::ticket::checked_text;

/// A disagreement that nobody has answered.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct DisagreementView {
    /// Which two values.
    pub between: BetweenName,
    /// The greater over the lesser.
    pub ratio: f64,
    /// In words.
    pub question: String,
    /// What can be answered.
    pub answers: Vec<ExplanationName>,
    /// Where the rule comes from.
    pub source: String,
}

impl DisagreementView {
    /// As it is sent.
    #[must_use]
    pub fn of(d: &Disagreement) -> Self {
        Self {
            between: Name(d.between),
            ratio: d.ratio,
            question: d.question.clone(),
            answers: d.answers.iter().map(|a| Name(*a)).collect(),
            source: d.source.to_string(),
        }
    }
}

/// An answer that was given.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct ExplanationView {
    /// Which two values.
    pub between: BetweenName,
    /// The question as it was.
    pub question: String,
    /// The answer.
    pub answer: ExplanationName,
    /// What was added to it.
    pub note: String,
    /// When.
    #[serde(with = "time::serde::rfc3339")]
    pub answered_at: OffsetDateTime,
}

/// An explanation as it is sent.
///
/// # Errors
/// [`ApiError::Internal`] for rows that cannot be.
pub fn explanation_view(row: &ExplanationRow) -> Result<ExplanationView, ApiError> {
    Ok(ExplanationView {
        between: Name(stored(&row.pair)?),
        question: row.question.clone(),
        answer: Name(stored(&row.answer)?),
        note: row.note.clone(),
        answered_at: row.answered_at,
    })
}

/// An answer to be recorded.
#[derive(Debug, Deserialize, ToSchema)]
pub struct NewExplanation {
    /// Chosen by the client, so that sending twice records once.
    pub key: Uuid,
    /// The version of the part that was seen.
    pub version: i32,
    /// The answer.
    pub answer: ExplanationName,
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
    (status = 201, body = PartView),
    (status = 404, body = Problem), (status = 409, body = Problem)))]
pub async fn explain(
    State(app): State<App>,
    Id(part_id): Id,
    Body(new): Body<NewExplanation>,
) -> Result<(StatusCode, Json<PartView>), ApiError> {
    let mut tx = app.pool.begin().await?;
    let part = crate::part::store::lock(&mut tx, part_id).await?;
    if !store::known(&mut tx, new.key).await? {
        crate::part::unchanged_since(&mut tx, &part, new.version).await?;
        let tray = crate::part::store::tray(&mut tx, part.ticket_id).await?;
        let found = disagreement(&part, &tray)?.ok_or_else(|| {
            ApiError::field("answer", "sheet, mark and meter agree: there is nothing to answer")
        })?;
        if !found.takes(new.answer.0) {
            let known = found.answer_names().join("', '");
            return Err(ApiError::field("answer", format!("the answers to this are '{known}'")));
        }
        let measured = tray.readings_of(part_id).rfind(|r| counts(&part, r));
        let row = ExplanationRow {
            part_id,
            pair: found.between.name().to_owned(),
            sheet: part.sheet,
            marked: part.marked,
            measured: measured.and_then(|r| r.value),
            question: found.question,
            answer: new.answer.0.name().to_owned(),
            note: checked_text("note", new.note.as_deref().unwrap_or(""), 2000)?,
            answered_at: OffsetDateTime::UNIX_EPOCH,
        };
        store::insert(&mut tx, new.key, &row).await?;
        crate::part::store::touch(&mut tx, part_id).await?;
    }
    tx.commit().await?;
    Ok((StatusCode::CREATED, Json(crate::part::view(&app, part_id).await?)))
}
