//! A network as a tree of parts in series and in parallel.

use crate::named::named;
use crate::quantity::{Quantity, format};

named! {
    /// What a network is made of.
    "kind of network" Kind {
        /// Values in ohm; series adds.
        Resistor = "resistor",
        /// Values in farad; parallel adds.
        Capacitor = "capacitor",
    }
}

/// A network of parts.
#[derive(Debug, Clone, PartialEq)]
pub enum Tree {
    /// One part, with its value in ohm or farad.
    Part(f64),
    /// One after the other; at least two.
    Series(Vec<Tree>),
    /// Side by side; at least two.
    Parallel(Vec<Tree>),
}

impl Tree {
    /// The value of the whole, in the unit of the parts.
    ///
    /// Ohm: series Σ, parallel 1/Σ(1/x). Farad: the other way round.
    #[must_use]
    pub fn value(&self, kind: Kind) -> f64 {
        let sum = |parts: &[Self]| parts.iter().map(|p| p.value(kind)).sum::<f64>();
        let inverse = |parts: &[Self]| 1.0 / parts.iter().map(|p| 1.0 / p.value(kind)).sum::<f64>();
        match (self, kind) {
            (Self::Part(v), _) => *v,
            (Self::Series(p), Kind::Resistor) | (Self::Parallel(p), Kind::Capacitor) => sum(p),
            (Self::Parallel(p), Kind::Resistor) | (Self::Series(p), Kind::Capacitor) => inverse(p),
        }
    }

    /// The values of the parts, in the order in which [`Tree::expression`] writes them.
    #[must_use]
    pub fn parts(&self) -> Vec<f64> {
        match self {
            Self::Part(v) => vec![*v],
            Self::Series(p) | Self::Parallel(p) => p.iter().flat_map(Self::parts).collect(),
        }
    }

    /// The same network with the value of each part times a factor; `next` counts the parts.
    pub(super) fn scaled(&self, next: &mut usize, factor: &dyn Fn(usize) -> f64) -> Self {
        let mut all = |parts: &[Self]| parts.iter().map(|p| p.scaled(next, factor)).collect();
        match self {
            Self::Series(parts) => Self::Series(all(parts)),
            Self::Parallel(parts) => Self::Parallel(all(parts)),
            Self::Part(value) => {
                *next += 1;
                Self::Part(value * factor(*next - 1))
            }
        }
    }

    /// The network in one line: `120 ∥ (6.8k + 100)`.
    #[must_use]
    pub fn expression(&self, kind: Kind) -> String {
        self.written(kind, false)
    }

    fn written(&self, kind: Kind, inside: bool) -> String {
        let joined = |parts: &[Self], sign: &str| {
            let text = parts.iter().map(|p| p.written(kind, true)).collect::<Vec<_>>().join(sign);
            if inside { format!("({text})") } else { text }
        };
        match self {
            Self::Part(v) => short(kind, *v),
            Self::Series(p) => joined(p, " + "),
            Self::Parallel(p) => joined(p, " ∥ "),
        }
    }
}

/// A value without its unit but with its prefix: `6.8k`, `120`, `47n`.
fn short(kind: Kind, value: f64) -> String {
    let quantity = match kind {
        Kind::Resistor => Quantity::Resistance,
        Kind::Capacitor => Quantity::Capacitance,
    };
    let w = format::format(quantity, value);
    format!("{}{}", w.number, w.unit.trim_end_matches(['Ω', 'F']))
}
