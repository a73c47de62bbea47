//! Tickets: a set on the bench, its school, its class, its parts.

pub mod intake;
pub mod set;
pub mod wire;

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use owl_core::caution::{CautionAt, cautions};
use owl_core::named::Named;
use owl_core::people::Permission;
use owl_core::quantity::Quantity;
use owl_core::set::SetFacts;
use owl_core::stored::Stored;
use owl_core::verdict::{Policy, School};
use serde::Deserialize;
use sqlx::types::Json as Jsonb;
use utoipa::IntoParams;
use uuid::Uuid;

use self::wire::{CautionView, NewTicket, PolicyRef, ShelfTicket, TicketChange, TicketView};
use crate::amount::above_zero_below;
use crate::app::App;
use crate::body::{Body, Id, Query};
use crate::error::{ApiError, Problem};
use crate::people::actor::needs;
use crate::table::ticket::TicketRow;
use crate::text::checked_text;
use crate::tray::strip::strips;

/// The header that says up to where everything was heard.
const POSITION: &str = "x-owl-position";

/// The tickets on the shelf, oldest first: all that are open, and the twenty that were closed last.
///
/// # Errors
/// 503 without a database.
#[utoipa::path(get, path = "/api/tickets", operation_id = "list_tickets", tag = "tickets", responses(
    (status = 200, body = Vec<ShelfTicket>)))]
pub async fn list(State(app): State<App>) -> Result<Json<Vec<ShelfTicket>>, ApiError> {
    let rows = crate::table::ticket::shelf(&app.db).await?;
    Ok(Json(rows.iter().map(ShelfTicket::of).collect::<Result<_, _>>()?))
}

/// Opens a ticket.
///
/// # Errors
/// 422 with the input to blame.
#[utoipa::path(post, path = "/api/tickets", operation_id = "open_ticket", tag = "tickets", request_body = NewTicket, responses(
    (status = 201, body = TicketView)))]
pub async fn open(
    State(app): State<App>,
    Body(new): Body<NewTicket>,
) -> Result<(StatusCode, Json<TicketView>), ApiError> {
    let name = checked_name(&new.name)?;
    checked_school(new.school, new.tight)?;
    let complaint = checked_text("complaint", new.complaint.as_deref().unwrap_or(""), 2000)?;
    let id = new.id.unwrap_or_else(Uuid::now_v7);
    let mut row = TicketRow {
        id,
        name,
        source: new.source,
        devices: new.devices,
        highest_volts: highest(&new.highest)?,
        school: new.school,
        tight: new.tight,
        policy_id: None,
        complaint,
        symptoms: vec![],
        wants: String::new(),
        supply: String::new(),
        earlier_work: String::new(),
        line_volts: None,
        set_watts: None,
        sheet_line_volts: None,
        sheet_ohms_per_volt: None,
        facts: Jsonb(Stored(SetFacts::default())),
        version: 1,
    };
    if let Some(said) = &new.intake {
        intake::take(&mut row, said)?;
    }
    if let Some(said) = &new.set {
        set::take(&mut row, said)?;
    }
    follow(&app.db, &mut row, new.policy).await?;
    let mut tx = app.begin().await?;
    crate::table::ticket::insert(&mut *tx, &row).await?;
    tx.commit().await?;
    Ok((StatusCode::CREATED, Json(view(&app, id).await?)))
}

/// A ticket with its parts, judged by its school.
///
/// # Errors
/// 404.
#[utoipa::path(get, path = "/api/tickets/{id}", operation_id = "read_ticket", tag = "tickets", params(("id" = Uuid, Path)), responses(
    (status = 200, body = TicketView, headers(("x-owl-position" = String,
        description = "up to where everything was heard of the other benches: `after` of GET /api/events"))),
    (status = 404, body = Problem)))]
pub async fn read(
    State(app): State<App>,
    Id(id): Id,
) -> Result<([(&'static str, String); 1], Json<TicketView>), ApiError> {
    // Before the rows are read: what is written meanwhile is heard later.
    let position = app.hub.position();
    Ok(([(POSITION, position)], Json(view(&app, id).await?)))
}

/// Changes a ticket that has not been changed by someone else since `version`.
///
/// # Errors
/// 404, 409 with what changed, 422 with the input to blame.
#[utoipa::path(patch, path = "/api/tickets/{id}", operation_id = "change_ticket", tag = "tickets", params(("id" = Uuid, Path)),
    request_body = TicketChange, responses(
    (status = 200, body = TicketView),
    (status = 404, body = Problem), (status = 409, body = Problem)))]
