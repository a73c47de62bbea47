//! Two hundred markings over all codes, each with its first reading, and the tables row by row.
//!
//! The list is `cases/marking/markings.csv`: what is printed or seen, what it is, and beside each row
//! where the expectation comes from. The values are our own.
#![allow(clippy::unwrap_used, missing_docs)]

use owl_core::marking::{Colour, Hints, Meaning, Scheme, Value, read_colours, read_text};
use owl_core::named::Named;
use owl_core::part::PartKind;
use serde::Deserialize;

#[derive(Deserialize)]
struct Marking {
    text: String,
    part: PartKind,
    value: String,
    tolerance_percent: Option<f64>,
    volts: Option<f64>,
    /// Words that the reading must say.
    says: String,
    /// What is known of the part; `bands:any` where the reading need not be first.
    hint: String,
    scheme: Option<Scheme>,
    #[allow(dead_code, reason = "read so that a row without a source is refused")]
    source: String,
}

fn markings() -> Vec<Marking> {
    csv::Reader::from_reader(include_str!("cases/marking/markings.csv").as_bytes())
        .deserialize()
        .collect::<Result<_, _>>()
        .unwrap()
}

/// Why the reading is not the expected one; `None` where it is.
fn wrong(want: &Marking, m: &Meaning) -> Option<String> {
    if m.part != want.part {
        return Some(format!("a {}", m.part));
    }
    match (&m.value, want.value.parse::<f64>()) {
        (Value::TypeNumber(name), _) if *name == want.value => {}
        (_, Ok(v)) if m.value.number().is_some_and(|(_, got)| (got - v).abs() <= 1e-6 * v) => {}
        _ => return Some(format!("{}", m.value)),
    }
    let tolerance = m.tolerance_fraction().map(|t| t.fraction() * 100.0);
    let same = match (tolerance, want.tolerance_percent) {
        (Some(a), Some(b)) => (a - b).abs() < 1e-6,
        (None, Some(_)) => false,
        // Where no tolerance is asked for, none may be claimed in percent, unless the code implies one.
        (_, None) => true,
    };
    if !same {
        return Some(format!("tolerance {tolerance:?}"));
    }
    let volts = m.rating.map(|r| r.volts.volts());
    if want.volts != volts && want.volts.is_some() {
        return Some(format!("volts {volts:?}"));
    }
    let sections = format!("sections {}", m.sections.len());
    let said = [m.because.join("; "), m.notes.join("; "), m.in_words(), sections].join("; ");
    (!said.contains(&want.says)).then_some(said)
}

fn read(want: &Marking) -> Vec<Meaning> {
    let part = PartKind::from_name(&want.hint).ok();
    let hints = Hints { part, scheme: want.scheme, ..Hints::default() };
    read_text(&want.text, hints).unwrap_or_else(|e| panic!("{}: {e}", want.text))
}

#[test]
fn every_marking_is_read_and_the_right_reading_stands_first() {
    let all = markings();
    assert!(all.len() >= 150, "{}", all.len());
    let mut misses = Vec::new();
    for want in &all {
        let readings = read(want);
        let told = |m: &Meaning| wrong(want, m).is_none();
        assert!(readings.iter().any(told), "{}: not told: {:?}", want.text, wrong(want, &readings[0]));
        if want.hint != "bands:any" && !told(&readings[0]) {
            misses.push(format!("{}: {}", want.text, wrong(want, &readings[0]).unwrap()));
        }
    }
    assert!(misses.len() * 100 <= all.len(), "{} of {}: {misses:#?}", misses.len(), all.len());
}

/// Whatever the reading, what is said of it is whole: likelihoods sum to one, reasons and a source.
#[test]
fn every_reading_has_its_reasons_and_its_source() {
    for want in markings() {
        let readings = read(&want);
        assert!((readings.iter().map(|m| m.likelihood).sum::<f64>() - 1.0).abs() < 1e-9);
        assert!(readings.windows(2).all(|w| w[0].likelihood >= w[1].likelihood));
        for m in &readings {
            assert!(!m.source.clause.is_empty(), "{}", want.text);
            assert!(!m.in_words().contains("NaN"));
            let _ = m.to_owned();
        }
    }
}

