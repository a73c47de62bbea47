//! Verdicts on resistors: R1, R2, R3 and pairs. The limits are IEC 60062:2016 tolerances; what
//! is made of them is common practice, no source, unless a test says otherwise.
#![allow(clippy::unwrap_used, missing_docs)]

use owl_core::named::Named;
use owl_core::part::{Circuit, Fact, Family, Part, PartKind, Position, Resistor};
use owl_core::quantity::{Fraction, Ohm, Second, Watt};
use owl_core::reading::doubt::doubt;
use owl_core::reading::instrument::decades;
use owl_core::reading::{Accuracy, MeterFunction, Mode, ReadQuantity, Reading, Shown, State};
use owl_core::verdict::{Case, Outcome, Partner, Policy, Rule, School, Verdict, judge};
use proptest::prelude::*;

fn ohm(v: f64) -> Ohm {
    Ohm::new(v).unwrap()
}

fn part(value: f64, tolerance: f64) -> Resistor {
    Resistor {
        family: Family::CarbonComposition,
        value: ohm(value),
        tolerance: Some(Fraction::new(tolerance).unwrap()),
        power: Some(Watt::new(0.5).unwrap()),
    }
}

fn reading(value: f64, state: State) -> Reading {
    Reading { state, ..Reading::of(ReadQuantity::Resistance, Shown::Value { si: value }) }
}

fn free(value: f64) -> Reading {
    reading(value, State::Lifted)
}

fn judged_by(
    part: &Resistor,
    position: Option<Position>,
    readings: &[Reading],
    partners: &[Partner],
    policy: &Policy,
) -> Verdict {
    let (part, circuit) = (Part::Resistor(*part), Circuit::default());
    judge(Case { part: &part, position, readings, partners, circuit: &circuit, looks: &[] }, policy)
}

fn judged(part: &Resistor, readings: &[Reading], school: School) -> Verdict {
    judged_by(part, None, readings, &[], Policy::of(school, false).unwrap())
}

fn call(value: f64, tolerance: f64, measured: f64) -> Outcome {
    judged(&part(value, tolerance), &[free(measured)], School::TestFirst).call
}

/// Common practice: 900 or 1,100 Ω on a 10 % kilo-ohm is on the edge and out; 975 and 1,025 stay.
#[test]
fn on_the_edge_counts_as_out() {
    assert_eq!(call(1000.0, 0.1, 900.0), Outcome::Replace);
    assert_eq!(call(1000.0, 0.1, 1100.0), Outcome::Replace);
    assert_eq!(call(1000.0, 0.1, 975.0), Outcome::Keep);
    assert_eq!(call(1000.0, 0.1, 1025.0), Outcome::Keep);
    // The same in a decade where the product of the limits is not exact in binary.
    assert_eq!(call(2.2e6, 0.1, 2.42e6), Outcome::Replace);
    assert_eq!(call(0.33, 0.1, 0.363), Outcome::Replace);
}

#[test]
fn from_seventy_percent_of_the_limit_a_part_is_watched() {
    assert_eq!(call(1000.0, 0.1, 1069.0), Outcome::Keep);
    assert_eq!(call(1000.0, 0.1, 1070.0), Outcome::Watch);
    assert_eq!(call(1000.0, 0.1, 925.0), Outcome::Watch);
    assert_eq!(call(1000.0, 0.1, 1099.0), Outcome::Watch);
}

#[test]
fn no_band_means_twenty_percent() {
    let mut p = part(3900.0, 0.1);
    p.tolerance = None;
    assert_eq!(judged(&p, &[free(4400.0)], School::TestFirst).call, Outcome::Keep);
    assert_eq!(judged(&p, &[free(4700.0)], School::TestFirst).call, Outcome::Replace);
}

#[test]
fn the_schools_differ_in_their_limits() {
    let p = part(1000.0, 0.1);
    let by = |school, tight, measured| {
        judged_by(&p, None, &[free(measured)], &[], Policy::of(school, tight).unwrap()).call
    };
    assert_eq!(by(School::TestFirst, false, 1080.0), Outcome::Watch);
    assert_eq!(by(School::TestFirst, true, 1080.0), Outcome::Replace);
    assert_eq!(by(School::KeepOriginal, false, 1080.0), Outcome::Keep);
    assert_eq!(by(School::KeepOriginal, false, 1180.0), Outcome::Watch);
    assert_eq!(by(School::KeepOriginal, false, 1200.0), Outcome::Replace);
    assert_eq!(by(School::ReplaceOnSight, false, 1180.0), Outcome::Replace);
    assert!(Policy::of(School::KeepOriginal, true).is_err());
    assert_eq!(Policy::side_by_side().count(), School::ALL.len());
}

