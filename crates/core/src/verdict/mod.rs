//! Keep, watch, replace, or measure again, and why.
//!
//! A verdict is a value: with its reasons, the rule that each rests on, that rule's source, and what would
//! change it. Nothing is judged anywhere else.

mod capacitor;
pub mod cause;
mod coil;
mod contact;
pub mod dial;
mod diode;
pub mod electrolytic;
mod finding;
mod fuse;
mod ic;
mod intermittent;
pub mod leakage;
mod loudspeaker;
pub mod number;
mod pair;
pub mod reason;
mod resistor;
pub mod school;
mod school_name;
mod signs;
pub mod threshold;
mod transistor;
pub(crate) mod valve;

pub use dial::Dial;
pub use number::PolicyNumber;
pub use reason::{Reason, Rule, StoredReason};
pub use school::{LeakageRule, LimitRule, NumberError, Policy, School, SchoolError};
pub use threshold::Threshold;

use crate::named::named;
use crate::part::{Circuit, Fact, Part, Position, Resistor, VisualSign};
use crate::quantity::{Fraction, Volt};
use crate::reading::pitfall::{Warning, pitfalls};
use crate::reading::{ReadQuantity, Reading};

named! {
    /// What to do with the part.
    "verdict" Outcome {
        /// It stays.
        Keep = "keep",
        /// It stays, and is looked at again.
        Watch = "watch",
        /// It goes.
        Replace = "replace",
        /// The readings do not decide.
        MeasureAgain = "measure again",
    }
}

impl Outcome {
    /// How much a call weighs against others: the worst decides, and what is not known yet weighs more than what is well.
    pub(crate) fn weight(self) -> u8 {
        match self {
            Self::Replace => 3,
            Self::MeasureAgain => 2,
            Self::Watch => 1,
            Self::Keep => 0,
        }
    }
}

/// The window that a part must be inside of; on its edge counts as out. In the base unit of its value.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Limits {
    /// Lower edge.
    pub low_si: f64,
    /// Upper edge.
    pub high_si: f64,
}

/// Another part of its pair or group.
#[derive(Debug, Clone, PartialEq)]
pub struct Partner {
    /// What it is called on the tray.
    pub name: String,
    /// What it measures, in the base unit of its value.
    pub measured_si: f64,
    /// What it is marked, in the base unit of its value.
    pub marked_si: f64,
    /// Of a transistor: base to emitter, where that was measured.
    pub base_volts: Option<Volt>,
}

/// All that is judged.
#[derive(Debug, Clone, Copy)]
pub struct Case<'a> {
    /// The part as marked.
    pub part: &'a Part,
    /// Where it sits, where that is known.
    pub position: Option<Position>,
    /// Its readings, oldest first.
    pub readings: &'a [Reading],
    /// The others of its pair or group that were measured.
    pub partners: &'a [Partner],
    /// What is known of the circuit round it.
    pub circuit: &'a Circuit,
    /// What is seen on it.
    pub looks: &'a [VisualSign],
}

/// A verdict with all that led to it.
#[derive(Debug, Clone, PartialEq)]
pub struct Verdict {
    /// What to do with the part.
    pub call: Outcome,
    /// How far the deciding reading is from the mark: 0.27 is 27 % high. `None` without one.
    pub deviation: Option<Fraction>,
    /// The window of the school; `None` where there is no value to be inside of.
    pub limits: Option<Limits>,
    /// Whether the meter's own uncertainty leaves no doubt.
    pub certain: bool,
    /// Which of the readings decided, counted from zero in the order given.
    pub decided_by: Option<usize>,
    /// Why, one line each, the weightiest first.
    pub reasons: Vec<Reason>,
    /// What to do next, in the order in which to do it.
    pub next: Vec<String>,
    /// Which numbers would change it, the nearest first.
    pub thresholds: Vec<Threshold>,
    /// Value, ESR and leakage against their limits.
    pub dials: Vec<Dial>,
    /// Facts of the circuit that the verdict depends on and nobody has said.
    pub asks: Vec<Fact>,
    /// Whether something has fed too much through it: then ask what.
    pub overloaded: bool,
}

/// Judges a part by a school's policy (rule R1 to R6).
#[must_use]
pub fn judge(case: Case<'_>, policy: &Policy) -> Verdict {
    let mut verdict = match case.part {
        Part::Resistor(part) => resistor::judge(case, part, policy),
        Part::Capacitor(part) => capacitor::judge(case, part, policy),
        Part::Coil(part) => coil::judge(case, part, policy),
        Part::Diode(part) => diode::judge(case, part, policy),
        Part::Transistor(part) => transistor::judge(case, part),
        Part::Ic(part) => ic::judge(case, part),
        Part::Valve(part) => valve::judge(case, part),
        Part::Fuse(part) => fuse::judge(case, part),
        Part::Switch => contact::judge(case),
        Part::Loudspeaker(part) => loudspeaker::judge(case, part),
    };
    intermittent::weigh(&mut verdict, case);
    signs::weigh(&mut verdict, case);
    verdict
}

impl Case<'_> {
    /// What stands across the part when the set runs, where that is known: as said, or at most the rail that feeds it; a
    /// test at the rail is one at the working volts (R4).
    pub(crate) fn working(&self) -> Option<Volt> {
        let rail = || {
            let rail = self.circuit.get::<Volt>(Fact::Rail)?;
            let rated = match self.part {
                Part::Capacitor(c) => c.rated,
                _ => None,
            };
            Some(rated.map_or(rail, |r| r.min(rail)))
        };
        self.circuit.get(Fact::Voltage).or_else(rail)
    }

    /// What `reading` cannot tell.
    pub(crate) fn pitfalls(&self, reading: &Reading, policy: &Policy) -> Vec<Warning> {
        let (leads, low) =
            (policy.number_si(PolicyNumber::LeadOhms), policy.number_si(PolicyNumber::LowTestVolts));
        pitfalls(self.part, self.working(), reading, leads, low)
    }

    /// The newest reading of `of` with its place in the list: one with an end free where there is one.
    pub(crate) fn newest(&self, of: ReadQuantity) -> Option<(usize, &Reading)> {
        self.newest_of(&[of])
    }

    /// The newest reading of any of `of`, which say the same thing in other units.
    pub(crate) fn newest_of(&self, of: &[ReadQuantity]) -> Option<(usize, &Reading)> {
        let all = self.readings.iter().enumerate().filter(|(_, r)| of.contains(&r.quantity));
        all.max_by_key(|(i, r)| (!r.still_connected(), *i))
    }
}

/// The window of a school round a resistor's mark.
#[must_use]
pub fn window(part: &Resistor, policy: &Policy) -> Limits {
    let t = policy.limit_for(part.tolerance_fraction());
    let v = part.value.ohms();
    Limits { low_si: (v * (1.0 - t)).max(0.0), high_si: v * (1.0 + t) }
}

/// Where a reading with its uncertainty lies against a window. Edges count as out; a part in a thousand
/// million is not a difference.
#[derive(Debug, PartialEq, Eq, Clone, Copy)]
pub(crate) enum Against {
    Below,
    Inside,
    Above,
    Straddles,
}

impl Limits {
    /// Where a band of values lies.
    pub(crate) fn against(self, (least, most): (f64, f64)) -> Against {
        let slack = 1e-9 * self.high_si;
        let (low, high) = (self.low_si + slack, self.high_si - slack);
        if least >= high {
            Against::Above
        } else if most <= low {
            Against::Below
        } else if least > low && most < high {
            Against::Inside
        } else {
            Against::Straddles
        }
    }
}
