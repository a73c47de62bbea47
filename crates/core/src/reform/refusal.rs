//! What is not reformed, why, and what would make it safe.

use super::ask::{Ask, aim};
use crate::part::{CapacitorFamily, Part, PartKind, VisualSign};
use crate::quantity::{Ampere, Farad, Ohm, Volt, Watt};
use crate::verdict::electrolytic::leakage_limits;
use crate::verdict::{Outcome, Policy, PolicyNumber};

/// Why there is no plan.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
pub enum Refusal {
    /// No capacitance, or one that no electrolytic has.
    #[error("{0} is no electrolytic to be reformed: 0.1 µF to 0.1 F are")]
    Capacitance(Farad),
    /// No rating, or one that no electrolytic has.
    #[error("a rating of {0} is none of an electrolytic: 3 V to 700 V are")]
    Rated(Volt),
    /// The place asks for more than the part has.
    #[error("{working} work across it and it is rated {rated}: it cannot stay there; choose a substitute")]
    Overworked {
        /// In its place.
        working: Volt,
        /// Its rating.
        rated: Volt,
    },
    /// Years below zero or beyond all electrolytics.
    #[error("0 to 120 years idle are possible")]
    Idle,
    /// A supply of no volts.
    #[error("the supply's highest setting must be above zero")]
    SupplyVolts,
    /// A supply that can go beyond the rating.
    #[error(
        "{supply} would stand on a part for {rated} as soon as it leaks no more; set the supply so that it cannot go above {rated}"
    )]
    AboveRating {
        /// The supply.
        supply: Volt,
        /// The rating.
        rated: Volt,
    },
    /// A supply that does not reach the place's voltage.
    #[error(
        "the supply reaches {supply} and {needed} are needed to prove it in its place; take a supply that gives {needed}"
    )]
    TooLow {
        /// The supply.
        supply: Volt,
        /// Needed.
        needed: Volt,
    },
    /// Nothing that limits the current.
    #[error(
        "nothing limits the current: put a resistor of {resistor} or more in series, or set a limit of {limit} or less"
    )]
    NothingLimitsAt {
        /// What would do.
        resistor: Ohm,
        /// What would do.
        limit: Ampere,
    },
    /// The same where nothing can be proposed.
    #[error("nothing limits the current: put a resistor in series or set a limit")]
    NothingLimits,
    /// A current that would heat a faulty part.
    #[error(
        "a faulty part would be heated with {heat}; {most} may be: put {resistor} or more in series, or set a limit of {limit} or less"
    )]
    TooMuchHeat {
        /// With what.
        heat: Watt,
        /// What may be.
        most: Watt,
        /// What would do.
        resistor: Ohm,
        /// What would do.
        limit: Ampere,
    },
    /// So little current that nothing would ever be formed.
    #[error(
        "at most {most} flow and it may leak {limit} when it is good: it would never get there; take {resistor} or less, or a higher limit"
    )]
    TooLittle {
        /// What flows.
        most: Ampere,
        /// The limit of leakage.
        limit: Ampere,
        /// What would do.
        resistor: Ohm,
    },
    /// A resistor that would burn at a shorted part.
    #[error(
        "the resistor would burn: {power} in it when the part is shorted, and it is rated {rating}; take one of {needed} or set a limit of {limit} or less"
    )]
    WouldBurn {
        /// What it takes.
        power: Watt,
        /// Its rating.
        rating: Watt,
        /// What would do.
        needed: Watt,
        /// What would do.
        limit: Ampere,
    },
    /// Plus and minus are not known.
    #[error(
        "which end is plus is not known: reversed it heats and bursts. Find the marking, or the sheet's, before it is connected"
    )]
    Polarity,
    /// It has vented.
    #[error("it has vented or bulges: it is not reformed. Replace it")]
    Vented,
    /// No limit of leakage is known for such a part.
    #[error("no limit of leakage is known for such a part")]
    NoLimit,
}

impl Refusal {
    /// The input to blame.
    #[must_use]
    pub fn input(&self) -> &'static str {
        match self {
            Self::Capacitance(_) => "capacitance",
            Self::Rated(_) | Self::NoLimit => "rated",
            Self::Overworked { .. } => "working",
            Self::Idle => "idle_years",
            Self::SupplyVolts | Self::AboveRating { .. } | Self::TooLow { .. } => "supply.voltage",
            Self::NothingLimitsAt { .. }
            | Self::NothingLimits
            | Self::TooMuchHeat { .. }
            | Self::TooLittle { .. } => "supply.series",
            Self::WouldBurn { .. } => "supply.series_power",
            Self::Polarity => "polarity_known",
            Self::Vented => "vented",
        }
    }
}

