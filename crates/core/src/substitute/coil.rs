//! What goes in for a coil: a choke of the same henries and current, a field coil made up with a resistor, or a
//! resistor alone, which is no choke.

use super::assess::{Offer, Tally};
use super::{ChoiceReason, Choices, Need, Refused, SubstituteError};
use crate::drawers::{Lot, Piece};
use crate::named::Named;
use crate::part::size::at_least;
use crate::part::{Coil, CoilFamily, Fact, Family, MadeOf, PartKind};
use crate::quantity::format::format;
use crate::quantity::{Ampere, Henry, Ohm, Quantity, Watt};
use crate::source::Source;
use crate::supply::field_coil::{FieldCoil, Known, MadeUp, made_up};

/// The least share of the henries that still smooths (practice).
const HENRIES: f64 = 0.8;
/// How far the resistance of a choke may be below the old one before a resistor makes it up (practice).
const OHMS: f64 = 0.1;

pub(super) fn choose(need: &Need<'_>, old: &Coil, lots: &[Lot]) -> Result<Choices, SubstituteError> {
    let mut out = Choices::default();
    match old.family {
        Some(CoilFamily::TransformerWinding) => {
            out.advice.push(ChoiceReason::practice(
                "no winding is bought alone: rewind it, or find a transformer with the same volts, amperes and size",
                "rewind or replace",
            ));
            return Ok(out);
        }
        Some(CoilFamily::SignalCoil) => {
            out.advice.push(ChoiceReason::practice(
                "mend the break, or rewind it with the same turns and wire; align the stage afterwards",
                "repair or rewind",
            ));
            return Ok(out);
        }
        Some(CoilFamily::FieldCoil | CoilFamily::Choke) | None => {}
    }
    out.asks = Choices::asking(need, &[Fact::LoadCurrent]).asks;
    for offer in Offer::of_lots(lots, |l| l.piece.kind == PartKind::Coil) {
        let tally = assess(need, old, &offer);
        tally.settle(&offer, offer.piece.to_string(), old.inductance.map(Henry::henries), &mut out);
    }
    resistor_alone(need, old, lots, &mut out);
    Ok(out)
}

fn assess(need: &Need<'_>, old: &Coil, offer: &Offer) -> Tally {
    let mut t = Tally::default();
    let piece = &offer.piece;
    match piece.family.and_then(MadeOf::coil) {
        Some(CoilFamily::Choke | CoilFamily::FieldCoil) => {}
        other => t.refuse(format!(
            "{}: a choke or field coil is needed",
            other.map_or("nobody knows what it is", |f| Named::name(f))
        )),
    }
    if let Some(l) = old.inductance {
        t.margin("henries", Quantity::Inductance, piece.value_si, l.henries() * HENRIES);
    }
    if let Some(i) = need.fact(Fact::LoadCurrent) {
        t.margin("amperes", Quantity::Current, piece.amperes.map(Ampere::amperes), i);
    }
    if let (Some(sheet), Some(own)) = (old.resistance, piece.winding) {
        let missing = sheet.ohms() - own.ohms();
        if missing > OHMS * sheet.ohms() {
            t.cautions.push(match made_up_text(need, sheet, own) {
                Some(text) => ChoiceReason { rule: "R9", text, source: Source::handbook("Ohm's law") },
                None => ChoiceReason::practice(
                    format!(
                        "{} short of the old one: the rail rises; make it up with a resistor",
                        ohms(missing)
                    ),
                    "its resistance is part of the rail's sum",
                ),
            });
        } else if missing < -OHMS * sheet.ohms() {
            t.worse(format!("{} more than the old one: the rail falls", ohms(-missing)));
        } else {
            t.passes.push(ChoiceReason::practice(
                format!("{own} for {sheet}"),
                "its resistance is part of the rail's sum",
            ));
        }
    }
    if old.family == Some(CoilFamily::FieldCoil) && piece.family == Some(MadeOf::Coil(CoilFamily::Choke)) {
        t.cautions.push(ChoiceReason::practice(
            "the loudspeaker then needs a permanent magnet: the field coil was its magnet",
            "field coils",
        ));
    }
    t.condition(offer.condition);
    t
}

fn ohms(v: f64) -> String {
    format(Quantity::Resistance, v).to_string()
}

fn made_up_text(need: &Need<'_>, sheet: Ohm, own: Ohm) -> Option<String> {
    let current = Known::Current(need.circuit.get(Fact::LoadCurrent)?);
    let m = made_up(FieldCoil { wanted: sheet, present: own, known: current }).ok()?;
    let size = m.resistor.size.map_or_else(|| m.rating.low.to_string(), |w| w.to_string());
    Some(format!(
        "{} in series makes up for it: {} across it, {} in it, {size} at least",
        m.resistor.value, m.resistor.volts, m.resistor.dissipated
    ))
}

