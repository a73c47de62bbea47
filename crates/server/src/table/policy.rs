//! All SQL of policies: a workshop's own copies of the schools.

use owl_core::named::Named;
use owl_core::part::MadeOf;
use owl_core::verdict::{LeakageRule, LimitRule, Policy, PolicyNumber, School};
use sqlx::types::Json;
use sqlx::{PgConnection, PgExecutor};
use std::collections::BTreeMap;
use uuid::Uuid;

use super::error::{Row, StoreError};
use crate::table::ticket::TicketRow;

/// A copy as stored.
#[derive(Debug, Clone)]
pub struct PolicyRow {
    /// Its id.
    pub id: Uuid,
    /// What the workshop calls it.
    pub name: String,
    /// The school that it is a copy of.
    pub school: School,
    /// The tight variant.
    pub tight: bool,
    /// How its limit meets the marked tolerance.
    pub limit_rule: LimitRule,
    /// Which leakage limit decides.
    pub leakage: LeakageRule,
    /// Families that are replaced without testing.
    pub condemns: Vec<MadeOf>,
    /// The numbers that differ from the school's.
    pub numbers: Json<BTreeMap<PolicyNumber, f64>>,
    /// Rises with every change.
    pub version: i32,
}

impl PolicyRow {
    /// The policy as the core knows it.
    ///
    /// # Errors
    /// [`StoreError::Broken`] for a row that cannot be.
    pub fn policy(&self) -> Result<Policy, StoreError> {
        let internal = |e: &dyn std::fmt::Display| StoreError::Broken(format!("policy {}: {e}", self.name));
        let mut policy = Policy::of(self.school, self.tight).map_err(|e| internal(&e))?.clone();
        policy.copy = Some(self.name.clone());
        policy.limit = self.limit_rule;
        policy.leakage = self.leakage;
        policy.condemns = self.condemns.clone();
        for (number, value) in &self.numbers.0 {
            policy.set_si(*number, *value).map_err(|e| internal(&e))?;
        }
        Ok(policy)
    }

    /// A copy as it is to be stored: of its numbers only those that differ from the school's.
    #[must_use]
    pub fn of(id: Uuid, version: i32, name: &str, policy: &Policy) -> Self {
        let school = Policy::of(policy.school, policy.tight).ok();
        let numbers = PolicyNumber::ALL
            .iter()
            .filter(|n| school.is_none_or(|s| s.number_si(**n) != policy.number_si(**n)))
            .map(|n| (*n, policy.number_si(*n)))
            .collect();
        Self {
            id,
            name: name.to_owned(),
            school: policy.school,
            tight: policy.tight,
            limit_rule: policy.limit,
            leakage: policy.leakage,
            condemns: policy.condemns.clone(),
            numbers: Json(numbers),
            version,
        }
    }
}

/// All copies, by name.
pub async fn copies(db: impl PgExecutor<'_>) -> Result<Vec<PolicyRow>, StoreError> {
    Ok(sqlx::query_as!(
        PolicyRow,
        "select id, name, school, tight, limit_rule, leakage, condemns, numbers, version from policy order by name"
    )
    .fetch_all(db)
    .await?)
}

/// One copy.
pub async fn find(db: impl PgExecutor<'_>, id: Uuid) -> Result<Option<PolicyRow>, StoreError> {
    Ok(sqlx::query_as!(
        PolicyRow,
        "select id, name, school, tight, limit_rule, leakage, condemns, numbers, version from policy where id = $1",
        id
    )
    .fetch_optional(db)
    .await?)
}

/// The policy that a ticket is judged by: its copy where it has one, otherwise its school.
pub async fn of_ticket(db: impl PgExecutor<'_>, ticket: &TicketRow) -> Result<Policy, StoreError> {
    if let Some(id) = ticket.policy_id
        && let Some(row) = find(db, id).await?
    {
        return row.policy();
    }
    let school = Policy::of(ticket.school, ticket.tight);
    school.cloned().map_err(StoreError::broken)
}

/// Adds a copy; one that is there already under that id is left as it is.
pub async fn insert(db: &mut PgConnection, p: &PolicyRow) -> Result<(), StoreError> {
    let done = sqlx::query!(
        "insert into policy (id, name, school, tight, limit_rule, leakage, condemns, numbers)
         values ($1, $2, $3, $4, $5, $6, $7, $8) on conflict (id) do nothing",
        p.id,
        p.name,
        p.school as _,
        p.tight,
        p.limit_rule as _,
        p.leakage as _,
        &p.condemns as _,
        &p.numbers as _
    )
    .execute(db)
    .await;
    done.map(|_| ()).map_err(|e| StoreError::naming(Row::Policy, &p.name, e))
}

/// Writes a copy back if nobody changed it since; says whether that was so.
pub async fn update(db: &mut PgConnection, p: &PolicyRow) -> Result<bool, StoreError> {
    let done = sqlx::query!(
        "update policy set name = $2, limit_rule = $3, leakage = $4, condemns = $5, numbers = $6
         where id = $1 and version = $7",
        p.id,
        p.name,
        p.limit_rule as _,
        p.leakage as _,
        &p.condemns as _,
        &p.numbers as _,
        p.version
    )
    .execute(db)
    .await;
    done.map(|d| d.rows_affected() == 1).map_err(|e| StoreError::naming(Row::Policy, &p.name, e))
}

/// Removes a copy that no ticket follows; says whether it was there. `None` where tickets follow it.
pub async fn remove(db: &mut PgConnection, id: Uuid) -> Result<Option<bool>, StoreError> {
    let done = sqlx::query!("delete from policy where id = $1", id).execute(db).await;
    match done {
        Err(sqlx::Error::Database(e)) if e.is_foreign_key_violation() => Ok(None),
        other => Ok(Some(other?.rows_affected() == 1)),
    }
}
