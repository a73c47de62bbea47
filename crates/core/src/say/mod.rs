//! The owl line: one sentence, as a technician would say it, and what is understood by it.
//!
//! | sentence | meaning |
//! |---|---|
//! | `R14 8k2 10% 1W cathode` | a new part with its mark and its place |
//! | `=9.1k` | a reading of the selected part |
//! | `R8 = 405 hot` | a reading of R8, taken hot |
//! | `R8 OL` | R8 is beyond the meter's range |
//! | `R15 yellow violet orange silver` | the mark of R15 |
//! | `R15 sheet 47k` | what the sheet says of R15 |
//! | `R7 pair R8`, `R9 group R7` | halves of a pair; one more for a group |
//! | `R7` | select it |
//! | `C12 .05 MFD 400V coupling` | a capacitor with its marking and its place |
//! | `C12 .047u @1k` | its capacitance, measured at 1 kHz |
//! | `C12 leak 2.2uA @400`, `C12 leak 80M @250`, `C7 leak 2%` | its leakage, at 400 V |
//! | `C7 esr 1.8 @100k`, `C7 d .07` | its ESR or dissipation factor |
//! | `L3 field coil sheet 1.2k`, `L3 1.15k` | a winding by its resistance |
//! | `D2 silicon`, `D2 .58` | a diode, and its forward drop |
//! | `C7 vented`, `R3 scorched` | what is seen on it |
//! | `C12 grid 330k bias -4 volts 180` | what is known of the circuit round it |
//! | `C7 fed by R3`, `C9 warm test` | what it hangs on; that it is to be tested warm |
//!
//! A known part with a bare value is a reading; with a tolerance, watts, a family or a place it
//! is its mark. Everyday words for all of this are in `data/speech.csv`, more examples in [`guide`].
//!
//! | step | where |
//! |---|---|
//! | words with their units, verbs of measuring, dictated numbers | `hear`, `spoken` |
//! | whom it is about | `subject` |
//! | place, family, looks, facts, ties | `extras`, `everyday`, `place` |
//! | what is left: a mark or readings | `resistor`, `other`, `measured` |
//! | what is shown of it | `chip` |
//! | the way back, from a part to its sentence | [`line`] |
//! | a valve on the voltage chart | [`of_valve`] |
//! | a set that is taken in | [`of_set`] |
//! | what is done with a part | [`of_deed`], [`of_proof`] |

mod chip;
mod deed;
mod everyday;
mod extras;
pub mod guide;
mod hear;
pub mod line;
mod measured;
mod other;
mod place;
mod resistor;
mod sentence;
mod set;
mod spoken;
mod subject;
mod valve;

pub use chip::{Chip, ChipSlot};
pub use deed::{Deed, OfDeed, of_deed, of_proof};
pub use measured::{Entered, read_entry};
pub use place::sites;
pub use sentence::{understand, understand_each};
pub use set::{OfSet, of_set};
pub use valve::{OfValve, ValveSays, of_valve};

use crate::marking::{Colour, MarkingError, Meaning};
use crate::part::{Fact, MadeOf, PartKind, Position, VisualSign};
use crate::quantity::parse::EntryError;
use crate::quantity::{Fraction, Hertz, Ohm, Volt, Watt};
use crate::reading::doubt::Doubt;
use crate::reading::{Mode, ReadQuantity, State};

/// The longest sentence that is looked at, in characters.
pub const LONGEST: usize = 200;

/// A part that the sentence can be about.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct Known {
    /// What it is called on the tray, in capitals.
    pub name: String,
    /// What it is, where its name alone does not say it: T1 is a winding here and a transistor there.
    pub kind: Option<PartKind>,
    /// Its marked value, in the base unit of its kind.
    pub marked_si: Option<f64>,
    /// The sheet's value, in the base unit of its kind.
    pub sheet_si: Option<f64>,
    /// Whether anything is known of its marking.
    pub has_mark: bool,
    /// The state of its last reading.
    pub state: Option<State>,
    /// How it is made, as far as somebody said it.
    pub family: Option<MadeOf>,
    /// What it does in the set.
    pub position: Option<Position>,
    /// Where it sits; empty where nobody said it.
    pub place: String,
    /// Its marked tolerance.
    pub tolerance: Option<Fraction>,
    /// Its rated power.
    pub power: Option<Watt>,
}

