//! Sentences about parts that are no resistors: a marking, what the sheet says, or readings.

use std::ops::Range;

use super::chip::{Chip, ChipSlot};
use super::everyday;
use super::extras::{About, At, Extras, others};
use super::hear::{Word, begins_a_number};
use super::measured::{Beyond, found, is_a_word, is_said_for_a_value, measured, named_alone, spoken};
use super::{Entered, Known, Mark, Meant, Other, SayError, Understood, read_entry};
use crate::marking::{Hints, MarkingError, Meaning, read_text};
use crate::part::PartKind;
use crate::quantity::{Ohm, Quantity, parse};
use crate::reading::ReadQuantity;
use crate::reading::doubt::doubt;

/// Understands what is said of a part.
pub(super) fn understood(
    about: &About<'_>,
    mut extras: Extras,
    known: Option<&Known>,
) -> Result<Understood, SayError> {
    let (kind, name) = (about.kind, about.name);
    let words = std::mem::take(&mut extras.rest);
    let at = words.iter().position(|w| w.text.eq_ignore_ascii_case("sheet")).unwrap_or(words.len());
    let (before, sheet) = (&words[..at], words.get(at + 1..).unwrap_or_default());
    if at < words.len() && sheet.is_empty() {
        return Err(SayError::NoSheetValue(name.to_owned()));
    }
    let mut could_also_be = vec![];
    let (marking, mut entered) = taken(about, before, &mut extras, known)?;
    if let Some((beyond, span)) = &extras.beyond {
        // Only an eye is said with the volts at which it was looked at.
        let eye = matches!(beyond, Beyond::EyeOpens | Beyond::EyeClosed);
        let at = extras.at.first().map(|(_, at)| *at).filter(|_| eye);
        entered.push(Read { entered: found(kind, name, *beyond)?, at, span: span.clone() });
    }
    if let Some(r) = entered.first() {
        could_also_be = read_otherwise(about, &r.entered.others, &r.span)?;
    }
    let mut other = None;
    let (copper, marking) = copper(kind, marking);
    if let Some((ohms, at)) = copper {
        extras.said.winding = Some(ohms);
        extras.chips.push(Chip::of(ChipSlot::Sheet, format!("{ohms} of copper"), about.typed, &at));
    }
    if !marking.is_empty() {
        let marking: Vec<Word> =
            marking.into_iter().filter(|w| !w.text.eq_ignore_ascii_case("marked")).collect();
        let (meaning, others) = marked(about, &marking)?;
        could_also_be.extend(others);
        let typed: Vec<&str> = marking.iter().map(|w| &about.typed[w.at.clone()]).collect();
        let span = span_of(&marking);
        extras.chips.push(Chip::of(ChipSlot::Mark, meaning.in_words(), about.typed, &span));
        other = Some(Other { marking: typed.join(" "), meaning });
    }
    if let (None, None, PartKind::Valve) = (&other, known, kind) {
        other = from_the_chart(about);
    }
    let mut sheet_si = None;
    if !sheet.is_empty() {
        let span = span_of(&words[at..]);
        let sheet = sheet.iter().map(|w| w.text.as_str()).collect::<Vec<_>>().join(" ");
        let winding = (kind == PartKind::Coil).then(|| Extras::winding(&sheet)).flatten();
        let text = match winding {
            Some(ohms) => {
                extras.said.winding = Some(ohms);
                format!("sheet {ohms}")
            }
            None => {
                let value = read_text(&sheet, Hints::of(kind))?.remove(0).value;
                sheet_si = value.number().map(|(_, v)| v);
                format!("sheet {value}")
            }
        };
        extras.chips.push(Chip::of(ChipSlot::Sheet, text, about.typed, &span));
    }
    if entered.is_empty() && (extras.state.is_some() || extras.hot.is_some() || !extras.at.is_empty()) {
        return Err(SayError::NoReading(name.to_owned()));
    }
    let says_what_it_is = other.is_some()
        || sheet_si.is_some()
        || extras.said.winding.is_some()
        || extras.said.family.is_some()
        // Nothing is printed on a contact.
        || kind == PartKind::Switch;
    if known.is_none() && !says_what_it_is {
        return Err(SayError::NewWithoutMarking(name.to_owned(), kind));
    }
    let own = other.as_ref().and_then(|o| o.meaning.value.number().map(|(_, v)| v));
    let question = entered.iter().find_map(|r| {
        let expected = own.or_else(|| known.and_then(|k| k.marked_si.or(k.sheet_si)))?;
        let comparable = kind.quantity() == Some(r.entered.quantity.quantity());
        comparable.then(|| doubt(r.entered.quantity, r.entered.value_si?, expected)).flatten()
    });
    let pin = pin_of(before).map(|(pin, _)| pin).filter(|_| kind == PartKind::Ic);
    let mut all = Vec::with_capacity(entered.len());
    for r in &entered {
        let m = super::Measured { pin, ..measured(kind, &r.entered, r.at, &extras, known) };
        extras.chips.push(Chip::of(ChipSlot::Reading, m.value_in_words(), about.typed, &r.span));
        all.push(m);
    }
    Ok(Understood {
        kind,
        fresh: known.is_none(),
        mark: Mark::default(),
        other,
        sheet_si,
        measured: all,
        said: extras.said,
        doubt: question,
        in_words: String::new(),
        could_also_be,
        was: vec![],
        chips: extras.chips,
        name: name.to_owned(),
    })
}

