//! What is to be bought: what the open tickets lack and what has run low, equal pieces together.

use super::Piece;

/// Something that is needed, and for what.
#[derive(Debug, Clone, PartialEq)]
pub struct Lack {
    /// What.
    pub piece: Piece,
    /// How many.
    pub count: u32,
    /// For which part or drawer.
    pub wanted_for: String,
    /// What one costs, in hundredths, where that is known.
    pub price_hundredths: Option<u32>,
}

/// A row of the list.
#[derive(Debug, Clone, PartialEq)]
pub struct ShoppingRow {
    /// What.
    pub piece: Piece,
    /// How many are lacking.
    pub lacking: u32,
    /// How many to order.
    pub order: u32,
    /// For which parts and drawers.
    pub wanted_for: Vec<String>,
    /// What one costs, in hundredths, where that is known.
    pub price_hundredths: Option<u32>,
}

/// Below this price, in hundredths, a handful is ordered (practice: the postage costs more than the parts).
const CHEAP: u32 = 50;
/// What a handful is.
const HANDFUL: u32 = 10;

/// The list: equal pieces in one line, each with a quantity to order.
///
/// Cheap pieces, and small ones whose price is not known, in handfuls; dear ones one more than is lacking, since the next
/// set wants it too (practice).
#[must_use]
pub fn list(lacks: &[Lack]) -> Vec<ShoppingRow> {
    let mut lines: Vec<ShoppingRow> = Vec::new();
    for lack in lacks {
        match lines.iter_mut().find(|l| same(&l.piece, &lack.piece)) {
            Some(line) => {
                line.lacking += lack.count;
                line.wanted_for.push(lack.wanted_for.clone());
                line.price_hundredths = line.price_hundredths.or(lack.price_hundredths);
            }
            None => lines.push(ShoppingRow {
                piece: lack.piece.clone(),
                lacking: lack.count,
                order: 0,
                wanted_for: vec![lack.wanted_for.clone()],
                price_hundredths: lack.price_hundredths,
            }),
        }
    }
    for line in &mut lines {
        line.order = order(line.lacking, line.price_hundredths, &line.piece);
    }
    lines
}

/// Equal as one buys: size and leads do not tell two orders apart.
fn same(a: &Piece, b: &Piece) -> bool {
    a.kind == b.kind
        && a.family == b.family
        && a.type_number.eq_ignore_ascii_case(&b.type_number)
        && close(a.value_si, b.value_si)
        && a.volts == b.volts
        && a.watts == b.watts
        && a.safety == b.safety
}

fn close(a: Option<f64>, b: Option<f64>) -> bool {
    match (a, b) {
        (Some(a), Some(b)) => (a - b).abs() <= 1e-6 * a.abs(),
        (None, None) => true,
        _ => false,
    }
}

fn order(lacking: u32, price: Option<u32>, piece: &Piece) -> u32 {
    let cheap = match price {
        Some(p) => p <= CHEAP,
        None => piece.watts.is_some_and(|w| w.watts() <= 1.0),
    };
    if cheap { lacking.div_ceil(HANDFUL) * HANDFUL } else { lacking + 1 }
}
