//! Every legal combination of bands and letters, against the tables of IEC 60062:2016 typed here a
//! second time and read by a formula that shares nothing with the reader.
#![allow(clippy::unwrap_used, missing_docs)]

use owl_core::marking::letter_code::{multipliers, tolerances};
use owl_core::marking::scheme::layouts;
use owl_core::marking::{Code, Colour, Hints, Meaning, Scheme, read_colours, read_text};
use owl_core::named::Named;
use owl_core::part::PartKind;
use owl_core::reading::{ReadQuantity, State};
use owl_core::say::read_entry;

const DIGITS: [&str; 10] =
    ["black", "brown", "red", "orange", "yellow", "green", "blue", "violet", "grey", "white"];
const MULTIPLIERS: [(&str, f64); 13] = [
    ("pink", 1e-3),
    ("silver", 1e-2),
    ("gold", 1e-1),
    ("black", 1.0),
    ("brown", 1e1),
    ("red", 1e2),
    ("orange", 1e3),
    ("yellow", 1e4),
    ("green", 1e5),
    ("blue", 1e6),
    ("violet", 1e7),
    ("grey", 1e8),
    ("white", 1e9),
];
const TOLERANCES: [(&str, f64); 10] = [
    ("silver", 10.0),
    ("gold", 5.0),
    ("brown", 1.0),
    ("red", 2.0),
    ("orange", 0.05),
    ("yellow", 0.02),
    ("green", 0.5),
    ("blue", 0.25),
    ("violet", 0.1),
    ("grey", 0.01),
];

fn colours(names: &[&str]) -> Vec<Colour> {
    names.iter().map(|n| Colour::from_name(n).unwrap()).collect()
}

/// The value in ohm.
fn in_ohm(m: &Meaning) -> f64 {
    m.resistance().unwrap().ohms()
}

/// The meaning that reads the bands as they are given, by the table of today: of those tolerances that a
/// colour has had, the one asked for.
fn forwards(names: &[&str], percent: f64) -> Meaning {
    let given = colours(names);
    let all = read_colours(&given, Hints::of(PartKind::Resistor)).unwrap();
    let fits = |m: &Meaning| {
        m.as_seen
            && m.code == Code::ColourBands
            && m.tolerance_fraction().is_some_and(|t| near(t.fraction() * 100.0, percent))
    };
    assert!((all.iter().map(|m| m.likelihood).sum::<f64>() - 1.0).abs() < 1e-9);
    all.into_iter().find(fits).unwrap_or_else(|| panic!("{names:?} at {percent} % is not told"))
}

fn near(a: f64, b: f64) -> bool {
    (a - b).abs() <= 1e-9 * b
}

/// Tables 1 and 2: 9 × 10 × 13 × 10 four-band markings.
#[test]
fn every_marking_of_four_bands() {
    for (n, first) in DIGITS.iter().enumerate().skip(1) {
        for (o, second) in DIGITS.iter().enumerate() {
            for (m, times) in MULTIPLIERS {
                for (t, percent) in TOLERANCES {
                    let got = forwards(&[first, second, m, t], percent);
                    let value = (n * 10 + o) as f64 * times;
                    assert!(near(in_ohm(&got), value), "{first} {second} {m} {t}: {}", got.value);
                }
            }
        }
    }
}

/// Five bands with every first three digits; one multiplier and tolerance each, all of them in turn.
#[test]
fn every_three_digits_of_five_bands() {
    for n in 100..1000usize {
        let (m, times) = MULTIPLIERS[n % MULTIPLIERS.len()];
        let (t, percent) = TOLERANCES[n % TOLERANCES.len()];
        let got = forwards(&[DIGITS[n / 100], DIGITS[n / 10 % 10], DIGITS[n % 10], m, t], percent);
        assert!(near(in_ohm(&got), n as f64 * times), "{n}: {}", got.value);
    }
}

/// Table 3: the sixth band.
#[test]
fn every_temperature_coefficient_of_six_bands() {
    for (name, ppm) in [
        ("black", 250.0),
        ("brown", 100.0),
        ("red", 50.0),
        ("orange", 15.0),
        ("yellow", 25.0),
        ("green", 20.0),
        ("blue", 10.0),
        ("violet", 5.0),
        ("grey", 1.0),
    ] {
        assert_eq!(
            forwards(&["green", "brown", "red", "black", "brown", name], 1.0).temperature,
            Some(format!("{ppm} ppm/K"))
        );
    }
    for none in ["white", "gold", "silver", "pink"] {
        let all = read_colours(
            &colours(&["green", "brown", "red", "black", "brown", none]),
            Hints::of(PartKind::Resistor),
        );
        assert!(all.is_err() || !all.unwrap().iter().any(|m| m.as_seen), "{none}");
    }
}

