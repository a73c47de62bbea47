//! First power: the log of the way up, what each step says, and the next one.

pub mod wire;

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use owl_core::caution::CheckedBefore;
use owl_core::first_power::{PowerError, PowerUp, read as read_step, signs, steps, stories};
use owl_core::quantity::{Ampere, Quantity, Volt, Watt};
use owl_core::supply::lamp::{limiter, proposed};
use owl_core::tray::left::holds_power;
use time::OffsetDateTime;
use uuid::Uuid;

use self::wire::{NewPowerUp, PowerLogView, PowerSignView, PowerUpView, StepPlanView, StepSaysView};
use crate::amount::{Amount, above_zero_below, typed_optional};
use crate::app::App;
use crate::body::{Body, Id};
use crate::error::{ApiError, Problem};
use crate::table::first_power::PowerRow;
use crate::table::ticket::TicketRow;
use crate::text::checked_text;

/// The way up of a ticket's set.
///
/// # Errors
/// 404.
#[utoipa::path(get, path = "/api/tickets/{id}/power", operation_id = "read_power_log", tag = "tickets", params(("id" = Uuid, Path)), responses(
    (status = 200, body = PowerLogView), (status = 404, body = Problem)))]
pub async fn log(State(app): State<App>, Id(id): Id) -> Result<Json<PowerLogView>, ApiError> {
    Ok(Json(view(&app, id).await?))
}

/// Records a step and says what it says.
///
/// # Errors
/// 404, 422 with the input to blame.
#[utoipa::path(post, path = "/api/tickets/{id}/power", operation_id = "add_power_up", tag = "tickets", params(("id" = Uuid, Path)),
    request_body = NewPowerUp, responses(
    (status = 201, body = PowerLogView), (status = 404, body = Problem)))]
pub async fn add(
    State(app): State<App>,
    Id(id): Id,
    Body(new): Body<NewPowerUp>,
) -> Result<(StatusCode, Json<PowerLogView>), ApiError> {
    let ticket = crate::table::ticket::find(&app.db, id).await?;
    let row = row(&new)?;
    if let Some(step) = step_of(&ticket, &row)? {
        read_step(&step).map_err(refused)?;
    }
    if !new.confirmed && crate::table::first_power::of_ticket(&app.db, id).await?.is_empty() {
        let set = ticket.class();
        let lines = crate::safety::lines(&app, id, set, CheckedBefore::Power, None).await?;
        let open: Vec<&str> =
            lines.iter().filter(|l| l.passes != Some(true)).map(|l| l.text.as_str()).collect();
        if !open.is_empty() {
            let question = format!(
                "Not gone through before this first power: {}. Write the step down all the same?",
                open.join("; ")
            );
            return Err(ApiError::ask(question, "confirmed"));
        }
    }
    let mut tx = app.begin().await?;
    crate::table::first_power::insert(&mut *tx, id, &row).await?;
    tx.commit().await?;
    Ok((StatusCode::CREATED, Json(view(&app, id).await?)))
}

fn row(new: &NewPowerUp) -> Result<PowerRow, ApiError> {
    let volts =
        typed_optional(Quantity::Voltage, Some(&new.volts)).map_err(|e| ApiError::field("volts", e))?;
    let volts = volts.ok_or_else(|| ApiError::field("volts", "say what the variable transformer gave"))?;
    if !(0.0..1e4).contains(&volts) {
        return Err(ApiError::field("volts", "volts of a line lie between 0 and 10 kV"));
    }
    let amperes = match typed_optional(Quantity::Current, new.current.as_deref()) {
        Ok(Some(a)) if !(0.0..1e4).contains(&a) => {
            return Err(ApiError::field("current", "a current is zero or above, and below 10 kA"));
        }
        Ok(a) => a,
        Err(e) => return Err(ApiError::field("current", e)),
    };
    Ok(PowerRow {
        id: new.key,
        volts,
        bulb: above_zero_below("bulb", Quantity::Power, new.bulb.as_deref(), 1e4)?,
        amperes,
        story: new.story,
        signs: new.signs.clone(),
        note: checked_text("note", &new.note, 2000)?,
        done_at: OffsetDateTime::UNIX_EPOCH,
    })
}

