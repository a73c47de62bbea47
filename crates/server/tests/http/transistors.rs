//! The transistor desk over HTTP: identify, equivalents, types, pairs, bought parts, and transistors on the tray.

use serde_json::{Value, json};
use uuid::Uuid;

use crate::support::{Server, part};

fn six(volts: [Value; 6]) -> Value {
    let ways = [("1", "2"), ("2", "1"), ("1", "3"), ("3", "1"), ("2", "3"), ("3", "2")];
    let readings: Vec<Value> =
        ways.iter().zip(volts).map(|((r, b), v)| json!({"red": r, "black": b, "volts": v})).collect();
    json!({"readings": readings})
}

#[tokio::test]
async fn three_leads_are_identified_and_wrong_readings_named() {
    let s = Server::empty().await;
    let ask = async |body: Value| s.post("/api/transistors/identify", body).await;
    let (status, a) =
        ask(six([Value::Null, json!(0.64), Value::Null, Value::Null, json!(0.62), Value::Null])).await;
    assert_eq!(status, 200, "{a}");
    assert_eq!(
        (a["base"].as_str(), a["polarity"].as_str(), a["material"].as_str(), a["state"].as_str()),
        (Some("2"), Some("npn"), Some("silicon"), Some("good")),
        "{a}"
    );
    assert_eq!(
        (a["emitter"].as_str(), a["collector"].as_str(), a["pinout"].as_str()),
        (Some("1"), Some("3"), Some("EBC"))
    );
    // Leads by any name, and as they are typed.
    let typed = json!({"readings": [
        {"red": "left", "black": "mid", "volts": null, "typed": "OL"},
        {"red": "mid", "black": "left", "volts": null, "typed": "176"},
        {"red": "left", "black": "right", "volts": null, "typed": ""},
        {"red": "right", "black": "left", "volts": null, "typed": "OL"},
        {"red": "mid", "black": "right", "volts": null, "typed": "0.169 V"},
        {"red": "right", "black": "mid", "volts": null},
    ]});
    let (_, a) = ask(typed).await;
    assert_eq!((a["base"].as_str(), a["material"].as_str()), (Some("mid"), Some("germanium")), "{a}");
    for (body, field) in [
        (json!({"readings": []}), "readings"),
        (
            six([json!(-1), Value::Null, Value::Null, Value::Null, Value::Null, Value::Null]),
            "readings[0].volts",
        ),
        (json!({"readings": [{"red": "1", "black": "1", "volts": 0.6}]}), "readings"),
        (
            {
                let mut b =
                    six([Value::Null, Value::Null, Value::Null, Value::Null, Value::Null, Value::Null]);
                b["celsius"] = json!(900);
                b
            },
            "celsius",
        ),
        (
            {
                let mut b =
                    six([Value::Null, Value::Null, Value::Null, Value::Null, Value::Null, Value::Null]);
                b["gains"] = json!([{"collector": "7", "emitter": "1", "hfe": 9}]);
                b
            },
            "gains[0]",
        ),
    ] {
        let (status, p) = ask(body.clone()).await;
        assert_eq!((status, p["field"].as_str()), (422, Some(field)), "{body}: {p}");
    }
    let (_, d) = s.post("/api/transistors/diode", json!({"one_way": 0.27, "other_way": null})).await;
    assert_eq!(d["state"], "good", "{d}");
    let gain = json!({"collector_current": "2.4mA", "base_current": "20uA", "leakage_current": "0.4mA", "material": "germanium"});
    let (_, g) = s.post("/api/transistors/gain", gain).await;
    assert!(
        (g["hfe"].as_f64().unwrap() - 100.0).abs() < 1e-6 && g["lines"][1].as_str().unwrap().contains("120"),
        "{g}"
    );
    let (status, g) =
        s.post("/api/transistors/gain", json!({"collector_current": "2mA", "base_current": "0"})).await;
    assert_eq!((status, g["field"].as_str()), (422, Some("base_current")));
}

