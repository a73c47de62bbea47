//! What to warn of, and at which step: short, where the hand goes. Local electrical codes and
//! licensed practice come first.

use std::sync::LazyLock;

use serde::Deserialize;

use crate::named::named;
use crate::quantity::Quantity;
use crate::quantity::format::format;
use crate::set::{Devices, Hazard, SetClass};
use crate::source::Source;
use crate::table::rows;

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

named! {
    /// Where a warning is given.
    "place of a caution" CautionAt {
        /// Before a part is measured.
        Measure = "measure",
        /// Before something is fitted.
        Fit = "fit",
        /// Before it is proven under power.
        Prove = "prove",
        /// At the voltage chart, where the probe goes in live.
        Voltages = "voltages",
        /// At first power.
        FirstPower = "first power",
    }
}

named! {
    /// Before what a list is gone through.
    "list" CheckedBefore {
        /// Before anything is measured.
        Work = "work",
        /// Before the first power.
        Power = "power",
        /// Before the ticket is closed and the set goes out.
        Closing = "closing",
    }
}

/// One warning.
#[derive(Debug, Clone, Deserialize)]
pub struct Caution {
    /// What it warns of.
    pub hazard: Hazard,
    /// Only in sets that work with these.
    pub devices: Option<Devices>,
    /// Where.
    pub step: CautionAt,
    /// What to say.
    pub text: String,
    /// Where it comes from.
    pub source: Source,
}

/// A line of a list that is gone through on a set.
#[derive(Debug, Clone, Deserialize)]
pub struct SafetyCheck {
    /// Against what.
    pub hazard: Hazard,
    /// Only in sets that work with these.
    pub devices: Option<Devices>,
    /// Its key, unique within the hazard.
    pub line: String,
    /// Before what.
    pub before: CheckedBefore,
    /// What to check.
    pub text: String,
    /// What is measured for it; `None` where it is seen.
    pub measured: Option<Quantity>,
    /// The least that passes, in the base unit.
    pub least: Option<f64>,
    /// The most that passes, in the base unit.
    pub most: Option<f64>,
    /// Whether it asks for a number and may be ticked without one: an earth pin that is not there.
    #[serde(deserialize_with = "crate::table::yes")]
    pub may_be_absent: bool,
    /// Whether it is asked again in each session at the bench.
    #[serde(deserialize_with = "crate::table::yes")]
    pub each_session: bool,
    /// Where it comes from.
    pub source: Source,
}

static CHECKS: LazyLock<Vec<SafetyCheck>> =
    LazyLock::new(|| rows("safety_check.csv", include_str!("../data/safety_check.csv")));

impl SafetyCheck {
    /// Its limit as it is written: `at most 0.5 mA`; empty where it is seen.
    #[must_use]
    pub fn limit(&self) -> String {
        let of = |word: &str, v: Option<f64>| {
            v.zip(self.measured).map(|(v, q)| format!("{word} {}", format(q, v)))
        };
        of("at least", self.least).or_else(|| of("at most", self.most)).unwrap_or_default()
    }

    /// As it is kept: those before work by their own name, the others with their list before it.
    #[must_use]
    pub fn kept_as(&self) -> String {
        match self.before {
            CheckedBefore::Work => self.line.clone(),
            before => format!("{before} {}", self.line),
        }
    }

    /// What is wrong with what was measured for it, in words; `None` where it passes.
    #[must_use]
    pub fn failure(&self, measured_si: Option<f64>) -> Option<String> {
        let value = measured_si.zip(self.measured).map(|(v, q)| format!("{}, ", format(q, v)));
        let failed = !self.passes(measured_si).unwrap_or(false);
        failed.then(|| format!("{}: {}{} passes", self.text, value.unwrap_or_default(), self.limit()))
    }

    /// Whether what was measured, or that it was seen, passes.
    ///
    /// # Errors
    /// [`CheckError`] where a number is missing or none is asked for.
    pub fn passes(&self, measured_si: Option<f64>) -> Result<bool, CheckError> {
        match (self.measured, measured_si) {
            (None, Some(_)) => Err(CheckError::Seen),
            (Some(_), None) if !self.may_be_absent => Err(CheckError::Number(self.limit())),
            (_, None) => Ok(true),
            (Some(_), Some(v)) => Ok(self.least.is_none_or(|l| v >= l) && self.most.is_none_or(|m| v <= m)),
        }
    }
}

/// Why a line is not answered so.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum CheckError {
    /// A number is missing.
    #[error("say what was measured: {0} passes")]
    Number(String),
    /// Nothing is measured for it.
    #[error("that is looked at and not measured")]
    Seen,
}

/// What is gone through on a set before something: the lines against each of its hazards, each once.
#[must_use]
pub fn safety_checks(set: SetClass, before: CheckedBefore) -> Vec<&'static SafetyCheck> {
    let hazards = match before {
        CheckedBefore::Closing => set.closes_as().into_iter().collect(),
        CheckedBefore::Work | CheckedBefore::Power => set.hazards(),
    };
    let mut all: Vec<&SafetyCheck> = Vec::new();
    for hazard in hazards {
        let of = |c: &&SafetyCheck| c.hazard == hazard && c.before == before && set.works_with(c.devices);
        for check in CHECKS.iter().filter(of) {
            if !all.iter().any(|c| c.line == check.line) {
                all.push(check);
            }
        }
    }
    all
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

/// The warnings of a set somewhere, most pressing first.
pub fn cautions(set: SetClass, at: CautionAt) -> impl Iterator<Item = &'static Caution> {
    let of =
        move |hazard: Hazard, c: &Caution| c.hazard == hazard && c.step == at && set.works_with(c.devices);
    set.hazards().into_iter().flat_map(move |h| CAUTIONS.iter().filter(move |c| of(h, c)))
}
