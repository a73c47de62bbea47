//! All SQL of what was written by whom: read only, the rows come by themselves with what is written.

use owl_core::people::story::{Done, Thing};
use owl_core::reading::{ReadQuantity, State};
use sqlx::PgExecutor;
use time::OffsetDateTime;
use uuid::Uuid;

use super::error::StoreError;

/// One row that somebody wrote.
#[derive(Debug, Clone)]
pub struct ActRow {
    /// Its number: the order in which things were written, whatever the clock said.
    pub n: i64,
    /// When.
    pub at: OffsetDateTime,
    /// Whose it is; empty where one person works alone.
    pub person: String,
    /// Who countersigned it.
    pub countersigned: Option<String>,
    /// From which bench.
    pub bench: String,
    /// What was written.
    pub thing: Thing,
    /// What happened to it.
    pub done: Done,
    /// What it says, where it is there still.
    pub detail: String,
    /// The part that it is of, by name.
    pub part: Option<String>,
    /// Of a reading, what was measured.
    pub quantity: Option<ReadQuantity>,
    /// Of a reading, what was shown (base unit); beyond the range where there is none.
    pub value: Option<f64>,
    /// Of a reading, how the part was connected.
    pub state: Option<State>,
}

/// What was written of some parts, and of a ticket itself, the newest first, before the row of a number.
pub async fn told(
    db: impl PgExecutor<'_>,
    parts: &[Uuid],
    ticket: Option<Uuid>,
    before: i64,
    most: i64,
) -> Result<Vec<ActRow>, StoreError> {
    Ok(sqlx::query_as!(
        ActRow,
        r#"select a.n, a.at, a.person, a.countersigned, a.bench, a.tab as "thing: _", a.what as "done: _",
               p.name as "part?",
               coalesce(case a.tab
                   when 'part' then p.name
                   when 'strike' then (select x.why from strike x where x.reading_id = a.row_key::uuid)
                   when 'decision' then (select x.decided || case when x.why <> '' then ': ' || x.why else '' end
                                         from decision x where x.id = a.row_key::uuid)
                   when 'explanation' then (select x.answer from explanation x where x.id = a.row_key::uuid)
                   when 'fitting' then (select x.description from fitting x where x.id = a.row_key::uuid)
                   when 'withdrawal' then (select x.why from withdrawal x where x.id = a.row_key::uuid)
                   when 'change' then (select x.what from change x where x.id = a.row_key::uuid)
                   when 'proof' then (select concat_ws(': ', x.outcome, nullif(x.seen, '')) from proof x where x.id = a.row_key::uuid)
                   when 'safety_tick' then (select x.line from safety_tick x where x.id = a.row_key::uuid)
                   when 'power_up' then (select round(x.volts::numeric, 1) || ' V' from power_up x where x.id = a.row_key::uuid)
                   when 'attachment' then (select x.name from attachment x where x.id = a.row_key::uuid)
                   when 'chart_point' then (select x.name from chart_point x where x.id = a.row_key::uuid)
                   when 'chart_run' then (select x.name from chart_run x where x.id = a.row_key::uuid)
                   when 'chart_reading' then (select x.name from chart_point x where x.id = a.row_key::uuid)
                   when 'feed' then (select x.name from feed x where x.id = a.row_key::uuid)
                   when 'bank' then (select x.name from bank x where x.id = a.row_key::uuid)
                   when 'ticket' then (select x.name from ticket x where x.id = a.row_key::uuid)
               end, '') as "detail!",
               r.quantity as "quantity?: _", r.value as "value?", r.state as "state?: _"
           from act a left join part p on p.id = a.part_id
               left join reading r on r.id = case when a.tab = 'reading' then a.row_key::uuid end
           where (a.part_id = any($1) or a.ticket_id = $2)
             and a.n < $3
           order by a.n desc limit $4"#,
        parts,
        ticket,
        before,
        most
    )
    .fetch_all(db)
    .await?)
}