/// Table 4, and the multiplier letters of table 5, typed a second time.
#[test]
fn every_letter_is_the_published_one() {
    let published: [(char, f64); 14] = [
        ('E', 0.005),
        ('L', 0.01),
        ('P', 0.02),
        ('W', 0.05),
        ('B', 0.1),
        ('C', 0.25),
        ('D', 0.5),
        ('F', 1.0),
        ('G', 2.0),
        ('H', 3.0),
        ('J', 5.0),
        ('K', 10.0),
        ('M', 20.0),
        ('N', 30.0),
    ];
    let ours: Vec<(char, f64)> = tolerances().iter().map(|t| (t.letter, t.percent)).collect();
    assert_eq!(ours, published);
    let ours: Vec<(char, i32)> = multipliers().iter().map(|m| (m.letter, m.exponent)).collect();
    assert_eq!(ours, [('L', -3), ('R', 0), ('K', 3), ('M', 6), ('G', 9), ('T', 12)]);
}

/// Every multiplier letter as the point, before, between and behind the digits, with every tolerance.
#[test]
fn every_letter_code() {
    for (letter, times) in [('R', 1.0), ('K', 1e3), ('M', 1e6), ('G', 1e9)] {
        for (text, number) in [("5%1", 5.1), ("51%", 51.0), ("%51", 0.51), ("510%", 510.0), ("5%11", 5.11)] {
            for t in tolerances() {
                let code = format!("{}{}", text.replace('%', &letter.to_string()), t.letter);
                let got = read_text(&code, Hints::of(PartKind::Resistor)).unwrap().swap_remove(0);
                assert!(near(in_ohm(&got), number * times), "{code}: {}", got.value);
                assert!(near(got.tolerance_fraction().unwrap().fraction() * 100.0, t.percent), "{code}");
            }
        }
    }
}

#[test]
fn what_stands_below_each_band() {
    let places = |row: &[Colour]| -> Vec<String> {
        let layout = layouts().iter().find(|l| l.scheme == Scheme::Bands && l.places.len() == row.len());
        row.iter().enumerate().map(|(i, c)| layout.unwrap().word(i, *c)).collect()
    };
    assert_eq!(places(&colours(&["green", "blue", "orange", "silver"])), ["5", "6", "× 1 k", "±10 %"]);
    assert_eq!(places(&colours(&["red", "red", "silver"])), ["2", "2", "× 0.01"]);
    assert_eq!(
        places(&colours(&["brown", "black", "white", "yellow", "violet", "red"])),
        ["1", "0", "9", "× 10 k", "±0.1 %", "50 ppm"]
    );
    assert_eq!(places(&colours(&["gold", "red", "blue", "white"])), ["?", "2", "× 1 M", "?"]);
}

/// Gold, silver and pink are never digits; black never begins a value.
#[test]
fn no_illegal_first_digit_is_read_forwards() {
    for first in ["gold", "silver", "pink", "black"] {
        for second in DIGITS {
            let given = colours(&[first, second, "red", "gold"]);
            if let Ok(all) = read_colours(&given, Hints::of(PartKind::Resistor)) {
                assert!(!all.iter().any(|m| m.as_seen), "{first} {second}");
            }
        }
    }
}

/// Common practice, no source: what is typed into a reading's field alone.
#[test]
fn a_reading_typed_alone() {
    for (text, ohms) in [
        ("1.27k", 1270.0),
        ("=1.27k", 1270.0),
        (" 470 ", 470.0),
        ("2M2", 2.2e6),
        ("0", 0.0),
        ("1,27k", 1270.0),
    ] {
        assert_eq!(read_entry(ReadQuantity::Resistance, text).unwrap().value_si, Some(ohms), "{text}");
    }
    for over in ["OL", "ol", "O.L", "over", "open", "∞"] {
        assert_eq!(read_entry(ReadQuantity::Resistance, over).unwrap().value_si, None, "{over}");
    }
    for wrong in ["", "=", "-4", "much", "5 V", "1e999"] {
        assert!(read_entry(ReadQuantity::Resistance, wrong).is_err(), "{wrong}");
    }
    assert_eq!(State::from_name("LIFTED"), Ok(State::Lifted));
    assert!(
        State::from_name("lost")
            .unwrap_err()
            .to_string()
            .contains("in circuit, valve pulled, lifted, out of circuit")
    );
}
