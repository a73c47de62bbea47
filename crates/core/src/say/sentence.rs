//! The grammar of the owl line.

use super::{Known, LONGEST, Mark, Measured, SayError, Tray, Understood, other};
use crate::marking::plain_text::{Piece, pieces};
use crate::marking::{Colour, Hints, read_colours};
use crate::named::Named;
use crate::part::{Family, PartKind, Position};
use crate::quantity::write::percent;
use crate::quantity::{Ohm, Quantity, read};
use crate::reading::doubt::doubt;
use crate::reading::{Mode, State};

/// Words for a state, longest first.
const STATES: &[(&str, State)] = &[
    ("out of circuit", State::OutOfCircuit),
    ("valve pulled", State::Lifted),
    ("tube pulled", State::Lifted),
    ("one end lifted", State::Lifted),
    ("in circuit", State::InCircuit),
    ("lifted", State::Lifted),
    ("pulled", State::Lifted),
    ("free", State::Lifted),
    ("in", State::InCircuit),
    ("out", State::OutOfCircuit),
];

/// Shorter words for a family.
const FAMILIES: &[(&str, Family)] = &[
    ("carbon comp", Family::CarbonComposition),
    ("composition", Family::CarbonComposition),
    ("comp", Family::CarbonComposition),
    ("wire wound", Family::Wirewound),
    ("wound", Family::Wirewound),
    ("film", Family::CarbonFilm),
];

/// Words for a reading beyond the range.
const BEYOND: &[&str] = &["ol", "o.l", "o.l.", "over", "overrange", "open", "infinite", "∞"];

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
    match PartKind::called(&name) {
        Some(PartKind::Resistor) | None => {}
        Some(kind) => return other::understood(kind, name, rest, known.is_some()),
    }
    let said = Said::of(rest, &name, known.is_some())?;
    said.understood(name, known, tray)
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

