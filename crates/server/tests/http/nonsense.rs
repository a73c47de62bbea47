//! Bodies that nobody would send on purpose: whatever comes, the answer is a problem in words or an
//! answer, never a fault of ours.

use proptest::prelude::*;
use proptest::strategy::ValueTree;
use proptest::test_runner::TestRunner;
use serde_json::{Value, json};

use crate::support::{Server, part};

/// Values that are wrong in most places, and now and then right.
fn value() -> impl Strategy<Value = Value> {
    let leaf = prop_oneof![
        Just(Value::Null),
        any::<bool>().prop_map(Value::from),
        any::<i64>().prop_map(Value::from),
        any::<f64>().prop_map(Value::from),
        (-1e3f64..1e9).prop_map(Value::from),
        "\\PC{0,40}".prop_map(Value::from),
        prop::sample::select(vec![
            "R5",
            "R5 = 12k",
            "R6 1k 10%",
            "resistor",
            "lifted",
            "test first",
            "carbon composition",
            "replace",
            "E12",
            "red",
            "4k7",
            "OL",
            "\u{0}",
            "5f0c1c3e-0000-4000-8000-000000000000",
            "",
            "½W",
        ])
        .prop_map(Value::from),
    ];
    leaf.prop_recursive(2, 12, 4, |inner| prop::collection::vec(inner, 0..4).prop_map(Value::from))
}

/// The known fields of a body, each with some value or left out.
fn body(fields: &'static [&'static str]) -> impl Strategy<Value = Value> {
    prop::collection::vec(prop::option::weighted(0.8, value()), fields.len()).prop_map(|values| {
        let pairs = fields.iter().zip(values).filter_map(|(f, v)| Some(((*f).to_owned(), v?)));
        Value::Object(pairs.collect())
    })
}

#[tokio::test]
async fn no_body_is_a_fault_of_ours() {
    let s = Server::empty().await;
    let t = s.ticket(&["R5 270 10% = 300 lifted"]).await;
    let ticket = t["id"].as_str().unwrap();
    let p = part(&t, "R5")["id"].as_str().unwrap();
    let targets: [(String, &'static [&'static str]); 11] = [
        (
            "/api/decode".to_owned(),
            &["text", "colours", "scheme", "part", "measured", "expected", "measured_text", "wide_first"],
        ),
        ("/api/judge".to_owned(), &["part", "position", "readings", "circuit", "school", "tight", "pair"]),
        (
            "/api/combine".to_owned(),
            &["kind", "target", "within", "max_parts", "from", "load", "rating", "limit"],
        ),
        ("/api/substitute".to_owned(), &["part", "wanted", "position", "circuit", "school"]),
        (
            "/api/tickets".to_owned(),
            &["id", "name", "source", "devices", "highest", "school", "tight", "complaint"],
        ),
        (
            format!("/api/tickets/{ticket}/say"),
            &["text", "selected", "key", "version", "instrument", "confirmed"],
        ),
        (format!("/api/tickets/{ticket}/understand"), &["text", "selected"]),
        (format!("/api/tickets/{ticket}/parts"), &["id", "name", "marking", "family", "mark"]),
        (
            format!("/api/parts/{p}/readings"),
            &["key", "typed", "state", "hot", "mode", "instrument", "confirmed"],
        ),
        (format!("/api/parts/{p}/explanations"), &["key", "version", "answer", "note"]),
        (
            format!("/api/parts/{p}/fittings"),
            &[
                "key",
                "version",
                "description",
                "value",
                "tolerance",
                "watts",
                "family",
                "measured",
                "note",
                "confirmed",
            ],
        ),
    ];
    let mut runner = TestRunner::deterministic();
    for (path, fields) in targets {
        for _ in 0..60 {
            let sent = body(fields).new_tree(&mut runner).unwrap().current();
            let (status, answer) = s.post(&path, sent.clone()).await;
            assert!(status < 500, "{path} {sent}: {status} {answer}");
            if status >= 400 {
                assert!(!answer["detail"].as_str().unwrap().is_empty(), "{path} {sent}");
            }
        }
    }
    for _ in 0..60 {
        let change =
            body(&["version", "marking", "mark", "family", "sheet", "watts", "position", "place", "pair"]);
        let mut sent = change.new_tree(&mut runner).unwrap().current();
        sent["version"] = json!(1);
        let (status, answer) = s.patch(&format!("/api/parts/{p}"), sent.clone()).await;
        assert!(status < 500, "{sent}: {status} {answer}");
    }
}
