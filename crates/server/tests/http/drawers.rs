//! The drawers over HTTP: search, forms, CSV in and out, labels, what is to be bought; small, empty, large, wrong.

use serde_json::{Value, json};
use uuid::Uuid;

use crate::support::{Server, part};

const HEADER: &str = "kind,family,type,value,volts,watts,count,place,condition,price,low_water,measured";

fn id(v: &Value) -> &str {
    v["id"].as_str().unwrap()
}

async fn stocked() -> Server {
    let s = Server::empty().await;
    let csv = format!(
        "{HEADER}\n\
         capacitor,polypropylene,,0.033 µF,630,,9,\"film binder, page 2\",new,0.70,4,\n\
         capacitor,polyester,,33n,250,,3,\"film binder, page 5\",new,0.30,5,\n\
         resistor,metal film,,4k7,,1 W,12,cabinet A,new,0.12,10,\n\
         resistor,metal film,,630,,½ W,4,cabinet A,\"old stock, tested\",,0,628; 631\n\
         diode,silicon,1N4007,,1000,,20,cabinet B,new,0.06,0,\n"
    );
    let (status, done) = s.import(csv).await;
    assert_eq!(
        (status, done["added"].as_u64(), done["refused_in_all"].as_u64()),
        (200, Some(5), Some(0)),
        "{done}"
    );
    s
}

#[tokio::test]
async fn a_search_line_finds_by_value_volts_type_and_place() {
    let s = stocked().await;
    let found = async |q: &str| -> Vec<String> {
        let (status, a) = s.get(&format!("/api/drawers?search={}", q.replace(' ', "%20"))).await;
        assert_eq!(status, 200, "{a}");
        a["lots"].as_array().unwrap().iter().map(|l| l["description"].as_str().unwrap().to_owned()).collect()
    };
    assert_eq!(found("0.033 630").await, ["33 nF 630 V polypropylene"]);
    assert_eq!(found("33n").await.len(), 2);
    assert_eq!(found("4k7 1W").await, ["4.7 kΩ 1 W metal film"]);
    assert_eq!(found("1n4007").await, ["1N4007 1 kV silicon"]);
    assert_eq!(found("binder page 5").await, ["33 nF 250 V polyester"]);
    // By need: what stands more does, in whatever order it is said; nothing that stands less.
    assert_eq!(found(".033 100").await.len(), 2);
    assert_eq!(found("400 33nF").await, ["33 nF 630 V polypropylene"]);
    assert_eq!(found("4.7k .5W").await, found("4700 1/2W").await);
    assert_eq!(found("4700 0.5W").await, ["4.7 kΩ 1 W metal film"]);
    assert!(found("4k7 3W").await.is_empty());
    // A number is a value or volts: both are found.
    assert_eq!(found("630").await.len(), 2);
    assert!(found("100%_\\'").await.is_empty());
    let (_, a) = s.get("/api/drawers?kind=resistor&limit=1").await;
    assert_eq!(
        (a["lots"].as_array().unwrap().len(), a["total"].as_i64(), a["all"].as_i64()),
        (1, Some(2), Some(5))
    );
    let (_, a) = s.get("/api/drawers?low=true").await;
    assert_eq!((a["total"].as_i64(), a["low"].as_i64()), (Some(1), Some(1)), "{a}");
    assert_eq!(s.get("/api/drawers?kind=turnip").await.0, 422);
    let (_, empty) = Server::empty().await.get("/api/drawers").await;
    assert_eq!((empty["lots"].as_array().unwrap().len(), empty["all"].as_i64()), (0, Some(0)));
}

