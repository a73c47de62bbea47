//! `/api/decode`, `/api/judge`, `/api/combine`, `/api/substitute`: the contract's names and the
//! refusals. The rules themselves are tested in the core.

use serde_json::{Value, json};

use crate::support::Server;

#[tokio::test]
async fn decode_reads_text_and_colours() {
    let s = Server::empty().await;
    let (status, a) = s.post("/api/decode", json!({"text": "2R7J"})).await;
    assert_eq!(status, 200);
    let r = &a["readings"][0];
    assert_eq!(
        (r["part"].as_str(), r["value"].as_f64(), r["unit"].as_str()),
        (Some("resistor"), Some(2.7), Some("Ω"))
    );
    assert_eq!(r["tolerance"], json!({"minus": 0.05, "plus": 0.05}));
    assert!(r["tolerance_abs"].is_null() && r["voltage"].is_null() && r["sections"] == json!([]));
    let colours =
        json!({"colours": ["red", "violet", "yellow", "none"], "scheme": "bands", "part": "resistor"});
    let (_, a) = s.post("/api/decode", colours).await;
    assert_eq!(a["readings"][0]["value"], 270e3);
    let hints =
        json!({"colours": ["brown", "black", "black", "red", "brown"], "measured": 121.0, "expected": 120.0});
    assert_eq!(s.post("/api/decode", hints).await.1["readings"][0]["value"], 120.0);
}

#[tokio::test]
async fn what_cannot_be_decoded_is_said_beside_the_field() {
    let s = Server::empty().await;
    for (body, status, field, words) in [
        (json!({"text": "gold gold gold"}), 422, "text", "first digit"),
        (json!({"text": "🦉"}), 422, "text", "🦉"),
        (json!({"text": "4".repeat(5000)}), 422, "text", "5000 characters"),
        (json!({"colours": ["red"]}), 422, "colours", "1 colours; bands has 3, 4, 5, 6"),
        (json!({"colours": ["mauvish", "red", "red"]}), 422, "colours", "mauvish"),
        (json!({"colours": vec!["red"; 500]}), 422, "colours", "500 colours"),
        (json!({"text": "4k7", "measured": -3}), 422, "measured", "above zero"),
        (json!({"text": "4k7", "measured": "high"}), 422, "measured", "a number is needed"),
        (json!({"text": "4k7", "scheme": "tartan"}), 422, "scheme", "tartan"),
        (
            json!({"text": "black", "part": "resistor", "scheme": "tantalum"}),
            422,
            "text",
            "no code for a resistor",
        ),
        (json!({"text": "4k7", "measured_text": "lots"}), 422, "measured", "'lots'"),
        (json!({"text": "1N60", "measured_text": "5"}), 422, "measured", "with its unit"),
        (json!({"text": 5}), 422, "text", "integer"),
        (json!({}), 422, "text", "either"),
    ] {
        let (got, problem) = s.post("/api/decode", body.clone()).await;
        assert_eq!((got, problem["field"].as_str()), (status, Some(field)), "{body}: {problem}");
        assert!(problem["detail"].as_str().unwrap().contains(words), "{problem}");
        assert_eq!(problem["status"], status);
    }
}

#[tokio::test]
async fn decode_reads_every_kind_of_part() {
    let s = Server::empty().await;
    let first = async |body: Value| {
        let (status, a) = s.post("/api/decode", body.clone()).await;
        assert_eq!(status, 200, "{body}: {a}");
        a["readings"][0].clone()
    };
    let r = first(json!({"text": "683K 160V"})).await;
    assert_eq!(
        (r["part"].as_str(), r["unit"].as_str(), r["code"].as_str()),
        (Some("capacitor"), Some("F"), Some("digit code"))
    );
    assert!((r["value"].as_f64().unwrap() - 68e-9).abs() < 1e-18 && r["voltage"] == 160.0, "{r}");
    assert_eq!(r["tolerance"], json!({"minus": 0.1, "plus": 0.1}));
    let r = first(json!({"text": "3p3C"})).await;
    assert!(
        r["tolerance"].is_null() && (r["tolerance_abs"].as_f64().unwrap() - 0.25e-12).abs() < 1e-20,
        "{r}"
    );
    let r = first(json!({"text": "40-20/400"})).await;
    assert_eq!(r["sections"].as_array().unwrap().len(), 2);
    assert_eq!((r["sections"][1]["voltage"].as_f64(), r["voltage"].as_f64()), (Some(400.0), Some(400.0)));
    let r = first(json!({"text": "0.022µF X2 300V~"})).await;
    assert_eq!((r["safety"].as_str(), r["voltage_kind"].as_str()), (Some("X2"), Some("AC")));
    let r = first(json!({"text": "1N4007"})).await;
    assert!(r["value"].is_null() && r["type_number"] == "1N4007" && r["part"] == "diode");
    let dots = json!({"colours": ["green", "blue", "yellow", "none"], "scheme": "body-end-dot"});
    let r = first(dots).await;
    assert_eq!((r["value"].as_f64(), r["scheme"].as_str()), (Some(560e3), Some("body-end-dot")));
    assert_eq!(r["band_words"], json!(["5", "6", "× 10 k", "±20 %"]));
    // A measurement as typed takes the quantity of what the marking is likeliest to be.
    let r = first(json!({"text": "brown black black red brown", "measured_text": "121"})).await;
    assert_eq!(r["value"], 120.0);
    let (_, a) = s.post("/api/decode", json!({"text": "wide red red brown gold"})).await;
    assert_eq!(
        (a["readings"][0]["family"].as_str(), &a["seen"]),
        (Some("wirewound"), &json!(["red", "red", "brown", "gold"]))
    );
}

