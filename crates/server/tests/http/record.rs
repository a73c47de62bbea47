//! The record: out and in again loss-free, hostile documents refused in words and changing nothing, reports, lists, soak.

use serde_json::{Value, json};
use uuid::Uuid;

use crate::support::{Server, part};

async fn export(s: &Server, id: &str) -> Value {
    let (status, doc) = s.get(&format!("/api/tickets/{id}/record.json")).await;
    assert_eq!(status, 200, "{doc}");
    doc
}

async fn demo_ticket(s: &Server, name: &str) -> String {
    let (_, all) = s.get("/api/tickets").await;
    let found = all.as_array().unwrap().iter().find(|t| t["name"] == name).unwrap();
    found["id"].as_str().unwrap().to_owned()
}

/// What is this workshop's alone is let go elsewhere: its instruments, its drawers, its copies of schools.
fn elsewhere(mut doc: Value) -> Value {
    for r in doc["readings"].as_array_mut().unwrap() {
        r["instrument_id"] = Value::Null;
    }
    for p in doc["fitting_pieces"].as_array_mut().unwrap() {
        p["lot_id"] = Value::Null;
    }
    doc["ticket"]["policy_id"] = Value::Null;
    doc
}

#[tokio::test]
async fn every_demo_ticket_goes_out_and_comes_in_elsewhere_loss_free() {
    let (here, there) = (Server::demo().await, Server::empty().await);
    let (_, all) = here.get("/api/tickets").await;
    for t in all.as_array().unwrap() {
        let id = t["id"].as_str().unwrap();
        let doc = export(&here, id).await;
        assert_eq!((&doc["format"], &doc["version"]), (&json!("restless-owl ticket"), &json!(9)));
        let (status, taken) = there.post("/api/tickets/import", doc.clone()).await;
        assert_eq!((status, &taken["name"]), (201, &t["name"]), "{taken}");
        assert_eq!(export(&there, id).await, elsewhere(doc.clone()), "{}", t["name"]);
        // What the screens show is the same as well.
        let (a, b) = (
            here.whole(&format!("/api/tickets/{id}")).await.1,
            there.whole(&format!("/api/tickets/{id}")).await.1,
        );
        let verdicts = |v: &Value| -> Vec<Value> {
            v["parts"].as_array().unwrap().iter().map(|p| p["judgement"]["verdict"].clone()).collect()
        };
        assert_eq!(verdicts(&a), verdicts(&b));
        let chart = format!("/api/tickets/{id}/chart");
        assert_eq!(here.get(&chart).await.1, there.get(&chart).await.1);
        let again = there.post("/api/tickets/import", doc).await;
        assert_eq!(again.0, 409, "{}", again.1);
    }
}

/// A record of version 1 says yes or no of a safety class, and nothing of what is to be done.
#[tokio::test]
async fn a_record_of_the_first_version_comes_in() {
    let (here, there) = (Server::demo().await, Server::empty().await);
    let mut old = export(&here, &demo_ticket(&here, "Tidewright Heron 7").await).await;
    let (now, id) = (old.clone(), old["ticket"]["id"].as_str().unwrap().to_owned());
    old["version"] = json!(1);
    for p in old["parts"].as_array_mut().unwrap() {
        p.as_object_mut().unwrap().remove("to_do");
    }
    for f in old["fittings"].as_array_mut().unwrap() {
        f["safety"] = json!(false);
    }
    for p in old["proofs"].as_array_mut().unwrap() {
        let outcome = p.as_object_mut().unwrap().remove("outcome");
        p["worked"] = json!(outcome == Some(json!("better")));
    }
    assert_eq!(there.post("/api/tickets/import", old).await.0, 201);
    assert_eq!(export(&there, &id).await["proofs"], now["proofs"], "what worked made it better");
    assert_eq!(export(&there, &id).await["parts"], now["parts"], "what is to be done is worked out anew");
    // What reforms stays where it stands: elsewhere the ticket waits for what it would wait for without that.
    let left = async |s: &Server| s.get("/api/tickets").await.1[0]["left"].clone();
    assert_eq!((left(&here).await, left(&there).await), (json!("reforming"), json!("1 to fit")));
}

