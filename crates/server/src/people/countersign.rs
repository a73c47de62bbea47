//! A countersign, given on the spot by somebody who may do it alone: good for one request of the person who asked.

use axum::extract::State;
use axum::{Extension, Json};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::account::me;
use super::gate::{Gate, Origin};
use super::secret;
use super::sign_in::known;
use crate::app::App;
use crate::body::Body;
use crate::error::{ApiError, Problem};
use crate::table::person;

/// Whose countersign.
#[derive(Debug, Deserialize, ToSchema)]
pub struct Countersigner {
    /// The name.
    #[schema(min_length = 1, max_length = 60)]
    pub name: String,
    /// That person's own password.
    #[schema(min_length = 1, max_length = 200)]
    pub password: String,
}

/// A countersign.
#[derive(Debug, Serialize, ToSchema)]
pub struct Countersign {
    /// To be sent with the request as `X-Countersign`, within two minutes; it is good once.
    pub countersign: String,
    /// Whose it is.
    pub by: String,
}

/// Countersigns the next thing that whoever is signed in asks for.
///
/// # Errors
/// 422 beside the field, 429 after too many tries.
#[utoipa::path(post, path = "/api/countersign", operation_id = "countersign", tag = "people", request_body = Countersigner,
    responses((status = 200, body = Countersign), (status = 422, body = Problem), (status = 429, body = Problem)))]
pub async fn give(
    State(app): State<App>,
    Extension(gate): Extension<Gate>,
    Extension(from): Extension<Origin>,
    Body(asked): Body<Countersigner>,
) -> Result<Json<Countersign>, ApiError> {
    let me = me()?;
    if asked.name.trim().eq_ignore_ascii_case(&me.name) {
        return Err(ApiError::field("name", "somebody else countersigns"));
    }
    let by = known(&app, &gate, from, &asked.name, asked.password).await?;
    if !by.role.may_countersign() {
        return Err(ApiError::field(
            "name",
            format!("{} cannot countersign: a technician or the owner can", by.name),
        ));
    }
    let countersign = secret::fresh();
    person::put_countersign(&app.db, &secret::hash(&countersign), by.id, me.id).await?;
    Ok(Json(Countersign { countersign, by: by.name }))
}
