//! Valves: heater, limits and a working point by type; which take each other's place ([`alike`]); and what weakness means in
//! a place ([`limit`]). All of it is from memory or practice, row by row. Where their pins stand is [`crate::socket`]'s.

pub mod alike;
pub mod limit;

use std::sync::LazyLock;

use serde::Deserialize;

use crate::part::Position;
use crate::quantity::{Ampere, Ohm, Siemens, Volt, Watt};
use crate::socket::names::{bare, names_of, without_bulb};
use crate::source::Source;
use crate::supply::heater::HEATER_COLD;
use crate::table::{rows, yes};

/// A heater or a filament.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Heater {
    /// Its volts; of one with a middle tap the volts across its ends.
    pub volts: Volt,
    /// Its current at those.
    pub current: Ampere,
    /// Whether it has a tap, and runs on half the volts at twice the current as well.
    pub tapped: bool,
}

impl Heater {
    /// What it measures cold, end to end: about a seventh of what it has hot (memory: oxide cathodes, 6 to 8).
    #[must_use]
    pub fn cold(self) -> Ohm {
        self.volts / self.current * HEATER_COLD
    }

    /// How it is connected to run on so many volts: its own, or half of them where it has a tap.
    fn on(self, volts: Volt) -> Option<Ampere> {
        let near = |own: Volt| (own / volts - 1.0).abs() <= crate::supply::heater::VOLTS_OFF;
        if near(self.volts) {
            return Some(self.current);
        }
        (self.tapped && near(self.volts * 0.5)).then(|| self.current * 2.0)
    }

    /// What it draws in the place of another, from the same volts; `None` where it is not made for them.
    #[must_use]
    pub fn in_place_of(self, other: Self) -> Option<Ampere> {
        self.on(other.volts).or_else(|| if other.tapped { self.on(other.volts * 0.5) } else { None })
    }
}

impl std::fmt::Display for Heater {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        write!(f, "{} {}", self.volts, self.current)
    }
}

/// A working point of the published data.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct WorkingPoint {
    /// At the plate; what a regulator holds.
    pub plate: Volt,
    /// At the screen.
    pub screen: Option<Volt>,
    /// At the control grid, against the cathode.
    pub grid: Option<Volt>,
    /// What the plate draws.
    pub plate_current: Option<Ampere>,
    /// What the screen draws.
    pub screen_current: Option<Ampere>,
}

/// What is known of a type of valve.
#[derive(Debug, Clone, PartialEq)]
pub struct ValveType {
    /// Its type number.
    pub name: String,
    /// Its heater; none of a regulator.
    pub heater: Option<Heater>,
    /// Where such a valve usually stands.
    pub usual: Position,
    /// The most at its plate.
    pub plate_most: Option<Volt>,
    /// The most that its plate may take up.
    pub dissipation_most: Option<Watt>,
    /// The most that its cathode may give.
    pub cathode_most: Option<Ampere>,
    /// The most between heater and cathode.
    pub heater_cathode_most: Option<Volt>,
    /// A working point; of double valves of each half.
    pub at: Option<WorkingPoint>,
    /// Its transconductance there; of a converter the conversion's.
    pub transconductance: Option<Siemens>,
    /// Where the row comes from.
    pub source: Source,
}

#[derive(Deserialize)]
struct Row {
    #[serde(rename = "type")]
    name: String,
    heater_volts: Option<f64>,
    heater_amps: Option<f64>,
    #[serde(deserialize_with = "yes")]
    tapped: bool,
    usual: Position,
    plate_volts_most: Option<f64>,
    plate_watts_most: Option<f64>,
    cathode_milliamps_most: Option<f64>,
    heater_cathode_volts_most: Option<f64>,
    at_plate_volts: Option<f64>,
    at_screen_volts: Option<f64>,
    at_grid_volts: Option<f64>,
    plate_milliamps: Option<f64>,
    screen_milliamps: Option<f64>,
    milliamps_per_volt: Option<f64>,
    source: Source,
}

impl Row {
    fn valve(self) -> ValveType {
        let volts = |v: Option<f64>| v.map(Volt::computed);
        let milliamps = |m: Option<f64>| m.map(|m| Ampere::computed(m / 1000.0));
        let heater = self.heater_volts.zip(self.heater_amps).map(|(v, a)| Heater {
            volts: Volt::computed(v),
            current: Ampere::computed(a),
            tapped: self.tapped,
        });
        let at = self.at_plate_volts.map(|plate| WorkingPoint {
            plate: Volt::computed(plate),
            screen: volts(self.at_screen_volts),
            grid: volts(self.at_grid_volts),
            plate_current: milliamps(self.plate_milliamps),
            screen_current: milliamps(self.screen_milliamps),
        });
        ValveType {
            name: self.name,
            heater,
            usual: self.usual,
            plate_most: volts(self.plate_volts_most),
            dissipation_most: self.plate_watts_most.map(Watt::computed),
            cathode_most: milliamps(self.cathode_milliamps_most),
            heater_cathode_most: volts(self.heater_cathode_volts_most),
            at,
            transconductance: self.milliamps_per_volt.map(|m| Siemens::computed(m / 1000.0)),
            source: self.source,
        }
    }
}

static TYPES: LazyLock<Vec<ValveType>> = LazyLock::new(|| {
    let all = rows::<Row>("valve_data.csv", include_str!("../../data/valve_data.csv"));
    all.into_iter().map(Row::valve).collect()
});

/// Every type of the table.
#[must_use]
pub fn types() -> &'static [ValveType] {
    &TYPES
}

/// What the table has of a type: of exactly that number, of its number without the bulb's letters, or of the same valve
/// under another name.
///
/// ```
/// use owl_core::valve::valve_type;
/// assert_eq!(valve_type("6k7-gt").unwrap().name, "6K7");
/// assert_eq!(valve_type("6CA7").unwrap().name, "EL34");
/// assert!(valve_type("9Z9").is_none());
/// ```
#[must_use]
pub fn valve_type(typed: &str) -> Option<&'static ValveType> {
    let of = |n: &str| TYPES.iter().find(|t| t.name == n);
    let (name, short) = (bare(typed), without_bulb(typed));
    of(&name).or_else(|| of(&short)).or_else(|| names_of(&short).into_iter().find_map(of))
}
