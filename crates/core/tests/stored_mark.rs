//! What an accepted marking was kept as by each release is read by this one.
#![allow(clippy::expect_used, clippy::unwrap_used, missing_docs)]

use owl_core::marking::stored::{StoredError, StoredMark};
use owl_core::marking::{Hints, Meaning, Tolerance, Value, read_text};
use owl_core::part::{PartKind, SafetyClass};
use owl_core::quantity::{Farad, Volt};
use proptest::prelude::*;

fn read(json: &str) -> Result<Meaning, StoredError> {
    Meaning::try_from(serde_json::from_str::<StoredMark>(json).expect("it has the shape"))
}

/// As release 0.1 wrote it: the JSON of the reader's screen.
const OF_THE_SCREEN: &str = r#"{
  "part": "capacitor", "code": "can sections", "value": 2.2e-5, "unit": "F",
  "shown": {"value": 2.2e-5, "number": "22", "unit": "µF", "text": "22 µF"}, "type_number": null,
  "tolerance": {"minus": 0.1, "plus": 0.5}, "tolerance_text": "−10 % +50 %", "tolerance_abs": null,
  "voltage": 300.0, "voltage_kind": "DC", "voltage_text": "300 V DC", "surge": 350.0, "power": null, "power_text": null,
  "current": null, "temperature": null, "family": "electrolytic",
  "sections": [{"sign": "▲", "value": 2.2e-5, "voltage": 300.0, "text": "22 µF, 300 V"},
               {"sign": null, "value": 1e-5, "voltage": 25.0, "text": "10 µF, 25 V"}],
  "safety": null, "notes": ["week 31 of 1958, perhaps"], "in_words": "22 µF + 10 µF", "likelihood": 0.8,
  "likelihood_text": "80 %", "because": ["a can"], "source": "practice: cans", "scheme": null, "bands": null,
  "band_words": [], "looks": []
}"#;

#[test]
fn what_the_first_release_kept_is_read() {
    let m = read(OF_THE_SCREEN).unwrap();
    assert_eq!(m.value, Value::Capacitance(Farad::new(22e-6).unwrap()));
    assert_eq!(m.sections.len(), 2);
    assert_eq!(m.least_rating(), Volt::new(300.0).ok());
    assert_eq!(m.rating.and_then(|r| r.surge), Volt::new(350.0).ok());
    assert!(matches!(m.tolerance, Some(Tolerance::Relative { .. })));
    assert_eq!((m.source.to_string().as_str(), m.notes.len()), ("practice: cans", 1));
    // Bands that the screen drew for a printed resistor were no colours that anybody had seen.
    let drawn = r#"{"part": "resistor", "code": "letter code", "value": 4700.0, "unit": "Ω", "tolerance": null,
        "likelihood": 1.0, "source": "IEC 60062:2016", "scheme": null, "bands": ["yellow", "violet", "red"]}"#;
    let m = read(drawn).unwrap();
    assert!(m.colours.is_empty() && m.source.short() == "IEC 60062");
    let seen =
        drawn.replace(r#""scheme": null"#, r#""scheme": "bands""#).replace("letter code", "colour bands");
    assert_eq!(read(&seen).unwrap().colours.len(), 3);
}

#[test]
fn what_cannot_be_a_marking_is_refused_in_words() {
    let of = |json: &str| read(json).unwrap_err().to_string();
    let head = r#""part": "capacitor", "code": "can sections", "likelihood": 1.0, "source": "practice: x""#;
    assert!(of(&format!("{{{head}}}")).contains("no number"));
    assert!(of(&format!(r#"{{{head}, "value": 1e-9, "version": 9}}"#)).contains("version 9"));
    let diode = head.replace("capacitor", "diode");
    assert!(of(&format!("{{{diode}, \"value\": 1.0}}")).contains("no type number"));
    assert!(of(&format!(r#"{{{head}, "value": -1e-9}}"#)).contains("below zero"));
}

#[test]
fn a_safety_class_goes_with_the_marking() {
    let m = read_text("X2 0.22µF 275V~", Hints::of(PartKind::Capacitor)).unwrap().remove(0);
    let json = serde_json::to_string(&StoredMark::from(&m)).unwrap();
    assert_eq!(read(&json).unwrap().safety, Some(SafetyClass::X2));
}

proptest! {
    /// Whatever the reader accepts comes back as it was.
    #[test]
    fn an_accepted_reading_comes_back_as_it_was(text in prop_oneof![
        "[1-9][0-9]{2}[JKM]", "[1-9]k[0-9]", "(brown|red|violet) (grey|red) (orange|red) (gold|silver)",
        "[1-9]0\\+[1-9]0/[1-4]50", "BC[15][0-5]7[AB]?", "1N400[1-7]", "[1-9]p[0-9]D", "0\\.0[1-9] ?MFD [2-6]00V",
    ]) {
        for m in read_text(&text, Hints::default()).unwrap_or_default() {
            let json = serde_json::to_string(&StoredMark::from(&m)).unwrap();
            prop_assert_eq!(read(&json).unwrap(), m);
        }
    }
}
