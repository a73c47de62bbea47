//! Parts on the tray: their three values, their place, and what changes on them.

pub mod store;
pub mod view;
pub mod wire;

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use owl_core::marking::{Hints, Meaning, read_colours, read_text};
use owl_core::named::Named;
use owl_core::part::Family;
use owl_core::quantity::{Ohm, Watt};
use uuid::Uuid;

use self::store::PartRow;
use self::view::part_views;
use self::wire::{NewPart, PartChange, PartView};
use crate::body::{Body, Id};
use crate::error::{ApiError, Changed, Problem};
use crate::name::{FamilyName, Name};
use crate::router::App;
use crate::ticket::{checked_text, policy};

/// Puts a part on the tray.
///
/// # Errors
/// 404, 409 when the name is taken, 422 with the input to blame.
#[utoipa::path(post, path = "/api/tickets/{id}/parts", operation_id = "add_part", tag = "parts", params(("id" = Uuid, Path)),
    request_body = NewPart, responses(
    (status = 201, body = PartView),
    (status = 404, body = Problem), (status = 409, body = Problem)))]
pub async fn add(
    State(app): State<App>,
    Id(ticket_id): Id,
    Body(new): Body<NewPart>,
) -> Result<(StatusCode, Json<PartView>), ApiError> {
    let mut tx = app.pool.begin().await?;
    crate::ticket::store::find(&mut *tx, ticket_id).await?;
    let id = new.id.unwrap_or_else(Uuid::now_v7);
    let mut row = PartRow::new(id, ticket_id, &checked_name(&new.name)?);
    row.family = new.family.map_or(Family::CarbonComposition, |f| f.0).name().to_owned();
    if let Some(marking) = &new.marking {
        take_marking(&mut row, marking, 0)?;
    }
    store::insert(&mut tx, &row).await?;
    tx.commit().await?;
    Ok((StatusCode::CREATED, Json(view(&app, id).await?)))
}

/// A part with everything that is known of it.
///
/// # Errors
/// 404.
#[utoipa::path(get, path = "/api/parts/{id}", operation_id = "read_part", tag = "parts", params(("id" = Uuid, Path)), responses(
    (status = 200, body = PartView), (status = 404, body = Problem)))]
pub async fn read(State(app): State<App>, Id(id): Id) -> Result<Json<PartView>, ApiError> {
    Ok(Json(view(&app, id).await?))
}

/// Changes a part that has not been changed by someone else since `version`.
///
/// # Errors
/// 404, 409 with what changed, 422 with the input to blame.
#[utoipa::path(patch, path = "/api/parts/{id}", operation_id = "change_part", tag = "parts", params(("id" = Uuid, Path)),
    request_body = PartChange, responses(
    (status = 200, body = PartView),
    (status = 404, body = Problem), (status = 409, body = Problem)))]
pub async fn change(
    State(app): State<App>,
    Id(id): Id,
    Body(change): Body<PartChange>,
) -> Result<Json<PartView>, ApiError> {
    let mut tx = app.pool.begin().await?;
    let mut row = store::lock(&mut tx, id).await?;
    unchanged_since(&mut tx, &row, change.version).await?;
    if let Some(marking) = &change.marking {
        take_marking(&mut row, marking, change.reading.unwrap_or(0))?;
    }
    if let Some(colours) = &change.colours {
        let list = crate::decode::colours(colours).map_err(|e| ApiError::field("colours", e))?;
        let meanings = read_colours(&list, Hints::default()).map_err(|e| ApiError::field("colours", e))?;
        set_mark(&mut row, &meanings, change.reading.unwrap_or(0), &colours.join(" "))?;
    }
    if let Some(sheet) = &change.sheet {
        row.sheet_ohm = optional_ohm("sheet", sheet)?.map(Ohm::ohms);
    }
    if let Some(watts) = &change.watts {
        row.watts = optional_watts(watts)?.map(Watt::watts);
    }
    if let Some(family) = change.family {
        row.family = family.0.name().to_owned();
    }
    if let Some(position) = change.position {
        row.position = position.map(|p| p.0.name().to_owned());
    }
    if let Some(place) = &change.place {
        row.place = checked_text("place", place, 120)?;
    }
    if let Some(note) = &change.note {
        row.note = checked_text("note", note, 2000)?;
    }
    store::update(&mut tx, &row).await?;
    if let Some(pair) = &change.pair {
        pair_up(&mut tx, &row, pair).await?;
    }
    tx.commit().await?;
    Ok(Json(view(&app, id).await?))
}

/// Refuses a change that was made with an older version in view.
pub async fn unchanged_since(
    db: &mut sqlx::PgConnection,
    row: &PartRow,
    version: i32,
) -> Result<(), ApiError> {
    if row.version == version {
        return Ok(());
    }
    Err(conflict(&row.name, store::changed_since(db, row.id, version).await?))
}

