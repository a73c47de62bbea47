//! The limits of electrolytics: losses of new parts by their rating, and three limits of leakage.

use std::sync::LazyLock;

use serde::Deserialize;

use crate::quantity::{Ampere, Farad, Fraction, Hertz, Ohm, Volt, Watt};
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

/// What is added to tan δ for each further 1,000 µF above the first (memory: general-purpose series).
const TAN_FOR_EACH: f64 = 0.02;

/// tan δ of a new general-purpose part of that capacitance and rating, at 100 or 120 Hz; `None` for no volts.
///
/// ```
/// use owl_core::quantity::{Farad, Volt};
/// use owl_core::verdict::electrolytic::tan_delta;
/// let (c, v) = (Farad::new(220e-6).unwrap(), Volt::new(25.0).unwrap());
/// assert_eq!(tan_delta(c, v).map(|t| t.fraction()), Some(0.16));
/// // 3,300 µF: two further thousands.
/// let large = tan_delta(Farad::new(3300e-6).unwrap(), v).unwrap().fraction();
/// assert!((large - 0.20).abs() < 1e-12);
/// assert_eq!(tan_delta(c, Volt::ZERO), None);
/// ```
#[must_use]
pub fn tan_delta(capacitance: Farad, rated: Volt) -> Option<Fraction> {
    let v = rated.volts();
    let row = TAN.iter().find(|r| v > r.over_volts && v <= r.to_volts)?;
    let further = (capacitance.farads() * 1e3 - 1.0).max(0.0).floor();
    Some(Fraction::computed(row.tan_delta + TAN_FOR_EACH * further))
}

#[derive(Deserialize)]
struct HighRow {
    microfarad: f64,
    low_volts_ohms: f64,
    high_volts_ohms: f64,
    source: Source,
}

static HIGH: LazyLock<Vec<HighRow>> =
    LazyLock::new(|| rows("esr_100khz.csv", include_str!("../../../data/esr_100khz.csv")));
/// Up to these volts a part is one of low volts, from the second on one of high volts; between them it is between.
const LOW_AND_HIGH: (f64, f64) = (63.0, 160.0);

/// ESR of a new general-purpose part at 100 kHz, between the rows of its own table; and where that comes from. `None`
/// where the table has nothing near.
#[must_use]
pub fn esr_100khz(capacitance: Farad, rated: Volt) -> Option<(Ohm, Source)> {
    let uf = capacitance.farads() * 1e6;
    let above = HIGH.iter().position(|r| r.microfarad >= uf * (1.0 - 1e-9))?;
    let (a, b) = (HIGH.get(above.checked_sub(1).unwrap_or(above))?, HIGH.get(above)?);
    if uf < a.microfarad * 0.4 {
        return None;
    }
    let (low, high) = LOW_AND_HIGH;
    let share = ((rated.volts() - low) / (high - low)).clamp(0.0, 1.0);
    let of = |r: &HighRow| r.low_volts_ohms + share * (r.high_volts_ohms - r.low_volts_ohms);
    let t = if a.microfarad == b.microfarad {
        0.0
    } else {
        ((uf / a.microfarad).ln() / (b.microfarad / a.microfarad).ln()).clamp(0.0, 1.0)
    };
    let ohms = (of(a).ln() * (1.0 - t) + of(b).ln() * t).exp();
    Some((Ohm::computed(ohms), b.source.clone()))
}

#[derive(Deserialize)]
struct HeatRow {
    over_uf_volts: f64,
    to_uf_volts: f64,
    watts: f64,
    #[allow(dead_code, reason = "read so that a row without a source is refused")]
    source: Source,
}

static HEAT: LazyLock<Vec<HeatRow>> =
    LazyLock::new(|| rows("can_heat.csv", include_str!("../../../data/can_heat.csv")));

/// The leakage that heats the can as far as it may be heated, whatever a rule of thumb allows.
fn heat_limit(capacitance: Farad, rated: Volt) -> Option<Ampere> {
    let size = capacitance.farads() * 1e6 * rated.volts();
    let row = HEAT.iter().find(|r| size > r.over_uf_volts && size <= r.to_uf_volts)?;
    Some(Watt::computed(row.watts) / rated)
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
    let tan = tan_delta(capacitance, rated)?.fraction();
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
    /// What heats the can as far as it may be heated: no limit that passes a part is above it.
    pub heat: Ampere,
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
        heat: heat_limit(capacitance, rated)?,
        source: Source::memory(&format!(
            "IEC 60384-4 for new parts; {}; practice for the bench figure and for what may heat a can",
            row.source.clause
        )),
    })
}

impl LeakageLimits {
    /// The one by which a school judges; a new part always by that of new parts.
    #[must_use]
    pub fn deciding(&self, rule: LeakageRule, new: bool) -> (Ampere, &'static str) {
        let later = |a: Ampere, b: Ampere| a.amperes() >= b.amperes();
        let (limit, name) = match rule {
            LeakageRule::Modern => (self.modern, "limit of new parts"),
            _ if new => (self.modern, "limit of new parts"),
            LeakageRule::OlderMilitary => (self.military, "older military limit"),
            LeakageRule::BenchOrMilitary if later(self.bench, self.military) => (self.bench, "bench figure"),
            LeakageRule::BenchOrMilitary => (self.military, "older military limit"),
        };
        if limit > self.heat { (self.heat, "heat that the can may take") } else { (limit, name) }
    }
}
