//! The JSON shapes of drawn feeds.

use owl_core::feed::FeedKind;
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;

use crate::amount::Amount;
use crate::feed::wire::FeedAnswer;

/// Which set of readings is held against a feed.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct WhichRun {
    /// The newest where it does not say.
    pub run: Option<Uuid>,
}

/// A feed, as told.
#[derive(Debug, Deserialize, ToSchema)]
pub struct FeedBody {
    /// Chosen by the client.
    pub id: Uuid,
    /// The version that was seen; null for a new one.
    pub version: Option<i32>,
    /// What it is called.
    #[schema(min_length = 1, max_length = 60)]
    pub name: String,
    /// Volts of its rail by the sheet, as typed.
    #[schema(max_length = 40)]
    pub rail: String,
    /// Its parts, a line each: `R9 from rail to screen 3k3 1W`.
    #[schema(max_length = 20000)]
    pub parts: String,
    /// What nodes should have and have, where the chart does not say.
    #[serde(default)]
    #[schema(max_items = 200)]
    pub nodes: Vec<FeedNodeBody>,
}

/// A node, as typed; empty is unknown, or as the chart says.
#[derive(Debug, Deserialize, ToSchema)]
pub struct FeedNodeBody {
    /// Its name.
    #[schema(max_length = 40)]
    pub node: String,
    /// Volts by the sheet.
    #[serde(default)]
    #[schema(max_length = 40)]
    pub sheet: String,
    /// Volts as read.
    #[serde(default)]
    #[schema(max_length = 40)]
    pub measured: String,
}

/// The feeds of a ticket.
#[derive(Debug, Serialize, ToSchema)]
pub struct FeedsView {
    /// In the order in which they were drawn.
    pub feeds: Vec<FeedView>,
    /// What the tray knows of connections, told a part a line; empty where it knows none.
    pub from_tray: String,
    /// The rail of those, where the tray knows it.
    pub tray_rail: Option<Amount>,
    /// The nodes of those, with what the tray knows of their volts.
    pub tray_nodes: Vec<FeedNodeView>,
    /// The points of the chart, which a node can be.
    pub points: Vec<String>,
    /// The sets of readings that can be held against a feed, oldest first.
    pub runs: Vec<FeedRunView>,
    /// The set that is.
    pub run: Option<Uuid>,
}

/// A set of readings.
#[derive(Debug, Serialize, ToSchema)]
pub struct FeedRunView {
    /// Its id.
    pub id: Uuid,
    /// Before, after, or any other moment.
    pub name: String,
}

/// A feed with what is said of it.
#[derive(Debug, Serialize, ToSchema)]
pub struct FeedView {
    /// Its id.
    pub id: Uuid,
    /// Rises with every change.
    pub version: i32,
    /// What it is called.
    pub name: String,
    /// Volts of its rail by the sheet.
    pub rail: Amount,
    /// Its parts, told a part a line.
    pub told: String,
    /// The same, for the drawing.
    pub parts: Vec<DrawnPart>,
    /// Its nodes.
    pub nodes: Vec<FeedNodeView>,
    /// Which part is guilty; null where nothing is read or a load is not known.
    pub answer: Option<FeedAnswer>,
    /// Why there is no answer.
    #[serde(serialize_with = "crate::dialect::said")]
    pub missing: Option<String>,
}

/// A part of a drawn feed.
#[derive(Debug, Serialize, ToSchema)]
pub struct DrawnPart {
    /// What it is called.
    #[serde(rename = "ref")]
    pub name: String,
    /// Resistor, capacitor or load.
    pub kind: FeedKind,
    /// The node of one end.
    pub a: String,
    /// The node of the other.
    pub b: String,
    /// As shown; empty where it is not said.
    pub value: String,
    /// What it may dissipate.
    pub rating: Option<Amount>,
    /// What it was read as with an end free, of a resistor on the tray.
    pub read: Option<Amount>,
    /// Whether it lies on the tray.
    pub on_tray: bool,
}

/// A node of a drawn feed.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct FeedNodeView {
    /// Its name.
    pub node: String,
    /// Volts by the sheet.
    pub sheet: Option<Amount>,
    /// Volts as read.
    pub measured: Option<Amount>,
    /// Whether the chart says what was read.
    pub from_chart: bool,
    /// Whether the chart says what it should have: without the load of the sheet's meter, where that is known.
    pub sheet_from_chart: bool,
    /// Whether what was read is off by the chart's own rule.
    pub off: bool,
}
