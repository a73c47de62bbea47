//! Instruments and the workshop's own copies of the schools.

use serde_json::{Value, json};
use uuid::Uuid;

use crate::support::{Server, part};

fn id(v: &Value) -> &str {
    v["id"].as_str().unwrap()
}

#[tokio::test]
async fn a_copy_of_a_school_judges_its_tickets() {
    let s = Server::empty().await;
    let copy = json!({"name": "Loft rules", "school": "test first", "numbers": {"watch_from": "50%", "pair_fraction": "5"}});
    let (status, all) = s.post("/api/policies", copy.clone()).await;
    assert_eq!(status, 201, "{all}");
    let mine = all["copies"][0].clone();
    let number = |p: &Value, name: &str| {
        let values = p["values"].as_array().unwrap();
        values.iter().find(|v| v["number"] == name).unwrap().clone()
    };
    assert_eq!(number(&mine, "watch_from"), json!({"number": "watch_from", "text": "50 %", "differs": true}));
    assert_eq!(
        number(&mine, "pair_fraction")["text"],
        "5 %",
        "a bare number is percent where percent is meant"
    );
    assert_eq!(number(&mine, "avc_loss_fraction")["differs"], false);
    let (status, problem) = s.post("/api/policies", copy).await;
    assert_eq!((status, problem["field"].as_str()), (422, Some("name")), "{problem}");
    let t = s.ticket(&["R4 68k 10% = 72k lifted"]).await;
    assert_eq!(part(&t, "R4")["judgement"]["verdict"], "keep");
    let path = format!("/api/tickets/{}", id(&t));
    let (status, t) = s.patch(&path, json!({"version": t["version"], "policy": mine["id"]})).await;
    assert_eq!((status, t["policy"]["name"].as_str()), (200, Some("Loft rules")), "{t}");
    let (_, t) = s.whole(&path).await;
    let r4 = part(&t, "R4");
    assert_eq!(r4["judgement"]["verdict"], "watch");
    assert!(r4["judgement"]["schools_differ"].as_str().unwrap().starts_with("Loft rules: watch;"), "{r4}");
    let decide = json!({"key": Uuid::new_v4(), "version": r4["version"], "decided": "watch"});
    let (_, p) = s.post(&format!("/api/parts/{}/decisions", id(r4)), decide).await;
    assert_eq!(
        (p["decision"]["school"].as_str(), p["decision"]["policy"].as_str()),
        (Some("test first"), Some("Loft rules"))
    );
    // A copy that is followed stays; its numbers can change, and the ticket is judged anew.
    let policy = format!("/api/policies/{}", id(&mine));
    let gone = s.client.delete(format!("{}{policy}", s.url)).send().await.unwrap();
    assert_eq!(gone.status(), 409);
    let change = json!({"version": mine["version"], "name": "Loft rules", "school": "test first", "numbers": {"watch_from": "95 %"}});
    assert_eq!(s.patch(&policy, change.clone()).await.0, 200);
    assert_eq!(s.patch(&policy, change).await.0, 409, "changed since");
    let (_, t) = s.whole(&path).await;
    assert_eq!(part(&t, "R4")["judgement"]["verdict"], "keep");
    let (_, t) = s.patch(&path, json!({"version": t["version"], "school": "keep original"})).await;
    assert!(t["policy"].is_null(), "another school takes the place of a copy");
    assert_eq!(s.client.delete(format!("{}{policy}", s.url)).send().await.unwrap().status(), 200);
    assert_eq!(s.client.delete(format!("{}{policy}", s.url)).send().await.unwrap().status(), 404);
}

#[tokio::test]
async fn a_number_that_no_school_can_have_is_refused_beside_its_field() {
    let s = Server::empty().await;
    for (numbers, field, words) in [
        (json!({"watt_factor": "9"}), "numbers.watt_factor", "2 to 5"),
        (json!({"grid_shift_volts": "ten"}), "numbers.grid_shift_volts", "'ten'"),
        (json!({"luck": "1"}), "numbers.luck", "'luck'"),
    ] {
        let body = json!({"name": "X", "school": "keep original", "numbers": numbers});
        let (status, problem) = s.post("/api/policies", body).await;
        assert_eq!((status, problem["field"].as_str()), (422, Some(field)), "{problem}");
        assert!(problem["detail"].as_str().unwrap().contains(words), "{problem}");
    }
    let tight = json!({"name": "X", "school": "keep original", "tight": true});
    assert_eq!(s.post("/api/policies", tight).await.1["field"], "tight");
    let unknown = json!({"name": "T", "source": "battery", "devices": "valves", "school": "test first", "policy": Uuid::new_v4()});
    assert_eq!(s.post("/api/tickets", unknown).await.1["field"], "policy");
}

