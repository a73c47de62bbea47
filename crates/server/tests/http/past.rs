//! Past work: searches over all tickets, what sets needed, drift; and photographs, taken in by their content.

use serde_json::{Value, json};
use uuid::Uuid;

use crate::support::{Server, part};

async fn asked(s: &Server, q: &str) -> Value {
    let (status, a) = s.get(&format!("/api/past?q={}", q.replace(' ', "%20"))).await;
    assert_eq!(status, 200, "{a}");
    a
}

fn names(a: &Value) -> Vec<String> {
    let said = |p: &Value| format!("{} {}", p["set"].as_str().unwrap(), p["part"].as_str().unwrap());
    a["parts"].as_array().unwrap().iter().map(said).collect()
}

#[tokio::test]
async fn all_tickets_are_asked_as_one_would_ask_a_colleague() {
    let s = Server::empty().await;
    let open = async |name: &str, say: &[&str]| {
        let t = s.ticket(say).await;
        let change = json!({"version": t["version"], "name": name, "complaint": "salt in the wafer switch"});
        assert_eq!(s.patch(&format!("/api/tickets/{}", t["id"].as_str().unwrap()), change).await.0, 200);
        t
    };
    let one = open(
        "Lark 4",
        &[
            "R5 33 10% 1W screen feed = 51 lifted",
            "R6 33 10% 1W screen feed = 34 lifted",
            "R7 47k plate load = OL lifted",
        ],
    )
    .await;
    open(
        "Lark 5",
        &[
            "R5 33 10% 1W screen feed = 60 lifted",
            "C1 .05/400 coupling wax paper",
            "C1 leak = 90uA @200 lifted",
        ],
    )
    .await;
    assert_eq!(names(&asked(&s, "all 33 ohm screen feeds that were high").await), ["Lark 5 R5", "Lark 4 R5"]);
    assert_eq!(names(&asked(&s, "33 ohm screen feeds").await).len(), 3);
    assert_eq!(names(&asked(&s, "open plate loads").await), ["Lark 4 R7"]);
    let words = asked(&s, "wafer").await;
    assert_eq!(words["tickets"].as_array().unwrap().len(), 2, "{words}");
    assert_eq!(asked(&s, "replaced").await["parts"], json!([]));
    let p = part(&one, "R5");
    let decide = json!({"key": Uuid::new_v4(), "version": p["version"], "decided": "replace"});
    assert_eq!(s.post(&format!("/api/parts/{}/decisions", p["id"].as_str().unwrap()), decide).await.0, 201);
    assert_eq!(names(&asked(&s, "replaced").await), ["Lark 4 R5"]);
    let needed = asked(&s, "lark").await["needed"].clone();
    assert_eq!(
        (&needed[0]["set"], &needed[0]["part"], &needed[0]["times"]),
        (&json!("Lark 4"), &json!("R5"), &json!(1))
    );
    // What looks like the database's own language is words.
    assert_eq!(asked(&s, "'; drop table part; --").await["parts"], json!([]));
    assert_eq!(s.get(&format!("/api/past?q={}", "x".repeat(300))).await.0, 422);
    let (_, drift) = s.get("/api/past/drift").await;
    let composition = &drift["families"][0];
    assert_eq!(
        (&composition["family"], &composition["count"], &composition["out"]),
        (&json!("carbon composition"), &json!(3), &json!(2)),
        "{drift}"
    );
    // The middle one of 51, 34 and 60 for 33.
    assert!((composition["median"].as_f64().unwrap() - (51.0 / 33.0 - 1.0)).abs() < 1e-9);
}