#[tokio::test]
async fn the_codes_are_there_to_be_looked_at() {
    let s = Server::empty().await;
    let (_, all) = s.get("/api/schemes").await;
    let schemes: Vec<&str> =
        all["schemes"].as_array().unwrap().iter().map(|s| s["scheme"].as_str().unwrap()).collect();
    for fixed in [
        "bands",
        "body-end-dot",
        "mica-six-dot",
        "mica-three-dot",
        "tubular-ceramic",
        "tubular-paper",
        "film-stripes",
        "tantalum",
    ] {
        assert!(schemes.contains(&fixed), "{fixed}");
    }
    for name in all["cards"].as_array().unwrap() {
        let (status, card) =
            s.get(&format!("/api/card?name={}", name.as_str().unwrap().replace(' ', "%20"))).await;
        assert_eq!(status, 200, "{name}: {card}");
        let columns = card["columns"].as_array().unwrap().len();
        let sources = card["sources"].as_array().unwrap().len();
        for row in card["rows"].as_array().unwrap() {
            assert_eq!(row["cells"].as_array().unwrap().len(), columns, "{name}: {row}");
            let of_row = row["sources"].as_array().unwrap();
            assert!(!of_row.is_empty(), "{name}: a row without a source: {row}");
            assert!(of_row.iter().all(|i| i.as_u64().unwrap() < sources as u64));
        }
        assert!(!card["rows"].as_array().unwrap().is_empty(), "{name}");
    }
    assert_eq!(s.get("/api/card?name=nothing").await.0, 422);
    assert_eq!(s.get("/api/card").await.0, 422);
}

fn judge_body(value: Value, state: &str) -> Value {
    json!({
        "part": {"kind": "resistor", "family": "carbon composition", "value": 1500, "tolerance": 0.1, "power": 0.5, "voltage": null},
        "position": "cathode",
        "readings": [{"quantity": "resistance", "value": value, "state": state, "hot": false, "test_voltage": null,
                      "test_frequency": null, "mode": "dc", "accuracy": {"percent": 0.5, "counts": 3, "resolution": 1}}],
        "circuit": {"voltage": 250, "grid_resistor": null, "bias": null, "feed_resistor": null},
        "school": "test first", "tight": false
    })
}

#[tokio::test]
async fn judge_keeps_the_contract() {
    let s = Server::empty().await;
    let (status, v) = s.post("/api/judge", judge_body(json!(1900), "in circuit")).await;
    assert_eq!((status, v["verdict"].as_str(), v["certain"].as_bool()), (200, Some("replace"), Some(true)));
    assert!((v["deviation"].as_f64().unwrap() - 0.2667).abs() < 1e-3);
    assert!((v["limits"]["low"].as_f64().unwrap() - 1350.0).abs() < 1e-9);
    assert_eq!(v["reasons"][0]["rule"], "R2");
    assert!(!v["reasons"][0]["source"].as_str().unwrap().is_empty());
    assert_eq!(v["schools"].as_array().unwrap().len(), 3);
    assert!(v["gauge"]["unit"]["name"].as_str().unwrap().ends_with('Ω'), "{}", v["gauge"]);
    let mut over = judge_body(Value::Null, "lifted");
    over["readings"][0]["overrange"] = json!(true);
    assert_eq!(s.post("/api/judge", over).await.1["verdict"], "replace");
    let (_, none) = s
        .post("/api/judge", {
            let mut b = judge_body(json!(0), "lifted");
            b["readings"] = json!([]);
            b
        })
        .await;
    assert_eq!((none["verdict"].as_str(), none["deviation"].is_null()), (Some("measure again"), true));
}

