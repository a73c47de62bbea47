//! The JSON shapes of closing.

use serde::{Deserialize, Serialize};
use time::OffsetDateTime;
use utoipa::ToSchema;
use uuid::Uuid;

/// A soak test, as typed.
#[derive(Debug, Deserialize, ToSchema)]
pub struct NewSoak {
    /// Chosen by the client, so that sending twice begins once.
    pub key: Uuid,
    /// How long it is to run: `2 h`, `30 min`.
    #[schema(max_length = 40)]
    pub planned: String,
    /// How often somebody looks.
    #[schema(max_length = 40)]
    pub every: String,
}

/// A look at the set.
#[derive(Debug, Deserialize, ToSchema)]
pub struct NewSoakCheck {
    /// Chosen by the client, so that sending twice records once.
    pub key: Uuid,
    /// Whether all was well.
    pub well: bool,
    /// What was seen, heard, felt.
    #[schema(min_length = 1, max_length = 400)]
    pub seen: String,
}

/// A ticket that is closed, or opened again.
#[derive(Debug, Deserialize, ToSchema)]
pub struct CloseBody {
    /// Whether it is closed.
    pub closed: bool,
    /// What the owner is to watch, in plain words.
    #[serde(default)]
    #[schema(max_length = 2000)]
    pub words: String,
    /// Closes although something is left.
    #[serde(default)]
    pub confirmed: bool,
    /// The words that were shown before these were typed: where others stand by now, they are not written over.
    #[schema(max_length = 2000)]
    pub seen: Option<String>,
}

/// How far the closing is.
#[derive(Debug, Serialize, ToSchema)]
pub struct ClosingView {
    /// When it was closed; null while it is open.
    #[serde(with = "time::serde::rfc3339::option")]
    pub closed_at: Option<OffsetDateTime>,
    /// What the owner is to watch.
    pub words: String,
    /// Soak tests, oldest first.
    pub soaks: Vec<SoakView>,
    /// What is left before it should be closed, in words.
    #[serde(serialize_with = "crate::dialect::said")]
    pub left: Vec<String>,
    /// What was measured before closing and does not pass: the set does not go out so.
    #[serde(serialize_with = "crate::dialect::said")]
    pub unsafe_to_go: Vec<String>,
    /// Tuned parts that changed: alignment is due.
    pub alignment_due: Option<String>,
}

/// A soak test.
#[derive(Debug, Serialize, ToSchema)]
pub struct SoakView {
    /// Its id.
    pub id: Uuid,
    /// How long it is to run, in seconds.
    pub planned_s: f64,
    /// How often somebody looks, in seconds.
    pub every_s: f64,
    /// When it was begun.
    #[serde(with = "time::serde::rfc3339")]
    pub begun_at: OffsetDateTime,
    /// When the next look is due, in seconds from the beginning; null once it is over.
    pub due_s: Option<f64>,
    /// How long it has run so far, or ran, in words.
    pub ran: String,
    /// How long it has run so far, in seconds.
    pub ran_s: f64,
    /// Whether its time is up.
    pub over: bool,
    /// Looks, oldest first.
    pub checks: Vec<SoakCheckView>,
}

/// A look at the set.
#[derive(Debug, Serialize, ToSchema)]
pub struct SoakCheckView {
    /// Whether all was well.
    pub well: bool,
    /// What was seen.
    pub seen: String,
    /// How long after the beginning, in words.
    pub after: String,
}
