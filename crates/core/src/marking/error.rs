use crate::quantity::read::EntryError;

/// Why a marking cannot be read.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
pub enum MarkingError {
    /// Nothing was given.
    #[error("nothing is marked; type what is printed, or click the bands")]
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
    /// A number of bands that no code has.
    #[error("{0} bands; a resistor has 3, 4, 5 or 6")]
    BandCount(usize),
    /// Colours that mean nothing in this order, nor in the other.
    #[error("{0}")]
    Order(String),
    /// Text that no code fits.
    #[error("'{text}' is no resistor marking: {why}")]
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
