//! What dies with an output transistor is put on the tray when it was decided that it goes because it shorted.

use owl_core::part::{PartKind, Position};
use owl_core::transistor::suspect::suspects;
use sqlx::PgConnection;
use uuid::Uuid;

use crate::error::ApiError;
use crate::table::part::{PartRow, insert, parts_of};

/// Puts the suspects of a shorted output transistor on its tray, each under a name of its own until it is found on the
/// sheet; one that is there already is left alone.
///
/// # Errors
/// [`ApiError::Database`].
pub async fn put_on_tray(db: &mut PgConnection, part: &PartRow) -> Result<(), ApiError> {
    if part.kind != PartKind::Transistor || !part.position.is_some_and(Position::is_output) {
        return Ok(());
    }
    let there = parts_of(&mut *db, part.ticket_id).await?;
    if there.iter().any(|p| p.suspect_of == Some(part.id)) {
        return Ok(());
    }
    for s in suspects() {
        let name = s.named_after(&part.name);
        if there.iter().any(|p| p.name == name) {
            continue;
        }
        let mut row = PartRow::new(Uuid::now_v7(), part.ticket_id, &name);
        row.position = s.position.filter(|p| p.facts(s.kind).is_some());
        row.place = format!("{} of {}", s.what, part.name).chars().take(120).collect();
        row.note = format!("Suspect, named for now: {}. {}.", s.why, s.look);
        row.suspect_of = Some(part.id);
        insert(&mut *db, &row).await?;
    }
    Ok(())
}
