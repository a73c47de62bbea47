//! What the tables have of a valve, for whoever tests it: heater, limits, a working point, its other names, its pins.

use owl_core::part::PartKind;
use owl_core::socket;
use owl_core::socket::names::{names_of, without_bulb};
use owl_core::tray::TrayPart;
use owl_core::valve::{ValveType, WorkingPoint, valve_type};
use serde::Serialize;
use utoipa::ToSchema;

/// A valve of which a table knows something.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct ValveDataView {
    /// Its type in the table.
    pub type_number: String,
    /// Its other names.
    pub also: Vec<String>,
    /// What is published of it, line by line; empty where its data are not in the tables.
    pub data: Vec<ValveDataLine>,
    /// Where those come from.
    pub source: String,
    /// Its pins in probing order; empty where they are not in the tables.
    pub pins: Vec<ValveDataPin>,
}

/// A line of a valve's data.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct ValveDataLine {
    /// What it is: `heater`.
    pub label: String,
    /// How much: `6.3 V 450 mA`.
    pub text: String,
}

/// A pin of a valve.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct ValveDataPin {
    /// Its number.
    pub pin: u8,
    /// What it leads to: `grid 1`.
    pub name: String,
}

impl ValveDataView {
    /// What is known of the valve that sits there; `None` of other parts, and of types that no table has.
    #[must_use]
    pub fn of(part: &TrayPart) -> Option<Self> {
        let name = part.installed_type().filter(|_| part.kind == PartKind::Valve)?;
        let (data, pins) = (valve_type(name), socket::valve(name));
        if data.is_none() && pins.is_none() {
            return None;
        }
        Some(Self {
            type_number: data.map_or_else(|| without_bulb(name), |d| d.name.clone()),
            also: names_of(&without_bulb(name)).into_iter().map(str::to_owned).collect(),
            data: data.map(lines).unwrap_or_default(),
            source: data.map(|d| d.source.to_string()).unwrap_or_default(),
            pins: pins
                .map(socket::Valve::in_probing_order)
                .unwrap_or_default()
                .into_iter()
                .map(pin)
                .collect(),
        })
    }
}

fn pin((pin, role): (u8, &'static socket::PinRole)) -> ValveDataPin {
    ValveDataPin { pin, name: role.name.clone() }
}

fn lines(of: &ValveType) -> Vec<ValveDataLine> {
    let heater = of.heater.map(|h| {
        let tap = if h.tapped { ", tapped" } else { "" };
        format!("{h}{tap}; about {} cold", h.cold())
    });
    let point = of.at.filter(|p| p.plate_current.is_some()).map(point);
    let all = [
        ("heater", heater),
        ("published point", point),
        ("transconductance there", of.transconductance.map(|g| g.to_string())),
        ("holds", of.at.filter(|p| p.plate_current.is_none()).map(|p| p.plate.to_string())),
        ("plate, at most", of.plate_most.map(|v| v.to_string())),
        ("plate takes up, at most", of.dissipation_most.map(|w| w.to_string())),
        ("cathode gives, at most", of.cathode_most.map(|i| i.to_string())),
        ("heater to cathode, at most", of.heater_cathode_most.map(|v| v.to_string())),
        ("usually", Some(of.usual.to_string())),
    ];
    let line =
        |(label, text): (&str, Option<String>)| Some(ValveDataLine { label: label.to_owned(), text: text? });
    all.into_iter().filter_map(line).collect()
}

/// `plate 250 V 45 mA, screen 250 V 4.5 mA, grid −12.5 V`.
fn point(at: WorkingPoint) -> String {
    let with = |what: &str, volts: Option<String>, current: Option<String>| {
        let all: Vec<String> = volts.into_iter().chain(current).collect();
        (!all.is_empty()).then(|| format!("{what} {}", all.join(" ")))
    };
    let text = |v: Option<owl_core::quantity::Volt>| v.map(|v| v.to_string());
    let current = |i: Option<owl_core::quantity::Ampere>| i.map(|i| i.to_string());
    [
        with("plate", Some(at.plate.to_string()), current(at.plate_current)),
        with("screen", text(at.screen), current(at.screen_current)),
        with("grid", text(at.grid), None),
    ]
    .into_iter()
    .flatten()
    .collect::<Vec<_>>()
    .join(", ")
}
