//! What is known of a set, asked once: on the ticket's page, beside one of its parts, in the record.

use serde_json::{Value, json};

use crate::support::{Server, part};

async fn opened(s: &Server, set: Value) -> (String, Value) {
    let body = json!({"name": "Skarn harbour receiver", "source": "mains transformer", "devices": "valves",
                      "school": "test first", "intake": {"line": "220", "watts": "52"}, "set": set});
    let (status, t) = s.post("/api/tickets", body).await;
    assert_eq!(status, 201, "{t}");
    (t["id"].as_str().unwrap().to_owned(), t)
}

fn fact<'a>(facts: &'a Value, name: &str) -> &'a Value {
    facts.as_array().unwrap().iter().find(|f| f["fact"] == name).unwrap_or(&Value::Null)
}

#[tokio::test]
async fn what_is_said_of_a_set_is_kept_and_refused_beside_its_field() {
    let s = Server::empty().await;
    let (id, t) = opened(
        &s,
        json!({"facts": {"line": "226", "frequency": "50", "secondary": "250"}, "rectifier": "full-wave",
               "rails": [{"name": "HT 1", "volts": "271"}, {"name": "bias", "volts": "-16.5"}],
               "heaters": [{"name": "V1", "volts": "6.3", "current": "300mA"}], "ballast": "700"}),
    )
    .await;
    let set = &t["set"];
    assert_eq!(fact(&set["facts"], "line")["text"], "226 V");
    assert_eq!(fact(&set["facts"], "load_current")["text"], "", "asked for, and not known");
    assert!(fact(&set["facts"], "voltage").is_null(), "of a part alone");
    assert_eq!(
        (set["rails"][1]["volts"]["value"].as_f64(), set["rectifier"].as_str()),
        (Some(-16.5), Some("full-wave"))
    );
    assert_eq!(set["heaters"][0]["current"]["text"], "300 mA");
    // Two entries that cannot both hold are named.
    let path = format!("/api/tickets/{id}");
    let (status, t) = s
        .patch(
            &path,
            json!({"version": 1, "set": {"rails": [{"name": "HT 1", "volts": "420"}], "ballast": ""}}),
        )
        .await;
    assert_eq!(status, 200, "{t}");
    assert!(t["set"]["contradictions"].to_string().contains("cannot come out of 250 V AC"), "{t}");
    assert!(
        t["set"]["ballast"].is_null() && t["set"]["heaters"][0]["name"] == "V1",
        "what was not said stays"
    );
    for (set, field) in [
        (json!({"facts": {"line": "a lot"}}), "set.facts.line"),
        (json!({"facts": {"voltage": "90"}}), "set.facts.voltage"),
        (json!({"facts": {"moon": "1"}}), "set.facts.moon"),
        (json!({"rails": [{"name": "HT", "volts": "0"}]}), "set.rails[0].volts"),
        (json!({"rails": [{"name": " ", "volts": "9"}]}), "set.rails[0].name"),
        (json!({"heaters": [{"name": "V1", "volts": "6.3", "current": ""}]}), "set.heaters[0].current"),
        (json!({"heaters": vec![json!({"name": "V", "volts": "6", "current": "1"}); 41]}), "set.heaters"),
        (json!({"ballast_high": "-5"}), "set.ballast_high"),
        (json!({"barretter": "a red one"}), "set.barretter"),
        (json!({"barretter": "300 mA 80-200 V", "ballast": "220"}), "set.barretter"),
    ] {
        let (status, p) = s.patch(&path, json!({"version": 2, "set": set})).await;
        assert_eq!((status, p["field"].as_str()), (422, Some(field)), "{p}");
    }
    let held = json!({"version": 2, "set": {"barretter": ".3A 160 to 240V"}});
    let (status, t) = s.patch(&path, held).await;
    assert_eq!((status, t["set"]["barretter"].as_str()), (200, Some("300 mA, 160 V to 240 V")), "{t}");
    let settled = &t["set"]["settled"][0];
    assert!(settled["good"] == true && settled["ballast"] == "barretter 300 mA, 160 V to 240 V", "{settled}");
    let (status, p) = s.patch(&path, json!({"version": 3, "highest": "sky"})).await;
    assert_eq!((status, p["field"].as_str()), (422, Some("highest")), "{p}");
    // High volts on a rail make it a set of high voltage, whoever said how high they are.
    let rails = json!({"version": 3, "set": {"rails": [{"name": "PA", "volts": "1.15 kV"}], "facts": {"secondary": ""}}});
    let (_, t) = s.patch(&path, rails).await;
    assert!(t["cautions"].to_string().contains("Kilovolts kill"), "{}", t["class"]);
    assert_eq!(t["class"]["in_words"], "valves, mains transformer, 1.15 kV");
}

