//! The JSON shapes of networks.

use owl_core::network::{Found, Kind, Share, Tree};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::judge::view::LimitsView;
use crate::name::{KindName, SeriesName};

/// What is to be made, and of what.
#[derive(Debug, Deserialize, ToSchema)]
pub struct CombineQuestion {
    /// Ohm or farad.
    pub kind: KindName,
    /// In ohm or farad, above zero.
    #[schema(exclusive_minimum = 0)]
    pub target: f64,
    /// The greatest error of use, as a fraction of the target.
    #[schema(exclusive_minimum = 0)]
    pub within: Option<f64>,
    /// 1 to 3; 3 where it does not say.
    #[schema(minimum = 1, maximum = 3)]
    pub max_parts: Option<usize>,
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
#[serde(untagged, expecting = "say what to build from: a series with low and high, or values")]
pub enum BuildFrom {
    /// A series of preferred numbers between two values.
    Series {
        /// E3 to E192.
        series: SeriesName,
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
}

/// One value that there is.
#[derive(Debug, Deserialize, ToSchema)]
pub struct StockBody {
    /// In ohm or farad, above zero.
    #[schema(exclusive_minimum = 0)]
    pub value: f64,
    /// How many; as many as needed where it does not say.
    pub count: Option<u32>,
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
    /// Nothing is said of tolerances so far: null.
    pub worst_case: Option<LimitsView>,
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
}

impl From<&Share> for ShareView {
    fn from(s: &Share) -> Self {
        Self { value: s.value, power: s.watts, voltage: s.volts, current: s.amperes }
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
    /// A network as it is sent.
    #[must_use]
    pub fn of(n: &Found, kind: Kind) -> Self {
        Self {
            expression: n.tree.expression(kind),
            value: n.value,
            error: n.error,
            parts: n.shares.iter().map(ShareView::from).collect(),
            worst_case: None,
            tree: (&n.tree).into(),
        }
    }
}