/// The whole resistance as a resistor: the volts are right, the choke is lost.
fn resistor_alone(need: &Need<'_>, old: &Coil, lots: &[Lot], out: &mut Choices) {
    let Some(sheet) = old.resistance else {
        out.advice.push(ChoiceReason::practice(
            "the sheet's resistance is not known: with it a resistor can make up the volts",
            "its resistance is part of the rail's sum",
        ));
        return;
    };
    let Some(current) = need.circuit.get(Fact::LoadCurrent) else { return };
    let Ok(m) = made_up(FieldCoil { wanted: sheet, present: Ohm::ZERO, known: Known::Current(current) })
    else {
        return;
    };
    let Some(size) = at_least(m.rating.low) else {
        out.refused.push(Refused {
            description: format!("a resistor of {}", m.resistor.value),
            because: format!("{} in it: more than one body carries; share it", m.resistor.dissipated),
            lot: None,
        });
        return;
    };
    let fits = |l: &Lot| {
        l.piece.kind == PartKind::Resistor
            && l.piece.watts.is_some_and(|w| w.watts() >= m.rating.low.watts())
            && l.piece.value_si.is_some_and(|v| (v / sheet.ohms() - 1.0).abs() <= 0.1)
    };
    let mut offers = Offer::of_lots(lots, fits);
    offers.push(Offer::to_buy(bought(m.resistor.value, size.power)));
    for offer in &offers {
        let t = alone(old, sheet, current, &m, offer);
        // The resistor's ohms are no henries: no deviation is shown.
        t.settle(offer, offer.piece.to_string(), None, out);
    }
}

/// How far the ohms of a resistor may be from the coil's (practice).
const ALONE: f64 = 0.1;

/// Holds a resistor that stands for the whole coil against what it drops and dissipates.
fn alone(old: &Coil, sheet: Ohm, current: Ampere, m: &MadeUp, offer: &Offer) -> Tally {
    let mut t = Tally::default();
    if let Some(v) = offer.piece.value_si.filter(|v| (v / sheet.ohms() - 1.0).abs() > ALONE + 1e-9) {
        t.refuse(format!("{} for {sheet}: the rail is no longer what the sheet says", ohms(v)));
    }
    t.margin("watts", Quantity::Power, offer.piece.watts.map(Watt::watts), m.rating.low.watts());
    t.passes.push(ChoiceReason {
        rule: "R9",
        text: format!(
            "{} at {current} drops {} and dissipates {}",
            m.resistor.value, m.resistor.volts, m.resistor.dissipated
        ),
        source: Source::handbook("Ohm's law"),
    });
    t.worse("the choke is lost: hum rises; a larger filter capacitor behind it takes some of it back");
    t.cautions.push(ChoiceReason::practice("it runs hot: stand it off, away from wax and cans", "hot parts"));
    if old.family == Some(CoilFamily::FieldCoil) {
        t.cautions.push(ChoiceReason::practice(
            "the loudspeaker then needs a permanent magnet: the field coil was its magnet",
            "field coils",
        ));
    }
    t.condition(offer.condition);
    t
}

/// Holds one offer against the coil that goes: a coil, or a resistor that stands for it.
pub(super) fn assess_any(need: &Need<'_>, old: &Coil, offer: &Offer) -> Tally {
    if offer.piece.kind != PartKind::Resistor {
        return assess(need, old, offer);
    }
    let current: Option<Ampere> = need.circuit.get(Fact::LoadCurrent);
    let known = old.resistance.zip(current).and_then(|(sheet, current)| {
        let coil = FieldCoil { wanted: sheet, present: Ohm::ZERO, known: Known::Current(current) };
        Some((sheet, current, made_up(coil).ok()?))
    });
    match known {
        Some((sheet, current, m)) => alone(old, sheet, current, &m, offer),
        None => {
            let mut t = Tally::default();
            t.unknown.push(
                "the coil's resistance or the current through it is not known: nobody can say what the resistor \
                 dissipates"
                    .to_owned(),
            );
            t
        }
    }
}

fn bought(value: Ohm, watts: Watt) -> Piece {
    Piece {
        family: Some(MadeOf::Resistor(Family::Wirewound)),
        value_si: Some(value.ohms()),
        watts: Some(watts),
        ..Piece::new(PartKind::Resistor)
    }
}
