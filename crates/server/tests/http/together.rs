//! Two servers on one database: what one bench does, the others hear.

use std::time::{Duration, Instant};

use serde_json::{Value, json};
use uuid::Uuid;

use crate::support::{Server, database, part};

/// Two servers on one database, with a ticket that holds one part.
async fn two() -> (Server, Server, String) {
    let database = database().await;
    let (a, b) = (Server::on(&database).await, Server::on(&database).await);
    let ticket = a.ticket(&["R4 4k7 10%"]).await;
    (a, b, ticket["id"].as_str().unwrap().to_owned())
}

/// Somebody who listens.
struct Ear {
    page: Uuid,
    response: reqwest::Response,
    text: String,
    last: String,
}

impl Ear {
    async fn at(s: &Server, ticket: &str, after: Option<&str>) -> Self {
        Self::of(s, Uuid::new_v4(), ticket, after).await
    }

    async fn of(s: &Server, page: Uuid, ticket: &str, after: Option<&str>) -> Self {
        let mut request = s.client.get(format!("{}/api/events?page={page}&ticket={ticket}", s.url));
        if let Some(after) = after {
            request = request.header("last-event-id", after);
        }
        let response = request.send().await.unwrap();
        assert_eq!(
            (response.status(), &response.headers()["content-type"]),
            (reqwest::StatusCode::OK, &"text/event-stream".parse().unwrap())
        );
        Self { page, response, text: String::new(), last: String::new() }
    }

    async fn next(&mut self) -> Value {
        loop {
            if let Some(end) = self.text.find("\n\n") {
                let event: String = self.text.drain(..end + 2).collect();
                let field = |name: &str| {
                    event.lines().find_map(|l| l.strip_prefix(name)).map(str::trim).map(str::to_owned)
                };
                if let Some(data) = field("data:") {
                    self.last = field("id:").unwrap();
                    return serde_json::from_str(&data).unwrap();
                }
                continue;
            }
            let chunk = tokio::time::timeout(Duration::from_secs(60), self.response.chunk()).await;
            let chunk = chunk.unwrap().unwrap().unwrap();
            self.text.push_str(&String::from_utf8_lossy(&chunk));
        }
    }

    /// Hears until something is told.
    async fn until(&mut self, what: impl Fn(&Value) -> bool) -> Value {
        loop {
            let told = self.next().await;
            if what(&told) {
                return told;
            }
        }
    }

    /// Comes in: who is here, and that everything is to be looked at.
    async fn settled(mut self) -> Self {
        self.until(|e| e["what"] == "look").await;
        self
    }
}

async fn measured(s: &Server, ticket: &str, page: Option<Uuid>) {
    let (_, read) = s.get(&format!("/api/tickets/{ticket}")).await;
    let r4 = part(&read, "R4");
    let body = json!({"key": Uuid::new_v4(), "version": r4["version"], "typed": "4.9k", "state": "lifted"});
    let mut request =
        s.client.post(format!("{}/api/parts/{}/readings", s.url, r4["id"].as_str().unwrap())).json(&body);
    if let Some(page) = page {
        request = request.header("x-owl-page", page.to_string());
    }
    let said = s.patiently(request).await;
    assert_eq!(said.status(), 201, "{}", said.text().await.unwrap());
}

#[tokio::test]
async fn what_one_bench_does_appears_at_the_others_whichever_server_they_came_by() {
    let (a, b, ticket) = two().await;
    let mut same = Ear::at(&a, &ticket, None).await.settled().await;
    let mut other = Ear::at(&b, &ticket, None).await.settled().await;
    let begun = Instant::now();
    measured(&a, &ticket, None).await;
    let of_the_ticket = |e: &Value| e["what"] == "ticket" && e["id"] == json!(ticket);
    same.until(of_the_ticket).await;
    other.until(of_the_ticket).await;
    println!(
        "a reading is heard at the other server after {} ms, with its writing",
        begun.elapsed().as_millis()
    );
    // What belongs to all is told to all.
    let (status, said) = b
        .post(
            "/api/drawers",
            json!({"id": Uuid::new_v4(), "fields": {"kind": "resistor", "value": "3k9", "count": "4"}}),
        )
        .await;
    assert_eq!(status, 201, "{said}");
    same.until(|e| e["what"] == "workshop").await;
}