/// The type of a valve that is not on the tray, as the chart has it.
fn from_the_chart(about: &About<'_>) -> Option<Other> {
    let there = about.tray.valves.iter().find(|v| v.at == about.name)?;
    let meaning = read_text(&there.type_number, Hints::of(PartKind::Valve)).ok()?.into_iter().next()?;
    Some(Other { marking: there.type_number.clone(), meaning })
}

/// The ohms of a coil among what is marked on it, and the rest.
fn copper(kind: PartKind, words: &[Word]) -> (Option<(Ohm, Range<usize>)>, Vec<Word>) {
    let mut rest = words.to_vec();
    let ohms = |w: &Word| {
        let unit = w.text.trim_start_matches(|c: char| c.is_ascii_digit() || ".,".contains(c));
        let in_ohms = unit.to_lowercase().contains("ohm") || unit.contains('Ω');
        Extras::winding(&w.text).filter(|_| in_ohms && begins_a_number(&w.text))
    };
    let found = rest.iter().position(|w| kind == PartKind::Coil && ohms(w).is_some());
    let copper = found.map(|i| rest.remove(i)).and_then(|w| Some((ohms(&w)?, w.at)));
    (copper, rest)
}

/// What is marked, in the words that are no reading: the likeliest meaning, and what else it could be.
fn marked(about: &About<'_>, words: &[Word]) -> Result<(Meaning, Vec<Meant>), SayError> {
    let text = words.iter().map(|w| w.text.as_str()).collect::<Vec<_>>().join(" ");
    let mut all = read_text(&text, Hints::of(about.kind)).map_err(|e| unclear(about, words, e))?;
    // Only a value can be typed otherwise, where one word gives it.
    let number = words.iter().find(|w| begins_a_number(&w.text)).map(|w| w.at.clone());
    let values = all.iter().filter(|m| m.value.number().is_some());
    let meanings: Vec<(String, f64)> = values.map(|m| (m.value.to_string(), m.likelihood)).collect();
    let meant = number.filter(|_| meanings.len() == all.len());
    let otherwise = meant.map(|at| others(about.typed, &at, &meanings)).transpose()?.unwrap_or_default();
    Ok((all.remove(0), otherwise))
}

/// What a reading could be as well, as sentences.
fn read_otherwise(about: &About<'_>, texts: &[String], span: &Range<usize>) -> Result<Vec<Meant>, SayError> {
    let stretch = &about.typed[span.clone()];
    let Some(from) = stretch.find(|c: char| c.is_ascii_digit() || c == '.').filter(|_| !texts.is_empty())
    else {
        return Ok(vec![]);
    };
    let to = stretch[from..].find(char::is_whitespace).map_or(stretch.len(), |n| from + n);
    let at = span.start + from..span.start + to;
    // The first is what it was taken for.
    let all: Vec<(String, f64)> =
        std::iter::once((String::new(), 1.0)).chain(texts.iter().map(|t| (t.clone(), 0.0))).collect();
    others(about.typed, &at, &all)
}