#[tokio::test]
async fn what_cannot_be_judged_is_said_beside_the_field() {
    let s = Server::empty().await;
    let with = |pointer: &str, value: Value| {
        let mut b = judge_body(json!(1500), "lifted");
        *b.pointer_mut(pointer).unwrap() = value;
        b
    };
    for (body, field) in [
        (with("/readings/0/value", json!(-1)), "readings[0].value"),
        (with("/readings/0/value", Value::Null), "readings[0].value"),
        (with("/part/value", json!(0)), "part.value"),
        (with("/part/tolerance", json!(10)), "part.tolerance"),
        (with("/part/kind", json!("turnip")), "part.kind"),
        (with("/part/family", json!("granite")), "part.family"),
        (with("/position", json!("cellar")), "position"),
        (with("/readings/0/state", json!("lost")), "readings[0].state"),
        (with("/readings/0/accuracy/percent", json!(-2)), "readings[0].accuracy.percent"),
        (with("/school", json!("night")), "school"),
    ] {
        let (status, problem) = s.post("/api/judge", body).await;
        assert_eq!((status, problem["field"].as_str()), (422, Some(field)), "{problem}");
    }
    let mut tight = judge_body(json!(1500), "lifted");
    tight["school"] = json!("keep original");
    tight["tight"] = json!(true);
    assert_eq!(s.post("/api/judge", tight).await.1["field"], "tight");
}

#[tokio::test]
async fn combine_finds_networks() {
    let s = Server::empty().await;
    let body = json!({"kind": "resistor", "target": 645, "within": null, "max_parts": 2,
        "from": {"series": "E12", "low": 1, "high": 1e6}, "load": {"voltage": 20}, "rating": {"power": 0.5, "voltage": 250}, "limit": 5});
    let (status, a) = s.post("/api/combine", body).await;
    assert_eq!(status, 200, "{a}");
    let n = a["networks"].as_array().unwrap();
    assert_eq!(n.len(), 5);
    let errors: Vec<f64> = n.iter().map(|n| n["error"].as_f64().unwrap().abs()).collect();
    assert!(errors.windows(2).all(|w| w[0] <= w[1] + 1e-12), "{errors:?}");
    assert!(
        n[0]["parts"][0]["power"].is_number()
            && n[0]["expression"].is_string()
            && n[0]["worst_case"]["low"].as_f64() < n[0]["value"].as_f64()
    );
    assert!(a["searched"].as_u64().unwrap() > 1000);
    let values =
        json!({"kind": "capacitor", "target": 3e-8, "from": {"values": [{"value": 1e-8, "count": 3}]}});
    let (_, a) = s.post("/api/combine", values).await;
    assert_eq!(a["networks"][0]["tree"]["parallel"].as_array().unwrap().len(), 3);
    assert!(a["networks"][0]["worst_case"].is_null(), "nobody has said how far they may be off");
    for (body, field) in [
        (json!({"kind": "resistor", "target": 0, "from": {"series": "E12", "low": 1, "high": 10}}), "target"),
        (json!({"kind": "resistor", "target": 5, "from": {"series": "E12", "low": 10, "high": 1}}), "from"),
        (json!({"kind": "resistor", "target": 5, "from": {"series": "E7", "low": 1, "high": 10}}), "from"),
        (
            json!({"kind": "resistor", "target": 5, "max_parts": 9, "from": {"series": "E12", "low": 1, "high": 10}}),
            "max_parts",
        ),
    ] {
        let (status, problem) = s.post("/api/combine", body).await;
        assert_eq!((status, problem["field"].as_str()), (422, Some(field)), "{problem}");
    }
}

#[tokio::test]
async fn substitute_proposes_and_refuses() {
    let s = Server::empty().await;
    let body = json!({"part": {"kind": "resistor", "family": "carbon composition", "value": 15000, "tolerance": 0.1, "power": 0.5},
        "position": "stopper", "circuit": {"voltage": 30}, "school": "test first"});
    let (status, a) = s.post("/api/substitute", body.clone()).await;
    assert_eq!(status, 200, "{a}");
    assert_eq!(a["choices"][0]["value"], 15000.0);
    assert_eq!(a["choices"][0]["from"], "to buy");
    assert!(!a["refused"].as_array().unwrap().is_empty());
    let mut wrong = body;
    wrong["circuit"] = json!({"voltage": "much"});
    assert_eq!(s.post("/api/substitute", wrong).await.1["field"], "circuit.voltage");
}
