//! How far a network may be off when its parts are.

use super::{Kind, Tree};

/// The least and the most that a network can be, and how far off it usually is.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Spread {
    /// With every part at its low limit, in ohm or farad.
    pub low: f64,
    /// With every part at its high limit.
    pub high: f64,
    /// Root of the sum of squares of what each part contributes, as a fraction of the whole.
    pub root_sum_square: f64,
}

/// The spread of a network whose parts may be so far below and above their value (fractions, in the order of
/// [`Tree::parts`]; a part for which there is none counts as exact).
///
/// Worst case: the value of a network rises with each of its parts, so all low and all high are the ends.
/// Root of the sum of squares: a part contributes its tolerance times its share of the whole's power (of its
/// energy for capacitors), which is its relative sensitivity (Tellegen's theorem).
#[must_use]
pub fn spread(tree: &Tree, kind: Kind, tolerances: &[(f64, f64)]) -> Spread {
    let of = |i: usize| tolerances.get(i).copied().unwrap_or((0.0, 0.0));
    let low = tree.scaled(&mut 0, &|i| (1.0 - of(i).0).max(0.0)).value(kind);
    let high = tree.scaled(&mut 0, &|i| 1.0 + of(i).1).value(kind);
    let mut sensitivities = Vec::new();
    sensitivity(tree, kind, 1.0, &mut sensitivities);
    let squares: f64 =
        sensitivities.iter().enumerate().map(|(i, s)| (s * (of(i).0 + of(i).1) / 2.0).powi(2)).sum();
    Spread { low, high, root_sum_square: squares.sqrt() }
}

/// By how many percent the whole moves when a part moves by one; they add up to one.
fn sensitivity(tree: &Tree, kind: Kind, of_whole: f64, out: &mut Vec<f64>) {
    let (parts, adds) = match (tree, kind) {
        (Tree::Part(_), _) => return out.push(of_whole),
        (Tree::Series(p), Kind::Resistor) | (Tree::Parallel(p), Kind::Capacitor) => (p, true),
        (Tree::Parallel(p), Kind::Resistor) | (Tree::Series(p), Kind::Capacitor) => (p, false),
    };
    let whole = tree.value(kind);
    for p in parts {
        let own = p.value(kind);
        let share = if adds { own / whole } else { whole / own };
        sensitivity(p, kind, of_whole * share, out);
    }
}
