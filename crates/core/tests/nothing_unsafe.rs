//! Nothing that passes the assessment breaks a limit of the rule book, as re-computed here by another hand: slow, simple,
//! from the rule's words and not from the code. Places and parts are random but plausible; the seed is fixed, so that what
//! fails once fails again. The limits are common practice, no source, but for the classes (IEC 60384-14).
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, missing_docs)]

use crate::bench;

use owl_core::drawers::{Condition, Piece};
use owl_core::part::{
    Capacitor, CapacitorFamily, Circuit, Fact, Family, MadeOf, Part, PartKind, Position, Resistor,
    SafetyClass,
};
use owl_core::quantity::{Fraction, Ohm, Volt, Watt};
use owl_core::substitute::{OldPart, Wanted};
use owl_core::verdict::{Policy, School};

use crate::dice::Dice;

fn school() -> &'static Policy {
    Policy::of(School::TestFirst, false).unwrap()
}

const PLACES: [Position; 15] = [
    Position::Reservoir,
    Position::Smoothing,
    Position::CathodeBypass,
    Position::EmitterBypass,
    Position::ScreenBypass,
    Position::PlateDecoupling,
    Position::Coupling,
    Position::Avc,
    Position::Tone,
    Position::RfBypass,
    Position::AcrossTheLine,
    Position::LineToChassis,
    Position::AntennaIsolation,
    Position::PlateBlocking,
    Position::ModulatedBlocking,
];
const VOLTS: [f64; 12] = [6.3, 16.0, 25.0, 50.0, 63.0, 100.0, 160.0, 250.0, 400.0, 450.0, 630.0, 1600.0];
const MADE: [CapacitorFamily; 9] = [
    CapacitorFamily::Polyester,
    CapacitorFamily::Polypropylene,
    CapacitorFamily::Polystyrene,
    CapacitorFamily::CeramicClass1,
    CapacitorFamily::CeramicClass2,
    CapacitorFamily::SilverMica,
    CapacitorFamily::Electrolytic,
    CapacitorFamily::WaxPaper,
    CapacitorFamily::Tantalum,
];

/// The volts that a place asks for, by the words of rule R7; nothing where nobody can say.
fn volts_asked(position: Position, rated: Option<f64>, facts: &Circuit) -> Option<f64> {
    let (across, rail) = (facts.get_si(Fact::Voltage), facts.get_si(Fact::Rail));
    let by_job = matches!(
        position,
        Position::CathodeBypass | Position::EmitterBypass | Position::Avc | Position::Bias
    );
    // A place of low voltage: twice what can stand there, and no more is asked here.
    if rail.is_some_and(|r| r <= 30.0) && across.is_none_or(|v| v <= 30.0) {
        return Some(2.0 * rail.unwrap().max(across.unwrap_or(0.0)));
    }
    if let (true, Some(v)) = (by_job, across)
        && v <= 30.0
        && rail.is_none_or(|r| r > 30.0)
    {
        return Some(2.0 * v);
    }
    let mut most = rated.unwrap_or(0.0);
    most = most.max(1.1 * rail.unwrap_or(0.0)).max(1.1 * across.unwrap_or(0.0));
    let hangs = !matches!(
        position,
        Position::CathodeBypass
            | Position::EmitterBypass
            | Position::Avc
            | Position::Tone
            | Position::RfBypass
    );
    if let (true, Some(winding)) = (hangs, facts.get_si(Fact::Secondary)) {
        most = most.max(std::f64::consts::SQRT_2 * winding * 1.1 * 1.1);
    }
    let times = match position {
        Position::PlateBlocking => 2.0,
        Position::ModulatedBlocking => 4.0,
        _ => 0.0,
    };
    if times > 0.0 {
        most = most.max(times * rail.unwrap_or(0.0).max(across.unwrap_or(0.0)));
    }
    (most > 0.0).then_some(most)
}

