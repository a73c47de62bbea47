//! Fittings: what went in and what it measured; their proof; and how they are undone. What comes from a drawer is
//! taken out of it in the same transaction.

pub mod entry;
pub mod wire;

use std::collections::BTreeMap;

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use owl_core::change::ChangeKind;
use owl_core::proof::ProofOutcome;
use owl_core::tray::assessed::{GoingIn, OfferedPiece, allowed};
use owl_core::tray::goes_in::{Objection, Taken, check, class_of, far_off, wanted};
use owl_core::tray::stage::{key, stage, to_prove};
use owl_core::tray::undo::{Held, may_prove, may_undo};
use uuid::Uuid;

use self::entry::{fitting_row, offered};
use self::wire::{NewFitting, NewPiece, NewProof, NewWithdrawal};
use crate::app::App;
use crate::body::{Body, Id};
use crate::error::{ApiError, Problem};
use crate::proof::proof_said;

use crate::table::change::Begins;
use crate::table::drawers;
use crate::table::error::StoreError;
use crate::table::fitting::PieceRow;
use crate::table::part::PartRow;
use crate::text::checked_text;
use crate::tray::{Written, load, touched, uuid, written};

/// The most pieces of a fitting.
const MOST_PIECES: usize = 20;

/// Records what was fitted in a part's place, and takes it out of its drawers.
///
/// # Errors
/// 404, 409 when something changed since it was seen or a drawer is empty, 422 with the input to blame.
#[utoipa::path(post, path = "/api/parts/{id}/fittings", tag = "parts", params(("id" = Uuid, Path)),
    request_body = NewFitting, responses(
    (status = 201, body = Written),
    (status = 404, body = Problem), (status = 409, body = Problem)))]
pub async fn fit(
    State(app): State<App>,
    Id(part_id): Id,
    Body(new): Body<NewFitting>,
) -> Result<(StatusCode, Json<Written>), ApiError> {
    let mut tx = app.begin().await?;
    let part = crate::table::part::lock(&mut tx, part_id).await?;
    let known = crate::table::fitting::known(&mut tx, new.key, part_id).await?;
    if !known {
        let what = format!("{}: fitted {}", part.name, new.description.trim());
        crate::table::deed::begin(&mut tx, part.ticket_id, Some(part_id), &what).await?;
        begin(&app, &mut tx, &part, &new).await?;
    }
    let answer = written(&mut tx, part_id, !known).await?;
    tx.commit().await?;
    Ok((StatusCode::CREATED, Json(answer)))
}

/// Begins the change that a fitting is: what was said is checked, the rules are asked, the drawers opened.
pub(crate) async fn begin(
    app: &App,
    tx: &mut sqlx::PgConnection,
    part: &PartRow,
    new: &NewFitting,
) -> Result<(), ApiError> {
    if new.pieces.len() > MOST_PIECES {
        return Err(ApiError::field("pieces", format!("at most {MOST_PIECES} pieces")));
    }
    let mut offered = offered(part.kind, new)?;
    let loaded = load::around(&mut *tx, part.id).await?;
    let lying = loaded.part(part.id)?;
    let lots = lots(&mut *tx, &new.pieces).await?;
    let pieces: Vec<Taken> = lots.values().cloned().collect();
    offered.safety = class_of(offered.safety, &pieces);
    check(lying, &offered).map_err(|e| ApiError::field(e.field(), e))?;
    if let (false, Some(question)) = (new.confirmed, far_off(&offered)) {
        return Err(ApiError::ask(question, "measured"));
    }
    let mut row = fitting_row(part.id, &offered, new)?;
    crate::tray::unchanged_since(&mut *tx, part, new.version).await?;
    let ticket = crate::table::ticket::find(&mut *tx, part.ticket_id).await?;
    let policy = crate::table::policy::of_ticket(&mut *tx, &ticket).await?;
    if let Some(wanted) = wanted(&loaded.tray, lying, ticket.class()) {
        let pieces = offered_pieces(&new.pieces, &lots);
        let going = GoingIn {
            offered: &offered,
            words: &row.description,
            pieces: &pieces,
            test: &row.test,
            despite: &row.despite,
        };
        let types = app.types.within(&mut *tx).await?;
        // A reason that was not needed is none.
        if !allowed(&wanted, &going, &policy, types.devices()).map_err(objection)? {
            row.despite = String::new();
        }
    } else if row.despite.is_empty() {
        let why = format!(
            "nothing is known of {}: read its marking or say what the sheet has first, or say why this goes in all the \
             same",
            part.name
        );
        return Err(ApiError::field("despite", why));
    }
    let together: Vec<&str> = stage(&loaded.tray, lying).map(|p| p.name.as_str()).collect();
    let over = crate::change::may_begin(&mut *tx, part.ticket_id, new.key, &new.over_open, &together).await?;
    let taken = take(&mut *tx, &new.pieces, &lots, row.measured).await?;
    let begins = Begins {
        id: row.id,
        ticket_id: part.ticket_id,
        kind: ChangeKind::Part,
        what: &format!("{}: {}", part.name, row.description),
        part_id: Some(part.id),
        undoes: None,
        over_open: &over,
        stage: key(&loaded.tray, lying).map(uuid),
    };
    crate::table::change::insert(&mut *tx, begins).await?;
    if crate::table::fitting::insert(&mut *tx, &row).await? {
        crate::table::fitting::insert_pieces(&mut *tx, row.id, &taken).await?;
    }
    Ok(())
}

