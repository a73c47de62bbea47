//! What goes in for a transistor: the desk's equivalents, with what lies in the drawers first. And for an integrated
//! circuit: the same one, or none.

use std::sync::LazyLock;

use serde::Deserialize;

use super::assess::{Offer, Tally};

use super::{Choice, ChoiceReason, Choices, Need};
use crate::drawers::{Lot, Piece};
use crate::named::Named;
use crate::part::{Fact, MadeOf, Material, PartKind, Polarity, Position, Transistor};
use crate::quantity::{Ampere, Quantity, Volt, Watt};
use crate::source::Source;
use crate::table::rows;
use crate::transistor::Device;
use crate::transistor::circuit::{CircuitNeed, Stage};
use crate::transistor::device::{DeviceKind, PowerReference, meant};
use crate::transistor::equivalent::{
    Candidate, Fitness, LimitCheck, LimitName, LimitState, before, compare, equivalents,
};
use crate::transistor::identify::{Conditions, identify};
use crate::transistor::pin_map::is_held_otherwise;
use crate::transistor::place::{asks, need as need_at, stage_at};

/// How many types to buy are looked at closely.
const TO_BUY: usize = 30;

/// What fits in place of a transistor, out of `library` and the drawers, best first.
///
/// R11 with the rail and the load's current as what the circuit asks for, where they are known.
#[must_use]
pub fn choose(need: &Need<'_>, old: &Transistor, library: &[Device], lots: &[Lot]) -> Choices {
    let mut out = Choices::asking(need, asks(need.position.and_then(stage_at)));
    let known = |t: &str| library.iter().find(|d| d.is_called(t));
    let by_need = by_need(need, old);
    let Some(wanted) = meant(need.type_number, known).or(by_need.as_ref()) else {
        out.advice.push(ChoiceReason::practice(unknown_type(need, old), "hard limits first"));
        return out;
    };
    if by_need.is_some() && meant(need.type_number, known).is_none() {
        let text = format!(
            "{} is not in the table: what goes in is held against what its place asks for, and not against its own limits; \
             compare the leads at the part",
            if need.type_number.is_empty() { "its type" } else { need.type_number }
        );
        let source = asked_by(need.position).map(|n| n.source.clone());
        out.advice
            .push(ChoiceReason::r7(text, source.unwrap_or_else(|| Source::practice("replaced by need"))));
    }
    if need.position == Some(Position::Output) {
        let text = "say which output it is: single-ended, push-pull with a transformer, or without one; held against the \
                    one that asks for the most, twice the supply";
        out.advice.push(ChoiceReason::practice(text, "what an output stage asks depends on its class"));
    }
    let circuit = circuit_of(need);
    let mut stocked: Vec<(Candidate<'_>, Offer)> = Vec::new();
    for offer in Offer::of_lots(lots, |l| l.piece.kind == PartKind::Transistor) {
        match meant(&offer.piece.type_number, known) {
            Some(d) => stocked.push((compare(wanted, &circuit, d, offer.count.unwrap_or(0)), offer)),
            None => not_in_the_table().settle(&offer, offer.piece.to_string(), None, &mut out),
        }
    }
    stocked.sort_by(|a, b| before(wanted, &circuit, &a.0, &b.0));
    for (c, offer) in &stocked {
        tally(c, offer).settle(offer, describe(c.device), None, &mut out);
    }
    for c in equivalents(wanted, &circuit, library, |_| 0, TO_BUY) {
        let offer = Offer::to_buy(piece(c.device));
        tally(&c, &offer).settle(&offer, describe(c.device), None, &mut out);
    }
    // Those in the drawers first; a stable sort leaves each in the desk's order. One that is held in another way than the
    // old one was, by a flange where its wires held it, comes after the first that is to be bought.
    let otherwise = |c: &Choice| {
        let device = c.pieces.first().and_then(|p| meant(&p.piece.type_number, known));
        device.is_some_and(|d| is_held_otherwise(wanted, d))
    };
    let bought = out.choices.iter().position(|c| !c.from_drawers());
    let mut ranked: Vec<(u8, Choice)> = std::mem::take(&mut out.choices)
        .into_iter()
        .enumerate()
        .map(|(i, c)| match (c.from_drawers(), otherwise(&c)) {
            (true, false) => (0, c),
            (true, true) => (2, c),
            (false, _) if Some(i) == bought => (1, c),
            (false, _) => (3, c),
        })
        .collect();
    ranked.sort_by_key(|(rank, _)| *rank);
    out.choices = ranked.into_iter().map(|(_, c)| c).collect();
    if old.material.is_some_and(|m| wanted.material.is_some_and(|w| w != m)) {
        out.advice.push(ChoiceReason::practice(
            "its junctions are not those of its type: look at the print again",
            "two materials",
        ));
    }
    out
}

/// What a place asks of any transistor in it; of stages of little power.
#[derive(Debug, Deserialize)]
struct PlaceNeed {
    position: Position,
    /// Collector current.
    amperes: f64,
    /// Dissipation in free air at 25 °C.
    watts: f64,
    /// Transition frequency.
    hertz: f64,
    /// Current gain, at the least.
    gain: f64,
    source: Source,
}

static PLACE_NEEDS: LazyLock<Vec<PlaceNeed>> =
    LazyLock::new(|| rows("place_need.csv", include_str!("../../data/place_need.csv")));

fn asked_by(position: Option<Position>) -> Option<&'static PlaceNeed> {
    PLACE_NEEDS.iter().find(|n| Some(n.position) == position)
}

