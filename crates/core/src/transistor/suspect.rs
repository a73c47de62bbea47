//! What dies with an output stage, and would kill the new transistor if it were left in.

use std::sync::LazyLock;

use serde::Deserialize;

use crate::named::named;
use crate::part::{PartKind, Position};
use crate::source::Source;
use crate::table::{rows, yes};

named! {
    /// What a part is to an output transistor that shorted.
    "role in an output stage" Role {
        /// Between its emitter and the output or the rail.
        EmitterResistor = "emitter resistor",
        /// Holds its base at its emitter.
        BaseResistor = "resistor from base to emitter",
        /// Gives its base current.
        Driver = "driver",
        /// The other output transistor.
        Fellow = "fellow output transistor",
        /// Sets the idle current.
        BiasDiode = "bias diode or thermistor",
        /// Limits the current.
        Protection = "protection transistor",
        /// Damps the stage.
        AcrossTheOutput = "resistor across the output",
    }
}

/// A part that is suspect once an output transistor has shorted.
#[derive(Debug, Clone, Deserialize)]
pub struct Suspect {
    /// What it is to the transistor.
    pub role: Role,
    /// What kind of part.
    pub kind: PartKind,
    /// Where it sits, where that has a name.
    pub position: Option<Position>,
    /// Whether it is the other half of the pair, wherever that sits.
    #[serde(deserialize_with = "yes")]
    pub of_its_pair: bool,
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
    /// Whether a part of that kind and place has this role; `of_its_pair`: it is of the transistor's pair or group.
    #[must_use]
    pub fn is(&self, kind: PartKind, position: Option<Position>, of_its_pair: bool) -> bool {
        let sits = if self.of_its_pair {
            of_its_pair || position.is_some_and(Position::is_output)
        } else {
            self.position.is_some() && position == self.position
        };
        kind == self.kind && sits
    }
}
