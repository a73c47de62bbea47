//! What is in the drawers: pieces with their ratings, where they lie, in which condition, and how many.

pub mod csv;
mod describe;
pub mod search;
pub mod shopping;
pub mod stock_test;

use crate::named::named;
use crate::part::{MadeOf, PartKind, SafetyClass};
use crate::quantity::{Ampere, Fraction, Ohm, Volt, Watt};

named! {
    /// In which condition a part lies in its drawer.
    "condition" Condition {
        /// Bought new.
        New = "new",
        /// Never used and old; tested before it is fitted.
        OldUntested = "old stock, untested",
        /// Never used, old, and tested.
        OldTested = "old stock, tested",
        /// Out of another set.
        Salvaged = "salvaged",
    }
}

impl Condition {
    /// Whether it must be tested before it is fitted: whatever is not new and was not tested (practice).
    #[must_use]
    pub fn needs_test(self) -> bool {
        match self {
            Self::OldUntested | Self::Salvaged => true,
            Self::New | Self::OldTested => false,
        }
    }
}

named! {
    /// How its leads come out.
    "lead style" Leads {
        /// At both ends.
        Axial = "axial",
        /// At one end.
        Radial = "radial",
        /// Stiff, for a board.
        SnapIn = "snap-in",
        /// Screws or lugs.
        Lugs = "lugs",
        /// None: soldered flat.
        Surface = "surface mount",
        /// In a socket or holder.
        Socket = "socket",
    }
}

/// A piece as it is sold or kept.
#[derive(Debug, Clone, PartialEq)]
pub struct Piece {
    /// What it is.
    pub kind: PartKind,
    /// How it is made.
    pub family: Option<MadeOf>,
    /// Its type number: of diodes, lamps, chokes.
    pub type_number: String,
    /// Its value in the base unit of its kind: ohm, farad, henry, volts of a lamp.
    pub value_si: Option<f64>,
    /// How far it may be off.
    pub tolerance: Option<Fraction>,
    /// Rated volts; of a diode the reverse volts; of a safety class part volts AC.
    pub volts: Option<Volt>,
    /// Rated watts.
    pub watts: Option<Watt>,
    /// Amperes: a diode's or a choke's direct current, a lamp's current, an electrolytic's ripple.
    pub amperes: Option<Ampere>,
    /// The direct-current resistance of a coil.
    pub winding: Option<Ohm>,
    /// Its safety class for the line.
    pub safety: Option<SafetyClass>,
    /// Up to how many °C it is rated.
    pub celsius: Option<f64>,
    /// Its size in words: 12 × 32 mm.
    pub size: String,
    /// How its leads come out.
    pub leads: Option<Leads>,
}

impl Piece {
    /// A piece of which nothing is known but its kind.
    #[must_use]
    pub fn new(kind: PartKind) -> Self {
        Self {
            kind,
            family: None,
            type_number: String::new(),
            value_si: None,
            tolerance: None,
            volts: None,
            watts: None,
            amperes: None,
            winding: None,
            safety: None,
            celsius: None,
            size: String::new(),
            leads: None,
        }
    }
}

/// Pieces of one sort in one place.
#[derive(Debug, Clone, PartialEq)]
pub struct Lot {
    /// What they are.
    pub piece: Piece,
    /// How many.
    pub count: u32,
    /// Where: film binder, page 2.
    pub place: String,
    /// In which condition.
    pub condition: Condition,
    /// Measured values of single pieces, in the base unit; at most as many as there are pieces.
    pub measured_si: Vec<f64>,
    /// What one costs, in hundredths of the workshop's money.
    pub price_hundredths: Option<u32>,
    /// Below this count it is to be bought again.
    pub low_water: u32,
}
