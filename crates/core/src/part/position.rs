//! Where a resistor sits in a set, by the trade's name, and what matters there.

use std::sync::LazyLock;

use serde::Deserialize;

use crate::named::{Named, named};
use crate::source::Source;
use crate::table::rows;

named! {
    /// The place of a resistor in the circuit.
    "position" Position {
        /// From cathode to chassis.
        Cathode = "cathode",
        /// From the rail to a plate.
        PlateLoad = "plate load",
        /// From the rail to a screen grid.
        ScreenFeed = "screen feed",
        /// From a control grid to its return.
        GridLeak = "grid leak",
        /// In series with a grid, against parasitic oscillation.
        Stopper = "stopper",
        /// One of two that set a voltage between them.
        Divider = "divider",
        /// From an emitter to its return.
        Emitter = "emitter",
        /// From one point of a supply to the next.
        Feed = "feed",
        /// Across a supply, to empty it.
        Bleeder = "bleeder",
        /// In a tone control.
        Tone = "tone",
        /// In the automatic volume control line.
        Avc = "AVC",
    }
}

/// What is known of a position.
#[derive(Debug, Clone, Deserialize)]
pub struct Facts {
    /// The position.
    pub position: Position,
    /// Whether two of them in opposite halves must agree with each other.
    #[serde(deserialize_with = "yes")]
    pub matched: bool,
    /// Whether radio frequency flows in it, so that a wound part is refused.
    #[serde(deserialize_with = "yes")]
    pub radio_frequency: bool,
    /// How to free one end without the iron, where that is usually possible.
    pub isolate: String,
    /// What matters there, in one line.
    pub matters: String,
    /// Where that comes from.
    pub source: Source,
}

fn yes<'de, D: serde::Deserializer<'de>>(d: D) -> Result<bool, D::Error> {
    Ok(String::deserialize(d)? == "yes")
}

static FACTS: LazyLock<Vec<Facts>> =
    LazyLock::new(|| rows("position.csv", include_str!("../../data/position.csv")));

impl Position {
    /// What is known of this position; `None` only if the table lacks it, which a test rules out.
    #[must_use]
    pub fn facts(self) -> Option<&'static Facts> {
        FACTS.iter().find(|f| f.position == self)
    }

    /// The position whose name opens `words`, with the number of words that it takes.
    #[must_use]
    pub fn at_head(words: &[&str]) -> Option<(Self, usize)> {
        Self::ALL.iter().find_map(|p| {
            let name: Vec<&str> = p.name().split(' ').collect();
            let fits =
                words.len() >= name.len() && name.iter().zip(words).all(|(a, b)| a.eq_ignore_ascii_case(b));
            fits.then_some((*p, name.len()))
        })
    }
}