#[tokio::test]
async fn a_file_is_taken_in_by_its_content_shown_small_and_taken_away() {
    let s = Server::empty().await;
    let t = s.ticket(&["R5 33 10%"]).await;
    let path = format!("/api/tickets/{}/attachments", t["id"].as_str().unwrap());
    let send = async |query: &str, bytes: Vec<u8>| {
        s.send_bytes(&format!("{path}?key={}&{query}", Uuid::new_v4()), bytes).await
    };
    let png =
        std::fs::read(concat!(env!("CARGO_MANIFEST_DIR"), "/../../docs/screenshots/bench.png")).unwrap();
    let (status, all) = send("name=below.exe&part=r5", png).await;
    assert_eq!(status, 201, "{all}");
    let a = &all[0];
    assert_eq!(
        (&a["name"], &a["part"], &a["picture"], &a["width"]),
        (&json!("below.exe"), &json!("R5"), &json!(true), &json!(1280))
    );
    let at = format!("/api/attachments/{}", a["id"].as_str().unwrap());
    let (headers, whole) = s.bytes(&at).await;
    assert_eq!(headers["content-type"], "image/png");
    assert_eq!(headers["content-security-policy"], "default-src 'none'; sandbox");
    let (headers, small) = s.bytes(&format!("{at}?small=true")).await;
    assert!(headers["content-type"] == "image/jpeg" && small.len() < whole.len() / 4);
    // A pin for a part on the picture, put, moved and taken off; not beside it, and not on a sheet.
    let mark = async |part: &str, x: Value, y: Value| {
        s.put(&format!("{at}/markers"), json!({"part": part, "x": x, "y": y})).await
    };
    for x in [0.25, 0.5] {
        let (status, all) = mark("r5", json!(x), json!(0.75)).await;
        assert_eq!((status, &all[0]["markers"]), (200, &json!([{"part": "R5", "x": x, "y": 0.75}])), "{all}");
    }
    assert_eq!(mark("R5", json!(1.5), json!(0)).await.1["field"], "x");
    assert_eq!(mark("R77", json!(0.5), json!(0.5)).await.1["field"], "part");
    assert_eq!(mark("R5", Value::Null, Value::Null).await.1[0]["markers"], json!([]));
    let (status, all) = send("name=sheet.pdf", b"%PDF-1.4 circuit".to_vec()).await;
    assert_eq!((status, &all[1]["picture"]), (201, &json!(false)), "{all}");
    let (headers, _) = s.bytes(&format!("/api/attachments/{}", all[1]["id"].as_str().unwrap())).await;
    assert!(headers["content-disposition"].to_str().unwrap().starts_with("attachment"));
    for (query, bytes, status, field) in [
        ("name=x.jpg", b"<script>".to_vec(), 422, json!("file")),
        ("name=x.jpg", vec![], 422, json!("file")),
        ("part=R77", b"%PDF-1.4".to_vec(), 422, json!("part")),
        ("name=x.pdf", vec![b' '; 21 * 1024 * 1024], 413, Value::Null),
    ] {
        let (got, p) = send(query, bytes).await;
        assert_eq!((got, &p["field"]), (status, &field), "{p}");
    }
    assert_eq!(s.delete(&at).await, 200);
    assert_eq!(s.get(&path).await.1.as_array().unwrap().len(), 1);
    assert_eq!(s.delete(&at).await, 404);
}

/// Two hundred parts are told; what else is asked beside the words is asked of all that have them, not of the newest.
#[tokio::test]
async fn a_part_is_found_behind_many_newer_ones_that_have_the_same_words() {
    let s = Server::empty().await;
    let old = s.ticket(&["R1 47k 10% plate load"]).await;
    let new = s.ticket(&[]).await;
    sqlx::query(
        "insert into part (id, ticket_id, name, kind, family)
         select gen_random_uuid(), $1::uuid, 'R' || n, 'resistor', 'carbon film' from generate_series(1, 260) n",
    )
    .bind(new["id"].as_str())
    .execute(&s.pool)
    .await
    .unwrap();
    // Both sets have the same name.
    assert_eq!(asked(&s, "Fell Farm").await["parts"].as_array().map(Vec::len), Some(200));
    let found = asked(&s, "Fell Farm 47k plate load").await;
    assert_eq!(found["parts"].as_array().map(Vec::len), Some(1), "{found}");
    assert_eq!((&found["parts"][0]["ticket"], &found["parts"][0]["part"]), (&old["id"], &json!("R1")));
}
