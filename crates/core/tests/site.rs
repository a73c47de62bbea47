//! Where a part sits: what a place names, and where that is on a socket. Common practice, no source; pins are those of the
//! valve table (memory).
#![allow(clippy::unwrap_used, missing_docs)]

use owl_core::chart::spoken::{Astray, Standing, placed};
use owl_core::part::{PartKind, Position};
use owl_core::quantity::Volt;
use owl_core::say::{ValveSays, of_valve, sites};
use owl_core::site::{Site, SocketPoint};
use owl_core::socket::{Electrode, valve};

fn said(place: &str) -> Vec<String> {
    let one = |s: &Site| {
        let electrode = s.electrode.map(|e| e.to_string());
        let pin = s.pin.map(|p| p.to_string());
        [s.valve.clone(), electrode, pin].into_iter().flatten().collect::<Vec<_>>().join(" ")
    };
    sites(PartKind::Resistor, place, None).iter().map(one).collect()
}

#[test]
fn a_place_names_a_valve_an_electrode_and_a_pin_in_any_order() {
    for (place, named) in [
        ("V3 grid", vec!["V3 grid"]),
        ("V3 grid, pin 5", vec!["V3 grid 5"]),
        ("V3, pin 5", vec!["V3 5"]),
        ("pin 4 V1", vec!["V1 4"]),
        ("V3A anode", vec!["V3A plate"]),
        ("V2 screen to HT 2", vec!["V2 screen"]),
        ("V1 plate to V2 grid", vec!["V1 plate", "V2 grid"]),
        ("behind the mains switch", vec![]),
        ("", vec![]),
    ] {
        assert_eq!(said(place), named, "{place}");
    }
    let role = |kind, position| sites(kind, "V4", Some(position))[0].electrode;
    assert_eq!(role(PartKind::Resistor, Position::GridLeak), Some(Electrode::Grid));
    assert_eq!(role(PartKind::Capacitor, Position::CathodeBypass), Some(Electrode::Cathode));
    assert_eq!(role(PartKind::Resistor, Position::Divider), None, "a divider can hang on anything");
}

#[test]
fn a_place_is_a_pin_of_its_socket_where_there_is_but_one() {
    use SocketPoint::{Cap, Pin};
    for (place, of, on) in [
        ("V1 plate", "6V6", Some(Pin(3))),
        ("V1 cathode", "EL34", Some(Pin(8))),
        ("V1 pin 7", "6V6", Some(Pin(7))),
        ("V1 plate", "6SN7", None),
        ("V1B plate", "6SN7", Some(Pin(5))),
        ("V1 top cap", "24A", Some(Cap)),
        ("V1 grid", "24A", Some(Cap)),
        ("V1 suppressor", "6V6", None),
        // Heated directly: its filament is its cathode. The transmitting tetrode's cathode comes out thrice.
        ("V1 cathode", "2A3", Some(Pin(1))),
        ("V1 cathode", "6146", Some(Pin(1))),
    ] {
        assert_eq!(sites(PartKind::Resistor, place, None)[0].on(valve(of).unwrap()), on, "{place} of {of}");
    }
}

#[test]
fn places_sort_valve_by_valve_in_probing_order() {
    let mut all =
        ["V10 plate", "V2 grid", "Q1 base", "V2 plate", "V2 pin 9", "V2 cathode"].map(|p| (said(p), p));
    all.sort_by_key(|(_, p)| sites(PartKind::Resistor, p, None)[0].order_key());
    assert_eq!(
        all.map(|(_, p)| p),
        ["V2 plate", "V2 cathode", "V2 grid", "V2 pin 9", "V10 plate", "Q1 base"]
    );
}

/// The pins of a 6V6 as they stand in a chart, heaters last.
fn chart() -> Vec<Standing<'static>> {
    let pin = |name, pin, heater| Standing { name, at: "V2", pin: Some(pin), valve: "6V6", heater };
    vec![
        pin("V2 pin 3", 3, false),
        pin("V2 pin 4", 4, false),
        pin("V2 pin 8", 8, false),
        pin("V2 pin 5", 5, false),
        pin("V2 pin 2", 2, true),
        pin("V2 pin 7", 7, true),
    ]
}

fn volts(text: &str) -> Result<Vec<(&'static str, f64)>, Astray> {
    let Some(Ok(said)) = of_valve(text) else { panic!("{text}: {:?}", of_valve(text)) };
    let ValveSays::Volts { volts, .. } = said.says else { panic!("{text}: {:?}", said.says) };
    let points = chart();
    Ok(placed(&points, &said.at, &volts)?
        .into_iter()
        .map(|(i, v)| (points[i].name, Volt::volts(v)))
        .collect())
}

#[test]
fn the_volts_of_a_valve_are_one_line() {
    let all = [("V2 pin 3", 255.0), ("V2 pin 8", 6.6), ("V2 pin 5", 0.0)];
    assert_eq!(volts("V2 sheet 255 - 6.6 0").unwrap(), all);
    assert_eq!(volts("v2 255 – 6,6 0V").unwrap(), all);
    assert_eq!(volts("V2 plate 255 cathode 6.6 grid 0").unwrap(), all);
    assert_eq!(volts("V2 sheet pin 3 255V, pin 8 6.6V, pin 5 0V").unwrap(), all);
    assert_eq!(volts("V2 −18 V at grid").unwrap(), [("V2 pin 5", -18.0)]);
    assert_eq!(volts("V2 pin 7 6.3").unwrap(), [("V2 pin 7", 6.3)], "a heater by its pin");
    let words = |text: &str| volts(text).unwrap_err().to_string();
    assert!(words("V2 255 200 6.6 0 6.3").contains("5 numbers for V2, and it has 4 pins"));
    assert!(words("V9 255").starts_with("V9 is not in the chart yet"));
    assert!(words("V2 suppressor 12").contains("which pin of V2 is its suppressor"));
}

#[test]
fn a_valve_is_told_by_its_type_and_other_sentences_are_not_about_it() {
    let is = |text: &str| match of_valve(text).unwrap().unwrap().says {
        ValveSays::Is(board) => board.iter().map(|b| format!("{} {}", b.at, b.typed)).collect::<Vec<_>>(),
        other => panic!("{other:?}"),
    };
    assert_eq!(is("V2 EF89"), ["V2 EF89"]);
    assert_eq!(is("V1 ECH81, V2 EF89, V3 EBC81"), ["V1 ECH81", "V2 EF89", "V3 EBC81"]);
    assert_eq!(of_valve("V2").unwrap().unwrap().says, ValveSays::Look);
    for other in [
        "R4 22k V2 grid",
        "V2 grid",
        "V2 grid R4 22k",
        "V2 g2",
        "V2 pin5",
        "V2 cathode 8.2k",
        "across the line",
        "",
    ] {
        assert!(of_valve(other).is_none(), "{other}: {:?}", of_valve(other));
    }
    assert!(of_valve("V2 sheet much").unwrap().is_err());
}
