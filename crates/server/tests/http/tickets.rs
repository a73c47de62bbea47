//! Tickets, parts, readings, decisions, fittings: the story over HTTP, twice sent, too late, wrong.

use serde_json::{Value, json};
use uuid::Uuid;

use crate::support::{Server, part};

fn id(v: &Value) -> String {
    v["id"].as_str().unwrap().to_owned()
}

#[tokio::test]
async fn the_story_of_a_part_from_marking_to_proof() {
    let s = Server::empty().await;
    let t = s
        .ticket(&["R31 orange orange orange silver", "R31 sheet 33k", "R31 1W screen feed", "R31 = 41.5k"])
        .await;
    let p = part(&t, "R31");
    assert_eq!((p["marked"]["value"].as_f64(), p["sheet"]["text"].as_str()), (Some(33e3), Some("33 kΩ")));
    assert_eq!(p["bands"], json!(["orange", "orange", "orange", "silver"]));
    assert_eq!((p["judgement"]["verdict"].as_str(), p["step"].as_str()), (Some("replace"), Some("judge")));

    let decide = json!({"key": Uuid::new_v4(), "version": p["version"], "decided": "replace"});
    let (status, p) = s.post(&format!("/api/parts/{}/decisions", id(p)), decide).await;
    assert_eq!((status, p["step"].as_str()), (201, Some("fit")), "{p}");
    assert_eq!(p["decision"]["reasons"][0]["rule"], "R2");

    let fit = json!({"key": Uuid::new_v4(), "version": p["version"], "description": "2 W metal film, 33 kΩ", "value": "33k",
        "tolerance": "5%", "watts": "2W", "family": "metal film", "measured": "32.8k"});
    let (status, p) = s.post(&format!("/api/parts/{}/fittings", id(&p)), fit).await;
    assert_eq!(
        (status, p["status"].as_str(), p["step"].as_str()),
        (201, Some("fitted"), Some("prove")),
        "{p}"
    );
    assert_eq!(p["judgement"]["verdict"], "keep", "what is judged now is the new part");
    assert!(p["readings"][0]["before_fitting"].as_bool().unwrap());

    let proof = json!({"key": Uuid::new_v4(), "outcome": "better", "seen": "plays, cool after an hour"});
    let path = format!("/api/fittings/{}/proof", id(&p["fittings"][0]));
    let (status, p) = s.post(&path, proof.clone()).await;
    assert_eq!((status, p["status"].as_str()), (201, Some("proven")), "{p}");
    assert_eq!(s.post(&path, proof).await.0, 201, "sent again after a lost answer");
    let other = json!({"key": Uuid::new_v4(), "outcome": "as before", "seen": "no"});
    assert_eq!(s.post(&path, other).await.0, 409);
    let (_, shelf) = s.get("/api/tickets").await;
    assert_eq!(shelf[0]["left"], "all done");
}

#[tokio::test]
async fn the_shelf_says_what_is_left() {
    let s = Server::empty().await;
    let t = s.ticket(&["R9 12k 10%"]).await;
    let left = async || s.get("/api/tickets").await.1[0]["left"].as_str().unwrap().to_owned();
    assert_eq!(left().await, "1 to measure");
    s.say(&id(&t), "R9 = 15k lifted").await;
    assert_eq!(left().await, "1 to decide");
    let path = format!("/api/parts/{}", id(part(&t, "R9")));
    let now = async || s.get(&path).await.1;
    let replace = async || {
        let body = json!({"key": Uuid::new_v4(), "version": now().await["version"], "decided": "replace"});
        assert_eq!(s.post(&format!("{path}/decisions"), body).await.0, 201);
    };
    replace().await;
    assert_eq!(left().await, "1 to fit");
    s.say(&id(&t), "R9 = 15.1k").await;
    assert_eq!(left().await, "1 to decide", "measured since: the decision no longer stands");
    replace().await;
    let p = now().await;
    assert_eq!(p["deciding"]["measured"]["value"], 15.1e3);
    let fit = json!({"key": Uuid::new_v4(), "version": p["version"], "description": "1 W metal film, 12 kΩ",
        "value": "12k", "tolerance": "5%", "family": "metal film", "measured": "12.1k"});
    let (_, p) = s.post(&format!("{path}/fittings"), fit).await;
    assert_eq!(left().await, "1 to prove");
    let proof = json!({"key": Uuid::new_v4(), "outcome": "as before", "seen": "still hums"});
    let (_, p) = s.post(&format!("/api/fittings/{}/proof", id(&p["fittings"][0])), proof).await;
    assert_eq!((p["status"].as_str(), left().await.as_str()), (Some("as before"), "1 to prove"));
    // The owner's page does not call it a failure.
    let page = s.text(&format!("/api/tickets/{}/report/owner", id(&t))).await;
    assert!(page.contains("The fault itself lay elsewhere."), "{page}");
    // Proven anew: the sentence itself says how the set is; one that does not is asked.
    let path = format!("/api/fittings/{}/proof", id(&p["fittings"][0]));
    let say = async |seen: &str| s.post(&path, json!({"key": Uuid::new_v4(), "seen": seen})).await;
    let (status, why) = say("240 V at pin 6").await;
    assert_eq!((status, why["field"].as_str()), (422, Some("outcome")), "{why}");
    let (_, p) = say("smokes").await;
    assert_eq!((p["status"].as_str(), left().await.as_str()), (Some("worse"), "1 to measure"));
    let (_, p) = say("plays, hum gone, 255 V at pin 6").await;
    assert_eq!((p["status"].as_str(), left().await.as_str()), (Some("proven"), "all done"));
    let earlier = json!(["as before: still hums", "worse: smokes"]);
    assert_eq!(p["fittings"][0]["proof"]["earlier"], earlier);
    assert_eq!(say("still plays, better").await.0, 409, "it works: what goes in now is another change");
}

