//! What may be added, scaled and multiplied, so that a wrong unit does not compile.
//!
//! Ohm's and Watt's laws, time constants, dividers and parallel resistances. A result that cannot be (volts over a
//! short) is a broken invariant of the caller and panics: see [`Ohm::computed`].

use super::{Ampere, Farad, Fraction, Henry, Hertz, Ohm, Second, Volt, Watt};
use std::ops::{Div, Mul, Neg, Sub};

/// What each unit can do with itself and with plain numbers.
macro_rules! scales {
    ($ty:ident) => {
        impl $ty {
            /// The smaller of two.
            #[must_use]
            pub const fn min(self, other: Self) -> Self {
                if other.0 < self.0 { other } else { self }
            }

            /// The larger of two.
            #[must_use]
            pub const fn max(self, other: Self) -> Self {
                if other.0 > self.0 { other } else { self }
            }
        }

        impl std::ops::Add for $ty {
            type Output = Self;
            #[track_caller]
            fn add(self, other: Self) -> Self {
                Self::computed(self.0 + other.0)
            }
        }

        impl std::ops::Mul<f64> for $ty {
            type Output = Self;
            #[track_caller]
            fn mul(self, times: f64) -> Self {
                Self::computed(self.0 * times)
            }
        }

        impl std::ops::Div<f64> for $ty {
            type Output = Self;
            #[track_caller]
            fn div(self, by: f64) -> Self {
                Self::computed(self.0 / by)
            }
        }

        impl std::ops::Div for $ty {
            type Output = f64;
            /// How many times the other goes into it; not a number, or infinite, where the other is nothing.
            fn div(self, other: Self) -> f64 {
                self.0 / other.0
            }
        }
    };
}
pub(super) use scales;

/// What may lie below zero: it can be taken away and turned round.
macro_rules! signed {
    ($($ty:ident),*) => {$(
        impl Sub for $ty {
            type Output = Self;
            #[track_caller]
            fn sub(self, other: Self) -> Self {
                Self::computed(self.0 - other.0)
            }
        }

        impl Neg for $ty {
            type Output = Self;
            fn neg(self) -> Self {
                Self(-self.0)
            }
        }

        impl $ty {
            /// Without its sign.
            #[must_use]
            pub const fn abs(self) -> Self {
                Self(self.0.abs())
            }
        }
    )*};
}
signed!(Volt, Ampere, Fraction);

/// A law between three units: `a × b = c`, both ways round, and what it says of `c / a` and `c / b`.
macro_rules! law {
    ($a:ident * $b:ident = $c:ident) => {
        impl Mul<$b> for $a {
            type Output = $c;
            #[track_caller]
            fn mul(self, other: $b) -> $c {
                $c::computed(self.0 * other.0)
            }
        }
        impl Mul<$a> for $b {
            type Output = $c;
            #[track_caller]
            fn mul(self, other: $a) -> $c {
                other * self
            }
        }
        law!($c / $a = $b);
        law!($c / $b = $a);
    };
    ($c:ident / $a:ident = $b:ident) => {
        impl Div<$a> for $c {
            type Output = $b;
            #[track_caller]
            fn div(self, by: $a) -> $b {
                $b::computed(self.0 / by.0)
            }
        }
    };
}
law!(Ampere * Ohm = Volt);
law!(Ohm * Farad = Second);
law!(Watt / Ampere = Volt);
law!(Watt / Volt = Ampere);

impl Mul<Ampere> for Volt {
    type Output = Watt;
    /// The size of the power, whichever way the current flows.
    fn mul(self, i: Ampere) -> Watt {
        Watt::computed((self.0 * i.0).abs())
    }
}

impl Mul<Volt> for Ampere {
    type Output = Watt;
    fn mul(self, v: Volt) -> Watt {
        v * self
    }
}

impl Ohm {
    /// The two in parallel; nothing where both are nothing.
    #[must_use]
    pub fn parallel(self, other: Self) -> Self {
        let sum = self.0 + other.0;
        if sum > 0.0 { Self::computed(self.0 * (other.0 / sum)) } else { Self::ZERO }
    }

    /// The share of a divider's volts that stands across this arm, the other arm being `other`: all of them where
    /// there is no resistance at all.
    #[must_use]
    pub fn share_beside(self, other: Self) -> Fraction {
        let sum = self.0 + other.0;
        Fraction::computed(if sum > 0.0 { self.0 / sum } else { 1.0 })
    }
}

