//! The one assessment of what goes in: the same limits for a drawer's piece, a bought one and one typed by hand.
//! The parts and places are common practice, no source, unless something else stands there.
#![allow(clippy::unwrap_used, clippy::expect_used, clippy::panic, missing_docs)]

use crate::bench;

use owl_core::drawers::{Condition, Piece};
use owl_core::marking::{Hints, read_text};
use owl_core::part::{
    CapacitorFamily, Circuit, Fact, Family, Ic, MadeOf, Part, PartKind, Position, SafetyClass,
};
use owl_core::quantity::{Fraction, Volt, Watt};
use owl_core::set::{Devices, PowerSource, SetClass};
use owl_core::substitute::{OldPart, Wanted};
use owl_core::tray::assessed::{GoingIn, OfferedPiece, allowed, fill, read};
use owl_core::tray::goes_in::{Objection, OfferError, far_off, wanted};
use owl_core::tray::{Id, NewPart, Tray, TrayPart};
use owl_core::verdict::{Policy, School};

fn school() -> &'static Policy {
    Policy::of(School::TestFirst, false).unwrap()
}

/// What is wanted in place of what a marking says, in its place.
fn place(name: &str, kind: PartKind, marking: &str, position: Position, facts: &[(Fact, f64)]) -> Wanted {
    let mut p = TrayPart::new(Id(1), name, kind);
    let mark = read_text(marking, Hints::of(kind)).unwrap().remove(0);
    p.marked_si = mark.value.number().map(|(_, v)| v);
    p.family = mark.made;
    p.tolerance = mark.tolerance_fraction();
    p.power = mark.power;
    p.mark = Some(mark);
    p.position = Some(position);
    let mut said = Circuit::default();
    for (fact, v) in facts {
        said.set_si(*fact, *v).unwrap();
    }
    p.said = said;
    if kind == PartKind::Resistor && p.family.is_none() {
        p.family = Some(MadeOf::Resistor(Family::CarbonComposition));
    }
    let tray = Tray::new(vec![p], vec![]);
    wanted(&tray, &tray.parts()[0], SetClass::of(PowerSource::Transformer, Devices::Valves))
        .expect("something is known")
}

/// A piece as it is typed by hand: its words are all that is said of it.
fn typed(kind: PartKind, words: &str) -> NewPart {
    let mut new = NewPart {
        kind,
        family: None,
        value_si: None,
        tolerance: None,
        power: None,
        volts: None,
        type_number: String::new(),
        safety: None,
        measured_si: None,
    };
    fill(&mut new, words).unwrap();
    new
}

fn going<'a>(offered: &'a NewPart, words: &'a str, pieces: &'a [OfferedPiece]) -> GoingIn<'a> {
    GoingIn { offered, words, pieces, test: "", despite: "" }
}

/// What is said against a piece that was typed by hand; nothing where it may go in.
fn against(w: &Wanted, kind: PartKind, words: &str) -> String {
    let offered = typed(kind, words);
    match allowed(w, &going(&offered, words, &[]), school(), &[]) {
        Ok(_) => String::new(),
        Err(e) => e.to_string(),
    }
}

