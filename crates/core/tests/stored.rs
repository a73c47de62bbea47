//! What was kept by an older version is read by this one, and nothing is lost on the way.
#![allow(clippy::unwrap_used, missing_docs)]

use owl_core::named::Named;
use owl_core::part::{Circuit, Fact, StoredJunctions};
use owl_core::quantity::Volt;
use owl_core::reform::run::Run;
use owl_core::stored::Stored;
use owl_core::transistor::inspect::StoredAnswer;
use owl_core::verdict::{Reason, Rule, StoredReason};
use serde::Serialize;
use serde::de::DeserializeOwned;

/// Reads what an older version wrote, and shows that it is the same once it is written and read again.
fn read<T: Serialize + DeserializeOwned + PartialEq + std::fmt::Debug>(old: &str) -> T {
    let kept: Stored<T> = serde_json::from_str(old).unwrap();
    let written = serde_json::to_value(&kept).unwrap();
    assert_eq!(written["version"], owl_core::stored::VERSION);
    assert_eq!(serde_json::from_value::<Stored<T>>(written).unwrap(), kept);
    kept.0
}

#[test]
fn a_decisions_reasons_of_version_1_are_read() {
    let reasons: Vec<StoredReason> = read(
        r#"[{"rule": "R1", "text": "6.2 kΩ is 9 % over", "source": "practice", "source_short": "practice", "from_memory": false},
            {"rule": "R3", "text": "warm", "source": "memory: an older row without a short form"}]"#,
    );
    assert_eq!((reasons[0].rule.as_str(), reasons[1].source_short.as_str()), ("R1", ""));
}

#[test]
fn a_reason_is_kept_with_the_names_of_its_day() {
    let reason = Reason::new(Rule::Tolerance, "inside ±10 %");
    let kept = StoredReason::from(&reason);
    assert_eq!((kept.rule, kept.text), (Rule::Tolerance.name().to_owned(), reason.text));
    assert_eq!(kept.source, reason.source.to_string());
}

#[test]
fn six_readings_of_version_1_are_read() {
    let test: StoredJunctions = read(
        r#"{"readings": [{"red": "1", "black": "2", "volts": null, "typed": "OL"}, {"red": "2", "black": "1", "volts": 0.63}],
            "gains": [{"collector": "1", "emitter": "3", "hfe": 84.0}], "in_circuit": true, "celsius": 21.5,
            "meter_current": 0.0007, "further": "channel stops"}"#,
    );
    assert_eq!(test.readings[0].typed.as_deref(), Some("OL"));
    assert_eq!(
        (test.readings[1].volts, test.meter_amperes),
        (Some(0.63), Some(0.0007)),
        "under its old name"
    );
}

#[test]
fn answers_of_version_1_are_read() {
    let answers: Vec<StoredAnswer> =
        read(r#"[{"look": "weight", "seen": null, "bought": "1.71", "known": "1.9"}]"#);
    assert_eq!((answers[0].bought.as_str(), answers[0].seen), ("1.71", None));
}

#[test]
fn a_later_version_is_refused_rather_than_half_read() {
    let newer = serde_json::from_str::<Stored<Vec<StoredReason>>>(r#"{"version": 99, "content": []}"#);
    assert!(newer.unwrap_err().to_string().contains("newer than this application"));
    assert!(serde_json::from_str::<Stored<Run>>(r#"{"phase": "nonesuch"}"#).is_err());
}

#[test]
fn facts_are_kept_by_name_and_none_that_cannot_be() {
    let kept: Circuit = serde_json::from_str(r#"{"rail": 215.0, "bias": -3.5}"#).unwrap();
    assert_eq!(kept.get(Fact::Rail), Some(Volt::new(215.0).unwrap()));
    assert_eq!(serde_json::from_str::<Circuit>(&serde_json::to_string(&kept).unwrap()).unwrap(), kept);
    assert!(serde_json::from_str::<Circuit>(r#"{"grid resistor": -5.0}"#).is_err());
}
