//! What was written of a part or of a ticket, by whom, when and from which bench, as a story that is only ever added to.

use axum::Json;
use axum::extract::State;
use owl_core::quantity::format::format;
use serde::{Deserialize, Serialize};
use time::OffsetDateTime;
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;

use crate::app::App;
use crate::body::{Id, Query};
use crate::error::{ApiError, Problem};
use crate::table::act::{self, ActRow};

/// At most so many lines at once.
const MOST: i64 = 200;

/// From where a story is told.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct Page {
    /// Only what was written before the line of this number.
    before: Option<i64>,
}

/// A story.
#[derive(Debug, Serialize, ToSchema)]
pub struct StoryView {
    /// The newest first.
    pub lines: Vec<StoryLine>,
    /// Whether there is more before them.
    pub more: bool,
}

/// One line of a story.
#[derive(Debug, Serialize, ToSchema)]
pub struct StoryLine {
    /// Its number: the order in which things were written, whatever the clock said.
    pub n: i64,
    /// When.
    #[serde(with = "time::serde::rfc3339")]
    pub at: OffsetDateTime,
    /// Whose it is, and from which bench: `Maren Holt at bench 2, countersigned by Odd Lunde`.
    pub by: String,
    /// What was done, in words.
    #[serde(serialize_with = "crate::dialect::said")]
    pub text: String,
    /// The part that it is of.
    pub part: Option<String>,
}

impl From<ActRow> for StoryLine {
    fn from(row: ActRow) -> Self {
        let by = owl_core::people::story::by(&row.person, &row.bench, row.countersigned.as_deref());
        let detail = match (row.quantity, row.state) {
            (Some(quantity), Some(state)) => {
                let shown = row.value.map(|v| format(quantity.quantity(), v).to_string());
                format!("{} {}, {state}", quantity.called(), shown.as_deref().unwrap_or("beyond the range"))
            }
            _ => row.detail,
        };
        let text = owl_core::people::story::told(row.thing, row.done, &detail);
        Self { n: row.n, at: row.at, by, text, part: row.part }
    }
}

async fn story(
    app: &App,
    parts: &[Uuid],
    ticket: Option<Uuid>,
    page: &Page,
) -> Result<Json<StoryView>, ApiError> {
    let before = page.before.unwrap_or(i64::MAX);
    let mut rows = act::told(&app.db, parts, ticket, before, MOST + 1).await?;
    let more = rows.len() as i64 > MOST;
    rows.truncate(MOST as usize);
    Ok(Json(StoryView { lines: rows.into_iter().map(StoryLine::from).collect(), more }))
}

/// The story of a part.
///
/// # Errors
/// 404.
#[utoipa::path(get, path = "/api/parts/{id}/story", operation_id = "story_of_part", tag = "people",
    params(("id" = Uuid, Path), Page), responses((status = 200, body = StoryView), (status = 404, body = Problem)))]
pub async fn of_part(
    State(app): State<App>,
    Id(id): Id,
    Query(page): Query<Page>,
) -> Result<Json<StoryView>, ApiError> {
    crate::table::part::find(&app.db, id).await?;
    story(&app, &[id], None, &page).await
}

/// The story of a ticket and its parts.
///
/// # Errors
/// 404.
#[utoipa::path(get, path = "/api/tickets/{id}/story", operation_id = "story_of_ticket", tag = "people",
    params(("id" = Uuid, Path), Page), responses((status = 200, body = StoryView), (status = 404, body = Problem)))]
pub async fn of_ticket(
    State(app): State<App>,
    Id(id): Id,
    Query(page): Query<Page>,
) -> Result<Json<StoryView>, ApiError> {
    crate::table::ticket::find(&app.db, id).await?;
    let parts: Vec<Uuid> =
        crate::table::part::parts_of(&app.db, id).await?.into_iter().map(|p| p.id).collect();
    story(&app, &parts, Some(id), &page).await
}
