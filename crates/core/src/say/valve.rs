//! Sentences about a valve on the voltage chart: `V2 EF89`, `V2 sheet 255 - 6.6 0`, `V2 plate 248 cathode 6.4`.

use std::ops::Range;

use super::chip::{Chip, ChipSlot};
use super::hear::{Word, hear};
use super::{LONGEST, SayError, everyday, place};
use crate::chart::board::{OnBoard, told};
use crate::chart::spoken::Volts;
use crate::part::PartKind;
use crate::quantity::parse::best;
use crate::quantity::{Quantity, Volt};
use crate::site::Site;

/// What is said of a valve.
#[derive(Debug, Clone, PartialEq)]
pub struct OfValve {
    /// The valve: `V2`.
    pub at: String,
    /// What.
    pub says: ValveSays,
    /// The same piece by piece.
    pub chips: Vec<Chip>,
}

/// What can be said of one.
#[derive(Debug, Clone, PartialEq)]
pub enum ValveSays {
    /// Its name alone: it is looked at.
    Look,
    /// Its type; of a whole board where several are told.
    Is(Vec<OnBoard>),
    /// Volts at its pins, by the sheet or as they were read.
    Volts {
        /// By the sheet.
        sheet: bool,
        /// At which pins.
        volts: Volts,
    },
}

/// The most volts that a chart takes.
const MOST_VOLTS: f64 = 1e6;

/// Understands a sentence about a valve; `None` for one about anything else.
///
/// # Errors
/// [`SayError`] in words: a type beside a number, a word that is no pin.
///
/// ```
/// use owl_core::chart::spoken::Volts;
/// use owl_core::say::{ValveSays, of_valve};
/// let said = of_valve("V7 sheet 210 95 2.8 0").unwrap().unwrap();
/// assert_eq!(said.at, "V7");
/// assert!(matches!(said.says, ValveSays::Volts { sheet: true, volts: Volts::InOrder(v) } if v.len() == 4));
/// assert!(of_valve("R7 22k").is_none());
/// ```
#[must_use]
pub fn of_valve(typed: &str) -> Option<Result<OfValve, SayError>> {
    if typed.chars().count() > LONGEST {
        return None;
    }
    let words = hear(typed);
    let (first, rest) = words.split_first()?;
    let at = place::valve(&first.text).filter(|n| n.starts_with('V'))?;
    let name = Chip::of(ChipSlot::Name, at.clone(), typed, &first.at);
    let done = |says, mut chips: Vec<Chip>| {
        chips.insert(0, name.clone());
        Some(Ok(OfValve { at: at.clone(), says, chips }))
    };
    let Some(second) = rest.first() else { return done(ValveSays::Look, vec![]) };
    let sheet = second.text.eq_ignore_ascii_case("sheet");
    let behind: Vec<&Word> = rest[usize::from(sheet)..].iter().filter(|w| !is_filler(w)).collect();
    let slot = if sheet { ChipSlot::Sheet } else { ChipSlot::Reading };
    if let Some(all) = in_order(&behind) {
        let chips = all
            .iter()
            .zip(&behind)
            .map(|(v, w)| Chip::of(slot, v.map_or_else(|| "–".to_owned(), |v| v.to_string()), typed, &w.at));
        let chips = chips.collect();
        let volts = Volts::InOrder(all);
        return done(ValveSays::Volts { sheet, volts }, chips);
    }
    match at_pins(&at, &behind) {
        Some(all) => {
            let chips =
                all.iter().map(|(s, v, bytes)| Chip::of(slot, format!("{} {v}", said_of(s)), typed, bytes));
            let chips = chips.collect();
            let volts = Volts::At(all.into_iter().map(|(s, v, _)| (s, v)).collect());
            done(ValveSays::Volts { sheet, volts }, chips)
        }
        None if sheet => {
            let odd = behind.iter().find(|w| volts_of(&w.text).is_none() && !is_skip(&w.text));
            let word = odd.map_or("sheet", |w| w.text.as_str());
            Some(Err(everyday::unknown(word, PartKind::Resistor)))
        }
        None => {
            let board = told(typed).ok().filter(|b| b.iter().all(is_typed))?;
            let chips = rest.iter().filter(|w| place::valve(&w.text).is_none());
            let chips = chips.map(|w| Chip::of(ChipSlot::Mark, w.text.clone(), typed, &w.at)).collect();
            done(ValveSays::Is(board), chips)
        }
    }
}

