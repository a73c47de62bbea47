//! Bench speech through the interface: piece by piece, several parts at once, what is asked, what is refused and kept.

use serde_json::json;

use crate::support::{Server, part};

#[tokio::test]
async fn a_sentence_is_shown_piece_by_piece_and_says_what_it_was() {
    let s = Server::empty().await;
    let ticket = s.ticket(&["R51 27k 10% plate load V2 plate"]).await;
    let id = ticket["id"].as_str().unwrap();
    let understand = |text: &str| json!({"text": text, "selected": null});
    let path = format!("/api/tickets/{id}/understand");
    let (_, a) = s.post(&path, understand("R51 cathode of V4 20% reads 31k")).await;
    let pieces: Vec<(&str, &str)> = a["pieces"]
        .as_array()
        .unwrap()
        .iter()
        .map(|p| (p["slot"].as_str().unwrap(), p["text"].as_str().unwrap()))
        .collect();
    assert!(
        pieces.contains(&("reading", "measures 31 kΩ")) && pieces.contains(&("position", "cathode")),
        "{a}"
    );
    assert_eq!((a["pieces"][0]["from"].as_u64(), a["pieces"][0]["to"].as_u64()), (Some(0), Some(3)));
    assert_eq!(a["was"], json!(["±10 %", "anode load", "at V2 anode"]));
    // Two meanings: both as whole sentences, and neither is taken.
    let (_, a) = s.post(&path, understand("R52 27k 2")).await;
    assert_eq!(a["which"][1], json!({"label": "2 %", "sentence": "R52 27k 2 %"}));
    assert_eq!(s.say(id, "R52 27k 2").await.0, 422);
    let (_, said) = s.say(id, a["which"][0]["sentence"].as_str().unwrap()).await;
    assert!(said["in_words"].as_str().unwrap().contains("2 W"), "{said}");
}

#[tokio::test]
async fn several_parts_and_several_readings_come_with_one_sentence() {
    let s = Server::empty().await;
    let ticket = s.ticket(&["C51 40uF 25V lytic"]).await;
    let id = ticket["id"].as_str().unwrap();
    let key = uuid::Uuid::now_v7();
    let body = json!({"text": "R51, R52 and R53 68k 5%", "key": key});
    let (_, said) = s.post(&format!("/api/tickets/{id}/say"), body.clone()).await;
    assert_eq!(said["also"].as_array().map(Vec::len), Some(2), "{said}");
    // Sent again because the answer was lost: nothing more.
    assert_eq!(s.post(&format!("/api/tickets/{id}/say"), body).await.0, 200);
    s.say(id, "C51 44u lifted esr 1.3 at 100k burnt").await;
    let (_, whole) = s.whole(&format!("/api/tickets/{id}")).await;
    assert_eq!(whole["parts"].as_array().map(Vec::len), Some(4));
    let c = part(&whole, "C51");
    assert_eq!(c["readings"].as_array().map(Vec::len), Some(2), "{c}");
    assert_eq!(c["looks"], json!(["scorched"]));
    assert_eq!(part(&whole, "R53")["marked"]["text"], "68 kΩ");
    // What they were is said of each.
    let (_, said) = s.say(id, "R51 R52 10% grid leak").await;
    assert!(said["in_words"].as_str().unwrap().ends_with("(it was ±5 %, R52: ±5 %)"), "{said}");
}

#[tokio::test]
async fn what_is_refused_is_kept_and_can_be_taken_along() {
    let s = Server::empty().await;
    let ticket = s.ticket(&["R51 27k"]).await;
    let id = ticket["id"].as_str().unwrap();
    for sentence in ["R51 widdershins", "= 12 fathoms"] {
        let (status, problem) = s.say(id, sentence).await;
        assert_eq!((status, problem["field"].as_str()), (422, Some("text")), "{problem}");
    }
    // Nothing, far too much and what no database keeps are refused as well, each in words; of them what can be read is kept.
    for sentence in ["   ".to_owned(), "R51 odd\u{0}ity".to_owned(), "R51 ".repeat(400)] {
        let (status, problem) = s.say(id, &sentence).await;
        assert_eq!((status, problem["field"].as_str()), (422, Some("text")), "{problem}");
    }
    // A question is no refusal.
    assert_eq!(s.say(id, "R51 = 27M").await.1["ask"], true);
    let (_, kept) = s.get("/api/refused-sentences").await;
    let kept = kept.as_array().unwrap();
    assert_eq!(kept.len(), 4);
    let kept = &kept[2..];
    assert_eq!(
        (kept[1]["sentence"].as_str(), kept[1]["set"].as_str()),
        (Some("R51 widdershins"), ticket["name"].as_str())
    );
    assert!(kept[1]["why"].as_str().unwrap().contains("'widdershins'"));
    let csv = s.text("/api/refused-sentences/export").await;
    assert!(
        csv.lines().count() == 5 && !csv.contains("\n=") && !csv.contains(",="),
        "no cell is a formula: {csv}"
    );
    // The grammar's page.
    let (_, speech) = s.get("/api/speech").await;
    assert!(
        speech
            .as_array()
            .unwrap()
            .iter()
            .any(|e| e["asked"] == true && e["pieces"].as_array().unwrap().len() > 1)
    );
}

