//! Parts that are no resistors on the tray, and the question that disagreeing values raise.

use serde_json::{Value, json};
use uuid::Uuid;

use crate::support::{Server, part};

fn id(v: &Value) -> &str {
    v["id"].as_str().unwrap()
}

#[tokio::test]
async fn a_reading_of_the_reader_starts_a_part_of_its_kind() {
    let s = Server::empty().await;
    let t = s.ticket(&["R1 150 5%"]).await;
    let parts = format!("/api/tickets/{}/parts", id(&t));
    let dots =
        json!({"colours": ["white", "orange", "orange", "brown", "green", "red"], "scheme": "mica-six-dot"});
    let (status, p) = s.post(&parts, json!({"name": "c7", "mark": {"question": dots, "reading": 0}})).await;
    assert_eq!(
        (status, p["kind"].as_str(), p["family"].as_str()),
        (201, Some("capacitor"), Some("mica")),
        "{p}"
    );
    assert!((p["marked"]["value"].as_f64().unwrap() - 330e-12).abs() < 1e-20);
    assert_eq!(p["mark"]["temperature"], Value::Null);
    assert!(p["mark"]["notes"][0].as_str().unwrap().contains("characteristic C"), "{}", p["mark"]);
    assert_eq!(
        (p["steps"].clone(), p["step"].as_str()),
        (json!(["read", "measure", "judge", "fit", "prove"]), Some("judge"))
    );
    assert_eq!(p["judgement"]["verdict"], "keep", "mica is left alone without evidence");
    // The wrong letter, the wrong kind, a link.
    let digits = |text: &str, name: &str| json!({"name": name, "mark": {"question": {"text": text}}});
    for (body, words) in [
        (digits("153K 400V", "R9"), "that is the marking of a capacitor; R9 is a resistor"),
        (digits("000", "R9"), "link"),
        (json!({"name": "C9", "mark": {"question": {"text": "153K"}, "reading": 40}}), "no such reading"),
        (json!({"name": "C9", "family": "wirewound"}), "no family of a capacitor"),
        (json!({"name": "C9", "marking": "brown"}), "colour"),
    ] {
        let (status, problem) = s.post(&parts, body.clone()).await;
        assert_eq!(status, 422, "{body}: {problem}");
        assert!(problem["detail"].as_str().unwrap().contains(words), "{body}: {problem}");
    }
}

#[tokio::test]
async fn other_parts_are_said_changed_and_measured() {
    let s = Server::empty().await;
    let t = s
        .ticket(&[
            "C2 .01 MFD 600 WVDC",
            "C16 32+32/350",
            "L1 red violet brown silver",
            "D3 1N60",
            "PL1 #46",
            "C2 sheet .01",
        ])
        .await;
    let words = |name: &str| part(&t, name)["in_words"].as_str().unwrap().to_owned();
    assert_eq!(words("C2"), "10 nF · 600 V DC");
    assert_eq!(words("C16"), "32 µF + 32 µF · 350 V · electrolytic");
    assert_eq!(words("L1"), "270 µH ±10 %");
    assert_eq!(words("D3"), "1N60");
    assert_eq!(words("PL1"), "6.3 V · 250 mA");
    assert_eq!(part(&t, "C2")["sheet"]["text"], "10 nF");
    let c2 = part(&t, "C2");
    let path = format!("/api/parts/{}", id(c2));
    let reading = json!({"key": Uuid::new_v4(), "typed": "0.012u", "state": "lifted", "hot": false});
    let (status, p) = s.post(&format!("{path}/readings"), reading).await;
    assert_eq!((status, p["measured"]["measured"]["text"].as_str()), (201, Some("12 nF")), "{p}");
    assert_eq!(p["judgement"]["verdict"], "measure again", "a volt says nothing of a 600 V part");
    assert_eq!(part(&t, "PL1")["steps"], json!(["read", "fit", "prove"]), "a lamp lights or not");
    let lamp = format!("/api/parts/{}/readings", id(part(&t, "PL1")));
    let reading = json!({"key": Uuid::new_v4(), "typed": "25", "state": "lifted"});
    let (status, problem) = s.post(&lamp, reading).await;
    assert_eq!((status, problem["field"].as_str()), (422, Some("typed")), "{problem}");
    let fit = json!({"key": Uuid::new_v4(), "version": p["version"], "description": "film", "value": "10k",
        "tolerance": "5%", "family": "metal film", "measured": "10k"});
    assert_eq!(s.post(&format!("{path}/fittings"), fit).await.0, 422);
    let change =
        json!({"version": p["version"], "family": "wax paper", "sheet": ".02", "position": "cathode"});
    let (status, problem) = s.patch(&path, change).await;
    assert_eq!((status, problem["field"].as_str()), (422, Some("position")), "{problem}");
    let change =
        json!({"version": p["version"], "family": "wax paper", "sheet": ".012", "position": "coupling"});
    let (status, p) = s.patch(&path, change).await;
    assert_eq!(
        (status, p["family"].as_str(), p["sheet"]["text"].as_str()),
        (200, Some("wax paper"), Some("12 nF")),
        "{p}"
    );
    // A lamp is not waited for on the shelf; a can, a coil and a diode are.
    assert_eq!(s.get("/api/tickets").await.1[0]["left"], "1 to decide");
}

