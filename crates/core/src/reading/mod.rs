//! What a meter said, in what state the part was, and how far the meter is to be believed.

pub mod doubt;
pub mod meter;

use crate::named::named;
use crate::quantity::{Fraction, Ohm, Second};

pub use meter::Meter;

named! {
    /// How the part sat when it was measured.
    "state" State {
        /// Both ends still connected.
        InCircuit = "in circuit",
        /// One end free: unsoldered, its valve pulled, or a capacitor blocks it.
        Lifted = "lifted",
        /// Out of the set.
        OutOfCircuit = "out of circuit",
    }
}

named! {
    /// How the meter measures.
    "mode" Mode {
        /// With direct current.
        Dc = "dc",
        /// With alternating current.
        Ac = "ac",
    }
}

named! {
    /// What can be read of a part.
    "read quantity" ReadQuantity {
        /// In ohm.
        Resistance = "resistance",
    }
}

/// What the meter showed.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Shown {
    /// A value.
    Value(Ohm),
    /// Beyond the meter's range, which ends at the given value where it is known.
    Overrange {
        /// The most that the meter can show.
        ceiling: Option<Ohm>,
    },
}

/// The uncertainty of a meter at one reading: ±(`of_reading` + `counts` × `resolution`).
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Accuracy {
    /// Share of the reading.
    pub of_reading: Fraction,
    /// Counts in the last digit; zero or more.
    pub counts: f64,
    /// What one count is worth.
    pub resolution: Ohm,
}

impl Accuracy {
    /// The least and the most, in ohm, that the part may have if the meter shows `value`.
    #[must_use]
    pub fn band(&self, value: Ohm) -> (Ohm, Ohm) {
        let v = value.ohms();
        let half = v * self.of_reading.fraction().abs() + self.counts.abs() * self.resolution.ohms();
        let ohm = |x: f64| Ohm::new(x.max(0.0)).unwrap_or(value);
        (ohm(v - half), ohm(v + half))
    }
}

/// One reading of a resistance.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Reading {
    /// What the meter showed.
    pub shown: Shown,
    /// How the part sat.
    pub state: State,
    /// Marked hot by whoever measured.
    pub hot: bool,
    /// Time since the iron was last on it, where that is known.
    pub since_soldering: Option<Second>,
    /// How the meter measures.
    pub mode: Mode,
    /// The meter's uncertainty, where it is known.
    pub accuracy: Option<Accuracy>,
}

impl Reading {
    /// The least and the most that the part may have; `None` beyond the range.
    #[must_use]
    pub fn band(&self) -> Option<(Ohm, Ohm)> {
        match self.shown {
            Shown::Value(v) => Some(self.accuracy.map_or((v, v), |a| a.band(v))),
            Shown::Overrange { .. } => None,
        }
    }
}
