//! The JSON shapes of readings.

use owl_core::reading::{Mode, ReadQuantity, Setting, State};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use crate::tray::reading_view::WarningView;

/// A reading to be taken.
#[derive(Debug, Deserialize, ToSchema)]
pub struct NewReading {
    /// Chosen by the client, so that sending twice records once.
    pub key: Uuid,
    /// What the meter shows, as typed: `1.27k`, `.047u`, `OL`.
    #[schema(min_length = 1, max_length = 200)]
    pub typed: String,
    /// What is read; what such a part is read in first where it does not say.
    pub quantity: Option<ReadQuantity>,
    /// At which pin, of a circuit.
    pub pin: Option<u8>,
    /// How the part sits.
    pub state: State,
    /// Whether it is hot.
    #[serde(default)]
    pub hot: bool,
    /// How the meter measures; its own way where it does not say.
    pub mode: Option<Mode>,
    /// Which instrument; the one last used on the ticket for this where it does not say.
    pub instrument: Option<Uuid>,
    /// Which of the instrument's ways.
    pub way: Option<Uuid>,
    /// At which voltage, as typed; that of the way where it does not say.
    #[schema(max_length = 40)]
    pub test_voltage: Option<String>,
    /// At which frequency, as typed; that of the way where it does not say.
    #[schema(max_length = 40)]
    pub test_frequency: Option<String>,
    /// How a leakage tester's switch stands; as the way has it where it does not say.
    pub setting: Option<Setting>,
    /// With what it was measured: one of the choices of the question, or in own words.
    #[serde(default)]
    #[schema(max_length = 60)]
    pub with: String,
    /// Takes a value far off that was asked about.
    #[serde(default)]
    pub confirmed: bool,
}

/// A way of measuring that is about to be used.
#[derive(Debug, Deserialize, ToSchema)]
pub struct Foresee {
    /// What is to be read.
    pub quantity: ReadQuantity,
    /// How the part sits.
    pub state: State,
    /// How the meter measures.
    pub mode: Option<Mode>,
    /// Which of the workshop's ways.
    pub way: Option<Uuid>,
    /// At which voltage, as typed.
    #[schema(max_length = 40)]
    pub test_voltage: Option<String>,
    /// At which frequency, as typed.
    #[schema(max_length = 40)]
    pub test_frequency: Option<String>,
    /// How a leakage tester's switch stands.
    pub setting: Option<Setting>,
}

/// What that way cannot tell.
#[derive(Debug, Serialize, ToSchema)]
pub struct Foreseen {
    /// Each trap.
    pub warnings: Vec<WarningView>,
}

/// A reading to be voided.
#[derive(Debug, Deserialize, ToSchema)]
pub struct NewVoid {
    /// Chosen by the client, so that sending twice voids once.
    pub key: Uuid,
    /// Why.
    #[schema(min_length = 1, max_length = 400)]
    pub why: String,
}
