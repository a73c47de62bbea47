//! All SQL of the drawers.

use std::collections::HashMap;

use owl_core::drawers::search::{Rating, Word};
use owl_core::drawers::{Condition, Leads, Lot, Piece};
use owl_core::network::Stock;
use owl_core::part::{MadeOf, PartKind, SafetyClass};
use owl_core::quantity::{Ampere, Fraction, Ohm, QuantityError, Volt, Watt};
use sqlx::{PgConnection, PgExecutor, QueryBuilder};
use time::OffsetDateTime;
use uuid::Uuid;

use super::error::{Row, StoreError};
use crate::database::Database;

/// A lot as stored.
#[derive(Debug, Clone, sqlx::FromRow)]
pub struct LotRow {
    /// Its id.
    pub id: Uuid,
    kind: PartKind,
    family: Option<MadeOf>,
    type_number: String,
    value: Option<f64>,
    tolerance: Option<f64>,
    volts: Option<f64>,
    watts: Option<f64>,
    amperes: Option<f64>,
    winding: Option<f64>,
    safety: Option<SafetyClass>,
    celsius: Option<f64>,
    size: String,
    leads: Option<Leads>,
    count: i32,
    place: String,
    condition: Condition,
    measured: Vec<f64>,
    price_hundredths: Option<i32>,
    low_water: i32,
    /// Rises with every change.
    pub version: i32,
}

/// Shares of a wanted value between which a single part can be a substitute or a near miss.
const NEAR: (f64, f64) = (0.1, 10.0);
/// How far from what is wanted a value may be and still be of use in a network.
const SPAN: f64 = 100.0;

/// The columns of a lot, in one place.
const COLUMNS: &str = "id, kind, family, type_number, value, tolerance, volts, watts, amperes, winding, safety, celsius, \
     size, leads, count, place, condition, measured, price_hundredths, low_water, version";

fn corrupt(e: impl std::fmt::Display) -> StoreError {
    StoreError::broken(e)
}

impl LotRow {
    /// The lot.
    ///
    /// # Errors
    /// [`StoreError::Broken`] for a row that cannot be.
    pub fn lot(&self) -> Result<Lot, StoreError> {
        fn q<T>(v: Option<f64>, new: fn(f64) -> Result<T, QuantityError>) -> Result<Option<T>, StoreError> {
            v.map(new).transpose().map_err(corrupt)
        }
        let whole = |n: i32| u32::try_from(n).map_err(corrupt);
        Ok(Lot {
            piece: Piece {
                kind: self.kind,
                family: self.family,
                type_number: self.type_number.clone(),
                value_si: self.value,
                tolerance: q(self.tolerance, Fraction::new)?,
                volts: q(self.volts, Volt::new)?,
                watts: q(self.watts, Watt::new)?,
                amperes: q(self.amperes, Ampere::new)?,
                winding: q(self.winding, Ohm::new)?,
                safety: self.safety,
                celsius: self.celsius,
                size: self.size.clone(),
                leads: self.leads,
            },
            count: whole(self.count)?,
            place: self.place.clone(),
            condition: self.condition,
            measured_si: self.measured.clone(),
            price_hundredths: self.price_hundredths.map(whole).transpose()?,
            low_water: whole(self.low_water)?,
        })
    }
}

/// What is asked of the drawers.
#[derive(Debug, Default)]
pub struct Question {
    /// Words that must all fit.
    pub words: Vec<Word>,
    /// Of that kind only.
    pub kind: Option<PartKind>,
    /// Only what has run low.
    pub low: bool,
    /// At most so many.
    pub limit: i64,
    /// After so many.
    pub offset: i64,
}

impl Question {
    fn conditions(&self, q: &mut Builder) {
        q.push(" where true");
        if let Some(kind) = self.kind {
            q.push(" and kind = ").push_bind(kind);
        }
        if self.low {
            q.push(" and count < low_water");
        }
        if self.words.is_empty() {
            return;
        }
        // Any of the words is the value, and the others are what is needed beside it; or every word stands for itself.
        q.push(" and (");
        for (i, value) in self.words.iter().enumerate().filter(|(_, w)| !w.values.is_empty()) {
            q.push("(");
            is_value(q, value);
            for other in self.words.iter().enumerate().filter(|(n, _)| *n != i).map(|(_, w)| w) {
                q.push(" and (");
                in_text(q, other);
                ratings(q, other.least(), true);
                q.push(")");
            }
            q.push(") or ");
        }
        q.push("(true");
        for word in &self.words {
            q.push(" and (");
            in_text(q, word);
            if !word.values.is_empty() {
                q.push(" or ");
                is_value(q, word);
            }
            ratings(q, word.ratings(), word.rating);
            q.push(")");
        }
        q.push("))");
    }
}