/// The error for a change that came too late.
#[must_use]
pub fn conflict(what: &str, changed: Vec<Changed>) -> ApiError {
    ApiError::Conflict {
        detail: format!(
            "{what} was changed in another window since you saw it; look at it, then do it again"
        ),
        changed,
    }
}

/// Makes two parts halves of a pair, or parts them (`""`).
pub async fn pair_up(db: &mut sqlx::PgConnection, row: &PartRow, partner: &str) -> Result<(), ApiError> {
    store::unpair(db, row.id).await?;
    let partner = partner.trim().to_ascii_uppercase();
    if partner.is_empty() {
        return Ok(());
    }
    let other = store::by_name(db, row.ticket_id, &partner).await?.filter(|o| o.id != row.id);
    let other = other.ok_or_else(|| {
        ApiError::field("pair", format!("there is no {partner} on the tray to pair {} with", row.name))
    })?;
    store::unpair(db, other.id).await?;
    store::pair(db, row.id, other.id).await
}

fn checked_name(name: &str) -> Result<String, ApiError> {
    let name = name.trim().to_ascii_uppercase();
    let refuse = |why: &str| Err(ApiError::field("name", why));
    let digits = name.trim_start_matches(|c: char| c.is_ascii_alphabetic());
    if name.is_empty() {
        return refuse("a part needs its name from the sheet, such as R14");
    }
    let number = digits.trim_end_matches(|c: char| c.is_ascii_alphabetic());
    let shape = name.starts_with('R')
        && (1..=2).contains(&(name.len() - digits.len()))
        && (1..=4).contains(&number.len())
        && number.chars().all(|c| c.is_ascii_digit())
        && digits.len() - number.len() <= 1;
    if shape { Ok(name) } else { refuse("a resistor is called R and a number, such as R14 or R101A") }
}

fn take_marking(row: &mut PartRow, marking: &str, choice: usize) -> Result<(), ApiError> {
    if marking.trim().is_empty() {
        row.marked_ohm = None;
        row.tolerance = None;
        row.marking = String::new();
        row.colours = vec![];
        return Ok(());
    }
    let meanings = read_text(marking, Hints::default()).map_err(|e| ApiError::field("marking", e))?;
    set_mark(row, &meanings, choice, marking)
}

fn set_mark(row: &mut PartRow, meanings: &[Meaning], choice: usize, marking: &str) -> Result<(), ApiError> {
    let m =
        meanings.get(choice).ok_or_else(|| ApiError::field("reading", "the marking has no such reading"))?;
    row.set_mark(m.value, m.tolerance, &m.colours);
    row.watts = m.power.map(Watt::watts).or(row.watts);
    row.marking = marking.replace('\0', "").trim().chars().take(200).collect();
    Ok(())
}

fn optional_ohm(field: &str, text: &str) -> Result<Option<Ohm>, ApiError> {
    if text.trim().is_empty() {
        return Ok(None);
    }
    let value: Ohm = text.parse().map_err(|e| ApiError::field(field, e))?;
    if value == Ohm::ZERO {
        Err(ApiError::field(field, "a value above zero is needed"))
    } else {
        Ok(Some(value))
    }
}

fn optional_watts(text: &str) -> Result<Option<Watt>, ApiError> {
    if text.trim().is_empty() {
        return Ok(None);
    }
    let value: Watt = text.parse().map_err(|e| ApiError::field("watts", e))?;
    if value == Watt::ZERO {
        Err(ApiError::field("watts", "watts above zero are needed"))
    } else {
        Ok(Some(value))
    }
}

/// One part as it is sent.
pub async fn view(app: &App, id: Uuid) -> Result<PartView, ApiError> {
    let mut tx = app.pool.begin_with("begin isolation level repeatable read read only").await?;
    view_in(&mut tx, id).await
}

/// One part as it is sent, in the transaction that is open.
pub async fn view_in(db: &mut sqlx::PgConnection, id: Uuid) -> Result<PartView, ApiError> {
    let row = store::find(&mut *db, id).await?;
    let ticket = crate::ticket::store::find(&mut *db, row.ticket_id).await?;
    // The whole tray, because a pair is judged together.
    let tray = store::tray(db, row.ticket_id).await?;
    let views = part_views(&tray, policy(&ticket)?)?;
    views.into_iter().find(|v| v.id == id).ok_or_else(|| ApiError::no_such("part"))
}

/// A family by its stored name, as sent.
pub fn family(row: &PartRow) -> Result<FamilyName, ApiError> {
    crate::name::stored(&row.family).map(Name)
}
