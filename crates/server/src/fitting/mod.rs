//! Fittings: what went in and what it measured; their proof; and how they are undone. What comes from a drawer is
//! taken out of it in the same transaction.

pub mod entry;
pub mod store;
pub mod wire;

use std::collections::BTreeMap;

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use owl_core::change::ChangeKind;
use owl_core::drawers::Lot;
use owl_core::drawers::stock_test::passed;
use owl_core::marking::SafetyClass;
use owl_core::named::Named;
use owl_core::part::Position;
use owl_core::transistor::Device;
use uuid::Uuid;

use self::entry::{fitting_row, piece_of};
use self::store::{FittingRow, PieceRow};
use self::wire::{NewFitting, NewPiece, NewProof, NewWithdrawal};
use crate::body::{Body, Id};
use crate::change::store::Begins;
use crate::drawers::store as drawers;
use crate::error::{ApiError, Problem};
use crate::part::store::PartRow;
use crate::part::wire::PartView;
use crate::router::App;
use crate::substitute::need::Wanted;
use crate::ticket::checked_text;

/// The most pieces of a fitting.
const MOST_PIECES: usize = 20;

/// Records what was fitted in a part's place, and takes it out of its drawers.
///
/// # Errors
/// 404, 409 when something changed since it was seen or a drawer is empty, 422 with the input to blame.
#[utoipa::path(post, path = "/api/parts/{id}/fittings", tag = "parts", params(("id" = Uuid, Path)),
    request_body = NewFitting, responses(
    (status = 201, body = PartView),
    (status = 404, body = Problem), (status = 409, body = Problem)))]
pub async fn fit(
    State(app): State<App>,
    Id(part_id): Id,
    Body(new): Body<NewFitting>,
) -> Result<(StatusCode, Json<PartView>), ApiError> {
    if new.pieces.len() > MOST_PIECES {
        return Err(ApiError::field("pieces", format!("at most {MOST_PIECES} pieces")));
    }
    let mut tx = app.pool.begin().await?;
    let part = crate::part::store::lock(&mut tx, part_id).await?;
    let mut row = fitting_row(part_id, part.kind()?, &new)?;
    if !store::known(&mut tx, new.key).await? {
        crate::part::unchanged_since(&mut tx, &part, new.version).await?;
        let lots = lots(&mut tx, &new.pieces).await?;
        row.safety = names_a_class(&row.description) || lots.values().any(|l| l.lot.piece.safety.is_some());
        let types = app.types.all(&app.pool).await?;
        allowed(&mut tx, &part, &row, &lots, types.devices(), new.confirmed).await?;
        let over = crate::change::may_begin(&mut tx, part.ticket_id, new.key, &new.over_open).await?;
        let taken = take(&mut tx, &new.pieces, &lots, row.measured).await?;
        let begins = Begins {
            id: row.id,
            ticket_id: part.ticket_id,
            kind: ChangeKind::Part.name(),
            what: &format!("{}: {}", part.name, row.description),
            part_id: Some(part_id),
            undoes: None,
            over_open: &over,
        };
        crate::change::store::insert(&mut tx, begins).await?;
        if store::insert(&mut tx, &row).await? {
            store::insert_pieces(&mut tx, row.id, &taken).await?;
            crate::part::store::touch(&mut tx, part_id).await?;
        }
    }
    tx.commit().await?;
    Ok((StatusCode::CREATED, Json(crate::part::view(&app, part_id).await?)))
}

/// A lot of which pieces are wanted.
struct Wants {
    lot: Lot,
    count: i32,
}

/// The lots of a fitting's pieces, held in the order of their ids so that two benches never wait for each other.
async fn lots(tx: &mut sqlx::PgConnection, pieces: &[NewPiece]) -> Result<BTreeMap<Uuid, Wants>, ApiError> {
    let mut counts: BTreeMap<Uuid, i32> = BTreeMap::new();
    for id in pieces.iter().filter_map(|p| p.lot) {
        *counts.entry(id).or_default() += 1;
    }
    let mut out = BTreeMap::new();
    for (id, count) in counts {
        let lot = match drawers::lock(&mut *tx, id).await {
            Ok(row) => row.lot()?,
            Err(ApiError::NotFound(_)) => {
                let detail = "a drawer that was chosen is gone; look again what there is".to_owned();
                return Err(ApiError::Conflict { detail, changed: vec![] });
            }
            Err(e) => return Err(e),
        };
        out.insert(id, Wants { lot, count });
    }
    Ok(out)
}

