//! The JSON shapes of networks.

use owl_core::network::{Drive, Found, Kind, Share, Tree};
use owl_core::part::MadeOf;
use owl_core::preferred::Series;
use owl_core::quantity::Quantity;
use owl_core::quantity::format::{format, percent, signed_percent};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use super::string::{BalancingView, quantity, string_of};
use crate::amount::Amount;
use crate::judge::view::LimitsView;
use crate::table::drawers::Source;

/// What is to be made, and of what.
#[derive(Debug, Deserialize, ToSchema)]
pub struct CombineQuestion {
    /// Ohm or farad.
    pub kind: Kind,
    /// In ohm or farad, above zero.
    #[schema(exclusive_minimum = 0)]
    pub target: f64,
    /// The greatest error of use, as a fraction of the target.
    #[schema(exclusive_minimum = 0)]
    pub within: Option<f64>,
    /// 1 to 4; 3 where it does not say.
    #[schema(minimum = 1, maximum = 4)]
    pub max_parts: Option<usize>,
    /// A part that must be in it, in ohm or farad: "I have a 180, what goes with it?"
    #[schema(exclusive_minimum = 0)]
    pub pinned: Option<f64>,
    /// How far each part may be off, as a fraction; what goes with the series where it does not say.
    #[schema(exclusive_minimum = 0, exclusive_maximum = 1)]
    pub tolerance: Option<f64>,
    /// What there is to build from.
    pub from: BuildFrom,
    /// What the whole is driven by.
    pub load: Option<Load>,
    /// What each part may carry; needs a load.
    pub rating: Option<Rating>,
    /// How many networks; 10 where it does not say.
    #[schema(minimum = 1, maximum = 100)]
    pub limit: Option<usize>,
}

/// What there is to build from.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(untagged, expecting = "say what to build from: a series with low and high, values, or drawers")]
pub enum BuildFrom {
    /// A series of preferred numbers between two values.
    Series {
        /// E3 to E192.
        series: Series,
        /// In ohm or farad.
        #[schema(exclusive_minimum = 0)]
        low: f64,
        /// In ohm or farad.
        #[schema(exclusive_minimum = 0)]
        high: f64,
    },
    /// Single values, with how many there are.
    Values {
        /// At least one.
        #[schema(min_items = 1, max_items = 1400)]
        values: Vec<StockBody>,
    },
    /// What lies in the drawers, with counts and measured values.
    Drawers {
        /// True.
        drawers: bool,
    },
}

/// One value that there is.
#[derive(Debug, Deserialize, ToSchema)]
pub struct StockBody {
    /// In ohm or farad, above zero.
    #[schema(exclusive_minimum = 0)]
    pub value: f64,
    /// How many; as many as needed where it does not say.
    pub count: Option<u32>,
    /// How far it may be off, as a fraction.
    #[schema(exclusive_minimum = 0, exclusive_maximum = 1)]
    pub tolerance: Option<f64>,
    /// What it may carry, in watt.
    #[schema(exclusive_minimum = 0)]
    pub power: Option<f64>,
    /// The volts that it stands.
    #[schema(exclusive_minimum = 0)]
    pub voltage: Option<f64>,
}

/// What drives the whole.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(untagged, expecting = "say the load as a voltage or as a current")]
pub enum Load {
    /// Volts across it.
    Voltage {
        /// In volt.
        voltage: f64,
    },
    /// Amperes through it.
    Current {
        /// In ampere.
        current: f64,
    },
}

/// What each part may carry.
#[derive(Debug, Deserialize, ToSchema)]
pub struct Rating {
    /// In watt.
    #[schema(minimum = 0)]
    pub power: Option<f64>,
    /// In volt.
    #[schema(minimum = 0)]
    pub voltage: Option<f64>,
}

/// Networks, least absolute error first.
#[derive(Debug, Serialize, ToSchema)]
pub struct CombineAnswer {
    /// May be empty.
    pub networks: Vec<NetworkView>,
    /// How many networks there were to choose from.
    pub searched: u64,
    /// Whether the search went to its end; otherwise these are the best so far.
    pub complete: bool,
}

/// One network.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct NetworkView {
    /// In one line: `120 ∥ 6.8k`.
    pub expression: String,
    /// In ohm or farad.
    pub value: f64,
    /// Relative to the target, with its sign.
    pub error: f64,
    /// What each part carries, in the order of the expression.
    pub parts: Vec<ShareView>,
    /// With every part at its low and at its high limit; null where a tolerance is not known.
    pub worst_case: Option<LimitsView>,
    /// How far off it usually is, as a fraction.
    pub root_sum_square: Option<f64>,
    /// The value as shown.
    pub shown: Amount,
    /// The error as shown.
    pub error_text: String,
    /// The spread as shown.
    pub spread_text: Option<String>,
    /// What shares the volts among capacitors in series on direct volts.
    pub balancing: Option<BalancingView>,
    /// The network as a tree.
    pub tree: TreeView,
}

