//! A run as it happens, as server-sent events: whoever comes back says which reading it saw last and misses none.
//!
//! What is sent is read from the database, so that it does not matter which server drives the run.

use std::convert::Infallible;
use std::time::Duration;

use axum::extract::State;
use axum::http::HeaderMap;
use axum::response::Sse;
use axum::response::sse::{Event, KeepAlive};
use owl_core::reform::run::Phase;
use serde::Deserialize;
use tokio_stream::Stream;
use tokio_stream::wrappers::ReceiverStream;
use utoipa::IntoParams;
use uuid::Uuid;

use super::wire::{LiveEvent, SampleView, view};
use crate::app::App;
use crate::body::{Id, Query};
use crate::error::{ApiError, Problem};
use crate::table::reform_samples;
use crate::together::events::{AT_MOST, BACK};

/// How often it is looked whether something is new.
const LOOK: Duration = Duration::from_millis(500);
/// At most so many readings at once.
const MOST: i64 = 1500;

/// From where a stream begins.
#[derive(Debug, Deserialize, IntoParams)]
pub struct From {
    /// The number of the last reading that was seen; the header `Last-Event-ID` counts before it.
    #[serde(default)]
    after: i64,
}

/// A run as it happens.
///
/// # Errors
/// 404.
#[utoipa::path(get, path = "/api/reform/runs/{id}/live", operation_id = "live_reform", tag = "reforming",
    params(("id" = Uuid, Path), From),
    responses((status = 200, body = LiveEvent, content_type = "text/event-stream",
        description = "an event whenever something is new; its id is the number of the last reading"),
        (status = 404, body = Problem)))]
pub async fn live(
    State(app): State<App>,
    Id(id): Id,
    Query(from): Query<From>,
    headers: HeaderMap,
) -> Result<Sse<impl Stream<Item = Result<Event, Infallible>>>, ApiError> {
    crate::table::reform::find(&app.db, id).await?;
    let seen = headers.get("last-event-id").and_then(|v| v.to_str().ok()).and_then(|v| v.parse().ok());
    let mut after: i64 = seen.unwrap_or(from.after).max(0);
    let (send, receive) = tokio::sync::mpsc::channel(4);
    let mut stop = app.station.stopping();
    let until = tokio::time::Instant::now() + AT_MOST;
    tokio::spawn(crate::dialect::in_the_same_words(async move {
        let mut turn = tokio::time::interval(LOOK);
        turn.set_missed_tick_behavior(tokio::time::MissedTickBehavior::Delay);
        let mut before = String::new();
        loop {
            tokio::select! {
                _ = turn.tick() => {}
                _ = stop.changed() => return,
                () = send.closed() => return,
                () = tokio::time::sleep_until(until) => return,
            }
            // Without a database there is nothing to say; the page hears that elsewhere.
            let Ok((text, last, over)) = event(&app, id, after).await else { continue };
            if text == before {
                continue;
            }
            if send.send(Ok(Event::default().id(last.to_string()).retry(BACK).data(&text))).await.is_err() {
                return;
            }
            (after, before) = (last, text);
            if over {
                // What is over is told once; the page closes.
                return;
            }
        }
    }));
    Ok(Sse::new(ReceiverStream::new(receive)).keep_alive(KeepAlive::default()))
}

/// What is new since the n-th reading.
async fn event(app: &App, id: Uuid, after: i64) -> Result<(String, i64, bool), ApiError> {
    let mut row = crate::table::reform::find(&app.db, id).await?;
    let samples = reform_samples::after(&app.db, id, after, MOST).await?;
    let said = reform_samples::said(&app.db, id, 60).await?;
    super::heard(&mut row);
    let foreseen = app.station.foresee(&app.db, &row).await?;
    let last = samples.last().map_or(after, |s| s.n);
    let from = row.run.fed_from_s.unwrap_or(0.0);
    let event = LiveEvent {
        run: view(&row, &said, foreseen.as_deref())?,
        samples: samples.iter().map(|s| SampleView::of(s, from)).collect(),
        last,
    };
    let over = matches!(row.run.phase, Phase::Over { .. });
    let text = serde_json::to_string(&event).map_err(|e| ApiError::Internal(e.to_string()))?;
    Ok((text, last, over))
}
