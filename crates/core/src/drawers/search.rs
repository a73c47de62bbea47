//! What is meant by what is typed into the drawers' search line: `0.047 630`, `4k7 1W`, `1N4007`, `binder 3`.
//!
//! Every word must fit. Where one of them is a value, the others say what is needed beside it: `0.022 400` is 22 nF of 400 V
//! or more (common practice: what stands more does). A word alone is a value, a rating, a type or a piece of the text.

use super::Piece;
use crate::named::Named;
use crate::part::PartKind;
use crate::part::size::sizes;
use crate::quantity::{Ampere, Quantity, Volt, Watt, parse};
use crate::transistor::device::with_prefix;

/// The most words that are looked at.
pub const MOST_WORDS: usize = 8;

/// What one word can mean.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct Word {
    /// As it stands, in lower case.
    pub text: String,
    /// The same type by another name: `2sc945` of C945.
    pub also: Vec<String>,
    /// Values that it can be: of which kind, in its base unit.
    pub values: Vec<(PartKind, f64)>,
    /// Volts that it can be.
    pub volts: Option<f64>,
    /// Watts that it can be.
    pub watts: Option<f64>,
    /// Amperes that it can be.
    pub amperes: Option<f64>,
    /// Whether its unit says that it is a rating: 400V, 2W.
    pub rating: bool,
}

/// Bare numbers below this are no volts that anybody asks for (practice).
const LEAST_VOLTS: f64 = 3.0;

impl Word {
    /// What it needs beside a value: so many volts, watts, amperes at least. A bare number is volts, or watts where resistors
    /// are made of that size.
    #[must_use]
    pub fn least(&self) -> [(Rating, Option<f64>); 3] {
        let a_size = |w: f64| sizes().iter().any(|s| (s.power.watts() / w - 1.0).abs() < 1e-9);
        let volts = self.volts.filter(|v| self.rating || *v >= LEAST_VOLTS);
        let watts = self.watts.filter(|w| self.rating || a_size(*w));
        [
            (Rating::Volts, volts),
            (Rating::Watts, watts),
            (Rating::Amperes, self.amperes.filter(|_| self.rating)),
        ]
    }

    /// The ratings that it can be by itself.
    #[must_use]
    pub fn ratings(&self) -> [(Rating, Option<f64>); 3] {
        [(Rating::Volts, self.volts), (Rating::Watts, self.watts), (Rating::Amperes, self.amperes)]
    }
}

/// A rating of a piece.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Rating {
    /// Volts.
    Volts,
    /// Watts.
    Watts,
    /// Amperes.
    Amperes,
}

/// What a line means, word by word; words past [`MOST_WORDS`] are not looked at.
///
/// ```
/// use owl_core::drawers::search::words;
/// let found = words("0.033 250");
/// assert!(found[0].values.iter().any(|(_, v)| (v / 3.3e-8 - 1.0).abs() < 1e-9));
/// assert_eq!(found[1].volts, Some(250.0));
/// assert!(words("   ").is_empty());
/// ```
#[must_use]
pub fn words(line: &str) -> Vec<Word> {
    let mut parts: Vec<String> = Vec::new();
    for word in line.split_whitespace() {
        // "630 V" is one word typed as two, "0.047 630" is two.
        let unit = matches!(
            word,
            "V" | "v" | "W" | "w" | "A" | "mA" | "µF" | "uF" | "nF" | "pF" | "Ω" | "kΩ" | "MΩ" | "H" | "mH"
        );
        match parts.last_mut() {
            Some(last) if unit && last.ends_with(|c: char| c.is_ascii_digit()) => last.push_str(word),
            _ => parts.push(word.to_owned()),
        }
    }
    parts.iter().take(MOST_WORDS).map(|w| word(w)).collect()
}

/// Whether a piece is what the words ask for: one of them its value and the others what is needed beside it, or each a
/// part of what is said of it (`text`).
///
/// ```
/// use owl_core::drawers::{Piece, search::{is_meant, words}};
/// use owl_core::part::PartKind;
/// let piece = Piece { value_si: Some(33e-9), ..Piece::new(PartKind::Capacitor) };
/// assert!(is_meant(&words("0,033u"), Some(&piece), "33 nF film, row 4"));
/// assert!(is_meant(&words("row film"), Some(&piece), "33 nF film, row 4"));
/// assert!(!is_meant(&words("33k"), Some(&piece), "33 nF film, row 4"));
/// ```
#[must_use]
pub fn is_meant(words: &[Word], piece: Option<&Piece>, text: &str) -> bool {
    let text = text.to_lowercase();
    let near = |a: f64, b: f64| (a / b - 1.0).abs() < 1e-6;
    let in_text = |w: &Word| std::iter::once(&w.text).chain(&w.also).any(|t| text.contains(t.as_str()));
    let value = |w: &Word| {
        let has = piece.and_then(|p| Some((p.kind, p.value_si?)));
        has.is_some_and(|(kind, v)| w.values.iter().any(|(k, asked)| *k == kind && near(v, *asked)))
    };
    let has = |r: Rating| {
        piece.and_then(|p| match r {
            Rating::Volts => p.volts.map(Volt::volts),
            Rating::Watts => p.watts.map(Watt::watts),
            Rating::Amperes => p.amperes.map(Ampere::amperes),
        })
    };
    let rated = |all: [(Rating, Option<f64>); 3], least: bool| {
        all.into_iter()
            .filter_map(|(r, asked)| has(r).zip(asked))
            .any(|(v, asked)| near(v, asked) || (least && v > asked))
    };
    let beside = |i: usize| {
        let mut others = words.iter().enumerate().filter(|(n, _)| *n != i).map(|(_, w)| w);
        others.all(|w| in_text(w) || rated(w.least(), true))
    };
    words.iter().enumerate().any(|(i, w)| value(w) && beside(i))
        || words.iter().all(|w| in_text(w) || value(w) || rated(w.ratings(), w.rating))
}

fn word(text: &str) -> Word {
    let mut out = Word { text: text.to_lowercase(), also: other_names(text), ..Word::default() };
    if !text.contains(|c: char| c.is_ascii_digit() || "½¼¾".contains(c)) {
        return out;
    }
    for kind in PartKind::ALL {
        let Some(quantity) = kind.quantity() else { continue };
        for entry in parse::parse(quantity, text).unwrap_or_default() {
            if entry.value > 0.0 && !out.values.contains(&(*kind, entry.value)) {
                out.values.push((*kind, entry.value));
            }
        }
    }
    let one = |q: Quantity| parse::best(q, text).ok().filter(|v| *v > 0.0);
    out.volts = one(Quantity::Voltage);
    out.watts = one(Quantity::Power);
    out.amperes = one(Quantity::Current);
    let unit = text.trim_end_matches(|c: char| c.is_alphabetic()).len();
    out.rating =
        matches!(&text[unit..], "V" | "v" | "kV" | "W" | "w" | "A" | "mA") && out.text != text[..unit];
    out
}

/// A Japanese type is looked for with its first two characters and without. Two figures at least: C4 is a capacitor.
fn other_names(text: &str) -> Vec<String> {
    let lower = text.to_lowercase();
    let short = lower.strip_prefix("2s").filter(|s| with_prefix(s).is_some()).map(str::to_owned);
    short.or_else(|| with_prefix(&lower).filter(|_| lower.len() > 2)).into_iter().collect()
}
