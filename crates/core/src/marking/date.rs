//! When a part was made, perhaps: year and week in four digits, or the letters of IEC 60062.
//!
//! Cannot tell a date from any other number of four digits, nor one cycle of twenty years from the
//! next: what is said always begins with "perhaps".

use std::sync::LazyLock;

use serde::Deserialize;

use crate::named::named;
use crate::source::Source;
use crate::table::rows;

named! {
    /// Which character of a date code.
    "place in a date code" Place {
        /// The year.
        Year = "year",
        /// The month.
        Month = "month",
    }
}

/// A character of a date code.
#[derive(Debug, Clone, Deserialize)]
pub struct Character {
    /// Which one.
    pub place: Place,
    /// The character.
    pub character: char,
    /// The year of the cycle from 1990, or the month.
    pub number: u16,
    /// Where the row comes from.
    pub source: Source,
}

static CHARACTERS: LazyLock<Vec<Character>> =
    LazyLock::new(|| rows("marking/date_letter.csv", include_str!("../../data/marking/date_letter.csv")));

/// The characters.
#[must_use]
pub fn characters() -> &'static [Character] {
    &CHARACTERS
}

const MONTHS: [&str; 12] = [
    "January",
    "February",
    "March",
    "April",
    "May",
    "June",
    "July",
    "August",
    "September",
    "October",
    "November",
    "December",
];

/// What a date code may say; `None` if `text` cannot be one.
#[must_use]
pub fn perhaps(text: &str) -> Option<String> {
    year_and_week(text).or_else(|| letters(text))
}

fn year_and_week(text: &str) -> Option<String> {
    if text.len() != 4 || !text.bytes().all(|b| b.is_ascii_digit()) {
        return None;
    }
    let (year, week): (u16, u16) = (text[..2].parse().ok()?, text[2..].parse().ok()?);
    if !(1..=53).contains(&week) {
        return None;
    }
    let century = if year >= 40 { 1900 } else { 2000 };
    Some(format!("perhaps made in week {week} of {}", century + year))
}

fn letters(text: &str) -> Option<String> {
    let mut chars = text.chars();
    let (year, month, None) = (chars.next()?, chars.next()?, chars.next()) else { return None };
    let of = |place, c: char| CHARACTERS.iter().find(|r| r.place == place && r.character == c);
    let year = of(Place::Year, year)?.number;
    let month = MONTHS.get(usize::from(of(Place::Month, month)?.number).checked_sub(1)?)?;
    Some(format!("perhaps made in {month} {}, {year} or {}", year - 20, year + 20))
}
