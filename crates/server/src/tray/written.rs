//! What a write answers with: the part, its neighbours as they stand now, and the ticket's counts. Not the tray.

use owl_core::tray::status::to_do;
use serde::Serialize;
use sqlx::PgConnection;
use utoipa::ToSchema;
use uuid::Uuid;

use super::load::around;
use super::strip::{StripView, strip};
use super::uuid;
use super::view::viewed;
use super::wire::PartView;
use crate::error::ApiError;
use crate::ticket::wire::ShelfTicket;

/// What a write has changed.
#[derive(Debug, Serialize, ToSchema)]
pub struct Written {
    /// The part that was written to.
    #[serde(flatten)]
    pub part: PartView,
    /// The parts whose verdict, steps or questions hang on it, as they stand now.
    pub neighbours: Vec<StripView>,
    /// The ticket on the shelf.
    pub shelf: ShelfTicket,
    /// The ticket's version: another one than was seen means that something was said of the whole set, and that all of its
    /// parts may stand otherwise.
    pub ticket_version: i32,
}

/// Raises the version of a part to whose history something was added, and keeps what is to be done on it.
///
/// # Errors
/// 404; [`ApiError::Internal`] for rows that cannot be.
pub async fn touched(db: &mut PgConnection, part_id: Uuid) -> Result<i32, ApiError> {
    let loaded = around(&mut *db, part_id).await?;
    let left = to_do(loaded.part(part_id)?);
    Ok(crate::table::part::touch(&mut *db, part_id, left).await?)
}

/// The answer to a write, in its transaction. `added`: something was added to the part's history, which raises its
/// version.
///
/// # Errors
/// 404; [`ApiError::Internal`] for rows that cannot be.
pub async fn written(db: &mut PgConnection, part_id: Uuid, added: bool) -> Result<Written, ApiError> {
    let mut loaded = around(&mut *db, part_id).await?;
    let mut row = loaded.row(part_id)?.clone();
    let ticket = crate::table::ticket::find(&mut *db, row.ticket_id).await?;
    let policy = crate::table::policy::of_ticket(&mut *db, &ticket).await?;
    if added {
        let left = to_do(loaded.part(part_id)?);
        row.version = crate::table::part::touch(&mut *db, part_id, left).await?;
        if let Some(p) = loaded.parts.iter_mut().find(|p| p.id == part_id) {
            p.version = row.version;
        }
    }
    // Neighbours are judged before the whole tray is loaded, which holds them too.
    let near: Vec<Uuid> = loaded.tray.neighbours(loaded.part(part_id)?).into_iter().map(uuid).collect();
    let neighbours =
        near.iter().map(|id| strip(loaded.row(*id)?, &loaded, &policy)).collect::<Result<Vec<_>, _>>()?;
    let (part, _) = viewed(&mut *db, &row, &ticket, loaded, &policy).await?;
    let line = crate::table::ticket::on_shelf(&mut *db, ticket.id).await?;
    Ok(Written { part, neighbours, shelf: ShelfTicket::of(&line)?, ticket_version: ticket.version })
}
