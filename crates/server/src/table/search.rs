//! All SQL of searches and of statistics over the workshop's own past.

use owl_core::part::{MadeOf, PartKind, Position};
use owl_core::search::Found;
use owl_core::verdict::Outcome;
use sqlx::{PgConnection, PgExecutor};
use uuid::Uuid;

use super::error::StoreError;

/// What is sought, as the database takes it; `None` does not matter.
#[derive(Debug, Default)]
pub struct Filter {
    /// Kind of part.
    pub kind: Option<PartKind>,
    /// How it is made.
    pub family: Option<MadeOf>,
    /// Where it sits.
    pub position: Option<Position>,
    /// Its value, from and to.
    pub value: Option<(f64, f64)>,
    /// How it was found.
    pub found: Option<Found>,
    /// Words that were written.
    pub words: Option<String>,
}

/// So many parts are told.
const MOST: i64 = 200;

impl Filter {
    /// Whether words are all that was asked: the newest that have them are enough then.
    fn only_words(&self) -> bool {
        let Self { kind, family, position, value, found, words: _ } = self;
        kind.is_none() && family.is_none() && position.is_none() && value.is_none() && found.is_none()
    }
}

/// What is not asked has no part in the plan: it is made for each question, not once for all.
async fn planned_for_each(db: &mut PgConnection) -> Result<(), StoreError> {
    sqlx::query!("select set_config('plan_cache_mode', 'force_custom_plan', true) as mode")
        .fetch_one(db)
        .await?;
    Ok(())
}

/// A part that was found.
#[derive(Debug, Clone)]
pub struct HitRow {
    /// Its ticket.
    pub ticket_id: Uuid,
    /// The set.
    pub set_name: String,
    /// Its name.
    pub part: String,
    /// What it is.
    pub kind: PartKind,
    /// How it is made.
    pub family: Option<MadeOf>,
    /// Where it sits.
    pub position: Option<Position>,
    /// Where it is found.
    pub place: String,
    /// What it should have: marked, else by the sheet.
    pub value: Option<f64>,
    /// What it had before anything was fitted.
    pub measured: Option<f64>,
    /// It showed nothing.
    pub open: Option<bool>,
    /// What was decided.
    pub decided: Option<Outcome>,
    /// What went in.
    pub fitted: Option<String>,
}

/// The parts that are sought, the newest tickets first.
pub async fn parts(db: &mut PgConnection, f: &Filter) -> Result<Vec<HitRow>, StoreError> {
    planned_for_each(db).await?;
    Ok(sqlx::query_as!(
        HitRow,
        r#"with hit as (
             select t.id as ticket_id, t.name as set_name, t.created_at, p.name as part, p.kind, p.family, p.position, p.place,
                    coalesce(p.marked, p.sheet) as value, p.tolerance, r.value as measured, r.overrange as open,
                    (select decided from decision d where d.part_id = p.id order by d.ordinal desc limit 1) as decided,
                    (select description from fitting g where g.part_id = p.id
                       and not exists (select from withdrawal w where w.fitting_id = g.id) order by g.ordinal desc limit 1) as fitted,
                    exists (select from reading l where l.part_id = p.id and l.quantity like 'leakage%') as leak_read
             from part p join ticket t on t.id = p.ticket_id
             left join lateral (select value, overrange from reading r
                                where r.part_id = p.id and not exists (select from strike s where s.reading_id = r.id)
                                  and r.quantity = case p.kind when 'resistor' then 'resistance' when 'capacitor' then 'capacitance'
                                                               when 'coil' then 'resistance' else r.quantity end
                                  and r.taken_at < coalesce((select min(fitted_at) from fitting where part_id = p.id), 'infinity')
                                order by r.ordinal desc limit 1) r on true
             where ($1::text is null or p.kind = $1) and ($2::text is null or p.family = $2)
               and ($3::text is null or p.position = $3)
               and ($4::float8 is null or coalesce(p.marked, p.sheet) between $4 and $5)
               and ($6::text is null or p.id = any(array(
                     (select id from part where said @@ websearch_to_tsquery('simple', $6) order by created_at desc limit $8)
                     union all
                     (select z.id
                      from (select id, created_at from ticket where said @@ websearch_to_tsquery('simple', $6)
                            order by created_at desc limit $8) y
                      cross join lateral (select id from part where ticket_id = y.id) z
                      order by y.created_at desc limit $8))))
           )
           select ticket_id, set_name, part, kind, family, position, place, value, measured, open as "open?", decided as "decided: Outcome", fitted
           from hit
           where case $7::text
                   when 'high' then measured > value * (1 + coalesce(tolerance, 0.1)) or (open and kind = 'resistor')
                   when 'low' then measured < value * (1 - coalesce(tolerance, 0.1))
                   when 'open' then open
                   when 'shorted' then measured < value * 0.02
                   when 'leaking' then leak_read and (decided = 'replace' or fitted is not null)
                   when 'replaced' then decided = 'replace' or fitted is not null
                   when 'kept' then decided = 'keep' and fitted is null
                   else true end
           order by created_at desc, part limit $9"#,
        f.kind as _,
        f.family as _,
        f.position as _,
        f.value.map(|v| v.0),
        f.value.map(|v| v.1),
        f.words,
        f.found as _,
        f.only_words().then_some(MOST),
        MOST
    )
    .fetch_all(&mut *db)
    .await?)
}

