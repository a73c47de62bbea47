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

/// The most volts that each part may get, when its own value and the others' lie anywhere within their tolerances (fractions
/// below and above, in the order of [`Tree::parts`]; a part for which there is none counts as exact). `None` where the load
/// puts no volts there, or where there are too many parts to look at.
///
/// A part's volts rise or fall with each value alone, so the worst is among the corners; of a chain in series the lone one at
/// its worst end, all others at the other. Capacitors as they charge, and on AC; direct volts follow leaks and balancing
/// resistors.
#[must_use]
pub fn worst_volts(tree: &Tree, kind: Kind, drive: Drive, tolerances: &[(f64, f64)]) -> Option<Vec<f64>> {
    let parts = tree.parts().len();
    let chain = matches!(tree, Tree::Series(all) if all.iter().all(|p| matches!(p, Tree::Part(_))));
    // The small capacitor, or the great resistor, gets the most.
    let lone_is_high = kind == Kind::Resistor;
    let corners: Vec<Vec<bool>> = match parts {
        few if few <= MOST_CORNERS => {
            (0..1_usize << parts).map(|bits| (0..parts).map(|i| bits >> i & 1 == 1).collect()).collect()
        }
        _ if chain => {
            (0..parts).map(|lone| (0..parts).map(|i| (i == lone) == lone_is_high).collect()).collect()
        }
        _ => return None,
    };
    let turned = |high: &[bool], i: usize| {
        let (below, above) = tolerances.get(i).copied().unwrap_or((0.0, 0.0));
        if high[i] { 1.0 + above } else { (1.0 - below).max(1e-3) }
    };
    let mut most = vec![0.0_f64; parts];
    for high in &corners {
        let tree = tree.scaled(&mut 0, &|i| turned(high, i));
        for (most, share) in most.iter_mut().zip(shares(&tree, kind, Some(drive))) {
            *most = most.max(share.volts?.abs());
        }
    }
    Some(most)
}

/// Up to so many parts every corner is looked at.
const MOST_CORNERS: usize = 8;

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
