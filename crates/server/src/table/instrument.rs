//! All SQL of instruments.

use owl_core::quantity::{Fraction, Hertz, Volt};
use owl_core::reading::pitfall::{Warning, overdue};
use owl_core::reading::{InstrumentKind, MeterFunction, Mode, Range, ReadQuantity, Setting};
use sqlx::{PgConnection, PgExecutor};
use time::Date;
use uuid::Uuid;

use super::error::{Row, StoreError};

/// An instrument as stored.
#[derive(Debug, Clone)]
pub struct InstrumentRow {
    /// Its id.
    pub id: Uuid,
    /// Rises with every change.
    pub version: i32,
    /// What the workshop calls it.
    pub name: String,
    /// What it is.
    pub kind: InstrumentKind,
    /// When it was last checked.
    pub checked_on: Option<Date>,
    /// Whether it is out of use.
    pub retired: bool,
    /// Where it answers on the network, where somebody entered that.
    pub address: Option<String>,
}

impl InstrumentRow {
    /// The warning that its check is overdue, if it is.
    #[must_use]
    pub fn overdue(&self, today: Date) -> Option<Warning> {
        self.checked_on.and_then(|d| overdue((today - d).whole_days()))
    }
}

/// A way of measuring as stored, its ranges in parallel lists, lowest first.
#[derive(Debug, Clone)]
pub struct WayRow {
    /// Its id.
    pub id: Uuid,
    /// Whose it is.
    pub instrument_id: Uuid,
    /// What the instrument calls it.
    pub name: String,
    /// What it measures.
    pub quantity: ReadQuantity,
    /// How.
    pub mode: Mode,
    /// Its test frequency.
    pub test_hertz: Option<f64>,
    /// Its test voltage.
    pub test_volts: Option<f64>,
    /// How a leakage tester's switch stands.
    pub setting: Option<Setting>,
    /// Ends of the ranges.
    pub up_to: Vec<f64>,
    /// Share of the reading in each.
    pub of_reading: Vec<f64>,
    /// Counts in each.
    pub counts: Vec<f64>,
    /// What a count is worth in each.
    pub resolution: Vec<f64>,
}

impl WayRow {
    /// The way as the core knows it.
    ///
    /// # Errors
    /// [`StoreError::Broken`] if the row is impossible.
    pub fn way(&self) -> Result<MeterFunction, StoreError> {
        let internal = |e: &dyn std::fmt::Display| StoreError::Broken(format!("way {}: {e}", self.name));
        let mut ranges = Vec::with_capacity(self.up_to.len());
        for (i, up_to) in self.up_to.iter().enumerate() {
            let of = |list: &[f64]| list.get(i).copied().unwrap_or_default();
            ranges.push(Range {
                up_to_si: *up_to,
                of_reading: Fraction::new(of(&self.of_reading)).map_err(|e| internal(&e))?,
                counts: of(&self.counts),
                resolution_si: of(&self.resolution),
            });
        }
        Ok(MeterFunction {
            name: self.name.clone(),
            quantity: self.quantity,
            mode: self.mode,
            test_frequency: self.test_hertz.map(Hertz::new).transpose().map_err(|e| internal(&e))?,
            test_voltage: self.test_volts.map(Volt::new).transpose().map_err(|e| internal(&e))?,
            setting: self.setting,
            ranges,
        })
    }
}

/// All instruments, in the workshop's order, those out of use last.
pub async fn instruments(db: impl PgExecutor<'_>) -> Result<Vec<InstrumentRow>, StoreError> {
    Ok(sqlx::query_as!(
        InstrumentRow,
        "select id, version, name, kind, checked_on, retired, address from instrument order by retired, place, name"
    )
    .fetch_all(db)
    .await?)
}

/// All ways of measuring, in the order of their instruments.
pub async fn ways(db: impl PgExecutor<'_>) -> Result<Vec<WayRow>, StoreError> {
    Ok(sqlx::query_as!(
        WayRow,
        r#"select w.id, w.instrument_id, w.name, w.quantity, w.mode, w.test_hertz, w.test_volts, w.setting,
                  coalesce(array_agg(r.up_to order by r.up_to) filter (where r.up_to is not null), '{}') as "up_to!",
                  coalesce(array_agg(r.of_reading order by r.up_to) filter (where r.up_to is not null), '{}') as "of_reading!",
                  coalesce(array_agg(r.counts order by r.up_to) filter (where r.up_to is not null), '{}') as "counts!",
                  coalesce(array_agg(r.resolution order by r.up_to) filter (where r.up_to is not null), '{}') as "resolution!"
           from instrument_way w join instrument i on i.id = w.instrument_id
           left join instrument_range r on r.way_id = w.id
           group by w.id, i.id order by i.retired, i.place, i.name, w.place, w.name"#
    )
    .fetch_all(db)
    .await?)
}

/// Adds an instrument; one that is there already under that id is left as it is. Says whether it was new.
pub async fn insert(db: &mut PgConnection, i: &InstrumentRow) -> Result<bool, StoreError> {
    let done = sqlx::query!(
        "insert into instrument (id, name, kind, checked_on, retired, address, place)
         values ($1, $2, $3, $4, $5, $6, (select coalesce(max(place), 0) + 1 from instrument)) on conflict (id) do nothing",
        i.id,
        i.name,
        i.kind as _,
        i.checked_on,
        i.retired,
        i.address
    )
    .execute(db)
    .await;
    done.map(|d| d.rows_affected() == 1).map_err(|e| StoreError::naming(Row::Instrument, &i.name, e))
}

/// Writes an instrument back if nobody changed it since; says whether that was so.
pub async fn update(db: &mut PgConnection, i: &InstrumentRow) -> Result<bool, StoreError> {
    let done = sqlx::query!(
        "update instrument set name = $2, kind = $3, checked_on = $4, retired = $5, address = $7,
                version = version + 1
         where id = $1 and version = $6",
        i.id,
        i.name,
        i.kind as _,
        i.checked_on,
        i.retired,
        i.version,
        i.address
    )
    .execute(db)
    .await;
    done.map(|d| d.rows_affected() == 1).map_err(|e| StoreError::naming(Row::Instrument, &i.name, e))
}

/// Replaces the ways of an instrument.
pub async fn replace_ways(
    db: &mut PgConnection,
    instrument_id: Uuid,
    ways: &[MeterFunction],
) -> Result<(), StoreError> {
    sqlx::query!("delete from instrument_way where instrument_id = $1", instrument_id)
        .execute(&mut *db)
        .await?;
    for (place, w) in ways.iter().enumerate() {
        let id = Uuid::now_v7();
        sqlx::query!(
            "insert into instrument_way (id, instrument_id, place, name, quantity, mode, test_hertz, test_volts, setting)
             values ($1, $2, $3, $4, $5, $6, $7, $8, $9)",
            id,
            instrument_id,
            i32::try_from(place).unwrap_or(i32::MAX),
            w.name,
            owl_core::named::Named::name(w.quantity),
            owl_core::named::Named::name(w.mode),
            w.test_frequency.map(Hertz::hertz),
            w.test_voltage.map(Volt::volts),
            w.setting.map(owl_core::named::Named::name)
        )
        .execute(&mut *db)
        .await?;
        for r in &w.ranges {
            sqlx::query!(
                "insert into instrument_range (way_id, up_to, of_reading, counts, resolution)
                 values ($1, $2, $3, $4, $5)",
                id,
                r.up_to_si,
                r.of_reading.fraction(),
                r.counts,
                r.resolution_si
            )
            .execute(&mut *db)
            .await?;
        }
    }
    Ok(())
}
