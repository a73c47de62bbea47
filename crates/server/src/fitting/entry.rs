//! What was typed of a fitting, read and checked.

use owl_core::drawers::Piece;
use owl_core::named::Named;
use owl_core::part::{MadeOf, PartKind};
use owl_core::quantity::{Fraction, Quantity, read};
use owl_core::reading::doubt::doubt;
use owl_core::say::read_entry;
use time::OffsetDateTime;
use uuid::Uuid;

use super::store::FittingRow;
use super::wire::NewFitting;
use crate::error::ApiError;
use crate::reading::usual;
use crate::ticket::checked_text;

/// The row of a fitting in a part of `kind`.
///
/// # Errors
/// 422 with the input to blame; a question where what was measured is far off.
pub fn fitting_row(part_id: Uuid, part_kind: PartKind, new: &NewFitting) -> Result<FittingRow, ApiError> {
    let kind = new.kind.map_or(part_kind, |k| k.0);
    let stands_for = part_kind == PartKind::Coil && kind == PartKind::Resistor;
    if kind != part_kind && !stands_for {
        return Err(ApiError::field("kind", format!("a {kind} does not take the place of a {part_kind}")));
    }
    let description = checked_text("description", &new.description, 200)?;
    if description.is_empty() {
        return Err(ApiError::field("description", "say what went in"));
    }
    let type_number = checked_text("type_number", new.type_number.as_deref().unwrap_or(""), 40)?;
    let value = match kind.quantity() {
        Some(q) => above_zero("value", q, new.value.as_deref())?,
        None => None,
    };
    if value.is_none() && matches!(kind, PartKind::Resistor | PartKind::Capacitor | PartKind::Lamp) {
        return Err(ApiError::field("value", format!("say the value of the {kind} that went in")));
    }
    if type_number.is_empty() && matches!(kind, PartKind::Transistor | PartKind::Ic) {
        return Err(ApiError::field(
            "type_number",
            format!("say the type number of the {kind} that went in"),
        ));
    }
    let tolerance = above_zero("tolerance", Quantity::Fraction, new.tolerance.as_deref())?;
    if tolerance.is_some_and(|t| t >= 1.0) {
        return Err(ApiError::field("tolerance", "a tolerance lies between 0 and 100 %"));
    }
    let family: Option<MadeOf> = new.family.map(|f| f.0);
    if let Some(f) = family.filter(|f| !f.suits(kind)) {
        return Err(ApiError::field("family", format!("'{}' is no family of a {kind}", f.name())));
    }
    if family.is_none() && kind == PartKind::Resistor {
        return Err(ApiError::field("family", "say how the resistor is made"));
    }
    Ok(FittingRow {
        id: new.key,
        part_id,
        kind: kind.name().to_owned(),
        description,
        value,
        tolerance,
        watts: above_zero("watts", Quantity::Power, new.watts.as_deref())?,
        volts: above_zero("volts", Quantity::Voltage, new.volts.as_deref())?,
        type_number,
        family: family.map(|f| f.name().to_owned()),
        safety: false,
        measured: measured(kind, value, new)?,
        test: checked_text("test", new.test.as_deref().unwrap_or(""), 400)?,
        note: checked_text("note", new.note.as_deref().unwrap_or(""), 2000)?,
        bag: checked_text("bag", &new.bag, 60)?,
        fitted_at: OffsetDateTime::UNIX_EPOCH,
        worked: None,
        seen: None,
        checks: vec![],
        proven_at: None,
        withdrawn_at: None,
        withdrawn_why: None,
        taken: vec![],
    })
}

/// What it measured before it went in; nothing where it was not measured.
fn measured(kind: PartKind, value: Option<f64>, new: &NewFitting) -> Result<Option<f64>, ApiError> {
    let typed = new.measured.as_deref().unwrap_or("").trim();
    if typed.is_empty() {
        return Ok(None);
    }
    match kind {
        PartKind::Lamp => {
            return Err(ApiError::field("measured", "a lamp has nothing to measure: it lights or not"));
        }
        PartKind::Ic => {
            return Err(ApiError::field(
                "measured",
                "a circuit has nothing to measure before it is in its socket",
            ));
        }
        PartKind::Resistor
        | PartKind::Capacitor
        | PartKind::Coil
        | PartKind::Diode
        | PartKind::Transistor => {}
    }
    let of = usual(kind);
    let entered = read_entry(of, typed).map_err(|e| ApiError::field("measured", e))?;
    let Some(measured) = entered.value_si else {
        return Err(ApiError::field("measured", "a new part that shows nothing is open: do not fit it"));
    };
    // Only what is a value of the same thing can be far off.
    let same = kind.quantity() == Some(of.quantity());
    if let (false, true, Some(v)) = (new.confirmed, same, value) {
        let question = match doubt(of, measured, v) {
            Some(d) => Some(d.question),
            // A part that goes in is no part that has drifted.
            None if !(0.5..=2.0).contains(&(measured / v)) => Some(format!(
                "it measures {} and should have {}: is it the right one? Take it as it stands?",
                of.written(measured),
                of.written(v)
            )),
            None => None,
        };
        if let Some(question) = question {
            return Err(ApiError::Ask { question, field: "measured".to_owned() });
        }
    }
    Ok(Some(measured))
}

/// A typed number above zero; nothing for an empty field.
fn above_zero(field: &str, of: Quantity, typed: Option<&str>) -> Result<Option<f64>, ApiError> {
    let typed = typed.unwrap_or("").trim();
    if typed.is_empty() {
        return Ok(None);
    }
    match read::best(of, typed) {
        Ok(v) if v > 0.0 && v < 1e15 => Ok(Some(v)),
        Ok(_) => Err(ApiError::field(field, "a value above zero is needed")),
        Err(e) => Err(ApiError::field(field, e)),
    }
}

/// The piece that was fitted, as far as its record says, for the test of old stock.
#[must_use]
pub fn piece_of(row: &FittingRow, lot: &Piece) -> Piece {
    Piece {
        value_si: row.value.or(lot.value_si),
        tolerance: row.tolerance.and_then(|t| Fraction::new(t).ok()).or(lot.tolerance),
        ..lot.clone()
    }
}
