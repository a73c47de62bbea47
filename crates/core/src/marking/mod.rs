//! What a marking means: colour bands, letter codes and printed text, each in a file of its own
//! with its table as data. [`read::read`] tries every code that fits, weighs the meanings and
//! ranks them; [`encode`] goes the other way.

pub mod colour;
pub mod colour_bands;
pub mod encode;
mod error;
pub mod letter_code;
pub mod plain_text;
pub mod read;
mod weigh;

pub use colour::Colour;
pub use error::MarkingError;
pub use read::{Hints, read_colours, read_text};

use crate::named::named;
use crate::quantity::{Fraction, Ohm, Watt};
use crate::source::Source;

named! {
    /// A way of marking a resistor.
    "code" Code {
        /// Rings of colour round the body.
        ColourBands = "colour bands",
        /// R, K, M as the point, a letter for the tolerance.
        LetterCode = "letter code",
        /// Numbers and units in words.
        PlainText = "plain text",
    }
}

named! {
    /// How a row of colours is to be read.
    "scheme" Scheme {
        /// Rings round the body.
        Bands = "bands",
    }
}

/// One meaning of a marking.
#[derive(Debug, Clone, PartialEq)]
pub struct Meaning {
    /// The code that gives it.
    pub code: Code,
    /// The resistance.
    pub value: Ohm,
    /// The tolerance to either side; `None` where the marking shows none.
    pub tolerance: Option<Fraction>,
    /// The rated power, where it is printed.
    pub power: Option<Watt>,
    /// The temperature coefficient in parts per million per kelvin.
    pub temperature_ppm: Option<f64>,
    /// How the colours were read, first to last, where there are colours.
    pub colours: Vec<Colour>,
    /// Share of belief, 0 to 1; the meanings of one marking sum to 1.
    pub likelihood: f64,
    /// Why it is read so and what speaks for or against it.
    pub because: Vec<String>,
    /// The table that it is read by.
    pub source: Source,
}
