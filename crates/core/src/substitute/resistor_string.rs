//! Equal resistors in series where one body does not stand the volts: bleeders, meter multipliers, dividers of a high
//! voltage (common practice).

use super::assess::Offer;
use super::load::{self, Load};
use super::network::of_resistors;
use super::{Choice, Choices, Chosen};
use crate::drawers::{Condition, Lot, Piece};
use crate::network::{Drive, Found, Kind, Tree, shares};
use crate::part::size::sizes;
use crate::part::{Family, MadeOf, PartKind, Resistor};
use crate::preferred::{Series, neighbours};
use crate::quantity::{Volt, Watt};

/// The longest string that is proposed.
const LONGEST: usize = 20;
/// How far a string may be off, at the most.
const WITHIN: f64 = 0.05;

/// Strings of equals: of each lot in the drawers that makes one, and the shortest to buy.
pub(super) fn strings(load: &Load, old: &Resistor, lots: &[Lot], out: &mut Choices) {
    if load.volts.is_none_or(|v| sizes().iter().all(|s| s.volts.volts() >= v)) {
        return;
    }
    let lengths = || 3..=LONGEST;
    let of_kind = |l: &Lot| {
        let family = l.piece.family.and_then(MadeOf::resistor);
        l.piece.kind == PartKind::Resistor && load.family(old, family).is_ok()
    };
    for offer in Offer::of_lots(lots, of_kind) {
        let there = |n: &usize| u32::try_from(*n).is_ok_and(|n| offer.count.is_some_and(|c| n <= c));
        let made = lengths().filter(there).find_map(|n| {
            let price = offer.price_hundredths.map(|p| p * u32::try_from(n).unwrap_or(1));
            of_equals(load, &offer.piece, n, || offer.chosen(), price)
        });
        out.choices.extend(made);
    }
    let bought = out.choices.iter().any(|c| c.pieces.iter().all(|p| p.lot.is_none()));
    if !bought {
        out.choices.extend(lengths().find_map(|n| to_buy(load, old, n)));
    }
}

/// So many of E24 of the smallest size that does.
fn to_buy(load: &Load, old: &Resistor, n: usize) -> Option<Choice> {
    let value = neighbours(Series::E24, load.wanted / n as f64)?.nearest;
    sizes().iter().find_map(|size| {
        let family = match load::bought_family(load, old, size.power) {
            // A wound part of megohms is not made.
            Family::Wirewound => return None,
            other => other,
        };
        let piece = load::piece_of(value, size.power, family);
        let chosen = || Chosen { piece: piece.clone(), lot: None, condition: Condition::New };
        of_equals(load, &piece, n, chosen, None)
    })
}

/// `n` of them in series, where their value does, and watts and volts of each body hold.
fn of_equals(
    load: &Load,
    piece: &Piece,
    n: usize,
    chosen: impl Fn() -> Chosen,
    price: Option<u32>,
) -> Option<Choice> {
    let (value, watts) = (piece.value_si?, piece.watts?);
    let error = value * n as f64 / load.wanted - 1.0;
    if error.abs() > load.window.min(WITHIN) {
        return None;
    }
    let tree = Tree::Series(vec![Tree::Part(value); n]);
    let drive = Volt::computed((load.least.watts() * load.wanted).sqrt());
    let shares = shares(&tree, Kind::Resistor, Some(Drive::Voltage(drive)));
    let found = Found { value: value * n as f64, error, shares, picks: vec![], spread: None, tree };
    let ratings: Vec<Watt> = vec![watts; n];
    of_resistors(load, &found, &ratings, (0..n).map(|_| chosen()).collect(), price)
}