/// Common practice, no source: an orange white orange that looks brown grey brown.
#[test]
fn a_browned_part_is_found_by_its_measurement() {
    let seen = [Colour::Brown, Colour::Grey, Colour::Brown];
    for row in [seen.to_vec(), [&seen[..], &[Colour::Silver]].concat()] {
        let alone = read_colours(&row, Hints::default()).unwrap();
        let value = |m: &Meaning| m.resistance().map(|r| r.ohms());
        assert_eq!(value(&alone[0]), Some(180.0));
        assert!(alone.iter().any(|m| value(m) == Some(39e3)), "39 k is not among {alone:?}");
        let measured = Hints { measured_si: Some(55e3), ..Hints::default() };
        let found = read_colours(&row, measured).unwrap();
        assert_eq!(value(&found[0]), Some(39e3), "{:?}", found[0]);
        let because = found[0].because.join("; ");
        assert!(because.contains("brown for orange") && because.contains("grey for white"), "{because}");
        assert!(because.contains("41 % above"), "{because}");
    }
}

/// Common practice, no source: a sheet that agrees with one reading puts it first.
#[test]
fn the_sheet_decides_between_readings() {
    let with = |text: &str, part, sheet| {
        read_text(text, Hints { expected_si: Some(sheet), part, ..Hints::default() }).unwrap().swap_remove(0)
    };
    let value = |m: &Meaning| m.value.number().unwrap().1;
    assert!((value(&with("R33", Some(PartKind::Capacitor), 0.33e-6)) - 0.33e-6).abs() < 1e-12);
    assert!((value(&with("1R5", Some(PartKind::Capacitor), 1.5e-12)) - 1.5e-12).abs() < 1e-18);
    assert_eq!(value(&with("150", Some(PartKind::Resistor), 15.0)), 15.0);
    assert_eq!(value(&with("150", Some(PartKind::Resistor), 150.0)), 150.0);
}

#[test]
fn nonsense_is_refused_in_words_that_help() {
    let of = |scheme| Hints { scheme: Some(scheme), ..Hints::default() };
    for (text, hints, words) in [
        (
            "silver silver silver gold",
            Hints::of(PartKind::Resistor),
            "perhaps you are reading from the wrong end",
        ),
        ("red red red red red red red", Hints::default(), "no colour code has more than 6"),
        ("red", Hints::default(), "bands has"),
        ("red green", of(Scheme::MicaThreeDot), "mica-three-dot has 3"),
        ("gold gold gold gold gold gold", of(Scheme::MicaSixDot), "gold has no meaning as identifier"),
        ("silver silver red blue", of(Scheme::Tantalum), "silver cannot be a first digit"),
        ("pink pink", of(Scheme::DiodeBands), "pink is no digit of a diode's number"),
        ("none none none", Hints::default(), "nothing is marked"),
        ("0.1 µF 250 banana", Hints::of(PartKind::Capacitor), "'banana' is no value"),
        ("400 V", Hints::of(PartKind::Capacitor), "no value in it"),
        ("twelve", Hints::of(PartKind::Coil), "no inductance"),
        ("#9999", Hints::default(), "no marking that is known"),
        ("12", Hints::of(PartKind::Lamp), "no lamp of that number"),
        ("2N3055", Hints::of(PartKind::Diode), "no type number"),
        ("🦉", Hints::default(), "'🦉'"),
    ] {
        let e = read_text(text, hints).unwrap_err().to_string();
        assert!(e.contains(words), "{text}: {e}");
    }
    let mica = Hints { part: Some(PartKind::Resistor), ..of(Scheme::MicaSixDot) };
    let e = read_text("white red red red red red", mica).unwrap_err().to_string();
    assert_eq!(e, "mica-six-dot is no code for a resistor");
}
