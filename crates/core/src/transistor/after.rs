//! What is checked after a transistor was fitted: bias back, quiescent current, power, temperature.

use std::sync::LazyLock;

use serde::Deserialize;

use crate::named::named;
use crate::quantity::Quantity;
use crate::quantity::format::format;
use crate::quantity::parse::{self, EntryError};
use crate::source::Source;
use crate::table::rows;

named! {
    /// A check after fitting.
    "check after fitting" Check {
        /// The bias at its least before power.
        Bias = "bias",
        /// The current at rest.
        IdleCurrent = "quiescent current",
        /// Output on each band or at the stage.
        Power = "power",
        /// After ten minutes.
        Temperature = "temperature",
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
    /// What to do.
    pub ask: String,
    /// What a number measures; empty otherwise.
    pub unit: String,
    /// Where it comes from.
    pub source: Source,
}

static LINES: LazyLock<Vec<AfterCheck>> =
    LazyLock::new(|| rows("after_fitting.csv", include_str!("../../data/after_fitting.csv")));

/// The checks in their order.
#[must_use]
pub fn checks() -> &'static [AfterCheck] {
    &LINES
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
    if found.is_empty() && check != Check::Bias {
        return Err(CheckError::Nothing);
    }
    Ok(match check {
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
