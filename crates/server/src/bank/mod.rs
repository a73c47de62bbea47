//! The banks of a ticket: parts in series that share the volts, put together, judged as a set, and let go as one.

mod typed;
pub mod wire;

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use owl_core::bank::BankKind;
use owl_core::named::Named;
use owl_core::quantity::Quantity;
use owl_core::stored::Stored;
use owl_core::tray::bank::{Bank, judged_bank, volts_of_the_set};
use owl_core::tray::status::{goes, to_do};
use owl_core::tray::verdict::judged;
use owl_core::tray::{Id as PartId, Tray};
use owl_core::verdict::{Outcome, Policy, StoredReason};
use sqlx::PgConnection;
use time::OffsetDateTime;
use uuid::Uuid;

use self::typed::{legs, put_together};
use self::wire::{AllGo, BankBody, BankSuggestion, BankView, BanksView};
use crate::amount::Amount;
use crate::app::App;
use crate::body::{Body, Id};
use crate::error::{ApiError, Problem};
use crate::table::bank::BankRow;
use crate::table::decision::DecisionRow;
use crate::table::deed::begin;
use crate::table::ticket::TicketRow;
use crate::tray::load::{Loaded, of_ticket};
use crate::tray::{conflict, id, uuid};

/// The banks of a ticket, each judged as a set.
///
/// # Errors
/// 404.
#[utoipa::path(get, path = "/api/tickets/{id}/banks", operation_id = "list_banks", tag = "parts", params(("id" = Uuid, Path)), responses(
    (status = 200, body = BanksView), (status = 404, body = Problem)))]
pub async fn list(State(app): State<App>, Id(id): Id) -> Result<Json<BanksView>, ApiError> {
    let mut tx = app.db.snapshot().await?;
    Ok(Json(view(&mut tx, id).await?))
}

/// Puts a bank together, or the legs of a bridge in one go, or puts one together anew: its members and the resistors across
/// them, which are put on the tray where they do not lie there.
///
/// # Errors
/// 404, 409 when it was put together anew in the meantime, 422 with the input to blame.
#[utoipa::path(put, path = "/api/tickets/{id}/banks", operation_id = "put_bank", tag = "parts", params(("id" = Uuid, Path)),
    request_body = BankBody, responses(
    (status = 200, body = BanksView), (status = 404, body = Problem), (status = 409, body = Problem)))]
pub async fn put(
    State(app): State<App>,
    Id(ticket_id): Id,
    Body(body): Body<BankBody>,
) -> Result<Json<BanksView>, ApiError> {
    let mut tx = app.begin().await?;
    crate::table::change::hold_ticket(&mut tx, ticket_id).await?;
    let loaded = of_ticket(&mut tx, ticket_id).await?;
    begin(&mut tx, ticket_id, None, &format!("{} put together", body.name.trim())).await?;
    for leg in legs(&body)? {
        let (row, members) = put_together(&mut tx, &loaded.tray, ticket_id, &leg).await?;
        crate::table::bank::put(&mut tx, &row, leg.version, &members).await?;
    }
    let answer = view(&mut tx, ticket_id).await?;
    tx.commit().await?;
    Ok(Json(answer))
}

/// Takes a bank away; its parts stay on the tray.
///
/// # Errors
/// 404.
#[utoipa::path(delete, path = "/api/banks/{id}", operation_id = "remove_bank", tag = "parts", params(("id" = Uuid, Path)), responses(
    (status = 200, body = BanksView), (status = 404, body = Problem)))]
pub async fn remove(State(app): State<App>, Id(bank_id): Id) -> Result<Json<BanksView>, ApiError> {
    let mut tx = app.begin().await?;
    let ticket = crate::table::bank::ticket_of(&mut *tx, bank_id).await?;
    begin(&mut tx, ticket, None, "a bank taken apart").await?;
    crate::table::bank::remove(&mut tx, bank_id).await?;
    let answer = view(&mut tx, ticket).await?;
    tx.commit().await?;
    Ok(Json(answer))
}

/// Decides that all members of a bank go, those that are not out yet: one decision for each, in one go.
///
/// # Errors
/// 404, 409 when it was put together anew in the meantime, 422 where none is left to go.
#[utoipa::path(post, path = "/api/banks/{id}/go", operation_id = "bank_goes", tag = "parts", params(("id" = Uuid, Path)),
    request_body = AllGo, responses(
    (status = 201, body = BanksView), (status = 404, body = Problem), (status = 409, body = Problem)))]
