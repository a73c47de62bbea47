//! The owl line: one sentence, as a technician would say it, and what is understood by it.
//!
//! | sentence | meaning |
//! |---|---|
//! | `R14 1k 10% 1W cathode` | a new part with its mark and its place |
//! | `=1270` | a reading of the selected part |
//! | `R8 = 12k hot` | a reading of R8, taken hot |
//! | `R8 OL` | R8 is beyond the meter's range |
//! | `R15 yellow violet orange silver` | the mark of R15 |
//! | `R15 sheet 47k` | what the sheet says of R15 |
//! | `R7 pair R8` | the two are halves of a pair |
//! | `R7` | select it |
//! | `C12 .05 MFD 400V` | a capacitor with its marking; coils, diodes and lamps likewise |
//! | `C12 sheet .05` | what the sheet says of C12 |
//!
//! A known part with a bare value is a reading; with a tolerance, watts, a family or a place it
//! is its mark.

mod other;
mod sentence;

pub use sentence::{read_entry, understand};

use crate::marking::{Colour, MarkingError, Meaning};
use crate::part::{Family, PartKind, Position};
use crate::quantity::read::EntryError;
use crate::quantity::{Fraction, Ohm, Watt};
use crate::reading::doubt::Doubt;
use crate::reading::{Mode, State};

/// The longest sentence that is looked at, in characters.
pub const LONGEST: usize = 200;

/// A part that the sentence can be about.
#[derive(Debug, Clone, PartialEq)]
pub struct Known {
    /// What it is called on the tray, in capitals.
    pub name: String,
    /// Its marked value.
    pub marked: Option<Ohm>,
    /// The sheet's value.
    pub sheet: Option<Ohm>,
    /// The state of its last reading.
    pub state: Option<State>,
}

/// What is on the tray, and which part is selected.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct Tray {
    /// All parts.
    pub parts: Vec<Known>,
    /// The name of the selected one.
    pub selected: Option<String>,
}

/// A mark as it was said.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct Mark {
    /// The value.
    pub value: Option<Ohm>,
    /// The tolerance.
    pub tolerance: Option<Fraction>,
    /// The rated power.
    pub power: Option<Watt>,
    /// The colours, where colours were said.
    pub colours: Vec<Colour>,
    /// How the part is made.
    pub family: Option<Family>,
    /// Where it sits.
    pub position: Option<Position>,
}

impl Mark {
    /// Whether nothing was said of the mark.
    #[must_use]
    pub fn is_empty(&self) -> bool {
        *self == Self::default()
    }
}

/// What the meter showed, as it was said.
#[derive(Debug, Clone, PartialEq)]
pub struct Measured {
    /// The value; `None` beyond the meter's range.
    pub value: Option<Ohm>,
    /// How the part sat.
    pub state: State,
    /// Whether it was hot.
    pub hot: bool,
    /// How the meter measured, where it was said.
    pub mode: Option<Mode>,
}

/// What was said of a part that is no resistor: its marking, and what the sheet says.
#[derive(Debug, Clone, PartialEq)]
pub struct Other {
    /// What the part is.
    pub kind: PartKind,
    /// The marking as it was said.
    pub marking: String,
    /// The likeliest meaning of that marking.
    pub meaning: Option<Meaning>,
    /// What the sheet says, in the base unit of the part's quantity.
    pub sheet_si: Option<f64>,
}

/// What was understood.
#[derive(Debug, Clone, PartialEq)]
pub struct Understood {
    /// The part that it is about.
    pub name: String,
    /// Whether that part is new.
    pub fresh: bool,
    /// What was said of its mark.
    pub mark: Mark,
    /// What the sheet says.
    pub sheet: Option<Ohm>,
    /// The other half of its pair.
    pub pair: Option<String>,
    /// What the meter showed.
    pub measured: Option<Measured>,
    /// What was said of a part that is no resistor.
    pub other: Option<Other>,
    /// A question to be answered before it is taken.
    pub doubt: Option<Doubt>,
    /// In words.
    pub in_words: String,
    /// Other meanings that it could have.
    pub could_also_be: Vec<String>,
}

impl Understood {
    /// Whether it only selects a part.
    #[must_use]
    pub fn only_selects(&self) -> bool {
        !self.fresh
            && self.mark.is_empty()
            && self.sheet.is_none()
            && self.pair.is_none()
            && self.measured.is_none()
            && self.other.as_ref().is_none_or(|o| o.meaning.is_none() && o.sheet_si.is_none())
    }
}

/// Why a sentence is not understood.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
pub enum SayError {
    /// Nothing was said.
    #[error("say a part and what it is or measures: R14 1k 10% 1W cathode, then =1270")]
    Empty,
    /// Longer than [`LONGEST`].
    #[error("that is {0} characters long; a sentence has at most {LONGEST}")]
    TooLong(usize),
    /// It names no part, and none is selected.
    #[error("'{0}' names no part; begin with one, such as R14, or select one first")]
    NoPart(String),
    /// A designation of a part that the tray does not hold.
    #[error(
        "{0} cannot be put on the tray; it takes resistors (R), capacitors (C), coils (L), diodes (D) and lamps (P)"
    )]
    NoSuchKind(String),
    /// A reading of a part that cannot be measured here.
    #[error("{0} is a {1}: its marking can be read here, but it cannot be measured yet")]
    NotMeasured(String, PartKind),
    /// A new part without a value.
    #[error("{0} is not on the tray yet: say its value, such as {0} 4k7 10% 1W")]
    NewWithoutValue(String),
    /// A new part of another kind without a marking.
    #[error("{0} is not on the tray yet: say what is printed on the {1}")]
    NewWithoutMarking(String, PartKind),
    /// No value behind the word "sheet".
    #[error("what does the sheet say of {0}? Say a value behind the word")]
    NoSheetValue(String),
    /// A word that is not understood.
    #[error("'{0}' is not understood: no value, tolerance, watts, colour, place or state")]
    Word(String),
    /// Two values where one is meant.
    #[error("two values, {0} and {1}: which one?")]
    TwoValues(String, String),
    /// No number behind the equals sign.
    #[error("what does {0} measure? Say a value behind the =, or OL for beyond the range")]
    NoReading(String),
    /// Another part that is not on the tray.
    #[error("there is no {0} on the tray to pair it with")]
    NoPartner(String),
    /// Colours that mean nothing.
    #[error(transparent)]
    Marking(#[from] MarkingError),
    /// A number that cannot be read.
    #[error(transparent)]
    Entry(#[from] EntryError),
}
