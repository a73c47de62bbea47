//! `/api/judge` for parts of every kind: the contract's names, and the checks of practice as a script would ask
//! them. The rules themselves are tested in the core.

use serde_json::{Value, json};

use crate::support::Server;

fn reading(quantity: &str, value: f64) -> Value {
    json!({"quantity": quantity, "value": value, "state": "out of circuit", "hot": false, "test_voltage": null,
        "test_frequency": null, "mode": "dc", "accuracy": null})
}

fn at(quantity: &str, value: f64, volts: f64) -> Value {
    let mut r = reading(quantity, value);
    r["test_voltage"] = json!(volts);
    r
}

fn capacitor(family: &str, farads: f64, volts: f64) -> Value {
    json!({"kind": "capacitor", "family": family, "value": farads, "tolerance": null, "power": null, "voltage": volts})
}

fn question(part: Value, position: Value, readings: &[Value], circuit: Value, school: &str) -> Value {
    json!({"part": part, "position": position, "readings": readings, "circuit": circuit, "school": school,
        "tight": false})
}

#[tokio::test]
async fn parts_of_every_kind_are_judged() {
    let s = Server::empty().await;
    let coupling = json!({"voltage": 230, "grid_resistor": 390_000, "bias": -7, "feed_resistor": null});
    let electrolytic = capacitor("electrolytic", 40e-6, 350.0);
    let good = [reading("capacitance", 41e-6), reading("esr", 1.1), reading("leakage_percent", 0.02)];
    let coil = json!({"kind": "coil", "family": "field coil", "resistance": 640, "inductance": 9});
    let diode = |family: &str| json!({"kind": "diode", "family": family, "value": null});
    let mut ac = reading("resistance", 7000.0);
    ac["mode"] = json!("ac");
    ac["test_frequency"] = json!(120);
    for (what, q, verdict) in [
        (
            "a leak on a grid",
            question(
                capacitor("moulded paper", 22e-9, 400.0),
                json!("coupling"),
                &[at("leakage_current", 2e-6, 230.0)],
                coupling.clone(),
                "test first",
            ),
            "replace",
        ),
        (
            "a leak of cold paper on a grid",
            question(
                capacitor("moulded paper", 22e-9, 400.0),
                json!("coupling"),
                &[at("leakage_current", 5e-9, 230.0)],
                coupling.clone(),
                "test first",
            ),
            "watch",
        ),
        (
            "below its working voltage",
            question(
                capacitor("moulded paper", 22e-9, 400.0),
                json!("coupling"),
                &[at("leakage_current", 5e-9, 50.0)],
                coupling,
                "test first",
            ),
            "measure again",
        ),
        (
            "a good section",
            question(electrolytic.clone(), json!("smoothing"), &good, json!({}), "test first"),
            "keep",
        ),
        (
            "a good section on sight",
            question(electrolytic, json!("smoothing"), &good, json!({}), "replace on sight"),
            "replace",
        ),
        (
            "across the line",
            question(
                capacitor("polypropylene", 47e-9, 630.0),
                json!("across the line"),
                &[],
                json!({}),
                "keep original",
            ),
            "replace",
        ),
        (
            "mica",
            question(
                capacitor("silver mica", 180e-12, 500.0),
                json!("tuned"),
                &[],
                json!({}),
                "replace on sight",
            ),
            "keep",
        ),
        (
            "a winding",
            question(coil.clone(), Value::Null, &[reading("resistance", 655.0)], json!({}), "test first"),
            "keep",
        ),
        ("alternating current", question(coil, Value::Null, &[ac], json!({}), "test first"), "measure again"),
        (
            "a silicon diode",
            question(
                diode("silicon"),
                json!("rectifier"),
                &[reading("forward_voltage", 0.58)],
                json!({}),
                "test first",
            ),
            "keep",
        ),
        (
            "selenium on sight",
            question(diode("selenium"), json!("rectifier"), &[], json!({}), "replace on sight"),
            "replace",
        ),
    ] {
        let (status, a) = s.post("/api/judge", q.clone()).await;
        assert_eq!((status, a["verdict"].as_str()), (200, Some(verdict)), "{what}: {a}");
        let reason = &a["reasons"][0];
        assert!(
            reason["rule"].is_string() && reason["text"].is_string() && reason["source"].is_string(),
            "{what}"
        );
        assert!(a["next"].is_array() && a["certain"].is_boolean(), "{what}");
    }
    let (_, a) = s
        .post(
            "/api/judge",
            question(
                capacitor("mica", 1e-10, 500.0),
                Value::Null,
                &[reading("capacitance", 1.02e-10)],
                Value::Null,
                "test first",
            ),
        )
        .await;
    assert!((a["deviation"].as_f64().unwrap() - 0.02).abs() < 1e-9);
    assert!(a["limits"]["low"].as_f64().unwrap() < 1e-10 && a["limits"]["high"].as_f64().unwrap() > 1e-10);
    let coil = json!({"kind": "coil", "family": "choke"});
    let (_, a) = s.post("/api/judge", question(coil, Value::Null, &[], Value::Null, "test first")).await;
    assert!(a["limits"].is_null(), "no value, no limits: {a}");
}

