//! Where a part sits, as it is said: `V3 grid`, `pin 4 V1`, `cathode of V1`, `screen V2 to B+ 2`, `volume control`.

use std::sync::LazyLock;

use serde::Deserialize;

use super::{everyday, hear};
use crate::part::{PartKind, Position};
use crate::phrase::longest;
use crate::site::Site;
use crate::socket::Electrode;
use crate::source::Source;
use crate::table::rows;

#[derive(Deserialize)]
struct Spoken {
    spoken: String,
    electrode: Electrode,
    /// How a place has it: in the words of the trade that said it.
    called: String,
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

/// Where something is said to sit.
#[derive(Debug, Clone, PartialEq)]
pub(super) struct Place {
    /// As it is kept: `V3 grid`, `V1 pin 4`, `V2 screen to HT 2`.
    pub text: String,
    /// The electrode that it hangs on first, where one was said.
    pub electrode: Option<Electrode>,
    /// The places on sockets that it names.
    pub sites: Vec<Site>,
}

/// The place that opens `words`, and how many of them it takes; `None` where none is said.
pub(super) fn at_head(kind: PartKind, words: &[&str]) -> Option<(Place, usize)> {
    // "the cathode of V1": what stands between says nothing, and is counted all the same.
    let between: Vec<usize> = (0..words.len())
        .filter(|i| !["of", "the", "on", "side"].iter().any(|f| words[*i].eq_ignore_ascii_case(f)))
        .collect();
    if between.first() != Some(&0) {
        return None;
    }
    let said: Vec<&str> = between.iter().map(|i| words[*i]).collect();
    let (place, used) = of_words(kind, &said)?;
    Some((place, between.get(used - 1)? + 1))
}

fn of_words(kind: PartKind, words: &[&str]) -> Option<(Place, usize)> {
    let lead = usize::from(
        words.first().is_some_and(|w| w.eq_ignore_ascii_case("at") || w.eq_ignore_ascii_case("from")),
    );
    let (first, used) = node(kind, &words[lead..])?;
    let mut at = lead + used;
    let (mut text, mut sites) = (first.text, first.sites);
    let between =
        |w: &str| w.eq_ignore_ascii_case("to") || w == "-" || w == "–" || w.eq_ignore_ascii_case("nach");
    if words.get(at).is_some_and(|w| between(w))
        && let Some((second, used)) = node(kind, &words[at + 1..]).or_else(|| rail(&words[at + 1..]))
    {
        text = format!("{text} to {}", second.text);
        sites.extend(second.sites);
        at += 1 + used;
    }
    Some((Place { text, electrode: first.electrode, sites }, at))
}

/// The electrode that a word names where no valve is said with it: `plate`, `grid`; letters alone are too short for that.
pub(super) fn electrode_alone(word: &str) -> Option<Electrode> {
    let named = SPOKEN.iter().find(|s| s.spoken.eq_ignore_ascii_case(word) && s.spoken.len() > 3);
    named.map(|s| s.electrode)
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

/// The places on sockets that are said of a part: both ends of one that goes from valve to valve. Where the words name a
/// valve alone, what the part does there tells the electrode.
///
/// ```
/// use owl_core::part::{PartKind, Position};
/// use owl_core::say::sites;
/// use owl_core::socket::Electrode;
/// let both = sites(PartKind::Capacitor, "V1 plate to V2 grid", Some(Position::Coupling));
/// assert_eq!(both.iter().map(|s| s.electrode).collect::<Vec<_>>(), [Some(Electrode::Plate), Some(Electrode::Grid)]);
/// assert_eq!(sites(PartKind::Resistor, "V4", Some(Position::GridLeak))[0].electrode, Some(Electrode::Grid));
/// ```
#[must_use]
pub fn sites(kind: PartKind, place: &str, position: Option<Position>) -> Vec<Site> {
    let mut all = sites_said(kind, place);
    if let [only] = all.as_mut_slice()
        && only.electrode.is_none()
        && only.pin.is_none()
    {
        only.electrode = position.and_then(|p| position_electrode(kind, p));
    }
    all
}

/// The electrode at which a part sits that does this in the set, where it can be but one.
fn position_electrode(kind: PartKind, position: Position) -> Option<Electrode> {
    ROLES.iter().find(|r| r.kind == kind && r.position == position).map(|r| r.electrode)
}

/// The places on sockets that the words of a place name, in their order; nothing else in them counts.
fn sites_said(kind: PartKind, place: &str) -> Vec<Site> {
    let words = hear::hear(place);
    let texts: Vec<&str> = words.iter().map(|w| w.text.as_str()).collect();
    let mut all: Vec<Site> = Vec::new();
    let mut at = 0;
    while at < texts.len() {
        let found = at_head(kind, &texts[at..]);
        at += found.as_ref().map_or(1, |(_, used)| *used);
        for site in found.into_iter().flat_map(|(p, _)| p.sites) {
            match all.last_mut() {
                // "V3 grid, pin 5": the pin is of the valve before it.
                Some(last) if site.valve.is_none() && last.pin.is_none() => {
                    last.pin = site.pin;
                    last.electrode = last.electrode.or(site.electrode);
                }
                _ => all.push(site),
            }
        }
    }
    all.retain(|s| s.valve.is_some());
    all
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

fn electrode(words: &[&str]) -> Option<(&'static Spoken, usize)> {
    longest(words, SPOKEN.iter().map(|s| (s.spoken.as_str(), s)))
}

/// The position that opens `words`, by its name or as it is called every day.
fn position(kind: PartKind, words: &[&str]) -> Option<(Position, usize)> {
    let everyday = match everyday::at_head(kind, words) {
        Some((everyday::Everyday::Position(p), used)) => Some((p, used)),
        _ => None,
    };
    [Position::at_head(kind, words), everyday].into_iter().flatten().max_by_key(|(_, used)| *used)
}

fn pin(words: &[&str]) -> Option<(u8, usize)> {
    let first = words.first()?.to_lowercase();
    if first == "pin" || first == "stift" {
        return Some((words.get(1)?.parse().ok()?, 2));
    }
    let number = first.strip_prefix("pin")?;
    Some((number.parse().ok()?, 1))
}

/// A valve, an electrode and a pin, in any order: a valve or a pin at the least.
fn node(kind: PartKind, words: &[&str]) -> Option<(Place, usize)> {
    let (mut valve_said, mut electrode_said, mut pin_said, mut cap) = (None, None, None, false);
    let mut n = 0;
    while let Some(word) = words.get(n) {
        let rest = &words[n..];
        let found = electrode(rest);
        // "V1 grid leak" says what the part does there: the longer phrase counts.
        // unless it says the same without the electrode: "V4 grid coupling".
        let longer = position(kind, rest)
            .filter(|(p, _)| {
                found.is_none_or(|(_, used)| position(kind, &rest[used..]).is_none_or(|(q, _)| q != *p))
            })
            .map(|(_, used)| used);
        n += match (valve(word).filter(|_| valve_said.is_none()), found, pin(rest)) {
            (Some(name), ..) => {
                valve_said = Some(name);
                1
            }
            (None, Some((e, used)), _) if electrode_said.is_none() && longer.is_none_or(|l| l <= used) => {
                electrode_said = Some(e);
                used
            }
            // "grid V1 top cap" says the same place once more.
            (None, Some((e, used)), _)
                if e.electrode == Electrode::TopCap && !cap && valve_said.is_some() =>
            {
                cap = true;
                used
            }
            (None, _, Some((number, used))) if pin_said.is_none() => {
                pin_said = Some(number);
                used
            }
            _ => break,
        };
    }
    let cap = cap.then(|| "top cap".to_owned());
    (valve_said.is_some() || pin_said.is_some()).then(|| {
        let pin = pin_said.map(|p| format!("pin {p}"));
        let called = electrode_said.map(|e| e.called.clone());
        let electrode = electrode_said.map(|e| e.electrode);
        let site = Site { valve: valve_said.clone(), electrode, pin: pin_said };
        let text = [valve_said, called, pin, cap].into_iter().flatten().collect::<Vec<_>>().join(" ");
        (Place { text, electrode, sites: vec![site] }, n)
    })
}

/// A place that is no valve's: `volume control`.
pub(super) fn node_at_head(words: &[&str]) -> Option<(Place, usize)> {
    everyday::place_at_head(words, true)
        .map(|(text, n)| (Place { text: text.to_owned(), electrode: None, sites: vec![] }, n))
}

/// A rail or the chassis, which is said behind "to".
fn rail(words: &[&str]) -> Option<(Place, usize)> {
    let first = words.first()?;
    let letters = ["HT", "B+"].iter().find(|l| first.get(..2).is_some_and(|f| f.eq_ignore_ascii_case(l)));
    let digits = first.get(2..).unwrap_or_default();
    if let Some(rail) = letters.filter(|_| digits.chars().all(|c| c.is_ascii_digit())) {
        let behind = words.get(1).filter(|w| digits.is_empty() && w.parse::<u8>().is_ok());
        let number = behind.copied().unwrap_or(digits);
        let text = format!("{rail} {number}").trim_end().to_owned();
        return Some((Place { text, electrode: None, sites: vec![] }, 1 + usize::from(behind.is_some())));
    }
    if let Some((e, n)) = electrode(words) {
        return Some((Place { text: e.called.clone(), electrode: Some(e.electrode), sites: vec![] }, n));
    }
    everyday::place_at_head(words, false)
        .map(|(text, n)| (Place { text: text.to_owned(), electrode: None, sites: vec![] }, n))
}
