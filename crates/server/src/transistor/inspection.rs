//! A bought rare part against a known good one: looked at line by line, judged, kept.

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use owl_core::stored::Stored;
use owl_core::transistor::inspect::{
    Answer, Inspection, InspectionItem, InspectionVerdict, LookKind, Seen, SignWeight, StoredAnswer, inspect,
    steps,
};
use serde::{Deserialize, Serialize};
use time::OffsetDateTime;
use utoipa::ToSchema;
use uuid::Uuid;

use crate::app::App;
use crate::body::Body;
use crate::error::ApiError;
use crate::table::inspection::{self as table, InspectionRow};
use crate::text::checked_text;

/// A line to go through.
#[derive(Debug, Serialize, ToSchema)]
pub struct InspectionLine {
    /// What is looked at.
    pub look: InspectionItem,
    /// How it is answered.
    pub kind: LookKind,
    /// What to do.
    pub ask: String,
    /// What a true one shows.
    pub true_one: String,
    /// What a false one shows.
    pub false_one: String,
    /// How much a sign says.
    pub weight: SignWeight,
    /// Where it comes from.
    pub source: String,
    /// The unit of a number; empty of what is seen.
    pub unit: &'static str,
}

/// An answer to a line.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct InspectionAnswer {
    /// Of what.
    pub look: InspectionItem,
    /// What was seen, of a line that is seen.
    pub seen: Option<Seen>,
    /// The bought one's number, as typed; empty where it was not measured.
    #[serde(default)]
    #[schema(max_length = 20)]
    pub bought: String,
    /// The known one's number, as typed.
    #[serde(default)]
    #[schema(max_length = 20)]
    pub known: String,
}

impl From<InspectionAnswer> for StoredAnswer {
    fn from(a: InspectionAnswer) -> Self {
        Self { look: a.look, seen: a.seen, bought: a.bought, known: a.known }
    }
}

impl From<StoredAnswer> for InspectionAnswer {
    fn from(kept: StoredAnswer) -> Self {
        Self { look: kept.look, seen: kept.seen, bought: kept.bought, known: kept.known }
    }
}

/// What was seen of a bought part.
#[derive(Debug, Deserialize, ToSchema)]
pub struct InspectionQuestion {
    /// Its type number.
    #[serde(rename = "type")]
    #[schema(max_length = 40)]
    pub type_number: String,
    /// The answers so far.
    #[schema(max_items = 20)]
    pub answers: Vec<InspectionAnswer>,
}

/// An inspection to be kept.
#[derive(Debug, Deserialize, ToSchema)]
pub struct NewInspection {
    /// Chosen by the client, so that sending twice records once.
    pub key: Uuid,
    /// The question with its answers.
    pub question: InspectionQuestion,
    /// From whom it was bought.
    #[serde(default)]
    #[schema(max_length = 120)]
    pub bought_from: String,
    /// A note.
    #[serde(default)]
    #[schema(max_length = 2000)]
    pub note: String,
}

/// What it comes to.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct InspectionView {
    /// Never more than that nothing speaks against it.
    pub verdict: InspectionVerdict,
    /// What each answer says.
    pub signs: Vec<SignView>,
    /// What has not been looked at.
    pub open: Vec<InspectionItem>,
    /// What to do.
    #[serde(serialize_with = "crate::dialect::said")]
    pub next: String,
}

/// What an answer says.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct SignView {
    /// Of what.
    pub look: InspectionItem,
    /// As a true or as a false one.
    pub seen: Seen,
    /// How much it says.
    pub weight: SignWeight,
    /// In words, with numbers.
    pub text: String,
}

/// An inspection that was kept.
#[derive(Debug, Serialize, ToSchema)]
pub struct KeptInspection {
    /// Its id.
    pub id: Uuid,
    /// Its type number.
    #[serde(rename = "type")]
    pub type_number: String,
    /// From whom it was bought.
    pub bought_from: String,
    /// What it came to then.
    pub verdict: InspectionVerdict,
    /// The answers.
    pub answers: Vec<InspectionAnswer>,
    /// A note.
    pub note: String,
    /// When.
    #[serde(with = "time::serde::rfc3339")]
    pub inspected_at: OffsetDateTime,
}

/// The lines, and what was inspected before.
#[derive(Debug, Serialize, ToSchema)]
pub struct InspectionDesk {
    /// The lines, in the order in which to go through them.
    pub lines: Vec<InspectionLine>,
    /// The last fifty, the newest first.
    pub kept: Vec<KeptInspection>,
}

fn unit(look: InspectionItem) -> &'static str {
    match look {
        InspectionItem::Weight => "g",
        InspectionItem::BaseVolts | InspectionItem::Breakdown => "V",
        InspectionItem::Gain
        | InspectionItem::Print
        | InspectionItem::Body
        | InspectionItem::Logo
        | InspectionItem::Leads
        | InspectionItem::Notch
        | InspectionItem::Magnet => "",
    }
}

/// The lines to go through, and what was inspected before.
///
/// # Errors
/// 503 without a database.
#[utoipa::path(get, path = "/api/transistors/inspections", tag = "transistors", operation_id = "inspection_desk",
    responses((status = 200, body = InspectionDesk)))]
