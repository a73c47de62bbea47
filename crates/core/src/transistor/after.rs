//! What is checked after a transistor was fitted: bias back, quiescent current, power, temperature.

use std::sync::LazyLock;

use serde::Deserialize;

use super::circuit::Stage;
use super::place;
use crate::named::named;
use crate::part::Fact;
use crate::quantity::Quantity;
use crate::quantity::format::format;
use crate::quantity::parse::{self, EntryError};
use crate::source::Source;
use crate::table::rows;

named! {
    /// A check after fitting.
    "check after fitting" Check {
        /// How it is mounted.
        Cooling = "cooling",
        /// The bias at its least before power.
        Bias = "bias",
        /// The supply's current limit.
        Limited = "supply limited",
        /// What takes a transmitter's power.
        DummyLoad = "dummy load",
        /// The current at rest.
        IdleCurrent = "quiescent current",
        /// Output on each band or at the stage.
        Power = "power",
        /// After ten minutes.
        Temperature = "temperature",
    }
}

named! {
    /// In which stages a check is made.
    "stages of a check" CheckStages {
        /// In each.
        Every = "every",
        /// Where a heat sink is part of it.
        HeatSink = "heat sink",
        /// Where power at radio frequency is made.
        RadioPower = "radio power",
    }
}

impl CheckStages {
    /// Whether it is made in that stage; where nobody said which, the ones of every stage.
    fn has(self, stage: Option<Stage>) -> bool {
        match self {
            Self::Every => true,
            Self::HeatSink => place::asks(stage).contains(&Fact::CaseTemperature),
            Self::RadioPower => stage.is_some_and(Stage::is_radio_power),
        }
    }
}

named! {
    /// How a check is answered.
    "kind of check" CheckKind {
        /// Done or not.
        Tick = "tick",
        /// A number.
        Number = "number",
        /// Words and numbers.
        Words = "words",
    }
}

/// A check.
#[derive(Debug, Clone, Deserialize)]
pub struct AfterCheck {
    /// Which.
    pub check: Check,
    /// How it is answered.
    pub kind: CheckKind,
    /// In which stages.
    pub stages: CheckStages,
    /// What to do.
    pub ask: String,
    /// What a number measures; empty otherwise.
    pub unit: String,
    /// Where it comes from.
    pub source: Source,
}

static LINES: LazyLock<Vec<AfterCheck>> =
    LazyLock::new(|| rows("after_fitting.csv", include_str!("../../data/after_fitting.csv")));

/// The checks of a stage in their order.
pub fn checks(stage: Option<Stage>) -> impl Iterator<Item = &'static AfterCheck> {
    LINES.iter().filter(move |c| c.stages.has(stage))
}

/// A case hotter than this burns the hand, °C (practice).
const TOO_HOT: f64 = 70.0;

/// Why a check cannot be recorded.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
pub enum CheckError {
    /// Nothing said.
    #[error("say what you found, or leave the check out")]
    Nothing,
    /// No current.
    #[error(transparent)]
    Current(#[from] EntryError),
    /// No temperature.
    #[error("'{0}' is no temperature in °C, such as 41")]
    Celsius(String),
    /// No current below zero.
    #[error("a quiescent current is above zero; none at all is a stage that is cut off")]
    NoCurrent,
}

/// A check as it is recorded.
///
/// ```
/// use owl_core::transistor::after::{checked, Check};
/// assert_eq!(checked(Check::IdleCurrent, "12mA").as_deref(), Ok("quiescent current 12 mA"));
/// assert!(checked(Check::Temperature, "warm").is_err());
/// ```
///
/// # Errors
/// [`CheckError`] in words.
pub fn checked(check: Check, found: &str) -> Result<String, CheckError> {
    let found: String = found.trim().chars().filter(|c| !c.is_control()).take(200).collect();
    let ticked = LINES.iter().any(|c| c.check == check && c.kind == CheckKind::Tick);
    if found.is_empty() && !ticked {
        return Err(CheckError::Nothing);
    }
    Ok(match check {
        Check::Cooling => "mounted for cooling".to_owned(),
        Check::Limited => "supply limited".to_owned(),
        Check::DummyLoad => "into a dummy load".to_owned(),
        Check::Bias => "bias back at its least before power".to_owned(),
        Check::IdleCurrent => {
            let amperes = parse::best(Quantity::Current, &found)?;
            if amperes <= 0.0 {
                return Err(CheckError::NoCurrent);
            }
            format!("quiescent current {}", format(Quantity::Current, amperes))
        }
        Check::Power => format!("power: {found}"),
        Check::Temperature => {
            let bare = found.trim_end_matches('C').trim_end_matches('°').trim().replace(',', ".");
            let celsius = bare
                .parse::<f64>()
                .ok()
                .filter(|t| (-40.0..=250.0).contains(t))
                .ok_or_else(|| CheckError::Celsius(found.clone()))?;
            let hot = if celsius > TOO_HOT { ": too hot, turn the bias back" } else { "" };
            format!("{celsius} °C after ten minutes{hot}")
        }
    })
}
