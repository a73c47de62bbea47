//! The rest of the tables, typed here a second time from memory of the published ones, and the bench cards
//! that are printed from them.
#![allow(clippy::unwrap_used, missing_docs)]

use std::collections::BTreeSet;

use owl_core::marking::scheme::{CellUnit, Role, Scheme, Table, cells, layouts};
use owl_core::marking::table::{Card, card};
use owl_core::marking::temperature::{Place1, Place2, class1, class2, coefficients};
use owl_core::marking::{Colour, Hints, diode, lamp, mil_style, read_text, volts};
use owl_core::named::Named;
use owl_core::part::PartKind;
use owl_core::part::body::{bodies, of_size};
use owl_core::source::SourceKind;

fn colour(name: &str) -> Colour {
    Colour::from_name(name).unwrap()
}

/// What the colours mean in a place, in the order of the standard.
fn column(table: Table, role: Role, unit: CellUnit) -> Vec<(&'static str, f64)> {
    Colour::ALL
        .iter()
        .flat_map(|c| cells(table, role, *c).iter().map(move |cell| (c, cell)))
        .filter(|(_, cell)| cell.unit == unit && cell.weight > 0.3)
        .filter_map(|(c, cell)| Some((c.name(), cell.value?)))
        .collect()
}

#[test]
fn tolerances_by_colour() {
    let percent = |t| column(t, Role::Tolerance, CellUnit::Percent);
    assert_eq!(
        percent(Table::Mica),
        [
            ("black", 20.0),
            ("brown", 1.0),
            ("red", 2.0),
            ("orange", 3.0),
            ("green", 5.0),
            ("gold", 5.0),
            ("silver", 10.0),
            ("none", 20.0)
        ]
    );
    assert_eq!(
        percent(Table::MicaRma),
        [
            ("black", 20.0),
            ("brown", 1.0),
            ("red", 2.0),
            ("orange", 3.0),
            ("yellow", 4.0),
            ("green", 5.0),
            ("blue", 6.0),
            ("violet", 7.0),
            ("grey", 8.0),
            ("white", 9.0),
            ("gold", 5.0),
            ("silver", 10.0),
            ("none", 20.0),
        ]
    );
    assert_eq!(
        percent(Table::Paper),
        [
            ("black", 20.0),
            ("orange", 30.0),
            ("green", 5.0),
            ("white", 10.0),
            ("gold", 5.0),
            ("silver", 10.0),
            ("none", 20.0)
        ]
    );
    assert_eq!(
        percent(Table::Film),
        [("black", 20.0), ("brown", 1.0), ("red", 2.0), ("green", 5.0), ("white", 10.0)]
    );
    assert_eq!(
        percent(Table::Ceramic),
        [("black", 20.0), ("brown", 1.0), ("red", 2.0), ("orange", 2.5), ("green", 5.0), ("white", 10.0)]
    );
    assert_eq!(
        column(Table::Ceramic, Role::Tolerance, CellUnit::Picofarad),
        [("black", 2.0), ("brown", 0.1), ("green", 0.5), ("grey", 0.25), ("white", 1.0)]
    );
    let choke = percent(Table::Choke);
    for (name, p) in
        [("black", 20.0), ("gold", 5.0), ("silver", 10.0), ("none", 20.0), ("brown", 1.0), ("red", 2.0)]
    {
        assert!(choke.contains(&(name, p)), "{name}");
    }
    let failure = column(Table::Resistor, Role::FailureRate, CellUnit::Percent);
    assert_eq!(failure, [("brown", 1.0), ("red", 0.1), ("orange", 0.01), ("yellow", 0.001)]);
}

#[test]
fn characteristics_of_mica() {
    for (name, words) in [
        ("black", "characteristic A: ±1000 ppm/K"),
        ("brown", "characteristic B: ±500 ppm/K"),
        ("red", "characteristic C: ±200 ppm/K"),
        ("orange", "characteristic D: ±100 ppm/K"),
        ("yellow", "characteristic E: −20 to +100 ppm/K"),
        ("green", "characteristic F: 0 to +70 ppm/K"),
    ] {
        let row = &cells(Table::Mica, Role::Characteristic, colour(name))[0];
        assert!(row.note.starts_with(words), "{name}: {}", row.note);
    }
    for (name, words) in [("white", "EIA"), ("black", "MIL"), ("silver", "paper")] {
        assert!(cells(Table::Mica, Role::Identifier, colour(name))[0].note.contains(words), "{name}");
    }
}

/// EIA-198, extended range by colour: figure × factor is the coefficient.
#[test]
fn extended_temperature_coefficients() {
    let hints = Hints { scheme: Some(Scheme::TubularCeramic), ..Hints::default() };
    for (row, ppm) in [
        ("black black", "+0 ppm/K"),
        ("violet orange", "−7500 ppm/K"),
        ("orange red", "−150 ppm/K"),
        ("violet red", "−750 ppm/K"),
        ("red violet", "+100 ppm/K"),
        ("blue red", "−470 ppm/K"),
    ] {
        let m = read_text(&format!("{row} brown green brown green"), hints).unwrap().swap_remove(0);
        let want = ppm.replace("+0 ", "−0 ");
        let got = m.temperature.unwrap();
        assert!(got == ppm || got == want, "{row}: {got}");
    }
}

