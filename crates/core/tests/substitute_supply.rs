//! What goes into a supply: first filters behind a rectifier valve, strings of capacitors and of diodes, silicon at
//! switch-on. Checks are common practice, no source, where nothing else stands beside them.
#![allow(clippy::unwrap_used, missing_docs)]

use crate::drawer;

use owl_core::drawers::Lot;
use owl_core::network::{Drive, Kind, Stock, Tree, Wanted, search, worst_volts};
use owl_core::part::{CapacitorFamily, Circuit, Diode, DiodeFamily, Fact, Part, Position};
use owl_core::quantity::{Ampere, Farad, Fraction, Hertz, Ohm, Volt};
use owl_core::substitute::{Choices, OldPart, choose_can, rectifier_valve};
use owl_core::supply::diodes_in_series;
use owl_core::supply::rectifier::{Arrangement, Load, RectifierKind, Supply};
use owl_core::supply::switch_on::switch_on;
use owl_core::transistor::diode_device::device;

use crate::drawer::{ask, capacitor, old_capacitor, policy, reason, takes};

const CAN: CapacitorFamily = CapacitorFamily::Electrolytic;

/// The facts round a first filter behind that valve.
fn behind(valve: &str, facts: &[(Fact, f64)]) -> Vec<(Fact, f64)> {
    let mut circuit = Circuit::default();
    rectifier_valve(valve).unwrap().tell(&mut circuit).unwrap();
    circuit.known().chain(facts.iter().copied()).collect()
}

fn filter(micro: f64, of: f64, facts: &[(Fact, f64)]) -> Choices {
    let old = old_capacitor(of * 1e-6, Some(350.0), CAN);
    let mut lot = capacitor(micro * 1e-6, 500.0, CAN);
    lot.piece.amperes = Ampere::new(1.0).ok();
    ask(&old, Some(of * 1e-6), Some(Position::Reservoir), facts, &[lot])
}

/// The typical value is always allowed; more where the peak of the charging current, solved in time with the line at its
/// highest, stays within what a plate stands; where it does not, the resistor that brings it back is said.
#[test]
fn a_first_filter_is_judged_by_the_peak_of_the_charging_current() {
    let at = |path: f64| {
        let facts = [
            (Fact::Secondary, 240.0),
            (Fact::LoadCurrent, 0.05),
            (Fact::ChargingPath, path),
            (Fact::Frequency, 60.0),
        ];
        behind("6X4", &facts)
    };
    // 10 µF are typical of a 6X4: allowed whatever the winding.
    assert!(takes(&filter(10.0, 10.0, &at(5.0)), 0));
    // The same sum by the sheet's own solution: two plates, 245 mA each.
    let peak = |path: f64, micro: f64| {
        let usual = RectifierKind::Valve.usual().unwrap();
        let supply = Supply {
            arrangement: Arrangement::FullWave,
            line: Volt::computed(240.0 * 1.1),
            frequency: Hertz::computed(60.0),
            drop: Volt::computed(usual.drop),
            resistance: Ohm::computed(usual.resistance),
            source: Ohm::computed(path),
            series: Ohm::ZERO,
            capacitance: Farad::computed(micro * 1e-6),
            load: Load::Current(Ampere::computed(0.05)),
        };
        supply.steady().unwrap().peak_current.amperes()
    };
    assert!(
        peak(600.0, 15.0) < 0.245 && peak(5.0, 15.0) > 0.245,
        "{} {}",
        peak(600.0, 15.0),
        peak(5.0, 15.0)
    );
    assert!(takes(&filter(15.0, 10.0, &at(600.0)), 0));
    let refused = filter(15.0, 10.0, &at(5.0));
    let why = reason(&refused, "15 µF");
    assert!(why.contains("over the 245 mA that a plate stands") && why.contains("more in series"), "{why}");
    // With that resistor said as part of the path it passes.
    let ohms: f64 = why.split("; ").nth(1).unwrap().split(' ').next().unwrap().parse().unwrap();
    assert!(takes(&filter(15.0, 10.0, &at(5.0 + ohms)), 0), "{why}");
    // Without the facts to solve it, the typical value is the limit.
    assert!(reason(&filter(15.0, 10.0, &behind("6X4", &[])), "15 µF").contains("rectifier takes"));
}

