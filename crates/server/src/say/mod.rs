//! The owl line: a sentence is understood while it is typed, and then taken.

mod deed;
pub mod refused;
pub mod set;
mod valve;
pub mod wire;

use axum::Json;
use axum::extract::State;
use owl_core::marking::remark::{Marked, remarked};
use owl_core::quantity::{Fraction, Ohm, Watt};
use owl_core::say::{
    Known, OfValve, Said as SaidOf, SayError, Tray, Understood, ValveSays, of_deed, of_set, of_valve,
    understand_each,
};
use sqlx::PgConnection;
use uuid::Uuid;

use self::wire::{ChipView, MeantView, Said, Say, Understand, Understanding};
use crate::app::App;
use crate::body::{Body, Id};
use crate::error::{ApiError, Problem};
use crate::part::marking::{accept, ask_if_remarked, set_family, set_mark};
use crate::reading::take::{Taking, record};
use crate::table::part::PartRow;
use crate::table::refused_sentence::keep;
use crate::table::sayable::SayRow;
use crate::text::checked_text;
use crate::tray::written;

/// Says how a sentence is understood, and takes nothing.
///
/// # Errors
/// 404; a sentence that is not understood is an answer, not an error.
#[utoipa::path(post, path = "/api/tickets/{id}/understand", tag = "owl line", params(("id" = Uuid, Path)),
    request_body = Understand, responses(
    (status = 200, body = Understanding),
    (status = 404, body = Problem)))]
pub async fn preview(
    State(app): State<App>,
    Id(ticket_id): Id,
    Body(q): Body<Understand>,
) -> Result<Json<Understanding>, ApiError> {
    let mut tx = app.db.snapshot().await?;
    crate::table::ticket::find(&mut *tx, ticket_id).await?;
    if let Some(said) = of_set(&q.text) {
        return Ok(Json(set::shown(said)));
    }
    let (tray, lines) = on_the_bench(&mut tx, ticket_id, q.selected).await?;
    if let Some(said) = of_the_chart(&q.text, &tray) {
        return match said {
            Ok(said) => Ok(Json(valve::preview(&mut tx, ticket_id, &said).await?)),
            Err(e) => Ok(Json(Understanding::refused(&e))),
        };
    }
    if let Some((d, part)) = deed::told(&q.text, &tray, &lines) {
        return Ok(Json(deed::preview(&d, part)));
    }
    let answer = match understand_each(&q.text, &tray) {
        Ok(all) => shown(all, &lines),
        Err(e) => Understanding::refused(&e),
    };
    Ok(Json(answer))
}

/// What was understood, of the first part where it is about several.
fn shown(mut all: Vec<Understood>, lines: &[SayRow]) -> Understanding {
    let also = all.split_off(1);
    let Some(u) = all.pop() else { return Understanding::default() };
    let was = was(&u, &also);
    let question = |u: &Understood| u.doubt.as_ref().map(|d| d.question.clone()).or_else(|| remark(u, lines));
    Understanding {
        part_id: lines.iter().find(|p| p.name == u.name).map(|p| p.id),
        question: question(&u).or_else(|| also.iter().find_map(question)),
        also: also.into_iter().map(|u| u.name).collect(),
        part: Some(u.name),
        in_words: Some(u.in_words),
        pieces: u.chips.iter().map(ChipView::from).collect(),
        was,
        could_also_be: u.could_also_be.iter().map(MeantView::from).collect(),
        which: vec![],
        problem: None,
    }
}

/// What is known and would be another, as it was: of the first part, and of the others by their names.
fn was(first: &Understood, also: &[Understood]) -> Vec<String> {
    let others =
        also.iter().filter(|u| !u.was.is_empty()).map(|u| format!("{}: {}", u.name, u.was.join(", ")));
    first.was.iter().cloned().chain(others).collect()
}

/// Takes a sentence: adds a part, changes its mark, records a reading, or all of it together.
///
/// # Errors
/// 404, 409 when the part was changed since it was seen, 422 in words; 422 with `ask` for a value
/// far off, to be sent again with `confirmed`.
#[utoipa::path(post, path = "/api/tickets/{id}/say", tag = "owl line", params(("id" = Uuid, Path)),
    request_body = Say, responses(
    (status = 200, body = Said),
    (status = 404, body = Problem), (status = 409, body = Problem)))]
pub async fn say(
    State(app): State<App>,
    Id(ticket_id): Id,
    Body(q): Body<Say>,
) -> Result<Json<Said>, ApiError> {
    match taken(&app, ticket_id, &q).await {
        Ok(said) => Ok(Json(said)),
        Err(e) => {
            if let ApiError::Impossible { detail, field: Some(field) } = &e
                && field == "text"
                // What a step refuses was understood.
                && of_deed(&q.text, &Tray::default()).is_none()
            {
                // What the line does not understand it can learn: kept, whatever becomes of the sentence.
                keep(&app.db, ticket_id, &q.text, detail).await?;
            }
            Err(e)
        }
    }
}