#[tokio::test]
async fn the_database_refuses_a_part_that_cannot_be() {
    let s = Server::empty().await;
    let t = s.ticket(&["R1 150 5%", "C2 .01 MFD 600 WVDC"]).await;
    for change in [
        "update part set kind = 'capacitor' where name = 'R1'",
        "update part set family = 'mica' where name = 'R1'",
        "update part set family = null where name = 'R1'",
        "update part set family = 'wirewound' where name = 'C2'",
        "update part set position = 'cathode' where name = 'C2'",
        "update part set marked = 0 where name = 'C2'",
    ] {
        assert!(sqlx::query(change).execute(&s.pool).await.is_err(), "{change}");
    }
    assert!(t["id"].is_string());
}

#[tokio::test]
async fn a_disagreement_stays_until_it_is_answered_and_comes_back_when_a_value_changes() {
    let s = Server::empty().await;
    let t = s.ticket(&["R8 brown red yellow silver", "R8 sheet 12k"]).await;
    let r8 = part(&t, "R8");
    let path = format!("/api/parts/{}", id(r8));
    let asked = &r8["disagreement"];
    assert_eq!(asked["between"], "sheet and mark");
    assert!(
        asked["question"].as_str().unwrap().contains("Marked 120 kΩ, 10 times the sheet (12 kΩ)"),
        "{asked}"
    );
    let answer =
        |answer: &str, version: &Value| json!({"key": Uuid::new_v4(), "version": version, "answer": answer});
    let (status, problem) =
        s.post(&format!("{path}/explanations"), answer("the part has failed", &r8["version"])).await;
    assert_eq!((status, problem["field"].as_str()), (422, Some("answer")), "{problem}");
    let mut given = answer("a wrong part was fitted before", &r8["version"]);
    given["note"] = json!("solder is newer than the rest");
    let (status, p) = s.post(&format!("{path}/explanations"), given.clone()).await;
    assert_eq!((status, p["disagreement"].is_null()), (201, true), "{p}");
    assert_eq!(p["explanations"][0]["answer"], "a wrong part was fitted before");
    assert_eq!(p["explanations"][0]["note"], "solder is newer than the rest");
    // Sent again because the answer was lost: once is enough.
    assert_eq!(
        s.post(&format!("{path}/explanations"), given).await.1["explanations"].as_array().unwrap().len(),
        1
    );
    let (_, p) = s.patch(&path, json!({"version": p["version"], "sheet": "1.2k"})).await;
    assert!(p["disagreement"]["question"].as_str().unwrap().contains("100 times the sheet"), "{p}");
    let (_, p) = s.patch(&path, json!({"version": p["version"], "sheet": "120k"})).await;
    assert!(p["disagreement"].is_null());
    let late = answer("the sheet is misprinted", &p["version"]);
    assert_eq!(s.post(&format!("{path}/explanations"), late).await.0, 422, "there is nothing to answer");
    // The meter against the mark; low in circuit proves nothing.
    let t_path = id(&t).to_owned();
    let after = async |sentence: &str| {
        assert_eq!(s.say(&t_path, sentence).await.0, 200);
        let (_, now) = s.whole(&format!("/api/tickets/{t_path}")).await;
        part(&now, "R8")["disagreement"].clone()
    };
    assert!(after("R8 = 31k").await.is_null());
    let d = after("R8 = 31k lifted").await;
    assert_eq!(d["between"], "mark and meter");
    assert_eq!(d["answers"][0], "the part has failed");
    // History is only ever added to.
    for change in ["update explanation set note = 'x'", "delete from explanation"] {
        assert!(sqlx::query(change).execute(&s.pool).await.is_err(), "{change}");
    }
}