/// A ticket that was found.
#[derive(Debug, Clone)]
pub struct TicketHit {
    /// Its id.
    pub id: Uuid,
    /// The set.
    pub name: String,
    /// What is wrong with it.
    pub complaint: String,
}

/// The tickets in which words were written, the newest first.
pub async fn tickets(db: impl PgExecutor<'_>, words: &str) -> Result<Vec<TicketHit>, StoreError> {
    Ok(sqlx::query_as!(
        TicketHit,
        "select id, name, complaint from ticket where said @@ websearch_to_tsquery('simple', $1) order by created_at desc limit 50",
        words
    )
    .fetch_all(db)
    .await?)
}

/// What a type of set needed: a part that was replaced, in how many of those that came in.
#[derive(Debug, Clone)]
pub struct NeededRow {
    /// The type of set.
    pub set_name: String,
    /// The part.
    pub part: String,
    /// Where it sits.
    pub position: Option<Position>,
    /// In how many it went.
    pub times: i64,
    /// Of how many.
    pub of: i64,
}

/// What sets whose name has those words needed, the newest three hundred of them; of all sets without words.
pub async fn needed(db: &mut PgConnection, words: Option<&str>) -> Result<Vec<NeededRow>, StoreError> {
    planned_for_each(db).await?;
    Ok(sqlx::query_as!(
        NeededRow,
        r#"with called as (
             select id, name from ticket
             where $1::text is null or to_tsvector('simple', name) @@ websearch_to_tsquery('simple', $1)
             order by created_at desc limit case when $1::text is null then null else 300 end
           ), gone as (
             select t.name as set_name, p.name as part, p.position, t.id
             from part p join called t on t.id = p.ticket_id
             where (exists (select from fitting f where f.part_id = p.id
                              and not exists (select from withdrawal w where w.fitting_id = f.id))
                    or (select decided from decision d where d.part_id = p.id order by d.ordinal desc limit 1) = 'replace')
           )
           select set_name, part, max(position) as "position: Position", count(distinct id) as "times!",
                  (select count(*) from called x where x.name = set_name) as "of!"
           from gone group by set_name, part order by set_name, 4 desc, part limit 200"#,
        words
    )
    .fetch_all(&mut *db)
    .await?)
}

/// How parts of a family and an age had drifted.
#[derive(Debug, Clone)]
pub struct DriftRow {
    /// What kind of part.
    pub kind: PartKind,
    /// How it is made.
    pub family: MadeOf,
    /// In which decade it was made, where that is known.
    pub decade: Option<i32>,
    /// How many.
    pub count: i64,
    /// A tenth drifted less than this, as a fraction.
    pub low: f64,
    /// Half of them less than this.
    pub median: f64,
    /// Nine tenths less than this.
    pub high: f64,
    /// How many are out of their tolerance.
    pub out: i64,
}

/// Drift by family and age, of what was measured before anything was fitted, not in circuit.
pub async fn drift(db: impl PgExecutor<'_>) -> Result<Vec<DriftRow>, StoreError> {
    Ok(sqlx::query_as!(
        DriftRow,
        r#"with drift as (
             select p.kind, p.family, p.made / 10 * 10 as decade, r.value / coalesce(p.marked, p.sheet) - 1 as off,
                    coalesce(p.tolerance, 0.2) as tolerance
             from part p
             join lateral (select value from reading r
                           where r.part_id = p.id and not r.overrange and r.state <> 'in circuit'
                             and r.quantity = case p.kind when 'resistor' then 'resistance' else 'capacitance' end
                             and not exists (select from strike s where s.reading_id = r.id)
                             and r.taken_at < coalesce((select min(fitted_at) from fitting where part_id = p.id), 'infinity')
                           order by r.ordinal desc limit 1) r on true
             where p.kind in ('resistor', 'capacitor') and p.family is not null and coalesce(p.marked, p.sheet) > 0
           )
           select kind, family as "family!", decade, count(*) as "count!",
                  percentile_cont(0.1) within group (order by off) as "low!",
                  percentile_cont(0.5) within group (order by off) as "median!",
                  percentile_cont(0.9) within group (order by off) as "high!",
                  count(*) filter (where abs(off) > tolerance) as "out!"
           from drift group by kind, family, decade order by kind desc, family, decade nulls last"#
    )
    .fetch_all(db)
    .await?)
}