/// Takes a sentence: what is done with a part goes the way of its step, all else is described.
async fn taken(app: &App, ticket_id: Uuid, q: &Say) -> Result<Said, ApiError> {
    if let Some(said) = set::take(app, q).await? {
        return Ok(said);
    }
    if let Some(said) = deed::take(app, ticket_id, q).await? {
        return Ok(said);
    }
    let mut tx = app.begin().await?;
    let said = take(&mut tx, ticket_id, q).await?;
    tx.commit().await?;
    Ok(said)
}

/// Takes a sentence in an open transaction.
async fn take(db: &mut PgConnection, ticket_id: Uuid, q: &Say) -> Result<Said, ApiError> {
    // One sentence at a time for a ticket, so that two windows cannot add the same part.
    crate::table::ticket::lock(db, ticket_id).await?;
    let (tray, lines) = on_the_bench(&mut *db, ticket_id, q.selected).await?;
    if let Some(said) = of_the_chart(&q.text, &tray) {
        let said = said.map_err(|e| ApiError::field("text", e))?;
        return valve::take(db, ticket_id, q, &said).await;
    }
    // Sent again because the answer was lost: it is done already.
    if let Some(id) = crate::table::sayable::taken_under(db, q.key).await? {
        let in_words = "taken already".to_owned();
        let written = Some(written(db, id, false).await?);
        return Ok(Said { part_id: Some(id), written, ..Said::of(in_words) });
    }
    let all = understand_each(&q.text, &tray).map_err(|e| ApiError::field("text", e))?;
    if let (Some(d), false) = (all.iter().find_map(|u| u.doubt.as_ref()), q.confirmed) {
        return Err(ApiError::ask(&d.question, "text"));
    }
    // A new part has the sentence's key.
    let of = |u: &Understood| lines.iter().find(|p| p.name == u.name).map_or(q.key, |p| p.id);
    if !all.iter().all(Understood::only_selects) {
        crate::table::deed::begin(db, ticket_id, all.first().map(of), q.text.trim()).await?;
    }
    let mut first = None;
    let mut also = Vec::new();
    for (i, u) in all.iter().enumerate() {
        let (part_id, read) = apply(db, ticket_id, u, q, i).await?;
        match first {
            None => first = Some((part_id, read)),
            Some(_) => also.push(part_id),
        }
    }
    let (Some((part_id, read)), Some(u)) = (first, all.first()) else {
        return Err(ApiError::Internal("a sentence about nothing".to_owned()));
    };
    let names: Vec<&str> = all.iter().map(|u| u.name.as_str()).collect();
    let was = was(u, &all[1..]);
    let was = if was.is_empty() { String::new() } else { format!(" (it was {})", was.join(", ")) };
    let in_words = format!("{}: {}{was}", names.join(", "), u.in_words);
    let written = Some(written(db, part_id, read).await?);
    Ok(Said { part_id: Some(part_id), written, also, ..Said::of(in_words) })
}

/// The question about a mark that is another than the one that was known.
fn remark(u: &Understood, lines: &[SayRow]) -> Option<String> {
    let part = lines.iter().find(|p| p.name == u.name)?;
    let was = Marked { value_si: part.marked, type_number: part.type_number.as_deref() };
    let other = u.other.as_ref().map(|o| &o.meaning);
    let value = u.mark.value.map(Ohm::ohms).or_else(|| Some(other?.value.number()?.1));
    remarked(
        &u.name,
        part.kind,
        was,
        Marked { value_si: value, type_number: other.and_then(|m| m.type_number()) },
    )
}

/// The tray and the chart as far as a sentence can be about them, with the rows of the parts.
async fn on_the_bench(
    db: &mut PgConnection,
    ticket_id: Uuid,
    selected: Option<Uuid>,
) -> Result<(Tray, Vec<SayRow>), ApiError> {
    let lines = crate::table::sayable::sayable(&mut *db, ticket_id).await?;
    let valves = crate::table::sayable::valves(&mut *db, ticket_id).await?;
    Ok((Tray { valves, ..known(&lines, selected)? }, lines))
}

/// A sentence about a valve of the chart; about one that lies on the tray where that is only named.
fn of_the_chart(text: &str, tray: &Tray) -> Option<Result<OfValve, SayError>> {
    let on_tray = |v: &OfValve| v.says == ValveSays::Look && tray.parts.iter().any(|p| p.name == v.at);
    of_valve(text).filter(|said| !said.as_ref().is_ok_and(on_tray))
}

fn known(lines: &[SayRow], selected: Option<Uuid>) -> Result<Tray, ApiError> {
    let known = |p: &SayRow| {
        Ok(Known {
            name: p.name.clone(),
            kind: Some(p.kind),
            marked_si: p.marked,
            sheet_si: p.sheet,
            has_mark: p.has_mark || p.marked.or(p.sheet).is_some() || p.kind.is_read_unmarked(),
            state: p.last_state,
            family: p.family,
            position: p.position,
            place: p.place.clone(),
            tolerance: p.tolerance.and_then(|t| Fraction::new(t).ok()),
            power: p.watts.and_then(|w| Watt::new(w).ok()),
        })
    };
    let selected = selected.and_then(|id| lines.iter().find(|p| p.id == id)).map(|p| p.name.clone());
    Ok(Tray { parts: lines.iter().map(known).collect::<Result<_, ApiError>>()?, selected, valves: vec![] })
}