/// What must be so before a piece of the drawers goes in: old stock was tested; what the rules refuse is asked about,
/// and where it protects people it is not taken at all.
async fn allowed(
    tx: &mut sqlx::PgConnection,
    part: &PartRow,
    row: &FittingRow,
    lots: &BTreeMap<Uuid, Wants>,
    types: &[Device],
    confirmed: bool,
) -> Result<(), ApiError> {
    let position: Option<Position> = part.position.as_deref().map(crate::name::stored).transpose()?;
    let protects = position.is_some_and(Position::protects_people);
    if lots.is_empty() {
        if protects && !row.safety && !confirmed {
            let question = "a part there protects people: is it of a class made for the line, X2 or Y2? \
                            Then say so; local electrical codes come first"
                .to_owned();
            return Err(ApiError::Ask { question, field: "description".to_owned() });
        }
        return Ok(());
    }
    if protects && let Some(w) = lots.values().find(|w| w.lot.piece.safety.is_none()) {
        let why = format!("{} does not go in: a part there protects people, class X or Y only", w.lot.piece);
        return Err(ApiError::field("description", why));
    }
    let ticket = crate::ticket::store::find(&mut *tx, part.ticket_id).await?;
    let policy = crate::policy::store::of_ticket(&mut *tx, &ticket).await?;
    let tray = crate::part::store::tray(&mut *tx, part.ticket_id).await?;
    let wanted = Wanted::of_part(part, &tray, &ticket.class)?;
    for Wants { lot, .. } in lots.values().filter(|w| w.lot.condition.needs_test()) {
        let piece = piece_of(row, &lot.piece);
        passed(&piece, row.measured, wanted.position(), wanted.circuit(), &policy, &row.test).map_err(
            |e| {
                let field =
                    if piece.kind == owl_core::part::PartKind::Resistor { "measured" } else { "test" };
                ApiError::field(field, e)
            },
        )?;
    }
    // A single piece is what the rules speak of; of several only the whole is.
    if let (1, Some(Wants { lot, count: 1 })) = (lots.len(), lots.values().next()) {
        let lot = Lot { count: lot.count.max(1), ..lot.clone() };
        let found =
            wanted.choose(&policy, std::slice::from_ref(&lot), types).map_err(crate::substitute::refused)?;
        let refused = found.refused.iter().find(|r| r.lot == Some(0));
        let takes = found.choices.iter().any(|c| c.pieces.iter().any(|p| p.lot == Some(0)));
        if let (Some(r), false) = (refused, takes) {
            if protects {
                return Err(ApiError::field("description", format!("this does not go in: {}", r.because)));
            }
            if !confirmed {
                let question = format!("the rules refuse it: {}. Fit it all the same?", r.because);
                return Err(ApiError::Ask { question, field: "description".to_owned() });
            }
        }
    }
    Ok(())
}

/// Whether a description says that the part is of a class made for the line.
fn names_a_class(description: &str) -> bool {
    let words = description.split(|c: char| !c.is_ascii_alphanumeric());
    words.into_iter().any(|w| SafetyClass::from_name(w).is_ok())
}

