//! All SQL of the one field that finds anything.

use sqlx::PgExecutor;
use uuid::Uuid;

use super::error::StoreError;
use super::ticket::{ShelfRow, shelf_rows};

/// So many tickets are looked at, the newest.
const LOOKED_AT: i64 = 300;

/// The open tickets without words; with them those whose words begin so, the closed ones too. Oldest first.
pub async fn tickets(db: impl PgExecutor<'_>, prefixes: &str) -> Result<Vec<ShelfRow>, StoreError> {
    Ok(shelf_rows!(
        "id in (select id from ticket
                where case when $1 = '' then closed_at is null else said @@ to_tsquery('simple', $1) end
                order by (closed_at is not null), created_at desc limit $2)
         order by created_at, id",
        prefixes,
        LOOKED_AT
    )
    .fetch_all(db)
    .await?)
}

/// A part that was found.
#[derive(Debug)]
pub struct PartRow {
    /// Its ticket.
    pub ticket_id: Uuid,
    /// The set.
    pub set_name: String,
    /// Its name.
    pub name: String,
    /// What it is: its place in words, or what its marking says.
    pub what: String,
}

/// Parts of open tickets that are called so, or whose words begin so; those of one ticket first.
pub async fn parts(
    db: impl PgExecutor<'_>,
    name: &str,
    prefixes: &str,
    first: Option<Uuid>,
    most: i64,
) -> Result<Vec<PartRow>, StoreError> {
    Ok(sqlx::query_as!(
        PartRow,
        r#"select t.id as ticket_id, t.name as set_name, p.name,
                  coalesce(nullif(concat_ws(', ', nullif(p.position, ''), nullif(p.place, '')), ''), p.kind) as "what!"
           from part p join ticket t on t.id = p.ticket_id
           where t.closed_at is null and (starts_with(upper(p.name), upper($1)) or p.said @@ to_tsquery('simple', $2))
           order by (t.id is distinct from $3), (upper(p.name) <> upper($1)), (not starts_with(upper(p.name), upper($1))),
                    t.created_at desc, p.name
           limit $4"#,
        name,
        prefixes,
        first,
        most
    )
    .fetch_all(db)
    .await?)
}
