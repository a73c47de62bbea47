//! The JSON shapes of readings.

use serde::Deserialize;
use utoipa::ToSchema;
use uuid::Uuid;

use crate::name::{ModeName, StateName};

/// A reading to be taken.
#[derive(Debug, Deserialize, ToSchema)]
pub struct NewReading {
    /// Chosen by the client, so that sending twice records once.
    pub key: Uuid,
    /// What the meter shows, as typed: `1.27k`, `OL`.
    #[schema(min_length = 1, max_length = 200)]
    pub typed: String,
    /// How the part sits.
    pub state: StateName,
    /// Whether it is hot.
    #[serde(default)]
    pub hot: bool,
    /// How the meter measures; its own way where it does not say.
    pub mode: Option<ModeName>,
    /// Which meter; the one last used on the ticket where it does not say.
    pub instrument: Option<Uuid>,
    /// Takes a value far off that was asked about.
    #[serde(default)]
    pub confirmed: bool,
}
