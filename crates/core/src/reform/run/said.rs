//! What a run says.

use serde::{Deserialize, Serialize};

use crate::named::named;

named! {
    /// How pressing it is.
    "weight" Weight {
        /// Goes into the record.
        Note = "note",
        /// Somebody should look.
        Warning = "warning",
        /// The supply went off.
        Stop = "stop",
    }
}

/// Something said.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct Said {
    /// When, in second since the run's start.
    pub at_s: f64,
    /// How pressing.
    pub weight: Weight,
    /// In words.
    pub text: String,
}

impl Said {
    pub(super) fn note(at_s: f64, text: &str) -> Self {
        Self { at_s, weight: Weight::Note, text: text.to_owned() }
    }

    pub(super) fn warning(at_s: f64, text: &str) -> Self {
        Self { at_s, weight: Weight::Warning, text: text.to_owned() }
    }

    pub(super) fn stop(at_s: f64, text: &str) -> Self {
        Self { at_s, weight: Weight::Stop, text: text.to_owned() }
    }
}
