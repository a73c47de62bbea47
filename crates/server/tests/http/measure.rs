//! Readings of every kind of part: with which instrument, with which pitfall, voided, and why a part failed.

use serde_json::{Value, json};
use uuid::Uuid;

use crate::support::{Server, part};

fn id(v: &Value) -> &str {
    v["id"].as_str().unwrap()
}

async fn now(s: &Server, ticket: &Value) -> Value {
    s.whole(&format!("/api/tickets/{}", id(ticket))).await.1
}

fn tester() -> Value {
    let way = |name: &str, setting: &str, ceiling: &str| {
        json!({"name": name, "quantity": "leakage_current", "mode": "dc", "setting": setting,
            "automatic": {"percent": "3", "counts": 2, "display": 2000, "finest": "1n", "ceiling": ceiling}})
    };
    json!({"name": "Loft tester", "kind": "leakage tester", "checked_on": "2001-02-03",
        "ways": [way("electrolytic", "electrolytic", "20m"), way("paper", "paper", "200u")]})
}

fn bridge() -> Value {
    let way = |name: &str, quantity: &str, hertz: &str| {
        json!({"name": name, "quantity": quantity, "mode": "ac", "test_frequency": hertz, "test_voltage": "0.5",
            "ranges": [{"up_to": "2000", "percent": "1", "counts": 3, "resolution": "0.1"},
                       {"up_to": "200000", "percent": "2 %", "counts": 5, "resolution": "10"}]})
    };
    json!({"name": "Loft bridge", "kind": "LCR meter", "ways": [way("R 100 Hz", "resistance", "100"), way("R 1 kHz", "resistance", "1k")]})
}

#[tokio::test]
async fn a_sentence_picks_the_instrument_that_belongs() {
    let s = Server::empty().await;
    assert_eq!(s.post("/api/instruments", tester()).await.0, 201);
    let t = s
        .ticket(&[
            "C7 .022 MFD 400V wax paper coupling",
            "C8 16 MFD 450V electrolytic",
            "C7 leak 1.2uA @200 lifted",
            "C8 leak .3mA @400 lifted",
        ])
        .await;
    let read = |name: &str| part(&t, name)["readings"][0].clone();
    assert_eq!((read("C7")["way"].as_str(), read("C7")["setting"].as_str()), (Some("paper"), Some("paper")));
    assert_eq!(read("C8")["way"], "electrolytic");
    assert_eq!(
        (read("C7")["test_voltage"].as_str(), read("C7")["accuracy"].as_str()),
        (Some("200 V"), Some("±38 nA"))
    );
}

/// A value beyond the instrument that stands first is not refused: it is asked with what it was measured, and that is kept.
#[tokio::test]
async fn what_the_first_instrument_cannot_show_is_asked_about() {
    let s = Server::empty().await;
    assert_eq!(s.post("/api/instruments", tester()).await.0, 201);
    let mut old = tester();
    old["name"] = json!("Quay tester");
    old["ways"] = json!([old["ways"][1]]);
    old["ways"][0]["automatic"]["ceiling"] = json!("5m");
    assert_eq!(s.post("/api/instruments", old).await.0, 201);
    let t = s.ticket(&["C7 .022 MFD 400V wax paper"]).await;
    let (ticket, text) = (id(&t), "C7 leak 3mA @200 lifted");
    let (status, asked) = s.say(ticket, text).await;
    assert_eq!((status, asked["ask"].as_bool(), asked["field"].as_str()), (422, Some(true), Some("text")));
    assert_eq!(asked["detail"], "Loft tester: it ends at 200 µA. With what was it measured?");
    // The electrolytic setting reaches it, and is not for paper.
    assert_eq!(asked["choices"], json!(["Quay tester", "Loft tester, another range", "another meter"]));
    let with = async |with: &str, text: &str| {
        let body = json!({"text": text, "key": Uuid::new_v4(), "with": with});
        let (status, said) = s.post(&format!("/api/tickets/{ticket}/say"), body).await;
        assert_eq!(status, 200, "{said}");
        let c7 = part(&now(&s, &t).await, "C7").clone();
        let last = c7["readings"]
            .as_array()
            .unwrap()
            .iter()
            .max_by_key(|r| r["taken_at"].as_str().unwrap().to_owned());
        let of = |f: &str| last.unwrap()[f].as_str().unwrap_or_default().to_owned();
        (of("instrument"), of("accuracy"))
    };
    assert_eq!(with("Quay tester", text).await, ("Quay tester".to_owned(), "±110 µA".to_owned()));
    assert_eq!(
        with("loft tester, paper", text).await,
        ("loft tester, paper".to_owned(), String::new()),
        "its ranges end below"
    );
    assert_eq!(with("moving coil on the 5 mA range", text).await.0, "moving coil on the 5 mA range");
    assert_eq!(with("", "C7 opens at 150 V lifted").await.0, "go/no-go eye");
    let typed = json!({"key": Uuid::new_v4(), "typed": "closed and stays closed at 250 V", "quantity": "leakage_current",
        "state": "lifted"});
    let c7 = part(&now(&s, &t).await, "C7").clone();
    let (status, p) = s.post(&format!("/api/parts/{}/readings", id(&c7)), typed).await;
    assert_eq!((status, p["judgement"]["verdict"].as_str()), (201, Some("replace")), "{p}");
    assert_eq!(p["measured"]["text"], Value::Null);
}

