//! Integrated circuits (rule R21): what each pin shows, when a circuit is condemned and when what hangs on it is, and which
//! take each other's place. The pins are those of data sheets, from memory; the order of looking is common practice, no source.
#![allow(clippy::unwrap_used, clippy::indexing_slicing, missing_docs)]

use std::collections::BTreeSet;

use crate::bench::lot;
use crate::drawer::policy;
use owl_core::drawers::{Condition, Lot, Piece};
use owl_core::ic::expected::Feeding;
use owl_core::ic::{Function, Job, PinError, device, devices, pin_of};
use owl_core::named::Named;
use owl_core::part::{Circuit, Fact, Ic, Part, PartKind};
use owl_core::quantity::Volt;
use owl_core::reading::{ReadQuantity, Reading, Shown, State};
use owl_core::say::{Known, Tray, understand};
use owl_core::substitute::{Choices, Need, OldPart, choose};
use owl_core::verdict::{Case, Outcome, Verdict, judge};

/// Volts at a pin in the set; a pin that is negative here is read with what hangs on it lifted.
fn at(pin: i16, volts: f64) -> Reading {
    let state = if pin < 0 { State::Lifted } else { State::InCircuit };
    let shown = Shown::Value { si: volts };
    Reading { pin: u8::try_from(pin.abs()).ok(), state, ..Reading::of(ReadQuantity::PinVoltage, shown) }
}

fn verdict(type_number: &str, pins: &[(i16, f64)]) -> Verdict {
    let part = Part::Ic(Ic { device: device(type_number) });
    let readings: Vec<Reading> = pins.iter().map(|(n, v)| at(*n, *v)).collect();
    let circuit = Circuit::default();
    let case = Case {
        part: &part,
        position: None,
        readings: &readings,
        partners: &[],
        circuit: &circuit,
        looks: &[],
    };
    judge(case, policy())
}

fn says(v: &Verdict) -> String {
    let reasons = v.reasons.iter().map(|r| r.text.as_str());
    reasons.chain(v.next.iter().map(String::as_str)).collect::<Vec<_>>().join("; ")
}

#[test]
fn every_circuit_has_pins_that_can_be() {
    let mut jobs = BTreeSet::new();
    for d in devices() {
        let t = &d.type_number;
        let numbers: Vec<u8> = d.pins().map(|p| p.number).collect();
        let once: BTreeSet<u8> = numbers.iter().copied().collect();
        assert_eq!(numbers.len(), once.len(), "{t}: a pin twice");
        let has = |f: Function| d.pins().filter(|p| p.function == f).count();
        assert!(has(Function::Supply) >= 1, "{t}: nothing feeds it");
        assert_eq!(
            usize::from(has(Function::NegativeSupply) == 1) + usize::from(has(Function::Ground) > 0),
            1,
            "{t}"
        );
        assert!(has(Function::Output) >= 1 && d.supply_least < d.supply_most, "{t}");
        assert!(d.pins().all(|p| !p.hangs.is_empty() || p.function == Function::Supply), "{t}");
        let order = d.in_probing_order();
        assert!(order[0].function == Function::Supply && order.len() == numbers.len(), "{t}");
        // Over its whole range a pin that is known shows something between the rails.
        for v in [d.supply_least, d.supply_most] {
            let fed = Feeding { minus: Volt::ZERO, plus: v };
            for e in d.pins().filter_map(|p| p.expected(fed)) {
                assert!(e.volts.volts() >= -0.5 && e.volts <= v, "{t}: {} of {v}", e.volts);
            }
        }
        assert!(devices().iter().filter(|o| o.type_number == *t).count() == 1, "{t} twice");
        jobs.insert(d.job);
    }
    assert_eq!(jobs.len(), Job::ALL.len(), "each job has a circuit");
}

// Data sheets: an audio output stands at half its supply (LM386, TDA2003); a supply in two halves puts it on the chassis.
#[test]
fn an_output_stands_at_half_of_what_feeds_it() {
    let shows = |t: &str, pin: u8, minus: f64, plus: f64| {
        let fed = Feeding { minus: Volt::computed(minus), plus: Volt::computed(plus) };
        device(t).unwrap().pin(pin).unwrap().expected(fed).unwrap().volts.volts()
    };
    assert_eq!((shows("LM386", 5, 0.0, 9.0), shows("TDA2003", 4, 0.0, 14.4)), (4.5, 7.2));
    assert_eq!(shows("TDA2030", 4, -15.0, 15.0), 0.0);
    assert_eq!((shows("NE602", 1, 0.0, 6.0), shows("NE602", 4, 0.0, 6.0)), (1.4, 4.75));
    assert_eq!((shows("CA3089E", 10, 0.0, 12.0), shows("LM723", 6, 0.0, 24.0)), (5.6, 7.15));
    assert_eq!(device("LM386").unwrap().pin(5).unwrap().in_words(), "half the supply");
    assert_eq!(device("NE602").unwrap().pin(4).unwrap().in_words(), "the supply less 1.25 V");
}

#[test]
fn what_feeds_it_comes_before_everything() {
    let v = verdict("TDA2003", &[]);
    assert!(v.call == Outcome::MeasureAgain && says(&v).contains("pin 5 first"), "{}", says(&v));
    let v = verdict("TDA2003", &[(5, 3.2), (4, 0.4)]);
    assert_eq!(v.call, Outcome::MeasureAgain);
    assert!(says(&v).contains("free pin 5") && !says(&v).contains("pin 4"), "{}", says(&v));
    let v = verdict("TDA2003", &[(5, 3.2), (-5, 13.9)]);
    assert!(v.call == Outcome::Replace && says(&v).contains("draws its own feed down"), "{}", says(&v));
    let v = verdict("TDA2003", &[(5, 3.2), (-5, 3.4)]);
    assert!(v.call == Outcome::Keep && says(&v).contains("what feeds it is at fault"), "{}", says(&v));
    let v = verdict("TBA810S", &[(1, 27.0)]);
    assert!(v.call == Outcome::Replace && says(&v).contains("what lifted the supply"), "{}", says(&v));
}

