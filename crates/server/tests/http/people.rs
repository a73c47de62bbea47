//! A workshop of several people: who comes in, who may do what, and whose each entry is (rule R22).

use serde_json::{Value, json};
use uuid::Uuid;

use crate::support::{Server, part};

const OWNER: &str = "Sunniva Ek";
const WORDS: &str = "tern kettle slate";

/// A workshop with its owner signed in.
async fn workshop(demo: bool) -> (Server, Server) {
    let (door, link) = Server::of_people(demo).await;
    let owner = door.browser();
    let body = json!({"link": link, "name": OWNER, "password": WORDS, "bench": "bench 1"});
    let (status, said) = owner.post("/api/session/link", body).await;
    assert_eq!((status, said["role"].as_str()), (200, Some("owner")), "{said}");
    (door, owner)
}

/// Somebody new, signed in at a browser of his own.
async fn join(owner: &Server, name: &str, role: &str) -> (Server, String) {
    let (status, link) = owner.post("/api/people", json!({"name": name, "role": role})).await;
    assert_eq!(status, 201, "{link}");
    let secret = link["link"].as_str().unwrap().rsplit_once('#').unwrap().1.to_owned();
    let own = owner.browser();
    let (status, said) = own
        .post(
            "/api/session/link",
            json!({"link": secret, "password": format!("{name} {WORDS}"), "bench": "bench 2"}),
        )
        .await;
    assert_eq!(status, 200, "{said}");
    (own, link["id"].as_str().unwrap().to_owned())
}

/// A request with a header more.
async fn with_header(s: &Server, path: &str, header: (&str, &str), body: &Value) -> (u16, Value) {
    let got =
        s.client.post(format!("{}{path}", s.url)).header(header.0, header.1).json(body).send().await.unwrap();
    let status = got.status().as_u16();
    (status, got.json().await.unwrap_or(Value::Null))
}

#[tokio::test]
async fn nobody_who_does_not_belong_gets_in() {
    let (door, owner) = workshop(true).await;
    let stranger = door.browser();
    let document = serde_json::to_value(restless_owl::router::openapi()).unwrap();
    let mut asked = 0;
    for (path, item) in document["paths"].as_object().unwrap() {
        let concrete = path
            .replace("{id}", &Uuid::new_v4().to_string())
            .replace("{number}", "R1")
            .replace("{name}", "x");
        for method in item.as_object().unwrap().keys().filter(|k| *k != "parameters") {
            if matches!(path.as_str(), "/api/session" | "/api/session/link" | "/api/health" | "/api/live") {
                continue;
            }
            let verb = method.to_uppercase().parse().unwrap();
            let request =
                stranger.client.request(verb, format!("{}{concrete}", stranger.url)).json(&json!({}));
            let status = request.send().await.unwrap().status();
            assert_eq!(status, 401, "{method} {path}");
            asked += 1;
        }
    }
    assert!(asked > 120, "{asked}");
    let (status, said) = stranger.get("/api/nothing").await;
    assert_eq!((status, said["detail"].as_str()), (401, Some("sign in first")));
    // What the page needs to ask who is there says nothing of the workshop.
    let (_, session) = stranger.get("/api/session").await;
    assert_eq!(session, json!({"access": "accounts", "person": null, "bench": "", "has_owner": true}));
    assert_eq!(owner.get("/api/tickets").await.0, 200);
}

#[tokio::test]
async fn the_first_link_makes_one_owner_and_is_good_once() {
    let (door, link) = Server::of_people(false).await;
    let by = |name: &str, password: &str| {
        door.browser_post(json!({"link": link, "name": name, "password": password}))
    };
    // What is wrong is said beside its field, and the link is not used up by it.
    let (status, said) = by(OWNER, "short").await;
    assert_eq!((status, said["field"].as_str()), (422, Some("password")), "{said}");
    let (status, said) = by("", WORDS).await;
    assert_eq!((status, said["field"].as_str()), (422, Some("name")), "{said}");
    assert_eq!(by(OWNER, WORDS).await.0, 200);
    let (status, said) = by("Somebody Else", WORDS).await;
    assert_eq!(
        (status, said["detail"].as_str()),
        (422, Some("this link was used already or is too old: ask for a new one"))
    );
    assert!(restless_owl::serve::link(&door.pool, None).await.is_err(), "there is an owner");
    assert!(restless_owl::serve::link(&door.pool, Some("nobody")).await.is_err());
    // The way back for an owner who forgot the password.
    let back = restless_owl::serve::link(&door.pool, Some("sunniva EK")).await.unwrap();
    let back = back.rsplit_once('#').unwrap().1;
    let (status, said) = door.browser_post(json!({"link": back, "password": "another three words"})).await;
    assert_eq!((status, said["name"].as_str()), (200, Some(OWNER)), "{said}");
}

