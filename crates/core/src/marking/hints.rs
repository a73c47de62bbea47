//! What is known beside a marking when it is read.

use super::Scheme;
use crate::part::PartKind;

/// What else is known of the part, to read and weigh the meanings with.
#[derive(Debug, Clone, Copy, Default)]
pub struct Hints {
    /// What the part is.
    pub part: Option<PartKind>,
    /// How the colours are to be read.
    pub scheme: Option<Scheme>,
    /// Whether the first band is wider than the others.
    pub wide_first: bool,
    /// What the meter says, in the base unit of the part's quantity.
    pub measured_si: Option<f64>,
    /// What the sheet says, in the base unit of the part's quantity.
    pub expected_si: Option<f64>,
}

impl Hints {
    /// Nothing is known but what the part is.
    #[must_use]
    pub fn of(part: PartKind) -> Self {
        Self { part: Some(part), ..Self::default() }
    }

    /// Whether the part may be of that kind.
    pub(super) fn allows(&self, part: PartKind) -> bool {
        self.part.is_none_or(|p| p == part)
    }
}