/// What is on the tray, and which part is selected.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct Tray {
    /// All parts.
    pub parts: Vec<Known>,
    /// The name of the selected one.
    pub selected: Option<String>,
    /// The valves of the voltage chart: what is said of one that is not on the tray yet need not name its type.
    pub valves: Vec<ChartValve>,
}

/// A valve of the voltage chart.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct ChartValve {
    /// Its name in the set: `V2`.
    pub at: String,
    /// Its type.
    pub type_number: String,
}

/// A resistor's mark as it was said.
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
    /// What was read.
    pub quantity: ReadQuantity,
    /// At which pin, of a circuit.
    pub pin: Option<u8>,
    /// The value in the base unit; `None` beyond the meter's range.
    pub value_si: Option<f64>,
    /// How the part sat.
    pub state: State,
    /// Whether it was hot.
    pub hot: bool,
    /// How the meter measured, where it was said.
    pub mode: Option<Mode>,
    /// At which voltage, where it was said.
    pub test_voltage: Option<Volt>,
    /// At which frequency, where it was said.
    pub test_frequency: Option<Hertz>,
}

/// What was said of a part that is no resistor: its marking.
#[derive(Debug, Clone, PartialEq)]
pub struct Other {
    /// The marking as it was said.
    pub marking: String,
    /// The likeliest meaning of that marking.
    pub meaning: Meaning,
}

/// What can be said of a part of any kind.
#[derive(Debug, Clone, Default, PartialEq)]
pub struct Said {
    /// How it is made.
    pub family: Option<MadeOf>,
    /// What it does there.
    pub position: Option<Position>,
    /// Where it sits: `V3 grid`.
    pub place: Option<String>,
    /// The other half of its pair.
    pub pair: Option<String>,
    /// A part whose group it joins.
    pub group: Option<String>,
    /// What is seen on it.
    pub looks: Vec<VisualSign>,
    /// What is known of the circuit, in base units.
    pub facts: Vec<(Fact, f64)>,
    /// The resistor that it is fed through.
    pub fed_by: Option<String>,
    /// That it is to be tested warm.
    pub test_warm: Option<bool>,
    /// The year in which it was made.
    pub made: Option<u16>,
    /// Plates of a selenium stack.
    pub plates: Option<u16>,
    /// A winding's resistance by the sheet.
    pub winding: Option<Ohm>,
}

impl Said {
    /// Whether nothing was said.
    #[must_use]
    pub fn is_empty(&self) -> bool {
        *self == Self::default()
    }
}

/// What was understood.
#[derive(Debug, Clone, PartialEq)]
pub struct Understood {
    /// The part that it is about.
    pub name: String,
    /// What it is.
    pub kind: PartKind,
    /// Whether that part is new.
    pub fresh: bool,
    /// What was said of a resistor's mark.
    pub mark: Mark,
    /// What was said of the mark of another part.
    pub other: Option<Other>,
    /// What the sheet says, in the base unit of its kind.
    pub sheet_si: Option<f64>,
    /// What else was said of the part.
    pub said: Said,
    /// What the meter showed, one after the other.
    pub measured: Vec<Measured>,
    /// A question to be answered before it is taken.
    pub doubt: Option<Doubt>,
    /// In words.
    pub in_words: String,
    /// Other meanings that it could have, less likely.
    pub could_also_be: Vec<Meant>,
    /// What is known and would be another, as it was.
    pub was: Vec<String>,
    /// The same piece by piece, each with where it stands in the text.
    pub chips: Vec<Chip>,
}