/// A valve's volts are one sentence; the parts at its pins stand on its socket with them.
#[tokio::test]
async fn a_valve_goes_into_the_chart_and_its_parts_stand_at_its_pins() {
    let s = Server::empty().await;
    let ticket = s
        .ticket(&[
            "R51 330 10% V2 cathode",
            "R52 1M grid leak V2",
            "C51 .01 MFD 400V coupling V1 plate to V2 grid",
            "R53 100k V9",
            "R54 2k2",
        ])
        .await;
    let id = ticket["id"].as_str().unwrap();
    let said = async |text: &str| {
        let (status, said) = s.say(id, text).await;
        assert_eq!(status, 200, "{said}");
        said["in_words"].as_str().unwrap().to_owned()
    };
    assert_eq!(s.say(id, "V2 255 240").await.0, 422, "not in the chart yet");
    assert_eq!(said("V2 6V6").await, "V2: V2 6V6: 6 pins into the chart");
    assert_eq!(said("V2 6V6").await, "V2: V2 6V6: in the chart already", "said again");
    said("V2 sheet 260 - 9.5 0").await;
    assert!(said("V2 sheet plate 255").await.ends_with("(it was anode at pin 3 260 V)"));
    assert!(said("V2 250 – 6.6 4.1").await.contains("the first set of readings is begun"));
    let understand = json!({"text": "V2 sheet cathode 10", "selected": null});
    let (_, a) = s.post(&format!("/api/tickets/{id}/understand"), understand).await;
    assert_eq!((a["part"].as_str(), a["was"].clone()), (Some("V2"), json!(["cathode at pin 8 9.5 V"])));
    let (_, refused) = s.say(id, "V2 1 2 3 4 5 6 7").await;
    assert!(refused["detail"].as_str().unwrap().contains("it has 4 pins that are read"), "{refused}");
    let (status, all) = s.get(&format!("/api/tickets/{id}/sockets")).await;
    assert_eq!(status, 200);
    let sockets = all["sockets"].as_array().unwrap();
    assert_eq!(sockets.iter().map(|x| x["at"].as_str().unwrap()).collect::<Vec<_>>(), ["V1", "V2", "V9"]);
    let at = |n: u64| sockets[1]["pins"].as_array().unwrap().iter().find(|p| p["pin"] == n).unwrap();
    let names = |v: &serde_json::Value| {
        v.as_array().unwrap().iter().map(|p| p["name"].as_str().unwrap().to_owned()).collect::<Vec<_>>()
    };
    assert_eq!(
        (names(&at(8)["parts"]), at(8)["volts"]["text"].as_str()),
        (vec!["R51".to_owned()], Some("6.6 V"))
    );
    assert_eq!(
        (names(&at(5)["parts"]), at(5)["status"].as_str()),
        (vec!["R52".to_owned(), "C51".into()], Some("wrong"))
    );
    assert_eq!((at(3)["place"].as_str(), at(7)["heater"].as_bool()), (Some("V2 anode pin 3"), Some(true)));
    assert_eq!(
        (names(&sockets[2]["unplaced"]), names(&all["elsewhere"])),
        (vec!["R53".to_owned()], vec!["R54".to_owned()])
    );
}

