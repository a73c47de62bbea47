//! What was typed upon something that stands otherwise by now is not written over it, but shown beside it.

use owl_core::quantity::Quantity;
use owl_core::quantity::format::format;

use crate::error::{ApiError, Changed};
use crate::tray::conflict;

/// A value as pages show it.
#[must_use]
pub fn shown(quantity: Quantity, value: Option<f64>) -> String {
    value.map_or_else(String::new, |v| format(quantity, v).to_string())
}

/// Refuses what would write over something that nobody has seen here.
///
/// # Errors
/// 409 with both.
pub fn unless_overtaken(what: &str, seen: &str, now: &str, is_the_same: bool) -> Result<(), ApiError> {
    match overtaken(what, seen, now, is_the_same) {
        Some(changed) => Err(conflict(what, vec![changed])),
        None => Ok(()),
    }
}

/// Both values, where another one stands by now than was seen, and not the one that is written.
#[must_use]
pub fn overtaken(field: &str, seen: &str, now: &str, is_the_same: bool) -> Option<Changed> {
    let or_nothing = |text: &str| if text.is_empty() { "nothing".to_owned() } else { text.to_owned() };
    (seen.trim() != now && !is_the_same).then(|| Changed {
        field: field.to_owned(),
        before: or_nothing(seen.trim()),
        now: or_nothing(now),
    })
}
