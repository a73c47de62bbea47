//! One's own account: password, where one is signed in, tokens for scripts.

use axum::extract::{Path, State};
use axum::http::StatusCode;
use axum::{Extension, Json};
use owl_core::people::{Permission, Scope};
use serde::{Deserialize, Serialize};
use time::OffsetDateTime;
use tower_sessions::Session;
use utoipa::ToSchema;
use uuid::Uuid;

use super::actor::{self, Person};
use super::gate::{Gate, Origin};
use super::sign_in::{Carried, known};
use super::{PersonView, secret, store};
use crate::app::App;
use crate::body::{Body, Id};
use crate::error::{ApiError, Problem};
use crate::table::person::{self, TokenRow};
use crate::table::session::{self, SeatRow};
use crate::text::checked_text;

/// One's own account.
#[derive(Debug, Serialize, ToSchema)]
pub struct AccountView {
    /// Whose.
    pub person: PersonView,
    /// Where one is signed in.
    pub sessions: Vec<SeatView>,
    /// What scripts come in with.
    pub tokens: Vec<TokenView>,
}

/// A session, as it is seen by whom it belongs to and by the owner.
#[derive(Debug, Serialize, ToSchema)]
pub struct SeatView {
    /// What it is ended by.
    pub id: String,
    /// At which bench.
    pub bench: String,
    /// From which address.
    pub address: String,
    /// Since when.
    #[serde(with = "time::serde::rfc3339")]
    pub begun_at: OffsetDateTime,
    /// When it was last used, to the minute.
    #[serde(with = "time::serde::rfc3339")]
    pub seen_at: OffsetDateTime,
    /// Whether it is this one.
    pub here: bool,
}

/// A token, without its secret.
#[derive(Debug, Serialize, ToSchema)]
pub struct TokenView {
    /// Its key.
    pub id: Uuid,
    /// What it is for.
    pub name: String,
    /// How far it reaches.
    pub scope: Scope,
    /// Since when.
    #[serde(with = "time::serde::rfc3339")]
    pub created_at: OffsetDateTime,
    /// When it was last used.
    #[serde(with = "time::serde::rfc3339::option")]
    pub seen_at: Option<OffsetDateTime>,
    /// Until when it works.
    #[serde(with = "time::serde::rfc3339")]
    pub expires_at: OffsetDateTime,
}

/// A new password.
#[derive(Debug, Deserialize, ToSchema)]
pub struct NewPassword {
    /// The one that counts now.
    #[schema(min_length = 1, max_length = 200)]
    pub now: String,
    /// The one that is to count.
    #[schema(min_length = 1, max_length = 200)]
    pub new: String,
}

/// A token that is wanted.
#[derive(Debug, Deserialize, ToSchema)]
pub struct NewToken {
    /// What it is for.
    #[schema(min_length = 1, max_length = 60)]
    pub name: String,
    /// How far it reaches.
    pub scope: Scope,
    /// For how many days it works.
    #[schema(minimum = 1, maximum = 366)]
    pub days: i32,
}

/// A token as it is shown once.
#[derive(Debug, Serialize, ToSchema)]
pub struct FreshToken {
    /// To be sent as `Authorization: Bearer …`; it is not shown again.
    pub token: String,
}

impl SeatView {
    /// As it is seen from a session.
    pub(super) fn of(row: &SeatRow, here: Option<[u8; 32]>) -> Self {
        Self {
            id: hex::encode(&row.id_hash),
            bench: row.bench.clone(),
            address: row.address.clone(),
            begun_at: row.begun_at,
            seen_at: row.seen_at,
            here: here.is_some_and(|h| h.as_slice() == row.id_hash),
        }
    }
}

impl std::convert::From<TokenRow> for TokenView {
    fn from(row: TokenRow) -> Self {
        let TokenRow { id, name, scope, created_at, seen_at, expires_at } = row;
        Self { id, name, scope, created_at, seen_at, expires_at }
    }
}

/// What a session is kept under.
pub(super) fn here(session: &Carried) -> Option<[u8; 32]> {
    session.as_ref().and_then(|Extension(s): &Extension<Session>| s.id()).map(|id| store::hash(&id))
}

/// Whoever is signed in.
///
/// # Errors
/// 422 where nobody signs in at all.
pub(super) fn me() -> Result<Person, ApiError> {
    actor::now()
        .and_then(|a| a.person.clone())
        .ok_or_else(|| ApiError::field("name", "nobody signs in here: the server was started for one person"))
}

/// The account of whoever is signed in.
///
/// # Errors
/// 401.
#[utoipa::path(get, path = "/api/account", operation_id = "read_account", tag = "people",
    responses((status = 200, body = AccountView)))]
