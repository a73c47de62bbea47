//! Letters as the point and as the tolerance: `4K7`, `R33`, `2R2J`, `470RK` (IEC 60062:2016,
//! clause 5).
//!
//! Cannot tell `10K` with a missing tolerance from `10` with tolerance K: the standard always
//! writes a multiplier letter, so the first is meant.

use std::sync::LazyLock;

use serde::Deserialize;

use super::{Code, Meaning, Tolerance, Value};
use crate::part::{Family, MadeOf, PartKind};
use crate::quantity::{Ohm, Watt};
use crate::source::Source;
use crate::table::rows;

/// A tolerance letter.
#[derive(Debug, Clone, Deserialize)]
pub struct ToleranceLetter {
    /// The letter.
    pub letter: char,
    /// Percent to either side.
    pub percent: f64,
    /// Where the row comes from.
    pub source: Source,
}

/// A multiplier letter.
#[derive(Debug, Clone, Deserialize)]
pub struct MultiplierLetter {
    /// The letter.
    pub letter: char,
    /// The power of ten.
    pub exponent: i32,
    /// Where the row comes from.
    pub source: Source,
}

static TOLERANCES: LazyLock<Vec<ToleranceLetter>> =
    LazyLock::new(|| rows("tolerance_letter.csv", include_str!("../../data/tolerance_letter.csv")));
static MULTIPLIERS: LazyLock<Vec<MultiplierLetter>> =
    LazyLock::new(|| rows("multiplier_letter.csv", include_str!("../../data/multiplier_letter.csv")));

/// The tolerance letters, closest first.
#[must_use]
pub fn tolerances() -> &'static [ToleranceLetter] {
    &TOLERANCES
}

/// The multiplier letters, smallest first.
#[must_use]
pub fn multipliers() -> &'static [MultiplierLetter] {
    &MULTIPLIERS
}

/// On American sheets of the thirties `M` behind a whole number is a thousand: `500M` may be 500 kΩ (practice).
#[must_use]
pub fn american_thousand(text: &str) -> Option<Meaning> {
    let number = text.trim().strip_suffix('M').filter(|n| n.bytes().all(|b| b.is_ascii_digit()))?;
    let number: f64 = number.parse().ok().filter(|n| (1.0..=999.0).contains(n))?;
    let value = Value::Resistance(Ohm::new(number * 1e3).ok()?);
    let mut m = Meaning::new(PartKind::Resistor, Code::PlainText, value, Source::practice("American sheets"));
    m.because.push("M is a thousand on American sheets of the thirties".to_owned());
    Some(m)
}

/// A cement body: watts, then the letter code: `5W150RJ`, `5W0R47J`, `10W4R7J` (practice: how they are printed).
#[must_use]
pub fn behind_watts(text: &str) -> Option<Meaning> {
    let text = text.trim().to_ascii_uppercase();
    let (watts, rest) = text.split_once('W')?;
    let watts: f64 = watts.parse().ok().filter(|w| (0.5..=100.0).contains(w))?;
    let mut m = meaning(rest)?;
    m.power = Watt::new(watts).ok();
    m.made = Some(MadeOf::Resistor(Family::Wirewound));
    m.because.insert(0, format!("{watts} W ahead, as on cement bodies"));
    Some(m)
}

/// Reads a letter code; `None` if `text` is none. The likelihood is not set here.
#[must_use]
pub fn meaning(text: &str) -> Option<Meaning> {
    let text = text.trim().to_ascii_uppercase();
    let at = text.find(|c: char| c.is_ascii_alphabetic())?;
    let (whole, rest) = text.split_at(at);
    let letter = rest.chars().next()?;
    let multiplier = MULTIPLIERS.iter().find(|m| m.letter == letter)?;
    let rest = &rest[letter.len_utf8()..];
    let frac_end = rest.find(|c: char| !c.is_ascii_digit()).unwrap_or(rest.len());
    let (frac, tail) = rest.split_at(frac_end);
    let digits = whole.len() + frac.len();
    if !(1..=4).contains(&digits) || !whole.chars().all(|c| c.is_ascii_digit()) {
        return None;
    }
    let tolerance = match tail.chars().collect::<Vec<_>>()[..] {
        [] => None,
        [t] => Some(TOLERANCES.iter().find(|row| row.letter == t)?),
        _ => return None,
    };
    let number: f64 = format!("{whole}{frac}").parse().ok()?;
    let exponent = multiplier.exponent - i32::try_from(frac.len()).ok()?;
    let value = if exponent < 0 { number / 10f64.powi(-exponent) } else { number * 10f64.powi(exponent) };
    let mut because = vec![match frac {
        "" => format!("{letter} behind the digits is the multiplier"),
        _ => format!("{letter} stands for the point"),
    }];
    if let Some(t) = tolerance {
        because.push(format!("{} at the end is ±{} %", t.letter, t.percent));
    }
    let value = Value::Resistance(Ohm::new(value).ok()?);
    let mut m = Meaning::new(PartKind::Resistor, Code::LetterCode, value, multiplier.source.clone());
    m.tolerance = tolerance.and_then(|t| Tolerance::of_percent(t.percent));
    m.because = because;
    Some(m)
}