type Builder = QueryBuilder<sqlx::Postgres>;

/// The word, or another name of the same type, is a piece of the text.
fn in_text(q: &mut Builder, word: &Word) {
    let like = |t: &str| format!("%{}%", t.replace('\\', "\\\\").replace('%', "\\%").replace('_', "\\_"));
    q.push("words like ").push_bind(like(&word.text));
    for other in &word.also {
        q.push(" or words like ").push_bind(like(other));
    }
}

/// The word is the value of some kind of part.
fn is_value(q: &mut Builder, word: &Word) {
    q.push("(false");
    for (kind, value) in &word.values {
        q.push(" or kind = ").push_bind(*kind);
        q.push(" and value between ").push_bind(value * (1.0 - 1e-9));
        q.push(" and ").push_bind(value * (1.0 + 1e-9));
    }
    q.push(")");
}

/// Or the word is one of the ratings: at least, or just so.
fn ratings(q: &mut Builder, all: [(Rating, Option<f64>); 3], least: bool) {
    for (rating, v) in all {
        let column = match rating {
            Rating::Volts => "volts",
            Rating::Watts => "watts",
            Rating::Amperes => "amperes",
        };
        let Some(v) = v else { continue };
        q.push(format!(" or {column} >= ")).push_bind(v * (1.0 - 1e-9));
        if !least {
            q.push(format!(" and {column} <= ")).push_bind(v * (1.0 + 1e-9));
        }
    }
}

/// The lots that fit, by kind and value, and how many there are in all.
pub async fn find_all(db: &Database, question: &Question) -> Result<(Vec<LotRow>, i64), StoreError> {
    let mut q = QueryBuilder::new(format!("select {COLUMNS} from lot"));
    question.conditions(&mut q);
    // What has no value is looked for by its type.
    q.push(
        " order by array_position(array['resistor', 'capacitor', 'coil', 'diode', 'transistor', 'integrated circuit', \
         'lamp'], kind), value, case when value is null then type_number end, volts, type_number, id limit ",
    )
    .push_bind(question.limit);
    q.push(" offset ").push_bind(question.offset);
    let rows: Vec<LotRow> = q.build_query_as().fetch_all(db).await?;
    let mut q = QueryBuilder::new("select count(*) from lot");
    question.conditions(&mut q);
    let total: i64 = q.build_query_scalar().fetch_one(db).await?;
    Ok((rows, total))
}

/// Lots that a network is built from; those with the most pieces.
const MOST_FOR_NETWORKS: i64 = 300;

/// The lots of some kinds that are not empty; where a value is wanted, those near it, and of those further off that
/// are of use in a network the ones with the most pieces.
pub async fn of_kinds(
    db: impl PgExecutor<'_>,
    kinds: &[PartKind],
    wanted: Option<f64>,
) -> Result<Vec<LotRow>, StoreError> {
    let mut q = QueryBuilder::new(format!("select {COLUMNS} from lot where count > 0 and kind = any("));
    q.push_bind(kinds).push(")");
    if let Some(value) = wanted {
        q.push(" and value between ").push_bind(value * NEAR.0).push(" and ").push_bind(value * NEAR.1);
        q.push(format!(" union select {COLUMNS} from (select * from lot where count > 0 and kind = any("));
        q.push_bind(kinds).push(") and value between ").push_bind(value / SPAN).push(" and ");
        q.push_bind(value * SPAN);
        q.push(" order by condition in ('new', 'old stock, tested') desc, count desc, id limit ");
        q.push_bind(MOST_FOR_NETWORKS).push(") many");
    }
    q.push(" order by id");
    Ok(q.build_query_as().fetch_all(db).await?)
}

