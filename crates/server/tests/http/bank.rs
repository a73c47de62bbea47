//! Parts in series: put together by their names, measured one by one, judged as a set, let go and fitted together.

use serde_json::{Value, json};
use uuid::Uuid;

use crate::support::{Server, part};

fn body(id: &str, kind: &str, members: &str, across: &str) -> Value {
    json!({"id": id, "version": null, "name": "HT bank", "kind": kind, "volts": "2.4k", "members": members,
           "across": across, "marking": "100u 450V", "across_marking": "68k 5% 5W"})
}

async fn banks(s: &Server, ticket: &Value) -> Value {
    let (status, b) = s.get(&format!("/api/tickets/{}/banks", ticket["id"].as_str().unwrap())).await;
    assert_eq!(status, 200, "{b}");
    b
}

/// Takes a reading of each of the parts.
async fn measure(s: &Server, parts: &[(&Value, &str)]) {
    for (p, typed) in parts {
        let at = format!("/api/parts/{}/readings", p["id"].as_str().unwrap());
        let r = json!({"key": Uuid::new_v4(), "typed": typed, "state": "lifted", "confirmed": true});
        let (status, e) = s.post(&at, r).await;
        assert_eq!(status, 201, "{e}");
    }
}

fn texts(bank: &Value) -> String {
    bank["said"]
        .as_array()
        .unwrap()
        .iter()
        .map(|t| t["text"].as_str().unwrap())
        .collect::<Vec<_>>()
        .join("; ")
}

#[tokio::test]
async fn a_bank_is_put_together_measured_and_let_go_as_one() {
    let s = Server::empty().await;
    let t = s.ticket(&["C9 10u 63V"]).await;
    let (ticket, id) = (t["id"].as_str().unwrap(), Uuid::new_v4().to_string());
    let put = format!("/api/tickets/{ticket}/banks");
    let (status, b) = s.put(&put, body(&id, "capacitor bank", "C11-C16", "R21-R26")).await;
    assert_eq!(status, 200, "{b}");
    let bank = &b["banks"][0];
    assert_eq!((bank["members"].as_str(), bank["across"].as_str()), (Some("C11-C16"), Some("R21-R26")));
    assert!(texts(bank).contains("not measured: C11-C16") && bank["call"] == "measure again", "{bank}");
    assert_eq!(bank["places"][0]["rated"]["text"], "450 V", "the mark was put on each: {bank}");
    // They lie on the tray, each by itself.
    let t = s.whole(&format!("/api/tickets/{ticket}")).await.1;
    assert_eq!(part(&t, "R23")["position"], "balancing");
    assert_eq!(part(&t, "C14")["marked"]["text"], "100 µF");
    let read = |n: usize| if n == 3 { "84u" } else { "100u" };
    for n in 1..=6 {
        let (c, r) = (format!("C1{n}"), format!("R2{n}"));
        measure(&s, &[(part(&t, &c), read(n)), (part(&t, &r), "68k")]).await;
    }
    let bank = banks(&s, &t).await["banks"][0].clone();
    let third = &bank["places"][2];
    assert_eq!(
        (third["volts"]["text"].as_str(), third["charging"]["text"].as_str()),
        (Some("400 V"), Some("462 V"))
    );
    assert!(texts(&bank).contains("C13 gets 462 V, and stands 450 V, as it charges"), "{bank}");
    assert!(bank["cautions"][0].as_str().unwrap().contains("can kill"), "{bank}");
    // All of it goes with one press; sent twice it is decided once.
    let go = json!({"key": Uuid::new_v4(), "version": bank["version"]});
    let at = format!("/api/banks/{id}/go");
    for _ in 0..2 {
        let (status, b) = s.post(&at, go.clone()).await;
        assert_eq!((status, b["banks"][0]["left"].as_u64()), (201, Some(0)), "{b}");
    }
    let c12 = s.get(&format!("/api/parts/{}", part(&t, "C12")["id"].as_str().unwrap())).await.1;
    assert_eq!(
        (c12["decision"]["decided"].as_str(), c12["decision"]["why"].as_str()),
        (Some("replace"), Some("all of HT bank goes together"))
    );
    let (status, e) = s.post(&at, json!({"key": Uuid::new_v4(), "version": bank["version"]})).await;
    assert_eq!((status, e["detail"].as_str().unwrap().contains("go already")), (422, true), "{e}");
    // What goes in needs the volts of its share, and all of them are one stage.
    let stage = s.get(&format!("/api/parts/{}/stage", part(&t, "C12")["id"].as_str().unwrap())).await.1;
    assert_eq!(stage["places"].as_array().unwrap().len(), 6, "{stage}");
    let (status, doc) = s.get(&format!("/api/tickets/{ticket}/record.json")).await;
    assert_eq!(
        (status, doc["banks"].as_array().unwrap().len(), doc["bank_members"].as_array().unwrap().len()),
        (200, 1, 6)
    );
    let there = Server::empty().await;
    assert_eq!(there.post("/api/tickets/import", doc.clone()).await.0, 201);
    assert_eq!(banks(&there, &t).await["banks"][0]["numbers"], bank["numbers"]);
    // A member of another ticket's tray is no member.
    let mut foreign = doc;
    foreign["bank_members"][0]["part_id"] = json!(Uuid::new_v4());
    assert_eq!(Server::empty().await.post("/api/tickets/import", foreign).await.0, 422);
    // Without the bank they are parts like any.
    assert_eq!(s.delete(&format!("/api/banks/{id}")).await, 200);
    assert_eq!(banks(&s, &t).await["banks"], json!([]));
    assert_eq!(
        s.get(&format!("/api/parts/{}/stage", part(&t, "C12")["id"].as_str().unwrap())).await.1["places"]
            .as_array()
            .unwrap()
            .len(),
        1
    );
}

