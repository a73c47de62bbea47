//! One field that finds anything: tickets by what waits, parts of the open ticket first, drawers, rules.

use serde_json::Value;
use uuid::Uuid;

use crate::support::Server;

fn names(found: &Value, of: &str, what: &str) -> Vec<String> {
    found[of].as_array().unwrap().iter().map(|x| x[what].as_str().unwrap().to_owned()).collect()
}

async fn found(s: &Server, q: &str) -> Value {
    let (status, found) = s.get(&format!("/api/find?q={q}")).await;
    assert_eq!(status, 200, "{found}");
    found
}

#[tokio::test]
async fn the_shelf_stands_by_what_waits_and_everything_is_found_by_its_name() {
    let s = Server::demo().await;
    let mine = s.ticket(&["R71 33k 10% plate load"]).await;
    let other = s.ticket(&["R71 1k 10% cathode", "R71 = 1.01k lifted"]).await;
    let shelf = found(&s, "").await;
    let waits = names(&shelf, "tickets", "waits");
    let order = ["reforming", "soak", "proof", "fitting", "decision", "measuring", "parts", "closing"];
    let places: Vec<usize> = waits.iter().map(|w| order.iter().position(|o| o == w).unwrap()).collect();
    assert!(places.is_sorted() && places[0] == 0, "{waits:?}");
    assert_eq!(shelf["parts"], serde_json::json!([]));

    // A word by its beginning; the closed ones come after the open ones.
    assert_eq!(names(&found(&s, "HERO").await, "tickets", "name"), ["Tidewright Heron 7"]);
    let id = |t: &Value| t["id"].as_str().unwrap().to_owned();
    for first in [&mine, &other] {
        let q = format!("r71&ticket={}", id(first));
        let parts = found(&s, &q).await["parts"].clone();
        assert_eq!(parts.as_array().unwrap().len(), 2);
        assert_eq!(parts[0]["ticket"].as_str().unwrap(), id(first), "the open ticket's own first: {parts}");
    }
    assert!(found(&s, "10k").await["lots"][0]["description"].as_str().unwrap().contains("10 kΩ"));
    assert_eq!(names(&found(&s, "r4s").await, "rules", "number")[0], "R4s");
    for nothing in ["' | !(", "no-such-thing-anywhere", &Uuid::new_v4().to_string()] {
        let all = found(&s, nothing).await;
        assert_eq!(
            (&all["tickets"], &all["rules"]),
            (&serde_json::json!([]), &serde_json::json!([])),
            "{all}"
        );
    }
    assert!(s.get("/api/find?q=%00").await.0 < 500);
    assert_eq!(s.get(&format!("/api/find?q={}", "x".repeat(81))).await.0, 422);
}