#[test]
fn in_circuit_only_too_high_proves_anything() {
    let p = part(10e3, 0.1);
    let high = judged(&p, &[reading(13e3, State::InCircuit)], School::TestFirst);
    assert_eq!((high.call, high.reasons[0].rule), (Outcome::Replace, Rule::InCircuit));
    // A charge left in a capacitor reads high too: it is believed when both ways round read the same.
    assert!(high.next[0].starts_with("swap the leads"), "{:?}", high.next);
    let both = |second: f64| {
        judged(&p, &[reading(13e3, State::InCircuit), reading(second, State::InCircuit)], School::TestFirst)
    };
    let asks = |v: &Verdict| v.next.iter().any(|n| n.starts_with("swap"));
    assert!(!asks(&both(12.9e3)) && asks(&both(19e3)));
    for inside_or_low in [10e3, 7e3, 0.0] {
        let v = judged(&p, &[reading(inside_or_low, State::InCircuit)], School::TestFirst);
        assert_eq!(v.call, Outcome::MeasureAgain);
        assert!(v.next[0].contains("free one end"), "{:?}", v.next);
    }
    // An older reading with one end free decides where the newer one cannot.
    let v = judged(&p, &[free(10.1e3), reading(9e3, State::InCircuit)], School::TestFirst);
    assert_eq!((v.call, v.decided_by), (Outcome::Keep, Some(0)));
    let first = Policy::of(School::TestFirst, false).unwrap();
    let v = judged_by(&p, Some(Position::Cathode), &[reading(9e3, State::InCircuit)], &[], first);
    assert!(v.next[0].contains("pull its valve"), "{:?}", v.next);
}

#[test]
fn a_hot_composition_part_is_measured_again_unless_it_is_above_already() {
    let p = part(8200.0, 0.1);
    let hot = |v| Reading { hot: true, ..free(v) };
    assert_eq!(judged(&p, &[hot(8200.0)], School::TestFirst).call, Outcome::MeasureAgain);
    assert_eq!(judged(&p, &[hot(6000.0)], School::TestFirst).call, Outcome::MeasureAgain);
    assert_eq!(judged(&p, &[hot(9900.0)], School::TestFirst).call, Outcome::Replace);
    let after = |minutes: f64| Reading {
        since_soldering: Some(Second::new(minutes * 60.0).unwrap()),
        ..free(8200.0)
    };
    assert_eq!(judged(&p, &[after(29.0)], School::TestFirst).call, Outcome::MeasureAgain);
    assert_eq!(judged(&p, &[after(30.0)], School::TestFirst).call, Outcome::Keep);
    // A hot reading is not passed over for an older one: the part was heated since.
    assert_eq!(judged(&p, &[free(8200.0), hot(8000.0)], School::TestFirst).call, Outcome::MeasureAgain);
    let film = Resistor { family: Family::MetalFilm, ..p };
    assert_eq!(judged(&film, &[hot(8200.0)], School::TestFirst).call, Outcome::Keep);
}

#[test]
fn a_reading_that_straddles_the_limit_cannot_tell() {
    let p = part(6800.0, 0.05);
    let with = |v, percent: f64, counts, resolution| Reading {
        accuracy: Some(Accuracy {
            of_reading: Fraction::new(percent / 100.0).unwrap(),
            counts,
            resolution_si: resolution,
        }),
        ..free(v)
    };
    // Limit 7 140 Ω. 7 120 ± (0.5 % + 3 × 10 Ω) reaches from 7 054 to 7 186.
    let v = judged(&p, &[with(7120.0, 0.5, 3.0, 10.0)], School::TestFirst);
    assert_eq!((v.call, v.certain), (Outcome::MeasureAgain, false));
    assert!(v.reasons[0].text.contains("the meter allows 7.054 kΩ to 7.186 kΩ"), "{}", v.reasons[0].text);
    let closer = judged(&p, &[with(7120.0, 0.05, 2.0, 1.0)], School::TestFirst);
    assert_eq!((closer.call, closer.certain), (Outcome::Watch, true));
    let out = judged(&p, &[with(7300.0, 0.5, 3.0, 10.0)], School::TestFirst);
    assert_eq!((out.call, out.certain), (Outcome::Replace, true));
    assert!(!judged(&p, &[free(7000.0)], School::TestFirst).certain);
}

