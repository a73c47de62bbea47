//! `/api/reform/…`: plans, runs at the reforming bench, and the evening's queue.

pub mod desk;
pub mod drive;
pub mod live;
pub mod record;
pub mod station;
pub mod wire;

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use owl_core::people::Permission;
use owl_core::quantity::parse::best;
use owl_core::quantity::{Quantity, Second, Volt};
use owl_core::reform::Sample;
use owl_core::reform::bench::{Bench, Clip, Fault};
use owl_core::reform::forecast::expected;
use owl_core::reform::run::{Command, Ending, Event, Meter, Phase, ReformMode, Run, Said, Touch, Weight};
use owl_core::verdict::Policy;

use self::drive::{happens, moment};
use self::wire::{
    NewCommand, NewMeter, NewRun, NewStart, PlanAnswer, PlanQuestion, RunView, SimulateAnswer, planned,
};
use crate::app::App;
use crate::aside::aside;
use crate::body::{Body, Id};
use crate::error::{ApiError, Problem};
use crate::people::actor::needs;
use crate::table::reform::{NewRow, News, RunRow};
use crate::text::checked_text;
use owl_core::tray::installed::installed;

/// A plan for reforming an electrolytic, or the refusal of what is unsafe.
///
/// # Errors
/// 422 with the input to blame and the remedy.
#[utoipa::path(post, path = "/api/reform/plan", operation_id = "plan_reform", tag = "reforming", request_body = PlanQuestion,
    responses((status = 200, body = PlanAnswer), (status = 404, body = Problem)))]
pub async fn plan(State(app): State<App>, Body(q): Body<PlanQuestion>) -> Result<Json<PlanAnswer>, ApiError> {
    let plan = planned(&q.ask()?, &policy(&app, &q).await?)?;
    Ok(Json(aside(move || PlanAnswer::of(&plan, &expected(&plan))).await?))
}

/// The same, led through by a part as assumed.
///
/// # Errors
/// 422 with the input to blame and the remedy.
#[utoipa::path(post, path = "/api/reform/simulate", operation_id = "simulate_reform", tag = "reforming",
    request_body = PlanQuestion,
    responses((status = 200, body = SimulateAnswer), (status = 404, body = Problem)))]
pub async fn simulate(
    State(app): State<App>,
    Body(q): Body<PlanQuestion>,
) -> Result<Json<SimulateAnswer>, ApiError> {
    let plan = planned(&q.ask()?, &policy(&app, &q).await?)?;
    Ok(Json(aside(move || SimulateAnswer::of(&plan)).await?))
}

/// Whose limits decide: those of the part's ticket, where a part is named, or those of the school that is.
async fn policy(app: &App, q: &PlanQuestion) -> Result<Policy, ApiError> {
    let Some(part_id) = q.part_id else { return Ok(q.policy()?.clone()) };
    let part = crate::table::part::find(&app.db, part_id).await?;
    let ticket = crate::table::ticket::find(&app.db, part.ticket_id).await?;
    Ok(crate::table::policy::of_ticket(&app.db, &ticket).await?)
}

/// Prepares a run for a part on a tray.
///
/// # Errors
/// 404, 409 where it lies on the bench already, 422 with the input to blame and the remedy.
#[utoipa::path(post, path = "/api/reform/runs", operation_id = "prepare_reform", tag = "reforming", request_body = NewRun,
    responses((status = 201, body = RunView), (status = 404, body = Problem), (status = 409, body = Problem)))]
