//! What is sent twice is taken once, what was sent for something else is refused, and what cannot be kept is said.

use std::io::Write;

use serde_json::{Value, json};
use uuid::Uuid;

use crate::support::{Server, part};

/// A ticket with two measured resistors.
async fn two(s: &Server) -> (String, Value, Value) {
    let parts = ["R3 470k 10% plate load", "R4 1M 10% grid leak", "R3 = 640k lifted", "R4 = 1.31M lifted"];
    let ticket = s.ticket(&parts).await;
    let id = ticket["id"].as_str().unwrap().to_owned();
    (id, part(&ticket, "R3").clone(), part(&ticket, "R4").clone())
}

fn of(part: &Value, what: &str) -> String {
    format!("/api/parts/{}/{what}", part["id"].as_str().unwrap())
}

#[tokio::test]
async fn a_key_that_was_used_for_something_else_is_refused_and_nothing_is_lost_in_silence() {
    let s = Server::empty().await;
    let (ticket, r3, r4) = two(&s).await;
    let key = Uuid::new_v4();
    let decide = |p: &Value| json!({"key": key, "version": p["version"], "decided": "replace"});
    assert_eq!(s.post(&of(&r3, "decisions"), decide(&r3)).await.0, 201);
    assert_eq!(s.post(&of(&r3, "decisions"), decide(&r3)).await.0, 201, "the same again is taken once");
    let (status, said) = s.post(&of(&r4, "decisions"), decide(&r4)).await;
    assert_eq!(status, 409, "{said}");
    let reading =
        |p: &Value| json!({"key": key, "version": p["version"], "typed": "1.3M", "state": "lifted"});
    let (_, now) = s.whole(&format!("/api/tickets/{ticket}")).await;
    assert_eq!(s.post(&of(&r3, "readings"), reading(part(&now, "R3"))).await.0, 201);
    let (status, said) = s.post(&of(&r4, "readings"), reading(part(&now, "R4"))).await;
    assert_eq!(status, 409, "{said}");
    assert_eq!(
        s.post(&format!("/api/tickets/{ticket}/parts"), json!({"id": r3["id"], "name": "R9"})).await.0 / 100,
        2
    );
    // A voiding under a key that is used up.
    let (_, now) = s.whole(&format!("/api/tickets/{ticket}")).await;
    let strike = Uuid::new_v4();
    for (name, wanted) in [("R3", 201), ("R4", 409)] {
        let p = part(&now, name);
        let reading = p["readings"][0]["id"].as_str().unwrap();
        let body = json!({"key": strike, "version": p["version"], "why": "wrong range"});
        let (status, said) = s.post(&format!("/api/readings/{reading}/void"), body).await;
        assert_eq!(status, wanted, "{name}: {said}");
    }
}

#[tokio::test]
async fn what_is_decided_does_not_stand_against_a_newer_reading_whatever_the_clock_says() {
    let s = Server::empty().await;
    let (ticket, r3, _) = two(&s).await;
    let decide = json!({"key": Uuid::new_v4(), "version": r3["version"], "decided": "replace"});
    assert_eq!(s.post(&of(&r3, "decisions"), decide).await.0, 201);
    // The clock was an hour ahead when it was decided again, and has been set right since.
    sqlx::query(
        "insert into decision (id, part_id, offered, decided, why, school, tight, policy, reasons, reading_id, decided_at)
         select gen_random_uuid(), part_id, offered, decided, why, school, tight, policy, reasons, reading_id,
                clock_timestamp() + interval '1 hour' from decision",
    )
    .execute(&s.pool)
    .await
    .unwrap();
    let status = async || {
        let (_, now) = s.whole(&format!("/api/tickets/{ticket}")).await;
        part(&now, "R3")["status"].clone()
    };
    let decided = status().await;
    assert_eq!(s.say(&ticket, "R3 = 480k lifted").await.0, 200);
    assert_ne!(status().await, decided, "the newer reading opens it again");
}

#[tokio::test]
async fn drawers_are_counted_once_and_a_file_asks_before_it_doubles_or_resets() {
    let s = Server::empty().await;
    let csv = "kind,value,count,place\nresistor,330k,12,tin 4\ncapacitor,22n,7,tin 9\n";
    assert_eq!(s.import(csv).await.1["added"], 2);
    let (status, asked) = s.import(csv).await;
    assert_eq!((status, asked["ask"].as_bool()), (422, Some(true)), "{asked}");
    assert!(
        asked["detail"].as_str().unwrap().contains("2 rows without an id to be added once more"),
        "{asked}"
    );
    let (_, lots) = s.get("/api/drawers").await;
    assert_eq!(lots["lots"].as_array().unwrap().len(), 2);
    let id = lots["lots"][0]["id"].as_str().unwrap();
    let key = Uuid::new_v4();
    for _ in 0..3 {
        let (status, lot) = s.post(&format!("/api/drawers/{id}/count"), json!({"key": key, "by": -2})).await;
        assert_eq!((status, lot["count"].as_i64()), (200, Some(10)), "{lot}");
    }
    // What was exported before is old now.
    let export = s.text("/api/drawers/export").await;
    assert_eq!(s.post(&format!("/api/drawers/{id}/count"), json!({"by": 5})).await.1["count"], 15);
    let (status, asked) = s.import(export.clone()).await;
    assert_eq!(status, 422);
    assert!(asked["detail"].as_str().unwrap().contains("10 in the file, 15 in the drawer"), "{asked}");
    let yes = s
        .client
        .post(format!("{}/api/drawers/import?confirmed=true", s.url))
        .body(export)
        .send()
        .await
        .unwrap();
    assert_eq!(yes.status(), 200);
    assert_eq!(s.get("/api/drawers").await.1["lots"][0]["count"], 10);
}

#[tokio::test]
async fn the_last_place_for_a_picture_is_taken_once() {
    let s = Server::empty().await;
    let (ticket, _, _) = two(&s).await;
    let address = |key: Uuid| format!("{}/api/tickets/{ticket}/attachments?key={key}&name=sheet", s.url);
    let mut pdf = b"%PDF-1.7 ".to_vec();
    write!(pdf, "a sheet of the set").unwrap();
    for _ in 0..58 {
        assert_eq!(
            s.client.post(address(Uuid::new_v4())).body(pdf.clone()).send().await.unwrap().status(),
            201
        );
    }
    let sent: Vec<_> = (0..8)
        .map(|_| {
            let request = s.client.post(address(Uuid::new_v4())).body(pdf.clone());
            let s = s.clone();
            tokio::spawn(async move { s.patiently(request).await.status().as_u16() })
        })
        .collect();
    let mut taken = 0;
    for answer in sent {
        taken += usize::from(answer.await.unwrap() == 201);
    }
    assert_eq!(taken, 2, "sixty are kept");
    // A character that no database keeps is said, wherever it stands.
    let got = s.client.post(format!("{}&part=%00", address(Uuid::new_v4()))).body(pdf).send().await.unwrap();
    assert_eq!(got.status(), 422);
}