fn is_beyond(word: &str) -> bool {
    BEYOND.iter().any(|b| word.eq_ignore_ascii_case(b))
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

/// The sentence taken apart, before it is known whether a value is a mark or a reading.
#[derive(Default)]
struct Said {
    value: Option<(Ohm, Vec<String>)>,
    mark: Mark,
    sheet: Option<Ohm>,
    pair: Option<String>,
    reading: Option<(Ohm, Vec<String>)>,
    beyond: bool,
    state: Option<State>,
    hot: Option<bool>,
    mode: Option<Mode>,
    marked: bool,
}

impl Said {
    fn of(words: &[&str], name: &str, known: bool) -> Result<Self, SayError> {
        let mut said = Self::default();
        let mut i = 0;
        let mut loose: Vec<&str> = Vec::new();
        while i < words.len() {
            let rest = &words[i..];
            let word = rest[0];
            i += if word == "=" {
                said.take_reading(rest, name)?
            } else if word.eq_ignore_ascii_case("sheet") {
                let (value, used) = value_behind(rest, name)?;
                said.sheet = Some(value);
                used
            } else if word.eq_ignore_ascii_case("marked") {
                said.marked = true;
                1
            } else if word.eq_ignore_ascii_case("pair") && rest.len() > 1 {
                said.pair = Some(rest[1].to_ascii_uppercase());
                2
            } else if let Some((position, used)) = Position::at_head(rest) {
                said.mark.position = Some(position);
                used
            } else if let Some((family, used)) = phrase(rest, FAMILIES).or_else(|| family_name(rest)) {
                said.mark.family = Some(family);
                used
            } else if let Some((state, used)) = phrase(rest, STATES) {
                said.state = Some(state);
                used
            } else if word.eq_ignore_ascii_case("hot") || word.eq_ignore_ascii_case("cool") {
                said.hot = Some(word.eq_ignore_ascii_case("hot"));
                1
            } else if let Ok(mode) = Mode::from_name(word) {
                said.mode = Some(mode);
                1
            } else if is_beyond(word) && known {
                said.beyond = true;
                1
            } else {
                loose.push(word);
                1
            };
        }
        said.take_loose(&loose)?;
        Ok(said)
    }

    /// `= 1270`, `= 1.27 k`, `= OL`.
    fn take_reading(&mut self, rest: &[&str], name: &str) -> Result<usize, SayError> {
        if rest.get(1).is_some_and(|w| is_beyond(w)) {
            self.beyond = true;
            return Ok(2);
        }
        let word = rest.get(1).ok_or_else(|| SayError::NoReading(name.to_owned()))?;
        // A unit that stands apart belongs to the number.
        let joined = rest.get(2).map(|unit| format!("{word}{unit}"));
        let with_unit = joined.filter(|j| {
            word.ends_with(|c: char| c.is_ascii_digit())
                && !rest[2].starts_with(|c: char| c.is_ascii_digit())
                && read::read(Quantity::Resistance, j).is_ok()
        });
        let used = if with_unit.is_some() { 3 } else { 2 };
        let text = with_unit.unwrap_or_else(|| (*word).to_owned());
        self.reading = Some(value_of(&text)?);
        Ok(used)
    }

    fn take_loose(&mut self, loose: &[&str]) -> Result<(), SayError> {
        let text = loose.join(" ");
        if let Some(colours) = Colour::list(&text)? {
            let best = read_colours(&colours, Hints::of(PartKind::Resistor))?.swap_remove(0);
            self.mark.value = best.resistance();
            self.mark.tolerance = best.tolerance_fraction();
            self.mark.colours = best.colours;
            return Ok(());
        }
        for piece in pieces(&text) {
            match piece {
                Piece::Tolerance(t) => self.mark.tolerance = Some(t),
                Piece::Power(p) => self.mark.power = Some(p),
                Piece::Value(meanings) => {
                    let best = &meanings[0];
                    let Some(ohms) = best.resistance() else { continue };
                    if let Some((first, _)) = self.value {
                        return Err(SayError::TwoValues(first.to_string(), ohms.to_string()));
                    }
                    if let Some(t) = best.tolerance_fraction() {
                        self.mark.tolerance = Some(t);
                    }
                    let others = meanings[1..].iter().map(|m| m.value.to_string()).collect();
                    self.value = Some((ohms, others));
                }
                Piece::Word(w) => {
                    // Say what is wrong with a number, rather than that it is no word.
                    if w.starts_with(|c: char| c.is_ascii_digit() || "-+.".contains(c)) {
                        value_of(&w)?;
                    }
                    return Err(SayError::Word(w.chars().take(20).collect()));
                }
            }
        }
        Ok(())
    }

    fn understood(
        mut self,
        name: String,
        known: Option<&Known>,
        tray: &Tray,
    ) -> Result<Understood, SayError> {
        let describes = self.marked || !self.mark.is_empty();
        let mut could_also_be = vec![];
        if let Some((value, others)) = self.value.take() {
            // A known part with a bare value is measured; otherwise the value is its mark.
            if known.is_some() && !describes && self.reading.is_none() {
                self.reading = Some((value, others));
            } else {
                self.mark.value = Some(value);
                could_also_be = others;
            }
        }
        if known.is_none() && self.mark.value.is_none() && self.sheet.is_none() {
            return Err(SayError::NewWithoutValue(name));
        }
        if let Some(partner) = &self.pair
            && (*partner == name || !tray.parts.iter().any(|p| p.name == *partner))
        {
            return Err(SayError::NoPartner(partner.clone()));
        }
        let state = self.state.or(known.and_then(|k| k.state)).unwrap_or(State::InCircuit);
        let mut question = None;
        let measured = match (self.reading, self.beyond) {
            (Some((value, others)), _) => {
                could_also_be = others;
                let expected = self.mark.value.or(known.and_then(|k| k.marked.or(k.sheet)));
                question = expected.and_then(|e| doubt(value, e));
                Some(Measured { value: Some(value), state, hot: self.hot == Some(true), mode: self.mode })
            }
            (None, true) => {
                Some(Measured { value: None, state, hot: self.hot == Some(true), mode: self.mode })
            }
            (None, false) if self.state.is_some() || self.hot.is_some() => {
                return Err(SayError::NoReading(name));
            }
            (None, false) => None,
        };
        let mut understood = Understood {
            fresh: known.is_none(),
            mark: self.mark,
            sheet: self.sheet,
            pair: self.pair,
            measured,
            doubt: question,
            other: None,
            in_words: String::new(),
            could_also_be,
            name,
        };
        understood.in_words = in_words(&understood);
        Ok(understood)
    }
}

/// What is typed into a reading's field alone: a value with its other meanings, or `None` for
/// beyond the range.
///
/// # Errors
/// [`SayError::Entry`] for what is neither.
pub fn read_entry(text: &str) -> Result<(Option<Ohm>, Vec<String>), SayError> {
    let text = text.trim().trim_start_matches('=').trim();
    if is_beyond(text) {
        return Ok((None, vec![]));
    }
    value_of(text).map(|(value, others)| (Some(value), others))
}

fn value_of(text: &str) -> Result<(Ohm, Vec<String>), SayError> {
    let entries = read::read(Quantity::Resistance, text)?;
    let ohm = |v: f64| Ohm::new(v).map_err(read::EntryError::Quantity);
    let best = ohm(entries[0].value)?;
    let others = entries[1..].iter().filter_map(|e| ohm(e.value).ok()).map(|o| o.to_string()).collect();
    Ok((best, others))
}

fn value_behind(rest: &[&str], name: &str) -> Result<(Ohm, usize), SayError> {
    let word = rest.get(1).ok_or_else(|| SayError::NoReading(name.to_owned()))?;
    Ok((value_of(word)?.0, 2))
}

fn phrase<T: Copy>(words: &[&str], phrases: &[(&str, T)]) -> Option<(T, usize)> {
    phrases.iter().find_map(|(text, value)| {
        let parts: Vec<&str> = text.split(' ').collect();
        let fits =
            words.len() >= parts.len() && parts.iter().zip(words).all(|(a, b)| a.eq_ignore_ascii_case(b));
        fits.then_some((*value, parts.len()))
    })
}

fn family_name(words: &[&str]) -> Option<(Family, usize)> {
    let names: Vec<(&str, Family)> = Family::ALL.iter().map(|f| (f.name(), *f)).collect();
    phrase(words, &names)
}

fn in_words(u: &Understood) -> String {
    let mut said: Vec<String> = Vec::new();
    let m = &u.mark;
    if let Some(v) = m.value {
        let tolerance = m.tolerance.map(|t| format!(" ±{}", percent(t.fraction()))).unwrap_or_default();
        said.push(format!("marked {v}{tolerance}"));
    } else if let Some(t) = m.tolerance {
        said.push(format!("±{}", percent(t.fraction())));
    }
    said.extend(m.power.map(|p| p.to_string()));
    said.extend(m.family.map(|f| f.to_string()));
    said.extend(m.position.map(|p| p.to_string()));
    said.extend(u.sheet.map(|s| format!("the sheet says {s}")));
    said.extend(u.pair.as_ref().map(|p| format!("pair with {p}")));
    if let Some(r) = &u.measured {
        let value =
            r.value.map_or_else(|| "is beyond the meter's range".to_owned(), |v| format!("measures {v}"));
        let heat = if r.hot { ", hot" } else { "" };
        let mode = r.mode.map(|m| format!(", {}", m.name())).unwrap_or_default();
        said.push(format!("{value}, {}{heat}{mode}", r.state));
    }
    if u.only_selects() {
        return "select it".to_owned();
    }
    let head = if u.fresh { "new on the tray: " } else { "" };
    format!("{head}{}", said.join(", "))
}
