//! The door: what a connection costs, who is let go, and that the end waits for nobody.

use std::time::Duration;

use restless_owl::database::{Database, PAGE, pool};
use restless_owl::door::{Door, Limits};
use restless_owl::people::Access;
use restless_owl::serve::{Further, serve_on};
use tokio::io::{AsyncReadExt, AsyncWriteExt};
use tokio::net::TcpStream;

use crate::support::{Server, database, front};

const HALF: &[u8] = b"GET /api/health HTTP/1.1\r\nhost: loc";

fn address(s: &Server) -> String {
    s.url.trim_start_matches("http://").to_owned()
}

/// What comes back until the other end hangs up.
async fn rest_of(stream: &mut TcpStream) -> String {
    let mut all = Vec::new();
    let _cut = stream.read_to_end(&mut all).await;
    String::from_utf8_lossy(&all).into_owned()
}

#[tokio::test]
async fn half_a_header_is_let_go_and_a_full_house_says_so() {
    let limits = Limits { per_address: 4, header: Duration::from_millis(400), ..Limits::default() };
    let s = Server::with(&database().await, Access::Alone, limits).await;
    let mut held = Vec::new();
    for _ in 0..4 {
        let mut stream = TcpStream::connect(address(&s)).await.unwrap();
        stream.write_all(HALF).await.unwrap();
        held.push(stream);
    }
    // The fifth is told in words, by whatever speaks HTTP.
    let mut fifth = TcpStream::connect(address(&s)).await.unwrap();
    let said = rest_of(&mut fifth).await;
    assert!(said.starts_with("HTTP/1.1 503") && said.contains("too many connections"), "{said}");
    // Whoever never finishes a header is let go, and there is room again.
    for stream in &mut held {
        rest_of(stream).await;
    }
    assert_eq!(s.get("/api/health").await.0, 200);
}

#[tokio::test]
async fn a_connection_costs_little() {
    // Debian's /proc: resident pages of this program, of which the server is a part.
    fn resident_kb() -> u64 {
        let status = std::fs::read_to_string("/proc/self/status").unwrap();
        let line = status.lines().find(|l| l.starts_with("VmRSS:")).unwrap();
        line.split_whitespace().nth(1).unwrap().parse().unwrap()
    }
    let s = Server::empty().await;
    assert_eq!(s.get("/api/health").await.0, 200);
    let before = resident_kb();
    let mut held = Vec::new();
    for _ in 0..400 {
        let mut stream = TcpStream::connect(address(&s)).await.unwrap();
        stream.write_all(b"GET /api/session HTTP/1.1\r\nhost: ").await.unwrap();
        stream.write_all(address(&s).as_bytes()).await.unwrap();
        stream.write_all(b"\r\n\r\n").await.unwrap();
        let mut some = [0; 256];
        assert!(stream.read(&mut some).await.unwrap() > 0);
        held.push(stream);
    }
    // Other tests run in the same program: far below what it was (12 MB each), not exact. bench/ prints the figure.
    let each = resident_kb().saturating_sub(before) / 400;
    assert!(each < 1000, "{each} kB a connection");
}

#[tokio::test]
async fn the_end_waits_for_nobody_longer_than_it_says() {
    let url = database().await;
    let listener = tokio::net::TcpListener::bind("127.0.0.1:0").await.unwrap();
    let at = listener.local_addr().unwrap();
    let front = front(&listener, Access::Alone);
    let limits = Limits { leaving: Duration::from_millis(300), ..Limits::default() };
    let door = Door { listener, limits, tls: None, proxies: vec![] };
    let (stop, stopped) = tokio::sync::oneshot::channel::<()>();
    let pool = pool(&url, PAGE).unwrap();
    restless_owl::serve::migrate(&pool).await.unwrap();
    let serving = tokio::spawn(serve_on(
        door,
        Database::direct(pool.clone()),
        pool,
        front,
        Further::default(),
        async {
            let _told = stopped.await;
        },
    ));
    // Half a header, and somebody who asks for much and never reads it.
    let mut half = TcpStream::connect(at).await.unwrap();
    half.write_all(HALF).await.unwrap();
    let mut deaf = TcpStream::connect(at).await.unwrap();
    let ask = format!("GET /api/openapi.json HTTP/1.1\r\nhost: {at}\r\n\r\n");
    for _ in 0..40 {
        deaf.write_all(ask.as_bytes()).await.unwrap();
    }
    tokio::time::sleep(Duration::from_millis(100)).await;
    stop.send(()).unwrap();
    tokio::time::timeout(Duration::from_secs(60), serving).await.expect("it ends").unwrap().unwrap();
    drop((half, deaf));
}

#[tokio::test]
async fn what_takes_too_long_answers_with_the_best_so_far() {
    let s = Server::empty().await;
    // Ohms and farads in one list, and a lot of transistors without an order.
    let values: Vec<_> = (0..400)
        .map(|i| {
            let decade = f64::from(i % 18) - 12.0;
            serde_json::json!({"value": 10f64.powf(decade) * (1.0 + f64::from(i) / 400.0)})
        })
        .collect();
    let question = serde_json::json!({"kind": "resistor", "target": 7321.0, "max_parts": 4, "limit": 100, "from": {"values": values}});
    let (status, found) = s.post("/api/combine", question).await;
    assert_eq!(status, 200, "{found}");
    assert!(!found["networks"].as_array().unwrap().is_empty());
    let pieces: Vec<_> = (0..24)
        .map(|i: i32| {
            let hfe = 20.0 + f64::from(i * 7919 % 383);
            serde_json::json!({"id": format!("P{i}"), "hfe": hfe, "vbe": 0.55 + f64::from(i * 104_729 % 151) / 1000.0})
        })
        .collect();
    let (status, quads) =
        s.post("/api/transistors/pairs", serde_json::json!({"transistors": pieces, "size": "quads"})).await;
    assert_eq!((status, quads["quads"].as_array().map(Vec::len)), (200, Some(6)), "{quads}");
}

#[tokio::test]
async fn whoever_watches_the_server_reads_what_it_does() {
    let s = Server::empty().await;
    let ticket = s.ticket(&[]).await;
    s.get(&format!("/api/tickets/{}", ticket["id"].as_str().unwrap())).await;
    s.get("/api/tickets/00000000-0000-0000-0000-000000000000").await;
    let (headers, text) = s.page("/api/metrics").await;
    assert!(headers["content-type"].to_str().unwrap().starts_with("application/openmetrics-text"));
    for line in [
        "owl_request_seconds_count{method=\"GET\",path=\"/api/tickets/{id}\",status=\"404\"} 1",
        "# TYPE owl_request_seconds histogram",
        "owl_pages_listening 0",
        "# EOF",
    ] {
        assert!(text.contains(line), "{line}: {text}");
    }
    assert!(!text.contains(ticket["id"].as_str().unwrap()), "no ticket is named");
}
