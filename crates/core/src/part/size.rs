//! Body sizes of resistors: the watts that they are sold in and the volts that one body stands.

use std::sync::LazyLock;

use serde::Deserialize;

use crate::part::Family;
use crate::quantity::{Volt, Watt};
use crate::source::Source;
use crate::table::rows;

/// One size of body.
#[derive(Debug, Clone)]
pub struct Size {
    /// Rated power.
    pub power: Watt,
    /// The highest voltage that one body of this size is used at.
    pub volts: Volt,
    /// Where the numbers come from.
    pub source: Source,
}

#[derive(Deserialize)]
struct Row {
    watts: f64,
    volts: f64,
    source: Source,
}

static SIZES: LazyLock<Vec<Size>> = LazyLock::new(|| {
    rows::<Row>("resistor_size.csv", include_str!("../../data/resistor_size.csv"))
        .into_iter()
        .map(|r| Size { power: Watt::computed(r.watts), volts: Volt::computed(r.volts), source: r.source })
        .collect()
});

/// How warm a resistor gets.
#[derive(Debug, Clone, Deserialize)]
pub struct HeatRise {
    /// How it is made.
    family: Family,
    /// Kelvin of its body over the air, at its rated watts.
    #[serde(rename = "rise")]
    pub kelvin: f64,
    /// Where that comes from.
    pub source: Source,
}

static RISES: LazyLock<Vec<HeatRise>> =
    LazyLock::new(|| rows("heat_rise.csv", include_str!("../../data/heat_rise.csv")));

/// How warm such a resistor gets at its rated watts; `None` where the table lacks it.
#[must_use]
pub fn heat_rise(family: Family) -> Option<&'static HeatRise> {
    RISES.iter().find(|r| r.family == family)
}

/// All sizes, smallest first.
#[must_use]
pub fn sizes() -> &'static [Size] {
    &SIZES
}

/// The smallest size of at least `power`; `None` above the largest.
#[must_use]
pub fn at_least(power: Watt) -> Option<&'static Size> {
    SIZES.iter().find(|s| s.power.watts() >= power.watts() * (1.0 - 1e-9))
}

/// The next size above `power`, which is how wattage is chosen for life (practice).
#[must_use]
pub fn one_up(power: Watt) -> Option<&'static Size> {
    SIZES.iter().find(|s| s.power.watts() > power.watts() * (1.0 + 1e-9))
}