#[tokio::test]
async fn a_lot_is_added_changed_and_thrown_away() {
    let s = Server::empty().await;
    let new = json!({"id": Uuid::new_v4(), "fields": {"kind": "coil", "family": "choke", "value": "7 H",
        "amperes": "90 mA", "winding": "260", "count": "2", "place": "iron shelf"}});
    let (status, lot) = s.post("/api/drawers", new.clone()).await;
    assert_eq!((status, lot["description"].as_str()), (201, Some("7 H 90 mA 260 Ω winding choke")), "{lot}");
    assert_eq!(s.post("/api/drawers", new).await.1["count"], 2, "sent again it is the same lot");
    let path = format!("/api/drawers/{}", id(&lot));
    let (status, changed) =
        s.patch(&path, json!({"version": lot["version"], "fields": {"count": "1"}})).await;
    assert_eq!(
        (status, changed["count"].as_u64(), changed["place"].as_str()),
        (200, Some(1), Some("iron shelf"))
    );
    let (status, late) = s.patch(&path, json!({"version": lot["version"], "fields": {"count": "9"}})).await;
    assert_eq!(status, 409, "{late}");
    for (fields, field) in [
        (json!({"count": "many"}), "count"),
        (json!({"value": "-7 H"}), "value"),
        (json!({"family": "polyester"}), "family"),
        (json!({"colour": "red"}), "colour"),
        (json!({"place": "=HYPERLINK()"}), "place"),
    ] {
        let (status, problem) =
            s.patch(&path, json!({"version": changed["version"], "fields": fields})).await;
        assert_eq!((status, problem["field"].as_str()), (422, Some(field)), "{problem}");
        assert!(!problem["detail"].as_str().unwrap().starts_with(field), "{problem}");
    }
    let by = async |n: i32| s.post(&format!("{path}/count"), json!({"by": n})).await;
    assert_eq!(by(3).await.1["count"], 4);
    assert_eq!(by(-4).await.1["count"], 0);
    let (status, problem) = by(-1).await;
    assert_eq!((status, problem["field"].as_str()), (422, Some("by")), "{problem}");
    assert_eq!(by(9999).await.0, 422);
    assert_eq!(s.delete(&path).await, 204);
    assert_eq!(s.delete(&path).await, 404);
}

#[tokio::test]
async fn good_rows_are_kept_and_bad_ones_told_line_by_line() {
    let s = Server::empty().await;
    let csv = format!(
        "{HEADER}\n\
         resistor,metal film,,1k,,1 W,5,a,new,,0,\n\
         resistor,metal film,,lots,,1 W,5,a,new,,0,\n\
         \n\
         capacitor,,,,100,,5,a,new,,0,\n\
         resistor,metal film,,2k,,1 W,some,a,new,,0,\n\
         resistor,metal film,,3k,,1 W,5,a,new,,0,,,,,\n\
         resistor,metal film,,\"4k\",,1 W,5,\"a \"\"big\"\" box\",new,,0,\n"
    );
    let (status, done) = s.import(csv).await;
    assert_eq!(
        (status, done["added"].as_u64(), done["refused_in_all"].as_u64()),
        (200, Some(2), Some(4)),
        "{done}"
    );
    let told: Vec<(u64, Option<&str>)> = done["refused"]
        .as_array()
        .unwrap()
        .iter()
        .map(|r| (r["line"].as_u64().unwrap(), r["column"].as_str()))
        .collect();
    assert_eq!(told, [(3, Some("value")), (5, Some("value")), (6, Some("count")), (7, None)]);
    let (_, a) = s.get("/api/drawers?search=4k").await;
    assert_eq!(a["lots"][0]["place"], "a \"big\" box");
    for (csv, words) in [
        ("", "empty"),
        ("kind,value\nresistor,1k\n", "no column 'count'"),
        ("kind,value,count,colour\n", "'colour'"),
        ("\u{0}\u{1}\u{2}", "column"),
    ] {
        let (status, problem) = s.import(csv).await;
        assert_eq!((status, problem["field"].as_str()), (422, Some("file")), "{problem}");
        assert!(problem["detail"].as_str().unwrap().contains(words), "{problem}");
    }
    let (status, problem) = s.import(vec![b'k', b'i', 0xff, 0xfe, b'\n']).await;
    assert_eq!((status, problem["field"].as_str()), (422, Some("file")), "{problem}");
}

#[tokio::test]
async fn what_goes_out_comes_in_again() {
    let s = stocked().await;
    let out = s.text("/api/drawers/export").await;
    assert_eq!(out.lines().count(), 6);
    // The same file again changes nothing but the counts that were edited in it.
    let edited = out.replace("polyester,,33 nF", "polyester,,34 nF");
    assert_ne!(out, edited);
    let (_, done) = s.import(edited).await;
    assert_eq!((done["added"].as_u64(), done["changed"].as_u64()), (Some(0), Some(5)), "{done}");
    let again = s.text("/api/drawers/export").await;
    assert_eq!(again.lines().count(), 6);
    assert!(again.contains("34 nF") && again.contains("628 Ω; 631 Ω"), "{again}");
    let twice = format!("{out}{}\n", out.lines().nth(1).unwrap());
    let (_, done) = s.import(twice).await;
    assert_eq!(done["refused_in_all"], 1, "{done}");
    let labels = s.text("/api/drawers/labels?search=33n").await;
    assert!(labels.starts_with("<svg") && labels.matches("<rect").count() == 2, "{labels}");
}

