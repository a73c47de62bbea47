//! The grammar of the owl line: whom it is about, and what is said of any part.

use super::chip::{Chip, ChipSlot};
use super::extras::{About, Extras};
use super::hear::Word;
use super::subject::{Subject, subject};
use super::{Known, LONGEST, Measured, SayError, Tray, Understood, hear, other, resistor};
use crate::named::Named;
use crate::part::PartKind;
use crate::quantity::format::{format, percent};
use crate::quantity::{Fraction, Quantity, Watt};
use crate::transistor::device::{device, meant};

/// Understands a sentence about a part on a tray; about the first of them where it names several.
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
    Ok(understand_each(text, tray)?.swap_remove(0))
}

/// Understands a sentence about one part or several: the same is said of each. Never empty.
///
/// # Errors
/// As [`understand`].
pub fn understand_each(text: &str, tray: &Tray) -> Result<Vec<Understood>, SayError> {
    let length = text.chars().count();
    if length > LONGEST {
        return Err(SayError::TooLong(length));
    }
    let Subject { names, rest } = subject(hear::hear(text), tray)?;
    let mut all = Vec::with_capacity(names.len());
    for (name, word) in &names {
        let known = tray.parts.iter().find(|p| p.name == *name);
        let kind = kind_of(name, known, &rest);
        let about = About { kind, name, typed: text, tray };
        let extras = Extras::of(&about, &rest)?;
        let mut understood = match kind {
            PartKind::Resistor => resistor::understood(&about, extras, known)?,
            PartKind::Capacitor
            | PartKind::Coil
            | PartKind::Diode
            | PartKind::Lamp
            | PartKind::Transistor
            | PartKind::Ic
            | PartKind::Valve
            | PartKind::Fuse
            | PartKind::Switch
            | PartKind::Loudspeaker => other::understood(&about, extras, known)?,
        };
        let at = word.as_ref().map_or(0..0, |w| w.at.clone());
        understood.chips.push(Chip::of(ChipSlot::Name, name.clone(), text, &at));
        understood.chips.sort_by_key(|c| (c.slot != ChipSlot::Name, c.at.start));
        understood.in_words = in_words(&understood);
        understood.was = known.map_or_else(Vec::new, |k| was(&understood, k));
        all.push(understood);
    }
    if all.len() > 1 && all.iter().any(|u| !u.measured.is_empty()) {
        let names: Vec<&str> = all.iter().map(|u| u.name.as_str()).collect();
        return Err(SayError::ReadingOfSeveral(names.join(", ")));
    }
    Ok(all)
}

/// What a part is: as the tray has it, or as its name says; T1 with a transistor's number beside it is one.
fn kind_of(name: &str, known: Option<&Known>, rest: &[Word]) -> PartKind {
    let is_t = name.strip_prefix('T').is_some_and(|n| n.starts_with(|c: char| c.is_ascii_digit()));
    let transistor = || rest.iter().any(|w| meant(&w.text, device).is_some());
    match known.and_then(|k| k.kind) {
        Some(kind) => kind,
        None if is_t && transistor() => PartKind::Transistor,
        None => PartKind::called(name).unwrap_or(PartKind::Resistor),
    }
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
    said.extend(s.place.as_ref().map(|p| format!("at {p}")));
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
    said.extend(u.measured.iter().map(measured_in_words));
    format!("{}{}", if u.fresh { "new on the tray: " } else { "" }, said.join(", "))
}

/// What is known of a part and would be another after this sentence, as it was.
fn was(u: &Understood, known: &Known) -> Vec<String> {
    let s = &u.said;
    let mut out = Vec::new();
    let changed = |old: Option<f64>, new: Option<f64>| old.zip(new).filter(|(a, b)| a != b).map(|(a, _)| a);
    if let (Some(v), Some(q)) = (changed(known.sheet_si, u.sheet_si), u.kind.quantity()) {
        out.push(format!("sheet {}", format(q, v)));
    }
    if u.mark.value.is_none() {
        let tolerance =
            changed(known.tolerance.map(Fraction::fraction), u.mark.tolerance.map(Fraction::fraction));
        out.extend(tolerance.map(|t| format!("±{}", percent(t))));
    }
    let power = changed(known.power.map(Watt::watts), u.mark.power.map(Watt::watts));
    out.extend(power.map(|p| format(Quantity::Power, p).to_string()));
    out.extend(known.family.filter(|f| s.family.is_some_and(|n| n != *f)).map(|f| f.name().to_owned()));
    out.extend(known.position.filter(|p| s.position.is_some_and(|n| n != *p)).map(|p| p.to_string()));
    let place = s.place.as_ref().filter(|p| !known.place.is_empty() && **p != known.place);
    out.extend(place.map(|_| format!("at {}", known.place)));
    out
}

fn measured_in_words(r: &Measured) -> String {
    let heat = if r.hot { ", hot" } else { "" };
    let mode = r.mode.map(|m| format!(", {}", m.name())).unwrap_or_default();
    format!("{}, {}{heat}{mode}", r.value_in_words(), r.state)
}
