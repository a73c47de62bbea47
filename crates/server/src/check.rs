//! `restless-owl check`: whether a database is what it says. Changes nothing.

use std::fmt;

use anyhow::Context;
use sqlx::{AssertSqlSafe, PgPool};
use uuid::Uuid;

use crate::record::comes_back;
use crate::serve::newer;

/// What was looked at, and what is wrong.
#[derive(Debug, Default)]
pub struct Checked {
    /// Rules of the database that were looked at.
    pub rules: usize,
    /// References that were followed.
    pub references: usize,
    /// Tickets that were opened, written out, and read in again.
    pub tickets: usize,
    /// What is wrong, a sentence each.
    pub wrong: Vec<String>,
}

impl fmt::Display for Checked {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        for wrong in &self.wrong {
            writeln!(f, "wrong: {wrong}")?;
        }
        write!(
            f,
            "{} rules, {} references, {} tickets with their records looked at: {}",
            self.rules,
            self.references,
            self.tickets,
            if self.wrong.is_empty() {
                "all is well".to_owned()
            } else {
                format!("{} wrong", self.wrong.len())
            }
        )
    }
}

/// Looks at a database: its tables are those of this program, its rules hold for every row, nothing refers to what is not
/// there, and every ticket opens and comes back from its own record just as it is.
///
/// # Errors
/// When the database does not answer, or was written by a newer program.
pub async fn check(pool: &PgPool) -> anyhow::Result<Checked> {
    let mut checked = Checked::default();
    newer(pool).await?;
    rules(pool, &mut checked).await.context("the rules could not be looked at")?;
    references(pool, &mut checked).await.context("the references could not be followed")?;
    let ids: Vec<(Uuid, String)> = sqlx::query!("select id, name from ticket order by created_at, id")
        .fetch_all(pool)
        .await?
        .into_iter()
        .map(|r| (r.id, r.name))
        .collect();
    for (id, name) in ids {
        checked.tickets += 1;
        if let Err(e) = comes_back(pool, id).await {
            checked.wrong.push(format!("ticket '{name}' ({id}): {e}"));
        }
    }
    Ok(checked)
}

/// Every rule was held against every row, and every index holds.
async fn rules(pool: &PgPool, checked: &mut Checked) -> Result<(), sqlx::Error> {
    let rows = sqlx::query!(
        r#"select conrelid::regclass::text as "tab!", conname::text as "name!", contype::text as "kind!", convalidated as "held!",
                  pg_get_expr(conbin, conrelid) as says
           from pg_constraint where connamespace = 'public'::regnamespace and conrelid <> 0
             and conrelid not in (select inhrelid from pg_inherits) order by 1, 2"#
    )
    .fetch_all(pool)
    .await?;
    for r in rows {
        checked.rules += 1;
        if !r.held {
            checked.wrong.push(format!("{}: the rule {} was never held against its rows", r.tab, r.name));
        }
        if let Some(says) = r.says {
            // The names are the database's own.
            let sql = format!("select count(*) from {} where not ({says})", r.tab);
            let broken: i64 = sqlx::query_scalar(AssertSqlSafe(sql)).fetch_one(pool).await?;
            if broken > 0 {
                checked.wrong.push(format!("{}: {broken} rows break the rule {}", r.tab, r.name));
            }
        }
    }
    let broken = sqlx::query_scalar!(
        r#"select indexrelid::regclass::text as "name!" from pg_index where not indisvalid"#
    )
    .fetch_all(pool)
    .await?;
    checked.wrong.extend(broken.into_iter().map(|name| format!("the index {name} does not hold")));
    Ok(())
}

/// Nothing refers to what is not there.
async fn references(pool: &PgPool, checked: &mut Checked) -> Result<(), sqlx::Error> {
    let rows = sqlx::query!(
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
    .await?;
    for r in rows {
        checked.references += 1;
        let sql = format!(
            "select count(*) from {} a where {} and not exists (select from {} b where {})",
            r.tab, r.given, r.to, r.same
        );
        let lost: i64 = sqlx::query_scalar(AssertSqlSafe(sql)).fetch_one(pool).await?;
        if lost > 0 {
            checked
                .wrong
                .push(format!("{}: {lost} rows refer to a {} that is not there ({})", r.tab, r.to, r.name));
        }
    }
    Ok(())
}
