//! Numbers and units in words: `4.7k 5% 1W`, `10 kΩ ±10 %`, `470 ohms`.

use super::{Code, MarkingError, Meaning, Tolerance, Value, letter_code};
use crate::named::Named;
use crate::part::{Family, MadeOf, PartKind, body};
use crate::quantity::parse::{parse, quantity_of_unit};
use crate::quantity::{Fraction, Ohm, Quantity, Watt};
use crate::source::Source;

/// What one piece of a typed text says.
#[derive(Debug, Clone, PartialEq)]
pub enum Piece {
    /// A resistance, in each of its meanings.
    Value(Vec<Meaning>),
    /// A tolerance to either side.
    Tolerance(Fraction),
    /// A rated power.
    Power(Watt),
    /// Anything else.
    Word(String),
}

/// Splits a text into pieces. A unit that stands apart from its number is put back to it
/// (`4.7 kΩ`, `1 W`, `10 %`).
#[must_use]
pub fn pieces(text: &str) -> Vec<Piece> {
    let spaced = text.replace('±', " ").replace("+/-", " ");
    let mut words: Vec<String> = Vec::new();
    for word in spaced.split_whitespace() {
        let unit = !word.chars().any(|c| c.is_ascii_digit() || "½¼¾⅛".contains(c));
        match words.last_mut() {
            Some(last)
                if unit
                    && last.ends_with(|c: char| c.is_ascii_digit() || "½¼¾⅛".contains(c))
                    && joins(last, word) =>
            {
                last.push_str(word);
            }
            _ => words.push(word.to_owned()),
        }
    }
    words.into_iter().map(|w| piece(&w)).collect()
}

/// Whether `word` is the unit of the number before it.
fn joins(number: &str, word: &str) -> bool {
    let joined = format!("{number}{word}");
    word.chars().count() <= 6
        && [Quantity::Resistance, Quantity::Power, Quantity::Fraction]
            .iter()
            .any(|q| parse(*q, &joined).is_ok())
}

fn piece(word: &str) -> Piece {
    let suffix = word.trim_start_matches(|c: char| c.is_ascii_digit() || ".,/½¼¾⅛".contains(c));
    let first = |q| parse(q, word).ok().map(|e| e[0].value);
    match quantity_of_unit(suffix) {
        Some(Quantity::Fraction) => {
            if let Some(Ok(t)) = first(Quantity::Fraction).map(Fraction::new) {
                return Piece::Tolerance(t);
            }
        }
        Some(Quantity::Power) => {
            if let Some(Ok(p)) = first(Quantity::Power).map(Watt::new) {
                return Piece::Power(p);
            }
        }
        _ => {}
    }
    if let Ok(entries) = parse(Quantity::Resistance, word) {
        let meanings: Vec<Meaning> = entries
            .into_iter()
            .filter_map(|e| {
                let mut m = bare(Ohm::new(e.value).ok()?);
                m.likelihood = e.likelihood;
                m.because = e.because;
                Some(m)
            })
            .collect();
        if !meanings.is_empty() {
            return Piece::Value(meanings);
        }
    }
    match letter_code::meaning(word) {
        Some(mut m) => {
            m.likelihood = 1.0;
            Piece::Value(vec![m])
        }
        None => Piece::Word(word.to_owned()),
    }
}

fn bare(value: Ohm) -> Meaning {
    let source = Source::standard("SI brochure, 9th edition, tables 4 and 7");
    Meaning::new(PartKind::Resistor, Code::PlainText, Value::Resistance(value), source)
}

/// The meanings of a printed text; likelihoods are the shares of the typed value's meanings.
///
/// # Errors
/// [`MarkingError::NotUnderstood`] for a word that is neither value, tolerance nor watts, and
/// where there is no value or more than one.
pub fn meanings(text: &str) -> Result<Vec<Meaning>, MarkingError> {
    let refuse = |why: String| MarkingError::NotUnderstood { text: text.chars().take(40).collect(), why };
    let (mut value, mut tolerance, mut power) = (None, None, None);
    let (mut made, mut size) = (None, None);
    for piece in pieces(text) {
        match piece {
            Piece::Value(_) if value.is_some() => {
                return Err(refuse("it holds two values".to_owned()));
            }
            Piece::Value(v) => value = Some(v),
            Piece::Tolerance(t) => tolerance = Some(t),
            Piece::Power(p) => power = Some(p),
            Piece::Word(w) => {
                if let Some(b) = body::of_size(&w) {
                    size = Some(b);
                } else if let Some(f) = family(&w) {
                    made = Some(MadeOf::Resistor(f));
                } else {
                    let word: String = w.chars().take(20).collect();
                    return Err(refuse(format!("'{word}' is neither a value, a tolerance nor watts")));
                }
            }
        }
    }
    let mut value =
        value.ok_or_else(|| refuse("there is no value in it, such as 6k8 or 33 kΩ".to_owned()))?;
    for m in &mut value {
        m.tolerance = tolerance.map(Tolerance::even).or(m.tolerance);
        m.made = made;
        m.power = power;
        if let (None, Some(body)) = (power, size) {
            m.power = Watt::new(body.watts).ok();
            m.because.push(format!(
                "a composition body of {} × {} mm is {}",
                body.length_mm,
                body.diameter_mm,
                Watt::new(body.watts).map_or_else(|_| String::new(), |w| w.to_string())
            ));
        }
    }
    Ok(value)
}

/// One word that says how a resistor is made.
fn family(word: &str) -> Option<Family> {
    match word.to_ascii_lowercase().as_str() {
        "ww" | "wirewound" | "wound" => Some(Family::Wirewound),
        "cc" | "composition" => Some(Family::CarbonComposition),
        "mf" => Some(Family::MetalFilm),
        "cf" => Some(Family::CarbonFilm),
        word => Family::from_name(word).ok(),
    }
}
