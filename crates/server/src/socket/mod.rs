//! `GET /api/sockets`: bases and valves, for drawings from below.

use axum::Json;
use owl_core::socket::{Base, Valve, bases, transistors, valves};
use owl_core::transistor::device::Sure;
use serde::Serialize;
use utoipa::ToSchema;

/// Bases and valves.
#[derive(Debug, Serialize, ToSchema)]
pub struct SocketsView {
    /// Where the pins stand.
    pub bases: Vec<BaseView>,
    /// What they are.
    pub valves: Vec<ValveView>,
}

/// A base, seen from below.
#[derive(Debug, Serialize, ToSchema)]
pub struct BaseView {
    /// What it is called.
    pub base: String,
    /// What its key is.
    #[serde(serialize_with = "crate::dialect::said")]
    pub key: String,
    /// Its pins, clockwise from the key at the bottom.
    pub pins: Vec<PinPlaceView>,
    /// Where that comes from.
    pub source: String,
}

/// A pin, as a share of the circle's radius.
#[derive(Debug, Serialize, ToSchema)]
pub struct PinPlaceView {
    /// Its number.
    pub number: u8,
    /// To the right of the middle.
    pub x: f64,
    /// Below the middle.
    pub y: f64,
    /// Whether it is a thick one.
    pub large: bool,
}

/// A valve.
#[derive(Debug, Serialize, ToSchema)]
pub struct ValveView {
    /// Its type.
    #[serde(rename = "type")]
    pub name: String,
    /// Its base.
    pub base: String,
    /// What its pins are.
    pub pins: Vec<PinRoleView>,
    /// What is at its cap.
    pub cap: Option<String>,
    /// What it is.
    #[serde(serialize_with = "crate::dialect::said")]
    pub what: String,
    /// How sure its row is.
    pub sure: Sure,
    /// Where that comes from.
    pub source: String,
}

/// What a pin is.
#[derive(Debug, Serialize, ToSchema)]
pub struct PinRoleView {
    /// Its number.
    pub number: u8,
    /// As written beside it.
    pub code: String,
    /// In full.
    #[serde(serialize_with = "crate::dialect::said")]
    pub name: String,
}

/// Bases and valves, as they are known here.
#[utoipa::path(get, path = "/api/sockets", operation_id = "read_sockets", tag = "tools", responses(
    (status = 200, body = SocketsView)))]
pub async fn sockets() -> Json<SocketsView> {
    Json(SocketsView {
        bases: bases().iter().map(BaseView::of).collect(),
        valves: valves().iter().chain(transistors()).map(ValveView::of).collect(),
    })
}

impl BaseView {
    fn of(b: &Base) -> Self {
        let pin =
            |p: owl_core::socket::PinPlace| PinPlaceView { number: p.number, x: p.x, y: p.y, large: p.large };
        Self {
            base: b.base.clone(),
            key: b.key.clone(),
            pins: b.places().into_iter().map(pin).collect(),
            source: b.source.to_string(),
        }
    }
}

impl ValveView {
    fn of(v: &Valve) -> Self {
        let pin = |(n, r): &(u8, &owl_core::socket::PinRole)| PinRoleView {
            number: *n,
            code: r.code.clone(),
            name: r.name.clone(),
        };
        Self {
            name: v.name.clone(),
            base: v.base.base.clone(),
            pins: v.pins.iter().map(pin).collect(),
            cap: v.cap.map(|r| r.name.clone()),
            what: v.what.clone(),
            sure: v.sure,
            source: v.source.to_string(),
        }
    }
}
