//! The workshop chooses its words once, and every answer follows.

use serde_json::{Value, json};

use crate::support::{Server, part};

fn american() -> Value {
    json!({"valve": "tube", "supply": "B+", "anode": "plate", "earth": "ground", "heater": "filament"})
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