#[test]
fn what_is_typed_by_hand_is_held_against_the_same_limits() {
    use PartKind::{Capacitor, Resistor};
    // A coupling capacitor from a plate at 180 V: 63 V do not stand there.
    let coupling = place("C4", Capacitor, ".03/400", Position::Coupling, &[(Fact::Rail, 180.0)]);
    assert_eq!(against(&coupling, Capacitor, "33n 630V polypropylene"), "");
    assert!(against(&coupling, Capacitor, "33n 63V polypropylene").contains("63 V where 400 V are needed"));
    let tenth = against(&coupling, Capacitor, "3.3n 630V polypropylene");
    assert!(tenth.contains("from what is wanted"), "a tenth of the value: {tenth}");
    let unknown = against(&coupling, Capacitor, "33n polypropylene");
    assert!(unknown.contains("its volts are not known") && unknown.contains("printed on it"), "{unknown}");
    assert!(against(&coupling, Capacitor, "33n 630V electrolytic").contains("leaks"));
    // A cathode resistor of one watt with 30 V across 470 Ω, which is 1.9 W.
    let cathode = place("R9", Resistor, "470 10% 1W", Position::Cathode, &[(Fact::Voltage, 30.0)]);
    assert_eq!(against(&cathode, Resistor, "470 5W wirewound"), "");
    let small = against(&cathode, Resistor, "470 1W metal film");
    assert!(small.contains("1 W where 3.8"), "{small}");
    assert!(against(&cathode, Resistor, "47 5W wirewound").contains("from 470 Ω"));
    assert!(against(&cathode, Resistor, "470 wirewound").contains("its watts are not known"));
    // More behind a rectifier valve than it takes as its first filter.
    let limit = [(Fact::FirstFilterLimit, 32e-6), (Fact::Rail, 300.0)];
    let first = place("C20", Capacitor, "16/450", Position::Reservoir, &limit);
    assert!(against(&first, Capacitor, "47u 450V electrolytic").contains("takes as its first filter"));
    assert_eq!(against(&first, Capacitor, "22u 450V electrolytic"), "");
}

#[test]
fn all_that_falls_short_is_named_and_a_reason_lets_it_in_but_not_where_people_are_protected() {
    let w = place("C4", PartKind::Capacitor, ".03/400", Position::Coupling, &[]);
    let words = "4.7n 63V polypropylene";
    let offered = typed(PartKind::Capacitor, words);
    let plain = going(&offered, words, &[]);
    let Err(Objection::Short(why)) = allowed(&w, &plain, school(), &[]) else { panic!("it falls short") };
    assert!(why.contains("63 V") && why.contains("from what is wanted"), "both: {why}");
    let said = GoingIn { despite: "until the right one comes on Friday", ..plain };
    assert_eq!(allowed(&w, &said, school(), &[]), Ok(true), "only for the reason");
    // IEC 60384-14: a part of class X is none of class Y, whatever anybody says.
    let line = place("C1", PartKind::Capacitor, "3n3", Position::LineToChassis, &[(Fact::Line, 230.0)]);
    let x = NewPart {
        safety: Some(SafetyClass::X2),
        volts: Volt::new(275.0).ok(),
        ..typed(PartKind::Capacitor, "3n3 polypropylene")
    };
    let going = GoingIn { despite: "it is what lies here", ..going(&x, "3n3 X2", &[]) };
    assert!(matches!(allowed(&line, &going, school(), &[]), Err(Objection::Refused(_))));
}

#[test]
fn a_drawers_piece_passes_its_test_and_the_same_limits() {
    let w = place("C4", PartKind::Capacitor, ".02/400", Position::Coupling, &[(Fact::Rail, 265.0)]);
    let piece = |value: f64, volts: f64| Piece {
        family: Some(MadeOf::Capacitor(CapacitorFamily::Polypropylene)),
        value_si: Some(value),
        volts: Volt::new(volts).ok(),
        ..Piece::new(PartKind::Capacitor)
    };
    let offered = NewPart { value_si: Some(22e-9), ..typed(PartKind::Capacitor, "") };
    let ask = |value: f64, volts: f64, condition, test: &str, despite: &str| {
        let pieces = [OfferedPiece::Lot(Box::new(bench::lot(piece(value, volts), 4, condition)))];
        allowed(&w, &GoingIn { test, despite, ..going(&offered, "", &pieces) }, school(), &[])
    };
    assert_eq!(ask(22e-9, 630.0, Condition::New, "", "no need"), Ok(false));
    assert!(matches!(ask(22e-9, 100.0, Condition::New, "", ""), Err(Objection::Short(_))));
    assert_eq!(ask(22e-9, 100.0, Condition::New, "", "a battery set now"), Ok(true));
    // Far off in value: no choice would have named it, and it does not slip through for that.
    assert!(matches!(ask(1e-9, 630.0, Condition::New, "", ""), Err(Objection::Short(_))));
    let untested = ask(22e-9, 630.0, Condition::OldUntested, "", "no time");
    assert!(matches!(untested, Err(Objection::Test { field: "test", .. })), "{untested:?}");
    assert_eq!(ask(22e-9, 630.0, Condition::OldUntested, "5nA at 300V", ""), Ok(false));
}

