//! Supply arithmetic and shares over HTTP: the contract, and wrong input beside its field.

use serde_json::{Value, json};

use crate::support::Server;

fn near(v: &Value, expected: f64, within: f64) -> bool {
    v.as_f64().is_some_and(|v| (v - expected).abs() <= within * expected.abs())
}

/// Ohm's law and the charge of capacitors, by hand (handbook).
#[tokio::test]
async fn a_network_shares_what_drives_it() {
    let s = Server::empty().await;
    let body = json!({"kind": "resistor", "network": {"series": [
        {"ref": "R1", "value": 60, "tolerance": {"minus": 0.1, "plus": 0.1}},
        {"parallel": [{"ref": "R2", "value": 80, "tolerance": {"minus": 0.1, "plus": 0.1}},
                      {"ref": "R3", "value": 80, "tolerance": {"minus": 0.1, "plus": 0.1}}]}]},
        "drive": {"voltage": 10}});
    let (status, a) = s.post("/api/network/share", body.clone()).await;
    assert_eq!((status, a["value"].as_f64()), (200, Some(100.0)), "{a}");
    assert!(near(&a["parts"]["R1"]["power"], 0.6, 1e-9) && near(&a["parts"]["R3"]["current"], 0.05, 1e-9));
    assert!(a["parts"]["R1"]["charge"].is_null());
    assert!(near(&a["worst_case"]["low"], 90.0, 1e-9) && near(&a["worst_case"]["high"], 110.0, 1e-9));
    // 10 nF and 30 nF on 100 V: the smaller one has 75 V; 750 nC in each.
    let caps = json!({"kind": "capacitor", "network": {"series": [
        {"ref": "C1", "value": 1e-8}, {"ref": "C2", "value": 3e-8}]}, "drive": {"voltage": 100}});
    let (_, a) = s.post("/api/network/share", caps).await;
    assert!(
        near(&a["parts"]["C1"]["voltage"], 75.0, 1e-9) && near(&a["parts"]["C2"]["charge"], 7.5e-7, 1e-9)
    );
    assert!(near(&a["parts"]["C1"]["energy"], 0.5 * 1e-8 * 75.0 * 75.0, 1e-9));
    assert!(a["worst_case"].is_null() && a["parts"]["C1"]["power"].is_null());
    assert!(a["balancing"]["resistor"].is_number());
    // What do they make? Without a drive nothing is carried; names may be left out.
    let plain = json!({"kind": "resistor", "network": {"parallel": [{"value": 180}, {"value": 3300}]}});
    let (_, a) = s.post("/api/network/share", plain).await;
    assert!(near(&a["value"], 170.69, 1e-4) && a["parts"]["#1"]["voltage"].is_null(), "{a}");
    let with = |network: Value| json!({"kind": "resistor", "network": network});
    for (body, field) in [
        (with(json!({"series": []})), "network.series"),
        (with(json!({"ref": "R1", "value": 0})), "network.value"),
        (
            with(json!({"series": [{"ref": "R1", "value": 1}, {"ref": "R1", "value": 2}]})),
            "network.series[1].ref",
        ),
        (
            with(json!({"series": [{"value": 1, "tolerance": {"minus": 2, "plus": 0}}]})),
            "network.series[0].tolerance",
        ),
    ] {
        let (status, problem) = s.post("/api/network/share", body).await;
        assert_eq!((status, problem["field"].as_str()), (422, Some(field)), "{problem}");
    }
    let mut deep = json!({"value": 1});
    for _ in 0..40 {
        deep = json!({"series": [deep]});
    }
    assert_eq!(s.post("/api/network/share", with(deep)).await.0, 422);
}

