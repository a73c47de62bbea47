//! Military part numbers of capacitors: style, size, characteristic, volts, value, tolerance, failure rate:
//! `CM20B102K`, `CK05BX102K`, `CC20CH270J`, `CY10C221J`, `CSR13C105KM`, `CP25A1EF104K`.
//!
//! The value is two digits and the zeros behind them in picofarad. Letters ahead of it are the characteristic, which is
//! told as it stands; the last of two is the volts where its style has them.

use std::sync::LazyLock;

use serde::Deserialize;

use super::{Code, Meaning, Rating, Value, VoltsKind, digit_code};
use crate::part::{CapacitorFamily, MadeOf, PartKind};
use crate::quantity::Farad;
use crate::source::Source;
use crate::table::rows;

/// A style.
#[derive(Debug, Clone, Deserialize)]
pub struct Style {
    /// The letters at the head.
    pub style: String,
    /// How it is made.
    pub family: CapacitorFamily,
    /// Where the row comes from.
    pub source: Source,
}

/// A letter for the rated volts.
#[derive(Debug, Clone, Deserialize)]
pub struct VoltsLetter {
    /// The styles that have it, with blanks between them.
    pub styles: String,
    /// The letter ahead of the value.
    pub letter: char,
    /// Direct volts.
    pub volts: f64,
    /// Where the row comes from.
    pub source: Source,
}

static STYLES: LazyLock<Vec<Style>> =
    LazyLock::new(|| rows("marking/mil_capacitor.csv", include_str!("../../data/marking/mil_capacitor.csv")));
static VOLTS: LazyLock<Vec<VoltsLetter>> = LazyLock::new(|| {
    rows("marking/mil_capacitor_volts.csv", include_str!("../../data/marking/mil_capacitor_volts.csv"))
});

/// The styles.
#[must_use]
pub fn styles() -> &'static [Style] {
    &STYLES
}

/// The letters of the rated volts.
#[must_use]
pub fn volts_letters() -> &'static [VoltsLetter] {
    &VOLTS
}

/// Reads a part number; `None` if `text` is none.
///
/// ```
/// use owl_core::marking::mil_capacitor::meaning;
/// let m = meaning("CK06BX334K").unwrap();
/// assert!((m.value.number().unwrap().1 - 330e-9).abs() < 1e-12);
/// assert!(meaning("CKD").is_none());
/// ```
#[must_use]
pub fn meaning(text: &str) -> Option<Meaning> {
    let text: String =
        text.trim().to_ascii_uppercase().chars().filter(|c| !c.is_whitespace() && *c != '-').collect();
    if !text.is_ascii() {
        return None;
    }
    let head = text.find(|c: char| c.is_ascii_digit())?;
    let style = STYLES.iter().find(|s| s.style == text[..head])?;
    let size = text.get(head..head + 2).filter(|s| s.bytes().all(|b| b.is_ascii_digit()))?;
    let rest = &text[head + 2..];
    // The value is the last three digits that stand together.
    let bytes = rest.as_bytes();
    let at =
        (0..bytes.len().saturating_sub(2)).rev().find(|i| bytes[*i..i + 3].iter().all(u8::is_ascii_digit))?;
    let (characteristic, tail) = (&rest[..at], &rest[at + 3..]);
    let (digits, zeros) = (rest[at..at + 2].parse::<f64>().ok()?, i32::from(bytes[at + 2] - b'0'));
    // 8 and 9 in the last place are hundredths and tenths (as in IEC 60062).
    let exponent = if zeros >= 8 { zeros - 10 } else { zeros };
    let value = Farad::new(digits * 10f64.powi(exponent) / 1e12).ok().filter(|f| *f > Farad::ZERO)?;
    if characteristic.len() > 5 || !characteristic.starts_with(|c: char| c.is_ascii_alphabetic()) {
        return None;
    }
    let mut m =
        Meaning::new(PartKind::Capacitor, Code::MilStyle, Value::Capacitance(value), style.source.clone());
    m.made = Some(MadeOf::Capacitor(style.family));
    m.because.push(format!("{}{size}: {}", style.style, style.family));
    let has_volts = |v: &&VoltsLetter| v.styles.split(' ').any(|s| s == style.style);
    // A characteristic of one letter has no volts behind it, but for the tantalums, whose only letter is that.
    let volts =
        characteristic.chars().last().filter(|_| characteristic.len() > 1 || style.style.starts_with("CS"));
    if let Some(v) = volts.and_then(|c| VOLTS.iter().filter(has_volts).find(|v| v.letter == c)) {
        m.rating = Rating::new(v.volts, VoltsKind::Direct);
        m.because.push(format!("{} is {} V", v.letter, v.volts));
    } else {
        m.notes.push(format!("characteristic {characteristic}: its volts are in the specification"));
    }
    let mut tail = tail.chars();
    if let Some(letter) = tail.next() {
        m.tolerance = Some(digit_code::tolerance(letter, value)?);
    }
    let more: String = tail.collect();
    if !more.is_empty() {
        m.notes.push(format!("{more} behind it: failure rate, temperatures or finish"));
    }
    Some(m)
}
