//! Reforming over HTTP: the plan, a whole run on the simulated bench, a guided one, what is kept, and what a second
//! server does.

use std::time::{Duration, Instant};

use serde_json::{Value, json};
use tokio::time::sleep;
use uuid::Uuid;

use crate::support::{Server, database, part};

/// 24 µF 350 V at 260 V, thirty years idle, 300 V through 22 kΩ.
fn contract() -> Value {
    json!({"capacitance": 2.4e-5, "rated": 350, "working": 260, "idle_years": 30,
           "supply": {"voltage": 300, "series": 22000, "current_limit": null}})
}

/// One that is done in a quarter of an hour of its own time: a second and a half at 600×.
fn quick() -> Value {
    json!({"capacitance": 1e-5, "rated": 160, "working": 110, "idle_years": 1,
           "supply": {"voltage": 150, "series": 10000}})
}

async fn electrolytic(s: &Server) -> Value {
    s.ticket(&["C3 10u 160V electrolytic smoothing", "R1 4k7 10%", "C4 .05 400V wax paper coupling"]).await
}

async fn prepared(s: &Server, ticket: &Value, more: Value) -> String {
    let id = Uuid::new_v4().to_string();
    let mut body = json!({"id": id, "part_id": part(ticket, "C3")["id"], "plan": quick(), "mode": "simulated bench",
                          "speed": 600, "clip": "fresh", "seed": 1});
    for (k, v) in more.as_object().unwrap() {
        body[k] = v.clone();
    }
    let (status, run) = s.post("/api/reform/runs", body).await;
    assert_eq!(status, 201, "{run}");
    id
}

async fn until(s: &Server, id: &str, what: impl Fn(&Value) -> bool) -> Value {
    let begin = Instant::now();
    loop {
        let (_, run) = s.get(&format!("/api/reform/runs/{id}")).await;
        if what(&run) {
            return run;
        }
        assert!(begin.elapsed() < Duration::from_secs(45), "still {run}");
        sleep(Duration::from_millis(150)).await;
    }
}

async fn switched_on(s: &Server, id: &str) {
    until(s, id, |r| r["touch"]["safe"] == true).await;
    let on = json!({"session": Uuid::new_v4(), "name": "Runa"});
    let (status, run) = s.post(&format!("/api/reform/runs/{id}/start"), on).await;
    assert_eq!((status, &run["phase"]), (200, &json!("feeding")), "{run}");
}

#[tokio::test]
async fn the_plan_is_as_the_contract_says() {
    let s = Server::empty().await;
    let (status, p) = s.post("/api/reform/plan", contract()).await;
    assert_eq!(status, 200, "{p}");
    for field in ["stages", "limits", "peak_current", "resistor_power", "expected_s", "discharge", "cautions"]
    {
        assert!(!p[field].is_null(), "{field}");
    }
    // R5: 84 µA, 0.9 mA and 3 mA; 300 V over 22 kΩ.
    assert!((p["limits"]["military"].as_f64().unwrap() - 0.9e-3).abs() < 1e-9);
    assert!((p["peak_current"].as_f64().unwrap() - 300.0 / 22e3).abs() < 1e-9);
    assert!(p["stages"].as_array().unwrap().iter().all(|st| st["go_on_below"].as_f64().unwrap() > 0.0));
    // Of a part that nobody knows it counts as old.
    let mut unknown = contract();
    unknown.as_object_mut().unwrap().remove("idle_years");
    let (_, old) = s.post("/api/reform/plan", unknown).await;
    assert_eq!((&old["stages"], &old["expected_s"]), (&p["stages"], &p["expected_s"]));
    let (status, sim) = s.post("/api/reform/simulate", contract()).await;
    assert_eq!((status, &sim["outcome"]), (200, &json!("reformed")));
    let (t, v) = (sim["time"].as_array().unwrap(), sim["volts"].as_array().unwrap());
    assert_eq!(t.len(), v.len());
    assert!(v.iter().all(|v| v.as_f64().unwrap() <= 350.0) && sim["stages"] == p["stages"]);
    for (change, field) in [
        (json!({"supply": {"voltage": 400, "series": 22000}}), "supply.voltage"),
        (json!({"supply": {"voltage": 300}}), "supply.series"),
        (json!({"supply": {"voltage": 300, "series": 22000, "series_power": 1}}), "supply.series_power"),
        (json!({"polarity_known": false}), "polarity_known"),
        (json!({"vented": true}), "vented"),
        (json!({"capacitance": -1}), "capacitance"),
        (json!({"idle_years": 1e9}), "idle_years"),
        (json!({"working": 351}), "working"),
    ] {
        let mut q = contract();
        q.as_object_mut().unwrap().extend(change.as_object().unwrap().clone());
        let (status, refused) = s.post("/api/reform/plan", q).await;
        assert_eq!((status, &refused["field"]), (422, &json!(field)), "{refused}");
    }
}