#[tokio::test]
async fn an_instrument_is_kept_with_its_ranges_and_readings_keep_its_accuracy() {
    let s = Server::empty().await;
    let way =
        |ranges: Value| json!({"name": "ohms", "quantity": "resistance", "mode": "dc", "ranges": ranges});
    let ranges = json!([{"up_to": "200", "percent": "0.8", "counts": 2, "resolution": "0.1"},
        {"up_to": "20k", "percent": "0.5 %", "counts": 1, "resolution": "10"}]);
    let body = json!({"name": "Loft meter", "kind": "multimeter", "checked_on": "2001-03-04", "ways": [way(ranges.clone())]});
    let (status, all) = s.post("/api/instruments", body.clone()).await;
    assert_eq!((status, all[0]["overdue"].as_bool()), (201, Some(true)), "{all}");
    assert_eq!(all[0]["ways"][0]["ranges"][1]["up_to"], "20 kΩ");
    let t = s.ticket(&["R1 12k 5% = 12.4k lifted", "R2 150 5% = 151 lifted"]).await;
    let accuracy =
        |t: &Value, name: &str| part(t, name)["readings"][0]["accuracy"].as_str().unwrap().to_owned();
    // 0.5 % of 12.4 kΩ and one count of 10 Ω; 0.8 % of 151 Ω and two counts of 0.1 Ω.
    assert_eq!((accuracy(&t, "R1"), accuracy(&t, "R2")), ("±72 Ω".to_owned(), "±1.4 Ω".to_owned()));
    let path = format!("/api/instruments/{}", id(&all[0]));
    let mut closer = body.clone();
    closer["version"] = all[0]["version"].clone();
    closer["ways"] =
        json!([way(json!([{"up_to": "20k", "percent": "0.1", "counts": 1, "resolution": "1"}]))]);
    assert_eq!(s.patch(&path, closer.clone()).await.0, 200);
    assert_eq!(s.patch(&path, closer).await.0, 409, "changed since");
    let (_, t) = s.whole(&format!("/api/tickets/{}", id(&t))).await;
    assert_eq!(accuracy(&t, "R1"), "±72 Ω", "as it was when it was taken");
    for (change, field) in [
        (json!({"name": ""}), "name"),
        (json!({"checked_on": "yesterday"}), "checked_on"),
        (
            json!({"ways": [way(json!([{"up_to": "20k", "percent": "much", "counts": 1, "resolution": "1"}]))]}),
            "ways[0].ranges[0].percent",
        ),
        (
            json!({"ways": [way(json!([{"up_to": "20", "percent": "1", "counts": 1, "resolution": "30"}]))]}),
            "ways[0].ranges",
        ),
        (json!({"ways": [way(ranges.clone()), way(ranges.clone())]}), "ways[1].name"),
    ] {
        let mut bad = body.clone();
        bad["name"] = json!("Another");
        for (k, v) in change.as_object().unwrap() {
            bad[k] = v.clone();
        }
        let (status, problem) = s.post("/api/instruments", bad).await;
        assert_eq!((status, problem["field"].as_str()), (422, Some(field)), "{change}: {problem}");
    }
    assert_eq!(s.post("/api/instruments", body).await.1["field"], "name", "the name is taken");
}

/// The database's table of places is the program's.
#[tokio::test]
async fn the_database_knows_the_same_places() {
    use owl_core::named::Named;
    use owl_core::part::{PartKind, Position};
    let s = Server::empty().await;
    let rows: Vec<(String, String)> =
        sqlx::query_as("select kind, position from sits").fetch_all(&s.pool).await.unwrap();
    let ours: std::collections::BTreeSet<(String, String)> = PartKind::ALL
        .iter()
        .flat_map(|k| Position::of(*k).map(|p| (k.name().to_owned(), p.name().to_owned())))
        .collect();
    assert_eq!(rows.into_iter().collect::<std::collections::BTreeSet<_>>(), ours);
}