impl Understood {
    /// Whether it changes what is known of the part itself.
    #[must_use]
    pub fn describes(&self) -> bool {
        !self.mark.is_empty() || self.other.is_some() || self.sheet_si.is_some() || !self.said.is_empty()
    }

    /// Whether it only selects a part.
    #[must_use]
    pub fn only_selects(&self) -> bool {
        !self.fresh && !self.describes() && self.measured.is_empty()
    }
}

/// One of the meanings that a sentence can have.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Meant {
    /// The meaning in a word or two.
    pub label: String,
    /// The sentence that has no other.
    pub sentence: String,
}

/// Why a sentence is not understood.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
pub enum SayError {
    /// Nothing was said.
    #[error("say a part and what it is or measures: R14 8k2 10% 1W cathode, then =9.1k")]
    Empty,
    /// Longer than [`LONGEST`].
    #[error("that is {0} characters long; a sentence has at most {LONGEST}")]
    TooLong(usize),
    /// It names no part, and none is selected.
    #[error("'{0}' names no part; begin with one, such as R14, or select one first")]
    NoPart(String),
    /// A reading of a part that cannot be measured here.
    #[error("{0} is a {1}: its marking can be read here, but it is not measured")]
    NotMeasured(String, PartKind),
    /// An eye says nothing of such a part.
    #[error("{0} is a {1}: a go/no-go eye tests capacitors")]
    Eye(String, PartKind),
    /// A ticket without a set, or with too long a name.
    #[error("say the set behind it, in at most 80 characters: new ticket Skarholm Tern, AC/DC valves, hums")]
    SetName,
    /// A new part without a value.
    #[error("{0} is not on the tray yet: say its value, such as {0} 4k7 10% 1W")]
    NewWithoutValue(String),
    /// A new part of another kind without a marking.
    #[error("{0} is not on the tray yet: say what is printed on the {1}")]
    NewWithoutMarking(String, PartKind),
    /// No value behind the word "sheet".
    #[error("what does the sheet say of {0}? Say a value behind the word")]
    NoSheetValue(String),
    /// A word that is not understood, and what is understood that looks like it.
    #[error("'{word}' is not understood: {}", near.map_or_else(|| "no value, tolerance, watts, colour, place or state".to_owned(), |n| format!("{n}?")))]
    Word {
        /// As typed.
        word: String,
        /// The nearest word that could stand there.
        near: Option<&'static str>,
    },
    /// A sentence with two meanings.
    #[error("which one: {}?", .0.iter().map(|m| m.label.as_str()).collect::<Vec<_>>().join(" or "))]
    Which(Vec<Meant>),
    /// A reading that would be taken of several parts at once.
    #[error("a reading is of one part: which of {0} was measured?")]
    ReadingOfSeveral(String),
    /// What cannot be said of a transistor as a whole.
    #[error(
        "which of its leads? Read them with the six readings, or say leak OL between collector and emitter"
    )]
    WhichLeads,
    /// A word that wants another behind it.
    #[error("'{0}' wants {1} behind it")]
    Wants(String, &'static str),
    /// Two values where one is meant.
    #[error("two values, {0} and {1}: which one?")]
    TwoValues(String, String),
    /// Two positions where one is meant.
    #[error("{0} and {1}: which one is it?")]
    TwoPlaces(String, String),
    /// No number behind the equals sign.
    #[error("what does {0} measure? Say a value behind the =, or OL for beyond the range")]
    NoReading(String),
    /// A leak without a unit.
    #[error("'{0}' of leakage has no unit: say 2.2uA, 80M or 2%")]
    LeakWithoutUnit(String),
    /// Another part that is not on the tray.
    #[error("there is no {0} on the tray to pair it with")]
    NoPartner(String),
    /// A feed that is not on the tray.
    #[error("there is no resistor {0} on the tray that could feed it")]
    NoFeed(String),
    /// Colours that mean nothing.
    #[error(transparent)]
    Marking(#[from] MarkingError),
    /// A number that cannot be read.
    #[error(transparent)]
    Entry(#[from] EntryError),
}
