//! Refuses requests that come by a foreign name or from a foreign page, even on loopback: a page
//! elsewhere must not reach this server by way of the user's browser (cross-site requests, DNS
//! rebinding).

use std::net::SocketAddr;
use std::sync::Arc;

use axum::extract::{Request, State};
use axum::http::{HeaderMap, header};
use axum::middleware::Next;
use axum::response::{IntoResponse, Response};

use crate::error::ApiError;

/// The names under which this server may be asked, with their ports.
#[derive(Debug, Clone)]
pub struct Hosts(Arc<Vec<String>>);

impl Hosts {
    /// Loopback's names with the port that is listened on, and those that were allowed by hand.
    #[must_use]
    pub fn new(listening: SocketAddr, allowed: &[String]) -> Self {
        let port = listening.port();
        let mut names: Vec<String> =
            ["127.0.0.1", "localhost", "[::1]"].iter().map(|h| format!("{h}:{port}")).collect();
        if !listening.ip().is_loopback() && !listening.ip().is_unspecified() {
            names.push(listening.to_string());
        }
        names.extend(allowed.iter().map(|h| h.to_ascii_lowercase()));
        Self(Arc::new(names))
    }

    fn knows(&self, host: &str) -> bool {
        self.0.iter().any(|h| h.eq_ignore_ascii_case(host))
    }

    /// Why a request with these headers is refused, if it is.
    fn refusal(&self, headers: &HeaderMap) -> Option<String> {
        let text = |name| headers.get(name).and_then(|v| v.to_str().ok());
        match text(header::HOST) {
            Some(host) if self.knows(host) => {}
            host => return Some(format!("this server is not called '{}'", host.unwrap_or(""))),
        }
        if let Some(origin) = headers.get(header::ORIGIN) {
            let ours = origin
                .to_str()
                .ok()
                .and_then(|o| o.split_once("://"))
                .is_some_and(|(_, host)| self.knows(host));
            if !ours {
                return Some("a page of another site must not use this server".to_owned());
            }
        }
        let cross = headers.get("sec-fetch-site").is_some_and(|v| v == "cross-site");
        let navigation = headers.get("sec-fetch-mode").is_some_and(|v| v == "navigate");
        (cross && !navigation).then(|| "a page of another site must not use this server".to_owned())
    }
}

/// Lets a request pass or refuses it.
pub async fn guard(State(hosts): State<Hosts>, request: Request, next: Next) -> Response {
    match hosts.refusal(request.headers()) {
        Some(why) => ApiError::Foreign(why).into_response(),
        None => next.run(request).await,
    }
}
