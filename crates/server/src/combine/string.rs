//! Capacitors in series on direct volts, and what shares the volts among them.

use owl_core::network::balance::{Balancing, balancing};
use owl_core::network::{Drive, Kind, Tree};
use owl_core::quantity::{Farad, Quantity};
use serde::Serialize;
use utoipa::ToSchema;

/// What goes across each capacitor of a string.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct BalancingView {
    /// In ohm.
    pub resistor: f64,
    /// What each dissipates, in watt.
    pub power: f64,
    /// As shown.
    pub text: String,
}

impl BalancingView {
    /// A balance as it is sent.
    #[must_use]
    pub fn of(b: &Balancing) -> Self {
        Self {
            resistor: b.resistor.ohms(),
            power: b.dissipated.watts(),
            text: format!(
                "{} across each, {} in it: leakage shares the volts otherwise",
                b.resistor, b.dissipated
            ),
        }
    }
}

/// What a network of a kind is measured in.
pub(crate) fn quantity(kind: Kind) -> Quantity {
    match kind {
        Kind::Resistor => Quantity::Resistance,
        Kind::Capacitor => Quantity::Capacitance,
    }
}

/// Balancing resistors, where capacitors stand in series on direct volts.
pub(crate) fn string_of(tree: &Tree, kind: Kind, drive: Option<Drive>) -> Option<BalancingView> {
    let (Kind::Capacitor, Tree::Series(parts), Some(Drive::Voltage(v))) = (kind, tree, drive) else {
        return None;
    };
    let least = parts.iter().map(|p| p.value(kind)).fold(f64::INFINITY, f64::min);
    balancing(Farad::computed(least), v, parts.len()).as_ref().map(BalancingView::of)
}
