//! `GET /api/live`: whether the program lives. `GET /api/health`: whether it can work, with its database.

use std::time::Duration;

use axum::Json;
use axum::extract::State;
use serde::Serialize;
use utoipa::ToSchema;

use crate::app::App;
use crate::error::ApiError;

/// How the server is.
#[derive(Debug, Serialize, ToSchema)]
pub struct Health {
    /// `ok`.
    pub status: &'static str,
    /// `ok`.
    pub database: &'static str,
    /// The version of the program.
    pub version: &'static str,
}

/// That the program answers at all, with or without its database: whoever watches it restarts it when this stays away.
#[derive(Debug, Serialize, ToSchema)]
pub struct Alive {
    /// `alive`.
    pub status: &'static str,
}

/// Says that the program lives.
#[utoipa::path(get, path = "/api/live", tag = "workshop", responses((status = 200, body = Alive)))]
pub async fn live() -> Json<Alive> {
    Json(Alive { status: "alive" })
}

/// Says that all is well, or 503 without a database.
///
/// # Errors
/// 503 when the database does not answer within two seconds.
#[utoipa::path(get, path = "/api/health", tag = "workshop", responses(
    (status = 200, body = Health)))]
pub async fn health(State(app): State<App>) -> Result<Json<Health>, ApiError> {
    let asked = sqlx::query_scalar!("select 1 as \"one!\"").fetch_one(&app.db);
    match tokio::time::timeout(Duration::from_secs(2), asked).await {
        Ok(Ok(_)) => Ok(Json(Health { status: "ok", database: "ok", version: env!("CARGO_PKG_VERSION") })),
        _ => Err(ApiError::Database),
    }
}