#[tokio::test]
async fn a_whole_run_on_the_simulated_bench() {
    let s = Server::empty().await;
    let ticket = electrolytic(&s).await;
    let id = prepared(&s, &ticket, json!({})).await;
    let address = format!("/api/reform/runs/{id}");
    // Not before it was seen empty, and not before somebody has read the cautions.
    until(&s, &id, |r| r["touch"]["safe"] == true).await;
    let session = Uuid::new_v4();
    let (status, refused) = s.post(&format!("{address}/start"), json!({"session": session})).await;
    assert_eq!((status, &refused["field"]), (422, &json!("name")));
    let (status, run) =
        s.post(&format!("{address}/start"), json!({"session": session, "name": "Runa"})).await;
    assert_eq!((status, &run["touch"]["word"]), (200, &json!("Do not touch")));
    let kept = sqlx::query_scalar::<_, String>("select name from acknowledgement where session = $1")
        .bind(session)
        .fetch_one(&s.pool)
        .await
        .unwrap();
    assert_eq!(kept, "Runa");
    let over = until(&s, &id, |r| r["phase"] == "over").await;
    assert_eq!((&over["ending"], &over["touch"]["safe"]), (&json!("reformed"), &json!(true)), "{over}");
    // Everything is kept and comes out in open formats.
    let csv = s.text(&format!("{address}/record.csv")).await;
    let (_, record) = s.get(&format!("{address}/record.json")).await;
    let samples = record["samples"].as_array().unwrap();
    assert_eq!(csv.lines().count(), samples.len() + 1);
    assert!(samples.iter().all(|r| r["volts"].as_f64().unwrap() <= 160.0));
    assert!(samples.windows(2).all(|w| w[0]["at_s"].as_f64() < w[1]["at_s"].as_f64()));
    let svg = s.text(&format!("{address}/chart.svg")).await;
    assert!(svg.starts_with("<svg") && svg.contains("polyline") && svg.contains("C3"));
    // The leakage becomes a reading of the part, once.
    let key = Uuid::new_v4();
    for _ in 0..2 {
        let (status, part) = s.post(&format!("{address}/leakage"), json!({"key": key})).await;
        assert_eq!(status, 201, "{part}");
        let readings = part["readings"].as_array().unwrap();
        assert_eq!(readings.len(), 1);
        assert_eq!(
            (&readings[0]["quantity"], &readings[0]["instrument"]),
            (&json!("leakage_current"), &json!("simulated bench"))
        );
    }
    let (_, of) = s.get(&format!("/api/parts/{}/reform", part(&ticket, "C3")["id"].as_str().unwrap())).await;
    assert_eq!(of["runs"].as_array().unwrap().len(), 1);
    assert_eq!(s.delete(&address).await, 409, "what was switched on is kept");
}