#[test]
fn what_it_measures_is_held_against_its_own_mark_and_against_the_place() {
    let w = place("R3", PartKind::Resistor, "68k 5% 1W", Position::PlateLoad, &[]);
    let mut film = typed(PartKind::Resistor, "68k 5% 2W metal film");
    let ask = |p: &NewPart| allowed(&w, &going(p, "68k 5% 2W metal film", &[]), school(), &[]);
    film.measured_si = Some(69.5e3);
    assert_eq!((ask(&film), far_off(&film)), (Ok(false), None));
    film.measured_si = Some(73e3);
    let Err(Objection::Short(why)) = ask(&film) else { panic!("7 % off") };
    assert!(why.starts_with("it measures 73 kΩ: +7.4 %"), "{why}");
    assert!(far_off(&film).is_some_and(|q| q.contains("outside its mark")));
}

#[test]
fn a_can_typed_by_hand_is_held_section_by_section() {
    let w = place("C9", PartKind::Capacitor, "32+16/350", Position::Smoothing, &[(Fact::Rail, 280.0)]);
    assert_eq!(w.sections.len(), 2);
    let said = |words: &str| against(&w, PartKind::Capacitor, words);
    assert_eq!(said("33u 450V electrolytic + 22u 450V electrolytic"), "");
    let low = said("33u 450V electrolytic + 22u 160V electrolytic");
    assert!(low.starts_with("section 2: 160 V where"), "{low}");
    assert!(said("47u 450V electrolytic").contains("the can has 2 sections, 32 µF and 16 µF"));
}

#[test]
fn words_are_read_and_two_values_that_cannot_both_hold_are_named() {
    let r = typed(PartKind::Resistor, "2k7 2% 3W metal film");
    assert_eq!(
        (r.value_si, r.power, r.family),
        (Some(2700.0), Watt::new(3.0).ok(), Some(MadeOf::Resistor(Family::MetalFilm)))
    );
    assert_eq!(r.tolerance, Fraction::new(0.02).ok());
    let mut two = NewPart { value_si: Some(27e3), ..typed(PartKind::Resistor, "") };
    let e = fill(&mut two, "2k7 metal film").unwrap_err();
    assert!(matches!(e, OfferError::TwoValues { field: "value", .. }) && e.field() == "value", "{e}");
    assert!(e.to_string().contains("2.7 kΩ") && e.to_string().contains("27 kΩ"));
    assert!(read(PartKind::Capacitor, "something out of the box").is_none());
}

