//! All SQL of tickets.

use owl_core::quantity::{Second, Volt};
use owl_core::set::{Devices, PowerSource, SetClass, SetFacts};
use owl_core::stored::Stored;
use owl_core::tray::shelf::OnShelf;
use owl_core::verdict::School;
use sqlx::types::Json;
use sqlx::{PgConnection, PgExecutor};
use uuid::Uuid;

use super::error::{Row, StoreError};

/// A ticket as stored.
#[derive(Debug, Clone)]
pub struct TicketRow {
    /// Its id.
    pub id: Uuid,
    /// The set.
    pub name: String,
    /// How it is fed.
    pub source: PowerSource,
    /// What it works with.
    pub devices: Devices,
    /// The highest volts in it, where they were said.
    pub highest_volts: Option<f64>,
    /// Whose limits decide.
    pub school: School,
    /// The tight variant.
    pub tight: bool,
    /// The workshop's copy of a school that it follows instead.
    pub policy_id: Option<Uuid>,
    /// What is wrong with it.
    pub complaint: String,
    /// What it does, picked from a list or in words of one's own.
    pub symptoms: Vec<String>,
    /// What the owner wants.
    pub wants: String,
    /// Its supply, in words.
    pub supply: String,
    /// What somebody did to it before.
    pub earlier_work: String,
    /// The line that it is made for, in volt.
    pub line_volts: Option<f64>,
    /// What it draws there, in watt.
    pub set_watts: Option<f64>,
    /// The line that its sheet assumes, in volt.
    pub sheet_line_volts: Option<f64>,
    /// Ohms for each volt of the sheet's meter.
    pub sheet_ohms_per_volt: Option<f64>,
    /// What is known of its supply.
    pub facts: Json<Stored<SetFacts>>,
    /// Rises with every change.
    pub version: i32,
}

impl TicketRow {
    /// What is known of its supply.
    #[must_use]
    pub fn set(&self) -> &SetFacts {
        &self.facts.0.0
    }

    /// The line that it is made for.
    #[must_use]
    pub fn rated(&self) -> Option<Volt> {
        self.line_volts.and_then(|v| Volt::new(v).ok())
    }

    /// What it is, as it was said.
    #[must_use]
    pub fn said_class(&self) -> SetClass {
        let highest = self.highest_volts.and_then(|v| Volt::new(v).ok());
        SetClass { source: self.source, devices: self.devices, highest }
    }

    /// What it is, as far as it decides what in it can hurt.
    #[must_use]
    pub fn class(&self) -> SetClass {
        self.said_class().with_rails(self.set())
    }
}

/// A ticket that is open, by name.
#[derive(Debug, Clone)]
pub struct OpenRow {
    /// Its id.
    pub id: Uuid,
    /// The set.
    pub name: String,
}

/// So many of the closed ones still stand on the shelf.
const CLOSED_ON_SHELF: i64 = 20;

/// A ticket on the shelf, with what is left to do.
#[derive(Debug, Clone)]
pub struct ShelfRow {
    /// Its id.
    pub id: Uuid,
    /// The set.
    pub name: String,
    /// How it is fed.
    pub source: PowerSource,
    /// What it works with.
    pub devices: Devices,
    /// The highest volts in it, where they were said.
    pub highest_volts: Option<f64>,
    /// Parts on the tray.
    pub parts: i64,
    /// Parts that nothing was measured of, or whose fitting did not work.
    pub to_measure: i64,
    /// Parts decided to be replaced, with nothing measured or fitted since.
    pub to_fit: i64,
    /// Fittings that are not proven.
    pub to_prove: i64,
    /// Parts that were measured and not decided.
    pub undecided: i64,
    /// Whether it is closed.
    pub closed: bool,
    /// Whether a part of it may be charged on the reforming bench.
    pub reforming: bool,
    /// What is left of the last soak test, in seconds; none where there was none.
    pub soak_left_s: Option<f64>,
    /// Whether somebody saw it fail, or looked when its time was over.
    pub soak_ended: bool,
}

