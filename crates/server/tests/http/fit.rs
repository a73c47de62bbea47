//! Fitting from the drawers: taken in the same transaction, put back when undone, the last piece once, old stock
//! after its test, and everything on the tray.

use serde_json::{Value, json};
use uuid::Uuid;

use crate::support::{Server, part};

const HEADER: &str =
    "kind,family,type,value,tolerance,volts,watts,amperes,safety,celsius,count,place,condition,measured";

fn id(v: &Value) -> String {
    v["id"].as_str().unwrap().to_owned()
}

async fn bench(rows: &str, sentences: &[&str]) -> (Server, Value) {
    let s = Server::empty().await;
    let (status, done) = s.import(format!("{HEADER}\n{rows}")).await;
    assert_eq!((status, done["refused_in_all"].as_u64()), (200, Some(0)), "{done}");
    let t = s.ticket(sentences).await;
    (s, t)
}

async fn choices(s: &Server, p: &Value) -> Value {
    let (status, a) = s.get(&format!("/api/parts/{}/substitutes", id(p))).await;
    assert_eq!(status, 200, "{a}");
    a
}

/// What the Fit step sends for a choice.
fn of_choice(p: &Value, c: &Value) -> Value {
    json!({"key": Uuid::new_v4(), "version": p["version"], "kind": c["kind"], "description": c["description"],
        "value": c["entry"]["value"], "tolerance": c["entry"]["tolerance"], "watts": c["entry"]["watts"],
        "volts": c["entry"]["volts"], "type_number": c["entry"]["type_number"], "family": c["family"],
        "over_open": "several parts at once in this test",
        "pieces": c["pieces"].as_array().unwrap().iter()
            .map(|p| json!({"lot": p["lot"], "description": p["description"]})).collect::<Vec<_>>()})
}

async fn count(s: &Server, search: &str) -> u64 {
    let (_, a) = s.get(&format!("/api/drawers?search={search}")).await;
    a["lots"].as_array().unwrap().iter().map(|l| l["count"].as_u64().unwrap()).sum()
}

#[tokio::test]
async fn a_capacitor_goes_from_verdict_to_fitted_and_back_into_its_drawer() {
    let (s, t) = bench(
        "capacitor,polypropylene,,33n,5 %,630,,,,,4,\"film binder, page 2\",new,33.2n\n",
        &["C4 .03/400 coupling wax paper", "C4 leak = 40uA @200 lifted"],
    )
    .await;
    let p = part(&t, "C4");
    let decide = json!({"key": Uuid::new_v4(), "version": p["version"], "decided": "replace"});
    let (_, p) = s.post(&format!("/api/parts/{}/decisions", id(p)), decide).await;
    assert_eq!(p["step"], "fit", "{p}");
    let a = choices(&s, &p).await;
    let c = &a["choices"][0];
    assert_eq!(
        (c["from"].as_str(), c["description"].as_str()),
        (Some("drawers"), Some("33 nF ±5 % 630 V polypropylene"))
    );
    assert_eq!(
        (c["pieces"][0]["place"].as_str(), c["pieces"][0]["count"].as_u64()),
        (Some("film binder, page 2"), Some(4))
    );
    assert!(c["margins"][0]["ratio"].as_f64() > Some(1.5) && !c["passes"].as_array().unwrap().is_empty());
    // A new part need not be measured: chosen and fitted.
    let fit = of_choice(&p, c);
    let path = format!("/api/parts/{}/fittings", id(&p));
    let (status, p) = s.post(&path, fit.clone()).await;
    assert_eq!((status, p["status"].as_str()), (201, Some("fitted")), "{p}");
    assert_eq!(p["fittings"][0]["taken"], json!(["33 nF ±5 % 630 V polypropylene, film binder, page 2"]));
    assert_eq!(count(&s, "33n").await, 3);
    assert_eq!(s.post(&path, fit).await.0, 201, "sent again after a lost answer");
    assert_eq!(count(&s, "33n").await, 3, "and taken once");
    // Undone: the piece lies in its drawer again, the part waits for its substitute again.
    let undo = format!("/api/fittings/{}/withdrawal", id(&p["fittings"][0]));
    let body = json!({"key": Uuid::new_v4(), "why": "wrong lead spacing"});
    let (status, p) = s.post(&undo, body.clone()).await;
    assert_eq!(
        (status, p["status"].as_str(), p["step"].as_str()),
        (201, Some("decided"), Some("fit")),
        "{p}"
    );
    assert_eq!(p["fittings"][0]["withdrawn_why"], "wrong lead spacing");
    assert_eq!(count(&s, "33n").await, 4);
    assert_eq!(s.post(&undo, body).await.0, 201);
    assert_eq!(count(&s, "33n").await, 4, "put back once");
    assert_eq!(s.post(&undo, json!({"key": Uuid::new_v4()})).await.0, 409);
    // What was undone cannot be proven; what was proven to work cannot be undone.
    let proof = json!({"key": Uuid::new_v4(), "outcome": "better", "seen": "plays"});
    assert_eq!(s.post(&undo.replace("withdrawal", "proof"), proof.clone()).await.0, 409);
    let mut measured = of_choice(&p, c);
    measured["measured"] = json!("33.2n");
    let (_, p) = s.post(&path, measured).await;
    assert_eq!(p["judgement"]["verdict"], "measure again", "its value is known, its leakage is not");
    let last = p["fittings"].as_array().unwrap().last().unwrap();
    let last = format!("/api/fittings/{}", id(last));
    assert_eq!(s.post(&format!("{last}/proof"), proof).await.0, 201);
    assert_eq!(s.post(&format!("{last}/withdrawal"), json!({"key": Uuid::new_v4()})).await.0, 409);
    let (_, shelf) = s.get("/api/tickets").await;
    assert_eq!(shelf[0]["left"], "all done");
}

