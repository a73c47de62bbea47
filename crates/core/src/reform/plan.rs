//! The plan of a reform: which voltages, how long, when to go on, with which resistor, and when it is good.

use serde::{Deserialize, Serialize};

use super::ask::aim;
pub use super::ask::{Ask, Supply};
use super::refusal::{Refusal, examine};
use crate::preferred::{Series, neighbours};
use crate::quantity::{Ampere, Farad, Ohm, Second, Volt, Watt};
use crate::supply::discharge::{Danger, SAFE_VOLTS, danger, discharge};
use crate::verdict::electrolytic::leakage_limits;
use crate::verdict::{Policy, PolicyNumber};

impl Supply {
    /// What it gives into a short.
    #[must_use]
    pub fn into_short(&self) -> Option<Ampere> {
        let through = self.series.filter(|r| *r > Ohm::ZERO).map(|r| self.volts / r);
        match (through, self.limit) {
            (Some(a), Some(b)) => Some(a.min(b)),
            (a, b) => a.or(b),
        }
    }

    /// The most heat that it can put into a faulty part: a quarter of V²/R at half the volts, or what the limit lets through.
    #[must_use]
    pub fn most_heat(&self) -> Option<Watt> {
        match (self.series.filter(|r| *r > Ohm::ZERO), self.limit) {
            (None, None) => None,
            (None, Some(i)) => Some(self.volts * i),
            (Some(r), limit) => {
                // v_part (V − v_part) / R is greatest at half; a limit below that moves the point up.
                let half = self.volts / (r * 2.0);
                let i = limit.map_or(half, |i| i.min(half));
                Some(i * (self.volts - i * r))
            }
        }
    }
}

/// One voltage of the plan.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
pub struct Stage {
    /// What the supply is set to.
    pub volts: Volt,
    /// For how long at least.
    pub minimum: Second,
    /// The leakage below which it goes on.
    pub go_on_below: Ampere,
}

/// The three limits of leakage, and the one that decides.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct Acceptance {
    /// Of new parts.
    pub modern: Ampere,
    /// Of the older military specification.
    pub military: Ampere,
    /// The bench figure.
    pub bench: Ampere,
    /// The one that decides.
    pub below: Ampere,
    /// What it is called.
    pub called: String,
    /// Where the limits come from.
    pub source: String,
}

/// How the part is emptied at the end.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
pub struct Emptying {
    /// Through which resistor.
    pub resistor: Ohm,
    /// What it takes in the first moment.
    pub power: Watt,
    /// Until it is safe.
    pub time: Second,
    /// What is stored, in joule.
    pub energy_joules: f64,
}

/// A plan.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct Plan {
    /// The section's capacitance.
    pub capacitance: Farad,
    /// Its rating: no order goes beyond.
    pub rated: Volt,
    /// The voltage to be reached.
    pub aim: Volt,
    /// For how long it has lain idle, in years.
    pub idle_years: f64,
    /// The supply.
    pub supply: Supply,
    /// What flows into a short.
    pub peak_current: Ampere,
    /// What the resistor takes then; none where there is no resistor.
    pub resistor_power: Option<Watt>,
    /// The voltages, lowest first.
    pub stages: Vec<Stage>,
    /// When it is good.
    pub acceptance: Acceptance,
    /// How it is emptied.
    pub emptying: Emptying,
    /// A stage that takes longer is given up.
    pub patience: Second,
    /// Without a reading for so long the supply goes off.
    pub silence: Second,
    /// The same where a hand types the readings.
    pub silence_by_hand: Second,
    /// Where the hand goes.
    pub cautions: Vec<String>,
}

/// For how long a part counts as idle of which nobody knows (practice: old until shown otherwise).
pub const UNKNOWN_YEARS: f64 = 30.0;

/// What is counted as empty.
const SAFE: Volt = Volt::computed(SAFE_VOLTS);

/// No current of a bench supply is less: nothing is divided by nothing.
const LEAST_CURRENT: Ampere = Ampere::computed(1e-12);

/// Most stages of a plan.
const MOST_STAGES: usize = 20;

impl Plan {
    /// Makes a plan, or says what is unsafe and what would make it safe.
    ///
    /// The aim is the working voltage with the line at its highest, never more than the rating; the rating where the
    /// working voltage is not known. Each stage's threshold is its share (V / aim) of the deciding limit of R5, times
    /// the school's `reform_go_on`; the last one's is the limit itself, held for five minutes.
    ///
    /// ```
    /// use owl_core::reform::plan::{Ask, Plan, Supply};
    /// use owl_core::quantity::{Farad, Ohm, Volt};
    /// use owl_core::verdict::{Policy, School};
    /// let supply = Supply { volts: Volt::new(450.0)?, series: Some(Ohm::new(33e3)?), series_rating: None, limit: None };
    /// let ask = Ask { capacitance: Farad::new(32e-6)?, rated: Volt::new(450.0)?, working: Some(Volt::new(330.0)?),
    ///     idle_years: 12.0, section: None, supply, polarity_known: true, vented: false };
    /// let policy = Policy::of(School::TestFirst, false)?;
    /// assert_eq!(Plan::make(&ask, policy)?.aim, Volt::new(363.0)?);
    /// let far = Ask { supply: Supply { volts: Volt::new(600.0)?, ..supply }, ..ask };
    /// assert!(Plan::make(&far, policy).unwrap_err().to_string().contains("450 V"));
    /// # Ok::<(), Box<dyn std::error::Error>>(())
    /// ```
    ///
    /// # Errors
    /// [`Refusal`] with the input to blame and the remedy.
    pub fn make(ask: &Ask, policy: &Policy) -> Result<Self, Refusal> {
        examine(ask, policy)?;
        let number = |n: PolicyNumber| policy.number_si(n);
        let time = |n: PolicyNumber| policy.get::<Second>(n);
        let aim = aim(ask, policy);
        let limits = leakage_limits(ask.capacitance, ask.rated, number(PolicyNumber::BenchMaPerMicrofarad))
            .ok_or(Refusal::NoLimit)?;
        let (below, called) = limits.deciding(policy.leakage, false);
        let peak_current = ask.supply.into_short().ok_or(Refusal::NothingLimits)?;
        let stages = stages(ask, aim, below, policy);
        Ok(Self {
            capacitance: ask.capacitance,
            rated: ask.rated,
            aim,
            idle_years: ask.idle_years,
            supply: ask.supply,
            peak_current,
            resistor_power: ask.supply.series.map(|r| peak_current * (peak_current * r)),
            stages,
            acceptance: Acceptance {
                modern: limits.modern,
                military: limits.military,
                bench: limits.bench,
                below,
                called: called.to_owned(),
                source: limits.source.to_string(),
            },
            emptying: emptying(ask.capacitance, aim, time(PolicyNumber::ReformDischargeSeconds))?,
            patience: time(PolicyNumber::ReformPatienceSeconds),
            silence: time(PolicyNumber::ReformSilenceSeconds),
            silence_by_hand: time(PolicyNumber::ReformSilenceByHandSeconds),
            cautions: cautions(ask, aim),
        })
    }

