//! A lamp for a lamp: its volts, and in a chain of heaters its current above all.

use super::assess::{Offer, Tally};
use super::{ChoiceReason, Choices};
use crate::drawers::{Lot, Piece};
use crate::marking::lamp::lamps;
use crate::part::PartKind;
use crate::quantity::format::{format, percent};
use crate::quantity::{Ampere, Quantity, Volt};
use crate::source::Source;
use crate::supply::heater::MISMATCH;

/// How far the volts may be off (practice: a little more volts lives longer and is dimmer).
const VOLTS: (f64, f64) = (0.95, 1.2);
/// How far the current may be off where the lamp is fed alone (practice).
const ALONE: f64 = 0.4;

pub(super) fn choose(volts: Volt, current: Option<Ampere>, in_chain: bool, lots: &[Lot]) -> Choices {
    let mut out = Choices::default();
    let mut offers = Offer::of_lots(lots, |l| l.piece.kind == PartKind::Lamp);
    let near = |v: f64| (0.5..=2.0).contains(&(v / volts.volts()));
    offers.extend(lamps().iter().filter(|l| near(l.volts)).map(|l| {
        Offer::to_buy(Piece {
            type_number: l.number.clone(),
            value_si: Some(l.volts),
            amperes: Some(Ampere::computed(l.amperes)),
            size: format!("{} base", l.base),
            ..Piece::new(PartKind::Lamp)
        })
    }));
    for offer in &offers {
        let Some(v) = offer.piece.value_si else { continue };
        let t = assess(volts, current, in_chain, offer);
        let number = if offer.piece.type_number.is_empty() {
            String::new()
        } else {
            format!("number {}, ", offer.piece.type_number)
        };
        let own = offer.piece.amperes.map_or_else(String::new, |a| format!(" {a}"));
        t.settle(
            offer,
            format!("{number}{}{own}", format(Quantity::Voltage, v)),
            Some(volts.volts()),
            &mut out,
        );
    }
    out
}

/// Holds one offer against the lamp that goes.
pub(super) fn assess(volts: Volt, current: Option<Ampere>, in_chain: bool, offer: &Offer) -> Tally {
    let mut t = Tally::default();
    if let Some(v) = offer.piece.value_si {
        t.value(
            Quantity::Voltage,
            volts.volts(),
            v,
            "a little more lives longer and glows dimmer",
            Source::practice("lamps"),
        );
        if !(VOLTS.0..=VOLTS.1).contains(&(v / volts.volts())) {
            t.refuse(format!("{} for {volts}", format(Quantity::Voltage, v)));
        }
    }
    amperes(&mut t, current, offer.piece.amperes, in_chain);
    if !offer.piece.size.is_empty() {
        t.cautions.push(ChoiceReason::practice(
            format!("{}: compare it with the socket", offer.piece.size),
            "base",
        ));
    }
    t.condition(offer.condition);
    t
}

fn amperes(t: &mut Tally, wanted: Option<Ampere>, own: Option<Ampere>, in_chain: bool) {
    let (Some(wanted), Some(own)) = (wanted, own) else {
        t.cautions.push(ChoiceReason::practice(
            "its current is not known: in a chain of heaters it must match, or it dies at switch-on",
            "lamps in a heater chain",
        ));
        return;
    };
    let off = own.amperes() / wanted.amperes() - 1.0;
    let most = if in_chain { MISMATCH } else { ALONE };
    if off.abs() > most + 1e-9 {
        let why = if in_chain {
            "in a chain of heaters the current must match, or it dies at switch-on and the set with it"
        } else {
            "too far from the old one's brightness and load"
        };
        t.refuse(format!("{own} for {wanted}: {why}"));
    } else if off == 0.0 {
        t.passes.push(ChoiceReason::practice(format!("{own}, as the old one"), "lamps in a heater chain"));
    } else {
        t.passes.push(ChoiceReason::practice(
            format!("{own} for {wanted}, within {}", percent(most)),
            "lamps in a heater chain",
        ));
    }
}
