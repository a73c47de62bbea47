//! What a load asks of each part, and what rules a part out before any network is built.

use super::{Stock, Wanted};
use crate::network::{Drive, Kind};
use crate::quantity::{Volt, Watt};

/// The load in the search's own terms. What is common to a chain is its flow: amperes of resistors, volts of
/// capacitors. What is common to a bundle is its effort: volts of resistors, charge of capacitors. A part of
/// value x has effort = flow · x.
#[derive(Debug, Clone, Copy)]
pub(super) struct Load<'a> {
    wanted: &'a Wanted,
    stock: &'a [Stock],
}

impl<'a> Load<'a> {
    pub(super) fn new(wanted: &'a Wanted, stock: &'a [Stock]) -> Self {
        Self { wanted, stock }
    }

    /// The least flow of a chain near enough to the target; `None` where nothing is said of the load.
    pub(super) fn least_flow(&self) -> Option<f64> {
        let within = self.wanted.within.unwrap_or(f64::INFINITY);
        match (self.wanted.drive?, self.wanted.kind) {
            (Drive::Current(i), Kind::Resistor) => Some(i.amperes().abs()),
            (Drive::Current(_), Kind::Capacitor) => None,
            (Drive::Voltage(v), Kind::Resistor) => {
                Some(v.volts().abs() / (self.wanted.target * (1.0 + within)))
            }
            (Drive::Voltage(v), Kind::Capacitor) => Some(v.volts().abs()),
        }
    }

    /// The least effort of a bundle near enough to the target.
    pub(super) fn least_effort(&self) -> Option<f64> {
        let within = self.wanted.within.unwrap_or(f64::INFINITY);
        let least = self.wanted.target * (1.0 - within).max(0.0);
        match (self.wanted.drive?, self.wanted.kind) {
            (Drive::Current(i), Kind::Resistor) => Some(i.amperes().abs() * least),
            (Drive::Current(_), Kind::Capacitor) => None,
            (Drive::Voltage(v), Kind::Resistor) => Some(v.volts().abs()),
            (Drive::Voltage(v), Kind::Capacitor) => Some(v.volts().abs() * least),
        }
    }

    /// Whether one part stands a flow.
    pub(super) fn stands(&self, part: u16, flow: f64) -> bool {
        let value = self.stock[usize::from(part)].value;
        let (volts, watts) = match self.wanted.kind {
            Kind::Resistor => (flow * value, Some(flow * flow * value)),
            Kind::Capacitor => (flow, None),
        };
        self.within_rating(part, volts, watts)
    }

    /// Whether one part stands what it carries in a network.
    pub(super) fn within_rating(&self, part: u16, volts: f64, watts: Option<f64>) -> bool {
        let own = &self.stock[usize::from(part)];
        let inside = |carried: f64, limit: Option<f64>| limit.is_none_or(|l| carried <= l * (1.0 + 1e-9));
        inside(volts.abs(), own.voltage.or(self.wanted.voltage).map(Volt::volts))
            && watts.is_none_or(|w| inside(w, own.power.or(self.wanted.power).map(Watt::watts)))
    }
}
