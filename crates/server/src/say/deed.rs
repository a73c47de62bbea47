//! What is done with a part, as it is said: it goes the way of its step, with all that the step asks.

use axum::Json;
use axum::extract::State;
use owl_core::caution::Step;
use owl_core::people::Permission;
use owl_core::say::{Deed, OfDeed, Tray, of_deed, of_proof, understand_each};
use uuid::Uuid;

use super::on_the_bench;
use super::wire::{Said, Say, Understanding};
use crate::app::App;
use crate::body::{Body, Id};
use crate::decision::{NewDecision, decide};
use crate::error::ApiError;
use crate::fitting::wire::{NewFitting, NewProof};
use crate::fitting::{fit, prove};
use crate::people::actor::needs;
use crate::table::sayable::SayRow;

/// The deed that a sentence tells, and the part that it is done to. A sentence without a verb tells a proof where something
/// was fitted that is not proven to work, and where it says nothing else.
pub fn told<'l>(text: &str, tray: &Tray, lines: &'l [SayRow]) -> Option<(OfDeed, &'l SayRow)> {
    let of = |d: OfDeed| lines.iter().find(|p| p.name == d.name).map(|p| (d, p));
    of_deed(text, tray).and_then(of).or_else(|| {
        let (d, part) = of_proof(text, tray).and_then(of)?;
        let nothing_else = understand_each(text, tray).is_err();
        (part.unproven.is_some() && nothing_else).then_some((d, part))
    })
}

/// How it is understood.
#[must_use]
pub fn preview(d: &OfDeed, part: &SayRow) -> Understanding {
    Understanding { part_id: Some(part.id), ..Understanding::of(&d.name, d.deed.in_words(), &d.chips) }
}

/// Does it, or opens its step where nothing more was said. `None` for a sentence that tells no deed.
///
/// # Errors
/// As the step itself: what it asks is asked beside the sentence.
pub async fn take(app: &App, ticket_id: Uuid, q: &Say) -> Result<Option<Said>, ApiError> {
    let mut tx = app.db.snapshot().await?;
    let (tray, lines) = on_the_bench(&mut tx, ticket_id, q.selected).await?;
    let Some((d, part)) = told(&q.text, &tray, &lines) else { return Ok(None) };
    let row = crate::table::part::find(&mut *tx, part.id).await?;
    let mut step = None;
    let (app_, id) = (State(app.clone()), Id(part.id));
    let done = match &d.deed {
        Deed::Decide { decided, why } => {
            let new = NewDecision {
                key: q.key,
                version: q.version.unwrap_or(row.version),
                decided: *decided,
                why: Some(why.clone()),
            };
            drop(tx);
            needs(Permission::Decide)?;
            Some(decide(app_, id, Body(new)).await)
        }
        Deed::Fit { description, .. } if description.is_empty() => {
            step = Some(Step::Fit);
            None
        }
        Deed::Fit { description, measured, why } => {
            let new = NewFitting {
                key: q.key,
                version: q.version.unwrap_or(row.version),
                description: description.clone(),
                measured: Some(measured.clone()),
                over_open: why.clone(),
                despite: why.clone(),
                confirmed: q.confirmed,
                ..NewFitting::default()
            };
            drop(tx);
            needs(Permission::Decide)?;
            Some(fit(app_, id, Body(new)).await)
        }
        Deed::Prove { seen, .. } if seen.is_empty() => {
            step = Some(Step::Prove);
            None
        }
        Deed::Prove { seen, .. } => {
            let fitting = part.unproven.ok_or_else(|| {
                ApiError::field("text", format!("nothing was fitted for {} that is to be proven", d.name))
            })?;
            let new = NewProof { key: q.key, outcome: None, seen: seen.clone(), checks: vec![] };
            drop(tx);
            Some(prove(app_, Id(fitting), Body(new)).await)
        }
    };
    let written = done.transpose().map_err(|e| e.moved_to("text"))?.map(|(_, Json(written))| written);
    let in_words = format!("{}: {}", d.name, d.deed.in_words());
    Ok(Some(Said { part_id: Some(part.id), step, written, ..Said::of(in_words) }))
}