#[tokio::test]
async fn the_traps_are_told_before_the_reading_and_on_it() {
    let s = Server::empty().await;
    let (_, instruments) = s.post("/api/instruments", tester()).await;
    let way = |name: &str| {
        let ways = instruments[0]["ways"].as_array().unwrap();
        ways.iter().find(|w| w["name"] == name).unwrap()["id"].clone()
    };
    let (_, both) = s.post("/api/instruments", bridge()).await;
    let ohms = both[1]["ways"][0]["id"].clone();
    let t = s
        .ticket(&[
            "C7 .022 MFD 400V wax paper coupling",
            "C8 16 MFD 450V electrolytic",
            "L3 field coil sheet 900",
            "L3 sheet 12H",
            "R5 3.3 5%",
        ])
        .await;
    let pitfalls = async |name: &str, body: Value| -> Vec<String> {
        let path = format!("/api/parts/{}/foresee", id(part(&t, name)));
        let (status, a) = s.post(&path, body).await;
        assert_eq!(status, 200, "{a}");
        a["warnings"].as_array().unwrap().iter().map(|w| w["pitfall"].as_str().unwrap().to_owned()).collect()
    };
    let leak = |name: &str, volts: &str| json!({"quantity": "leakage_current", "state": "lifted", "way": way(name), "test_voltage": volts});
    assert_eq!(pitfalls("C7", leak("electrolytic", "400")).await, ["electrolytic setting", "check overdue"]);
    assert_eq!(pitfalls("C7", leak("paper", "")).await, ["voltage not said", "check overdue"]);
    assert_eq!(pitfalls("C7", leak("paper", "100")).await, ["below working voltage", "check overdue"]);
    assert_eq!(pitfalls("C7", leak("paper", "400")).await, ["check overdue"]);
    let c = |state: &str| json!({"quantity": "capacitance", "state": state, "mode": "ac"});
    assert_eq!(pitfalls("C7", c("out of circuit")).await, ["low test voltage"]);
    assert_eq!(pitfalls("C8", c("valve pulled")).await, ["in circuit", "low test voltage", "not discharged"]);
    let esr = json!({"quantity": "esr", "state": "out of circuit", "test_frequency": "100k"});
    assert_eq!(pitfalls("C8", esr).await, ["ESR at high frequency"]);
    // 2π × 100 Hz × 12 H = 7.54 kΩ, with 900 Ω in it 7.59 kΩ.
    let path = format!("/api/parts/{}/foresee", id(part(&t, "L3")));
    let (_, a) = s.post(&path, json!({"quantity": "resistance", "state": "lifted", "way": ohms})).await;
    assert!(a["warnings"][0]["text"].as_str().unwrap().contains("12 H at 100 Hz makes 7.593 kΩ"), "{a}");
    // Taken all the same, the reading carries the trap, and the verdict is to measure again.
    let take = |quantity: &str, typed: &str, way: Value| json!({"key": Uuid::new_v4(), "typed": typed, "quantity": quantity, "state": "lifted", "way": way});
    let readings = |name: &str| format!("/api/parts/{}/readings", id(part(&t, name)));
    let (status, p) = s.post(&readings("L3"), take("resistance", "7.6k", ohms.clone())).await;
    assert_eq!(
        (status, p["readings"][0]["warnings"][0]["pitfall"].as_str()),
        (201, Some("AC ohms on a coil")),
        "{p}"
    );
    assert_eq!(p["judgement"]["verdict"], "measure again");
    let (_, p) = s.post(&readings("R5"), take("resistance", "3.5", ohms)).await;
    assert_eq!(p["readings"][0]["warnings"][0]["pitfall"], "lead resistance");
    let (_, p) = s.post(&readings("R5"), take("resistance", "OL", Value::Null)).await;
    assert_eq!(p["readings"][1]["warnings"][0]["pitfall"], "overrange");
    let (status, problem) = s.post(&readings("C7"), take("inductance", "3", Value::Null)).await;
    assert_eq!((status, problem["field"].as_str()), (422, Some("typed")), "{problem}");
    let (status, problem) = s.post(&readings("C7"), take("capacitance", "22n", way("paper"))).await;
    assert_eq!((status, problem["field"].as_str()), (422, Some("way")), "{problem}");
    let mut odd = take("leakage_current", "1u", way("paper"));
    odd["test_voltage"] = json!("plenty");
    assert_eq!(s.post(&readings("C7"), odd).await.1["field"], "test_voltage");
}

