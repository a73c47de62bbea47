//! Readings from instruments on the network: the simulated bench, asked by the server.

use owl_instruments::stand_in::{Clips, Kind, StandIn, read_parts};
use serde_json::{Value, json};
use tokio::net::TcpListener;
use uuid::Uuid;

use crate::support::{Server, part};

const PARTS: &str = r#"
[[part]]
set = "Fell Farm table set"
name = "R5"
ohms = 12650.0
composition = true
neighbours_ohms = 30000.0
[[part]]
set = "Fell Farm table set"
name = "C5"
farads = 2.1e-8
low_leak_ohms = 9e8
leak_ohms = 3e7
leaks_from_volts = 100.0
[[part]]
set = "Fell Farm table set"
name = "C9"
farads = 1.1e-5
low_leak_ohms = 5e6
rated_volts = 300.0
idle_years = 5.0
"#;

async fn bench() -> StandIn {
    StandIn::start(0, Clips::new(read_parts(PARTS).unwrap(), 3)).await.unwrap()
}

/// Enters an instrument; its ways by name.
async fn enter(s: &Server, name: &str, kind: &str, address: &str, ways: Value) -> Value {
    let body = json!({"name": name, "kind": kind, "address": address, "ways": ways});
    let (status, all) = s.post("/api/instruments", body).await;
    assert_eq!(status, 201, "{all}");
    all.as_array().unwrap().iter().find(|i| i["name"] == name).unwrap().clone()
}

fn way(name: &str, quantity: &str, mode: &str, more: Value) -> Value {
    let mut w = json!({"name": name, "quantity": quantity, "mode": mode});
    w.as_object_mut().unwrap().extend(more.as_object().unwrap().clone());
    w
}

async fn ask(s: &Server, part: &Value, way: &Value, state: &str) -> (u16, Value) {
    let address = format!("/api/parts/{}/meter", part["id"].as_str().unwrap());
    s.post(&address, json!({"way": way["id"], "state": state})).await
}

#[tokio::test]
async fn a_reading_comes_with_its_instrument_frequency_volts_and_switch() {
    let s = Server::empty().await;
    let bench = bench().await;
    let at = |kind| bench.address(kind).unwrap().to_string();
    let ticket = s.ticket(&["R5 12k 10% carbon comp plate load", "C5 .02 400V wax paper coupling"]).await;
    let ohms = json!([way("ohms", "resistance", "dc", json!({}))]);
    let multimeter = enter(&s, "Quay meter", "multimeter", &at(Kind::Multimeter), ohms).await;
    let (status, free) = ask(&s, part(&ticket, "R5"), &multimeter["ways"][0], "lifted").await;
    assert_eq!(status, 200, "{free}");
    assert!(free["typed"].as_str().unwrap().starts_with("12.6"), "{free}");
    assert!(free["words"].as_str().unwrap().contains("Quay meter shows"), "{free}");
    let (_, sits) = ask(&s, part(&ticket, "R5"), &multimeter["ways"][0], "in circuit").await;
    // Ohm's law: 12.65 kΩ beside 30 kΩ are 8.898 kΩ; the meter is good to 0.4 %.
    assert!(["8.8", "8.9"].iter().any(|v| sits["typed"].as_str().unwrap().starts_with(v)), "{sits}");
    // What it shows is what would be typed, and is taken as such.
    let taken = json!({"key": Uuid::new_v4(), "typed": free["typed"], "state": "lifted", "way": free["way"]});
    let readings = format!("/api/parts/{}/readings", part(&ticket, "R5")["id"].as_str().unwrap());
    let (status, seen) = s.post(&readings, taken).await;
    assert_eq!((status, &seen["readings"][0]["instrument"]), (201, &json!("Quay meter")), "{seen}");
    let lcr = enter(
        &s,
        "Quay bridge",
        "LCR meter",
        &at(Kind::LcrMeter),
        json!([way("C 120", "capacitance", "ac", json!({"test_frequency": "120"}))]),
    )
    .await;
    let (_, c) = ask(&s, part(&ticket, "C5"), &lcr["ways"][0], "out of circuit").await;
    assert_eq!(c["test_frequency"], "120 Hz", "{c}");
    // The switch stands otherwise than somebody thought: the reading says how it stands.
    let ways = json!([
        way("paper", "leakage_current", "dc", json!({"setting": "paper"})),
        way("electrolytic", "leakage_current", "dc", json!({"setting": "electrolytic"}))
    ]);
    let tester = enter(&s, "Quay tester", "leakage tester", &at(Kind::LeakageTester), ways).await;
    bench.clips.lock().unwrap().on_electrolytic = true;
    let (_, leak) = ask(&s, part(&ticket, "C5"), &tester["ways"][0], "out of circuit").await;
    assert_eq!(
        (&leak["setting"], &leak["way"]),
        (&json!("electrolytic"), &tester["ways"][1]["id"]),
        "{leak}"
    );
    assert_eq!(leak["test_voltage"], "250 V");
}

