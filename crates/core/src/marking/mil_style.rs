//! Military part numbers of resistors: style, size, characteristic, value, tolerance, failure rate:
//! `RC20GF103K`, `RCR20G103JS`, `RN60D1002F`, `RW69V102`.
//!
//! The watts are those of the style at its full-power temperature; the digits of the value are two
//! and zeros, or three and zeros, as the style has them.

use std::sync::LazyLock;

use serde::Deserialize;

use super::{Code, Meaning, Tolerance, Value, letter_code};
use crate::part::{Family, MadeOf, PartKind};
use crate::quantity::{Ohm, Watt};
use crate::source::Source;
use crate::table::rows;

/// A style and size.
#[derive(Debug, Clone, Deserialize)]
pub struct Style {
    /// The letters at the head.
    pub style: String,
    /// The two digits behind them.
    pub size: String,
    /// Rated power in watt.
    pub watts: f64,
    /// How it is made.
    pub family: Family,
    /// How many characters the value has.
    pub digits: usize,
    /// Whether a letter for the failure rate ends the number: `yes` or `no`.
    pub failure: String,
    /// Where the row comes from.
    pub source: Source,
}

/// A letter behind the size, or at the end.
#[derive(Debug, Clone, Deserialize)]
pub struct Letter {
    /// The styles that have it, or `any`.
    pub styles: String,
    /// `characteristic` or `failure`.
    pub place: String,
    /// The letter or letters.
    pub letter: String,
    /// What it says.
    pub meaning: String,
    /// Where the row comes from.
    pub source: Source,
}

static STYLES: LazyLock<Vec<Style>> =
    LazyLock::new(|| rows("marking/mil_style.csv", include_str!("../../data/marking/mil_style.csv")));
static LETTERS: LazyLock<Vec<Letter>> =
    LazyLock::new(|| rows("marking/mil_letter.csv", include_str!("../../data/marking/mil_letter.csv")));

/// The styles.
#[must_use]
pub fn styles() -> &'static [Style] {
    &STYLES
}

/// The letters.
#[must_use]
pub fn letters() -> &'static [Letter] {
    &LETTERS
}

/// Reads a part number; `None` if `text` is none.
#[must_use]
pub fn meaning(text: &str) -> Option<Meaning> {
    let text: String =
        text.trim().to_ascii_uppercase().chars().filter(|c| !c.is_whitespace() && *c != '-').collect();
    let style = STYLES.iter().find(|s| {
        text.strip_prefix(s.style.as_str()).is_some_and(|rest| rest.starts_with(s.size.as_str()))
    })?;
    let rest = text.get(style.style.len() + style.size.len()..)?;
    let value_at = rest.find(|c: char| c.is_ascii_digit()).map(|at| {
        // R as the point may open the value: RW69VR10.
        if at > 1 && rest[..at].ends_with('R') && style.family == Family::Wirewound { at - 1 } else { at }
    })?;
    let (characteristic, rest) = rest.split_at(value_at);
    let (value, tail) = rest.split_at_checked(style.digits)?;
    let ohms = number(value)?;
    let mut tail = tail.chars();
    let tolerance = match tail.next() {
        None => None,
        Some(letter) => Some(letter_code::tolerances().iter().find(|t| t.letter == letter)?),
    };
    let failure = match tail.next() {
        None => None,
        Some(_) if style.failure != "yes" => return None,
        Some(c) => Some(LETTERS.iter().find(|l| l.place == "failure" && l.letter == c.to_string())?),
    };
    if tail.next().is_some() || characteristic.len() > 2 {
        return None;
    }
    let value = Value::Resistance(Ohm::new(ohms).ok()?);
    let mut m = Meaning::new(PartKind::Resistor, Code::MilStyle, value, style.source.clone());
    m.power = Watt::new(style.watts).ok();
    m.made = Some(MadeOf::Resistor(style.family));
    m.because.push(format!("{}{}: {}, {} W", style.style, style.size, style.family, style.watts));
    let letter = LETTERS.iter().find(|l| {
        l.place == "characteristic"
            && l.letter == characteristic
            && l.styles.split(' ').any(|s| s == style.style)
    });
    match letter {
        Some(l) if l.meaning.contains("ppm") => {
            m.temperature = Some(format!("{characteristic}: {}", l.meaning))
        }
        Some(l) => m.notes.push(format!("{characteristic}: {}", l.meaning)),
        None if characteristic.is_empty() => {}
        None => m.notes.push(format!("characteristic {characteristic} is in no table here")),
    }
    if let Some(t) = tolerance {
        m.tolerance = Tolerance::of_percent(t.percent);
    }
    if let Some(f) = failure {
        m.notes.push(format!("failure rate {}", f.meaning));
    }
    Some(m)
}

/// The value: digits and zeros, or R as the point.
fn number(text: &str) -> Option<f64> {
    // What stands in the place of the digits may be anything.
    if !text.is_ascii() {
        return None;
    }
    if let Some((whole, frac)) = text.split_once('R') {
        let digits = whole.chars().chain(frac.chars()).all(|c| c.is_ascii_digit());
        return digits.then(|| format!("0{whole}.{frac}0").parse().ok())?;
    }
    let (head, zeros) = text.split_at(text.len() - 1);
    let head: f64 = head.parse().ok()?;
    let zeros: i32 = zeros.parse().ok()?;
    (head > 0.0).then(|| head * 10f64.powi(zeros))
}