impl Server {
    /// Opens a link in a browser of its own.
    async fn browser_post(&self, body: Value) -> (u16, Value) {
        self.browser().post("/api/session/link", body).await
    }
}

#[tokio::test]
async fn wrong_passwords_lock_a_name_for_a_while_and_the_owner_opens_it() {
    let (door, owner) = workshop(false).await;
    let (_, id) = join(&owner, "Tore Myhr", "technician").await;
    let there = door.browser();
    let sign_in = async |name: &str, password: &str| {
        there.post("/api/session", json!({"name": name, "password": password, "bench": "bench 3"})).await
    };
    // Nobody learns which names there are.
    let nobody = sign_in("Nobody Here", "what ever it is").await;
    let wrong = sign_in("Tore Myhr", "what ever it is").await;
    assert_eq!((nobody.0, &nobody.1["detail"]), (wrong.0, &wrong.1["detail"]));
    for _ in 0..4 {
        assert_eq!(sign_in("tore myhr", "what ever it is").await.0, 422);
    }
    let right = format!("Tore Myhr {WORDS}");
    let (status, said) = sign_in("Tore Myhr", &right).await;
    assert_eq!(status, 422);
    assert!(said["detail"].as_str().unwrap().contains("wait 1 min, or ask the owner"), "{said}");
    assert_eq!(owner.patch(&format!("/api/people/{id}"), json!({"open": true})).await.0, 204);
    assert_eq!(sign_in("Tore Myhr", &right).await.0, 200);
    // From one address no more than thirty tries a minute, whoever's they are.
    let tries: Vec<_> = (0..60)
        .map(|_| {
            let there = there.clone();
            tokio::spawn(async move {
                there.post("/api/session", json!({"name": "Nobody Here", "password": "x"})).await.0
            })
        })
        .collect();
    let mut refused = 0;
    for t in tries {
        refused += usize::from(t.await.unwrap() == 429);
    }
    assert!(refused > 0);
}

