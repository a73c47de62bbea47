//! Supply arithmetic (rule R9): droppers, rectifiers, field coils, heaters, line scaling, lamps, discharge.
//!
//! One file for each bench sheet. All are sums on numbers that somebody measured or read from a sheet; none looks
//! anything up but its tables.

pub mod barretter;
pub mod discharge;
pub mod dropper;
pub mod field_coil;
pub mod heater;
pub mod lamp;
pub mod line;
pub mod plausible;
pub mod rectifier;
pub mod ripple;
pub mod switch_on;
pub mod touch;

pub use switch_on::{before_the_valves_draw, diodes_in_series};

use crate::part::size::at_least;
use crate::preferred::{Series, neighbours};
use crate::quantity::format::{CapacitanceStyle, format_as};
use crate::quantity::{Ohm, Quantity, QuantityError, Unit, Volt, Watt};

/// How many times what it dissipates a resistor is rated at, least and most (rule R9: 2 to 5).
pub const RATING: (f64, f64) = (2.0, 5.0);

/// The least and the most that a resistor should be rated at.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Rating {
    /// Twice what it dissipates.
    pub low: Watt,
    /// Five times: it stays cool.
    pub high: Watt,
}

impl std::fmt::Display for Rating {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        let short = |w: Watt| format_as(Quantity::Power, w.watts(), 2, CapacitanceStyle::WithNano);
        write!(f, "{} to {}", short(self.low), short(self.high))
    }
}

impl Rating {
    /// The rating of a resistor that dissipates so much.
    #[must_use]
    pub fn of(dissipated: Watt) -> Self {
        Self { low: dissipated * RATING.0, high: dissipated * RATING.1 }
    }

    /// The smallest size sold that is at least the low rating; `None` beyond the largest.
    #[must_use]
    pub fn size(&self) -> Option<Watt> {
        at_least(self.low).map(|s| s.power)
    }
}

/// A resistor that can be bought for one that was computed.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Preferred {
    /// Its value, of E24.
    pub value: Ohm,
    /// What it dissipates.
    pub dissipated: Watt,
    /// The smallest size sold of at least twice that; `None` beyond the largest.
    pub size: Option<Watt>,
    /// The volts that result with it where the sum is about.
    pub volts: Volt,
}

/// Why a sum makes no sense.
#[derive(Debug, Clone, Copy, PartialEq, thiserror::Error)]
pub enum SupplyError {
    /// A number that must be above zero.
    #[error("{0} must be above zero")]
    NotPositive(&'static str),
    /// A number out of the range in which the sum holds.
    #[error("{what} must lie between {least} and {most}")]
    OutOfRange {
        /// Which.
        what: &'static str,
        /// The least.
        least: f64,
        /// The most.
        most: f64,
    },
    /// The load wants more volts than there are.
    #[error("the load wants {load} and the supply has {supply}: a resistor only takes volts away")]
    NothingToDrop {
        /// Of the supply.
        supply: Volt,
        /// Of the load.
        load: Volt,
    },
    /// A coil that already has more resistance than is wanted.
    #[error("the coil has {have} and {wanted} are wanted: there is nothing to make up")]
    NothingMissing {
        /// Wanted.
        wanted: Ohm,
        /// Present.
        have: Ohm,
    },
    /// A number that cannot be.
    #[error(transparent)]
    Quantity(#[from] QuantityError),
}

impl SupplyError {
    /// The input to blame, where the error is about one.
    #[must_use]
    pub fn input(&self) -> Option<&'static str> {
        match self {
            Self::NotPositive(what) | Self::OutOfRange { what, .. } => Some(what),
            Self::NothingToDrop { .. } => Some("load"),
            Self::NothingMissing { .. } => Some("present"),
            Self::Quantity(_) => None,
        }
    }
}

/// Refuses what is not above zero.
fn positive<U: Unit>(what: &'static str, value: U) -> Result<U, SupplyError> {
    if value.si() > 0.0 { Ok(value) } else { Err(SupplyError::NotPositive(what)) }
}

/// Refuses what is outside of a range, in the unit's own numbers.
fn ranged<U: Unit>(what: &'static str, value: U, least: f64, most: f64) -> Result<U, SupplyError> {
    if (least..=most).contains(&value.si()) {
        Ok(value)
    } else {
        Err(SupplyError::OutOfRange { what, least, most })
    }
}

/// The nearest member of E24.
fn nearest(r: Ohm) -> Option<Ohm> {
    neighbours(Series::E24, r.ohms()).map(|n| Ohm::computed(n.nearest))
}