#[test]
fn the_letters_of_classes_one_and_two() {
    let of1 = |place| {
        class1().iter().filter(|c| c.place == place).map(|c| (c.character, c.number)).collect::<Vec<_>>()
    };
    assert_eq!(
        of1(Place1::Figure),
        [
            ('C', 0.0),
            ('B', 0.3),
            ('L', 0.8),
            ('A', 0.9),
            ('M', 1.0),
            ('P', 1.5),
            ('R', 2.2),
            ('S', 3.3),
            ('T', 4.7),
            ('V', 5.6),
            ('U', 7.5)
        ]
    );
    for (digit, factor) in of1(Place1::Factor) {
        let power = digit.to_digit(10).unwrap();
        let want = if power < 5 { -(10f64.powi(power as i32)) } else { 10f64.powi(power as i32 - 5) };
        assert!((factor - want).abs() < 1e-9, "{digit}: {factor}");
    }
    assert_eq!(
        of1(Place1::Spread).iter().map(|s| s.1).collect::<Vec<_>>(),
        [30.0, 60.0, 120.0, 250.0, 500.0, 1000.0, 2500.0]
    );
    let of2 = |place| {
        class2().iter().filter(|c| c.place == place).map(|c| (c.character, c.low, c.high)).collect::<Vec<_>>()
    };
    assert_eq!(of2(Place2::Coldest).iter().map(|c| c.1).collect::<Vec<_>>(), [-55.0, -30.0, 10.0]);
    assert_eq!(
        of2(Place2::Hottest).iter().map(|c| c.1).collect::<Vec<_>>(),
        [45.0, 65.0, 85.0, 105.0, 125.0, 150.0, 200.0]
    );
    let change = of2(Place2::Change);
    for row in [
        ('A', 1.0, 1.0),
        ('F', 7.5, 7.5),
        ('P', 10.0, 10.0),
        ('R', 15.0, 15.0),
        ('S', 22.0, 22.0),
        ('T', 33.0, 22.0),
        ('U', 56.0, 22.0),
        ('V', 82.0, 22.0),
    ] {
        assert!(change.contains(&row), "{row:?}");
    }
    // The names say their number themselves.
    for c in coefficients().iter().filter(|c| !c.name.starts_with("NP")) {
        let (sign, digits) = c.name.split_at(1);
        let number: f64 = digits.parse().unwrap();
        assert!((c.ppm - if sign == "N" { -number } else { number }).abs() < 1e-9, "{}", c.name);
    }
}

/// Letters of volts: each figure is a number of a preferred or an older series, and rises by no more than
/// one decade.
#[test]
fn voltage_figures_lie_in_one_decade() {
    let figures: Vec<f64> = volts::letters().iter().map(|l| l.figure).collect();
    assert!(figures.iter().all(|f| (1.0..10.0).contains(f)));
    let distinct: BTreeSet<String> = figures.iter().map(ToString::to_string).collect();
    assert_eq!(distinct.len(), figures.len());
}

#[test]
fn volts_are_printed_in_many_ways() {
    for (text, v, kind) in [
        ("250V", 250.0, "not said"),
        ("@350", 350.0, "not said"),
        ("400WVDC", 400.0, "DC"),
        ("600 W.V.D.C.", 600.0, "DC"),
        ("275V~", 275.0, "AC"),
        ("250VAC", 250.0, "AC"),
        ("AC125V", 125.0, "AC"),
        ("DC1000V", 1000.0, "DC"),
        ("2KV", 2000.0, "not said"),
        ("1.6kV", 1600.0, "not said"),
        ("6.3v", 6.3, "not said"),
    ] {
        let p = volts::printed(text).unwrap_or_else(|| panic!("{text}"));
        assert!((p.volts - v).abs() < 1e-9 && p.kind.name() == kind && !p.surge, "{text}: {p:?}");
    }
    assert!(volts::printed("525SV").unwrap().surge);
    for none in ["250", "V", "0V", "-5V", "250X", "1e9V", "", "@", "~V"] {
        assert_eq!(volts::printed(none), None, "{none}");
    }
}

#[test]
fn composition_bodies_tell_their_watts() {
    for (text, watts) in [
        ("3.7x1.6mm", 0.125),
        ("6.3 x 2.3", 0.25),
        ("9.5x3.5", 0.5),
        ("14.3x5.7mm", 1.0),
        ("17.5x7.9", 2.0),
        ("9x3.6mm", 0.5),
    ] {
        assert_eq!(of_size(text).map(|b| b.watts), Some(watts), "{text}");
    }
    for none in ["50x50", "9.5", "x", "9.5x", "axb", "0x0", "-9x3"] {
        assert!(of_size(none).is_none(), "{none}");
    }
    assert!(bodies().windows(2).all(|w| w[0].watts < w[1].watts && w[0].length_mm < w[1].length_mm));
}