impl ShelfRow {
    /// As the shelf counts it.
    #[must_use]
    pub fn counted(&self) -> OnShelf {
        OnShelf {
            closed: self.closed,
            parts: self.parts,
            to_measure: self.to_measure,
            to_fit: self.to_fit,
            to_prove: self.to_prove,
            undecided: self.undecided,
            reforming: self.reforming,
            soak_left: self.soak_left_s.and_then(|s| Second::new(s).ok()),
            soak_ended: self.soak_ended,
        }
    }
}

/// Rows of the shelf: the columns in one place.
macro_rules! on_shelf {
    ($where:literal $(, $arg:expr)*) => {
        sqlx::query_as!(
            crate::table::ticket::ShelfRow,
            r#"select id as "id!", name as "name!", source as "source!: _", devices as "devices!: _", highest_volts,
                      parts as "parts!", to_measure as "to_measure!", to_fit as "to_fit!", to_prove as "to_prove!",
                      undecided as "undecided!", closed as "closed!", reforming as "reforming!", soak_left_s,
                      soak_ended as "soak_ended!" from shelf where "# + $where
            $(, $arg)*
        )
    };
}
pub(super) use on_shelf as shelf_rows;

/// The shelf: what is open, and what was closed last; what was closed before is found by searching.
pub async fn shelf(db: impl PgExecutor<'_>) -> Result<Vec<ShelfRow>, StoreError> {
    Ok(on_shelf!(
        "id in (select id from ticket where closed_at is null
                union all (select id from ticket where closed_at is not null order by closed_at desc limit $1))
         order by created_at, id",
        CLOSED_ON_SHELF
    )
    .fetch_all(db)
    .await?)
}

/// The open tickets, oldest first.
pub async fn open(db: impl PgExecutor<'_>) -> Result<Vec<OpenRow>, StoreError> {
    Ok(sqlx::query_as!(
        OpenRow,
        "select id, name from ticket where closed_at is null order by created_at, id"
    )
    .fetch_all(db)
    .await?)
}

/// One ticket on the shelf.
pub async fn on_shelf(db: impl PgExecutor<'_>, id: Uuid) -> Result<ShelfRow, StoreError> {
    on_shelf!("id = $1", id).fetch_optional(db).await?.ok_or_else(|| StoreError::Gone(Row::Ticket))
}

/// How many tickets there are.
pub async fn count(db: impl PgExecutor<'_>) -> Result<i64, StoreError> {
    Ok(sqlx::query_scalar!("select count(*) as \"n!\" from ticket").fetch_one(db).await?)
}

/// Takes a ticket out for good, with everything that hangs on it.
pub async fn remove(db: impl PgExecutor<'_>, id: Uuid) -> Result<(), StoreError> {
    sqlx::query!("delete from ticket where id = $1", id).execute(db).await?;
    Ok(())
}

/// Whether a part of a ticket lies on the reforming bench, or waits for it.
pub async fn is_reforming(db: impl PgExecutor<'_>, id: Uuid) -> Result<bool, StoreError> {
    Ok(sqlx::query_scalar!(
        r#"select exists (select from reform_run r join part p on p.id = r.part_id
             where p.ticket_id = $1 and r.phase <> 'over') as "so!""#,
        id
    )
    .fetch_one(db)
    .await?)
}

/// The tickets with an electrolytic on their tray: id and name, in the shelf's order.
pub async fn with_electrolytics(db: impl PgExecutor<'_>) -> Result<Vec<(Uuid, String)>, StoreError> {
    let rows = sqlx::query!(
        "select id, name from ticket t
         where exists (select from part p where p.ticket_id = t.id and p.family = 'electrolytic') order by created_at, id"
    )
    .fetch_all(db)
    .await?;
    Ok(rows.into_iter().map(|r| (r.id, r.name)).collect())
}

