//! `/api/diagnose`: the contract's names and the refusals. The rule itself is tested in the core.

use serde_json::{Value, json};

use crate::support::Server;

fn question(measured: &Value) -> Value {
    json!({"rail": 210, "parts": [
        {"ref": "R7", "kind": "resistor", "a": "rail", "b": "plate", "value": 1800, "rating": 0.5},
        {"ref": "C4", "kind": "capacitor", "a": "plate", "b": "ground", "value": 1e-5},
        {"ref": "V2", "kind": "load", "a": "plate", "b": "ground", "value": 0.007},
    ], "measured": measured, "sheet": null, "ground": "ground"})
}

#[tokio::test]
async fn a_dead_node_behind_a_stiff_rail_names_both_that_can_have_done_it() {
    let s = Server::empty().await;
    let (status, a) = s.post("/api/diagnose", question(&json!({"plate": 0}))).await;
    assert_eq!(status, 200, "{a}");
    assert!((a["expected"]["plate"].as_f64().unwrap() - 197.4).abs() < 1e-6);
    let all = a["suspects"].as_array().unwrap();
    let of = |name: &str, fault: &str| all.iter().find(|s| s["ref"] == name && s["fault"] == fault).unwrap();
    let (open, short) = (of("R7", "open"), of("C4", "short"));
    assert_eq!(open["explains"], short["explains"]);
    assert!(open["estimate"].is_null() && open["explains"].as_f64().unwrap() > 0.9);
    let mut pair: Vec<&str> =
        a["cannot_separate"][0].as_array().unwrap().iter().map(|n| n.as_str().unwrap()).collect();
    pair.sort_unstable();
    assert_eq!(pair, ["C4", "R7"]);
    assert!(a["separate_by"].as_str().unwrap().contains("R7"));
    // 210 V across 1.8 kΩ, by Ohm's law.
    let over = &a["overloaded"][0];
    assert_eq!((over["ref"].as_str(), over["rating"].as_f64()), (Some("R7"), Some(0.5)));
    assert!((over["power"].as_f64().unwrap() - 210.0 * 210.0 / 1800.0).abs() < 0.1, "{over}");
    assert!(a["says"].as_str().unwrap().contains("equally well"), "{a}");
}

#[tokio::test]
async fn what_was_not_read_is_null_and_what_the_sheet_gives_need_not_be_said() {
    let s = Server::empty().await;
    let mut q = question(&json!({"plate": 150, "rail": null}));
    q["parts"][2]["value"] = Value::Null;
    let (status, refused) = s.post("/api/diagnose", q.clone()).await;
    assert_eq!((status, refused["field"].as_str()), (422, Some("parts[2].value")), "{refused}");
    q["sheet"] = json!({"plate": 201});
    let (status, a) = s.post("/api/diagnose", q).await;
    assert_eq!(status, 200, "{a}");
    assert!((a["expected"]["plate"].as_f64().unwrap() - 201.0).abs() < 1e-6, "{a}");
    assert_eq!(a["agrees"], false);
}

#[tokio::test]
async fn a_track_that_has_a_resistance_is_a_suspect_with_its_ohms() {
    let s = Server::empty().await;
    let q = json!({"rail": 210, "parts": [
        {"ref": "W1", "kind": "contact", "a": "rail", "b": "strip"},
        {"ref": "R7", "kind": "resistor", "a": "strip", "b": "plate", "value": 1800},
        {"ref": "V2", "kind": "load", "a": "plate", "b": "ground", "value": 0.007},
    ], "measured": {"strip": 175, "plate": 162.4}, "sheet": null, "ground": "ground"});
    let (status, a) = s.post("/api/diagnose", q).await;
    assert_eq!(status, 200, "{a}");
    let first = &a["suspects"][0];
    assert_eq!(
        (first["ref"].as_str(), first["fault"].as_str()),
        (Some("W1"), Some("resistance risen")),
        "{a}"
    );
    // 35 V at 7 mA, by Ohm's law.
    assert!((first["estimate"].as_f64().unwrap() / 5000.0 - 1.0).abs() < 0.05, "{first}");
    assert!(a["separate_by"].as_str().is_none_or(|t| t.contains("W1")), "{a}");
}

#[tokio::test]
async fn a_feed_that_is_none_is_refused_beside_the_field() {
    let s = Server::empty().await;
    for (change, field, words) in [
        (json!({"rail": 0}), "rail", "nothing to solve"),
        (json!({"rail": 1e30}), "rail", "more volts"),
        (json!({"parts": []}), "parts", "at least one part"),
        (json!({"measured": {}}), "measured", "say what was measured"),
        (json!({"measured": {"plat": 3}}), "measured.plat", "there are 'plate'"),
        (json!({"ground": "rail"}), "ground", "other than 'rail'"),
        (json!({"meter": 0}), "meter", "above zero"),
        (
            json!({"parts": [{"ref": "R1", "kind": "resistor", "a": "rail", "b": "x", "value": -4}]}),
            "parts[0].value",
            "above zero",
        ),
        (
            json!({"parts": [{"ref": "R1", "kind": "resistor", "a": "rail", "b": "x"}]}),
            "parts[0].value",
            "R1 needs a value",
        ),
        (
            json!({"parts": [{"ref": "R1", "kind": "resistor", "a": "x", "b": "x", "value": 4}]}),
            "parts[0].b",
            "same node",
        ),
        (
            json!({"parts": [{"ref": " ", "kind": "resistor", "a": "rail", "b": "x", "value": 4}]}),
            "parts[0].ref",
            "needs a name",
        ),
        (
            json!({"parts": [{"ref": "V1", "kind": "load", "a": "rail", "b": "x", "value": -4}]}),
            "parts[0].value",
            "draws",
        ),
        (
            json!({"parts": [{"ref": "R1", "kind": "valve", "a": "rail", "b": "x", "value": 4}]}),
            "parts[0].kind",
            "valve",
        ),
    ] {
        let mut q = question(&json!({"plate": 10}));
        for (k, v) in change.as_object().unwrap() {
            q[k] = v.clone();
        }
        let (status, problem) = s.post("/api/diagnose", q).await;
        assert_eq!((status, problem["field"].as_str()), (422, Some(field)), "{change}: {problem}");
        assert!(problem["detail"].as_str().unwrap().contains(words), "{change}: {problem}");
    }
}