#[tokio::test]
async fn two_benches_take_the_last_piece_once() {
    let (s, t) = bench(
        "resistor,metal film,,220k,1 %,,1 W,,,,1,cabinet A,new,\n",
        &["R7 220k 10% ½W = 310k lifted", "R8 220k 10% ½W = 330k lifted"],
    )
    .await;
    let (r7, r8) = (part(&t, "R7"), part(&t, "R8"));
    let (a7, a8) = (choices(&s, r7).await, choices(&s, r8).await);
    assert_eq!(
        (&a7["choices"][0]["from"], &a8["choices"][0]["from"]),
        (&json!("drawers"), &json!("drawers"))
    );
    let (path7, path8) =
        (format!("/api/parts/{}/fittings", id(r7)), format!("/api/parts/{}/fittings", id(r8)));
    let (one, two) = tokio::join!(
        s.post(&path7, of_choice(r7, &a7["choices"][0])),
        s.post(&path8, of_choice(r8, &a8["choices"][0]))
    );
    let mut statuses = [one.0, two.0];
    statuses.sort_unstable();
    assert_eq!(statuses, [201, 409], "{one:?} {two:?}");
    let late = if one.0 == 409 { &one.1 } else { &two.1 };
    assert!(late["detail"].as_str().unwrap().contains("somebody was faster"), "{late}");
    assert_eq!(count(&s, "220k").await, 0);
    // Nothing half done: the part that was too late has no fitting.
    let loser = if one.0 == 409 { r7 } else { r8 };
    let (_, p) = s.get(&format!("/api/parts/{}", id(loser))).await;
    assert!(p["fittings"].as_array().unwrap().is_empty());
    assert!(choices(&s, &p).await["choices"].as_array().unwrap().iter().all(|c| c["from"] == "to buy"));
}

