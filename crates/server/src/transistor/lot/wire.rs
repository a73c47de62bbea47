//! The JSON shapes of lots.

use owl_core::transistor::circuit::Stage;
use owl_core::transistor::pairs::GroupSize;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use crate::amount::Amount;
use crate::transistor::pairs::PairsAnswer;

/// A lot as it is typed.
#[derive(Debug, Deserialize, ToSchema)]
pub struct LotTyped {
    /// Its name.
    #[schema(min_length = 1, max_length = 60)]
    pub name: String,
    /// The type number.
    #[serde(default)]
    #[schema(max_length = 40)]
    pub type_number: String,
    /// The stage that the pairs are for.
    pub stage: Option<Stage>,
    /// At which collector current it was measured, as typed.
    #[serde(default)]
    #[schema(max_length = 40)]
    pub test_current: String,
    /// The resistor under each emitter of the stage, as typed.
    #[serde(default)]
    #[schema(max_length = 40)]
    pub emitter_resistor: String,
    /// The quiescent current of each in the stage, as typed.
    #[serde(default)]
    #[schema(max_length = 40)]
    pub idle_current: String,
    /// Its pieces.
    #[schema(max_items = 500)]
    pub pieces: Vec<PieceTyped>,
    /// The version that was seen; null of a new lot.
    pub version: Option<i32>,
}

/// A piece as it is typed.
#[derive(Debug, Clone, Deserialize, ToSchema)]
pub struct PieceTyped {
    /// Its label.
    #[schema(max_length = 20)]
    pub label: String,
    /// Its gain, as typed.
    #[schema(max_length = 20)]
    pub gain: String,
    /// Base to emitter, as typed: 0.612, or 612 for millivolt.
    #[schema(max_length = 20)]
    pub base_volts: String,
}

/// A lot.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct MatchLotView {
    /// Its id.
    pub id: Uuid,
    /// Its version.
    pub version: i32,
    /// Its name.
    pub name: String,
    /// The type number.
    pub type_number: String,
    /// The stage that the pairs are for.
    pub stage: Option<Stage>,
    /// At which collector current it was measured.
    pub test_current: Option<Amount>,
    /// The resistor under each emitter.
    pub emitter_resistor: Option<Amount>,
    /// The quiescent current of each.
    pub idle_current: Option<Amount>,
    /// Its pieces.
    pub pieces: Vec<MatchPieceView>,
}

/// A piece, with its place in the chart.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct MatchPieceView {
    /// Its label.
    pub label: String,
    /// Its gain.
    pub gain: f64,
    /// Base to emitter, volt.
    pub base_volts: f64,
    /// As it is written.
    pub text: String,
}

/// A lot with its pairs.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct PairedLot {
    /// The lot.
    pub lot: MatchLotView,
    /// Its pairs or quads; null with fewer pieces than one of them needs.
    pub paired: Option<PairsAnswer>,
}

/// How a lot is paired.
#[derive(Debug, Deserialize, utoipa::IntoParams)]
#[into_params(parameter_in = Query)]
pub struct HowPaired {
    /// Pairs where it does not say.
    pub size: Option<GroupSize>,
    /// How many; all where it does not say.
    pub count: Option<usize>,
}