/// Why a part is not for the reforming bench at all, by its kind and by what is seen on it; `None` where it is.
#[must_use]
pub fn unfit(part: Option<&Part>, looks: &[VisualSign]) -> Option<String> {
    let Some(Part::Capacitor(c)) = part else {
        return Some("only a capacitor whose value is known is reformed".to_owned());
    };
    match c.family {
        Some(CapacitorFamily::Electrolytic) => {}
        Some(other) => return Some(format!("{other} has no oxide to be reformed")),
        None => return Some("say first that it is an electrolytic".to_owned()),
    }
    is_finished(looks).then(|| "vented: refused, replace".to_owned())
}

/// Whether a look condemns an electrolytic whatever it reads.
#[must_use]
pub fn is_finished(looks: &[VisualSign]) -> bool {
    looks.iter().filter_map(|l| l.on(PartKind::Capacitor)).any(|m| m.call == Outcome::Replace)
}

/// Refuses what is unsafe.
pub(super) fn examine(ask: &Ask, policy: &Policy) -> Result<(), Refusal> {
    if ask.vented {
        return Err(Refusal::Vented);
    }
    if !ask.polarity_known {
        return Err(Refusal::Polarity);
    }
    if !(1e-7..=0.1).contains(&ask.capacitance.farads()) {
        return Err(Refusal::Capacitance(ask.capacitance));
    }
    if !(3.0..=700.0).contains(&ask.rated.volts()) {
        return Err(Refusal::Rated(ask.rated));
    }
    if !(0.0..=120.0).contains(&ask.idle_years) {
        return Err(Refusal::Idle);
    }
    if let Some(working) = ask.working
        && (working > ask.rated || working <= Volt::ZERO)
    {
        return Err(Refusal::Overworked { working, rated: ask.rated });
    }
    volts_fit(ask, policy)?;
    current_fits(ask, policy)
}

fn volts_fit(ask: &Ask, policy: &Policy) -> Result<(), Refusal> {
    let supply = ask.supply.volts;
    if supply <= Volt::ZERO {
        return Err(Refusal::SupplyVolts);
    }
    if supply.volts() > ask.rated.volts() * (1.0 + 1e-9) {
        return Err(Refusal::AboveRating { supply, rated: ask.rated });
    }
    let needed = aim(ask, policy);
    if supply.volts() < needed.volts() * (1.0 - 1e-9) {
        return Err(Refusal::TooLow { supply, needed });
    }
    Ok(())
}

fn current_fits(ask: &Ask, policy: &Policy) -> Result<(), Refusal> {
    let supply = ask.supply;
    let limits =
        leakage_limits(ask.capacitance, ask.rated, policy.number_si(PolicyNumber::BenchMaPerMicrofarad))
            .ok_or(Refusal::NoLimit)?;
    let good = limits.deciding(policy.leakage, false).0;
    let v = supply.volts.volts();
    // A part that is just good may leak more than that in watts: then twice as much.
    let most = policy.number_si(PolicyNumber::ReformHeatWatts).max(2.0 * good.amperes() * v);
    // V²/4R and V·I, the worst that each alone lets into a part.
    let resistor = rounded_up(v * v / (4.0 * most));
    let limit = Ampere::computed(most / v);
    let Some(heat) = supply.most_heat() else {
        return Err(
            resistor.map_or(Refusal::NothingLimits, |resistor| Refusal::NothingLimitsAt { resistor, limit })
        );
    };
    let Some(short) = supply.into_short().filter(|i| *i > Ampere::ZERO) else {
        return Err(Refusal::NothingLimits);
    };
    if let Some(resistor) = resistor.filter(|_| heat.watts() > most * (1.0 + 1e-9)) {
        return Err(Refusal::TooMuchHeat { heat, most: Watt::computed(most), resistor, limit });
    }
    if let (Some(r), Some(rating)) = (supply.series, supply.series_rating) {
        let power = short * (short * r);
        if power > rating {
            let limit = Ampere::computed((rating.watts() / r.ohms()).sqrt());
            let needed = crate::part::size::at_least(power).map_or(power, |s| s.power);
            return Err(Refusal::WouldBurn { power, rating, needed, limit });
        }
    }
    // What flows at the last stage must leave room to tell a good part from a bad one.
    if short < good * 1.5 {
        let resistor = supply.volts / (good * 1.5);
        return Err(Refusal::TooLittle { most: short, limit: good, resistor });
    }
    Ok(())
}

/// The next value of E12 that is not below.
fn rounded_up(ohms: f64) -> Option<Ohm> {
    crate::preferred::neighbours(crate::preferred::Series::E12, ohms).map(|n| Ohm::computed(n.above))
}
