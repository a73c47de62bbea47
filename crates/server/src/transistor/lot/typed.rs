//! What was typed of a lot, read and checked.

use owl_core::quantity::{Quantity, parse};
use owl_core::transistor::circuit::Stage;
use uuid::Uuid;

use super::wire::LotTyped;
use crate::error::ApiError;
use crate::table::match_lot::LotRow;
use crate::text::checked_text;

/// The most pieces of a lot.
const MOST: usize = 500;

/// A lot's numbers.
pub struct Typed {
    /// The stage that the pairs are for.
    pub stage: Option<Stage>,
    /// Ampere at which it was measured.
    pub test: Option<f64>,
    /// Ohm under each emitter.
    pub emitter: Option<f64>,
    /// Ampere at rest.
    pub idle: Option<f64>,
    /// Label, gain, base volts.
    pub pieces: Vec<(String, f64, f64)>,
}

impl Typed {
    /// The row of the lot; its version is the database's to say.
    pub fn row(&self, id: Uuid, name: String, type_number: String) -> LotRow {
        let (test_amperes, emitter_ohms, idle_amperes) = (self.test, self.emitter, self.idle);
        let stage = self.stage;
        LotRow { id, version: 0, name, type_number, stage, test_amperes, emitter_ohms, idle_amperes }
    }
}

/// Reads a lot.
///
/// # Errors
/// 422 with the field to blame.
pub fn typed(l: &LotTyped) -> Result<Typed, ApiError> {
    let amount = |field: &str, q, text: &str, zero: bool| -> Result<Option<f64>, ApiError> {
        let text = text.trim();
        match text {
            "" => Ok(None),
            "0" if zero => Ok(Some(0.0)),
            _ => match parse::best(q, text) {
                Ok(v) if v > 0.0 || (zero && v == 0.0) => Ok(Some(v)),
                Ok(_) => Err(ApiError::field(field, "a value above zero is needed")),
                Err(e) => Err(ApiError::field(field, e)),
            },
        }
    };
    if l.pieces.len() > MOST {
        return Err(ApiError::field("pieces", format!("at most {MOST} pieces in a lot")));
    }
    let mut pieces: Vec<(String, f64, f64)> = Vec::new();
    for (i, p) in l.pieces.iter().enumerate() {
        let at = |f: &str| format!("pieces[{i}].{f}");
        let label = checked_text(&at("label"), &p.label, 20)?;
        if label.is_empty() {
            return Err(ApiError::field(at("label"), "each piece needs a label, such as 1 or A"));
        }
        if pieces.iter().any(|(other, _, _)| *other == label) {
            return Err(ApiError::field(at("label"), format!("'{label}' stands there twice")));
        }
        let number = |text: &str| text.trim().replace(',', ".").parse::<f64>().ok();
        let gain = number(&p.gain).filter(|g| *g > 0.0 && *g < 1e6).ok_or_else(|| {
            ApiError::field(at("gain"), format!("'{}' is no gain such as 85", p.gain.trim()))
        })?;
        let volts = match number(&p.base_volts) {
            // A meter that shows 612 means millivolt.
            Some(v) if (50.0..=5000.0).contains(&v) => Some(v / 1000.0),
            Some(v) => Some(v),
            None => parse::best(Quantity::Voltage, &p.base_volts).ok(),
        };
        let volts = volts.filter(|v| *v > 0.0 && *v <= 5.0).ok_or_else(|| {
            let why = format!("'{}' is no base voltage such as 0.612 or 612 mV", p.base_volts.trim());
            ApiError::field(at("base_volts"), why)
        })?;
        pieces.push((label, gain, volts));
    }
    Ok(Typed {
        stage: l.stage,
        test: amount("test_current", Quantity::Current, &l.test_current, false)?,
        emitter: amount("emitter_resistor", Quantity::Resistance, &l.emitter_resistor, true)?,
        idle: amount("idle_current", Quantity::Current, &l.idle_current, false)?,
        pieces,
    })
}
