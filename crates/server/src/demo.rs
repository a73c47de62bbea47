//! The demo workshop: an invented harbour's radio workshop, loaded through the same code as a
//! user's data, most of it as sentences of the owl line.

use anyhow::{Context, anyhow, bail};
use axum::extract::State;
use owl_core::named::Named;
use serde::Deserialize;
use sqlx::PgPool;
use uuid::Uuid;

use crate::body::{Body, Id};
use crate::decision::NewDecision;
use crate::error::ApiError;
use crate::fitting::{NewFitting, NewProof};
use crate::name::Name;
use crate::part::wire::{PartChange, PartView};
use crate::router::App;
use crate::say::wire::Say;
use crate::ticket::wire::NewTicket;
use crate::workshop::store::MeterRow;
use crate::{decision, fitting, part, say, ticket, workshop};

const DATA: &str = include_str!("../../../data/demo/workshop.toml");

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct Demo {
    name: String,
    place: String,
    meter: Vec<DemoMeter>,
    ticket: Vec<DemoTicket>,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct DemoMeter {
    name: String,
    mode: String,
    percent: f64,
    counts: f64,
    display: i32,
    finest: f64,
    ceiling: f64,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct DemoTicket {
    name: String,
    class: String,
    school: String,
    #[serde(default)]
    tight: bool,
    complaint: String,
    part: Vec<DemoPart>,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct DemoPart {
    /// Sentences of the owl line; the first one names the part.
    say: Vec<String>,
    #[serde(default)]
    place: String,
    #[serde(default)]
    note: String,
    meter: Option<String>,
    decide: Option<DemoDecision>,
    fit: Option<DemoFitting>,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct DemoDecision {
    call: String,
    #[serde(default)]
    why: String,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct DemoFitting {
    description: String,
    value: String,
    tolerance: String,
    watts: String,
    family: String,
    measured: String,
    proof: Option<String>,
}

/// Loads the demo workshop into an empty database; with `reset`, empties it first. A database
/// that holds tickets is left alone otherwise.
///
/// # Errors
/// When the database does not answer, or the data is refused by the rules that users' data passes.
pub async fn load(pool: &PgPool, reset: bool) -> anyhow::Result<()> {
    if reset {
        ticket::store::clear_everything(pool).await?;
    }
    let tickets = ticket::store::count(pool).await?;
    if tickets > 0 {
        tracing::info!(tickets, "the bench is not empty: its data is kept");
        return Ok(());
    }
    let demo: Demo = toml::from_str(DATA).context("data/demo/workshop.toml")?;
    workshop::store::name(pool, &demo.name, &demo.place).await?;
    let mut meters = Vec::new();
    for (place, m) in demo.meter.iter().enumerate() {
        let row = MeterRow {
            id: Uuid::now_v7(),
            name: m.name.clone(),
            mode: m.mode.clone(),
            of_reading: m.percent / 100.0,
            counts: m.counts,
            display: m.display,
            finest_ohm: m.finest,
            ceiling_ohm: m.ceiling,
        };
        workshop::store::add_meter(pool, &row, i32::try_from(place)?).await?;
        meters.push(row);
    }
    let app = App { pool: pool.clone() };
    for t in &demo.ticket {
        load_ticket(&app, t, &meters).await.with_context(|| format!("demo ticket {}", t.name))?;
    }
    tracing::info!(tickets = demo.ticket.len(), "the demo workshop is loaded");
    Ok(())
}

fn name<T: Named>(text: &str) -> anyhow::Result<Name<T>> {
    T::from_name(text).map(Name).map_err(|e| anyhow!(e))
}

fn words(e: ApiError) -> anyhow::Error {
    match e {
        ApiError::Internal(why) => anyhow!(why),
        other => anyhow!(other.to_string()),
    }
}

async fn load_ticket(app: &App, t: &DemoTicket, meters: &[MeterRow]) -> anyhow::Result<()> {
    let new = NewTicket {
        id: None,
        name: t.name.clone(),
        class: name(&t.class)?,
        school: name(&t.school)?,
        tight: t.tight,
        complaint: Some(t.complaint.clone()),
    };
    let opened = ticket::open(State(app.clone()), Body(new)).await.map_err(words)?.1;
    for p in &t.part {
        let first = p.say.first().cloned().unwrap_or_default();
        load_part(app, opened.id, p, meters).await.with_context(|| format!("part '{first}'"))?;
    }
    Ok(())
}

async fn load_part(app: &App, ticket_id: Uuid, p: &DemoPart, meters: &[MeterRow]) -> anyhow::Result<()> {
    let instrument = match &p.meter {
        Some(wanted) => Some(meters.iter().find(|m| m.name == *wanted).context("no such meter")?.id),
        None => meters.first().map(|m| m.id),
    };
    let mut id: Option<Uuid> = None;
    for text in &p.say {
        let version = match id {
            Some(id) => Some(view(app, id).await?.version),
            None => None,
        };
        let say = Say {
            text: text.clone(),
            selected: id,
            key: Uuid::now_v7(),
            version,
            instrument,
            confirmed: false,
        };
        let said = say::say(State(app.clone()), Id(ticket_id), Body(say)).await.map_err(words)?;
        id = Some(said.part_id);
    }
    let Some(id) = id else { bail!("nothing is said of it") };
    let change: PartChange = serde_json::from_value(serde_json::json!({
        "version": view(app, id).await?.version, "place": p.place, "note": p.note,
    }))?;
    let _done = part::change(State(app.clone()), Id(id), Body(change)).await.map_err(words)?;
    if let Some(d) = &p.decide {
        let new = NewDecision {
            key: Uuid::now_v7(),
            version: view(app, id).await?.version,
            decided: name(&d.call)?,
            why: Some(d.why.clone()),
        };
        let _done = decision::decide(State(app.clone()), Id(id), Body(new)).await.map_err(words)?;
    }
    if let Some(f) = &p.fit {
        load_fitting(app, id, f).await?;
    }
    Ok(())
}

async fn load_fitting(app: &App, id: Uuid, f: &DemoFitting) -> anyhow::Result<()> {
    let key = Uuid::now_v7();
    let new = NewFitting {
        key,
        version: view(app, id).await?.version,
        description: f.description.clone(),
        value: f.value.clone(),
        tolerance: f.tolerance.clone(),
        watts: Some(f.watts.clone()),
        family: name(&f.family)?,
        measured: f.measured.clone(),
        note: None,
        confirmed: false,
    };
    let _done = fitting::fit(State(app.clone()), Id(id), Body(new)).await.map_err(words)?;
    if let Some(seen) = &f.proof {
        let proof = NewProof { key: Uuid::now_v7(), worked: true, seen: seen.clone() };
        let _done = fitting::prove(State(app.clone()), Id(key), Body(proof)).await.map_err(words)?;
    }
    Ok(())
}

async fn view(app: &App, id: Uuid) -> anyhow::Result<PartView> {
    part::view(app, id).await.map_err(words)
}
