//! The drawers: rows of CSV read and written, what a search line means, what is to be bought.
#![allow(clippy::unwrap_used, missing_docs)]

use owl_core::drawers::csv::{COLUMNS, header as header_of, read_row, write_row};
use owl_core::drawers::search::words;
use owl_core::drawers::shopping::{Lack, list};
use owl_core::drawers::stock_test::{TestError, passed};
use owl_core::drawers::{Condition, Lot, Piece};
use owl_core::header::{Header, HeaderError};
use owl_core::named::Named;
use owl_core::part::{CapacitorFamily, Circuit, Fact, Family, MadeOf, PartKind};
use owl_core::quantity::{Volt, Watt};
use owl_core::verdict::{Policy, School};
use proptest::prelude::*;

fn header() -> Header {
    header_of(COLUMNS).unwrap()
}

/// A row of which only these columns say something.
fn row(fields: &[(&str, &str)]) -> Vec<String> {
    COLUMNS
        .iter()
        .map(|c| fields.iter().find(|f| f.0 == *c).map_or(String::new(), |f| f.1.to_owned()))
        .collect()
}

fn read(fields: &[(&str, &str)]) -> Result<Lot, (&'static str, String)> {
    let row = row(fields);
    let row: Vec<&str> = row.iter().map(String::as_str).collect();
    read_row(&header(), &row).map(|r| r.lot).map_err(|e| (e.column(), e.to_string()))
}

#[test]
fn a_row_is_read_as_people_write_it() {
    let lot = read(&[
        ("kind", "capacitor"),
        ("family", "polyester"),
        ("value", ".033 µF"),
        ("tolerance", "10 %"),
        ("volts", "250V"),
        ("count", "14"),
        ("place", "film binder, page 2"),
        ("measured", "33.1n; 0.0328u"),
        ("price", "0,35"),
    ])
    .unwrap();
    assert!((lot.piece.value_si.unwrap() - 3.3e-8).abs() < 1e-18);
    assert_eq!(lot.piece.volts, Volt::new(250.0).ok());
    assert_eq!(lot.piece.family, Some(MadeOf::Capacitor(CapacitorFamily::Polyester)));
    assert_eq!((lot.count, lot.price_hundredths, lot.condition), (14, Some(35), Condition::New));
    assert!((lot.measured_si[1] - 3.28e-8).abs() < 1e-18);
    assert_eq!(lot.piece.to_string(), "33 nF ±10 % 250 V polyester");
    let diode = read(&[("kind", "diode"), ("type", "1N4007"), ("volts", "1000"), ("count", "0")]).unwrap();
    assert_eq!(diode.piece.to_string(), "1N4007 1 kV diode");
}

#[test]
fn a_wrong_field_is_named_with_what_is_wrong() {
    let base = [("kind", "resistor"), ("value", "47k"), ("count", "5")];
    let with = |column: &'static str, text: &'static str| {
        let mut fields: Vec<_> = base.iter().filter(|f| f.0 != column).copied().collect();
        fields.push((column, text));
        read(&fields)
    };
    assert!(with("place", "box 3").is_ok());
    for (column, text, says) in [
        ("kind", "resister", "known are"),
        ("kind", "", "known are"),
        ("family", "polyester", "no family of a resistor"),
        ("value", "lots", "not a number"),
        ("value", "-5", "not above zero"),
        ("value", "0", "not above zero"),
        ("tolerance", "200 %", "between 0 and 100 %"),
        ("watts", "often", "not a number"),
        ("count", "", "how many"),
        ("count", "2.5", "whole number"),
        ("count", "99999999", "whole number"),
        ("safety", "X2", "has no such class"),
        ("celsius", "hot", "temperature"),
        ("condition", "mint", "known are"),
        ("measured", "1k;2k;3k;4k;5k;6k", "more measured values than pieces"),
        ("price", "dear", "no price"),
        ("leads", "long", "known are"),
        ("low_water", "-1", "whole number"),
        ("place", "=1+1", "formula"),
    ] {
        let (at, why) = with(column, text).unwrap_err();
        assert!(at == column && why.starts_with(column) && why.contains(says), "{column} {text}: {why}");
    }
    assert_eq!(with("value", "").unwrap_err().0, "value");
    let place = "x".repeat(121);
    let mut fields = base.to_vec();
    fields.push(("place", &place));
    assert!(read(&fields).unwrap_err().1.contains("120 characters"));
    assert!(read(&[("kind", "diode"), ("value", "5"), ("count", "1")]).is_err());
}

