//! All SQL of feeds.

use owl_core::feed::FeedKind;
use sqlx::{PgConnection, PgExecutor};
use uuid::Uuid;

use super::error::{Row, StoreError};

/// A feed as stored.
#[derive(Debug, Clone)]
pub struct FeedRow {
    /// Its id.
    pub id: Uuid,
    /// Its ticket.
    pub ticket_id: Uuid,
    /// What it is called.
    pub name: String,
    /// Volts of its rail by the sheet.
    pub rail: f64,
    /// Rises with every change.
    pub version: i32,
}

/// A part of a feed as stored.
#[derive(Debug, Clone)]
pub struct FeedPartRow {
    /// Of which feed.
    pub feed_id: Uuid,
    /// What it is called.
    pub name: String,
    /// Resistor, capacitor or load.
    pub kind: FeedKind,
    /// The node of one end.
    pub node_a: String,
    /// The node of the other.
    pub node_b: String,
    /// Ohm, farad or ampere.
    pub value: Option<f64>,
    /// A load said as a resistance.
    pub as_ohms: bool,
    /// How far a good one may be off.
    pub tolerance: Option<f64>,
    /// What it may dissipate.
    pub rating: Option<f64>,
}

/// A node of which the chart says nothing, or something else.
#[derive(Debug, Clone)]
pub struct FeedNodeRow {
    /// Of which feed.
    pub feed_id: Uuid,
    /// Its name.
    pub node: String,
    /// Volts by the sheet.
    pub sheet: Option<f64>,
    /// Volts as read.
    pub measured: Option<f64>,
}

/// The feeds of a ticket.
#[derive(Debug, Clone)]
pub struct FeedRows {
    /// In the order in which they were drawn.
    pub feeds: Vec<FeedRow>,
    /// Their parts, in order.
    pub parts: Vec<FeedPartRow>,
    /// Their nodes.
    pub nodes: Vec<FeedNodeRow>,
}

/// All feeds of a ticket.
pub async fn of_ticket(db: &mut PgConnection, ticket_id: Uuid) -> Result<FeedRows, StoreError> {
    let feeds = sqlx::query_as!(
        FeedRow,
        "select id, ticket_id, name, rail, version from feed where ticket_id = $1 order by ordinal",
        ticket_id
    )
    .fetch_all(&mut *db)
    .await?;
    let parts = sqlx::query_as!(
        FeedPartRow,
        "select feed_id, p.name, kind, node_a, node_b, value, as_ohms, tolerance, rating
         from feed_part p join feed f on f.id = p.feed_id where f.ticket_id = $1 order by feed_id, place",
        ticket_id
    )
    .fetch_all(&mut *db)
    .await?;
    let nodes = sqlx::query_as!(
        FeedNodeRow,
        "select feed_id, node, sheet, measured from feed_node n join feed f on f.id = n.feed_id where f.ticket_id = $1",
        ticket_id
    )
    .fetch_all(&mut *db)
    .await?;
    Ok(FeedRows { feeds, parts, nodes })
}

/// One feed's ticket.
pub async fn ticket_of(db: impl PgExecutor<'_>, id: Uuid) -> Result<Uuid, StoreError> {
    sqlx::query_scalar!("select ticket_id from feed where id = $1", id)
        .fetch_optional(db)
        .await?
        .ok_or_else(|| StoreError::Gone(Row::Feed))
}

/// Writes a feed with its parts and nodes; `seen` is the version that was seen, none for a new one.
///
/// # Errors
/// [`StoreError::Changed`] when somebody else wrote it since.
pub async fn put(
    db: &mut PgConnection,
    row: &FeedRow,
    seen: Option<i32>,
    parts: &[FeedPartRow],
    nodes: &[FeedNodeRow],
) -> Result<(), StoreError> {
    let now = sqlx::query!("select ticket_id, version from feed where id = $1 for update", row.id)
        .fetch_optional(&mut *db)
        .await?;
    match (now, seen) {
        (None, None) => {
            sqlx::query!(
                "insert into feed (id, ticket_id, name, rail) values ($1, $2, $3, $4)",
                row.id,
                row.ticket_id,
                row.name,
                row.rail
            )
            .execute(&mut *db)
            .await?;
        }
        (Some(now), Some(seen)) if now.ticket_id == row.ticket_id && now.version == seen => {
            sqlx::query!(
                "update feed set name = $2, rail = $3, version = version + 1 where id = $1",
                row.id,
                row.name,
                row.rail
            )
            .execute(&mut *db)
            .await?;
            sqlx::query!("delete from feed_part where feed_id = $1", row.id).execute(&mut *db).await?;
            sqlx::query!("delete from feed_node where feed_id = $1", row.id).execute(&mut *db).await?;
        }
        (Some(now), _) if now.ticket_id == row.ticket_id => {
            return Err(StoreError::Changed(Row::Feed));
        }
        (Some(_) | None, _) => return Err(StoreError::Gone(Row::Feed)),
    }
    for (i, p) in parts.iter().enumerate() {
        sqlx::query!(
            "insert into feed_part (feed_id, place, name, kind, node_a, node_b, value, as_ohms, tolerance, rating)
             values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10)",
            row.id,
            i32::try_from(i).unwrap_or(i32::MAX),
            p.name,
            p.kind as _,
            p.node_a,
            p.node_b,
            p.value,
            p.as_ohms,
            p.tolerance,
            p.rating
        )
        .execute(&mut *db)
        .await?;
    }
    for n in nodes {
        sqlx::query!(
            "insert into feed_node (feed_id, node, sheet, measured) values ($1, $2, $3, $4)",
            row.id,
            n.node,
            n.sheet,
            n.measured
        )
        .execute(&mut *db)
        .await?;
    }
    Ok(())
}

/// Takes a feed away.
pub async fn remove(db: &mut PgConnection, id: Uuid) -> Result<(), StoreError> {
    // What hangs on it goes first, so that it comes back in the other order when that is undone.
    sqlx::query!("delete from feed_node where feed_id = $1", id).execute(&mut *db).await?;
    sqlx::query!("delete from feed_part where feed_id = $1", id).execute(&mut *db).await?;
    sqlx::query!("delete from feed where id = $1", id).execute(db).await?;
    Ok(())
}