#[test]
fn diodes_by_bands_and_by_print() {
    let hints = Hints { scheme: Some(Scheme::DiodeBands), ..Hints::default() };
    for (row, number) in [
        ("black blue violet", "1N67"),
        ("red violet green", "1N275"),
        ("yellow brown yellow grey", "1N4148"),
        ("yellow black black brown", "1N4001"),
        ("green red yellow black", "1N5240"),
        ("green red yellow black red", "1N5240B"),
    ] {
        let all = read_text(row, hints).unwrap();
        assert_eq!(all[0].value.to_string(), number, "{row}");
    }
    // Two wide bands and digits: a Pro Electron number is among the readings.
    let all = read_text("brown white brown green", hints).unwrap();
    assert!(all.iter().any(|m| m.value.to_string() == "AAZ15"), "{all:?}");
    for (text, words) in [
        ("AA112", "germanium small-signal"),
        ("BY127", "silicon rectifier"),
        ("BZY88", "silicon voltage reference"),
        ("BA114", "silicon small-signal"),
        ("BB104", "silicon variable-capacitance"),
    ] {
        let m = diode::printed(text).unwrap_or_else(|| panic!("{text}"));
        assert!(m.because[0].contains(words), "{text}: {:?}", m.because);
    }
    for none in ["1N", "1N12345", "1N60AB", "AC128", "AA", "AA1", "A1", "2N3055", "", "🦉"] {
        assert!(diode::printed(none).is_none(), "{none}");
    }
}

#[test]
fn every_lamp_is_found_by_its_number() {
    assert!(lamp::lamps().len() >= 25);
    for l in lamp::lamps() {
        let m = lamp::meaning(&format!("lamp #{}", l.number), false).unwrap();
        assert!((m.value.number().unwrap().1 - l.volts).abs() < 1e-9, "{}", l.number);
        assert!(l.volts > 1.0 && l.volts < 60.0 && l.amperes > 0.01 && l.amperes < 1.0, "{}", l.number);
    }
}

/// Every layout, with colours that mean something in every place, gives a reading of its own code.
#[test]
fn every_layout_reads_something() {
    for layout in layouts() {
        // The last colour of each place that has one: away from the zeros of the digits.
        let row: Vec<&str> = (0..layout.places.len())
            .map(|place| {
                let all = layout.colours(place);
                let digit = layout.places[place] == Role::Digit || layout.places[place] == Role::VoltageDigit;
                if digit { "green" } else { all[all.len() / 2].name() }
            })
            .collect();
        let text = row.join(" ");
        let hints = Hints { scheme: Some(layout.scheme), ..Hints::default() };
        let all = read_text(&text, hints).unwrap_or_else(|e| panic!("{} {text}: {e}", layout.code));
        assert!(all.iter().any(|m| m.code == layout.code), "{} from {text}: {all:?}", layout.code);
        assert!(all.iter().all(|m| m.part == layout.part));
    }
}

/// Each card has rows, each row its columns and at least one source; memory is marked as memory.
#[test]
fn every_card_is_whole() {
    for name in Card::ALL {
        let printed = card(*name);
        assert!(printed.rows.len() >= 5, "{name}");
        for row in &printed.rows {
            assert_eq!(row.cells.len(), printed.columns.len(), "{name}: {:?}", row.cells);
            assert!(
                !row.sources.is_empty() && row.sources.iter().all(|s| !s.clause.is_empty()),
                "{name}: {:?}",
                row.cells
            );
            assert!(!row.cells[0].is_empty());
        }
    }
    let kinds =
        |name| card(name).rows.iter().flat_map(|r| r.sources.iter().map(|s| s.kind)).collect::<Vec<_>>();
    assert!(kinds(Card::Lamps).iter().all(|k| *k == SourceKind::Memory));
    assert!(kinds(Card::ResistorColours).contains(&SourceKind::Standard));
    assert_eq!(card(Card::Eia96).rows.len(), 24);
    assert_eq!(card(Card::Mil).rows.len(), mil_style::styles().len() + mil_style::letters().len());
    let order = card(Card::Ceramic).order;
    assert!(order.contains(&"5: temperature, digit, digit, multiplier, tolerance".to_owned()), "{order:?}");
}

/// What the part is decides where the same print is looked up.
#[test]
fn the_kind_of_part_decides() {
    let value = |text: &str, part| read_text(text, Hints::of(part)).unwrap()[0].value.to_string();
    assert_eq!(value("473", PartKind::Capacitor), "47 nF");
    assert_eq!(value("473", PartKind::Coil), "47 mH");
    assert_eq!(value("2R2", PartKind::Resistor), "2.2 Ω");
    assert_eq!(value("2R2", PartKind::Coil), "2.2 µH");
    assert_eq!(value("44", PartKind::Lamp), "6.3 V");
    assert_eq!(value("yellow violet orange", PartKind::Resistor), "47 kΩ");
    assert_eq!(value("yellow violet orange", PartKind::Coil), "47 mH");
    assert_eq!(value("yellow violet orange", PartKind::Capacitor), "47 nF");
}