/// A file of 50 MB without sense is refused, and the server lives on in bounded memory.
#[tokio::test]
async fn fifty_megabytes_are_refused() {
    let s = Server::empty().await;
    let before = resident_kb();
    let (status, problem) = s.import(vec![b'x'; 50 * 1024 * 1024]).await;
    assert_eq!(status, 413, "{problem}");
    assert!(problem["detail"].as_str().unwrap().contains("kilobytes"));
    // The 50 MB that this test itself made are in the same process; nothing of that size came on top.
    assert!(resident_kb() < before + 110 * 1024, "{} kB before, {} after", before, resident_kb());
    // Rows without end but each of them bad: told up to a hundred, all counted.
    let bad = format!("{HEADER}\n{}", "resistor,metal film,,lots,,,5,a,new,,0,\n".repeat(20_000));
    let (status, done) = s.import(bad).await;
    assert_eq!((status, done["refused_in_all"].as_u64()), (200, Some(20_000)));
    assert_eq!(done["refused"].as_array().unwrap().len(), 100);
    assert_eq!(s.get("/api/health").await.0, 200);
}

fn resident_kb() -> u64 {
    let status = std::fs::read_to_string("/proc/self/status").unwrap();
    let line = status.lines().find(|l| l.starts_with("VmRSS:")).unwrap();
    line.split_whitespace().nth(1).unwrap().parse().unwrap()
}

/// 20,000 kinds are taken, searched and chosen from. How long that takes is printed by a benchmark.
#[tokio::test]
async fn twenty_thousand_kinds_are_searched() {
    let s = Server::empty().await;
    let mut csv = format!("{HEADER}\n");
    for i in 0..20_000 {
        let value = 10.0 * 1.0005f64.powi(i);
        csv +=
            &format!("resistor,metal film,,{value:.3},,1 W,{},drawer {},new,0.10,0,\n", 1 + i % 7, i % 300);
    }
    let (status, done) = s.import(csv).await;
    assert_eq!((status, done["added"].as_u64()), (200, Some(20_000)), "{done}");
    let (_, a) = s.get("/api/drawers?search=drawer%20299%201W").await;
    assert!(a["total"].as_i64() > Some(60));
    let body = json!({"part": {"kind": "resistor", "family": "carbon composition", "value": 18500, "power": 0.5}, "school": "test first"});
    let (_, a) = s.post("/api/substitute", body).await;
    assert_eq!(a["choices"][0]["from"], "drawers");
    assert!(a["choices"][0]["deviation"].as_f64().unwrap().abs() < 0.006, "{}", a["choices"][0]);
}

#[tokio::test]
async fn what_the_tickets_lack_is_on_the_list_and_the_set_is_weighed() {
    let s = stocked().await;
    let t = s
        .ticket(&[
            "C4 .033/400 coupling wax paper",
            "R7 220k 10% ½W plate load = 310k lifted",
            "R8 220k 10% ½W plate load = 330k lifted",
            "C4 leak = 40uA @200 lifted",
        ])
        .await;
    let list = async || s.get("/api/shopping").await.1;
    let a = list().await;
    let lines: Vec<&str> =
        a["lines"].as_array().unwrap().iter().map(|l| l["description"].as_str().unwrap()).collect();
    // C4 is in the drawers; the two resistors are not, and make one line; the polyester has run low.
    assert_eq!(lines.len(), 2, "{a}");
    assert!(lines[0].contains("220 kΩ") && a["lines"][0]["lacking"] == 2 && a["lines"][0]["order"] == 10);
    assert!(lines[1].contains("polyester") && a["lines"][1]["lacking"] == 2, "{a}");
    let csv = s.text("/api/shopping/export").await;
    assert!(
        csv.starts_with("part,lacking,order,price,wanted_for") && csv.contains("R7 of Fell Farm table set")
    );
    let (_, f) = s.get(&format!("/api/tickets/{}/feasibility", id(&t))).await;
    assert_eq!(
        (f["parts"].as_u64(), f["in_drawers"].as_u64(), f["to_buy"].as_u64()),
        (Some(3), Some(1), Some(2)),
        "{f}"
    );
    assert_eq!((f["cost"].as_str(), f["without_price"].as_u64()), (Some("0.70"), Some(2)), "{f}");
    // Part by part: which drawer is opened, and at what price.
    let here = f["needs"].as_array().unwrap().iter().find(|n| n["rarity"] == "in the drawers").unwrap();
    assert_eq!(
        (here["places"].as_array().map(Vec::len), here["price"].as_str()),
        (Some(1), Some("0.70")),
        "{here}"
    );
    let bought = f["needs"].as_array().unwrap().iter().find(|n| n["rarity"] == "to buy").unwrap();
    assert!(bought["places"].as_array().unwrap().is_empty() && bought["price"].is_null(), "{bought}");
    assert_eq!(part(&t, "R7")["judgement"]["verdict"], "replace");
}
