//! The colours of IEC 60062 and what each means as a digit, a multiplier, a tolerance and a
//! temperature coefficient.

use std::sync::LazyLock;

use serde::Deserialize;

use super::MarkingError;
use crate::named::{Named, named};
use crate::source::Source;
use crate::table::rows;

named! {
    /// A colour that a band can have.
    "band colour" Colour {
        /// 0
        Black = "black",
        /// 1
        Brown = "brown",
        /// 2
        Red = "red",
        /// 3
        Orange = "orange",
        /// 4
        Yellow = "yellow",
        /// 5
        Green = "green",
        /// 6
        Blue = "blue",
        /// 7
        Violet = "violet",
        /// 8
        Grey = "grey",
        /// 9
        White = "white",
        /// × 0.1, 5 %
        Gold = "gold",
        /// × 0.01, 10 %
        Silver = "silver",
        /// × 0.001
        Pink = "pink",
        /// No colour: a dot or band that is missing, or of the body's colour.
        Absent = "none",
    }
}

/// What a colour means in each place (IEC 60062:2016).
#[derive(Debug, Clone, Deserialize)]
pub struct Row {
    /// The colour.
    pub colour: Colour,
    /// As a significant digit.
    pub digit: Option<u8>,
    /// As a multiplier: the power of ten.
    pub exponent: Option<i32>,
    /// As a tolerance, in percent to either side.
    pub tolerance_percent: Option<f64>,
    /// As a temperature coefficient, in parts per million per kelvin.
    pub ppm: Option<f64>,
    /// The two-letter code of IEC 60757.
    pub abbreviation: String,
    /// Where the row comes from.
    pub source: Source,
}

/// Words among colours that say nothing of their own.
const NOISE: &[&str] = &["band", "bands", "dot", "dots", "stripe", "stripes", "wide", "broad"];

static ROWS: LazyLock<Vec<Row>> = LazyLock::new(|| rows("colour.csv", include_str!("../../data/colour.csv")));

/// The table, in the order of the standard.
#[must_use]
pub fn table() -> &'static [Row] {
    &ROWS
}

impl Colour {
    /// What this colour means; the table has a row for every colour, which a test checks.
    #[must_use]
    pub fn row(self) -> &'static Row {
        let at = ROWS.iter().position(|r| r.colour == self).unwrap_or(0);
        &ROWS[at]
    }

    /// The colour called `word`: by name, by common other spelling, or by the code of IEC 60757.
    #[must_use]
    pub fn of_word(word: &str) -> Option<Self> {
        let word = word.trim();
        let spelled = match word.to_ascii_lowercase().as_str() {
            "gray" => "grey",
            "purple" | "mauve" => "violet",
            "nothing" | "missing" | "blank" => "none",
            _ => word,
        };
        Self::from_name(spelled)
            .ok()
            .or_else(|| ROWS.iter().find(|r| r.abbreviation.eq_ignore_ascii_case(word)).map(|r| r.colour))
    }

    /// The colours of a body, an end and a dot, and of the other end where it has one, in that order, each named beside
    /// its place in either order: `body grey, end red, dot yellow, silver end`. `None` where the text does not name
    /// body, end and dot.
    #[must_use]
    pub fn body_end_dot(text: &str) -> Option<Vec<Self>> {
        let lower = text.to_lowercase();
        let words: Vec<&str> = lower
            .split(|c: char| c.is_whitespace() || ",;-/".contains(c))
            .filter(|w| !w.is_empty() && *w != "other")
            .collect();
        let (mut body, mut dot, mut ends) = (None, None, Vec::new());
        for pair in words.chunks(2) {
            let [a, b] = pair else { return None };
            let (place, colour) = match (Self::of_word(a), Self::of_word(b)) {
                (Some(c), None) => (*b, c),
                (None, Some(c)) => (*a, c),
                _ => return None,
            };
            match place {
                "body" => body = Some(colour),
                "dot" | "spot" => dot = Some(colour),
                "end" | "tip" => ends.push(colour),
                _ => return None,
            }
        }
        // Gold and silver are no digit: that end says the tolerance.
        ends.sort_by_key(|c| matches!(c, Self::Gold | Self::Silver));
        let mut ends = ends.into_iter();
        let mut row = vec![body?, ends.next()?, dot?];
        row.extend(ends);
        Some(row)
    }

    /// The colours named in `text`, if it is a list of words at least one of which is the full
    /// name of a colour; `None` if it is something else.
    ///
    /// # Errors
    /// [`MarkingError::UnknownColour`] for a word among colours that is none.
    pub fn list(text: &str) -> Result<Option<Vec<Self>>, MarkingError> {
        let words: Vec<&str> =
            text.split(|c: char| c.is_whitespace() || ",;-/".contains(c)).filter(|w| !w.is_empty()).collect();
        let words: Vec<&str> =
            words.into_iter().filter(|w| !NOISE.iter().any(|n| w.eq_ignore_ascii_case(n))).collect();
        let any = words.iter().any(|w| w.len() > 2 && Self::of_word(w).is_some());
        let all = !words.is_empty() && words.iter().all(|w| Self::of_word(w).is_some());
        if !any && !all {
            return Ok(None);
        }
        words
            .into_iter()
            .map(|w| Self::of_word(w).ok_or_else(|| Self::unknown(w)))
            .collect::<Result<Vec<_>, _>>()
            .map(Some)
    }

    /// The message for a word that is no colour.
    #[must_use]
    pub fn unknown(word: &str) -> MarkingError {
        let known = Self::ALL.iter().map(|c| c.name()).collect::<Vec<_>>().join(", ");
        MarkingError::UnknownColour { given: word.chars().take(40).collect(), known }
    }
}

/// The names of a row of colours, in its order.
pub(super) fn spelled(row: &[Colour]) -> String {
    row.iter().map(|c| c.name()).collect::<Vec<_>>().join(" ")
}