/// A bridge of kilovolts: each leg is a string of three, named in one breath, and stands its own volts.
#[tokio::test]
async fn the_legs_of_a_bridge_are_put_together_in_one_go() {
    let s = Server::empty().await;
    let t = s.ticket(&["C9 10u 63V"]).await;
    let put = format!("/api/tickets/{}/banks", t["id"].as_str().unwrap());
    let told = |members: &str, legs: u8, kind: &str| {
        json!({"id": Uuid::new_v4(), "version": null, "name": "bridge", "kind": kind, "volts": "2.4k",
               "members": members, "across": "", "marking": "1N4007", "legs": legs})
    };
    for (body, field, words) in [
        (told("D1-D10", 4, "diode string"), "members", "10 of them do not make 4 equal legs"),
        (told("D1-D14", 7, "diode string"), "legs", "two, four or six"),
        (told("D1-D9", 3, "diode string"), "legs", "two, four or six"),
        (told("C1-C4", 2, "capacitor bank"), "legs", "made of diodes"),
    ] {
        let (status, e) = s.put(&put, body).await;
        assert_eq!((status, e["field"].as_str()), (422, Some(field)), "{e}");
        assert!(e["detail"].as_str().unwrap().contains(words), "{e}");
    }
    let (status, b) = s.put(&put, told("D1-D12", 4, "diode string")).await;
    assert_eq!(status, 200, "{b}");
    let of = |key: &str| -> Vec<String> {
        b["banks"].as_array().unwrap().iter().map(|x| x[key].as_str().unwrap().to_owned()).collect()
    };
    assert_eq!(of("members"), ["D1-D3", "D4-D6", "D7-D9", "D10-D12"]);
    assert_eq!(of("name"), ["bridge, leg 1", "bridge, leg 2", "bridge, leg 3", "bridge, leg 4"]);
    assert_eq!(s.whole(put.trim_end_matches("/banks")).await.1["parts"].as_array().unwrap().len(), 13);
}