/// From which drawer a value of a network comes.
#[derive(Debug, Clone)]
pub struct Source {
    /// Its lot.
    pub lot: Uuid,
    /// Where it lies.
    pub place: String,
    /// In a line.
    pub description: String,
    /// How it is made.
    pub family: Option<MadeOf>,
    /// What it may carry.
    pub watts: Option<Watt>,
    /// The volts that it stands.
    pub volts: Option<Volt>,
}

/// What lies in the drawers, as a search for networks takes it: single pieces by what they measure, the rest by their
/// mark; the nearest `most` to the target by ratio. Beside each, where it comes from.
pub async fn stock_of(
    db: &Database,
    kind: PartKind,
    target: f64,
    most: usize,
) -> Result<(Vec<Stock>, Vec<Source>), StoreError> {
    let rows = of_kinds(db, &[kind], None).await?;
    let mut all: Vec<(Stock, Source)> = Vec::new();
    for row in &rows {
        let lot = row.lot()?;
        let Some(value) = lot.piece.value_si else { continue };
        let of = |value, count| Stock {
            tolerance: lot.piece.tolerance,
            power: lot.piece.watts,
            voltage: lot.piece.volts,
            ..Stock::of(value, count)
        };
        let source = Source {
            lot: row.id,
            place: if lot.place.is_empty() { "drawer".to_owned() } else { lot.place.clone() },
            description: lot.piece.to_string(),
            family: lot.piece.family,
            watts: lot.piece.watts,
            volts: lot.piece.volts,
        };
        let measured = u32::try_from(lot.measured_si.len()).unwrap_or(u32::MAX).min(lot.count);
        for m in lot.measured_si.iter().take(measured as usize) {
            // What was measured is known better than its mark says.
            all.push((Stock { tolerance: None, ..of(*m, 1) }, source.clone()));
        }
        if lot.count > measured {
            all.push((of(value, lot.count - measured), source));
        }
    }
    let far = |s: &Stock| (s.value / target).ln().abs();
    all.sort_by(|a, b| far(&a.0).total_cmp(&far(&b.0)));
    all.truncate(most);
    Ok(all.into_iter().unzip())
}

/// One lot.
pub async fn find(db: impl PgExecutor<'_>, id: Uuid) -> Result<LotRow, StoreError> {
    let mut q = QueryBuilder::new(format!("select {COLUMNS} from lot where id = "));
    q.push_bind(id);
    q.build_query_as().fetch_optional(db).await?.ok_or_else(|| StoreError::Gone(Row::Lot))
}

/// One lot, held until the transaction ends.
pub async fn lock(db: &mut PgConnection, id: Uuid) -> Result<LotRow, StoreError> {
    let mut q = QueryBuilder::new(format!("select {COLUMNS} from lot where id = "));
    q.push_bind(id).push(" for update");
    q.build_query_as().fetch_optional(db).await?.ok_or_else(|| StoreError::Gone(Row::Lot))
}

/// How many pieces those of the lots have that are there, by their ids.
pub async fn counts_of(db: &mut PgConnection, ids: &[Uuid]) -> Result<HashMap<Uuid, i32>, StoreError> {
    let rows = sqlx::query!("select id, count from lot where id = any($1)", ids).fetch_all(db).await?;
    Ok(rows.into_iter().map(|r| (r.id, r.count)).collect())
}

/// Remembers that a file of that content is taken; when it was taken before, if it was.
pub async fn file_taken(db: &mut PgConnection, hash: &[u8]) -> Result<Option<OffsetDateTime>, StoreError> {
    let before = sqlx::query_scalar!("select taken_at from drawer_file where hash = $1", hash)
        .fetch_optional(&mut *db)
        .await?;
    sqlx::query!(
        "insert into drawer_file (hash) values ($1) on conflict (hash) do update set taken_at = now()",
        hash
    )
    .execute(db)
    .await?;
    Ok(before)
}

/// Whether a count that was sent under that key is counted for the first time.
pub async fn first_count(db: &mut PgConnection, key: Uuid, lot: Uuid) -> Result<bool, StoreError> {
    let done = sqlx::query!(
        "insert into lot_count (key, lot_id) values ($1, $2) on conflict (key) do nothing",
        key,
        lot
    )
    .execute(db)
    .await?;
    Ok(done.rows_affected() == 1)
}