#[tokio::test]
async fn equivalents_of_a_type_of_ratings_of_a_diode_and_of_a_circuit() {
    let s = Server::empty().await;
    let csv = "kind,type,value,count,place\ntransistor,BC547,,4,drawer 7\ntransistor,2SC829,,2,tin\ndiode,AA117,,3,tin\nintegrated circuit,TBA120,,1,foam\n";
    assert_eq!(s.import(csv).await.1["added"], 4);
    let ask = async |body: Value| s.post("/api/transistors/equivalents", body).await;
    let (status, a) = ask(json!({"type": "BC107"})).await;
    assert_eq!(status, 200, "{a}");
    let all = a["candidates"].as_array().unwrap();
    assert_eq!(all[0]["type"], "BC547", "the drawers first: {}", all[0]);
    assert_eq!(
        (all[0]["drawers"][0]["place"].as_str(), all[0]["passes"].as_bool()),
        (Some("drawer 7"), Some(true))
    );
    assert_eq!(all[0]["cells"]["vceo"]["state"], "pass");
    assert!(
        all[0]["pin_map"]["joined"].as_array().unwrap().len() == 3 && all[0]["pin_map"]["leads"] == "bent"
    );
    for c in all {
        let short =
            c["cells"].as_object().unwrap().values().any(|x| x["hard"] == true && x["state"] == "short");
        assert_eq!(c["passes"].as_bool(), Some(!short), "{c}");
    }
    assert!(all.iter().any(|c| c["type"] == "BC107"), "a type is an equivalent of itself");
    // A stage says which facts it hangs on and which place of the tray it is; a heat sink is no oven.
    let pass =
        json!({"stage": "regulator", "supply": 18, "across": 6, "current": 0.5, "case_temperature": 70});
    let (_, a) = ask(json!({"type": "BD135", "circuit": pass})).await;
    assert_eq!(a["facts"][1], "voltage", "{a}");
    let watts = a["asks"].as_array().unwrap().iter().find(|x| x["of"] == "dissipation").unwrap();
    assert_eq!(watts["amount"]["value"], 3.0, "{watts}");
    let oven = json!({"stage": "regulator", "case_temperature": 640});
    let (status, p) = ask(json!({"type": "BD135", "circuit": oven})).await;
    assert_eq!((status, p["field"].as_str()), (422, Some("circuit.case_temperature")), "{p}");
    // What is read by less than its print says so.
    let (_, a) = ask(json!({"type": "c829y", "limit": 3})).await;
    assert!(a["read_as"].as_str().unwrap().contains("2SC829"), "{}", a["read_as"]);
    // By ratings, for a circuit.
    let wanted = json!({"polarity": "pnp", "material": "germanium", "pinout": "EBC", "package": "TO-1"});
    let circuit = json!({"stage": "push-pull output with transformer", "supply": 9, "load": 60, "other_material": true,
        "upper": 4700, "lower": 100});
    let (_, a) = ask(json!({"wanted": wanted, "circuit": circuit})).await;
    assert!(a["asks"].as_array().unwrap().len() == 3 && a["divider"]["lower_made_of"][0].is_string(), "{a}");
    assert!(a["candidates"][0]["passes"].as_bool().unwrap());
    let (_, d) = ask(json!({"type": "AA112", "circuit": {"reverse": 40, "current": 0.02}})).await;
    assert_eq!(
        (d["candidates"][0]["type"].as_str(), d["diode"]["type"].as_str()),
        (Some("AA117"), Some("AA112")),
        "{d}"
    );
    let (_, ic) = ask(json!({"type": "tba120", "kind": "integrated circuit"})).await;
    assert_eq!(
        (ic["same"][0]["place"].as_str(), ic["candidates"].as_array().unwrap().len()),
        (Some("foam"), 0)
    );
    for (body, status, field) in [
        (json!({"type": "NOSUCH9"}), 404, None),
        (json!({}), 422, Some("type")),
        (json!({"wanted": {"vceo": 30}}), 422, Some("wanted.polarity")),
        (json!({"wanted": {"polarity": "npn", "kind": "jfet"}}), 422, Some("wanted.polarity")),
        (json!({"wanted": {"polarity": "npn", "vceo": 0}}), 422, Some("wanted.vceo")),
        (json!({"wanted": {"polarity": "npn", "pinout": "EBZ"}}), 422, Some("wanted.pinout")),
        (json!({"type": "BC107", "circuit": {"supply": -9}}), 422, Some("circuit.supply")),
        (
            json!({"type": "BC107", "circuit": {"case_temperature": 900}}),
            422,
            Some("circuit.case_temperature"),
        ),
        (json!({"type": "BC107", "limit": 0}), 422, Some("limit")),
    ] {
        let (got, p) = ask(body.clone()).await;
        assert_eq!((got, p["field"].as_str()), (status, field), "{body}: {p}");
    }
}

