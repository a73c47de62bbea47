//! Substitutes: for every position one that is accepted and one that is refused, and the usual answers of practice.
//! Every check here is common practice, no source, where nothing else stands beside it.
#![allow(clippy::unwrap_used, missing_docs)]

use owl_core::drawers::{Condition, Lot};
use owl_core::network::Kind;
use owl_core::part::{CapacitorFamily, Circuit, Fact, Part, PartKind, Position, SafetyClass};
use owl_core::quantity::{Ampere, Farad};
use owl_core::substitute::{Can, Choices, Need, OldPart, choose_can, rectifier_valve};

use crate::drawer::{ask, capacitor, of_class, old_capacitor, policy, reason, takes};

/// The table of docs/rules.md, R7: one that goes in and one that does not.
#[test]
fn every_place_takes_one_and_refuses_another() {
    use CapacitorFamily as F;
    use Position as P;
    let (paper, can, mica) = (F::WaxPaper, F::Electrolytic, F::Mica);
    // position, old value, volts and family; one that is taken; one that is refused and what the reason holds.
    type Row = (Position, (f64, f64, CapacitorFamily), Lot, Lot, &'static str);
    let rows: Vec<Row> = vec![
        (
            P::Reservoir,
            (16e-6, 350.0, can),
            capacitor(22e-6, 400.0, can),
            capacitor(27e-6, 400.0, can),
            "0.9 to 1.5",
        ),
        (
            P::Smoothing,
            (8e-6, 150.0, can),
            capacitor(10e-6, 350.0, can),
            capacitor(22e-6, 350.0, can),
            "0.9 to 2.5",
        ),
        (
            P::CathodeBypass,
            (25e-6, 25.0, can),
            capacitor(68e-6, 25.0, can),
            capacitor(22e-6, 16.0, can),
            "25 V are needed",
        ),
        (
            P::EmitterBypass,
            (50e-6, 6.0, can),
            capacitor(47e-6, 16.0, can),
            capacitor(47e-6, 16.0, F::CeramicClass2),
            "ceramic class 2",
        ),
        (
            P::ScreenBypass,
            (0.1e-6, 400.0, paper),
            capacitor(0.22e-6, 630.0, F::Polypropylene),
            capacitor(0.25e-6, 630.0, F::Polypropylene),
            "0.9 to 2.2",
        ),
        (
            P::PlateDecoupling,
            (0.25e-6, 400.0, paper),
            capacitor(0.33e-6, 630.0, F::Polyester),
            capacitor(0.22e-6, 250.0, F::Polyester),
            "400 V are needed",
        ),
        (
            P::Coupling,
            (0.02e-6, 400.0, paper),
            capacitor(0.022e-6, 630.0, F::Polypropylene),
            capacitor(0.022e-6, 1000.0, F::CeramicClass2),
            "sings",
        ),
        (
            P::Tone,
            (0.005e-6, 600.0, paper),
            capacitor(0.0047e-6, 630.0, F::Polyester),
            capacitor(0.0068e-6, 630.0, F::Polyester),
            "0.8 to 1.2",
        ),
        (
            P::Avc,
            (0.05e-6, 200.0, paper),
            capacitor(0.047e-6, 250.0, F::Polyester),
            capacitor(0.068e-6, 250.0, F::Polyester),
            "0.8 to 1.2",
        ),
        (
            P::RfBypass,
            (0.01e-6, 400.0, paper),
            capacitor(0.01e-6, 500.0, F::CeramicClass2),
            capacitor(0.01e-6, 630.0, F::Polyester),
            "ceramic class 2 or",
        ),
        (
            P::Tuned,
            (180e-12, 500.0, mica),
            capacitor(180e-12, 500.0, F::SilverMica),
            capacitor(180e-12, 500.0, F::CeramicClass2),
            "alignment",
        ),
        (
            P::Padder,
            (460e-12, 500.0, mica),
            capacitor(470e-12, 500.0, F::SilverMica),
            capacitor(390e-12, 500.0, F::SilverMica),
            "within 5 %",
        ),
        (
            P::Neutralising,
            (12e-12, 500.0, F::CeramicClass1),
            capacitor(12e-12, 500.0, F::CeramicClass1),
            capacitor(12e-12, 500.0, F::Polystyrene),
            "alignment",
        ),
        (
            P::Snubber,
            (0.01e-6, 1000.0, paper),
            capacitor(0.01e-6, 1600.0, F::Polypropylene),
            capacitor(0.01e-6, 1000.0, F::Polyester),
            "polypropylene",
        ),
        (
            P::RectifierSnubber,
            (0.01e-6, 1000.0, paper),
            capacitor(0.01e-6, 2000.0, F::CeramicClass2),
            capacitor(0.01e-6, 630.0, F::Polypropylene),
            "are needed",
        ),
        (
            P::VibratorBuffer,
            (0.007e-6, 1600.0, paper),
            capacitor(0.0068e-6, 2000.0, F::Polypropylene),
            capacitor(0.0047e-6, 2000.0, F::Polypropylene),
            "0.9 to 1.1",
        ),
        (
            P::OutputSnubber,
            (0.005e-6, 600.0, paper),
            capacitor(0.0047e-6, 1000.0, F::Polypropylene),
            capacitor(0.0047e-6, 1000.0, F::Polyester),
            "polypropylene",
        ),
        (
            P::MainsContact,
            (0.05e-6, 400.0, paper),
            of_class(0.047e-6, SafetyClass::X2),
            capacitor(0.047e-6, 630.0, F::Polypropylene),
            "class X2",
        ),
        (
            P::AcrossTheLine,
            (0.1e-6, 400.0, paper),
            of_class(0.1e-6, SafetyClass::X2),
            capacitor(0.1e-6, 630.0, F::Polypropylene),
            "class X2",
        ),
        (
            P::LineToChassis,
            (0.005e-6, 400.0, paper),
            of_class(0.0047e-6, SafetyClass::Y2),
            of_class(0.0047e-6, SafetyClass::X2),
            "class Y2",
        ),
        (
            P::AntennaIsolation,
            (0.002e-6, 400.0, paper),
            of_class(0.0022e-6, SafetyClass::Y1),
            capacitor(0.0022e-6, 1000.0, F::CeramicClass2),
            "class Y2",
        ),
        (
            P::ModulatedBlocking,
            (500e-12, 5000.0, F::HighVoltageCeramic),
            capacitor(470e-12, 6000.0, F::HighVoltageCeramic),
            capacitor(470e-12, 4000.0, F::HighVoltageCeramic),
            "5 kV are needed",
        ),
        (
            P::PlateBlocking,
            (500e-12, 5000.0, F::HighVoltageCeramic),
            capacitor(470e-12, 6000.0, F::HighVoltageCeramic),
            capacitor(470e-12, 6000.0, F::CeramicClass2),
            "high-voltage ceramic",
        ),
    ];
    let tested: Vec<Position> = rows.iter().map(|r| r.0).collect();
    let all: Vec<Position> = Position::of(PartKind::Capacitor).collect();
    assert!(all.iter().all(|p| tested.contains(p)), "a position of the table has no test");
    for (at, (value, volts, family), good, bad, because) in rows {
        let gone = old_capacitor(value, Some(volts), family);
        let c = ask(&gone, Some(value), Some(at), &[], &[good, bad]);
        assert!(takes(&c, 0), "{at}: {:?}", c.refused);
        assert!(!takes(&c, 1), "{at} takes what it should not");
        let why = c.refused.iter().find(|r| r.lot.is_some()).map(|r| r.because.clone());
        let why = why.unwrap_or_else(|| panic!("{at}: nothing is refused"));
        assert!(why.contains(because), "{at}: {why}");
        // The drawers come first, and a rule stands behind what is proposed.
        assert!(c.choices[0].from_drawers() && !c.choices[0].passes.is_empty());
    }
}

/// Makeshifts as they are told at benches (common practice, no source).
#[test]
fn the_usual_capacitors_of_practice() {
    let can = CapacitorFamily::Electrolytic;
    let eight = old_capacitor(8e-6, Some(150.0), can);
    let c = ask(&eight, Some(8e-6), Some(Position::Smoothing), &[], &[capacitor(10e-6, 350.0, can)]);
    assert!(takes(&c, 0));
    let fifty = old_capacitor(50e-6, Some(150.0), can);
    let big = [capacitor(68e-6, 200.0, can)];
    assert!(takes(&ask(&fifty, Some(50e-6), Some(Position::Reservoir), &[], &big), 0));
    let limited =
        ask(&fifty, Some(50e-6), Some(Position::Reservoir), &[(Fact::FirstFilterLimit, 60e-6)], &big);
    assert!(reason(&limited, "68 µF").contains("rectifier takes"));
    // 30 pF for 27 pF in a grid circuit with 8 V across passes at 50 V rating where the rail is a battery of 22.5 V.
    let grid = old_capacitor(27e-12, Some(500.0), CapacitorFamily::Mica);
    let low = [capacitor(30e-12, 50.0, CapacitorFamily::SilverMica)];
    let eight_volts = [(Fact::Voltage, 8.0), (Fact::Rail, 22.5)];
    assert!(takes(&ask(&grid, Some(27e-12), Some(Position::Coupling), &eight_volts, &low), 0));
    assert!(
        !takes(&ask(&grid, Some(27e-12), Some(Position::Coupling), &[], &low), 0),
        "unknown volts: as the old"
    );
    // Old values map to modern ones.
    for (old, new) in [(0.05e-6, 0.047e-6), (0.02e-6, 0.022e-6), (0.25e-6, 0.22e-6)] {
        let gone = old_capacitor(old, Some(400.0), CapacitorFamily::WaxPaper);
        let c = ask(&gone, Some(old), Some(Position::ScreenBypass), &[], &[]);
        assert!(c.choices.iter().any(|x| (x.value_si.unwrap() / new - 1.0).abs() < 1e-6), "{old}");
    }
    // What is still made does not move: 0.18 for 0.2 would, for 0.22 it is too little.
    let made = old_capacitor(0.22e-6, Some(400.0), CapacitorFamily::WaxPaper);
    let less = [capacitor(0.18e-6, 630.0, CapacitorFamily::Polyester)];
    assert!(!takes(&ask(&made, Some(0.22e-6), Some(Position::ScreenBypass), &[], &less), 0));
}

#[test]
fn the_volts_follow_from_what_stands_there() {
    let can = CapacitorFamily::Electrolytic;
    let gone = old_capacitor(32e-6, Some(350.0), can);
    let lots = [capacitor(33e-6, 350.0, can), capacitor(33e-6, 450.0, can)];
    // √2 × 240 V × 1.1 without load × 1.1 of line is 411 V before the valves draw: more than the old rating.
    let surge = ask(&gone, Some(32e-6), Some(Position::Smoothing), &[(Fact::Secondary, 240.0)], &lots);
    assert!(!takes(&surge, 0) && takes(&surge, 1), "{:?}", surge.refused);
    assert!(surge.choices[0].passes.iter().any(|l| l.text.contains("√2")));
    // The rail with the line a tenth higher.
    let rail = ask(&gone, Some(32e-6), Some(Position::Smoothing), &[(Fact::Rail, 330.0)], &lots);
    assert!(!takes(&rail, 0) && takes(&rail, 1));
    // Film of 100 V where a few volts stand, whatever the old one was rated at.
    let cathode = old_capacitor(0.5e-6, Some(400.0), CapacitorFamily::WaxPaper);
    let film = [capacitor(0.47e-6, 100.0, CapacitorFamily::Polyester)];
    assert!(takes(
        &ask(&cathode, Some(0.5e-6), Some(Position::CathodeBypass), &[(Fact::Voltage, 9.0)], &film),
        0
    ));
    assert!(!takes(&ask(&cathode, Some(0.5e-6), Some(Position::CathodeBypass), &[], &film), 0));
    // What a faulty set reads is no reason: a plate's coupling capacitor stands at the rail when the fault is mended.
    let coupling = old_capacitor(0.02e-6, Some(400.0), CapacitorFamily::WaxPaper);
    let low = [capacitor(0.022e-6, 100.0, CapacitorFamily::Polyester)];
    let reads = |facts: &[(Fact, f64)]| {
        takes(&ask(&coupling, Some(0.02e-6), Some(Position::Coupling), facts, &low), 0)
    };
    assert!(!reads(&[(Fact::Voltage, 3.0)]) && !reads(&[(Fact::Voltage, 3.0), (Fact::Rail, 240.0)]));
    assert!(reads(&[(Fact::Voltage, 3.0), (Fact::Rail, 9.0)]), "a battery set's rail cannot reach it");
    // A plate blocking part: twice its rail of 900 V.
    let blocking = old_capacitor(1e-9, Some(1000.0), CapacitorFamily::Mica);
    let micas =
        [capacitor(1e-9, 1500.0, CapacitorFamily::Mica), capacitor(1e-9, 2500.0, CapacitorFamily::Mica)];
    let c = ask(&blocking, Some(1e-9), Some(Position::PlateBlocking), &[(Fact::Rail, 900.0)], &micas);
    assert!(!takes(&c, 0) && takes(&c, 1), "{:?}", c.refused);
    // Nothing is known: said, not guessed.
    let unknown = old_capacitor(0.1e-6, None, CapacitorFamily::WaxPaper);
    let c = ask(&unknown, Some(0.1e-6), Some(Position::ScreenBypass), &[], &[]);
    assert!(c.choices[0].cautions.iter().any(|l| l.text.contains("measure what stands there")));
    assert!(c.asks.contains(&Fact::Rail));
}

#[test]
fn what_improves_and_what_worsens_is_said_with_numbers() {
    let effects = |c: &Choices| -> String {
        c.choices[0]
            .effects
            .iter()
            .map(|e| format!("{}{}; ", if e.better { "+" } else { "-" }, e.text))
            .collect()
    };
    let paper = old_capacitor(0.01e-6, Some(400.0), CapacitorFamily::WaxPaper);
    let film = [capacitor(0.015e-6, 630.0, CapacitorFamily::Polypropylene)];
    let c = ask(&paper, Some(0.01e-6), Some(Position::Coupling), &[(Fact::GridResistor, 1e6)], &film);
    // 1/(2π · 1 MΩ · 10 nF) = 15.9 Hz (handbook).
    assert_eq!(effects(&c), "+−3 dB corner 15.9 Hz before, 10.6 Hz after; ");
    let can = old_capacitor(16e-6, Some(350.0), CapacitorFamily::Electrolytic);
    let big = [capacitor(22e-6, 400.0, CapacitorFamily::Electrolytic)];
    let c = ask(&can, Some(16e-6), Some(Position::Reservoir), &[], &big);
    assert!(
        effects(&c).contains("+hum falls") && effects(&c).contains("-the rectifier charges"),
        "{}",
        effects(&c)
    );
    let line = old_capacitor(0.01e-6, Some(400.0), CapacitorFamily::WaxPaper);
    let y = [of_class(0.01e-6, SafetyClass::Y2)];
    let facts = [(Fact::Line, 120.0), (Fact::Frequency, 60.0)];
    let c = ask(&line, Some(0.01e-6), Some(Position::LineToChassis), &facts, &y);
    // 2π · 60 Hz · 10 nF · 120 V = 452 µA (handbook).
    assert!(effects(&c).contains("452 µA"), "{}", effects(&c));
    let at_230 = ask(&line, Some(0.01e-6), Some(Position::LineToChassis), &[], &y);
    assert!(at_230.choices[0].cautions.iter().any(|l| l.text.contains("0.5 mA")));
    let tuned = old_capacitor(100e-12, Some(500.0), CapacitorFamily::Mica);
    let c = ask(&tuned, Some(100e-12), Some(Position::Tuned), &[], &[]);
    assert!(effects(&c).contains("align the stage"));
}

#[test]
fn the_first_filter_asks_for_heat_and_ripple() {
    let can = old_capacitor(47e-6, Some(350.0), CapacitorFamily::Electrolytic);
    let mut cool = capacitor(47e-6, 400.0, CapacitorFamily::Electrolytic);
    cool.piece.celsius = Some(85.0);
    let mut weak = capacitor(47e-6, 450.0, CapacitorFamily::Electrolytic);
    weak.piece.amperes = Ampere::new(0.1).ok();
    let c = ask(&can, Some(47e-6), Some(Position::Reservoir), &[(Fact::LoadCurrent, 0.08)], &[cool, weak]);
    assert!(c.refused.iter().any(|r| r.because.contains("105 °C")));
    assert!(c.refused.iter().any(|r| r.because.contains("120 mA are needed")), "{:?}", c.refused);
    let valve = rectifier_valve("EZ80").unwrap();
    assert!((valve.first_filter_limit().farads() - 50e-6).abs() < 1e-12);
}

#[test]
fn old_stock_waits_for_its_test_and_what_fails_of_age_is_refused() {
    let paper = old_capacitor(0.1e-6, Some(400.0), CapacitorFamily::WaxPaper);
    let mut old = capacitor(0.1e-6, 630.0, CapacitorFamily::Polypropylene);
    old.condition = Condition::OldUntested;
    let again = capacitor(0.1e-6, 600.0, CapacitorFamily::WaxPaper);
    let mut empty = capacitor(0.1e-6, 630.0, CapacitorFamily::Polypropylene);
    empty.count = 0;
    let lots = [old, again, empty, capacitor(0.1e-6, 630.0, CapacitorFamily::Polyester)];
    let c = ask(&paper, Some(0.1e-6), Some(Position::PlateDecoupling), &[], &lots);
    // What needs no test comes first; what needs one says so; an empty drawer holds nothing.
    assert!(!c.choices[0].needs_test() && takes(&c, 0) && takes(&c, 3) && !takes(&c, 2));
    let waiting = c.choices.iter().find(|x| x.pieces[0].lot == Some(0)).unwrap();
    assert!(waiting.needs_test() && waiting.cautions.iter().any(|l| l.text.contains("test it")));
    assert!(reason(&c, "wax paper").contains("fails of age"));
}

#[test]
fn capacitors_side_by_side_make_up_the_value() {
    let can = CapacitorFamily::Electrolytic;
    let gone = old_capacitor(30e-6, Some(150.0), can);
    let c = ask(&gone, Some(30e-6), Some(Position::Smoothing), &[], &[capacitor(10e-6, 350.0, can)]);
    let three = c.choices.iter().find(|x| x.network.is_some() && x.from_drawers()).unwrap();
    assert_eq!(three.pieces.len(), 3);
    assert_eq!(three.network.as_ref().unwrap().expression(Kind::Capacitor), "10µ ∥ 10µ ∥ 10µ");
    // In a string, where no single one is to be had, the volts are shared by resistors across each.
    let high = old_capacitor(72e-6, Some(600.0), can);
    let c = ask(&high, Some(72e-6), Some(Position::Smoothing), &[], &[capacitor(150e-6, 450.0, can)]);
    let string = c.choices.iter().find(|x| x.network.is_some()).unwrap();
    assert!(string.description.contains("in series") && string.volts.unwrap().volts() >= 600.0);
    assert!(string.cautions.iter().any(|l| l.text.contains("across each")));
    // Never for what protects people.
    let line = old_capacitor(0.2e-6, Some(400.0), CapacitorFamily::WaxPaper);
    let c =
        ask(&line, Some(0.2e-6), Some(Position::AcrossTheLine), &[], &[of_class(0.1e-6, SafetyClass::X2)]);
    assert!(c.choices.iter().all(|x| x.network.is_none()));
}

#[test]
fn a_can_becomes_separate_parts_and_counts_the_drawer() {
    let gone = old_capacitor(20e-6, Some(450.0), CapacitorFamily::Electrolytic);
    let OldPart::Part(Part::Capacitor(old)) = gone else { panic!() };
    let circuit = Circuit::default();
    let need = Need {
        paired: false,
        gone: &gone,
        type_number: "",
        value_si: None,
        position: Some(Position::Smoothing),
        circuit: &circuit,
    };
    let section = |micro: f64| Can { capacitance: Farad::new(micro * 1e-6).unwrap(), volts: None };
    let mut two = capacitor(22e-6, 450.0, CapacitorFamily::Electrolytic);
    two.count = 1;
    let can =
        choose_can(&need, &old, &[section(20.0), section(20.0), section(50.0)], policy(), &[two]).unwrap();
    let from: Vec<bool> = can.sections.iter().map(|s| s.as_ref().unwrap().from_drawers()).collect();
    assert_eq!(from, [true, false, false], "the one piece goes in once");
    assert!(can.wiring.iter().any(|l| l.text.contains("minus leads on one lug")));
    assert!(can.wiring[0].text.contains("4 lugs"));
    assert!(can.description().starts_with("3 separate: 22 µF"));
}

/// IEC 60384-14: no other class, and no ordinary part, is a substitute; what to do then is common practice, no source.
#[test]
fn where_nothing_of_the_class_comes_near_it_says_what_to_do() {
    let old = old_capacitor(0.05e-6, Some(400.0), CapacitorFamily::WaxPaper);
    let lots =
        [of_class(0.047e-6, SafetyClass::X2), capacitor(0.047e-6, 630.0, CapacitorFamily::Polypropylene)];
    let c = ask(&old, Some(0.05e-6), Some(Position::LineToChassis), &[(Fact::Line, 230.0)], &lots);
    assert!(!takes(&c, 0) && !takes(&c, 1), "an X part is wrong there, whatever it reads");
    assert!(c.choices.is_empty(), "{:?}", c.choices);
    assert!(c.advice.iter().any(|a| a.text.contains("smaller one of class Y2")), "{:?}", c.advice);
}

/// By what it does: a rectifier's stands both peaks of the winding, a vibrator's times the contacts and stands its
/// swing, an output transformer's the plate's. By hand from 2√2 × 250 × 1.1 × 1.1, 3 × 230 × 1.1 (practice).
#[test]
fn a_suppressor_is_chosen_by_what_it_does() {
    let gone = old_capacitor(0.01e-6, Some(400.0), CapacitorFamily::WaxPaper);
    let least = |position, facts: &[(Fact, f64)]| {
        let lots = [capacitor(0.01e-6, 2500.0, CapacitorFamily::Polypropylene)];
        let c = ask(&gone, Some(0.01e-6), Some(position), facts, &lots);
        c.choices[0].margins.iter().find(|m| m.of == "volts").map(|m| m.needs.clone())
    };
    assert_eq!(least(Position::RectifierSnubber, &[(Fact::Secondary, 250.0)]), Some("855.6 V".to_owned()));
    assert_eq!(least(Position::OutputSnubber, &[(Fact::Rail, 230.0)]), Some("759 V".to_owned()));
    assert_eq!(least(Position::VibratorBuffer, &[]), Some("1.6 kV".to_owned()), "on whatever rail");
    assert_eq!(least(Position::VibratorBuffer, &[(Fact::Rail, 400.0)]), Some("1.76 kV".to_owned()));
    // On a low rail as well: the winding does not know of it.
    assert_eq!(least(Position::VibratorBuffer, &[(Fact::Rail, 12.0)]), Some("1.6 kV".to_owned()));
    // Of which nobody said what it lies across, that is asked.
    let c = ask(&gone, Some(0.01e-6), Some(Position::Snubber), &[], &[]);
    assert!(c.choices[0].cautions.iter().any(|l| l.text.contains("say what it lies across")));
    // Across a contact in the line no rating in volts DC is enough.
    let contact = ask(
        &gone,
        Some(0.01e-6),
        Some(Position::MainsContact),
        &[],
        &[capacitor(0.01e-6, 2000.0, CapacitorFamily::Polypropylene), of_class(0.01e-6, SafetyClass::X1)],
    );
    assert!(!takes(&contact, 0) && takes(&contact, 1), "{:?}", contact.refused);
}
