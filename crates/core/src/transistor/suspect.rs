//! What dies with an output stage, and would kill the new transistor if it were left in.

use std::sync::LazyLock;

use serde::Deserialize;

use crate::part::{PartKind, Position};
use crate::source::Source;
use crate::table::{rows, yes};

/// A part that is suspect once an output transistor has shorted.
#[derive(Debug, Clone, Deserialize)]
pub struct Suspect {
    name: String,
    /// What kind of part.
    pub kind: PartKind,
    /// Where it sits, where that has a name.
    pub position: Option<Position>,
    /// Whether it is the other half of the pair, wherever that sits.
    #[serde(deserialize_with = "yes")]
    pub of_its_pair: bool,
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

/// What the note of a part begins with that was said to be no suspect of that transistor; the reason follows.
#[must_use]
pub fn no_suspect_of(transistor: &str) -> String {
    format!("No suspect of {transistor}: ")
}

/// What a part is to a shorted transistor, as far as the suspects go.
#[derive(Debug, Clone, Copy)]
pub struct KnownPart {
    /// What kind of part.
    pub kind: PartKind,
    /// Where it sits.
    pub position: Option<Position>,
    /// Whether it is of the transistor's pair or group.
    pub of_its_group: bool,
    /// Whether it is the suspect of something already, or was said to be none.
    pub settled: bool,
}

impl Suspect {
    /// Whether that part of the tray is this suspect: by its kind and place, or of its pair.
    #[must_use]
    pub fn is(&self, part: KnownPart) -> bool {
        let sits = if self.of_its_pair {
            part.of_its_group || part.position.is_some_and(Position::is_output)
        } else {
            self.position.is_some() && part.position == self.position
        };
        part.kind == self.kind && sits && !part.settled
    }

    /// A name for it on the tray until it is found on the sheet: for Q5 its emitter resistor is R5A, its driver Q5D.
    #[must_use]
    pub fn named_after(&self, transistor: &str) -> String {
        let digits: String = transistor.chars().filter(char::is_ascii_digit).take(4).collect();
        self.name.replacen('%', &digits, 1)
    }
}
