//! The job round the parts: intake, safety list, first power, voltage chart, feed, one change at a time.

use serde_json::{Value, json};
use uuid::Uuid;

use crate::support::{Server, part};

async fn opened(s: &Server) -> String {
    opened_with(s, "mains transformer", "").await
}

async fn opened_with(s: &Server, source: &str, highest: &str) -> String {
    let body = json!({"name": "Brackwater Petrel", "source": source, "devices": "valves", "highest": highest, "school": "test first", "complaint": "weak",
        "intake": {"line": "220", "watts": "55", "sheet_line": "220V", "sheet_ohms_per_volt": "1k",
                   "symptoms": ["hum with the volume down", "weak", "weak"], "wants": "daily use"}});
    let (status, t) = s.post("/api/tickets", body).await;
    assert_eq!(status, 201, "{t}");
    assert_eq!(t["intake"]["symptoms"], json!(["hum with the volume down", "weak"]));
    assert_eq!(t["intake"]["watts"]["value"], 55.0);
    t["id"].as_str().unwrap().to_owned()
}

#[tokio::test]
async fn what_is_said_at_intake_is_kept_and_changed_and_refused_beside_its_field() {
    let s = Server::empty().await;
    let id = opened(&s).await;
    let path = format!("/api/tickets/{id}");
    let change = json!({"version": 1, "intake": {"earlier_work": "new rectifier, fresh solder", "line": ""}});
    let (status, t) = s.patch(&path, change).await;
    assert_eq!(
        (status, t["intake"]["earlier_work"].as_str()),
        (200, Some("new rectifier, fresh solder")),
        "{t}"
    );
    assert!(t["intake"]["line"].is_null(), "emptied");
    assert_eq!(t["intake"]["wants"], "daily use", "what was not said stays");
    for (intake, field) in [
        (json!({"line": "-5"}), "intake.line"),
        (json!({"watts": "a lot"}), "intake.watts"),
        (json!({"sheet_line": "99999999"}), "intake.sheet_line"),
        (json!({"wants": "x".repeat(500)}), "intake.wants"),
        (json!({"symptoms": vec!["y"; 50]}), "intake.symptoms"),
    ] {
        let (status, p) = s.patch(&path, json!({"version": 2, "intake": intake})).await;
        assert_eq!((status, p["field"].as_str()), (422, Some(field)), "{p}");
    }
}

#[tokio::test]
async fn a_high_voltage_set_asks_its_list_anew_in_each_session() {
    let s = Server::empty().await;
    for (source, highest, anew) in [("mains, live chassis", "", false), ("mains transformer", "1.6 kV", true)]
    {
        let id = opened_with(&s, source, highest).await;
        let (first, second) = (Uuid::new_v4(), Uuid::new_v4());
        let path = format!("/api/tickets/{id}/safety");
        let (_, list) = s.get(&format!("{path}?session={first}")).await;
        let lines = list["lines"].as_array().unwrap();
        assert!(lines.len() >= 3 && list["all_ticked"] == false);
        let mut last = Value::Null;
        for l in lines {
            let tick = json!({"key": Uuid::new_v4(), "line": l["line"], "who": "Edda", "session": first});
            let (status, now) = s.post(&path, tick).await;
            assert_eq!(status, 201, "{now}");
            last = now;
        }
        assert_eq!((&last["all_ticked"], &last["lines"][0]["who"]), (&json!(true), &json!("Edda")));
        let (_, other) = s.get(&format!("{path}?session={second}")).await;
        assert_eq!(other["all_ticked"], !anew, "{source}");
        let nameless = json!({"key": Uuid::new_v4(), "line": lines[0]["line"], "who": " ", "session": first});
        let (status, p) = s.post(&path, nameless).await;
        assert_eq!((status, p["field"].as_str()), (422, Some("who")));
        let unknown = json!({"key": Uuid::new_v4(), "line": "no such", "who": "Edda", "session": first});
        assert_eq!(s.post(&path, unknown).await.1["field"], "line");
    }
}

