//! Words that can be said of a part of any kind: its family and place, how it sat, what is seen on it, what is
//! known of the circuit round it. They are taken out of the sentence; what is left is a value, a marking or a reading.

use std::ops::Range;

use super::chip::{Chip, ChipSlot};
use super::everyday::{self, Everyday};
use super::hear::{Word, begins_a_number, is_filler};
use super::measured::{Beyond, beyond, is_a_word};
use super::place::{self, Place};
use super::{Meant, Said, SayError, Tray};
use crate::named::Named;
use crate::part::circuit::CircuitError;
use crate::part::{Fact, MadeOf, PartKind, Position, VisualSign};
use crate::phrase::longest;
use crate::quantity::format::format;
use crate::quantity::{Hertz, Ohm, Quantity, Volt, parse};
use crate::reading::{Mode, State};
use crate::socket::Electrode;

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

/// Words for the other half of a pair.
const PAIRS: &[&str] = &["pair", "paired", "pairs", "matched", "mate"];

/// What stands behind an @.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(super) enum At {
    Volts(Volt),
    Hertz(Hertz),
    /// A bare number: the quantity tells which.
    Bare(f64),
}

/// What a sentence is taken apart for.
pub(super) struct About<'a> {
    pub kind: PartKind,
    pub name: &'a str,
    /// The sentence as typed.
    pub typed: &'a str,
    pub tray: &'a Tray,
}

/// Whether what is read of such a part is read at its pins, so that a pin is no place where it sits.
fn is_read_at_pins(kind: PartKind) -> bool {
    matches!(kind, PartKind::Ic | PartKind::Valve)
}

/// The words that were taken out, and those that are left.
#[derive(Debug, Default)]
pub(super) struct Extras {
    pub said: Said,
    pub state: Option<State>,
    pub hot: Option<bool>,
    pub mode: Option<Mode>,
    /// Conditions of a test, with where they stand.
    pub at: Vec<(usize, At)>,
    /// Shorted, open or beyond the range.
    pub beyond: Option<(Beyond, Range<usize>)>,
    /// An electrode that was said without its valve, and its word.
    electrode: Option<(Electrode, Word)>,
    /// What is left.
    pub rest: Vec<Word>,
    pub chips: Vec<Chip>,
}

impl Extras {
    /// Takes the words out of a sentence.
    pub fn of(about: &About<'_>, words: &[Word]) -> Result<Self, SayError> {
        let mut extras = Self::default();
        let mut sits: Option<Place> = None;
        let mut i = 0;
        while i < words.len() {
            let stop = words[i..].iter().position(|w| w.stop).map_or(words.len(), |k| i + k + 1);
            let texts: Vec<&str> = words[i..stop].iter().map(|w| w.text.as_str()).collect();
            if words[i].quoted {
                extras.chips.push(Chip::of(ChipSlot::Place, &words[i].text, about.typed, &words[i].at));
                extras.said.place = Some(words[i].text.clone());
                i += 1;
                continue;
            }
            let span = |used: usize| words[i].at.start..words[i + used - 1].at.end;
            // Volts at a pin of a circuit or a valve are a reading, and an electrode is its own.
            let place = (!is_read_at_pins(about.kind)).then(|| place::at_head(about.kind, &texts)).flatten();
            if let Some((place, used)) = place {
                extras.chips.push(Chip::of(ChipSlot::Place, place.text.clone(), about.typed, &span(used)));
                extras.said.place = Some(place.text.clone());
                sits = Some(place);
                i += used;
                continue;
            }
            let used = extras.take(about, &texts, &words[i..stop])?;
            if used == 0 && !is_filler(&words[i].text) && !everyday::is_its_kind(&words[i].text, about.kind) {
                extras.rest.push(words[i].clone());
            }
            i += used.max(1);
        }
        extras.roles(about, sits.as_ref())?;
        Ok(extras)
    }

