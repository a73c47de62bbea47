//! The JSON shapes of heater chains.

use owl_core::quantity::format::signed_percent;
use owl_core::quantity::{Ohm, Volt};
use owl_core::supply::heater::{Ballast, Chain, Fate, Member, Settled};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::{RatingView, ShownView};

/// A heater chain.
#[derive(Debug, Deserialize, ToSchema)]
pub struct ChainQuestion {
    /// Volts of the line.
    pub line: f64,
    /// In their order.
    #[schema(max_items = 200)]
    pub members: Vec<MemberBody>,
    /// Ohms that are in series with them now: of each position of a ballast.
    #[serde(default)]
    #[schema(max_items = 200)]
    pub ballasts: Vec<f64>,
    /// A barretter that is in series with them, as its data has it: what it holds, and the volts from and to.
    #[schema(max_length = 80, example = "0.15 A 40-90 V")]
    pub barretter: Option<String>,
}

/// A heater or a lamp.
#[derive(Debug, Deserialize, ToSchema)]
pub struct MemberBody {
    /// What it is called.
    #[schema(max_length = 40)]
    pub name: String,
    /// Its volts.
    pub volts: f64,
    /// Its amperes.
    pub current: f64,
    /// Whether it is a lamp.
    #[serde(default)]
    pub lamp: bool,
}

/// The sums of a chain.
#[derive(Debug, Serialize, ToSchema)]
pub struct ChainAnswer {
    /// Amperes of the chain.
    pub current: f64,
    /// Of all members together.
    pub volts: f64,
    /// What takes up the rest, in ohm; null where nothing is left.
    pub dropper: Option<f64>,
    /// What it dissipates, in watt.
    pub dropper_power: f64,
    /// What it should be rated at.
    pub rating: RatingView,
    /// Volts that the line lacks.
    pub short_of: Option<f64>,
    /// Amperes in the first moment.
    pub surge: f64,
    /// In the order of the question.
    pub members: Vec<FateView>,
    /// As shown.
    pub shown: Vec<ShownView>,
    /// How the chain settles with each ballast of the question.
    pub settled: Vec<SettledView>,
}

/// A chain as it settles with the ballast that is there.
#[derive(Debug, Serialize, ToSchema)]
pub struct SettledView {
    /// The ballast, as shown.
    pub ballast: String,
    /// Amperes.
    pub current: f64,
    /// Volts across the ballast.
    pub ballast_volts: f64,
    /// Whether all heaters are within what they bear.
    pub good: bool,
    /// In words.
    #[serde(serialize_with = "crate::dialect::said")]
    pub text: String,
    /// Volts across each, in the order of the question.
    pub volts: Vec<f64>,
}

impl SettledView {
    /// A chain behind that ballast.
    #[must_use]
    pub fn of(ballast: Ballast, s: &Settled, members: &[Member]) -> Self {
        Self {
            ballast: ballast.to_string(),
            current: s.current.amperes(),
            ballast_volts: s.ballast_volts.volts(),
            good: s.is_good(members),
            text: format!("{}, {} across it: {}", s.current, s.ballast_volts, s.says(members)),
            volts: s.volts.iter().map(|v| v.volts()).collect(),
        }
    }
}

/// What becomes of one.
#[derive(Debug, Serialize, ToSchema)]
pub struct FateView {
    /// What it is called.
    pub name: String,
    /// Against the chain's current, as a fraction.
    pub mismatch: f64,
    /// Whether it matches.
    pub matches: bool,
    /// Of a lamp: volts in the first moment.
    pub surge_volts: Option<f64>,
    /// What goes across it, in ohm, where it takes less than the chain.
    pub shunt: Option<f64>,
    /// In words.
    #[serde(serialize_with = "crate::dialect::said")]
    pub text: String,
}

impl ChainAnswer {
    pub(in crate::supply) fn of(c: &Chain, members: &[Member]) -> Self {
        let mut list = vec![
            ShownView::new("chain", format!("{} at {}", c.volts, c.current)),
            ShownView::new("cold, at first", c.surge),
        ];
        if let Some(r) = c.dropper {
            list.push(ShownView::new("dropper", format!("{r}, {} in it", c.dropper_power)));
            list.push(ShownView::new("rated", c.rating));
        }
        if let Some(v) = c.short_of {
            list.push(ShownView::new("the line lacks", v));
        }
        let fate = |(f, m): (&Fate, &Member)| {
            let mut words = Vec::new();
            if !f.matches {
                words.push(format!("{} of the chain's current", signed_percent(f.mismatch.fraction())));
            }
            if let Some(v) = f.surge_volts {
                words.push(format!("{v} across it while the heaters are cold"));
            }
            if let Some(r) = f.shunt {
                words.push(format!("{r} across it takes the rest"));
            }
            if words.is_empty() {
                words.push(format!("matches; {} hot, {} cold", f.hot, f.cold));
            }
            FateView {
                name: m.name.clone(),
                mismatch: f.mismatch.fraction(),
                matches: f.matches,
                surge_volts: f.surge_volts.map(Volt::volts),
                shunt: f.shunt.map(Ohm::ohms),
                text: words.join("; "),
            }
        };
        Self {
            current: c.current.amperes(),
            volts: c.volts.volts(),
            dropper: c.dropper.map(Ohm::ohms),
            dropper_power: c.dropper_power.watts(),
            rating: (&c.rating).into(),
            short_of: c.short_of.map(Volt::volts),
            surge: c.surge.amperes(),
            members: c.fates.iter().zip(members).map(fate).collect(),
            shown: list,
            settled: vec![],
        }
    }
}