pub async fn prepare(
    State(app): State<App>,
    Body(new): Body<NewRun>,
) -> Result<(StatusCode, Json<RunView>), ApiError> {
    let mut tx = app.begin().await?;
    let part = crate::table::part::lock(&mut tx, new.part_id).await?;
    let ticket = crate::table::ticket::find(&mut *tx, part.ticket_id).await?;
    let policy = crate::table::policy::of_ticket(&mut *tx, &ticket).await?;
    let loaded = crate::tray::load::around(&mut tx, part.id).await?;
    if let Some(why) = desk::refused(&installed(&loaded.tray, loaded.part(part.id)?)) {
        return Err(ApiError::field("part_id", why));
    }
    let ask = new.plan.ask()?;
    let plan = planned(&ask, &policy)?;
    let speed = checked_speed(new.speed.unwrap_or(1.0))?;
    let simulated = new.mode == ReformMode::Simulated;
    if !simulated && speed > 1.0 {
        return Err(ApiError::field(
            "speed",
            "a real part takes its time: only the simulated bench goes faster",
        ));
    }
    let section = ask.section.clone().unwrap_or_default();
    if crate::table::reform::is_there(&mut tx, new.id, part.id, &section).await? {
        drop(tx);
        return Ok((StatusCode::CREATED, Json(view(&app, new.id).await?)));
    }
    let seed = new.seed.unwrap_or_else(|| new.id.as_u64_pair().1);
    let bench = simulated.then(|| {
        let clip = new.clip.unwrap_or(Clip::Tired);
        let mut bench = Bench::with(clip, plan.capacitance, plan.rated, plan.idle_years, seed);
        bench.faults =
            new.faults.iter().map(|f| Fault { fault: f.fault, from_s: f.from_s, to_s: f.to_s }).collect();
        bench
    });
    let run = Run::new(plan.clone(), new.mode);
    let expected_s = aside(move || expected(&plan).fed_s).await?;
    let row = NewRow {
        id: new.id,
        part_id: part.id,
        section: &section,
        speed,
        school: &policy.called(),
        run: &run,
        bench: bench.as_ref(),
        expected_s,
        driver: Some(app.station.id),
    };
    crate::table::reform::insert(&mut tx, &row).await?;
    tx.commit().await?;
    Ok((StatusCode::CREATED, Json(view(&app, new.id).await?)))
}

fn checked_speed(speed: f64) -> Result<f64, ApiError> {
    if (1.0..=600.0).contains(&speed) {
        Ok(speed)
    } else {
        Err(ApiError::field("speed", "1 to 600 times are possible"))
    }
}

/// A run with everything but its curve.
///
/// # Errors
/// 404.
#[utoipa::path(get, path = "/api/reform/runs/{id}", operation_id = "read_reform", tag = "reforming",
    params(("id" = Uuid, Path)), responses((status = 200, body = RunView), (status = 404, body = Problem)))]
pub async fn read(State(app): State<App>, Id(id): Id) -> Result<Json<RunView>, ApiError> {
    Ok(Json(view(&app, id).await?))
}

/// Removes a run that was never switched on.
///
/// # Errors
/// 404, 409 once it was switched on: its record stays.
#[utoipa::path(delete, path = "/api/reform/runs/{id}", operation_id = "remove_reform", tag = "reforming",
    params(("id" = Uuid, Path)),
    responses((status = 204), (status = 404, body = Problem), (status = 409, body = Problem)))]
pub async fn remove(State(app): State<App>, Id(id): Id) -> Result<StatusCode, ApiError> {
    let mut tx = app.begin().await?;
    crate::table::reform::lock(&mut tx, id).await?;
    if !crate::table::reform::remove(&mut tx, id).await? {
        let detail = "it was switched on: its record stays. Stop it instead".to_owned();
        return Err(ApiError::Conflict { detail, changed: vec![] });
    }
    tx.commit().await?;
    Ok(StatusCode::NO_CONTENT)
}

/// Switches on. At the first time of a session somebody acknowledges the cautions by name; that is kept.
///
/// # Errors
/// 404, 409 where it was not seen empty or is on already, 422 without a name.
#[utoipa::path(post, path = "/api/reform/runs/{id}/start", operation_id = "start_reform", tag = "reforming",
    params(("id" = Uuid, Path)), request_body = NewStart,
    responses((status = 200, body = RunView), (status = 404, body = Problem), (status = 409, body = Problem)))]