    /// The position that follows from the electrode, where none was said. One without its valve says nothing but that.
    fn roles(&mut self, about: &About<'_>, sits: Option<&Place>) -> Result<(), SayError> {
        let alone = self.electrode.take();
        let said = sits.and_then(|p| p.electrode).or(alone.as_ref().map(|(e, _)| *e));
        let Some(electrode) = said.filter(|_| self.said.position.is_none()) else {
            return Ok(());
        };
        let value = self.rest.iter().find_map(|w| {
            let quantity = about.kind.quantity()?;
            begins_a_number(&w.text).then(|| parse::best(quantity, &w.text).ok()).flatten()
        });
        let known = about.tray.parts.iter().find(|p| p.name == about.name);
        let value = known.and_then(|k| k.marked_si.or(k.sheet_si)).or(value);
        let Some(position) = place::role(electrode, about.kind, value) else {
            return alone.map_or(Ok(()), |(_, w)| Err(everyday::unknown(&w.text, about.kind)));
        };
        self.said.position = Some(position);
        let place = self.chips.iter().find(|c| c.slot == ChipSlot::Place).map(|c| c.at.clone());
        let at = place.or(alone.map(|(_, w)| w.at)).unwrap_or(0..0);
        self.chips.push(Chip { slot: ChipSlot::Position, text: position.name().to_owned(), at });
        Ok(())
    }

    /// How many words at the head of `rest` are understood here.
    fn take(&mut self, about: &About<'_>, rest: &[&str], words: &[Word]) -> Result<usize, SayError> {
        let (kind, word) = (about.kind, rest[0]);
        let is = |w: &str| word.eq_ignore_ascii_case(w);
        let span = |used: usize| words[0].at.start..words[used - 1].at.end;
        let chip = |slot, text: &str, used: usize| Chip::of(slot, text, about.typed, &span(used));
        if let Some(used) = self.condition(about, rest, words)? {
            return Ok(used);
        }
        if let Some(used) = self.tie(about, rest, words)? {
            return Ok(used);
        }
        if is("warm") && rest.get(1).is_some_and(|w| w.eq_ignore_ascii_case("test")) {
            self.said.test_warm = Some(true);
            self.chips.push(chip(ChipSlot::Fact, "to be tested warm", 2));
            return Ok(2);
        }
        if let Some((text, used)) = self.number(kind, rest)? {
            self.chips.push(chip(ChipSlot::Fact, &text, used));
            return Ok(used);
        }
        let position = Position::at_head(kind, rest);
        let families: Vec<(&str, MadeOf)> =
            MadeOf::ALL.iter().filter(|f| f.suits(kind)).map(|f| (f.name(), *f)).collect();
        let family = longest(rest, families);
        let looks: Vec<(&str, VisualSign)> = VisualSign::of(kind).map(|l| (l.name(), l)).collect();
        let look = longest(rest, looks);
        let named =
            [position.map(|p| p.1), family.map(|f| f.1), look.map(|l| l.1)].into_iter().flatten().max();
        // The longest phrase counts: "electrolytic" before "electro", "line bypass" before "bypass".
        if let Some((said, used)) =
            everyday::at_head(kind, rest).filter(|(_, n)| named.is_none_or(|m| *n > m))
        {
            return self.everyday(about, said, &span(used), used);
        }
        if let Some((position, used)) = position.filter(|p| Some(p.1) == named) {
            self.position(position)?;
            self.chips.push(chip(ChipSlot::Position, position.name(), used));
            return Ok(used);
        }
        if let Some((family, used)) = family.filter(|f| Some(f.1) == named) {
            self.said.family = Some(family);
            self.chips.push(chip(ChipSlot::Family, family.name(), used));
            return Ok(used);
        }
        if let Some((look, used)) = look {
            self.look(look);
            self.chips.push(chip(ChipSlot::Look, look.name(), used));
            return Ok(used);
        }
        if let Some((place, used)) = place::node_at_head(rest) {
            self.chips.push(chip(ChipSlot::Place, &place.text, used));
            self.said.place = Some(place.text);
            return Ok(used);
        }
        // Of a fuse it says that nothing flows; of a capacitor it would not.
        let blown = (kind == PartKind::Fuse && is("blown")).then_some((Beyond::Open, 1));
        // A contact is closed, and no eye.
        let found =
            beyond(rest).or(blown).filter(|(b, _)| kind != PartKind::Switch || *b != Beyond::EyeClosed);
        if let Some((found, used)) = found {
            self.beyond = Some((found, span(used)));
            return Ok(used);
        }
        if is("hot") || is("warm") || is("cool") || is("cold") {
            self.hot = Some(is("hot") || is("warm"));
            self.chips.push(chip(ChipSlot::State, &word.to_lowercase(), 1));
            return Ok(1);
        }
        if let Ok(mode) = Mode::from_name(word) {
            self.mode = Some(mode);
            self.chips.push(chip(ChipSlot::State, mode.name(), 1));
            return Ok(1);
        }
        if let Some(electrode) = place::electrode_alone(word).filter(|_| !is_read_at_pins(kind)) {
            self.electrode = Some((electrode, words[0].clone()));
            return Ok(1);
        }
        Ok(0)
    }

