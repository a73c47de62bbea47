//! What to warn of, and at which step: short, where the hand goes. Local electrical codes and
//! licensed practice come first.

use std::sync::LazyLock;

use serde::Deserialize;

use crate::named::named;
use crate::source::Source;
use crate::table::rows;

named! {
    /// How a set is supplied, which decides what in it can hurt.
    "class of set" SetClass {
        /// With a power transformer.
        Isolated = "isolated",
        /// Heaters in series across the line; the chassis may be live.
        LiveChassis = "live chassis",
        /// From batteries.
        Battery = "battery",
        /// Low-voltage semiconductors.
        SolidState = "solid state",
        /// Transmitters and linear amplifiers: kilovolts.
        HighVoltage = "high voltage",
    }
}

named! {
    /// The five steps with a part.
    "step" Step {
        /// Read the marking.
        Read = "read",
        /// Measure.
        Measure = "measure",
        /// Judge.
        Judge = "judge",
        /// Fit a substitute.
        Fit = "fit",
        /// Prove it.
        Prove = "prove",
    }
}

/// One warning.
#[derive(Debug, Clone, Deserialize)]
pub struct Caution {
    /// For which sets.
    pub class: SetClass,
    /// At which step.
    pub step: Step,
    /// What to say.
    pub text: String,
    /// Where it comes from.
    pub source: Source,
}

static CAUTIONS: LazyLock<Vec<Caution>> =
    LazyLock::new(|| rows("caution.csv", include_str!("../data/caution.csv")));

/// The warnings of a class of set at a step, most pressing first.
pub fn cautions(class: SetClass, step: Step) -> impl Iterator<Item = &'static Caution> {
    CAUTIONS.iter().filter(move |c| c.class == class && c.step == step)
}
