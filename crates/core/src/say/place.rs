//! Where a part sits, as it is said: `V3 grid`, `pin 4 V1`, `cathode of V1`, `screen V2 to B+ 2`, `volume control`.

use std::sync::LazyLock;

use serde::Deserialize;

use super::extras::phrase;
use crate::dialect::Dialect;
use crate::named::{Named, named};
use crate::part::{PartKind, Position};
use crate::source::Source;
use crate::table::rows;

named! {
    /// What a part hangs on inside of a valve or a transistor.
    "electrode" Electrode {
        /// A valve's plate.
        Plate = "plate",
        /// A valve's cathode.
        Cathode = "cathode",
        /// A control grid.
        Grid = "grid",
        /// A screen grid.
        Screen = "screen",
        /// A suppressor grid.
        Suppressor = "suppressor",
        /// A heater.
        Heater = "heater",
        /// The cap on top.
        TopCap = "top cap",
        /// A transistor's base.
        Base = "base",
        /// Its emitter.
        Emitter = "emitter",
        /// Its collector.
        Collector = "collector",
    }
}

#[derive(Deserialize)]
struct Spoken {
    spoken: String,
    electrode: Electrode,
    #[allow(dead_code, reason = "read so that a row without a source is refused")]
    source: Source,
}

#[derive(Deserialize)]
struct Role {
    electrode: Electrode,
    kind: PartKind,
    value_low: Option<f64>,
    value_high: Option<f64>,
    position: Position,
    #[allow(dead_code, reason = "read so that a row without a source is refused")]
    source: Source,
}

static SPOKEN: LazyLock<Vec<Spoken>> =
    LazyLock::new(|| rows("electrode.csv", include_str!("../../data/electrode.csv")));
static ROLES: LazyLock<Vec<Role>> =
    LazyLock::new(|| rows("electrode_position.csv", include_str!("../../data/electrode_position.csv")));

/// Places that are neither a pin nor a rail, said as they are.
const NODES: &[&str] = &[
    "volume control",
    "tone control",
    "on/off switch",
    "band switch",
    "output transformer",
    "ht rail",
    "ht line",
    "chassis",
    "ground",
    "earth",
    "masse",
    "line",
    "mains",
];

/// So many of them are places without a "to" before them.
const PLACES_ALONE: usize = 7;

/// Where something is said to sit.
#[derive(Debug, Clone, PartialEq)]
pub(super) struct Place {
    /// As it is kept: `V3 grid`, `V1 pin 4`, `V2 screen to HT 2`.
    pub text: String,
    /// The electrode that it hangs on first, where one was said.
    pub electrode: Option<Electrode>,
}

/// The place that opens `words`, and how many of them it takes; `None` where none is said.
pub(super) fn at_head(words: &[&str]) -> Option<(Place, usize)> {
    // "the cathode of V1": what stands between says nothing, and is counted all the same.
    let between: Vec<usize> = (0..words.len())
        .filter(|i| !["of", "the", "on", "side"].iter().any(|f| words[*i].eq_ignore_ascii_case(f)))
        .collect();
    if between.first() != Some(&0) {
        return None;
    }
    let said: Vec<&str> = between.iter().map(|i| words[*i]).collect();
    let (place, used) = of_words(&said)?;
    Some((place, between.get(used - 1)? + 1))
}

fn of_words(words: &[&str]) -> Option<(Place, usize)> {
    let lead = usize::from(
        words.first().is_some_and(|w| w.eq_ignore_ascii_case("at") || w.eq_ignore_ascii_case("from")),
    );
    let (first, used) = node(&words[lead..])?;
    let mut at = lead + used;
    let mut text = first.text;
    let between =
        |w: &str| w.eq_ignore_ascii_case("to") || w == "-" || w == "–" || w.eq_ignore_ascii_case("nach");
    if words.get(at).is_some_and(|w| between(w)) {
        if let Some((second, used)) = node(&words[at + 1..]).or_else(|| rail(&words[at + 1..])) {
            text = format!("{text} to {}", second.text);
            at += 1 + used;
        }
    }
    Some((Place { text, electrode: first.electrode }, at))
}

/// What such an electrode makes of a part of that value: its position, where one follows.
pub(super) fn role(electrode: Electrode, kind: PartKind, value_si: Option<f64>) -> Option<Position> {
    let fits = |r: &&Role| {
        let above = r.value_low.is_none_or(|low| value_si.is_some_and(|v| v >= low));
        let below = r.value_high.is_none_or(|high| value_si.is_some_and(|v| v <= high));
        r.electrode == electrode && r.kind == kind && above && below
    };
    ROLES.iter().find(fits).map(|r| r.position)
}

