//! What a part is, apart from what it measures: family, rating, and where it sits.

pub mod body;
mod family;
pub mod position;
pub mod size;
pub mod standing;

use crate::named::{Named, named};
use crate::quantity::{Fraction, Ohm, Quantity, Watt};

pub use family::{CapacitorFamily, Family, MadeOf};
pub use position::Position;
pub use standing::{Progress, Standing};

named! {
    /// A kind of part.
    "part kind" PartKind {
        /// A resistor.
        Resistor = "resistor",
        /// A capacitor.
        Capacitor = "capacitor",
        /// A coil or choke.
        Coil = "coil",
        /// A diode.
        Diode = "diode",
        /// A dial or pilot lamp.
        Lamp = "lamp",
    }
}

impl PartKind {
    /// What its value is a measure of; `None` where it has a type number instead.
    #[must_use]
    pub fn quantity(self) -> Option<Quantity> {
        match self {
            Self::Resistor => Some(Quantity::Resistance),
            Self::Capacitor => Some(Quantity::Capacitance),
            Self::Coil => Some(Quantity::Inductance),
            Self::Lamp => Some(Quantity::Voltage),
            Self::Diode => None,
        }
    }

    /// What its name on a sheet begins with.
    #[must_use]
    pub fn letter(self) -> char {
        match self {
            Self::Resistor => 'R',
            Self::Capacitor => 'C',
            Self::Coil => 'L',
            Self::Diode => 'D',
            Self::Lamp => 'P',
        }
    }

    /// The kind of part that is called `name` on a sheet: R14, C3, L2, D1, P1. `None` for other letters.
    #[must_use]
    pub fn called(name: &str) -> Option<Self> {
        let first = name.chars().next()?.to_ascii_uppercase();
        Self::ALL.iter().copied().find(|k| k.letter() == first)
    }
}

/// The tolerance of a resistor whose marking shows none (IEC 60062:2016, table 2: no band).
pub const NO_BAND: f64 = 0.2;

/// A resistor as it is marked.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Resistor {
    /// How it is made.
    pub family: Family,
    /// The marked value; above zero.
    pub value: Ohm,
    /// The marked tolerance; `None` where no band or letter shows one, which means 20 %.
    pub tolerance: Option<Fraction>,
    /// Rated power, where it is known.
    pub power: Option<Watt>,
}

impl Resistor {
    /// The tolerance that counts: as marked, or 20 % where nothing is marked.
    #[must_use]
    pub fn tolerance_fraction(&self) -> f64 {
        self.tolerance.map_or(NO_BAND, Fraction::fraction)
    }
}
