//! Transistors as they are answered: candidates, cells, leads, the divider.

use owl_core::named::Named;
use owl_core::network::Stock;
use owl_core::preferred::{Series, between};
use owl_core::quantity::Quantity;
use owl_core::quantity::format::format;
use owl_core::substitute::ic_advice;
use owl_core::transistor::bias::{made_of, new_divider};
use owl_core::transistor::circuit::{Asked, CircuitNeed};
use owl_core::transistor::device::{Device, DeviceKind, Material};
use owl_core::transistor::equivalent::{Candidate, Fitness, LimitCheck, equivalents as core_equivalents};
use owl_core::transistor::pin_map::PinMap;
use owl_core::transistor::place;
use owl_core::transistor::rule::{RuleNumber, about};

use super::wire::{
    AskedView, CandidateView, CellView, DividerView, EquivalentsAnswer, JoinedView, PinMapView,
};
use crate::amount::Amount;
use crate::table::device::Stocked;
use crate::transistor::library::Types;
use crate::transistor::sheet::{OutlineView, StockView, TypeView};

/// What lies in the drawers, by the type number in capitals.
pub type ByType = std::collections::HashMap<String, Vec<Stocked>>;

/// How many pieces of a type lie in the drawers.
pub fn count_of(stocked: &ByType, name: &str) -> u32 {
    let all = stocked.get(&name.to_ascii_uppercase());
    all.map_or(0, |s| s.iter().map(|s| u32::try_from(s.count).unwrap_or(0)).sum())
}

/// What goes in for a transistor.
pub fn of_transistor(
    wanted: &Device,
    read_as: Option<String>,
    need: &CircuitNeed,
    types: &Types,
    stocked: &ByType,
    limit: usize,
) -> EquivalentsAnswer {
    // Only what lies in the drawers is counted there; most types do not.
    let found = core_equivalents(
        wanted,
        need,
        types.devices(),
        |name| if stocked.is_empty() { 0 } else { count_of(stocked, name) },
        limit,
    );
    let none: Vec<Stocked> = vec![];
    let of = |name: &str| stocked.get(&name.to_ascii_uppercase()).unwrap_or(&none);
    let mut advice = Vec::new();
    let by_sheet = found.iter().filter(|c| c.by_sheet < Fitness::Undecided).count();
    if wanted.collector_volts().is_none() && wanted.ic_amperes.is_none() && !need.says_something() {
        advice.push(
            "what it must stand is not known yet: say the stage, its supply and its load, or the greatest current"
                .to_owned(),
        );
    } else if !found.iter().any(Candidate::passes) {
        advice.push(
            "nothing in the table passes: say what the circuit really asks for, take another material with the bias \
             changed, or look for the original"
                .to_owned(),
        );
    } else if need.says_something() {
        let humbler = found.iter().filter(|c| c.is_humbler()).count();
        advice.push(format!(
            "of those shown {by_sheet} do as the original's sheet asks, {humbler} more for what the circuit asks"
        ));
    } else {
        advice.push("held against the original's sheet; the circuit often asks for less".to_owned());
    }
    let rules = [
        RuleNumber::TransitionLow,
        RuleNumber::TransitionHigh,
        RuleNumber::GainWindow,
        RuleNumber::CaseTemperature,
    ];
    EquivalentsAnswer {
        facts: place::asks(need.stage).to_vec(),
        asks: asks(need),
        divider: divider(wanted, need),
        candidates: found.iter().map(|c| candidate(c, of(&c.device.type_number))).collect(),
        wanted: Some(TypeView::of(wanted, Some(types), of(&wanted.type_number))),
        diode: None,
        read_as,
        same: vec![],
        advice,
        searched: types.devices().len(),
        rules: rules
            .iter()
            .filter_map(|r| about(*r))
            .map(|(text, source)| format!("{text} ({source})"))
            .collect(),
    }
}

fn asks(need: &CircuitNeed) -> Vec<AskedView> {
    let all: [(&str, Quantity, Option<Asked>); 4] = [
        ("collector volts", Quantity::Voltage, need.volts()),
        ("collector current", Quantity::Current, need.amperes()),
        ("dissipation", Quantity::Power, need.watts()),
        ("transition frequency", Quantity::Frequency, need.transition()),
    ];
    all.into_iter()
        .filter_map(|(of, q, asked)| {
            let a = asked?;
            Some(AskedView {
                of: of.to_owned(),
                amount: Amount::of(q, a.si),
                because: a.because,
                source: a.source.to_string(),
            })
        })
        .collect()
}

