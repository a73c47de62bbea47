//! `POST /api/diagnose`: the guilty part of a direct-current feed.

pub mod drawn;
pub mod wire;

use std::collections::BTreeMap;

use axum::Json;
use owl_core::feed::search::{Question, diagnose as search};
use owl_core::feed::{Element, Feed, FeedError, FeedKind, FeedPart, RAIL, loads};
use owl_core::quantity::{Ampere, Farad, Fraction, Ohm, QuantityError, Volt, Watt};

use self::wire::{FeedAnswer, FeedPartBody, FeedQuestion, LoadAs};
use crate::aside::aside;
use crate::body::Body;
use crate::error::ApiError;

/// The name of the node of zero volts, where a question gives no other.
pub const GROUND: &str = "ground";
/// The longest name of a part or a node.
const LONGEST: usize = 40;

/// Solves a feed with every part right and with each single fault; two at once where no single one explains the
/// readings.
///
/// # Errors
/// 422 with the part or the node to blame.
#[utoipa::path(post, path = "/api/diagnose", tag = "tools", request_body = FeedQuestion, responses(
    (status = 200, body = FeedAnswer, description = "suspects, best first")))]
pub async fn diagnose(Body(q): Body<FeedQuestion>) -> Result<Json<FeedAnswer>, ApiError> {
    Ok(Json(asked_in_thread(Asked::of(&q)?).await?))
}

/// Some milliseconds of sums, more where two faults are sought: not on the threads that serve.
async fn asked_in_thread(asked: Asked) -> Result<FeedAnswer, ApiError> {
    aside(move || asked.answer()).await?
}

/// A question that makes sense.
pub struct Asked {
    feed: Feed,
    measured: Vec<(String, Volt)>,
    meter: Option<Ohm>,
}

impl Asked {
    /// A question of the wire, checked.
    ///
    /// # Errors
    /// 422 with the part or the node to blame.
    pub fn of(q: &FeedQuestion) -> Result<Self, ApiError> {
        let ground = q.ground.as_deref().map_or(GROUND, str::trim);
        if ground.is_empty() || ground == RAIL {
            return Err(ApiError::field("ground", "the node of zero volts needs a name other than 'rail'"));
        }
        if q.parts.len() > owl_core::feed::MOST_PARTS {
            return Err(ApiError::field("parts", FeedError::TooMany(q.parts.len())));
        }
        let rail = volts("rail", q.rail)?;
        let mut parts = Vec::with_capacity(q.parts.len());
        let mut unknown = Vec::new();
        for (i, p) in q.parts.iter().enumerate() {
            parts.push(part(i, p)?);
            if p.kind == FeedKind::Load && p.value.is_none() {
                unknown.push(i);
            }
        }
        let mut sheet = q.sheet.as_ref().map_or(Ok(vec![]), |s| named("sheet", s))?;
        if q.rails.contains_key(ground) || q.rails.contains_key(RAIL) {
            return Err(ApiError::field("rails", "another rail needs a name of its own"));
        }
        let others = q
            .rails
            .iter()
            .map(|(n, v)| Ok((n.trim().to_owned(), volts(&format!("rails.{n}"), *v)?)))
            .collect::<Result<Vec<_>, ApiError>>()?;
        sheet.retain(|(n, _)| !q.rails.contains_key(n));
        sheet.extend(others.iter().cloned());
        for i in &unknown {
            let current = loads::from_sheet(&parts, &unknown, *i, rail, ground, &sheet).map_err(refused)?;
            parts[*i].element = Element::Current(current);
        }
        Ok(Self {
            feed: Feed::on_rails(rail, &others, ground, parts).map_err(refused)?,
            // Ground is what volts are read against.
            measured: named("measured", &q.measured)?.into_iter().filter(|(n, _)| n != ground).collect(),
            meter: q.meter.map(|m| above("meter", m, Ohm::new)).transpose()?,
        })
    }

    /// The same with parts as they were read with an end free.
    #[must_use]
    pub fn with_read(self, read: &[(String, Ohm)]) -> Self {
        Self { feed: self.feed.with_read(read), ..self }
    }

    /// What the readings say.
    ///
    /// # Errors
    /// 422 where nothing was measured, or at a node that there is not.
    pub fn answer(&self) -> Result<FeedAnswer, ApiError> {
        let q = Question { feed: &self.feed, measured: &self.measured, meter: self.meter };
        let found = search(&q).map_err(refused)?;
        let readings = self.measured.iter().filter(|(n, _)| !self.feed.is_rail(n)).count();
        Ok(FeedAnswer::of(&self.feed, &found, readings))
    }

