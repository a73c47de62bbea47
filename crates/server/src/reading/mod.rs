//! Readings: what a meter said of a part. They are only ever added to; a mistaken one is voided and stays.

pub mod take;
pub mod wire;

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use owl_core::part::PartKind;
use owl_core::quantity::{Hertz, Quantity, Volt};
use owl_core::reading::doubt::doubt;
use owl_core::reading::pitfall::pitfalls;
use owl_core::reading::{Reading, Shown, expected_si, usual};
use owl_core::say::{Entered, read_entry};
use owl_core::tray::installed::installed;
use owl_core::verdict::PolicyNumber;
use time::OffsetDateTime;

use self::take::{Taking, record};
use self::wire::{Foresee, Foreseen, NewReading, NewVoid};
use crate::amount::typed_optional;
use crate::app::App;
use crate::body::{Body, Id};
use crate::error::{ApiError, Problem};
use crate::table::deed::begin;
use crate::table::part::PartRow;
use crate::text::checked_text;
use crate::tray::reading_view::WarningView;
use crate::tray::{Written, load, written};

/// Takes a reading of a part.
///
/// # Errors
/// 404, 422 with the input to blame; 422 with `ask` for a value far off, to be sent again
/// with `confirmed`.
#[utoipa::path(post, path = "/api/parts/{id}/readings", tag = "parts", params(("id" = Uuid, Path)),
    request_body = NewReading, responses(
    (status = 201, body = Written),
    (status = 404, body = Problem)))]
pub async fn take(
    State(app): State<App>,
    Id(part_id): Id,
    Body(new): Body<NewReading>,
) -> Result<(StatusCode, Json<Written>), ApiError> {
    let mut tx = app.begin().await?;
    let part = crate::table::part::lock(&mut tx, part_id).await?;
    let kind = part.kind;
    let asked = new.quantity.unwrap_or_else(|| usual(kind));
    let entered = read_entry(asked, &new.typed).map_err(|e| ApiError::field("typed", e))?;
    if !new.confirmed {
        ask_if_doubtful(&part, kind, &entered)?;
    }
    let (test_voltage, test_frequency) =
        conditions(new.test_voltage.as_deref(), new.test_frequency.as_deref())?;
    let taking = Taking {
        key: new.key,
        quantity: entered.quantity,
        pin: new.pin,
        value_si: entered.value_si,
        state: new.state,
        hot: new.hot,
        mode: new.mode,
        test_voltage: entered.test_voltage.or(test_voltage),
        test_frequency,
        setting: new.setting,
        instrument: new.instrument,
        way: new.way,
        station: None,
        with: &checked_text("with", &new.with, 60)?,
        typed: new.typed.trim(),
        field: "typed",
    };
    let what = format!("{}: read {}", part.name, new.typed.trim());
    begin(&mut tx, part.ticket_id, Some(part_id), &what).await?;
    let new = record(&mut tx, &part, &taking).await?;
    let answer = written(&mut tx, part_id, new).await?;
    tx.commit().await?;
    Ok((StatusCode::CREATED, Json(answer)))
}

/// What is said of a test, as typed.
fn conditions(volts: Option<&str>, hertz: Option<&str>) -> Result<(Option<Volt>, Option<Hertz>), ApiError> {
    let volts = typed_optional(Quantity::Voltage, volts)
        .and_then(|v| v.map(|v| Volt::new(v.abs())).transpose().map_err(|e| e.to_string()))
        .map_err(|e| ApiError::field("test_voltage", e))?;
    let hertz = typed_optional(Quantity::Frequency, hertz)
        .and_then(|v| v.map(Hertz::new).transpose().map_err(|e| e.to_string()))
        .map_err(|e| ApiError::field("test_frequency", e))?;
    let positive = |field: &str| ApiError::field(field, "a value above zero is needed");
    if volts == Some(Volt::ZERO) {
        return Err(positive("test_voltage"));
    }
    if hertz == Some(Hertz::ZERO) {
        return Err(positive("test_frequency"));
    }
    Ok((volts, hertz))
}

/// Only what is read in the unit of the mark can be far off it.
fn ask_if_doubtful(part: &PartRow, kind: PartKind, entered: &Entered) -> Result<(), ApiError> {
    let comparable = expected_si(kind, entered.quantity, part.marked.or(part.sheet), part.winding);
    match entered.value_si.zip(comparable).and_then(|(v, e)| doubt(entered.quantity, v, e)) {
        Some(d) => Err(ApiError::ask(d.question, "typed")),
        None => Ok(()),
    }
}

