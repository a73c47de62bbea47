//! What is said at intake, as typed, read and checked.

use owl_core::quantity::Quantity;

use super::wire::IntakeBody;
use crate::amount::above_zero_below;
use crate::error::ApiError;
use crate::table::ticket::TicketRow;
use crate::text::checked_text;

/// The most symptoms of a set, and how long one is.
const MOST_SYMPTOMS: usize = 40;
const LONGEST_SYMPTOM: usize = 80;

/// Takes what was said over into a ticket; what was not said stays.
///
/// # Errors
/// 422 with the input to blame.
pub fn take(row: &mut TicketRow, said: &IntakeBody) -> Result<(), ApiError> {
    if let Some(symptoms) = &said.symptoms {
        row.symptoms = checked(symptoms)?;
    }
    for (field, from, to, most) in [
        ("wants", &said.wants, &mut row.wants, 400),
        ("supply", &said.supply, &mut row.supply, 200),
        ("earlier_work", &said.earlier_work, &mut row.earlier_work, 2000),
    ] {
        if let Some(text) = from {
            *to = checked_text(&format!("intake.{field}"), text, most)?;
        }
    }
    for (field, of, from, to, most) in [
        ("line", Quantity::Voltage, &said.line, &mut row.line_volts, 1e4),
        ("watts", Quantity::Power, &said.watts, &mut row.set_watts, 1e6),
        ("sheet_line", Quantity::Voltage, &said.sheet_line, &mut row.sheet_line_volts, 1e4),
        (
            "sheet_ohms_per_volt",
            Quantity::Resistance,
            &said.sheet_ohms_per_volt,
            &mut row.sheet_ohms_per_volt,
            1e9,
        ),
    ] {
        if from.is_some() {
            *to = above_zero_below(&format!("intake.{field}"), of, from.as_deref(), most)?;
        }
    }
    Ok(())
}

fn checked(symptoms: &[String]) -> Result<Vec<String>, ApiError> {
    if symptoms.len() > MOST_SYMPTOMS {
        return Err(ApiError::field("intake.symptoms", format!("at most {MOST_SYMPTOMS} of them")));
    }
    let mut out: Vec<String> = Vec::new();
    for s in symptoms {
        let s = checked_text("intake.symptoms", s, LONGEST_SYMPTOM)?;
        if !s.is_empty() && !out.contains(&s) {
            out.push(s);
        }
    }
    Ok(out)
}