#[tokio::test]
async fn what_is_said_beside_a_part_counts_for_the_others_and_an_exception_for_it_alone() {
    let s = Server::empty().await;
    let (id, _) = opened(&s, json!({"rails": [{"name": "HT", "volts": "262"}]})).await;
    for text in [
        "C1 32u 450V electrolytic reservoir",
        "C2 16u 450V electrolytic smoothing",
        "D2 bias selenium plates 4",
    ] {
        s.say(&id, text).await;
    }
    let (_, t) = s.whole(&format!("/api/tickets/{id}")).await;
    let of = |t: &Value, name: &str| part(t, name)["id"].as_str().unwrap().to_owned();
    let (c1, c2, d2) = (of(&t, "C1"), of(&t, "C2"), of(&t, "D2"));
    let version = t["version"].clone();
    let change =
        json!({"version": part(&t, "C1")["version"], "facts": {"secondary": "255", "load_current": "58mA"}});
    let (status, w) = s.patch(&format!("/api/parts/{c1}"), change).await;
    assert_eq!(status, 200, "{w}");
    assert_ne!(w["ticket_version"], version, "all of the tray may stand otherwise");
    assert_eq!(fact(&w["facts"], "secondary")["of_set"], true, "{w}");
    assert_eq!(fact(&w["facts"], "rail")["text"], "262 V", "the only one");
    // The other one has it as well, and Fit asks for the volts before the valves draw.
    let (_, choices) = s.get(&format!("/api/parts/{c2}/substitutes")).await;
    let secondary = fact(&choices["facts"], "secondary");
    assert_eq!((secondary["text"].as_str(), secondary["of_set"].as_bool()), (Some("255 V"), Some(true)));
    // A bias rectifier has a winding of its own.
    let (_, d) = s.get(&format!("/api/parts/{d2}")).await;
    let own = json!({"version": d["version"], "facts": {"secondary": "42"}});
    let (_, w) = s.patch(&format!("/api/parts/{d2}"), own).await;
    let here = fact(&w["facts"], "secondary");
    assert_eq!((here["text"].as_str(), here["of_set"].as_bool()), (Some("42 V"), Some(false)));
    let (_, t) = s.get(&format!("/api/tickets/{id}")).await;
    assert_eq!(fact(&t["set"]["facts"], "secondary")["text"], "255 V");
    // Emptied there, the set's counts again; wrong input is refused beside its field.
    let emptied = json!({"version": w["version"], "facts": {"secondary": ""}});
    let (_, w) = s.patch(&format!("/api/parts/{d2}"), emptied).await;
    assert_eq!(fact(&w["facts"], "secondary")["text"], "255 V");
    let wrong = json!({"version": w["version"], "facts": {"line": "warm"}});
    let (status, p) = s.patch(&format!("/api/parts/{d2}"), wrong).await;
    assert_eq!((status, p["field"].as_str()), (422, Some("facts.line")), "{p}");
}

#[tokio::test]
async fn a_record_of_the_one_class_comes_in_with_three_answers() {
    let s = Server::empty().await;
    let (id, _) = opened(&s, json!({"facts": {"line": "226"}})).await;
    let (_, doc) = s.get(&format!("/api/tickets/{id}/record.json")).await;
    assert_eq!(doc["ticket"]["facts"]["content"]["shared"]["line"], 226.0, "{}", doc["ticket"]);
    for (class, hot, line, wanted) in [
        ("isolated", false, 220.0, "valves, mains transformer"),
        ("solid state", false, 12.0, "transistors, battery"),
        ("solid state", false, 220.0, "transistors, mains transformer"),
        ("solid state", true, 220.0, "transistors, mains, live chassis"),
        ("high voltage", false, 220.0, "valves, mains transformer, 1 kV"),
    ] {
        let mut old = doc.clone();
        old["version"] = json!(5);
        let ticket = old["ticket"].as_object_mut().unwrap();
        for gone in ["source", "devices", "highest_volts", "facts"] {
            ticket.remove(gone);
        }
        ticket.insert("class".to_owned(), json!(class));
        ticket.insert("hot_chassis".to_owned(), json!(hot));
        ticket.insert("line_volts".to_owned(), json!(line));
        ticket.insert("id".to_owned(), json!(uuid::Uuid::new_v4()));
        let (status, taken) = s.post("/api/tickets/import", old).await;
        assert_eq!(status, 201, "{taken}");
        let (_, t) = s.get(&format!("/api/tickets/{}", taken["id"].as_str().unwrap())).await;
        assert_eq!(t["class"]["in_words"], wanted, "{class} {hot} {line}");
    }
}
