//! Dial lamps by their number: `#47` is 6.3 V, 150 mA.

use std::sync::LazyLock;

use serde::Deserialize;

use super::{Code, Meaning, Value};
use crate::part::PartKind;
use crate::quantity::{Ampere, Quantity, Volt, parse};
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

/// The quantity whose unit stands behind the number of a word.
fn unit(word: &str) -> Option<Quantity> {
    parse::quantity_of_unit(word.trim_start_matches(|c: char| c.is_ascii_digit() || ".,".contains(c)))
}

/// A lamp by its volts and, where it is printed, its current: `6.3V 150mA`.
fn by_rating(text: &str) -> Option<Meaning> {
    let of = |q: Quantity| {
        let word = text.split_whitespace().find(|w| unit(w) == Some(q))?;
        parse::best(q, word).ok().filter(|v| *v > 0.0)
    };
    let volts = Volt::new(of(Quantity::Voltage)?).ok()?;
    let source = Source::practice("volts and current as printed");
    let mut m = Meaning::new(PartKind::Lamp, Code::PlainText, Value::Voltage(volts), source);
    m.current = of(Quantity::Current).and_then(|a| Ampere::new(a).ok());
    Some(m)
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
            word if unit(word).is_some() => {}
            _ => return None,
        }
    }
    if let Some(rated) = by_rating(&text).filter(|_| said) {
        return Some(rated);
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