/// Adds lots or, where one is there under that id, changes it; in one statement. Says how many were new.
pub async fn put(db: &mut PgConnection, lots: &[(Uuid, &Lot)]) -> Result<u64, StoreError> {
    let mut added = 0;
    // PostgreSQL takes 65,535 values in a statement.
    for some in lots.chunks(2000) {
        let mut q = QueryBuilder::new(
            "insert into lot (id, kind, family, type_number, value, tolerance, volts, watts, amperes, winding, safety, \
             celsius, size, leads, count, place, condition, measured, price_hundredths, low_water) ",
        );
        q.push_values(some, |mut row, (id, lot)| {
            let p = &lot.piece;
            row.push_bind(*id)
                .push_bind(p.kind)
                .push_bind(p.family)
                .push_bind(p.type_number.clone())
                .push_bind(p.value_si)
                .push_bind(p.tolerance.map(Fraction::fraction))
                .push_bind(p.volts.map(Volt::volts))
                .push_bind(p.watts.map(Watt::watts))
                .push_bind(p.amperes.map(Ampere::amperes))
                .push_bind(p.winding.map(Ohm::ohms))
                .push_bind(p.safety)
                .push_bind(p.celsius)
                .push_bind(p.size.clone())
                .push_bind(p.leads)
                .push_bind(i32::try_from(lot.count).unwrap_or(i32::MAX))
                .push_bind(lot.place.clone())
                .push_bind(lot.condition)
                .push_bind(lot.measured_si.clone())
                .push_bind(lot.price_hundredths.and_then(|p| i32::try_from(p).ok()))
                .push_bind(i32::try_from(lot.low_water).unwrap_or(i32::MAX));
        });
        q.push(
            " on conflict (id) do update set kind = excluded.kind, family = excluded.family, \
             type_number = excluded.type_number, value = excluded.value, tolerance = excluded.tolerance, \
             volts = excluded.volts, watts = excluded.watts, amperes = excluded.amperes, \
             winding = excluded.winding, safety = excluded.safety, celsius = excluded.celsius, \
             size = excluded.size, leads = excluded.leads, count = excluded.count, place = excluded.place, \
             condition = excluded.condition, measured = excluded.measured, \
             price_hundredths = excluded.price_hundredths, low_water = excluded.low_water \
             returning (xmax = 0)",
        );
        let new: Vec<bool> = q.build_query_scalar().fetch_all(&mut *db).await?;
        added += new.iter().filter(|n| **n).count() as u64;
    }
    Ok(added)
}

/// Takes a lot out of the drawers for good.
pub async fn remove(db: &mut PgConnection, id: Uuid) -> Result<(), StoreError> {
    sqlx::query!("delete from lot where id = $1", id).execute(db).await?;
    Ok(())
}

/// Takes pieces out of a lot, if there are as many; says whether there were. Of a piece that was measured the value
/// goes with it.
pub async fn take(
    db: &mut PgConnection,
    id: Uuid,
    count: i32,
    measured: Option<f64>,
) -> Result<bool, StoreError> {
    let done = sqlx::query!(
        "update lot set count = count - $2,
                        measured = (array_remove(measured, $3))[1:count - $2]
         where id = $1 and count >= $2",
        id,
        count,
        measured
    )
    .execute(db)
    .await?;
    Ok(done.rows_affected() == 1)
}

/// Puts pieces back, with what one of them measured where that is known.
pub async fn give_back(
    db: &mut PgConnection,
    id: Uuid,
    count: i32,
    measured: Option<f64>,
) -> Result<(), StoreError> {
    sqlx::query!(
        "update lot set count = least(count + $2, 1000000),
                        measured = case when $3::double precision is null or cardinality(measured) > 999
                                        then measured else measured || $3 end
         where id = $1",
        id,
        count,
        measured
    )
    .execute(db)
    .await?;
    Ok(())
}

/// How many lots there are, and how many have run low.
pub async fn counts(db: impl PgExecutor<'_>) -> Result<(i64, i64), StoreError> {
    let row = sqlx::query!(
        r#"select count(*) as "all!", count(*) filter (where count < low_water) as "low!" from lot"#
    )
    .fetch_one(db)
    .await?;
    Ok((row.all, row.low))
}
