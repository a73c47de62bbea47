//! Substitutes: for every position one that is accepted and one that is refused, and the usual answers of practice.
//! Every check here is common practice, no source, where nothing else stands beside it.
#![allow(clippy::unwrap_used, missing_docs)]

use owl_core::drawers::{Condition, Lot, Piece};
use owl_core::network::Kind;
use owl_core::part::size::{at_least, one_up, sizes};
use owl_core::part::{
    Capacitor, CapacitorFamily, Circuit, Coil, CoilFamily, Diode, DiodeFamily, Fact, Family, MadeOf, Part,
    PartKind, Position, Resistor, SafetyClass,
};
use owl_core::quantity::{Ampere, Farad, Fraction, Henry, Ohm, Volt, Watt};
use owl_core::substitute::{
    Can, Choice, Choices, Need, OldPart, SubstituteError, choose, choose_can, rectifier_valve,
};
use owl_core::verdict::{Policy, School};

fn policy() -> &'static Policy {
    Policy::of(School::TestFirst, false).unwrap()
}

fn circuit(facts: &[(Fact, f64)]) -> Circuit {
    let mut c = Circuit::default();
    for (fact, v) in facts {
        c.set_si(*fact, *v).unwrap();
    }
    c
}

fn ask(
    gone: &OldPart,
    wanted: Option<f64>,
    at: Option<Position>,
    facts: &[(Fact, f64)],
    lots: &[Lot],
) -> Choices {
    let circuit = circuit(facts);
    let need = Need { gone, type_number: "", value_si: wanted, position: at, circuit: &circuit };
    choose(&need, policy(), lots).unwrap()
}

fn lot(piece: Piece) -> Lot {
    Lot {
        piece,
        count: 3,
        place: "box 7".to_owned(),
        condition: Condition::New,
        measured_si: vec![],
        price_hundredths: Some(40),
        low_water: 0,
    }
}

fn resistor(value: f64, watts: f64, family: Family) -> Lot {
    lot(Piece {
        family: Some(MadeOf::Resistor(family)),
        value_si: Some(value),
        tolerance: Fraction::new(0.05).ok(),
        watts: Watt::new(watts).ok(),
        ..Piece::new(PartKind::Resistor)
    })
}

fn capacitor(value: f64, volts: f64, family: CapacitorFamily) -> Lot {
    lot(Piece {
        family: Some(MadeOf::Capacitor(family)),
        value_si: Some(value),
        volts: Volt::new(volts).ok(),
        celsius: (family == CapacitorFamily::Electrolytic).then_some(105.0),
        ..Piece::new(PartKind::Capacitor)
    })
}

fn of_class(value: f64, class: SafetyClass) -> Lot {
    let mut l = capacitor(value, 300.0, CapacitorFamily::CeramicClass2);
    l.piece.safety = Some(class);
    l
}

fn old_resistor(value: f64, watts: Option<f64>, family: Family) -> OldPart {
    OldPart::Part(Part::Resistor(Resistor {
        family,
        value: Ohm::new(value).unwrap(),
        tolerance: Fraction::new(0.1).ok(),
        power: watts.map(|w| Watt::new(w).unwrap()),
    }))
}

fn old_capacitor(value: f64, rated: Option<f64>, family: CapacitorFamily) -> OldPart {
    OldPart::Part(Part::Capacitor(Capacitor {
        family: Some(family),
        value: Farad::new(value).unwrap(),
        minus: None,
        plus: None,
        rated: rated.map(|v| Volt::new(v).unwrap()),
        safety: None,
        years: None,
        new: false,
        test_warm: false,
    }))
}

/// Whether a lot is proposed alone.
fn takes(c: &Choices, i: usize) -> bool {
    c.choices.iter().any(|x| x.pieces.len() == 1 && x.pieces[0].lot == Some(i))
}

fn reason<'a>(c: &'a Choices, holding: &str) -> &'a str {
    let r = c.refused.iter().find(|r| r.lot.is_some() && r.description.contains(holding));
    &r.unwrap_or_else(|| panic!("{holding} is not refused: {:?}", c.refused)).because
}

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
    // 30 pF for 27 pF in a grid circuit with 8 V across passes at 50 V rating.
    let grid = old_capacitor(27e-12, Some(500.0), CapacitorFamily::Mica);
    let low = [capacitor(30e-12, 50.0, CapacitorFamily::SilverMica)];
    let eight_volts = [(Fact::Voltage, 8.0)];
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
    // √2 × 280 V is 396 V before the heaters are warm: more than the old rating.
    let surge = ask(&gone, Some(32e-6), Some(Position::Smoothing), &[(Fact::Secondary, 280.0)], &lots);
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
    // In a string the volts are shared by resistors across each.
    let high = old_capacitor(22e-6, Some(600.0), can);
    let c = ask(&high, Some(22e-6), Some(Position::Smoothing), &[], &[capacitor(47e-6, 450.0, can)]);
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

