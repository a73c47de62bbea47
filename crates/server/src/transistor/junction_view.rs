//! A test of a part's junctions as it is stored, judged and shown.

use owl_core::part::{JunctionTest, StoredDrop, StoredGain, StoredJunctions};
use serde::Serialize;
use time::OffsetDateTime;
use utoipa::ToSchema;

use super::identify::{DiodeReading, GainReading, IdentifiedView, IdentifyQuestion, identified, test};
use crate::error::ApiError;
use crate::table::junction::JunctionRow;

fn corrupt(e: impl std::fmt::Display) -> ApiError {
    ApiError::Internal(format!("stored row: {e}"))
}

fn question(row: &JunctionRow) -> IdentifyQuestion {
    row.question.0.0.clone().into()
}

/// A stored test as it is judged.
///
/// # Errors
/// [`ApiError::Internal`] for a row that cannot be.
pub fn test_of(row: &JunctionRow) -> Result<JunctionTest, ApiError> {
    test(&question(row), "junctions").map_err(corrupt)
}

/// Between what is asked and what is kept, field by field: a plain field as it is, a list piece by piece.
macro_rules! both_ways {
    ($($asked:ident, $kept:ident { $($plain:ident),* $(; $asks:ident as $keeps:ident)? $(; each $list:ident)* };)+) => {$(
        impl From<$asked> for $kept {
            fn from(from: $asked) -> Self {
                Self {
                    $($plain: from.$plain,)* $($keeps: from.$asks,)?
                    $($list: from.$list.into_iter().map(Into::into).collect(),)*
                }
            }
        }
        impl From<$kept> for $asked {
            fn from(from: $kept) -> Self {
                Self {
                    $($plain: from.$plain,)* $($asks: from.$keeps,)?
                    $($list: from.$list.into_iter().map(Into::into).collect(),)*
                }
            }
        }
    )+};
}
both_ways! {
    DiodeReading, StoredDrop { red, black, volts, typed };
    GainReading, StoredGain { collector, emitter, hfe };
    IdentifyQuestion, StoredJunctions {
        in_circuit, celsius, further; meter_current as meter_amperes; each readings; each gains
    };
}

/// A test of a part's junctions, with what it says.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct JunctionView {
    /// The readings, as they were taken.
    pub question: IdentifyQuestion,
    /// What they say.
    pub says: IdentifiedView,
    /// When.
    #[serde(with = "time::serde::rfc3339")]
    pub taken_at: OffsetDateTime,
}

impl JunctionView {
    /// A stored test.
    ///
    /// # Errors
    /// [`ApiError::Internal`] for a row that cannot be.
    pub fn of(row: &JunctionRow) -> Result<Self, ApiError> {
        let question = question(row);
        let says = identified(&question).map_err(corrupt)?;
        Ok(Self { question, says, taken_at: row.taken_at })
    }
}