#[test]
fn what_hangs_on_a_pin_comes_before_the_circuit() {
    let whole = [(6, 9.0), (4, 0.0), (2, 0.0), (3, 0.02), (1, 1.3), (8, 1.3), (7, 5.1)];
    let with = |more: &[(i16, f64)]| verdict("LM386", &[whole.as_slice(), more].concat());
    let good = with(&[(5, 4.6)]);
    assert_eq!(good.call, Outcome::Keep, "{}", says(&good));
    let off = with(&[(5, 7.9)]);
    assert_eq!(off.call, Outcome::MeasureAgain);
    assert!(
        says(&off).contains("pin 5, output: 7.9 V for 4.5 V ±1.1 V")
            && says(&off).contains("lift the capacitor to the loudspeaker"),
        "{}",
        says(&off)
    );
    let guilty = with(&[(5, 7.9), (-5, 4.5)]);
    assert!(
        guilty.call == Outcome::Watch && says(&guilty).contains("pulls it off, not the circuit"),
        "{}",
        says(&guilty)
    );
    let dead = with(&[(5, 7.9), (-5, 8.1)]);
    assert!(dead.call == Outcome::Replace && says(&dead).contains("with nothing on it"), "{}", says(&dead));
    let open = verdict("LM386", &[(6, 9.0), (4, 0.8)]);
    assert!(
        open.call == Outcome::MeasureAgain && says(&open).contains("its ground is open"),
        "{}",
        says(&open)
    );
    let half = verdict("LM386", &[(6, 9.0), (4, 0.0), (5, 4.5)]);
    assert!(
        half.call == Outcome::MeasureAgain && says(&half).contains("read pin 1, 2, 3, 7, 8"),
        "{}",
        says(&half)
    );
}

#[test]
fn of_an_unknown_type_nothing_is_condemned() {
    let v = verdict("XQ7719", &[(3, 0.2)]);
    assert!(v.call == Outcome::MeasureAgain && says(&v).contains("against the sheet"), "{}", says(&v));
}

fn offered(type_number: &str, rail: Option<f64>, lots: &[Lot]) -> Choices {
    let mut circuit = Circuit::default();
    rail.into_iter().for_each(|v| circuit.set_si(Fact::Rail, v).unwrap());
    let gone = OldPart::Part(Part::Ic(Ic { device: device(type_number) }));
    let need =
        Need { paired: false, gone: &gone, type_number, value_si: None, position: None, circuit: &circuit };
    choose(&need, policy(), lots).unwrap()
}

fn in_drawer(type_number: &str) -> Lot {
    lot(Piece { type_number: type_number.to_owned(), ..Piece::new(PartKind::Ic) }, 2, Condition::New)
}

fn types(c: &Choices) -> Vec<&str> {
    c.choices.iter().map(|c| c.pieces[0].piece.type_number.as_str()).collect()
}

#[test]
fn its_like_goes_in_where_its_supply_holds_what_feeds_it() {
    let lots = [in_drawer("TDA2003"), in_drawer("LM386"), in_drawer("tda 2002")];
    let found = offered("TDA2002", Some(13.8), &lots);
    assert_eq!(
        types(&found)[..2],
        ["tda 2002", "TDA2003"],
        "the drawer before the shop, the same before the like"
    );
    assert!(types(&found).contains(&"TDA2003"));
    assert!(
        found.refused.iter().any(|r| r.description.contains("LM386") && r.because.contains("other pins"))
    );
    // A TBA800 stands 30 V, a TBA810S 20 V.
    let at_24 = offered("TBA800", Some(24.0), &[in_drawer("TBA810S")]);
    assert_eq!(types(&at_24), ["TBA800"]);
    assert!(at_24.refused.iter().any(|r| r.because.contains("24 V are needed")), "{:?}", at_24.refused);
    let unknown = offered("TBA800", None, &[in_drawer("TBA810S")]);
    let like = unknown.choices.iter().find(|c| c.pieces[0].piece.type_number == "TBA810S").unwrap();
    assert!(like.cautions.iter().any(|c| c.text.contains("measure its supply first")), "{:?}", like.cautions);
    assert_eq!(unknown.asks, [Fact::Rail]);
}

#[test]
fn a_reading_names_its_pin() {
    let volts = ReadQuantity::PinVoltage;
    assert_eq!(pin_of("U1", volts, Some(14)), Ok(Some(14)));
    assert_eq!(pin_of("U1", ReadQuantity::Gain, None), Ok(None));
    assert_eq!(pin_of("U1", volts, None), Err(PinError::NoPin("U1".to_owned())));
    assert_eq!(pin_of("U1", volts, Some(65)), Err(PinError::NoPin("U1".to_owned())));
    assert_eq!(pin_of("R1", ReadQuantity::Resistance, Some(3)), Err(PinError::NotVolts));
    let known = Known { name: "U2".to_owned(), has_mark: true, ..Known::default() };
    let tray = Tray { parts: vec![known], selected: None, ..Tray::default() };
    let said = |t: &str| understand(t, &tray).unwrap().measured.first().map(|m| (m.pin, m.value_si));
    assert_eq!(said("U2 pin 5 4.6"), Some((Some(5), Some(4.6))));
    assert_eq!(said("U2 pin 3 = -12V"), Some((Some(3), Some(-12.0))));
    assert!(understand("U2 = 4.6", &tray).is_err() && understand("U2 pin 5", &tray).is_err());
}
