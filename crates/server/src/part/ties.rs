//! What ties a part to others on its tray: its pair or group, and the resistor that it is fed through.

use owl_core::part::PartKind;
use uuid::Uuid;

use crate::error::ApiError;
use crate::table;
use crate::table::part::PartRow;

/// The resistor on the tray that a part is fed through; `None` for an empty name.
pub async fn feed_of(
    db: &mut sqlx::PgConnection,
    row: &PartRow,
    name: &str,
) -> Result<Option<Uuid>, ApiError> {
    let name = name.trim().to_ascii_uppercase();
    if name.is_empty() {
        return Ok(None);
    }
    let feed = table::part::by_name(db, row.ticket_id, &name).await?;
    let feed = feed.filter(|f| f.id != row.id && f.kind == PartKind::Resistor);
    feed.map(|f| Some(f.id)).ok_or_else(|| {
        ApiError::field(
            "fed_by",
            format!("there is no resistor {name} on the tray that could feed {}", row.name),
        )
    })
}

/// Makes two parts halves of a pair, or takes one out of its group (`""`).
pub async fn pair_up(db: &mut sqlx::PgConnection, row: &PartRow, partner: &str) -> Result<(), ApiError> {
    table::part::leave_group(db, row.id).await?;
    let partner = partner.trim().to_ascii_uppercase();
    if partner.is_empty() {
        return Ok(());
    }
    let other = another(db, row, "pair", &partner).await?;
    table::part::leave_group(db, other.id).await?;
    let group = Uuid::now_v7();
    table::part::join_group(db, row.id, group).await?;
    table::part::join_group(db, other.id, group).await?;
    Ok(())
}

/// Puts a part into the group of another; the two become a pair where that one has no group.
pub async fn group_with(db: &mut sqlx::PgConnection, row: &PartRow, other: &str) -> Result<(), ApiError> {
    let other = another(db, row, "group", &other.trim().to_ascii_uppercase()).await?;
    table::part::leave_group(db, row.id).await?;
    let group = match table::part::find(&mut *db, other.id).await?.group_id {
        Some(group) => group,
        None => {
            let group = Uuid::now_v7();
            table::part::join_group(db, other.id, group).await?;
            group
        }
    };
    table::part::join_group(db, row.id, group).await?;
    Ok(())
}

/// Another part of the same kind on the tray.
async fn another(
    db: &mut sqlx::PgConnection,
    row: &PartRow,
    field: &str,
    name: &str,
) -> Result<PartRow, ApiError> {
    let other = table::part::by_name(db, row.ticket_id, name).await?.filter(|o| o.id != row.id);
    let other = other.ok_or_else(|| {
        ApiError::field(field, format!("there is no {name} on the tray to pair {} with", row.name))
    })?;
    if other.kind != row.kind {
        let why = format!("{name} is a {} and {} is a {}: they cannot match", other.kind, row.name, row.kind);
        return Err(ApiError::field(field, why));
    }
    Ok(other)
}
