//! What can be bought: usual ratings of capacitors, registered diodes; and what rectifier valves stand.

use std::sync::LazyLock;

use serde::Deserialize;

use crate::drawers::Piece;
use crate::marking::SafetyClass;
use crate::named::{Named, named};
use crate::part::{CapacitorFamily, DiodeFamily, MadeOf, PartKind};
use crate::preferred::Series;
use crate::quantity::{Ampere, Farad, Fraction, Volt};
use crate::source::Source;
use crate::table::{rows, yes};
use crate::transistor::device::Sure;

/// A sort of capacitor as it is sold.
#[derive(Debug, Clone)]
pub(super) struct Sort {
    pub(super) family: CapacitorFamily,
    pub(super) safety: Option<SafetyClass>,
    pub(super) series: Series,
    pub(super) low: f64,
    pub(super) high: f64,
    tolerance: f64,
    pub(super) volts: Vec<f64>,
    celsius: Option<f64>,
}

#[derive(Deserialize)]
struct SortRow {
    family: CapacitorFamily,
    safety: String,
    series: Series,
    low: f64,
    high: f64,
    tolerance: f64,
    volts: String,
    celsius: Option<f64>,
    #[allow(dead_code, reason = "read so that a row without a source is refused")]
    source: Source,
}

static SORTS: LazyLock<Vec<Sort>> = LazyLock::new(|| {
    rows::<SortRow>("catalogue.csv", include_str!("../../data/catalogue.csv"))
        .into_iter()
        .map(|r| Sort {
            family: r.family,
            safety: SafetyClass::from_name(&r.safety).ok(),
            series: r.series,
            low: r.low,
            high: r.high,
            tolerance: r.tolerance,
            volts: r.volts.split_whitespace().filter_map(|v| v.parse().ok()).collect(),
            celsius: r.celsius,
        })
        .collect()
});

/// The sorts of a family, safety classes apart.
pub(super) fn sorts(
    family: CapacitorFamily,
    safety: Option<SafetyClass>,
) -> impl Iterator<Item = &'static Sort> {
    SORTS.iter().filter(move |s| s.family == family && s.safety == safety)
}

impl Sort {
    /// A piece of it.
    pub(super) fn piece(&self, farads: f64, volts: f64) -> Piece {
        Piece {
            family: Some(MadeOf::Capacitor(self.family)),
            value_si: Some(farads),
            tolerance: Fraction::new(self.tolerance).ok(),
            volts: Volt::new(volts).ok(),
            safety: self.safety,
            celsius: self.celsius,
            ..Piece::new(PartKind::Capacitor)
        }
    }
}

named! {
    /// What a diode is for.
    "diode job" DiodeJob {
        /// It carries a supply.
        Rectifier = "rectifier",
        /// It carries a signal.
        Signal = "signal",
    }
}

/// A registered diode.
#[derive(Debug, Clone, PartialEq, Deserialize)]
pub struct Device {
    /// Its type number.
    #[serde(rename = "type")]
    pub type_number: String,
    /// What it is made of.
    pub family: DiodeFamily,
    /// What it is for.
    pub job: DiodeJob,
    /// Repetitive reverse volts.
    pub reverse_volts: f64,
    /// Average forward amperes.
    pub amperes: Option<f64>,
    /// One surge of a half wave, amperes, where it is known.
    pub surge_amperes: Option<f64>,
    /// Volts at its current, where they are known.
    pub drop: Option<f64>,
    /// Whether it is fast enough for radio frequency or a switching supply.
    #[serde(deserialize_with = "yes")]
    pub fast: bool,
    /// Its registered outline; empty where it is not known.
    pub package: String,
    /// How far the row is to be trusted.
    pub sure: Sure,
    /// Where the row comes from.
    pub source: Source,
}

static DEVICES: LazyLock<Vec<Device>> =
    LazyLock::new(|| rows("diode_device.csv", include_str!("../../data/diode_device.csv")));

/// All registered diodes of the table.
#[must_use]
pub fn devices() -> &'static [Device] {
    &DEVICES
}

/// The diode of that type number; `None` where the table has none.
#[must_use]
pub fn device(type_number: &str) -> Option<&'static Device> {
    DEVICES.iter().find(|d| d.type_number.eq_ignore_ascii_case(type_number.trim()))
}

impl Device {
    /// It as a piece to buy.
    pub(super) fn piece(&self) -> Piece {
        Piece {
            family: Some(MadeOf::Diode(self.family)),
            type_number: self.type_number.clone(),
            volts: Volt::new(self.reverse_volts).ok(),
            amperes: self.amperes.and_then(|a| Ampere::new(a).ok()),
            ..Piece::new(PartKind::Diode)
        }
    }
}

/// A rectifier valve and what it stands.
#[derive(Debug, Clone, Deserialize)]
pub struct RectifierValve {
    /// Its type.
    #[serde(rename = "type")]
    pub type_number: String,
    most_microfarad: f64,
    /// Where the row comes from.
    pub source: Source,
}

impl RectifierValve {
    /// The most that its first filter may be.
    #[must_use]
    pub fn first_filter_limit(&self) -> Farad {
        Farad::new(self.most_microfarad * 1e-6).unwrap_or(Farad::ZERO)
    }
}

static VALVES: LazyLock<Vec<RectifierValve>> =
    LazyLock::new(|| rows("rectifier_valve.csv", include_str!("../../data/rectifier_valve.csv")));

/// The rectifier valve of that type; `None` where the table has none.
#[must_use]
pub fn rectifier_valve(type_number: &str) -> Option<&'static RectifierValve> {
    VALVES.iter().find(|v| v.type_number.eq_ignore_ascii_case(type_number.trim()))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_tables_are_whole() {
        assert!(SORTS.iter().all(|s| s.low < s.high && !s.volts.is_empty()));
        assert!(SORTS.iter().all(|s| s.volts.windows(2).all(|v| v[0] < v[1])));
        assert!(DEVICES.iter().all(|d| {
            let surge = d.surge_amperes.zip(d.amperes);
            d.reverse_volts > 0.0 && surge.is_none_or(|(s, a)| s > a)
        }));
        assert!(rectifier_valve("ez80").is_some() && rectifier_valve("nonesuch").is_none());
        assert!(device("1n4007").is_some_and(|d| d.reverse_volts == 1000.0));
    }
}
