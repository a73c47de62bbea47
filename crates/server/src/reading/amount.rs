//! Amounts as they are typed into a form.

use owl_core::quantity::Quantity;
use owl_core::quantity::read::best;

/// What was typed, in the base unit; `None` for nothing. Refuses what is no such quantity, in words.
///
/// # Errors
/// The refusal, in words.
pub fn typed_optional(quantity: Quantity, text: Option<&str>) -> Result<Option<f64>, String> {
    match text.map(str::trim) {
        None | Some("") => Ok(None),
        Some(text) => best(quantity, text).map(Some).map_err(|e| e.to_string()),
    }
}