#[tokio::test]
async fn a_hostile_document_is_refused_in_words_and_changes_nothing() {
    let (here, there) = (Server::demo().await, Server::empty().await);
    let victim = there.ticket(&["R1 1k 10% ½W cathode"]).await;
    let before = there.get("/api/tickets").await.1;
    let good = export(&here, &demo_ticket(&here, "Tidewright Heron 7").await).await;
    let with = |change: &dyn Fn(&mut Value)| {
        let mut doc = good.clone();
        change(&mut doc);
        doc
    };
    let stranger = victim["parts"][0]["id"].clone();
    let cases: Vec<(Value, &str)> = vec![
        (json!({}), "its format"),
        (json!([1, 2]), "no record of a ticket"),
        (with(&|d| d["format"] = json!("something else")), "its format"),
        (with(&|d| d["version"] = json!(10)), "version 10"),
        (with(&|d| d["version"] = json!("1")), "does not say its version"),
        (
            with(&|d| {
                d.as_object_mut().unwrap().remove("readings");
            }),
            "'readings' is missing",
        ),
        (with(&|d| d["parts"] = json!({"a": 1})), "'parts' is missing"),
        (with(&|d| d["proofs"] = json!([3])), "'proofs' is missing"),
        (
            with(&|d| {
                d.as_object_mut().unwrap().remove("ticket");
            }),
            "no ticket",
        ),
        (
            with(&|d| {
                d["ticket"].as_object_mut().unwrap().remove("name");
            }),
            "name",
        ),
        (with(&|d| d["ticket"]["source"] = json!("haunted")), "source"),
        (with(&|d| d["ticket"]["line_volts"] = json!("lots")), "does not hold together"),
        (
            with(&|d| {
                d["parts"][0].as_object_mut().unwrap().remove("kind");
            }),
            "kind",
        ),
        (with(&|d| d["readings"][0]["part_id"] = stranger.clone()), "readings: part_id refers to something"),
        (
            with(&|d| d["parts"][0]["ticket_id"] = victim["id"].clone()),
            "parts: ticket_id refers to something",
        ),
        (with(&|d| d["changes"][0]["undoes"] = json!(Uuid::new_v4())), "changes: undoes refers to something"),
        (with(&|d| d["readings"][0]["value"] = json!(-5)), "does not hold together"),
        (with(&|d| d["parts"][0]["facts"] = json!("drop table")), "does not hold together"),
        (with(&|d| d["parts"][0]["family"] = json!("gold leaf")), "family"),
        (with(&|d| d["power_ups"][0]["story"] = json!("explodes")), "explodes"),
    ];
    for (doc, words) in cases {
        let (status, p) = there.post("/api/tickets/import", doc).await;
        assert_eq!((status, p["field"].as_str()), (422, Some("file")), "{words}: {p}");
        assert!(p["detail"].as_str().unwrap().contains(words), "{words}: {p}");
    }
    let huge = format!("{{\"format\":\"{}\"}}", "x".repeat(100 * 1024 * 1024));
    assert_eq!(there.send_text("/api/tickets/import", huge).await.0, 413);
    assert_eq!(there.send_text("/api/tickets/import", "{\"format\":".to_owned()).await.0, 400);
    assert_eq!(there.get("/api/tickets").await.1, before, "nothing was changed");
    assert_eq!(there.post("/api/tickets/import", good).await.0, 201, "and the good one still comes in");
}