/// The step as the rule sees it; none where it is not known which line the set is made for.
fn step_of(t: &TicketRow, row: &PowerRow) -> Result<Option<PowerUp>, ApiError> {
    let Some(line) = t.line_volts else { return Ok(None) };
    let internal = |e: owl_core::quantity::QuantityError| ApiError::Internal(format!("stored row: {e}"));
    Ok(Some(PowerUp {
        class: t.class(),
        line: Volt::new(line).map_err(internal)?,
        watts: t.set_watts.map(Watt::new).transpose().map_err(internal)?,
        volts: Volt::new(row.volts).map_err(internal)?,
        bulb: row.bulb.map(Watt::new).transpose().map_err(internal)?,
        current: row.amperes.map(Ampere::new).transpose().map_err(internal)?,
        story: row.story,
        signs: row.signs.clone(),
    }))
}

fn refused(e: PowerError) -> ApiError {
    match e.input() {
        Some(field) => ApiError::field(field, e),
        None => ApiError::Impossible { detail: e.to_string(), field: None },
    }
}

/// The way up of a ticket's set.
///
/// # Errors
/// 404.
pub async fn view(app: &App, ticket_id: Uuid) -> Result<PowerLogView, ApiError> {
    let mut tx = app.db.snapshot().await?;
    let ticket = crate::table::ticket::find(&mut *tx, ticket_id).await?;
    let policy = crate::table::policy::of_ticket(&mut *tx, &ticket).await?;
    let loaded = crate::tray::load::of_ticket(&mut tx, ticket_id).await?;
    let rows = crate::table::first_power::of_ticket(&mut *tx, ticket_id).await?;
    Ok(PowerLogView { held: holds_power(&loaded.tray, &policy), ..views(&ticket, &rows)? })
}

/// The way up, from its rows.
///
/// # Errors
/// [`ApiError::Internal`] for rows that cannot be.
pub fn views(ticket: &TicketRow, rows: &[PowerRow]) -> Result<PowerLogView, ApiError> {
    let class = ticket.class();
    let ups = rows
        .iter()
        .map(|r| {
            // What was said of the set may have changed since: a step that makes no sense now says nothing.
            let says = step_of(ticket, r)?.and_then(|s| read_step(&s).ok());
            Ok(PowerUpView {
                id: r.id,
                volts: Amount::of(Quantity::Voltage, r.volts),
                bulb: r.bulb.map(|b| Amount::of(Quantity::Power, b)),
                current: r.amperes.map(|a| Amount::of(Quantity::Current, a)),
                story: r.story,
                signs: r.signs.clone(),
                note: r.note.clone(),
                done_at: r.done_at,
                says: says.as_ref().map(StepSaysView::of),
            })
        })
        .collect::<Result<Vec<_>, ApiError>>()?;
    let line = ticket.line_volts;
    let bulb = match (line, ticket.set_watts) {
        (Some(l), Some(w)) if class.is_on_the_mains() => {
            let (l, w) = (Volt::new(l), Watt::new(w));
            let all = l.ok().zip(w.ok()).and_then(|(l, w)| limiter(l, w).ok());
            all.as_deref().and_then(proposed).map(|b| Amount::from(b.bulb))
        }
        _ => None,
    };
    Ok(PowerLogView {
        held: None,
        ups,
        plan: steps(class).map(|s| StepPlanView::of(s, line)).collect(),
        bulb,
        stories: stories(class).collect(),
        signs: signs(class).into_iter().map(PowerSignView::of).collect(),
        missing: match (line, ticket.set_watts) {
            (None, _) => Some(
                "Say at intake for which line or battery the set is made: then a step says what it means."
                    .to_owned(),
            ),
            (_, None) if class.is_on_the_mains() => Some(
                "Say at intake what the set draws: then the lamp's story is held against numbers.".to_owned(),
            ),
            _ => None,
        },
    })
}
