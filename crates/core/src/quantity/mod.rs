//! Quantities: SI base units inside (ohm, farad, henry, volt, ampere, watt, second, hertz).
//!
//! [`parse`] understands what people type; [`format`] says what people read. The two are separate
//! tables, because more spellings are understood than are ever written. The
//! "8+8/450" of an electrolytic is a marking: [`crate::marking::can`].

pub mod format;
mod law;
pub mod parse;

use crate::named::named;

named! {
    /// What a number measures.
    "quantity" Quantity {
        /// ohm
        Resistance = "resistance",
        /// farad
        Capacitance = "capacitance",
        /// henry
        Inductance = "inductance",
        /// volt
        Voltage = "voltage",
        /// ampere
        Current = "current",
        /// watt
        Power = "power",
        /// second
        Time = "time",
        /// hertz
        Frequency = "frequency",
        /// °C
        Temperature = "temperature",
        /// siemens, written in mA/V
        Conductance = "conductance",
        /// a plain fraction, written in percent
        Fraction = "fraction",
        /// a plain number
        Ratio = "ratio",
    }
}

/// A number that cannot be the quantity that it claims to be.
#[derive(Debug, Clone, Copy, PartialEq, thiserror::Error)]
pub enum QuantityError {
    /// Not a number, or infinite.
    #[error("{unit}: a number is needed, not infinity and not nothing")]
    NotFinite {
        /// The unit's name.
        unit: &'static str,
    },
    /// Smaller or larger than anything on a bench.
    #[error("{value:e} {unit} is out of all reason: check the digits and the prefix")]
    Absurd {
        /// The unit's name.
        unit: &'static str,
        /// What was given.
        value: f64,
    },
    /// Below zero where nothing below zero exists.
    #[error("{value} {unit} is below zero; check the sign, or whether the part was still charged")]
    Negative {
        /// The unit's name.
        unit: &'static str,
        /// What was given.
        value: f64,
    },
}

/// Between these sizes lies all that is ever measured or marked, in the base unit: what comes from outside beyond them
/// is a slip, and would run sums out of what a number can hold.
const SIZES: std::ops::RangeInclusive<f64> = 1e-21..=1e21;

/// Whether a number is smaller or larger than anything on a bench; nothing at all is neither.
pub(crate) fn is_absurd(value: f64) -> bool {
    value != 0.0 && !SIZES.contains(&value.abs())
}

/// A unit: what a number of a table or of a place in the circuit is read as.
pub trait Unit: Copy {
    /// What it measures.
    const QUANTITY: Quantity;

    /// A value that is known to be one: see [`Ohm::computed`].
    #[must_use]
    fn of_known(value: f64) -> Self;

    /// The plain number, in the unit.
    #[must_use]
    fn si(self) -> f64;
}