#[tokio::test]
async fn a_sentence_sent_twice_is_taken_once() {
    let s = Server::empty().await;
    let t = s.ticket(&[]).await;
    let path = format!("/api/tickets/{}/say", id(&t));
    let both = json!({"text": "R5 270 10% cathode = 281 lifted", "key": Uuid::new_v4()});
    for _ in 0..3 {
        assert_eq!(s.post(&path, both.clone()).await.0, 200);
    }
    let reading = json!({"text": "R5 = 283", "key": Uuid::new_v4()});
    for _ in 0..3 {
        assert_eq!(s.post(&path, reading.clone()).await.0, 200);
    }
    let (_, now) = s.whole(&format!("/api/tickets/{}", id(&t))).await;
    assert_eq!(now["parts"].as_array().unwrap().len(), 1);
    assert_eq!(part(&now, "R5")["readings"].as_array().unwrap().len(), 2);
    assert_eq!(part(&now, "R5")["readings"][1]["state"], "lifted", "the state of the reading before");
}

#[tokio::test]
async fn whoever_comes_too_late_is_told_what_changed() {
    let s = Server::empty().await;
    let t = s.ticket(&["R9 12k 10%"]).await;
    let p = part(&t, "R9").clone();
    let path = format!("/api/parts/{}", id(&p));
    let first = json!({"version": p["version"], "sheet": "15k", "note": "dusty"});
    assert_eq!(s.patch(&path, first).await.0, 200);
    s.say(&id(&t), "R9 = 12.3k").await;
    let late = json!({"version": p["version"], "sheet": "12k"});
    let (status, problem) = s.patch(&path, late).await;
    assert_eq!(status, 409, "{problem}");
    let changed = problem["changed"].as_array().unwrap();
    let of = |field: &str| changed.iter().find(|c| c["field"] == field).unwrap();
    assert_eq!(
        (of("sheet")["before"].as_str(), of("sheet")["now"].as_str()),
        (Some("nothing"), Some("15 kΩ"))
    );
    assert_eq!(of("readings")["now"], "1 more");
    let decide = json!({"key": Uuid::new_v4(), "version": p["version"], "decided": "keep"});
    assert_eq!(s.post(&format!("{path}/decisions"), decide).await.0, 409, "a decision on what was not seen");
    let (_, now) = s.get(&path).await;
    assert_eq!(now["sheet"]["text"], "15 kΩ");

    let ticket = format!("/api/tickets/{}", id(&t));
    assert_eq!(s.patch(&ticket, json!({"version": t["version"], "school": "keep original"})).await.0, 200);
    let (status, problem) = s.patch(&ticket, json!({"version": t["version"], "name": "Other"})).await;
    assert_eq!((status, problem["changed"][0]["now"].as_str()), (409, Some("keep original")), "{problem}");
}

