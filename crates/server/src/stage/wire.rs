//! The JSON shapes of a stage that is fitted as one.

use owl_core::tray::question::FirstAsked;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use crate::fitting::wire::NewFitting;
use crate::substitute::wire::ChoiceView;

/// The places of a stage for which something has to go in.
#[derive(Debug, Serialize, ToSchema)]
pub struct StageChoices {
    /// In the order of the tray.
    pub places: Vec<StagePlace>,
}

/// A place of a stage.
#[derive(Debug, Serialize, ToSchema)]
pub struct StagePlace {
    /// The part that goes.
    pub part: Uuid,
    /// Its name.
    pub name: String,
    /// Its version.
    pub version: i32,
    /// What can go in, best first, with what the places before it take left out.
    pub choices: Vec<ChoiceView>,
    /// Why there is nothing to choose from; null where there is.
    pub because: Option<String>,
    /// Whether what goes in is measured before.
    pub measurable: bool,
    /// What is to be answered before anything goes in there.
    pub asked: Option<FirstAsked>,
}

/// What goes into the places of a stage.
#[derive(Debug, Deserialize, ToSchema)]
pub struct NewStage {
    /// One for each place.
    #[schema(min_items = 1, max_items = 80)]
    pub fittings: Vec<StageFitting>,
}

/// What goes into one of them.
#[derive(Debug, Deserialize, ToSchema)]
pub struct StageFitting {
    /// The part that goes.
    pub part: Uuid,
    /// What goes in.
    pub fitting: NewFitting,
}