#[tokio::test]
async fn scripts_in_text_come_in_as_text_and_stay_text_in_the_reports() {
    let (here, there) = (Server::demo().await, Server::empty().await);
    let id = demo_ticket(&here, "Tidewright Heron 7").await;
    let mut doc = export(&here, &id).await;
    let evil = "<script>alert(1)</script><img src=x onerror=alert(2)>";
    doc["ticket"]["complaint"] = json!(evil);
    doc["parts"][0]["note"] = json!(evil);
    doc["changes"][0]["what"] = json!(evil);
    assert_eq!(there.post("/api/tickets/import", doc).await.0, 201);
    for which in ["owner", "technician"] {
        let (headers, page) = there.page(&format!("/api/tickets/{id}/report/{which}")).await;
        assert!(
            page.contains("&lt;script&gt;") && !page.contains("<script") && !page.contains("<img"),
            "{page}"
        );
        assert!(headers["content-security-policy"].to_str().unwrap().starts_with("default-src 'none'"));
    }
}

#[tokio::test]
async fn the_reports_say_what_was_done_and_the_lists_have_every_row() {
    let s = Server::demo().await;
    let id = demo_ticket(&s, "Tidewright Heron 7").await;
    let (_, owner) = s.page(&format!("/api/tickets/{id}/report/owner")).await;
    assert!(
        owner.contains("What was done, and why")
            && owner.contains("wave switch")
            && owner.contains("connected to the mains")
    );
    let (_, all) = s.page(&format!("/api/tickets/{id}/report/technician")).await;
    for said in
        ["First power", "Voltages", "Feed: screens", "C6 leaking", "R3", "Changes, in their order", "71.4 kΩ"]
    {
        assert!(all.contains(said), "{said}");
    }
    let (_, t) = s.whole(&format!("/api/tickets/{id}")).await;
    let rows = async |list: &str| s.text(&format!("/api/tickets/{id}/{list}.csv")).await.lines().count() - 1;
    assert_eq!(rows("parts").await, t["parts"].as_array().unwrap().len());
    let readings: usize =
        t["parts"].as_array().unwrap().iter().map(|p| p["readings"].as_array().unwrap().len()).sum();
    assert_eq!(rows("readings").await, readings);
    assert_eq!(rows("voltages").await, 10);
}

#[tokio::test]
async fn a_cell_that_would_be_a_formula_is_text() {
    let s = Server::empty().await;
    let t = s.ticket(&["R1 1k 10% ½W cathode"]).await;
    let (part, id) = (t["parts"][0].clone(), t["id"].as_str().unwrap());
    let note = json!({"version": part["version"], "note": "=HYPERLINK(\"x\")"});
    assert_eq!(s.patch(&format!("/api/parts/{}", part["id"].as_str().unwrap()), note).await.0, 200);
    let csv = s.text(&format!("/api/tickets/{id}/parts.csv")).await;
    assert!(csv.contains("'=HYPERLINK"), "{csv}");
}

#[tokio::test]
async fn a_soak_is_looked_at_and_a_ticket_is_closed_when_nothing_is_left() {
    let s = Server::empty().await;
    let t = s.ticket(&["R1 1k 10% ½W cathode"]).await;
    let id = t["id"].as_str().unwrap();
    let path = format!("/api/tickets/{id}/closing");
    let soak =
        |planned: &str, every: &str| json!({"key": Uuid::new_v4(), "planned": planned, "every": every});
    for (body, field) in
        [(soak("", "5"), "planned"), (soak("2 h", "1 s"), "every"), (soak("a while", "5"), "planned")]
    {
        let (status, p) = s.post(&format!("/api/tickets/{id}/soaks"), body).await;
        assert_eq!((status, p["field"].as_str()), (422, Some(field)), "{p}");
    }
    let (status, c) = s.post(&format!("/api/tickets/{id}/soaks"), soak("2 h", "15")).await;
    assert_eq!(
        (status, &c["soaks"][0]["planned_s"], &c["soaks"][0]["every_s"]),
        (201, &json!(7200.0), &json!(900.0)),
        "{c}"
    );
    assert_eq!(c["soaks"][0]["due_s"], 900.0);
    let look = format!("/api/soaks/{}/checks", c["soaks"][0]["id"].as_str().unwrap());
    let (status, c) =
        s.post(&look, json!({"key": Uuid::new_v4(), "well": true, "seen": "hand-warm, quiet"})).await;
    assert_eq!((status, &c["soaks"][0]["checks"][0]["seen"]), (201, &json!("hand-warm, quiet")));
    assert_eq!(
        s.post(&look, json!({"key": Uuid::new_v4(), "well": true, "seen": " "})).await.1["field"],
        "seen"
    );
    let close = |confirmed: bool| json!({"closed": true, "words": "listen for hum", "confirmed": confirmed});
    let (status, asked) = s.put(&path, close(false)).await;
    assert_eq!((status, &asked["ask"]), (422, &json!(true)));
    assert!(asked["detail"].as_str().unwrap().contains("R1: to measure"), "{asked}");
    let (status, c) = s.put(&path, close(true)).await;
    assert!(status == 200 && !c["closed_at"].is_null() && c["words"] == "listen for hum", "{c}");
    let (_, c) = s.put(&path, json!({"closed": false, "words": ""})).await;
    assert!(c["closed_at"].is_null());
}