pub async fn start(
    State(app): State<App>,
    Id(id): Id,
    Body(new): Body<NewStart>,
) -> Result<Json<RunView>, ApiError> {
    let mut tx = app.begin().await?;
    let mut row = crate::table::reform::lock(&mut tx, id).await?;
    match row.run.phase {
        Phase::Ready { .. } => {}
        // Pressed twice.
        Phase::Feeding(_) => {
            drop(tx);
            return Ok(Json(view(&app, id).await?));
        }
        Phase::Emptying(_) | Phase::Over { .. } => {
            return Err(conflict("this run is ended; prepare another one"));
        }
    }
    if crate::table::reform::neighbour_is_live(&mut tx, &row).await? {
        return Err(conflict(
            "another section of the same can is on the bench: one after the other, they share their minus",
        ));
    }
    let mut news = News::default();
    if crate::table::reform::acknowledged(&mut tx, new.session).await?.is_none() {
        let name = checked_text("name", new.name.as_deref().unwrap_or(""), 80)?;
        if name.is_empty() {
            return Err(ApiError::field(
                "name",
                "say who has read the cautions: your name is kept with the time",
            ));
        }
        crate::table::reform::acknowledge(&mut tx, new.session, id, &name, &row.run.plan.cautions).await?;
        news.said.push(drive::word(&row, &format!("cautions read by {name}")));
    }
    if row.run.touch() != Touch::Safe {
        return Err(conflict("not switched on: measure first that the part is empty"));
    }
    let at = moment(&row);
    row.clock_s = at;
    row.advanced_at = row.now;
    happens(&mut row, at, Event::Start, &mut news);
    crate::table::reform::write(&mut tx, &mut [(row, news)]).await?;
    tx.commit().await?;
    Ok(Json(view(&app, id).await?))
}

fn conflict(why: &str) -> ApiError {
    ApiError::Conflict { detail: why.to_owned(), changed: vec![] }
}

/// Holds, resumes, stops, empties, changes the speed of the simulated bench, or writes a word into the record.
///
/// # Errors
/// 404, 422 with the input to blame.
#[utoipa::path(post, path = "/api/reform/runs/{id}/command", operation_id = "command_reform", tag = "reforming",
    params(("id" = Uuid, Path)), request_body = NewCommand,
    responses((status = 200, body = RunView), (status = 404, body = Problem)))]
pub async fn command(
    State(app): State<App>,
    Id(id): Id,
    Body(new): Body<NewCommand>,
) -> Result<Json<RunView>, ApiError> {
    // Anybody at the bench stops it; whoever brings volts onto a part may do it alone or is countersigned.
    if matches!(new.command, Command::Resume | Command::Speed) {
        needs(Permission::Decide)?;
    }
    let mut tx = app.begin().await?;
    let mut row = crate::table::reform::lock(&mut tx, id).await?;
    let at = moment(&row);
    let mut news = News::default();
    let event = match new.command {
        Command::Hold => Some(Event::Hold),
        Command::Resume => Some(Event::Resume),
        Command::Stop => Some(Event::Stop(Ending::ByHand)),
        Command::Hot => Some(Event::Stop(Ending::Hot)),
        Command::Discharge => Some(Event::Discharge),
        Command::Speed => {
            if row.bench.is_none() {
                return Err(ApiError::field(
                    "speed",
                    "a real part takes its time: only the simulated bench goes faster",
                ));
            }
            let speed = new.speed.ok_or_else(|| ApiError::field("speed", "say how fast: 1 to 600"))?;
            row.speed = checked_speed(speed)?;
            None
        }
        Command::Note => {
            let text = checked_text("text", new.text.as_deref().unwrap_or(""), 400)?;
            if text.is_empty() {
                return Err(ApiError::field("text", "write what is to be remembered"));
            }
            news.said.push(Said { at_s: at, weight: Weight::Note, text });
            None
        }
    };
    if let Some(event) = event {
        happens(&mut row, at, event, &mut news);
    }
    // A guided run's clock is its hand's; the simulated bench's moves in its own turns.
    if row.bench.is_none() || matches!(event, Some(Event::Stop(_) | Event::Discharge)) {
        row.clock_s = at.max(row.run.now_s);
        row.advanced_at = row.now;
    } else {
        row.now = row.advanced_at;
    }
    crate::table::reform::write(&mut tx, &mut [(row, news)]).await?;
    tx.commit().await?;
    Ok(Json(view(&app, id).await?))
}