#[tokio::test]
async fn a_reader_looks_and_an_apprentice_measures_and_is_countersigned() {
    let (_, owner) = workshop(false).await;
    let (reader, _) = join(&owner, "Ase Lund", "reader").await;
    let (apprentice, _) = join(&owner, "Jon Vik", "apprentice").await;
    let (technician, _) = join(&owner, "Tore Myhr", "technician").await;
    let ticket = technician.ticket(&["R7 2k2 10% 1/2W carbon composition plate load"]).await;
    let id = ticket["id"].as_str().unwrap().to_owned();
    assert_eq!(reader.get(&format!("/api/tickets/{id}")).await.0, 200);
    assert_eq!(reader.post("/api/decode", json!({"text": "4k7"})).await.0, 200);
    let (status, said) = reader.say(&id, "R7 = 3.1k lifted").await;
    assert_eq!(
        (status, said["detail"].as_str()),
        (403, Some("Ase Lund only looks: ask the owner for another role"))
    );
    assert_eq!(apprentice.say(&id, "R7 = 3.1k lifted").await.0, 200);
    // Deciding: by its form, by a sentence, and with the countersign of nobody, oneself, another apprentice, a technician.
    let ticket = apprentice.whole(&format!("/api/tickets/{id}")).await.1;
    let r7 = part(&ticket, "R7");
    let path = format!("/api/parts/{}/decisions", r7["id"].as_str().unwrap());
    let decision = json!({"key": Uuid::new_v4(), "version": r7["version"], "decided": "replace"});
    let (status, said) = apprentice.post(&path, decision.clone()).await;
    assert_eq!((status, said["countersign"].as_bool()), (403, Some(true)), "{said}");
    let (status, said) = apprentice.say(&id, "R7 replace").await;
    assert_eq!((status, said["countersign"].as_bool()), (403, Some(true)), "{said}");
    let sign = async |name: &str, password: String| {
        apprentice.post("/api/countersign", json!({"name": name, "password": password})).await
    };
    assert_eq!(sign("Jon Vik", format!("Jon Vik {WORDS}")).await.1["detail"], "somebody else countersigns");
    assert!(
        sign("Ase Lund", format!("Ase Lund {WORDS}")).await.1["detail"]
            .as_str()
            .unwrap()
            .contains("cannot countersign")
    );
    assert_eq!(sign("Tore Myhr", "not his words".to_owned()).await.0, 422);
    let (status, signed) = sign("Tore Myhr", format!("Tore Myhr {WORDS}")).await;
    assert_eq!((status, signed["by"].as_str()), (200, Some("Tore Myhr")));
    let sign = signed["countersign"].as_str().unwrap();
    // Good for whom it was given, and once.
    let (status, _) = with_header(&reader, &path, ("x-countersign", sign), &decision).await;
    assert_eq!(status, 403);
    let (status, said) = with_header(&apprentice, &path, ("x-countersign", sign), &decision).await;
    assert_eq!(status, 201, "{said}");
    let (status, _) = with_header(&apprentice, &path, ("x-countersign", sign), &decision).await;
    assert_eq!(status, 403);
    // What decided is not taken back by one who may not decide.
    let (_, last) = apprentice.get(&format!("/api/tickets/{id}/deeds")).await;
    let undo = json!({"deed": last["last"]["id"]});
    assert_eq!(apprentice.post(&format!("/api/tickets/{id}/deeds/undo"), undo.clone()).await.0, 403);
    assert_eq!(technician.post(&format!("/api/tickets/{id}/deeds/undo"), undo).await.0, 200);
    // By what is judged is decided, too; the complaint is not.
    let version = technician.get(&format!("/api/tickets/{id}")).await.1["version"].clone();
    let change = |more: (&str, Value)| {
        let mut body = json!({"version": version});
        body[more.0] = more.1;
        apprentice.patch_of(&id, body)
    };
    assert_eq!(change(("school", json!("keep original"))).await.0, 403);
    assert_eq!(change(("complaint", json!("hums"))).await.0, 200);
    // The workshop's own things are a technician's, the people the owner's.
    assert_eq!(apprentice.delete(&format!("/api/policies/{}", Uuid::new_v4())).await, 403);
    assert_eq!(technician.delete(&format!("/api/policies/{}", Uuid::new_v4())).await, 404);
    assert_eq!(technician.get("/api/people").await.0, 403);
}

impl Server {
    async fn patch_of(&self, ticket: &str, body: Value) -> (u16, Value) {
        self.patch(&format!("/api/tickets/{ticket}"), body).await
    }
}