#[tokio::test]
async fn a_type_is_added_corrected_imported_exported_and_given_back() {
    let s = Server::empty().await;
    let put = async |fields: Value, version: Value| {
        s.post("/api/transistors/types", json!({"fields": fields, "version": version})).await
    };
    let own = json!({"type": "GF77", "kind": "bipolar", "polarity": "pnp", "material": "germanium", "vcbo": "30 V",
        "vceo": "18", "ic": "40mA", "p": "90 mW", "p_ref": "ambient", "p_at": "25", "tj": "75", "pinout": "EBC"});
    let (status, a) = put(own.clone(), Value::Null).await;
    assert_eq!(
        (status, a["vceo"]["value"].as_f64(), a["vebo"].clone()),
        (200, Some(18.0), Value::Null),
        "{a}"
    );
    let (_, found) = s.post("/api/transistors/equivalents", json!({"type": "gf77"})).await;
    assert_eq!(found["candidates"][0]["type"], "GF77");
    // A correction stands before the table's row; removed, the table's counts again.
    let (_, f) = s.get("/api/transistors/types/fields?type=BC107").await;
    let mut fields = f["fields"].clone();
    fields["vceo"] = json!("33 V");
    let (_, c) = put(fields.clone(), Value::Null).await;
    assert_eq!((c["vceo"]["value"].as_f64(), c["own"]["corrects"].as_bool()), (Some(33.0), Some(true)));
    let (_, f) = s.get("/api/transistors/types/fields?type=BC107").await;
    assert_eq!((f["fields"]["vceo"].as_str(), f["table"]["vceo"].as_str()), (Some("33 V"), Some("45 V")));
    assert_eq!(put(fields.clone(), Value::Null).await.0, 409, "seen without the correction");
    assert_eq!(put(fields, f["version"].clone()).await.0, 200);
    let (_, list) = s.get("/api/transistors/types?own=true").await;
    assert_eq!((list["in_all"].as_u64(), list["own"].as_u64()), (Some(2), Some(2)));
    assert_eq!(s.delete(&format!("/api/transistors/types/{}", f["id"].as_str().unwrap())).await, 204);
    assert_eq!(s.delete(&format!("/api/transistors/types/{}", f["id"].as_str().unwrap())).await, 404);
    let (_, f) = s.get("/api/transistors/types/fields?type=BC107").await;
    assert_eq!((f["fields"]["vceo"].as_str(), f["version"].clone()), (Some("45 V"), Value::Null));
    // Out and in again is the same; bad rows are told, good ones kept.
    let all = s.text("/api/transistors/types/export").await;
    assert!(all.lines().count() > 360);
    let import = async |text: String| {
        let r = s
            .client
            .post(format!("{}/api/transistors/types/import", s.url))
            .header("content-type", "text/csv");
        let r = r.body(text).send().await.unwrap();
        (r.status().as_u16(), r.json::<Value>().await.unwrap())
    };
    let (_, done) = import(all.clone()).await;
    assert_eq!(done["refused_in_all"], 0, "{done}");
    let own_now = s.text("/api/transistors/types/export?own=true").await;
    let sorted = |t: &str| {
        let mut lines: Vec<&str> = t.lines().skip(1).collect();
        lines.sort_unstable();
        lines.join("\n")
    };
    assert_eq!(sorted(&own_now), sorted(&all));
    let bad = "type,kind,polarity,vceo\nX1,bipolar,npn,30 V\nX2,bipolar,upwards,3\n,bipolar,npn,3\nX1,bipolar,npn,9\nX4,bipolar,npn,0\n=X5,bipolar,npn,\n";
    let (_, done) = import(bad.to_owned()).await;
    assert_eq!((done["added"].as_u64(), done["refused_in_all"].as_u64()), (Some(1), Some(5)), "{done}");
    assert_eq!(done["refused"][0]["column"], "polarity");
    assert_eq!(import("colour\nred\n".to_owned()).await.0, 422);
    for (fields, field) in [
        (json!({"type": "", "kind": "bipolar", "polarity": "npn"}), "fields.type"),
        (json!({"type": "Z1", "kind": "jfet", "polarity": "npn"}), "fields.polarity"),
        (json!({"type": "Z1", "kind": "bipolar", "polarity": "npn", "vceo": "lots"}), "fields.vceo"),
        (json!({"type": "Z1", "kind": "bipolar", "polarity": "npn", "wheels": "4"}), "fields.wheels"),
    ] {
        let (status, p) = put(fields.clone(), Value::Null).await;
        assert_eq!((status, p["field"].as_str()), (422, Some(field)), "{fields}: {p}");
    }
}

