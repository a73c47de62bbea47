//! The limits of electrolytics: losses of new parts by their rating, and three limits of leakage.

use std::sync::LazyLock;

use serde::Deserialize;

use crate::quantity::{Ampere, Farad, Fraction, Hertz, Ohm, Volt};
use crate::source::Source;
use crate::table::rows;
use crate::verdict::{LeakageRule, Rule};

/// The least leakage that any part may have, in ampere (IEC 60384-4: memory).
const LEAST_LEAKAGE: f64 = 3e-6;

#[derive(Deserialize)]
struct TanRow {
    over_volts: f64,
    to_volts: f64,
    tan_delta: f64,
    source: Source,
}

#[derive(Deserialize)]
struct MilitaryRow {
    over_volts: f64,
    to_volts: f64,
    per_microfarad_ma: f64,
    plus_ma: f64,
    source: Source,
}

static TAN: LazyLock<Vec<TanRow>> =
    LazyLock::new(|| rows("tan_delta.csv", include_str!("../../../data/tan_delta.csv")));
static MILITARY: LazyLock<Vec<MilitaryRow>> =
    LazyLock::new(|| rows("military_leakage.csv", include_str!("../../../data/military_leakage.csv")));

/// tan δ of a new general-purpose part of that rating, at 100 or 120 Hz; `None` for no volts.
///
/// ```
/// use owl_core::quantity::Volt;
/// use owl_core::verdict::electrolytic::tan_delta;
/// assert_eq!(tan_delta(Volt::new(25.0).unwrap()).map(|t| t.fraction()), Some(0.16));
/// assert_eq!(tan_delta(Volt::ZERO), None);
/// ```
#[must_use]
pub fn tan_delta(rated: Volt) -> Option<Fraction> {
    let v = rated.volts();
    let row = TAN.iter().find(|r| v > r.over_volts && v <= r.to_volts)?;
    Some(Fraction::computed(row.tan_delta))
}

/// Where the limits of losses for a rating come from.
pub(super) fn losses_source(rated: Volt) -> Source {
    let v = rated.volts();
    let row = TAN.iter().find(|r| v > r.over_volts && v <= r.to_volts);
    row.map_or_else(|| Rule::Electrolytic.source(), |r| r.source.clone())
}

/// The ESR that passes: `factor` × tan δ / (2π f C). `None` without volts, frequency or capacitance.
#[must_use]
pub fn esr_limit(capacitance: Farad, rated: Volt, at: Hertz, factor: f64) -> Option<Ohm> {
    let tan = tan_delta(rated)?.fraction();
    (capacitance > Farad::ZERO && at > Hertz::ZERO).then(|| capacitance.reactance(at) * (factor * tan))
}

/// The three leakage limits of a part.
#[derive(Debug, Clone, PartialEq)]
pub struct LeakageLimits {
    /// Of a new part: 0.01 · C · V, not below 3 µA, after five minutes at rated voltage (IEC 60384-4: memory).
    pub modern: Ampere,
    /// Of the older military specification: k · C + 0.3 mA (memory).
    pub military: Ampere,
    /// The bench figure: 8 µF about 1 mA (practice).
    pub bench: Ampere,
    /// Where they come from.
    pub source: Source,
}

/// The three limits for a capacitance and a rating. `bench_ma_per_microfarad` is the policy's bench figure.
#[must_use]
pub fn leakage_limits(
    capacitance: Farad,
    rated: Volt,
    bench_ma_per_microfarad: f64,
) -> Option<LeakageLimits> {
    let (uf, v) = (capacitance.farads() * 1e6, rated.volts());
    let row = MILITARY.iter().find(|r| v > r.over_volts && v <= r.to_volts)?;
    let military = (row.per_microfarad_ma * uf + row.plus_ma) / 1000.0;
    Some(LeakageLimits {
        modern: Ampere::computed((0.01 * uf * v * 1e-6).max(LEAST_LEAKAGE)),
        military: Ampere::computed(military),
        bench: Ampere::computed(bench_ma_per_microfarad * uf / 1000.0),
        source: Source::memory(&format!(
            "IEC 60384-4 for new parts; {}; practice for the bench figure",
            row.source.clause
        )),
    })
}

impl LeakageLimits {
    /// The one by which a school judges; a new part always by that of new parts.
    #[must_use]
    pub fn deciding(&self, rule: LeakageRule, new: bool) -> (Ampere, &'static str) {
        let later = |a: Ampere, b: Ampere| a.amperes() >= b.amperes();
        match rule {
            LeakageRule::Modern => (self.modern, "limit of new parts"),
            _ if new => (self.modern, "limit of new parts"),
            LeakageRule::OlderMilitary => (self.military, "older military limit"),
            LeakageRule::BenchOrMilitary if later(self.bench, self.military) => (self.bench, "bench figure"),
            LeakageRule::BenchOrMilitary => (self.military, "older military limit"),
        }
    }
}