/// A type of which only its place, its polarity and its material are known, where that is enough to replace it by need:
/// the stage and its rail, and which way round it is.
fn by_need(need: &Need<'_>, old: &Transistor) -> Option<Device> {
    let (polarity, material) = seen(old);
    let Some(asks) = asked_by(need.position) else { return by_sums(need, polarity?, material?) };
    let rail = need.fact(Fact::Rail)?;
    Some(Device {
        material: Some(material?),
        vceo_volts: Some(rail),
        ic_amperes: Some(asks.amperes),
        power_watts: Some(asks.watts),
        power_reference: Some(PowerReference::Ambient),
        power_at_celsius: Some(25.0),
        ft_hertz: Some(asks.hertz),
        gain_min: Some(asks.gain),
        ..Device::unknown(DeviceKind::Bipolar, polarity?)
    })
}

/// One whose stage is no small one: its limits are what volts, current and heat come to, once all three are known.
fn by_sums(need: &Need<'_>, polarity: Polarity, material: Material) -> Option<Device> {
    let asks = circuit_of(need);
    let (volts, amperes, watts) = (asks.volts()?.si, asks.amperes()?.si, asks.watts()?.si);
    // Where radio frequency flows, what it works at decides and must be known.
    if asks.stage.is_some_and(Stage::is_radio) && asks.transition().is_none() {
        return None;
    }
    Some(Device {
        material: Some(material),
        vceo_volts: Some(volts),
        ic_amperes: Some(amperes),
        power_watts: Some(watts),
        power_reference: Some(PowerReference::Case),
        power_at_celsius: Some(asks.celsius()),
        ft_hertz: asks.transition().map(|t| t.si),
        gain_min: asks.gain_asked().map(|(g, _)| g),
        ..Device::unknown(DeviceKind::Bipolar, polarity)
    })
}

/// Which way round a bipolar one is and of what: by its series, else by its junctions.
fn seen(old: &Transistor) -> (Option<Polarity>, Option<Material>) {
    let found = old.junctions.map(|t| identify(&t.six, ["1", "2", "3"], Conditions::default()));
    let by_junctions = found.as_ref().map_or((None, None), |f| (f.polarity, f.material));
    let polarity = old.polarity.or(by_junctions.0);
    let bipolar = polarity.filter(|p| matches!(p, Polarity::Npn | Polarity::Pnp));
    (bipolar, old.material.or(by_junctions.1))
}

/// What is missing to replace a type that nobody knows.
fn unknown_type(need: &Need<'_>, old: &Transistor) -> String {
    let mut missing = Vec::new();
    match need.position.and_then(stage_at) {
        None => missing.push("its stage".to_owned()),
        Some(_) if asked_by(need.position).is_some() => {
            missing.extend(need.fact(Fact::Rail).is_none().then(|| "its rail".to_owned()));
        }
        Some(stage) => {
            let open = asks(Some(stage)).iter().filter(|f| need.fact(**f).is_none());
            missing.extend(open.filter_map(|f| Some(format!("its {}", f.label()?.label))));
        }
    }
    let (polarity, material) = seen(old);
    if polarity.is_none() || material.is_none() {
        missing.push("by its junctions whether it is NPN or PNP, germanium or silicon".to_owned());
    }
    if missing.is_empty() {
        missing.push("its watts by its sheet: what is known of its stage does not give them".to_owned());
    }
    let what = if need.type_number.is_empty() {
        "its type is not known: read its print, or".to_owned()
    } else {
        format!("{} is not in the table: add its row at the transistor desk, or", need.type_number)
    };
    format!("{what} say {}, and it is replaced by need", missing.join(", "))
}

/// Whether it is the same number: that fits its own place.
fn same(need: &Need<'_>, piece: &Piece) -> bool {
    let own = need.type_number.trim();
    !own.is_empty() && piece.type_number.trim().eq_ignore_ascii_case(own)
}

