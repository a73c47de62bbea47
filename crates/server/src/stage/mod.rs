//! An output stage, a pair, a group: what died together is named, fitted together with one press, and proven as one.

pub mod suspect;
pub mod wire;

use std::collections::BTreeMap;

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use owl_core::substitute::{Choices, SubstituteError};
use owl_core::tray::goes_in::not_measured;
use owl_core::tray::question::first_asked;
use owl_core::tray::stage::to_fit;
use owl_core::tray::together::{Place, choose, places};
use uuid::Uuid;

use self::wire::{NewStage, StageChoices, StagePlace};
use crate::app::App;
use crate::aside::aside;
use crate::body::{Body, Id};
use crate::error::{ApiError, Problem};
use crate::substitute::need::unread;
use crate::substitute::refused;
use crate::substitute::wire::SubstituteAnswer;
use crate::table::drawers::{LotRow, of_kinds};
use crate::tray::load::{self, Loaded};
use crate::tray::{Written, touched, uuid, written};

/// How many choices are shown for each place.
const MOST_CHOICES: usize = 5;

/// What would go in for each part of a stage that goes; halves of a pair get two of one lot.
///
/// # Errors
/// 404.
#[utoipa::path(get, path = "/api/parts/{id}/stage", operation_id = "stage_of_part", tag = "parts", params(("id" = Uuid, Path)),
    responses((status = 200, body = StageChoices), (status = 404, body = Problem)))]
pub async fn choices(State(app): State<App>, Id(id): Id) -> Result<Json<StageChoices>, ApiError> {
    let mut tx = app.db.snapshot().await?;
    let row = crate::table::part::find(&mut *tx, id).await?;
    let ticket = crate::table::ticket::find(&mut *tx, row.ticket_id).await?;
    let policy = crate::table::policy::of_ticket(&mut *tx, &ticket).await?;
    let loaded = load::of_ticket(&mut tx, row.ticket_id).await?;
    drop(tx);
    let rows = lots(&app, &places(&loaded.tray, loaded.part(id)?, ticket.class())).await?;
    let types = app.types.all(&app.db).await?;
    // Thousands of lots and their networks: not on the threads that serve.
    let work = move || -> Result<Vec<StagePlace>, ApiError> {
        let places = places(&loaded.tray, loaded.part(id)?, ticket.class());
        let lots = rows.iter().map(LotRow::lot).collect::<Result<Vec<_>, _>>()?;
        let found = choose(&places, &policy, &lots, types.devices());
        places.iter().zip(found).map(|(place, found)| place_view(&loaded, place, found, &rows)).collect()
    };
    let places = aside(work).await?;
    Ok(Json(StageChoices { places: places? }))
}

/// The lots that are of use in any of the places, each once.
async fn lots(app: &App, places: &[Place<'_>]) -> Result<Vec<LotRow>, ApiError> {
    let mut all: BTreeMap<Uuid, LotRow> = BTreeMap::new();
    for wanted in places.iter().filter_map(|p| p.wanted.as_ref()) {
        let rows = of_kinds(&app.db, wanted.kinds(), wanted.searched_si()).await?;
        all.extend(rows.into_iter().map(|row| (row.id, row)));
    }
    Ok(all.into_values().collect())
}

fn place_view(
    loaded: &Loaded,
    place: &Place<'_>,
    found: Option<Result<Choices, SubstituteError>>,
    rows: &[LotRow],
) -> Result<StagePlace, ApiError> {
    let part = place.part;
    let row = loaded.row(uuid(part.id))?;
    let (mut choices, because) = match (found, &place.wanted) {
        (Some(Ok(found)), Some(wanted)) => (SubstituteAnswer::of(&found, rows, wanted, &[])?.choices, None),
        (Some(Err(e)), _) => (vec![], Some(refused(e).to_string())),
        (None, _) | (_, None) => (vec![], Some(unread().to_string())),
    };
    choices.truncate(MOST_CHOICES);
    Ok(StagePlace {
        part: row.id,
        name: part.name.clone(),
        version: row.version,
        choices,
        because,
        measurable: not_measured(part.kind).is_none(),
        asked: first_asked(&loaded.tray, part).map(|a| a.question),
    })
}

/// Fits a whole stage as one change: all of it goes in, or nothing.
///
/// # Errors
/// 404, 409 when something changed since it was seen or a drawer is empty, 422 with the input to blame, by its place in
/// the list: `fittings[1].measured`.
#[utoipa::path(post, path = "/api/parts/{id}/stage", operation_id = "fit_stage", tag = "parts", params(("id" = Uuid, Path)),
    request_body = NewStage, responses(
    (status = 201, body = Written), (status = 404, body = Problem), (status = 409, body = Problem)))]
pub async fn fit(
    State(app): State<App>,
    Id(id): Id,
    Body(new): Body<NewStage>,
) -> Result<(StatusCode, Json<Written>), ApiError> {
    if new.fittings.is_empty() {
        return Err(ApiError::field("fittings", "nothing was chosen"));
    }
    let mut tx = app.begin().await?;
    crate::table::part::lock_all(&mut tx, new.fittings.iter().map(|f| f.part).chain([id])).await?;
    let first = crate::table::part::find(&mut *tx, id).await?;
    let what = format!("{}: its stage fitted", first.name);
    crate::table::deed::begin(&mut tx, first.ticket_id, Some(id), &what).await?;
    let loaded = load::of_ticket(&mut tx, first.ticket_id).await?;
    let members: Vec<Uuid> = to_fit(&loaded.tray, loaded.part(id)?).into_iter().map(|p| uuid(p.id)).collect();
    let mut added = false;
    for (i, f) in new.fittings.iter().enumerate() {
        let within = |e: ApiError| e.within(&format!("fittings[{i}]"));
        if crate::table::fitting::known(&mut tx, f.fitting.key, f.part).await? {
            continue;
        }
        if !members.contains(&f.part) {
            return Err(within(ApiError::field(
                "part",
                "it is not of this stage, or something is in its place",
            )));
        }
        let part = crate::table::part::find(&mut *tx, f.part).await?;
        crate::fitting::begin(&app, &mut tx, &part, &f.fitting).await.map_err(within)?;
        if f.part == id {
            added = true;
        } else {
            touched(&mut tx, f.part).await?;
        }
    }
    let answer = written(&mut tx, id, added).await?;
    tx.commit().await?;
    Ok((StatusCode::CREATED, Json(answer)))
}
