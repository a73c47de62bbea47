use super::Scheme;
use crate::part::PartKind;
use crate::quantity::parse::EntryError;

/// Why a marking cannot be read.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
pub enum MarkingError {
    /// Nothing was given.
    #[error("nothing is marked; type what is printed, or click the colours")]
    Empty,
    /// Longer than any marking.
    #[error("that is {0} characters long; a marking has at most {1}")]
    TooLong(usize, usize),
    /// A word that is no colour, among others that are.
    #[error("'{given}' is no band colour; known are: {known}")]
    UnknownColour {
        /// The word.
        given: String,
        /// The colours that there are.
        known: String,
    },
    /// A number of colours that the code does not have.
    #[error("{given} colours; {scheme} has {known}")]
    ColourCount {
        /// How many were given.
        given: usize,
        /// How they were to be read.
        scheme: Scheme,
        /// How many there can be.
        known: String,
    },
    /// More colours than any code has.
    #[error("{0} colours; no colour code has more than {1}")]
    TooManyColours(usize, usize),
    /// A scheme of another kind of part.
    #[error("{scheme} is no code for a {part}")]
    SchemeOfOther {
        /// The scheme.
        scheme: Scheme,
        /// What the part is said to be.
        part: PartKind,
    },
    /// Colours that mean nothing in this order, nor in the other.
    #[error("{0}")]
    Order(String),
    /// Text that no code fits.
    #[error("'{text}' is no marking that is known: {why}")]
    NotUnderstood {
        /// What was typed, cut to forty characters.
        text: String,
        /// What was missing or wrong.
        why: String,
    },
    /// A number that cannot be read.
    #[error(transparent)]
    Entry(#[from] EntryError),
}