/// What is wrong with a capacitor in its place; nothing where it may go in.
fn wrong(w: &Wanted, old: &Capacitor, piece: &Piece) -> Option<String> {
    let position = w.position.unwrap();
    let line = w.circuit.get_si(Fact::Line);
    let classes: Option<[SafetyClass; 2]> = match position {
        Position::AcrossTheLine => Some([SafetyClass::X1, SafetyClass::X2]),
        Position::LineToChassis | Position::AntennaIsolation => Some([SafetyClass::Y1, SafetyClass::Y2]),
        _ => None,
    };
    let volts = piece.volts.map(Volt::volts);
    if let Some(classes) = classes {
        if !piece.safety.is_some_and(|c| classes.contains(&c)) {
            return Some("not of the class".to_owned());
        }
        if let (Some(line), Some(v)) = (line, volts)
            && v < line
        {
            return Some("rated below the line".to_owned());
        }
        return None;
    }
    if piece.safety.is_some() {
        return Some("its direct volts are not known".to_owned());
    }
    let asked = volts_asked(position, old.rated.map(Volt::volts), &w.circuit);
    if let Some(asked) = asked
        && volts.is_none_or(|v| v < asked * (1.0 - 1e-6))
    {
        return Some(format!("{volts:?} where {asked} are needed"));
    }
    let ratio = piece.value_si.unwrap() / w.value_si.unwrap();
    if position == Position::Reservoir
        && w.circuit.get_si(Fact::FirstFilterLimit).is_some_and(|l| piece.value_si.unwrap() > l * 1.0001)
    {
        return Some("more than the rectifier takes".to_owned());
    }
    // No place takes a tenth or ten times of what is wanted.
    if !(0.2..=5.0).contains(&ratio) {
        return Some(format!("{ratio} times what is wanted"));
    }
    let polar = matches!(
        piece.family.and_then(MadeOf::capacitor),
        Some(CapacitorFamily::Electrolytic | CapacitorFamily::Tantalum)
    );
    if polar
        && matches!(
            position,
            Position::Coupling | Position::Avc | Position::PlateBlocking | Position::ModulatedBlocking
        )
        && old.family != Some(CapacitorFamily::Electrolytic)
    {
        return Some("it has a plus and a minus".to_owned());
    }
    if piece.family == Some(MadeOf::Capacitor(CapacitorFamily::WaxPaper)) {
        return Some("paper fails of age".to_owned());
    }
    None
}

fn place(dice: &mut Dice) -> (Wanted, Capacitor) {
    let position = dice.of(&PLACES);
    let value = dice.between(10e-12, 100e-6);
    let family = dice.of(&MADE);
    let old = Capacitor {
        family: Some(family),
        minus: Fraction::new(dice.of(&[0.05, 0.1, 0.2])).ok(),
        plus: Fraction::new(0.2).ok(),
        rated: dice.perhaps(&VOLTS).and_then(|v| Volt::new(v).ok()),
        ..bench::capacitor(family, value, None)
    };
    let mut circuit = Circuit::default();
    let ranges = [
        (Fact::Voltage, (0.5, 500.0)),
        (Fact::Rail, (4.0, 900.0)),
        (Fact::Secondary, (100.0, 400.0)),
        (Fact::Line, (110.0, 250.0)),
        (Fact::FirstFilterLimit, (8e-6, 60e-6)),
    ];
    for (fact, (low, high)) in ranges {
        if dice.next() < 0.5 {
            circuit.set_si(fact, dice.between(low, high)).unwrap();
        }
    }
    let w = Wanted {
        paired: false,
        gone: OldPart::Part(Part::Capacitor(old)),
        type_number: String::new(),
        value_si: Some(value),
        position: Some(position),
        circuit,
        sections: vec![],
    };
    (w, old)
}

fn piece(dice: &mut Dice, near: f64) -> Piece {
    Piece {
        family: Some(MadeOf::Capacitor(dice.of(&MADE))),
        value_si: Some(near * dice.of(&[0.1, 0.47, 0.68, 0.9, 1.0, 1.0, 1.1, 1.5, 2.2, 10.0])),
        volts: dice.perhaps(&VOLTS).or(Some(400.0)).and_then(|v| Volt::new(v).ok()),
        safety: if dice.next() < 0.3 {
            dice.perhaps(&[SafetyClass::X1, SafetyClass::X2, SafetyClass::Y1, SafetyClass::Y2])
        } else {
            None
        },
        ..Piece::new(PartKind::Capacitor)
    }
}

