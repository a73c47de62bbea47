//! Quantities through the public interface.
//!
//! The spellings are those of bench notes and old sheets (common practice, no source);
//! the prefixes are those of the SI brochure, 9th edition, table 7.
#![allow(clippy::unwrap_used, missing_docs)]

use owl_core::named::Named;
use owl_core::quantity::format::{CapacitanceStyle, format, format_as, percent, signed_percent};
use owl_core::quantity::parse::{EntryError, best, parse, quantity_of_unit};
use owl_core::quantity::{Ohm, Quantity};
use proptest::prelude::*;

fn close(a: f64, b: f64) -> bool {
    (a - b).abs() <= 1e-12 * b.abs()
}

#[test]
fn what_people_type_for_resistance() {
    for (text, ohms) in [
        ("4k7", 4700.0),
        ("4.7k", 4700.0),
        ("4,700", 4700.0),
        ("4700ohm", 4700.0),
        ("4700 Ω", 4700.0),
        ("4700 \u{2126}", 4700.0),
        ("1M", 1e6),
        ("1meg", 1e6),
        ("2M2", 2.2e6),
        ("R33", 0.33),
        ("0R22", 0.22),
        ("470R", 470.0),
        ("4,7k", 4700.0),
        ("1.234,5", 1234.5),
        ("1,234.5", 1234.5),
        ("1,234,567", 1_234_567.0),
        ("0,47", 0.47),
        ("1e3", 1000.0),
        ("6 k", 6000.0),
        ("4K7ohm", 4700.0),
        ("3 kOhm", 3000.0),
    ] {
        let got = best(Quantity::Resistance, text).unwrap();
        assert!(close(got, ohms), "{text}: {got}");
    }
}

#[test]
fn what_people_type_for_capacitance() {
    for (text, farads) in [
        (".05", 0.05e-6),
        (".05mfd", 0.05e-6),
        ("250mmf", 250e-12),
        ("250mmfd", 250e-12),
        ("50µµF", 50e-12),
        ("50uuF", 50e-12),
        ("5n6", 5.6e-9),
        ("5600p", 5600e-12),
        ("100n", 100e-9),
        ("8 mF", 8e-6),
        ("8 MFD", 8e-6),
        ("0.1 MF", 0.1e-6),
        ("250", 250e-12),
        ("473", 47e-9),
        ("1F", 1.0),
    ] {
        let got = best(Quantity::Capacitance, text).unwrap();
        assert!(close(got, farads), "{text}: {got:e}");
    }
}

#[test]
fn what_people_type_for_the_rest() {
    for (quantity, text, value) in [
        (Quantity::Power, "1/2W", 0.5),
        (Quantity::Power, "½W", 0.5),
        (Quantity::Power, ".5W", 0.5),
        (Quantity::Power, "1 1/2 W", 1.5),
        (Quantity::Power, "1½W", 1.5),
        (Quantity::Current, "1.25mA", 1.25e-3),
        (Quantity::Current, "3.1uA", 3.1e-6),
        (Quantity::Voltage, "1.2kV", 1200.0),
        (Quantity::Voltage, "-6", -6.0),
        (Quantity::Voltage, "3V3", 3.3),
        (Quantity::Inductance, "470uH", 470e-6),
        (Quantity::Frequency, "455kc", 455e3),
        (Quantity::Frequency, "1 MHz", 1e6),
        (Quantity::Time, "20ms", 0.02),
        (Quantity::Fraction, "10%", 0.1),
        (Quantity::Fraction, "10", 0.1),
        (Quantity::Fraction, "50ppm", 50e-6),
    ] {
        let got = best(quantity, text).unwrap();
        assert!(close(got, value), "{text}: {got:e}");
    }
}

#[test]
fn an_entry_with_two_meanings_gives_both_with_reasons() {
    let bare = parse(Quantity::Capacitance, "25").unwrap();
    let values: Vec<f64> = bare.iter().map(|e| e.value).collect();
    assert!(values.iter().any(|v| close(*v, 25e-6)) && values.iter().any(|v| close(*v, 25e-12)));
    assert!(bare.iter().all(|e| !e.because.is_empty()));

    let code = parse(Quantity::Capacitance, "104").unwrap();
    assert!(close(code[0].value, 0.1e-6) && close(code[1].value, 104e-12));

    let comma = parse(Quantity::Resistance, "4,700").unwrap();
    assert!(close(comma[0].value, 4700.0) && close(comma[1].value, 4.7));

    let small_m = parse(Quantity::Resistance, "1m").unwrap();
    assert!(close(small_m[0].value, 1e6) && close(small_m[1].value, 1e-3));
    assert!(close(small_m.iter().map(|e| e.likelihood).sum(), 1.0));
}