/// Says what a way of measuring cannot tell of a part, before it is used.
///
/// # Errors
/// 404, 422 with the input to blame.
#[utoipa::path(post, path = "/api/parts/{id}/foresee", tag = "parts", params(("id" = Uuid, Path)),
    request_body = Foresee, responses(
    (status = 200, body = Foreseen),
    (status = 404, body = Problem)))]
pub async fn foresee(
    State(app): State<App>,
    Id(part_id): Id,
    Body(q): Body<Foresee>,
) -> Result<Json<Foreseen>, ApiError> {
    let mut tx = app.db.snapshot().await?;
    let row = crate::table::part::find(&mut *tx, part_id).await?;
    let ticket = crate::table::ticket::find(&mut *tx, row.ticket_id).await?;
    let policy = crate::table::policy::of_ticket(&mut *tx, &ticket).await?;
    let loaded = load::around(&mut tx, row.id).await?;
    let ways = crate::table::instrument::ways(&mut *tx).await?;
    let instruments = crate::table::instrument::instruments(&mut *tx).await?;
    let (volts, hertz) = conditions(q.test_voltage.as_deref(), q.test_frequency.as_deref())?;
    let way_row = q.way.and_then(|id| ways.iter().find(|w| w.id == id));
    let way = way_row.map(|w| w.way()).transpose()?;
    let mut reading = Reading::of(q.quantity, Shown::Value { si: f64::INFINITY });
    reading.state = q.state;
    reading.mode = q.mode.or(way.as_ref().map(|w| w.mode)).unwrap_or(reading.mode);
    reading.test_voltage = volts.or(way.as_ref().and_then(|w| w.test_voltage));
    reading.test_frequency = hertz.or(way.as_ref().and_then(|w| w.test_frequency));
    reading.setting = q.setting.or(way.as_ref().and_then(|w| w.setting));
    let mut warnings: Vec<WarningView> = Vec::new();
    let sits = installed(&loaded.tray, loaded.part(part_id)?);
    if let Some(part) = &sits.part {
        let working = sits.working();
        let (leads, low) =
            (policy.number_si(PolicyNumber::LeadOhms), policy.number_si(PolicyNumber::LowTestVolts));
        warnings.extend(pitfalls(part, working, &reading, leads, low).iter().map(WarningView::from));
    }
    let today = OffsetDateTime::now_utc().date();
    let overdue = way_row
        .and_then(|w| instruments.iter().find(|i| i.id == w.instrument_id))
        .and_then(|i| i.overdue(today));
    warnings.extend(overdue.iter().map(WarningView::from));
    Ok(Json(Foreseen { warnings }))
}

/// Voids a mistaken reading. It stays on the list and counts no more.
///
/// # Errors
/// 404, 409 when it was voided already, 422 without a reason.
#[utoipa::path(post, path = "/api/readings/{id}/void", tag = "parts", params(("id" = Uuid, Path)),
    request_body = NewVoid, responses(
    (status = 201, body = Written),
    (status = 404, body = Problem), (status = 409, body = Problem)))]
pub async fn void(
    State(app): State<App>,
    Id(id): Id,
    Body(new): Body<NewVoid>,
) -> Result<(StatusCode, Json<Written>), ApiError> {
    let why = checked_text("why", &new.why, 400)?;
    if why.is_empty() {
        return Err(ApiError::field("why", "say why it does not count: what was wrong with it?"));
    }
    let mut tx = app.begin().await?;
    let part_id =
        crate::table::reading::part_of(&mut tx, id).await?.ok_or_else(|| ApiError::no_such("reading"))?;
    let part = crate::table::part::lock(&mut tx, part_id).await?;
    let what = format!("{}: a reading voided, {why}", part.name);
    begin(&mut tx, part.ticket_id, Some(part_id), &what).await?;
    let mut voided = false;
    match crate::table::reading::voided(&mut tx, id).await? {
        Some(key) if key == new.key => {}
        Some(_) => {
            let detail = "this reading was voided already".to_owned();
            return Err(ApiError::Conflict { detail, changed: vec![] });
        }
        None => {
            crate::table::reading::void(&mut tx, new.key, id, &why).await?;
            voided = true;
        }
    }
    let answer = written(&mut tx, part_id, voided).await?;
    tx.commit().await?;
    Ok((StatusCode::CREATED, Json(answer)))
}