#[tokio::test]
async fn the_way_up_is_logged_and_each_step_says_what_it_means() {
    let s = Server::empty().await;
    let id = opened(&s).await;
    let path = format!("/api/tickets/{id}/power");
    let step = |volts: &str, story: &str, signs: Value| json!({"key": Uuid::new_v4(), "volts": volts, "bulb": "100", "current": "", "story": story, "signs": signs, "confirmed": true});
    // What comes before first power was not gone through: asked, and nothing is written down.
    let mut unasked = step("120", "dim", json!([]));
    unasked["confirmed"] = json!(false);
    let (status, p) = s.post(&path, unasked).await;
    assert_eq!(
        (status, p["ask"].as_bool(), p["field"].as_str()),
        (422, Some(true), Some("confirmed")),
        "{p}"
    );
    assert!(p["detail"].as_str().unwrap().contains("Rail to chassis in ohms"), "{p}");
    let (status, log) =
        s.post(&path, step("120", "bright, then dim, then up a little", json!(["heaters glow"]))).await;
    assert_eq!(status, 201, "{log}");
    let says = &log["ups"][0]["says"];
    assert_eq!(says["call"], "go on");
    assert!((says["next_volts"]["value"].as_f64().unwrap() - 0.55 * 220.0).abs() < 1.0 + 55.0, "{says}");
    let (_, log) = s.post(&path, step("176", "bright and stays bright", json!([]))).await;
    assert_eq!(log["ups"][1]["says"]["call"], "stop", "{log}");
    assert_eq!(log["ups"].as_array().unwrap().len(), 2);
    for (body, field) in [
        (step("", "dim", json!([])), "volts"),
        (step("400", "dim", json!([])), "volts"),
        (json!({"key": Uuid::new_v4(), "volts": "50", "story": "dim"}), "bulb"),
        (json!({"key": Uuid::new_v4(), "volts": "50", "bulb": "-3", "story": "dim"}), "bulb"),
        (step("50", "dim", json!(["a ghost"])), "signs[0]"),
    ] {
        let (status, p) = s.post(&path, body).await;
        assert_eq!((status, p["field"].as_str()), (422, Some(field)), "{p}");
    }
}

/// Before a mains set goes out: touch current, insulation and earth are measured against their limits, the rest is seen;
/// what does not pass keeps it in, unless the owner is told (limits from memory).
#[tokio::test]
async fn a_mains_set_does_not_go_out_unmeasured() {
    let s = Server::empty().await;
    let id = opened(&s).await;
    let (path, closing) = (format!("/api/tickets/{id}/safety"), format!("/api/tickets/{id}/closing"));
    let session = Uuid::new_v4();
    let tick = |line: &str, value: &str| json!({"key": Uuid::new_v4(), "line": line, "who": "Edda", "session": session, "before": "closing", "value": value});
    let left = |c: &Value| c["left"].to_string();
    assert!(left(&s.get(&closing).await.1).contains("5 of 5 not checked"));
    for (line, value, field) in
        [("touch", "", "value"), ("touch", "lots", "value"), ("fuse", "", ""), ("stick", "", "line")]
    {
        let (status, p) = s.post(&path, tick(line, value)).await;
        let wanted = if field.is_empty() { (201, None) } else { (422, Some(field)) };
        assert_eq!((status, p["field"].as_str()), wanted, "{line} {value}: {p}");
    }
    // 0.82 mA are over the half milliampere; no earth pin is an answer.
    s.post(&path, tick("touch", "0.82mA")).await;
    let (_, list) = s.post(&path, tick("ground", "")).await;
    let of =
        |name: &str| list["lines"].as_array().unwrap().iter().find(|l| l["line"] == name).unwrap().clone();
    assert_eq!(
        (of("touch")["passes"].as_bool(), of("ground")["passes"].as_bool()),
        (Some(false), Some(true))
    );
    let (status, p) = s.put(&closing, json!({"closed": true, "words": "", "confirmed": true})).await;
    assert_eq!((status, p["field"].as_str()), (422, Some("words")), "{p}");
    assert!(p["detail"].as_str().unwrap().contains("820 µA, at most 500 µA passes"), "{p}");
    // Mended and measured again, the newest counts.
    s.post(&path, tick("touch", "90uA")).await;
    s.post(&path, tick("insulation", "40M")).await;
    s.post(&path, tick("cord", "")).await;
    let (_, c) = s.get(&closing).await;
    assert!(c["unsafe_to_go"].as_array().unwrap().is_empty() && !left(&c).contains("not checked"), "{c}");
    // A set on batteries hangs on no line; a transistor set without a transformer gets all of a live chassis.
    for (source, hot, lines) in
        [("battery", false, 0), ("battery or mains transformer", false, 5), ("mains, live chassis", true, 5)]
    {
        let body = json!({"name": "x", "source": source, "devices": "transistors", "school": "test first"});
        let (status, t) = s.post("/api/tickets", body).await;
        assert_eq!(status, 201, "{t}");
        let of = |before: &str| {
            format!("/api/tickets/{}/safety?session={session}&before={before}", t["id"].as_str().unwrap())
        };
        assert_eq!(s.get(&of("closing")).await.1["lines"].as_array().unwrap().len(), lines, "{source}");
        let work = s.get(&of("work")).await.1["lines"].to_string();
        let cautions = t["cautions"].to_string();
        assert_eq!(
            (
                work.contains("Isolating transformer"),
                cautions.contains("isolating transformer in before power-up")
            ),
            (hot, hot),
            "{source}"
        );
    }
}

