//! The JSON shapes of fittings.

use owl_core::part::{MadeOf, PartKind, SafetyClass};
use owl_core::proof::ProofOutcome;
use owl_core::transistor::after::Check;
use serde::Deserialize;
use utoipa::ToSchema;
use uuid::Uuid;

/// What went in.
#[derive(Debug, Default, Deserialize, ToSchema)]
pub struct NewFitting {
    /// Chosen by the client, so that sending twice records once.
    pub key: Uuid,
    /// The version of the part that was seen.
    pub version: i32,
    /// What went in is of this kind; of the part's own where it does not say. A resistor can stand for a field coil.
    pub kind: Option<PartKind>,
    /// In words: `1 W metal film, 220 kΩ`.
    #[schema(min_length = 1, max_length = 200)]
    pub description: String,
    /// Its value as typed or chosen; not needed of diodes and coils.
    #[schema(max_length = 200)]
    pub value: Option<String>,
    /// Its tolerance as typed; empty if not known.
    #[schema(max_length = 200)]
    pub tolerance: Option<String>,
    /// Its rated watts as typed; empty if not known.
    #[schema(max_length = 200)]
    pub watts: Option<String>,
    /// Its rated volts as typed; empty if not known.
    #[schema(max_length = 200)]
    pub volts: Option<String>,
    /// Its type number.
    #[schema(max_length = 40)]
    pub type_number: Option<String>,
    /// How it is made.
    pub family: Option<MadeOf>,
    /// The safety class that is printed on it; needed where a part protects people, and that of the drawer where it does
    /// not say.
    pub safety: Option<SafetyClass>,
    /// What it measured before it went in, as typed; empty if it was not measured, which a new part need not be.
    #[schema(max_length = 200)]
    pub measured: Option<String>,
    /// How old stock was tested: its leakage and the volts of the test, such as 1.5 µA at 350 V.
    #[schema(max_length = 400)]
    pub test: Option<String>,
    /// What it is made of; what comes from a drawer is taken out of it.
    #[serde(default)]
    #[schema(max_items = 20)]
    pub pieces: Vec<NewPiece>,
    /// A note.
    #[schema(max_length = 2000)]
    pub note: Option<String>,
    /// Where the old part lies until the ticket closes: `bag 3`.
    #[serde(default)]
    #[schema(max_length = 60)]
    pub bag: String,
    /// Why it goes in while another change is not proven.
    #[serde(default)]
    #[schema(max_length = 400)]
    pub over_open: String,
    /// Why it goes in although it falls short of its place.
    #[serde(default)]
    #[schema(max_length = 400)]
    pub despite: String,
    /// Takes what was asked about: a measured value far off.
    #[serde(default)]
    pub confirmed: bool,
}

/// A piece that went in.
#[derive(Debug, Deserialize, ToSchema)]
pub struct NewPiece {
    /// The lot that it is taken from; null where it was bought for this.
    pub lot: Option<Uuid>,
    /// In a line.
    #[schema(min_length = 1, max_length = 200)]
    pub description: String,
}

/// How a fitting was proven.
#[derive(Debug, Deserialize, ToSchema)]
pub struct NewProof {
    /// Chosen by the client, so that sending twice records once.
    pub key: Uuid,
    /// How the set was for it; as the sentence says it where it does not say.
    pub outcome: Option<ProofOutcome>,
    /// What was seen, heard and measured, in one sentence.
    #[schema(min_length = 1, max_length = 2000)]
    pub seen: String,
    /// What was checked after a transistor was fitted, as typed; what was not checked is left out.
    #[serde(default)]
    #[schema(max_items = 10)]
    pub checks: Vec<NewCheck>,
}

/// A check after fitting.
#[derive(Debug, Deserialize, ToSchema)]
pub struct NewCheck {
    /// Which.
    pub check: Check,
    /// What was found, as typed; empty of one that is only ticked.
    #[serde(default)]
    #[schema(max_length = 200)]
    pub found: String,
}

/// A fitting that is undone.
#[derive(Debug, Deserialize, ToSchema)]
pub struct NewWithdrawal {
    /// Chosen by the client, so that sending twice undoes once.
    pub key: Uuid,
    /// Why; may be empty.
    #[serde(default)]
    #[schema(max_length = 400)]
    pub why: String,
}