#[tokio::test]
async fn a_new_part_in_a_tuned_circuit_asks_for_alignment_until_it_was_done() {
    let s = Server::empty().await;
    let t = s.ticket(&["C1 330p silver mica tuned"]).await;
    let (id, p) = (t["id"].as_str().unwrap(), &t["parts"][0]);
    let fit = json!({"key": Uuid::new_v4(), "version": p["version"], "description": "330 pF silver mica", "value": "330p"});
    let (status, p) = s.post(&format!("/api/parts/{}/fittings", p["id"].as_str().unwrap()), fit).await;
    assert_eq!(status, 201, "{p}");
    let closing = format!("/api/tickets/{id}/closing");
    assert!(s.get(&closing).await.1["alignment_due"].as_str().unwrap().contains("C1"));
    let align = json!({"key": Uuid::new_v4(), "kind": "alignment", "what": "first IF on 455 kHz", "over_open": "belongs to it"});
    assert_eq!(s.post(&format!("/api/tickets/{id}/changes"), align).await.0, 201);
    assert!(s.get(&closing).await.1["alignment_due"].is_null());
}

#[tokio::test]
async fn the_plan_puts_together_what_is_done_in_one_sitting() {
    let s = Server::demo().await;
    let id = demo_ticket(&s, "Tidewright Heron 7").await;
    let (status, plan) = s.get(&format!("/api/tickets/{id}/plan")).await;
    assert_eq!(status, 200, "{plan}");
    let kinds: Vec<&str> =
        plan["rounds"].as_array().unwrap().iter().map(|x| x["kind"].as_str().unwrap()).collect();
    assert!(kinds.contains(&"to decide"), "{kinds:?}");
    let names: Vec<&Value> =
        plan["rounds"].as_array().unwrap().iter().flat_map(|x| x["names"].as_array().unwrap()).collect();
    let unique: std::collections::HashSet<&str> = names.iter().map(|n| n.as_str().unwrap()).collect();
    assert_eq!(unique.len(), names.len(), "each part once: {names:?}");
}

#[tokio::test]
async fn a_ticket_is_deleted_for_good_only_when_it_is_confirmed_and_its_record_brings_it_back() {
    let s = Server::empty().await;
    let ticket = s.ticket(&["R3 470k 10% plate load", "R3 = 640k lifted"]).await;
    let path = format!("/api/tickets/{}", ticket["id"].as_str().unwrap());
    let record = s.text(&format!("{path}/record.json")).await;
    let remove = async |confirmed: &str| {
        s.client.delete(format!("{}{path}{confirmed}", s.url)).send().await.unwrap().status().as_u16()
    };
    assert_eq!(remove("").await, 422);
    assert_eq!(s.get(&path).await.0, 200);
    assert_eq!(remove("?confirmed=true").await, 204);
    assert_eq!(s.get(&path).await.0, 404);
    assert_eq!(remove("?confirmed=true").await, 404);
    let (status, taken) = s.send_text("/api/tickets/import", record).await;
    assert_eq!((status, taken["parts"].as_i64()), (201, Some(1)), "{taken}");
    assert_eq!(part(&s.whole(&path).await.1, "R3")["readings"].as_array().unwrap().len(), 1);
}