#[tokio::test]
async fn a_network_takes_its_pieces_together_or_not_at_all() {
    let (s, t) = bench(
        "resistor,metal film,,33k,1 %,,1 W,,,,2,cabinet A,new,\n",
        &["R3 16k 10% 2W = 24k lifted", "R4 16k 10% 2W = 25k lifted", "R3 sheet 16.5k", "R4 sheet 16.5k"],
    )
    .await;
    let (r3, r4) = (part(&t, "R3"), part(&t, "R4"));
    let a = choices(&s, r3).await;
    let pair = &a["choices"][0];
    assert!(pair["description"].as_str().unwrap().starts_with("33k ∥ 33k"), "{a}");
    assert!(pair["network"]["parallel"].is_array() && pair["pieces"].as_array().unwrap().len() == 2);
    let (status, p) = s.post(&format!("/api/parts/{}/fittings", id(r3)), of_choice(r3, pair)).await;
    assert_eq!(
        (status, p["fittings"][0]["taken"][0].as_str()),
        (201, Some("2 × 33 kΩ ±1 % 1 W metal film, cabinet A")),
        "{p}"
    );
    assert_eq!(count(&s, "33k").await, 0);
    let (status, problem) = s.post(&format!("/api/parts/{}/fittings", id(r4)), of_choice(r4, pair)).await;
    assert_eq!(status, 409, "{problem}");
}

#[tokio::test]
async fn old_stock_is_tested_before_it_goes_in() {
    let (s, t) = bench(
        "capacitor,polypropylene,,100n,10 %,400,,,,,2,cigar box,\"old stock, untested\",\n",
        &["C5 .1/400 screen bypass wax paper"],
    )
    .await;
    let p = part(&t, "C5");
    let change = json!({"version": p["version"], "facts": {"voltage": "110"}});
    assert_eq!(s.patch(&format!("/api/parts/{}", id(p)), change).await.0, 200);
    let t = s.whole(&format!("/api/tickets/{}", id(&t))).await.1;
    let p = part(&t, "C5");
    let a = choices(&s, p).await;
    let c = a["choices"].as_array().unwrap().iter().find(|c| c["needs_test"] == true).unwrap();
    let path = format!("/api/parts/{}/fittings", id(p));
    let send = async |test: &str| {
        let mut body = of_choice(p, c);
        body["test"] = json!(test);
        body["measured"] = json!("101n");
        s.post(&path, body).await
    };
    for (test, words) in [
        ("", "say its leakage"),
        ("good", "leakage and the volts"),
        ("1 µA at 20 V", "proves only failure"),
        ("3 mA at 400 V", "do not fit it"),
    ] {
        let (status, problem) = send(test).await;
        assert_eq!((status, problem["field"].as_str()), (422, Some("test")), "{test}: {problem}");
        assert!(problem["detail"].as_str().unwrap().contains(words), "{test}: {problem}");
    }
    assert_eq!(count(&s, "100n").await, 2, "nothing was taken");
    let (status, p) = send("5 nA at 400 V").await;
    assert_eq!((status, p["fittings"][0]["test"].as_str()), (201, Some("5 nA at 400 V")), "{p}");
}

