//! Type numbers of valves: letters and digits, whoever made it.

use super::type_number::is_number;
use super::{Code, Meaning, Value};
use crate::part::PartKind;
use crate::source::Source;
use crate::valve::valve_type;

/// The type number of a valve, where the text can be one: digits, alone as `80`, or with letters.
#[must_use]
pub fn meaning(text: &str) -> Option<Meaning> {
    let text = text.trim().to_ascii_uppercase();
    let fits = is_number(&text) && !is_semiconductor(&text);
    fits.then(|| {
        let known = valve_type(&text);
        let source = known.map_or_else(|| Source::practice("type numbers of valves"), |t| t.source.clone());
        let mut m = Meaning::new(PartKind::Valve, Code::TypeNumber, Value::TypeNumber(text), source);
        m.because.push(match known {
            Some(t) => {
                let heater = t.heater.map_or_else(|| "no heater".to_owned(), |h| format!("heater {h}"));
                format!("{heater}; usually {}", t.usual)
            }
            None => "no table knows its data: it is judged by what the tester shows".to_owned(),
        });
        m
    })
}

/// Whether a number is a transistor's or a diode's: registered as 1N, 2N and so on, or in the tables and no valve's.
fn is_semiconductor(text: &str) -> bool {
    let registered = text.strip_prefix(['1', '2', '3']).is_some_and(|r| {
        r.strip_prefix('N').is_some_and(|n| n.len() >= 2 && n.starts_with(|c: char| c.is_ascii_digit()))
    });
    // 1N5 is a valve for batteries, 1N34 a diode.
    valve_type(text).is_none() && (registered || crate::transistor::device::device(text).is_some())
}