#[tokio::test]
async fn a_missing_fact_is_asked_for_and_a_look_counts() {
    let s = Server::empty().await;
    let leak = [at("leakage_current", 0.5e-6, 400.0)];
    let q =
        question(capacitor("wax paper", 22e-9, 400.0), json!("coupling"), &leak, Value::Null, "test first");
    let (_, a) = s.post("/api/judge", q).await;
    assert_eq!(
        (a["verdict"].as_str(), a["asks"][0]["fact"].as_str()),
        (Some("watch"), Some("grid_resistor")),
        "{a}"
    );
    assert!(a["reasons"][0]["text"].as_str().unwrap().contains("keep if the grid resistor is under"), "{a}");
    let mut q = question(
        capacitor("electrolytic", 47e-6, 25.0),
        Value::Null,
        &[reading("capacitance", 48e-6), reading("esr", 0.8)],
        Value::Null,
        "keep original",
    );
    assert_eq!(s.post("/api/judge", q.clone()).await.1["verdict"], "keep");
    q["looks"] = json!(["vented"]);
    let (_, a) = s.post("/api/judge", q).await;
    assert_eq!(
        (a["verdict"].as_str(), a["reasons"][0]["rule"].as_str()),
        (Some("replace"), Some("R6v")),
        "{a}"
    );
}

#[tokio::test]
async fn what_cannot_be_judged_is_refused_beside_its_field() {
    let s = Server::empty().await;
    let base = || question(capacitor("mica", 1e-10, 500.0), Value::Null, &[], Value::Null, "test first");
    let with = |path: &str, value: Value| {
        let mut q = base();
        *q.pointer_mut(path).unwrap() = value;
        q
    };
    for (q, field, words) in [
        (with("/part/value", json!(null)), "part.value", "needs a value"),
        (with("/part/value", json!(0)), "part.value", "above zero"),
        (with("/part/family", json!("wirewound")), "part.family", "no family of a capacitor"),
        (with("/part/kind", json!("lamp")), "part.family", "no family of a lamp"),
        (with("/position", json!("cathode")), "position", "no capacitor sits in the place 'cathode'"),
        (with("/position", json!("attic")), "position", "'attic'"),
        (with("/circuit", json!({"grid_resistor": 0})), "circuit.grid_resistor", "above zero"),
        (with("/readings", json!([reading("capacitance", -1e-9)])), "readings[0].value", "below zero"),
        (with("/readings", json!([reading("weight", 1.0)])), "readings[0].quantity", "weight"),
    ] {
        let (status, problem) = s.post("/api/judge", q.clone()).await;
        assert_eq!((status, problem["field"].as_str()), (422, Some(field)), "{q}: {problem}");
        assert!(problem["detail"].as_str().unwrap().contains(words), "{problem}");
    }
    let mut lamp = base();
    lamp["part"] = json!({"kind": "lamp", "family": null, "value": 6.3});
    assert_eq!(s.post("/api/judge", lamp).await.1["field"], "part.kind");
    // Facts that no rule asks for are sent along by scripts.
    assert_eq!(s.post("/api/judge", with("/circuit", json!({"colour_of_the_lamp": 3.0}))).await.0, 200);
}