impl Volt {
    /// What a divider leaves of it across `bottom`.
    #[must_use]
    pub fn divided(self, top: Ohm, bottom: Ohm) -> Self {
        Self::computed(self.0 * bottom.share_beside(top).0)
    }
}

impl Farad {
    /// 1 / 2πfC.
    #[must_use]
    #[track_caller]
    pub fn reactance(self, at: Hertz) -> Ohm {
        Ohm::computed(1.0 / (std::f64::consts::TAU * at.0 * self.0))
    }
}

impl Henry {
    /// 2πfL.
    #[must_use]
    pub fn reactance(self, at: Hertz) -> Ohm {
        Ohm::computed(std::f64::consts::TAU * at.0 * self.0)
    }
}

impl Second {
    /// The corner frequency of a time constant: 1 / 2πRC.
    #[must_use]
    #[track_caller]
    pub fn corner(self) -> Hertz {
        Hertz::computed(1.0 / (std::f64::consts::TAU * self.0))
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    // The definitions of the units (SI brochure, 9th edition, table 4), not worked numbers.
    #[test]
    fn volt_over_ohm_is_ampere_and_volt_times_ampere_is_watt() {
        let (v, r) = (Volt::computed(50.0), Ohm::computed(2000.0));
        let i = v / r;
        assert_eq!(i, Ampere::computed(0.025));
        assert_eq!((i * r, r * i, v / i), (v, v, v / i));
        assert_eq!(v / i, r);
        assert_eq!((v * i, i * v), (Watt::computed(1.25), Watt::computed(1.25)));
        assert_eq!((-v) * i, v * i, "power has no direction");
        assert_eq!((Watt::computed(1.25) / v, Watt::computed(1.25) / i), (i, v));
    }

    #[test]
    fn ohm_times_farad_is_second() {
        let (r, c) = (Ohm::computed(1e6), Farad::computed(2e-6));
        assert_eq!((r * c, c * r), (Second::computed(2.0), Second::computed(2.0)));
        assert_eq!((Second::computed(2.0) / r, Second::computed(2.0) / c), (c, r));
        let corner = Second::computed(1.0 / std::f64::consts::TAU).corner();
        assert!((corner.hertz() - 1.0).abs() < 1e-12);
    }

    #[test]
    fn at_its_corner_a_capacitor_has_its_resistors_reactance() {
        let (r, c) = (Ohm::computed(3300.0), Farad::computed(47e-9));
        assert!((c.reactance((r * c).corner()) / r - 1.0).abs() < 1e-12);
        let l = Henry::computed(r.ohms() * r.ohms() * c.farads());
        let resonance = Hertz::computed(1.0 / (std::f64::consts::TAU * (l.henries() * c.farads()).sqrt()));
        assert!((l.reactance(resonance) / c.reactance(resonance) - 1.0).abs() < 1e-12);
    }

    #[test]
    fn dividers_and_parallel_resistances() {
        let (a, b) = (Ohm::computed(10e3), Ohm::computed(30e3));
        assert_eq!(a.parallel(b), Ohm::computed(7500.0));
        assert_eq!(Volt::computed(12.0).divided(a, b), Volt::computed(9.0));
        assert_eq!(Volt::computed(-12.0).divided(b, a), Volt::computed(-3.0));
        assert_eq!(Ohm::ZERO.parallel(Ohm::ZERO), Ohm::ZERO);
        assert_eq!(Ohm::ZERO.share_beside(Ohm::ZERO), Fraction::computed(1.0));
    }

    #[test]
    fn like_is_added_to_like() {
        let v = Volt::computed(3.0) + Volt::computed(-5.0);
        assert_eq!(
            (v, -v, v.abs(), v - v),
            (Volt::computed(-2.0), Volt::computed(2.0), Volt::computed(2.0), Volt::ZERO)
        );
        assert_eq!(Ohm::computed(50.0) * 2.0 / 4.0, Ohm::computed(25.0));
        assert_eq!(
            (Ohm::computed(1.0).max(Ohm::computed(2.0)), Ohm::computed(1.0).min(Ohm::computed(2.0))),
            (Ohm::computed(2.0), Ohm::computed(1.0))
        );
        assert_eq!(Volt::computed(6.0) / Volt::computed(4.0), 1.5);
    }
}