/// Common practice, no source: 50 kΩ becomes 47 or 51 kΩ, one watt where half a watt was.
#[test]
fn the_nearest_value_one_size_up_is_first() {
    let c = ask(&old_resistor(240e3, Some(0.5), Family::CarbonComposition), Some(240e3), None, &[], &[]);
    assert_eq!(c.choices[0].description, "1 W metal film, 240 kΩ");
    let c = ask(&old_resistor(50e3, Some(0.5), Family::CarbonComposition), Some(50e3), None, &[], &[]);
    assert!(c.choices.iter().any(|x| x.description == "1 W metal film, 51 kΩ"));
    assert!(
        c.refused.iter().any(|r| r.because.contains("0.5 W at least") || r.description.contains("0.25 W"))
    );
}

/// Common practice, no source: two resistors of twice the value and half the watts are the usual answer for a missing
/// one; two 33 kΩ 1 W make 16.5 kΩ 2 W.
#[test]
fn two_of_twice_the_value_make_a_missing_one() {
    let gone = old_resistor(16e3, Some(2.0), Family::CarbonComposition);
    let c = ask(&gone, Some(16.5e3), None, &[], &[resistor(33e3, 1.0, Family::MetalFilm)]);
    let pair = &c.choices[0];
    assert!(pair.description.starts_with("33k ∥ 33k in parallel") && pair.from_drawers());
    assert!((pair.watts.unwrap().watts() - 2.0).abs() < 1e-9);
    assert_eq!(pair.pieces.iter().map(|p| p.lot).collect::<Vec<_>>(), [Some(0), Some(0)]);
    // Half-watts would burn: they are not proposed.
    let c = ask(&gone, Some(16.5e3), None, &[], &[resistor(33e3, 0.5, Family::MetalFilm)]);
    assert!(c.choices.iter().all(|x| !x.from_drawers()));
    // One piece is no pair.
    let mut one = resistor(33e3, 1.0, Family::MetalFilm);
    one.count = 1;
    assert!(ask(&gone, Some(16.5e3), None, &[], &[one]).choices.iter().all(|x| !x.from_drawers()));
    // To buy: equal ones of half the watts.
    let c = ask(&old_resistor(5e3, Some(1.0), Family::CarbonComposition), Some(5e3), None, &[], &[]);
    assert!(c.choices.iter().any(|x| x.description.starts_with("10k ∥ 10k")), "{:?}", names(&c.choices));
}

fn names(c: &[Choice]) -> Vec<&str> {
    c.iter().map(|x| x.description.as_str()).collect()
}

#[test]
fn watts_follow_from_the_volts_across() {
    let half = old_resistor(10e3, Some(0.5), Family::CarbonComposition);
    let c =
        ask(&half, Some(10e3), None, &[(Fact::Voltage, 120.0)], &[resistor(10e3, 2.0, Family::MetalFilm)]);
    // 120² / 10 k = 1.44 W, twice that is 2.88 W: 3 W.
    let bought = c.choices.iter().find(|x| x.network.is_none()).unwrap();
    assert_eq!(bought.watts.unwrap().watts(), 3.0);
    assert!(reason(&c, "10 kΩ").contains("2.88 W are needed"));
    let bar = bought.margins.iter().find(|m| m.of == "watts").unwrap();
    assert!((bar.ratio - 3.0 / 2.88).abs() < 1e-9 && bar.has == "3 W");
    let gone = old_resistor(1e3, Some(0.5), Family::CarbonComposition);
    let circuit = circuit(&[(Fact::Voltage, 2000.0)]);
    let need = Need { gone: &gone, type_number: "", value_si: Some(1e3), position: None, circuit: &circuit };
    assert!(matches!(choose(&need, policy(), &[]), Err(SubstituteError::TooManyWatts(_))));
    let nothing = Need { value_si: None, ..need };
    assert_eq!(choose(&nothing, policy(), &[]), Err(SubstituteError::NoValue));
}

