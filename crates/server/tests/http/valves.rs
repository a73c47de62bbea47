//! Valves, fuses, contacts and loudspeakers from a sentence to a proof, and the record that carries them.

use serde_json::{Value, json};
use uuid::Uuid;

use crate::support::{Server, part};

fn id(v: &Value) -> &str {
    v["id"].as_str().unwrap()
}

async fn fitted(s: &Server, p: &Value, body: Value) -> (u16, Value) {
    let mut new = json!({"key": Uuid::new_v4(), "version": p["version"]});
    new.as_object_mut().unwrap().extend(body.as_object().unwrap().clone());
    s.post(&format!("/api/parts/{}/fittings", id(p)), new).await
}

#[tokio::test]
async fn a_valve_goes_from_the_chart_over_the_tester_to_its_proof() {
    let s = Server::empty().await;
    s.import("kind,type,value,count,place,condition\nvalve,6BQ5,,2,shelf 3,new\nvalve,6AQ5,,1,shelf 3,new\n")
        .await;
    let t = s.ticket(&["V5 EL84"]).await;
    // What the chart knows need not be said again; a tester's reading is taken out of the set.
    let (status, said) = s.say(id(&t), "V5 output tests 31%").await;
    assert_eq!(status, 200, "{said}");
    let v5 = &said["written"];
    assert_eq!((v5["kind"].as_str(), v5["type_number"].as_str()), (Some("valve"), Some("EL84")), "{v5}");
    assert_eq!(v5["measured"]["state"], "out of circuit");
    assert_eq!(v5["judgement"]["verdict"], "replace");
    assert_eq!(v5["valve"], "V5", "it stands at the head of what hangs on it");
    let data = &v5["valve_data"];
    assert!(data["also"].as_array().unwrap().contains(&json!("6BQ5")), "{data}");
    assert!(
        data["pins"].as_array().unwrap().contains(&json!({"pin": 2, "name": "grid 1 (control)"})),
        "{data}"
    );
    // Its name alone leads to it, now that it lies on the tray.
    let (_, look) = s.say(id(&t), "V5").await;
    assert_eq!((look["part_id"].as_str(), look["valve"].as_str()), (v5["id"].as_str(), None), "{look}");
    let (_, found) = s.get(&format!("/api/parts/{}/substitutes", id(v5))).await;
    assert_eq!(found["choices"][0]["entry"]["type_number"], "6BQ5", "{found}");
    assert_eq!(found["choices"][0]["from"], "drawers");
    let refused = found["refused"].to_string();
    assert!(refused.contains("6AQ5") && refused.contains("another bias"), "{refused}");
    // By hand, the wrong one is held back.
    let (status, e) = fitted(&s, v5, json!({"description": "6AQ5", "type_number": "6AQ5"})).await;
    assert_eq!(status, 422, "{e}");
    let (status, e) = fitted(&s, v5, json!({"description": "new"})).await;
    assert_eq!((status, e["field"].as_str()), (422, Some("type_number")), "{e}");
    let good = json!({"description": "new 6BQ5", "type_number": "6BQ5", "measured": "92%"});
    let (status, p) = fitted(&s, v5, good).await;
    assert_eq!(status, 201, "{p}");
    assert_eq!(
        (p["type_number"].as_str(), p["judgement"]["verdict"].as_str()),
        (Some("6BQ5"), Some("keep")),
        "{p}"
    );
    let (status, p) = s.say(id(&t), "V5 proven plays loud").await;
    assert_eq!(status, 200, "{p}");
}

#[tokio::test]
async fn the_grid_in_the_running_set_tells_gas_from_a_leaking_capacitor() {
    let s = Server::empty().await;
    let t = s.ticket(&["V2 6V6 output tests 88%"]).await;
    let v2 = part(&t, "V2");
    let take = async |typed: &str, pin: Value, state: &str| {
        let body = json!({"key": Uuid::new_v4(), "typed": typed, "quantity": "pin_voltage", "pin": pin, "state": state});
        s.post(&format!("/api/parts/{}/readings", id(v2)), body).await
    };
    assert_eq!(take("3.1", Value::Null, "in circuit").await.1["field"], "pin");
    let (_, p) = take("3.1", json!(5), "in circuit").await;
    assert_eq!(p["judgement"]["verdict"], "measure again", "{p}");
    assert!(p["judgement"]["next"].to_string().contains("coupling capacitor's grid end"), "{p}");
    let (_, p) = take("2.9", json!(5), "lifted").await;
    assert_eq!(p["judgement"]["verdict"], "replace", "{p}");
}

