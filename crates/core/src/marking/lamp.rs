//! Dial lamps by their number: `#47` is 6.3 V, 150 mA.

use std::sync::LazyLock;

use serde::Deserialize;

use super::{Code, Meaning, Value};
use crate::part::PartKind;
use crate::quantity::{Ampere, Volt};
use crate::source::Source;
use crate::table::rows;

/// A lamp.
#[derive(Debug, Clone, Deserialize)]
pub struct Lamp {
    /// Its number.
    pub number: String,
    /// Design volts.
    pub volts: f64,
    /// Design amperes.
    pub amperes: f64,
    /// Its base.
    pub base: String,
    /// The colour of the bead inside; empty where it has none or it is not known.
    pub bead: String,
    /// Where the row comes from.
    pub source: Source,
}

static LAMPS: LazyLock<Vec<Lamp>> =
    LazyLock::new(|| rows("marking/lamp.csv", include_str!("../../data/marking/lamp.csv")));

/// The lamps.
#[must_use]
pub fn lamps() -> &'static [Lamp] {
    &LAMPS
}

/// Reads a lamp's number: with `#`, `No` or the word "lamp" beside it, or alone where the part is
/// known to be a lamp. `None` where nothing says that it is a lamp, or the table has no such number.
#[must_use]
pub fn meaning(text: &str, is_lamp: bool) -> Option<Meaning> {
    let text = text.trim().to_lowercase();
    let mut said = is_lamp || text.starts_with('#');
    let mut number = None;
    for word in text.split(|c: char| c.is_whitespace() || c == '#').filter(|w| !w.is_empty()) {
        match word {
            "lamp" | "dial" | "pilot" | "bulb" => said = true,
            "no" | "no." | "nr" | "type" => {}
            word if number.is_none() => number = Some(word),
            _ => return None,
        }
    }
    let number = number.filter(|_| said)?;
    let lamp = LAMPS.iter().find(|l| l.number == number)?;
    let volts = Volt::computed(lamp.volts);
    let mut m = Meaning::new(PartKind::Lamp, Code::LampNumber, Value::Voltage(volts), lamp.source.clone());
    m.current = Some(Ampere::computed(lamp.amperes));
    m.because.push(format!("lamp number {}: {} base", lamp.number, lamp.base));
    if !lamp.bead.is_empty() {
        m.notes.push(format!("{} bead", lamp.bead));
    }
    Some(m)
}