/// Networks that the rules themselves make of the pieces are held part by part; what they measure counts all the same.
#[test]
fn a_network_of_the_rules_passes_and_its_measurement_is_held_against_the_place() {
    let w = place("R3", PartKind::Resistor, "15k3 5% 1W", Position::PlateLoad, &[]);
    let lot = |ohms: f64| {
        let piece = Piece {
            family: Some(MadeOf::Resistor(Family::MetalFilm)),
            value_si: Some(ohms),
            tolerance: Fraction::new(0.01).ok(),
            watts: Watt::new(1.0).ok(),
            ..Piece::new(PartKind::Resistor)
        };
        bench::lot(piece, 5, Condition::New)
    };
    let lots = [lot(12e3), lot(3.3e3)];
    let found = w.choose(school(), &lots, &[]).unwrap();
    let choice =
        found.choices.iter().find(|c| c.pieces.len() == 2 && c.network.is_some()).expect("two in series");
    let pieces: Vec<OfferedPiece> =
        choice.pieces.iter().map(|p| OfferedPiece::Lot(Box::new(lots[p.lot.unwrap()].clone()))).collect();
    let mut offered = NewPart {
        family: choice.pieces[0].piece.family,
        value_si: choice.value_si,
        ..typed(PartKind::Resistor, "")
    };
    let ask = |o: &NewPart, words: &str| allowed(&w, &going(o, words, &pieces), school(), &[]);
    assert_eq!(ask(&offered, &choice.description), Ok(false));
    assert!(
        matches!(ask(&offered, "something of my own"), Err(Objection::Unknown(_))),
        "its watts are not worked out"
    );
    offered.measured_si = Some(17e3);
    let why = ask(&offered, &choice.description).unwrap_err().to_string();
    assert!(why.contains("it measures 17 kΩ: +11.1 %"), "{why}");
}

/// In a set with its heaters in a chain the current counts, also where nobody has told the chain's members.
#[test]
fn a_valve_in_a_live_chassis_hangs_in_a_chain() {
    let mut v = TrayPart::new(Id(1), "V2", PartKind::Valve);
    v.mark = Some(read_text("12AU7", Hints::of(PartKind::Valve)).unwrap().remove(0));
    let tray = Tray::new(vec![v], vec![]);
    let ask = |source| {
        let w = wanted(&tray, &tray.parts()[0], SetClass::of(source, Devices::Valves)).expect("its type");
        let offered = NewPart { type_number: "12BH7".to_owned(), ..typed(PartKind::Valve, "") };
        allowed(&w, &going(&offered, "12BH7", &[]), school(), &[])
    };
    assert_eq!(ask(PowerSource::Transformer), Ok(false));
    let held = ask(PowerSource::LiveChassis).unwrap_err().to_string();
    assert!(held.contains("the chain carries 150 mA"), "{held}");
}

/// The same number fits its own place; another whose deciding limit nobody knows is asked about.
#[test]
fn transistors_and_circuits_by_hand() {
    let mut q = TrayPart::new(Id(1), "Q3", PartKind::Transistor);
    q.mark = Some(read_text("BC107", Hints::of(PartKind::Transistor)).unwrap().remove(0));
    q.position = Some(Position::AudioStage);
    let tray = Tray::new(vec![q], vec![]);
    let w = wanted(&tray, &tray.parts()[0], SetClass::of(PowerSource::Battery, Devices::Transistors))
        .expect("its type is known");
    let ask = |kind, w: &Wanted, number: &str| {
        let offered = NewPart { type_number: number.to_owned(), ..typed(kind, "") };
        allowed(w, &going(&offered, number, &[]), school(), owl_core::transistor::device::devices())
    };
    assert_eq!(ask(PartKind::Transistor, &w, "bc107"), Ok(false));
    assert!(matches!(ask(PartKind::Transistor, &w, "2N2905"), Err(Objection::Short(_))), "a PNP for an NPN");
    assert!(matches!(ask(PartKind::Transistor, &w, "ZX81Q"), Err(Objection::Short(_))), "in no table");
    let unknown = Wanted { type_number: String::new(), ..w };
    assert!(matches!(ask(PartKind::Transistor, &unknown, "BC107"), Err(Objection::Unknown(_))));
    let gone = OldPart::Part(Part::Ic(Ic { device: owl_core::ic::device("TBA120S") }));
    let ic = Wanted { gone, type_number: "TBA120S".to_owned(), ..unknown };
    assert_eq!(ask(PartKind::Ic, &ic, "TBA120S"), Ok(false));
    assert!(matches!(ask(PartKind::Ic, &ic, "TBA810"), Err(Objection::Short(_))));
}