/// Only the first section of a can stands behind the rectifier.
#[test]
fn only_the_first_section_of_a_can_is_held_to_the_rectifier() {
    let section = |micro: f64| owl_core::substitute::Can {
        capacitance: Farad::computed(micro * 1e-6),
        volts: Volt::new(350.0).ok(),
    };
    let gone = old_capacitor(16e-6, Some(350.0), CAN);
    let circuit = drawer::circuit(&behind("EZ35", &[]));
    let need = owl_core::substitute::Need {
        paired: false,
        gone: &gone,
        type_number: "",
        value_si: Some(16e-6),
        position: Some(Position::Reservoir),
        circuit: &circuit,
    };
    let OldPart::Part(Part::Capacitor(old)) = gone else { unreachable!() };
    let lots: Vec<Lot> = vec![capacitor(15e-6, 450.0, CAN), capacitor(33e-6, 450.0, CAN)];
    let can = choose_can(&need, &old, &[section(16.0), section(32.0)], policy(), &lots).unwrap();
    let second = can.sections[1].as_ref().unwrap();
    assert_eq!(second.value_si, Some(33e-6), "{}", second.description);
}

/// Two in series share by their real values: with −20 and +50 % the smaller one of two alike may get 65 % of the volts
/// (1/0.8 against 1/1.5), and with ±10 % 55 %; and never more than twice the weakest (published: charge is equal in a
/// string).
#[test]
fn a_string_of_capacitors_is_held_at_its_worst() {
    let pair = Tree::Series(vec![Tree::Part(22e-6), Tree::Part(22e-6)]);
    let whole = Drive::Voltage(Volt::computed(1.0));
    let share = |tree: &Tree, kind, off: &[(f64, f64)]| worst_volts(tree, kind, whole, off).unwrap()[0];
    let worst = |minus, plus| share(&pair, Kind::Capacitor, &[(minus, plus); 2]);
    assert!((worst(0.2, 0.5) - 0.652).abs() < 1e-3 && (worst(0.1, 0.1) - 0.55).abs() < 1e-9);
    // Eight of them: one low, seven high.
    let eight = Tree::Series(vec![Tree::Part(100e-6); 8]);
    let got = share(&eight, Kind::Capacitor, &[(0.2, 0.2); 8]);
    assert!((got - (1.0 / 0.8) / (1.0 / 0.8 + 7.0 / 1.2)).abs() < 1e-9, "{got}");
    // Resistors: the great one gets the most.
    let three = Tree::Series(vec![Tree::Part(1e6); 3]);
    let got = share(&three, Kind::Resistor, &[(0.05, 0.05); 3]);
    assert!((got - 1.05 / (1.05 + 2.0 * 0.95)).abs() < 1e-9, "{got}");
    // Under a current each has its own volts, whatever the others are; nine side by side in two rows are too many to say.
    let fed = Drive::Current(Ampere::computed(1e-3));
    let got = worst_volts(&three, Kind::Resistor, fed, &[(0.05, 0.05); 3]).unwrap();
    assert!(got.iter().all(|v| (v - 1050.0).abs() < 1e-6), "{got:?}");
    let row = Tree::Parallel(vec![Tree::Part(1e6); 5]);
    assert!(worst_volts(&Tree::Series(vec![row; 2]), Kind::Resistor, whole, &[(0.05, 0.05); 10]).is_none());

    let stands = |tolerance: Option<f64>, needed: f64| {
        let mut lot = capacitor(150e-6, 450.0, CAN);
        lot.piece.tolerance = tolerance.and_then(|t| Fraction::new(t).ok());
        let old = old_capacitor(72e-6, Some(needed), CAN);
        let c = ask(&old, Some(72e-6), Some(Position::Smoothing), &[], &[lot]);
        c.choices.iter().any(|x| x.description.contains("in series"))
    };
    // By nominal halves two of 450 V stood 900 V; no single one of these volts is sold.
    assert!(!stands(None, 700.0) && stands(None, 685.0));
    assert!(stands(Some(0.1), 815.0) && !stands(Some(0.1), 825.0));
    // The same in a search of one's own: 10 % parts rated 250 V at 460 V.
    let of = |volts: f64| {
        let stock = Stock {
            tolerance: Fraction::new(0.1).ok(),
            voltage: Volt::new(250.0).ok(),
            ..Stock::of(22e-6, 2)
        };
        let wanted = Wanted {
            kind: Kind::Capacitor,
            target: 11e-6,
            within: Some(0.01),
            max_parts: 2,
            pinned: None,
            drive: Some(owl_core::network::Drive::Voltage(Volt::computed(volts))),
            power: None,
            voltage: None,
            limit: 5,
        };
        search(&wanted, &[stock]).unwrap().networks.len()
    };
    assert_eq!((of(450.0), of(460.0)), (1, 0));
}

