//! What was done last is taken back, ten steps deep: all that a deed wrote is as it was.

use serde_json::{Value, json};
use uuid::Uuid;

use crate::support::{Server, part};

struct Ticket<'a> {
    s: &'a Server,
    id: String,
}

impl Ticket<'_> {
    async fn last(&self) -> Value {
        self.s.get(&format!("/api/tickets/{}/deeds", self.id)).await.1["last"].clone()
    }

    async fn undo(&self) -> (u16, Value) {
        let deed = self.last().await["id"].clone();
        let (status, answer) =
            self.s.post(&format!("/api/tickets/{}/deeds/undo", self.id), json!({"deed": deed})).await;
        (status, answer)
    }

    async fn whole(&self) -> Value {
        self.s.whole(&format!("/api/tickets/{}", self.id)).await.1
    }

    async fn say(&self, text: &str) {
        let (status, said) = self.s.say(&self.id, text).await;
        assert_eq!(status, 200, "{text}: {said}");
    }

    /// What is compared before and after: all but what every write moves.
    async fn state(&self) -> (Value, Value, Value) {
        let mut doc = self.s.get(&format!("/api/tickets/{}/record.json", self.id)).await.1;
        for moving in ["version", "updated_at"] {
            doc["ticket"].as_object_mut().unwrap().remove(moving);
            for part in doc["parts"].as_array_mut().unwrap() {
                part.as_object_mut().unwrap().remove(moving);
            }
        }
        let drawers = self.s.get("/api/drawers").await.1["lots"].clone();
        let changes = self.s.get(&format!("/api/tickets/{}/changes", self.id)).await.1;
        doc.as_object_mut().unwrap().remove("exported_at");
        (doc, drawers, changes)
    }
}

async fn ticket(s: &Server) -> Ticket<'_> {
    let made = s.ticket(&["R31 4k7 10% 1W dropper", "C31 .01 MFD 400V coupling"]).await;
    Ticket { s, id: made["id"].as_str().unwrap().to_owned() }
}

#[tokio::test]
async fn each_deed_is_taken_back_and_leaves_nothing() {
    let s = Server::empty().await;
    let t = ticket(&s).await;
    t.say("R31 reads 8.1k lifted").await;
    let deeds = [
        "R31 replace",
        "R31 fitted 4k7 5% 2W metal film, measured 4.71k",
        "R31 as before, 180 V behind it",
        "R31 plays, hum gone",
        "C31 burnt reads .0123 lifted",
        "R32 22k 5% grid leak V2",
        "V2 6V6",
        "V2 sheet 250 240 12 0",
        "V2 248 236 11 0",
        "V2 plate 244",
    ];
    let mut states = vec![t.state().await];
    for text in deeds {
        t.say(text).await;
        states.push(t.state().await);
    }
    for (text, wanted) in deeds.iter().zip(&states).rev() {
        let (status, answer) = t.undo().await;
        assert_eq!(status, 200, "{text}: {answer}");
        let now = t.state().await;
        assert_eq!(now.0, wanted.0, "{text}");
        assert_eq!((&now.1, &now.2), (&wanted.1, &wanted.2), "{text}");
    }
    assert_eq!(t.last().await, Value::Null, "ten deep and no deeper");
    assert_eq!(t.undo().await.0, 422, "nothing to undo");
    assert_eq!(part(&t.whole().await, "R31")["status"], "judged", "what is to be done follows");
}

