//! Heaters in series across the line: the dropper, which of them do not match, and who suffers at switch-on.

use super::{Rating, SupplyError, positive};
use crate::quantity::{Ampere, Fraction, Ohm, Volt, Watt};

/// A cold heater has about a seventh of its hot resistance (memory: oxide cathodes, 6 to 8).
pub const HEATER_COLD: f64 = 1.0 / 7.0;
/// A cold lamp has about a tenth of its hot resistance (memory: tungsten in vacuum, 8 to 12).
pub const LAMP_COLD: f64 = 0.1;
/// How far the current of a heater may be off the chain's (memory: makers of series valves, 6 %).
pub const MISMATCH: f64 = 0.06;

/// One in the chain.
#[derive(Debug, Clone, PartialEq)]
pub struct Member {
    /// What it is called: a valve, a lamp.
    pub name: String,
    /// Its volts.
    pub volts: Volt,
    /// Its current.
    pub current: Ampere,
    /// Whether it is a lamp.
    pub lamp: bool,
}

/// What becomes of one in the chain.
#[derive(Debug, Clone, PartialEq)]
pub struct Fate {
    /// Its resistance when hot.
    pub hot: Ohm,
    /// Its resistance when cold.
    pub cold: Ohm,
    /// Its current against the chain's, as a fraction.
    pub mismatch: Fraction,
    /// Whether that is more than [`MISMATCH`].
    pub matches: bool,
    /// Volts across it in the first moment. A lamp that warms faster than the heaters then has the chain's whole
    /// surge: `None` for heaters.
    pub surge_volts: Option<Volt>,
    /// What goes across it, where its current is less than the chain's.
    pub shunt: Option<Ohm>,
}

/// A chain.
#[derive(Debug, Clone, PartialEq)]
pub struct Chain {
    /// The chain's current: the greatest of its members.
    pub current: Ampere,
    /// Of all members together.
    pub volts: Volt,
    /// What takes up the rest of the line; `None` where nothing is left over.
    pub dropper: Option<Ohm>,
    /// What the dropper dissipates.
    pub dropper_power: Watt,
    /// What it should be rated at.
    pub rating: Rating,
    /// What is missing to the line, where the members want more than it has; otherwise none.
    pub short_of: Option<Volt>,
    /// What flows in the first moment.
    pub surge: Ampere,
    /// In the order of the members.
    pub fates: Vec<Fate>,
}

/// The sums of a heater chain on a line.
///
/// # Errors
/// [`SupplyError`] for an empty chain or numbers that are not above zero.
pub fn chain(line: Volt, members: &[Member]) -> Result<Chain, SupplyError> {
    let line_volts = positive("line", line.volts())?;
    if members.is_empty() {
        return Err(SupplyError::NotPositive("members"));
    }
    for m in members {
        positive("volts", m.volts.volts())?;
        positive("current", m.current.amperes())?;
    }
    let volts: f64 = members.iter().map(|m| m.volts.volts()).sum();
    // Heaters set the current; a lamp of less is shunted. A chain of lamps alone goes by its greatest.
    let of = |lamps: bool| {
        members.iter().filter(|m| m.lamp == lamps).map(|m| m.current.amperes()).fold(0.0, f64::max)
    };
    let current = if of(false) > 0.0 { of(false) } else { of(true) };
    let left = line_volts - volts;
    let dropper = if left > 0.0 { left / current } else { 0.0 };
    let cold =
        |m: &Member| m.volts.volts() / m.current.amperes() * if m.lamp { LAMP_COLD } else { HEATER_COLD };
    let surge = line_volts / (dropper + members.iter().map(cold).sum::<f64>());
    // A lamp is hot in a tenth of a second, the heaters take many: it stands at its hot resistance in a chain of
    // cold ones.
    let lamps_hot: f64 =
        members.iter().map(|m| if m.lamp { m.volts.volts() / m.current.amperes() } else { cold(m) }).sum();
    let when_lit = line_volts / (dropper + lamps_hot);
    let dropper_power = Watt::new(current * current * dropper)?;
    let fates = members
        .iter()
        .map(|m| {
            let (v, i) = (m.volts.volts(), m.current.amperes());
            let mismatch = i / current - 1.0;
            Ok(Fate {
                hot: Ohm::new(v / i)?,
                cold: Ohm::new(cold(m))?,
                mismatch: Fraction::new(mismatch)?,
                matches: mismatch.abs() <= MISMATCH,
                surge_volts: m.lamp.then(|| Volt::new(when_lit * v / i)).transpose()?,
                shunt: (mismatch < -MISMATCH).then(|| Ohm::new(v / (current - i))).transpose()?,
            })
        })
        .collect::<Result<Vec<_>, SupplyError>>()?;
    Ok(Chain {
        current: Ampere::new(current)?,
        volts: Volt::new(volts)?,
        dropper: (left > 0.0).then(|| Ohm::new(dropper)).transpose()?,
        dropper_power,
        rating: Rating::of(dropper_power),
        short_of: (left < 0.0).then(|| Volt::new(-left)).transpose()?,
        surge: Ampere::new(surge)?,
        fates,
    })
}
