//! What a capacitor does with heat: class 1 by name (`N750`, `NP0`) or EIA letters (`C0G`, `U2J`),
//! class 2 by EIA letters (`X7R`, `Z5U`).

use std::sync::LazyLock;

use serde::Deserialize;

use crate::named::named;
use crate::part::CapacitorFamily;
use crate::source::Source;
use crate::table::rows;

/// A named coefficient.
#[derive(Debug, Clone, Deserialize)]
pub struct Coefficient {
    /// Its name.
    pub name: String,
    /// In parts per million per kelvin.
    pub ppm: f64,
    /// Where the row comes from.
    pub source: Source,
}

named! {
    /// Which character of a class 1 code.
    "place in a class 1 code" Place1 {
        /// The first, the figure.
        Figure = "figure",
        /// The second, its factor.
        Factor = "factor",
        /// The third, how far the coefficient may be off.
        Spread = "spread",
    }
}

/// A character of a class 1 code.
#[derive(Debug, Clone, Deserialize)]
pub struct Character1 {
    /// Which one.
    pub place: Place1,
    /// The character.
    pub character: char,
    /// What it stands for; ppm/K for the spread.
    pub number: f64,
    /// Where the row comes from.
    pub source: Source,
}

named! {
    /// Which character of a class 2 code.
    "place in a class 2 code" Place2 {
        /// The first, the lowest temperature.
        Coldest = "coldest",
        /// The second, the highest temperature.
        Hottest = "hottest",
        /// The third, the change between them.
        Change = "change",
    }
}

/// A character of a class 2 code.
#[derive(Debug, Clone, Deserialize)]
pub struct Character2 {
    /// Which one.
    pub place: Place2,
    /// The character.
    pub character: char,
    /// °C, or percent downwards.
    pub low: f64,
    /// °C, or percent upwards.
    pub high: f64,
    /// Where the row comes from.
    pub source: Source,
}

static COEFFICIENTS: LazyLock<Vec<Coefficient>> =
    LazyLock::new(|| rows("marking/coefficient.csv", include_str!("../../data/marking/coefficient.csv")));
static CLASS1: LazyLock<Vec<Character1>> =
    LazyLock::new(|| rows("marking/class1.csv", include_str!("../../data/marking/class1.csv")));
static CLASS2: LazyLock<Vec<Character2>> =
    LazyLock::new(|| rows("marking/class2.csv", include_str!("../../data/marking/class2.csv")));

/// The named coefficients.
#[must_use]
pub fn coefficients() -> &'static [Coefficient] {
    &COEFFICIENTS
}

/// The characters of class 1.
#[must_use]
pub fn class1() -> &'static [Character1] {
    &CLASS1
}

/// The characters of class 2.
#[must_use]
pub fn class2() -> &'static [Character2] {
    &CLASS2
}

/// What a temperature code says.
#[derive(Debug, Clone, PartialEq)]
pub struct Behaviour {
    /// In words: `U2J: −750 ±120 ppm/K`.
    pub in_words: String,
    /// The coefficient in ppm/K; `None` for class 2.
    pub ppm_per_kelvin: Option<f64>,
    /// The ceramic that has such a code.
    pub family: CapacitorFamily,
    /// The table that it is read by.
    pub source: Source,
}

/// Reads a temperature code; `None` if `text` is none.
#[must_use]
pub fn behaviour(text: &str) -> Option<Behaviour> {
    let text = text.trim().to_ascii_uppercase();
    if let Some(c) = COEFFICIENTS.iter().find(|c| c.name == text) {
        return Some(Behaviour {
            in_words: format!("{text}: {} ppm/K", signed(c.ppm)),
            ppm_per_kelvin: Some(c.ppm),
            family: CapacitorFamily::CeramicClass1,
            source: c.source.clone(),
        });
    }
    // The letter O is often printed, and more often typed, for the figure 0.
    let text = if text.len() == 3 && text.as_bytes()[1] == b'O' { text.replacen('O', "0", 1) } else { text };
    let mut chars = text.chars();
    let (Some(a), Some(b), Some(c), None) = (chars.next(), chars.next(), chars.next(), chars.next()) else {
        return None;
    };
    class1_of(&text, a, b, c).or_else(|| class2_of(&text, a, b, c))
}

fn class1_of(text: &str, a: char, b: char, c: char) -> Option<Behaviour> {
    let of = |place, ch| CLASS1.iter().find(|r| r.place == place && r.character == ch);
    let (figure, factor, spread) = (of(Place1::Figure, a)?, of(Place1::Factor, b)?, of(Place1::Spread, c)?);
    let ppm = figure.number * factor.number;
    Some(Behaviour {
        in_words: format!("{text}: {} ±{} ppm/K", signed(ppm), spread.number),
        ppm_per_kelvin: Some(ppm),
        family: CapacitorFamily::CeramicClass1,
        source: figure.source.clone(),
    })
}

fn class2_of(text: &str, a: char, b: char, c: char) -> Option<Behaviour> {
    let of = |place, ch| CLASS2.iter().find(|r| r.place == place && r.character == ch);
    let (cold, hot, change) = (of(Place2::Coldest, a)?, of(Place2::Hottest, b)?, of(Place2::Change, c)?);
    let range = if change.low == change.high {
        format!("±{} %", change.low)
    } else {
        format!("+{} −{} %", change.high, change.low)
    };
    Some(Behaviour {
        in_words: format!("{text}: {range} from {} to {} °C", minus(cold.low), minus(hot.low)),
        ppm_per_kelvin: None,
        family: CapacitorFamily::CeramicClass2,
        source: change.source.clone(),
    })
}

fn minus(v: f64) -> String {
    format!("{v}").replace('-', "−")
}

fn signed(v: f64) -> String {
    if v == 0.0 { "0".to_owned() } else { format!("{v:+}").replace('-', "−") }
}