#[tokio::test]
async fn what_the_rules_refuse_is_asked_about_and_never_goes_across_the_line() {
    let (s, t) = bench(
        "capacitor,polypropylene,,100n,10 %,630,,,,,5,film binder,new,\n\
         capacitor,polypropylene,,100n,10 %,305,,,X2,,5,red box,new,\n\
         capacitor,ceramic class 2,,10n,10 %,500,,,,,5,ceramic drawer,new,\n",
        &["C1 .1/400 across the line wax paper", "C2 .01/400 coupling wax paper"],
    )
    .await;
    let lot = async |search: &str| s.get(&format!("/api/drawers?search={search}")).await.1["lots"][0].clone();
    let send = async |p: &Value, lot: &Value, value: &str, family: &str, despite: &str| {
        let body = json!({"key": Uuid::new_v4(), "version": p["version"], "description": lot["description"],
            "value": value, "family": family, "despite": despite, "over_open": "several at once in this test",
            "pieces": [{"lot": lot["id"], "description": lot["description"]}]});
        s.post(&format!("/api/parts/{}/fittings", id(p)), body).await
    };
    let c1 = part(&t, "C1");
    let a = choices(&s, c1).await;
    assert!(a["choices"][0]["description"].as_str().unwrap().contains("class X2"), "{a}");
    let film = lot("100n%20630").await;
    let refused = a["refused"].as_array().unwrap();
    let refused = refused.iter().find(|r| r["place"] == "film binder").unwrap();
    assert!(refused["because"].as_str().unwrap().contains("needs class X2"), "{refused}");
    let (status, problem) = send(c1, &film, "100n", "polypropylene", "it is all there is").await;
    assert_eq!((status, problem["field"].as_str()), (422, Some("safety")), "{problem}");
    // Nor two of them together.
    let two = json!({"key": Uuid::new_v4(), "version": c1["version"], "description": "two", "value": "200n", "confirmed": true,
        "pieces": [{"lot": film["id"], "description": "a"}, {"lot": film["id"], "description": "b"}]});
    let (status, problem) = s.post(&format!("/api/parts/{}/fittings", id(c1)), two).await;
    assert_eq!((status, problem["field"].as_str()), (422, Some("safety")), "{problem}");
    // Typed by hand its class is a field of its own: words in a description are none, and Y does not belong there.
    let by_hand = async |description: &str, class: Value| {
        let body = json!({"key": Uuid::new_v4(), "version": c1["version"], "description": description, "value": "100n",
            "safety": class, "confirmed": true});
        s.post(&format!("/api/parts/{}/fittings", id(c1)), body).await
    };
    for (description, class) in
        [("100n, not X2", Value::Null), ("class X2", Value::Null), ("class X2", json!("Y2"))]
    {
        let (status, problem) = by_hand(description, class).await;
        assert_eq!((status, problem["field"].as_str()), (422, Some("safety")), "{description}: {problem}");
    }
    let (status, p) = by_hand("100 nF, 305 V AC", json!("X2")).await;
    assert_eq!((status, p["fittings"][0]["safety"].as_str()), (201, Some("X2")), "{p}");
    assert_eq!(p["judgement"]["verdict"], "keep", "{p}");
    let c2 = part(&t, "C2");
    let disc = lot("10n%20500").await;
    let (status, problem) = send(c2, &disc, "10n", "ceramic class 2", "").await;
    assert_eq!((status, problem["field"].as_str()), (422, Some("despite")), "{problem}");
    let (status, p) = send(c2, &disc, "10n", "ceramic class 2", "the film comes on Monday").await;
    assert_eq!((status, &p["fittings"][0]["despite"]), (201, &json!("the film comes on Monday")), "{p}");
}

#[tokio::test]
async fn diodes_lamps_coils_and_cans_are_fitted_too() {
    let (s, t) = bench(
        "diode,silicon,1N4007,,,1000,,1,,,9,cabinet B,new,\n\
         lamp,,47,6.3 V,,,,0.15,,,4,lamp tin,new,\n\
         capacitor,electrolytic,,33 µF,20 %,450,,,,105,3,can drawer 2,new,\n",
        &["D1 1N4004 rectifier", "PL1 #40", "C16 32+32/350 smoothing", "L2 7H choke"],
    )
    .await;
    let send = async |name: &str, extra: Value| {
        let p = part(&t, name);
        let a = choices(&s, p).await;
        let mut body = of_choice(p, &a["choices"][0]);
        for (k, v) in extra.as_object().unwrap() {
            body[k] = v.clone();
        }
        (a, s.post(&format!("/api/parts/{}/fittings", id(p)), body).await)
    };
    let (a, (status, p)) = send("D1", json!({"measured": "0.55"})).await;
    assert!(a["choices"][0]["description"].as_str().unwrap().starts_with("1N4007"), "{a}");
    assert_eq!(
        (status, p["status"].as_str(), p["judgement"]["verdict"].as_str()),
        (201, Some("fitted"), Some("keep")),
        "{p}"
    );
    let (a, (status, p)) = send("PL1", json!({})).await;
    assert_eq!((status, p["step"].as_str()), (201, Some("prove")), "{a} {p}");
    let (a, (status, p)) = send("C16", json!({"measured": "34u"})).await;
    let can = &a["choices"][0];
    assert!(can["description"].as_str().unwrap().starts_with("2 separate: 33 µF"), "{a}");
    assert!(
        a["advice"].as_array().unwrap().iter().any(|l| l["text"].as_str().unwrap().contains("minus leads"))
    );
    assert_eq!(
        (status, p["fittings"][0]["taken"][0].as_str().map(|t| t.starts_with("2 × 33 µF"))),
        (201, Some(true)),
        "{p}"
    );
    assert_eq!(count(&s, "33u").await, 1);
    assert_eq!(part(&t, "PL1")["step"], "fit");
    let l2 = part(&t, "L2");
    let a = choices(&s, l2).await;
    assert!(a["facts"].as_array().unwrap().iter().any(|f| f["fact"] == "load_current"), "{a}");
}

