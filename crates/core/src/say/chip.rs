//! What was understood, piece by piece: each says what it was taken for and where in the text it stands.

use std::ops::Range;

use crate::named::named;

named! {
    /// What a piece of a sentence was taken for.
    "part of a sentence" ChipSlot {
        /// Whom it is about.
        Name = "name",
        /// What is marked on it.
        Mark = "mark",
        /// How it is made.
        Family = "family",
        /// What it does in the set.
        Position = "position",
        /// Where it sits.
        Place = "place",
        /// What is seen on it.
        Look = "look",
        /// What is known of the circuit.
        Fact = "fact",
        /// What the sheet says.
        Sheet = "sheet",
        /// To which other part it belongs.
        Tie = "tie",
        /// What the meter showed.
        Reading = "reading",
        /// How it sat.
        State = "state",
        /// What is done with it.
        Deed = "deed",
    }
}

/// A piece of a sentence.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Chip {
    /// What it was taken for.
    pub slot: ChipSlot,
    /// What was understood.
    pub text: String,
    /// Where it stands in the text, in UTF-16 units as a page counts them.
    pub at: Range<usize>,
}

impl Chip {
    /// A piece that stands at those bytes of `typed`.
    pub(super) fn of(slot: ChipSlot, text: impl Into<String>, typed: &str, bytes: &Range<usize>) -> Self {
        let units = |to: usize| typed.get(..to).map_or(0, |t| t.encode_utf16().count());
        Self { slot, text: text.into(), at: units(bytes.start)..units(bytes.end) }
    }
}
