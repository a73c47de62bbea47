//! What every request passes: names, origins, sizes, kinds of body, headers, addresses.

use crate::support::{Server, root};

#[tokio::test]
async fn a_foreign_name_or_page_is_refused_even_on_loopback() {
    let s = Server::empty().await;
    let get = |headers: &[(&'static str, &'static str)]| {
        let mut r = s.client.get(format!("{}/api/health", s.url));
        for (k, v) in headers {
            r = r.header(*k, *v);
        }
        r.send()
    };
    assert_eq!(get(&[]).await.unwrap().status(), 200);
    assert_eq!(get(&[("host", "owl.example:80")]).await.unwrap().status(), 403);
    assert_eq!(get(&[("origin", "http://owl.example")]).await.unwrap().status(), 403);
    assert_eq!(get(&[("origin", "null")]).await.unwrap().status(), 403);
    assert_eq!(get(&[("sec-fetch-site", "cross-site")]).await.unwrap().status(), 403);
    let port = s.url.rsplit(':').next().unwrap();
    let own = format!("http://localhost:{port}");
    let r = s.client.get(format!("{}/api/health", s.url)).header("origin", own).send().await.unwrap();
    assert_eq!(r.status(), 200);
}

#[tokio::test]
async fn bodies_are_json_and_small() {
    let s = Server::empty().await;
    let post = |body: String, kind: &'static str| {
        s.client.post(format!("{}/api/decode", s.url)).header("content-type", kind).body(body).send()
    };
    for (body, kind, status) in [
        ("{\"text\":".to_owned(), "application/json", 400),
        ("{\"text\":\"4k7\"} trailing".to_owned(), "application/json", 400),
        ("{\"text\":\"4k7\"}".to_owned(), "text/plain", 415),
        (format!("{{\"text\":\"{}\"}}", "x".repeat(100_000)), "application/json", 413),
        ("{\"text\":\"4k7\",\"measured\":1e999}".to_owned(), "application/json", 400),
        ("{\"text\":\"4k7\"}".to_owned(), "application/json; charset=utf-8", 200),
    ] {
        let r = post(body, kind).await.unwrap();
        assert_eq!(r.status(), status, "{kind}");
        if status != 200 {
            assert_eq!(r.headers()["content-type"], "application/problem+json");
        }
    }
}

#[tokio::test]
async fn unknown_addresses_and_methods_are_problems_under_api() {
    let s = Server::empty().await;
    assert_eq!(s.get("/api/nothing/here").await.0, 404);
    assert_eq!(s.post("/api/health", serde_json::json!({})).await.0, 405);
    assert_eq!(s.get("/api/tickets/not-an-id").await.0, 404);
    assert_eq!(s.get("/api/tickets/5f0c1c3e-0000-4000-8000-000000000000").await.0, 404);
    assert_eq!(s.get("/api/parts/5f0c1c3e-0000-4000-8000-000000000000").await.0, 404);
}

#[tokio::test]
async fn headers_keep_the_page_to_itself() {
    let s = Server::empty().await;
    let r = s.client.get(format!("{}/api/health", s.url)).send().await.unwrap();
    let h = r.headers();
    assert!(h["content-security-policy"].to_str().unwrap().starts_with("default-src 'self'"));
    assert_eq!(
        (&h["x-content-type-options"], &h["cache-control"]),
        (&"nosniff".parse().unwrap(), &"no-store".parse().unwrap())
    );
    assert!(!h["x-request-id"].is_empty());
    let given =
        s.client.get(format!("{}/api/health", s.url)).header("x-request-id", "bench-7").send().await.unwrap();
    assert_eq!(given.headers()["x-request-id"], "bench-7");
}

/// The front end's types are made from this document: it must be the one that the code gives.
#[tokio::test]
async fn the_openapi_document_in_the_front_end_is_up_to_date() {
    let s = Server::empty().await;
    let (status, served) = s.get("/api/openapi.json").await;
    assert_eq!((status, served["openapi"].as_str()), (200, Some("3.1.0")));
    let kept = std::fs::read_to_string(root().join("web/src/api/openapi.json")).unwrap();
    let kept: serde_json::Value = serde_json::from_str(&kept).unwrap();
    assert!(kept == served, "web/src/api/openapi.json is old: run `make openapi`");
    let mut seen = std::collections::BTreeSet::new();
    for (path, item) in served["paths"].as_object().unwrap() {
        for (method, op) in item.as_object().unwrap() {
            assert!(
                seen.insert(op["operationId"].to_string()),
                "{method} {path}: operation id is not its own"
            );
            assert!(op["responses"]["403"].is_object(), "{method} {path} does not document 403");
        }
    }
}
