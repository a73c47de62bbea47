//! Coming in and going: with a name and a password, or the first time with a link that is good once.

use axum::extract::State;
use axum::http::StatusCode;
use axum::{Extension, Json};
use owl_core::people::{Role, locked_for_s};
use serde::{Deserialize, Serialize};
use time::OffsetDateTime;
use tower_sessions::Session;
use utoipa::ToSchema;
use uuid::Uuid;

use super::gate::{ADDRESS, BENCH, Gate, Origin, PERSON, away};
use super::{Access, PersonView, secret};
use crate::app::App;
use crate::body::Body;
use crate::error::{ApiError, Problem};
use crate::table::person::{self, PersonRow};
use crate::text::checked_text;

/// Who is at the bench.
#[derive(Debug, Serialize, ToSchema)]
pub struct SessionView {
    /// How people come in.
    pub access: Access,
    /// Who signed in; null where nobody has.
    pub person: Option<PersonView>,
    /// At which bench.
    pub bench: String,
    /// Whether the workshop has an owner; where it has none, the link that was printed at the start makes one.
    pub has_owner: bool,
}

/// Somebody who wants in.
#[derive(Debug, Deserialize, ToSchema)]
pub struct SignIn {
    /// The name.
    #[schema(min_length = 1, max_length = 60)]
    pub name: String,
    /// The password.
    #[schema(min_length = 1, max_length = 200)]
    pub password: String,
    /// At which bench: it stands beside everything that is written there.
    #[serde(default)]
    #[schema(max_length = 60)]
    pub bench: String,
}

/// Somebody who chooses a password by a link.
#[derive(Debug, Deserialize, ToSchema)]
pub struct ByLink {
    /// What the link carries.
    #[schema(min_length = 1, max_length = 100)]
    pub link: String,
    /// The name, where the link makes the first owner.
    #[serde(default)]
    #[schema(max_length = 60)]
    pub name: String,
    /// The password that is to count from now on.
    #[schema(min_length = 1, max_length = 200)]
    pub password: String,
    /// At which bench.
    #[serde(default)]
    #[schema(max_length = 60)]
    pub bench: String,
}

/// The session of a request; there is none where nobody signs in.
pub type Carried = Option<Extension<Session>>;

/// Who is signed in here.
///
/// # Errors
/// 503 without a database.
#[utoipa::path(get, path = "/api/session", operation_id = "read_session", tag = "people",
    responses((status = 200, body = SessionView)))]
pub async fn read(
    State(app): State<App>,
    Extension(gate): Extension<Gate>,
    session: Carried,
) -> Result<Json<SessionView>, ApiError> {
    if gate.access() == Access::Alone {
        let alone =
            SessionView { access: Access::Alone, person: None, bench: String::new(), has_owner: false };
        return Ok(Json(alone));
    }
    let mut view = SessionView {
        access: Access::Accounts,
        person: None,
        bench: String::new(),
        has_owner: person::has_owner(&app.db).await?,
    };
    if let Some(Extension(session)) = session
        && let Some(id) = session.get::<Uuid>(PERSON).await.map_err(away)?
    {
        let row = person::find(&app.db, id).await?;
        if !row.blocked {
            view.person = Some(PersonView { id, name: row.name, role: row.role });
            view.bench = session.get(BENCH).await.map_err(away)?.unwrap_or_default();
        }
    }
    Ok(Json(view))
}

/// Signs in.
///
/// # Errors
/// 422 beside the field, 429 after too many tries.
#[utoipa::path(post, path = "/api/session", operation_id = "sign_in", tag = "people", request_body = SignIn,
    responses((status = 200, body = PersonView), (status = 422, body = Problem), (status = 429, body = Problem)))]
pub async fn sign_in(
    State(app): State<App>,
    Extension(gate): Extension<Gate>,
    Extension(from): Extension<Origin>,
    session: Carried,
    Body(asked): Body<SignIn>,
) -> Result<Json<PersonView>, ApiError> {
    let row = known(&app, &gate, from, &asked.name, asked.password).await?;
    enter(&app, session, from, &row, &asked.bench).await.map(Json)
}

