//! What lies between two of three leads.

use crate::part::SixReadings;

/// Both ways below this is a piece of wire, volt (practice).
pub(super) const SHORT: f64 = 0.05;

/// What lies between leads `a` and `b`.
pub(super) fn path(six: &SixReadings, a: usize, b: usize) -> Path {
    match (six.volts(a, b), six.volts(b, a)) {
        (None, None) => Path::Nothing,
        (Some(v), None) => Path::OneWay(Conduction { from: a, to: b, volts: v }),
        (None, Some(v)) => Path::OneWay(Conduction { from: b, to: a, volts: v }),
        (Some(x), Some(y)) if x < SHORT && y < SHORT => Path::Short,
        (Some(x), Some(y)) if (x - y).abs() <= (0.1 * x.max(y)).max(0.02) => Path::Resistive(x.max(y)),
        (Some(x), Some(y)) if x < y => Path::Leaky(Conduction { from: a, to: b, volts: x }, y),
        (Some(x), Some(y)) => Path::Leaky(Conduction { from: b, to: a, volts: y }, x),
    }
}

/// A way that conducts.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(super) struct Conduction {
    pub from: usize,
    pub to: usize,
    pub volts: f64,
}

/// What lies between two leads.
#[derive(Debug, Clone, Copy, PartialEq)]
pub(super) enum Path {
    /// Nothing either way.
    Nothing,
    /// A junction.
    OneWay(Conduction),
    /// A piece of wire.
    Short,
    /// The same both ways: volts.
    Resistive(f64),
    /// A junction through which something comes back: the volts backwards.
    Leaky(Conduction, f64),
}
