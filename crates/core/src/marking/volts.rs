//! Rated volts: printed (`400 WVDC`, `275V~`, `1KV`) and as a digit and a letter (`1H`, `2A`, `3A`),
//! which are a power of ten and a figure.

use std::sync::LazyLock;

use serde::Deserialize;

use super::{Rating, VoltsKind};
use crate::part::CapacitorFamily;
use crate::source::Source;
use crate::table::rows;

/// A letter of the voltage code.
#[derive(Debug, Clone, Deserialize)]
pub struct VoltageLetter {
    /// The letter.
    pub letter: char,
    /// Its figure, 1 to 8; volts are figure × 10^digit.
    pub figure: f64,
    /// Where the row comes from.
    pub source: Source,
}

/// A spelling of volts.
#[derive(Debug, Clone, Deserialize)]
pub struct VoltsWord {
    /// As printed, in capitals.
    pub word: String,
    /// What kind of volts it means.
    pub kind: VoltsKind,
    /// Whether it is the surge rating: `yes` or `no`.
    pub surge: String,
    /// Where the row comes from.
    pub source: Source,
}

static LETTERS: LazyLock<Vec<VoltageLetter>> = LazyLock::new(|| {
    rows("marking/voltage_letter.csv", include_str!("../../data/marking/voltage_letter.csv"))
});
static WORDS: LazyLock<Vec<VoltsWord>> =
    LazyLock::new(|| rows("marking/volts_word.csv", include_str!("../../data/marking/volts_word.csv")));

/// A rating that such parts are made with.
#[derive(Debug, Deserialize)]
struct Made {
    volts: f64,
    on: CapacitorFamily,
    #[allow(dead_code, reason = "read so that a row without a source is refused")]
    source: Source,
}

static MADE: LazyLock<Vec<Made>> =
    LazyLock::new(|| rows("marking/rating_made.csv", include_str!("../../data/marking/rating_made.csv")));

/// Whether parts of that family are made with so many rated volts.
pub(super) fn is_made(family: CapacitorFamily, volts: f64) -> bool {
    MADE.iter().any(|m| m.on == family && (m.volts / volts - 1.0).abs() < 1e-9)
}

/// The letters.
#[must_use]
pub fn letters() -> &'static [VoltageLetter] {
    &LETTERS
}

/// Volts as they were printed.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Printed {
    /// The volts, above zero.
    pub volts: f64,
    /// What kind.
    pub kind: VoltsKind,
    /// Whether it is the surge rating.
    pub surge: bool,
}

impl Printed {
    /// As a rating.
    #[must_use]
    pub fn rating(self) -> Option<Rating> {
        Rating::new(self.volts, self.kind)
    }
}

/// The volts of a digit and a letter: `1H` is 50 V, `3A` 1000 V. `None` if `text` is none.
#[must_use]
pub fn of_letters(text: &str) -> Option<f64> {
    let mut chars = text.chars();
    let (digit, letter, None) = (chars.next()?, chars.next()?, chars.next()) else { return None };
    let power = digit.to_digit(10).filter(|d| *d <= 4)?;
    let row = LETTERS.iter().find(|l| l.letter == letter.to_ascii_uppercase())?;
    Some(row.figure * f64::from(10u32.pow(power)))
}

/// Reads printed volts with their unit: `250V`, `@450`, `1KV`, `400WVDC`, `275V~`, `AC250V`. `None`
/// where no unit or `@` says that it is volts.
#[must_use]
pub fn printed(word: &str) -> Option<Printed> {
    let word = word.trim().to_uppercase().replace(['(', ')'], "");
    let (ahead, rest) = match word.strip_prefix('@') {
        Some(rest) => (Some(VoltsKind::Unstated), rest.trim()),
        None => (None, word.as_str()),
    };
    let (ahead, rest) = if let Some(r) = rest.strip_prefix("DC").filter(|r| starts_number(r)) {
        (Some(VoltsKind::Direct), r)
    } else if let Some(r) =
        rest.strip_prefix("AC").or_else(|| rest.strip_prefix('~')).filter(|r| starts_number(r))
    {
        (Some(VoltsKind::Alternating), r)
    } else {
        (ahead, rest)
    };
    let end = rest.find(|c: char| !c.is_ascii_digit() && c != '.').unwrap_or(rest.len());
    let (number, unit) = rest.split_at(end);
    let number: f64 = number.parse().ok()?;
    let unit: String = unit.chars().filter(|c| *c != '.' && !c.is_whitespace()).collect();
    let (kilo, unit) = match unit.strip_prefix('K') {
        Some(unit) if !unit.is_empty() => (1000.0, unit),
        _ => (1.0, unit.as_str()),
    };
    let volts = number * kilo;
    if !(volts > 0.0 && volts < 1e6) {
        return None;
    }
    if unit.is_empty() {
        return ahead.map(|kind| Printed { volts, kind, surge: false });
    }
    let row = WORDS.iter().find(|w| w.word == unit)?;
    let kind = match (row.kind, ahead) {
        (VoltsKind::Unstated, Some(kind)) => kind,
        (kind, _) => kind,
    };
    Some(Printed { volts, kind, surge: row.surge == "yes" })
}

fn starts_number(text: &str) -> bool {
    text.starts_with(|c: char| c.is_ascii_digit() || c == '.')
}

/// Whether `word` is a unit of volts, to be put to the number before it.
#[must_use]
pub fn is_unit(word: &str) -> bool {
    let word: String = word.to_uppercase().chars().filter(|c| *c != '.').collect();
    let word = word.strip_prefix('K').filter(|w| !w.is_empty()).unwrap_or(&word);
    WORDS.iter().any(|w| w.word == word)
}