#[test]
fn a_header_says_which_column_is_wrong() {
    assert!(header_of(["\u{feff}Kind", " value ", "count"]).is_ok());
    assert!(matches!(header_of(["kind", "value"]), Err(HeaderError::Missing { column: "count", .. })));
    assert!(
        matches!(header_of(["kind", "value", "count", "colour"]), Err(HeaderError::Unknown { column, .. }) if column == "colour")
    );
    assert!(matches!(header_of(["kind", "kind"]), Err(HeaderError::Twice(_))));
    // A row shorter than its header: what is missing is empty.
    let short = read_row(&header_of(["kind", "value", "count", "place"]).unwrap(), &["resistor", "1k", "2"]);
    assert_eq!(short.unwrap().lot.place, "");
}

#[test]
fn a_search_word_is_a_value_volts_or_text() {
    let w = words("0.047 630");
    assert!(w[0].values.contains(&(PartKind::Capacitor, 4.7e-8)));
    assert!(w[1].volts == Some(630.0) && w[1].values.contains(&(PartKind::Resistor, 630.0)));
    assert_eq!(words("630 V film").iter().map(|w| w.text.as_str()).collect::<Vec<_>>(), ["630v", "film"]);
    assert_eq!(words("½W")[0].watts, Some(0.5));
    // Beside a value a rating is what is needed at least; a bare fraction is no volts.
    let least = |line: &str| words(line)[1].least().map(|(_, v)| v);
    assert_eq!(least("68 2W"), [None, Some(2.0), None]);
    assert_eq!(least(".022 400")[0], Some(400.0));
    assert_eq!(least("630 0.1")[0], None);
    assert!(words("400V")[0].rating && !words("400")[0].rating && !words("4V7")[0].rating);
    // JIS C 7012: 2SC945 is printed C945.
    assert_eq!(
        words("C945 2SA733 C4 BC547").into_iter().map(|w| w.also.join("")).collect::<Vec<_>>(),
        ["2sc945", "a733", "", ""]
    );
    assert!(words("binder")[0].values.is_empty());
    assert_eq!(words(&"a ".repeat(100)).len(), 8);
}

/// Common practice, no source: old stock is tested at its working voltage before it is fitted. The limits are those of
/// film as new (IEC 60384-16, from memory: R · C ≥ 5,000 s) and the school's of an electrolytic.
#[test]
fn old_stock_passes_its_test_or_stays_in_its_drawer() {
    let policy = Policy::of(School::TestFirst, false).unwrap();
    let capacitor = |family, value, volts| Piece {
        family: Some(MadeOf::Capacitor(family)),
        value_si: Some(value),
        volts: Volt::new(volts).ok(),
        ..Piece::new(PartKind::Capacitor)
    };
    let film = capacitor(CapacitorFamily::Polypropylene, 1e-6, 400.0);
    let mut circuit = Circuit::default();
    circuit.set_si(Fact::Voltage, 210.0).unwrap();
    let test = |piece: &Piece, measured, typed: &str| passed(piece, measured, None, &circuit, policy, typed);
    // 400 V over 5,000 MΩ: 1 µF · 5 GΩ = 5,000 s is just enough; twice the leak is not.
    assert_eq!(test(&film, None, "79 nA at 400 V"), Ok(()));
    assert!(matches!(test(&film, None, "160 nA @ 400"), Err(TestError::Failed(_))));
    assert_eq!(test(&film, None, "0 @400 V"), Ok(()));
    assert!(matches!(test(&film, None, ""), Err(TestError::Missing(_))));
    assert_eq!(test(&film, None, "fine"), Err(TestError::Unclear));
    assert!(matches!(test(&film, None, "lots at 400 V"), Err(TestError::Leak(_))));
    assert!(matches!(test(&film, None, "1 nA at 100 V"), Err(TestError::TooLow { .. })));
    let can = capacitor(CapacitorFamily::Electrolytic, 16e-6, 350.0);
    assert_eq!(test(&can, Some(17e-6), "0.3 mA at 350 V"), Ok(()));
    assert!(matches!(test(&can, Some(17e-6), "9 mA at 350 V"), Err(TestError::Failed(_))));
    // A resistor is measured, a lamp lights.
    let resistor = Piece { value_si: Some(1e3), ..Piece::new(PartKind::Resistor) };
    assert!(test(&resistor, None, "").is_err() && test(&resistor, Some(1020.0), "").is_ok());
    let lamp = Piece::new(PartKind::Lamp);
    assert!(test(&lamp, None, "").is_err() && test(&lamp, None, "lights").is_ok());
}