#[test]
fn nonsense_is_refused_in_words() {
    for text in ["", "   ", "lots", "🦉", "--5", "1..2", "4k7k7", "1,2,3", "1/0", "5 apples", "."] {
        assert!(parse(Quantity::Resistance, text).is_err(), "{text:?} was read");
    }
    assert!(matches!(parse(Quantity::Resistance, &"4".repeat(5000)), Err(EntryError::TooLong(5000))));
    assert!(matches!(parse(Quantity::Resistance, "1e999"), Err(EntryError::NotFinite(_))));
    assert!(matches!(parse(Quantity::Resistance, "inf"), Err(EntryError::NotFinite(_))));
    for slip in ["1e-30", "4e25 M"] {
        assert!(matches!(parse(Quantity::Resistance, slip), Err(EntryError::Absurd(_))), "{slip}");
    }
    assert_eq!(parse(Quantity::Resistance, "0").unwrap()[0].value, 0.0);
    let negative = "-5".parse::<Ohm>().unwrap_err().to_string();
    assert!(negative.contains("below zero"), "{negative}");
    let unit = parse(Quantity::Resistance, "5 V").unwrap_err().to_string();
    assert!(unit.contains("'V' is no unit of resistance"), "{unit}");
}

#[test]
fn a_unit_tells_its_quantity() {
    assert_eq!(quantity_of_unit("W"), Some(Quantity::Power));
    assert_eq!(quantity_of_unit("kΩ"), Some(Quantity::Resistance));
    assert_eq!(quantity_of_unit("%"), Some(Quantity::Fraction));
    assert_eq!(quantity_of_unit("µF"), Some(Quantity::Capacitance));
    assert_eq!(quantity_of_unit("furlong"), None);
}

#[test]
fn engineering_notation() {
    for (quantity, value, text) in [
        (Quantity::Resistance, 4700.0, "4.7 kΩ"),
        (Quantity::Resistance, 999.96, "1 kΩ"),
        (Quantity::Resistance, 271.44, "271.4 Ω"),
        (Quantity::Resistance, 0.33, "0.33 Ω"),
        (Quantity::Resistance, 0.0, "0 Ω"),
        (Quantity::Resistance, 2.2e6, "2.2 MΩ"),
        (Quantity::Capacitance, 4.7e-8, "47 nF"),
        (Quantity::Capacitance, 1e-14, "0.01 pF"),
        (Quantity::Capacitance, 1.5e-3, "1500 µF"),
        (Quantity::Voltage, -6.0, "−6 V"),
        (Quantity::Current, 3.1e-6, "3.1 µA"),
        (Quantity::Fraction, 0.1, "10 %"),
        (Quantity::Power, 0.5, "0.5 W"),
        (Quantity::Power, 0.05, "50 mW"),
    ] {
        assert_eq!(format(quantity, value).to_string(), text);
    }
    let old = format_as(Quantity::Capacitance, 4.7e-8, 3, CapacitanceStyle::MicroAndPico);
    assert_eq!(old.to_string(), "0.047 µF");
    assert_eq!(signed_percent(0.2336), "+23.4 %");
    assert_eq!(signed_percent(-0.05), "−5 %");
    assert_eq!(percent(0.0005), "0.05 %");
}

proptest! {
    /// Format, then parse: the value comes back, for every quantity and prefix.
    #[test]
    fn written_then_read_is_the_same(
        which in 0..Quantity::ALL.len(),
        digits in 1000u32..10_000,
        exponent in -13i32..8,
    ) {
        let quantity = Quantity::ALL[which];
        let value = format!("{digits}e{exponent}").parse::<f64>().unwrap();
        let text = format(quantity, value).to_string();
        let back = best(quantity, &text).unwrap();
        prop_assert!((back - value).abs() <= 1e-9 * value, "{value:e} -> {text} -> {back:e}");
    }

    /// Any text is answered: a value that is finite, or an error.
    #[test]
    fn any_text_is_answered(text in "\\PC{0,40}", which in 0..Quantity::ALL.len()) {
        if let Ok(entries) = parse(Quantity::ALL[which], &text) {
            prop_assert!(!entries.is_empty());
            prop_assert!(entries.iter().all(|e| e.value.is_finite()));
        }
    }
}

/// A bare number in a field of current could be milliampere: it is asked about; below one ampere it is none (common
/// practice, no source).
#[test]
fn a_bare_current_is_asked_about() {
    use owl_core::quantity::parse::typed;
    for text in ["17.5", "60", "2", "1"] {
        let e = typed(Quantity::Current, text).unwrap_err().to_string();
        assert!(e.contains(&format!("{text} mA or {text} A")), "{e}");
    }
    assert_eq!(typed(Quantity::Current, "17.5mA").ok(), Some(17.5e-3));
    assert_eq!(typed(Quantity::Current, "2 A").ok(), Some(2.0));
    assert_eq!(typed(Quantity::Current, ".3").ok(), Some(0.3));
    assert_eq!(typed(Quantity::Voltage, "60").ok(), Some(60.0));
}
