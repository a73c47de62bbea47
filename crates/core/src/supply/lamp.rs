//! A bulb in series with a set: what it passes when all is well, and what when there is a short.
//!
//! A filament's resistance rises with its volts: I ∝ V^0.55 (memory: gas-filled tungsten lamps, 0.5 to 0.6), down to a
//! cold resistance of about a thirteenth. The set is taken as a resistance; a real one draws less when it is starved
//! in parts and more in others, so the volts are a guide.

use std::sync::LazyLock;

use serde::Deserialize;

use super::{SupplyError, positive, ranged};
use crate::quantity::{Ampere, Fraction, Ohm, Volt, Watt};
use crate::source::Source;
use crate::table::rows;

/// How a filament's current follows its volts.
pub const EXPONENT: f64 = 0.55;
/// Cold against hot resistance (memory: 1/12 to 1/15).
pub const COLD: f64 = 1.0 / 13.0;
/// The share of the line that a healthy set should still see (practice: at least three quarters).
pub const HEALTHY: f64 = 0.75;

#[derive(Deserialize)]
struct Row {
    watts: f64,
    #[allow(dead_code, reason = "read so that a row without a source is refused")]
    source: Source,
}

static BULBS: LazyLock<Vec<Watt>> = LazyLock::new(|| {
    rows::<Row>("lamp_limiter.csv", include_str!("../../data/lamp_limiter.csv"))
        .into_iter()
        .map(|r| Watt::computed(r.watts))
        .collect()
});

/// What a bulb does.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Limited {
    /// The bulb, at the line's volts.
    pub bulb: Watt,
    /// What the set sees when it draws what it should.
    pub set_volts: Volt,
    /// The same as a share of the line.
    pub share: Fraction,
    /// What the bulb dissipates then: how bright it is.
    pub bulb_watts: Watt,
    /// What flows when the set is a short.
    pub short_current: Ampere,
    /// Whether the set sees enough to play.
    pub enough: bool,
}

/// What each bulb of the table does with a set of so many watts, the smallest first.
///
/// # Errors
/// [`SupplyError`] for a line or watts that are not above zero.
pub fn limiter(line: Volt, set: Watt) -> Result<Vec<Limited>, SupplyError> {
    ranged("line", line, 1.0, 1000.0)?;
    let load = line / (positive("watts", set)? / line);
    BULBS.iter().map(|bulb| of(line, load, *bulb)).collect()
}

/// The smallest bulb with which the set sees [`HEALTHY`] of its line; `None` where the table has none so large.
#[must_use]
pub fn proposed(all: &[Limited]) -> Option<&Limited> {
    all.iter().find(|l| l.enough)
}

fn of(line: Volt, load: Ohm, bulb: Watt) -> Result<Limited, SupplyError> {
    let at = in_series(line, line, bulb, load)?;
    Ok(Limited {
        bulb,
        set_volts: at.set_volts,
        share: Fraction::computed(at.set_volts / line),
        bulb_watts: at.lamp_watts,
        short_current: bulb / line,
        enough: at.set_volts >= line * HEALTHY,
    })
}

/// A bulb in series with a resistance, as it settles.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct InSeries {
    /// Across the resistance.
    pub set_volts: Volt,
    /// Through both.
    pub current: Ampere,
    /// In the bulb.
    pub lamp_watts: Watt,
}

/// What a bulb of so many watts at its `rated` volts and a resistance share of `supply`.
///
/// # Errors
/// [`SupplyError`] for volts or watts that are not above zero.
pub fn in_series(supply: Volt, rated: Volt, bulb: Watt, set: Ohm) -> Result<InSeries, SupplyError> {
    let bulb = Bulb::of(rated, bulb)?;
    // The current of the bulb rises with its volts, that of the set falls: one crossing, found by halving.
    let (mut low, mut high) = (Volt::ZERO, positive("volts", supply)?);
    for _ in 0..60 {
        let middle = (low + high) * 0.5;
        let short = set == Ohm::ZERO || bulb.current(middle) < (supply - middle) / set;
        if short { low = middle } else { high = middle }
    }
    let across = (low + high) * 0.5;
    let current = bulb.current(across);
    Ok(InSeries { set_volts: supply - across, current, lamp_watts: across * current })
}

/// A bulb: its volts, and what it draws there.
struct Bulb {
    rated: Volt,
    full: Ampere,
}

impl Bulb {
    fn of(rated: Volt, bulb: Watt) -> Result<Self, SupplyError> {
        let rated = positive("line", rated)?;
        Ok(Self { rated, full: positive("bulb", bulb)? / rated })
    }

    fn cold(&self) -> Ohm {
        self.rated / self.full * COLD
    }

    /// What it draws with so many volts across it.
    fn current(&self, across: Volt) -> Ampere {
        (self.full * (across / self.rated).powf(EXPONENT)).min(across / self.cold())
    }
}

/// The volts across a bulb that passes so many amperes: the other way round.
///
/// # Errors
/// [`SupplyError`] for a bulb of no watts or on no volts.
pub fn lamp_volts(rated: Volt, bulb: Watt, current: Ampere) -> Result<Volt, SupplyError> {
    let (bulb, i) = (Bulb::of(rated, bulb)?, current.max(Ampere::ZERO));
    Ok((rated * (i / bulb.full).powf(1.0 / EXPONENT)).max(i * bulb.cold()))
}
