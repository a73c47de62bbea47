//! The JSON shapes of changes.

use owl_core::change::ChangeKind;
use owl_core::proof::ProofOutcome;
use serde::{Deserialize, Serialize};
use time::OffsetDateTime;
use utoipa::ToSchema;
use uuid::Uuid;

/// A change that is no fitting.
#[derive(Debug, Deserialize, ToSchema)]
pub struct NewChange {
    /// Chosen by the client, so that sending twice records once.
    pub key: Uuid,
    /// What kind; a part goes in through its own step, an undo through the change that it undoes.
    pub kind: ChangeKind,
    /// What was done, in words.
    #[schema(min_length = 1, max_length = 400)]
    pub what: String,
    /// Why it is begun while another is not proven.
    #[serde(default)]
    #[schema(max_length = 400)]
    pub over_open: String,
}

/// How a change was proven.
#[derive(Debug, Deserialize, ToSchema)]
pub struct NewChangeProof {
    /// Chosen by the client, so that sending twice records once.
    pub key: Uuid,
    /// How the set was for it; as the sentence says it where it does not say.
    pub outcome: Option<ProofOutcome>,
    /// What was seen, heard and measured, in one sentence.
    #[schema(min_length = 1, max_length = 2000)]
    pub seen: String,
}

/// A change that is taken back.
#[derive(Debug, Deserialize, ToSchema)]
pub struct NewUndo {
    /// Chosen by the client, so that sending twice undoes once.
    pub key: Uuid,
    /// Why; may be empty.
    #[serde(default)]
    #[schema(max_length = 400)]
    pub why: String,
}

/// The changes of a ticket, and what their order says.
#[derive(Debug, Serialize, ToSchema)]
pub struct ChangesView {
    /// In the order in which they were begun.
    pub changes: Vec<ChangeView>,
    /// The one to be proven before the next begins.
    pub open: Option<Uuid>,
    /// A fault that appears now came with one of these, the newest first.
    pub since_good: Vec<Uuid>,
    /// The same in words; null where nothing was changed since the set was last good.
    #[serde(serialize_with = "crate::dialect::said")]
    pub since_good_text: Option<String>,
    /// What was taken out, and where it lies.
    pub taken_out: Vec<TakenOut>,
    /// What a change can be that is no part.
    pub kinds: Vec<ChangeKind>,
}

/// A change.
#[derive(Debug, Serialize, ToSchema)]
pub struct ChangeView {
    /// Its id; of a fitting, that of the fitting.
    pub id: Uuid,
    /// What kind.
    pub kind: ChangeKind,
    /// In words.
    pub what: String,
    /// The part that it is about.
    pub part: Option<String>,
    /// Why it was begun while another was open; empty where none was.
    pub over_open: String,
    /// When.
    #[serde(with = "time::serde::rfc3339")]
    pub begun_at: OffsetDateTime,
    /// How the set was for it, by its last proof.
    pub outcome: Option<ProofOutcome>,
    /// What was seen.
    pub seen: Option<String>,
    /// When it was proven.
    #[serde(with = "time::serde::rfc3339::option")]
    pub proven_at: Option<OffsetDateTime>,
    /// Whether it was proven with no other one open.
    pub alone: bool,
    /// When it was undone.
    #[serde(with = "time::serde::rfc3339::option")]
    pub undone_at: Option<OffsetDateTime>,
    /// Whether it is still to be proven.
    pub is_open: bool,
}

/// A part that was taken out.
#[derive(Debug, Serialize, ToSchema)]
pub struct TakenOut {
    /// The part.
    pub part: String,
    /// What went in instead.
    pub replaced_by: String,
    /// Where the old one lies; empty where that was not said.
    pub bag: String,
}

/// What can be begun here: neither a part nor an undo.
#[must_use]
pub fn kinds() -> Vec<ChangeKind> {
    use owl_core::named::Named;
    let other = |k: &&ChangeKind| !matches!(k, ChangeKind::Part | ChangeKind::Undo);
    ChangeKind::ALL.iter().filter(other).copied().collect()
}
