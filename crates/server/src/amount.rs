//! A quantity on the wire: the plain number and the text in which it is shown.

use owl_core::quantity::format::{DIGITS, Written, format_as};
use owl_core::quantity::parse::typed;
use owl_core::quantity::{Ohm, Quantity, Watt};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::dialect::chosen;
use crate::error::ApiError;

/// A quantity with its text; digits and unit apart, so that a column can line up.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize, ToSchema)]
pub struct Amount {
    /// In the SI base unit.
    pub value: f64,
    /// The digits, as shown.
    pub number: String,
    /// Prefix and unit, as shown.
    pub unit: String,
    /// Both.
    pub text: String,
}

impl Amount {
    /// A value (base unit) of a quantity.
    #[must_use]
    pub fn of(quantity: Quantity, value: f64) -> Self {
        let written: Written = format_as(quantity, value, DIGITS, chosen().capacitance);
        Self { value, text: written.to_string(), number: written.number, unit: written.unit.to_owned() }
    }
}

impl Amount {
    /// The same with so many significant digits.
    #[must_use]
    pub fn rounded(quantity: Quantity, value: f64, digits: usize) -> Self {
        let written: Written = format_as(quantity, value, digits, chosen().capacitance);
        Self { value, text: written.to_string(), number: written.number, unit: written.unit.to_owned() }
    }
}

impl From<Ohm> for Amount {
    fn from(v: Ohm) -> Self {
        Self::of(Quantity::Resistance, v.ohms())
    }
}

impl From<Watt> for Amount {
    fn from(v: Watt) -> Self {
        Self::of(Quantity::Power, v.watts())
    }
}

/// What was typed, in the base unit; `None` for nothing. Refuses what is no such quantity, in words.
///
/// # Errors
/// The refusal, in words.
pub fn typed_optional(quantity: Quantity, text: Option<&str>) -> Result<Option<f64>, String> {
    match text.map(str::trim) {
        None | Some("") => Ok(None),
        Some(text) => typed(quantity, text).map(Some).map_err(|e| e.to_string()),
    }
}

/// Below this lies the value of every part, in the base unit: what the tables of the database take.
const MOST: f64 = 1e15;

/// The value of a part, as a number: above zero, and a size that there is.
///
/// # Errors
/// 422 with the field to blame.
pub fn part_value(field: &str, value: f64) -> Result<f64, ApiError> {
    between(field, value, MOST)
}

/// The same as typed; nothing for an empty field.
///
/// # Errors
/// 422 with the field to blame.
pub fn above_zero(field: &str, quantity: Quantity, text: Option<&str>) -> Result<Option<f64>, ApiError> {
    above_zero_below(field, quantity, text, MOST)
}

/// What was typed, above zero and below `most` (base unit); nothing for an empty field.
///
/// # Errors
/// 422 with the field to blame.
pub fn above_zero_below(
    field: &str,
    quantity: Quantity,
    text: Option<&str>,
    most: f64,
) -> Result<Option<f64>, ApiError> {
    let typed = typed_optional(quantity, text).map_err(|e| ApiError::field(field, e))?;
    typed.map(|v| between(field, v, most)).transpose()
}

fn between(field: &str, value: f64, most: f64) -> Result<f64, ApiError> {
    if value >= most {
        Err(ApiError::field(field, "that is more than there can be"))
    } else if value > 0.0 {
        Ok(value)
    } else {
        Err(ApiError::field(field, "a value above zero is needed"))
    }
}