/// The number of a valve or a transistor: `V3`, `Q2`, `TR1`.
pub(super) fn valve(word: &str) -> Option<String> {
    let upper = word.to_ascii_uppercase();
    let digits = ["V", "TR", "Q"].iter().find_map(|l| upper.strip_prefix(l))?;
    let letter = digits.trim_start_matches(|c: char| c.is_ascii_digit());
    let number = digits.len() - letter.len();
    let fits = (1..=3).contains(&number) && (letter.is_empty() || letter == "A" || letter == "B");
    fits.then_some(upper)
}

fn electrode(words: &[&str]) -> Option<(Electrode, usize)> {
    let all: Vec<(&str, Electrode)> = SPOKEN.iter().map(|s| (s.spoken.as_str(), s.electrode)).collect();
    phrase(words, &all)
}

fn pin(words: &[&str]) -> Option<(u8, usize)> {
    let first = words.first()?.to_lowercase();
    if first == "pin" || first == "stift" {
        return Some((words.get(1)?.parse().ok()?, 2));
    }
    let number = first.strip_prefix("pin")?;
    Some((number.parse().ok()?, 1))
}

/// A valve with an electrode or a pin, in any order.
fn node(words: &[&str]) -> Option<(Place, usize)> {
    let named = |name: String, behind: &[&str]| {
        let (e, used) = electrode(behind).map_or((None, 0), |(e, n)| (Some(e), n));
        let (p, more) = pin(&behind[used..]).map_or((None, 0), |(p, n)| (Some(p), n));
        (place(Some(name), e, p), used + more)
    };
    let first = words.first()?;
    if let Some(name) = valve(first) {
        let (place, used) = named(name, &words[1..]);
        return Some((place, 1 + used));
    }
    let head = electrode(words)
        .map(|(e, n)| ((Some(e), None), n))
        .or_else(|| pin(words).map(|(p, n)| ((None, Some(p)), n)));
    if let Some(((e, p), n)) = head {
        // "pin 4 V1", "pin 4, screen, of V1"
        let (e, n) = match (e, electrode(&words[n..])) {
            (None, Some((e, more))) => (Some(e), n + more),
            (e, _) => (e, n),
        };
        let (p, n) = match (p, pin(&words[n..])) {
            (None, Some((p, more))) => (Some(p), n + more),
            (p, _) => (p, n),
        };
        if let Some(name) = words.get(n).and_then(|w| valve(w)) {
            let (p, more) = match (p, pin(&words[n + 1..])) {
                (None, Some((p, more))) => (Some(p), more),
                (p, _) => (p, 0),
            };
            return Some((place(Some(name), e, p), n + 1 + more));
        }
        if p.is_some() {
            return Some((place(None, e, p), n));
        }
    }
    None
}

/// A place that is no valve's: `volume control`.
pub(super) fn node_at_head(words: &[&str]) -> Option<(Place, usize)> {
    let all: Vec<(&str, &str)> = NODES.iter().take(PLACES_ALONE).map(|n| (*n, *n)).collect();
    phrase(words, &all).map(|(text, n)| (Place { text: text.to_owned(), electrode: None }, n))
}

/// A rail or the chassis, which is said behind "to".
fn rail(words: &[&str]) -> Option<(Place, usize)> {
    let first = words.first()?;
    let written = Dialect::written(first).to_string();
    let numbered = written.strip_prefix("HT").filter(|n| n.chars().all(|c| c.is_ascii_digit()));
    if let Some(n) = numbered {
        let number =
            if n.is_empty() { words.get(1).and_then(|w| w.parse::<u8>().ok()) } else { n.parse().ok() };
        let used = if n.is_empty() && number.is_some() { 2 } else { 1 };
        let text = number.map_or_else(|| "HT".to_owned(), |n| format!("HT {n}"));
        return Some((Place { text, electrode: None }, used));
    }
    if let Some((e, n)) = electrode(words) {
        return Some((Place { text: e.name().to_owned(), electrode: Some(e) }, n));
    }
    let all: Vec<(&str, &str)> = NODES.iter().map(|n| (*n, *n)).collect();
    phrase(words, &all).map(|(text, n)| (Place { text: text.to_owned(), electrode: None }, n))
}

fn place(name: Option<String>, electrode: Option<Electrode>, pin: Option<u8>) -> Place {
    let said = [name, electrode.map(|e| e.name().to_owned()), pin.map(|p| format!("pin {p}"))];
    Place { text: said.into_iter().flatten().collect::<Vec<_>>().join(" "), electrode }
}