#[tokio::test]
async fn a_part_that_does_not_heal_is_given_up_and_emptied() {
    let s = Server::empty().await;
    let ticket = electrolytic(&s).await;
    let id = prepared(&s, &ticket, json!({"clip": "shorted"})).await;
    switched_on(&s, &id).await;
    let over = until(&s, &id, |r| r["phase"] == "over").await;
    assert_eq!((&over["ending"], &over["scrap"]), (&json!("shorted"), &json!(true)), "{over}");
    // A meter that says nothing for half a minute in mid-stage.
    let silent = json!([{"fault": "silent", "from_s": 120, "to_s": 150}]);
    let id = prepared(&s, &ticket, json!({"faults": silent})).await;
    switched_on(&s, &id).await;
    let over = until(&s, &id, |r| r["phase"] == "over").await;
    assert_eq!(over["ending"], "no reading", "{over}");
}

#[tokio::test]
async fn only_what_can_be_reformed_is_and_one_at_a_time() {
    let s = Server::empty().await;
    let ticket = electrolytic(&s).await;
    let id = prepared(&s, &ticket, json!({})).await;
    let again = |name: &str, more: Value| {
        let mut body = json!({"id": Uuid::new_v4(), "part_id": part(&ticket, name)["id"], "plan": quick(), "mode": "guided"});
        body.as_object_mut().unwrap().extend(more.as_object().unwrap().clone());
        body
    };
    assert_eq!(s.post("/api/reform/runs", again("C3", json!({}))).await.0, 409, "it lies there already");
    for (name, more, field) in
        [("C4", json!({}), "part_id"), ("R1", json!({}), "part_id"), ("C3", json!({"speed": 60}), "speed")]
    {
        let (status, refused) = s.post("/api/reform/runs", again(name, more)).await;
        assert_eq!((status, &refused["field"]), (422, &json!(field)), "{refused}");
    }
    let (_, desk) = s.get("/api/reform/desk").await;
    assert_eq!(desk["queue"].as_array().unwrap().len(), 1);
    assert_eq!(s.get("/api/reform/candidates").await.1, json!([]));
    assert_eq!(s.delete(&format!("/api/reform/runs/{id}")).await, 204);
    assert_eq!(s.get("/api/reform/candidates").await.1[0]["part"], "C3");
    assert_eq!(s.get(&format!("/api/reform/runs/{id}")).await.0, 404);
}

#[tokio::test]
async fn a_hand_turns_the_knob_and_types() {
    let s = Server::empty().await;
    let ticket = electrolytic(&s).await;
    let id = prepared(&s, &ticket, json!({"mode": "guided", "speed": null, "clip": null})).await;
    let address = format!("/api/reform/runs/{id}");
    let on = json!({"session": Uuid::new_v4(), "name": "Runa"});
    assert_eq!(s.post(&format!("{address}/start"), on.clone()).await.0, 409, "nobody has measured it");
    let typed = |volts: &str, current: Option<&str>| json!({"key": Uuid::new_v4(), "volts": volts, "current": current});
    let readings = format!("{address}/readings");
    let (_, run) = s.post(&readings, typed("31", None)).await;
    assert_eq!(run["touch"]["safe"], false, "{run}");
    let (status, refused) = s.post(&readings, typed("a lot", None)).await;
    assert_eq!((status, &refused["field"]), (422, &json!("volts")));
    let (status, refused) = s.post(&readings, typed("35k", None)).await;
    assert_eq!((status, &refused["field"]), (422, &json!("volts")), "{refused}");
    let (_, run) = s.post(&readings, typed("0.4", None)).await;
    assert_eq!(run["touch"]["safe"], true);
    let (status, run) = s.post(&format!("{address}/start"), on).await;
    assert_eq!(status, 200, "{run}");
    assert!(run["sentence"].as_str().unwrap().starts_with("Turn the supply up to"), "{run}");
    let (status, refused) = s.post(&readings, typed("30", None)).await;
    assert_eq!((status, &refused["field"]), (422, &json!("current")), "volts alone judge nothing");
    // Sent twice, taken once.
    let once = typed("35.2", Some("1.4m"));
    let (_, first) = s.post(&readings, once.clone()).await;
    let (_, second) = s.post(&readings, once).await;
    assert_eq!((&first["volts"]["text"], &second["amperes"]["text"]), (&json!("35.2 V"), &json!("1.40 mA")));
    let stored =
        sqlx::query_scalar::<_, i64>("select samples from reform_run").fetch_one(&s.pool).await.unwrap();
    assert_eq!(stored, 3);
    // Turned too far is warned of; above the rating it is stopped.
    let (_, run) = s.post(&readings, typed("90", Some("1m"))).await;
    assert!(run["said"][0]["text"].as_str().unwrap().contains("too far"), "{run}");
    let (_, run) = s.post(&readings, typed("171", Some("1m"))).await;
    assert_eq!((&run["phase"], &run["ending"]), (&json!("emptying"), &json!("above its rating")));
    for volts in ["60", "3.1", "2.2"] {
        s.post(&readings, typed(volts, None)).await;
    }
    let (_, run) = s.get(&address).await;
    assert_eq!((&run["phase"], &run["touch"]["safe"]), (&json!("over"), &json!(true)));
}