#[tokio::test]
async fn a_mistaken_reading_is_voided_and_stays_on_the_list() {
    let s = Server::empty().await;
    let t = s.ticket(&["R6 15k 10% feed", "R6 = 15.2k lifted", "R6 = 27k lifted"]).await;
    let r6 = part(&t, "R6");
    assert_eq!(r6["judgement"]["verdict"], "replace");
    let decided = json!({"key": Uuid::new_v4(), "version": r6["version"], "decided": "replace"});
    assert_eq!(s.post(&format!("/api/parts/{}/decisions", id(r6)), decided).await.0, 201);
    let path = format!("/api/readings/{}/void", id(&r6["readings"][1]));
    let (status, problem) = s.post(&path, json!({"key": Uuid::new_v4(), "why": "  "})).await;
    assert_eq!((status, problem["field"].as_str()), (422, Some("why")), "{problem}");
    let strike = json!({"key": Uuid::new_v4(), "why": "the other resistor was on the tips"});
    let (status, p) = s.post(&path, strike.clone()).await;
    assert_eq!(
        (status, p["readings"][1]["voided"].as_str()),
        (201, Some("the other resistor was on the tips")),
        "{p}"
    );
    assert_eq!(
        (p["judgement"]["verdict"].as_str(), p["measured"]["measured"]["text"].as_str()),
        (Some("keep"), Some("15.2 kΩ"))
    );
    assert!(p["decision"]["stands"] == false, "a decision on a struck reading no longer stands");
    assert_eq!(s.post(&path, strike).await.0, 201, "sent again because the answer was lost");
    assert_eq!(s.post(&path, json!({"key": Uuid::new_v4(), "why": "twice"})).await.0, 409);
    for change in ["update strike set why = 'x'", "delete from strike", "delete from reading"] {
        assert!(sqlx::query(change).execute(&s.pool).await.is_err(), "{change}");
    }
    assert_eq!(
        s.post(&format!("/api/readings/{}/void", Uuid::new_v4()), json!({"key": Uuid::new_v4(), "why": "x"}))
            .await
            .0,
        404
    );
}

#[tokio::test]
async fn a_cooked_part_asks_why_until_it_is_answered() {
    let s = Server::empty().await;
    let t = s
        .ticket(&[
            "R7 33k 10% 1W screen feed",
            "C5 .1 MFD 400V wax paper screen bypass",
            "C5 fed by R7 volts 90 rail 210",
            "C6 8 MFD 450V electrolytic smoothing",
            "R7 scorched",
            "R7 = 33.4k lifted",
        ])
        .await;
    let r7 = part(&t, "R7");
    assert_eq!(
        (r7["judgement"]["verdict"].as_str(), r7["judgement"]["overloaded"].as_bool()),
        (Some("watch"), Some(true))
    );
    let cause = &r7["cause"];
    assert_eq!(
        (cause["suspects"][0]["name"].as_str(), cause["suspects"][0]["known"].as_bool()),
        (Some("C5"), Some(true)),
        "{cause}"
    );
    assert_eq!(cause["suspects"][1]["name"], "C6");
    // The feed's value and watts are taken from the tray, not typed again.
    s.say(id(&t), "C5 leak 400k @90 lifted").await;
    let c5 = part(&now(&s, &t).await, "C5").clone();
    assert!(c5["judgement"]["reasons"].to_string().contains("through 33 kΩ drops"), "{}", c5["judgement"]);
    let path = format!("/api/parts/{}/causes", id(r7));
    let version = part(&now(&s, &t).await, "R7")["version"].clone();
    let (status, problem) = s.post(&path, json!({"key": Uuid::new_v4(), "version": version})).await;
    assert_eq!((status, problem["field"].as_str()), (422, Some("answer")), "{problem}");
    let (status, problem) =
        s.post(&path, json!({"key": Uuid::new_v4(), "version": version, "culprit": "C99"})).await;
    assert_eq!((status, problem["field"].as_str()), (422, Some("culprit")), "{problem}");
    let answer = json!({"key": Uuid::new_v4(), "version": version, "culprit": "c5"});
    let (status, p) = s.post(&path, answer.clone()).await;
    assert_eq!((status, p["cause"]["answer"]["culprit"].as_str()), (201, Some("C5")), "{p}");
    assert_eq!(s.post(&path, answer).await.0, 201, "sent again because the answer was lost");
    assert!(sqlx::query("update cause set answer = 'x'").execute(&s.pool).await.is_err());
    // Fitting a new one does not take the question away from the old one.
    assert!(part(&now(&s, &t).await, "R7")["cause"]["answer"].is_object());
}

