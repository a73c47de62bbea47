//! The JSON shapes of the owl line.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use crate::tray::Written;

/// A sentence as far as it is typed.
#[derive(Debug, Deserialize, ToSchema)]
pub struct Understand {
    /// The sentence.
    #[schema(max_length = 200)]
    pub text: String,
    /// The part that is selected.
    pub selected: Option<Uuid>,
}

/// How it is understood; either words or a problem.
#[derive(Debug, Default, Serialize, ToSchema)]
pub struct Understanding {
    /// The part that it is about.
    pub part: Option<String>,
    /// Its id, if it is on the tray.
    pub part_id: Option<Uuid>,
    /// What would be taken.
    #[serde(serialize_with = "crate::dialect::said")]
    pub in_words: Option<String>,
    /// Other meanings that it could have.
    #[serde(serialize_with = "crate::dialect::said")]
    pub could_also_be: Vec<String>,
    /// A question to be answered before it is taken.
    #[serde(serialize_with = "crate::dialect::said")]
    pub question: Option<String>,
    /// Why it is not understood.
    #[serde(serialize_with = "crate::dialect::said")]
    pub problem: Option<String>,
}

/// A sentence to be taken.
#[derive(Debug, Deserialize, ToSchema)]
pub struct Say {
    /// The sentence.
    #[schema(max_length = 200)]
    pub text: String,
    /// The part that is selected.
    pub selected: Option<Uuid>,
    /// Chosen by the client, so that sending twice takes it once.
    pub key: Uuid,
    /// The version of the part that was seen, where the sentence changes a part.
    pub version: Option<i32>,
    /// The meter; the one last used on the ticket where it does not say.
    pub instrument: Option<Uuid>,
    /// Takes a value far off that was asked about.
    #[serde(default)]
    pub confirmed: bool,
}

/// What was taken.
#[derive(Debug, Serialize, ToSchema)]
pub struct Said {
    /// The part that it was about.
    pub part_id: Uuid,
    /// In words.
    #[serde(serialize_with = "crate::dialect::said")]
    pub in_words: String,
    /// What changed with it.
    pub written: Written,
}