/// Reads events until one fits; the last id, how many readings came, and the run.
async fn listen(
    s: &Server,
    id: &str,
    after: Option<i64>,
    what: impl Fn(&Value) -> bool,
) -> (i64, usize, Value) {
    let mut request = s.client.get(format!("{}/api/reform/runs/{id}/live", s.url));
    if let Some(after) = after {
        request = request.header("last-event-id", after.to_string());
    }
    let mut response = request.send().await.unwrap();
    assert_eq!(response.headers()["content-type"], "text/event-stream");
    let (mut text, mut count) = (String::new(), 0);
    while let Ok(Some(chunk)) = response.chunk().await {
        text.push_str(&String::from_utf8_lossy(&chunk));
        while let Some(end) = text.find("\n\n") {
            let event: String = text.drain(..end + 2).collect();
            let Some(data) = event.lines().find_map(|l| l.strip_prefix("data: ").or(l.strip_prefix("data:")))
            else {
                continue;
            };
            let event: Value = serde_json::from_str(data).unwrap();
            let last = event["last"].as_i64().unwrap();
            count += event["samples"].as_array().unwrap().len();
            if what(&event["run"]) {
                return (last, count, event["run"].clone());
            }
        }
    }
    panic!("the stream ended")
}

#[tokio::test]
async fn whoever_comes_back_misses_nothing_and_several_may_watch() {
    let s = Server::empty().await;
    let ticket = electrolytic(&s).await;
    let id = prepared(&s, &ticket, json!({"speed": 300})).await;
    switched_on(&s, &id).await;
    let fed = |run: &Value| run["at_s"].as_f64().unwrap_or(0.0) > 100.0;
    let (last, first, run) = listen(&s, &id, None, fed).await;
    assert_eq!((last, run["phase"].as_str()), (i64::try_from(first).unwrap(), Some("feeding")));
    sleep(Duration::from_millis(1200)).await;
    let over = |run: &Value| run["phase"] == "over";
    let ((end, rest, _), (all, whole, _)) =
        tokio::join!(listen(&s, &id, Some(last), over), listen(&s, &id, None, over));
    assert_eq!(end, all);
    assert_eq!(first + rest, whole, "the second part joins the first without a gap");
    let stored =
        sqlx::query_scalar::<_, i64>("select count(*) from reform_sample").fetch_one(&s.pool).await.unwrap();
    assert_eq!(i64::try_from(whole).unwrap(), stored);
    assert_eq!(s.get(&format!("/api/reform/runs/{}/live", Uuid::new_v4())).await.0, 404);
}

