//! The job round the demo's parts: intake, safety list, first power, voltage chart, feeds, changes; through the handlers
//! that users' data passes.

use std::collections::BTreeMap;

use anyhow::{Context, anyhow};
use axum::extract::{Query, State};
use serde::Deserialize;
use serde_json::{Value, json};
use uuid::Uuid;

use crate::app::App;
use crate::body::{Body, Id};
use crate::error::ApiError;
use crate::{bank, change, chart, feed, first_power, safety};

/// What a demo ticket tells of the job.
#[derive(Debug, Default, Deserialize)]
#[serde(deny_unknown_fields)]
pub struct DemoJob {
    /// Who ticked the safety list; empty where nobody did.
    #[serde(default)]
    checked_by: String,
    #[serde(default)]
    power: Vec<Value>,
    /// Valves whose pins stand in the chart: name and type.
    #[serde(default)]
    valve: Vec<[String; 2]>,
    #[serde(default)]
    point: Vec<Value>,
    #[serde(default)]
    run: Vec<DemoReadings>,
    #[serde(default)]
    feed: Vec<Value>,
    #[serde(default)]
    bank: Vec<Value>,
    #[serde(default)]
    change: Vec<DemoChange>,
}

#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields)]
struct DemoReadings {
    name: String,
    line: String,
    /// Volts by the name of the point.
    volts: BTreeMap<String, String>,
}

#[derive(Debug, Deserialize)]
#[serde(deny_unknown_fields)]
struct DemoChange {
    kind: String,
    what: String,
    seen: Option<String>,
}

/// Loads the job of a ticket.
///
/// # Errors
/// When the database does not answer, or the data is refused by the rules that users' data passes.
pub async fn load(app: &App, ticket: Uuid, job: &DemoJob) -> anyhow::Result<()> {
    let app = || State(app.clone());
    if !job.checked_by.is_empty() {
        let session = Uuid::now_v7();
        for before in ["work", "power"] {
            let q: Query<safety::Session> =
                Query(serde_json::from_value(json!({"session": session, "before": before}))?);
            let list = safety::read(app(), Id(ticket), crate::body::Query(q.0)).await.map_err(words)?;
            for l in &list.lines {
                let tick = json!({"key": Uuid::now_v7(), "line": l.line, "who": job.checked_by, "session": session,
                    "before": before});
                let _done = safety::tick(app(), Id(ticket), body(tick)?).await.map_err(words)?;
            }
        }
    }
    for p in &job.power {
        let mut step = keyed(p, "key");
        step["confirmed"] = json!(true);
        let _done = first_power::add(app(), Id(ticket), body(step)?).await.map_err(words)?;
    }
    for [at, valve] in &job.valve {
        let v = json!({"at": at, "valve": valve});
        let _done = chart::add_valve(app(), Id(ticket), body(v)?).await.map_err(words)?;
    }
    for p in &job.point {
        let now = chart::of(&app().0, ticket).await.map_err(words)?;
        let pin = p.get("pin").and_then(Value::as_i64);
        let at = p.get("at").and_then(Value::as_str).unwrap_or_default();
        // A pin that its valve put there already is filled in.
        let there = now.points.iter().find(|x| x.at == at && x.pin.map(i64::from) == pin);
        let mut p = keyed(p, "id");
        if let Some(there) = there {
            p["id"] = json!(there.id);
            p["valve"] = json!(there.valve);
        }
        let _done = chart::put_point(app(), Id(ticket), body(p)?).await.map_err(words)?;
    }
    for r in &job.run {
        let id = Uuid::now_v7();
        let run = json!({"id": id, "name": r.name, "line": r.line});
        let now = chart::put_run(app(), Id(ticket), body(run)?).await.map_err(words)?;
        for (name, volts) in &r.volts {
            let point =
                now.points.iter().find(|p| p.name == *name).with_context(|| format!("no point {name}"))?;
            let read = json!({"point": point.id, "volts": volts});
            let _done = chart::put_reading(app(), Id(id), body(read)?).await.map_err(words)?;
        }
    }
    for f in &job.feed {
        let _done = feed::drawn::put(app(), Id(ticket), body(keyed(f, "id"))?).await.map_err(words)?;
    }
    for b in &job.bank {
        let _done = bank::put(app(), Id(ticket), body(keyed(b, "id"))?).await.map_err(words)?;
    }
    for c in &job.change {
        let key = Uuid::now_v7();
        let new = json!({"key": key, "kind": c.kind, "what": c.what});
        let _done = change::begin(app(), Id(ticket), body(new)?).await.map_err(words)?;
        if let Some(seen) = &c.seen {
            let proof = json!({"key": Uuid::now_v7(), "outcome": "better", "seen": seen});
            let _done = change::prove(app(), Id(key), body(proof)?).await.map_err(words)?;
        }
    }
    Ok(())
}

fn body<T: serde::de::DeserializeOwned>(v: Value) -> anyhow::Result<Body<T>> {
    Ok(Body(serde_json::from_value(v)?))
}

fn keyed(v: &Value, name: &str) -> Value {
    let mut v = v.clone();
    v[name] = json!(Uuid::now_v7());
    v
}

pub(crate) fn words(e: ApiError) -> anyhow::Error {
    match e {
        ApiError::Internal(why) => anyhow!(why),
        other => anyhow!(other.to_string()),
    }
}
