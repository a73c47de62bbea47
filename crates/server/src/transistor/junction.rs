//! The six readings of a part on the tray: kept as they were asked about, the newest counts.

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use owl_core::part::PartKind;
use serde::Deserialize;
use utoipa::ToSchema;
use uuid::Uuid;

use super::identify::{IdentifyQuestion, test};
use crate::app::App;
use crate::body::{Body, Id};
use crate::error::{ApiError, Problem};
use crate::table::junction::insert;
use crate::tray::{Written, written};

/// A test to be kept.
#[derive(Debug, Deserialize, ToSchema)]
pub struct NewJunctions {
    /// Chosen by the client, so that sending twice records once.
    pub key: Uuid,
    /// The readings.
    pub question: IdentifyQuestion,
}

/// Keeps the six readings of a transistor on the tray.
///
/// # Errors
/// 404, 422 with the input to blame.
#[utoipa::path(post, path = "/api/parts/{id}/junctions", tag = "transistors", operation_id = "keep_junctions",
    params(("id" = Uuid, Path)), request_body = NewJunctions, responses(
    (status = 201, body = Written), (status = 404, body = Problem)))]
pub async fn keep(
    State(app): State<App>,
    Id(part_id): Id,
    Body(new): Body<NewJunctions>,
) -> Result<(StatusCode, Json<Written>), ApiError> {
    test(&new.question, "question")?;
    let mut tx = app.begin().await?;
    let part = crate::table::part::lock(&mut tx, part_id).await?;
    if part.kind != PartKind::Transistor {
        let why = format!("{} is a {}: six readings are taken of a transistor", part.name, part.kind);
        return Err(ApiError::field("question", why));
    }
    let what = format!("{}: its six readings", part.name);
    crate::table::deed::begin(&mut tx, part.ticket_id, Some(part_id), &what).await?;
    let new = insert(&mut tx, new.key, part_id, new.question.into()).await?;
    let answer = written(&mut tx, part_id, new).await?;
    tx.commit().await?;
    Ok((StatusCode::CREATED, Json(answer)))
}
