//! `POST /api/decode`: what a marking means.

pub mod wire;

use axum::Json;
use owl_core::marking::{Colour, Hints, MarkingError, Meaning, read_colours, read_text};
use owl_core::quantity::Ohm;

use self::wire::{DecodeAnswer, DecodeQuestion, MeaningView};
use crate::body::Body;
use crate::error::ApiError;

/// Reads a marking.
///
/// # Errors
/// 422 with words for whoever typed it.
#[utoipa::path(post, path = "/api/decode", tag = "tools", request_body = DecodeQuestion, responses(
    (status = 200, body = DecodeAnswer, description = "the readings, likeliest first")))]
pub async fn decode(Body(question): Body<DecodeQuestion>) -> Result<Json<DecodeAnswer>, ApiError> {
    let readings = read(&question)?;
    Ok(Json(DecodeAnswer { readings: readings.iter().map(MeaningView::of).collect() }))
}

fn read(question: &DecodeQuestion) -> Result<Vec<Meaning>, ApiError> {
    let ohm = |field: &str, value: Option<f64>| -> Result<Option<Ohm>, ApiError> {
        value.map(Ohm::new).transpose().map_err(|e| ApiError::field(field, e))
    };
    let hints = Hints {
        measured: ohm("measured", question.measured)?,
        expected: ohm("expected", question.expected)?,
    };
    match (&question.text, &question.colours) {
        (Some(text), None) => read_text(text, hints).map_err(|e| ApiError::field("text", e)),
        (None, Some(names)) => {
            let colours = colours(names).map_err(|e| ApiError::field("colours", e))?;
            read_colours(&colours, hints).map_err(|e| ApiError::field("colours", e))
        }
        _ => Err(ApiError::field("text", "give either the text or the colours")),
    }
}

/// Colours by name; `none` at the end stands for a band that is not there.
pub fn colours(names: &[String]) -> Result<Vec<Colour>, MarkingError> {
    if names.len() > 20 {
        return Err(MarkingError::BandCount(names.len()));
    }
    let mut names = names;
    while let Some((last, rest)) = names.split_last() {
        if !last.eq_ignore_ascii_case("none") {
            break;
        }
        names = rest;
    }
    names.iter().map(|n| Colour::of_word(n).ok_or_else(|| Colour::unknown(n))).collect()
}