/// A server in a process of its own, that can be killed.
fn process(database: &str) -> (std::process::Child, String) {
    use std::io::{BufRead, BufReader};
    let mut child = std::process::Command::new(env!("CARGO_BIN_EXE_restless-owl"))
        .args(["serve", "--listen", "127.0.0.1:0"])
        .env("OWL_DATABASE_URL", database)
        .stdout(std::process::Stdio::piped())
        .stderr(std::process::Stdio::null())
        .spawn()
        .unwrap();
    let mut line = String::new();
    BufReader::new(child.stdout.take().unwrap()).read_line(&mut line).unwrap();
    let url = line.split_whitespace().find(|w| w.starts_with("http://")).unwrap().to_owned();
    (child, url)
}

#[tokio::test]
async fn a_run_of_a_killed_server_is_in_other_hands_within_seconds() {
    let database = database().await;
    let b = Server::on(&database).await;
    let (mut child, url) = process(&database);
    let a = b.at(&url);
    let ticket = electrolytic(&a).await;
    let id = prepared(&a, &ticket, json!({"speed": 1})).await;
    switched_on(&a, &id).await;
    child.kill().unwrap();
    child.wait().unwrap();
    let begun = Instant::now();
    until(&b, &id, |r| r["ending"] == "interrupted").await;
    // The promise is five seconds; a loaded machine may take longer, and says so.
    println!("the killed server's run was stopped by the other after {:.1} s", begun.elapsed().as_secs_f64());
}

#[tokio::test]
async fn a_run_whose_server_is_gone_is_interrupted_and_must_be_emptied() {
    let database = database().await;
    let a = Server::on(&database).await;
    let b = Server::on(&database).await;
    let ticket = electrolytic(&a).await;
    let id = prepared(&a, &ticket, json!({"speed": 1})).await;
    switched_on(&a, &id).await;
    let driver = "select driver from reform_run";
    let mine: Uuid = sqlx::query_scalar(driver).fetch_one(&a.pool).await.unwrap();
    sleep(Duration::from_secs(4)).await;
    let still: Uuid = sqlx::query_scalar(driver).fetch_one(&a.pool).await.unwrap();
    assert_eq!(mine, still, "the other server leaves it alone");
    // A server that was killed: nobody holds the lease any more.
    sqlx::query("update reform_run set driver = $1, driven_until = now() - interval '1 minute'")
        .bind(Uuid::new_v4())
        .execute(&a.pool)
        .await
        .unwrap();
    let run = until(&b, &id, |r| r["phase"] == "emptying").await;
    assert_eq!((&run["ending"], &run["touch"]["safe"]), (&json!("interrupted"), &json!(false)), "{run}");
    assert!(run["sentence"].as_str().unwrap().contains("may be charged"), "{run}");
    assert_eq!(
        (&run["safe"], &b.get("/api/reform/desk").await.1["queue"][0]["planned_at"]),
        (&json!(false), &Value::Null)
    );
    let (status, _) = b
        .post(&format!("/api/reform/runs/{id}/start"), json!({"session": Uuid::new_v4(), "name": "R"}))
        .await;
    assert_eq!(status, 409, "nothing else before it was emptied and measured");
    b.post(&format!("/api/reform/runs/{id}/command"), json!({"command": "discharge"})).await;
    let over = until(&a, &id, |r| r["phase"] == "over").await;
    assert_eq!((&over["ending"], &over["touch"]["safe"]), (&json!("interrupted"), &json!(true)));
}

#[tokio::test]
async fn the_demo_shows_a_run_in_progress_and_an_evening() {
    let s = Server::demo().await;
    let (_, desk) = s.get("/api/reform/desk").await;
    let queue = desk["queue"].as_array().unwrap();
    assert_eq!((&queue[0]["part"], &queue[0]["phase"]), (&json!("C18"), &json!("feeding")), "{desk}");
    assert_eq!((&queue[1]["part"], &queue[1]["phase"]), (&json!("C19"), &json!("ready")));
    assert!(queue[1]["planned_at"].as_str() > queue[0]["planned_at"].as_str(), "one after the other");
    let id = queue[0]["id"].as_str().unwrap();
    let (_, one) = s.get(&format!("/api/reform/runs/{id}")).await;
    let later = until(&s, id, |r| r["at_s"].as_f64() > one["at_s"].as_f64()).await;
    assert_eq!(later["phase"], "feeding", "the first server that came goes on with it: {later}");
    let (_, ticket) = s.get("/api/tickets").await;
    let corvane = ticket.as_array().unwrap().iter().find(|t| t["name"] == "Corvane Sounder 3").unwrap();
    let (_, corvane) = s.whole(&format!("/api/tickets/{}", corvane["id"].as_str().unwrap())).await;
    let (_, past) =
        s.get(&format!("/api/parts/{}/reform", part(&corvane, "C7")["id"].as_str().unwrap())).await;
    assert_eq!(past["runs"][0]["ended"], "reformed", "{}", past["runs"][0]["ended"]);
}