/// What is drawn, put together, answered and said of the whole set as well.
#[tokio::test]
async fn banks_branches_answers_and_the_set_are_taken_back() {
    let s = Server::empty().await;
    let t = ticket(&s).await;
    t.say("D1 silicon").await;
    t.say("D2 silicon").await;
    t.say("R33 1k 10% scorched reads 4k lifted").await;
    t.say("Q1 BC108").await;
    let id = &t.id;
    let of = async |name: &str| part(&t.whole().await, name).clone();
    let bank = json!({"id": Uuid::new_v4(), "name": "stack", "kind": "diode string", "volts": "600", "members": "D1 D2"});
    let feed = json!({"id": Uuid::new_v4(), "name": "screen", "rail": "250", "parts": "R1 from rail to g2 22k", "nodes": []});
    let version = t.whole().await["version"].clone();
    let r33 = of("R33").await;
    let cause = json!({"key": Uuid::new_v4(), "version": r33["version"], "answer": "the bypass behind it"});
    let ways = [
        ("1", "2", Some(0.66)),
        ("2", "1", None),
        ("1", "3", Some(0.64)),
        ("3", "1", None),
        ("2", "3", None),
        ("3", "2", None),
    ];
    let six: Vec<Value> = ways.iter().map(|(r, b, v)| json!({"red": r, "black": b, "volts": v})).collect();
    let junctions = json!({"key": Uuid::new_v4(), "question": {"readings": six}});
    let q1 = of("Q1").await;
    let all = [
        ("PUT", format!("/api/tickets/{id}/banks"), bank),
        ("PUT", format!("/api/tickets/{id}/feeds"), feed),
        ("PATCH", format!("/api/tickets/{id}"), json!({"version": version, "complaint": "hums"})),
        ("POST", format!("/api/parts/{}/causes", r33["id"].as_str().unwrap()), cause),
        ("POST", format!("/api/parts/{}/junctions", q1["id"].as_str().unwrap()), junctions),
    ];
    let mut states = vec![t.state().await.0];
    for (method, path, body) in &all {
        let (status, e) = match *method {
            "PUT" => s.put(path, body.clone()).await,
            "PATCH" => s.patch(path, body.clone()).await,
            _ => s.post(path, body.clone()).await,
        };
        assert!((200..300).contains(&status), "{path}: {e}");
        states.push(t.state().await.0);
    }
    for ((_, path, _), wanted) in all.iter().zip(&states).rev() {
        let before = t.state().await.0;
        assert_ne!(&before, wanted, "{path} did nothing");
        let (status, e) = t.undo().await;
        assert_eq!(status, 200, "{path}: {e}");
        assert_eq!(&t.state().await.0, wanted, "{path}");
    }
    // One that was taken away comes back whole.
    let put = s.put(&all[0].1, all[0].2.clone()).await;
    assert_eq!(put.0, 200);
    let with = t.state().await.0;
    let bank = put.1["banks"][0]["id"].as_str().unwrap().to_owned();
    assert_eq!(s.delete(&format!("/api/banks/{bank}")).await, 200);
    assert_eq!(t.undo().await.0, 200);
    assert_eq!(t.state().await.0, with);
    let put = s.put(&all[1].1, all[1].2.clone()).await;
    let with = t.state().await.0;
    assert_eq!(s.delete(&format!("/api/feeds/{}", put.1["feeds"][0]["id"].as_str().unwrap())).await, 200);
    assert_eq!(t.undo().await.0, 200);
    assert_eq!(t.state().await.0, with);
}

#[tokio::test]
async fn a_piece_goes_back_into_its_drawer_and_a_part_that_was_worked_on_stays() {
    let s = Server::empty().await;
    let t = ticket(&s).await;
    let lot = json!({"id": Uuid::new_v4(), "fields": {"kind": "resistor", "family": "metal film", "value": "4k7",
        "tolerance": "1 %", "watts": "2 W", "count": "5", "place": "net loft", "condition": "new"}});
    let (status, drawers) = s.post("/api/drawers", lot).await;
    assert!(status == 200 || status == 201, "{drawers}");
    t.say("R31 reads 8.1k lifted").await;
    t.say("R31 replace").await;
    let all = t.whole().await;
    let r31 = part(&all, "R31");
    let id = r31["id"].as_str().unwrap();
    let lots = async || s.get("/api/drawers").await.1["lots"][0].clone();
    let piece = json!([{"lot": lots().await["id"], "description": "4k7 1 % 2 W metal film"}]);
    let fit = json!({"key": Uuid::new_v4(), "version": r31["version"], "description": "4k7 1 % 2 W metal film", "value": "4k7",
        "tolerance": "1%", "watts": "2W", "family": "metal film", "measured": "4.7k", "pieces": piece});
    let (status, p) = s.post(&format!("/api/parts/{id}/fittings"), fit).await;
    assert_eq!((status, lots().await["count"].as_u64()), (201, Some(4)), "{p}");
    assert_eq!(t.last().await["what"], "R31: fitted 4k7 1 % 2 W metal film");
    assert_eq!((t.undo().await.0, lots().await["count"].as_u64()), (200, Some(5)));
    // Another window did something to what the deed wrote: it is held, in words.
    t.say("R33 1k 5%").await;
    let deed = t.last().await["id"].clone();
    let all = t.whole().await;
    let r33 = part(&all, "R33");
    let note = json!({"version": r33["version"], "note": "seen"});
    assert_eq!(s.patch(&format!("/api/parts/{}", r33["id"].as_str().unwrap()), note).await.0, 200);
    let (status, held) = s.post(&format!("/api/tickets/{}/deeds/undo", t.id), json!({"deed": deed})).await;
    assert_eq!(status, 409, "{held}");
    // Sent twice it is taken back once.
    let deed = t.last().await["id"].clone();
    for _ in 0..2 {
        let (status, a) = s.post(&format!("/api/tickets/{}/deeds/undo", t.id), json!({"deed": deed})).await;
        assert_eq!((status, part(&t.whole().await, "R33")["note"].as_str()), (200, Some("")), "{a}");
    }
    assert_eq!(s.get("/api/tickets/01a2c3d4-0000-7000-8000-000000000000/deeds").await.0, 404);
}