#[tokio::test]
async fn groups_of_any_size_are_judged_by_their_worst() {
    let s = Server::empty().await;
    let t = s
        .ticket(&[
            "R1 220 5% cathode = 221 lifted",
            "R2 220 5% cathode = 219 lifted",
            "R3 220 5% cathode = 230 lifted",
            "R2 pair R1",
            "R3 group R1",
        ])
        .await;
    let of = |t: &Value, name: &str| -> Vec<String> {
        part(t, name)["group"]
            .as_array()
            .unwrap()
            .iter()
            .map(|g| g["name"].as_str().unwrap().to_owned())
            .collect()
    };
    assert_eq!(of(&t, "R1"), ["R2", "R3"]);
    assert!(part(&t, "R1")["pair"].is_null(), "a group of three is no pair");
    assert_eq!(part(&t, "R3")["judgement"]["verdict"], "replace");
    assert!(part(&t, "R1")["judgement"]["reasons"].to_string().contains("group with R3"));
    s.say(id(&t), "R3 pair R2").await;
    let t = now(&s, &t).await;
    assert_eq!((of(&t, "R1").len(), of(&t, "R2")), (0, vec!["R3".to_owned()]), "a group of one is none");
    let (status, problem) = s.say(id(&t), "C1 .1 MFD 400V pair R1").await;
    assert_eq!(
        (status, problem["detail"].as_str().unwrap().contains("cannot match")),
        (422, true),
        "{problem}"
    );
}

#[tokio::test]
async fn what_is_seen_and_known_is_changed_by_form_and_checked() {
    let s = Server::empty().await;
    let t = s.ticket(&["R7 33k 10%", "C5 .1 MFD 400V wax paper screen bypass"]).await;
    let c5 = part(&t, "C5");
    let path = format!("/api/parts/{}", id(c5));
    for (change, field) in [
        (json!({"looks": ["vented", "melted"]}), "looks[1]"),
        (json!({"facts": {"grid_resistor": "lots"}}), "facts.grid_resistor"),
        (json!({"facts": {"moon": "1"}}), "facts.moon"),
        (json!({"facts": {"rail": "0"}}), "facts.rail"),
        (json!({"fed_by": "R99"}), "fed_by"),
        (json!({"made": "1066"}), "made"),
        (json!({"winding": "3k"}), "winding"),
        (json!({"position": "cathode"}), "position"),
    ] {
        let mut body = change.clone();
        body["version"] = c5["version"].clone();
        let (status, problem) = s.patch(&path, body).await;
        assert_eq!((status, problem["field"].as_str()), (422, Some(field)), "{change}: {problem}");
    }
    let good = json!({"version": c5["version"], "looks": ["taped", "wax out"], "fed_by": "r7", "made": "1949",
        "test_warm": true, "facts": {"voltage": "95", "rail": "220 V"}});
    let (status, p) = s.patch(&path, good).await;
    assert_eq!(status, 200, "{p}");
    assert_eq!(
        (p["looks"].clone(), p["fed_by"]["name"].as_str(), p["made"].as_i64()),
        (json!(["wax out", "taped"]), Some("R7"), Some(1949))
    );
    assert_eq!(
        (p["facts"][0]["text"].as_str(), p["facts"][1]["text"].as_str()),
        (Some("95 V"), Some("220 V"))
    );
    let (_, p) = s.patch(&path, json!({"version": p["version"], "facts": {"rail": ""}, "fed_by": ""})).await;
    assert_eq!((p["facts"].as_array().unwrap().len(), p["fed_by"].is_null()), (1, true));
    // Whoever comes late is told in the trade's words.
    let (_, late) = s.patch(&path, json!({"version": 1, "made": ""})).await;
    let fields: Vec<_> =
        late["changed"].as_array().unwrap().iter().map(|c| c["field"].as_str().unwrap()).collect();
    assert!(fields.contains(&"seen on it") && fields.contains(&"circuit"), "{late}");
}
