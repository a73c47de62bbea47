//! How the parts of a network share voltage, current and power.

use super::{Kind, Tree};
use crate::quantity::{Ampere, Volt};

/// What the network as a whole is driven by.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Drive {
    /// A voltage across it.
    Voltage(Volt),
    /// A current through it; for capacitors, a charging current has no steady share and gives none.
    Current(Ampere),
}

/// What one part carries.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Share {
    /// Its value, in ohm or farad.
    pub value: f64,
    /// Volts across it.
    pub volts: Option<f64>,
    /// Amperes through it; none for capacitors on direct current.
    pub amperes: Option<f64>,
    /// Watts in it; none for capacitors.
    pub watts: Option<f64>,
    /// Coulomb in it; none for resistors.
    pub coulombs: Option<f64>,
    /// Joule in it; none for resistors.
    pub joules: Option<f64>,
}

/// The share of each part, in the order of [`Tree::parts`].
///
/// Resistors: Ohm's law down the tree. Capacitors: the charge of a series string is equal, so
/// volts divide as 1/C; direct voltage, without leakage.
#[must_use]
pub fn shares(tree: &Tree, kind: Kind, drive: Option<Drive>) -> Vec<Share> {
    let volts = match (drive, kind) {
        (None, _) | (Some(Drive::Current(_)), Kind::Capacitor) => None,
        (Some(Drive::Voltage(v)), _) => Some(v.volts()),
        (Some(Drive::Current(i)), Kind::Resistor) => Some(i.amperes() * tree.value(kind)),
    };
    let mut out = Vec::new();
    down(tree, kind, volts, &mut out);
    out
}

/// The greatest share of the volts across the whole that each part may get, when its own value and the others' lie anywhere
/// within their tolerances (fractions below and above, in the order of [`Tree::parts`]; a part for which there is none
/// counts as exact).
///
/// A share rises or falls with each value alone, so the worst is among the corners; of a chain in series only two of them
/// count. Capacitors as they charge, and on AC; direct volts follow leaks and balancing resistors.
#[must_use]
pub fn worst_shares(tree: &Tree, kind: Kind, tolerances: &[(f64, f64)]) -> Vec<f64> {
    let parts = tree.parts().len();
    let of = |i: usize| tolerances.get(i).copied().unwrap_or((0.0, 0.0));
    let at = |high: &dyn Fn(usize) -> bool| {
        let turned =
            tree.scaled(&mut 0, &|i| if high(i) { 1.0 + of(i).1 } else { (1.0 - of(i).0).max(1e-3) });
        shares(&turned, kind, Some(Drive::Voltage(Volt::computed(1.0))))
            .into_iter()
            .filter_map(|s| s.volts)
            .collect()
    };
    let worst = |corners: &mut dyn Iterator<Item = Vec<f64>>| {
        corners.fold(vec![0.0_f64; parts], |most, now| most.iter().zip(now).map(|(a, b)| a.max(b)).collect())
    };
    if parts > MOST_CORNERS {
        // The small capacitor, or the great resistor, gets the most; the others at their other end.
        let lone = kind == Kind::Resistor;
        return worst(&mut (0..parts).map(|i| at(&|j| (j == i) == lone)));
    }
    worst(&mut (0..1_usize << parts).map(|bits| at(&|i| bits >> i & 1 == 1)))
}

/// Above so many parts only a chain is looked at, whose worst corners are known.
const MOST_CORNERS: usize = 6;

fn down(tree: &Tree, kind: Kind, volts: Option<f64>, out: &mut Vec<Share>) {
    match tree {
        Tree::Part(value) => {
            let amperes = volts.filter(|_| kind == Kind::Resistor).map(|v| v / value);
            let watts = volts.zip(amperes).map(|(v, i)| v * i);
            let stored = volts.filter(|_| kind == Kind::Capacitor);
            out.push(Share {
                value: *value,
                volts,
                amperes,
                watts,
                coulombs: stored.map(|v| value * v),
                joules: stored.map(|v| 0.5 * value * v * v),
            });
        }
        Tree::Parallel(parts) => parts.iter().for_each(|p| down(p, kind, volts, out)),
        Tree::Series(parts) => {
            let whole = tree.value(kind);
            for p in parts {
                let own = p.value(kind);
                let part_of = match kind {
                    Kind::Resistor => own / whole,
                    Kind::Capacitor => whole / own,
                };
                down(p, kind, volts.map(|v| v * part_of), out);
            }
        }
    }
}