#[tokio::test]
async fn fuses_contacts_and_loudspeakers_are_said_judged_and_replaced() {
    let s = Server::empty().await;
    s.import(
        "kind,type,value,volts,watts,count,place,condition\nfuse,T,630 mA,250,,8,tin,new\nfuse,T,500 mA,250,,8,tin,new\n\
         loudspeaker,,4 Ω,,8 W,1,bench,new\nswitch,toggle 2P,,250,,1,box,new\n",
    )
    .await;
    let t = s
        .ticket(&[
            "F1 T500mA 250V blown",
            "LS1 4 ohm 5W open lifted",
            "S1 open",
            "S1 6 ohm",
            "K2 contact .02 ohm",
        ])
        .await;
    let says = |n: &str| part(&t, n)["judgement"]["verdict"].as_str().unwrap().to_owned();
    assert_eq!(
        (says("F1"), says("LS1"), says("S1"), says("K2")),
        ("replace".into(), "replace".into(), "replace".into(), "keep".into())
    );
    assert_eq!(part(&t, "F1")["marked"]["text"], "500 mA");
    assert_eq!(
        (part(&t, "K2")["kind"].as_str(), part(&t, "LS1")["kind"].as_str()),
        (Some("switch"), Some("loudspeaker"))
    );
    assert_eq!(part(&t, "F1")["measured"]["state"], "out of circuit");
    for (name, first) in [("F1", "500 mA"), ("LS1", "4 Ω"), ("S1", "switch")] {
        let (_, found) = s.get(&format!("/api/parts/{}/substitutes", id(part(&t, name)))).await;
        let choice = &found["choices"][0];
        assert_eq!(choice["from"], "drawers", "{name}: {found}");
        assert!(choice["description"].as_str().unwrap().contains(first), "{name}: {choice}");
    }
    // A larger fuse never goes in, whatever is said for it.
    let f1 = part(&t, "F1");
    let cause = json!({"key": Uuid::new_v4(), "version": f1["version"], "answer": "smoothing can shorted"});
    let (status, f1) = s.post(&format!("/api/parts/{}/causes", id(f1)), cause).await;
    assert_eq!(status, 201, "{f1}");
    let larger = json!({"description": "1 A", "value": "1A", "type_number": "T", "volts": "250V",
        "despite": "nothing else in the tin"});
    let (status, e) = fitted(&s, &f1, larger).await;
    assert_eq!(status, 422, "{e}");
    assert!(e["detail"].as_str().unwrap().contains("let more through"), "{e}");
    // A German sheet's transistor, and what no letter names.
    let (status, said) = s.say(id(&t), "T1 AF124").await;
    assert_eq!((status, said["written"]["kind"].as_str()), (200, Some("transistor")), "{said}");
    assert_eq!(s.say(id(&t), "V9 emission 70%").await.0, 422, "nothing says its type");
    // All of it goes out and comes in again.
    let record = s.get(&format!("/api/tickets/{}/record.json", id(&t))).await.1;
    let there = Server::empty().await;
    let (status, e) = there.post("/api/tickets/import", record).await;
    assert_eq!(status, 201, "{e}");
    let again = there.get(&format!("/api/tickets/{}", id(&t))).await.1;
    let names = |t: &Value| {
        t["parts"]
            .as_array()
            .unwrap()
            .iter()
            .map(|p| format!("{} {} {}", p["name"], p["kind"], p["reads"]))
            .collect::<Vec<_>>()
    };
    assert_eq!(names(&again), names(&s.get(&format!("/api/tickets/{}", id(&t))).await.1));
}
