//! One change at a time: parts that go in, wires, joints, contacts; which one is open, which were proven alone, and
//! what was changed since the set was last good.

pub mod wire;

use axum::Json;
use axum::extract::State;
use axum::http::StatusCode;
use owl_core::change::{Begun, ChangeKind, open, proven_alone, since_last_good};
use owl_core::proof::ProofOutcome;
use sqlx::PgConnection;
use time::OffsetDateTime;
use uuid::Uuid;

use self::wire::{ChangeView, ChangesView, NewChange, NewChangeProof, NewUndo, TakenOut, kinds};
use crate::app::App;
use crate::body::{Body, Id};
use crate::error::{ApiError, Problem};
use crate::table::change::{Begins, ChangeRow};
use crate::text::checked_text;

/// The changes of a ticket.
///
/// # Errors
/// 404.
#[utoipa::path(get, path = "/api/tickets/{id}/changes", operation_id = "list_changes", tag = "changes", params(("id" = Uuid, Path)), responses(
    (status = 200, body = ChangesView), (status = 404, body = Problem)))]
pub async fn list(State(app): State<App>, Id(id): Id) -> Result<Json<ChangesView>, ApiError> {
    Ok(Json(view(&app, id).await?))
}

/// Records a change that is no fitting.
///
/// # Errors
/// 404, 422 with the input to blame: `over_open` where another change is to be proven first.
#[utoipa::path(post, path = "/api/tickets/{id}/changes", operation_id = "begin_change", tag = "changes", params(("id" = Uuid, Path)),
    request_body = NewChange, responses(
    (status = 201, body = ChangesView), (status = 404, body = Problem)))]
pub async fn begin(
    State(app): State<App>,
    Id(id): Id,
    Body(new): Body<NewChange>,
) -> Result<(StatusCode, Json<ChangesView>), ApiError> {
    if matches!(new.kind, ChangeKind::Part | ChangeKind::Undo) {
        let why = "a part goes in at its own step, and a change is undone where it stands";
        return Err(ApiError::field("kind", why));
    }
    let what = checked_text("what", &new.what, 400)?;
    if what.is_empty() {
        return Err(ApiError::field("what", "say what was done: which joint, which contact, which core"));
    }
    let mut tx = app.begin().await?;
    let over = may_begin(&mut tx, id, new.key, &new.over_open, &[]).await?;
    crate::table::deed::begin(&mut tx, id, None, &what).await?;
    let row = Begins {
        id: new.key,
        ticket_id: id,
        kind: new.kind,
        what: &what,
        part_id: None,
        undoes: None,
        over_open: &over,
        stage: None,
    };
    crate::table::change::insert(&mut tx, row).await?;
    tx.commit().await?;
    Ok((StatusCode::CREATED, Json(view(&app, id).await?)))
}

/// Holds the ticket, and asks to prove what is open before a change with that key begins; a reason overrides it. Gives
/// the reason as it is to be kept: empty where nothing was open. What is open on the parts `together`, which are one stage,
/// is no other change: a stage is fitted and proven as one.
///
/// # Errors
/// 404, 422 for `over_open`.
pub async fn may_begin(
    tx: &mut PgConnection,
    ticket_id: Uuid,
    key: Uuid,
    over_open: &str,
    together: &[&str],
) -> Result<String, ApiError> {
    crate::table::change::hold_ticket(&mut *tx, ticket_id).await?;
    let reason = checked_text("over_open", over_open, 400)?;
    let rows = crate::table::change::of_ticket(&mut *tx, ticket_id).await?;
    if rows.iter().any(|r| r.id == key) {
        return Ok(String::new());
    }
    let others: Vec<ChangeRow> =
        rows.iter().filter(|r| !r.part.as_deref().is_some_and(|p| together.contains(&p))).cloned().collect();
    let all = begun(&others);
    let Some(first) = open(&all) else { return Ok(String::new()) };
    if reason.is_empty() {
        let what = rows.iter().find(|r| r.id == first.key).map_or("", |r| r.what.as_str());
        let ask = format!("{what}: not proven yet. Power up and prove it first, or say why not now");
        return Err(ApiError::field("over_open", ask));
    }
    Ok(reason)
}

/// Proves a change that is no fitting.
///
/// # Errors
/// 404, 409 when it was proven to work or undone already, 422 with the input to blame.
#[utoipa::path(post, path = "/api/changes/{id}/proof", operation_id = "prove_change", tag = "changes", params(("id" = Uuid, Path)),
    request_body = NewChangeProof, responses(
    (status = 201, body = ChangesView), (status = 404, body = Problem), (status = 409, body = Problem)))]
pub async fn prove(
    State(app): State<App>,
    Id(id): Id,
    Body(new): Body<NewChangeProof>,
) -> Result<(StatusCode, Json<ChangesView>), ApiError> {
    let (outcome, seen) = crate::proof::proof_said(new.outcome, &new.seen)?;
    let mut tx = app.begin().await?;
    let ticket = crate::table::change::find(&mut tx, id).await?.ticket_id;
    crate::table::change::hold_ticket(&mut tx, ticket).await?;
    let known = crate::table::change::find(&mut tx, id).await?;
    if !crate::table::fitting::proven_under(&mut tx, new.key, id).await? {
        match (known.outcome, known.undone) {
            (Some(ProofOutcome::Better), _) => {
                return Err(conflict("this change was proven to work already"));
            }
            (_, Some(_)) => return Err(conflict("this change was undone")),
            (_, None) => {
                let what = format!("{}: {outcome}, {seen}", known.what);
                crate::table::deed::begin(&mut tx, ticket, None, &what).await?;
                crate::table::fitting::prove(&mut tx, new.key, id, outcome, &seen, &[]).await?;
            }
        }
    }
    tx.commit().await?;
    Ok((StatusCode::CREATED, Json(view(&app, ticket).await?)))
}

