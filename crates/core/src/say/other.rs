//! Sentences about parts that are no resistors: a marking, what the sheet says, or a reading.

use super::extras::Extras;
use super::measured::{is_beyond, measured, spoken};
use super::{Entered, Known, Mark, Measured, Other, SayError, Understood, read_entry};
use crate::marking::{Hints, read_text};
use crate::part::PartKind;
use crate::reading::ReadQuantity;
use crate::reading::doubt::doubt;

/// Understands what is said of `name`.
pub(super) fn understood(
    kind: PartKind,
    name: String,
    mut extras: Extras<'_>,
    known: Option<&Known>,
) -> Result<Understood, SayError> {
    let words = std::mem::take(&mut extras.rest);
    let is_sheet = |w: &&str| w.eq_ignore_ascii_case("sheet");
    let at = words.iter().position(is_sheet).unwrap_or(words.len());
    let (before, sheet) = (&words[..at], words.get(at + 1..).unwrap_or_default());
    if at < words.len() && sheet.is_empty() {
        return Err(SayError::NoSheetValue(name));
    }
    let mut could_also_be = vec![];
    let entered = reading(kind, &name, before, &extras, known)?;
    let mut other = None;
    if let Some(e) = &entered {
        could_also_be.clone_from(&e.others);
    } else {
        let text: Vec<&str> = before.iter().filter(|w| !w.eq_ignore_ascii_case("marked")).copied().collect();
        let marking = text.join(" ");
        if !marking.is_empty() {
            let mut all = read_text(&marking, Hints::of(kind))?;
            let meaning = all.remove(0);
            could_also_be = all.iter().map(|m| m.value.to_string()).collect();
            other = Some(Other { marking, meaning });
        }
    }
    let sheet = sheet.join(" ");
    let mut sheet_si = None;
    if !sheet.is_empty() {
        let winding = (kind == PartKind::Coil).then(|| Extras::winding(&sheet)).flatten();
        match winding {
            Some(ohms) => extras.said.winding = Some(ohms),
            None => sheet_si = read_text(&sheet, Hints::of(kind))?.remove(0).value.number().map(|(_, v)| v),
        }
    }
    if entered.is_none() && (extras.state.is_some() || extras.hot.is_some() || extras.at.is_some()) {
        return Err(SayError::NoReading(name));
    }
    let says_what_it_is = other.is_some()
        || sheet_si.is_some()
        || extras.said.winding.is_some()
        || extras.said.family.is_some();
    if known.is_none() && !says_what_it_is {
        return Err(SayError::NewWithoutMarking(name, kind));
    }
    let question = entered.as_ref().and_then(|e| {
        let expected = known.and_then(|k| k.marked_si.or(k.sheet_si))?;
        let comparable = kind.quantity() == Some(e.quantity.quantity());
        comparable.then(|| doubt(e.quantity, e.value_si?, expected)).flatten()
    });
    Ok(Understood {
        kind,
        fresh: known.is_none(),
        mark: Mark::default(),
        other,
        sheet_si,
        measured: entered.as_ref().map(|e| Measured {
            pin: pin_of(before).map(|(pin, _)| pin).filter(|_| kind == PartKind::Ic),
            ..measured(e, &extras, known)
        }),
        said: extras.said,
        doubt: question,
        in_words: String::new(),
        could_also_be,
        name,
    })
}

/// The pin that words name, `pin 5`, and what stands behind it.
fn pin_of<'a>(words: &'a [&'a str]) -> Option<(u8, &'a [&'a str])> {
    let (first, rest) = words.split_first().filter(|(w, _)| w.eq_ignore_ascii_case("pin"))?;
    let _pin = first;
    let (number, rest) = rest.split_first()?;
    Some((number.parse().ok()?, rest))
}

/// Volts at a pin of a circuit: `pin 5 4.6`, `pin 5 = 4.6V`.
fn at_a_pin(words: &[&str], equals: bool) -> Result<Option<Entered>, SayError> {
    match pin_of(words) {
        Some((pin, rest)) => {
            let text = rest.iter().copied().filter(|w| *w != "=").collect::<Vec<_>>().join(" ");
            if text.is_empty() {
                return Err(SayError::Wants(format!("pin {pin}"), "the volts that were read there"));
            }
            read_entry(ReadQuantity::PinVoltage, &text).map(Some)
        }
        None if equals => Err(SayError::Wants("=".to_owned(), "the pin before it, such as pin 5 = 4.6")),
        None => Ok(None),
    }
}

/// The reading in `words`, where they are one: behind an equals sign, behind a word for what is read, with a
/// test condition or a state, or a bare value of a part whose marking is known already.
fn reading(
    kind: PartKind,
    name: &str,
    words: &[&str],
    extras: &Extras<'_>,
    known: Option<&Known>,
) -> Result<Option<Entered>, SayError> {
    if words.is_empty() {
        return Ok(None);
    }
    let equals = words.contains(&"=");
    if kind == PartKind::Ic {
        return at_a_pin(words, equals);
    }
    if kind == PartKind::Lamp {
        return if equals { Err(SayError::NotMeasured(name.to_owned(), kind)) } else { Ok(None) };
    }
    let words: Vec<&str> = words.iter().copied().filter(|w| *w != "=").collect();
    if words.is_empty() {
        return Err(SayError::NoReading(name.to_owned()));
    }
    if words.len() == 1 && is_beyond(words[0]) && known.is_some() {
        let quantity = of(kind);
        return Ok(Some(Entered { quantity, value_si: None, others: vec![] }));
    }
    let said_as_read = equals || extras.at.is_some() || extras.state.is_some() || extras.hot.is_some();
    let names_quantity = words.len() > 1 && words[0].chars().all(|c| c.is_ascii_alphabetic());
    let bare = known.is_some_and(|k| k.has_mark) && words.len() == 1;
    if !(said_as_read || names_quantity || bare) {
        return Ok(None);
    }
    let entered = spoken(kind, &words)?;
    if entered.is_none() && equals {
        // Say what is wrong with the number.
        super::read_entry(of(kind), &words.join(" "))?;
    }
    Ok(entered)
}

fn of(kind: PartKind) -> ReadQuantity {
    match kind {
        PartKind::Capacitor => ReadQuantity::Capacitance,
        PartKind::Diode => ReadQuantity::ForwardVoltage,
        PartKind::Transistor => ReadQuantity::Gain,
        PartKind::Coil | PartKind::Resistor | PartKind::Lamp | PartKind::Ic => ReadQuantity::Resistance,
    }
}