/// Does what was understood; the part that it was about, and whether a reading of it was taken.
async fn apply(
    db: &mut PgConnection,
    ticket_id: Uuid,
    u: &Understood,
    q: &Say,
    nth: usize,
) -> Result<(Uuid, bool), ApiError> {
    // Each part of several has a key of its own, and each of its readings, which come out the same when the sentence is sent
    // again; the first part has the sentence's.
    let key = |reading: usize| Uuid::from_u128(q.key.as_u128() ^ (nth as u128) << 16 ^ reading as u128);
    let existing = crate::table::part::by_name(db, ticket_id, &u.name).await?;
    let mut row = existing
        .clone()
        .unwrap_or_else(|| PartRow { kind: u.kind, ..PartRow::new(key(0), ticket_id, &u.name) });
    // The version that was seen is the first part's.
    if let (Some(part), true, 0) = (&existing, u.describes(), nth) {
        let seen =
            q.version.ok_or_else(|| ApiError::field("version", "say which version of the part was seen"))?;
        crate::tray::unchanged_since(db, part, seen).await?;
    }
    take_mark(&mut row, u)?;
    if let Some(part) = &existing {
        ask_if_remarked(part, &row, q.confirmed, "text")?;
    }
    row.sheet = u.sheet_si.or(row.sheet);
    take_said(db, &mut row, &u.said).await?;
    if existing.is_none() {
        crate::table::part::insert(db, &row).await?;
    } else if u.describes() {
        crate::table::part::update(db, &row).await?;
    }
    if let Some(partner) = &u.said.pair {
        crate::part::ties::pair_up(db, &row, partner).await?;
    }
    if let Some(other) = &u.said.group {
        crate::part::ties::group_with(db, &row, other).await?;
    }
    let mut read = false;
    let with = checked_text("with", &q.with, 60)?;
    for (i, m) in u.measured.iter().enumerate() {
        // A new part has the sentence's key already.
        let key = key(i + usize::from(existing.is_none()));
        let taking = Taking {
            key,
            quantity: m.quantity,
            pin: m.pin,
            value_si: m.value_si,
            state: m.state,
            hot: m.hot,
            mode: m.mode,
            test_voltage: m.test_voltage,
            test_frequency: m.test_frequency,
            setting: None,
            instrument: q.instrument,
            way: None,
            station: None,
            with: &with,
            typed: q.text.trim(),
            field: "text",
        };
        read |= record(db, &row, &taking).await?;
    }
    Ok((row.id, read))
}

/// What was said of the mark.
fn take_mark(row: &mut PartRow, u: &Understood) -> Result<(), ApiError> {
    if let Some(value) = u.mark.value {
        set_mark(row, value, u.mark.tolerance, &u.mark.colours);
        // A sentence is no marking: what it says of the mark is in the value and the bands.
        row.marking = String::new();
    } else if let Some(t) = u.mark.tolerance {
        if row.marked.is_none() {
            return Err(ApiError::field(
                "text",
                format!("{} has no mark yet: say its value with the tolerance", u.name),
            ));
        }
        row.tolerance = Some(t.fraction());
        row.colours = vec![];
    }
    row.watts = u.mark.power.map(|p| p.watts()).or(row.watts);
    if let Some(other) = &u.other {
        accept(row, &other.meaning, &other.marking)?;
    }
    Ok(())
}

/// What else was said of the part.
async fn take_said(db: &mut PgConnection, row: &mut PartRow, said: &SaidOf) -> Result<(), ApiError> {
    row.position = said.position.or(row.position);
    if let Some(place) = &said.place {
        row.place.clone_from(place);
    }
    if let Some(family) = said.family {
        set_family(row, family)?;
    }
    for look in &said.looks {
        if !row.looks.contains(look) {
            row.looks.push(*look);
        }
    }
    for (fact, value) in &said.facts {
        row.facts.set_si(*fact, *value).map_err(|e| ApiError::field("text", e))?;
    }
    if let Some(feed) = &said.fed_by {
        row.feed_id = crate::part::ties::feed_of(db, row, feed).await?;
    }
    row.test_warm = said.test_warm.unwrap_or(row.test_warm);
    row.made = said.made.map(i32::from).or(row.made);
    row.plates = said.plates.map(i32::from).or(row.plates);
    row.winding = said.winding.map(Ohm::ohms).or(row.winding);
    if row.made.is_some_and(|y| !(1900..=2100).contains(&y)) {
        return Err(ApiError::field("text", "a year from 1900 to 2100 is needed behind 'made'"));
    }
    Ok(())
}