pub async fn all_go(
    State(app): State<App>,
    Id(bank_id): Id,
    Body(new): Body<AllGo>,
) -> Result<(StatusCode, Json<BanksView>), ApiError> {
    let mut tx = app.begin().await?;
    let ticket_id = crate::table::bank::ticket_of(&mut *tx, bank_id).await?;
    crate::table::change::hold_ticket(&mut tx, ticket_id).await?;
    let (rows, _) = crate::table::bank::of_ticket(&mut tx, ticket_id).await?;
    let row = rows.iter().find(|b| b.id == bank_id).ok_or_else(|| ApiError::no_such("bank"))?;
    if row.version != new.version {
        return Err(conflict(&row.name, vec![]));
    }
    let ticket = crate::table::ticket::find(&mut *tx, ticket_id).await?;
    let policy = crate::table::policy::of_ticket(&mut *tx, &ticket).await?;
    let loaded = of_ticket(&mut tx, ticket_id).await?;
    let bank = bank_in(&loaded.tray, bank_id)?;
    begin(&mut tx, ticket_id, None, &format!("{} goes as a whole", row.name)).await?;
    let left: Vec<PartId> = bank.members.iter().map(|m| m.part).filter(|m| stays(&loaded.tray, *m)).collect();
    let mut known = false;
    for member in &bank.members {
        known |=
            crate::table::decision::known(&mut tx, key_of(new.key, uuid(member.part)), uuid(member.part))
                .await?;
    }
    if left.is_empty() && !known {
        return Err(ApiError::field("key", format!("all of {} go already, or are out", bank.name)));
    }
    crate::table::part::lock_all(&mut tx, left.iter().copied().map(uuid)).await?;
    for member in &left {
        decide(&mut tx, &loaded, *member, bank, &ticket, &policy, new.key).await?;
    }
    let after = of_ticket(&mut tx, ticket_id).await?;
    for member in &left {
        let left = to_do(after.part(uuid(*member))?);
        crate::table::part::touch(&mut tx, uuid(*member), left).await?;
    }
    let answer = view(&mut tx, ticket_id).await?;
    tx.commit().await?;
    Ok((StatusCode::CREATED, Json(answer)))
}

/// Whether nobody has decided yet that a member goes, and nothing has gone in for it.
fn stays(tray: &Tray, member: PartId) -> bool {
    tray.part(member).is_some_and(|p| !goes(p) && p.fitting().is_none())
}

/// The key of one member's decision: sent twice, it is the same.
fn key_of(key: Uuid, part: Uuid) -> Uuid {
    Uuid::from_u128(key.as_u128() ^ part.as_u128())
}

async fn decide(
    db: &mut PgConnection,
    loaded: &Loaded,
    member: PartId,
    bank: &Bank,
    ticket: &TicketRow,
    policy: &Policy,
    key: Uuid,
) -> Result<(), ApiError> {
    let part_id = uuid(member);
    let judged = judged(&loaded.tray, loaded.part(part_id)?, policy);
    let verdict = judged.verdict.as_ref();
    let reasons = verdict.map(|v| v.reasons.iter().map(StoredReason::from).collect()).unwrap_or_default();
    let row = DecisionRow {
        part_id,
        offered: verdict.map_or(Outcome::MeasureAgain, |v| v.call),
        decided: Outcome::Replace,
        why: format!("all of {} goes together", bank.name),
        school: ticket.school,
        tight: ticket.tight,
        policy: policy.copy.clone().unwrap_or_default(),
        reasons: sqlx::types::Json(Stored(reasons)),
        decided_at: OffsetDateTime::UNIX_EPOCH,
    };
    let reading = verdict.and_then(|v| v.decided_by).and_then(|i| *judged.sits.taken.get(i)?).map(uuid);
    crate::table::decision::insert(db, key_of(key, part_id), &row, reading).await?;
    Ok(())
}

fn bank_in(tray: &Tray, bank_id: Uuid) -> Result<&Bank, ApiError> {
    tray.banks().iter().find(|b| b.id == id(bank_id)).ok_or_else(|| ApiError::no_such("bank"))
}

async fn view(db: &mut PgConnection, ticket_id: Uuid) -> Result<BanksView, ApiError> {
    let ticket = crate::table::ticket::find(&mut *db, ticket_id).await?;
    let policy = crate::table::policy::of_ticket(&mut *db, &ticket).await?;
    let (rows, _) = crate::table::bank::of_ticket(&mut *db, ticket_id).await?;
    let loaded = of_ticket(&mut *db, ticket_id).await?;
    let of = |row: &BankRow| {
        let bank = bank_in(&loaded.tray, row.id)?;
        let (places, judged) = judged_bank(&loaded.tray, bank, &policy);
        Ok(BankView::of(row, &loaded, bank, &places, &judged))
    };
    let suggestion = |kind: &BankKind| {
        let volts = volts_of_the_set(*kind, loaded.tray.set(), &policy);
        BankSuggestion {
            kind: *kind,
            letter: kind.member().letters().to_owned(),
            across: kind.is_shared_by_resistors(),
            volts_meaning: kind.volts_in_words().to_owned(),
            volts: volts.map(|v| Amount::rounded(Quantity::Voltage, v.volts(), 3)),
        }
    };
    Ok(BanksView {
        banks: rows.iter().map(of).collect::<Result<_, ApiError>>()?,
        kinds: BankKind::ALL.iter().map(suggestion).collect(),
    })
}