#[tokio::test]
async fn lots_are_paired_kept_and_labelled() {
    let s = Server::empty().await;
    let pieces = json!([
        {"id": "A", "hfe": 90, "vbe": 0.610}, {"id": "B", "hfe": 140, "vbe": 0.640}, {"id": "C", "hfe": 93, "vbe": 0.612},
        {"id": "D", "hfe": 150, "vbe": 0.637}, {"id": "E", "hfe": 300, "vbe": 0.7},
    ]);
    let stage = json!({"test_current": 0.001, "emitter_resistor": 0.5, "idle_current": 0.02});
    let (status, a) =
        s.post("/api/transistors/pairs", json!({"transistors": pieces, "count": null, "stage": stage})).await;
    assert_eq!((status, a["left"].clone()), (200, json!(["E"])), "{a}");
    assert_eq!((a["pairs"][0]["a"].as_str(), a["pairs"][0]["b"].as_str()), (Some("A"), Some("C")));
    assert_eq!(a["best"]["distance"], a["pairs"][0]["distance"]);
    let sum: f64 = a["pairs"].as_array().unwrap().iter().map(|p| p["distance"].as_f64().unwrap()).sum();
    assert!((a["total"].as_f64().unwrap() - sum).abs() < 1e-9);
    assert!(a["pairs"][0]["idle"]["mismatch"].as_f64().unwrap() > 0.0);
    // What the stage makes of it: in a row one current flows through both; resistors even what is on one bias.
    let far = json!([{"id": "A", "hfe": 90, "vbe": 0.610}, {"id": "B", "hfe": 95, "vbe": 0.655}]);
    let as_in = async |stage: Value| {
        s.post("/api/transistors/pairs", json!({"transistors": far, "stage": stage})).await.1["pairs"][0]
            .clone()
    };
    assert_eq!(as_in(json!({})).await["call"], "at the edge of a pair");
    let row = as_in(json!({"stage": "complementary output", "idle_current": 0.02})).await;
    assert_eq!((row["call"].as_str(), row["idle"].is_null()), (Some("passes as a pair"), true), "{row}");
    let evened = as_in(json!({"emitter_resistor": 10, "idle_current": 0.02})).await;
    assert_eq!(evened["call"], "passes as a pair", "{evened}");
    let many: Vec<Value> =
        (0..500).map(|i| json!({"id": i.to_string(), "hfe": 50 + i, "vbe": 0.6})).collect();
    let (_, a) = s.post("/api/transistors/pairs", json!({"transistors": many})).await;
    assert!(a["note"].as_str().unwrap().contains("500 pieces") && a["best"]["a"] == "498", "{}", a["best"]);
    for (body, field) in [
        (json!({"transistors": []}), "transistors"),
        (json!({"transistors": pieces, "count": 3}), "count"),
        (json!({"transistors": pieces, "count": 0}), "count"),
        (json!({"transistors": many, "count": 30}), "count"),
        (
            json!({"transistors": [{"id": "A", "hfe": 0, "vbe": 0.6}, {"id": "B", "hfe": 9, "vbe": 0.6}]}),
            "transistors[0].hfe",
        ),
        (
            json!({"transistors": [{"id": "A", "hfe": 9, "vbe": 0.6}, {"id": "A", "hfe": 9, "vbe": 0.6}]}),
            "transistors[1].id",
        ),
    ] {
        let (status, p) = s.post("/api/transistors/pairs", body).await;
        assert_eq!((status, p["field"].as_str()), (422, Some(field)), "{p}");
    }
    // Kept, changed with the version, named once.
    let id = Uuid::new_v4();
    let piece = |l: &str, g: &str, v: &str| json!({"label": l, "gain": g, "base_volts": v});
    let lot = |name: &str, version: Value, pieces: Vec<Value>| {
        json!({"name": name, "type_number": "BD138", "stage": "driver", "test_current": "5mA", "emitter_resistor": "1", "idle_current": "10mA",
            "pieces": pieces, "version": version})
    };
    let path = format!("/api/transistors/lots/{id}");
    let three = vec![piece("1", "90", "612"), piece("2", "95", ".615"), piece("3", "130", "0.64 V")];
    let (status, a) = s.post(&path, lot("Tender set", Value::Null, three.clone())).await;
    assert_eq!((status, a["paired"]["pairs"][0]["b"].as_str()), (201, Some("2")), "{a}");
    assert_eq!(a["lot"]["stage"], "driver");
    assert!((a["lot"]["pieces"][0]["base_volts"].as_f64().unwrap() - 0.612).abs() < 1e-9);
    assert_eq!(s.post(&path, lot("Tender set", Value::Null, three.clone())).await.0, 201, "sent twice");
    let other = format!("/api/transistors/lots/{}", Uuid::new_v4());
    assert_eq!(s.post(&other, lot("tender SET", Value::Null, vec![])).await.0, 409);
    assert_eq!(s.patch(&path, lot("Tender set", json!(9), three.clone())).await.0, 409);
    let more = [three, vec![piece("4", "128", "641")]].concat();
    assert_eq!(s.patch(&path, lot("Tender set", a["lot"]["version"].clone(), more)).await.0, 200);
    let (_, quads) = s.get(&format!("{path}?size=quads")).await;
    assert_eq!(quads["paired"]["quads"][0]["members"].as_array().unwrap().len(), 4);
    assert!(s.text(&format!("{path}/labels")).await.contains("with 2"));
    assert!(s.text(&format!("{path}/csv")).await.contains("\"4\",128,0.641"));
    for (pieces, field) in [
        (vec![piece("", "9", "0.6")], "pieces[0].label"),
        (vec![piece("1", "soft", "0.6")], "pieces[0].gain"),
        (vec![piece("1", "9", "0.6"), piece("2", "9", "60 V")], "pieces[1].base_volts"),
        (vec![piece("1", "9", "0.6"), piece("1", "9", "0.6")], "pieces[1].label"),
    ] {
        let (status, p) = s.post(&other, lot("Other", Value::Null, pieces)).await;
        assert_eq!((status, p["field"].as_str()), (422, Some(field)), "{p}");
    }
    assert_eq!((s.delete(&path).await, s.delete(&path).await), (204, 404));
}

