//! Words that can be said of a part of any kind: its family and place, how it sat, what is seen on it, what is
//! known of the circuit round it. They are taken out of the sentence; what is left is a value or a marking.

use super::{Said, SayError, Tray};
use crate::named::Named;
use crate::part::circuit::CircuitError;
use crate::part::{Fact, Family, MadeOf, PartKind, Position, VisualSign};
use crate::quantity::{Hertz, Ohm, Quantity, Volt, parse};
use crate::reading::{Mode, State};

/// Words for a state, longest first.
const STATES: &[(&str, State)] = &[
    ("out of circuit", State::OutOfCircuit),
    ("valve pulled", State::ValvePulled),
    ("tube pulled", State::ValvePulled),
    ("one end lifted", State::Lifted),
    ("in circuit", State::InCircuit),
    ("lifted", State::Lifted),
    ("pulled", State::ValvePulled),
    ("free", State::Lifted),
    ("in", State::InCircuit),
    ("out", State::OutOfCircuit),
];

/// Shorter words for a family.
const FAMILIES: &[(&str, MadeOf)] = &[
    ("carbon comp", MadeOf::Resistor(Family::CarbonComposition)),
    ("composition", MadeOf::Resistor(Family::CarbonComposition)),
    ("comp", MadeOf::Resistor(Family::CarbonComposition)),
    ("wire wound", MadeOf::Resistor(Family::Wirewound)),
    ("wound", MadeOf::Resistor(Family::Wirewound)),
    ("film", MadeOf::Resistor(Family::CarbonFilm)),
];

/// Words for a fact of the circuit; a value stands behind each.
const FACTS: &[(&str, Fact)] = &[
    ("grid", Fact::GridResistor),
    ("bias", Fact::Bias),
    ("volts", Fact::Voltage),
    ("across", Fact::Voltage),
    ("rail", Fact::Rail),
    ("feed", Fact::FeedResistor),
    ("source", Fact::SourceResistance),
    ("turns", Fact::TurnsRatio),
];

/// What stands behind an @.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(super) enum At {
    Volts(Volt),
    Hertz(Hertz),
    /// A bare number: the quantity tells which.
    Bare(f64),
}

/// The words that were taken out, and those that are left.
#[derive(Debug, Default)]
pub(super) struct Extras<'w> {
    pub said: Said,
    pub state: Option<State>,
    pub hot: Option<bool>,
    pub mode: Option<Mode>,
    pub at: Option<At>,
    pub rest: Vec<&'w str>,
}

