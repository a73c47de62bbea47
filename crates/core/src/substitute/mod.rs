//! What to put in, and what not: hard limits first, then rank.
//!
//! Resistors: the value from a preferred series, the watts one size up and at least the policy's
//! factor times what is dissipated, the volts within what one body stands, no wound part where
//! radio frequency flows; two parts where one will not do.

mod resistor;

pub use resistor::{Need, SubstituteError, choose};

use crate::network::Tree;
use crate::part::Family;
use crate::quantity::{Fraction, Ohm, Watt};
use crate::source::Source;

/// One line for or against a choice, with the rule's source.
#[derive(Debug, Clone, PartialEq)]
pub struct Line {
    /// In words, with numbers.
    pub text: String,
    /// Where the rule comes from.
    pub source: Source,
}

/// Something that can go in.
#[derive(Debug, Clone, PartialEq)]
pub struct Choice {
    /// In words: `1 W metal film, 220 kΩ`.
    pub description: String,
    /// The value of the whole.
    pub value: Ohm,
    /// The rating of the whole.
    pub power: Watt,
    /// How it is made.
    pub family: Family,
    /// How far it is from what is wanted.
    pub deviation: Fraction,
    /// The network, where it is more than one part.
    pub network: Option<Tree>,
    /// The rating of each part, in the order of [`Tree::parts`]; one for a single part.
    pub ratings: Vec<Watt>,
    /// What speaks for it.
    pub passes: Vec<Line>,
    /// What to mind.
    pub cautions: Vec<Line>,
}

/// Something that must not go in.
#[derive(Debug, Clone, PartialEq)]
pub struct Refused {
    /// In words.
    pub description: String,
    /// Why not.
    pub because: String,
}

/// What fits and what does not.
#[derive(Debug, Clone, PartialEq)]
pub struct Choices {
    /// Best first.
    pub choices: Vec<Choice>,
    /// Near misses, with the reason.
    pub refused: Vec<Refused>,
}
