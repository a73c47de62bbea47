//! Parts on the tray: their three values, their place, and what changes on them.

pub mod describe;
pub mod marking;
pub mod ties;
pub mod wire;

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use owl_core::marking::{Hints, read_text};
use owl_core::part::PartKind;
use owl_core::transistor::place::position_of;
use uuid::Uuid;

use self::describe::{describe, optional_watts, sheet_value};
use self::marking::{set_family, unmark};
use self::ties::{group_with, pair_up};
use self::wire::{MarkChoice, NewPart, PartChange};
use crate::app::App;
use crate::body::{Body, Id};
use crate::error::{ApiError, Problem};
use crate::table::deed::begin;
use crate::table::part::PartRow;
use crate::text::checked_text;
use crate::tray::view::part_in;
use crate::tray::wire::PartView;
use crate::tray::{Written, unchanged_since, written};

/// Puts a part on the tray.
///
/// # Errors
/// 404, 409 when the name is taken, 422 with the input to blame.
#[utoipa::path(post, path = "/api/tickets/{id}/parts", operation_id = "add_part", tag = "parts", params(("id" = Uuid, Path)),
    request_body = NewPart, responses(
    (status = 201, body = Written),
    (status = 404, body = Problem), (status = 409, body = Problem)))]
pub async fn add(
    State(app): State<App>,
    Id(ticket_id): Id,
    Body(new): Body<NewPart>,
) -> Result<(StatusCode, Json<Written>), ApiError> {
    let mut tx = app.begin().await?;
    crate::table::ticket::find(&mut *tx, ticket_id).await?;
    let id = new.id.unwrap_or_else(Uuid::now_v7);
    let mut row = PartRow::new(id, ticket_id, &checked_name(&new.name)?);
    if let Some(family) = new.family {
        set_family(&mut row, family)?;
    }
    if let Some(marking) = &new.marking {
        take_marking(&mut row, marking)?;
    }
    if let Some(mark) = &new.mark {
        accept(&mut row, mark)?;
    }
    begin(&mut tx, ticket_id, Some(id), &format!("{}: put on the tray", row.name)).await?;
    crate::table::part::insert(&mut tx, &row).await?;
    let answer = written(&mut tx, id, false).await?;
    tx.commit().await?;
    Ok((StatusCode::CREATED, Json(answer)))
}

/// A part with everything that is known of it.
///
/// # Errors
/// 404.
#[utoipa::path(get, path = "/api/parts/{id}", operation_id = "read_part", tag = "parts", params(("id" = Uuid, Path)), responses(
    (status = 200, body = PartView), (status = 404, body = Problem)))]
pub async fn read(State(app): State<App>, Id(id): Id) -> Result<Json<PartView>, ApiError> {
    let mut tx = app.db.snapshot().await?;
    Ok(Json(part_in(&mut tx, id).await?))
}

/// Changes a part that has not been changed by someone else since `version`.
///
/// # Errors
/// 404, 409 with what changed, 422 with the input to blame.
#[utoipa::path(patch, path = "/api/parts/{id}", operation_id = "change_part", tag = "parts", params(("id" = Uuid, Path)),
    request_body = PartChange, responses(
    (status = 200, body = Written),
    (status = 404, body = Problem), (status = 409, body = Problem)))]
pub async fn change(
    State(app): State<App>,
    Id(id): Id,
    Body(change): Body<PartChange>,
) -> Result<Json<Written>, ApiError> {
    let mut tx = app.begin().await?;
    if change.says_of_the_set() {
        // The ticket before its part, as everywhere.
        let of = crate::table::part::find(&mut *tx, id).await?.ticket_id;
        crate::table::ticket::lock(&mut tx, of).await?;
    }
    let mut row = crate::table::part::lock(&mut tx, id).await?;
    unchanged_since(&mut tx, &row, change.version).await?;
    begin(&mut tx, row.ticket_id, Some(id), &format!("{}: its facts changed", row.name)).await?;
    let was = row.clone();
    if let Some(marking) = &change.marking {
        take_marking(&mut row, marking)?;
    }
    if let Some(mark) = &change.mark {
        accept(&mut row, mark)?;
    }
    marking::ask_if_remarked(&was, &row, change.confirmed, "marking")?;
    if let Some(sheet) = &change.sheet {
        row.sheet = sheet_value(row.kind, sheet)?;
    }
    if let Some(watts) = &change.watts {
        row.watts = optional_watts(watts)?.map(owl_core::quantity::Watt::watts);
    }
    if let Some(family) = change.family {
        set_family(&mut row, family)?;
    }
    let by_stage = change.stage.map(|s| Some(position_of(s)));
    if let Some(position) = change.position.or(by_stage) {
        row.position = match position {
            Some(p) => Some(crate::judge::sits(p, row.kind)?),
            None => None,
        };
    }
    if let Some(place) = &change.place {
        row.place = checked_text("place", place, 120)?;
    }
    if let Some(note) = &change.note {
        row.note = checked_text("note", note, 2000)?;
    }
    describe(&mut tx, &mut row, &change).await?;
    crate::table::part::update(&mut tx, &row).await?;
    if let Some(pair) = &change.pair {
        pair_up(&mut tx, &row, pair).await?;
    }
    if let Some(group) = change.group.as_deref().filter(|g| !g.trim().is_empty()) {
        group_with(&mut tx, &row, group).await?;
    }
    let answer = written(&mut tx, id, false).await?;
    tx.commit().await?;
    Ok(Json(answer))
}

pub(crate) fn checked_name(name: &str) -> Result<String, ApiError> {
    let name = name.trim().to_ascii_uppercase();
    let refuse = |why: &str| Err(ApiError::field("name", why));
    let digits = name.trim_start_matches(|c: char| c.is_ascii_alphabetic());
    if name.is_empty() {
        return refuse("a part needs its name from the sheet, such as R14");
    }
    let number = digits.trim_end_matches(|c: char| c.is_ascii_alphabetic());
    let shape = PartKind::called(&name).is_some()
        && (1..=2).contains(&(name.len() - digits.len()))
        // T alone is a transformer, I alone nothing.
        && (!name.starts_with(['T', 'I']) || name.starts_with("TR") || name.starts_with("IC"))
        && (1..=4).contains(&number.len())
        && number.chars().all(|c| c.is_ascii_digit())
        && digits.len() - number.len() <= 1;
    if shape {
        Ok(name)
    } else {
        refuse(
            "a part is called R, C, L, D, P, Q or TR, U or IC, V, F, S or K, LS or SP and a number, such as R14, C3, Q5, \
             V2 or R101A",
        )
    }
}

/// The likeliest reading of what was typed; empty takes the mark away.
pub(crate) fn take_marking(row: &mut PartRow, marking: &str) -> Result<(), ApiError> {
    if marking.trim().is_empty() {
        unmark(row);
        return Ok(());
    }
    let meanings = read_text(marking, Hints::of(row.kind)).map_err(|e| ApiError::field("marking", e))?;
    marking::accept(row, &meanings[0], marking)
}

/// The reading that was chosen, found again by asking the same question.
fn accept(row: &mut PartRow, choice: &MarkChoice) -> Result<(), ApiError> {
    let meanings = crate::decode::read(&choice.question)?;
    let m = meanings
        .get(choice.reading)
        .ok_or_else(|| ApiError::field("reading", "the marking has no such reading"))?;
    let typed = match (&choice.question.text, &choice.question.colours) {
        (Some(text), _) => text.clone(),
        (None, Some(colours)) => colours.join(" "),
        (None, None) => String::new(),
    };
    marking::accept(row, m, &typed)
}
