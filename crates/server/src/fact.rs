//! A fact of the circuit as it is typed, of a part or of the whole set.

use owl_core::part::{Circuit, Fact};
use owl_core::substitute::{RectifierValve, rectifier_valve};

use crate::amount::typed_optional;
use crate::error::ApiError;

/// Sets a fact as typed, or takes it away where nothing was; the limit of a rectifier by its valve's type.
///
/// # Errors
/// 422 with the field to blame.
pub fn say_fact(circuit: &mut Circuit, fact: Fact, text: &str, field: &str) -> Result<(), ApiError> {
    circuit.forget(fact);
    if fact == Fact::FirstFilterLimit {
        RectifierValve::forget(circuit);
        if let Some(valve) = rectifier_valve(text) {
            return valve.tell(circuit).map_err(|e| ApiError::field(field, e));
        }
    }
    let typed = typed_optional(fact.quantity(), Some(text)).map_err(|e| ApiError::field(field, e))?;
    typed.map_or(Ok(()), |v| circuit.set_si(fact, v)).map_err(|e| ApiError::field(field, e))
}
