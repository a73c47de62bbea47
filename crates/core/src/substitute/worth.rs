//! Is it worth it? What a dearer kind buys in a place, in one line.

use std::sync::LazyLock;

use serde::Deserialize;

use crate::part::{MadeOf, Position};
use crate::source::Source;
use crate::table::rows;

/// What a kind buys in a place.
#[derive(Debug, Clone, Deserialize)]
pub struct Worth {
    /// The place.
    pub position: Position,
    /// The kind.
    pub family: MadeOf,
    /// What it buys there.
    pub buys: String,
    /// Who says so.
    pub source: Source,
}

static WORTH: LazyLock<Vec<Worth>> =
    LazyLock::new(|| rows("worth.csv", include_str!("../../data/worth.csv")));

/// What a kind buys in a place; `None` where it is the usual one.
#[must_use]
pub fn worth(position: Option<Position>, family: Option<MadeOf>) -> Option<&'static Worth> {
    WORTH.iter().find(|w| Some(w.position) == position && Some(w.family) == family)
}

/// All rows.
#[must_use]
pub fn all() -> &'static [Worth] {
    &WORTH
}
