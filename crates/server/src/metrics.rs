//! `GET /api/metrics`: what the server does, in the common text format (OpenMetrics), for whoever watches it.

use std::time::Instant;

use axum::extract::{MatchedPath, Request, State};
use axum::http::header;
use axum::middleware::Next;
use axum::response::{IntoResponse, Response};
use prometheus_client::encoding::EncodeLabelSet;
use prometheus_client::encoding::text::encode;
use prometheus_client::metrics::family::Family;
use prometheus_client::metrics::gauge::Gauge;
use prometheus_client::metrics::histogram::Histogram;
use prometheus_client::registry::{Registry, Unit};

use crate::app::App;
use crate::error::ApiError;

/// The bounds of the times, in second: from what is computed in memory to what was given up.
const BOUNDS: [f64; 11] = [0.001, 0.0025, 0.005, 0.01, 0.025, 0.05, 0.1, 0.25, 1.0, 5.0, 20.0];

#[derive(Debug, Clone, PartialEq, Eq, Hash, EncodeLabelSet)]
struct Labels {
    method: String,
    /// As the routes write it: no ticket and no name of anybody stands in it.
    path: String,
    status: u16,
}

/// What is counted.
#[derive(Debug)]
pub struct Metrics {
    requests: Family<Labels, Histogram>,
}

impl Default for Metrics {
    fn default() -> Self {
        Self { requests: Family::new_with_constructor(|| Histogram::new(BOUNDS)) }
    }
}

/// Takes the time of every request.
pub async fn timed(State(app): State<App>, request: Request, next: Next) -> Response {
    let path = request.extensions().get::<MatchedPath>().map(|p| p.as_str().to_owned());
    let method = request.method().to_string();
    let begun = Instant::now();
    let response = next.run(request).await;
    if let Some(path) = path.filter(|p| p.starts_with("/api/")) {
        let labels = Labels { method, path, status: response.status().as_u16() };
        app.metrics.requests.get_or_create(&labels).observe(begun.elapsed().as_secs_f64());
    }
    response
}

/// What the server does, for whoever watches it.
///
/// # Errors
/// Never; without a database what stands in it is left out.
#[utoipa::path(get, path = "/api/metrics", operation_id = "read_metrics", tag = "workshop", responses(
    (status = 200, body = String, content_type = "application/openmetrics-text")))]
pub async fn metrics(State(app): State<App>) -> Result<Response, ApiError> {
    let mut all = Registry::with_prefix("owl");
    let requests = app.metrics.requests.clone();
    all.register_with_unit("request", "Time until a request was answered", Unit::Seconds, requests);
    let mut gauge = |name: &str, help: &str, value: i64| {
        let g = Gauge::<i64>::default();
        g.set(value);
        all.register(name, help, g);
    };
    let count = |n: usize| i64::try_from(n).unwrap_or(i64::MAX);
    gauge("pages_listening", "Pages that hear what other benches do", count(app.hub.pages()));
    let (connections, free) = app.db.connections();
    gauge("database_connections", "Connections to the database", i64::from(connections));
    gauge("database_connections_idle", "Those that are free", count(free));
    if let Ok(standing) = crate::table::backup::standing(&app.db).await
        && let Some(last) = standing.last
    {
        gauge(
            "backup_age_seconds",
            "Since the last good backup was begun",
            (standing.now - last).whole_seconds(),
        );
    }
    let mut text = String::new();
    encode(&mut text, &all).map_err(|e| ApiError::Internal(e.to_string()))?;
    let kind = "application/openmetrics-text; version=1.0.0; charset=utf-8";
    Ok(([(header::CONTENT_TYPE, kind)], text).into_response())
}