fn rectifier(secondary: f64, more: &[(Fact, f64)]) -> Choices {
    let old = OldPart::Part(Part::Diode(Diode { family: Some(DiodeFamily::Silicon), plates: 1 }));
    let facts: Vec<(Fact, f64)> =
        [(Fact::Secondary, secondary)].into_iter().chain(more.iter().copied()).collect();
    ask(&old, None, Some(Position::Rectifier), &facts, &[])
}

/// One diode in a kilovolt supply is refused, and the string that would do is proposed: as many as share the volts with one
/// of them high by the tolerance of its resistor.
#[test]
fn a_kilovolt_supply_asks_for_a_string_of_diodes() {
    // With n resistors of ±5 % the worst diode gets 1.05 / (1.05 + 0.95 (n − 1)) of the volts.
    for (volts, rated) in [(900.0, 1000.0), (1500.0, 1000.0), (6000.0, 1000.0), (2.0, 50.0), (9999.0, 400.0)]
    {
        let n = diodes_in_series(Volt::computed(volts), Volt::computed(rated)).unwrap();
        let worst = |n: u32| volts * 1.05 / (1.05 + 0.95 * f64::from(n - 1));
        assert!(worst(n) <= rated + 1e-6 && (n == 1 || worst(n - 1) > rated), "{volts} on {rated}: {n}");
    }
    let c = rectifier(1250.0, &[(Fact::LoadCurrent, 0.2), (Fact::ChargingPath, 120.0)]);
    assert!(
        c.refused.iter().any(|r| r.description.starts_with("1N4007") && r.because.contains("are needed"))
    );
    let first = c.choices.first().expect("a string");
    assert!(first.pieces.len() > 4 && first.description.contains("in series"), "{}", first.description);
    assert!(first.cautions.iter().any(|x| x.text.contains("across each")));
    let needed = 2.0 * std::f64::consts::SQRT_2 * 1250.0 * 1.5;
    let n = first.pieces.len() as f64;
    let worst = needed * 1.05 / (1.05 + 0.95 * (n - 1.0));
    assert!(first.pieces.iter().all(|p| p.piece.volts.unwrap().volts() >= worst), "{worst}");
    // Where one does, nothing is strung.
    let low = rectifier(230.0, &[(Fact::LoadCurrent, 0.1), (Fact::ChargingPath, 30.0)]);
    assert!(low.choices.iter().all(|x| x.pieces.len() == 1) && !low.choices.is_empty());
    // No resistance in the path is called out, and what stands there before anything draws.
    let said = |c: &Choices, text: &str| c.advice.iter().any(|a| a.text.contains(text));
    assert!(
        said(&rectifier(230.0, &[]), "series resistor goes in with it")
            && !said(&low, "series resistor goes in")
    );
    assert!(said(&low, "before any heater is warm"));
}