    fn position(&mut self, position: Position) -> Result<(), SayError> {
        match self.said.position.replace(position) {
            Some(other) if other != position => {
                Err(SayError::TwoPlaces(other.name().to_owned(), position.name().to_owned()))
            }
            _ => Ok(()),
        }
    }

    fn look(&mut self, look: VisualSign) {
        if !self.said.looks.contains(&look) {
            self.said.looks.push(look);
        }
    }

    fn everyday(
        &mut self,
        about: &About<'_>,
        said: Everyday,
        span: &Range<usize>,
        used: usize,
    ) -> Result<usize, SayError> {
        let (slot, text) = match said {
            Everyday::Family(family) => {
                self.said.family = Some(family);
                (ChipSlot::Family, family.name())
            }
            Everyday::Position(position) => {
                self.position(position)?;
                (ChipSlot::Position, position.name())
            }
            Everyday::Look(look) => {
                self.look(look);
                (ChipSlot::Look, look.name())
            }
            Everyday::State(state) => {
                self.state = Some(state);
                (ChipSlot::State, state.name())
            }
            Everyday::OneOf(all) => return Err(SayError::Which(which(about.typed, span, &all))),
        };
        self.chips.push(Chip::of(slot, text, about.typed, span));
        Ok(used)
    }

    /// `@400`, `@ 1k`, `at 60V`.
    fn condition(
        &mut self,
        about: &About<'_>,
        rest: &[&str],
        words: &[Word],
    ) -> Result<Option<usize>, SayError> {
        let start = words[0].at.start;
        let next = || rest.get(1).copied().unwrap_or("");
        let (text, used) = match rest[0].strip_prefix('@') {
            Some("") => (next(), 2),
            Some(text) => (text, 1),
            None if rest[0].eq_ignore_ascii_case("at") || rest[0].eq_ignore_ascii_case("bei") => {
                // "8 mfd at 450 volts" is printed so.
                let read = self.beyond.is_some()
                    || self.rest.iter().any(|w| w.text == "=" || is_a_word(about.kind, &w.text));
                let marked = about.tray.parts.iter().any(|p| p.name == about.name && p.has_mark);
                if !begins_a_number(next()) || !(read || marked) {
                    return Ok(None);
                }
                (next(), 2)
            }
            None => return Ok(None),
        };
        self.at.push((start, condition(text)?));
        Ok(Some(used))
    }

    /// `pair R8`, `paired with R8`, `group R7`, `fed by R3`, `from R3`.
    fn tie(&mut self, about: &About<'_>, rest: &[&str], words: &[Word]) -> Result<Option<usize>, SayError> {
        let word = rest[0].to_lowercase();
        let there = |name: &str| about.tray.parts.iter().any(|p| p.name == name);
        let second = rest.get(1).map_or(String::new(), |w| w.to_lowercase());
        let lead = 1 + usize::from(["with", "to", "of"].contains(&second.as_str()));
        let chip = |text: String, used: usize| {
            Chip::of(ChipSlot::Tie, text, about.typed, &(words[0].at.start..words[used - 1].at.end))
        };
        if PAIRS.contains(&word.as_str()) || word == "group" {
            let Some(other) = rest.get(lead) else {
                return Err(SayError::Wants(rest[0].to_owned(), "another part"));
            };
            let other = other.to_ascii_uppercase();
            if other == about.name || !there(&other) {
                return Err(SayError::NoPartner(other));
            }
            let group = word == "group";
            let text = if group { format!("in the group of {other}") } else { format!("pair with {other}") };
            self.chips.push(chip(text, lead + 1));
            *(if group { &mut self.said.group } else { &mut self.said.pair }) = Some(other);
            return Ok(Some(lead + 1));
        }
        let by = match (word.as_str(), second.as_str()) {
            ("fed", "by" | "from" | "through" | "via") => 2,
            ("behind" | "from", _) if super::subject::part_name(rest.get(1).unwrap_or(&"")).is_some() => 1,
            _ => return Ok(None),
        };
        let Some(feed) = rest.get(by) else {
            return Err(SayError::Wants("fed by".to_owned(), "a resistor"));
        };
        let feed = feed.to_ascii_uppercase();
        if !feed.starts_with('R') || feed == about.name || !there(&feed) {
            return Err(SayError::NoFeed(feed));
        }
        self.chips.push(chip(format!("fed through {feed}"), by + 1));
        self.said.fed_by = Some(feed);
        Ok(Some(by + 1))
    }