async fn chart(s: &Server, id: &str) -> Value {
    s.get(&format!("/api/tickets/{id}/chart")).await.1
}

fn point<'a>(chart: &'a Value, name: &str) -> &'a Value {
    chart["points"].as_array().unwrap().iter().find(|p| p["name"] == name).unwrap_or(&Value::Null)
}

#[tokio::test]
async fn a_chart_is_scaled_to_the_line_and_two_sets_stand_beside_each_other() {
    let s = Server::empty().await;
    let id = opened(&s).await;
    let path = format!("/api/tickets/{id}/chart");
    let (status, c) = s.post(&format!("{path}/valves"), json!({"at": "V2", "valve": "6v6gt"})).await;
    assert_eq!(status, 201, "{c}");
    assert_eq!(point(&c, "V2 pin 4")["role"], "grid 2 (screen)");
    assert_eq!(point(&c, "V2 pin 2")["heater"], true);
    let names = |c: &Value| -> Vec<String> {
        c["points"].as_array().unwrap().iter().map(|p| p["name"].as_str().unwrap().to_owned()).collect()
    };
    // Plate, screen, cathode, grid, and the heaters last (common practice, no source).
    assert_eq!(names(&c), [3, 4, 8, 5, 2, 7].map(|n| format!("V2 pin {n}")));
    let (status, u) = s.post(&format!("{path}/valves"), json!({"at": "U1", "valve": "LM386N"})).await;
    assert_eq!(
        (status, names(&u)[6..9].to_vec()),
        (201, [6, 4, 5].map(|n| format!("U1 pin {n}")).to_vec()),
        "{u}"
    );
    assert_eq!(
        (point(&u, "U1 pin 5")["note"].as_str(), point(&u, "U1 pin 5")["valve"].as_str()),
        (Some("output"), Some("LM386"))
    );
    for p in u["points"].as_array().unwrap().iter().filter(|p| p["name"].as_str().unwrap().starts_with("U1"))
    {
        assert_eq!(s.delete(&format!("/api/chart/points/{}", p["id"].as_str().unwrap())).await, 200);
    }
    let of = |name: &str| point(&c, name)["id"].clone();
    let put = |at: &str, pin: Value, sheet: &str, key: Value, pair: Value| json!({"id": key, "at": at, "pin": pin, "valve": "6V6", "sheet": sheet, "pair": pair});
    let (status, c2) =
        s.put(&format!("{path}/points"), put("V2", json!(3), "240", of("V2 pin 3"), Value::Null)).await;
    assert_eq!(status, 200, "{c2}");
    let other = json!(Uuid::new_v4());
    s.put(&format!("{path}/points"), put("V3", json!(3), "240", other.clone(), json!("V2 pin 3"))).await;
    let (before, after) = (Uuid::new_v4(), Uuid::new_v4());
    for (run, name, line, a, b) in
        [(before, "before", "198", "150", "152"), (after, "after", "220", "236", "247")]
    {
        let (status, r) =
            s.put(&format!("{path}/runs"), json!({"id": run, "name": name, "line": line})).await;
        assert_eq!(status, 200, "{r}");
        for (point, volts) in [(of("V2 pin 3"), a), (other.clone(), b)] {
            let read = json!({"point": point, "volts": volts});
            assert_eq!(s.put(&format!("/api/chart/runs/{run}/readings"), read).await.0, 200);
        }
    }
    // A cathode at minus is another pin.
    let cathode = json!({"point": of("V2 pin 8"), "volts": "-13"});
    assert_eq!(s.put(&format!("/api/chart/runs/{before}/readings"), cathode).await.0, 200);
    let c = chart(&s, &id).await;
    let doubt = point(&c, "V2 pin 8")["before"]["doubt"].as_str().unwrap_or_default().to_owned();
    assert!(doubt.contains("another pin") && point(&c, "V2 pin 3")["before"]["doubt"].is_null(), "{doubt}");
    let p = point(&c, "V2 pin 3");
    assert_eq!((&p["before"]["status"], &p["after"]["status"]), (&json!("low"), &json!("right")));
    // 240 V at 220 V of line are 216 V at 198 V.
    assert!((p["before"]["expected"]["value"].as_f64().unwrap() - 216.0).abs() < 1e-9, "{p}");
    assert_eq!(p["change"], "+57.3 %");
    let pair = c["pairs"].as_array().unwrap().iter().find(|x| x["run"] == json!(after)).unwrap();
    assert_eq!((&pair["agree"], &pair["b"]), (&json!(false), &json!("V3 pin 3")), "{pair}");
    // The other way round, and only one of them.
    let (_, turned) = s.get(&format!("{path}?before={after}&after={before}")).await;
    assert_eq!(point(&turned, "V2 pin 3")["before"]["status"], "right");
    for (body, field) in [
        (put("", json!(3), "1", json!(Uuid::new_v4()), Value::Null), "at"),
        (put("V2", json!(3), "1", json!(Uuid::new_v4()), Value::Null), "name"),
        (put("V9", json!(40), "1", json!(Uuid::new_v4()), Value::Null), "pin"),
        (put("V9", json!(9), "1", json!(Uuid::new_v4()), Value::Null), "pin"),
        (put("V9", json!(3), "lots", json!(Uuid::new_v4()), Value::Null), "sheet"),
        (put("V9", json!(3), "1", json!(Uuid::new_v4()), json!("V77")), "pair"),
    ] {
        let (status, p) = s.put(&format!("{path}/points"), body).await;
        assert_eq!((status, p["field"].as_str()), (422, Some(field)), "{p}");
    }
    // A whole board in one go, in the order in which each is probed; what the tray knows is offered, what stands there is not.
    let board = s.ticket(&["Q3 AF126 IF stage"]).await["id"].as_str().unwrap().to_owned();
    let boards = format!("/api/tickets/{board}/chart/valves");
    assert_eq!(chart(&s, &board).await["from_tray"], "Q3 AF126");
    let whole = json!({"board": "V2 6V6, U1 TBA810S\nQ3 AF126"});
    let (status, c) = s.post(&boards, whole.clone()).await;
    assert_eq!(status, 201, "{c}");
    let owners: Vec<&str> =
        c["points"].as_array().unwrap().iter().map(|p| p["name"].as_str().unwrap()).collect();
    let first = |at: &str| owners.iter().position(|n| n.starts_with(at)).unwrap();
    assert!(first("V2 ") < first("U1 ") && first("U1 ") < first("Q3 "), "{owners:?}");
    assert_eq!(c["from_tray"], "");
    // A transistor's case is its collector: read by its name, and first.
    let (_, c) = s.post(&boards, json!({"at": "Q9", "valve": "2N3055"})).await;
    let own: Vec<&str> = c["points"]
        .as_array()
        .unwrap()
        .iter()
        .map(|p| p["name"].as_str().unwrap())
        .filter(|n| n.starts_with("Q9"))
        .collect();
    assert_eq!(own, ["Q9 collector", "Q9 pin 1", "Q9 pin 2"]);
    for (body, field, words) in [
        (whole, "board", "stand in the chart already"),
        (json!({"board": "V4"}), "board", "a name and its type"),
        (json!({"board": "V4 6V6, v4 6V6"}), "board", "stands there twice"),
        (json!({"board": "V4 6V6, V5 9Z9"}), "board", "9Z9 is in no table"),
        (json!({"at": "V4", "valve": "9Z9"}), "valve", "9Z9 is in no table"),
    ] {
        let (status, p) = s.post(&boards, body).await;
        assert_eq!((status, p["field"].as_str()), (422, Some(field)), "{p}");
        assert!(p["detail"].as_str().unwrap().contains(words), "{p}");
    }
    let foreign = opened(&s).await;
    let (_, f) =
        s.post(&format!("/api/tickets/{foreign}/chart/valves"), json!({"at": "V1", "valve": "80"})).await;
    let read = json!({"point": f["points"][0]["id"], "volts": "3"});
    assert_eq!(s.put(&format!("/api/chart/runs/{after}/readings"), read).await.1["field"], "point");
}