/// What one part carries; null where it does not apply or is not known.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct ShareView {
    /// In ohm or farad.
    pub value: f64,
    /// In watt.
    pub power: Option<f64>,
    /// In volt.
    pub voltage: Option<f64>,
    /// In ampere.
    pub current: Option<f64>,
    /// As shown: value, then what it carries.
    pub shown: Vec<String>,
    /// Where it lies, when it comes from a drawer.
    pub place: Option<String>,
    /// Its lot.
    pub lot: Option<Uuid>,
    /// The piece in a line.
    pub description: Option<String>,
    /// How it is made.
    pub family: Option<MadeOf>,
}

impl ShareView {
    /// A share as it is sent.
    #[must_use]
    pub fn of(s: &Share, kind: Kind, source: Option<&Source>) -> Self {
        let text = |q: Quantity, v: Option<f64>| v.map(|v| Amount::of(q, v).text);
        // Unlike parts share unequally: each beside what it may carry.
        let rated = |shown: Option<String>, of: Option<String>| match (shown, of) {
            (Some(s), Some(of)) => Some(format!("{s} of {of}")),
            (shown, _) => shown,
        };
        let volts = source.and_then(|s| s.volts).filter(|_| kind == Kind::Capacitor).map(|v| v.to_string());
        let shown = [
            text(quantity(kind), Some(s.value)),
            rated(text(Quantity::Voltage, s.volts), volts),
            text(Quantity::Current, s.amperes),
            rated(text(Quantity::Power, s.watts), source.and_then(|s| s.watts).map(|w| w.to_string())),
        ];
        Self {
            value: s.value,
            power: s.watts,
            voltage: s.volts,
            current: s.amperes,
            shown: shown.into_iter().flatten().collect(),
            place: source.map(|s| s.place.clone()),
            lot: source.map(|s| s.lot),
            description: source.map(|s| s.description.clone()),
            family: source.and_then(|s| s.family),
        }
    }
}

/// A part, or several in series or in parallel.
#[derive(Debug, Clone, Serialize, ToSchema)]
#[serde(rename_all = "snake_case")]
pub enum TreeView {
    /// In ohm or farad.
    Value(f64),
    /// One after the other.
    #[schema(no_recursion)]
    Series(Vec<TreeView>),
    /// Side by side.
    #[schema(no_recursion)]
    Parallel(Vec<TreeView>),
}

impl From<&Tree> for TreeView {
    fn from(t: &Tree) -> Self {
        match t {
            Tree::Part(v) => Self::Value(*v),
            Tree::Series(p) => Self::Series(p.iter().map(Self::from).collect()),
            Tree::Parallel(p) => Self::Parallel(p.iter().map(Self::from).collect()),
        }
    }
}

impl NetworkView {
    /// A network as it is sent; `source` says where a piece of the stock comes from.
    #[must_use]
    pub fn of<'a>(
        n: &Found,
        kind: Kind,
        drive: Option<Drive>,
        source: impl Fn(usize) -> Option<&'a Source>,
    ) -> Self {
        let spread_text = n.spread.map(|s| {
            let text = |v: f64| Amount::of(quantity(kind), v).text;
            format!("{} to {}, usually within {}", text(s.low), text(s.high), percent(s.root_sum_square))
        });
        Self {
            expression: n.tree.expression(kind),
            value: n.value,
            error: n.error,
            parts: n.shares.iter().zip(&n.picks).map(|(s, i)| ShareView::of(s, kind, source(*i))).collect(),
            worst_case: n.spread.map(|s| LimitsView { low: s.low, high: s.high }),
            root_sum_square: n.spread.map(|s| s.root_sum_square),
            shown: Amount::of(quantity(kind), n.value),
            error_text: if n.error.abs() < 5e-7 {
                "exact".to_owned()
            } else if n.error.abs() < 5e-4 {
                format!("{} ppm", format(Quantity::Ratio, (n.error * 1e6).round()).number)
            } else {
                signed_percent(n.error)
            },
            spread_text,
            balancing: string_of(&n.tree, kind, drive),
            tree: (&n.tree).into(),
        }
    }
}