macro_rules! quantity {
    ($(#[$meta:meta])* $ty:ident, $unit:literal, $quantity:ident, $get:ident, $negative:literal) => {
        $(#[$meta])*
        #[derive(Debug, Clone, Copy, PartialEq, PartialOrd)]
        pub struct $ty(f64);

        impl $ty {
            #[doc = concat!("Nothing: 0 ", $unit, ".")]
            pub const ZERO: Self = Self(0.0);

            #[doc = concat!("A value in ", $unit, ".")]
            ///
            /// # Errors
            /// Refuses NaN and infinity, sizes that nothing has, and values below zero where there is no such thing.
            pub fn new(value: f64) -> Result<Self, QuantityError> {
                if is_absurd(value) && value.is_finite() {
                    return Err(QuantityError::Absurd { unit: $unit, value });
                }
                Self::stored(value)
            }

            fn stored(value: f64) -> Result<Self, QuantityError> {
                if !value.is_finite() {
                    Err(QuantityError::NotFinite { unit: $unit })
                } else if value < 0.0 && !$negative {
                    Err(QuantityError::Negative { unit: $unit, value })
                } else {
                    Ok(Self(value))
                }
            }

            #[doc = concat!("A value in ", $unit, " that was worked out from valid ones, or stands in a table or a constant.")]
            ///
            /// # Panics
            /// Where it cannot be such a value: the sum that gave it is wrong, and a silent zero would be trusted.
            #[must_use]
            #[track_caller]
            pub const fn computed(value: f64) -> Self {
                assert!(value.is_finite(), concat!("a sum gave no number of ", $unit));
                assert!($negative || value >= 0.0, concat!("a sum gave less than no ", $unit));
                Self(value)
            }

            #[doc = concat!("The plain number, in ", $unit, ".")]
            #[must_use]
            pub const fn $get(self) -> f64 {
                self.0
            }
        }

        law::scales!($ty);

        impl Unit for $ty {
            const QUANTITY: Quantity = Quantity::$quantity;

            #[track_caller]
            fn of_known(value: f64) -> Self {
                Self::computed(value)
            }

            fn si(self) -> f64 {
                self.0
            }
        }

        impl serde::Serialize for $ty {
            fn serialize<S: serde::Serializer>(&self, s: S) -> Result<S::Ok, S::Error> {
                s.serialize_f64(self.0)
            }
        }

        impl<'de> serde::Deserialize<'de> for $ty {
            /// What was stored may have been worked out, and be smaller than what anybody types.
            fn deserialize<D: serde::Deserializer<'de>>(d: D) -> Result<Self, D::Error> {
                Self::stored(f64::deserialize(d)?).map_err(serde::de::Error::custom)
            }
        }

        impl std::fmt::Display for $ty {
            fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
                format::format(Quantity::$quantity, self.0).fmt(f)
            }
        }

        impl std::str::FromStr for $ty {
            type Err = parse::EntryError;

            /// The likeliest meaning of what was typed; [`parse::parse`] gives the others.
            fn from_str(text: &str) -> Result<Self, Self::Err> {
                let best = parse::best(Quantity::$quantity, text)?;
                Self::new(best).map_err(parse::EntryError::Quantity)
            }
        }
    };
}

quantity!(
    /// Resistance in ohm, never below zero.
    Ohm, "ohm", Resistance, ohms, false
);
quantity!(
    /// Capacitance in farad, never below zero.
    Farad, "farad", Capacitance, farads, false
);
quantity!(
    /// Inductance in henry, never below zero.
    Henry, "henry", Inductance, henries, false
);
quantity!(
    /// Potential difference in volt; may be negative.
    Volt, "volt", Voltage, volts, true
);
quantity!(
    /// Current in ampere; may be negative.
    Ampere, "ampere", Current, amperes, true
);
quantity!(
    /// Conductance in siemens, never below zero.
    Siemens, "siemens", Conductance, siemens, false
);
quantity!(
    /// Power in watt, never below zero.
    Watt, "watt", Power, watts, false
);
quantity!(
    /// Time in second, never below zero.
    Second, "second", Time, seconds, false
);
quantity!(
    /// Frequency in hertz, never below zero.
    Hertz, "hertz", Frequency, hertz, false
);
quantity!(
    /// A plain fraction (0.1 is 10 %); may be negative.
    Fraction, "percent", Fraction, fraction, true
);

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    #[should_panic(expected = "less than no ohm")]
    fn a_sum_that_cannot_be_is_loud() {
        let _ = Ohm::computed(-1e-9);
    }

    #[test]
    #[should_panic(expected = "no number of ampere")]
    fn volts_over_a_short_are_no_current() {
        let _ = Volt::computed(1.0) / Ohm::ZERO;
    }

    #[test]
    fn a_quantity_refuses_what_cannot_be() {
        assert!(Ohm::new(-1.0).is_err());
        assert!(Ohm::new(f64::NAN).is_err());
        assert!(Volt::new(f64::INFINITY).is_err());
        assert!(
            matches!(Ampere::new(1e-30), Err(QuantityError::Absurd { .. })),
            "nothing would bear the sums"
        );
        assert!(matches!(Volt::new(-1e30), Err(QuantityError::Absurd { .. })));
        assert_eq!(Volt::new(-6.0).map(Volt::volts), Ok(-6.0));
    }
}