#[tokio::test]
async fn the_contract_of_droppers_rectifiers_and_discharge() {
    let s = Server::empty().await;
    let (status, a) =
        s.post("/api/supply/series", json!({"supply": 250, "load": 100, "current": 0.01})).await;
    assert_eq!((status, a["resistor"].as_f64(), a["power"].as_f64()), (200, Some(15000.0), Some(1.5)), "{a}");
    assert_eq!((a["rating"]["low"].as_f64(), a["rating"]["high"].as_f64()), (Some(3.0), Some(7.5)));
    assert_eq!(a["preferred"]["value"], 15000.0);
    let rectifier = json!({"circuit": "half-wave", "line": 124, "frequency": 60,
        "rectifier": {"kind": "silicon", "drop": 0.8, "resistance": 0}, "source_resistance": 4, "series": 22,
        "capacitance": 4e-5, "load": {"current": 0.075}, "target": 130});
    let (status, a) = s.post("/api/supply/rectifier", rectifier.clone()).await;
    assert_eq!(status, 200, "{a}");
    // The charge that goes in comes out: the mean of the charging current is the load's.
    let wave = a["waveform"]["current"].as_array().unwrap();
    let mean = wave.iter().skip(1).map(|v| v.as_f64().unwrap()).sum::<f64>() / (wave.len() - 1) as f64;
    assert!((mean / 0.075 - 1.0).abs() < 0.02, "{mean}");
    assert!(near(&a["for_target"]["volts"], 130.0, 1e-3) && a["for_target"]["series"].as_f64() > Some(68.0));
    let by_kind = |kind: &str| {
        let mut b = rectifier.clone();
        b["rectifier"] = json!({"kind": kind});
        b["target"] = Value::Null;
        b
    };
    let volts =
        async |kind: &str| s.post("/api/supply/rectifier", by_kind(kind)).await.1["volts"].as_f64().unwrap();
    let (silicon, selenium, valve) = (volts("silicon").await, volts("selenium").await, volts("valve").await);
    assert!(silicon > selenium && selenium > valve, "{silicon} {selenium} {valve}");
    let mut far = rectifier.clone();
    far["target"] = json!(500);
    assert!(s.post("/api/supply/rectifier", far).await.1["for_target"].is_null());
    let d = json!({"capacitance": 4e-5, "voltage": 300, "resistor": 10000, "safe": 5});
    let (_, a) = s.post("/api/supply/discharge", d).await;
    assert!(near(&a["seconds"], 0.4 * 60f64.ln(), 1e-9) && near(&a["energy"], 1.8, 1e-9), "{a}");
    let empty = json!({"capacitance": 4e-5, "voltage": 3, "resistor": 10000, "safe": 5});
    assert_eq!(s.post("/api/supply/discharge", empty).await.1["seconds"], 0.0);
}

#[tokio::test]
async fn the_other_bench_sheets_answer() {
    let s = Server::empty().await;
    // Common practice, no source: 820 Ω in series with a 1,286 Ω coil for one of 2,125 Ω, 20 V across it.
    let coil = json!({"wanted": 2125, "present": 1286, "drop": 20});
    let (_, a) = s.post("/api/supply/field-coil", coil).await;
    assert!(near(&a["resistor"]["value"], 820.0, 1e-9) && near(&a["power"], 0.49, 0.01), "{a}");
    assert_eq!(a["choke_kept"], true);
    let chain = json!({"line": 120, "members": [
        {"name": "V5", "volts": 50, "current": 0.15}, {"name": "PL1", "volts": 6.3, "current": 0.25, "lamp": true}]});
    let (_, a) = s.post("/api/supply/heaters", chain).await;
    assert_eq!(
        (a["members"][0]["matches"].as_bool(), a["members"][1]["matches"].as_bool()),
        (Some(true), Some(false))
    );
    assert!(a["dropper"].as_f64() > Some(400.0), "{a}");
    let held = json!({"line": 120, "ballasts": [466], "barretter": "0.15 A 40-90 V",
        "members": [{"name": "V5", "volts": 50, "current": 0.15}]});
    let (_, a) = s.post("/api/supply/heaters", held).await;
    assert!(near(&a["settled"][1]["current"], 0.15, 1e-9) && a["settled"][1]["good"] == true, "{a}");
    let chart = json!({"sheet_line": 117, "line": 107, "half_a": 330, "half_b": 315,
        "points": [{"name": "screen", "volts": 250, "measured": 231}, {"name": "heater", "volts": 6.3, "measured": 4.9, "heater": true}]});
    let (_, a) = s.post("/api/supply/chart", chart).await;
    assert!(near(&a["points"][0]["expected"], 228.63, 1e-4) && a["points"][1]["heater_off"] == true, "{a}");
    assert!(a["halves_text"].as_str().unwrap().contains("more than 3 %"));
    let (_, a) =
        s.post("/api/supply/touch", json!({"capacitance": 1e-8, "line": 230, "frequency": 50})).await;
    assert_eq!(a["within"], false);
    let ripple = json!({"ripple": 12, "frequency": 100,
        "sections": [{"choke": 8, "capacitance": 3.2e-5}, {"resistor": 2200, "capacitance": 1.6e-5}]});
    let (_, a) = s.post("/api/supply/ripple", ripple).await;
    assert!(a["left"][1].as_f64() < a["left"][0].as_f64() && a["left"][0].as_f64() < Some(0.2), "{a}");
    let (_, a) = s.post("/api/supply/limiter", json!({"line": 230, "watts": 45})).await;
    assert!(a["proposed"].as_f64() >= Some(60.0), "{a}");
}

