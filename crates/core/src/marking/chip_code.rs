//! Chip resistors: three or four digits, and the EIA-96 code of two digits and a letter.
//!
//! Cannot tell `100` (10 Ω in three digits) from a plain 100 Ω; both are given elsewhere. Cannot
//! tell the two letterings of EIA-96 apart where they agree; where they do not (`H`, `R`, `S`), only
//! one has the letter.

use std::sync::LazyLock;

use serde::Deserialize;

use super::{Code, Meaning, Tolerance, Value};
use crate::part::PartKind;
use crate::preferred::{Series, numbers};
use crate::quantity::Ohm;
use crate::source::Source;
use crate::table::rows;

/// A multiplier letter of EIA-96.
#[derive(Debug, Clone, Deserialize)]
pub struct Multiplier {
    /// The letter.
    pub letter: char,
    /// The power of ten.
    pub exponent: i32,
    /// Which lettering it belongs to: `usual`, `other` or `both`.
    pub lettering: String,
    /// Where the row comes from.
    pub source: Source,
}

static MULTIPLIERS: LazyLock<Vec<Multiplier>> =
    LazyLock::new(|| rows("marking/eia96.csv", include_str!("../../data/marking/eia96.csv")));

/// The multiplier letters of EIA-96.
#[must_use]
pub fn multipliers() -> &'static [Multiplier] {
    &MULTIPLIERS
}

/// The meanings of the print on a chip, each with its weight among them; empty if it is none.
#[must_use]
pub fn meanings(text: &str) -> Vec<(f64, Meaning)> {
    let text = text.trim().to_ascii_uppercase();
    let mut found = Vec::new();
    found.extend(link(&text).map(|m| (1.0, m)));
    found.extend(digits(&text).map(|m| (1.0, m)));
    found.extend(eia96(&text).map(|m| (1.0, m)));
    found
}

fn of(code: Code, ohms: f64, source: Source) -> Option<Meaning> {
    Some(Meaning::new(PartKind::Resistor, code, Value::Resistance(Ohm::new(ohms).ok()?), source))
}

/// `0`, `00`, `000`, `0000`, `0R0`: a link.
fn link(text: &str) -> Option<Meaning> {
    let zero = !text.is_empty()
        && text.len() <= 4
        && text.contains('0')
        && text.trim_matches('0').chars().all(|c| c == 'R')
        && text.chars().filter(|c| *c == 'R').count() <= 1;
    let mut m = zero.then(|| of(Code::Link, 0.0, Source::practice("zeros alone mean a zero-ohm link")))??;
    m.because.push("zeros alone: a link of zero ohm".to_owned());
    Some(m)
}

/// `103` is 10 kΩ, `4702` is 47 kΩ.
fn digits(text: &str) -> Option<Meaning> {
    let n = text.len();
    if !(n == 3 || n == 4) || !text.bytes().all(|b| b.is_ascii_digit()) || text.starts_with('0') {
        return None;
    }
    let (head, zeros) = text.split_at(n - 1);
    let zeros: i32 = zeros.parse().ok()?;
    let head: f64 = head.parse().ok()?;
    if zeros > 7 {
        return None;
    }
    let source = Source::standard("IEC 60062:2016, clause 5, three and four character codes");
    let mut m = of(Code::ChipCode, head * 10f64.powi(zeros), source)?;
    m.because.push(format!(
        "on a chip: {} and {zeros} zero{}",
        if n == 3 { "two digits" } else { "three digits" },
        if zeros == 1 { "" } else { "s" }
    ));
    if n == 4 {
        m.tolerance = Tolerance::of_percent(1.0);
        m.because.push("four characters are used for 1 %".to_owned());
    }
    Some(m)
}

/// `68C` is the 68th number of E96, 499, times 100.
fn eia96(text: &str) -> Option<Meaning> {
    let (head, letter) = text.split_at_checked(2)?;
    let mut letters = letter.chars();
    let (letter, None) = (letters.next()?, letters.next()) else { return None };
    let at: usize = head.parse().ok()?;
    if head.starts_with('+') {
        return None;
    }
    let row = MULTIPLIERS.iter().find(|m| m.letter == letter)?;
    let number = f64::from(*numbers(Series::E96).get(at.checked_sub(1)?)?);
    let ohms =
        if row.exponent < 0 { number / 10f64.powi(-row.exponent) } else { number * 10f64.powi(row.exponent) };
    let mut m = of(Code::Eia96, ohms, row.source.clone())?;
    m.tolerance = Tolerance::of_percent(1.0);
    m.because.push(format!("EIA-96: {head} is {number}, {letter} is × {}", 10f64.powi(row.exponent)));
    if row.lettering == "other" {
        m.because.push(format!("{letter} belongs to the other lettering of the same code"));
    }
    Some(m)
}