#[tokio::test]
async fn a_can_is_reformed_section_by_section() {
    let s = Server::empty().await;
    let ticket = s.ticket(&["C8 20+10/250 electrolytic smoothing"]).await;
    let c8 = part(&ticket, "C8")["id"].as_str().unwrap().to_owned();
    let (_, of) = s.get(&format!("/api/parts/{c8}/reform")).await;
    let sections = of["sections"].as_array().unwrap();
    assert_eq!(sections.len(), 2, "{of}");
    assert_eq!((&sections[1]["name"], &sections[1]["capacitance"]), (&json!("B"), &json!("10 µF")));
    let mut runs = Vec::new();
    for (section, farads) in [("A", 2e-5), ("B", 1e-5)] {
        let id = Uuid::new_v4().to_string();
        let plan = json!({"capacitance": farads, "rated": 250, "working": 180, "idle_years": 1, "section": section,
                          "supply": {"voltage": 250, "series": 10000}});
        let new =
            json!({"id": id, "part_id": c8, "plan": plan, "mode": "simulated bench", "speed": 1, "seed": 2});
        let (status, run) = s.post("/api/reform/runs", new).await;
        assert_eq!(status, 201, "{run}");
        assert!(run["cautions"].to_string().contains(&format!("Section {section}")), "{run}");
        runs.push(id);
    }
    switched_on(&s, &runs[0]).await;
    until(&s, &runs[1], |r| r["touch"]["safe"] == true).await;
    let on = json!({"session": Uuid::new_v4(), "name": "Runa"});
    let (status, refused) = s.post(&format!("/api/reform/runs/{}/start", runs[1]), on).await;
    assert_eq!(status, 409, "{refused}");
    assert!(refused["detail"].as_str().unwrap().contains("one after the other"), "{refused}");
}

#[tokio::test]
async fn ten_hands_at_once_prepare_one_run_and_the_bench_goes_on() {
    let s = Server::empty().await;
    let ticket = electrolytic(&s).await;
    let body = |id: Uuid| {
        json!({"id": id, "part_id": part(&ticket, "C3")["id"], "plan": quick(), "mode": "simulated bench", "speed": 60,
               "clip": "tired", "seed": 4})
    };
    let id = Uuid::new_v4();
    let all = at_once(&s, (0..8).map(|_| body(id))).await;
    assert!(all.iter().all(|s| *s == 201), "the same one sent eight times: {all:?}");
    switched_on(&s, &id.to_string()).await;
    // The driver writes the run twice a second while others try to take its place.
    for _ in 0..4 {
        let others = at_once(&s, (0..8).map(|_| body(Uuid::new_v4()))).await;
        assert!(others.iter().all(|s| *s == 409), "{others:?}");
    }
    let (_, run) = s.get(&format!("/api/reform/runs/{id}")).await;
    assert_eq!(run["phase"], "feeding", "{run}");
}

/// Sends them all at once; the statuses.
async fn at_once(s: &Server, bodies: impl Iterator<Item = Value>) -> Vec<u16> {
    let mut tasks = tokio::task::JoinSet::new();
    for body in bodies {
        let s = s.clone();
        tasks.spawn(async move { s.post("/api/reform/runs", body).await.0 });
    }
    tasks.join_all().await
}