#[tokio::test]
async fn a_feed_is_told_and_its_guilty_part_is_found_from_the_chart() {
    let s = Server::empty().await;
    let t = s
        .ticket(&[
            "R6 27k 1W screen feed",
            "C8 .1/400 screen bypass wax paper",
            "C8 fed by R6 volts 90 rail 200",
        ])
        .await;
    let id = t["id"].as_str().unwrap();
    let path = format!("/api/tickets/{id}/feeds");
    let (_, known) = s.get(&path).await;
    assert_eq!(
        known["from_tray"],
        "R6 from rail to behind R6 27kΩ 1W\nC8 from behind R6 to ground 100nF\nX6 from behind R6 to ground"
    );
    assert_eq!(known["tray_rail"]["value"], 200.0);
    let key = Uuid::new_v4();
    let body = |version: Value, parts: &str, measured: &str| {
        json!({"id": key, "version": version, "name": "screens", "rail": "200", "parts": parts,
               "nodes": [{"node": "behind R6", "sheet": "90", "measured": measured}]})
    };
    let told = known["from_tray"].as_str().unwrap().to_owned();
    let (status, f) = s.put(&path, body(Value::Null, &told, "30")).await;
    assert_eq!(status, 200, "{f}");
    let answer = &f["feeds"][0]["answer"];
    assert_eq!(answer["agrees"], false);
    assert!((answer["expected"]["behind R6"].as_f64().unwrap() - 90.0).abs() < 1e-3, "{answer}");
    let named: Vec<&str> =
        answer["suspects"].as_array().unwrap().iter().map(|x| x["ref"].as_str().unwrap()).collect();
    assert!(named.contains(&"C8") && named.contains(&"R6"), "{named:?}");
    let netlist = s.text(&format!("/api/feeds/{key}/netlist")).await;
    assert!(netlist.contains("Rr6_1 rail behind_r6 27000") && netlist.ends_with(".end\n"), "{netlist}");
    // Somebody else drew it anew.
    assert_eq!(s.put(&path, body(json!(1), &told, "31")).await.0, 200);
    assert_eq!(s.put(&path, body(json!(1), &told, "32")).await.0, 409);
    for (parts, words) in [
        ("R6 rail", "line 1: say the value of R6"),
        ("R6 rail a 5k\nR6 a b 5k", "line 2: R6 stands there twice"),
        ("R6 a a 5k", "same node"),
        ("", "at least one part"),
    ] {
        let (status, p) = s.put(&path, body(json!(2), parts, "")).await;
        assert_eq!((status, p["field"].as_str()), (422, Some("parts")), "{p}");
        assert!(p["detail"].as_str().unwrap().contains(words), "{p}");
    }
    // One valve under one name, and a rail of the set however it is typed.
    let rails = json!({"version": 1, "set": {"rails": [{"name": "HT 2", "volts": "180"}]}});
    assert_eq!(s.patch(&format!("/api/tickets/{id}"), rails).await.0, 200);
    let other = json!({"id": Uuid::new_v4(), "version": null, "name": "output", "rail": "250",
        "parts": "R1 from rail to plate 22k\nV1 plate 4mA\nR2 from ht 2 to screen 68k\nV1 screen",
        "nodes": [{"node": "plate", "sheet": "162", "measured": "161"},
                  {"node": "screen", "sheet": "112", "measured": "0"}]});
    let (status, f) = s.put(&path, other.clone()).await;
    assert_eq!(status, 200, "{f}");
    let drawn = f["feeds"].as_array().unwrap().iter().find(|x| x["name"] == "output").unwrap();
    assert!(drawn["told"].as_str().unwrap().contains("V1-screen from screen to ground"), "{}", drawn["told"]);
    let rail = drawn["nodes"].as_array().unwrap().iter().find(|n| n["node"] == "HT 2").unwrap();
    assert_eq!(rail["sheet"]["value"], 180.0);
    assert_eq!(drawn["answer"]["suspects"][0]["ref"], "R2", "{}", drawn["answer"]);
    assert!(f["points"].as_array().unwrap().contains(&json!("HT 2")));
    assert_eq!(s.delete(&format!("/api/feeds/{}", drawn["id"].as_str().unwrap())).await, 200);
    // What was read on the tray with an end free counts as it was read.
    let r6 = part(&t, "R6")["id"].as_str().unwrap();
    let reading = json!({"key": Uuid::new_v4(), "typed": "41.5k", "state": "lifted"});
    assert_eq!(s.post(&format!("/api/parts/{r6}/readings"), reading).await.0, 201);
    let drawn = s.get(&path).await.1["feeds"][0].clone();
    assert_eq!(drawn["parts"][0]["read"]["text"], "41.5 kΩ");
    let says = drawn["answer"]["says"].as_str().unwrap();
    assert!(says.starts_with("R6 reads 41.5 kΩ for 27 kΩ: with that these readings are explained"), "{says}");
    assert_eq!(s.delete(&format!("/api/feeds/{key}")).await, 200);
    assert_eq!(s.get(&path).await.1["feeds"], json!([]));
}

