//! Prints that trap a reader: what is typed as it stands on parts and sheets (common practice, no source, unless
//! something else stands there).
#![allow(clippy::unwrap_used, clippy::expect_used, missing_docs)]

use owl_core::marking::{Hints, Meaning, read_text};
use owl_core::named::Named;
use owl_core::part::{CapacitorFamily, Family, MadeOf, PartKind};

fn read(kind: PartKind, text: &str) -> Vec<Meaning> {
    read_text(text, Hints::of(kind)).unwrap_or_else(|e| panic!("{text}: {e}"))
}

/// Value in the base unit and rated volts of the likeliest reading.
fn first(kind: PartKind, text: &str) -> (f64, Option<f64>) {
    let m = read(kind, text).remove(0);
    (m.value.number().unwrap().1, m.rating.map(|r| r.volts.volts()))
}

fn near(a: f64, b: f64) -> bool {
    (a / b - 1.0).abs() < 1e-9
}

#[test]
fn value_and_volts_are_told_from_sections() {
    for (text, micro, volts) in [
        ("33/25", 33.0, Some(25.0)),
        ("220/35", 220.0, Some(35.0)),
        ("1000/16", 1000.0, Some(16.0)),
        ("4.7/160", 4.7, Some(160.0)),
        (".1-400", 0.1, Some(400.0)),
        ("16-350", 16.0, Some(350.0)),
    ] {
        let (value, rated) = first(PartKind::Capacitor, text);
        assert!(near(value, micro * 1e-6) && rated == volts, "{text}: {value} {rated:?}");
        assert!(read(PartKind::Capacitor, text)[0].sections.is_empty(), "{text}");
    }
    // The other reading is not lost, and what old cans were printed with stays two sections.
    assert!(read(PartKind::Capacitor, "33/25").iter().any(|m| m.sections.len() == 2));
    for text in ["16/8", "20/20", "50/50", "8-16", "40-20"] {
        assert_eq!(read(PartKind::Capacitor, text)[0].sections.len(), 2, "{text}");
    }
}

/// IEC 60062 for the digits; EIA-198 and JIS C 5101 for figure and letter of the volts (from memory).
#[test]
fn volts_ahead_of_three_digits_and_a_letter_behind_volts() {
    for (text, pico, volts) in
        [("1H223", 22e3, 50.0), ("1J472K", 4700.0, 63.0), ("2G103J", 10e3, 400.0), ("3A102", 1000.0, 1000.0)]
    {
        let (value, rated) = first(PartKind::Capacitor, text);
        assert!(near(value, pico * 1e-12) && rated == Some(volts), "{text}: {value} {rated:?}");
    }
    let (value, rated) = first(PartKind::Capacitor, "223M 50Z");
    assert!(near(value, 22e-9) && rated == Some(50.0));
    // Any old paper is not read so.
    assert_eq!(first(PartKind::Capacitor, ".02 400").1, Some(400.0));
}

/// RETMA names; RCA's and others' GMV (from memory).
#[test]
fn class_one_before_its_value_and_guaranteed_minimum() {
    for (text, pico) in [("N750 33", 33.0), ("N150 68", 68.0), ("NPO 15", 15.0)] {
        let all = read(PartKind::Capacitor, text);
        assert!(near(all[0].value.number().unwrap().1, pico * 1e-12), "{text}");
        assert!(all.iter().all(|m| m.value.number().unwrap().1 < 1e-6), "{text}: no microfarads");
    }
    let m = read(PartKind::Capacitor, ".005 GMV").remove(0);
    assert!(near(m.value.number().unwrap().1, 5e-9));
    assert!(m.notes.iter().any(|n| n.contains("guaranteed")));
    assert!(read(PartKind::Capacitor, "4700 GMV 1KV")[0].rating.is_some());
}

/// MIL-C-5, -20, -25, -11015, -11272 and -39003 (from memory).
#[test]
fn military_numbers_of_capacitors() {
    use CapacitorFamily::{CeramicClass1, CeramicClass2, Mica, MouldedPaper, SilverMica, Tantalum};
    for (text, pico, family, volts) in [
        ("CM15C471J", 470.0, Mica, None),
        ("CM06FD332JO3", 3300.0, Mica, Some(500.0)),
        ("CK06BX224K", 220e3, CeramicClass2, None),
        ("CC20CG330G", 33.0, CeramicClass1, None),
        ("CY15C102J", 1000.0, SilverMica, None),
        ("CSR13E226KM", 22e6, Tantalum, Some(20.0)),
        ("CP25A1EF473M", 47e3, MouldedPaper, Some(600.0)),
    ] {
        let m = read(PartKind::Capacitor, text).remove(0);
        let value = m.value.number().unwrap().1;
        assert!(near(value, pico * 1e-12), "{text}: {value}");
        assert_eq!(m.made, Some(MadeOf::Capacitor(family)), "{text}");
        assert_eq!(m.rating.map(|r| r.volts.volts()), volts, "{text}");
        assert!(m.tolerance.is_some(), "{text}");
    }
}

#[test]
fn cement_bodies_say_watts_first() {
    for (text, ohms, watts) in [("5W220RJ", 220.0, 5.0), ("7W0R33K", 0.33, 7.0), ("10W6R8J", 6.8, 10.0)] {
        let m = read(PartKind::Resistor, text).remove(0);
        assert!(near(m.value.number().unwrap().1, ohms), "{text}");
        assert_eq!(m.power.map(|w| w.watts()), Some(watts), "{text}");
        assert_eq!(m.made, Some(MadeOf::Resistor(Family::Wirewound)));
    }
}

/// RMA's code of the thirties: body, end, dot; a fifth band in white is a finish (MIL-R-11, from memory).
#[test]
fn body_end_dot_in_words_and_a_white_fifth_band() {
    for (text, ohms, tolerance) in [
        ("body yellow, end violet, dot red, gold end", 4700.0, Some("5 %")),
        ("body red, dot orange, end green", 25e3, None),
        ("orange body white tip brown dot other end silver", 390.0, Some("10 %")),
    ] {
        let m = read(PartKind::Resistor, text).remove(0);
        assert!(near(m.value.number().unwrap().1, ohms), "{text}: {:?}", m.value);
        let told = m.tolerance_fraction().map(|t| t.fraction());
        match tolerance {
            Some(t) => {
                assert_eq!(told.map(owl_core::quantity::format::percent).as_deref(), Some(t), "{text}")
            }
            None => assert!(m.scheme.is_some_and(|s| s.name() == "body-end-dot")),
        }
    }
    let m = read(PartKind::Resistor, "yellow violet orange silver white").remove(0);
    assert!(near(m.value.number().unwrap().1, 47e3), "{:?}", m.value);
}

#[test]
fn on_american_sheets_a_thousand_is_a_later_choice() {
    let all = read(PartKind::Resistor, "250M");
    assert!(near(all[0].value.number().unwrap().1, 250e6));
    assert!(all[1..].iter().any(|m| near(m.value.number().unwrap().1, 250e3)), "{all:?}");
    assert!(near(first(PartKind::Capacitor, "150 mmf mica 500v").0, 150e-12), "words behind mmf");
}