#[test]
fn equal_pieces_are_bought_in_one_line() {
    let film = Piece {
        family: Some(MadeOf::Capacitor(CapacitorFamily::Polypropylene)),
        value_si: Some(2.2e-8),
        volts: Volt::new(630.0).ok(),
        ..Piece::new(PartKind::Capacitor)
    };
    let small = Piece {
        family: Some(MadeOf::Resistor(Family::MetalFilm)),
        value_si: Some(220e3),
        watts: Watt::new(1.0).ok(),
        ..Piece::new(PartKind::Resistor)
    };
    let lack = |piece: &Piece, count, wanted_for: &str, price| Lack {
        piece: piece.clone(),
        count,
        wanted_for: wanted_for.to_owned(),
        price_hundredths: price,
    };
    let lines = list(&[
        lack(&film, 1, "C4 of T-3", Some(120)),
        lack(&small, 2, "R7 of T-3", None),
        lack(&film, 2, "C9 of T-5", None),
    ]);
    assert_eq!(lines.len(), 2);
    assert_eq!((lines[0].lacking, lines[0].order, lines[0].wanted_for.len()), (3, 4, 2));
    // Small resistors cost next to nothing: a handful.
    assert_eq!((lines[1].lacking, lines[1].order), (2, 10));
}

proptest! {
    #![proptest_config(ProptestConfig::with_cases(300))]
    /// What is written is read again as it was.
    #[test]
    fn a_lot_comes_back(
        value in 1e-12f64..1e-2, volts in proptest::option::of(1.0f64..1e4), count in 0u32..1000,
        place in "[a-zA-Z0-9 ,;\"'./()-]{0,40}", family in 0usize..13, condition in 0usize..4, price in proptest::option::of(0u32..100_000),
    ) {
        prop_assume!(!place.trim().starts_with(['-', '=', '+', '@']));
        let piece = Piece {
            family: Some(MadeOf::Capacitor(CapacitorFamily::ALL[family])),
            value_si: Some(value),
            volts: volts.map(|v| Volt::new(v).unwrap()),
            ..Piece::new(PartKind::Capacitor)
        };
        let lot = Lot {
            piece, count, place: place.trim().to_owned(), condition: Condition::ALL[condition],
            measured_si: vec![], price_hundredths: price, low_water: 2,
        };
        let row = write_row("7", &lot);
        let back = read_row(&header(), &row.iter().map(String::as_str).collect::<Vec<_>>()).unwrap();
        prop_assert_eq!(back.id, "7");
        let near = |a: Option<f64>, b: Option<f64>| match (a, b) {
            (Some(a), Some(b)) => (a / b - 1.0).abs() < 1e-12,
            (a, b) => a == b,
        };
        prop_assert!(near(back.lot.piece.value_si, lot.piece.value_si));
        prop_assert!(near(back.lot.piece.volts.map(Volt::volts), volts));
        prop_assert_eq!((back.lot.count, back.lot.place, back.lot.price_hundredths), (lot.count, lot.place, price));
    }

    /// Whatever stands in a row, an answer comes back.
    #[test]
    fn any_row_is_answered(fields in prop::collection::vec(".{0,30}", 0..22)) {
        let fields: Vec<&str> = fields.iter().map(String::as_str).collect();
        let _ = read_row(&header(), &fields);
        let _ = words(&fields.join(" "));
    }
}
