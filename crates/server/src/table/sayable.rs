//! All SQL of what a sentence of the owl line can be about.

use owl_core::part::{MadeOf, PartKind, Position};
use owl_core::reading::State;
use owl_core::say::ChartValve;
use sqlx::PgConnection;
use uuid::Uuid;

use super::error::StoreError;

/// A part as far as a sentence can be about it.
#[derive(Debug, Clone)]
pub struct SayRow {
    /// Its id.
    pub id: Uuid,
    /// Its name.
    pub name: String,
    /// What it is.
    pub kind: PartKind,
    /// What is marked, in the base unit of its kind.
    pub marked: Option<f64>,
    /// What the sheet says, in the base unit of its kind.
    pub sheet: Option<f64>,
    /// Whether a reading of its marking was accepted.
    pub has_mark: bool,
    /// The type number that was read on it.
    pub type_number: Option<String>,
    /// How it sat when it was read last.
    pub last_state: Option<State>,
    /// What was fitted last and is not proven to work.
    pub unproven: Option<Uuid>,
    /// How it is made.
    pub family: Option<MadeOf>,
    /// What it does in the set.
    pub position: Option<Position>,
    /// Where it sits.
    pub place: String,
    /// The marked tolerance, a fraction.
    pub tolerance: Option<f64>,
    /// Rated watts.
    pub watts: Option<f64>,
}

/// The parts of a ticket as far as a sentence can be about them.
pub async fn sayable(db: &mut PgConnection, ticket_id: Uuid) -> Result<Vec<SayRow>, StoreError> {
    Ok(sqlx::query_as!(
        SayRow,
        r#"select id, name, kind, marked, sheet, family, position, place, tolerance, watts, mark is not null as "has_mark!", mark->>'type_number' as type_number,
                  (select state from reading r where r.part_id = p.id
                     and not exists (select from strike where reading_id = r.id)
                   order by r.ordinal desc limit 1) as "last_state: State",
                  (select f.id from fitting f where f.part_id = p.id
                     and not exists (select from withdrawal where fitting_id = f.id)
                     and not exists (select from proof where change_id = f.id and outcome = 'better')
                   order by f.ordinal desc limit 1) as unproven
           from part p where ticket_id = $1 order by name"#,
        ticket_id
    )
    .fetch_all(db)
    .await?)
}

/// The valves of a ticket's voltage chart with their types.
pub async fn valves(db: &mut PgConnection, ticket_id: Uuid) -> Result<Vec<ChartValve>, StoreError> {
    Ok(sqlx::query_as!(
        ChartValve,
        r#"select distinct on (split_part(name, ' ', 1)) split_part(name, ' ', 1) as "at!", valve as type_number
           from chart_point where ticket_id = $1 and valve <> '' order by split_part(name, ' ', 1), place"#,
        ticket_id
    )
    .fetch_all(db)
    .await?)
}

/// The part that was added, or of which a reading was taken, under a key.
pub async fn taken_under(db: &mut PgConnection, key: Uuid) -> Result<Option<Uuid>, StoreError> {
    Ok(sqlx::query_scalar!(
        r#"select id as "id!" from part where id = $1 union all select part_id from reading where id = $1 limit 1"#,
        key
    )
    .fetch_optional(db)
    .await?)
}
