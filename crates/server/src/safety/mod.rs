//! What is gone through on a set before it is worked on, before its first power and before it goes out: short lines of its
//! class, seen or measured, with name and time.

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use owl_core::caution::{CheckedBefore, SafetyCheck, safety_checks};
use owl_core::quantity::Quantity;
use owl_core::set::SetClass;
use serde::{Deserialize, Serialize};
use time::OffsetDateTime;
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;

use crate::amount::{Amount, typed_optional};
use crate::app::App;
use crate::body::{Body, Id, Query};
use crate::error::{ApiError, Problem};
use crate::people::actor::signature;
use crate::table::safety::TickRow;
use crate::text::checked_text;

/// Which session at the bench asks.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct Session {
    /// Chosen by the client when the bench is opened.
    session: Uuid,
    /// Before what; before work where it is left out.
    before: Option<CheckedBefore>,
}

/// A line that is ticked.
#[derive(Debug, Deserialize, ToSchema)]
pub struct NewTick {
    /// Chosen by the client, so that sending twice records once.
    pub key: Uuid,
    /// Which line.
    #[schema(max_length = 40)]
    pub line: String,
    /// By whom; where people sign in, it is whoever is signed in.
    #[serde(default)]
    #[schema(max_length = 80)]
    pub who: String,
    /// In which session at the bench.
    pub session: Uuid,
    /// Before what; before work where it is left out.
    pub before: Option<CheckedBefore>,
    /// What was measured for it, as typed; nothing where it is seen, or where there is nothing to measure.
    #[serde(default)]
    #[schema(max_length = 40)]
    pub value: String,
}

/// The list of a ticket.
#[derive(Debug, Serialize, ToSchema)]
pub struct SafetyView {
    /// Line by line.
    pub lines: Vec<SafetyLine>,
    /// Whether all of them are ticked, in this session where that is asked, and pass.
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
    /// What is measured for it; null where it is seen.
    pub measured: Option<Quantity>,
    /// What passes: `at most 0.5 mA`; empty where it is seen.
    pub limit: String,
    /// Whether it may be ticked without a number, because there is nothing to measure.
    pub may_be_absent: bool,
    /// What was measured last.
    pub value: Option<Amount>,
    /// Whether what was ticked last passes; null where nothing was.
    pub passes: Option<bool>,
    /// What is wrong with it, in words; null where it passes or was not gone through.
    #[serde(serialize_with = "crate::dialect::said")]
    pub failure: Option<String>,
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
    Ok(Json(view(&app, id, s.before.unwrap_or(CheckedBefore::Work), s.session).await?))
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
    let who = match signature() {
        // Whoever is signed in, whatever stands in the field.
        Some(name) => name,
        None => checked_text("who", &new.who, 80)?,
    };
    if who.is_empty() {
        return Err(ApiError::field("who", "say who checked it: the name stands in the record"));
    }
    let set = crate::table::ticket::find(&app.db, id).await?.class();
    let before = new.before.unwrap_or(CheckedBefore::Work);
    let check = safety_checks(set, before)
        .into_iter()
        .find(|c| c.line == new.line)
        .ok_or_else(|| ApiError::field("line", format!("a set of {} has no such line", set.in_words())))?;
    let value = match check.measured {
        Some(q) => typed_optional(q, Some(&new.value)).map_err(|e| ApiError::field("value", e))?,
        None => None,
    };
    if value.is_some_and(|v| !(0.0..1e18).contains(&v)) {
        return Err(ApiError::field("value", "a measured value is zero or more"));
    }
    check.passes(value).map_err(|e| ApiError::field("value", e))?;
    let row = TickRow {
        line: check.kept_as(),
        who,
        session: new.session,
        value,
        ticked_at: OffsetDateTime::UNIX_EPOCH,
    };
    let mut tx = app.begin().await?;
    crate::table::safety::insert(&mut *tx, new.key, id, &row).await?;
    tx.commit().await?;
    Ok((StatusCode::CREATED, Json(view(&app, id, before, new.session).await?)))
}

async fn view(
    app: &App,
    ticket_id: Uuid,
    before: CheckedBefore,
    session: Uuid,
) -> Result<SafetyView, ApiError> {
    let set = crate::table::ticket::find(&app.db, ticket_id).await?.class();
    let lines = lines(app, ticket_id, set, before, Some(session)).await?;
    Ok(SafetyView { all_ticked: lines.iter().all(|l| l.passes == Some(true)), lines })
}

/// The lines of a list as far as they are ticked; in any session where none is said.
///
/// # Errors
/// What the database says.
pub async fn lines(
    app: &App,
    ticket_id: Uuid,
    set: SetClass,
    before: CheckedBefore,
    session: Option<Uuid>,
) -> Result<Vec<SafetyLine>, ApiError> {
    let ticks = crate::table::safety::of_ticket(&app.db, ticket_id).await?;
    let line = |c: &SafetyCheck| {
        let kept = c.kept_as();
        let counts =
            |t: &&TickRow| t.line == kept && (!c.each_session || session.is_none_or(|s| t.session == s));
        let last = ticks.iter().rfind(counts);
        SafetyLine {
            line: c.line.clone(),
            text: c.text.clone(),
            each_session: c.each_session,
            measured: c.measured,
            limit: c.limit(),
            may_be_absent: c.may_be_absent,
            value: last.and_then(|t| t.value).zip(c.measured).map(|(v, q)| Amount::of(q, v)),
            passes: last.map(|t| c.failure(t.value).is_none()),
            failure: last.and_then(|t| c.failure(t.value)),
            source: c.source.to_string(),
            who: last.map(|t| t.who.clone()),
            ticked_at: last.map(|t| t.ticked_at),
        }
    };
    Ok(safety_checks(set, before).into_iter().map(line).collect())
}
