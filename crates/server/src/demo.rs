//! The demo workshop: an invented harbour's radio workshop, loaded through the same code as a
//! user's data, most of it as sentences of the owl line.

use std::collections::BTreeMap;

use anyhow::{Context, anyhow, bail};
use axum::extract::State;
use owl_core::named::Named;
use owl_core::proof::ProofOutcome;
use serde::Deserialize;
use sqlx::PgPool;
use time::{Duration, OffsetDateTime};
use uuid::Uuid;

use crate::app::App;
use crate::body::{Body, Id, Query};
use crate::decision::NewDecision;
use crate::demo_job::{DemoJob, words};
use crate::demo_reform::DemoRun;
use crate::demo_transistors::{DemoInspection, DemoLot};
use crate::drawers::import::Taking;
use crate::fitting::wire::{NewFitting, NewProof};
use crate::instrument::wire::{InstrumentBody, InstrumentView};
use crate::part::wire::PartChange;
use crate::policy::wire::PolicyBody;
use crate::say::wire::Say;
use crate::ticket::wire::NewTicket;
use crate::{decision, drawers, fitting, instrument, part, policy, say, ticket};

const DATA: &str = include_str!("../../../data/demo/workshop.toml");
const DRAWERS: &str = include_str!("../../../data/demo/drawers.csv");

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct Demo {
    name: String,
    place: String,
    instrument: Vec<DemoInstrument>,
    ticket: Vec<DemoTicket>,
    #[serde(default)]
    policy: Vec<DemoPolicy>,
    #[serde(default)]
    reform: Vec<DemoRun>,
    #[serde(default)]
    match_lot: Vec<DemoLot>,
    #[serde(default)]
    inspection: Vec<DemoInspection>,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct DemoInstrument {
    name: String,
    kind: String,
    checked_days_ago: Option<i64>,
    /// Where the simulated one answers.
    address: Option<String>,
    #[serde(default)]
    way: Vec<DemoWay>,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct DemoWay {
    name: String,
    quantity: String,
    mode: String,
    test_frequency: Option<String>,
    test_voltage: Option<String>,
    setting: Option<String>,
    percent: String,
    counts: f64,
    display: u32,
    finest: String,
    ceiling: String,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct DemoPolicy {
    name: String,
    school: String,
    numbers: BTreeMap<String, String>,
}

#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
struct DemoTicket {
    name: String,
    source: String,
    devices: String,
    #[serde(default)]
    highest: String,
    school: String,
    #[serde(default)]
    tight: bool,
    complaint: String,
    /// What else is said at intake, as it is sent.
    intake: Option<serde_json::Value>,
    /// What is said of its supply, as it is sent.
    set: Option<serde_json::Value>,
    #[serde(default)]
    job: DemoJob,
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
    /// Six readings of the junctions between its leads: first and second both ways, first and third, second and third.
    #[serde(default)]
    junctions: Vec<String>,
    #[serde(default)]
    leads: Vec<String>,
    /// Whether the black probe comes first.
    #[serde(default)]
    pnp: bool,
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
    watts: Option<String>,
    volts: Option<String>,
    family: String,
    measured: String,
    proof: Option<String>,
}

/// Loads the demo workshop into an empty database; with `reset`, takes out the demo's own rows first and brings them back
/// beside whatever else is there. A database that holds tickets is left alone otherwise.
///
/// # Errors
/// When the database does not answer, or the data is refused by the rules that users' data passes.
pub async fn load(pool: &PgPool, reset: bool) -> anyhow::Result<()> {
    if reset {
        let mut tx = pool.begin().await?;
        let own = crate::table::demo::clear(&mut tx).await?;
        tx.commit().await?;
        if own > 0 {
            tracing::info!(tickets = own, "tickets that are not the demo's are kept");
        }
    }
    let tickets = crate::table::ticket::count(pool).await?;
    if tickets > 0 && !reset {
        tracing::info!(tickets, "the bench is not empty: its data is kept");
        return Ok(());
    }
    let demo: Demo = toml::from_str(DATA).context("data/demo/workshop.toml")?;
    let before = crate::table::demo::before(pool).await?;
    crate::table::workshop::name(pool, &demo.name, &demo.place).await?;
    let app = App::new(pool.clone());
    // What is left of an earlier demo, because somebody's own work hangs on it, is not brought twice.
    let there: Vec<String> =
        instrument::views(&app).await.map_err(words)?.into_iter().map(|i| i.name).collect();
    for i in demo.instrument.iter().filter(|i| !there.contains(&i.name)) {
        load_instrument(&app, i).await.with_context(|| format!("demo instrument {}", i.name))?;
    }
    let instruments = instrument::views(&app).await.map_err(words)?;
    let copies = crate::table::policy::copies(pool).await?;
    for p in demo.policy.iter().filter(|p| !copies.iter().any(|c| c.name == p.name)) {
        let new: PolicyBody = serde_json::from_value(serde_json::json!({
            "name": p.name, "school": p.school, "numbers": p.numbers,
        }))?;
        let _done = policy::add(State(app.clone()), Body(new)).await.map_err(words)?;
    }
    let drawers =
        drawers::import::import(State(app.clone()), Query(Taking { confirmed: true }), DRAWERS.into())
            .await
            .map_err(words)?;
    if let Some(bad) = drawers.refused.first() {
        bail!("data/demo/drawers.csv, line {}: {}", bad.line, bad.why);
    }
    for t in &demo.ticket {
        load_ticket(&app, t, &instruments).await.with_context(|| format!("demo ticket {}", t.name))?;
    }
    for l in &demo.match_lot {
        crate::demo_transistors::load_lot(&app, l).await?;
    }
    for i in &demo.inspection {
        crate::demo_transistors::load_inspection(&app, i).await?;
    }
    for r in &demo.reform {
        crate::demo_reform::load(&app, r).await?;
    }
    let mut tx = pool.begin().await?;
    crate::table::demo::mark(&mut tx, &before).await?;
    tx.commit().await?;
    // Nobody did what lies on the demo's bench: there is nothing to take back.
    crate::table::deed::forget(pool).await?;
    tracing::info!(tickets = demo.ticket.len(), "the demo workshop is loaded");
    Ok(())
}

fn name<T: Named>(text: &str) -> anyhow::Result<T> {
    T::from_name(text).map_err(|e| anyhow!(e))
}

async fn load_instrument(app: &App, i: &DemoInstrument) -> anyhow::Result<()> {
    let ways: Vec<_> = i
        .way
        .iter()
        .map(|w| {
            serde_json::json!({
                "name": w.name, "quantity": w.quantity, "mode": w.mode, "test_frequency": w.test_frequency,
                "test_voltage": w.test_voltage, "setting": w.setting,
                "automatic": {"percent": w.percent, "counts": w.counts, "display": w.display,
                              "finest": w.finest, "ceiling": w.ceiling},
            })
        })
        .collect();
    let checked =
        i.checked_days_ago.map(|d| (OffsetDateTime::now_utc() - Duration::days(d)).date().to_string());
    let new: InstrumentBody = serde_json::from_value(serde_json::json!({
        "name": i.name, "kind": i.kind, "checked_on": checked, "ways": ways, "address": i.address,
    }))?;
    let _done = instrument::add(State(app.clone()), Body(new)).await.map_err(words)?;
    Ok(())
}

async fn load_ticket(app: &App, t: &DemoTicket, meters: &[InstrumentView]) -> anyhow::Result<()> {
    let new = NewTicket {
        id: None,
        name: t.name.clone(),
        source: name(&t.source)?,
        devices: name(&t.devices)?,
        highest: t.highest.clone(),
        school: name(&t.school)?,
        tight: t.tight,
        policy: None,
        complaint: Some(t.complaint.clone()),
        intake: t.intake.clone().map(serde_json::from_value).transpose()?,
        set: t.set.clone().map(serde_json::from_value).transpose()?,
    };
    let opened = ticket::open(State(app.clone()), Body(new)).await.map_err(words)?.1;
    for p in &t.part {
        let first = p.say.first().cloned().unwrap_or_default();
        load_part(app, opened.id, p, meters).await.with_context(|| format!("part '{first}'"))?;
    }
    crate::demo_job::load(app, opened.id, &t.job).await.context("the job")?;
    Ok(())
}

async fn load_part(
    app: &App,
    ticket_id: Uuid,
    p: &DemoPart,
    meters: &[InstrumentView],
) -> anyhow::Result<()> {
    let instrument = match &p.meter {
        Some(wanted) => Some(meters.iter().find(|m| m.name == *wanted).context("no such meter")?.id),
        None => None,
    };
    let mut id: Option<Uuid> = None;
    for text in &p.say {
        let seen = match id {
            Some(id) => Some(version(app, id).await?),
            None => None,
        };
        let say = Say {
            text: text.clone(),
            selected: id,
            key: Uuid::now_v7(),
            version: seen,
            instrument,
            with: String::new(),
            confirmed: false,
        };
        let said = say::say(State(app.clone()), Id(ticket_id), Body(say)).await.map_err(words)?;
        id = said.part_id;
    }
    let Some(id) = id else { bail!("nothing is said of it") };
    let change: PartChange = serde_json::from_value(serde_json::json!({
        "version": version(app, id).await?, "place": p.place, "note": p.note,
    }))?;
    let _done = part::change(State(app.clone()), Id(id), Body(change)).await.map_err(words)?;
    if let [one, two, three] = p.leads.as_slice() {
        crate::demo_transistors::load_junctions(app, id, [one, two, three], &p.junctions, p.pnp).await?;
    }
    if let Some(d) = &p.decide {
        let new = NewDecision {
            key: Uuid::now_v7(),
            version: version(app, id).await?,
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
    let new: NewFitting = serde_json::from_value(serde_json::json!({
        "key": key, "version": version(app, id).await?, "description": f.description, "value": f.value,
        "tolerance": f.tolerance, "watts": f.watts, "volts": f.volts, "family": f.family, "measured": f.measured,
    }))?;
    let _done = fitting::fit(State(app.clone()), Id(id), Body(new)).await.map_err(words)?;
    if let Some(seen) = &f.proof {
        let proof = NewProof {
            key: Uuid::now_v7(),
            outcome: Some(ProofOutcome::Better),
            seen: seen.clone(),
            checks: vec![],
        };
        let _done = fitting::prove(State(app.clone()), Id(key), Body(proof)).await.map_err(words)?;
    }
    Ok(())
}

/// The version of a part as it stands.
async fn version(app: &App, id: Uuid) -> anyhow::Result<i32> {
    Ok(crate::table::part::find(&app.db, id).await?.version)
}
