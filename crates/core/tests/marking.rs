//! Resistor markings through the public interface, against IEC 60062:2016.
#![allow(clippy::unwrap_used, missing_docs)]

use owl_core::marking::colour::{Row, table};
use owl_core::marking::encode::{bands, letters};
use owl_core::marking::{Code, Colour, Hints, MarkingError, Meaning, read_colours, read_text};
use owl_core::named::Named;
use owl_core::part::PartKind;
use owl_core::preferred::{Series, between};
use owl_core::quantity::{Fraction, Ohm};
use proptest::prelude::*;

/// The value in ohm.
fn in_ohm(m: &Meaning) -> f64 {
    m.resistance().unwrap().ohms()
}

fn first(text: &str) -> Meaning {
    read_text(text, Hints::of(PartKind::Resistor)).unwrap().swap_remove(0)
}

fn says(text: &str, ohms: f64, tolerance: Option<f64>) {
    let m = first(text);
    assert!((in_ohm(&m) - ohms).abs() <= 1e-9 * ohms, "{text}: {}", m.value);
    match (m.tolerance_fraction().map(|t| t.fraction()), tolerance) {
        (None, None) => {}
        (Some(a), Some(b)) => assert!((a - b).abs() < 1e-9, "{text}: {a}"),
        other => panic!("{text}: {other:?}"),
    }
}

/// IEC 60062:2016, tables 1 to 3, typed here a second time, row by row.
#[test]
fn the_colour_table_is_the_published_one() {
    #[allow(clippy::type_complexity, reason = "a table typed out once")]
    let published: [(&str, Option<u8>, Option<i32>, Option<f64>, Option<f64>); 14] = [
        ("black", Some(0), Some(0), None, Some(250.0)),
        ("brown", Some(1), Some(1), Some(1.0), Some(100.0)),
        ("red", Some(2), Some(2), Some(2.0), Some(50.0)),
        ("orange", Some(3), Some(3), Some(0.05), Some(15.0)),
        ("yellow", Some(4), Some(4), Some(0.02), Some(25.0)),
        ("green", Some(5), Some(5), Some(0.5), Some(20.0)),
        ("blue", Some(6), Some(6), Some(0.25), Some(10.0)),
        ("violet", Some(7), Some(7), Some(0.1), Some(5.0)),
        ("grey", Some(8), Some(8), Some(0.01), Some(1.0)),
        ("white", Some(9), Some(9), None, None),
        ("gold", None, Some(-1), Some(5.0), None),
        ("silver", None, Some(-2), Some(10.0), None),
        ("pink", None, Some(-3), None, None),
        ("none", None, None, Some(20.0), None),
    ];
    assert_eq!(table().len(), Colour::ALL.len());
    for (row, want) in table().iter().zip(published) {
        let Row { colour, digit, exponent, tolerance_percent, ppm, .. } = row;
        assert_eq!((colour.name(), *digit, *exponent, *tolerance_percent, *ppm), want);
    }
}

/// IEC 60062:2016, clause 4 (the method); the values are our own.
#[test]
fn bands_of_three_to_six() {
    says("orange white red", 3900.0, Some(0.2));
    says("green blue yellow silver", 560e3, Some(0.1));
    says("red violet gold gold", 2.7, Some(0.05));
    says("orange orange silver gold", 0.33, Some(0.05));
    says("brown black black brown brown", 1000.0, Some(0.01));
    says("blue grey white red red", 68.9e3, Some(0.02));
    says("YE VT BK RD BN", 47e3, Some(0.01));
    let six = first("red yellow green orange violet brown");
    assert_eq!((in_ohm(&six), six.temperature), (245e3, Some("100 ppm/K".to_owned())));
    says("purple gray Gold gold", 7.8, Some(0.05));
}

#[test]
fn the_other_end_is_offered_when_it_is_legal_and_taken_when_only_it_is() {
    let both = read_text("brown black black brown brown", Hints::of(PartKind::Resistor)).unwrap();
    assert_eq!(in_ohm(&both[0]), 1000.0);
    let turned = both.iter().find(|m| m.because.iter().any(|b| b == "read from the other end")).unwrap();
    assert!((in_ohm(turned) - 110.0).abs() < 1e-9, "{}", turned.value);
    let turned = first("silver orange white green");
    assert_eq!(in_ohm(&turned), 5.9e3 * 1000.0 / 100.0);
    assert!(
        turned.because.iter().any(|b| b.contains("silver cannot be a first digit")),
        "{:?}",
        turned.because
    );
}

#[test]
fn a_measurement_decides_between_two_ends() {
    let colours = [Colour::Brown, Colour::Black, Colour::Black, Colour::Red, Colour::Brown];
    let measured = |ohms| Hints { measured_si: Some(ohms), ..Hints::of(PartKind::Resistor) };
    let alone = read_colours(&colours, Hints::of(PartKind::Resistor)).unwrap();
    assert_eq!(in_ohm(&alone[0]), 10e3);
    let low = read_colours(&colours, measured(121.0)).unwrap();
    assert_eq!(in_ohm(&low[0]), 120.0);
    // A bad part does not drag the marking to itself: 10 kΩ at three times its value.
    let drifted = read_colours(&colours, measured(30e3)).unwrap();
    assert_eq!(in_ohm(&drifted[0]), 10e3);
    let sheet = Hints { expected_si: Some(120.0), ..Hints::of(PartKind::Resistor) };
    assert_eq!(in_ohm(&read_colours(&colours, sheet).unwrap()[0]), 120.0);
}