#[tokio::test]
async fn a_page_is_not_told_what_it_did_itself() {
    let (a, b, ticket) = two().await;
    let mut ear = Ear::at(&b, &ticket, None).await.settled().await;
    measured(&a, &ticket, Some(ear.page)).await;
    // The next word is of something else.
    b.say(&ticket, "R5 1k").await;
    let first = ear.until(|e| e["what"] == "ticket").await;
    assert_eq!(first["id"], json!(ticket));
    let (_, read) = b.get(&format!("/api/tickets/{ticket}")).await;
    assert_eq!(read["parts"].as_array().unwrap().len(), 2, "it was the second deed that was told");
}

#[tokio::test]
async fn whoever_comes_back_hears_what_was_missed_and_no_more() {
    let (a, b, ticket) = two().await;
    // The position of a ticket that was read is where hearing begins.
    let read = b.client.get(format!("{}/api/tickets/{ticket}", b.url)).send().await.unwrap();
    let position = read.headers()["x-owl-position"].to_str().unwrap().to_owned();
    let mut ear = Ear::at(&b, &ticket, Some(&position)).await;
    let here = ear.next().await;
    assert_eq!(
        here,
        json!({"what": "here", "others": []}),
        "nothing has happened since: nothing is to be looked at"
    );
    measured(&a, &ticket, None).await;
    ear.until(|e| e["what"] == "ticket").await;
    let (page, last) = (ear.page, ear.last.clone());
    drop(ear);
    measured(&a, &ticket, None).await;
    a.say(&ticket, "R5 1k").await;
    let mut back = Ear::of(&b, page, &ticket, Some(&last)).await;
    back.until(|e| e["what"] == "ticket").await;
    // At another server nobody knows what was missed.
    let mut elsewhere = Ear::of(&a, page, &ticket, Some(&last)).await;
    elsewhere.until(|e| e["what"] == "look").await;
}

#[tokio::test]
async fn who_else_is_at_the_ticket_is_told_as_they_come_and_go() {
    let (a, b, ticket) = two().await;
    let mut first = Ear::at(&a, &ticket, None).await.settled().await;
    let count = |e: &Value| e["others"].as_array().map(Vec::len);
    let second = Ear::at(&b, &ticket, None).await.settled().await;
    let seen = first.until(|e| count(e) == Some(1)).await;
    assert_eq!(seen["others"][0], json!({"name": "", "bench": "this bench", "own": true}));
    drop(second);
    first.until(|e| count(e) == Some(0)).await;
    // Whoever turns to another ticket has left the one before.
    let page = Uuid::new_v4();
    let _here = Ear::of(&b, page, &ticket, None).await.settled().await;
    first.until(|e| count(e) == Some(1)).await;
    let elsewhere = a.ticket(&[]).await;
    let _there = Ear::of(&b, page, elsewhere["id"].as_str().unwrap(), None).await.settled().await;
    first.until(|e| count(e) == Some(0)).await;
}

#[tokio::test]
async fn people_are_named_with_their_bench() {
    let (a, link) = Server::of_people(false).await;
    let signed = a.browser();
    let owner =
        json!({"link": link, "name": "Runa Tveit", "password": "three blue herons", "bench": "bench 2"});
    let (status, said) = signed.post("/api/session/link", owner).await;
    assert!(status < 300, "{said}");
    let ticket = signed.ticket(&[]).await;
    let id = ticket["id"].as_str().unwrap();
    let mut first = Ear::at(&signed, id, None).await.settled().await;
    let again = signed.browser();
    let (status, said) = again
        .post(
            "/api/session",
            json!({"name": "Runa Tveit", "password": "three blue herons", "bench": "bench 5"}),
        )
        .await;
    assert!(status < 300, "{said}");
    let _second = Ear::at(&again, id, None).await.settled().await;
    let seen = first.until(|e| e["others"].as_array().is_some_and(|o| o.len() == 1)).await;
    assert_eq!(seen["others"][0], json!({"name": "Runa Tveit", "bench": "bench 5", "own": false}));
    // Nobody hears who is not signed in.
    let stranger = a.browser();
    let refused =
        stranger.client.get(format!("{}/api/events?page={}", a.url, Uuid::new_v4())).send().await.unwrap();
    assert_eq!(refused.status(), 401);
}

#[tokio::test]
async fn a_broken_line_to_the_database_is_owned_up_to() {
    let (a, b, ticket) = two().await;
    let mut ear = Ear::at(&b, &ticket, None).await.settled().await;
    let last = ear.last.clone();
    sqlx::query(
        "select pg_terminate_backend(pid) from pg_stat_activity
         where datname = current_database() and query ilike 'listen%'",
    )
    .execute(&a.pool)
    .await
    .unwrap();
    ear.until(|e| e["what"] == "look").await;
    // It hears again.
    measured(&a, &ticket, None).await;
    ear.until(|e| e["what"] == "ticket").await;
    let mut back = Ear::of(&b, ear.page, &ticket, Some(&last)).await;
    back.until(|e| e["what"] == "look").await;
}

