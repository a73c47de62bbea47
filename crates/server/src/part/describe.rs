//! What is said of a part beside its marking: what is seen on it, the circuit round it, its age, the sheet.

use owl_core::named::Named;
use owl_core::part::{Circuit, Fact, PartKind, VisualSign};
use owl_core::quantity::{Quantity, Watt};
use owl_core::stored::Stored;
use sqlx::types::Json;

use super::ties::feed_of;
use super::wire::PartChange;
use crate::amount::above_zero;
use crate::error::ApiError;
use crate::fact::say_fact;
use crate::table::part::PartRow;
use crate::text::checked_text;

/// What is seen on a part and what is known round it.
pub async fn describe(
    db: &mut sqlx::PgConnection,
    row: &mut PartRow,
    change: &PartChange,
) -> Result<(), ApiError> {
    let kind = row.kind;
    if let Some(looks) = &change.looks {
        for look in looks {
            if look.on(kind).is_none() {
                return Err(ApiError::field("looks", format!("a {kind} cannot be {}", look)));
            }
        }
        row.looks = VisualSign::of(kind).filter(|l| looks.contains(l)).collect();
    }
    if let Some(reason) = &change.no_suspect {
        no_suspect(db, row, reason).await?;
    }
    if let Some(facts) = &change.facts {
        for (name, text) in facts {
            let field = format!("facts.{name}");
            let fact = Fact::from_name(name).map_err(|e| ApiError::field(field.clone(), e))?;
            if fact.is_of_the_set() {
                say_of_the_set(db, row, fact, text, &field).await?;
            } else {
                say_fact(&mut row.facts, fact, text, &field)?;
            }
        }
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
        row.winding = above_zero("winding", Quantity::Resistance, Some(winding))?;
        if row.winding.is_some_and(|v| v >= 1e9) {
            return Err(ApiError::field("winding", "no winding has a gigohm"));
        }
    }
    Ok(())
}

/// Says a fact of the set beside one of its parts: it is kept with the ticket, where nobody has said it yet, and with the part,
/// where it differs there.
async fn say_of_the_set(
    db: &mut sqlx::PgConnection,
    row: &mut PartRow,
    fact: Fact,
    text: &str,
    field: &str,
) -> Result<(), ApiError> {
    let mut typed = Circuit::default();
    say_fact(&mut typed, fact, text, field)?;
    let mut ticket = crate::table::ticket::lock(&mut *db, row.ticket_id).await?;
    let (of_set, of_part) = ticket.set().said_at_a_part(fact, row.kind, &row.facts, &typed);
    row.facts = Json(of_part);
    if let Some(set) = of_set {
        ticket.facts = Json(Stored(set));
        crate::table::ticket::update(&mut *db, &ticket).await?;
    }
    Ok(())
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

/// What the sheet says, in the base unit of the part; `None` for nothing.
pub fn sheet_value(kind: PartKind, text: &str) -> Result<Option<f64>, ApiError> {
    if text.trim().is_empty() {
        return Ok(None);
    }
    let Some(quantity) = kind.quantity() else {
        return Err(ApiError::field("sheet", format!("a {kind} has no value on the sheet but its type")));
    };
    above_zero("sheet", quantity, Some(text))
}

/// Rated watts as typed; `None` for nothing.
///
/// # Errors
/// 422 with the input to blame.
pub fn optional_watts(text: &str) -> Result<Option<Watt>, ApiError> {
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

/// The longest note of a part.
const LONGEST_NOTE: usize = 2000;

/// Says that a part is no suspect, and why; the reason stays in its note.
async fn no_suspect(db: &mut sqlx::PgConnection, row: &mut PartRow, reason: &str) -> Result<(), ApiError> {
    let refuse = |why: &str| Err(ApiError::field("no_suspect", why.to_owned()));
    let Some(of) = row.suspect_of else { return refuse("it is no suspect of anything") };
    let reason = checked_text("no_suspect", reason, 200)?;
    if reason.is_empty() {
        return refuse("say why it is none: not in this set, of another stage");
    }
    let of = crate::table::part::name_of(&mut *db, of).await?;
    let note = format!("No suspect of {of}: {reason}. {}", row.note);
    row.note = note.trim().chars().take(LONGEST_NOTE).collect();
    row.suspect_of = None;
    Ok(())
}
