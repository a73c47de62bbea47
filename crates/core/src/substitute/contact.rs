//! A switch for a switch (rule R25): its volts, and its contacts by the eye.

use super::assess::{Offer, Tally};
use super::{ChoiceReason, Choices, Need};
use crate::drawers::Lot;
use crate::part::{Fact, PartKind};
use crate::quantity::{Quantity, Volt};

/// The facts that count for a contact.
pub(super) const FACTS: [Fact; 1] = [Fact::Voltage];

pub(super) fn choose(need: &Need<'_>, lots: &[Lot]) -> Choices {
    let mut out = Choices::asking(need, &FACTS);
    for offer in &Offer::of_lots(lots, |l| l.piece.kind == PartKind::Switch) {
        assess(need, offer).settle(offer, offer.piece.to_string(), None, &mut out);
    }
    for text in [
        "a wafer of the same make from a scrapped set is the best successor; note every wire before the first is cut",
        "a switch in the line parts both sides of it, and its volts are the line's; local code comes first",
    ] {
        out.advice.push(ChoiceReason::practice(text, "switches"));
    }
    out
}

/// Holds a switch against its place.
pub(super) fn assess(need: &Need<'_>, offer: &Offer) -> Tally {
    let mut t = Tally::default();
    t.condition(offer.condition);
    if let Some(volts) = need.fact(Fact::Voltage) {
        t.margin("volts", Quantity::Voltage, offer.piece.volts.map(Volt::volts), volts);
    }
    t.cautions.push(ChoiceReason::practice(
        "the same poles and throws, and whether it breaks before it makes",
        "switches",
    ));
    t
}