/// IEC 60062:2016, clause 5: the letter as the point, and table 4 for the tolerance.
#[test]
fn letter_codes() {
    says("4K7", 4700.0, None);
    says("R33", 0.33, None);
    says("2R2J", 2.2, Some(0.05));
    says("470RK", 470.0, Some(0.1));
    says("1M0F", 1e6, Some(0.01));
    says("68KM", 68e3, Some(0.2));
    says("33K2B", 33.2e3, Some(0.001));
    assert_eq!(first("4K7").code, Code::LetterCode);
}

#[test]
fn printed_text() {
    let m = first("4.7k 5% 1W");
    assert_eq!((in_ohm(&m), m.power.map(|p| p.watts())), (4700.0, Some(1.0)));
    says("4.7k 5% 1W", 4700.0, Some(0.05));
    says("10 kΩ ±10 %", 10e3, Some(0.1));
    says("15 ohms 5 W", 15.0, None);
    says("8,2k 10%", 8200.0, Some(0.1));
    says("½W 330k", 330e3, None);
}

#[test]
fn what_is_refused_is_refused_in_words() {
    for (text, part_of_message) in [
        ("gold brown black red", "gold cannot be a first digit"),
        ("gold gold gold gold", "from either end"),
        ("black brown red silver", "no value begins with 0"),
        ("yellow violet chartreuse", "'chartreuse' is no band colour"),
        ("red red", "2 colours"),
        ("red red red red red red red", "7 colours"),
        ("", "nothing is marked"),
        ("🦉", "'🦉'"),
        ("5%", "no value"),
        ("4k7 5k6", "two values"),
        ("0R", "zero ohm"),
    ] {
        match read_text(text, Hints::of(PartKind::Resistor)) {
            Err(e) => assert!(e.to_string().contains(part_of_message), "{text}: {e}"),
            // Legal from the other end: the reason must be given.
            // Or a colour has changed: the same.
            Ok(m) => assert!(m[0].because.iter().any(|b| b.contains(part_of_message)), "{text}: {m:?}"),
        }
    }
    let long = read_text(&"brown ".repeat(834), Hints::of(PartKind::Resistor));
    assert!(matches!(long, Err(MarkingError::TooLong(5004, _))));
}

/// All of E24 at 5 % and 10 %, over eight decades: marked and read back.
#[test]
fn every_e24_value_comes_back_from_bands_and_letters() {
    for value in between(Series::E24, 0.1, 10e6) {
        let ohm = Ohm::new(value).unwrap();
        for percent in [0.05, 0.1] {
            let tolerance = Some(Fraction::new(percent).unwrap());
            let colours = bands(ohm, tolerance).unwrap();
            assert_eq!(colours.len(), 4);
            let back = read_colours(&colours, Hints::of(PartKind::Resistor)).unwrap();
            assert!((in_ohm(&back[0]) - value).abs() <= 1e-9 * value, "{value}: {colours:?}");
            let code = letters(ohm, tolerance).unwrap();
            let back = first(&code);
            assert!((in_ohm(&back) - value).abs() <= 1e-9 * value, "{value}: {code}");
            assert!((back.tolerance_fraction().unwrap().fraction() - percent).abs() < 1e-9, "{code}");
        }
    }
}

#[test]
fn what_cannot_be_marked_is_not() {
    let ohm = |v| Ohm::new(v).unwrap();
    assert_eq!(bands(ohm(1234.0), None), None);
    assert_eq!(bands(ohm(4700.0), Some(Fraction::new(0.07).unwrap())), None);
    assert_eq!(bands(ohm(0.0), None), None);
    assert_eq!(bands(ohm(47e3), None).unwrap().len(), 3);
    assert_eq!(letters(ohm(0.047), None).unwrap(), "R047");
    assert_eq!(letters(ohm(4.7e3), Some(Fraction::new(0.1).unwrap())).unwrap(), "4K7K");
}

proptest! {
    /// E96 at 1 %: five bands there and back.
    #[test]
    fn five_bands_come_back(which in 0usize..96, decade in 0i32..5) {
        let value = between(Series::E96, 100.0, 976.0)[which] * 10f64.powi(decade);
        let colours = bands(Ohm::new(value).unwrap(), Some(Fraction::new(0.01).unwrap())).unwrap();
        prop_assert_eq!(colours.len(), 5);
        let back = read_colours(&colours, Hints::of(PartKind::Resistor)).unwrap();
        prop_assert!(back.iter().any(|m| (in_ohm(m) - value).abs() <= 1e-9 * value));
    }

    /// Any text and any colours are answered: likelihoods that sum to one, or an error in words.
    #[test]
    fn any_marking_is_answered(text in "\\PC{0,60}", which in prop::collection::vec(0usize..13, 0..20)) {
        if let Ok(m) = read_text(&text, Hints::of(PartKind::Resistor)) {
            prop_assert!((m.iter().map(|m| m.likelihood).sum::<f64>() - 1.0).abs() < 1e-9);
        }
        let colours: Vec<Colour> = which.iter().map(|i| Colour::ALL[*i]).collect();
        match read_colours(&colours, Hints::of(PartKind::Resistor)) {
            Ok(m) => prop_assert!((m.iter().map(|m| m.likelihood).sum::<f64>() - 1.0).abs() < 1e-9),
            Err(e) => prop_assert!(!e.to_string().is_empty()),
        }
    }
}