fn objection(o: Objection) -> ApiError {
    match o {
        Objection::Test { why, field } => ApiError::field(field, why),
        Objection::Refused(_) => ApiError::field("description", o),
        Objection::Short(_) | Objection::Unknown(_) => ApiError::field("despite", o),
        Objection::Nothing(e) => crate::substitute::refused(e),
    }
}

/// The pieces as the core looks at them, in their order.
fn offered_pieces(pieces: &[NewPiece], lots: &BTreeMap<Uuid, Taken>) -> Vec<OfferedPiece> {
    let of = |p: &NewPiece| match p.lot.and_then(|id| lots.get(&id)) {
        Some(taken) => OfferedPiece::Lot(Box::new(taken.lot.clone())),
        None => OfferedPiece::Bought(p.description.clone()),
    };
    pieces.iter().map(of).collect()
}

/// The lots of a fitting's pieces, held in the order of their ids so that two benches never wait for each other.
async fn lots(tx: &mut sqlx::PgConnection, pieces: &[NewPiece]) -> Result<BTreeMap<Uuid, Taken>, ApiError> {
    let mut counts: BTreeMap<Uuid, u32> = BTreeMap::new();
    for id in pieces.iter().filter_map(|p| p.lot) {
        *counts.entry(id).or_default() += 1;
    }
    let mut out = BTreeMap::new();
    for (id, count) in counts {
        let lot = match drawers::lock(&mut *tx, id).await {
            Ok(row) => row.lot()?,
            Err(StoreError::Gone(_)) => {
                let detail = "a drawer that was chosen is gone; look again what there is".to_owned();
                return Err(ApiError::Conflict { detail, changed: vec![] });
            }
            Err(e) => return Err(e.into()),
        };
        out.insert(id, Taken { lot, count });
    }
    Ok(out)
}

/// Takes the pieces out of their drawers.
async fn take(
    tx: &mut sqlx::PgConnection,
    pieces: &[NewPiece],
    lots: &BTreeMap<Uuid, Taken>,
    measured: Option<f64>,
) -> Result<Vec<PieceRow>, ApiError> {
    let mut out = Vec::new();
    for (id, Taken { lot, count }) in lots {
        let count = i32::try_from(*count).unwrap_or(i32::MAX);
        if !drawers::take(&mut *tx, *id, count, measured).await? {
            let there = match lot.count {
                0 => "is empty now: somebody was faster".to_owned(),
                n => format!("holds {n} now, and {count} are needed"),
            };
            let place = if lot.place.is_empty() { "the drawer" } else { lot.place.as_str() };
            let detail = format!("{place} {there}");
            return Err(ApiError::Conflict { detail, changed: vec![] });
        }
        out.push(PieceRow {
            lot_id: Some(*id),
            count,
            description: lot.piece.to_string().chars().take(200).collect(),
            lies_in: lot.place.clone(),
        });
    }
    for p in pieces.iter().filter(|p| p.lot.is_none()) {
        let description = checked_text("pieces", &p.description, 200)?;
        if !description.is_empty() {
            out.push(PieceRow { lot_id: None, count: 1, description, lies_in: String::new() });
        }
    }
    Ok(out)
}

/// Records the proof of a fitting, and with it of all that was fitted in its stage: a stage is proven as one.
///
/// # Errors
/// 404, 409 when it was proven to work already, 422 with the input to blame.
#[utoipa::path(post, path = "/api/fittings/{id}/proof", tag = "parts", params(("id" = Uuid, Path)),
    request_body = NewProof, responses(
    (status = 201, body = Written),
    (status = 404, body = Problem), (status = 409, body = Problem)))]
