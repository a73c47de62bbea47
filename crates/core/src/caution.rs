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

/// A line of the list that is ticked before anything is measured on a set.
#[derive(Debug, Clone, Deserialize)]
pub struct SafetyCheck {
    /// For which sets.
    pub class: SetClass,
    /// Its key, unique within the class.
    pub line: String,
    /// What to check.
    pub text: String,
    /// Whether it is asked again in each session at the bench.
    #[serde(deserialize_with = "crate::table::yes")]
    pub each_session: bool,
    /// Where it comes from.
    pub source: Source,
}

static CHECKS: LazyLock<Vec<SafetyCheck>> =
    LazyLock::new(|| rows("safety_check.csv", include_str!("../data/safety_check.csv")));

/// What is ticked before anything is measured on a set of that class.
pub fn safety_checks(class: SetClass) -> impl Iterator<Item = &'static SafetyCheck> {
    CHECKS.iter().filter(move |c| c.class == class)
}

#[derive(Deserialize)]
struct Symptom {
    symptom: String,
    #[allow(dead_code, reason = "read so that a row without a source is refused")]
    source: Source,
}

static SYMPTOMS: LazyLock<Vec<String>> = LazyLock::new(|| {
    rows::<Symptom>("symptom.csv", include_str!("../data/symptom.csv"))
        .into_iter()
        .map(|s| s.symptom)
        .collect()
});

/// What a set does when it comes in, to be picked from.
#[must_use]
pub fn symptoms() -> &'static [String] {
    &SYMPTOMS
}

static CAUTIONS: LazyLock<Vec<Caution>> =
    LazyLock::new(|| rows("caution.csv", include_str!("../data/caution.csv")));

/// The warnings of a class of set at a step, most pressing first.
pub fn cautions(class: SetClass, step: Step) -> impl Iterator<Item = &'static Caution> {
    CAUTIONS.iter().filter(move |c| c.class == class && c.step == step)
}