/// Somebody whose password is right.
///
/// # Errors
/// 422 for a wrong one or while the name is locked, 429 after too many tries from one address.
pub(super) async fn known(
    app: &App,
    gate: &Gate,
    from: Origin,
    name: &str,
    password: String,
) -> Result<PersonRow, ApiError> {
    if gate.access() == Access::Alone {
        return Err(ApiError::field("name", "nobody signs in here: the server was started for one person"));
    }
    gate.one_try(from)?;
    let row = person::named(&app.db, name.trim()).await?;
    let locked = row.as_ref().and_then(|r| r.locked_until).map(|t| t - OffsetDateTime::now_utc());
    if let Some(left) = locked.filter(|l| l.is_positive()) {
        let minutes = left.whole_seconds().div_euclid(60) + 1;
        return Err(ApiError::field(
            "password",
            format!("too many wrong passwords: wait {minutes} min, or ask the owner to open it"),
        ));
    }
    let kept = row.as_ref().filter(|r| !r.blocked).and_then(|r| r.password.clone());
    let right = secret::is_password(password, kept).await?;
    // A wrong name and a wrong password sound and take alike.
    let wrong = || ApiError::field("password", "this name and this password do not belong together");
    let row = row.ok_or_else(wrong)?;
    if right {
        person::lock(&app.db, row.id, 0.0).await?;
        return Ok(row);
    }
    let so_often = person::wrong(&app.db, row.id).await?;
    let seconds = locked_for_s(u32::try_from(so_often).unwrap_or(0));
    if seconds > 0 {
        tracing::warn!(person = %row.id, from = %from.0, seconds, "wrong passwords: the name is locked for a while");
        person::lock(&app.db, row.id, seconds as f64).await?;
    }
    Err(wrong())
}

/// Opens a session under a new key.
async fn enter(
    app: &App,
    session: Carried,
    from: Origin,
    row: &PersonRow,
    bench: &str,
) -> Result<PersonView, ApiError> {
    let Some(Extension(session)) = session else {
        return Err(ApiError::Internal("no session is carried".to_owned()));
    };
    let bench = checked_text("bench", bench, 60)?;
    crate::table::session::sweep(&app.db).await?;
    // What was there before signing in is nobody's: a key that somebody laid in the browser is worth nothing afterwards.
    session.flush().await.map_err(away)?;
    session.insert(PERSON, row.id).await.map_err(away)?;
    session.insert(BENCH, bench).await.map_err(away)?;
    session.insert(ADDRESS, from.0.to_string()).await.map_err(away)?;
    session.save().await.map_err(away)?;
    tracing::info!(person = %row.id, from = %from.0, "signed in");
    Ok(PersonView { id: row.id, name: row.name.clone(), role: row.role })
}

/// Signs out.
///
/// # Errors
/// 503 without a database.
#[utoipa::path(delete, path = "/api/session", operation_id = "sign_out", tag = "people", responses((status = 204)))]
pub async fn sign_out(session: Carried) -> Result<StatusCode, ApiError> {
    if let Some(Extension(session)) = session {
        session.flush().await.map_err(away)?;
    }
    Ok(StatusCode::NO_CONTENT)
}

/// Chooses a password by a link that is good once, and signs in. Without a name of its own the link makes the first owner.
///
/// # Errors
/// 422 beside the field, 429 after too many tries.
#[utoipa::path(post, path = "/api/session/link", operation_id = "sign_in_by_link", tag = "people", request_body = ByLink,
    responses((status = 200, body = PersonView), (status = 409, body = Problem), (status = 422, body = Problem),
        (status = 429, body = Problem)))]
pub async fn by_link(
    State(app): State<App>,
    Extension(gate): Extension<Gate>,
    Extension(from): Extension<Origin>,
    session: Carried,
    Body(asked): Body<ByLink>,
) -> Result<Json<PersonView>, ApiError> {
    if gate.access() == Access::Alone {
        return Err(ApiError::field("link", "nobody signs in here: the server was started for one person"));
    }
    gate.one_try(from)?;
    let mut tx = app.begin().await?;
    // Used up only if all else holds: the transaction is thrown away otherwise.
    let whose = person::use_link(&mut *tx, &secret::hash(&asked.link)).await?.ok_or_else(|| {
        ApiError::field("link", "this link was used already or is too old: ask for a new one")
    })?;
    let row = match whose {
        Some(id) => person::find(&mut *tx, id).await?,
        None => {
            if person::has_owner(&mut *tx).await? {
                return Err(ApiError::field("link", "this workshop has an owner already"));
            }
            let name = named(&asked.name)?;
            let id = Uuid::now_v7();
            person::insert(&mut *tx, id, &name, Role::Owner).await?;
            person::find(&mut *tx, id).await?
        }
    };
    owl_core::people::password(&asked.password, &row.name).map_err(|e| ApiError::field("password", e))?;
    let kept = secret::of_password(asked.password).await?;
    person::set_password(&mut *tx, row.id, &kept).await?;
    // Who had the old password is out.
    crate::table::session::end_others(&mut *tx, row.id, &[]).await?;
    tx.commit().await?;
    enter(&app, session, from, &row, &asked.bench).await.map(Json)
}

/// A name that can be given to somebody.
///
/// # Errors
/// 422 for none.
pub(super) fn named(name: &str) -> Result<String, ApiError> {
    let name = checked_text("name", name, 60)?;
    if name.is_empty() {
        return Err(ApiError::field("name", "a name is needed: it stands beside everything that is written"));
    }
    Ok(name)
}