#[tokio::test]
async fn a_bought_part_is_inspected_and_never_called_genuine() {
    let s = Server::empty().await;
    let q = |answers: Value| json!({"type": "2SC2078", "answers": answers});
    let (_, a) = s.post("/api/transistors/inspect", q(json!([]))).await;
    assert_eq!(a["verdict"], "not enough looked at");
    let good = json!([
        {"look": "print", "seen": "as a true one"}, {"look": "leads", "seen": "as a true one"},
        {"look": "notch", "seen": "as a true one"}, {"look": "gain", "bought": "80", "known": "88"},
        {"look": "base volts", "bought": "634", "known": "0.641"},
    ]);
    let (_, a) = s.post("/api/transistors/inspect", q(good.clone())).await;
    assert_eq!(a["verdict"], "no sign against it", "{a}");
    let keep = json!({"key": Uuid::new_v4(), "question": q(good), "bought_from": "a stall", "note": ""});
    assert_eq!(s.post("/api/transistors/inspections", keep.clone()).await.0, 201);
    assert_eq!(s.post("/api/transistors/inspections", keep).await.0, 201, "sent twice");
    let (_, desk) = s.get("/api/transistors/inspections").await;
    assert_eq!((desk["kept"].as_array().unwrap().len(), desk["lines"].as_array().unwrap().len()), (1, 10));
    let (status, p) =
        s.post("/api/transistors/inspect", q(json!([{"look": "weight", "bought": "heavy"}]))).await;
    assert_eq!((status, p["field"].as_str()), (422, Some("answers[0].bought")), "{p}");
    let empty = json!({"key": Uuid::new_v4(), "question": q(json!([]))});
    assert_eq!(s.post("/api/transistors/inspections", empty).await.0, 422);
}

