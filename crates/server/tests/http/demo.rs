//! The demo workshop has what the demo is to show.

use std::collections::BTreeSet;

use crate::support::{Server, part};

#[tokio::test]
async fn the_demo_shows_every_case() {
    let s = Server::demo().await;
    let (_, shelf) = s.get("/api/tickets").await;
    let ids: Vec<String> =
        shelf.as_array().unwrap().iter().map(|t| t["id"].as_str().unwrap().to_owned()).collect();
    assert_eq!(ids.len(), 4);
    let (mut tickets, mut banks) = (Vec::new(), Vec::new());
    for id in &ids {
        tickets.push(s.whole(&format!("/api/tickets/{id}")).await.1);
        let (_, of) = s.get(&format!("/api/tickets/{id}/banks")).await;
        banks.extend(of["banks"].as_array().unwrap().clone());
    }
    assert!(banks.iter().any(|b| b["call"] == "replace"), "{banks:?}");
    let parts: Vec<_> = tickets.iter().flat_map(|t| t["parts"].as_array().unwrap()).collect();
    assert!(parts.len() >= 14, "{}", parts.len());
    let verdicts: BTreeSet<_> = parts.iter().filter_map(|p| p["judgement"]["verdict"].as_str()).collect();
    assert_eq!(verdicts, BTreeSet::from(["keep", "measure again", "replace", "watch"]));
    let states: BTreeSet<_> = parts.iter().filter_map(|p| p["measured"]["state"].as_str()).collect();
    assert_eq!(states.len(), 4, "in circuit, valve pulled, lifted and out: {states:?}");
    let any = |what: &str, f: &dyn Fn(&serde_json::Value) -> bool| {
        assert!(parts.iter().any(|p| f(p)), "none is {what}")
    };
    any("open", &|p| p["measured"]["overrange"] == true);
    any("hot", &|p| p["measured"]["hot"] == true);
    any("seen scorched", &|p| p["looks"][0] == "scorched");
    any("asked why it failed", &|p| {
        p["cause"]["answer"].is_null() && p["cause"]["suspects"][0]["known"] == true
    });
    any("an electrolytic with three dials", &|p| {
        p["judgement"]["dials"].as_array().is_some_and(|d| d.len() == 3)
    });
    any("a winding", &|p| p["winding"].is_object() && p["pair"].is_object());
    any("judged otherwise by another school", &|p| p["judgement"]["schools_differ"].is_string());
    any("an integrated circuit", &|p| p["kind"] == "integrated circuit");
    any("scorched", &|p| p["note"].as_str().unwrap().contains("scorched"));
    any("half of a pair", &|p| p["pair"].is_object());
    any("unmeasured", &|p| p["status"] == "unmeasured");
    any("proven", &|p| p["status"] == "proven");
    any("straddling its limit", &|p| {
        p["judgement"]["reasons"][0]["text"].as_str().is_some_and(|t| t.contains("the meter allows"))
    });
    assert!(tickets.iter().all(|t| !t["cautions"].as_array().unwrap().is_empty()));
}

#[tokio::test]
async fn loading_again_keeps_what_is_there_and_reset_brings_it_back() {
    let s = Server::demo().await;
    let (_, shelf) = s.get("/api/tickets").await;
    let id = shelf[0]["id"].as_str().unwrap().to_owned();
    s.say(&id, "R20 = 118 lifted").await;
    restless_owl::demo::load(&s.pool, false).await.unwrap();
    let (_, kept) = s.whole(&format!("/api/tickets/{id}")).await;
    assert_eq!(part(&kept, "R20")["readings"].as_array().unwrap().len(), 1);
    // Somebody's own work stays, with what it hangs on.
    let own = s.ticket(&["R20 1k5 10% cathode"]).await["id"].as_str().unwrap().to_owned();
    restless_owl::demo::load(&s.pool, true).await.unwrap();
    assert_eq!(s.get(&format!("/api/tickets/{own}")).await.0, 200);
    let (_, shelf) = s.get("/api/tickets").await;
    let shelf: Vec<_> = shelf.as_array().unwrap().iter().filter(|t| t["id"] != own.as_str()).collect();
    assert!(shelf.iter().all(|t| t["id"] != id.as_str()));
    let (_, fresh) = s.whole(&format!("/api/tickets/{}", shelf[0]["id"].as_str().unwrap())).await;
    assert_eq!(part(&fresh, "R20")["readings"].as_array().unwrap().len(), 0);
}
