//! A fuse for a fuse (rule R24): the same current and the same speed, never more.

use super::assess::{Offer, Tally};
use super::{ChoiceReason, Choices};
use crate::drawers::{Lot, Piece};
use crate::marking::fuse::speed_of;
use crate::part::{Fuse, FuseSpeed, PartKind};
use crate::quantity::{Ampere, Quantity, Volt};

/// What a fuse in the line interrupts (practice: the usual marking of miniature fuses for the line).
const LINE: Volt = Volt::computed(250.0);
/// How close the current must be: as printed (practice).
const SAME: f64 = 0.02;

pub(super) fn choose(old: &Fuse, lots: &[Lot]) -> Choices {
    let mut out = Choices::default();
    let mut offers = Offer::of_lots(lots, |l| l.piece.kind == PartKind::Fuse);
    offers.push(Offer::to_buy(Piece {
        value_si: Some(old.rated.amperes()),
        type_number: old.speed.map(|s| s.to_string()).unwrap_or_default(),
        volts: old.volts,
        ..Piece::new(PartKind::Fuse)
    }));
    for offer in &offers {
        assess(old, offer).settle(offer, offer.piece.to_string(), Some(old.rated.amperes()), &mut out);
    }
    out.choices.sort_by_key(|c| !c.from_drawers());
    for text in [
        "find what blew it first; the second fuse is no test",
        "plug out before the holder is opened; never a larger one, never a wire",
        "the current and the speed that the sheet or the label beside the holder says count, not what was found in it",
    ] {
        out.advice.push(ChoiceReason::practice(text, "fuses"));
    }
    out
}

/// Holds a fuse against the one that goes.
pub(super) fn assess(old: &Fuse, offer: &Offer) -> Tally {
    let mut t = Tally::default();
    t.condition(offer.condition);
    let piece = &offer.piece;
    match piece.value_si.map(Ampere::computed) {
        None => t.unknown.push("its current is not known".to_owned()),
        Some(new) => {
            let share = new / old.rated;
            if share > 1.0 + SAME {
                t.refuse(format!(
                    "{new} for {}: it would let more through than the set was made for",
                    old.rated
                ));
            } else if share < 1.0 - SAME {
                t.refuse(format!("{new} for {}: it blows at switch-on", old.rated));
            } else {
                t.passes.push(ChoiceReason::practice(format!("{new}, the same current"), "fuses"));
            }
        }
    }
    speed(&mut t, old.speed, speed_of(&piece.type_number));
    match old.volts {
        Some(volts) => t.margin("volts", Quantity::Voltage, piece.volts.map(Volt::volts), volts.volts()),
        // What the old one had to interrupt is not known: only one for the line is safe anywhere.
        None if piece.volts.is_none_or(|v| v < LINE) => {
            t.unknown.push(format!("the volts that it must interrupt are not known: on the line {LINE}"));
        }
        None => t.passes.push(ChoiceReason::practice(format!("interrupts {LINE}"), "fuses")),
    }
    t
}

fn speed(t: &mut Tally, old: Option<FuseSpeed>, new: Option<FuseSpeed>) {
    match (old, new) {
        (Some(o), Some(n)) if o == n => {
            t.passes.push(ChoiceReason::practice(format!("speed {n}, the same"), "fuses"));
        }
        (Some(o), Some(n)) if FuseSpeed::rank(n) > FuseSpeed::rank(o) => {
            t.refuse(format!("speed {n} for {o}: slower, it protects less"));
        }
        (Some(o), Some(n)) => t.worse(format!("speed {n} for {o}: quicker, it may blow at switch-on")),
        (Some(o), None) => t.unknown.push(format!("its speed is not known: it must be {o}")),
        (None, _) => t.cautions.push(ChoiceReason::practice(
            "how fast the old one was is not known: look at the sheet or the label beside the holder",
            "fuses",
        )),
    }
}