/// "Where is my 68 µF?" In whatever spelling, by what it lacks, or by where it lies.
#[tokio::test]
async fn what_was_refused_is_found_in_any_spelling() {
    let rows = "capacitor,electrolytic,,68u,,450,,,,,3,cellar 2,new,\n\
                capacitor,polyester,,220n,,100,,,,,4,cellar 3,new,\nresistor,carbon film,,68,,,,,,,9,cellar 4,new,\n";
    let (s, t) = bench(rows, &["C4 8/450 reservoir electrolytic"]).await;
    let path = format!("/api/parts/{}/substitutes?refused=", id(part(&t, "C4")));
    let found = async |sought: &str| -> Vec<String> {
        let (status, a) =
            s.get(&format!("{path}{}", sought.replace('µ', "%C2%B5").replace(' ', "%20"))).await;
        assert_eq!(status, 200, "{a}");
        let all = a["refused"].as_array().unwrap();
        all.iter().filter_map(|r| r["place"].as_str()).map(str::to_owned).collect()
    };
    for sought in ["68u", "68 µF", "68µ 400", "68MFD", "68000n", "cellar 2", "0,068m"] {
        assert_eq!(found(sought).await, ["cellar 2"], "{sought}");
    }
    for sought in ["68k", "68u 500V", "cellar 9", "220u"] {
        assert!(found(sought).await.is_empty(), "{sought}: {:?}", found(sought).await);
    }
    let (status, p) = s.get(&format!("{path}{}", "6".repeat(200))).await;
    assert_eq!((status, p["field"].as_str()), (422, Some("refused")));
}

#[tokio::test]
async fn a_rectifier_valve_is_a_fact_by_its_name() {
    let (s, t) = bench("", &["C1 50/350 reservoir electrolytic"]).await;
    let p = part(&t, "C1");
    let path = format!("/api/parts/{}", id(p));
    let (status, p) =
        s.patch(&path, json!({"version": p["version"], "facts": {"first_filter_limit": "EZ80"}})).await;
    assert_eq!((status, p["facts"][0]["text"].as_str()), (200, Some("50 µF")), "{p}");
    let a = choices(&s, &p).await;
    let over = a["refused"]
        .as_array()
        .unwrap()
        .iter()
        .any(|r| r["because"].as_str().unwrap().contains("rectifier takes"));
    assert!(over, "{a}");
    let (status, problem) =
        s.patch(&path, json!({"version": p["version"], "facts": {"first_filter_limit": "XYZ"}})).await;
    assert_eq!((status, problem["field"].as_str()), (422, Some("facts.first_filter_limit")), "{problem}");
}

#[tokio::test]
async fn what_cannot_be_fitted_is_said_beside_the_field() {
    let (s, t) = bench("", &["C2 .01/400 coupling", "R1 1k 10%"]).await;
    let send = async |name: &str, body: Value| {
        let p = part(&t, name);
        let mut all = json!({"key": Uuid::new_v4(), "version": p["version"], "description": "something"});
        for (k, v) in body.as_object().unwrap() {
            all[k] = v.clone();
        }
        s.post(&format!("/api/parts/{}/fittings", id(p)), all).await
    };
    for (name, body, field) in [
        ("C2", json!({}), "value"),
        ("C2", json!({"value": "lots"}), "value"),
        ("C2", json!({"value": "10n", "volts": "-400"}), "volts"),
        ("C2", json!({"value": "10n", "family": "metal film"}), "family"),
        ("C2", json!({"value": "10n", "kind": "resistor"}), "kind"),
        ("C2", json!({"value": "10n", "measured": "OL"}), "measured"),
        ("R1", json!({"value": "1k"}), "family"),
        ("R1", json!({"value": "1k", "family": "metal film", "tolerance": "300 %"}), "tolerance"),
        ("R1", json!({"value": "1k", "family": "metal film", "description": " "}), "description"),
    ] {
        let (status, problem) = send(name, body).await;
        assert_eq!((status, problem["field"].as_str()), (422, Some(field)), "{problem}");
    }
    let (status, problem) =
        send("C2", json!({"value": "10n", "measured": "1 µF", "family": "polyester"})).await;
    assert_eq!((status, problem["ask"].as_bool()), (422, Some(true)), "{problem}");
    let gone = json!({"value": "10n", "pieces": [{"lot": Uuid::new_v4(), "description": "x"}]});
    assert_eq!(send("C2", gone).await.0, 409);
}

