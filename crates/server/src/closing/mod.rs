//! The end of a job: soak test with looks at intervals, what is left, and closing.

pub mod wire;

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use owl_core::caution::CheckedBefore;
use owl_core::change::ChangeKind;
use owl_core::quantity::Quantity;
use owl_core::tray::left::{alignment_due, unfinished};
use owl_core::tray::verdict::judged;
use time::OffsetDateTime;
use uuid::Uuid;

use self::wire::{CloseBody, ClosingView, NewSoak, NewSoakCheck, SoakCheckView, SoakView};
use crate::amount::typed_optional;
use crate::app::App;
use crate::body::{Body, Id};
use crate::error::{ApiError, Problem};
use crate::overtaken::unless_overtaken;
use crate::table::closing::{CheckRow, SoakRow};
use crate::text::checked_text;
use crate::tray::{load, moment};

/// How far the closing of a ticket is.
///
/// # Errors
/// 404.
#[utoipa::path(get, path = "/api/tickets/{id}/closing", operation_id = "read_closing", tag = "record", params(("id" = Uuid, Path)), responses(
    (status = 200, body = ClosingView), (status = 404, body = Problem)))]
pub async fn read(State(app): State<App>, Id(id): Id) -> Result<Json<ClosingView>, ApiError> {
    Ok(Json(view(&app, id).await?))
}

/// Closes a ticket, or opens it again.
///
/// # Errors
/// 404, 409 with what another bench wrote, 422: a question where something is left.
#[utoipa::path(put, path = "/api/tickets/{id}/closing", operation_id = "close_ticket", tag = "record", params(("id" = Uuid, Path)),
    request_body = CloseBody, responses(
    (status = 200, body = ClosingView), (status = 404, body = Problem), (status = 409, body = Problem)))]
pub async fn close(
    State(app): State<App>,
    Id(id): Id,
    Body(body): Body<CloseBody>,
) -> Result<Json<ClosingView>, ApiError> {
    let words = checked_text("words", &body.words, 2000)?;
    let now = view(&app, id).await?;
    let closes = body.closed && now.closed_at.is_none();
    if closes && !now.unsafe_to_go.is_empty() && words.is_empty() {
        let detail = format!(
            "It does not go out so: {}. Write down what the owner is told, or mend it first; local codes decide",
            now.unsafe_to_go.join("; ")
        );
        return Err(ApiError::field("words", detail));
    }
    if closes && !now.left.is_empty() && !body.confirmed {
        let question = format!("Something is left: {}. Close it all the same?", now.left.join("; "));
        return Err(ApiError::ask(question, "closed"));
    }
    let mut tx = app.begin().await?;
    crate::table::change::hold_ticket(&mut tx, id).await?;
    if let Some(seen) = &body.seen {
        let there = crate::table::closing::closing(&mut *tx, id).await?.closing;
        unless_overtaken("closing words", seen, &there, there == words)?;
    }
    crate::table::closing::close(&mut *tx, id, body.closed, &words).await?;
    tx.commit().await?;
    Ok(Json(view(&app, id).await?))
}

/// Begins a soak test.
///
/// # Errors
/// 404, 422 with the input to blame.
#[utoipa::path(post, path = "/api/tickets/{id}/soaks", operation_id = "begin_soak", tag = "record", params(("id" = Uuid, Path)),
    request_body = NewSoak, responses(
    (status = 201, body = ClosingView), (status = 404, body = Problem)))]
pub async fn begin(
    State(app): State<App>,
    Id(id): Id,
    Body(new): Body<NewSoak>,
) -> Result<(StatusCode, Json<ClosingView>), ApiError> {
    crate::table::ticket::find(&app.db, id).await?;
    let row = SoakRow {
        id: new.key,
        planned_s: span("planned", &new.planned, 60.0, 604_800.0)?,
        every_s: span("every", &new.every, 10.0, 86_400.0)?,
        begun_at: OffsetDateTime::UNIX_EPOCH,
    };
    let mut tx = app.begin().await?;
    crate::table::closing::begin(&mut *tx, id, &row).await?;
    tx.commit().await?;
    Ok((StatusCode::CREATED, Json(view(&app, id).await?)))
}

/// Writes a look at the set down.
///
/// # Errors
/// 404, 422 with the input to blame.
#[utoipa::path(post, path = "/api/soaks/{id}/checks", operation_id = "check_soak", tag = "record", params(("id" = Uuid, Path)),
    request_body = NewSoakCheck, responses(
    (status = 201, body = ClosingView), (status = 404, body = Problem)))]
pub async fn check(
    State(app): State<App>,
    Id(id): Id,
    Body(new): Body<NewSoakCheck>,
) -> Result<(StatusCode, Json<ClosingView>), ApiError> {
    let seen = checked_text("seen", &new.seen, 400)?;
    if seen.is_empty() {
        return Err(ApiError::field("seen", "say what you saw: sound, smell, how warm the transformer is"));
    }
    let ticket = crate::table::closing::ticket_of(&app.db, id).await?;
    let mut tx = app.begin().await?;
    crate::table::closing::check(&mut *tx, new.key, id, new.well, &seen).await?;
    tx.commit().await?;
    Ok((StatusCode::CREATED, Json(view(&app, ticket).await?)))
}