    /// The longest time constant of supply and part.
    #[must_use]
    pub fn time_constant(&self) -> Second {
        let limited = self.aim / self.peak_current.max(LEAST_CURRENT) * self.capacitance;
        self.supply.series.map_or(limited, |r| (r * self.capacitance).max(limited))
    }

    /// How long the emptying takes from so many volts, through the planned resistor.
    #[must_use]
    pub fn empties_in(&self, from: Volt) -> Second {
        discharge(self.capacitance, from, self.emptying.resistor, SAFE).map_or(Second::ZERO, |d| d.time)
    }
}

fn stages(ask: &Ask, aim: Volt, limit: Ampere, policy: &Policy) -> Vec<Stage> {
    let number = |n: PolicyNumber| policy.number_si(n);
    // What was used within two years needs half as many steps (practice).
    let step = number(PolicyNumber::ReformStep) * if ask.idle_years < 2.0 { 2.0 } else { 1.0 };
    let count = ((1.0 / step).ceil() as usize).clamp(1, MOST_STAGES);
    let settle = ask.supply.series.map_or(Second::ZERO, |r| r * ask.capacitance * 5.0);
    let into_short = ask.supply.into_short().map_or(Ampere::computed(1.0), |i| i.max(LEAST_CURRENT));
    let charge = aim / into_short * ask.capacitance / count as f64;
    let least = policy.get::<Second>(PolicyNumber::ReformDwellSeconds).max(settle).max(charge);
    (1..=count)
        .map(|n| {
            let share = n as f64 / count as f64;
            let last = n == count;
            let minimum =
                if last { policy.get::<Second>(PolicyNumber::ReformHoldSeconds).max(least) } else { least };
            let threshold = limit * (share * number(PolicyNumber::ReformGoOn)).min(1.0);
            Stage {
                volts: if last { aim } else { settable(aim * share) },
                minimum: Second::computed(minimum.seconds().ceil()),
                go_on_below: if last { limit } else { two_digits(threshold) },
            }
        })
        .collect()
}

/// A voltage that a knob can be set to: whole volts, tenths below twenty.
fn settable(volts: Volt) -> Volt {
    let to = if volts < Volt::computed(20.0) { 0.1 } else { 1.0 };
    Volt::computed((volts.volts() / to).round() * to)
}

/// A threshold that can be read off a meter from across the room, not above the computed one.
fn two_digits(current: Ampere) -> Ampere {
    let unit = 10f64.powf(current.max(LEAST_CURRENT).amperes().log10().floor() - 1.0);
    Ampere::computed((current.amperes() / unit + 1e-9).floor() * unit)
}

/// A resistor of E12 that empties the part in about that time.
fn emptying(c: Farad, from: Volt, time: Second) -> Result<Emptying, Refusal> {
    let constants = (from / SAFE).max(1.1).ln();
    let wanted = time / c / constants;
    let resistor = neighbours(Series::E12, wanted.ohms()).map_or(wanted, |n| Ohm::computed(n.nearest));
    let d = discharge(c, from, resistor, SAFE).map_err(|_| Refusal::NoLimit)?;
    Ok(Emptying { resistor, power: d.peak, time: d.time, energy_joules: d.energy_joules })
}

fn cautions(ask: &Ask, aim: Volt) -> Vec<String> {
    let mut all = Vec::new();
    if aim.volts() > 60.0 {
        all.push(format!(
            "{aim} stand open on the clips. Hands off while the supply is on, one hand in the pocket."
        ));
    } else {
        all.push("Clips on and off only with the supply off and the part empty.".to_owned());
    }
    all.push(
        "Plus to plus, looked at twice. A shield over the can: never stand over it, it can burst.".to_owned(),
    );
    let energy = 0.5 * ask.capacitance.farads() * aim.volts() * aim.volts();
    if danger(aim, energy) == Danger::Kills {
        all.push(format!(
            "It holds {energy:.0} J when charged: that much can kill. A second person in the room."
        ));
    }
    if let Some(section) = &ask.section {
        all.push(format!(
            "Section {section} only: the can's other sections stay unconnected, share its minus, and are measured empty too."
        ));
    }
    all.push("Warm to the hand behind the shield, a hiss, or a rising current: stop. Local code and licensed practice come first.".to_owned());
    all
}