#[tokio::test]
async fn what_is_no_bank_is_refused_beside_its_field() {
    let s = Server::empty().await;
    let t = s.ticket(&["C1 10u 450V", "R1 68k 1W"]).await;
    let put = format!("/api/tickets/{}/banks", t["id"].as_str().unwrap());
    let id = || Uuid::new_v4().to_string();
    let cases: [(Value, &str, &str); 9] = [
        (body(&id(), "capacitor bank", "C1-C4", "R1-R3"), "across", "3 resistors for 4 members"),
        (body(&id(), "capacitor bank", "C1", ""), "members", "1 of them: a bank has 2 to 40"),
        (body(&id(), "capacitor bank", "C1 R2", ""), "members", "R2 is no capacitor"),
        (body(&id(), "diode string", "the diodes", ""), "members", "'THE' is no name of a part"),
        (body(&id(), "capacitor bank", "C1 C2 C1", ""), "members", "C1 stands there twice"),
        (
            json!({"id": id(), "name": " ", "kind": "diode string", "volts": "1k", "members": "D1-D3"}),
            "name",
            "say which",
        ),
        (
            json!({"id": id(), "name": "a", "kind": "diode string", "volts": "", "members": "D1-D3"}),
            "volts",
            "wrong way",
        ),
        (
            json!({"id": id(), "name": "a", "kind": "diode string", "volts": "-4", "members": "D1-D3"}),
            "volts",
            "above zero",
        ),
        (
            json!({"id": id(), "name": "a", "kind": "capacitor bank", "volts": "1k", "members": "C5-C8", "marking": "full of wax"}),
            "marking",
            "wax",
        ),
    ];
    for (body, field, words) in cases {
        let (status, e) = s.put(&put, body.clone()).await;
        let said = e["detail"].as_str().unwrap_or_default().to_lowercase();
        assert_eq!((status, e["field"].as_str()), (422, Some(field)), "{body}: {e}");
        assert!(said.contains(&words.to_lowercase()), "{body}: {e}");
    }
    let whole = s.whole(&format!("/api/tickets/{}", t["id"].as_str().unwrap())).await.1;
    assert_eq!(whole["parts"].as_array().unwrap().len(), 2, "what was refused put nothing on the tray");
    // A part is in one bank; a second writer is told.
    let first = id();
    let (status, b) = s.put(&put, body(&first, "capacitor bank", "C1-C3", "")).await;
    assert_eq!(status, 200, "{b}");
    let (status, e) = s
        .put(
            &put,
            json!({"id": id(), "name": "b", "kind": "capacitor bank", "volts": "1k", "members": "C3 C4"}),
        )
        .await;
    assert_eq!((status, e["detail"].as_str()), (422, Some("C3 is in HT bank already")));
    let (status, e) = s.put(&put, body(&id(), "capacitor bank", "C7 C8", "")).await;
    assert_eq!((status, e["field"].as_str()), (422, Some("name")), "{e}");
    let again = json!({"id": first, "version": 1, "name": "HT", "kind": "capacitor bank", "volts": "1k", "members": "C1-C4"});
    assert_eq!(s.put(&put, again.clone()).await.0, 200);
    assert_eq!(s.put(&put, again).await.0, 409);
    assert_eq!(
        s.post(&format!("/api/banks/{first}/go"), json!({"key": Uuid::new_v4(), "version": 1})).await.0,
        409
    );
    assert_eq!(s.delete(&format!("/api/banks/{}", id())).await, 404);
}

#[tokio::test]
async fn a_leg_of_diodes_takes_its_volts_from_the_winding() {
    let s = Server::empty().await;
    let t = s.ticket(&["D1 1N4007", "D2 1N4007"]).await;
    let at = format!("/api/tickets/{}", t["id"].as_str().unwrap());
    let set = json!({"rectifier": "full-wave", "facts": {"secondary": "600"}});
    let (status, e) = s.patch(&at, json!({"version": t["version"], "set": set})).await;
    assert_eq!(status, 200, "{e}");
    let kinds = banks(&s, &t).await["kinds"].clone();
    let of = |kind: &str| {
        kinds.as_array().unwrap().iter().find(|k| k["kind"] == kind).unwrap()["volts"]["value"].as_f64()
    };
    assert!(of("capacitor bank").is_some_and(|v| v > 850.0) && of("resistor string").is_none(), "{kinds}");
    assert_eq!(of("diode string"), of("capacitor bank").map(|v| 2.0 * v));
    let body = json!({"id": Uuid::new_v4(), "name": "upper leg", "kind": "diode string", "volts": "1.9k", "members": "D1-D3", "marking": "1N4007"});
    let (status, b) = s.put(&format!("{at}/banks"), body).await;
    assert_eq!(status, 200, "{b}");
    let bank = &b["banks"][0];
    assert!(texts(bank).contains("nothing lies across D1-D3"), "{bank}");
    assert_eq!(
        (bank["places"][2]["rated"]["text"].as_str(), bank["proposed"].as_str()),
        (Some("1 kV"), Some("470 kΩ of 2 W across each"))
    );
    assert_eq!(bank["numbers"][0], json!({"name": "stands", "text": "2.81 kV"}), "{bank}");
}
