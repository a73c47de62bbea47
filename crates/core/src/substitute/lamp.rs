//! A lamp for a lamp: its volts, and in a chain of heaters its current above all.

use super::assess::{Offer, Tally};
use super::{ChoiceReason, Choices};
use crate::drawers::{Lot, Piece};
use crate::marking::lamp::lamps;
use crate::part::PartKind;
use crate::quantity::format::{format, percent};
use crate::quantity::{Ampere, Quantity, Volt};
use crate::source::Source;
use crate::supply::heater::{AroundALamp, MISMATCH};

/// How far the volts may be off (practice: a little more volts lives longer and is dimmer).
const VOLTS: (f64, f64) = (0.95, 1.2);
/// How far the current may be off where the lamp is fed alone (practice).
const ALONE: f64 = 0.4;

/// From so many times its own volts at switch-on a lamp does not live long (practice).
const SURGE: f64 = 1.5;

/// How a lamp is fed.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum LampFeed {
    /// From a winding or a battery: it has its volts whatever it draws.
    Alone,
    /// In a chain of heaters, as far as that is known: its current must match.
    Chain(Option<AroundALamp>),
}

pub(super) fn choose(volts: Volt, current: Option<Ampere>, fed: LampFeed, lots: &[Lot]) -> Choices {
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
        let t = assess(volts, current, fed, offer);
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
pub(super) fn assess(volts: Volt, current: Option<Ampere>, fed: LampFeed, offer: &Offer) -> Tally {
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
    amperes(&mut t, current, offer.piece.amperes, fed != LampFeed::Alone);
    if let LampFeed::Chain(Some(around)) = fed {
        surge(&mut t, &around, offer);
    }
    if !offer.piece.size.is_empty() {
        t.cautions.push(ChoiceReason::practice(
            format!("{}: compare it with the socket", offer.piece.size),
            "base",
        ));
    }
    t.condition(offer.condition);
    t
}

/// What stands across it while the heaters are cold.
fn surge(t: &mut Tally, around: &AroundALamp, offer: &Offer) {
    let own = offer.piece.value_si.and_then(|v| Volt::new(v).ok()).zip(offer.piece.amperes);
    let Some((volts, current)) = own.filter(|(v, a)| *v > Volt::ZERO && *a > Ampere::ZERO) else { return };
    let at_first = around.surge(volts, current);
    let times = at_first / volts;
    let text = format!("{at_first} across it while the heaters are cold, {times:.1} times its own");
    if times > SURGE {
        t.cautions.push(ChoiceReason {
            rule: "R9",
            text: format!("{text}: it lives by a thermistor in the chain or a resistor across it"),
            source: Source::memory("lamps in a heater chain"),
        });
    } else {
        t.passes.push(ChoiceReason { rule: "R9", text, source: Source::memory("lamps in a heater chain") });
    }
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
