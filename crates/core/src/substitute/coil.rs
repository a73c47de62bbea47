//! What goes in for a coil: a choke of the same henries and current, a field coil made up with a resistor, or a
//! resistor alone, which is no choke.

use super::assess::{Offer, Tally};
use super::load::Load;
use super::{
    Choice, ChoiceReason, Choices, Depth, Effect, Need, OldPart, Refused, SubstituteError, resistor,
};
use crate::drawers::Lot;
use crate::named::Named;
use crate::part::size::heat_rise;
use crate::part::{Circuit, Coil, CoilFamily, Fact, Family, MadeOf, Part, PartKind, Position, Resistor};
use crate::quantity::format::format;
use crate::quantity::{Ampere, Fraction, Henry, Hertz, Ohm, Quantity, Volt, Watt};
use crate::source::Source;
use crate::supply::field_coil::{FieldCoil, Known, made_up};
use crate::verdict::Policy;

/// The least share of the henries that still smooths (practice).
const HENRIES: f64 = 0.8;
/// How far the resistance of a choke may be below the old one before a resistor makes it up (practice).
const OHMS: f64 = 0.1;

pub(super) fn choose(
    need: &Need<'_>,
    old: &Coil,
    policy: &Policy,
    lots: &[Lot],
) -> Result<Choices, SubstituteError> {
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
    resistor_alone(need, old, policy, lots, &mut out)?;
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

/// The whole resistance as a resistor: the volts are right, the choke is lost. It is chosen as any resistor is that drops
/// so many volts.
fn resistor_alone(
    need: &Need<'_>,
    old: &Coil,
    policy: &Policy,
    lots: &[Lot],
    out: &mut Choices,
) -> Result<(), SubstituteError> {
    let Some(sheet) = old.resistance else {
        out.advice.push(ChoiceReason::practice(
            "the sheet's resistance is not known: with it a resistor can make up the volts",
            "its resistance is part of the rail's sum",
        ));
        return Ok(());
    };
    let Some(current) = need.circuit.get::<Ampere>(Fact::LoadCurrent) else { return Ok(()) };
    let stand_in = StandIn::of(sheet, current);
    let found = match resistor::choose(&stand_in.need(need), &stand_in.resistor, policy, lots, Depth::All) {
        Ok(found) => found,
        Err(SubstituteError::TooManyWatts(watts)) => {
            out.refused.push(Refused {
                description: format!("a resistor of {sheet}"),
                because: format!("{watts} at least for it: more than one body carries; share it"),
                lot: None,
                piece: None,
            });
            return Ok(());
        }
        Err(e) => return Err(e),
    };
    out.choices.extend(found.choices.into_iter().map(|mut choice| {
        // Its ohms are no henries: no deviation is shown, and its value is none of the coil's.
        choice.deviation = None;
        choice.value_si = None;
        let dissipated = stand_in.dissipated;
        choice.passes.push(ChoiceReason {
            rule: "R9",
            text: format!("{sheet} at {current} drops {} and dissipates {dissipated}", stand_in.drop),
            source: Source::handbook("Ohm's law"),
        });
        let (effects, cautions) = without_a_choke(need, old, sheet);
        choice.effects.extend(effects.into_iter().map(|text| Effect { better: false, text }));
        choice.cautions.extend(cautions);
        choice.cautions.extend(warmth(&choice, dissipated));
        choice
    }));
    // Each coil that was refused is named already; of the resistors those that tempt by their ohms.
    out.refused.extend(found.refused.into_iter().filter(|r| r.lot.is_some()));
    Ok(())
}

/// A resistor that stands for a coil: what it is, and what it drops and dissipates.
struct StandIn {
    gone: OldPart,
    resistor: Resistor,
    circuit: Circuit,
    drop: Volt,
    dissipated: Watt,
}

/// How far the ohms of a resistor may be from the coil's (practice).
const ALONE: Fraction = Fraction::computed(0.1);

impl StandIn {
    fn of(sheet: Ohm, current: Ampere) -> Self {
        let drop = current * sheet;
        let dissipated = drop * current;
        let resistor = Resistor {
            family: Family::Wirewound,
            value: sheet,
            tolerance: Some(ALONE),
            power: Some(dissipated),
        };
        let mut circuit = Circuit::default();
        // Current and ohms are above zero: so are their volts.
        let _known = circuit.set_si(Fact::Voltage, drop.volts());
        Self { gone: OldPart::Part(Part::Resistor(resistor)), resistor, circuit, drop, dissipated }
    }

    fn need(&self, of: &Need<'_>) -> Need<'_> {
        Need {
            gone: &self.gone,
            type_number: "",
            value_si: Some(self.resistor.value.ohms()),
            position: Some(Position::Feed),
            circuit: &self.circuit,
            paired: of.paired,
        }
    }
}

/// What is worse without the choke, and what to mind.
fn without_a_choke(need: &Need<'_>, old: &Coil, sheet: Ohm) -> (Vec<String>, Vec<ChoiceReason>) {
    let hum = old.inductance.zip(need.circuit.get::<Hertz>(Fact::RippleFrequency)).map(|(l, f)| {
        // The capacitor behind it is the same: the ripple goes with what stands before it.
        let times = l.reactance(f) / sheet;
        let many = format!("{times:.1}");
        if times > 1.0 {
            format!(
                "the choke is lost: {l} at {f} hold the ripple back {many} times as well as {sheet} do; hum rises so much, \
                 and a filter capacitor {many} times as large behind it takes it back"
            )
        } else {
            format!("the choke is lost, and held the ripple back no better than {sheet} do")
        }
    });
    let effects = vec![hum.unwrap_or_else(|| {
        "the choke is lost: hum rises; a larger filter capacitor behind it takes some of it back".to_owned()
    })];
    let mut cautions = Vec::new();
    if old.family == Some(CoilFamily::FieldCoil) {
        cautions.push(ChoiceReason::practice(
            "the loudspeaker then needs a permanent magnet: the field coil was its magnet",
            "field coils",
        ));
    }
    (effects, cautions)
}

/// How warm each body gets over the air round it.
fn warmth(choice: &Choice, dissipated: Watt) -> Option<ChoiceReason> {
    let rated: f64 = choice.pieces.iter().filter_map(|p| p.piece.watts).map(Watt::watts).sum();
    let family = choice.pieces.first()?.piece.family.and_then(MadeOf::resistor)?;
    let rise = heat_rise(family)?;
    let kelvin = rise.kelvin * dissipated.watts() / rated;
    Some(ChoiceReason {
        rule: "R7",
        text: format!(
            "{dissipated} in {}: about {kelvin:.0} K over the air round it; stand it off, away from wax and cans",
            Watt::computed(rated)
        ),
        source: rise.source.clone(),
    })
}

/// Holds one offer against the coil that goes: a coil, or a resistor that stands for it.
pub(super) fn assess_any(
    need: &Need<'_>,
    old: &Coil,
    policy: &Policy,
    offer: &Offer,
) -> Result<Tally, SubstituteError> {
    if offer.piece.kind != PartKind::Resistor {
        return Ok(assess(need, old, offer));
    }
    let Some((sheet, current)) = old.resistance.zip(need.circuit.get::<Ampere>(Fact::LoadCurrent)) else {
        let mut t = Tally::default();
        t.unknown.push(
            "the coil's resistance or the current through it is not known: nobody can say what the resistor dissipates"
                .to_owned(),
        );
        return Ok(t);
    };
    let stand_in = StandIn::of(sheet, current);
    let need_of = stand_in.need(need);
    let load = Load::of(&need_of, &stand_in.resistor, policy)?;
    let mut t = resistor::assess(&need_of, &load, &stand_in.resistor, offer);
    let (effects, cautions) = without_a_choke(need, old, sheet);
    effects.into_iter().for_each(|text| t.worse(text));
    t.cautions.extend(cautions);
    Ok(t)
}
