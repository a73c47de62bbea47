//! What was typed of a fitting, read into what the core checks.

use owl_core::part::PartKind;
use owl_core::quantity::{Fraction, Quantity, Volt, Watt};
use owl_core::reading::usual;
use owl_core::say::read_entry;
use owl_core::tray::NewPart;
use owl_core::tray::assessed::{MOST_WORDS, fill};
use owl_core::tray::goes_in::{not_measured, takes_place_of};
use time::OffsetDateTime;
use uuid::Uuid;

use super::wire::NewFitting;
use crate::amount::above_zero;
use crate::error::ApiError;
use crate::table::fitting::FittingRow;
use crate::text::checked_text;

/// What is said of the piece that goes in for a part of `part_kind`.
///
/// # Errors
/// 422 with the input that cannot be read.
pub fn offered(part_kind: PartKind, new: &NewFitting) -> Result<NewPart, ApiError> {
    let kind = new.kind.unwrap_or(part_kind);
    takes_place_of(kind, part_kind).map_err(|e| ApiError::field(e.field(), e))?;
    let value_si = match kind.quantity() {
        Some(q) => above_zero("value", q, new.value.as_deref())?,
        None => None,
    };
    let mut offered = NewPart {
        kind,
        family: new.family,
        value_si,
        tolerance: quantity("tolerance", Quantity::Fraction, new.tolerance.as_deref(), Fraction::new)?,
        power: quantity("watts", Quantity::Power, new.watts.as_deref(), Watt::new)?,
        volts: quantity("volts", Quantity::Voltage, new.volts.as_deref(), Volt::new)?,
        type_number: checked_text("type_number", new.type_number.as_deref().unwrap_or(""), 40)?,
        safety: new.safety,
        measured_si: measured(kind, new)?,
    };
    // What was typed by hand is read; a proposal says in its fields what it is.
    if new.pieces.is_empty() {
        fill(&mut offered, &new.description).map_err(|e| ApiError::field(e.field(), e))?;
    }
    Ok(offered)
}

/// The row of a fitting.
///
/// # Errors
/// 422 with the input to blame.
pub fn fitting_row(part_id: Uuid, offered: &NewPart, new: &NewFitting) -> Result<FittingRow, ApiError> {
    let description = checked_text("description", &new.description, MOST_WORDS)?;
    if description.is_empty() {
        return Err(ApiError::field("description", "say what went in"));
    }
    Ok(FittingRow {
        id: new.key,
        part_id,
        kind: offered.kind,
        description,
        value: offered.value_si,
        tolerance: offered.tolerance.map(Fraction::fraction),
        watts: offered.power.map(Watt::watts),
        volts: offered.volts.map(Volt::volts),
        type_number: offered.type_number.clone(),
        family: offered.family,
        safety: offered.safety,
        measured: offered.measured_si,
        test: checked_text("test", new.test.as_deref().unwrap_or(""), 400)?,
        despite: checked_text("despite", &new.despite, 400)?,
        note: checked_text("note", new.note.as_deref().unwrap_or(""), 2000)?,
        bag: checked_text("bag", &new.bag, 60)?,
        fitted_at: OffsetDateTime::UNIX_EPOCH,
        outcome: None,
        earlier: vec![],
        seen: None,
        checks: vec![],
        proven_at: None,
        withdrawn_at: None,
        withdrawn_why: None,
        taken: vec![],
    })
}

/// What it measured before it went in; nothing where it was not measured.
fn measured(kind: PartKind, new: &NewFitting) -> Result<Option<f64>, ApiError> {
    let typed = new.measured.as_deref().unwrap_or("").trim();
    if typed.is_empty() {
        return Ok(None);
    }
    if let Some(why) = not_measured(kind) {
        return Err(ApiError::field("measured", why));
    }
    let entered = read_entry(usual(kind), typed).map_err(|e| ApiError::field("measured", e))?;
    match entered.value_si {
        Some(v) => Ok(Some(v)),
        None => Err(ApiError::field("measured", "a new part that shows nothing is open: do not fit it")),
    }
}

fn quantity<T, E: std::fmt::Display>(
    field: &str,
    of: Quantity,
    typed: Option<&str>,
    new: impl Fn(f64) -> Result<T, E>,
) -> Result<Option<T>, ApiError> {
    above_zero(field, of, typed)?.map(new).transpose().map_err(|e| ApiError::field(field, e))
}
