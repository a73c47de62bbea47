//! Sockets and valves. The pins are checked against what a second column of memory says; no handbook was at hand.
#![allow(clippy::unwrap_used, missing_docs)]

use owl_core::socket::{base, bases, valve, valves};
use std::collections::BTreeSet;

#[test]
fn every_row_of_the_table_is_a_valve_and_there_are_enough() {
    let rows = include_str!("../data/valve.csv").lines().skip(1).filter(|l| !l.is_empty()).count();
    assert_eq!(valves().len(), rows);
    assert!(valves().len() >= 60);
    let names: BTreeSet<&str> = valves().iter().map(|v| v.name.as_str()).collect();
    assert_eq!(names.len(), valves().len());
    for v in valves() {
        let pins: BTreeSet<u8> = v.pins.iter().map(|p| p.0).collect();
        assert_eq!(pins.len(), v.pins.len(), "{}: a pin twice", v.name);
        assert!(pins.iter().all(|p| (1..=v.base.pins).contains(p)), "{}", v.name);
        let has = |c: &[&str]| v.pins.iter().any(|p| c.contains(&p.1.code.as_str()));
        let cold = v.what.contains("stabiliser");
        assert!(
            cold || has(&["h"]) || has(&["f"]) || (has(&["f-"]) && has(&["f+"])),
            "{} has no heater",
            v.name
        );
        assert!(
            has(&["a", "a1", "aA", "ap"]) || v.cap.is_some_and(|c| c.code == "a"),
            "{} has no plate",
            v.name
        );
    }
}

/// From memory, a second time: heater, plate, grid and cathode pins of valves that everybody knows.
#[test]
fn the_pins_of_well_known_valves() {
    let pin = |v: &str, code: &str| -> Vec<u8> {
        valve(v).unwrap().pins.iter().filter(|p| p.1.code == code).map(|p| p.0).collect()
    };
    for (v, code, pins) in [
        ("6V6", "g1", vec![5]),
        ("6V6", "k", vec![8]),
        ("6SN7", "h", vec![7, 8]),
        ("6SN7", "aB", vec![5]),
        ("6SK7", "g1", vec![4]),
        ("5Y3", "f", vec![2, 8]),
        ("ECC83", "h", vec![4, 5]),
        ("ECC83", "gA", vec![7]),
        ("EL84", "g1", vec![2]),
        ("EL84", "a", vec![7]),
        ("6BE6", "g1", vec![1]),
        ("6AT6", "a", vec![7]),
        ("80", "a1", vec![2]),
        ("42", "g1", vec![4]),
    ] {
        assert_eq!(pin(v, code), pins, "{v} {code}");
    }
}

/// A package seen from below is a socket too: emitter at the tab, then base, then collector (memory: JEDEC TO-5).
#[test]
fn a_transistor_has_its_leads_where_its_package_has_them() {
    let t = valve("2n697").unwrap();
    assert_eq!(t.base.base, "TO-5");
    let said: Vec<(u8, &str)> = t.pins.iter().map(|p| (p.0, p.1.name.as_str())).collect();
    assert_eq!(said, [(1, "emitter"), (2, "base"), (3, "collector")]);
    assert_eq!(valve("2N3055").unwrap().base.pins, 2);
}

#[test]
fn a_type_is_found_with_what_is_written_behind_it() {
    for (typed, name) in
        [("6v6gt", "6V6"), (" 12SK7-GT ", "12SK7"), ("5U4G", "5U4"), ("6SN7GTB", "6SN7"), ("12AX7", "12AX7")]
    {
        assert_eq!(valve(typed).unwrap().name, name, "{typed}");
    }
    for typed in ["", "GT", "999", "G"] {
        assert!(valve(typed).is_none(), "{typed}");
    }
}

/// Seen from below, numbered clockwise from the key at the bottom: the first pin is left of the key, the last one right.
#[test]
fn pins_stand_clockwise_from_the_key() {
    for b in bases().iter().filter(|b| b.base != "TO-3") {
        let places = b.places();
        assert_eq!(places.len(), usize::from(b.pins));
        let (first, last) = (places[0], places[places.len() - 1]);
        assert!(
            first.x < 0.0 && last.x > 0.0 && (first.y - last.y).abs() < 1e-9,
            "{}: {first:?} {last:?}",
            b.base
        );
        for p in places.windows(2) {
            // Clockwise on a page whose y points down: the cross product is positive.
            assert!(p[0].x * p[1].y - p[0].y * p[1].x > 0.0, "{}", b.base);
        }
    }
    let noval = base("noval").unwrap().places();
    let step = |i: usize, j: usize| (noval[i].x - noval[j].x).hypot(noval[i].y - noval[j].y);
    assert!(step(0, 8) > 1.5 * step(0, 1), "the gap is the key");
}

/// What cannot be is said by the pin: a cathode at minus is another pin, a control grid at plus a leak or gas; where the sheet
/// has such volts itself nothing is said (common practice, no source).
#[test]
fn a_reading_that_cannot_be_is_doubted_by_its_pin() {
    use owl_core::quantity::Volt;
    let v = |v: f64| Volt::new(v).unwrap();
    let doubts = |pin, sheet: Option<f64>, read| {
        let role = valve("6F6").unwrap().role(pin).unwrap();
        role.doubts(sheet.map(v), v(read)).unwrap_or_default().to_owned()
    };
    assert!(doubts(8, Some(16.0), -14.0).contains("wrong side"), "cathode");
    assert!(doubts(3, None, -3.0).contains("another pin"), "plate");
    assert!(doubts(4, Some(210.0), -190.0).contains("another pin"), "screen");
    assert!(doubts(5, Some(0.0), 4.0).contains("capacitor leaks"), "grid");
    for (pin, sheet, read) in [
        (8, Some(16.0), 14.0),
        (8, Some(-20.0), -19.0),
        (5, Some(-12.0), -11.0),
        (5, Some(30.0), 28.0),
        (2, None, -6.0),
        (8, None, -0.1),
    ] {
        assert_eq!(doubts(pin, sheet, read), "", "pin {pin} {read}");
    }
    // Every row that doubts says why.
    assert!(
        valves()
            .iter()
            .flat_map(|v| &v.pins)
            .all(|(_, r)| r.doubts(None, v(-90.0)) != Some("") && r.doubts(None, v(90.0)) != Some(""))
    );
}