#[tokio::test]
async fn every_entry_is_somebodys_and_the_story_cannot_be_rewritten() {
    let (_, owner) = workshop(false).await;
    let (apprentice, _) = join(&owner, "Jon Vik", "apprentice").await;
    let (technician, _) = join(&owner, "Tore O'Dell", "technician").await;
    let ticket = technician.ticket(&["R7 2k2 10% 1/2W carbon composition plate load"]).await;
    let id = ticket["id"].as_str().unwrap().to_owned();
    assert_eq!(apprentice.say(&id, "R7 = 3.1k lifted").await.0, 200);
    let r7 = part(&apprentice.whole(&format!("/api/tickets/{id}")).await.1, "R7").clone();
    let (_, sign) = apprentice
        .post("/api/countersign", json!({"name": "Tore O'Dell", "password": format!("Tore O'Dell {WORDS}")}))
        .await;
    let decision = json!({"key": Uuid::new_v4(), "version": r7["version"], "decided": "replace"});
    let path = format!("/api/parts/{}/decisions", r7["id"].as_str().unwrap());
    let sign = ("x-countersign", sign["countersign"].as_str().unwrap());
    assert_eq!(with_header(&apprentice, &path, sign, &decision).await.0, 201);
    let (_, story) = owner.get(&format!("/api/parts/{}/story", r7["id"].as_str().unwrap())).await;
    let told: Vec<(String, String)> = story["lines"]
        .as_array()
        .unwrap()
        .iter()
        .map(|l| (l["by"].as_str().unwrap().to_owned(), l["text"].as_str().unwrap().to_owned()))
        .collect();
    let has = |by: &str, text: &str| {
        assert!(told.iter().any(|(b, t)| b == by && t.starts_with(text)), "{by}: {text} in {told:?}");
    };
    has("Jon Vik, bench 2, countersigned by Tore O'Dell", "decided replace");
    has("Jon Vik, bench 2", "measured resistance 3.1 kΩ, lifted");
    has("Tore O'Dell, bench 2", "entered a part: R7");
    let (_, whole) = owner.get(&format!("/api/tickets/{id}/story")).await;
    assert!(whole["lines"].as_array().unwrap().len() > told.len(), "the ticket's own entries are with it");
    // The name on a line of safety is that of whoever is signed in, whatever is sent.
    let (_, list) = technician.get(&format!("/api/tickets/{id}/safety?session={}", Uuid::new_v4())).await;
    let seen = list["lines"].as_array().unwrap().iter().find(|l| l["measured"].is_null()).unwrap();
    let tick = json!({"key": Uuid::new_v4(), "line": seen["line"], "who": "Somebody Else", "session": Uuid::new_v4()});
    assert_eq!(apprentice.post(&format!("/api/tickets/{id}/safety"), tick.clone()).await.0, 403);
    let (status, ticked) = technician.post(&format!("/api/tickets/{id}/safety"), tick).await;
    assert_eq!(status, 201, "{ticked}");
    let who = sqlx::query_scalar::<_, String>("select who from safety_tick")
        .fetch_one(&technician.pool)
        .await
        .unwrap();
    assert_eq!(who, "Tore O'Dell");
    // Every row that one of them wrote carries a name, and none can be changed.
    let nameless = sqlx::query_scalar::<_, i64>("select count(*) from act where person = ''")
        .fetch_one(&technician.pool);
    assert_eq!(nameless.await.unwrap(), 0);
    for sql in ["update act set person = 'x'", "delete from act"] {
        assert!(sqlx::query(sql).execute(&technician.pool).await.is_err(), "{sql}");
    }
}

#[tokio::test]
async fn the_workshop_keeps_an_owner_and_who_is_shut_out_is_out_at_once() {
    let (_, owner) = workshop(false).await;
    let (technician, id) = join(&owner, "Tore Myhr", "technician").await;
    let (_, people) = owner.get("/api/people").await;
    let mine =
        people["people"].as_array().unwrap().iter().find(|p| p["name"] == OWNER).unwrap()["id"].clone();
    let mine = format!("/api/people/{}", mine.as_str().unwrap());
    for change in [json!({"role": "reader"}), json!({"blocked": true})] {
        let (status, said) = owner.patch(&mine, change).await;
        assert_eq!(status, 422);
        assert!(said["detail"].as_str().unwrap().contains("without an owner"), "{said}");
    }
    let theirs = format!("/api/people/{id}");
    let (status, said) = owner.post("/api/people", json!({"name": "TORE MYHR", "role": "reader"})).await;
    assert_eq!((status, said["field"].as_str()), (422, Some("name")), "{said}");
    // A session is ended by the owner; then the person; then everything that was his.
    let seat = technician.get("/api/account").await.1["sessions"][0].clone();
    assert_eq!((seat["here"].as_bool(), seat["bench"].as_str()), (Some(true), Some("bench 2")));
    let token =
        technician.post("/api/account/tokens", json!({"name": "logger", "scope": "work", "days": 3})).await.1;
    assert_eq!(owner.delete(&format!("/api/people/sessions/{}", seat["id"].as_str().unwrap())).await, 204);
    assert_eq!(technician.get("/api/tickets").await.0, 401);
    let body = json!({"name": "Tore Myhr", "password": format!("Tore Myhr {WORDS}")});
    assert_eq!(technician.post("/api/session", body.clone()).await.0, 200);
    assert_eq!(owner.patch(&theirs, json!({"blocked": true})).await.0, 204);
    assert_eq!(technician.get("/api/tickets").await.0, 401);
    assert_eq!(technician.post("/api/session", body).await.0, 422);
    let bearer = format!("Bearer {}", token["token"].as_str().unwrap());
    assert_eq!(
        with_header(&owner.browser(), "/api/decode", ("authorization", &bearer), &json!({"text": "4k7"}))
            .await
            .0,
        401
    );
}

