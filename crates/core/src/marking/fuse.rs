//! What is printed on a fuse: `T500mA`, `F1A 250V`, `2A slow` (IEC 60127-1: the letter before the current).

use super::{Code, Meaning, Rating, Value, VoltsKind};
use crate::named::Named;
use crate::part::{FuseSpeed, PartKind};
use crate::quantity::{Ampere, Quantity, parse};
use crate::source::Source;

/// Words for a speed (practice: bench speech).
const WORDS: &[(&str, FuseSpeed)] = &[
    ("quick", FuseSpeed::Quick),
    ("fast", FuseSpeed::Quick),
    ("flink", FuseSpeed::Quick),
    ("medium", FuseSpeed::Medium),
    ("slow", FuseSpeed::TimeLag),
    ("slo-blo", FuseSpeed::TimeLag),
    ("slow-blow", FuseSpeed::TimeLag),
    ("delay", FuseSpeed::TimeLag),
    ("time-lag", FuseSpeed::TimeLag),
    ("anti-surge", FuseSpeed::TimeLag),
    ("antisurge", FuseSpeed::TimeLag),
    ("träge", FuseSpeed::TimeLag),
];

/// The speed that a letter or a word names: `T`, `slow`, `speed T`.
#[must_use]
pub fn speed_of(text: &str) -> Option<FuseSpeed> {
    text.split_whitespace().find_map(|w| {
        let letter = FuseSpeed::from_name(&w.to_ascii_uppercase()).ok();
        letter.or_else(|| WORDS.iter().find(|(n, _)| w.eq_ignore_ascii_case(n)).map(|(_, s)| *s))
    })
}

fn unit_of(word: &str) -> &str {
    word.trim_start_matches(|c: char| c.is_ascii_digit() || ".,".contains(c))
}

/// The words with each number beside its unit: `1.6 A` is `1.6A`.
fn joined(text: &str) -> String {
    let mut out = String::new();
    let mut bare = false;
    for word in text.split_whitespace() {
        if !(out.is_empty() || bare && parse::quantity_of_unit(word).is_some()) {
            out.push(' ');
        }
        out.push_str(word);
        bare = unit_of(word).is_empty();
    }
    out
}

/// What a fuse's print says; `None` where there is no current in it, or a word that is nothing of a fuse's.
#[must_use]
pub fn meaning(text: &str) -> Option<Meaning> {
    let (mut rated, mut volts, mut speed) = (None, None, None);
    for word in joined(text).split_whitespace() {
        // T500mA: the letter stands before the number.
        let number = word.find(|c: char| c.is_ascii_digit() || c == '.');
        let (head, tail) = word.split_at(number.unwrap_or(word.len()));
        let said = speed_of(head);
        if !head.is_empty() && said.is_none() {
            match head.to_ascii_lowercase().as_str() {
                "fuse" | "blow" | "lag" => continue,
                _ => return None,
            }
        }
        speed = speed.or(said);
        if tail.is_empty() {
            continue;
        }
        match parse::quantity_of_unit(unit_of(tail)) {
            Some(Quantity::Current) => rated = parse::best(Quantity::Current, tail).ok(),
            Some(Quantity::Voltage) => volts = parse::best(Quantity::Voltage, tail).ok(),
            _ => return None,
        }
    }
    let rated = rated.and_then(|a| Ampere::new(a).ok()).filter(|a| *a > Ampere::ZERO)?;
    let source = Source::standard("IEC 60127-1 (memory)");
    let mut m = Meaning::new(PartKind::Fuse, Code::PlainText, Value::Current(rated), source);
    m.rating = volts.and_then(|v| Rating::new(v, VoltsKind::Alternating));
    m.notes.extend(speed.map(|s| format!("speed {s}")));
    m.because.push(match speed {
        Some(s) => format!("fuse of speed {s}"),
        None => "no letter says how fast it is".to_owned(),
    });
    Some(m)
}