#[tokio::test]
async fn a_sum_that_makes_no_sense_names_its_field() {
    let s = Server::empty().await;
    let rectifier = |change: &str, v: Value| {
        let mut b = json!({"circuit": "bridge", "line": 12, "frequency": 50, "rectifier": {"kind": "silicon"},
            "capacitance": 1e-3, "load": {"resistance": 100}});
        *b.pointer_mut(change).unwrap() = v;
        b
    };
    for (path, body, field) in [
        ("series", json!({"supply": 100, "load": 250, "current": 0.01}), "load"),
        ("series", json!({"supply": 250, "load": 100, "current": 0}), "current"),
        ("rectifier", rectifier("/line", json!(0)), "line"),
        ("rectifier", rectifier("/frequency", json!(0)), "frequency"),
        ("rectifier", rectifier("/capacitance", json!(-1)), "capacitance"),
        ("rectifier", rectifier("/circuit", json!("quarter-wave")), "circuit"),
        ("rectifier", rectifier("/load", json!({"current": -1})), "load.current"),
        ("discharge", json!({"capacitance": 1e-6, "voltage": 100, "resistor": 0}), "resistor"),
        ("field-coil", json!({"wanted": 1000, "present": 1200, "current": 0.05}), "present"),
        ("field-coil", json!({"wanted": 1000}), "current"),
        (
            "heaters",
            json!({"line": 120, "members": [{"name": "V1", "volts": 0, "current": 0.15}]}),
            "members[0].volts",
        ),
        (
            "heaters",
            json!({"line": 120, "members": [{"name": "V1", "volts": 50, "current": 0.15}], "barretter": "90 V"}),
            "barretter",
        ),
        ("chart", json!({"sheet_line": 0, "line": 107, "points": [{"name": "a", "volts": 1}]}), "sheet_line"),
        (
            "ripple",
            json!({"ripple": 1, "frequency": 100, "sections": [{"choke": 0.001, "capacitance": 1e-6}]}),
            "choke",
        ),
        ("limiter", json!({"line": 230, "watts": 0}), "watts"),
        ("touch", json!({"capacitance": 0, "line": 230, "frequency": 50}), "capacitance"),
    ] {
        let (status, problem) = s.post(&format!("/api/supply/{path}"), body).await;
        assert_eq!((status, problem["field"].as_str()), (422, Some(field)), "{path}: {problem}");
    }
}

#[tokio::test]
async fn a_stream_ends_with_the_whole_answer() {
    let s = Server::empty().await;
    let body = json!({"kind": "resistor", "target": 4321, "max_parts": 4, "from": {"series": "E48", "low": 1, "high": 1e7}});
    let (_, whole) = s.post("/api/combine", body.clone()).await;
    let text =
        s.client.post(format!("{}/api/combine/stream", s.url)).json(&body).send().await.unwrap().text().await;
    let text = text.unwrap();
    let last: Value = serde_json::from_str(text.lines().last().unwrap()).unwrap();
    assert_eq!((last["complete"].as_bool(), &last["networks"]), (Some(true), &whole["networks"]));
    for line in text.lines() {
        assert!(serde_json::from_str::<Value>(line).is_ok());
    }
    // Refused before anything is streamed.
    let wrong = json!({"kind": "resistor", "target": 0, "from": {"series": "E48", "low": 1, "high": 1e7}});
    assert_eq!(s.post("/api/combine/stream", wrong).await.0, 422);
    // A part that must be in it.
    let pinned = json!({"kind": "resistor", "target": 170, "max_parts": 2, "pinned": 180,
        "from": {"series": "E24", "low": 1, "high": 1e6}, "limit": 1});
    let (_, a) = s.post("/api/combine", pinned).await;
    assert_eq!(a["networks"][0]["expression"], "3k ∥ 180", "{a}");
}

/// A form's fields are read as the bench reads them; what cannot be read is said field by field.
#[tokio::test]
async fn typed_fields_are_read_by_the_server() {
    let s = Server::empty().await;
    let field = |quantity: &str, text: &str| json!({"quantity": quantity, "text": text});
    let body = json!({"fields": {"a": field("resistance", "4k7"), "b": field("current", "60 mA"),
        "c": field("voltage", " "), "d": field("capacitance", "heaps")}});
    let (status, a) = s.post("/api/values", body).await;
    assert_eq!(
        (status, a["values"]["a"]["value"].as_f64(), a["values"]["b"]["value"].as_f64()),
        (200, Some(4700.0), Some(0.06))
    );
    assert_eq!(
        (a["values"].as_object().unwrap().len(), a["wrong"].as_object().unwrap().len()),
        (2, 1),
        "{a}"
    );
    assert!(a["wrong"]["d"].as_str().unwrap().contains("'heaps'"));
    let wrong = json!({"fields": {"a": field("weight", "4k7")}});
    assert_eq!(s.post("/api/values", wrong).await.0, 422);
}
