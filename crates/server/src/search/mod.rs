//! Past work: a search over all tickets as one would ask it, what a type of set usually needed, and drift by family and
//! age from the workshop's own readings.

mod remembered;

use std::sync::Arc;

use axum::Json;
use axum::extract::State;
use owl_core::named::Named;
use owl_core::part::{MadeOf, PartKind, Position};
use owl_core::quantity::Quantity;
use owl_core::quantity::format::signed_percent;
use owl_core::search::{Found, NEAR, Sought, sought};
use owl_core::verdict::Outcome;
use serde::{Deserialize, Serialize};
use time::OffsetDateTime;
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;

use crate::amount::Amount;
use crate::app::App;
use crate::body::Query;
use crate::error::{ApiError, Problem};
use crate::table::search::{DriftRow, Filter, HitRow, NeededRow};
use remembered::Remembered;

/// What is reckoned from all tickets together.
#[derive(Debug, Default)]
pub struct Past {
    drift: Arc<Remembered<Vec<DriftRow>>>,
    needed: Arc<Remembered<Vec<NeededRow>>>,
}

/// What is asked.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct PastQuestion {
    /// As one would ask it.
    #[param(max_length = 200)]
    q: String,
}

/// What was found.
#[derive(Debug, Serialize, ToSchema)]
pub struct PastAnswer {
    /// How it was understood, word by word.
    #[serde(serialize_with = "crate::dialect::said")]
    pub understood: Vec<String>,
    /// Parts, the newest tickets first; two hundred at most.
    pub parts: Vec<PastPart>,
    /// Tickets in which the words were written.
    pub tickets: Vec<PastTicket>,
    /// What sets of that name usually needed.
    pub needed: Vec<PastNeed>,
}

/// A part that was found.
#[derive(Debug, Serialize, ToSchema)]
pub struct PastPart {
    /// Its ticket.
    pub ticket: Uuid,
    /// The set.
    pub set: String,
    /// Its name.
    pub part: String,
    /// What it is.
    pub kind: PartKind,
    /// How it is made.
    pub family: Option<MadeOf>,
    /// Where it sits.
    pub position: Option<Position>,
    /// Where it is found.
    pub place: String,
    /// What it should have.
    pub value: Option<Amount>,
    /// What it had; null where it was not measured, or showed nothing.
    pub measured: Option<Amount>,
    /// It showed nothing.
    pub open: bool,
    /// How far that is off, as shown.
    pub deviation: Option<String>,
    /// What was decided.
    pub decided: Option<Outcome>,
    /// What went in.
    pub fitted: Option<String>,
}

/// A ticket that was found.
#[derive(Debug, Serialize, ToSchema)]
pub struct PastTicket {
    /// Its id.
    pub id: Uuid,
    /// The set.
    pub name: String,
    /// What is wrong with it.
    pub complaint: String,
}

/// What a type of set needed.
#[derive(Debug, Serialize, ToSchema)]
pub struct PastNeed {
    /// The type of set.
    pub set: String,
    /// The part.
    pub part: String,
    /// Where it sits.
    pub position: Option<Position>,
    /// In how many it went.
    pub times: i64,
    /// Of how many.
    pub of: i64,
}

/// Drift by family and age.
#[derive(Debug, Serialize, ToSchema)]
pub struct DriftView {
    /// Resistors first.
    pub families: Vec<DriftFamily>,
    /// The ends of the scale, as fractions.
    pub from: f64,
    /// The other end.
    pub to: f64,
    /// As it stood then; null where it was reckoned just now.
    #[serde(with = "time::serde::rfc3339::option")]
    pub since: Option<OffsetDateTime>,
}

/// How parts of a family and an age had drifted.
#[derive(Debug, Serialize, ToSchema)]
pub struct DriftFamily {
    /// What kind of part.
    pub kind: PartKind,
    /// How it is made.
    pub family: MadeOf,
    /// In which decade it was made; null where that is not known.
    pub decade: Option<i32>,
    /// How many.
    pub count: i64,
    /// How many are out of their tolerance.
    pub out: i64,
    /// A tenth drifted less than this, as a fraction.
    pub low: f64,
    /// Half of them less than this.
    pub median: f64,
    /// Nine tenths less than this.
    pub high: f64,
    /// The three, as shown.
    #[serde(serialize_with = "crate::dialect::said")]
    pub text: String,
}

/// Searches all tickets.
///
/// # Errors
/// 422 for a question that is too long.
#[utoipa::path(get, path = "/api/past", operation_id = "search_past", tag = "record", params(PastQuestion), responses(
    (status = 200, body = PastAnswer), (status = 422, body = Problem)))]
