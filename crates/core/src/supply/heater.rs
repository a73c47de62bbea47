//! Heaters in series across the line: the dropper, which of them do not match, and who suffers at switch-on.

use serde::{Deserialize, Serialize};

use super::barretter::Barretter;
use super::{Rating, SupplyError, positive};
use crate::quantity::format::percent;
use crate::quantity::{Ampere, Fraction, Ohm, Volt, Watt};

/// A cold heater has about a seventh of its hot resistance (memory: oxide cathodes, 6 to 8).
pub const HEATER_COLD: f64 = 1.0 / 7.0;
/// A cold lamp has about a tenth of its hot resistance (memory: tungsten in vacuum, 8 to 12).
pub const LAMP_COLD: f64 = 0.1;
/// How far the current of a heater may be off the chain's (memory: makers of series valves, 6 %).
pub const MISMATCH: f64 = 0.06;

/// How the volts of a heater or a lamp follow its current: V ∝ I^(5/3), as tungsten radiates and resists (memory: its current
/// goes with the 0.6th power of its volts).
pub const EXPONENT: f64 = 5.0 / 3.0;
/// How the light of a lamp follows its volts (memory: exponents of 3.4 to 3.6).
pub const LIGHT: f64 = 3.4;
/// How far the volts of a heater may be off (memory: makers of valves, 10 %).
pub const VOLTS_OFF: f64 = 0.1;

/// One in the chain.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
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

/// A chain as a lamp in it sees it while the heaters are cold: what dies at switch-on is the lamp that is hot before them.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct AroundALamp {
    /// The line.
    pub line: Volt,
    /// All the others while they are cold.
    pub cold: Ohm,
    /// What takes up the rest of the line.
    pub ballast: Ballast,
    /// What the chain carries at work.
    pub current: Ampere,
}

impl AroundALamp {
    /// The chain round one of its lamps, or round one more where `at` is none of its members. A chain of which the ballast is
    /// not known is taken as it should be; `None` for one without members.
    #[must_use]
    pub fn of(line: Volt, members: &[Member], at: Option<usize>, ballast: Option<Ballast>) -> Option<Self> {
        let whole = chain(line, members).ok()?;
        let ballast = ballast.unwrap_or(Ballast::Resistor(whole.dropper.unwrap_or(Ohm::ZERO)));
        let others = members.iter().enumerate().filter(|(i, _)| Some(*i) != at);
        // A lamp warms as fast as this one does, and is hot beside it.
        let cold = others.fold(Ohm::ZERO, |sum, (_, m)| sum + if m.lamp { m.hot() } else { m.cold() });
        Some(Self { line, cold, ballast, current: whole.current })
    }

    /// The volts across a lamp of that rating while the heaters are cold.
    #[must_use]
    pub fn surge(&self, volts: Volt, current: Ampere) -> Volt {
        let hot = volts / current;
        self.ballast.passes(self.line, self.cold + hot) * hot
    }
}

/// What takes up the rest of the line in a chain that is there.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Ballast {
    /// A dropper, a ballast or a resistance cord.
    Resistor(Ohm),
    /// A barretter: it holds the current while its volts are within its range.
    Barretter(Barretter),
}

impl Ballast {
    /// What flows through it and so many ohms on a line. A barretter warms before the heaters do (memory: an iron wire in
    /// hydrogen, a second or two), and beyond its range it is the resistance that it has at that end.
    #[must_use]
    pub fn passes(self, line: Volt, others: Ohm) -> Ampere {
        let behind = |r: Ohm| line / (r + others);
        match self {
            Self::Resistor(r) => behind(r),
            Self::Barretter(b) => {
                let left = line - b.current * others;
                if left < b.least {
                    behind(b.least / b.current)
                } else if left > b.most {
                    behind(b.most / b.current)
                } else {
                    b.current
                }
            }
        }
    }
}

impl std::fmt::Display for Ballast {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        match self {
            Self::Resistor(r) => r.fmt(f),
            Self::Barretter(b) => write!(f, "barretter {b}"),
        }
    }
}

/// A chain as it settles with the ballast that is there.
#[derive(Debug, Clone, PartialEq)]
pub struct Settled {
    /// What flows.
    pub current: Ampere,
    /// What the heaters want.
    pub wanted: Ampere,
    /// Across the ballast.
    pub ballast_volts: Volt,
    /// Across each member, in their order.
    pub volts: Vec<Volt>,
    /// Of a barretter: whether it holds, its volts being within its range.
    pub held: Option<bool>,
}