    /// `grid 330k`, `bias -4`, `made 1951`, `plates 6`; `None` where no such word stands at the head.
    fn number(&mut self, kind: PartKind, rest: &[&str]) -> Result<Option<(String, usize)>, SayError> {
        let word = rest[0].to_ascii_lowercase();
        let whole = |what: &'static str| -> Result<u16, SayError> {
            let number = rest.get(1).and_then(|w| w.parse().ok());
            number.ok_or_else(|| SayError::Wants(word.clone(), what))
        };
        let whole_first = word.parse().ok().filter(|n: &u16| (1..=200).contains(n));
        let counted = rest.get(1).is_some_and(|w| w.eq_ignore_ascii_case("plates"));
        if let Some(n) = whole_first.filter(|_| counted && kind == PartKind::Diode) {
            self.said.plates = Some(n);
            return Ok(Some((format!("{n} plates"), 2)));
        }
        match (word.as_str(), kind) {
            ("made", _) => {
                let year = whole("a year")?;
                self.said.made = Some(year);
                return Ok(Some((format!("made in {year}"), 2)));
            }
            ("plates", PartKind::Diode) => {
                let plates = whole("how many plates")?.max(1);
                self.said.plates = Some(plates);
                return Ok(Some((format!("{plates} plates"), 2)));
            }
            _ => {}
        }
        // A resistor's "feed" and "grid leak" are its places, and a valve's grid is its own.
        if matches!(kind, PartKind::Resistor | PartKind::Valve) {
            return Ok(None);
        }
        let Some((_, fact)) = FACTS.iter().find(|(w, _)| *w == word) else { return Ok(None) };
        let Some(text) = rest.get(1).filter(|t| begins_a_number(t)) else { return Ok(None) };
        // "600 volts 20 %" is a marking and no fact.
        let Ok(value) = parse::best(fact.quantity(), text) else { return Ok(None) };
        let mut check = crate::part::Circuit::default();
        check.set_si(*fact, value).map_err(|e: CircuitError| SayError::Wants(word.clone(), wanted(e)))?;
        self.said.facts.retain(|(f, _)| f != fact);
        self.said.facts.push((*fact, value));
        let label = fact.label().map_or(word.as_str(), |l| l.label.as_str());
        Ok(Some((format!("{label} {}", format(fact.quantity(), value)), 2)))
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

    /// The condition of a test that stands in a stretch of the text.
    pub fn at_in(&self, stretch: &Range<usize>) -> Option<At> {
        self.at.iter().find(|(i, _)| stretch.contains(i)).map(|(_, at)| *at)
    }
}

/// A second meaning is asked about from this share of the first one's likelihood (practice: what a hand would ask as well).
const ASKED_FROM: f64 = 0.5;

/// The meanings of a value that was typed at `span`, each with its likelihood, the likeliest first: the others as sentences.
///
/// # Errors
/// [`SayError::Which`] where the second is nearly as likely as the first.
pub(super) fn others(
    typed: &str,
    span: &Range<usize>,
    meanings: &[(String, f64)],
) -> Result<Vec<Meant>, SayError> {
    let tight: Vec<String> =
        meanings.iter().map(|(m, _)| m.chars().filter(|c| !c.is_whitespace()).collect()).collect();
    let texts: Vec<&str> = tight.iter().map(String::as_str).collect();
    let all: Vec<Meant> = which(typed, span, &texts)
        .into_iter()
        .zip(meanings)
        .map(|(m, (label, _))| Meant { label: label.clone(), ..m })
        .collect();
    match meanings {
        [(_, first), (_, second), ..] if *second >= ASKED_FROM * first => Err(SayError::Which(all)),
        _ => Ok(all.into_iter().skip(1).collect()),
    }
}

/// The sentence with each of the meanings in the place of what has several.
pub(super) fn which(typed: &str, span: &Range<usize>, meanings: &[&str]) -> Vec<Meant> {
    let with = |m: &&str| {
        let sentence = format!("{}{m}{}", &typed[..span.start], &typed[span.end..]);
        Meant { label: (*m).to_owned(), sentence }
    };
    meanings.iter().map(with).collect()
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
