//! An output stage, a pair, a group: what died together is named, fitted together with one press, and proven as one.

pub mod suspect;
pub mod wire;

use std::collections::BTreeMap;

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use owl_core::tray::goes_in::not_measured;
use owl_core::tray::question::first_asked;
use owl_core::tray::stage::{alike, to_fit};
use uuid::Uuid;

use self::wire::{NewStage, StageChoices, StagePlace};
use crate::app::App;
use crate::body::{Body, Id};
use crate::error::{ApiError, Problem};
use crate::substitute::chosen_beside;
use crate::substitute::need::of_part;
use crate::substitute::wire::{ChoiceView, SubstituteAnswer};
use crate::tray::{Written, load, uuid, written};

/// How many choices are shown for each place.
const MOST_CHOICES: usize = 5;

/// What would go in for each part of a stage that goes; halves of a pair get two of one lot.
///
/// # Errors
/// 404.
#[utoipa::path(get, path = "/api/parts/{id}/stage", operation_id = "stage_of_part", tag = "parts", params(("id" = Uuid, Path)),
    responses((status = 200, body = StageChoices), (status = 404, body = Problem)))]
pub async fn choices(State(app): State<App>, Id(id): Id) -> Result<Json<StageChoices>, ApiError> {
    let mut tx = app.pool.begin_with("begin isolation level repeatable read read only").await?;
    let row = crate::table::part::find(&mut *tx, id).await?;
    let ticket = crate::table::ticket::find(&mut *tx, row.ticket_id).await?;
    let policy = crate::table::policy::of_ticket(&mut *tx, &ticket).await?;
    let loaded = load::of_ticket(&mut tx, row.ticket_id).await?;
    drop(tx);
    let members = to_fit(&loaded.tray, loaded.part(id)?);
    let mut taken: BTreeMap<Uuid, i32> = BTreeMap::new();
    let mut places = Vec::new();
    for (i, part) in members.iter().enumerate() {
        let fellows = members.iter().skip(i + 1).filter(|other| alike(part, other)).count();
        let spoken_for = |lot| taken.get(&lot).copied().unwrap_or(0) + i32::try_from(fellows).unwrap_or(0);
        let row = loaded.row(uuid(part.id))?;
        let (choices, because) = match of_part(&loaded, row.id, ticket.class) {
            Ok(wanted) => {
                let (found, rows) = chosen_beside(&app, &wanted, &policy, spoken_for).await?;
                let mut choices = SubstituteAnswer::of(&found, &rows, &wanted)?.choices;
                // The other half of a pair comes from the same lot.
                let before = members.iter().take(i).position(|other| alike(part, other));
                if let Some(first) =
                    before.and_then(|n| places.get(n)).and_then(|p: &StagePlace| p.choices.first())
                {
                    choices.sort_by_key(|c| !same(c, first));
                }
                (choices, None)
            }
            Err(e) => (vec![], Some(e.to_string())),
        };
        for piece in choices.first().map_or(&[][..], |c| &c.pieces) {
            if let Some(lot) = piece.lot {
                *taken.entry(lot).or_default() += 1;
            }
        }
        places.push(StagePlace {
            part: row.id,
            name: part.name.clone(),
            version: row.version,
            choices: choices.into_iter().take(MOST_CHOICES).collect(),
            because,
            measurable: not_measured(part.kind).is_none(),
            asked: first_asked(&loaded.tray, part).map(|a| a.question),
        });
    }
    Ok(Json(StageChoices { places }))
}

/// Whether two choices are the same parts from the same lots.
fn same(a: &ChoiceView, b: &ChoiceView) -> bool {
    let lots = |c: &ChoiceView| c.pieces.iter().map(|p| p.lot).collect::<Vec<_>>();
    a.description == b.description && lots(a) == lots(b)
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
    let mut tx = app.pool.begin().await?;
    crate::table::part::lock_all(&mut tx, new.fittings.iter().map(|f| f.part).chain([id])).await?;
    let first = crate::table::part::find(&mut *tx, id).await?;
    let loaded = load::of_ticket(&mut tx, first.ticket_id).await?;
    let members: Vec<Uuid> = to_fit(&loaded.tray, loaded.part(id)?).into_iter().map(|p| uuid(p.id)).collect();
    let mut added = false;
    for (i, f) in new.fittings.iter().enumerate() {
        let within = |e: ApiError| e.within(&format!("fittings[{i}]"));
        if crate::table::fitting::known(&mut tx, f.fitting.key).await? {
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
        written(&mut tx, f.part, true).await?;
        added = added || f.part == id;
    }
    let answer = written(&mut tx, id, added).await?;
    tx.commit().await?;
    Ok((StatusCode::CREATED, Json(answer)))
}