pub async fn prove(
    State(app): State<App>,
    Id(id): Id,
    Body(new): Body<NewProof>,
) -> Result<(StatusCode, Json<Written>), ApiError> {
    let (outcome, seen) = proof_said(new.outcome, &new.seen)?;
    let checks = new
        .checks
        .iter()
        .enumerate()
        .map(|(i, c)| {
            owl_core::transistor::after::checked(c.check, &c.found)
                .map_err(|e| ApiError::field(format!("checks[{i}].found"), e))
        })
        .collect::<Result<Vec<String>, _>>()?;
    let mut tx = app.begin().await?;
    let part_id = crate::table::fitting::find(&mut tx, id).await?.part_id;
    let around = load::around(&mut tx, part_id).await?;
    let together = to_prove(&around.tray, around.part(part_id)?);
    crate::table::part::lock_all(&mut tx, together.iter().map(|p| uuid(p.id)).chain([part_id])).await?;
    let new_proof = !crate::table::fitting::proven_under(&mut tx, new.key, id).await?;
    if new_proof {
        let part = around.row(part_id)?;
        let what = format!("{}: {outcome}, {seen}", part.name);
        crate::table::deed::begin(&mut tx, part.ticket_id, Some(part_id), &what).await?;
        let loaded = load::around(&mut tx, part_id).await?;
        may_prove(loaded.part(part_id)?, crate::tray::id(id)).map_err(held)?;
        crate::table::fitting::prove(&mut tx, new.key, id, outcome, &seen, &checks).await?;
        for other in to_prove(&loaded.tray, loaded.part(part_id)?) {
            prove_beside(&mut tx, other, id, outcome, &seen).await?;
        }
    }
    let answer = written(&mut tx, part_id, new_proof).await?;
    tx.commit().await?;
    Ok((StatusCode::CREATED, Json(answer)))
}

/// Proves what was fitted for another part of the same stage.
async fn prove_beside(
    tx: &mut sqlx::PgConnection,
    other: &owl_core::tray::TrayPart,
    first: Uuid,
    outcome: ProofOutcome,
    seen: &str,
) -> Result<(), ApiError> {
    let Some(fitting) = other.fitting().map(|f| uuid(f.id)).filter(|f| *f != first) else { return Ok(()) };
    crate::table::fitting::prove(&mut *tx, Uuid::now_v7(), fitting, outcome, seen, &[]).await?;
    touched(&mut *tx, uuid(other.id)).await?;
    Ok(())
}

/// Undoes a fitting: its pieces go back into their drawers.
///
/// # Errors
/// 404, 409 when it was proven to work, was followed by another, or was undone already.
#[utoipa::path(post, path = "/api/fittings/{id}/withdrawal", tag = "parts", params(("id" = Uuid, Path)),
    request_body = NewWithdrawal, responses(
    (status = 201, body = Written),
    (status = 404, body = Problem), (status = 409, body = Problem)))]
pub async fn withdraw(
    State(app): State<App>,
    Id(id): Id,
    Body(new): Body<NewWithdrawal>,
) -> Result<(StatusCode, Json<Written>), ApiError> {
    let why = checked_text("why", &new.why, 400)?;
    let mut tx = app.begin().await?;
    let part_id = crate::table::fitting::find(&mut tx, id).await?.part_id;
    let part = crate::table::part::lock(&mut tx, part_id).await?;
    crate::table::change::hold_ticket(&mut tx, part.ticket_id).await?;
    let past = crate::table::fitting::find(&mut tx, id).await?;
    let mut undone = false;
    match past.withdrawal {
        Some(key) if key == new.key => {}
        Some(_) => return Err(held(Held::UndoneAlready)),
        None => {
            let loaded = load::around(&mut tx, part.id).await?;
            may_undo(loaded.part(part_id)?, crate::tray::id(id)).map_err(held)?;
            let what = format!("{}: what was fitted taken out again", part.name);
            crate::table::deed::begin(&mut tx, part.ticket_id, Some(part_id), &what).await?;
            crate::table::fitting::withdraw(&mut tx, new.key, id, &why).await?;
            let what = crate::table::change::find(&mut tx, id).await?.what;
            crate::change::take_back(&mut tx, part.ticket_id, new.key, id, Some(part_id), &what, &why)
                .await?;
            for (lot, count) in crate::table::fitting::pieces(&mut tx, id).await? {
                drawers::give_back(&mut tx, lot, count, past.measured).await?;
            }
            undone = true;
        }
    }
    let answer = written(&mut tx, part_id, undone).await?;
    tx.commit().await?;
    Ok((StatusCode::CREATED, Json(answer)))
}

fn held(why: Held) -> ApiError {
    ApiError::Conflict { detail: why.to_string(), changed: vec![] }
}
