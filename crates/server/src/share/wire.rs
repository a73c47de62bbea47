//! The JSON shapes of shares.

use std::collections::BTreeMap;

use owl_core::network::{Kind, Share};
use owl_core::quantity::Quantity;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::amount::Amount;
use crate::combine::string::BalancingView;
use crate::combine::wire::Load;
use crate::judge::view::LimitsView;

/// A network and what drives it.
#[derive(Debug, Deserialize, ToSchema)]
pub struct ShareQuestion {
    /// Ohm or farad.
    pub kind: Kind,
    /// The network.
    pub network: NetworkNode,
    /// What the whole is driven by.
    pub drive: Option<Load>,
}

/// A part, or several in series or in parallel.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(untagged, expecting = "a part with ref and value, or a list under series or parallel")]
pub enum NetworkNode {
    /// One after the other.
    Series {
        /// At least one.
        #[schema(no_recursion)]
        series: Vec<NetworkNode>,
    },
    /// Side by side.
    Parallel {
        /// At least one.
        #[schema(no_recursion)]
        parallel: Vec<NetworkNode>,
    },
    /// One part.
    Part(NetworkPart),
}

/// One part of a network.
#[derive(Debug, Deserialize, ToSchema)]
pub struct NetworkPart {
    /// What it is called; numbered where it does not say.
    #[serde(rename = "ref")]
    #[schema(max_length = 40)]
    pub name: Option<String>,
    /// In ohm or farad, above zero.
    #[schema(exclusive_minimum = 0)]
    pub value: f64,
    /// How far it may be off.
    pub tolerance: Option<ToleranceBody>,
}

/// How far a part may be off, as fractions.
#[derive(Debug, Deserialize, ToSchema)]
pub struct ToleranceBody {
    /// Below its value.
    #[schema(minimum = 0, exclusive_maximum = 1)]
    pub minus: f64,
    /// Above its value.
    #[schema(minimum = 0)]
    pub plus: f64,
}

/// The whole and each part.
#[derive(Debug, Serialize, ToSchema)]
pub struct ShareAnswer {
    /// In ohm or farad.
    pub value: f64,
    /// As shown.
    pub shown: Amount,
    /// In one line.
    pub expression: String,
    /// Each part by its name.
    pub parts: BTreeMap<String, PartShare>,
    /// With every part at its low and at its high limit; null where a tolerance is not known.
    pub worst_case: Option<LimitsView>,
    /// How far off it usually is, as a fraction; null where a tolerance is not known.
    pub root_sum_square: Option<f64>,
    /// What shares the volts among capacitors in series.
    pub balancing: Option<BalancingView>,
}

/// What a part carries; null where it does not apply or is not known.
#[derive(Debug, Serialize, ToSchema)]
pub struct PartShare {
    /// In ohm or farad.
    pub value: f64,
    /// In volt.
    pub voltage: Option<f64>,
    /// The most volts that it may get by the tolerances of all, as the network charges; null where one is not known.
    pub voltage_at_worst: Option<f64>,
    /// In ampere.
    pub current: Option<f64>,
    /// In watt.
    pub power: Option<f64>,
    /// In coulomb.
    pub charge: Option<f64>,
    /// In joule.
    pub energy: Option<f64>,
    /// As shown: value, volts, amperes, watts.
    pub shown: Vec<String>,
}

impl PartShare {
    /// A share as it is sent.
    #[must_use]
    pub fn of(s: &Share, kind: Kind, volts_at_worst: Option<f64>) -> Self {
        let text = |q: Quantity, v: Option<f64>| v.map(|v| Amount::of(q, v).text);
        let shown = [
            text(super::quantity(kind), Some(s.value)),
            text(Quantity::Voltage, s.volts),
            text(Quantity::Current, s.amperes),
            text(Quantity::Power, s.watts),
        ];
        Self {
            value: s.value,
            voltage: s.volts,
            voltage_at_worst: volts_at_worst,
            current: s.amperes,
            power: s.watts,
            charge: s.coulombs,
            energy: s.joules,
            shown: shown.into_iter().flatten().collect(),
        }
    }
}