/// At switch-on: the crest over the path against one half wave, √2 × volts × no load × highest line on the filter.
#[test]
fn silicon_meets_an_empty_filter_and_no_load() {
    let supply = |source: f64, series: f64| Supply {
        arrangement: Arrangement::HalfWave,
        line: Volt::computed(230.0),
        frequency: Hertz::computed(50.0),
        drop: Volt::computed(0.8),
        resistance: Ohm::ZERO,
        source: Ohm::computed(source),
        series: Ohm::computed(series),
        capacitance: Farad::computed(47e-6),
        load: Load::Current(Ampere::computed(0.08)),
    };
    let on = |source, series, diode: Option<&str>| {
        let s = supply(source, series);
        switch_on(&s, &s.steady().unwrap(), policy(), diode.and_then(device)).unwrap()
    };
    let bare = on(0.0, 0.0, None);
    assert!((bare.volts.volts() - 230.0 * std::f64::consts::SQRT_2 * 1.21).abs() < 0.1, "{}", bare.volts);
    assert!(bare.warnings.iter().any(|w| w.contains("nothing at all limits")));
    // 325 V × 1.1 over 5 Ω are 72 A, over the 30 A of a 1N4007; from 12 Ω on it stands it.
    let short = on(5.0, 0.0, Some("1N4007")).warnings.join("; ");
    assert!(short.contains("more than the 30 A") && short.contains("more in series"), "{short}");
    assert!(on(5.0, 8.2, Some("1N4007")).warnings.is_empty(), "{:?}", on(5.0, 8.2, Some("1N4007")));
    // 2 × 325 V × 1.5 are 976 V: one of 600 V is too few, two do.
    let weak = on(47.0, 0.0, Some("1N4005")).warnings.join("; ");
    assert!(weak.contains("× 1N4005 in series"), "{weak}");
}

/// Behind a rectifier whose cathode warms as slowly as the set's nothing stands on the rail before they draw; behind a
/// directly heated one, and where nobody said, the whole surge does.
#[test]
fn the_surge_counts_where_the_rectifier_is_faster_than_the_set() {
    let taken = |facts: &[(Fact, f64)]| {
        let facts: Vec<(Fact, f64)> =
            facts.iter().copied().chain([(Fact::Secondary, 280.0), (Fact::Rail, 300.0)]).collect();
        let old = old_capacitor(8e-6, Some(350.0), CAN);
        takes(&ask(&old, Some(8e-6), Some(Position::Smoothing), &facts, &[capacitor(10e-6, 400.0, CAN)]), 0)
    };
    // 280 V × √2 × 1.1 × 1.1 are 479 V.
    assert!(!taken(&[]) && !taken(&behind("5Y3GT", &[])));
    assert!(taken(&behind("6X5", &[])) && taken(&behind("EZ81", &[])));
}

/// A reservoir is reformed to what stands on it before the valves draw, not to what works there; behind a slow rectifier,
/// and where nobody said the winding, to what works.
#[test]
fn reforming_aims_at_what_stands_before_the_valves_draw() {
    use owl_core::part::PartKind;
    use owl_core::tray::installed::installed;
    use owl_core::tray::{Id, Tray, TrayPart};
    let volts = |facts: &[(Fact, f64)]| {
        let mut p = TrayPart::new(Id(1), "C1", PartKind::Capacitor);
        p.position = Some(Position::Reservoir);
        p.said = drawer::circuit(facts);
        let tray = Tray::new(vec![p], vec![]);
        installed(&tray, &tray.parts()[0]).reforming_volts(policy()).map(|v| v.volts().round())
    };
    let known = [(Fact::Voltage, 250.0), (Fact::Secondary, 240.0)];
    // 240 V × √2 × 1.1 without load; the line at its highest comes on top in the plan.
    assert_eq!(volts(&known), Some(373.0));
    assert_eq!(volts(&known[..1]), Some(250.0));
    assert_eq!(volts(&[&known[..], &behind("EZ80", &[])[..]].concat()), Some(250.0));
    assert_eq!(volts(&[]), None);
}
