//! The JSON shapes of feeds: the contract's, and what a drawing needs beside it.

use std::collections::BTreeMap;

use owl_core::feed::search::{Double, Findings, Suspect};
use owl_core::feed::shown::volts;
use owl_core::feed::{FaultKind, Feed, FeedKind, Solved, says};
use owl_core::quantity::{Quantity, Volt};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::amount::Amount;

/// A feed, what its sheet says, and what was measured.
#[derive(Debug, Clone, Deserialize, ToSchema)]
pub struct FeedQuestion {
    /// Volts of the node `rail`, by the sheet.
    pub rail: f64,
    /// Other rails that reach into it: nodes of those names have these volts by the sheet.
    #[serde(default)]
    pub rails: BTreeMap<String, f64>,
    /// What hangs on it.
    #[schema(min_items = 1, max_items = 200)]
    pub parts: Vec<FeedPartBody>,
    /// Volts at nodes; `rail` for what the rail has now; null where nothing was read.
    pub measured: BTreeMap<String, Option<f64>>,
    /// What the sheet says of nodes: it gives the current of loads that say none.
    pub sheet: Option<BTreeMap<String, Option<f64>>>,
    /// The node of zero volts; `ground` where it does not say.
    #[schema(max_length = 40)]
    pub ground: Option<String>,
    /// Ohms of the meter, where it loads the node.
    #[schema(exclusive_minimum = 0)]
    pub meter: Option<f64>,
}

/// A part of a feed.
#[derive(Debug, Clone, Deserialize, ToSchema)]
pub struct FeedPartBody {
    /// What it is called.
    #[serde(rename = "ref")]
    #[schema(min_length = 1, max_length = 40)]
    pub name: String,
    /// Resistor, capacitor or load.
    pub kind: FeedKind,
    /// The node of one end.
    #[schema(min_length = 1, max_length = 40)]
    pub a: String,
    /// The node of the other.
    #[schema(min_length = 1, max_length = 40)]
    pub b: String,
    /// Ohm, farad, or ampere of a load; a load may leave it to the sheet, a capacitor need not say.
    pub value: Option<f64>,
    /// Of a load: what its value is.
    #[serde(rename = "as")]
    pub unit: Option<LoadAs>,
    /// How far a good one may be off, as a fraction; 0.1 where it does not say.
    #[schema(minimum = 0, maximum = 1)]
    pub tolerance: Option<f64>,
    /// What a resistor may dissipate, in watt.
    #[schema(exclusive_minimum = 0)]
    pub rating: Option<f64>,
}

/// What a load's value is.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Deserialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub enum LoadAs {
    /// Ampere.
    Current,
    /// Ohm.
    Resistance,
}

/// Which part is guilty.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct FeedAnswer {
    /// Every node with all parts as they should be, in volt.
    pub expected: BTreeMap<String, f64>,
    /// The same, as shown.
    pub expected_text: BTreeMap<String, String>,
    /// Whether good parts within their tolerance explain the readings.
    pub agrees: bool,
    /// Best first; those that explain the readings equally well have equal `explains`.
    pub suspects: Vec<FeedSuspect>,
    /// Two at once, where no single fault explains the readings.
    pub doubles: Vec<DoubleView>,
    /// Pairs that explain the readings equally well.
    pub cannot_separate: Vec<[String; 2]>,
    /// The measurement that tells the best ones apart.
    pub separate_by: Option<String>,
    /// What the best suspects overload.
    pub overloaded: Vec<OverloadView>,
    /// All of it in a sentence or two.
    pub says: String,
    /// Every part while all are good, for the drawing.
    pub flow: Vec<FlowView>,
}

/// A fault that would explain the readings.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct FeedSuspect {
    /// The part.
    #[serde(rename = "ref")]
    pub name: String,
    /// What would be wrong with it.
    pub fault: FaultKind,
    /// Ohms of a leak, the factor of a drift; null for the others.
    pub estimate: Option<f64>,
    /// From 0 to 1.
    pub explains: f64,
    /// Why, with the numbers.
    pub because: String,
    /// With its size, in words.
    pub text: String,
    /// Volts at every node with this fault.
    pub volts: BTreeMap<String, f64>,
    /// The same, as shown.
    pub volts_text: BTreeMap<String, String>,
    /// Every part with this fault, for the drawing.
    pub flow: Vec<FlowView>,
    /// What it overloads.
    pub overloaded: Vec<OverloadView>,
}

/// Two faults at once.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct DoubleView {
    /// Both, in words.
    pub text: String,
    /// From 0 to 1.
    pub explains: f64,
    /// Why, with the numbers.
    pub because: String,
}