fn fitting(p: &Value, over_open: &str) -> Value {
    json!({"key": Uuid::new_v4(), "version": p["version"], "description": "1 W metal film", "value": "1k",
           "watts": "1", "family": "metal film", "bag": "bag 3", "over_open": over_open})
}

#[tokio::test]
async fn the_next_change_asks_to_prove_the_open_one_first() {
    let s = Server::empty().await;
    let t = s.ticket(&["R1 1k 10% ½W cathode", "R2 1k 10% ½W cathode"]).await;
    let id = t["id"].as_str().unwrap().to_owned();
    let path = format!("/api/tickets/{id}/changes");
    let fit = |p: &Value, over: &str| {
        let (path, body) = (format!("/api/parts/{}/fittings", p["id"].as_str().unwrap()), fitting(p, over));
        let s = &s;
        async move { s.post(&path, body).await }
    };
    let (status, r1) = fit(part(&t, "R1"), "").await;
    assert_eq!((status, &r1["fittings"][0]["bag"]), (201, &json!("bag 3")), "{r1}");
    let (status, asked) = fit(part(&t, "R2"), "").await;
    assert_eq!((status, asked["field"].as_str()), (422, Some("over_open")));
    assert!(asked["detail"].as_str().unwrap().contains("R1: 1 W metal film"), "{asked}");
    let joint = |over: &str| json!({"key": Uuid::new_v4(), "kind": "joint", "what": "earth lug of the tuner resoldered", "over_open": over});
    assert_eq!(s.post(&path, joint("")).await.1["field"], "over_open");
    let (status, c) = s.post(&path, joint("the iron is hot")).await;
    assert_eq!(status, 201, "{c}");
    assert_eq!(c["since_good"].as_array().unwrap().len(), 2);
    assert_eq!(c["taken_out"][0], json!({"part": "R1", "replaced_by": "1 W metal film", "bag": "bag 3"}));
    let of = |c: &Value, kind: &str| {
        c["changes"].as_array().unwrap().iter().find(|x| x["kind"] == kind).unwrap().clone()
    };
    let proof = json!({"key": Uuid::new_v4(), "outcome": "better", "seen": "powered, quiet"});
    let joint_id = of(&c, "joint")["id"].as_str().unwrap().to_owned();
    let (status, c) = s.post(&format!("/api/changes/{joint_id}/proof"), proof.clone()).await;
    assert_eq!(status, 201, "{c}");
    assert_eq!(of(&c, "joint")["alone"], false, "R1 was open beside it");
    assert_eq!(s.post(&format!("/api/changes/{joint_id}/proof"), proof).await.0, 201, "sent twice");
    // R1 is still open, and still suspect.
    assert_eq!(c["open"], of(&c, "part")["id"]);
    let undo = json!({"key": Uuid::new_v4(), "why": "wrong lug"});
    let (status, c) = s.post(&format!("/api/changes/{joint_id}/undo"), undo).await;
    assert_eq!(status, 201, "{c}");
    assert!(of(&c, "undo")["what"].as_str().unwrap().ends_with("taken back: wrong lug"));
    // A fitting is undone at its own step, and stands as undone here.
    let fitting_id = r1["fittings"][0]["id"].as_str().unwrap();
    assert_eq!(
        s.post(&format!("/api/changes/{fitting_id}/undo"), json!({"key": Uuid::new_v4()})).await.0,
        422
    );
    let back = json!({"key": Uuid::new_v4(), "why": ""});
    assert_eq!(s.post(&format!("/api/fittings/{fitting_id}/withdrawal"), back).await.0, 201);
    let (_, c) = s.get(&path).await;
    assert!(c["open"].is_null() && c["taken_out"] == json!([]), "{c}");
    assert_eq!(fit(part(&t, "R2"), "").await.0, 201, "nothing is open any more");
    for (kind, what, field) in [("part", "x", "kind"), ("undo", "x", "kind"), ("wire", " ", "what")] {
        let (status, p) = s.post(&path, json!({"key": Uuid::new_v4(), "kind": kind, "what": what})).await;
        assert_eq!((status, p["field"].as_str()), (422, Some(field)), "{p}");
    }
}

#[tokio::test]
async fn two_benches_do_not_begin_two_changes_at_once() {
    let s = Server::empty().await;
    let t = s.ticket(&["R1 1k 10% ½W cathode"]).await;
    let path = format!("/api/tickets/{}/changes", t["id"].as_str().unwrap());
    let wire = |what: &str| json!({"key": Uuid::new_v4(), "kind": "wire", "what": what});
    let (a, b) = tokio::join!(s.post(&path, wire("red")), s.post(&path, wire("blue")));
    let mut got = [a.0, b.0];
    got.sort_unstable();
    assert_eq!(got, [201, 422]);
}

#[tokio::test]
async fn sockets_and_valves_are_there_for_the_drawing() {
    let s = Server::empty().await;
    let (status, a) = s.get("/api/sockets").await;
    assert_eq!(status, 200);
    let noval = a["bases"].as_array().unwrap().iter().find(|b| b["base"] == "noval").unwrap();
    assert_eq!(noval["pins"].as_array().unwrap().len(), 9);
    assert!(a["valves"].as_array().unwrap().len() >= 60);
}
