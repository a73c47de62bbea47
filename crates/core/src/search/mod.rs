//! A search over all tickets as one would ask it: `all 22 Ω screen feeds that were high`, `leaking wax paper .05`.
//!
//! A value, a position, a family, a kind and how the part was found are understood; what is left is looked for as words
//! in what was written. `1k high` is a value and a direction; a number that is no value is a word.

use crate::dialect::Dialect;
use crate::named::{Named, named};
use crate::part::{MadeOf, PartKind, Position};
use crate::quantity::Quantity;
use crate::quantity::parse::best;

named! {
    /// How parts were found.
    "way of being found" Found {
        /// Above its limit, or simply above its value.
        High = "high",
        /// Below it.
        Low = "low",
        /// Passing nothing.
        Open = "open",
        /// Passing what it should hold back.
        Leaking = "leaking",
        /// Passing everything.
        Shorted = "shorted",
        /// Decided to go.
        Replaced = "replaced",
        /// Decided to stay.
        Kept = "kept",
    }
}

/// A search as it was understood.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct Sought {
    /// What kind of part.
    pub kind: Option<PartKind>,
    /// How it is made.
    pub family: Option<MadeOf>,
    /// Where it sits.
    pub position: Option<Position>,
    /// Its value, in the base unit of its kind, and how far off one may be: half of an E24 step.
    pub value_si: Option<f64>,
    /// How it was found.
    pub found: Option<Found>,
    /// What is left, looked for as words.
    pub words: String,
}

/// How far a value may be off to be the one that was asked for.
pub const NEAR: f64 = 0.03;

/// Words that carry nothing.
const FILLERS: [&str; 16] = [
    "all", "that", "were", "was", "which", "the", "a", "of", "with", "and", "are", "is", "too", "what",
    "where", "did",
];

/// Understands a search.
///
/// ```
/// use owl_core::search::{Found, sought};
/// let s = sought("all 33 Ω cathode resistors that were high");
/// assert_eq!((s.value_si, s.found), (Some(33.0), Some(Found::High)));
/// assert_eq!(s.words, "");
/// ```
#[must_use]
pub fn sought(text: &str) -> Sought {
    let lower = text.to_lowercase();
    let mut words: Vec<String> = lower
        .split(|c: char| c.is_whitespace() || matches!(c, ',' | ';' | '?' | '!'))
        .filter(|w| !w.is_empty())
        .map(str::to_owned)
        .collect();
    let mut s = Sought::default();
    s.position = [Dialect::BRITISH, Dialect::AMERICAN].iter().find_map(|d| {
        let said: Vec<_> = Position::ALL.iter().map(|p| (d.say(p.name()), *p)).collect();
        taken(&mut words, said.iter().map(|(name, p)| (name.as_ref(), *p)))
    });
    s.family = taken(&mut words, MadeOf::ALL.iter().map(|f| (f.name(), *f)));
    s.kind = taken(&mut words, PartKind::ALL.iter().map(|k| (k.name(), *k)));
    s.found = taken(&mut words, Found::ALL.iter().map(|f| (f.name(), *f)));
    s.found = s.found.or_else(|| taken(&mut words, MORE.iter().copied()));
    value(&mut words, &mut s);
    words.retain(|w| !FILLERS.contains(&w.as_str()));
    s.words = words.join(" ");
    s
}

/// Other words for the same.
const MORE: [(&str, Found); 6] = [
    ("leaky", Found::Leaking),
    ("leaked", Found::Leaking),
    ("drifted", Found::High),
    ("short", Found::Shorted),
    ("bad", Found::Replaced),
    ("good", Found::Kept),
];

/// Takes the longest name that stands in the words, in the singular or the plural, and gives what it names.
fn taken<'a, T: Copy>(words: &mut Vec<String>, names: impl Iterator<Item = (&'a str, T)>) -> Option<T> {
    let mut best: Option<(usize, usize, T)> = None;
    for (name, what) in names {
        let wanted: Vec<String> = name.to_lowercase().split(' ').map(str::to_owned).collect();
        let n = wanted.len();
        let at = (0..=words.len().saturating_sub(n))
            .find(|i| words.len() >= n && wanted.iter().zip(&words[*i..]).all(|(w, said)| same(w, said)));
        if let Some(at) = at.filter(|_| best.is_none_or(|b| n > b.1)) {
            best = Some((at, n, what));
        }
    }
    let (at, n, what) = best?;
    words.drain(at..at + n);
    Some(what)
}

fn same(name: &str, said: &str) -> bool {
    said == name
        || said.strip_suffix('s').is_some_and(|s| s == name)
        || said.strip_suffix("es").is_some_and(|s| s == name)
}

/// A value with its unit, or one that only the kind or the place makes clear.
fn value(words: &mut Vec<String>, s: &mut Sought) {
    // "22 Ω" is one value in two words.
    for i in 0..words.len() {
        let figure = words[i].chars().all(|c| c.is_ascii_digit() || c == '.');
        if figure
            && words.get(i + 1).is_some_and(|w| {
                matches!(w.as_str(), "ω" | "ohm" | "kω" | "mω" | "µf" | "uf" | "nf" | "pf" | "k")
            })
        {
            let unit = words.remove(i + 1);
            words[i].push_str(&unit);
            break;
        }
    }
    let kind = s.kind.or_else(|| {
        s.family.and_then(|f| [PartKind::Resistor, PartKind::Capacitor].into_iter().find(|k| f.suits(*k)))
    });
    let of: Vec<Quantity> = match kind.and_then(PartKind::quantity) {
        Some(q) => vec![q],
        None => vec![Quantity::Resistance, Quantity::Capacitance],
    };
    for i in 0..words.len() {
        if !words[i].starts_with(|c: char| c.is_ascii_digit() || c == '.') {
            continue;
        }
        // Small letters lose the difference between milli and mega: what a bench says is mega.
        let typed = words[i].replace('ω', "Ω");
        let typed = if typed.ends_with('m') { format!("{}M", typed.trim_end_matches('m')) } else { typed };
        let read = of.iter().find_map(|q| best(*q, &typed).ok());
        if let Some(v) = read.filter(|v| *v > 0.0) {
            s.value_si = Some(v);
            words.remove(i);
            return;
        }
    }
}