impl<'w> Extras<'w> {
    /// Takes the words out of a sentence about a part of `kind` called `name`.
    pub fn of(kind: PartKind, name: &str, words: &[&'w str], tray: &Tray) -> Result<Self, SayError> {
        let mut extras = Self::default();
        let mut i = 0;
        while i < words.len() {
            let rest = &words[i..];
            i += match extras.take(kind, name, rest, tray)? {
                0 => {
                    extras.rest.push(rest[0]);
                    1
                }
                used => used,
            };
        }
        Ok(extras)
    }

    /// How many words at the head of `rest` are understood here.
    fn take(&mut self, kind: PartKind, name: &str, rest: &[&str], tray: &Tray) -> Result<usize, SayError> {
        let word = rest[0];
        let is = |w: &str| word.eq_ignore_ascii_case(w);
        if let Some(text) = word.strip_prefix('@') {
            let (text, used) =
                if text.is_empty() { (rest.get(1).copied().unwrap_or(""), 2) } else { (text, 1) };
            self.at = Some(condition(text)?);
            return Ok(used);
        }
        if is("pair") || is("group") {
            let Some(other) = rest.get(1) else {
                return Err(SayError::Wants(word.to_owned(), "another part"));
            };
            let other = other.to_ascii_uppercase();
            if other == name || !tray.parts.iter().any(|p| p.name == other) {
                return Err(SayError::NoPartner(other));
            }
            *(if is("pair") { &mut self.said.pair } else { &mut self.said.group }) = Some(other);
            return Ok(2);
        }
        if is("fed") && rest.get(1).is_some_and(|w| w.eq_ignore_ascii_case("by")) {
            let Some(feed) = rest.get(2) else {
                return Err(SayError::Wants("fed by".to_owned(), "a resistor"));
            };
            let feed = feed.to_ascii_uppercase();
            if !feed.starts_with('R') || feed == name || !tray.parts.iter().any(|p| p.name == feed) {
                return Err(SayError::NoFeed(feed));
            }
            self.said.fed_by = Some(feed);
            return Ok(3);
        }
        if is("warm") && rest.get(1).is_some_and(|w| w.eq_ignore_ascii_case("test")) {
            self.said.test_warm = Some(true);
            return Ok(2);
        }
        if let Some(used) = self.number(kind, rest)? {
            return Ok(used);
        }
        if let Some((position, used)) = Position::at_head(kind, rest) {
            self.said.position = Some(position);
            return Ok(used);
        }
        // The longest name first: "silver mica" before "mica".
        let families: Vec<(&str, MadeOf)> = MadeOf::ALL
            .iter()
            .filter(|f| f.suits(kind))
            .map(|f| (f.name(), *f))
            .chain(FAMILIES.iter().filter(|(_, f)| f.suits(kind)).copied())
            .collect();
        if let Some((family, used)) = phrase(rest, &families) {
            self.said.family = Some(family);
            return Ok(used);
        }
        let looks: Vec<(&str, VisualSign)> = VisualSign::of(kind).map(|l| (l.name(), l)).collect();
        if let Some((look, used)) = phrase(rest, &looks) {
            if !self.said.looks.contains(&look) {
                self.said.looks.push(look);
            }
            return Ok(used);
        }
        if let Some((state, used)) = phrase(rest, STATES) {
            self.state = Some(state);
            return Ok(used);
        }
        if is("hot") || is("warm") || is("cool") {
            self.hot = Some(!is("cool"));
            return Ok(1);
        }
        if let Ok(mode) = Mode::from_name(word) {
            self.mode = Some(mode);
            return Ok(1);
        }
        Ok(0)
    }

    /// `grid 330k`, `bias -4`, `made 1951`, `plates 6`; `None` where no such word stands at the head.
    fn number(&mut self, kind: PartKind, rest: &[&str]) -> Result<Option<usize>, SayError> {
        let word = rest[0].to_ascii_lowercase();
        let whole = |what: &'static str| -> Result<u16, SayError> {
            let number = rest.get(1).and_then(|w| w.parse().ok());
            number.ok_or_else(|| SayError::Wants(word.clone(), what))
        };
        match (word.as_str(), kind) {
            ("made", _) => {
                self.said.made = Some(whole("a year")?);
                return Ok(Some(2));
            }
            ("plates", PartKind::Diode) => {
                self.said.plates = Some(whole("how many plates")?.max(1));
                return Ok(Some(2));
            }
            _ => {}
        }
        // A resistor's "feed" and "grid leak" are its places.
        if kind == PartKind::Resistor {
            return Ok(None);
        }
        let Some((_, fact)) = FACTS.iter().find(|(w, _)| *w == word) else { return Ok(None) };
        let Some(text) =
            rest.get(1).filter(|t| t.starts_with(|c: char| c.is_ascii_digit() || "-−+.".contains(c)))
        else {
            return Ok(None);
        };
        // "600 volts 20 %" is a marking and no fact.
        let Ok(value) = parse::best(fact.quantity(), text) else { return Ok(None) };
        let mut check = crate::part::Circuit::default();
        check.set_si(*fact, value).map_err(|e: CircuitError| SayError::Wants(word.clone(), wanted(e)))?;
        self.said.facts.retain(|(f, _)| f != fact);
        self.said.facts.push((*fact, value));
        Ok(Some(2))
    }

    /// A winding's resistance behind the word "sheet", where it is one.
    pub fn winding(text: &str) -> Option<Ohm> {
        if parse::quantity_of_unit(text.trim_start_matches(|c: char| c.is_ascii_digit() || ".,".contains(c)))
            == Some(Quantity::Inductance)
        {
            return None;
        }
        parse::best(Quantity::Resistance, text).ok().and_then(|v| Ohm::new(v).ok()).filter(|r| *r > Ohm::ZERO)
    }
}

fn wanted(e: CircuitError) -> &'static str {
    match e {
        CircuitError::NotFinite => "a number",
        CircuitError::NotPositive => "a value above zero",
        CircuitError::NotATemperature => "a heat sink between −40 and 200 °C",
    }
}

fn condition(text: &str) -> Result<At, SayError> {
    let wants = || SayError::Wants("@".to_owned(), "the volts or the hertz of the test");
    let unit = text.trim_start_matches(|c: char| c.is_ascii_digit() || ".,".contains(c));
    match parse::quantity_of_unit(unit) {
        Some(Quantity::Voltage) => Ok(At::Volts(text.parse().map_err(|_| wants())?)),
        Some(Quantity::Frequency) => Ok(At::Hertz(text.parse().map_err(|_| wants())?)),
        // "1k" and "250" have no unit; a resistance reads the same prefixes.
        _ => parse::best(Quantity::Frequency, text).map(At::Bare).map_err(|_| wants()),
    }
}

pub(super) fn phrase<T: Copy>(words: &[&str], phrases: &[(&str, T)]) -> Option<(T, usize)> {
    phrases
        .iter()
        .filter_map(|(text, value)| {
            let parts: Vec<&str> = text.split(' ').collect();
            let fits =
                words.len() >= parts.len() && parts.iter().zip(words).all(|(a, b)| a.eq_ignore_ascii_case(b));
            fits.then_some((*value, parts.len()))
        })
        .max_by_key(|(_, used)| *used)
}