/// Beyond these a hand has typed another unit than it meant.
const MOST_VOLTS: f64 = 5000.0;
const MOST_AMPERES: f64 = 20.0;

/// Takes what a hand read from the meter.
///
/// # Errors
/// 404, 409 on a simulated bench, 422 with the input to blame.
#[utoipa::path(post, path = "/api/reform/runs/{id}/readings", operation_id = "read_meter", tag = "reforming",
    params(("id" = Uuid, Path)), request_body = NewMeter,
    responses((status = 200, body = RunView), (status = 404, body = Problem), (status = 409, body = Problem)))]
pub async fn meter(
    State(app): State<App>,
    Id(id): Id,
    Body(new): Body<NewMeter>,
) -> Result<Json<RunView>, ApiError> {
    let mut tx = app.begin().await?;
    let mut row = crate::table::reform::lock(&mut tx, id).await?;
    if row.bench.is_some() {
        return Err(conflict("the simulated bench reads its own meter"));
    }
    if crate::table::reform_samples::taken(&mut tx, new.key).await? {
        drop(tx);
        return Ok(Json(view(&app, id).await?));
    }
    if matches!(row.run.phase, Phase::Over { .. }) {
        return Err(conflict(
            "this run is over; what is measured now belongs to the part, in its Measure step",
        ));
    }
    let feeding = matches!(row.run.phase, Phase::Feeding(_));
    let volts = best(Quantity::Voltage, &new.volts).map_err(|e| ApiError::field("volts", e))?;
    let typed = new.current.as_deref().map(str::trim).filter(|t| !t.is_empty());
    let amperes = match typed {
        Some(text) => best(Quantity::Current, text).map_err(|e| ApiError::field("current", e))?,
        None if feeding => {
            return Err(ApiError::field("current", "the current is needed too: volts alone judge nothing"));
        }
        None => 0.0,
    };
    let too_much = "that is more than any reforming supply gives: look at the unit";
    if volts.abs() > MOST_VOLTS {
        return Err(ApiError::field("volts", too_much));
    }
    if amperes.abs() > MOST_AMPERES {
        return Err(ApiError::field("current", too_much));
    }
    let order = row.run.order();
    let at = moment(&row);
    let mut news = News::default();
    happens(&mut row, at, Event::Read(Meter { volts: Some(volts), amperes: Some(amperes) }), &mut news);
    let set_volts = order.fed().map(Volt::volts);
    news.samples.push((Sample { at_s: at, set_volts, volts, amperes }, Some(new.key)));
    row.clock_s = at;
    row.advanced_at = row.now;
    crate::table::reform::write(&mut tx, &mut [(row, news)]).await?;
    tx.commit().await?;
    Ok(Json(view(&app, id).await?))
}

/// A run as it is sent, without what is foreseen.
///
/// # Errors
/// 404.
pub async fn view(app: &App, id: uuid::Uuid) -> Result<RunView, ApiError> {
    let mut row = crate::table::reform::find(&app.db, id).await?;
    let said = crate::table::reform_samples::said(&app.db, id, 60).await?;
    heard(&mut row);
    wire::view(&row, &said, None)
}

/// A guided run is shown at this moment, not at its last reading.
fn heard(row: &mut RunRow) {
    if row.bench.is_none() && !matches!(row.run.phase, Phase::Over { .. }) {
        let at = Second::computed(moment(row).max(0.0));
        row.run = row.run.clone().step(at, Event::Tick).run;
    }
}