/// A resistor that carries more than it is made for.
#[derive(Debug, Clone, PartialEq, Serialize, ToSchema)]
pub struct OverloadView {
    /// Which.
    #[serde(rename = "ref")]
    pub name: String,
    /// What it dissipates, in watt.
    pub power: f64,
    /// What it may, in watt; null where that is not known.
    pub rating: Option<f64>,
    /// In words.
    pub text: String,
}

/// What a part carries.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct FlowView {
    /// Which.
    #[serde(rename = "ref")]
    pub name: String,
    /// From its end `a` to `b`, in volt.
    pub voltage: f64,
    /// From `a` to `b`, in ampere.
    pub current: f64,
    /// In watt.
    pub power: f64,
    /// Current and watts, as shown; empty where nothing flows.
    pub shown: String,
}

impl FeedAnswer {
    /// The findings as they are sent; `readings`: how many nodes were read.
    #[must_use]
    pub fn of(feed: &Feed, found: &Findings, readings: usize) -> Self {
        let name = |i: usize| feed.parts()[i].name.clone();
        let best = found.suspects.first().map(|s| s.explains);
        let mut overloaded: Vec<OverloadView> = Vec::new();
        for s in found.suspects.iter().filter(|s| Some(s.explains) == best) {
            for o in overloads(feed, s) {
                if overloaded.iter().all(|k| k.name != o.name) {
                    overloaded.push(o);
                }
            }
        }
        Self {
            expected: map(&found.expected),
            expected_text: shown(&found.expected),
            agrees: found.agrees,
            suspects: found.suspects.iter().map(|s| FeedSuspect::of(feed, s)).collect(),
            doubles: found.doubles.iter().map(|d| DoubleView::of(feed, d)).collect(),
            cannot_separate: found.cannot_separate.iter().map(|(a, b)| [name(*a), name(*b)]).collect(),
            separate_by: found.separate_by.clone(),
            overloaded,
            says: says(feed, found, readings),
            flow: flow(feed, &feed.as_drawn().healthy()),
        }
    }
}

impl FeedSuspect {
    fn of(feed: &Feed, s: &Suspect) -> Self {
        let part = &feed.parts()[s.part];
        let state = s.state(feed);
        let volts: Vec<_> = feed.nodes().iter().filter_map(|n| Some((n.clone(), state.volts(n)?))).collect();
        Self {
            name: part.name.clone(),
            fault: s.fault.kind(),
            estimate: s.fault.estimate(),
            explains: s.explains.fraction(),
            because: s.because.clone(),
            text: s.says(feed),
            volts_text: shown(&volts),
            volts: map(&volts),
            flow: flow(feed, &state),
            overloaded: overloads(feed, s),
        }
    }
}

impl DoubleView {
    fn of(feed: &Feed, d: &Double) -> Self {
        let each = d.faults.iter().map(|(i, f)| {
            let part = &feed.parts()[*i];
            format!("{} {}", part.name, f.says(part.element))
        });
        Self {
            text: each.collect::<Vec<_>>().join(" and "),
            explains: d.explains.fraction(),
            because: d.because.clone(),
        }
    }
}

fn overloads(feed: &Feed, s: &Suspect) -> Vec<OverloadView> {
    let view = |o: &owl_core::feed::overload::Overload| OverloadView {
        name: feed.parts()[o.part].name.clone(),
        power: o.power.watts(),
        rating: o.rating.map(owl_core::quantity::Watt::watts),
        text: o.says(feed),
    };
    s.overloads.iter().map(view).collect()
}

fn flow(feed: &Feed, state: &Solved<'_>) -> Vec<FlowView> {
    let view = |(i, p): (usize, &owl_core::feed::FeedPart)| {
        let (v, a, w) = state.carries(i)?;
        Some(FlowView {
            name: p.name.clone(),
            voltage: v.volts(),
            current: a.amperes(),
            power: w.watts(),
            shown: if a.amperes() == 0.0 {
                String::new()
            } else {
                let round = |q, v| Amount::rounded(q, v, 3).text;
                format!(
                    "{}, {}",
                    round(Quantity::Current, a.amperes().abs()),
                    round(Quantity::Power, w.watts())
                )
            },
        })
    };
    feed.parts().iter().enumerate().filter_map(view).collect()
}

fn map(volts: &[(String, Volt)]) -> BTreeMap<String, f64> {
    // Not even a picovolt of a sum that should be zero.
    let clean = |v: f64| if v.abs() < 1e-6 { 0.0 } else { v };
    volts.iter().map(|(n, v)| (n.clone(), clean(v.volts()))).collect()
}

fn shown(nodes: &[(String, Volt)]) -> BTreeMap<String, String> {
    nodes.iter().map(|(n, v)| (n.clone(), volts(v.volts()))).collect()
}
