//! What dies with an output transistor is named on the tray when it was decided that it goes because it shorted: parts that
//! are known are marked, the others put there under a name of their own until they are found on the sheet.

use owl_core::part::{PartKind, Position};
use owl_core::transistor::suspect::{KnownPart, no_suspect_of, suspects};
use sqlx::PgConnection;
use uuid::Uuid;

use crate::error::ApiError;
use crate::table::part::{PartRow, insert, parts_of};

/// Marks and puts the suspects of a shorted output transistor on its tray.
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
    let mut taken: Vec<Uuid> = Vec::new();
    for s in suspects() {
        let known = |p: &&PartRow| {
            let settled =
                p.suspect_of.is_some() || p.id == part.id || p.note.contains(&no_suspect_of(&part.name));
            let of_its_group = part.group_id.is_some() && p.group_id == part.group_id;
            s.is(KnownPart { kind: p.kind, position: p.position, of_its_group, settled })
        };
        let all: Vec<&PartRow> = there.iter().filter(known).filter(|p| !taken.contains(&p.id)).collect();
        if !all.is_empty() {
            for p in all {
                crate::table::part::suspect(&mut *db, p.id, part.id).await?;
                taken.push(p.id);
            }
            continue;
        }
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