/// A typed span of time; a bare number is minutes, as a bench clock is set.
fn span(field: &str, text: &str, least: f64, most: f64) -> Result<f64, ApiError> {
    let text = text.trim();
    let number = |t: &str| t.trim().replace(',', ".").parse::<f64>().ok();
    let hours = text.strip_suffix('h').and_then(number).map(|h| h * 3600.0);
    let minutes = number(text.strip_suffix("min").unwrap_or(text)).map(|m| m * 60.0);
    let typed = match hours.or(minutes) {
        Some(s) => Some(s),
        None => typed_optional(Quantity::Time, Some(text)).map_err(|e| ApiError::field(field, e))?,
    };
    match typed {
        Some(s) if (least..=most).contains(&s) => Ok(s),
        Some(_) => Err(ApiError::field(field, format!("between {} and {}", spoken(least), spoken(most)))),
        None => Err(ApiError::field(field, "say how long: 30 min, 2 h")),
    }
}

/// `2 h 5 min`, `40 min`, `30 s`.
fn spoken(seconds: f64) -> String {
    let whole = seconds.max(0.0) as u64;
    match (whole / 3600, whole % 3600 / 60, whole % 60) {
        (0, 0, s) => format!("{s} s"),
        (0, m, _) => format!("{m} min"),
        (h, 0, _) => format!("{h} h"),
        (h, m, _) => format!("{h} h {m} min"),
    }
}

/// How far the closing of a ticket is.
///
/// # Errors
/// 404.
pub async fn view(app: &App, id: Uuid) -> Result<ClosingView, ApiError> {
    let row = crate::table::closing::closing(&app.db, id).await?;
    let soaks = crate::table::closing::soaks(&app.db, id).await?;
    let checks = crate::table::closing::checks(&app.db, id).await?;
    let changes = crate::change::view(app, id).await?;
    let mut tx = app.db.snapshot().await?;
    let ticket = crate::table::ticket::find(&mut *tx, id).await?;
    let policy = crate::table::policy::of_ticket(&mut *tx, &ticket).await?;
    let loaded = load::of_ticket(&mut tx, id).await?;
    drop(tx);
    let aligned = changes
        .changes
        .iter()
        .filter(|c| c.kind == ChangeKind::Alignment && c.undone_at.is_none())
        .map(|c| moment(c.begun_at))
        .max();
    let due = alignment_due(&loaded.tray, aligned);
    let alignment_due =
        (!due.is_empty()).then(|| format!("alignment is due: {} changed in tuned circuits", due.join(", ")));
    let all: Vec<_> = loaded.tray.parts().iter().map(|p| judged(&loaded.tray, p, &policy)).collect();
    let mut left: Vec<String> =
        unfinished(&all).iter().map(|(what, names)| format!("{}: {what}", few(names))).collect();
    if let Some(open) = changes.changes.iter().find(|c| c.is_open) {
        left.push(format!("{}: not proven", open.what));
    }
    left.extend(alignment_due.clone());
    if soaks.is_empty() && !changes.changes.is_empty() {
        left.push("no soak test yet".to_owned());
    }
    let lines = crate::safety::lines(app, id, ticket.class(), CheckedBefore::Closing, None).await?;
    let open = lines.iter().filter(|l| l.passes.is_none()).count();
    let unsafe_to_go: Vec<String> = lines.iter().filter_map(|l| l.failure.clone()).collect();
    left.extend(unsafe_to_go.iter().cloned());
    if open > 0 {
        left.push(format!("before it goes out: {open} of {} not checked", lines.len()));
    }
    let now = OffsetDateTime::now_utc();
    Ok(ClosingView {
        unsafe_to_go,
        closed_at: row.closed_at,
        words: row.closing,
        soaks: soaks.iter().map(|s| soak_view(s, &checks, row.closed_at.unwrap_or(now))).collect(),
        left,
        alignment_due,
    })
}

fn few(names: &[&str]) -> String {
    match names {
        [some @ .., _] if names.len() > 6 => format!("{} and {} more", some[..5].join(", "), names.len() - 5),
        all => all.join(", "),
    }
}

fn soak_view(s: &SoakRow, checks: &[CheckRow], now: OffsetDateTime) -> SoakView {
    let since = |at: OffsetDateTime| (at - s.begun_at).as_seconds_f64().max(0.0);
    let own: Vec<&CheckRow> = checks.iter().filter(|c| c.soak_id == s.id).collect();
    let ran = since(now).min(s.planned_s);
    let last = own.last().map_or(0.0, |c| since(c.checked_at));
    let over = since(now) >= s.planned_s;
    SoakView {
        id: s.id,
        planned_s: s.planned_s,
        every_s: s.every_s,
        begun_at: s.begun_at,
        due_s: (last < s.planned_s).then(|| (last + s.every_s).min(s.planned_s)),
        ran: spoken(ran),
        ran_s: ran,
        over,
        checks: own
            .iter()
            .map(|c| SoakCheckView { well: c.well, seen: c.seen.clone(), after: spoken(since(c.checked_at)) })
            .collect(),
    }
}
