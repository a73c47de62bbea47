//! What was typed or dictated, as words: units put back to their numbers, verbs of measuring as an equals sign, filler left
//! out. Each word keeps where in the text it stands, so that what was understood by it can be shown there.

use std::ops::Range;

use super::measured::is_said_for_a_value;
use super::spoken;
use crate::named::Named;
use crate::quantity::Quantity;
use crate::quantity::parse::{parse, quantity_of_unit};

/// A word as it is understood, and where it stands.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(super) struct Word {
    /// As the grammar reads it.
    pub text: String,
    /// In the text as typed, in bytes.
    pub at: Range<usize>,
}

impl Word {
    fn new(text: impl Into<String>, at: Range<usize>) -> Self {
        Self { text: text.into(), at }
    }

    fn is(&self, word: &str) -> bool {
        self.text.eq_ignore_ascii_case(word)
    }
}

/// Verbs of measuring: a value stands behind them.
const VERBS: &[&str] = &[
    "reads", "read", "reading", "is", "measures", "measured", "measure", "meters", "metered", "shows",
    "showing", "showed", "gives", "has", "are", "liest", "hat",
];
/// What carries no meaning of its own.
const FILLERS: &[&str] = &[
    "a", "an", "the", "it", "its", "it's", "of", "now", "only", "just", "about", "please", "ok", "and",
    "with", "on", "from", "says", "new", "old", "one", "this", "that", "to", "type", "side", "there", "here",
    "value", "rated", "at", "in", "der", "die", "das", "ein", "eine", "am", "an", "von", "mit", "und",
];
/// Nouns that the name of the part says already.
const NOUNS: &[&str] =
    &["resistor", "resistors", "cap", "caps", "capacitor", "capacitors", "condenser", "res", "cond"];
/// What a unit may be in words, as a suffix.
const UNITS: &[(&str, &str)] = &[
    ("kilohm", "k"),
    ("kilohms", "k"),
    ("kay", "k"),
    ("kilo", "k"),
    ("megohm", "M"),
    ("megohms", "M"),
    ("mega", "M"),
    ("meg", "M"),
    ("megs", "M"),
    ("microfarad", "uF"),
    ("microfarads", "uF"),
    ("mike", "uF"),
    ("mikes", "uF"),
    ("mic", "uF"),
    ("puff", "pF"),
    ("puffs", "pF"),
    ("picofarad", "pF"),
    ("picofarads", "pF"),
    ("nanofarad", "nF"),
    ("nanofarads", "nF"),
    ("milliamp", "mA"),
    ("milliamps", "mA"),
    ("microamp", "uA"),
    ("microamps", "uA"),
    ("mil", "mA"),
    ("mils", "mA"),
    ("millivolt", "mV"),
    ("millivolts", "mV"),
    ("millihenry", "mH"),
    ("millihenries", "mH"),
    ("henries", "H"),
    ("per cent", "%"),
    ("pct", "%"),
    ("prozent", "%"),
    ("watter", "W"),
];

/// The words of a text.
pub(super) fn hear(text: &str) -> Vec<Word> {
    let words = joined(spoken::in_figures(split(text)));
    verbs(words)
}

/// Apart at spaces and round an equals sign; what stands behind a word for the eye alone is taken off.
fn split(text: &str) -> Vec<Word> {
    let mut out = Vec::new();
    let mut begin = 0;
    let mut put = |from: usize, to: usize| {
        let word = &text[from..to];
        let kept = word.trim_end_matches([',', ';', ':', '!', '?']);
        let kept = match kept.strip_suffix('.') {
            // "o.l." and "5." keep theirs.
            Some(without) if without.chars().all(char::is_alphabetic) && without.len() > 1 => without,
            _ => kept,
        };
        let open = kept.trim_start_matches(['(', '"', '\'']);
        let kept = open.trim_end_matches([')', '"', '\'']);
        let from = from + word.find(kept).unwrap_or(0);
        if !kept.is_empty() {
            out.push(Word::new(kept, from..from + kept.len()));
        }
    };
    for (i, c) in text.char_indices() {
        if c.is_whitespace() || matches!(c, '=' | '≈') {
            put(begin, i);
            begin = i + c.len_utf8();
            if matches!(c, '=' | '≈') {
                put_sign(&mut put, i, begin);
            }
        }
    }
    put(begin, text.len());
    out.into_iter().map(|w: Word| if w.text == "≈" { Word::new("=", w.at) } else { w }).collect()
}

fn put_sign(put: &mut impl FnMut(usize, usize), from: usize, to: usize) {
    put(from, to);
}

