//! Numbers that makers print on parts and that say nothing of themselves.

use super::{Code, Meaning, Value};
use crate::part::PartKind;
use crate::source::Source;

/// The longest piece of a number without a digit: `WA`, `GTA`, `LONG` is none.
const LETTERS: usize = 3;

/// Whether a text can be a type number: digits, with or without letters, and no words.
pub(super) fn is_number(text: &str) -> bool {
    let piece = |w: &str| w.len() <= LETTERS || w.chars().any(|c| c.is_ascii_digit());
    (2..=24).contains(&text.len())
        && text.chars().any(|c| c.is_ascii_digit())
        && text.chars().all(|c| c.is_ascii_alphanumeric() || "-/ .".contains(c))
        && text.split_whitespace().all(piece)
}

/// A number of a part that has one and is not known by it: a switch's.
#[must_use]
pub fn meaning(part: PartKind, text: &str) -> Option<Meaning> {
    let text = text.trim().to_ascii_uppercase();
    let fits = is_number(&text);
    fits.then(|| {
        let mut m = Meaning::new(
            part,
            Code::TypeNumber,
            Value::TypeNumber(text),
            Source::practice("its maker's number"),
        );
        m.because.push("a number as printed".to_owned());
        m
    })
}