#[test]
fn beyond_the_range_is_open_only_if_the_range_would_have_held_it() {
    let open = |ceiling| Reading { shown: Shown::Overrange { ceiling_si: ceiling }, ..free(0.0) };
    assert_eq!(judged(&part(47e3, 0.1), &[open(None)], School::TestFirst).call, Outcome::Replace);
    assert_eq!(judged(&part(4.7e6, 0.1), &[open(Some(2e6))], School::TestFirst).call, Outcome::MeasureAgain);
    assert_eq!(judged(&part(15e6, 0.1), &[open(None)], School::TestFirst).call, Outcome::MeasureAgain);
    let in_circuit = Reading { state: State::InCircuit, ..open(None) };
    assert_eq!(judged(&part(47e3, 0.1), &[in_circuit], School::TestFirst).reasons[0].rule, Rule::InCircuit);
}

#[test]
fn alternating_current_on_a_wound_part_decides_nothing() {
    let p = Resistor { family: Family::Wirewound, ..part(150.0, 0.1) };
    let ac = Reading { mode: Mode::Ac, ..free(190.0) };
    let v = judged(&p, &[ac], School::TestFirst);
    assert_eq!((v.call, v.reasons[0].rule), (Outcome::MeasureAgain, Rule::Method));
}

#[test]
fn a_pair_must_agree_with_each_other() {
    let p = part(330.0, 0.1);
    let against = |own: f64, other: f64| {
        let partner =
            Partner { name: "R12".to_owned(), measured_si: other, marked_si: 330.0, base_volts: None };
        let first = Policy::of(School::TestFirst, false).unwrap();
        judged_by(&p, Some(Position::Cathode), &[free(own)], &[partner], first)
    };
    // 2 % of the mean: 330 and 336.6 are just inside.
    assert_eq!(against(330.0, 336.6).call, Outcome::Keep);
    // Both inside 10 %, seven apart: the further one goes, the nearer one waits for its match.
    let further = against(345.0, 322.0);
    assert_eq!((further.call, further.reasons[0].rule), (Outcome::Replace, Rule::Pair));
    let nearer = against(322.0, 345.0);
    assert_eq!(nearer.call, Outcome::Keep);
    assert!(nearer.next[0].contains("R12 is further off"), "{:?}", nearer.next);
    assert_eq!(against(345.0, 315.0).call, Outcome::Replace);
}

/// Composition climbs with age: a plate load a fifth above is no cause to look for; one far above, open, or of a kind that
/// does not climb, is (common practice, no source).
#[test]
fn age_alone_is_no_cause_to_look_for() {
    let asks = |family, measured: f64| {
        let part = Resistor { family, ..part(100e3, 0.1) };
        let policy = Policy::of(School::TestFirst, false).unwrap();
        judged_by(&part, Some(Position::PlateLoad), &[free(measured)], &[], policy).overloaded
    };
    assert!(!asks(Family::CarbonComposition, 112e3) && !asks(Family::CarbonComposition, 121e3));
    assert!(asks(Family::CarbonComposition, 160e3) && asks(Family::MetalFilm, 121e3));
}

/// A good value at 900 V on a half-watt body is no certain keep: 350 V is what such a body stands (memory).
#[test]
fn the_volts_of_a_body_count_beside_its_value() {
    let part = Part::Resistor(part(470e3, 0.1));
    let at = |fact, volts, position| {
        let mut circuit = Circuit::default();
        circuit.set_si(fact, volts).unwrap();
        let readings = [free(470e3)];
        let case =
            Case { part: &part, position, readings: &readings, partners: &[], circuit: &circuit, looks: &[] };
        judge(case, Policy::of(School::TestFirst, false).unwrap())
    };
    let v = at(Fact::Rail, 900.0, Some(Position::Bleeder));
    assert_eq!(v.call, Outcome::Watch);
    assert!(v.reasons.iter().any(|r| r.text.contains("350 V is what such a one stands")), "{:?}", v.reasons);
    assert_eq!(at(Fact::Voltage, 900.0, None).call, Outcome::Watch);
    assert_eq!(
        at(Fact::Rail, 900.0, Some(Position::PlateLoad)).call,
        Outcome::Keep,
        "the valve takes its share"
    );
    assert_eq!(at(Fact::Rail, 300.0, Some(Position::MeterMultiplier)).call, Outcome::Keep);
}