#[tokio::test]
async fn history_is_only_ever_added_to() {
    let s = Server::empty().await;
    s.ticket(&["R9 12k 10% = 12.3k lifted"]).await;
    for change in ["update reading set value = 1", "delete from reading"] {
        let refused = sqlx::query(change).execute(&s.pool).await;
        assert!(refused.is_err_and(|e| e.to_string().contains("only ever added to")), "{change}");
    }
    let gone = sqlx::query("delete from ticket").execute(&s.pool).await;
    assert!(gone.is_ok(), "a ticket takes its history with it: {gone:?}");
    s.ticket(&["R9 12k 10%"]).await;
    let refused = sqlx::query("update part set tolerance = 7").execute(&s.pool).await;
    assert!(refused.is_err(), "a tolerance of 700 % cannot be stored");
}

#[tokio::test]
async fn a_decision_otherwise_needs_a_reason() {
    let s = Server::empty().await;
    let t = s.ticket(&["R9 12k 10% = 15k lifted"]).await;
    let p = part(&t, "R9");
    let path = format!("/api/parts/{}/decisions", id(p));
    let mut body = json!({"key": Uuid::new_v4(), "version": p["version"], "decided": "keep"});
    let (status, problem) = s.post(&path, body.clone()).await;
    assert_eq!((status, problem["field"].as_str()), (422, Some("why")));
    body["why"] = json!("owner wants the original look");
    let (status, p) = s.post(&path, body).await;
    assert_eq!(
        (status, p["decision"]["offered"].as_str(), p["decision"]["decided"].as_str()),
        (201, Some("replace"), Some("keep"))
    );
    s.say(&id(&t), "R9 = 15.2k").await;
    let (_, now) = s.get(&format!("/api/parts/{}", id(&p))).await;
    assert_eq!(now["decision"]["stands"], false, "measured since");
}

#[tokio::test]
async fn a_value_far_off_is_asked_about_and_then_taken() {
    let s = Server::empty().await;
    let t = s.ticket(&["R9 12k 10%"]).await;
    let path = format!("/api/tickets/{}/say", id(&t));
    let mut body = json!({"text": "R9 = 12G", "key": Uuid::new_v4()});
    let (status, problem) = s.post(&path, body.clone()).await;
    assert_eq!((status, problem["ask"].as_bool()), (422, Some(true)), "{problem}");
    assert!(problem["detail"].as_str().unwrap().contains("Perhaps 12 kΩ was meant"));
    body["confirmed"] = json!(true);
    assert_eq!(s.post(&path, body).await.0, 200);
}

#[tokio::test]
async fn a_meter_cannot_show_more_than_its_range() {
    let s = Server::demo().await;
    let (_, shelf) = s.get("/api/tickets").await;
    let (_, t) = s.whole(&format!("/api/tickets/{}", shelf[0]["id"].as_str().unwrap())).await;
    let path = format!("/api/parts/{}/readings", id(part(&t, "R17")));
    let (_, w) = s.get("/api/workshop").await;
    let take = |typed: &str| json!({"key": Uuid::new_v4(), "typed": typed, "state": "lifted", "confirmed": true, "instrument": w["meters"][0]["id"]});
    let (status, problem) = s.post(&path, take("70M")).await;
    assert_eq!((status, problem["field"].as_str()), (422, Some("typed")), "{problem}");
    let (status, p) = s.post(&path, take("1.52M")).await;
    assert_eq!(
        (status, p["measured"]["accuracy"].as_str()),
        (201, Some("±9.6 kΩ")),
        "0.5 % and two counts of 1 kΩ"
    );
    for (typed, words) in
        [("", "nothing"), ("-5", "below zero"), ("inf", "not finite"), ("🦉", "🦉"), ("1,5M", "")]
    {
        let (status, problem) = s.post(&path, take(typed)).await;
        if words.is_empty() {
            assert_eq!(status, 201, "a decimal comma is understood");
        } else {
            assert_eq!((status, problem["field"].as_str()), (422, Some("typed")), "{typed}");
            assert!(problem["detail"].as_str().unwrap().contains(words), "{typed}: {problem}");
        }
    }
}

