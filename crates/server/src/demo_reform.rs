//! The demo's reforming bench: one run in progress, one prepared, one of last month.

use anyhow::{Context, anyhow};
use owl_core::named::Named;
use owl_core::quantity::parse::best;
use owl_core::quantity::{Ampere, Farad, Ohm, Quantity, Volt};
use owl_core::reform::bench::{Bench, Clip};
use owl_core::reform::forecast::expected;
use owl_core::reform::plan::{Ask, Plan, Supply};
use owl_core::reform::run::{Event, Meter, ReformMode, Run};
use serde::Deserialize;
use sqlx::PgConnection;
use uuid::Uuid;

use crate::app::App;
use crate::reform::drive::{happens, lead_on};
use crate::table::reform::{self, NewRow, News};

/// A run of the demo, as its file writes it.
#[derive(Deserialize)]
#[serde(deny_unknown_fields)]
pub struct DemoRun {
    set: String,
    part: String,
    capacitance: String,
    rated: String,
    working: String,
    idle_years: f64,
    voltage: String,
    series: String,
    limit: Option<String>,
    clip: String,
    speed: f64,
    seed: u64,
    /// How long it has been going, in second of the run; none leaves it in the queue.
    going_s: Option<f64>,
    /// Who read the cautions.
    name: Option<String>,
}

/// Puts a run on the demo's bench.
///
/// # Errors
/// When the part is not there, or the plan is refused by the rules that users' plans pass.
pub async fn load(app: &App, r: &DemoRun) -> anyhow::Result<()> {
    let mut tx = app.begin().await?;
    run(&mut tx, r).await.with_context(|| format!("demo run of {} {}", r.set, r.part))?;
    tx.commit().await?;
    Ok(())
}

async fn run(db: &mut PgConnection, r: &DemoRun) -> anyhow::Result<()> {
    let ticket = crate::table::ticket::with_electrolytics(&mut *db).await.map_err(|e| anyhow!("{e}"))?;
    let (ticket_id, _) = ticket.into_iter().find(|(_, name)| *name == r.set).context("no such set")?;
    let part = crate::table::part::by_name(&mut *db, ticket_id, &r.part)
        .await
        .map_err(|e| anyhow!("{e}"))?
        .context("no such part")?;
    let row = crate::table::ticket::find(&mut *db, ticket_id).await.map_err(|e| anyhow!("{e}"))?;
    let policy = crate::table::policy::of_ticket(&mut *db, &row).await.map_err(|e| anyhow!("{e}"))?;
    let plan = Plan::make(&ask(r)?, &policy)?;
    let clip = Clip::from_name(&r.clip)?;
    let bench = Bench::with(clip, plan.capacitance, plan.rated, plan.idle_years, r.seed);
    let machine = Run::new(plan.clone(), ReformMode::Simulated);
    let id = Uuid::now_v7();
    let new = NewRow {
        id,
        part_id: part.id,
        section: "",
        speed: r.speed,
        school: &policy.called(),
        run: &machine,
        bench: Some(&bench),
        expected_s: expected(&plan).fed_s,
        // The first server that comes goes on with it.
        driver: None,
    };
    reform::insert(&mut *db, &new).await.map_err(|e| anyhow!("{e}"))?;
    let Some(going) = r.going_s else { return Ok(()) };
    let name = r.name.as_deref().context("who read the cautions?")?;
    reform::acknowledge(&mut *db, Uuid::new_v4(), id, name, &plan.cautions)
        .await
        .map_err(|e| anyhow!("{e}"))?;
    let mut row = reform::lock(&mut *db, id).await.map_err(|e| anyhow!("{e}"))?;
    let mut news = News::default();
    happens(&mut row, 1.0, Event::Read(Meter { volts: Some(0.1), amperes: Some(0.0) }), &mut news);
    happens(&mut row, 2.0, Event::Start, &mut news);
    row.clock_s = 2.0;
    if let Some(bench) = &mut row.bench {
        bench.now_s = 2.0;
    }
    let more = lead_on(&mut row, going);
    news.samples.extend(more.samples);
    news.said.extend(more.said);
    reform::write(db, &mut [(row, news)]).await.map_err(|e| anyhow!("{e}"))?;
    Ok(())
}

fn ask(r: &DemoRun) -> anyhow::Result<Ask> {
    let read = |quantity: Quantity, text: &str| best(quantity, text).map_err(|e| anyhow!("{text}: {e}"));
    let limit = r.limit.as_deref().map(|t| read(Quantity::Current, t)).transpose()?;
    Ok(Ask {
        capacitance: Farad::new(read(Quantity::Capacitance, &r.capacitance)?)?,
        rated: Volt::new(read(Quantity::Voltage, &r.rated)?)?,
        working: Some(Volt::new(read(Quantity::Voltage, &r.working)?)?),
        idle_years: r.idle_years,
        section: None,
        supply: Supply {
            volts: Volt::new(read(Quantity::Voltage, &r.voltage)?)?,
            series: Some(Ohm::new(read(Quantity::Resistance, &r.series)?)?),
            series_rating: None,
            limit: limit.map(Ampere::new).transpose()?,
        },
        polarity_known: true,
        vented: false,
    })
}
