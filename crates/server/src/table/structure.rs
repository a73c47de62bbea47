//! All SQL that looks at the tables themselves: which there are, what holds their rows, and which rows break it.

use sqlx::{AssertSqlSafe, PgPool};

use super::error::StoreError;

/// A rule of a table.
#[derive(Debug)]
pub struct RuleRow {
    /// The table.
    pub tab: String,
    /// The rule.
    pub name: String,
    /// Whether it was held against every row.
    pub held: bool,
    /// What it says of a row, where it is such a rule.
    pub says: Option<String>,
}

/// What one table says of another.
#[derive(Debug)]
pub struct ReferenceRow {
    /// The table.
    pub tab: String,
    /// The one that it refers to.
    pub to: String,
    /// The reference.
    pub name: String,
    /// When a row refers to anything.
    pub given: String,
    /// When it refers to that row.
    pub same: String,
}

/// The version of the tables; `None` where there are none of this program.
pub async fn version(pool: &PgPool) -> Result<Option<i64>, StoreError> {
    let there: bool =
        sqlx::query_scalar!(r#"select to_regclass('_sqlx_migrations') is not null as "there!""#)
            .fetch_one(pool)
            .await?;
    if !there {
        return Ok(None);
    }
    Ok(Some(
        sqlx::query_scalar("select coalesce(max(version), 0) from _sqlx_migrations where success")
            .fetch_one(pool)
            .await?,
    ))
}

/// How many tables there are, anybody's.
pub async fn tables(pool: &PgPool) -> Result<i64, StoreError> {
    Ok(sqlx::query_scalar!(
        r#"select count(*) as "n!" from pg_class where relnamespace = 'public'::regnamespace and relkind in ('r', 'p')"#
    )
    .fetch_one(pool)
    .await?)
}

/// Every rule of every table.
pub async fn rules(pool: &PgPool) -> Result<Vec<RuleRow>, StoreError> {
    Ok(sqlx::query_as!(
        RuleRow,
        r#"select conrelid::regclass::text as "tab!", conname::text as "name!", convalidated as "held!",
                  pg_get_expr(conbin, conrelid) as says
           from pg_constraint where connamespace = 'public'::regnamespace and conrelid <> 0
             and conrelid not in (select inhrelid from pg_inherits) order by 1, 2"#
    )
    .fetch_all(pool)
    .await?)
}

/// How many rows break what a rule says.
pub async fn breaking(pool: &PgPool, tab: &str, says: &str) -> Result<i64, StoreError> {
    // The names are the database's own.
    let sql = format!("select count(*) from {tab} where not ({says})");
    Ok(sqlx::query_scalar(AssertSqlSafe(sql)).fetch_one(pool).await?)
}

/// The indexes that do not hold.
pub async fn broken_indexes(pool: &PgPool) -> Result<Vec<String>, StoreError> {
    Ok(sqlx::query_scalar!(
        r#"select indexrelid::regclass::text as "name!" from pg_index where not indisvalid"#
    )
    .fetch_all(pool)
    .await?)
}

/// Every reference of every table.
pub async fn references(pool: &PgPool) -> Result<Vec<ReferenceRow>, StoreError> {
    Ok(sqlx::query_as!(
        ReferenceRow,
        r#"select c.conrelid::regclass::text as "tab!", c.confrelid::regclass::text as "to!", c.conname::text as "name!",
                  string_agg(format('a.%I is not null', x.attname), ' and ' order by k.n) as "given!",
                  string_agg(format('b.%I = a.%I', y.attname, x.attname), ' and ' order by k.n) as "same!"
           from pg_constraint c
           cross join lateral unnest(c.conkey, c.confkey) with ordinality as k (mine, theirs, n)
           join pg_attribute x on x.attrelid = c.conrelid and x.attnum = k.mine
           join pg_attribute y on y.attrelid = c.confrelid and y.attnum = k.theirs
           where c.contype = 'f' and c.conparentid = 0 and c.connamespace = 'public'::regnamespace
           group by c.oid, c.conrelid, c.confrelid, c.conname order by 1, 3"#
    )
    .fetch_all(pool)
    .await?)
}

/// How many rows refer to what is not there.
pub async fn lost(pool: &PgPool, r: &ReferenceRow) -> Result<i64, StoreError> {
    let sql = format!(
        "select count(*) from {} a where {} and not exists (select from {} b where {})",
        r.tab, r.given, r.to, r.same
    );
    Ok(sqlx::query_scalar(AssertSqlSafe(sql)).fetch_one(pool).await?)
}