#[test]
fn nothing_measured_asks_for_a_measurement() {
    let v = judged(&part(1000.0, 0.1), &[], School::TestFirst);
    assert_eq!(
        (v.call, v.decided_by, v.next.as_slice()),
        (Outcome::MeasureAgain, None, ["measure it".to_owned()].as_slice())
    );
}

#[test]
fn every_reason_names_its_source() {
    let p = part(1000.0, 0.1);
    for readings in [vec![free(1500.0)], vec![free(1000.0)], vec![reading(900.0, State::InCircuit)]] {
        let v = judged(&p, &readings, School::TestFirst);
        assert!(!v.reasons.is_empty());
        assert!(v.reasons.iter().all(|r| !r.source.clause.is_empty() && !r.text.is_empty()));
    }
    assert!(Position::ALL.iter().all(|p| PartKind::ALL.iter().any(|k| p.facts(*k).is_some())));
}

#[test]
fn a_reading_a_million_times_off_is_asked_about() {
    let of = ReadQuantity::Resistance;
    let asked = doubt(of, 5.6e9, 5600.0).unwrap();
    assert_eq!(asked.perhaps_si, Some(5600.0));
    assert!(asked.question.contains("1\u{202f}000\u{202f}000 times above"), "{}", asked.question);
    assert!(doubt(of, 5.6, 5.6e6).unwrap().perhaps_si.is_some());
    assert!(doubt(of, 0.0, 5600.0).is_none());
    assert!(doubt(of, 22e3, 5600.0).is_none());
    let farads = doubt(ReadQuantity::Capacitance, 33e-9, 33e-6).unwrap();
    assert!(farads.question.contains("Perhaps 33 µF was meant"), "{}", farads.question);
}

#[test]
fn a_meter_takes_the_lowest_range_that_holds_the_reading() {
    let ranges = decades(Fraction::new(0.008).unwrap(), 3.0, 4000, 0.1, 40e6);
    let ohms = MeterFunction {
        name: "ohms".to_owned(),
        quantity: ReadQuantity::Resistance,
        mode: Mode::Dc,
        test_frequency: None,
        test_voltage: None,
        setting: None,
        ranges,
    };
    assert_eq!(ohms.check(), Ok(()));
    for (value, resolution) in [(12.0, 0.1), (400.0, 0.1), (400.1, 1.0), (8200.0, 10.0), (1e6, 1000.0)] {
        let found = ohms.accuracy_at_si(value).unwrap().resolution_si;
        assert!((found / resolution - 1.0).abs() < 1e-9, "{value}: {found}");
    }
    let (least, most) = ohms.accuracy_at_si(8200.0).unwrap().band_si(8200.0);
    assert!((least - 8104.4).abs() < 1e-6 && (most - 8295.6).abs() < 1e-6);
    assert_eq!((ohms.ceiling_si(), ohms.accuracy_at_si(41e6)), (Some(40e6), None));
}

proptest! {
    /// Whatever is read: never more than one end of the window is passed, the call follows from
    /// where the band lies, and a wider school never condemns what a narrower one keeps.
    #[test]
    fn a_wider_school_never_condemns_more(value in 1.0f64..1e7, ratio in 0.2f64..4.0, percent in 0.0f64..0.03) {
        let p = part(value, 0.1);
        let r = Reading {
            accuracy: Some(Accuracy { of_reading: Fraction::new(percent).unwrap(), counts: 0.0, resolution_si: 1.0 }),
            ..free(value * ratio)
        };
        let narrow = judged(&p, &[r], School::TestFirst);
        let wide = judged(&p, &[r], School::KeepOriginal);
        if narrow.call == Outcome::Keep { prop_assert_eq!(wide.call, Outcome::Keep); }
        if wide.call == Outcome::Replace { prop_assert_eq!(narrow.call, Outcome::Replace); }
        let limits = narrow.limits.unwrap();
        prop_assert!(limits.low_si < limits.high_si);
    }

    /// In circuit, nothing at or below the upper limit ever gives keep, watch or replace.
    #[test]
    fn in_circuit_never_decides_below_the_limit(value in 1.0f64..1e7, ratio in 0.0f64..1.0999) {
        let p = part(value, 0.1);
        let v = judged(&p, &[reading(value * ratio, State::InCircuit)], School::TestFirst);
        prop_assert_eq!(v.call, Outcome::MeasureAgain);
    }
}