fn divider(wanted: &Device, need: &CircuitNeed) -> Option<DividerView> {
    let (supply, upper, lower) = (need.supply_volts?, need.upper_ohms?, need.lower_ohms?);
    let other = match wanted.material? {
        Material::Germanium => Material::Silicon,
        Material::Silicon => Material::Germanium,
    };
    if !need.other_material {
        return None;
    }
    let new = Device { material: Some(other), ..wanted.clone() };
    let (by, _) = owl_core::transistor::bias::shift(wanted, &new)?;
    let d = new_divider(supply, upper, lower, by)?;
    let stock: Vec<Stock> = between(Series::E24, 10.0, 1e7).into_iter().map(Stock::plenty).collect();
    let made = |ohms: f64| -> Vec<String> {
        made_of(ohms, &stock).map_or_else(
            |_| vec![],
            |s| {
                s.networks
                    .iter()
                    .map(|n| {
                        format!(
                            "{} = {}",
                            n.tree.expression(owl_core::network::Kind::Resistor),
                            format(Quantity::Resistance, n.value)
                        )
                    })
                    .collect()
            },
        )
    };
    Some(DividerView {
        before: Amount::of(Quantity::Voltage, d.before_volts),
        wanted: Amount::of(Quantity::Voltage, d.wanted_volts),
        lower: Amount::of(Quantity::Resistance, d.lower_ohms),
        lower_made_of: made(d.lower_ohms),
        upper: Amount::of(Quantity::Resistance, d.upper_ohms),
        upper_made_of: made(d.upper_ohms),
        text: d.text(),
    })
}

fn candidate(c: &Candidate<'_>, stocked: &[Stocked]) -> CandidateView {
    let d = c.device;
    let material = d.material.map_or_else(String::new, |m| format!("{} ", m.name()));
    CandidateView {
        type_number: d.type_number.clone(),
        what: format!(
            "{material}{}{}",
            d.polarity,
            if d.kind == DeviceKind::Darlington { " Darlington" } else { "" }
        ),
        passes: c.passes(),
        fitness: c.fitness,
        by_sheet: c.by_sheet,
        humbler: c.is_humbler(),
        score: c.score,
        order: c.cells.iter().map(|c| c.name.name()).collect(),
        cells: c.cells.iter().map(|cell| (cell.name.name(), cell_view(cell, d.kind.has_base()))).collect(),
        pin_map: Some(pin_map(&c.pin_map)),
        outline: OutlineView::of(d),
        notes: c.notes.clone(),
        drawers: stocked.iter().map(StockView::from).collect(),
        sure: d.sure.name(),
        source: d.source.to_string(),
        usual_use: d.usual_use.clone(),
    }
}

fn cell_view(c: &LimitCheck, base: bool) -> CellView {
    use owl_core::transistor::equivalent::LimitName as N;
    let label = match (c.name, base) {
        (N::Kind, _) => "kind",
        (N::Polarity, _) => "polarity",
        (N::Material, _) => "material",
        (N::Vcbo, true) => "C–B",
        (N::Vceo, true) => "C–E",
        (N::Vebo, true) => "E–B",
        (N::Vcbo, false) => "D–G",
        (N::Vceo, false) => "D–S",
        (N::Vebo, false) => "G–S",
        (N::Ic, true) => "IC",
        (N::Ic, false) => "ID",
        (N::Power, _) => "power",
        (N::Gain, _) => "gain",
        (N::Transition, _) => "fT",
        (N::Capacitance, _) => "Cob",
        (N::Idss, _) => "IDSS",
        (N::Transconductance, _) => "gfs",
        (N::Package, _) => "package",
    };
    CellView {
        label,
        hard: c.hard,
        state: c.state,
        value: c.value_si,
        needed: c.needed_si,
        has: c.has.clone(),
        needs: c.needs.clone(),
        why: c.why.clone(),
    }
}

fn pin_map(m: &PinMap) -> PinMapView {
    PinMapView {
        leads: m.leads,
        text: m.text.clone(),
        crossed: m.crossed.map(|(a, b)| vec![a, b]),
        joined: m
            .joined
            .iter()
            .map(|j| JoinedView { electrode: j.electrode, old: j.old, new: j.new })
            .collect(),
    }
}

/// Of a circuit: where the same one lies, and advice.
pub fn of_circuit(name: &str, stocked: &ByType) -> EquivalentsAnswer {
    let same = stocked
        .get(&name.to_ascii_uppercase())
        .map_or_else(Vec::new, |s| s.iter().map(StockView::from).collect());
    EquivalentsAnswer {
        wanted: None,
        diode: None,
        read_as: None,
        facts: vec![],
        asks: vec![],
        candidates: vec![],
        divider: None,
        same,
        advice: ic_advice().iter().map(|t| (*t).to_owned()).collect(),
        searched: 0,
        rules: vec![],
    }
}