/// A chart with one point, seen with 250 V on its sheet, and a set of readings.
async fn charted(s: &Server) -> (String, Uuid, Uuid) {
    let ticket = s.ticket(&[]).await["id"].as_str().unwrap().to_owned();
    let (point, run) = (Uuid::new_v4(), Uuid::new_v4());
    let body = json!({"id": point, "at": "V3", "pin": 6, "sheet": "250"});
    assert_eq!(s.put(&format!("/api/tickets/{ticket}/chart/points"), body).await.0, 200);
    assert_eq!(
        s.put(&format!("/api/tickets/{ticket}/chart/runs"), json!({"id": run, "name": "before"})).await.0,
        200
    );
    (ticket, point, run)
}

#[tokio::test]
async fn a_reading_of_another_bench_is_shown_and_not_written_over() {
    let s = Server::empty().await;
    let (_, point, run) = charted(&s).await;
    let path = format!("/api/chart/runs/{run}/readings");
    let read = async |volts: &str, seen: &str| {
        s.put(&path, json!({"point": point, "volts": volts, "seen": seen})).await
    };
    assert_eq!(read("96", "").await.0, 200);
    let (status, said) = read("108", "").await;
    assert_eq!(
        (status, &said["changed"]),
        (409, &json!([{"field": "V3 pin 6", "before": "nothing", "now": "96 V"}])),
        "{said}"
    );
    assert_eq!(read("96", "").await.0, 200, "the same again after a lost answer");
    assert_eq!(read("108", "96 V").await.0, 200, "upon what is there");
    assert_eq!(read("", "96 V").await.0, 409, "nor is it taken away");
    assert_eq!(
        s.put(&path, json!({"point": point, "volts": "110"})).await.0,
        200,
        "a script that says nothing of what it saw"
    );
}

#[tokio::test]
async fn two_benches_at_one_point_keep_what_each_changed_and_see_what_both_did() {
    let s = Server::empty().await;
    let (ticket, point, _) = charted(&s).await;
    let path = format!("/api/tickets/{ticket}/chart/points");
    let seen = json!({"sheet": "250 V"});
    let put = async |mut body: Value| {
        body["id"] = json!(point);
        body["at"] = json!("V3");
        body["pin"] = json!(6);
        s.put(&path, body).await
    };
    let (status, chart) = put(json!({"sheet": "250 V", "note": "screen", "seen": seen})).await;
    assert_eq!(status, 200, "{chart}");
    // The other one saw no note yet, and changes the sheet: both stay.
    let (status, chart) = put(json!({"sheet": "240 V", "seen": seen})).await;
    let now = &chart["points"][0];
    assert_eq!((status, &now["note"], &now["sheet"]["text"]), (200, &json!("screen"), &json!("240 V")));
    // A third one changes the sheet too, upon what it was at first.
    let (status, said) = put(json!({"sheet": "230 V", "seen": seen})).await;
    assert_eq!(
        (status, &said["changed"]),
        (409, &json!([{"field": "sheet", "before": "250 V", "now": "240 V"}])),
        "{said}"
    );
    assert_eq!(put(json!({"sheet": "240", "seen": seen})).await.0, 200, "both changed it to the same");
    let (_, chart) = put(json!({"heater": true, "seen": {"heater": false}})).await;
    assert_eq!(
        (&chart["points"][0]["heater"], &chart["points"][0]["note"]),
        (&json!(true), &json!("screen"))
    );
}

#[tokio::test]
async fn closing_words_of_another_bench_are_shown_and_not_written_over() {
    let s = Server::empty().await;
    let ticket = s.ticket(&[]).await["id"].as_str().unwrap().to_owned();
    let path = format!("/api/tickets/{ticket}/closing");
    let say = async |words: &str, seen: &str| {
        s.put(&path, json!({"closed": false, "words": words, "seen": seen})).await
    };
    assert_eq!(say("keep it dry", "").await.0, 200);
    let (status, said) = say("mind the fuse", "").await;
    assert_eq!((status, &said["changed"][0]["now"]), (409, &json!("keep it dry")), "{said}");
    assert_eq!(say("keep it dry, mind the fuse", "keep it dry").await.0, 200);
}