pub async fn search(
    State(app): State<App>,
    Query(asked): Query<PastQuestion>,
) -> Result<Json<PastAnswer>, ApiError> {
    let text = crate::text::checked_text("q", &asked.q, 200)?;
    let s = sought(&text);
    let words = (!s.words.is_empty()).then(|| s.words.clone());
    let filter = Filter {
        kind: s.kind,
        family: s.family,
        position: s.position,
        value: s.value_si.map(|v| (v * (1.0 - NEAR), v * (1.0 + NEAR))),
        found: s.found,
        words: words.clone(),
    };
    let of_all = if text.is_empty() { needed_by_all(&app).await? } else { vec![] };
    let mut tx = app.db.begin().await?;
    let parts = if text.is_empty() { vec![] } else { crate::table::search::parts(&mut tx, &filter).await? };
    let tickets = match &words {
        Some(w) => crate::table::search::tickets(&mut *tx, w).await?,
        None => vec![],
    };
    let needed = match &words {
        Some(w) => crate::table::search::needed(&mut tx, Some(w)).await?,
        None => of_all,
    };
    Ok(Json(PastAnswer {
        understood: understood(&s),
        parts: parts.iter().map(past_part).collect(),
        tickets: tickets
            .into_iter()
            .map(|t| PastTicket { id: t.id, name: t.name, complaint: t.complaint })
            .collect(),
        needed: needed
            .into_iter()
            .map(|n| {
                let position = n.position;
                Ok(PastNeed { set: n.set_name, part: n.part, position, times: n.times, of: n.of })
            })
            .collect::<Result<_, ApiError>>()?,
    }))
}

async fn needed_by_all(app: &App) -> Result<Vec<NeededRow>, ApiError> {
    let pool = app.db.clone();
    let work = || async move { Ok(crate::table::search::needed(&mut *pool.begin().await?, None).await?) };
    Ok(app.past.needed.get(work).await?.0)
}

fn understood(s: &Sought) -> Vec<String> {
    let of = match s.kind {
        Some(PartKind::Capacitor) => Quantity::Capacitance,
        _ if s.value_si.is_some_and(|v| v < 1e-3) => Quantity::Capacitance,
        _ => Quantity::Resistance,
    };
    let found: Option<Found> = s.found;
    [
        s.value_si.map(|v| Amount::of(of, v).text),
        s.family.map(|f| f.name().to_owned()),
        s.position.map(|p| p.to_string()),
        s.kind.map(|k| k.to_string()),
        found.map(|f| f.name().to_owned()),
        (!s.words.is_empty()).then(|| format!("the words '{}'", s.words)),
    ]
    .into_iter()
    .flatten()
    .collect()
}

fn past_part(h: &HitRow) -> PastPart {
    let kind = h.kind;
    let amount = |v: Option<f64>| kind.quantity().zip(v).map(|(q, v)| Amount::of(q, v));
    let off = h.measured.zip(h.value).filter(|(_, v)| *v > 0.0 && kind.quantity().is_some());
    PastPart {
        ticket: h.ticket_id,
        set: h.set_name.clone(),
        part: h.part.clone(),
        kind,
        family: h.family,
        position: h.position,
        place: h.place.clone(),
        value: amount(h.value),
        measured: amount(h.measured),
        open: h.open == Some(true),
        deviation: off.map(|(m, v)| signed_percent(m / v - 1.0)),
        decided: h.decided,
        fitted: h.fitted.clone(),
    }
}

/// Drift by family and age, from the workshop's own readings.
///
/// # Errors
/// None of its own.
#[utoipa::path(get, path = "/api/past/drift", operation_id = "read_drift", tag = "record", responses(
    (status = 200, body = DriftView)))]
pub async fn drift(State(app): State<App>) -> Result<Json<DriftView>, ApiError> {
    let pool = app.db.clone();
    let work = || async move { Ok(crate::table::search::drift(&pool).await?) };
    let (rows, since) = app.past.drift.get(work).await?;
    let ends = rows.iter().fold((-0.2_f64, 0.2_f64), |(a, b), r| (a.min(r.low), b.max(r.high)));
    // What is off by more than its own value is off the scale.
    let (from, to) = (ends.0.max(-1.0), ends.1.min(1.0));
    Ok(Json(DriftView { families: rows.iter().map(drift_family).collect(), from, to, since }))
}

fn drift_family(r: &DriftRow) -> DriftFamily {
    DriftFamily {
        kind: r.kind,
        family: r.family,
        decade: r.decade,
        count: r.count,
        out: r.out,
        low: r.low,
        median: r.median,
        high: r.high,
        text: format!(
            "half of them below {}; from {} to {}",
            signed_percent(r.median),
            signed_percent(r.low),
            signed_percent(r.high)
        ),
    }
}
