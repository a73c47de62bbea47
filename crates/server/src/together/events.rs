//! What the other benches do, as server-sent events for a page.

use std::convert::Infallible;
use std::time::Duration;

use axum::extract::State;
use axum::http::HeaderMap;
use axum::response::Sse;
use axum::response::sse::{Event, KeepAlive};
use serde::{Deserialize, Serialize};
use tokio::sync::broadcast::error::RecvError;
use tokio::sync::mpsc;
use tokio::time::Instant;
use tokio_stream::Stream;
use tokio_stream::wrappers::ReceiverStream;
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;

use super::hub::Word;
use crate::app::App;
use crate::body::Query;
use crate::error::{ApiError, Problem};
use crate::people::actor;
use crate::table::here::{self, HereRow};

/// A stream ends after so long and the page comes back at once: whoever was shut out meanwhile hears no more.
pub const AT_MOST: Duration = Duration::from_secs(60);
/// How soon the page comes back.
pub const BACK: Duration = Duration::from_millis(300);

/// What a page wants to hear.
#[derive(Debug, Deserialize, IntoParams)]
pub struct Wanted {
    /// The page, by a key of its own: what it writes itself it is not told, if it says so in the header `X-Owl-Page`.
    page: Uuid,
    /// The ticket that it shows.
    ticket: Option<Uuid>,
    /// Up to where it has seen everything: the header `X-Owl-Position` of the ticket that it read. The header
    /// `Last-Event-ID` counts before it.
    after: Option<String>,
}

/// What the other benches did.
#[derive(Debug, Serialize, ToSchema)]
#[serde(tag = "what", rename_all = "lowercase")]
pub enum BenchEvent {
    /// Something of a ticket was written.
    Ticket {
        /// Which.
        id: Uuid,
    },
    /// Something of the whole workshop was written: drawers, instruments, words.
    Workshop,
    /// Something may have been missed: everything is to be read anew.
    Look,
    /// Who else is at the ticket now.
    Here {
        /// All but the page itself.
        others: Vec<OtherView>,
    },
}

/// Somebody else at the same ticket.
#[derive(Debug, PartialEq, Eq, Serialize, ToSchema)]
pub struct OtherView {
    /// The name; empty where nobody signs in.
    name: String,
    /// At which bench.
    bench: String,
    /// Whether it is another page of whoever asks.
    own: bool,
}

/// What the other benches do, as it happens.
///
/// # Errors
/// 429 when too many pages listen.
#[utoipa::path(get, path = "/api/events", operation_id = "hear_benches", tag = "workshop", params(Wanted),
    responses((status = 200, body = BenchEvent, content_type = "text/event-stream",
        description = "an event whenever another bench did something; its id is a position"),
        (status = 429, body = Problem)))]
pub async fn events(
    State(app): State<App>,
    Query(wanted): Query<Wanted>,
    headers: HeaderMap,
) -> Result<Sse<impl Stream<Item = Result<Event, Infallible>>>, ApiError> {
    if app.hub.seat().is_none() {
        return Err(ApiError::TooOften(30));
    }
    let who = actor::now().map_or_else(
        || HereRow { person_id: None, person: String::new(), bench: String::new() },
        |a| HereRow {
            person_id: a.person.as_ref().map(|p| p.id),
            person: a.person.as_ref().map_or_else(String::new, |p| p.name.clone()),
            bench: a.bench.clone(),
        },
    );
    let last = headers.get("last-event-id").and_then(|v| v.to_str().ok()).map(str::to_owned);
    let (send, receive) = mpsc::channel(16);
    let mut stop = app.station.stopping();
    tokio::spawn(async move {
        let telling = Telling { app: &app, wanted: &wanted, who: &who, send: &send };
        let left = tokio::select! {
            _ = stop.changed() => false,
            () = send.closed() => true,
            left = tokio::time::timeout_at(Instant::now() + AT_MOST, telling.tell(last.or(wanted.after.clone()))) => {
                left.is_ok()
            }
        };
        // A page that comes back in a moment has not left.
        if left && wanted.ticket.is_some() {
            let _away = here::leave(&app.db, wanted.page, app.hub.server).await;
        }
    });
    Ok(Sse::new(ReceiverStream::new(receive)).keep_alive(KeepAlive::default()))
}

struct Telling<'a> {
    app: &'a App,
    wanted: &'a Wanted,
    who: &'a HereRow,
    send: &'a mpsc::Sender<Result<Event, Infallible>>,
}

impl Telling<'_> {
    /// Tells the page until it is gone.
    async fn tell(&self, after: Option<String>) {
        let Some(_seat) = self.app.hub.seat() else { return };
        let (missed, mut next) = self.app.hub.since(after.as_deref());
        if let Some(ticket) = self.wanted.ticket {
            let _away =
                here::come(&self.app.db, self.wanted.page, self.app.hub.server, ticket, self.who).await;
            if !self.word(None, Word::Here(ticket)).await {
                return;
            }
        }
        let missed = missed.unwrap_or_else(|| vec![(0, Word::Look)]);
        for (at, word) in missed {
            if !self.word((at > 0).then_some(at), word).await {
                return;
            }
        }
        loop {
            let told = match next.recv().await {
                Ok((at, word)) => self.word(Some(at), word).await,
                Err(RecvError::Lagged(_)) => self.word(None, Word::Look).await,
                Err(RecvError::Closed) => return,
            };
            if !told {
                return;
            }
        }
    }

    /// Tells a word that is worth it to this page; whether the page is still there.
    async fn word(&self, at: Option<u64>, word: Word) -> bool {
        let own = |page: Option<Uuid>| page == Some(self.wanted.page);
        let event = match word {
            Word::Ticket(_, page) | Word::Workshop(page) if own(page) => return true,
            Word::Ticket(id, _) => BenchEvent::Ticket { id },
            Word::Workshop(_) => BenchEvent::Workshop,
            Word::Look => BenchEvent::Look,
            Word::Here(ticket) if Some(ticket) == self.wanted.ticket => {
                match here::others(&self.app.db, ticket, self.wanted.page).await {
                    Ok(rows) => {
                        BenchEvent::Here { others: rows.into_iter().map(|r| self.other(r)).collect() }
                    }
                    Err(_) => return true,
                }
            }
            Word::Here(_) | Word::Beat(_) => return true,
        };
        let hub = &self.app.hub;
        let id = at.map_or_else(|| hub.position(), |at| hub.written(at));
        let text = serde_json::to_string(&event).unwrap_or_default();
        self.send.send(Ok(Event::default().id(id).retry(BACK).data(text))).await.is_ok()
    }

    fn other(&self, row: HereRow) -> OtherView {
        let own = row.person_id == self.who.person_id && row.bench == self.who.bench;
        OtherView { name: row.person, bench: row.bench, own }
    }
}
