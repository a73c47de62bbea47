//! All SQL of parts.

use owl_core::marking::Colour;
use owl_core::marking::stored::StoredMark;
use owl_core::named::Named;
use owl_core::part::{Circuit, Family, MadeOf, PartKind, Position, VisualSign};
use owl_core::tray::stage::Roles;
use owl_core::tray::status::ToDo;
use serde_json::Value;
use sqlx::types::Json;
use sqlx::{PgConnection, PgExecutor};
use time::OffsetDateTime;
use uuid::Uuid;

use super::error::{Row, StoreError};

/// A part as stored.
#[derive(Debug, Clone)]
pub struct PartRow {
    /// Its id.
    pub id: Uuid,
    /// Its ticket.
    pub ticket_id: Uuid,
    /// Its name on the sheet.
    pub name: String,
    /// What it is.
    pub kind: PartKind,
    /// How it is made, where that is known; always of a resistor.
    pub family: Option<MadeOf>,
    /// Where it sits.
    pub position: Option<Position>,
    /// Where it is found.
    pub place: String,
    /// What was seen on it.
    pub note: String,
    /// What it shares with the others that it must agree with.
    pub group_id: Option<Uuid>,
    /// The resistor that it is fed through.
    pub feed_id: Option<Uuid>,
    /// What is seen on it.
    pub looks: Vec<VisualSign>,
    /// What is known of the circuit round it, by the fact's name, in base units.
    pub facts: Json<Circuit>,
    /// Whether it is to be tested warm.
    pub test_warm: bool,
    /// The year in which it was made.
    pub made: Option<i32>,
    /// Plates of a selenium stack.
    pub plates: Option<i32>,
    /// A winding's resistance by the sheet, in ohm.
    pub winding: Option<f64>,
    /// What the sheet says, in the base unit of its kind.
    pub sheet: Option<f64>,
    /// What is marked, in the base unit of its kind.
    pub marked: Option<f64>,
    /// The marked tolerance, a fraction.
    pub tolerance: Option<f64>,
    /// Rated watts.
    pub watts: Option<f64>,
    /// What was typed for the marking.
    pub marking: String,
    /// Its bands.
    pub colours: Vec<Colour>,
    /// The reading of its marking that was accepted, as it was.
    pub mark: Option<Json<StoredMark>>,
    /// The part with which it may have died.
    pub suspect_of: Option<Uuid>,
    /// What may have died with it, where it is an output transistor that shorted.
    pub roles: Option<Json<Roles>>,
    /// Rises with everything that happens to it.
    pub version: i32,
}

impl PartRow {
    /// A part of which nothing is known but its name.
    #[must_use]
    pub fn new(id: Uuid, ticket_id: Uuid, name: &str) -> Self {
        let kind = PartKind::called(name).unwrap_or(PartKind::Resistor);
        Self {
            id,
            ticket_id,
            name: name.to_owned(),
            kind,
            family: (kind == PartKind::Resistor).then_some(MadeOf::Resistor(Family::CarbonComposition)),
            position: None,
            place: String::new(),
            note: String::new(),
            group_id: None,
            feed_id: None,
            looks: vec![],
            facts: Json(Circuit::default()),
            test_warm: false,
            made: None,
            plates: None,
            winding: None,
            sheet: None,
            marked: None,
            tolerance: None,
            watts: None,
            marking: String::new(),
            colours: vec![],
            mark: None,
            suspect_of: None,
            roles: None,
            version: 1,
        }
    }
}

/// The parts of a ticket, resistors first, in the order of their names, R2 before R10.
pub async fn parts_of(db: impl PgExecutor<'_>, ticket_id: Uuid) -> Result<Vec<PartRow>, StoreError> {
    Ok(sqlx::query_as!(
        PartRow,
        "select id, ticket_id, name, kind, family, position, place, note, group_id, feed_id, looks, facts, test_warm, made,
                plates, winding, sheet, marked, tolerance, watts, marking, colours, mark, suspect_of, roles,
                version
         from part where ticket_id = $1
         order by array_position(array['resistor', 'capacitor', 'coil', 'diode', 'transistor', 'integrated circuit', 'lamp', 'valve',
                                       'loudspeaker', 'switch', 'fuse'], kind),
                  regexp_replace(name, '[0-9].*', ''), (substring(name from '[0-9]+'))::integer, name",
        ticket_id
    )
    .fetch_all(db)
    .await?)
}

/// One part.
pub async fn find(db: impl PgExecutor<'_>, id: Uuid) -> Result<PartRow, StoreError> {
    sqlx::query_as!(
        PartRow,
        "select id, ticket_id, name, kind, family, position, place, note, group_id, feed_id, looks, facts, test_warm, made,
                plates, winding, sheet, marked, tolerance, watts, marking, colours, mark, suspect_of, roles,
                version
         from part where id = $1",
        id
    )
    .fetch_optional(db)
    .await?
    .ok_or_else(|| StoreError::Gone(Row::Part))
}