pub async fn read(State(app): State<App>, session: Carried) -> Result<Json<AccountView>, ApiError> {
    let me = me()?;
    let here = here(&session);
    let seats = session::seats(&app.db, Some(me.id)).await?;
    let tokens = person::tokens(&app.db, me.id).await?;
    Ok(Json(AccountView {
        person: (&me).into(),
        sessions: seats.iter().map(|s| SeatView::of(s, here)).collect(),
        tokens: tokens.into_iter().map(TokenView::from).collect(),
    }))
}

/// Changes one's own password; all other sessions of the person end.
///
/// # Errors
/// 422 beside the field, 429 after too many tries.
#[utoipa::path(post, path = "/api/account/password", operation_id = "change_password", tag = "people",
    request_body = NewPassword, responses((status = 204), (status = 422, body = Problem), (status = 429, body = Problem)))]
pub async fn password(
    State(app): State<App>,
    Extension(gate): Extension<Gate>,
    Extension(from): Extension<Origin>,
    session: Carried,
    Body(asked): Body<NewPassword>,
) -> Result<StatusCode, ApiError> {
    let me = me()?;
    owl_core::people::password(&asked.new, &me.name).map_err(|e| ApiError::field("new", e))?;
    known(&app, &gate, from, &me.name, asked.now).await.map_err(|e| e.moved_to("now"))?;
    let kept = secret::of_password(asked.new).await?;
    let mut tx = app.begin().await?;
    person::set_password(&mut *tx, me.id, &kept).await?;
    session::end_others(&mut *tx, me.id, here(&session).as_ref().map_or(&[], <[u8; 32]>::as_slice)).await?;
    tx.commit().await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Ends one of one's own sessions.
///
/// # Errors
/// 404.
#[utoipa::path(delete, path = "/api/account/sessions/{id}", operation_id = "end_own_session", tag = "people",
    params(("id" = String, Path)), responses((status = 204), (status = 404, body = Problem)))]
pub async fn end_session(State(app): State<App>, Path(id): Path<String>) -> Result<StatusCode, ApiError> {
    session::end(&app.db, &seat(&id)?, Some(me()?.id)).await?;
    Ok(StatusCode::NO_CONTENT)
}

/// The key of a session in the list.
pub(super) fn seat(id: &str) -> Result<Vec<u8>, ApiError> {
    let byte = |i: usize| id.get(2 * i..2 * i + 2).and_then(|two| u8::from_str_radix(two, 16).ok());
    let all: Option<Vec<u8>> = (0..32).map(byte).collect();
    all.filter(|_| id.len() == 64).ok_or_else(|| ApiError::no_such("session"))
}

/// A token for scripts: no more than its person may do alone, no more than its scope, nothing with the people.
///
/// # Errors
/// 422 beside the field.
#[utoipa::path(post, path = "/api/account/tokens", operation_id = "add_token", tag = "people", request_body = NewToken,
    responses((status = 201, body = FreshToken), (status = 422, body = Problem)))]
pub async fn add_token(
    State(app): State<App>,
    Body(asked): Body<NewToken>,
) -> Result<(StatusCode, Json<FreshToken>), ApiError> {
    let me = me()?;
    let name = checked_text("name", &asked.name, 60)?;
    if name.is_empty() {
        return Err(ApiError::field("name", "say what it is for: it stands beside what the script writes"));
    }
    if !(1..=366).contains(&asked.days) {
        return Err(ApiError::field("days", "a token works for 1 to 366 days"));
    }
    if asked.scope != Scope::Read {
        actor::needs(Permission::Measure)?;
    }
    let token = format!("owl_{}", secret::fresh());
    let mut tx = app.begin().await?;
    let key = (Uuid::now_v7(), me.id);
    person::insert_token(&mut *tx, key, &name, &secret::hash(&token), asked.scope, asked.days).await?;
    tx.commit().await?;
    Ok((StatusCode::CREATED, Json(FreshToken { token })))
}

/// Ends a token.
///
/// # Errors
/// 404.
#[utoipa::path(delete, path = "/api/account/tokens/{id}", operation_id = "remove_token", tag = "people",
    params(("id" = Uuid, Path)), responses((status = 204), (status = 404, body = Problem)))]
pub async fn remove_token(State(app): State<App>, Id(id): Id) -> Result<StatusCode, ApiError> {
    let mut tx = app.begin().await?;
    person::remove_token(&mut *tx, me()?.id, id).await?;
    tx.commit().await?;
    Ok(StatusCode::NO_CONTENT)
}
