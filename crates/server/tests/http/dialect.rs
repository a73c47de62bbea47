//! The workshop chooses its words once, and every answer follows.

use serde_json::{Value, json};

use crate::support::{Server, part};

fn american() -> Value {
    json!({"valve": "tube", "supply": "B+", "anode": "plate", "earth": "ground", "heater": "filament", "capacitance": "with nF"})
}

#[tokio::test]
async fn every_sentence_follows_and_what_was_typed_stays() {
    let s = Server::empty().await;
    let t = s.ticket(&["R31 68k 5% anode load"]).await;
    let r31 = part(&t, "R31").clone();
    assert_eq!(r31["position"], "plate load", "a name of the interface stays");
    assert!(r31["matters"].as_str().unwrap().contains("the anode's voltage"), "{r31}");
    assert!(r31["isolate"].as_str().unwrap().starts_with("pull its valve: the HT end"), "{r31}");
    let path = format!("/api/parts/{}", r31["id"].as_str().unwrap());
    let note = json!({"version": r31["version"], "note": "valve base brown, plate pin loose"});
    assert_eq!(s.patch(&path, note).await.0, 200);
    let (status, chosen) = s.put("/api/workshop/dialect", american()).await;
    assert_eq!((status, &chosen["chosen"]), (200, &american()), "{chosen}");
    let (_, now) = s.get(&path).await;
    assert!(now["matters"].as_str().unwrap().contains("the plate's voltage"), "{now}");
    assert!(now["isolate"].as_str().unwrap().starts_with("pull its tube: the B+ end"), "{now}");
    assert_eq!(now["note"], "valve base brown, plate pin loose");
    let (_, workshop) = s.get("/api/workshop").await;
    assert_eq!(workshop["dialect"]["chosen"], american());
}

#[tokio::test]
async fn cautions_rules_and_reports_follow() {
    let s = Server::empty().await;
    let t = s.ticket(&["C8 22n coupling", "C8 = 22n lifted"]).await;
    let id = t["id"].as_str().unwrap();
    let texts = async || {
        let mut all = String::new();
        for path in
            ["/api/rules".to_owned(), format!("/api/tickets/{id}"), format!("/api/tickets/{id}/power")]
        {
            all += &s.get(&path).await.1.to_string();
        }
        all + &s.text(&format!("/api/tickets/{id}/report/technician")).await
    };
    let before = texts().await;
    s.put("/api/workshop/dialect", american()).await;
    let after = texts().await;
    let count = |all: &str, word: &str| all.matches(word).count();
    assert!(count(&before, "valve") > 1 && count(&before, "heaters") > 1, "{before}");
    // The names of the interface keep their words.
    let named =
        count(&after, "\"heaters glow\"") + count(&after, "\"heaters dark\"") + count(&after, "\"heaters\":");
    assert_eq!(count(&after, "heaters"), named, "{after}");
    assert!(count(&after, "tube") > 1, "{after}");
}

#[tokio::test]
async fn a_word_that_is_none_of_the_pair_is_refused_and_nothing_changes() {
    let s = Server::empty().await;
    let mut wrong = american();
    wrong["valve"] = json!("bottle");
    let (status, problem) = s.put("/api/workshop/dialect", wrong).await;
    assert_eq!(status, 422, "{problem}");
    assert!(problem["detail"].as_str().unwrap().contains("valve, tube"), "{problem}");
    assert_eq!(s.get("/api/workshop").await.1["dialect"]["chosen"]["valve"], "valve");
}

/// Old sheets know no nanofarads: whoever reads them all day has µF and pF only, on the screen as in a sentence.
#[tokio::test]
async fn capacitors_are_written_as_the_workshop_writes_them() {
    let s = Server::empty().await;
    let csv = "kind,family,value,tolerance,volts,count,place\ncapacitor,polyester,22n,10%,400,5,film tray\n\
               capacitor,polyester,15n,10%,400,5,film tray\ncapacitor,polyester,10n,10%,160,9,film tray\n";
    let (status, _) = s.import(csv).await;
    assert_eq!(status, 200);
    let t = s
        .ticket(&[
            "C8 .02 MFD 400V coupling wax paper",
            "C8 sheet .02",
            "C8 = 31n lifted",
            "C9 820p silver mica tuned",
        ])
        .await;
    let c8 = part(&t, "C8")["id"].as_str().unwrap().to_owned();
    let all = async || {
        let mut all = String::new();
        for path in [
            format!("/api/tickets/{}", t["id"].as_str().unwrap()),
            format!("/api/parts/{c8}"),
            format!("/api/parts/{c8}/substitutes"),
            "/api/drawers".to_owned(),
            "/api/shopping".to_owned(),
        ] {
            let (status, answer) = s.get(&path).await;
            assert_eq!(status, 200, "{path}: {answer}");
            all += &answer.to_string();
        }
        let decode = json!({"text": "223K", "kind": "capacitor"});
        all += &s.post("/api/decode", decode).await.1.to_string();
        all + &s.text(&format!("/api/tickets/{}/report/technician", t["id"].as_str().unwrap())).await
    };
    assert!(all().await.contains("22 nF"));
    let body = json!({"valve": "valve", "supply": "HT", "anode": "anode", "earth": "earth", "heater": "heater",
                      "capacitance": "µF and pF only"});
    assert_eq!(s.put("/api/workshop/dialect", body).await.0, 200);
    let now = all().await;
    let at = now.find(" nF").or_else(|| now.find("\"nF\""));
    assert_eq!(at, None, "{}", at.map_or("", |i| &now[i.saturating_sub(200)..(i + 40).min(now.len())]));
    assert!(now.contains("0.022 µF") && now.contains("820 pF"), "{now}");
}
