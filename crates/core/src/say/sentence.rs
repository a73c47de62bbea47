//! The grammar of the owl line: whom it is about, and what is said of any part.

use super::extras::Extras;
use super::{LONGEST, Measured, SayError, Tray, Understood, other, resistor};
use crate::named::Named;
use crate::part::PartKind;
use crate::quantity::format::{format, percent};

/// Understands a sentence about the parts on a tray.
///
/// # Errors
/// [`SayError`], in words for the person who typed it.
///
/// ```
/// use owl_core::say::{Tray, understand};
/// let said = understand("R14 8k2 10% 1W cathode", &Tray::default()).unwrap();
/// assert_eq!((said.name.as_str(), said.fresh), ("R14", true));
/// assert!(understand("R14", &Tray::default()).is_err());
/// ```
pub fn understand(text: &str, tray: &Tray) -> Result<Understood, SayError> {
    let length = text.chars().count();
    if length > LONGEST {
        return Err(SayError::TooLong(length));
    }
    let spaced = text.replace('=', " = ");
    let words: Vec<&str> = spaced.split_whitespace().collect();
    let (name, rest) = subject(&words, tray)?;
    let known = tray.parts.iter().find(|p| p.name == name);
    let kind = PartKind::called(&name).unwrap_or(PartKind::Resistor);
    let extras = Extras::of(kind, &name, rest, tray)?;
    let mut understood = match kind {
        PartKind::Resistor => resistor::understood(name, extras, known)?,
        PartKind::Capacitor
        | PartKind::Coil
        | PartKind::Diode
        | PartKind::Lamp
        | PartKind::Transistor
        | PartKind::Ic => other::understood(kind, name, extras, known)?,
    };
    understood.in_words = in_words(&understood);
    Ok(understood)
}

/// The part that the sentence is about, and the words behind it.
fn subject<'a, 'w>(words: &'a [&'w str], tray: &Tray) -> Result<(String, &'a [&'w str]), SayError> {
    let first = words.first().ok_or(SayError::Empty)?;
    if let Some(name) = part_name(first) {
        return match PartKind::called(&name) {
            Some(_) => Ok((name, &words[1..])),
            None => Err(SayError::NoSuchKind(name)),
        };
    }
    match &tray.selected {
        Some(name) => Ok((name.clone(), words)),
        None => Err(SayError::NoPart(first.chars().take(20).collect())),
    }
}

/// A designation such as R14, C3, VR2 or R101A, in capitals.
fn part_name(word: &str) -> Option<String> {
    let letters = word.chars().take_while(char::is_ascii_alphabetic).count();
    let (head, tail) = word.split_at(letters);
    let digits = tail.chars().take_while(char::is_ascii_digit).count();
    let suffix = &tail[digits..];
    let fits = (1..=2).contains(&letters)
        && (1..=4).contains(&digits)
        && (suffix.is_empty() || (suffix.len() == 1 && suffix.chars().all(|c| c.is_ascii_alphabetic())));
    let designators =
        ["R", "RV", "C", "L", "P", "PL", "T", "V", "Q", "D", "CR", "TR", "VR", "IC", "U", "K", "S", "F"];
    (fits && designators.iter().any(|d| head.eq_ignore_ascii_case(d))).then(|| word.to_ascii_uppercase())
}

/// What was understood, in one line.
fn in_words(u: &Understood) -> String {
    if u.only_selects() {
        return "select it".to_owned();
    }
    let mut said: Vec<String> = Vec::new();
    let m = &u.mark;
    if let Some(v) = m.value {
        let tolerance = m.tolerance.map(|t| format!(" ±{}", percent(t.fraction()))).unwrap_or_default();
        said.push(format!("marked {v}{tolerance}"));
    } else if let Some(t) = m.tolerance {
        said.push(format!("±{}", percent(t.fraction())));
    }
    said.extend(m.power.map(|p| p.to_string()));
    said.extend(u.other.as_ref().map(|o| format!("marked {}", o.meaning.in_words())));
    let s = &u.said;
    said.extend(s.family.map(|f| f.name().to_owned()));
    said.extend(s.position.map(|p| p.to_string()));
    if let (Some(v), Some(q)) = (u.sheet_si, u.kind.quantity()) {
        said.push(format!("the sheet says {}", format(q, v)));
    }
    said.extend(s.winding.map(|r| format!("the sheet says {r} of copper")));
    said.extend(s.made.map(|y| format!("made in {y}")));
    said.extend(s.plates.map(|n| format!("{n} plates")));
    said.extend(s.pair.as_ref().map(|p| format!("pair with {p}")));
    said.extend(s.group.as_ref().map(|p| format!("in the group of {p}")));
    said.extend(s.looks.iter().map(|l| l.to_string()));
    said.extend(
        s.facts
            .iter()
            .filter_map(|(f, v)| Some(format!("{} {}", f.label()?.label, format(f.quantity(), *v)))),
    );
    said.extend(s.fed_by.as_ref().map(|f| format!("fed through {f}")));
    said.extend(s.test_warm.map(|_| "to be tested warm".to_owned()));
    said.extend(u.measured.as_ref().map(measured_in_words));
    format!("{}{}", if u.fresh { "new on the tray: " } else { "" }, said.join(", "))
}

fn measured_in_words(r: &Measured) -> String {
    let value = match r.value_si {
        None => format!("{} is beyond the meter's range", r.quantity.called()),
        Some(v) => {
            let name = match r.quantity {
                crate::reading::ReadQuantity::Resistance | crate::reading::ReadQuantity::Capacitance => {
                    "measures"
                }
                other => other.called(),
            };
            format!("{name} {}", r.quantity.written(v))
        }
    };
    let heat = if r.hot { ", hot" } else { "" };
    let mode = r.mode.map(|m| format!(", {}", m.name())).unwrap_or_default();
    let volts = r.test_voltage.map(|v| format!(" at {v}")).unwrap_or_default();
    let hertz = r.test_frequency.map(|f| format!(" at {f}")).unwrap_or_default();
    format!("{value}{volts}{hertz}, {}{heat}{mode}", r.state)
}