/// One part, kept from changing until the transaction ends.
pub async fn lock(db: &mut PgConnection, id: Uuid) -> Result<PartRow, StoreError> {
    sqlx::query_as!(
        PartRow,
        "select id, ticket_id, name, kind, family, position, place, note, group_id, feed_id, looks, facts, test_warm, made,
                plates, winding, sheet, marked, tolerance, watts, marking, colours, mark, suspect_of, roles,
                version
         from part where id = $1 for update",
        id
    )
    .fetch_optional(db)
    .await?
    .ok_or_else(|| StoreError::Gone(Row::Part))
}

/// Some parts, kept from changing until the transaction ends, in the order of their ids so that two benches never wait for
/// each other.
pub async fn lock_all(db: &mut PgConnection, ids: impl Iterator<Item = Uuid>) -> Result<(), StoreError> {
    let mut ids: Vec<Uuid> = ids.collect();
    ids.sort();
    sqlx::query_scalar!("select id from part where id = any($1) order by id for update", &ids)
        .fetch_all(db)
        .await?;
    Ok(())
}

/// A part, and those whose verdict, steps or questions hang on it: its pair or group, what is fed through it, its own
/// feed, its bank, what it may have killed and what may have killed it; and beside each of these its own feed, group and
/// bank, so that it can be judged.
pub async fn with_neighbours(db: &mut PgConnection, id: Uuid) -> Result<Vec<PartRow>, StoreError> {
    Ok(sqlx::query_as!(
        PartRow,
        "with me as (select id, feed_id, suspect_of, group_id from part where id = $1),
         near as (
             select id, feed_id, group_id from me
             union all select n.id, n.feed_id, n.group_id from part n join me on n.id in (me.feed_id, me.suspect_of)
             union all select n.id, n.feed_id, n.group_id from part n where n.feed_id = $1
             union all select n.id, n.feed_id, n.group_id from part n where n.suspect_of = $1
             union all select n.id, n.feed_id, n.group_id from part n join me on n.suspect_of = me.suspect_of
             union all select n.id, n.feed_id, n.group_id from part n join me on n.group_id = me.group_id
             union all select n.id, n.feed_id, n.group_id from bank_part mine join bank_part b using (bank_id)
                           join part n on n.id = b.part_id where mine.part_id = $1
         )
         select id, ticket_id, name, kind, family, position, place, note, group_id, feed_id, looks, facts, test_warm, made,
                plates, winding, sheet, marked, tolerance, watts, marking, colours, mark, suspect_of, roles,
                version
         from part
         where id = any(array(select id from near union select feed_id from near
                              union select p.id from part p join near n on p.group_id = n.group_id
                              union select b.part_id from bank_part b join bank_part its using (bank_id)
                                    join near n on n.id = its.part_id))
         order by name",
        id
    )
    .fetch_all(db)
    .await?)
}

/// The part of that name on a ticket's tray.
pub async fn by_name(
    db: &mut PgConnection,
    ticket_id: Uuid,
    name: &str,
) -> Result<Option<PartRow>, StoreError> {
    Ok(sqlx::query_as!(
        PartRow,
        "select id, ticket_id, name, kind, family, position, place, note, group_id, feed_id, looks, facts, test_warm, made,
                plates, winding, sheet, marked, tolerance, watts, marking, colours, mark, suspect_of, roles,
                version
         from part where ticket_id = $1 and name = $2",
        ticket_id,
        name
    )
    .fetch_optional(db)
    .await?)
}

/// What is to be done on a part to which nothing has happened yet.
fn fresh(row: &PartRow) -> ToDo {
    match row.kind {
        PartKind::Lamp | PartKind::Ic => ToDo::Nothing,
        _ => ToDo::Measure,
    }
}

/// Adds a part; the same part sent twice is added once.
pub async fn insert(db: &mut PgConnection, row: &PartRow) -> Result<(), StoreError> {
    let inserted = sqlx::query!(
        "insert into part (id, ticket_id, name, kind, family, position, place, note, feed_id, looks, facts, test_warm,
                           made, plates, winding, sheet, marked, tolerance, watts, marking, colours, mark, suspect_of,
                           to_do)
         values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14, $15, $16, $17, $18, $19, $20, $21, $22,
                 $23, $24)
         on conflict (id) do nothing",
        row.id,
        row.ticket_id,
        row.name,
        row.kind as _,
        row.family as _,
        row.position as _,
        row.place,
        row.note,
        row.feed_id,
        &row.looks as _,
        &row.facts as _,
        row.test_warm,
        row.made,
        row.plates,
        row.winding,
        row.sheet,
        row.marked,
        row.tolerance,
        row.watts,
        row.marking,
        &row.colours as _,
        &row.mark as _,
        row.suspect_of,
        fresh(row).name()
    )
    .execute(db)
    .await;
    inserted.map(|_| ()).map_err(|e| StoreError::naming(Row::Part, &row.name, e))
}

