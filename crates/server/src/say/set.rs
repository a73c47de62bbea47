//! A set that is taken in by a sentence: with no ticket open, or beside another.

use axum::Json;
use axum::extract::State;
use owl_core::say::{OfSet, SayError, of_set};
use owl_core::verdict::School;

use super::wire::{Said, Say, Understand, Understanding};
use crate::app::App;
use crate::body::Body;
use crate::error::{ApiError, Problem};
use crate::ticket::wire::NewTicket;

/// Says how a sentence is understood while no ticket is open: a set that is taken in.
#[utoipa::path(post, path = "/api/understand", operation_id = "understand_set", tag = "owl line",
    request_body = Understand, responses((status = 200, body = Understanding)))]
pub async fn preview(Body(q): Body<Understand>) -> Json<Understanding> {
    Json(match of_set(&q.text) {
        Some(said) => shown(said),
        None => Understanding { problem: Some(NO_TICKET.to_owned()), ..Understanding::default() },
    })
}

/// Takes a set in while no ticket is open.
///
/// # Errors
/// 422 in words.
#[utoipa::path(post, path = "/api/say", operation_id = "say_set", tag = "owl line",
    request_body = Say, responses((status = 200, body = Said), (status = 422, body = Problem)))]
pub async fn say(State(app): State<App>, Body(q): Body<Say>) -> Result<Json<Said>, ApiError> {
    match take(&app, &q).await? {
        Some(said) => Ok(Json(said)),
        None => Err(ApiError::field("text", NO_TICKET)),
    }
}

const NO_TICKET: &str = "no ticket is open: say new ticket, the set, how it is fed and what is wrong, such as \
                         new ticket Skarholm Tern, AC/DC valves, hums";

/// How the sentence is understood.
#[must_use]
pub fn shown(said: Result<OfSet, SayError>) -> Understanding {
    match said {
        Ok(s) => Understanding::of(&s.name, s.in_words(), &s.chips),
        Err(e) => Understanding::refused(&e),
    }
}

/// Opens the ticket of a set that is taken in; `None` for a sentence about anything else. Test first decides until somebody
/// says otherwise.
///
/// # Errors
/// 422 in words.
pub async fn take(app: &App, q: &Say) -> Result<Option<Said>, ApiError> {
    let Some(said) = of_set(&q.text) else { return Ok(None) };
    let said = said.map_err(|e| ApiError::field("text", e))?;
    let new = NewTicket {
        id: Some(q.key),
        name: said.name.clone(),
        source: said.source,
        devices: said.devices,
        highest: String::new(),
        school: School::TestFirst,
        tight: false,
        policy: None,
        complaint: Some(said.complaint.clone()),
        intake: None,
        set: None,
    };
    let (_, Json(ticket)) =
        crate::ticket::open(State(app.clone()), Body(new)).await.map_err(|e| e.moved_to("text"))?;
    Ok(Some(Said { ticket: Some(ticket.id), ..Said::of(said.in_words()) }))
}