#[tokio::test]
async fn only_near_addresses_are_entered_and_what_does_not_answer_is_said() {
    let s = Server::empty().await;
    let ticket = s.ticket(&["R5 12k 10%"]).await;
    for bad in ["192.0.2.7:5025", "meter.example:5025", "127.0.0.1:0", "nonsense"] {
        let body = json!({"name": "Far meter", "kind": "multimeter", "address": bad, "ways": []});
        let (status, refused) = s.post("/api/instruments", body).await;
        assert_eq!((status, &refused["field"]), (422, &json!("address")), "{bad}: {refused}");
    }
    let ohms = json!([way("ohms", "resistance", "dc", json!({}))]);
    let none = enter(&s, "Plain meter", "multimeter", "", ohms.clone()).await;
    let (status, refused) = ask(&s, part(&ticket, "R5"), &none["ways"][0], "lifted").await;
    assert_eq!((status, &refused["field"]), (422, &json!("instrument")));
    assert!(refused["detail"].as_str().unwrap().contains("no address"), "{refused}");
    // A port where nobody listens, and one where somebody never answers.
    let gone = TcpListener::bind("127.0.0.1:0").await.unwrap().local_addr().unwrap().to_string();
    let off = enter(&s, "Switched off", "multimeter", &gone, ohms.clone()).await;
    let (_, refused) = ask(&s, part(&ticket, "R5"), &off["ways"][0], "lifted").await;
    assert!(refused["detail"].as_str().unwrap().contains("nothing answers"), "{refused}");
    let silent = TcpListener::bind("127.0.0.1:0").await.unwrap();
    let mute = enter(&s, "Mute", "multimeter", &silent.local_addr().unwrap().to_string(), ohms).await;
    let (_, refused) = ask(&s, part(&ticket, "R5"), &mute["ways"][0], "lifted").await;
    assert!(refused["detail"].as_str().unwrap().contains("says nothing"), "{refused}");
    let (_, refused) =
        s.post(&format!("/api/instruments/{}/identify", mute["id"].as_str().unwrap()), json!({})).await;
    assert!(refused["detail"].as_str().unwrap().contains("says nothing"), "{refused}");
}

#[tokio::test]
async fn the_reforming_supply_is_read_into_a_guided_run() {
    let s = Server::empty().await;
    let bench = bench().await;
    let ticket = s.ticket(&["C9 10u 300V electrolytic smoothing"]).await;
    let id = Uuid::new_v4();
    let plan = json!({"capacitance": 1e-5, "rated": 300, "working": 220, "idle_years": 5,
                      "supply": {"voltage": 300, "series": 22000}});
    let new = json!({"id": id, "part_id": part(&ticket, "C9")["id"], "mode": "guided", "plan": plan});
    assert_eq!(s.post("/api/reform/runs", new).await.0, 201);
    let supply = format!("/api/reform/runs/{id}/supply");
    let (status, refused) = s.post(&supply, json!({})).await;
    assert_eq!((status, &refused["field"]), (422, &json!("instrument")), "{refused}");
    let at = bench.address(Kind::ReformingSupply).unwrap().to_string();
    let entered = enter(&s, "Quay supply", "reforming supply", &at, json!([])).await;
    let (status, named) =
        s.post(&format!("/api/instruments/{}/identify", entered["id"].as_str().unwrap()), json!({})).await;
    assert!(status == 200 && named["identity"].as_str().unwrap().contains("reforming supply"), "{named}");
    let (status, read) = s.post(&supply, json!({})).await;
    assert_eq!(status, 200, "{read}");
    let typed = json!({"key": Uuid::new_v4(), "volts": read["volts"], "current": read["current"]});
    let (status, run) = s.post(&format!("/api/reform/runs/{id}/readings"), typed).await;
    assert_eq!((status, &run["touch"]["safe"]), (200, &json!(true)), "{run}");
}

#[tokio::test]
async fn a_piece_of_a_lot_is_read_from_the_transistor_tester() {
    let parts = "[[part]]\nset = \"Spare drivers\"\nname = \"7\"\ngain = 83.0\nbase_volts = 0.641\n";
    let bench = StandIn::start(0, Clips::new(read_parts(parts).unwrap(), 3)).await.unwrap();
    let s = Server::empty().await;
    let ask = async |label: &str| {
        s.post("/api/transistors/measure", json!({"lot": "Spare drivers", "label": label})).await
    };
    let (status, p) = ask("7").await;
    assert_eq!((status, p["field"].as_str()), (422, Some("instrument")), "nobody has an address yet: {p}");
    let tester = bench.address(Kind::TransistorTester).unwrap().to_string();
    enter(&s, "Tester", "transistor tester", &tester, json!([way("gain", "gain", "dc", json!({}))])).await;
    let (status, a) = ask("7").await;
    assert_eq!(status, 200, "{a}");
    let gain: f64 = a["gain"].as_str().unwrap().parse().unwrap();
    assert!((gain / 83.0 - 1.0).abs() < 0.05, "{a}");
    assert!(a["base_volts"].as_str().unwrap().contains("64"), "{a}");
    let (status, p) = ask("8").await;
    assert_eq!((status, p["field"].as_str()), (422, Some("label")), "{p}");
}
