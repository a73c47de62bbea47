//! What is meant by what is typed into the drawers' search line: `0.047 630`, `4k7 1W`, `1N4007`, `binder 3`.
//!
//! Every word must fit; a word fits as a value of some kind, as volts, watts or amperes, or as a piece of the text.

use crate::named::Named;
use crate::part::PartKind;
use crate::quantity::{Quantity, parse};

/// The most words that are looked at.
pub const MOST_WORDS: usize = 8;

/// What one word can mean.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct Word {
    /// As it stands, in lower case.
    pub text: String,
    /// Values that it can be: of which kind, in its base unit.
    pub values: Vec<(PartKind, f64)>,
    /// Volts that it can be.
    pub volts: Option<f64>,
    /// Watts that it can be.
    pub watts: Option<f64>,
    /// Amperes that it can be.
    pub amperes: Option<f64>,
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

fn word(text: &str) -> Word {
    let mut out = Word { text: text.to_lowercase(), ..Word::default() };
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
    out
}
