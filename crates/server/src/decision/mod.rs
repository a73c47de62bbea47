//! Decisions: the technician's word on a verdict, with the verdict's reasons as they were.

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use owl_core::stored::Stored;
use owl_core::tray::verdict::judged;
use owl_core::verdict::{Outcome, StoredReason};
use serde::Deserialize;
use time::OffsetDateTime;
use utoipa::ToSchema;
use uuid::Uuid;

use crate::app::App;
use crate::body::{Body, Id};
use crate::error::{ApiError, Problem};
use crate::table::decision::DecisionRow;
use crate::table::deed::begin;
use crate::text::checked_text;
use crate::tray::load::around;
use crate::tray::{Written, uuid, written};

/// A decision to be recorded.
#[derive(Debug, Deserialize, ToSchema)]
pub struct NewDecision {
    /// Chosen by the client, so that sending twice records once.
    pub key: Uuid,
    /// The version of the part that was seen.
    pub version: i32,
    /// What is decided.
    pub decided: Outcome,
    /// Why; needed where it is decided otherwise than the verdict.
    #[schema(max_length = 2000)]
    pub why: Option<String>,
}

/// Decides on a part.
///
/// # Errors
/// 404, 409 when something changed since the verdict was seen, 422 with the input to blame.
#[utoipa::path(post, path = "/api/parts/{id}/decisions", tag = "parts", params(("id" = Uuid, Path)),
    request_body = NewDecision, responses(
    (status = 201, body = Written),
    (status = 404, body = Problem), (status = 409, body = Problem)))]
pub async fn decide(
    State(app): State<App>,
    Id(part_id): Id,
    Body(new): Body<NewDecision>,
) -> Result<(StatusCode, Json<Written>), ApiError> {
    let mut tx = app.begin().await?;
    let part = crate::table::part::lock(&mut tx, part_id).await?;
    if crate::table::decision::known(&mut tx, new.key, part_id).await? {
        return Ok((StatusCode::CREATED, Json(written(&mut tx, part_id, false).await?)));
    }
    crate::tray::unchanged_since(&mut tx, &part, new.version).await?;
    let what = format!("{}: decided {}", part.name, new.decided);
    begin(&mut tx, part.ticket_id, Some(part_id), &what).await?;
    let ticket = crate::table::ticket::find(&mut *tx, part.ticket_id).await?;
    let policy = crate::table::policy::of_ticket(&mut *tx, &ticket).await?;
    let loaded = around(&mut tx, part.id).await?;
    let judged = judged(&loaded.tray, loaded.part(part_id)?, &policy);
    let verdict =
        judged.verdict.ok_or_else(|| ApiError::field("decided", "there is no value to judge against yet"))?;
    let (offered, decided) = (verdict.call, new.decided);
    let why = checked_text("why", new.why.as_deref().unwrap_or(""), 2000)?;
    if decided != offered && why.is_empty() {
        return Err(ApiError::field(
            "why",
            format!("the verdict is '{offered}': say why you decide otherwise"),
        ));
    }
    let row = DecisionRow {
        part_id,
        offered,
        decided,
        why,
        school: ticket.school,
        tight: ticket.tight,
        policy: policy.copy.unwrap_or_default(),
        reasons: sqlx::types::Json(Stored(verdict.reasons.iter().map(StoredReason::from).collect())),
        decided_at: OffsetDateTime::UNIX_EPOCH,
    };
    let reading = verdict.decided_by.and_then(|i| *judged.sits.taken.get(i)?).map(uuid);
    let new = crate::table::decision::insert(&mut tx, new.key, &row, reading).await?;
    if new && verdict.overloaded && decided == owl_core::verdict::Outcome::Replace {
        crate::stage::suspect::ask(&mut tx, &part).await?;
    }
    let answer = written(&mut tx, part_id, new).await?;
    tx.commit().await?;
    Ok((StatusCode::CREATED, Json(answer)))
}