impl Settled {
    /// How far the current is off what the heaters want, as a fraction.
    #[must_use]
    pub fn off(&self) -> f64 {
        self.current / self.wanted - 1.0
    }

    /// The volts of a member against its own; `None` where there is no such member.
    #[must_use]
    pub fn share(&self, members: &[Member], at: usize) -> Option<Fraction> {
        let (volts, member) = self.volts.get(at).zip(members.get(at))?;
        Some(Fraction::computed(*volts / member.volts))
    }

    fn shares(&self, members: &[Member]) -> Vec<f64> {
        (0..members.len()).filter_map(|i| self.share(members, i)).map(Fraction::fraction).collect()
    }

    /// Whether all of them are within what heaters bear, lamps among them: a lamp lives by its volts as well.
    #[must_use]
    pub fn is_good(&self, members: &[Member]) -> bool {
        self.shares(members).iter().all(|s| (s - 1.0).abs() <= VOLTS_OFF)
    }

    /// What that means, in a sentence: why all glow dim, or what dies soon.
    #[must_use]
    pub fn says(&self, members: &[Member]) -> String {
        let shares = self.shares(members);
        let lamp = members.iter().zip(&shares).find(|(m, _)| m.lamp);
        let light =
            lamp.map(|(m, s)| format!("; {} gives {:.0} % of its light", m.name, 100.0 * s.powf(LIGHT)));
        let light = light.unwrap_or_default();
        let blame = match self.held {
            None => [
                "the ballast is for a lower line, or shorted",
                "the ballast is set for a higher line, or has too many ohms",
            ],
            Some(true) => [
                "the barretter holds more than the chain wants",
                "the barretter holds less than the chain wants",
            ],
            Some(false) => [
                "the barretter is above its range and holds no more",
                "the barretter is below its range: it needs more volts",
            ],
        };
        let heaters = members.iter().zip(&shares).filter(|(m, _)| !m.lamp).map(|(_, s)| *s);
        let (low, high) = heaters.fold((f64::INFINITY, 0.0_f64), |(l, h), s| (l.min(s), h.max(s)));
        if high > 1.0 + VOLTS_OFF {
            let most = percent(high);
            format!("a heater stands at {most} of its volts and does not last: {}{light}", blame[0])
        } else if low < 1.0 - VOLTS_OFF {
            let least = percent(low);
            format!("a heater stands at {least} of its volts: all glow dim; {}{light}", blame[1])
        } else {
            let range = if self.held == Some(false) { "; the barretter is out of its range" } else { "" };
            format!("the heaters are within {} of their volts{range}{light}", percent(VOLTS_OFF))
        }
    }
}

/// How a chain settles on a line with the ballast that is there.
///
/// # Errors
/// [`SupplyError`] for an empty chain or numbers that are not above zero.
pub fn settled(line: Volt, members: &[Member], ballast: Ballast) -> Result<Settled, SupplyError> {
    let wanted = chain(line, members)?.current;
    let across = |m: &Member, i: Ampere| m.volts * (i / m.current).powf(EXPONENT);
    let all = |i: Ampere| members.iter().fold(Volt::ZERO, |sum, m| sum + across(m, i));
    let with = |r: Ohm| {
        // The chain's volts rise with the current: one crossing, found by halving. More than three times what is wanted
        // flows in no chain that is whole for long.
        let (mut low, mut high) = (Ampere::ZERO, wanted * 3.0);
        for _ in 0..60 {
            let middle = (low + high) * 0.5;
            if all(middle) + middle * r < line { low = middle } else { high = middle }
        }
        (low + high) * 0.5
    };
    let (current, held) = match ballast {
        Ballast::Resistor(r) => (with(r), None),
        Ballast::Barretter(b) => {
            let current = positive("barretter", b.current)?;
            let left = line - all(current);
            if left < b.least {
                (with(b.least / current), Some(false))
            } else if left > b.most {
                (with(b.most / current), Some(false))
            } else {
                (current, Some(true))
            }
        }
    };
    let volts: Vec<Volt> = members.iter().map(|m| across(m, current)).collect();
    let ballast_volts = line - all(current);
    Ok(Settled { current, wanted, ballast_volts, volts, held })
}
