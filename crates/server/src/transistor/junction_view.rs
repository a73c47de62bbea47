//! A test of a part's junctions as it is stored, judged and shown.

use owl_core::part::JunctionTest;
use serde::{Deserialize, Serialize};
use time::OffsetDateTime;
use utoipa::ToSchema;

use super::identify::{IdentifiedView, IdentifyQuestion, identified, test};
use crate::error::ApiError;
use crate::table::junction::JunctionRow;

fn corrupt(e: impl std::fmt::Display) -> ApiError {
    ApiError::Internal(format!("stored row: {e}"))
}

fn question(row: &JunctionRow) -> Result<IdentifyQuestion, ApiError> {
    IdentifyQuestion::deserialize(&row.question).map_err(corrupt)
}

/// A stored test as it is judged.
///
/// # Errors
/// [`ApiError::Internal`] for a row that cannot be.
pub fn test_of(row: &JunctionRow) -> Result<JunctionTest, ApiError> {
    test(&question(row)?, "junctions").map_err(corrupt)
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
        let question = question(row)?;
        let says = identified(&question).map_err(corrupt)?;
        Ok(Self { question, says, taken_at: row.taken_at })
    }
}
