//! Why did it fail? A part that was overloaded raises the question, which stays open until it is answered.

pub mod store;

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use owl_core::named::Named;
use owl_core::part::{MadeOf, Position};
use owl_core::verdict::cause::{OnTray, Suspect, suspects};
use serde::{Deserialize, Serialize};
use time::OffsetDateTime;
use utoipa::ToSchema;
use uuid::Uuid;

use self::store::CauseRow;
use crate::body::{Body, Id};
use crate::error::{ApiError, Problem};
use crate::part::store::{PartRow, TrayRows};
use crate::part::wire::PartView;
use crate::router::App;
use crate::ticket::checked_text;

/// The question why a part failed.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct CauseView {
    /// In words.
    pub question: String,
    /// What could have done it, as far as the ticket knows the connections, the likeliest first.
    pub suspects: Vec<SuspectView>,
    /// The answer that was given last; null while it is open.
    pub answer: Option<AnswerView>,
}

/// A part that could have overloaded another.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct SuspectView {
    /// Its name on the tray.
    pub name: String,
    /// Whether it is known to hang there.
    pub known: bool,
    /// Why.
    pub because: String,
}

/// An answer.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct AnswerView {
    /// In words.
    pub text: String,
    /// The part that did it, where it is one on the tray.
    pub culprit: Option<String>,
    /// When.
    #[serde(with = "time::serde::rfc3339")]
    pub answered_at: OffsetDateTime,
}

/// An answer to be recorded.
#[derive(Debug, Deserialize, ToSchema)]
pub struct NewCause {
    /// Chosen by the client, so that sending twice records once.
    pub key: Uuid,
    /// The version of the part that was seen.
    pub version: i32,
    /// In words; may be empty where a culprit is named.
    #[schema(max_length = 400)]
    pub answer: Option<String>,
    /// The part that did it, by name, where it is one on the tray.
    #[schema(max_length = 10)]
    pub culprit: Option<String>,
}

/// How many suspects are named: a longer list is no help.
const MOST_SUSPECTS: usize = 8;

/// The parts of a tray as far as the question is concerned.
///
/// # Errors
/// [`ApiError::Internal`] for rows that cannot be.
pub fn on_tray(parts: &[PartRow]) -> Result<Vec<OnTray<'_>>, ApiError> {
    parts
        .iter()
        .map(|p| {
            let feed = p.feed_id.and_then(|id| parts.iter().find(|f| f.id == id));
            Ok(OnTray {
                name: &p.name,
                kind: p.kind()?,
                family: p.family.as_deref().and_then(|f| MadeOf::from_name(f).ok()),
                position: p.position.as_deref().and_then(|f| Position::from_name(f).ok()),
                fed_by: feed.map(|f| f.name.as_str()),
            })
        })
        .collect()
}

/// The question about a part that was overloaded.
#[must_use]
pub fn question(row: &PartRow, tray: &TrayRows, on_tray: &[OnTray<'_>]) -> CauseView {
    let last = tray.causes.iter().rfind(|c| c.part_id == row.id);
    let found = suspects(&row.name, on_tray);
    CauseView {
        question: format!("What fed too much through {}?", row.name),
        suspects: found.into_iter().take(MOST_SUSPECTS).map(SuspectView::from).collect(),
        answer: last.map(|c| AnswerView {
            text: c.answer.clone(),
            culprit: c
                .culprit_id
                .and_then(|id| tray.parts.iter().find(|p| p.id == id))
                .map(|p| p.name.clone()),
            answered_at: c.answered_at,
        }),
    }
}

impl From<Suspect> for SuspectView {
    fn from(s: Suspect) -> Self {
        Self { name: s.name, known: s.known, because: s.because }
    }
}

/// Answers the question why a part failed.
///
/// # Errors
/// 404, 409 when something changed since it was seen, 422 where nothing asks or nothing is answered.
#[utoipa::path(post, path = "/api/parts/{id}/causes", tag = "parts", params(("id" = Uuid, Path)),
    request_body = NewCause, responses(
    (status = 201, body = PartView),
    (status = 404, body = Problem), (status = 409, body = Problem)))]
pub async fn answer(
    State(app): State<App>,
    Id(part_id): Id,
    Body(new): Body<NewCause>,
) -> Result<(StatusCode, Json<PartView>), ApiError> {
    let mut tx = app.pool.begin().await?;
    let part = crate::part::store::lock(&mut tx, part_id).await?;
    let tray = crate::part::store::tray(&mut tx, part.ticket_id).await?;
    let named = new.culprit.as_deref().map(str::trim).filter(|n| !n.is_empty());
    let culprit = match named {
        None => None,
        Some(name) => Some(
            tray.parts
                .iter()
                .find(|p| p.name.eq_ignore_ascii_case(name) && p.id != part_id)
                .ok_or_else(|| ApiError::field("culprit", format!("there is no other {name} on the tray")))?,
        ),
    };
    let mut text = checked_text("answer", new.answer.as_deref().unwrap_or(""), 400)?;
    if text.is_empty() {
        text = match culprit {
            Some(p) => format!("{} drew too much through it", p.name),
            None => return Err(ApiError::field("answer", "say what it was, or which part did it")),
        };
    }
    let row = CauseRow {
        part_id,
        culprit_id: culprit.map(|p| p.id),
        answer: text,
        answered_at: OffsetDateTime::UNIX_EPOCH,
    };
    if store::insert(&mut tx, new.key, &row).await? {
        crate::part::unchanged_since(&mut tx, &part, new.version).await?;
        crate::part::store::touch(&mut tx, part_id).await?;
    }
    tx.commit().await?;
    Ok((StatusCode::CREATED, Json(crate::part::view(&app, part_id).await?)))
}
