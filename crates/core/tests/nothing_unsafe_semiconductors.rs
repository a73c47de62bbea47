//! Nothing that passes for a transistor or a diode breaks a limit, as re-computed here by another hand from the words of
//! rules R7, R9 and R11; the seed is fixed. The limits are common practice, no source; the ratings are the tables' own.
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, missing_docs)]

use owl_core::drawers::Piece;
use owl_core::part::{Circuit, Diode, DiodeFamily, Fact, Part, PartKind, Position};
use owl_core::substitute::{OldPart, Wanted};
use owl_core::transistor::device::{Device, by_sheet, devices};
use owl_core::transistor::diode_device::{DiodeJob, devices as diodes};
use owl_core::verdict::{Policy, School};

use crate::dice::Dice;

fn school() -> &'static Policy {
    Policy::of(School::TestFirst, false).unwrap()
}

const PLACES: [Position; 12] = [
    Position::Output,
    Position::SingleEnded,
    Position::PushPull,
    Position::HalfBridge,
    Position::RfPower,
    Position::AmFinal,
    Position::Driver,
    Position::AudioStage,
    Position::RfStage,
    Position::Mixer,
    Position::Regulator,
    Position::Switch,
];

/// How many times the supply stands across it, by the words of R11; radio frequency flows; a choke is at its base.
fn asks(position: Position) -> (f64, bool, bool) {
    match position {
        Position::HalfBridge => (1.3, false, false),
        Position::Output | Position::SingleEnded | Position::PushPull => (2.0, false, false),
        Position::RfStage | Position::Mixer => (2.0, true, false),
        Position::RfPower => (2.0, true, true),
        Position::AmFinal => (4.0, true, true),
        _ => (1.0, false, false),
    }
}

/// What is wrong with `d` in the place of `old`; nothing where nothing is.
fn wrong(
    position: Position,
    rail: Option<f64>,
    current: Option<f64>,
    old: &Device,
    d: &Device,
) -> Option<String> {
    let (times, radio, choke) = asks(position);
    let too_few = |has: Option<f64>, needs: Option<f64>| {
        needs.is_some_and(|n| has.is_none_or(|h| h < n * (1.0 - 1e-6)))
    };
    let across = if choke {
        d.vceo_volts.or(d.vcer_volts).map(|v| v.max(d.vcer_volts.unwrap_or(0.0)))
    } else {
        d.vceo_volts
    };
    let alike = rail.is_none() && old.vceo_volts.is_none();
    let needs = rail.map(|v| v * times);
    if (d.kind, d.polarity) != (old.kind, old.polarity) {
        return Some("another kind or polarity".to_owned());
    }
    if d.material.zip(old.material).is_some_and(|(a, b)| a != b) {
        return Some("another material".to_owned());
    }
    if !alike && too_few(across, needs.or(old.vceo_volts.or(old.vcer_volts))) {
        return Some(format!("{across:?} collector to emitter"));
    }
    if too_few(d.vcbo_volts, needs.or(old.vcbo_volts)) {
        return Some(format!("{:?} collector to base", d.vcbo_volts));
    }
    if too_few(d.ic_amperes, current.or(old.ic_amperes)) {
        return Some(format!("{:?} A", d.ic_amperes));
    }
    if radio && (d.ft_hertz.is_none() || too_few(d.ft_hertz, old.ft_hertz.map(|f| f * 0.7))) {
        return Some(format!("{:?} Hz", d.ft_hertz));
    }
    None
}

#[test]
fn no_transistor_that_passes_breaks_a_limit() {
    let mut dice = Dice::of_seed(1_618_033_988);
    let mut passed = 0;
    for _ in 0..10_000 {
        let old = &devices()[(dice.next() * devices().len() as f64) as usize];
        let position = dice.of(&PLACES);
        let (rail, current) =
            (dice.perhaps(&[4.5, 9.0, 12.0, 24.0, 40.0]), dice.perhaps(&[0.02, 0.2, 1.0, 3.0]));
        let mut circuit = Circuit::default();
        for (fact, v) in [(Fact::Rail, rail), (Fact::LoadCurrent, current)] {
            if let Some(v) = v {
                circuit.set_si(fact, v).unwrap();
            }
        }
        let w = Wanted {
            paired: false,
            gone: OldPart::Part(Part::Transistor(by_sheet(Some(old), None))),
            type_number: old.type_number.clone(),
            value_si: None,
            position: Some(position),
            circuit,
            sections: vec![],
        };
        let d = &devices()[(dice.next() * devices().len() as f64) as usize];
        let p = Piece { type_number: d.type_number.clone(), ..Piece::new(PartKind::Transistor) };
        let found = w.assess(&p, school(), devices()).unwrap();
        if d.type_number == old.type_number || !found.short.is_empty() || !found.unknown.is_empty() {
            continue;
        }
        passed += 1;
        if let Some(why) = wrong(position, rail, current, old, d) {
            panic!(
                "{why}: {} for {} as {position}, {rail:?} V, {current:?} A",
                d.type_number, old.type_number
            );
        }
    }
    assert!(passed > 150, "the dice must throw some that pass: {passed}");
}

/// 2√2 × the winding with half as much again the wrong way, each of a string at its worst with resistors of 5 %; the crest
/// over the path in one half wave; no selenium, no signal diode.
#[test]
fn no_rectifier_that_is_offered_breaks_a_limit() {
    let mut dice = Dice::of_seed(577_215_664);
    let (mut single, mut strings) = (0, 0);
    for _ in 0..250 {
        let (secondary, load) = (dice.between(6.0, 2500.0), dice.between(0.01, 0.8));
        let path = dice.perhaps(&[2.0, 10.0, 47.0, 150.0]);
        let mut circuit = Circuit::default();
        circuit.set_si(Fact::Secondary, secondary).unwrap();
        circuit.set_si(Fact::LoadCurrent, load).unwrap();
        if let Some(p) = path {
            circuit.set_si(Fact::ChargingPath, p).unwrap();
        }
        let family = dice.of(&[DiodeFamily::Selenium, DiodeFamily::Silicon]);
        let w = Wanted {
            paired: false,
            gone: OldPart::Part(Part::Diode(Diode { family: Some(family), plates: 1 })),
            type_number: String::new(),
            value_si: None,
            position: Some(Position::Rectifier),
            circuit,
            sections: vec![],
        };
        let found = w.choose(school(), &[], &[]).unwrap();
        for c in &found.choices {
            let n = c.pieces.len() as f64;
            let name = &c.pieces[0].piece.type_number;
            let d = diodes().iter().find(|d| d.type_number == *name).unwrap();
            let reverse = 2.0 * std::f64::consts::SQRT_2 * secondary * 1.5;
            let worst = reverse * 1.05 / (1.05 + 0.95 * (n - 1.0));
            assert!(d.reverse_volts >= worst * (1.0 - 1e-6), "{name} × {n} at {secondary} V");
            assert!(d.job == DiodeJob::Rectifier && d.family == DiodeFamily::Silicon, "{name}");
            assert!(d.amperes.unwrap() >= load, "{name} at {load} A");
            if let (Some(path), Some(surge)) = (path, d.surge_amperes) {
                assert!(
                    std::f64::consts::SQRT_2 * secondary / path <= surge * (1.0 + 1e-6),
                    "{name} over {path} Ω"
                );
            }
            if n > 1.0 { strings += 1 } else { single += 1 }
        }
    }
    assert!(single > 200 && strings > 20, "{single} {strings}");
}