pub async fn change(
    State(app): State<App>,
    Id(id): Id,
    Body(change): Body<TicketChange>,
) -> Result<Json<TicketView>, ApiError> {
    let mut tx = app.begin().await?;
    let mut row = crate::table::ticket::lock(&mut tx, id).await?;
    if row.version != change.version {
        let changed = crate::changed::of_ticket(&mut tx, id, change.version).await?;
        return Err(crate::tray::conflict("this ticket", changed));
    }
    let before = (row.school, row.tight, row.policy_id);
    if let Some(name) = &change.name {
        row.name = checked_name(name)?;
    }
    row.source = change.source.unwrap_or(row.source);
    row.devices = change.devices.unwrap_or(row.devices);
    if let Some(volts) = &change.highest {
        row.highest_volts = highest(volts)?;
    }
    if let Some(school) = change.school {
        row.school = school;
        // Another school takes the place of a copy, unless a copy is said with it.
        row.policy_id = None;
    }
    if let Some(tight) = change.tight {
        row.tight = tight;
    }
    if let Some(policy) = change.policy {
        follow(&mut *tx, &mut row, policy).await?;
    }
    if let Some(complaint) = &change.complaint {
        row.complaint = checked_text("complaint", complaint, 2000)?;
    }
    if let Some(said) = &change.intake {
        intake::take(&mut row, said)?;
    }
    if let Some(said) = &change.set {
        set::take(&mut row, said)?;
    }
    checked_school(row.school, row.tight)?;
    if before != (row.school, row.tight, row.policy_id) {
        // By what is judged is decided, not measured.
        needs(Permission::Decide)?;
    }
    crate::table::deed::begin(&mut tx, id, None, "what is known of the set").await?;
    crate::table::ticket::update(&mut tx, &row).await?;
    tx.commit().await?;
    Ok(Json(view(&app, id).await?))
}

/// Whether a ticket goes for good.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct Removing {
    /// Whether it was said that it may.
    #[serde(default)]
    confirmed: bool,
}

/// Takes a ticket out for good, with its parts, readings and pictures. Its record is to be kept first: it brings all back.
///
/// # Errors
/// 404, 409 while a part of it is being reformed, 422 until it is confirmed.
#[utoipa::path(delete, path = "/api/tickets/{id}", operation_id = "remove_ticket", tag = "tickets", params(("id" = Uuid, Path), Removing),
    responses((status = 204), (status = 404, body = Problem), (status = 409, body = Problem), (status = 422, body = Problem)))]
pub async fn remove(
    State(app): State<App>,
    Id(id): Id,
    Query(removing): Query<Removing>,
) -> Result<StatusCode, ApiError> {
    let mut tx = app.begin().await?;
    let row = crate::table::ticket::lock(&mut tx, id).await?;
    if crate::table::ticket::is_reforming(&mut *tx, id).await? {
        let detail = "a part of it is on the reforming bench: finish or remove that run first".to_owned();
        return Err(ApiError::Conflict { detail, changed: vec![] });
    }
    if !removing.confirmed {
        let question = format!(
            "Delete {} for good, with its parts, readings and pictures? Its record, kept first, brings all of it back.",
            row.name
        );
        return Err(ApiError::ask(question, "confirmed"));
    }
    crate::table::ticket::remove(&mut *tx, id).await?;
    tx.commit().await?;
    Ok(StatusCode::NO_CONTENT)
}

fn highest(typed: &str) -> Result<Option<f64>, ApiError> {
    above_zero_below("highest", Quantity::Voltage, Some(typed), 1e5)
}

fn checked_name(name: &str) -> Result<String, ApiError> {
    let name = name.trim();
    match name.chars().count() {
        0 => Err(ApiError::field("name", "a ticket needs the name of the set")),
        1..=80 => checked_text("name", name, 80),
        n => Err(ApiError::field("name", format!("that is {n} characters long; a name has at most 80"))),
    }
}

fn checked_school(school: School, tight: bool) -> Result<(), ApiError> {
    Policy::of(school, tight).map(|_| ()).map_err(|e| ApiError::field("tight", e))
}

/// Lets a ticket follow a copy of a school, and that school with it; `None` for the school as it is.
async fn follow(
    db: impl sqlx::PgExecutor<'_>,
    row: &mut TicketRow,
    copy: Option<Uuid>,
) -> Result<(), ApiError> {
    row.policy_id = None;
    let Some(id) = copy else { return Ok(()) };
    let copy = crate::table::policy::find(db, id).await?;
    let copy = copy.ok_or_else(|| ApiError::field("policy", "the workshop has no such copy of a school"))?;
    row.policy_id = Some(copy.id);
    row.school = copy.school;
    row.tight = copy.tight;
    Ok(())
}

/// A ticket as it stands.
///
/// # Errors
/// 404.
pub async fn view(app: &App, id: Uuid) -> Result<TicketView, ApiError> {
    let mut tx = app.db.snapshot().await?;
    view_in(&mut tx, id).await
}

/// A ticket as a transaction sees it.
///
/// # Errors
/// 404; [`ApiError::Internal`] for rows that cannot be.
pub async fn view_in(tx: &mut sqlx::PgConnection, id: Uuid) -> Result<TicketView, ApiError> {
    let row = crate::table::ticket::find(&mut *tx, id).await?;
    let policy = crate::table::policy::of_ticket(&mut *tx, &row).await?;
    let loaded = crate::tray::load::of_ticket(&mut *tx, id).await?;
    let class = wire::SetClassView::of(&row);
    let cautions = CautionAt::ALL
        .iter()
        .flat_map(|at| cautions(class.known, *at))
        .map(|c| CautionView { step: c.step, text: c.text.clone(), source: c.source.to_string() })
        .collect();
    Ok(TicketView {
        id: row.id,
        version: row.version,
        class,
        school: row.school,
        tight: row.tight,
        policy: row.policy_id.zip(policy.copy.clone()).map(|(id, name)| PolicyRef { id, name }),
        complaint: row.complaint.clone(),
        intake: wire::IntakeView::of(&row),
        set: set::SetView::of(&row),
        cautions,
        parts: strips(&loaded, &policy)?,
        name: row.name,
    })
}
