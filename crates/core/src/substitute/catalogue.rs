//! What can be bought: usual ratings of capacitors, registered diodes as pieces; and what rectifier valves stand.

use std::sync::LazyLock;

use serde::Deserialize;

use crate::drawers::Piece;
use crate::named::Named;
use crate::part::circuit::CircuitError;
use crate::part::{CapacitorFamily, Circuit, Fact, MadeOf, PartKind, SafetyClass};
use crate::preferred::Series;
use crate::quantity::{Ampere, Farad, Fraction, Volt};
use crate::source::Source;
use crate::table::rows;
use crate::transistor::diode_device::Device;

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
            tolerance: Some(Fraction::computed(self.tolerance)),
            volts: Some(Volt::computed(volts)),
            safety: self.safety,
            celsius: self.celsius,
            ..Piece::new(PartKind::Capacitor)
        }
    }
}

/// A registered diode as a piece to buy.
pub(super) fn diode_piece(d: &Device) -> Piece {
    Piece {
        family: Some(MadeOf::Diode(d.family)),
        type_number: d.type_number.clone(),
        volts: Some(Volt::computed(d.reverse_volts)),
        amperes: d.amperes.map(Ampere::computed),
        ..Piece::new(PartKind::Diode)
    }
}

/// A rectifier valve and what it stands.
#[derive(Debug, Clone, Deserialize)]
pub struct RectifierValve {
    /// Its type.
    #[serde(rename = "type")]
    pub type_number: String,
    most_microfarad: f64,
    plates: u8,
    peak_amperes: Option<f64>,
    #[serde(deserialize_with = "crate::table::yes")]
    slow: bool,
    /// Where the row comes from.
    pub source: Source,
}

impl RectifierValve {
    /// The most that its first filter may be.
    #[must_use]
    pub fn first_filter_limit(&self) -> Farad {
        Farad::computed(self.most_microfarad * 1e-6)
    }

    /// Takes what was known of a rectifier valve out of the facts: another one is said.
    pub fn forget(circuit: &mut Circuit) {
        for fact in [Fact::FirstFilterLimit, Fact::RectifierPlates, Fact::RectifierSurge, Fact::RectifierPeak]
        {
            circuit.forget(fact);
        }
    }

    /// All that is known of it, as facts of the circuit round its first filter, in place of what was known of another.
    ///
    /// # Errors
    /// None that a row of the table can make.
    pub fn tell(&self, circuit: &mut Circuit) -> Result<(), CircuitError> {
        Self::forget(circuit);
        circuit.set_si(Fact::FirstFilterLimit, self.first_filter_limit().farads())?;
        circuit.set_si(Fact::RectifierPlates, f64::from(self.plates))?;
        circuit.set_si(Fact::RectifierSurge, if self.slow { 0.0 } else { 1.0 })?;
        self.peak_amperes.map_or(Ok(()), |peak| circuit.set_si(Fact::RectifierPeak, peak))
    }
}

static VALVES: LazyLock<Vec<RectifierValve>> =
    LazyLock::new(|| rows("rectifier_valve.csv", include_str!("../../data/rectifier_valve.csv")));

/// The rectifier valve of that type; `None` where the table has none.
#[must_use]
pub fn rectifier_valve(type_number: &str) -> Option<&'static RectifierValve> {
    let called = type_number.trim().to_ascii_uppercase();
    let exact = VALVES.iter().find(|v| v.type_number == called);
    exact.or_else(|| VALVES.iter().find(|v| plain(&v.type_number) == plain(&called)))
}

/// A valve's number without the letters behind it that speak of its glass, base and test: 5U4, 5U4G and 5U4GB are one.
/// European numbers end in a figure, and 83 and 83V are two.
fn plain(called: &str) -> &str {
    let american = called.starts_with(|c: char| c.is_ascii_digit());
    let stem = called.trim_end_matches(['G', 'T', 'A', 'B', 'M', '/']);
    if american && stem.len() > 2 { stem } else { called }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_tables_are_whole() {
        assert!(SORTS.iter().all(|s| s.low < s.high && !s.volts.is_empty()));
        assert!(SORTS.iter().all(|s| s.volts.windows(2).all(|v| v[0] < v[1])));
        assert!(rectifier_valve("ez80").is_some() && rectifier_valve("nonesuch").is_none());
        for (said, row) in
            [("5u4g", "5U4GB"), ("5Y3", "5Y3GT"), ("25Z6GT", "25Z6"), ("83V", "83V"), ("80", "80")]
        {
            assert_eq!(rectifier_valve(said).map(|v| v.type_number.as_str()), Some(row), "{said}");
        }
        assert!(rectifier_valve("83").is_none(), "a mercury valve is not the vacuum one");
    }
}