#[tokio::test]
async fn parts_are_changed_by_form_as_well() {
    let s = Server::empty().await;
    let t = s.ticket(&["R1 150 5%", "R2 150 5%"]).await;
    let parts = format!("/api/tickets/{}/parts", id(&t));
    let (status, p) = s.post(&parts, json!({"name": "r3a", "marking": "820RK"})).await;
    assert_eq!(
        (status, p["name"].as_str(), p["marked"]["value"].as_f64()),
        (201, Some("R3A"), Some(820.0)),
        "{p}"
    );
    assert_eq!(s.post(&parts, json!({"name": "R3A"})).await.0, 409);
    for name in ["", "X1", "T7", "I3", "R", "R12345", "R1AB", "🦉"] {
        assert_eq!(s.post(&parts, json!({"name": name})).await.1["field"], "name", "{name}");
    }
    let path = format!("/api/parts/{}", id(part(&t, "R1")));
    let version = |p: &Value| p["version"].clone();
    let change = json!({"version": 1, "mark": {"question": {"colours": ["green", "brown", "brown", "gold"]}, "reading": 0}, "watts": "½W", "position": "emitter", "pair": "R2"});
    // A mark that was known says what it was, and asks.
    let (status, asked) = s.patch(&path, change.clone()).await;
    assert_eq!((status, asked["ask"].as_bool(), asked["field"].as_str()), (422, Some(true), Some("marking")));
    assert!(asked["detail"].as_str().unwrap().contains("R1 was read as 150 Ω"), "{asked}");
    let mut confirmed = change;
    confirmed["confirmed"] = json!(true);
    let (status, p) = s.patch(&path, confirmed).await;
    assert_eq!(
        (status, p["marked"]["value"].as_f64(), p["power"]["value"].as_f64()),
        (200, Some(510.0), Some(0.5)),
        "{p}"
    );
    assert_eq!((p["position"].as_str(), p["pair"]["name"].as_str()), (Some("emitter"), Some("R2")));
    let (_, p) =
        s.patch(&path, json!({"version": version(&p), "position": null, "pair": "", "marking": ""})).await;
    assert!(p["position"].is_null() && p["pair"].is_null() && p["marked"].is_null(), "{p}");
    for (field, value) in [("sheet", "-4"), ("watts", "lots"), ("marking", "gold gold gold"), ("pair", "R77")]
    {
        let (status, problem) = s.patch(&path, json!({"version": version(&p), field: value})).await;
        assert_eq!((status, problem["field"].as_str()), (422, Some(field)), "{problem}");
    }
}

#[tokio::test]
async fn tickets_are_checked() {
    let s = Server::empty().await;
    let new = |name: &str, school: &str, tight: bool| json!({"name": name, "source": "battery", "devices": "valves", "school": school, "tight": tight});
    for (body, field) in [
        (new("  ", "test first", false), "name"),
        (new(&"x".repeat(81), "test first", false), "name"),
        (new("Set", "keep original", true), "tight"),
        (new("Set", "none", false), "school"),
    ] {
        assert_eq!(s.post("/api/tickets", body).await.1["field"], field);
    }
    let mut twice = new("Set\u{0} with a zero", "test first", true);
    twice["id"] = json!(Uuid::new_v4());
    assert_eq!(s.post("/api/tickets", twice.clone()).await.0, 201);
    assert_eq!(s.post("/api/tickets", twice).await.0, 201);
    assert_eq!(s.get("/api/tickets").await.1.as_array().unwrap().len(), 1);
}

#[tokio::test]
async fn the_owl_line_is_understood_while_it_is_typed() {
    let s = Server::empty().await;
    let t = s.ticket(&["R4 47 5%"]).await;
    let path = format!("/api/tickets/{}/understand", id(&t));
    let (_, a) = s.post(&path, json!({"text": "R4 = 46.8 lifted"})).await;
    assert_eq!((a["part"].as_str(), a["in_words"].as_str()), (Some("R4"), Some("measures 46.8 Ω, lifted")));
    assert_eq!(a["part_id"], part(&t, "R4")["id"]);
    let (status, a) = s.post(&path, json!({"text": "R4 = what"})).await;
    assert_eq!((status, a["in_words"].is_null()), (200, true));
    assert!(a["problem"].as_str().unwrap().contains("what"));
    let (_, a) = s.post(&path, json!({"text": "= 4.7G", "selected": part(&t, "R4")["id"]})).await;
    assert!(a["question"].as_str().unwrap().contains("times above"));
    let (_, now) = s.whole(&format!("/api/tickets/{}", id(&t))).await;
    assert_eq!(part(&now, "R4")["readings"], json!([]), "understanding takes nothing");
}
