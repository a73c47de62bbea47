//! A bulb in series with a set: what it passes when all is well, and what when there is a short.
//!
//! A filament's resistance rises with its volts: I ∝ V^0.55 (memory: gas-filled tungsten lamps, 0.5 to 0.6), down to a
//! cold resistance of about a thirteenth. The set is taken as a resistance; a real one draws less when it is starved
//! in parts and more in others, so the volts are a guide.

use std::sync::LazyLock;

use serde::Deserialize;

use super::{SupplyError, positive, ranged};
use crate::quantity::{Ampere, Fraction, Volt, Watt};
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

static BULBS: LazyLock<Vec<f64>> = LazyLock::new(|| {
    rows::<Row>("lamp_limiter.csv", include_str!("../../data/lamp_limiter.csv"))
        .into_iter()
        .map(|r| r.watts)
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
    let v = ranged("line", line.volts(), 1.0, 1000.0)?;
    let w = positive("watts", set.watts())?;
    let load = v * v / w;
    BULBS.iter().map(|bulb| of(v, load, *bulb)).collect()
}

/// The smallest bulb with which the set sees [`HEALTHY`] of its line; `None` where the table has none so large.
#[must_use]
pub fn proposed(all: &[Limited]) -> Option<&Limited> {
    all.iter().find(|l| l.enough)
}

fn of(line: f64, load: f64, bulb: f64) -> Result<Limited, SupplyError> {
    let full = bulb / line;
    // The current of the bulb rises with its volts, that of the set falls: one crossing, found by halving.
    let filament = |v: f64| {
        let hot = full * (v / line).powf(EXPONENT);
        hot.min(v / (line / full * COLD))
    };
    let (mut low, mut high) = (0.0, line);
    for _ in 0..60 {
        let middle = 0.5 * (low + high);
        if filament(middle) < (line - middle) / load { low = middle } else { high = middle }
    }
    let across = 0.5 * (low + high);
    let set = line - across;
    Ok(Limited {
        bulb: Watt::new(bulb)?,
        set_volts: Volt::new(set)?,
        share: Fraction::new(set / line)?,
        bulb_watts: Watt::new(across * set / load)?,
        short_current: Ampere::new(full)?,
        enough: set >= HEALTHY * line,
    })
}
