//! The six readings of a part on the tray: kept as they were asked about, the newest counts.

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use owl_core::part::{JunctionTest, PartKind};
use serde::{Deserialize, Serialize};
use serde_json::Value;
use sqlx::{PgConnection, PgExecutor};
use time::OffsetDateTime;
use utoipa::ToSchema;
use uuid::Uuid;

use super::identify::{IdentifiedView, IdentifyQuestion, identified, test};
use crate::body::{Body, Id};
use crate::error::{ApiError, Problem};
use crate::part::wire::PartView;
use crate::router::App;

/// A test as stored.
#[derive(Debug, Clone)]
pub struct JunctionRow {
    /// The part.
    pub part_id: Uuid,
    question: Value,
    /// When.
    pub taken_at: OffsetDateTime,
}

impl JunctionRow {
    fn question(&self) -> Result<IdentifyQuestion, ApiError> {
        IdentifyQuestion::deserialize(&self.question)
            .map_err(|e| ApiError::Internal(format!("stored row: {e}")))
    }

    /// As it is judged.
    ///
    /// # Errors
    /// [`ApiError::Internal`] for a row that cannot be.
    pub fn test(&self) -> Result<JunctionTest, ApiError> {
        test(&self.question()?, "junctions").map_err(|e| ApiError::Internal(format!("stored row: {e}")))
    }
}

/// A test of a part's junctions, with what it says.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct JunctionView {
    /// The readings, as they were taken.
    pub question: IdentifyQuestion,
    /// What they say.
    pub says: IdentifiedView,
    /// When.
    #[serde(with = "time::serde::rfc3339")]
    pub taken_at: OffsetDateTime,
}

impl JunctionView {
    /// A stored test.
    ///
    /// # Errors
    /// [`ApiError::Internal`] for a row that cannot be.
    pub fn of(row: &JunctionRow) -> Result<Self, ApiError> {
        let question = row.question()?;
        let says = identified(&question).map_err(|e| ApiError::Internal(format!("stored row: {e}")))?;
        Ok(Self { question, says, taken_at: row.taken_at })
    }
}

/// A test to be kept.
#[derive(Debug, Deserialize, ToSchema)]
pub struct NewJunctions {
    /// Chosen by the client, so that sending twice records once.
    pub key: Uuid,
    /// The readings.
    pub question: IdentifyQuestion,
}

/// All tests of a ticket's parts, oldest first.
pub async fn of_ticket(db: impl PgExecutor<'_>, ticket_id: Uuid) -> Result<Vec<JunctionRow>, ApiError> {
    Ok(sqlx::query_as!(
        JunctionRow,
        "select part_id, question, taken_at from junction_test j join part p on p.id = j.part_id
         where p.ticket_id = $1 order by j.ordinal",
        ticket_id
    )
    .fetch_all(db)
    .await?)
}

async fn insert(db: &mut PgConnection, key: Uuid, part_id: Uuid, question: &Value) -> Result<bool, ApiError> {
    let done = sqlx::query!(
        "insert into junction_test (id, part_id, question, taken_at) values ($1, $2, $3, clock_timestamp())
         on conflict (id) do nothing",
        key,
        part_id,
        question
    )
    .execute(db)
    .await?;
    Ok(done.rows_affected() == 1)
}

/// Keeps the six readings of a transistor on the tray.
///
/// # Errors
/// 404, 422 with the input to blame.
#[utoipa::path(post, path = "/api/parts/{id}/junctions", tag = "transistors", operation_id = "keep_junctions",
    params(("id" = Uuid, Path)), request_body = NewJunctions, responses(
    (status = 201, body = PartView), (status = 404, body = Problem)))]
pub async fn keep(
    State(app): State<App>,
    Id(part_id): Id,
    Body(new): Body<NewJunctions>,
) -> Result<(StatusCode, Json<PartView>), ApiError> {
    test(&new.question, "question")?;
    let mut tx = app.pool.begin().await?;
    let part = crate::part::store::lock(&mut tx, part_id).await?;
    if part.kind()? != PartKind::Transistor {
        let why = format!("{} is a {}: six readings are taken of a transistor", part.name, part.kind);
        return Err(ApiError::field("question", why));
    }
    let question = serde_json::to_value(&new.question).map_err(|e| ApiError::Internal(e.to_string()))?;
    if insert(&mut tx, new.key, part_id, &question).await? {
        crate::part::store::touch(&mut tx, part_id).await?;
    }
    tx.commit().await?;
    Ok((StatusCode::CREATED, Json(crate::part::view(&app, part_id).await?)))
}
