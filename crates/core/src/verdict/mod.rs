//! Keep, watch, replace, or measure again, and why.
//!
//! A verdict is a value: with its reasons, the rule that each rests on, and that rule's source.
//! Nothing is judged anywhere else.

pub mod gauge;
pub mod reason;
mod resistor;
pub mod school;

pub use reason::{Reason, Rule};
pub use resistor::{Case, Partner, judge};
pub use school::{Policy, School, SchoolError};

use crate::named::named;
use crate::quantity::{Fraction, Ohm};

named! {
    /// What to do with the part.
    "verdict" Call {
        /// It stays.
        Keep = "keep",
        /// It stays, and is looked at again.
        Watch = "watch",
        /// It goes.
        Replace = "replace",
        /// The readings do not decide.
        MeasureAgain = "measure again",
    }
}

/// The window that a part must be inside of; on its edge counts as out.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Limits {
    /// Lower edge.
    pub low: Ohm,
    /// Upper edge.
    pub high: Ohm,
}

/// A verdict with all that led to it.
#[derive(Debug, Clone, PartialEq)]
pub struct Verdict {
    /// What to do.
    pub call: Call,
    /// How far the deciding reading is from the mark: 0.27 is 27 % high. `None` without one.
    pub deviation: Option<Fraction>,
    /// The window of the school.
    pub limits: Limits,
    /// Whether the meter's own uncertainty leaves no doubt.
    pub certain: bool,
    /// Which of the readings decided, counted from zero in the order given.
    pub decided_by: Option<usize>,
    /// Why, one line each, the weightiest first.
    pub reasons: Vec<Reason>,
    /// What to do next, in the order in which to do it.
    pub next: Vec<String>,
}
