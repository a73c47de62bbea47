//! What a part is, apart from what it measures: family, rating, and where it sits.

pub mod position;
pub mod size;
pub mod standing;

use crate::named::named;
use crate::quantity::{Fraction, Ohm, Watt};

pub use position::Position;
pub use standing::{Progress, Standing};

named! {
    /// A kind of part.
    "part kind" PartKind {
        /// A resistor.
        Resistor = "resistor",
    }
}

named! {
    /// How a resistor is made.
    "resistor family" Family {
        /// Moulded carbon composition, old body-end-dot parts too.
        CarbonComposition = "carbon composition",
        /// Carbon film.
        CarbonFilm = "carbon film",
        /// Metal film and metal oxide.
        MetalFilm = "metal film",
        /// Wound.
        Wirewound = "wirewound",
        /// Made to open safely.
        Fusible = "fusible",
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