/// What a place on a valve is called beside its volts.
fn said_of(site: &Site) -> String {
    let electrode = site.electrode.map(|e| e.to_string());
    let pin = site.pin.map(|p| format!("pin {p}"));
    electrode.into_iter().chain(pin).collect::<Vec<_>>().join(" ")
}

/// A valve and its type, one word each: what else stands behind a valve's name is where a part sits.
fn is_typed(one: &OnBoard) -> bool {
    let digits = one.typed.chars().any(|c| c.is_ascii_digit());
    // "V3 g2" is a place and no type.
    let place = place::at_head(PartKind::Ic, &[&one.at, &one.typed]).is_some_and(|(_, used)| used > 1);
    place::valve(&one.at).is_some()
        && !place
        && digits
        && !one.typed.contains(char::is_whitespace)
        && one.typed.len() <= 20
}

fn is_filler(word: &Word) -> bool {
    ["=", "v", "volt", "volts", "at", "and"].iter().any(|f| word.text.eq_ignore_ascii_case(f))
}

fn is_skip(word: &str) -> bool {
    matches!(word, "-" | "–" | "—" | "x" | "X" | "_")
}

/// Volts as they are typed here: a bare number, or one in volt.
fn volts_of(word: &str) -> Option<Volt> {
    let plain = word.replace('−', "-");
    let unit = plain.trim_start_matches(|c: char| c.is_ascii_digit() || "+-.,".contains(c));
    if !["", "v", "kv", "mv"].iter().any(|u| unit.eq_ignore_ascii_case(u)) {
        return None;
    }
    let value = best(Quantity::Voltage, &plain).ok()?;
    Volt::new(value).ok().filter(|v| v.volts().abs() < MOST_VOLTS)
}

fn in_order(words: &[&Word]) -> Option<Vec<Option<Volt>>> {
    let one = |w: &&Word| if is_skip(&w.text) { Some(None) } else { volts_of(&w.text).map(Some) };
    let all: Vec<Option<Volt>> = words.iter().map(one).collect::<Option<_>>()?;
    all.iter().any(Option::is_some).then_some(all)
}

/// Volts each with its place, the place first or last: `plate 248 cathode 6.4`, `248V pin 7`.
fn at_pins(valve: &str, words: &[&Word]) -> Option<Vec<(Site, Volt, Range<usize>)>> {
    let mut all = Vec::new();
    let mut n = 0;
    while n < words.len() {
        // A place is said as it is of a part: with its valve before it.
        let said = |from: usize| {
            let texts: Vec<&str> =
                std::iter::once(valve).chain(words[from..].iter().map(|w| w.text.as_str())).collect();
            let (place, used) = place::at_head(PartKind::Ic, &texts)?;
            let site = place.sites.into_iter().next()?;
            (used > 1).then(|| (site, used - 1))
        };
        let volts = |i: usize| words.get(i).and_then(|w| volts_of(&w.text));
        let (site, v, used) = match volts(n) {
            Some(v) => said(n + 1).map(|(site, used)| (site, v, used + 1))?,
            None => said(n).and_then(|(site, used)| Some((site, volts(n + used)?, used + 1)))?,
        };
        all.push((site, v, words[n].at.start..words[n + used - 1].at.end));
        n += used;
    }
    (!all.is_empty()).then_some(all)
}
