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

impl Member {
    fn hot(&self) -> Ohm {
        self.volts / self.current
    }

    fn cold(&self) -> Ohm {
        self.hot() * if self.lamp { LAMP_COLD } else { HEATER_COLD }
    }
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
    positive("line", line)?;
    if members.is_empty() {
        return Err(SupplyError::NotPositive("members"));
    }
    for m in members {
        positive("volts", m.volts)?;
        positive("current", m.current)?;
    }
    let volts = members.iter().fold(Volt::ZERO, |sum, m| sum + m.volts);
    // Heaters set the current; a lamp of less is shunted. A chain of lamps alone goes by its greatest.
    let of = |lamps: bool| {
        members.iter().filter(|m| m.lamp == lamps).map(|m| m.current).fold(Ampere::ZERO, Ampere::max)
    };
    let current = if of(false) > Ampere::ZERO { of(false) } else { of(true) };
    let left = line - volts;
    let dropper = if left > Volt::ZERO { left / current } else { Ohm::ZERO };
    let all = |of: &dyn Fn(&Member) -> Ohm| members.iter().fold(dropper, |sum, m| sum + of(m));
    let surge = line / all(&Member::cold);
    // A lamp is hot in a tenth of a second, the heaters take many: it stands at its hot resistance in a chain of
    // cold ones.
    let when_lit = line / all(&|m| if m.lamp { m.hot() } else { m.cold() });
    let dropper_power = current * dropper * current;
    let fates = members
        .iter()
        .map(|m| {
            let mismatch = m.current / current - 1.0;
            Fate {
                hot: m.hot(),
                cold: m.cold(),
                mismatch: Fraction::computed(mismatch),
                matches: mismatch.abs() <= MISMATCH,
                surge_volts: m.lamp.then(|| when_lit * m.hot()),
                shunt: (mismatch < -MISMATCH).then(|| m.volts / (current - m.current)),
            }
        })
        .collect();
    Ok(Chain {
        current,
        volts,
        dropper: (left > Volt::ZERO).then_some(dropper),
        dropper_power,
        rating: Rating::of(dropper_power),
        short_of: (left < Volt::ZERO).then(|| -left),
        surge,
        fates,
    })
}
