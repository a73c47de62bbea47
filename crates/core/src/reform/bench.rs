//! The simulated reforming bench: a supply, an old part on its clips, and a meter with errors of its own.
//!
//! Seeded: the same seed gives the same readings. It is the only thing that the station ever drives.

use serde::{Deserialize, Serialize};

use super::aged::Aged;
use super::circuit::{Condition, Connected};
use super::plan::Plan;
use super::run::{Meter, Order};
use crate::named::named;
use crate::quantity::{Ampere, Farad, Ohm, Second, Volt};

named! {
    /// What lies on the simulated bench's clips.
    "simulated part" Clip {
        /// An old part that reforms.
        Tired = "tired",
        /// One that was used lately.
        Fresh = "fresh",
        /// One with a path in parallel that never heals.
        Leaky = "leaky",
        /// One that heats up until it breaks down.
        Dying = "dying",
        /// A short.
        Shorted = "shorted",
    }
}

named! {
    /// What can be wrong with the meter on the simulated bench.
    "meter fault" MeterFault {
        /// It says nothing.
        Silent = "silent",
        /// It shows its last reading for ever.
        Frozen = "frozen",
        /// Its leads are the wrong way round.
        Reversed = "reversed",
        /// The part breaks down.
        PartShorts = "part shorts",
    }
}

/// A fault that comes and goes.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
pub struct Fault {
    /// Which.
    pub fault: MeterFault,
    /// From when on, in second of the run.
    pub from_s: f64,
    /// Until when.
    pub to_s: f64,
}

/// The bench.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct Bench {
    /// The part as it truly is.
    pub part: Aged,
    /// How it is now.
    pub condition: Condition,
    /// Its time, in second since the run's start.
    pub now_s: f64,
    /// Where its noise comes from.
    pub seed: u64,
    /// How many readings were taken.
    readings: u64,
    /// The last reading, for a frozen meter.
    last: Option<(f64, f64)>,
    /// What goes wrong.
    pub faults: Vec<Fault>,
    /// Whether its meter is perfect.
    perfect: bool,
}

/// Noise of the meter as a share of its reading, and of its last digit.
const NOISE: f64 = 5e-4;
/// Worth of a count: volts and ampere.
const COUNTS: (f64, f64) = (0.01, 1e-7);

impl Bench {
    /// A bench with such a part on its clips, of that capacitance and rating, idle for so many years; each seed is
    /// another part of its kind.
    #[must_use]
    pub fn with(clip: Clip, capacitance: Farad, rated: Volt, idle_years: f64, seed: u64) -> Self {
        let spread = |n: u64, share: f64| 1.0 + share * noise(seed, n);
        let c = capacitance * spread(1, 0.1);
        let mut part = Aged::assumed(c, rated, idle_years);
        part.coulombs_per_volt *= spread(2, 0.3);
        part.formed = part.formed * spread(3, 0.1);
        part.parallel = part.parallel * spread(4, 0.3);
        let modern = Ampere::computed((0.01 * c.farads() * rated.volts()).max(3e-6));
        match clip {
            Clip::Tired => {}
            Clip::Fresh => part.formed = rated * 0.98,
            // Some thirty times what a new part may leak, at its rating.
            Clip::Leaky => part.parallel = rated / (modern * 30.0),
            // Its oxide does not grow: it takes the current and warms.
            Clip::Dying => {
                part.coulombs_per_volt = 0.0;
                part.warm_kelvin = 15.0;
            }
            Clip::Shorted => part.parallel = Ohm::computed(10.0),
        }
        Self::of(part, seed)
    }

    /// A bench with that very part on its clips.
    #[must_use]
    pub fn of(part: Aged, seed: u64) -> Self {
        Self {
            condition: Condition::rested(&part, Volt::ZERO),
            part,
            now_s: 0.0,
            seed,
            readings: 0,
            last: None,
            faults: vec![],
            perfect: false,
        }
    }

    /// The same with a perfect meter.
    #[must_use]
    pub fn perfect(mut self) -> Self {
        self.perfect = true;
        self
    }

    /// The part as it is at this moment, for somebody who begins here.
    #[must_use]
    pub fn beginning_at(part: Aged, condition: Condition, now_s: f64) -> Self {
        Self { condition, now_s, ..Self::of(part, 0) }.perfect()
    }

    /// Lets time pass under an order.
    pub fn pass(&mut self, plan: &Plan, order: Order, until: Second) {
        let seconds = until.seconds() - self.now_s;
        if seconds <= 0.0 {
            return;
        }
        self.condition.vented |= self.fault(MeterFault::PartShorts);
        let connected = connect(plan, order);
        self.condition = self.condition.after(&self.part, connected, Second::computed(seconds));
        self.now_s = until.seconds();
    }

    /// Reads the meter; `None` where it says nothing.
    pub fn read(&mut self, plan: &Plan, order: Order) -> Option<Meter> {
        if self.fault(MeterFault::Silent) {
            return None;
        }
        if self.fault(MeterFault::Frozen) {
            return self.last.map(|(v, i)| Meter { volts: Some(v), amperes: Some(i) });
        }
        let shows = self.condition.shows(&self.part, connect(plan, order));
        let (mut volts, mut amperes) = (shows.volts.volts(), shows.amperes.amperes());
        self.readings += 1;
        if !self.perfect {
            volts = shown(volts, COUNTS.0, noise(self.seed, 2 * self.readings), 0.2);
            amperes = shown(amperes, COUNTS.1, noise(self.seed, 2 * self.readings + 1), 2.0);
        }
        if self.fault(MeterFault::Reversed) {
            (volts, amperes) = (-volts, -amperes);
        }
        self.last = Some((volts, amperes));
        Some(Meter { volts: Some(volts), amperes: Some(amperes) })
    }

    fn fault(&self, fault: MeterFault) -> bool {
        self.faults.iter().any(|f| f.fault == fault && (f.from_s..f.to_s).contains(&self.now_s))
    }
}

/// What the order makes of the clips.
#[must_use]
pub fn connect(plan: &Plan, order: Order) -> Connected {
    match order {
        Order::Off => Connected::Nothing,
        Order::Discharge => Connected::Discharge(plan.emptying.resistor),
        Order::Feed(volts) => Connected::Supply {
            volts,
            series: plan.supply.series.unwrap_or(Ohm::ZERO),
            limit: plan.supply.limit,
        },
    }
}

/// A value with its noise, in whole counts. `least` counts of noise are there at nothing.
fn shown(value: f64, count: f64, noise: f64, least: f64) -> f64 {
    let noisy = value + noise * (value.abs() * NOISE + least * count);
    (noisy / count).round() * count
}

/// Evenly spread from −1 to 1: the n-th number of a seed (splitmix64, Steele, Lea and Flood 2014).
#[must_use]
pub fn noise(seed: u64, n: u64) -> f64 {
    let mut z = seed.wrapping_add(n.wrapping_add(1).wrapping_mul(0x9E37_79B9_7F4A_7C15));
    z = (z ^ (z >> 30)).wrapping_mul(0xBF58_476D_1CE4_E5B9);
    z = (z ^ (z >> 27)).wrapping_mul(0x94D0_49BB_1331_11EB);
    z ^= z >> 31;
    (z >> 11) as f64 / (1u64 << 53) as f64 * 2.0 - 1.0
}
