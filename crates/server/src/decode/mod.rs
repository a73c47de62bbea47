//! `POST /api/decode`: what a marking means; and the codes themselves, as bench cards.

pub mod card;
pub mod wire;

use axum::Json;
use owl_core::marking::{Colour, Hints, MarkingError, Meaning, read_colours, read_text};
use owl_core::quantity::Quantity;
use owl_core::quantity::parse::{best, quantity_of_unit};

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
    let seen = match (&question.text, &question.colours) {
        (_, Some(names)) => colours(names).ok(),
        (Some(text), None) => Colour::list(text).ok().flatten(),
        (None, None) => None,
    };
    Ok(Json(DecodeAnswer { readings: readings.iter().map(MeaningView::of).collect(), seen }))
}

/// The readings of a marking, likeliest first, never empty.
pub fn read(question: &DecodeQuestion) -> Result<Vec<Meaning>, ApiError> {
    let hints = hints(question)?;
    match (&question.text, &question.colours) {
        (Some(text), None) => read_text(text, hints).map_err(|e| ApiError::field("text", e)),
        (None, Some(names)) => {
            let colours = colours(names).map_err(|e| ApiError::field("colours", e))?;
            read_colours(&colours, hints).map_err(|e| ApiError::field("colours", e))
        }
        _ => Err(ApiError::field("text", "give either the text or the colours")),
    }
}

fn hints(question: &DecodeQuestion) -> Result<Hints, ApiError> {
    let number = |field: &str, value: Option<f64>, typed: Option<&String>| -> Result<Option<f64>, ApiError> {
        if let Some(v) = value {
            if v.is_finite() && v >= 0.0 {
                return Ok(Some(v));
            }
            return Err(ApiError::field(field, "a value above zero is needed, in the base unit"));
        }
        let Some(text) = typed.filter(|t| !t.trim().is_empty()) else { return Ok(None) };
        // The part tells the quantity, or the unit that was typed, or what the marking alone is likeliest.
        let unit = text.trim().trim_start_matches(|c: char| c.is_ascii_digit() || ".,/ ".contains(c));
        let quantity = match question.part {
            Some(p) => p.quantity(),
            None => quantity_of_unit(unit).or_else(|| likeliest(question)),
        };
        let Some(quantity) = quantity else {
            return Err(ApiError::field(
                field,
                "say it with its unit, such as 33 kΩ or 22 nF, or pick what the part is",
            ));
        };
        let value = best(quantity, text).map_err(|e| ApiError::field(field, e))?;
        if value < 0.0 {
            return Err(ApiError::field(field, "a value above zero is needed"));
        }
        Ok(Some(value))
    };
    Ok(Hints {
        part: question.part,
        scheme: question.scheme,
        wide_first: question.wide_first,
        measured_si: number("measured", question.measured, question.measured_text.as_ref())?,
        expected_si: number("expected", question.expected, question.expected_text.as_ref())?,
    })
}

/// The quantity of the likeliest reading, when nothing is known beside the marking.
fn likeliest(question: &DecodeQuestion) -> Option<Quantity> {
    let bare = DecodeQuestion { measured_text: None, expected_text: None, ..question.clone() };
    read(&bare).ok()?.first()?.value.number().map(|(quantity, _)| quantity)
}

/// Colours by name.
pub fn colours(names: &[String]) -> Result<Vec<Colour>, MarkingError> {
    if names.len() > 20 {
        return Err(MarkingError::TooManyColours(names.len(), owl_core::marking::colours::MOST));
    }
    names.iter().map(|n| Colour::of_word(n).ok_or_else(|| Colour::unknown(n))).collect()
}