/// Adds a ticket; one that is there already under that id is left as it is.
pub async fn insert(db: impl PgExecutor<'_>, t: &TicketRow) -> Result<(), StoreError> {
    sqlx::query!(
        "insert into ticket (id, name, source, school, tight, policy_id, complaint, symptoms, wants, supply, earlier_work,
                             line_volts, set_watts, sheet_line_volts, sheet_ohms_per_volt, devices, highest_volts, facts)
         values ($1, $2, $3, $4, $5, $6, $7, $8, $9, $10, $11, $12, $13, $14, $15, $16, $17, $18) on conflict (id) do nothing",
        t.id,
        t.name,
        t.source as _,
        t.school as _,
        t.tight,
        t.policy_id,
        t.complaint,
        &t.symptoms,
        t.wants,
        t.supply,
        t.earlier_work,
        t.line_volts,
        t.set_watts,
        t.sheet_line_volts,
        t.sheet_ohms_per_volt,
        t.devices as _,
        t.highest_volts,
        &t.facts as _
    )
    .execute(db)
    .await?;
    Ok(())
}

/// One ticket.
pub async fn find(db: impl PgExecutor<'_>, id: Uuid) -> Result<TicketRow, StoreError> {
    sqlx::query_as!(
        TicketRow,
        "select id, name, source, devices, highest_volts, school, tight, policy_id, complaint, symptoms, wants, supply,
                earlier_work, line_volts, set_watts, sheet_line_volts, sheet_ohms_per_volt, facts, version
         from ticket where id = $1",
        id
    )
    .fetch_optional(db)
    .await?
    .ok_or_else(|| StoreError::Gone(Row::Ticket))
}

/// What is known of a ticket's set: its supply, and the line that it is made for, in volt.
pub async fn set_of(db: impl PgExecutor<'_>, id: Uuid) -> Result<(SetFacts, Option<f64>), StoreError> {
    let row = sqlx::query!("select facts, line_volts from ticket where id = $1", id)
        .fetch_optional(db)
        .await?
        .ok_or_else(|| StoreError::Gone(Row::Ticket))?;
    Ok((row.facts.0.0, row.line_volts))
}

/// One ticket, kept from changing until the transaction ends.
pub async fn lock(db: &mut PgConnection, id: Uuid) -> Result<TicketRow, StoreError> {
    sqlx::query_as!(
        TicketRow,
        "select id, name, source, devices, highest_volts, school, tight, policy_id, complaint, symptoms, wants, supply,
                earlier_work, line_volts, set_watts, sheet_line_volts, sheet_ohms_per_volt, facts, version
         from ticket where id = $1 for update",
        id
    )
    .fetch_optional(db)
    .await?
    .ok_or_else(|| StoreError::Gone(Row::Ticket))
}

/// Writes a ticket back.
pub async fn update(db: &mut PgConnection, row: &TicketRow) -> Result<(), StoreError> {
    sqlx::query!(
        "update ticket set name = $2, source = $3, school = $4, tight = $5, complaint = $6, policy_id = $7, symptoms = $8,
                          wants = $9, supply = $10, earlier_work = $11, line_volts = $12, set_watts = $13,
                          sheet_line_volts = $14, sheet_ohms_per_volt = $15, devices = $16, highest_volts = $17, facts = $18
         where id = $1",
        row.id,
        row.name,
        row.source as _,
        row.school as _,
        row.tight,
        row.complaint,
        row.policy_id,
        &row.symptoms,
        row.wants,
        row.supply,
        row.earlier_work,
        row.line_volts,
        row.set_watts,
        row.sheet_line_volts,
        row.sheet_ohms_per_volt,
        row.devices as _,
        row.highest_volts,
        &row.facts as _
    )
    .execute(db)
    .await?;
    Ok(())
}

/// A ticket's row as JSON, to be held against an earlier one.
pub async fn content(db: impl PgExecutor<'_>, id: Uuid) -> Result<serde_json::Value, StoreError> {
    Ok(sqlx::query_scalar!("select to_jsonb(t) as \"row!\" from ticket t where id = $1", id)
        .fetch_one(db)
        .await?)
}

/// All tickets by their names, oldest first.
pub async fn names(db: impl PgExecutor<'_>) -> Result<Vec<(Uuid, String)>, StoreError> {
    let rows = sqlx::query!("select id, name from ticket order by created_at, id").fetch_all(db).await?;
    Ok(rows.into_iter().map(|r| (r.id, r.name)).collect())
}
