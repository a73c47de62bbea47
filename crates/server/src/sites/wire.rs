//! The JSON shapes of sockets with their parts.

use owl_core::chart::ChartStatus;
use owl_core::part::{PartKind, Position};
use owl_core::tray::Status;
use owl_core::verdict::Outcome;
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;

use crate::amount::Amount;

/// The sockets of a set, and the parts that hang on none.
#[derive(Debug, Serialize, ToSchema)]
pub struct SocketsOnBoard {
    /// Valve by valve.
    pub sockets: Vec<SocketOnBoard>,
    /// Parts whose place names no socket.
    pub elsewhere: Vec<PartOnPin>,
}

/// A socket.
#[derive(Debug, Serialize, ToSchema)]
pub struct SocketOnBoard {
    /// What sits in it: `V3`.
    pub at: String,
    /// Its type as it was said; empty where nobody said it.
    #[serde(rename = "type")]
    pub type_number: String,
    /// The type as the table of drawings has it; null where it has none.
    pub drawn: Option<String>,
    /// Its points in the order in which they are probed.
    pub pins: Vec<PinOnBoard>,
    /// Parts that hang on it, nobody said where.
    pub unplaced: Vec<PartOnPin>,
}

/// A point of a socket.
#[derive(Debug, Serialize, ToSchema)]
pub struct PinOnBoard {
    /// Its number; null of a cap on top.
    pub pin: Option<u8>,
    /// What it is; empty where that is not known.
    #[serde(serialize_with = "crate::dialect::said")]
    pub role: String,
    /// What a part here is said to sit at: `V3 grid pin 5`.
    #[serde(serialize_with = "crate::dialect::said")]
    pub place: String,
    /// Whether heater volts stand there: looked at last.
    pub heater: bool,
    /// Its point of the chart.
    pub point: Option<Uuid>,
    /// Volts by the sheet.
    pub sheet: Option<Amount>,
    /// What was read last.
    pub volts: Option<Amount>,
    /// How that stands to the sheet.
    pub status: Option<ChartStatus>,
    /// The parts here.
    pub parts: Vec<PartOnPin>,
}

/// A part at a point.
#[derive(Debug, Serialize, ToSchema)]
pub struct PartOnPin {
    /// Its id.
    pub id: Uuid,
    /// Its name.
    pub name: String,
    /// What it is.
    pub kind: PartKind,
    /// What it does there.
    pub position: Option<Position>,
    /// Where it sits, as it was said.
    pub place: String,
    /// Its value by mark or sheet.
    pub marked: Option<Amount>,
    /// What is said of it in a word.
    pub says: Option<Outcome>,
    /// How far it has come.
    pub status: Status,
    /// Whether it is still to be measured.
    pub to_measure: bool,
}
