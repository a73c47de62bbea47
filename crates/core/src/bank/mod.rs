//! Parts in series that share the volts: the cans of a high-voltage supply with a resistor across each, diodes one behind
//! the other, the resistors of a meter's multiplier (rule R20).
//!
//! | question | where |
//! |---|---|
//! | which parts are meant by `C11-C18` | [`names`] |
//! | what each of them gets | [`share`] |
//! | what is said of the whole | [`judge`] |
//! | what goes, one or all | [`advice`] |
//! | the places of a bank on a tray | [`crate::tray::bank`] |

pub mod advice;
pub mod judge;
pub mod names;
mod says;
pub mod share;

use crate::named::named;
use crate::part::PartKind;
use crate::quantity::{Ampere, Farad, Ohm, Volt, Watt};

named! {
    /// What is in series.
    "kind of bank" BankKind {
        /// Capacitors, with or without a resistor across each.
        Capacitors = "capacitor bank",
        /// Diodes that block one behind the other.
        Diodes = "diode string",
        /// Resistors: a multiplier, a bleeder, a divider.
        Resistors = "resistor string",
    }
}

impl BankKind {
    /// What its members are.
    #[must_use]
    pub fn member(self) -> PartKind {
        match self {
            Self::Capacitors => PartKind::Capacitor,
            Self::Diodes => PartKind::Diode,
            Self::Resistors => PartKind::Resistor,
        }
    }

    /// Whether resistors lie across its members and share the volts among them.
    #[must_use]
    pub fn is_shared_by_resistors(self) -> bool {
        self != Self::Resistors
    }

    /// What stands across the whole, in words.
    #[must_use]
    pub fn volts_in_words(self) -> &'static str {
        match self {
            Self::Capacitors => "volts across all of it, without load and with the line at its highest",
            Self::Diodes => "volts across all of it the wrong way, at their crest",
            Self::Resistors => "volts across all of it",
        }
    }
}

/// The least and the most members of a bank: two share, and no supply has more cans than that.
pub const MEMBERS: std::ops::RangeInclusive<usize> = 2..=40;

/// A value with how far it may be off: no further than the meter where it was measured, as far as its mark allows where not.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Span<U> {
    /// The least that it may be.
    pub low: U,
    /// As it is taken to be.
    pub is: U,
    /// The most that it may be.
    pub high: U,
}

impl<U: Copy> Span<U> {
    /// A value that is known.
    #[must_use]
    pub fn known(is: U) -> Self {
        Self { low: is, is, high: is }
    }
}

impl<U: Copy + std::ops::Mul<f64, Output = U>> Span<U> {
    /// A value of which only the mark is known: so many times it at the least and at the most.
    #[must_use]
    pub fn marked(is: U, minus: f64, plus: f64) -> Self {
        Self { low: is * (1.0 - minus).max(0.01), is, high: is * (1.0 + plus) }
    }
}

/// A resistor across a member, or the resistor that is the member.
#[derive(Debug, Clone, PartialEq)]
pub struct Across {
    /// Its name.
    pub name: String,
    /// Its ohms.
    pub ohms: Span<Ohm>,
    /// What its mark says.
    pub marked: Option<Ohm>,
    /// What it may dissipate.
    pub rated: Option<Watt>,
    /// The volts that its body stands.
    pub body: Option<Volt>,
    /// Whether it was measured.
    pub measured: bool,
    /// How it is by itself.
    pub health: Health,
}

/// How a member is by itself.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Health {
    /// In order, as far as it was looked at.
    Well,
    /// Near its limit.
    Tired,
    /// Its own readings do not tell yet.
    Unsure,
    /// It goes, whatever the others do.
    Goes,
    /// Nothing passes in it or all of it: it takes no share.
    Shorted,
    /// It carries nothing: all of the volts stand across it.
    Open,
}

impl Health {
    /// Whether it cannot stay.
    #[must_use]
    pub fn is_to_go(self) -> bool {
        matches!(self, Self::Goes | Self::Shorted | Self::Open)
    }
}

/// One place of a bank, as far as it is known.
#[derive(Debug, Clone, PartialEq)]
pub struct Place {
    /// Its member.
    pub name: String,
    /// How that is by itself.
    pub health: Health,
    /// Its farads, of a capacitor.
    pub farads: Option<Span<Farad>>,
    /// What its mark says.
    pub marked: Option<Farad>,
    /// What lies across it; of a string of resistors the resistor itself.
    pub across: Option<Across>,
    /// What leaks through it at an equal share of the volts.
    pub leak: Option<Span<Ampere>>,
    /// What it stands.
    pub rated: Option<Volt>,
    /// Whether its own value was measured.
    pub measured: bool,
    /// Whether it is an electrolytic.
    pub electrolytic: bool,
}
