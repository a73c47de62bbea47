//! What the sentence of a proof says: of a fitting, or of any other change.

use axum::Json;
use owl_core::proof::{ProofOutcome, heard};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::body::Body;
use crate::error::ApiError;
use crate::text::checked_text;

/// The sentence of a proof as far as it is typed.
#[derive(Debug, Deserialize, ToSchema)]
pub struct ProofSentence {
    /// The sentence.
    #[schema(max_length = 2000)]
    pub seen: String,
}

/// What was heard in it.
#[derive(Debug, Serialize, ToSchema)]
pub struct ProofHeard {
    /// How the set is; null where the sentence does not say it, or says two things.
    pub outcome: Option<ProofOutcome>,
}

/// What is heard in the sentence of a proof while it is typed; it takes nothing.
#[utoipa::path(post, path = "/api/proofs/heard", operation_id = "hear_proof", tag = "parts",
    request_body = ProofSentence, responses((status = 200, body = ProofHeard)))]
pub async fn hear(Body(q): Body<ProofSentence>) -> Json<ProofHeard> {
    Json(ProofHeard { outcome: heard(&q.seen) })
}

/// What a proof says: how the set is, as it was chosen or as the sentence has it, and the sentence.
///
/// # Errors
/// 422 beside `seen` for no sentence, beside `outcome` for one that does not say how the set is.
pub(crate) fn proof_said(
    chosen: Option<ProofOutcome>,
    seen: &str,
) -> Result<(ProofOutcome, String), ApiError> {
    let seen = checked_text("seen", seen, 2000)?;
    if seen.is_empty() {
        return Err(ApiError::field(
            "seen",
            "say what you saw or heard: volts, sound, smell, how warm it is",
        ));
    }
    let outcome = chosen
        .or_else(|| heard(&seen))
        .ok_or_else(|| ApiError::field("outcome", "say whether the set is better, as before or worse"))?;
    Ok((outcome, seen))
}
