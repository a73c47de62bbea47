//! What to put in: `POST /api/substitute` for anybody's question, `GET /api/parts/{id}/substitutes` for a part on
//! the tray.

pub mod need;
pub mod wire;

use axum::Json;
use axum::extract::State;
use owl_core::drawers::search::words;
use owl_core::substitute::{Choices, SubstituteError, Wanted};
use owl_core::verdict::Policy;

use self::need::{asked, of_part as wanted_of};
use self::wire::{SoughtAmong, SubstituteAnswer, SubstituteQuestion};
use crate::app::App;
use crate::aside::aside;
use crate::body::{Body, Id, Query};
use crate::error::{ApiError, Problem};
use crate::table::drawers::{LotRow, of_kinds};
use crate::text::checked_text;

/// Proposes substitutes from the drawers, to buy, and as networks; best first.
///
/// # Errors
/// 422 with the input to blame.
#[utoipa::path(post, path = "/api/substitute", tag = "tools", request_body = SubstituteQuestion, responses(
    (status = 200, body = SubstituteAnswer, description = "what fits and what does not")))]
pub async fn substitute(
    State(app): State<App>,
    Body(q): Body<SubstituteQuestion>,
) -> Result<Json<SubstituteAnswer>, ApiError> {
    let policy = Policy::of(q.school, q.tight).map_err(|e| ApiError::field("tight", e))?;
    let wanted = asked(&q)?;
    let (choices, rows) = chosen(&app, &wanted, policy).await?;
    Ok(Json(SubstituteAnswer::of(&choices, &rows, &wanted, &[])?))
}

/// Proposes what to fit for a part on the tray, by its ticket's school and what is known of its circuit.
///
/// # Errors
/// 404, 422 for a part of which nothing is known.
#[utoipa::path(get, path = "/api/parts/{id}/substitutes", operation_id = "substitutes_of_part", tag = "parts", params(("id" = Uuid, Path), SoughtAmong), responses(
    (status = 200, body = SubstituteAnswer), (status = 404, body = Problem), (status = 422, body = Problem)))]
pub async fn of_part(
    State(app): State<App>,
    Id(id): Id,
    Query(q): Query<SoughtAmong>,
) -> Result<Json<SubstituteAnswer>, ApiError> {
    let sought = words(&checked_text("refused", &q.refused, 100)?);
    let mut tx = app.db.snapshot().await?;
    let row = crate::table::part::find(&mut *tx, id).await?;
    let ticket = crate::table::ticket::find(&mut *tx, row.ticket_id).await?;
    let policy = crate::table::policy::of_ticket(&mut *tx, &ticket).await?;
    let loaded = crate::tray::load::around(&mut tx, row.id).await?;
    drop(tx);
    let wanted = wanted_of(&loaded, id, ticket.class())?;
    let (choices, rows) = chosen(&app, &wanted, &policy).await?;
    let part = loaded.part(id)?;
    let set = loaded.tray.shared(part);
    let answer = SubstituteAnswer::of(&choices, &rows, &wanted, &sought)?;
    let facts = answer.facts.into_iter().map(|f| f.within(&set, &part.said)).collect();
    Ok(Json(SubstituteAnswer { facts, ..answer }))
}

/// What fits, and the lots that it speaks of.
///
/// # Errors
/// 422 where there is nothing to look for.
pub async fn chosen(app: &App, wanted: &Wanted, policy: &Policy) -> Result<(Choices, Vec<LotRow>), ApiError> {
    let rows = of_kinds(&app.db, wanted.kinds(), wanted.searched_si()).await?;
    let (wanted, policy) = (wanted.clone(), policy.clone());
    let types = app.types.all(&app.db).await?;
    // Thousands of lots and their networks: not on the threads that serve.
    aside(move || {
        let lots = rows.iter().map(LotRow::lot).collect::<Result<Vec<_>, _>>()?;
        Ok((wanted.choose(&policy, &lots, types.devices()).map_err(refused)?, rows))
    })
    .await?
}

/// Nothing can be proposed; which input is to blame.
pub fn refused(e: SubstituteError) -> ApiError {
    match e {
        SubstituteError::NoValue => ApiError::field("part.value", e),
        SubstituteError::TooManyWatts(_) => ApiError::field("circuit.voltage", e),
    }
}
