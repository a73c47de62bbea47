//! Policies: the schools as numbers, and the workshop's own copies of them.

pub mod wire;

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use uuid::Uuid;

use self::wire::{PoliciesView, PolicyBody};
use crate::app::App;
use crate::body::{Body, Id};
use crate::error::{ApiError, Problem};
use crate::table::policy::PolicyRow;
use crate::text::checked_text;

/// The schools with their numbers, and the workshop's copies.
///
/// # Errors
/// 503 without a database.
#[utoipa::path(get, path = "/api/policies", operation_id = "list_policies", tag = "workshop", responses(
    (status = 200, body = PoliciesView)))]
pub async fn list(State(app): State<App>) -> Result<Json<PoliciesView>, ApiError> {
    Ok(Json(PoliciesView::of(&crate::table::policy::copies(&app.db).await?)?))
}

/// Makes a copy of a school with numbers of its own.
///
/// # Errors
/// 422 with the input to blame.
#[utoipa::path(post, path = "/api/policies", operation_id = "add_policy", tag = "workshop",
    request_body = PolicyBody, responses((status = 201, body = PoliciesView)))]
pub async fn add(
    State(app): State<App>,
    Body(body): Body<PolicyBody>,
) -> Result<(StatusCode, Json<PoliciesView>), ApiError> {
    let row = checked(body.id.unwrap_or_else(Uuid::now_v7), &body)?;
    let mut tx = app.begin().await?;
    crate::table::policy::insert(&mut tx, &row).await?;
    tx.commit().await?;
    Ok((StatusCode::CREATED, list(State(app)).await?))
}

/// Changes a copy that has not been changed by someone else since `version`. Its tickets are judged anew; decisions
/// keep the reasons that they were taken for.
///
/// # Errors
/// 404, 409 when it was changed, 422 with the input to blame.
#[utoipa::path(patch, path = "/api/policies/{id}", operation_id = "change_policy", tag = "workshop",
    params(("id" = Uuid, Path)), request_body = PolicyBody, responses(
    (status = 200, body = PoliciesView),
    (status = 404, body = Problem), (status = 409, body = Problem)))]
pub async fn change(
    State(app): State<App>,
    Id(id): Id,
    Body(body): Body<PolicyBody>,
) -> Result<Json<PoliciesView>, ApiError> {
    let row = checked(id, &body)?;
    let mut tx = app.begin().await?;
    if crate::table::policy::find(&mut *tx, id).await?.is_none() {
        return Err(ApiError::no_such("copy"));
    }
    if !crate::table::policy::update(&mut tx, &row).await? {
        return Err(crate::tray::conflict(&row.name, vec![]));
    }
    tx.commit().await?;
    list(State(app)).await
}

/// Removes a copy that no ticket follows.
///
/// # Errors
/// 404, 409 while tickets follow it.
#[utoipa::path(delete, path = "/api/policies/{id}", operation_id = "remove_policy", tag = "workshop",
    params(("id" = Uuid, Path)), responses(
    (status = 200, body = PoliciesView),
    (status = 404, body = Problem), (status = 409, body = Problem)))]
pub async fn remove(State(app): State<App>, Id(id): Id) -> Result<Json<PoliciesView>, ApiError> {
    let mut tx = app.begin().await?;
    match crate::table::policy::remove(&mut tx, id).await? {
        Some(true) => tx.commit().await?,
        Some(false) => return Err(ApiError::no_such("copy")),
        None => {
            let detail = "tickets follow this copy: give them another school first".to_owned();
            return Err(ApiError::Conflict { detail, changed: vec![] });
        }
    }
    list(State(app)).await
}

fn checked(id: Uuid, body: &PolicyBody) -> Result<PolicyRow, ApiError> {
    let name = checked_text("name", &body.name, 40)?;
    if name.is_empty() {
        return Err(ApiError::field("name", "a copy needs a name"));
    }
    Ok(PolicyRow::of(id, body.version.unwrap_or(1), &name, &body.policy()?))
}
