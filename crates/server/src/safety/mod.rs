//! What is ticked before anything is measured on a set: short lines of its class, with name and time.

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use owl_core::caution::{SetClass, safety_checks};
use serde::{Deserialize, Serialize};
use time::OffsetDateTime;
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;

use crate::app::App;
use crate::body::{Body, Id, Query};
use crate::error::{ApiError, Problem};
use crate::table::safety::TickRow;
use crate::text::checked_text;

/// Which session at the bench asks.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct Session {
    /// Chosen by the client when the bench is opened.
    session: Uuid,
}

/// A line that is ticked.
#[derive(Debug, Deserialize, ToSchema)]
pub struct NewTick {
    /// Chosen by the client, so that sending twice records once.
    pub key: Uuid,
    /// Which line.
    #[schema(max_length = 40)]
    pub line: String,
    /// By whom.
    #[schema(min_length = 1, max_length = 80)]
    pub who: String,
    /// In which session at the bench.
    pub session: Uuid,
}

/// The list of a ticket.
#[derive(Debug, Serialize, ToSchema)]
pub struct SafetyView {
    /// Line by line.
    pub lines: Vec<SafetyLine>,
    /// Whether all of them are ticked, in this session where that is asked.
    pub all_ticked: bool,
}

/// A line of the list.
#[derive(Debug, Serialize, ToSchema)]
pub struct SafetyLine {
    /// Its key.
    pub line: String,
    /// What to check.
    #[serde(serialize_with = "crate::dialect::said")]
    pub text: String,
    /// Whether it is asked again in each session.
    pub each_session: bool,
    /// Where it comes from.
    pub source: String,
    /// Who ticked it last, where that still counts.
    pub who: Option<String>,
    /// When.
    #[serde(with = "time::serde::rfc3339::option")]
    pub ticked_at: Option<OffsetDateTime>,
}

/// The safety list of a ticket's class, as far as it is ticked.
///
/// # Errors
/// 404.
#[utoipa::path(get, path = "/api/tickets/{id}/safety", operation_id = "read_safety", tag = "tickets",
    params(("id" = Uuid, Path), Session), responses(
    (status = 200, body = SafetyView), (status = 404, body = Problem), (status = 422, body = Problem)))]
pub async fn read(
    State(app): State<App>,
    Id(id): Id,
    Query(s): Query<Session>,
) -> Result<Json<SafetyView>, ApiError> {
    Ok(Json(view(&app, id, s.session).await?))
}

/// Ticks a line.
///
/// # Errors
/// 404, 422 with the input to blame.
#[utoipa::path(post, path = "/api/tickets/{id}/safety", operation_id = "tick_safety", tag = "tickets", params(("id" = Uuid, Path)),
    request_body = NewTick, responses(
    (status = 201, body = SafetyView), (status = 404, body = Problem)))]
pub async fn tick(
    State(app): State<App>,
    Id(id): Id,
    Body(new): Body<NewTick>,
) -> Result<(StatusCode, Json<SafetyView>), ApiError> {
    let who = checked_text("who", &new.who, 80)?;
    if who.is_empty() {
        return Err(ApiError::field("who", "say who checked it: the name stands in the record"));
    }
    let class = class(&app, id).await?;
    if !safety_checks(class).any(|c| c.line == new.line) {
        return Err(ApiError::field("line", format!("a set that is {class} has no such line")));
    }
    let row = TickRow { line: new.line, who, session: new.session, ticked_at: OffsetDateTime::UNIX_EPOCH };
    crate::table::safety::insert(&app.pool, new.key, id, &row).await?;
    Ok((StatusCode::CREATED, Json(view(&app, id, new.session).await?)))
}

async fn class(app: &App, ticket_id: Uuid) -> Result<SetClass, ApiError> {
    Ok(crate::table::ticket::find(&app.pool, ticket_id).await?.class)
}

async fn view(app: &App, ticket_id: Uuid, session: Uuid) -> Result<SafetyView, ApiError> {
    let class = class(app, ticket_id).await?;
    let ticks = crate::table::safety::of_ticket(&app.pool, ticket_id).await?;
    let lines: Vec<SafetyLine> = safety_checks(class)
        .map(|c| {
            let counts = |t: &&TickRow| t.line == c.line && (!c.each_session || t.session == session);
            let last = ticks.iter().rfind(counts);
            SafetyLine {
                line: c.line.clone(),
                text: c.text.clone(),
                each_session: c.each_session,
                source: c.source.to_string(),
                who: last.map(|t| t.who.clone()),
                ticked_at: last.map(|t| t.ticked_at),
            }
        })
        .collect();
    Ok(SafetyView { all_ticked: lines.iter().all(|l| l.who.is_some()), lines })
}