#[test]
fn no_capacitor_that_passes_breaks_a_limit() {
    let mut dice = Dice::of_seed(2_718_281_828);
    let mut passed = 0;
    for _ in 0..90_000 {
        let (w, old) = place(&mut dice);
        let p = piece(&mut dice, w.value_si.unwrap());
        let found = w.assess(&p, school(), &[]).unwrap();
        if found.short.is_empty() && found.unknown.is_empty() {
            passed += 1;
            if let Some(why) = wrong(&w, &old, &p) {
                panic!("{why}: {p:?} for {w:?}");
            }
        }
    }
    assert!(passed > 1000, "the dice must throw some that pass: {passed}");
}

#[test]
fn no_capacitor_that_is_offered_breaks_a_limit() {
    let mut dice = Dice::of_seed(1_414_213_562);
    let mut offered = 0;
    for _ in 0..300 {
        let (w, old) = place(&mut dice);
        let lots: Vec<_> =
            (0..6).map(|_| bench::lot(piece(&mut dice, w.value_si.unwrap()), 5, Condition::New)).collect();
        let Ok(found) = w.choose(school(), &lots, &[]) else { continue };
        for c in found.choices.iter().filter(|c| c.network.is_none()) {
            offered += 1;
            if let Some(why) = wrong(&w, &old, &c.pieces[0].piece) {
                // What nobody knows is said beside it.
                let said = c.pieces[0].piece.volts.is_none();
                assert!(said, "{why}: {} for {w:?}", c.description);
            }
        }
    }
    assert!(offered > 300, "{offered}");
}

#[test]
fn no_resistor_that_passes_breaks_a_limit() {
    let mut dice = Dice::of_seed(3_141_592_653);
    let bodies = [(0.125, 150.0), (0.25, 250.0), (0.5, 350.0), (1.0, 500.0), (2.0, 750.0), (5.0, 750.0)];
    let mut passed = 0;
    for _ in 0..10_000 {
        let value = dice.between(10.0, 5e6);
        let old_watts = dice.of(&[0.25, 0.5, 1.0, 2.0]);
        let tolerance = dice.of(&[0.05, 0.1, 0.2]);
        let old = Resistor {
            tolerance: Fraction::new(tolerance).ok(),
            power: Watt::new(old_watts).ok(),
            family: Family::CarbonComposition,
            value: Ohm::new(value).unwrap(),
        };
        let across = dice.between(0.5, 900.0);
        let mut circuit = Circuit::default();
        circuit.set_si(Fact::Voltage, across).unwrap();
        let w = Wanted {
            paired: false,
            gone: OldPart::Part(Part::Resistor(old)),
            type_number: String::new(),
            value_si: Some(value),
            position: Some(dice.of(&[
                Position::PlateLoad,
                Position::Cathode,
                Position::ScreenFeed,
                Position::GridLeak,
            ])),
            circuit,
            sections: vec![],
        };
        let (watts, body) = dice.of(&bodies);
        let p = Piece {
            family: Some(MadeOf::Resistor(dice.of(&[
                Family::MetalFilm,
                Family::CarbonFilm,
                Family::Wirewound,
            ]))),
            value_si: Some(value * dice.of(&[0.1, 0.8, 0.95, 1.0, 1.04, 1.3, 10.0])),
            watts: Watt::new(watts).ok(),
            ..Piece::new(PartKind::Resistor)
        };
        let Ok(found) = w.assess(&p, school(), &[]) else { continue };
        if !found.short.is_empty() || !found.unknown.is_empty() {
            continue;
        }
        passed += 1;
        // Twice what it dissipates, no less than the old one, no more across it than its body stands, inside the mark.
        let needed = (2.0 * across * across / value).max(old_watts);
        assert!(watts >= needed * (1.0 - 1e-6), "{watts} W where {needed} are needed: {w:?}");
        assert!(across <= body * (1.0 + 1e-9), "{across} V on a body of {body} V");
        let off = (p.value_si.unwrap() / value - 1.0).abs();
        assert!(off <= tolerance.max(0.05) + 1e-6, "{off} off a mark of {tolerance}");
    }
    assert!(passed > 300, "{passed}");
}