    /// The feed.
    #[must_use]
    pub fn feed(&self) -> &Feed {
        &self.feed
    }
}

fn part(i: usize, p: &FeedPartBody) -> Result<FeedPart, ApiError> {
    let field = |f: &str| format!("parts[{i}].{f}");
    let name = |f: &str, text: &str| {
        let text = text.trim();
        match text.chars().count() {
            0 => Err(ApiError::field(field(f), "this needs a name")),
            n if n > LONGEST => {
                Err(ApiError::field(field(f), format!("{n} characters are too long for a name")))
            }
            _ => Ok(text.to_owned()),
        }
    };
    let value = |p: &FeedPartBody| {
        p.value.ok_or_else(|| ApiError::field(field("value"), format!("{} needs a value", p.name.trim())))
    };
    let at = field("value");
    let element = match (p.kind, p.unit) {
        (FeedKind::Resistor, _) => Element::Resistor(above(&at, value(p)?, Ohm::new)?),
        (FeedKind::Contact, _) => Element::Contact,
        (FeedKind::Capacitor, _) => {
            Element::Capacitor(p.value.map(|v| above(&at, v, Farad::new)).transpose()?)
        }
        (FeedKind::Load, Some(LoadAs::Resistance)) => Element::Resistance(above(&at, value(p)?, Ohm::new)?),
        (FeedKind::Load, Some(LoadAs::Current) | None) => {
            let amperes = p.value.unwrap_or(0.0);
            if amperes < 0.0 {
                return Err(ApiError::field(at, "a load draws: its current is not below zero"));
            }
            Element::Current(Ampere::new(amperes).map_err(|e| ApiError::field(at, e))?)
        }
    };
    let tolerance = match p.tolerance {
        Some(t) if !(0.0..=1.0).contains(&t) => {
            return Err(ApiError::field(
                field("tolerance"),
                "a tolerance lies between 0 and 1 (0.1 is 10 %)",
            ));
        }
        t => t.map(Fraction::new).transpose().map_err(|e| ApiError::field(field("tolerance"), e))?,
    };
    Ok(FeedPart {
        name: name("ref", &p.name)?,
        element,
        a: name("a", &p.a)?,
        b: name("b", &p.b)?,
        tolerance,
        rating: p.rating.map(|r| above(&field("rating"), r, Watt::new)).transpose()?,
    })
}

/// Ohms, farads and watts that a part can have.
const RANGE: std::ops::RangeInclusive<f64> = 1e-15..=1e15;

fn above<T>(field: &str, value: f64, new: impl Fn(f64) -> Result<T, QuantityError>) -> Result<T, ApiError> {
    if !RANGE.contains(&value) {
        return Err(ApiError::field(field, "this must be above zero, and a size that a part can have"));
    }
    new(value).map_err(|e| ApiError::field(field, e))
}

/// More volts than any bench has.
const MOST_VOLTS: f64 = 1e6;

fn volts(field: &str, value: f64) -> Result<Volt, ApiError> {
    if value.abs() > MOST_VOLTS {
        return Err(ApiError::field(field, "those are more volts than any bench has"));
    }
    Volt::new(value).map_err(|e| ApiError::field(field, e))
}

fn named(field: &str, all: &BTreeMap<String, Option<f64>>) -> Result<Vec<(String, Volt)>, ApiError> {
    let read = all.iter().filter_map(|(n, v)| Some((n, (*v)?)));
    read.map(|(n, v)| Ok((n.trim().to_owned(), volts(&format!("{field}.{n}"), v)?))).collect()
}

/// A feed that makes no sense, with the input to blame.
fn refused(e: FeedError) -> ApiError {
    let field = match &e {
        FeedError::NoRail => "rail".to_owned(),
        FeedError::Empty | FeedError::TooMany(_) | FeedError::NothingOnRail => "parts".to_owned(),
        FeedError::Twice { part, .. } => format!("parts[{part}].ref"),
        FeedError::Looped { part, .. } => format!("parts[{part}].b"),
        FeedError::LoadUnknown { part, .. } | FeedError::LoadFeeds { part, .. } => {
            format!("parts[{part}].value")
        }
        FeedError::NoSuchNode { node, .. } => format!("measured.{node}"),
        FeedError::NothingMeasured => "measured".to_owned(),
        FeedError::Quantity(_) => return ApiError::Impossible { detail: e.to_string(), field: None },
    };
    ApiError::field(field, e)
}