/// The word that spoils a marking, where it is one word.
fn unclear(about: &About<'_>, words: &[Word], error: MarkingError) -> SayError {
    let without = |i: usize| {
        let rest: Vec<&str> =
            words.iter().enumerate().filter(|(k, _)| *k != i).map(|(_, w)| w.text.as_str()).collect();
        !rest.is_empty() && read_text(&rest.join(" "), Hints::of(about.kind)).is_ok()
    };
    let spoils = |w: &&Word| !begins_a_number(&w.text);
    let odd = words.iter().enumerate().filter(|(_, w)| spoils(w)).find(|(i, _)| without(*i));
    match odd {
        Some((_, w)) => everyday::unknown(&w.text, about.kind),
        // Nothing but words: a slip in one of them is told.
        None => (words.iter().filter(spoils).map(|w| everyday::unknown(&w.text, about.kind)))
            .find(|e| matches!(e, SayError::Word { near: Some(_), .. }))
            .unwrap_or(SayError::Marking(error)),
    }
}

fn span_of(words: &[Word]) -> Range<usize> {
    let first = words.first().map_or(0, |w| w.at.start);
    first..words.last().map_or(first, |w| w.at.end)
}

/// A reading with its condition, and where it stands.
struct Read {
    entered: Entered,
    at: Option<At>,
    span: Range<usize>,
}

/// The pin that words name, `pin 5`, and what stands behind it.
fn pin_of(words: &[Word]) -> Option<(u8, &[Word])> {
    let (_, rest) = words.split_first().filter(|(w, _)| w.text.eq_ignore_ascii_case("pin"))?;
    let (number, rest) = rest.split_first()?;
    Some((number.text.parse().ok()?, rest))
}

/// Volts at a pin of a circuit: `pin 5 4.6`, `pin 5 = 4.6V`.
fn at_a_pin(words: &[Word], equals: bool) -> Result<Vec<Read>, SayError> {
    match pin_of(words) {
        Some((pin, rest)) => {
            let text =
                rest.iter().map(|w| w.text.as_str()).filter(|w| *w != "=").collect::<Vec<_>>().join(" ");
            if text.is_empty() {
                return Err(SayError::Wants(format!("pin {pin}"), "the volts that were read there"));
            }
            let entered = read_entry(ReadQuantity::PinVoltage, &text)?;
            Ok(vec![Read { entered, at: None, span: span_of(words) }])
        }
        None if equals => Err(SayError::Wants("=".to_owned(), "the pin before it, such as pin 5 = 4.6")),
        None => Ok(vec![]),
    }
}

/// The words of the marking and the readings: behind an equals sign, behind a word for what is read, with a test condition
/// or a state, or a bare value of a part whose marking is known already.
fn taken<'w>(
    about: &About<'_>,
    words: &'w [Word],
    extras: &mut Extras,
    known: Option<&Known>,
) -> Result<(&'w [Word], Vec<Read>), SayError> {
    let kind = about.kind;
    if words.is_empty() {
        return Ok((words, vec![]));
    }
    let equals = words.iter().any(|w| w.text == "=");
    if kind == PartKind::Ic {
        let read = at_a_pin(words, equals)?;
        return Ok((if read.is_empty() { words } else { &words[..0] }, read));
    }
    if kind == PartKind::Lamp {
        return if equals {
            Err(SayError::NotMeasured(about.name.to_owned(), kind))
        } else {
            Ok((words, vec![]))
        };
    }
    let starts = starts(about, words, extras, known);
    let Some(first) = starts.first().copied() else { return Ok((words, vec![])) };
    let mut read = Vec::new();
    for (k, from) in starts.iter().enumerate() {
        let to = starts.get(k + 1).copied().unwrap_or(words.len());
        let stretch = &words[*from..to];
        // A condition belongs to the reading before it; the first has what stands ahead of it as well.
        let begins = if k == 0 { 0 } else { words[*from].at.start };
        let ends = words.get(to).map_or(usize::MAX, |w| w.at.start);
        let mut condition = extras.at_in(&(begins..ends));
        let mut texts: Vec<&str> = stretch.iter().map(|w| w.text.as_str()).filter(|w| *w != "=").collect();
        if condition.is_none() {
            condition = volts_behind(&mut texts);
        }
        if texts.is_empty() {
            // "= OL": what it is was taken already.
            if extras.beyond.is_some() {
                continue;
            }
            return Err(SayError::NoReading(about.name.to_owned()));
        }
        if let (PartKind::Valve, Some(of), Some((beyond, _))) =
            (kind, named_alone(kind, &texts), &extras.beyond)
        {
            let entered = Entered::of(of, (*beyond == Beyond::Short).then_some(0.0));
            extras.beyond = None;
            read.push(Read { entered, at: condition, span: span_of(stretch) });
            continue;
        }
        let entered = spoken(kind, &texts)?;
        let Some(entered) = entered else {
            if stretch[0].text == "=" {
                // Say what is wrong with the number.
                read_entry(of(kind), &texts.join(" "))?;
            }
            return Ok((words, vec![]));
        };
        read.push(Read { entered, at: condition, span: span_of(stretch) });
    }
    Ok((&words[..first], read))
}

