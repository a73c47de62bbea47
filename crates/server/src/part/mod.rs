//! Parts on the tray: their three values, their place, and what changes on them.

pub mod sitting;
pub mod store;
pub mod view;
pub mod wire;

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use owl_core::marking::{Hints, read_text};
use owl_core::named::Named;
use owl_core::part::{Circuit, Fact, Look, MadeOf, PartKind};
use owl_core::quantity::read::best;
use owl_core::quantity::{Quantity, Watt};
use owl_core::substitute::rectifier_valve;
use uuid::Uuid;

use self::sitting::stored_facts;
use self::store::PartRow;
use self::view::part_views;
use self::wire::{MarkChoice, NewPart, PartChange, PartView};
use crate::body::{Body, Id};
use crate::error::{ApiError, Changed, Problem};
use crate::name::Name;
use crate::reading::amount::typed_optional;
use crate::router::App;
use crate::ticket::checked_text;

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
    if let Some(family) = new.family {
        set_family(&mut row, family.0)?;
    }
    if let Some(marking) = &new.marking {
        take_marking(&mut row, marking)?;
    }
    if let Some(mark) = &new.mark {
        accept(&mut row, mark)?;
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
        take_marking(&mut row, marking)?;
    }
    if let Some(mark) = &change.mark {
        accept(&mut row, mark)?;
    }
    if let Some(sheet) = &change.sheet {
        row.sheet = sheet_value(row.kind()?, sheet)?;
    }
    if let Some(watts) = &change.watts {
        row.watts = optional_watts(watts)?.map(Watt::watts);
    }
    if let Some(family) = change.family {
        set_family(&mut row, family.0)?;
    }
    if let Some(position) = change.position {
        row.position = match position {
            Some(p) => Some(crate::judge::sits(p.0, row.kind()?)?.name().to_owned()),
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
    store::update(&mut tx, &row).await?;
    if let Some(pair) = &change.pair {
        pair_up(&mut tx, &row, pair).await?;
    }
    if let Some(group) = change.group.as_deref().filter(|g| !g.trim().is_empty()) {
        group_with(&mut tx, &row, group).await?;
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

/// What is seen on a part and what is known round it.
async fn describe(
    db: &mut sqlx::PgConnection,
    row: &mut PartRow,
    change: &PartChange,
) -> Result<(), ApiError> {
    let kind = row.kind()?;
    if let Some(looks) = &change.looks {
        for look in looks {
            if look.0.on(kind).is_none() {
                return Err(ApiError::field("looks", format!("a {kind} cannot be {}", look.0)));
            }
        }
        row.looks =
            Look::of(kind).filter(|l| looks.contains(&Name(*l))).map(|l| l.name().to_owned()).collect();
    }
    if let Some(facts) = &change.facts {
        let mut known = Circuit::default();
        for (name, value) in row.facts.as_object().into_iter().flatten() {
            let _kept = known.set_si(crate::name::stored(name)?, value.as_f64().unwrap_or_default());
        }
        let mut kept: Vec<(Fact, f64)> = known.known().collect();
        for (name, text) in facts {
            let field = format!("facts.{name}");
            let fact = Fact::from_name(name).map_err(|e| ApiError::field(field.clone(), e))?;
            kept.retain(|(f, _)| *f != fact);
            let valve = rectifier_valve(text).filter(|_| fact == Fact::FirstFilterLimit);
            let typed = match valve {
                Some(valve) => Some(valve.first_filter_limit().farads()),
                None => typed_optional(fact.quantity(), Some(text))
                    .map_err(|e| ApiError::field(field.clone(), e))?,
            };
            if let Some(v) = typed {
                known.set_si(fact, v).map_err(|e| ApiError::field(field, e))?;
                kept.push((fact, v));
            }
        }
        row.facts = facts_of(&kept)?;
    }
    if let Some(feed) = &change.fed_by {
        row.feed_id = feed_of(db, row, feed).await?;
    }
    if let Some(warm) = change.test_warm {
        if warm && kind != PartKind::Capacitor {
            return Err(ApiError::field(
                "test_warm",
                format!("a {kind} is not tested for leakage when warm"),
            ));
        }
        row.test_warm = warm;
    }
    if let Some(made) = &change.made {
        row.made = whole("made", made, 1900, 2100)?;
    }
    if let Some(plates) = &change.plates {
        row.plates = whole("plates", plates, 1, 200)?;
    }
    if let Some(winding) = &change.winding {
        if kind != PartKind::Coil {
            return Err(ApiError::field("winding", format!("a {kind} has no winding")));
        }
        let ohms =
            typed_optional(Quantity::Resistance, Some(winding)).map_err(|e| ApiError::field("winding", e))?;
        if ohms.is_some_and(|v| v <= 0.0 || v >= 1e9) {
            return Err(ApiError::field("winding", "a value above zero is needed"));
        }
        row.winding = ohms;
    }
    Ok(())
}

/// The facts as they are stored, checked once more together.
fn facts_of(facts: &[(Fact, f64)]) -> Result<serde_json::Value, ApiError> {
    let mut circuit = Circuit::default();
    for (fact, value) in facts {
        circuit.set_si(*fact, *value).map_err(|e| ApiError::field(format!("facts.{fact}"), e))?;
    }
    Ok(stored_facts(&circuit))
}

/// The resistor on the tray that a part is fed through; `None` for an empty name.
pub async fn feed_of(
    db: &mut sqlx::PgConnection,
    row: &PartRow,
    name: &str,
) -> Result<Option<Uuid>, ApiError> {
    let name = name.trim().to_ascii_uppercase();
    if name.is_empty() {
        return Ok(None);
    }
    let feed = store::by_name(db, row.ticket_id, &name).await?;
    let feed = feed.filter(|f| f.id != row.id && f.kind == PartKind::Resistor.name());
    feed.map(|f| Some(f.id)).ok_or_else(|| {
        ApiError::field(
            "fed_by",
            format!("there is no resistor {name} on the tray that could feed {}", row.name),
        )
    })
}

fn whole(field: &str, text: &str, least: i32, most: i32) -> Result<Option<i32>, ApiError> {
    let text = text.trim();
    if text.is_empty() {
        return Ok(None);
    }
    let value = text.parse().ok().filter(|v| (least..=most).contains(v));
    value
        .map(Some)
        .ok_or_else(|| ApiError::field(field, format!("a whole number from {least} to {most} is needed")))
}

/// Makes two parts halves of a pair, or takes one out of its group (`""`).
pub async fn pair_up(db: &mut sqlx::PgConnection, row: &PartRow, partner: &str) -> Result<(), ApiError> {
    store::leave_group(db, row.id).await?;
    let partner = partner.trim().to_ascii_uppercase();
    if partner.is_empty() {
        return Ok(());
    }
    let other = another(db, row, "pair", &partner).await?;
    store::leave_group(db, other.id).await?;
    let group = Uuid::now_v7();
    store::join_group(db, row.id, group).await?;
    store::join_group(db, other.id, group).await
}

/// Puts a part into the group of another; the two become a pair where that one has no group.
pub async fn group_with(db: &mut sqlx::PgConnection, row: &PartRow, other: &str) -> Result<(), ApiError> {
    let other = another(db, row, "group", &other.trim().to_ascii_uppercase()).await?;
    store::leave_group(db, row.id).await?;
    let group = match store::find(&mut *db, other.id).await?.group_id {
        Some(group) => group,
        None => {
            let group = Uuid::now_v7();
            store::join_group(db, other.id, group).await?;
            group
        }
    };
    store::join_group(db, row.id, group).await
}

/// Another part of the same kind on the tray.
async fn another(
    db: &mut sqlx::PgConnection,
    row: &PartRow,
    field: &str,
    name: &str,
) -> Result<PartRow, ApiError> {
    let other = store::by_name(db, row.ticket_id, name).await?.filter(|o| o.id != row.id);
    let other = other.ok_or_else(|| {
        ApiError::field(field, format!("there is no {name} on the tray to pair {} with", row.name))
    })?;
    if other.kind != row.kind {
        let why = format!("{name} is a {} and {} is a {}: they cannot match", other.kind, row.name, row.kind);
        return Err(ApiError::field(field, why));
    }
    Ok(other)
}

fn checked_name(name: &str) -> Result<String, ApiError> {
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
        refuse("a part is called R, C, L, D, P, Q or TR, U or IC and a number, such as R14, C3, Q5 or R101A")
    }
}

/// Sets how a part is made.
///
/// # Errors
/// 422 for a family of another kind of part.
pub fn set_family(row: &mut PartRow, family: MadeOf) -> Result<(), ApiError> {
    let kind = row.kind()?;
    if !family.suits(kind) {
        return Err(ApiError::field("family", format!("'{}' is no family of a {kind}", family.name())));
    }
    row.family = Some(family.name().to_owned());
    Ok(())
}

/// The likeliest reading of what was typed; empty takes the mark away.
fn take_marking(row: &mut PartRow, marking: &str) -> Result<(), ApiError> {
    if marking.trim().is_empty() {
        row.unmark();
        return Ok(());
    }
    let meanings = read_text(marking, Hints::of(row.kind()?)).map_err(|e| ApiError::field("marking", e))?;
    row.accept(&meanings[0], marking)
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
    row.accept(m, &typed)
}

/// What the sheet says, in the base unit of the part; `None` for nothing.
fn sheet_value(kind: PartKind, text: &str) -> Result<Option<f64>, ApiError> {
    if text.trim().is_empty() {
        return Ok(None);
    }
    let Some(quantity) = kind.quantity() else {
        return Err(ApiError::field("sheet", format!("a {kind} has no value on the sheet but its type")));
    };
    let value = best(quantity, text).map_err(|e| ApiError::field("sheet", e))?;
    if value > 0.0 && value < 1e15 {
        Ok(Some(value))
    } else {
        Err(ApiError::field("sheet", "a value above zero is needed"))
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
    let policy = crate::policy::store::of_ticket(&mut *db, &ticket).await?;
    let views = part_views(&tray, &policy)?;
    views.into_iter().find(|v| v.id == id).ok_or_else(|| ApiError::no_such("part"))
}