/// Holds a type against the one that goes, or says what is missing to do so.
pub(super) fn assess(need: &Need<'_>, old: &Transistor, library: &[Device], offer: &Offer) -> Tally {
    if same(need, &offer.piece) {
        return Tally::default();
    }
    let known = |t: &str| library.iter().find(|d| d.is_called(t));
    match (meant(need.type_number, known), meant(&offer.piece.type_number, known)) {
        (None, Some(d)) => match by_need(need, old) {
            Some(wanted) => tally(&compare(&wanted, &circuit_of(need), d, 0), offer),
            None => {
                let unknown = "the old one's type is not known: what its place asks for is not either";
                Tally { unknown: vec![unknown.to_owned()], ..Tally::default() }
            }
        },
        (_, None) => not_in_the_table(),
        (Some(wanted), Some(d)) => tally(&compare(wanted, &circuit_of(need), d, 0), offer),
    }
}

fn not_in_the_table() -> Tally {
    let mut t = Tally::default();
    t.refuse("its type is not in the table: add its row at the transistor desk");
    t
}

fn circuit_of(need: &Need<'_>) -> CircuitNeed {
    need_at(need.position.and_then(stage_at), need.circuit)
}

fn describe(d: &Device) -> String {
    let material = d.material.map_or("", Named::name);
    format!("{} {material} {}", d.type_number, d.polarity)
}

/// A type as a piece to buy.
fn piece(d: &Device) -> Piece {
    Piece {
        family: d.material.map(|m| MadeOf::Diode(m.family())),
        type_number: d.type_number.clone(),
        volts: d.collector_volts().map(Volt::computed),
        amperes: d.ic_amperes.map(Ampere::computed),
        watts: d.power_watts.map(Watt::computed),
        ..Piece::new(PartKind::Transistor)
    }
}

fn tally(c: &Candidate<'_>, offer: &Offer) -> Tally {
    let mut t = Tally::default();
    let source = || Source::practice("hard limits first, then how near it comes");
    for cell in &c.cells {
        let said = said(cell);
        match (cell.hard, cell.state) {
            (true, LimitState::Short) => t.refuse(format!("{}: {said}", called(cell.name))),
            (true, LimitState::Unknown) if c.fitness >= Fitness::Undecided => {
                t.refuse(format!("{}: {said}, and in its place that decides", called(cell.name)));
            }
            (true, LimitState::Unknown) => {
                t.unknown.push(format!("{} {said}", called(cell.name)));
                t.cautions.push(ChoiceReason {
                    rule: "R11",
                    text: format!("{} {said}: look it up before it is fitted", called(cell.name)),
                    source: source(),
                });
            }
            (false, LimitState::Short) => t.worse(format!("{}: {said}", called(cell.name))),
            (_, LimitState::Pass) => match unit(cell.name).zip(cell.needed_si) {
                Some((q, needed)) if cell.hard => t.margin(called(cell.name), q, cell.value_si, needed),
                _ => {}
            },
            (false, LimitState::Unknown) => {}
        }
    }
    t.passes.push(ChoiceReason { rule: "R11", text: format!("leads: {}", c.pin_map.text), source: source() });
    for note in &c.notes {
        t.cautions.push(ChoiceReason { rule: "R11", text: note.clone(), source: source() });
    }
    t.condition(offer.condition);
    t
}

fn said(cell: &LimitCheck) -> String {
    match (cell.has.is_empty(), cell.why.is_empty()) {
        (false, false) => format!("{}, {}", cell.has, cell.why),
        (false, true) => cell.has.clone(),
        (true, _) => cell.why.clone(),
    }
}

fn unit(name: LimitName) -> Option<Quantity> {
    match name {
        LimitName::Vcbo | LimitName::Vceo | LimitName::Vebo => Some(Quantity::Voltage),
        LimitName::Ic => Some(Quantity::Current),
        LimitName::Power => Some(Quantity::Power),
        LimitName::Transition => Some(Quantity::Frequency),
        LimitName::Kind
        | LimitName::Polarity
        | LimitName::Material
        | LimitName::Gain
        | LimitName::Capacitance
        | LimitName::Idss
        | LimitName::Transconductance
        | LimitName::Package => None,
    }
}

fn called(name: LimitName) -> &'static str {
    match name {
        LimitName::Kind => "kind",
        LimitName::Polarity => "polarity",
        LimitName::Material => "material",
        LimitName::Vcbo => "collector to base volts",
        LimitName::Vceo => "collector to emitter volts",
        LimitName::Vebo => "emitter to base volts",
        LimitName::Ic => "collector current",
        LimitName::Power => "watts",
        LimitName::Gain => "gain",
        LimitName::Transition => "transition frequency",
        LimitName::Capacitance => "capacitance",
        LimitName::Idss => "drain current",
        LimitName::Transconductance => "transconductance",
        LimitName::Package => "package",
    }
}