#[test]
fn more_volts_than_one_body_stands_needs_a_string() {
    let gone = old_resistor(2.2e6, Some(0.5), Family::CarbonComposition);
    for (volts, parts) in [(600.0, 2), (1400.0, 3)] {
        let c = ask(&gone, Some(2.2e6), None, &[(Fact::Voltage, volts)], &[]);
        assert!(
            !c.choices.is_empty() && c.choices.iter().all(|x| x.pieces.len() >= parts),
            "{:?}",
            names(&c.choices)
        );
        assert!(c.refused.iter().any(|r| r.because.contains("put several in series")));
    }
}

/// Stopper and other places of radio frequency, fusible parts, drifting composition, the other half of a pair.
#[test]
fn a_place_says_how_a_resistor_is_made() {
    let stopper = old_resistor(47.0, Some(0.5), Family::CarbonComposition);
    let lots = [
        resistor(47.0, 3.0, Family::Wirewound),
        resistor(47.0, 1.0, Family::CarbonFilm),
        resistor(47.0, 1.0, Family::CarbonComposition),
    ];
    let c = ask(&stopper, Some(47.0), Some(Position::Stopper), &[], &lots);
    assert!(!takes(&c, 0) && takes(&c, 1) && takes(&c, 2));
    assert!(reason(&c, "wirewound").contains("inductance"));
    let c = ask(&stopper, Some(47.0), Some(Position::Cathode), &[], &lots);
    assert!(takes(&c, 0) && !takes(&c, 2) && reason(&c, "composition").contains("drifts"));
    assert!(c.choices[0].cautions.iter().any(|l| l.text.contains("other half")));
    let fuse = old_resistor(10.0, Some(0.5), Family::Fusible);
    let lots = [resistor(10.0, 1.0, Family::MetalFilm), resistor(10.0, 1.0, Family::Fusible)];
    let c = ask(&fuse, Some(10.0), None, &[], &lots);
    assert!(!takes(&c, 0) && takes(&c, 1) && reason(&c, "metal film").contains("open safely"));
    let snubber = old_resistor(100.0, Some(1.0), Family::CarbonComposition);
    let c = ask(
        &snubber,
        Some(100.0),
        Some(Position::Snubber),
        &[],
        &[resistor(100.0, 2.0, Family::CarbonComposition)],
    );
    assert!(takes(&c, 0), "pulses call for composition");
}

#[test]
fn an_unknown_size_is_said_to_be_assumed() {
    let c = ask(&old_resistor(1e3, None, Family::CarbonComposition), Some(1e3), None, &[], &[]);
    assert!(c.choices[0].cautions[0].text.contains("not known"));
    assert_eq!(c.choices[0].watts.unwrap().watts(), 1.0);
}

#[test]
fn the_table_of_sizes_rises() {
    assert!(sizes().windows(2).all(|w| w[0].power < w[1].power && w[0].volts <= w[1].volts));
    let w = |x| Watt::new(x).unwrap();
    assert_eq!(at_least(w(0.5)).unwrap().power, w(0.5));
    assert_eq!(one_up(w(0.5)).unwrap().power, w(1.0));
    assert!(one_up(w(10.0)).is_none() && at_least(w(10.1)).is_none());
}

fn diode(type_number: &str, family: DiodeFamily, volts: f64, amperes: f64) -> Lot {
    lot(Piece {
        family: Some(MadeOf::Diode(family)),
        type_number: type_number.to_owned(),
        volts: Volt::new(volts).ok(),
        amperes: Ampere::new(amperes).ok(),
        ..Piece::new(PartKind::Diode)
    })
}

#[test]
fn a_rectifier_stands_twice_the_crest_and_half_as_much_again() {
    let stack = OldPart::Part(Part::Diode(Diode { family: Some(DiodeFamily::Selenium), plates: 6 }));
    let lots = [
        diode("1N4004", DiodeFamily::Silicon, 400.0, 1.0),
        diode("1N4007", DiodeFamily::Silicon, 1000.0, 1.0),
        diode("stack", DiodeFamily::Selenium, 400.0, 0.1),
    ];
    let facts = [(Fact::Secondary, 117.0), (Fact::LoadCurrent, 0.07)];
    let c = ask(&stack, None, Some(Position::Rectifier), &facts, &lots);
    // 2√2 · 117 V = 331 V the wrong way; half as much again is 496 V.
    assert!(!takes(&c, 0) && takes(&c, 1));
    assert!(reason(&c, "1N4004").contains("needed") && reason(&c, "stack").contains("smoke"));
    assert!(c.advice.iter().any(|l| l.text.contains("series resistor")));
    // √2 · 117 V over 4 Ω is 41 A into an empty filter: more than the 30 A of the small ones.
    let surge = [facts[0], facts[1], (Fact::ChargingPath, 4.0)];
    let stiff = ask(&stack, None, Some(Position::Rectifier), &surge, &lots);
    assert!(
        !takes(&stiff, 1) && reason(&stiff, "1N4007").contains("41.37 A are needed"),
        "{:?}",
        stiff.refused
    );
    assert!(stiff.choices[0].margins.iter().any(|m| m.of == "surge" && m.ratio > 1.0));
    // To buy: the humblest that does.
    assert!(c.choices.iter().find(|x| !x.from_drawers()).unwrap().description.starts_with("1N4005"));
}

