//! What was typed or dictated, as words: units put back to their numbers, verbs of measuring as an equals sign, filler left
//! out. Each word keeps where in the text it stands, so that what was understood by it can be shown there.

use std::ops::Range;

use super::everyday::{self, Slot};
use super::measured::is_said_for_a_value;
use super::spoken;
use crate::quantity::Quantity;
use crate::quantity::parse::{parse, quantity_of_unit};

/// A word as it is understood, and where it stands.
#[derive(Debug, Clone, PartialEq, Eq)]
pub(super) struct Word {
    /// As the grammar reads it.
    pub text: String,
    /// In the text as typed, in bytes.
    pub at: Range<usize>,
    /// Whether a comma stands behind it: no phrase goes on beyond.
    pub stop: bool,
    /// Whether it stands in quotes: a place in somebody's own words.
    pub quoted: bool,
}

impl Word {
    pub fn new(text: impl Into<String>, at: Range<usize>) -> Self {
        Self { text: text.into(), at, stop: false, quoted: false }
    }

    /// The same with what stands behind it joined to it.
    fn take_in(&mut self, behind: &Self) {
        self.at.end = behind.at.end;
        self.stop = behind.stop;
    }

    fn is(&self, word: &str) -> bool {
        self.text.eq_ignore_ascii_case(word)
    }
}

/// The words of a text.
pub(super) fn hear(text: &str) -> Vec<Word> {
    let words = joined(spoken::in_figures(split(text)));
    verbs(words)
}

/// Apart at spaces and round an equals sign; what stands behind a word for the eye alone is taken off, and what stands in
/// quotes stays together.
fn split(text: &str) -> Vec<Word> {
    let mut out = Vec::new();
    let mut begin = 0;
    let mut quote = None;
    for (i, c) in text.char_indices() {
        let next = i + c.len_utf8();
        match (quote, c) {
            (Some(from), '"') => {
                out.push(Word { stop: true, quoted: true, ..Word::new(&text[from..i], from - 1..next) });
                (quote, begin) = (None, next);
            }
            (Some(_), _) => {}
            (None, '"') if text[next..].contains('"') => {
                out.extend(plain(text, begin..i));
                quote = Some(next);
            }
            (None, '=' | '≈') => {
                out.extend(plain(text, begin..i));
                out.push(Word::new("=", i..next));
                begin = next;
            }
            (None, c) if c.is_whitespace() => {
                out.extend(plain(text, begin..i));
                begin = next;
            }
            (None, _) => {}
        }
    }
    out.extend(plain(text, begin..text.len()));
    out
}

/// A word without the signs round it; `None` where nothing is left.
fn plain(text: &str, at: Range<usize>) -> Option<Word> {
    let word = &text[at.clone()];
    let kept = word.trim_end_matches([',', ';', ':', '!', '?']);
    let kept = match kept.strip_suffix('.') {
        // "o.l." and "5." keep theirs.
        Some(without) if without.chars().all(char::is_alphabetic) && without.len() > 1 => without,
        _ => kept,
    };
    let kept = kept.trim_start_matches(['(', '"']).trim_end_matches([')', '"']);
    let from = at.start + word.find(kept)?;
    let stop = word.ends_with([',', ';']);
    (!kept.is_empty()).then(|| Word { stop, ..Word::new(kept, from..from + kept.len()) })
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
            if words.peek().is_some_and(|n| n.is("a") || n.is("of")) {
                words.next();
            }
            let watt = words.peek().is_some_and(|n| ["watt", "watts", "w", "watter"].iter().any(|u| n.is(u)));
            if watt {
                let mut watts = Word::new(format!("{part}W"), w.at);
                words.next().iter().for_each(|unit| watts.take_in(unit));
                out.push(watts);
            } else {
                out.push(w);
            }
            continue;
        }
        // "220K ohms" says its unit twice.
        let again = ["ohm", "ohms", "farad", "farads"].contains(&lower.as_str());
        if let Some(last) =
            out.last_mut().filter(|l| again && begins_a_number(&l.text) && !is_number(&l.text))
        {
            last.take_in(&w);
            continue;
        }
        let Some(last) = out.last_mut().filter(|l| is_number(&l.text)) else {
            out.push(w);
            continue;
        };
        let behind_is_a_number = words.peek().is_some_and(|n| begins_a_number(&n.text));
        let unit = everyday::unit(&lower).map(str::to_owned);
        // "bias -4 volts 180" says two facts.
        let fact = (lower == "volts" || lower == "volt") && behind_is_a_number;
        let unit = unit.or_else(|| (!fact && is_unit(&lower)).then(|| w.text.clone()));
        match unit {
            Some(unit) => {
                last.text.push_str(&unit);
                last.take_in(&w);
                // "8k ohms", "2 micro farads" say their unit twice.
                let again = ["ohm", "ohms", "farad", "farads", "hertz"];
                if let Some(more) = words.next_if(|n| unit.len() <= 2 && again.iter().any(|a| n.is(a))) {
                    last.take_in(&more);
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
    // "in", "out" and the like are no units though letters of them are.
    let alone = !["d", "c", "r", "f"].contains(&lower) && lower.chars().count() <= 7;
    let quantity = quantity_of_unit(lower).filter(|q| *q != Quantity::Time && *q != Quantity::Temperature);
    prefix || alone && quantity.is_some_and(|q| parse(q, &format!("1{lower}")).is_ok())
}

/// Whether a word that nothing else claims says nothing.
pub(super) fn is_filler(word: &str) -> bool {
    everyday::is(word, Slot::Filler) || everyday::is(word, Slot::Verb)
}

/// A verb of measuring before a value is an equals sign.
fn verbs(mut words: Vec<Word>) -> Vec<Word> {
    for i in 0..words.len() {
        if !everyday::is(&words[i].text, Slot::Verb) {
            continue;
        }
        // "is a 10k wirewound" says what it is.
        if words.get(i + 1).is_some_and(|n| n.is("a") || n.is("an")) {
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
