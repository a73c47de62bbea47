//! The front end, embedded in the program and not in its library: the library is compiled while the front end is built.

use axum::body::Body;
use axum::extract::Request;
use axum::http::{HeaderMap, HeaderValue, StatusCode, header};
use axum::response::{IntoResponse, Response};
use rust_embed::{EmbeddedFile, RustEmbed};

#[derive(RustEmbed)]
#[folder = "../../web/dist"]
struct Dist;

/// What tells this front end from another: the name of the file that its page begins with, which carries a hash of all.
pub fn build() -> Option<HeaderValue> {
    let page = String::from_utf8(Dist::get("index.html")?.data.into_owned()).ok()?;
    let script = page.split('"').find(|p| p.starts_with("/assets/") && p.ends_with(".js"))?;
    HeaderValue::from_str(script.rsplit('/').next()?).ok()
}

/// Serves a file of the front end; a path of the page's own router gets the page itself.
pub fn asset(request: &Request) -> Response {
    let path = request.uri().path().trim_start_matches('/');
    if let Some(file) = Dist::get(path).filter(|_| !path.ends_with(PACKED)) {
        return served(path, file, request.headers());
    }
    let is_file = path.rsplit('/').next().is_some_and(|name| name.contains('.'));
    match Dist::get("index.html") {
        Some(page) if !is_file => served("index.html", page, request.headers()),
        Some(_) => (StatusCode::NOT_FOUND, "not here").into_response(),
        None => {
            let text = "The front end is not built into this program: run `make web` and build again.";
            (StatusCode::NOT_FOUND, text).into_response()
        }
    }
}

/// The ending of what was compressed when the front end was built.
const PACKED: &str = ".gz";

fn served(path: &str, file: EmbeddedFile, asked: &HeaderMap) -> Response {
    let tag = format!("\"{}\"", hex::encode(&file.metadata.sha256_hash()[..12]));
    // Files under assets/ carry a hash of their content in their name.
    let caching =
        if path.starts_with("assets/") { "public, max-age=31536000, immutable" } else { "no-cache" };
    if asked.get(header::IF_NONE_MATCH).is_some_and(|k| k.as_bytes() == tag.as_bytes()) {
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
    let unpacks = asked.get(header::ACCEPT_ENCODING).and_then(|v| v.to_str().ok());
    let packed = unpacks.filter(|v| v.contains("gzip")).and_then(|_| Dist::get(&format!("{path}{PACKED}")));
    match packed {
        Some(packed) => {
            let how = [(header::CONTENT_ENCODING, "gzip"), (header::VARY, "accept-encoding")];
            (headers, how, Body::from(packed.data)).into_response()
        }
        None => (headers, Body::from(file.data)).into_response(),
    }
}