#[tokio::test]
async fn a_password_is_changed_by_whom_it_belongs_to_and_ends_the_other_sessions() {
    let (_, owner) = workshop(false).await;
    let (one, _) = join(&owner, "Tore Myhr", "technician").await;
    let other = one.browser();
    let old = format!("Tore Myhr {WORDS}");
    assert_eq!(other.post("/api/session", json!({"name": "Tore Myhr", "password": old})).await.0, 200);
    let change =
        async |now: &str, new: &str| one.post("/api/account/password", json!({"now": now, "new": new})).await;
    assert_eq!(change("not the one", "four words of his own").await.1["field"], "now");
    assert_eq!(change(&old, "short").await.1["field"], "new");
    assert_eq!(change(&old, "four words of his own").await.0, 204);
    assert_eq!((one.get("/api/tickets").await.0, other.get("/api/tickets").await.0), (200, 401));
    assert_eq!(one.delete("/api/session").await, 204);
    assert_eq!(one.get("/api/tickets").await.0, 401);
}

#[tokio::test]
async fn a_token_does_no_more_than_its_scope_and_its_person() {
    let (_, owner) = workshop(false).await;
    let script = owner.browser();
    let decode = json!({"text": "4k7"});
    for (scope, lot) in [("read", 403), ("work", 422)] {
        let body = json!({"name": format!("{scope} only"), "scope": scope, "days": 30});
        let token = owner.post("/api/account/tokens", body).await.1["token"].as_str().unwrap().to_owned();
        let bearer = format!("Bearer {token}");
        let ask = async |path: &str, body: &Value| {
            with_header(&script, path, ("authorization", &bearer), body).await
        };
        assert_eq!(ask("/api/decode", &decode).await.0, 200);
        assert_eq!(ask("/api/drawers", &json!({})).await.0, lot, "{scope}");
        assert_eq!(ask("/api/people", &json!({"name": "x", "role": "owner"})).await.0, 403);
        assert_eq!(ask("/api/account/tokens", &json!({})).await.0, 403, "a token makes no tokens");
    }
    assert_eq!(
        with_header(&script, "/api/decode", ("authorization", "Bearer owl_nonsense"), &decode).await.0,
        401
    );
    let tokens = owner.get("/api/account").await.1["tokens"].clone();
    assert_eq!(tokens.as_array().unwrap().len(), 2);
    assert!(tokens[0]["seen_at"].is_string() && tokens[0].get("token").is_none(), "{tokens}");
    // An instrument is asked only where the owner allows it.
    let meter = json!({"name": "wall", "kind": "multimeter", "address": "127.0.0.1:5432", "ways": []});
    let (status, said) = owner.post("/api/instruments", meter).await;
    assert_eq!((status, said["field"].as_str()), (422, Some("address")), "{said}");
}

#[tokio::test]
async fn alone_on_loopback_nobody_signs_in_and_the_pages_of_people_say_so() {
    let s = Server::empty().await;
    assert_eq!(s.get("/api/session").await.1["access"], "alone");
    for (path, body) in [
        ("/api/people", json!({"name": "x", "role": "owner"})),
        ("/api/countersign", json!({"name": "x", "password": "y"})),
    ] {
        let (status, said) = s.post(path, body).await;
        assert_eq!(status, 422);
        assert!(said["detail"].as_str().unwrap().contains("nobody signs in here"), "{said}");
    }
    let ticket = s.ticket(&["R7 2k2 10% 1/2W plate load"]).await;
    let (_, story) = s.get(&format!("/api/tickets/{}/story", ticket["id"].as_str().unwrap())).await;
    assert_eq!(story["lines"][0]["by"], "this bench");
}