#[tokio::test]
async fn a_shorted_output_transistor_brings_its_suspects_and_the_new_one_is_checked() {
    let s = Server::empty().await;
    s.import("kind,type,value,count,place\ntransistor,AD149,,3,tin 4\n").await;
    let t = s.ticket(&["Q6 AD139 output stage", "Q6 rail 12", "TR2 AC152 driver", "U1 TBA120"]).await;
    let q6 = part(&t, "Q6");
    assert_eq!((q6["kind"].as_str(), q6["position"].as_str()), (Some("transistor"), Some("output stage")));
    assert_eq!(part(&t, "U1")["steps"], json!(["read", "measure", "judge", "fit", "prove"]));
    let id = q6["id"].as_str().unwrap();
    let shorted = six([Value::Null, json!(0.16), Value::Null, json!(0.158), json!(0.002), json!(0.003)]);
    let keep = json!({"key": Uuid::new_v4(), "question": shorted});
    let (status, p) = s.post(&format!("/api/parts/{id}/junctions"), keep.clone()).await;
    assert_eq!(
        (status, p["judgement"]["verdict"].as_str(), p["junctions"]["says"]["state"].as_str()),
        (201, Some("replace"), Some("shorted")),
        "{p}"
    );
    assert_eq!(s.post(&format!("/api/parts/{id}/junctions"), keep).await.0, 201, "sent twice");
    let r = s.ticket(&["R1 150"]).await;
    let wrong = json!({"key": Uuid::new_v4(), "question": six([Value::Null, Value::Null, Value::Null, Value::Null, Value::Null, Value::Null])});
    assert_eq!(
        s.post(&format!("/api/parts/{}/junctions", part(&r, "R1")["id"].as_str().unwrap()), wrong).await.0,
        422
    );
    // The decision asks what died with it: what is known is marked, and nothing is put on the tray that nobody named.
    let (_, now) = s.get(&format!("/api/parts/{id}")).await;
    let decide = json!({"key": Uuid::new_v4(), "version": now["version"], "decided": "replace"});
    let (status, p) = s.post(&format!("/api/parts/{id}/decisions"), decide).await;
    assert_eq!(status, 201, "{p}");
    assert_eq!(p["suspects_open"], json!(["TR2"]));
    let (_, whole) = s.whole(&format!("/api/tickets/{}", t["id"].as_str().unwrap())).await;
    assert_eq!(whole["parts"].as_array().unwrap().len(), t["parts"].as_array().unwrap().len());
    assert_eq!(part(&whole, "TR2")["suspect_of"]["name"], "Q6");
    // One that is none is taken off, with its reason; without one it stays.
    let at = format!("/api/parts/{}", part(&whole, "TR2")["id"].as_str().unwrap());
    for (reason, wanted) in [("", 422), ("of the other channel", 200), ("again", 422)] {
        let (_, now) = s.get(&at).await;
        let (status, p) = s.patch(&at, json!({"version": now["version"], "no_suspect": reason})).await;
        assert_eq!(status, wanted, "{p}");
        if status == 200 {
            assert!(p["suspect_of"].is_null(), "{p}");
            assert!(p["note"].as_str().unwrap().starts_with("No suspect of Q6: of the other"), "{p}");
        }
    }
    let (_, p) = s.get(&format!("/api/parts/{id}")).await;
    assert_eq!(p["suspects_open"], json!([]));
    // Fitted from the drawer, with its type; then checked.
    let (_, choices) = s.get(&format!("/api/parts/{id}/substitutes")).await;
    let first = &choices["choices"][0];
    assert_eq!(
        (first["from"].as_str(), first["entry"]["type_number"].as_str()),
        (Some("drawers"), Some("AD149")),
        "{first}"
    );
    let (_, now) = s.get(&format!("/api/parts/{id}")).await;
    let fit = json!({"key": Uuid::new_v4(), "version": now["version"], "description": first["description"],
        "type_number": "AD149", "family": "germanium", "measured": "58", "pieces": [{"lot": first["pieces"][0]["lot"], "description": "AD149"}]});
    let (status, p) = s.post(&format!("/api/parts/{id}/fittings"), fit).await;
    assert_eq!((status, p["type_number"].as_str()), (201, Some("AD149")), "{p}");
    assert_eq!(p["judgement"]["verdict"], "keep", "judged by the new one's sheet: {}", p["judgement"]);
    let asked: Vec<&str> =
        p["checks"].as_array().unwrap().iter().map(|c| c["check"].as_str().unwrap()).collect();
    let order = ["cooling", "bias", "supply limited", "quiescent current", "power", "temperature"];
    assert_eq!(asked, order);
    let fitting = p["fittings"][0]["id"].as_str().unwrap();
    let proof = |checks: Value| json!({"key": Uuid::new_v4(), "outcome": "better", "seen": "full sound, cold plate", "checks": checks});
    let path = format!("/api/fittings/{fitting}/proof");
    let (status, e) = s.post(&path, proof(json!([{"check": "quiescent current", "found": "some"}]))).await;
    assert_eq!((status, e["field"].as_str()), (422, Some("checks[0].found")), "{e}");
    let checks = json!([{"check": "bias"}, {"check": "quiescent current", "found": "30 mA"}, {"check": "temperature", "found": "38"}]);
    let (status, p) = s.post(&path, proof(checks)).await;
    assert_eq!(status, 201, "{p}");
    assert_eq!(p["fittings"][0]["proof"]["checks"][1], "quiescent current 30 mA");
}

#[tokio::test]
async fn what_cannot_be_in_the_database_cannot_get_there() {
    let s = Server::empty().await;
    for statement in [
        "insert into device (id, type_number, kind, polarity, sure, source) values (gen_random_uuid(), 'X', 'jfet', 'npn', 'fair', 'memory: x')",
        "insert into device (id, type_number, kind, polarity, sure, source, vceo) values (gen_random_uuid(), 'X', 'bipolar', 'npn', 'fair', 'memory: x', 0)",
        "insert into match_lot (id, name, test_amperes) values (gen_random_uuid(), 'x', 0)",
        "insert into inspection (id, type_number, answers, verdict) values (gen_random_uuid(), 'X', '[]', 'genuine')",
    ] {
        assert!(sqlx::query(statement).execute(&s.pool).await.is_err(), "{statement}");
    }
}
