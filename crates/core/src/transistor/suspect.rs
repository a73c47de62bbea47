//! What dies with an output stage, and would kill the new transistor if it were left in.

use std::sync::LazyLock;

use serde::Deserialize;

use crate::part::{PartKind, Position};
use crate::source::Source;
use crate::table::rows;

/// A part that is suspect once an output transistor has shorted.
#[derive(Debug, Clone, Deserialize)]
pub struct Suspect {
    name: String,
    /// What kind of part.
    pub kind: PartKind,
    /// Where it sits, where that has a name.
    pub position: Option<Position>,
    /// What it is: emitter resistor, driver.
    pub what: String,
    /// Why it is suspect.
    pub why: String,
    /// How it is looked at.
    pub look: String,
    /// Where that comes from.
    pub source: Source,
}

static SUSPECTS: LazyLock<Vec<Suspect>> =
    LazyLock::new(|| rows("suspect.csv", include_str!("../../data/suspect.csv")));

/// The suspects, those first that die most often.
#[must_use]
pub fn suspects() -> &'static [Suspect] {
    &SUSPECTS
}

impl Suspect {
    /// A name for it on the tray until it is found on the sheet: for Q5 its emitter resistor is R5A, its driver Q5D.
    #[must_use]
    pub fn named_after(&self, transistor: &str) -> String {
        let digits: String = transistor.chars().filter(char::is_ascii_digit).take(4).collect();
        self.name.replacen('%', &digits, 1)
    }
}