/// Where readings begin in what is said.
fn starts(about: &About<'_>, words: &[Word], extras: &Extras, known: Option<&Known>) -> Vec<usize> {
    let is_word = |w: &Word| is_a_word(about.kind, &w.text);
    let mut starts: Vec<usize> = (0..words.len())
        .filter(|i| {
            // A word without its value is asked for it.
            let current = words.get(i + 1).is_some_and(|n| n.text.eq_ignore_ascii_case("current"));
            let behind = words
                .get(i + 1 + usize::from(current))
                .is_none_or(|n| begins_a_number(&n.text) || n.text == "=" || is_said_for_a_value(&n.text));
            let after_equals = *i > 0 && words[i - 1].text == "=";
            words[*i].text == "=" && !(*i > 0 && is_word(&words[i - 1]))
                || is_word(&words[*i]) && behind && !after_equals
        })
        .collect();
    // What stands instead of a value is the reading: a number beside it is marked.
    let read = extras.beyond.is_none();
    let said_as_read = read && (!extras.at.is_empty() || extras.state.is_some() || extras.hot.is_some());
    let has_mark = known.is_some_and(|k| k.has_mark);
    let bare = (has_mark || about.kind == PartKind::Switch) && words.len() == 1;
    // A contact has nothing printed on it: a value is what was read.
    if starts.is_empty() && (said_as_read && known.is_some() || bare) && begins_a_number(&words[0].text) {
        starts.push(0);
    }
    // "C7 27.9u esr 2.2": the value ahead of the first word is read as well.
    if starts.first().is_some_and(|s| *s == 1) && has_mark && begins_a_number(&words[0].text) {
        let quantity = about.kind.quantity().unwrap_or(Quantity::Voltage);
        if parse::parse(quantity, &words[0].text).is_ok() {
            starts.insert(0, 0);
        }
    }
    starts
}

/// `35uA 300V` of a leak: the volts at which it was measured.
fn volts_behind(texts: &mut Vec<&str>) -> Option<At> {
    let leaks = texts.first().is_some_and(|w| w.to_lowercase().starts_with("leak"));
    let last = texts.last().filter(|_| leaks && texts.len() > 2)?;
    let unit = last.trim_start_matches(|c: char| c.is_ascii_digit() || ".,".contains(c));
    if parse::quantity_of_unit(unit) != Some(Quantity::Voltage) {
        return None;
    }
    let volts = last.parse().ok()?;
    texts.pop();
    Some(At::Volts(volts))
}

fn of(kind: PartKind) -> ReadQuantity {
    match kind {
        PartKind::Capacitor => ReadQuantity::Capacitance,
        PartKind::Diode => ReadQuantity::ForwardVoltage,
        PartKind::Transistor => ReadQuantity::Gain,
        PartKind::Valve => ReadQuantity::Emission,
        PartKind::Coil
        | PartKind::Resistor
        | PartKind::Lamp
        | PartKind::Ic
        | PartKind::Fuse
        | PartKind::Switch
        | PartKind::Loudspeaker => ReadQuantity::Resistance,
    }
}
