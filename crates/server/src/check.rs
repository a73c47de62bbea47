//! `restless-owl check`: whether a database is what it says. Changes nothing.

use std::fmt;

use anyhow::Context;
use sqlx::PgPool;

use crate::database::Database;
use crate::error::ApiError;
use crate::picture_store::{PictureStore, name};
use crate::record::comes_back;
use crate::serve::newer;
use crate::table::error::StoreError;
use crate::table::{attachment, structure};

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
pub async fn check(pool: &PgPool, pictures: &PictureStore) -> anyhow::Result<Checked> {
    let mut checked = Checked::default();
    newer(pool).await?;
    rules(pool, &mut checked).await.context("the rules could not be looked at")?;
    references(pool, &mut checked).await.context("the references could not be followed")?;
    let tickets = crate::table::ticket::names(pool).await?;
    for id in attachment::damaged(pool).await? {
        checked.wrong.push(format!("the picture {id} has other bytes than it had"));
    }
    for sum in attachment::stored(pool).await? {
        if let Err(e) = pictures.read(&sum).await {
            let why = match e {
                ApiError::Internal(why) => why,
                other => other.to_string(),
            };
            checked.wrong.push(format!("the picture {}: {why}", name(&sum)));
        }
    }
    let db = Database::direct(pool.clone());
    for (id, name) in tickets {
        checked.tickets += 1;
        if let Err(e) = comes_back(&db, id).await {
            checked.wrong.push(format!("ticket '{name}' ({id}): {e}"));
        }
    }
    Ok(checked)
}

/// Every rule was held against every row, and every index holds.
async fn rules(pool: &PgPool, checked: &mut Checked) -> Result<(), StoreError> {
    for r in structure::rules(pool).await? {
        checked.rules += 1;
        if !r.held {
            checked.wrong.push(format!("{}: the rule {} was never held against its rows", r.tab, r.name));
        }
        if let Some(says) = r.says {
            let broken = structure::breaking(pool, &r.tab, &says).await?;
            if broken > 0 {
                checked.wrong.push(format!("{}: {broken} rows break the rule {}", r.tab, r.name));
            }
        }
    }
    let broken = structure::broken_indexes(pool).await?;
    checked.wrong.extend(broken.into_iter().map(|name| format!("the index {name} does not hold")));
    Ok(())
}

/// Nothing refers to what is not there.
async fn references(pool: &PgPool, checked: &mut Checked) -> Result<(), StoreError> {
    for r in structure::references(pool).await? {
        checked.references += 1;
        let lost = structure::lost(pool, &r).await?;
        if lost > 0 {
            checked
                .wrong
                .push(format!("{}: {lost} rows refer to a {} that is not there ({})", r.tab, r.to, r.name));
        }
    }
    Ok(())
}
