//! Sentences about parts that are no resistors: a marking, and what the sheet says.

use super::{Mark, Other, SayError, Understood};
use crate::marking::{Hints, Meaning, read_text};
use crate::part::PartKind;
use crate::quantity::write::write;

/// Understands what is said of `name` behind it.
pub(super) fn understood(
    kind: PartKind,
    name: String,
    words: &[&str],
    known: bool,
) -> Result<Understood, SayError> {
    if words.contains(&"=") {
        return Err(SayError::NotMeasured(name, kind));
    }
    let is_sheet = |w: &&str| w.eq_ignore_ascii_case("sheet");
    let at = words.iter().position(is_sheet).unwrap_or(words.len());
    let (marking, sheet) = (&words[..at], words.get(at + 1..).unwrap_or_default());
    let marking: Vec<&str> = marking.iter().filter(|w| !w.eq_ignore_ascii_case("marked")).copied().collect();
    if at < words.len() && sheet.is_empty() {
        return Err(SayError::NoSheetValue(name));
    }
    let best = |text: &str| -> Result<(Meaning, Vec<String>), SayError> {
        let mut all = read_text(text, Hints::of(kind))?;
        let first = all.remove(0);
        Ok((first, all.iter().map(|m| m.value.to_string()).collect()))
    };
    let marking = marking.join(" ");
    let (meaning, could_also_be) = match marking.as_str() {
        "" => (None, vec![]),
        text => {
            let (meaning, others) = best(text)?;
            (Some(meaning), others)
        }
    };
    let sheet_si = match sheet.join(" ").as_str() {
        "" => None,
        text => best(text)?.0.value.number().map(|(_, v)| v),
    };
    if !known && meaning.is_none() && sheet_si.is_none() {
        return Err(SayError::NewWithoutMarking(name, kind));
    }
    let other = Other { kind, marking, meaning, sheet_si };
    Ok(Understood {
        in_words: in_words(&other, known),
        fresh: !known,
        name,
        mark: Mark::default(),
        sheet: None,
        pair: None,
        measured: None,
        other: Some(other),
        doubt: None,
        could_also_be,
    })
}

fn in_words(other: &Other, known: bool) -> String {
    let mut said: Vec<String> = Vec::new();
    if let Some(m) = &other.meaning {
        said.push(format!("marked {}", m.in_words()));
    }
    if let (Some(v), Some(q)) = (other.sheet_si, other.kind.quantity()) {
        said.push(format!("the sheet says {}", write(q, v)));
    }
    match (known, said.is_empty()) {
        (true, true) => "select it".to_owned(),
        (true, false) => said.join(", "),
        (false, _) => format!("new on the tray: {}", said.join(", ")),
    }
}
