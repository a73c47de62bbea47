//! The front end, embedded in the binary.

use axum::body::Body;
use axum::extract::Request;
use axum::http::{HeaderValue, StatusCode, header};
use axum::response::{IntoResponse, Response};
use rust_embed::{EmbeddedFile, RustEmbed};

#[derive(RustEmbed)]
#[folder = "../../web/dist"]
struct Dist;

/// Serves a file of the front end; a path of the page's own router gets the page itself.
pub async fn asset(request: Request) -> Response {
    let path = request.uri().path().trim_start_matches('/');
    if let Some(file) = Dist::get(path) {
        return served(path, file, request.headers().get(header::IF_NONE_MATCH));
    }
    let is_file = path.rsplit('/').next().is_some_and(|name| name.contains('.'));
    match Dist::get("index.html") {
        Some(page) if !is_file => served("index.html", page, request.headers().get(header::IF_NONE_MATCH)),
        Some(_) => (StatusCode::NOT_FOUND, "not here").into_response(),
        None => {
            let text = "The front end is not built into this program: run `make web` and build again.";
            (StatusCode::NOT_FOUND, text).into_response()
        }
    }
}

fn served(path: &str, file: EmbeddedFile, known: Option<&HeaderValue>) -> Response {
    use std::fmt::Write;
    let mut tag = String::from("\"");
    for byte in &file.metadata.sha256_hash()[..12] {
        let _ = write!(tag, "{byte:02x}");
    }
    tag.push('"');
    // Files under assets/ carry a hash of their content in their name.
    let caching =
        if path.starts_with("assets/") { "public, max-age=31536000, immutable" } else { "no-cache" };
    if known.is_some_and(|k| k.as_bytes() == tag.as_bytes()) {
        return (
            StatusCode::NOT_MODIFIED,
            [(header::ETAG, tag), (header::CACHE_CONTROL, caching.to_owned())],
        )
            .into_response();
    }
    let headers = [
        (header::CONTENT_TYPE, file.metadata.mimetype().to_owned()),
        (header::CACHE_CONTROL, caching.to_owned()),
        (header::ETAG, tag),
    ];
    (headers, Body::from(file.data)).into_response()
}
