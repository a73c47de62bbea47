//! What changed on a row since somebody saw it, in the trade's words.

use owl_core::named::Named;
use owl_core::part::{Fact, PartKind};
use owl_core::quantity::Quantity;
use owl_core::quantity::format::{format, percent};
use serde_json::Value;
use sqlx::PgConnection;
use uuid::Uuid;

use crate::error::{ApiError, Changed};
use crate::table::part::{self, row_before};
use crate::table::ticket;

/// What happened to a part since a version.
pub async fn of_part(db: &mut PgConnection, id: Uuid, version: i32) -> Result<Vec<Changed>, ApiError> {
    let now = part::content(&mut *db, id).await?;
    let Some(before) = row_before(db, "part", id, version).await? else { return Ok(vec![]) };
    let mut changed = differences(&before.content, &now);
    let events = part::events_since(db, id, before.changed_at).await?;
    for (field, count) in
        [("readings", events.readings), ("decisions", events.decisions), ("fittings", events.fittings)]
    {
        if count > 0 {
            changed.push(Changed {
                field: field.to_owned(),
                before: String::new(),
                now: format!("{count} more"),
            });
        }
    }
    Ok(changed)
}

/// The columns in which two rows differ, in the trade's words.
#[must_use]
pub fn differences(before: &Value, now: &Value) -> Vec<Changed> {
    let (Some(before), Some(now)) = (before.as_object(), now.as_object()) else { return vec![] };
    let kind = now.get("kind").and_then(Value::as_str).and_then(|k| PartKind::from_name(k).ok());
    now.iter()
        .filter(|(key, value)| before.get(*key) != Some(value))
        .filter_map(|(key, value)| {
            let field = match key.as_str() {
                "version" | "updated_at" | "marking" | "group_id" | "feed_id" | "mark" | "suspect_of"
                | "roles" | "to_do" | "said" => {
                    return None;
                }
                "marked" => "mark",
                "looks" => "seen on it",
                "facts" => "circuit",
                "test_warm" => "to be tested warm",
                other => other,
            };
            Some(Changed {
                field: field.to_owned(),
                before: shown(kind, key, before.get(key).unwrap_or(&Value::Null)),
                now: shown(kind, key, value),
            })
        })
        .collect()
}

fn shown(kind: Option<PartKind>, key: &str, value: &Value) -> String {
    match (key, value) {
        (_, Value::Null) => "nothing".to_owned(),
        ("sheet" | "marked", Value::Number(n)) => {
            let quantity = kind.and_then(PartKind::quantity).unwrap_or(Quantity::Resistance);
            format(quantity, n.as_f64().unwrap_or(0.0)).to_string()
        }
        ("winding", Value::Number(n)) => format(Quantity::Resistance, n.as_f64().unwrap_or(0.0)).to_string(),
        ("watts", Value::Number(n)) => format(Quantity::Power, n.as_f64().unwrap_or(0.0)).to_string(),
        ("tolerance", Value::Number(n)) => percent(n.as_f64().unwrap_or(0.0)),
        (_, Value::Array(list)) => list.iter().filter_map(Value::as_str).collect::<Vec<_>>().join(" "),
        (_, Value::Object(facts)) => facts
            .iter()
            .filter_map(|(name, v)| {
                let fact = Fact::from_name(name).ok()?;
                Some(format!("{} {}", fact.label()?.label, format(fact.quantity(), v.as_f64()?)))
            })
            .collect::<Vec<_>>()
            .join(", "),
        (_, Value::String(s)) => s.clone(),
        (_, other) => other.to_string(),
    }
}

/// What changed on a ticket since a version.
pub async fn of_ticket(db: &mut PgConnection, id: Uuid, version: i32) -> Result<Vec<Changed>, ApiError> {
    let now = ticket::content(&mut *db, id).await?;
    let Some(before) = row_before(db, "ticket", id, version).await? else { return Ok(vec![]) };
    Ok(differences(&before.content, &now))
}
