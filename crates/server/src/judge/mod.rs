//! `POST /api/judge`: a verdict on a part from its readings.

pub mod view;
pub mod wire;

use axum::Json;
use owl_core::named::Named;
use owl_core::part::{PartKind, Resistor};
use owl_core::quantity::{Fraction, Ohm, Second, Watt};
use owl_core::reading::{Accuracy, Mode, Reading, Shown};
use owl_core::verdict::{Partner, Policy};

use self::view::{Judgement, judgement};
use self::wire::{JudgeQuestion, PartBody, ReadingBody};
use crate::body::Body;
use crate::error::ApiError;

/// Judges a part.
///
/// # Errors
/// 422 with the input to blame.
#[utoipa::path(post, path = "/api/judge", tag = "tools", request_body = JudgeQuestion, responses(
    (status = 200, body = Judgement, description = "the verdict with its reasons")))]
pub async fn judge(Body(q): Body<JudgeQuestion>) -> Result<Json<Judgement>, ApiError> {
    let part = resistor(&q.part)?;
    let readings: Vec<Reading> =
        q.readings.iter().enumerate().map(|(i, r)| reading(i, r)).collect::<Result<_, _>>()?;
    if readings.len() > 1000 {
        return Err(ApiError::field("readings", "at most 1000 readings are judged at once"));
    }
    let policy = Policy::of(q.school.0, q.tight).map_err(|e| ApiError::field("tight", e))?;
    let partner = match &q.pair {
        Some(p) => Some(Partner {
            name: p.name.chars().take(40).collect(),
            measured: positive("pair.measured", p.measured)?,
            marked: positive("pair.marked", p.marked)?,
        }),
        None => None,
    };
    let position = q.position.map(|p| p.0);
    Ok(Json(judgement(&part, position, &readings, partner.as_ref(), policy)))
}

fn positive(field: &str, value: f64) -> Result<Ohm, ApiError> {
    match Ohm::new(value) {
        Ok(v) if v > Ohm::ZERO => Ok(v),
        Ok(_) => Err(ApiError::field(field, "a value above zero is needed")),
        Err(e) => Err(ApiError::field(field, e)),
    }
}

/// The part of a question.
///
/// # Errors
/// 422 with the input to blame.
pub fn resistor(part: &PartBody) -> Result<Resistor, ApiError> {
    if part.kind.0 != PartKind::Resistor {
        let why = format!("only resistors are judged and replaced so far, no {}", part.kind.0);
        return Err(ApiError::field("part.kind", why));
    }
    let tolerance = match part.tolerance {
        Some(t) if t > 0.0 && t < 1.0 => Fraction::new(t).ok(),
        Some(_) => {
            return Err(ApiError::field("part.tolerance", "a tolerance is between 0 and 1: 0.1 is 10 %"));
        }
        None => None,
    };
    let power = part.power.map(Watt::new).transpose().map_err(|e| ApiError::field("part.power", e))?;
    let family = part.family.0.resistor().ok_or_else(|| {
        ApiError::field("part.family", format!("'{}' is no family of a resistor", part.family.0.name()))
    })?;
    Ok(Resistor { family, value: positive("part.value", part.value)?, tolerance, power })
}

fn reading(i: usize, r: &ReadingBody) -> Result<Reading, ApiError> {
    let field = |name: &str| format!("readings[{i}].{name}");
    let shown = match (r.value, r.overrange.unwrap_or(false)) {
        (Some(_), true) => {
            return Err(ApiError::field(field("value"), "a reading beyond the range has no value"));
        }
        (Some(v), false) => Shown::Value(Ohm::new(v).map_err(|e| ApiError::field(field("value"), e))?),
        (None, true) => Shown::Overrange { ceiling: None },
        (None, false) => {
            return Err(ApiError::field(field("value"), "a value is needed, or overrange"));
        }
    };
    let accuracy = match &r.accuracy {
        Some(a) => Some(Accuracy {
            of_reading: Fraction::new(a.percent / 100.0)
                .ok()
                .filter(|f| (0.0..1.0).contains(&f.fraction()))
                .ok_or_else(|| {
                    ApiError::field(field("accuracy.percent"), "0 to 100 percent of the reading")
                })?,
            counts: (a.counts.is_finite() && a.counts >= 0.0)
                .then_some(a.counts)
                .ok_or_else(|| ApiError::field(field("accuracy.counts"), "0 or more counts"))?,
            resolution: Ohm::new(a.resolution)
                .map_err(|e| ApiError::field(field("accuracy.resolution"), e))?,
        }),
        None => None,
    };
    let since_soldering = r
        .since_soldering
        .map(Second::new)
        .transpose()
        .map_err(|e| ApiError::field(field("since_soldering"), e))?;
    Ok(Reading {
        shown,
        state: r.state.0,
        hot: r.hot.unwrap_or(false),
        since_soldering,
        mode: r.mode.map_or(Mode::Dc, |m| m.0),
        accuracy,
    })
}
