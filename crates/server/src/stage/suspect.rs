//! What dies with an output transistor: asked about when it was decided that it goes because it shorted. Parts that are
//! known are marked; of the others somebody says which part of the set it is, or that the set has none.

use axum::Json;
use axum::extract::State;
use owl_core::transistor::suspect::{Role, Suspect, suspects};
use owl_core::tray::stage::{is_to_be_asked, may_be, recognised, roles_of};
use serde::Deserialize;
use sqlx::PgConnection;
use sqlx::types::Json as Jsonb;
use utoipa::ToSchema;
use uuid::Uuid;

use crate::app::App;
use crate::body::{Body, Id};
use crate::error::{ApiError, Problem};
use crate::table::part::{PartRow, by_name, insert, lock, suspect, update};
use crate::text::checked_text;
use crate::tray::{Written, load, uuid, written};

/// Asks what died with an output transistor that shorted, and marks what is known of it. Asked once.
///
/// # Errors
/// [`ApiError::Database`].
pub async fn ask(db: &mut PgConnection, part: &PartRow) -> Result<(), ApiError> {
    let loaded = load::of_ticket(&mut *db, part.ticket_id).await?;
    let died = loaded.part(part.id)?;
    if !is_to_be_asked(died) {
        return Ok(());
    }
    let known = recognised(&loaded.tray, died);
    for (_, p) in &known {
        suspect(&mut *db, uuid(p.id), part.id).await?;
    }
    let roles = roles_of(&known);
    Ok(update(&mut *db, &PartRow { roles: Some(Jsonb(roles)), ..part.clone() }).await?)
}

/// Which part of the set has a role beside a transistor that shorted, or why there is none.
#[derive(Debug, Deserialize, ToSchema)]
pub struct NewSuspect {
    /// The version of the transistor that was seen.
    pub version: i32,
    /// The role.
    pub role: Role,
    /// The name of the part on the sheet; it is put on the tray where it does not lie there.
    #[serde(default)]
    #[schema(max_length = 10)]
    pub name: String,
    /// Why the set has none; needed where no part is named.
    #[serde(default)]
    #[schema(max_length = 200)]
    pub none: String,
}

/// Names a part that may have died with a transistor, or says that the set has none.
///
/// # Errors
/// 404, 409 when something changed since it was seen, 422 with the input to blame.
#[utoipa::path(post, path = "/api/parts/{id}/suspects", operation_id = "name_suspect", tag = "parts", params(("id" = Uuid, Path)),
    request_body = NewSuspect, responses(
    (status = 200, body = Written), (status = 404, body = Problem), (status = 409, body = Problem)))]
pub async fn name(
    State(app): State<App>,
    Id(part_id): Id,
    Body(new): Body<NewSuspect>,
) -> Result<Json<Written>, ApiError> {
    let mut tx = app.begin().await?;
    let mut part = lock(&mut tx, part_id).await?;
    crate::tray::unchanged_since(&mut tx, &part, new.version).await?;
    let asked = suspects().iter().find(|s| s.role == new.role);
    let (Some(asked), Some(roles)) = (asked, part.roles.as_mut()) else {
        return Err(ApiError::field(
            "role",
            "nobody asks what died with it: it was not decided that it shorted",
        ));
    };
    let name = new.name.trim().to_ascii_uppercase();
    let none = checked_text("none", &new.none, 200)?;
    let said = match (name.is_empty(), none.is_empty()) {
        (false, _) => name.clone(),
        (true, false) => format!("none: {none}"),
        (true, true) => {
            return Err(ApiError::field("name", "its name on the sheet, or say why there is none"));
        }
    };
    roles.0.insert(new.role, said);
    if !name.is_empty() {
        let loaded = load::of_ticket(&mut tx, part.ticket_id).await?;
        may_be(&loaded.tray, loaded.part(part_id)?, asked, &name).map_err(|e| ApiError::field("name", e))?;
        mark(&mut tx, &part, asked, &name).await?;
    }
    update(&mut tx, &part).await?;
    let answer = written(&mut tx, part_id, true).await?;
    tx.commit().await?;
    Ok(Json(answer))
}

/// Marks the part of that name as the suspect of another, where it sits if nobody said; puts it on the tray where it does
/// not lie there.
async fn mark(db: &mut PgConnection, of: &PartRow, asked: &Suspect, name: &str) -> Result<(), ApiError> {
    if let Some(known) = by_name(&mut *db, of.ticket_id, name).await? {
        let position = known.position.or(asked.position);
        return Ok(update(&mut *db, &PartRow { suspect_of: Some(of.id), position, ..known }).await?);
    }
    let mut row = PartRow::new(Uuid::now_v7(), of.ticket_id, name);
    row.position = asked.position;
    row.place = format!("{} of {}", asked.role, of.name).chars().take(120).collect();
    row.note = format!("Suspect: {}; {}.", asked.why, asked.look);
    row.suspect_of = Some(of.id);
    Ok(insert(&mut *db, &row).await?)
}