/// A part from its sentence to its proof with the line alone.
#[tokio::test]
async fn a_part_goes_from_its_sentence_to_its_proof_by_the_line() {
    let s = Server::empty().await;
    let ticket = s.ticket(&["R51 4k7 10% 1W carbon composition dropper"]).await;
    let id = ticket["id"].as_str().unwrap();
    let now = async || part(&s.whole(&format!("/api/tickets/{id}")).await.1, "R51").clone();
    let (_, refused) = s.say(id, "R51 plays, hum gone").await;
    assert!(refused["detail"].as_str().unwrap().contains("'plays'"), "nothing is fitted: {refused}");
    for text in ["R51 reads 8.1k lifted", "R51 replace"] {
        assert_eq!(s.say(id, text).await.0, 200, "{text}");
    }
    // What the step asks is asked beside the sentence, and a reason can be said in it.
    let (status, asked) = s.say(id, "R51 fitted 3k9 5% 1W metal film measured 3.9k").await;
    assert_eq!((status, asked["field"].as_str()), (422, Some("text")), "{asked}");
    assert_eq!(s.say(id, "R51 fit").await.1["step"], "fit", "only the step");
    let (status, said) = s.say(id, "R51 fitted 4k7 5% 2W metal film, measured 4.71k").await;
    assert_eq!((status, said["written"]["status"].as_str()), (200, Some("fitted")), "{said}");
    let understand = json!({"text": "R51 plays, hum gone, 255 V at pin 6", "selected": null});
    let (_, a) = s.post(&format!("/api/tickets/{id}/understand"), understand).await;
    assert_eq!(a["in_words"], "prove, better: plays, hum gone, 255 V at pin 6");
    assert_eq!(s.say(id, "R51 proven 182 V behind it").await.0, 422, "how is the set?");
    assert_eq!(s.say(id, "R51 plays, hum gone, 255 V at pin 6").await.0, 200);
    let p = now().await;
    assert_eq!(
        (p["status"].as_str(), p["fittings"][0]["measured"]["text"].as_str()),
        (Some("proven"), Some("4.71 kΩ"))
    );
    assert_eq!(p["fittings"][0]["proof"]["seen"], "plays, hum gone, 255 V at pin 6");
    // Refused by a step is not refused by the grammar.
    let (_, log) = s.get("/api/refused-sentences").await;
    let kept: Vec<&str> = log.as_array().unwrap().iter().map(|r| r["sentence"].as_str().unwrap()).collect();
    assert_eq!(kept, ["R51 plays, hum gone"], "{log}");
}

/// With no ticket open the line takes a set in; how it is fed is never guessed.
#[tokio::test]
async fn a_set_is_taken_in_by_a_sentence() {
    let s = Server::empty().await;
    let understand = async |text: &str| s.post("/api/understand", json!({"text": text})).await.1;
    assert!(understand("R4 22k").await["problem"].as_str().unwrap().starts_with("no ticket is open"));
    let a = understand("new ticket Skarholm Tern, hums").await;
    assert_eq!(a["which"][1]["sentence"], "new ticket Skarholm Tern, hums, live chassis");
    let body = |text: &str| json!({"text": text, "key": uuid::Uuid::now_v7()});
    assert_eq!(s.post("/api/say", body("new ticket Skarholm Tern, hums")).await.0, 422);
    assert_eq!(s.post("/api/say", body("R4 22k")).await.0, 422);
    let whole = body("new ticket Skarholm Tern, AC/DC tubes, hums, plays weak");
    let (status, said) = s.post("/api/say", whole.clone()).await;
    assert_eq!(status, 200, "{said}");
    assert_eq!(
        s.post("/api/say", whole).await.1["ticket"],
        said["ticket"],
        "sent again it is the same ticket"
    );
    let (_, t) = s.get(&format!("/api/tickets/{}", said["ticket"].as_str().unwrap())).await;
    assert_eq!(
        (t["name"].as_str(), t["complaint"].as_str()),
        (Some("Skarholm Tern"), Some("hums, plays weak"))
    );
    assert_eq!(
        (t["class"]["source"].as_str(), t["class"]["devices"].as_str()),
        (Some("mains, live chassis"), Some("valves"))
    );
    // Beside another ticket as well.
    let id = t["id"].as_str().unwrap();
    let (_, beside) = s.say(id, "new set Skarholm Dunlin, battery, transistors").await;
    assert_ne!(beside["ticket"], t["id"]);
    assert_eq!(s.get("/api/tickets").await.1.as_array().map(Vec::len), Some(2));
}

/// Every designator that the line understands is one that the tray takes.
#[tokio::test]
async fn parts_are_called_as_sheets_call_them() {
    let s = Server::empty().await;
    let ticket = s
        .ticket(&[
            "CR1 1N34A",
            "VR1 500k volume control",
            "LP1 6.3V 250mA",
            "T1 sheet 220",
            "TR1 AC126",
            "IC1 TBA820M",
            "PL1 6.3V",
        ])
        .await;
    let kinds: Vec<(&str, &str)> = ticket["parts"]
        .as_array()
        .unwrap()
        .iter()
        .map(|p| (p["name"].as_str().unwrap(), p["kind"].as_str().unwrap()))
        .collect();
    for wanted in [
        ("CR1", "diode"),
        ("VR1", "resistor"),
        ("LP1", "lamp"),
        ("T1", "coil"),
        ("TR1", "transistor"),
        ("IC1", "integrated circuit"),
        ("PL1", "lamp"),
    ] {
        assert!(kinds.contains(&wanted), "{wanted:?} of {kinds:?}");
    }
}