/// Whether a word is a number without a unit: `330`, `.05`, `1/2`, `-4`.
fn is_number(word: &str) -> bool {
    let digits = word.trim_start_matches(['+', '-', '−']);
    digits.contains(|c: char| c.is_ascii_digit() || "½¼¾⅛".contains(c))
        && digits.chars().all(|c| c.is_ascii_digit() || ".,/½¼¾⅛".contains(c))
}

/// Whether a word begins as a number does.
pub(super) fn begins_a_number(word: &str) -> bool {
    let rest = word.trim_start_matches(['+', '-', '−']).trim_start_matches('.');
    rest.starts_with(|c: char| c.is_ascii_digit() || "½¼¾⅛".contains(c))
}

/// Puts units to the numbers before them: `10 %`, `330 ohm`, `8 mfd`, `half watt`.
fn joined(words: Vec<Word>) -> Vec<Word> {
    let mut out: Vec<Word> = Vec::with_capacity(words.len());
    let mut words = words.into_iter().peekable();
    while let Some(w) = words.next() {
        let lower = w.text.to_lowercase();
        let fraction = match lower.as_str() {
            "half" => Some("1/2"),
            "quarter" => Some("1/4"),
            _ => None,
        };
        if let Some(part) = fraction {
            let mut span = w.at.clone();
            if words.peek().is_some_and(|n| n.is("a") || n.is("of")) {
                words.next();
            }
            let watt = words.peek().is_some_and(|n| ["watt", "watts", "w", "watter"].iter().any(|u| n.is(u)));
            if watt {
                if let Some(unit) = words.next() {
                    span.end = unit.at.end;
                }
                out.push(Word::new(format!("{part}W"), span));
                continue;
            }
            out.push(w);
            continue;
        }
        let Some(last) = out.last_mut().filter(|l| is_number(&l.text)) else {
            out.push(w);
            continue;
        };
        let behind_is_a_number = words.peek().is_some_and(|n| begins_a_number(&n.text));
        let unit = UNITS.iter().find(|(u, _)| *u == lower).map(|(_, unit)| (*unit).to_owned());
        // "bias -4 volts 180" says two facts.
        let fact = (lower == "volts" || lower == "volt") && behind_is_a_number;
        let unit = unit.or_else(|| (!fact && is_unit(&lower)).then(|| w.text.clone()));
        match unit {
            Some(unit) => {
                last.text.push_str(&unit);
                last.at.end = w.at.end;
                // "8k ohms", "2 micro farads" say their unit twice.
                let again = ["ohm", "ohms", "farad", "farads", "hertz"];
                if let Some(more) = words.next_if(|n| unit.len() <= 2 && again.iter().any(|a| n.is(a))) {
                    last.at.end = more.at.end;
                }
            }
            None => out.push(w),
        }
    }
    out
}

/// Whether a word stands behind a number as its unit.
fn is_unit(lower: &str) -> bool {
    let prefix = matches!(
        lower,
        "k" | "m" | "u" | "µ" | "n" | "p" | "mfd" | "mf" | "uf" | "mmf" | "mmfd" | "pf" | "nf"
    );
    let known = quantity_of_unit(lower).is_some_and(|q| q != Quantity::Time && q != Quantity::Temperature);
    // "in", "out" and the like are no units though letters of them are.
    prefix || known && parse_any(lower)
}

fn parse_any(unit: &str) -> bool {
    unit.chars().count() <= 7
        && Quantity::ALL.iter().any(|q| parse(*q, &format!("1{unit}")).is_ok())
        && !["d", "c", "r", "h", "f", "a"].contains(&unit)
        || ["a", "h"].contains(&unit)
}

/// Whether a word that nothing else claims says nothing.
pub(super) fn is_filler(word: &str) -> bool {
    let lower = word.to_lowercase();
    [FILLERS, NOUNS, VERBS].iter().any(|list| list.contains(&lower.as_str()))
}

/// A verb of measuring before a value is an equals sign.
fn verbs(mut words: Vec<Word>) -> Vec<Word> {
    for i in 0..words.len() {
        if !VERBS.contains(&words[i].text.to_lowercase().as_str()) {
            continue;
        }
        // "reads about 15": the filler behind it says nothing.
        let behind = words[i + 1..].iter().find(|n| !is_filler(&n.text));
        let value = behind.is_some_and(|n| begins_a_number(&n.text) || is_said_for_a_value(&n.text));
        if value {
            "=".clone_into(&mut words[i].text);
        }
    }
    // "is = 15" says it twice.
    words.dedup_by(|b, a| a.text == "=" && b.text == "=");
    words
}
