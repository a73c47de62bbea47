//! `POST /api/substitute`: what to put in.

pub mod wire;

use axum::Json;
use owl_core::quantity::{Ohm, Volt};
use owl_core::substitute::{Need, choose};
use owl_core::verdict::Policy;

use self::wire::{SubstituteAnswer, SubstituteQuestion};
use crate::body::Body;
use crate::error::ApiError;
use crate::judge::resistor;

/// Proposes substitutes, best first.
///
/// # Errors
/// 422 with the input to blame.
#[utoipa::path(post, path = "/api/substitute", tag = "tools", request_body = SubstituteQuestion, responses(
    (status = 200, body = SubstituteAnswer, description = "what fits and what does not")))]
pub async fn substitute(Body(q): Body<SubstituteQuestion>) -> Result<Json<SubstituteAnswer>, ApiError> {
    let part = resistor(&q.part)?;
    let value = match q.wanted {
        Some(v) => Ohm::new(v).map_err(|e| ApiError::field("wanted", e))?,
        None => part.value,
    };
    let volts = match q.circuit.as_ref().map(|c| (c.voltage, c.voltage_typed.as_deref())) {
        Some((Some(v), _)) => Some(Volt::new(v).map_err(|e| ApiError::field("circuit.voltage", e))?),
        Some((None, Some(text))) => {
            Some(text.parse::<Volt>().map_err(|e| ApiError::field("circuit.voltage_typed", e))?)
        }
        _ => None,
    };
    let policy = Policy::of(q.school.0, false).map_err(|e| ApiError::field("school", e))?;
    let need = Need { part, value, position: q.position.map(|p| p.0), volts };
    let choices = choose(&need, policy).map_err(|e| ApiError::field("part.value", e))?;
    Ok(Json(SubstituteAnswer::of(&choices)))
}
