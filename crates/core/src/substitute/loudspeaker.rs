//! A loudspeaker for a loudspeaker (rule R26): the load that the output sees, and its watts.

use super::assess::{Offer, Tally};
use super::{ChoiceReason, Choices};
use crate::drawers::{Lot, Piece};
use crate::part::{Loudspeaker, PartKind};
use crate::quantity::format::percent;
use crate::quantity::{Ohm, Quantity, Watt};

/// Between these shares of the old one's impedance the output hardly notices (practice: 3.2 Ω and 4 Ω).
const NEAR: std::ops::RangeInclusive<f64> = 0.79..=1.3;
/// Between these it plays, with less power or more distortion (practice).
const PLAYS: std::ops::RangeInclusive<f64> = 0.7..=2.0;

pub(super) fn choose(old: &Loudspeaker, lots: &[Lot]) -> Choices {
    let mut out = Choices::default();
    let mut offers = Offer::of_lots(lots, |l| l.piece.kind == PartKind::Loudspeaker);
    offers.push(Offer::to_buy(Piece {
        value_si: Some(old.impedance.ohms()),
        watts: old.power,
        ..Piece::new(PartKind::Loudspeaker)
    }));
    let wanted = old.impedance.ohms();
    for offer in &offers {
        assess(old, offer).settle(offer, offer.piece.to_string(), Some(wanted), &mut out);
    }
    let off = |c: &super::Choice| {
        let value = c.pieces.first().and_then(|p| p.piece.value_si).unwrap_or(wanted);
        ((value / wanted).ln().abs() * 1e6) as i64
    };
    out.choices.sort_by_key(|c| (!c.from_drawers(), off(c)));
    for text in [
        "never run a valve output with no load: its transformer breaks down",
        "one with a field coil takes its place in the supply as a choke: a permanent magnet needs a choke of the same ohms",
    ] {
        out.advice.push(ChoiceReason::practice(text, "loudspeakers"));
    }
    out
}

/// Holds a loudspeaker against the one that goes.
pub(super) fn assess(old: &Loudspeaker, offer: &Offer) -> Tally {
    let mut t = Tally::default();
    t.condition(offer.condition);
    let piece = &offer.piece;
    match piece.value_si.map(Ohm::computed) {
        None => t.unknown.push("its impedance is not known".to_owned()),
        Some(new) => {
            let share = new / old.impedance;
            let text = format!("{new} for {}", old.impedance);
            if NEAR.contains(&share) {
                t.passes.push(ChoiceReason::practice(text, "the output hardly notices"));
            } else if PLAYS.contains(&share) {
                let than = if share > 1.0 { "less power" } else { "more current in the output" };
                t.worse(format!("{text}: the output sees {} of its load, {than}", percent(share)));
            } else {
                t.refuse(format!("{text}: the output sees {} of its load", percent(share)));
            }
        }
    }
    if let Some(watts) = old.power {
        t.margin("watts", Quantity::Power, piece.watts.map(Watt::watts), watts.watts());
    }
    t
}
