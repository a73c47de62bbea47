//! An output stage that shorted: what died is named, it is fitted with one press, and proven as one.

use serde_json::{Value, json};
use uuid::Uuid;

use crate::support::{Server, part};

/// The six readings of a transistor that is shorted from its second to its third lead.
fn shorted() -> Value {
    let ways = [("1", "2"), ("2", "1"), ("1", "3"), ("3", "1"), ("2", "3"), ("3", "2")];
    let volts = [Some(0.64), None, Some(0.65), None, Some(0.002), Some(0.002)];
    let readings: Vec<Value> =
        ways.iter().zip(volts).map(|((r, b), v)| json!({"red": r, "black": b, "volts": v})).collect();
    json!({"readings": readings})
}

async fn read(s: &Server, id: &str) -> Value {
    s.get(&format!("/api/parts/{id}")).await.1
}

async fn decide(s: &Server, id: &str, decided: &str) -> Value {
    let now = read(s, id).await;
    let d = json!({"key": Uuid::new_v4(), "version": now["version"], "decided": decided, "why": "bench"});
    let (status, p) = s.post(&format!("/api/parts/{id}/decisions"), d).await;
    assert_eq!(status, 201, "{p}");
    p
}

#[tokio::test]
async fn a_stage_is_named_fitted_and_proven_as_one() {
    let s = Server::empty().await;
    s.import("kind,type,value,watts,tolerance,family,count,place\ntransistor,BD139,,,,,1,tin 1\ntransistor,BD139,,,,,4,tin 2\nresistor,,0.47,1,5%,metal film,3,R low\n").await;
    let t = s
        .ticket(&[
            "Q7 BD139 output without transformer",
            "Q7 rail 24",
            "Q8 BD139 output without transformer",
            "Q8 rail 24",
            "R31 .47 5% 1W emitter",
            "Q3 BC140 driver",
        ])
        .await;
    let id = |name: &str| part(&t, name)["id"].as_str().unwrap().to_owned();
    let (q7, q8, r31) = (id("Q7"), id("Q8"), id("R31"));
    for q in [&q7, &q8] {
        let kept = json!({"key": Uuid::new_v4(), "question": shorted()});
        let (status, p) = s.post(&format!("/api/parts/{q}/junctions"), kept).await;
        assert_eq!(status, 201, "{p}");
    }
    let p = decide(&s, &q7, "replace").await;
    assert_eq!(p["suspects_open"], json!(["R31", "Q3", "Q8"]), "what is known");
    let roles: Vec<&str> =
        p["suspects_unnamed"].as_array().unwrap().iter().map(|u| u["role"].as_str().unwrap()).collect();
    assert_eq!(
        roles,
        [
            "resistor from base to emitter",
            "bias diode or thermistor",
            "protection transistor",
            "resistor across the output"
        ]
    );
    assert_eq!(
        (p["first_asked"]["question"].as_str(), p["first_asked"]["parts"].as_array().unwrap().len()),
        (Some("suspects"), 0)
    );
    // Each is named or said not to be there; what cannot be is refused beside its field.
    let at = format!("/api/parts/{q7}/suspects");
    let name = |role: &'static str, name: &'static str, none: &'static str| {
        let (s, at, q7) = (&s, &at, &q7);
        async move {
            let version = read(s, q7).await["version"].clone();
            s.post(at, json!({"version": version, "role": role, "name": name, "none": none})).await
        }
    };
    for (role, called, none, field) in [
        ("bias diode or thermistor", "", "", "name"),
        ("bias diode or thermistor", "R31", "", "name"),
        ("bias diode or thermistor", "C9", "", "name"),
        ("protection transistor", "Q7", "", "name"),
        ("protection transistor", "R31", "", "name"),
    ] {
        let (status, e) = name(role, called, none).await;
        assert_eq!((status, e["field"].as_str()), (422, Some(field)), "{called}: {e}");
    }
    let (status, p) = name("bias diode or thermistor", "d4", "").await;
    assert_eq!(status, 200, "{p}");
    assert!(p["neighbours"].as_array().unwrap().iter().any(|n| n["name"] == "D4"), "it lies on the tray now");
    for role in ["resistor from base to emitter", "protection transistor", "resistor across the output"] {
        let (status, p) = name(role, "", "class A, none").await;
        assert_eq!(status, 200, "{p}");
    }
    let p = read(&s, &q7).await;
    assert_eq!(
        (p["suspects_unnamed"].clone(), p["suspects_open"].clone()),
        (json!([]), json!(["R31", "D4", "Q3", "Q8"]))
    );
    let (status, e) = s
        .post(&format!("/api/parts/{q8}/suspects"), json!({"version": 1, "role": "driver", "name": "Q3"}))
        .await;
    assert!(status == 409 || status == 422, "nobody asks Q8: {e}");
    // Measured and decided: two transistors and a resistor go.
    let ticket = t["id"].as_str().unwrap();
    for said in ["D4 = .61 out", "R31 = 3.9 lifted", "Q3 gain 90"] {
        s.say(ticket, said).await;
    }
    let (_, now) = s.whole(&format!("/api/tickets/{ticket}")).await;
    for (n, d) in [("D4", "keep"), ("R31", "replace"), ("Q3", "keep"), ("Q8", "replace")] {
        decide(&s, part(&now, n)["id"].as_str().unwrap(), d).await;
    }
    assert_eq!(read(&s, &q8).await["suspects_unnamed"], json!([]), "asked once for a stage");
    // Both get one of the tin that has two, and not the single one first.
    let (status, stage) = s.get(&format!("/api/parts/{q7}/stage")).await;
    let places = stage["places"].as_array().unwrap();
    let names: Vec<&str> = places.iter().map(|p| p["name"].as_str().unwrap()).collect();
    assert_eq!((status, names), (200, vec!["R31", "Q7", "Q8"]), "{stage}");
    for p in &places[1..] {
        assert_eq!(p["choices"][0]["pieces"][0]["place"], "tin 2", "{p}");
    }
    let fitting = |p: &Value, measured: &str| {
        let c = &p["choices"][0];
        let pieces: Vec<Value> = c["pieces"]
            .as_array()
            .unwrap()
            .iter()
            .map(|x| json!({"lot": x["lot"], "description": x["description"]}))
            .collect();
        json!({"part": p["part"], "fitting": {"key": Uuid::new_v4(), "version": p["version"], "description": c["description"],
            "kind": c["kind"], "family": c["family"], "value": c["entry"]["value"], "tolerance": c["entry"]["tolerance"],
            "watts": c["entry"]["watts"], "volts": c["entry"]["volts"], "type_number": c["entry"]["type_number"],
            "measured": measured, "pieces": pieces}})
    };
    let path = format!("/api/parts/{q7}/stage");
    // One wrong entry, and nothing goes in.
    let wrong = json!({"fittings": [fitting(&places[0], ".47"), fitting(&places[1], "often"), fitting(&places[2], "88")]});
    let (status, e) = s.post(&path, wrong).await;
    assert_eq!((status, e["field"].as_str()), (422, Some("fittings[1].measured")), "{e}");
    assert_eq!(read(&s, &r31).await["fittings"], json!([]));
    let whole = json!({"fittings": [fitting(&places[0], ".47"), fitting(&places[1], "92"), fitting(&places[2], "88")]});
    for _ in 0..2 {
        let (status, p) = s.post(&path, whole.clone()).await;
        assert_eq!(status, 201, "sent twice, fitted once: {p}");
        assert_eq!(p["stage_to_prove"], json!(["R31", "Q7", "Q8"]));
    }
    let (_, changes) = s.get(&format!("/api/tickets/{}/changes", t["id"].as_str().unwrap())).await;
    assert_eq!(changes["changes"].as_array().unwrap().len(), 3);
    // Proven once, all are; and each alone, because a stage is one change.
    let fitted = read(&s, &q8).await["fittings"][0]["id"].as_str().unwrap().to_owned();
    let proof = json!({"key": Uuid::new_v4(), "outcome": "better", "seen": "12 V at the middle, 9 mA idle"});
    for _ in 0..2 {
        let (status, p) = s.post(&format!("/api/fittings/{fitted}/proof"), proof.clone()).await;
        assert_eq!(status, 201, "{p}");
    }
    for q in [&q7, &q8, &r31] {
        let p = read(&s, q).await;
        assert_eq!(
            (p["status"].as_str(), p["fittings"][0]["proof"]["outcome"].as_str()),
            (Some("proven"), Some("better")),
            "{p}"
        );
    }
    let (_, changes) = s.get(&format!("/api/tickets/{}/changes", t["id"].as_str().unwrap())).await;
    assert!(changes["changes"].as_array().unwrap().iter().all(|c| c["alone"] == true), "{changes}");
}