/// Writes a part back, except its group.
pub async fn update(db: &mut PgConnection, row: &PartRow) -> Result<(), StoreError> {
    sqlx::query!(
        "update part set family = $2, position = $3, place = $4, note = $5, sheet = $6, marked = $7,
                         tolerance = $8, watts = $9, marking = $10, colours = $11, mark = $12, feed_id = $13,
                         looks = $14, facts = $15, test_warm = $16, made = $17, plates = $18, winding = $19, suspect_of = $20,
                         roles = $21
         where id = $1",
        row.id,
        row.family as _,
        row.position as _,
        row.place,
        row.note,
        row.sheet,
        row.marked,
        row.tolerance,
        row.watts,
        row.marking,
        &row.colours as _,
        &row.mark as _,
        row.feed_id,
        &row.looks as _,
        &row.facts as _,
        row.test_warm,
        row.made,
        row.plates,
        row.winding,
        row.suspect_of,
        &row.roles as _
    )
    .execute(db)
    .await?;
    Ok(())
}

/// A part's name.
pub async fn name_of(db: &mut PgConnection, id: Uuid) -> Result<String, StoreError> {
    Ok(sqlx::query_scalar!("select name from part where id = $1", id).fetch_one(db).await?)
}

/// Marks a part as the suspect of another.
pub async fn suspect(db: &mut PgConnection, id: Uuid, of: Uuid) -> Result<(), StoreError> {
    sqlx::query!("update part set suspect_of = $2 where id = $1", id, of).execute(db).await?;
    Ok(())
}

/// Raises a part's version because something was added to its history, and keeps what is to be done on it.
pub async fn touch(db: &mut PgConnection, id: Uuid, to_do: ToDo) -> Result<i32, StoreError> {
    Ok(sqlx::query_scalar!(
        "update part set updated_at = now(), to_do = $2 where id = $1 returning version",
        id,
        to_do.name()
    )
    .fetch_one(db)
    .await?)
}

/// Keeps what is to be done on a part, where it is not what was kept.
pub async fn keep_to_do(db: &mut PgConnection, id: Uuid, to_do: ToDo) -> Result<(), StoreError> {
    sqlx::query!("update part set to_do = $2 where id = $1 and to_do <> $2", id, to_do.name())
        .execute(db)
        .await?;
    Ok(())
}

/// Takes a part out of its group; a group of one is none.
pub async fn leave_group(db: &mut PgConnection, id: Uuid) -> Result<(), StoreError> {
    sqlx::query!(
        "with mine as (select group_id from part where id = $1)
         update part p set group_id = null from mine
         where p.group_id = mine.group_id
           and (p.id = $1 or (select count(*) from part o where o.group_id = mine.group_id) <= 2)",
        id
    )
    .execute(db)
    .await?;
    Ok(())
}

/// Puts a part into a group.
pub async fn join_group(db: &mut PgConnection, id: Uuid, group_id: Uuid) -> Result<(), StoreError> {
    sqlx::query!("update part set group_id = $2 where id = $1", id, group_id).execute(db).await?;
    Ok(())
}

/// A row as it was at a version.
pub struct RowBefore {
    /// Its columns.
    pub content: Value,
    /// When it was changed.
    pub changed_at: OffsetDateTime,
}

/// The row as it was at a version; `None` if it never had that version.
pub async fn row_before(
    db: &mut PgConnection,
    kind: &str,
    id: Uuid,
    version: i32,
) -> Result<Option<RowBefore>, StoreError> {
    Ok(sqlx::query_as!(
        RowBefore,
        "select content, changed_at from row_before where kind = $1 and id = $2 and version = $3",
        kind,
        id,
        version
    )
    .fetch_optional(db)
    .await?)
}

/// A part's row as JSON, to be held against an earlier one.
pub async fn content(db: &mut PgConnection, id: Uuid) -> Result<Value, StoreError> {
    Ok(sqlx::query_scalar!("select to_jsonb(p) as \"row!\" from part p where id = $1", id)
        .fetch_one(db)
        .await?)
}

/// How much was added to a part.
#[derive(Debug, Clone, Copy)]
pub struct Events {
    /// Readings.
    pub readings: i64,
    /// Decisions.
    pub decisions: i64,
    /// Fittings.
    pub fittings: i64,
}

/// What was added to a part from a moment on.
pub async fn events_since(db: &mut PgConnection, id: Uuid, at: OffsetDateTime) -> Result<Events, StoreError> {
    Ok(sqlx::query_as!(
        Events,
        r#"select (select count(*) from reading where part_id = $1 and taken_at >= $2) as "readings!",
                  (select count(*) from decision where part_id = $1 and decided_at >= $2) as "decisions!",
                  (select count(*) from fitting where part_id = $1 and fitted_at >= $2) as "fittings!""#,
        id,
        at
    )
    .fetch_one(db)
    .await?)
}