#[tokio::test]
async fn what_is_typed_by_hand_is_read_held_against_its_place_and_kept_with_its_reason() {
    let (s, t) =
        bench("", &["C6 .05/400 coupling wax paper", "R2 39k 10% 1W plate load", "C9 32+16/350 smoothing"])
            .await;
    let send = async |name: &str, more: Value| {
        let p = part(&t, name);
        let mut body = json!({"key": Uuid::new_v4(), "version": p["version"], "over_open": "several at once in this test"});
        for (k, v) in more.as_object().unwrap() {
            body[k] = v.clone();
        }
        s.post(&format!("/api/parts/{}/fittings", id(p)), body).await
    };
    let (status, problem) = send("C6", json!({"description": "47n 100V polyester"})).await;
    assert_eq!((status, problem["field"].as_str()), (422, Some("despite")), "{problem}");
    assert!(problem["detail"].as_str().unwrap().contains("100 V where 400 V are needed"), "{problem}");
    let (_, problem) = send("C6", json!({"description": "47n 630V polyester", "volts": "100 V"})).await;
    assert_eq!(problem["field"], "volts", "words and field that cannot both hold: {problem}");
    // A reason that is not needed is none.
    let good = json!({"description": "47n 630V polyester", "measured": "46.2n", "despite": "to be sure"});
    let (status, p) = send("C6", good).await;
    assert_eq!((status, p["fittings"][0]["volts"]["value"].as_f64()), (201, Some(630.0)), "{p}");
    assert_eq!(
        (&p["fittings"][0]["despite"], p["fittings"][0]["measured"]["text"].as_str()),
        (&json!(""), Some("46.2 nF"))
    );
    let (_, problem) = send("R2", json!({"description": "39k 1/4W metal film"})).await;
    assert!(problem["detail"].as_str().unwrap().contains("0.25 W where 1 W"), "{problem}");
    let why = "only until the post comes";
    let (status, p) = send("R2", json!({"description": "39k 1/4W metal film", "despite": why})).await;
    assert_eq!(
        (status, &p["fittings"][0]["despite"], &p["fittings"][0]["measured"]),
        (201, &json!(why), &Value::Null)
    );
    let report = s.text(&format!("/api/tickets/{}/report/technician", id(&t))).await;
    assert!(report.contains(why) && report.contains("not measured before"), "{report}");
    // A can, section by section.
    let (_, problem) =
        send("C9", json!({"description": "33u 450V electrolytic + 22u 160V electrolytic"})).await;
    assert!(problem["detail"].as_str().unwrap().contains("section 2: 160 V where"), "{problem}");
    let (status, p) =
        send("C9", json!({"description": "33u 450V electrolytic + 22u 450V electrolytic"})).await;
    assert_eq!((status, p["fittings"][0]["unmeasured"].as_bool()), (201, Some(true)), "{p}");
    // Nothing is known of it: said, not guessed.
    let (_, r3) = s.post(&format!("/api/tickets/{}/parts", id(&t)), json!({"name": "R3"})).await;
    let film = json!({"key": Uuid::new_v4(), "version": r3["version"], "description": "1k 1W metal film"});
    let (_, problem) = s.post(&format!("/api/parts/{}/fittings", id(&r3)), film).await;
    assert!(problem["detail"].as_str().unwrap().contains("nothing is known of R3"), "{problem}");
}
