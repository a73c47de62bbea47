//! The people of the workshop, as the owner keeps them.

use axum::Json;
use axum::extract::{Path, State};
use axum::http::StatusCode;
use owl_core::people::Role;
use serde::{Deserialize, Serialize};
use time::OffsetDateTime;
use utoipa::ToSchema;
use uuid::Uuid;

use super::account::{SeatView, here, me, seat};
use super::secret;
use super::sign_in::{Carried, named};
use crate::app::App;
use crate::body::{Body, Id};
use crate::error::{ApiError, Problem};
use crate::table::person::{self, PersonRow};
use crate::table::session;

/// For how many hours a link to choose a password is good.
const LINK_HOURS: i32 = 72;

/// Everybody.
#[derive(Debug, Serialize, ToSchema)]
pub struct PeopleView {
    /// In the order in which they came.
    pub people: Vec<MemberView>,
}

/// Somebody, as the owner sees it.
#[derive(Debug, Serialize, ToSchema)]
pub struct MemberView {
    /// Its key.
    pub id: Uuid,
    /// The name.
    pub name: String,
    /// What this person is.
    pub role: Role,
    /// Whether a password was chosen yet.
    pub has_password: bool,
    /// Whether this person is shut out.
    pub blocked: bool,
    /// Until when nobody comes in by this name after wrong passwords; null where it is open.
    #[serde(with = "time::serde::rfc3339::option")]
    pub locked_until: Option<OffsetDateTime>,
    /// Where this person is signed in.
    pub sessions: Vec<SeatView>,
}

/// Somebody new.
#[derive(Debug, Deserialize, ToSchema)]
pub struct NewPerson {
    /// The name.
    #[schema(min_length = 1, max_length = 60)]
    pub name: String,
    /// What this person is to be.
    pub role: Role,
}

/// What is to change about somebody.
#[derive(Debug, Deserialize, ToSchema)]
pub struct PersonChange {
    /// Another role.
    pub role: Option<Role>,
    /// Shut out, or let in again.
    pub blocked: Option<bool>,
    /// Opened after wrong passwords.
    #[serde(default)]
    pub open: bool,
}

/// A link that is shown once.
#[derive(Debug, Serialize, ToSchema)]
pub struct FreshLink {
    /// Whose.
    pub id: Uuid,
    /// The address, without the name of the server: whoever opens it chooses a password and is signed in. Good once.
    pub link: String,
    /// For how many hours.
    pub hours: i32,
}

/// Where a link leads.
#[must_use]
pub fn welcome(secret: &str) -> String {
    // Behind the fragment's sign nothing goes into a log or to another site.
    format!("/welcome#{secret}")
}

/// Everybody of the workshop.
///
/// # Errors
/// 403 for anybody but the owner.
#[utoipa::path(get, path = "/api/people", operation_id = "list_people", tag = "people",
    responses((status = 200, body = PeopleView)))]
pub async fn list(State(app): State<App>, carried: Carried) -> Result<Json<PeopleView>, ApiError> {
    me()?;
    let (people, seats) = (person::all(&app.db).await?, session::seats(&app.db, None).await?);
    let here = here(&carried);
    let now = OffsetDateTime::now_utc();
    let view = |p: PersonRow| MemberView {
        sessions: seats.iter().filter(|s| s.person_id == p.id).map(|s| SeatView::of(s, here)).collect(),
        id: p.id,
        name: p.name,
        role: p.role,
        has_password: p.password.is_some(),
        blocked: p.blocked,
        locked_until: p.locked_until.filter(|t| *t > now),
    };
    Ok(Json(PeopleView { people: people.into_iter().map(view).collect() }))
}

/// Somebody new, with the link by which the password is chosen.
///
/// # Errors
/// 422 beside the field.
#[utoipa::path(post, path = "/api/people", operation_id = "add_person", tag = "people", request_body = NewPerson,
    responses((status = 201, body = FreshLink), (status = 422, body = Problem)))]
pub async fn add(
    State(app): State<App>,
    Body(new): Body<NewPerson>,
) -> Result<(StatusCode, Json<FreshLink>), ApiError> {
    me()?;
    let name = named(&new.name)?;
    let id = Uuid::now_v7();
    let mut tx = app.begin().await?;
    person::insert(&mut *tx, id, &name, new.role).await?;
    let secret = secret::fresh();
    person::put_link(&mut tx, &secret::hash(&secret), Some(id), LINK_HOURS).await?;
    tx.commit().await?;
    Ok((StatusCode::CREATED, Json(FreshLink { id, link: welcome(&secret), hours: LINK_HOURS })))
}

/// Another role, shut out, let in, or opened after wrong passwords.
///
/// # Errors
/// 404, 422 where the workshop would be without an owner.
#[utoipa::path(patch, path = "/api/people/{id}", operation_id = "change_person", tag = "people",
    params(("id" = Uuid, Path)), request_body = PersonChange,
    responses((status = 204), (status = 404, body = Problem), (status = 422, body = Problem)))]
pub async fn change(
    State(app): State<App>,
    Id(id): Id,
    Body(change): Body<PersonChange>,
) -> Result<StatusCode, ApiError> {
    me()?;
    let mut tx = app.begin().await?;
    let row = person::find(&mut *tx, id).await?;
    if change.open {
        person::lock(&mut *tx, id, 0.0).await?;
    }
    let (role, blocked) = (change.role.unwrap_or(row.role), change.blocked.unwrap_or(row.blocked));
    if (role, blocked) != (row.role, row.blocked)
        && person::change(&mut tx, id, role, blocked).await?.is_none()
    {
        let field = if blocked == row.blocked { "role" } else { "blocked" };
        return Err(ApiError::field(
            field,
            "the workshop would be without an owner: make somebody else one first",
        ));
    }
    tx.commit().await?;
    Ok(StatusCode::NO_CONTENT)
}

/// A new link to choose a password, where one was forgotten. The old password counts until the link is used.
///
/// # Errors
/// 404.
#[utoipa::path(post, path = "/api/people/{id}/link", operation_id = "reset_password", tag = "people",
    params(("id" = Uuid, Path)), responses((status = 201, body = FreshLink), (status = 404, body = Problem)))]
pub async fn link(State(app): State<App>, Id(id): Id) -> Result<(StatusCode, Json<FreshLink>), ApiError> {
    me()?;
    let mut tx = app.begin().await?;
    person::find(&mut *tx, id).await?;
    let secret = secret::fresh();
    person::put_link(&mut tx, &secret::hash(&secret), Some(id), LINK_HOURS).await?;
    tx.commit().await?;
    Ok((StatusCode::CREATED, Json(FreshLink { id, link: welcome(&secret), hours: LINK_HOURS })))
}

/// Ends anybody's session.
///
/// # Errors
/// 404.
#[utoipa::path(delete, path = "/api/people/sessions/{id}", operation_id = "end_session", tag = "people",
    params(("id" = String, Path)), responses((status = 204), (status = 404, body = Problem)))]
pub async fn end_session(State(app): State<App>, Path(id): Path<String>) -> Result<StatusCode, ApiError> {
    me()?;
    session::end(&app.db, &seat(&id)?, None).await?;
    Ok(StatusCode::NO_CONTENT)
}