/// Takes the pieces out of their drawers.
async fn take(
    tx: &mut sqlx::PgConnection,
    pieces: &[NewPiece],
    lots: &BTreeMap<Uuid, Wants>,
    measured: Option<f64>,
) -> Result<Vec<PieceRow>, ApiError> {
    let mut out = Vec::new();
    for (id, Wants { lot, count }) in lots {
        if !drawers::take(&mut *tx, *id, *count, measured).await? {
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
            count: *count,
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

/// Records the proof of a fitting.
///
/// # Errors
/// 404, 409 when it was proven already, 422 with the input to blame.
#[utoipa::path(post, path = "/api/fittings/{id}/proof", tag = "parts", params(("id" = Uuid, Path)),
    request_body = NewProof, responses(
    (status = 201, body = PartView),
    (status = 404, body = Problem), (status = 409, body = Problem)))]
pub async fn prove(
    State(app): State<App>,
    Id(id): Id,
    Body(new): Body<NewProof>,
) -> Result<(StatusCode, Json<PartView>), ApiError> {
    let seen = checked_text("seen", &new.seen, 2000)?;
    if seen.is_empty() {
        return Err(ApiError::field(
            "seen",
            "say what you saw or heard: volts, sound, smell, how warm it is",
        ));
    }
    let checks = new
        .checks
        .iter()
        .enumerate()
        .map(|(i, c)| {
            owl_core::transistor::after::checked(c.check.0, &c.found)
                .map_err(|e| ApiError::field(format!("checks[{i}].found"), e))
        })
        .collect::<Result<Vec<String>, _>>()?;
    let mut tx = app.pool.begin().await?;
    let part_id = store::find(&mut tx, id).await?.part_id;
    crate::part::store::lock(&mut tx, part_id).await?;
    let past = store::find(&mut tx, id).await?;
    match past.proof {
        Some(key) if key == new.key => {}
        Some(_) => return Err(conflict("this fitting was proven already")),
        None if past.withdrawal.is_some() => return Err(conflict("this fitting was undone")),
        None => {
            store::prove(&mut tx, new.key, id, new.worked, &seen, &checks).await?;
            crate::part::store::touch(&mut tx, part_id).await?;
        }
    }
    tx.commit().await?;
    Ok((StatusCode::CREATED, Json(crate::part::view(&app, part_id).await?)))
}

/// Undoes a fitting: its pieces go back into their drawers.
///
/// # Errors
/// 404, 409 when it was proven to work, was followed by another, or was undone already.
#[utoipa::path(post, path = "/api/fittings/{id}/withdrawal", tag = "parts", params(("id" = Uuid, Path)),
    request_body = NewWithdrawal, responses(
    (status = 201, body = PartView),
    (status = 404, body = Problem), (status = 409, body = Problem)))]
pub async fn withdraw(
    State(app): State<App>,
    Id(id): Id,
    Body(new): Body<NewWithdrawal>,
) -> Result<(StatusCode, Json<PartView>), ApiError> {
    let why = checked_text("why", &new.why, 400)?;
    let mut tx = app.pool.begin().await?;
    let part_id = store::find(&mut tx, id).await?.part_id;
    let part = crate::part::store::lock(&mut tx, part_id).await?;
    crate::change::store::hold_ticket(&mut tx, part.ticket_id).await?;
    let past = store::find(&mut tx, id).await?;
    match past.withdrawal {
        Some(key) if key == new.key => {}
        Some(_) => return Err(conflict("this fitting was undone already")),
        None if past.worked == Some(true) => {
            return Err(conflict("this fitting was proven to work: what goes in now is another change"));
        }
        None if store::followed(&mut tx, id).await? => {
            return Err(conflict("something else was fitted there since: undo that first"));
        }
        None => {
            store::withdraw(&mut tx, new.key, id, &why).await?;
            let what = crate::change::store::find(&mut tx, id).await?.what;
            crate::change::take_back(&mut tx, part.ticket_id, new.key, id, Some(part_id), &what, &why)
                .await?;
            for (lot, count) in store::pieces(&mut tx, id).await? {
                drawers::give_back(&mut tx, lot, count, past.measured).await?;
            }
            crate::part::store::touch(&mut tx, part_id).await?;
        }
    }
    tx.commit().await?;
    Ok((StatusCode::CREATED, Json(crate::part::view(&app, part_id).await?)))
}

fn conflict(detail: &str) -> ApiError {
    ApiError::Conflict { detail: detail.to_owned(), changed: vec![] }
}