pub async fn desk(State(app): State<App>) -> Result<Json<InspectionDesk>, ApiError> {
    let rows = table::newest(&app.db).await?;
    let kept = rows
        .into_iter()
        .map(|r| KeptInspection {
            id: r.id,
            type_number: r.type_number,
            bought_from: r.bought_from,
            verdict: r.verdict,
            answers: r.answers.0.0.into_iter().map(InspectionAnswer::from).collect(),
            note: r.note,
            inspected_at: r.inspected_at,
        })
        .collect();
    let lines = steps()
        .iter()
        .map(|l| InspectionLine {
            look: l.look,
            kind: l.kind,
            ask: l.ask.clone(),
            true_one: l.true_one.clone(),
            false_one: l.false_one.clone(),
            weight: l.weight,
            source: l.source.to_string(),
            unit: unit(l.look),
        })
        .collect();
    Ok(Json(InspectionDesk { lines, kept }))
}

fn number(field: String, look: InspectionItem, text: &str) -> Result<Option<f64>, ApiError> {
    let text = text.trim();
    if text.is_empty() {
        return Ok(None);
    }
    let bare = text.trim_end_matches(['g', 'V', 'v']).trim().replace(',', ".");
    // 612 of a base is millivolt.
    let scaled = |v: f64| if look == InspectionItem::BaseVolts && v > 10.0 { v / 1000.0 } else { v };
    match bare.parse::<f64>().map(scaled) {
        Ok(v) if v > 0.0 && v < 1e6 => Ok(Some(v)),
        _ => Err(ApiError::field(field, format!("'{text}' is no number above zero"))),
    }
}

async fn judged(app: &App, q: &InspectionQuestion) -> Result<(String, Inspection), ApiError> {
    let type_number = checked_text("type", &q.type_number, 40)?;
    let mut answers = Vec::new();
    for (i, a) in q.answers.iter().enumerate().take(20) {
        let look = a.look;
        answers.push(Answer {
            look,
            seen: a.seen,
            bought_si: number(format!("answers[{i}].bought"), look, &a.bought)?,
            known_si: number(format!("answers[{i}].known"), look, &a.known)?,
        });
    }
    let kinds = steps();
    let numbers = |l: InspectionItem| kinds.iter().any(|k| k.look == l && k.kind == LookKind::Number);
    if let Some(i) =
        answers.iter().position(|a| numbers(a.look) && a.known_si.is_some() && a.bought_si.is_none())
    {
        return Err(ApiError::field(format!("answers[{i}].bought"), "and the bought one?"));
    }
    let types = app.types.all(&app.db).await?;
    let found = inspect(types.meant(&type_number), &answers);
    Ok((type_number, found))
}

fn view(f: &Inspection) -> InspectionView {
    InspectionView {
        verdict: f.verdict,
        signs: f
            .signs
            .iter()
            .map(|s| SignView { look: s.look, seen: s.seen, weight: s.weight, text: s.text.clone() })
            .collect(),
        open: f.open.to_vec(),
        next: f.next.clone(),
    }
}

/// Judges a bought part by what was seen so far; nothing is kept.
///
/// # Errors
/// 422 with the input to blame.
#[utoipa::path(post, path = "/api/transistors/inspect", tag = "transistors", operation_id = "inspect_part",
    request_body = InspectionQuestion, responses((status = 200, body = InspectionView)))]
pub async fn judge(
    State(app): State<App>,
    Body(q): Body<InspectionQuestion>,
) -> Result<Json<InspectionView>, ApiError> {
    let (_, found) = judged(&app, &q).await?;
    Ok(Json(view(&found)))
}

/// Keeps an inspection.
///
/// # Errors
/// 422 with the input to blame.
#[utoipa::path(post, path = "/api/transistors/inspections", tag = "transistors", operation_id = "keep_inspection",
    request_body = NewInspection, responses((status = 201, body = InspectionView)))]
pub async fn keep(
    State(app): State<App>,
    Body(new): Body<NewInspection>,
) -> Result<(StatusCode, Json<InspectionView>), ApiError> {
    let (type_number, found) = judged(&app, &new.question).await?;
    if type_number.is_empty() {
        return Err(ApiError::field("question.type", "say the type number that is printed on it"));
    }
    if found.signs.is_empty() {
        return Err(ApiError::field("question.answers", "nothing was looked at yet"));
    }
    let bought_from = checked_text("bought_from", &new.bought_from, 120)?;
    let note = checked_text("note", &new.note, 2000)?;
    let answers =
        sqlx::types::Json(Stored(new.question.answers.into_iter().map(StoredAnswer::from).collect()));
    let row = InspectionRow {
        id: new.key,
        type_number,
        bought_from,
        answers,
        verdict: found.verdict,
        note,
        inspected_at: OffsetDateTime::UNIX_EPOCH,
    };
    let mut tx = app.begin().await?;
    table::insert(&mut *tx, &row).await?;
    tx.commit().await?;
    Ok((StatusCode::CREATED, Json(view(&found))))
}
