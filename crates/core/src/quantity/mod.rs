//! Quantities: SI base units inside (ohm, farad, henry, volt, ampere, watt, second, hertz).
//!
//! [`parse`] understands what people type; [`format`] says what people read. The two are separate
//! tables, because more spellings are understood than are ever written. The
//! "8+8/450" of an electrolytic is a marking: [`crate::marking::can`].

pub mod format;
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
    /// Below zero where nothing below zero exists.
    #[error("{value} {unit} is below zero; check the sign, or whether the part was still charged")]
    Negative {
        /// The unit's name.
        unit: &'static str,
        /// What was given.
        value: f64,
    },
}

macro_rules! quantity {
    ($(#[$meta:meta])* $ty:ident, $unit:literal, $quantity:ident, $get:ident, $negative:literal) => {
        $(#[$meta])*
        #[derive(Debug, Clone, Copy, PartialEq, PartialOrd)]
        pub struct $ty(f64);

        impl $ty {
            #[doc = concat!("Nothing: 0 ", $unit, ".")]
            pub const ZERO: Self = Self(0.0);

            /// What this unit measures.
            pub const QUANTITY: Quantity = Quantity::$quantity;

            #[doc = concat!("A value in ", $unit, ".")]
            ///
            /// # Errors
            /// Refuses NaN and infinity, and values below zero where there is no such thing.
            pub fn new(value: f64) -> Result<Self, QuantityError> {
                if !value.is_finite() {
                    Err(QuantityError::NotFinite { unit: $unit })
                } else if value < 0.0 && !$negative {
                    Err(QuantityError::Negative { unit: $unit, value })
                } else {
                    Ok(Self(value))
                }
            }

            #[doc = concat!("The plain number, in ", $unit, ".")]
            #[must_use]
            pub const fn $get(self) -> f64 {
                self.0
            }
        }

        impl serde::Serialize for $ty {
            fn serialize<S: serde::Serializer>(&self, s: S) -> Result<S::Ok, S::Error> {
                s.serialize_f64(self.0)
            }
        }

        impl<'de> serde::Deserialize<'de> for $ty {
            fn deserialize<D: serde::Deserializer<'de>>(d: D) -> Result<Self, D::Error> {
                Self::new(f64::deserialize(d)?).map_err(serde::de::Error::custom)
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

/// What Ohm's and Watt's laws allow, so that a wrong unit does not compile.
mod law {
    use super::{Ampere, Ohm, Volt, Watt};
    use std::ops::{Div, Mul};

    impl Div<Ohm> for Volt {
        type Output = Ampere;
        fn div(self, r: Ohm) -> Ampere {
            Ampere(self.0 / r.0)
        }
    }
    impl Mul<Ohm> for Ampere {
        type Output = Volt;
        fn mul(self, r: Ohm) -> Volt {
            Volt(self.0 * r.0)
        }
    }
    impl Mul<Ampere> for Volt {
        type Output = Watt;
        /// The size of the power, whichever way the current flows.
        fn mul(self, i: Ampere) -> Watt {
            Watt((self.0 * i.0).abs())
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_quantity_refuses_what_cannot_be() {
        assert!(Ohm::new(-1.0).is_err());
        assert!(Ohm::new(f64::NAN).is_err());
        assert!(Volt::new(f64::INFINITY).is_err());
        assert_eq!(Volt::new(-6.0).map(Volt::volts), Ok(-6.0));
    }

    #[test]
    fn volt_over_ohm_is_ampere_and_volt_times_ampere_is_watt() -> Result<(), QuantityError> {
        // The definition of the units (SI brochure, 9th edition, table 4), not a worked number.
        let (v, r) = (Volt::new(50.0)?, Ohm::new(2000.0)?);
        let i = v / r;
        assert_eq!(i, Ampere::new(0.025)?);
        assert_eq!(i * r, v);
        assert_eq!(v * i, Watt::new(1.25)?);
        Ok(())
    }
}