#[test]
fn a_detector_keeps_its_germanium() {
    let detector = OldPart::Part(Part::Diode(Diode { family: Some(DiodeFamily::Germanium), plates: 1 }));
    let lots = [
        diode("1N4148", DiodeFamily::Silicon, 100.0, 0.15),
        diode("OA91", DiodeFamily::Germanium, 115.0, 0.05),
    ];
    let c = ask(&detector, None, Some(Position::Detector), &[], &lots);
    assert!(takes(&c, 1) && reason(&c, "1N4148").contains("weak stations"));
}

fn lamp(volts: f64, amperes: f64) -> Lot {
    lot(Piece { value_si: Some(volts), amperes: Ampere::new(amperes).ok(), ..Piece::new(PartKind::Lamp) })
}

/// docs/rules.md, R9: lamps in a series heater chain must match in current.
#[test]
fn a_lamp_in_a_chain_matches_in_current() {
    let gone = |in_chain| OldPart::Lamp {
        volts: Volt::new(6.3).unwrap(),
        current: Ampere::new(0.15).ok(),
        in_chain,
    };
    let lots = [lamp(6.3, 0.2), lamp(6.3, 0.15), lamp(12.0, 0.15)];
    let c = ask(&gone(true), Some(6.3), None, &[], &lots);
    assert!(!takes(&c, 0) && takes(&c, 1) && !takes(&c, 2));
    assert!(c.refused.iter().any(|r| r.because.contains("dies at switch-on")));
    assert!(takes(&ask(&gone(false), Some(6.3), None, &[], &lots), 0), "fed alone it may draw a little more");
    assert!(c.choices.iter().any(|x| x.description.contains("number 47")), "to buy by its number");
}

#[test]
fn a_field_coil_becomes_a_choke_and_a_resistor() {
    let coil = |family| {
        OldPart::Part(Part::Coil(Coil {
            family: Some(family),
            resistance: Ohm::new(1800.0).ok(),
            inductance: Henry::new(10.0).ok(),
        }))
    };
    let choke = |henries: f64, amperes: f64| {
        lot(Piece {
            family: Some(MadeOf::Coil(CoilFamily::Choke)),
            type_number: "choke".to_owned(),
            value_si: Some(henries),
            amperes: Ampere::new(amperes).ok(),
            winding: Ohm::new(300.0).ok(),
            ..Piece::new(PartKind::Coil)
        })
    };
    let facts = [(Fact::LoadCurrent, 0.06)];
    let lots = [choke(10.0, 0.08), choke(10.0, 0.04), choke(4.0, 0.08)];
    let c = ask(&coil(CoilFamily::FieldCoil), None, Some(Position::Smoothing), &facts, &lots);
    assert!(takes(&c, 0) && !takes(&c, 1) && !takes(&c, 2), "{:?}", c.refused);
    // 1500 Ω are missing: 90 V, 5.4 W.
    assert!(
        c.choices[0].cautions.iter().any(|l| l.text.contains("1.5 kΩ in series") && l.text.contains("90 V"))
    );
    // A resistor alone: 108 V and 6.5 W are more than any body; that is said.
    assert!(c.refused.iter().any(|r| r.description.contains("resistor") || r.because.contains("share it")));
    let small = ask(&coil(CoilFamily::FieldCoil), None, None, &[(Fact::LoadCurrent, 0.03)], &[]);
    assert!(small.choices[0].effects.iter().any(|e| !e.better && e.text.contains("choke is lost")));
    let winding = ask(&coil(CoilFamily::TransformerWinding), None, None, &facts, &lots);
    assert!(winding.choices.is_empty() && winding.advice[0].text.contains("rewind"));
}