/// Takes a change back that is no fitting; that is a change as well.
///
/// # Errors
/// 404, 409 when it was undone already, 422 for a fitting, whose pieces go back at its own step.
#[utoipa::path(post, path = "/api/changes/{id}/undo", operation_id = "undo_change", tag = "changes", params(("id" = Uuid, Path)),
    request_body = NewUndo, responses(
    (status = 201, body = ChangesView), (status = 404, body = Problem), (status = 409, body = Problem)))]
pub async fn undo(
    State(app): State<App>,
    Id(id): Id,
    Body(new): Body<NewUndo>,
) -> Result<(StatusCode, Json<ChangesView>), ApiError> {
    let why = checked_text("why", &new.why, 400)?;
    let mut tx = app.begin().await?;
    let ticket = crate::table::change::find(&mut tx, id).await?.ticket_id;
    crate::table::change::hold_ticket(&mut tx, ticket).await?;
    let known = crate::table::change::find(&mut tx, id).await?;
    let kind = known.kind;
    match (kind, known.undone) {
        (ChangeKind::Part, _) => {
            return Err(ApiError::field(
                "id",
                "a part is taken out again at its own step: its pieces go back",
            ));
        }
        (ChangeKind::Undo, _) => {
            return Err(ApiError::field("id", "an undo is not undone: make the change anew"));
        }
        (_, Some(key)) if key == new.key => {}
        (_, Some(_)) => return Err(conflict("this change was undone already")),
        (_, None) => take_back(&mut tx, ticket, new.key, id, None, &known.what, &why).await?,
    }
    tx.commit().await?;
    Ok((StatusCode::CREATED, Json(view(&app, ticket).await?)))
}

/// Records that a change was taken back.
///
/// # Errors
/// 503 without a database.
pub async fn take_back(
    tx: &mut PgConnection,
    ticket_id: Uuid,
    key: Uuid,
    undoes: Uuid,
    part_id: Option<Uuid>,
    what: &str,
    why: &str,
) -> Result<(), ApiError> {
    let why = if why.is_empty() { String::new() } else { format!(": {why}") };
    let what: String = format!("{what}, taken back{why}").chars().take(400).collect();
    let row = Begins {
        id: key,
        ticket_id,
        kind: ChangeKind::Undo,
        what: &what,
        part_id,
        undoes: Some(undoes),
        over_open: "",
        stage: None,
    };
    crate::table::change::insert(tx, row).await?;
    Ok(())
}

/// The rows as the rule sees them.
pub(crate) fn begun(rows: &[ChangeRow]) -> Vec<Begun<Uuid>> {
    let at = |t: OffsetDateTime| i64::try_from(t.unix_timestamp_nanos() / 1000).unwrap_or(i64::MAX);
    rows.iter()
        .map(|r| Begun {
            key: r.id,
            kind: r.kind,
            at: at(r.begun_at),
            proven: r.proven_at.zip(r.outcome).map(|(t, outcome)| (at(t), outcome)),
            undone: r.undone_at.map(at),
            stage: r.stage,
        })
        .collect()
}

/// What names a change in a sentence.
fn said(rows: &[ChangeRow], id: Uuid) -> &str {
    rows.iter().find(|r| r.id == id).map_or("", |r| r.what.as_str())
}

/// The changes of a ticket.
///
/// # Errors
/// 404.
pub async fn view(app: &App, ticket_id: Uuid) -> Result<ChangesView, ApiError> {
    crate::table::ticket::find(&app.db, ticket_id).await?;
    let rows = crate::table::change::of_ticket(&app.db, ticket_id).await?;
    views(&rows)
}

/// The changes with what their order says.
///
/// # Errors
/// [`ApiError::Internal`] for a row that cannot be.
pub fn views(rows: &[ChangeRow]) -> Result<ChangesView, ApiError> {
    let all = begun(rows);
    let since: Vec<Uuid> = since_last_good(&all).iter().map(|c| c.key).collect();
    let named: Vec<&str> = since.iter().map(|id| said(rows, *id)).take(6).collect();
    let since_good_text = (!since.is_empty()).then(|| {
        format!("Changed since the set was last proven good, the newest first: {}.", named.join("; "))
    });
    let taken_out = rows
        .iter()
        .filter(|r| r.kind == ChangeKind::Part && r.undone_at.is_none())
        .filter_map(|r| {
            let part = r.part.clone()?;
            let replaced_by = r.what.split_once(": ").map_or(r.what.as_str(), |w| w.1).to_owned();
            Some(TakenOut { part, replaced_by, bag: r.bag.clone().unwrap_or_default() })
        })
        .collect();
    let changes = rows
        .iter()
        .zip(&all)
        .map(|(r, b)| ChangeView {
            id: r.id,
            kind: b.kind,
            what: r.what.clone(),
            part: r.part.clone(),
            over_open: r.over_open.clone(),
            begun_at: r.begun_at,
            outcome: r.outcome,
            seen: r.seen.clone(),
            proven_at: r.proven_at,
            alone: proven_alone(&all, &r.id),
            undone_at: r.undone_at,
            is_open: b.is_open(),
        })
        .collect();
    Ok(ChangesView {
        open: open(&all).map(|c| c.key),
        changes,
        since_good: since,
        since_good_text,
        taken_out,
        kinds: kinds(),
    })
}

fn conflict(detail: &str) -> ApiError {
    ApiError::Conflict { detail: detail.to_owned(), changed: vec![] }
}
