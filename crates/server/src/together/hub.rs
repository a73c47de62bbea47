//! What was heard last, and everybody who wants to hear the next.

use std::collections::VecDeque;
use std::str::FromStr;
use std::sync::atomic::{AtomicUsize, Ordering};
use std::sync::{Mutex, MutexGuard, PoisonError};

use tokio::sync::broadcast;
use uuid::Uuid;

/// So much is kept for those who come back.
const KEPT: usize = 4096;
/// So many pages hear at once.
const PAGES: usize = 2000;

/// A word between servers.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Word {
    /// Something of a ticket was written, by that page if it is known.
    Ticket(Uuid, Option<Uuid>),
    /// Something of the workshop was written.
    Workshop(Option<Uuid>),
    /// Somebody came to a ticket or left it.
    Here(Uuid),
    /// A server's heartbeat.
    Beat(Uuid),
    /// Something may have been missed: look at everything.
    Look,
}

impl FromStr for Word {
    type Err = ();

    /// Reads what the database tells.
    fn from_str(text: &str) -> Result<Self, ()> {
        let mut words = text.split(' ');
        let (Some(kind), Some(what), Some(page), None) =
            (words.next(), words.next(), words.next(), words.next())
        else {
            return Err(());
        };
        let id = |s: &str| Uuid::parse_str(s).map_err(|_| ());
        let page = if page == "-" { None } else { Some(id(page)?) };
        match kind {
            "T" => Ok(Self::Ticket(id(what)?, page)),
            "W" => Ok(Self::Workshop(page)),
            "H" => Ok(Self::Here(id(what)?)),
            "B" => Ok(Self::Beat(id(what)?)),
            _ => Err(()),
        }
    }
}

/// A word with its number.
pub type Numbered = (u64, Word);

/// What a server has heard.
#[derive(Debug)]
pub struct Hub {
    /// The server's name between servers.
    pub server: Uuid,
    heard: Mutex<Heard>,
    tell: broadcast::Sender<Numbered>,
    pages: AtomicUsize,
}

#[derive(Debug)]
struct Heard {
    /// Another one whenever something may have been missed.
    epoch: Uuid,
    last: u64,
    kept: VecDeque<Numbered>,
}

impl Default for Hub {
    fn default() -> Self {
        let heard = Heard { epoch: Uuid::new_v4(), last: 0, kept: VecDeque::new() };
        Self {
            server: Uuid::new_v4(),
            heard: Mutex::new(heard),
            tell: broadcast::Sender::new(KEPT),
            pages: AtomicUsize::new(0),
        }
    }
}

/// A page's place among those who hear; given back when it is dropped.
#[derive(Debug)]
pub struct Seat<'a>(&'a Hub);

impl Drop for Seat<'_> {
    fn drop(&mut self) {
        self.0.pages.fetch_sub(1, Ordering::Relaxed);
    }
}

impl Hub {
    fn lock(&self) -> MutexGuard<'_, Heard> {
        self.heard.lock().unwrap_or_else(PoisonError::into_inner)
    }

    /// A place among those who hear; `None` when there are too many.
    #[must_use]
    pub fn seat(&self) -> Option<Seat<'_>> {
        let seat = Seat(self);
        (self.pages.fetch_add(1, Ordering::Relaxed) < PAGES).then_some(seat)
    }

    /// How many pages hear.
    #[must_use]
    pub fn pages(&self) -> usize {
        self.pages.load(Ordering::Relaxed)
    }

    /// Hands on a word.
    pub fn hear(&self, word: Word) {
        let mut heard = self.lock();
        heard.last += 1;
        let word = (heard.last, word);
        heard.kept.push_back(word);
        if heard.kept.len() > KEPT {
            heard.kept.pop_front();
        }
        let _nobody = self.tell.send(word);
    }

    /// Something may have been missed: nobody who comes back is told that nothing happened.
    pub fn missed(&self) {
        {
            let mut heard = self.lock();
            heard.epoch = Uuid::new_v4();
            heard.kept.clear();
        }
        self.hear(Word::Look);
    }

    /// Up to where everything was heard, for somebody who reads now and hears later.
    #[must_use]
    pub fn position(&self) -> String {
        let last = self.lock().last;
        self.written(last)
    }

    /// A position as it is told to pages.
    #[must_use]
    pub fn written(&self, at: u64) -> String {
        // The epoch first: whoever has another one is told to look, even if it changes in between.
        format!("{}.{at}", self.lock().epoch.simple())
    }

    /// What was heard since a position, and what will be; `None` in the first place when nobody can say.
    #[must_use]
    pub fn since(&self, position: Option<&str>) -> (Option<Vec<Numbered>>, broadcast::Receiver<Numbered>) {
        let heard = self.lock();
        let receiver = self.tell.subscribe();
        let known = position.and_then(|p| p.split_once('.')).and_then(|(epoch, n)| {
            let n: u64 = n.parse().ok()?;
            let first = heard.kept.front().map_or(heard.last + 1, |(n, _)| *n);
            let whole = epoch == heard.epoch.simple().to_string() && n + 1 >= first && n <= heard.last;
            whole.then(|| heard.kept.iter().filter(|(at, _)| *at > n).copied().collect())
        });
        (known, receiver)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    const A: Uuid = Uuid::from_u128(1);
    const B: Uuid = Uuid::from_u128(2);

    #[test]
    fn what_the_database_tells_is_read() {
        assert_eq!(format!("T {A} {B}").parse(), Ok(Word::Ticket(A, Some(B))));
        assert_eq!(format!("T {A} -").parse(), Ok(Word::Ticket(A, None)));
        assert_eq!("W - -".parse(), Ok(Word::Workshop(None)));
        assert_eq!(format!("H {A} -").parse(), Ok(Word::Here(A)));
        assert_eq!(format!("B {A} -").parse(), Ok(Word::Beat(A)));
        for wrong in ["", "T", "T x -", "W -", "T - - -", "X - -", "T - x"] {
            assert_eq!(wrong.parse::<Word>(), Err(()), "{wrong}");
        }
    }

    fn missed_since(hub: &Hub, position: &str) -> Option<usize> {
        hub.since(Some(position)).0.map(|w| w.len())
    }

    #[test]
    fn whoever_comes_back_hears_what_was_missed() {
        let hub = Hub::default();
        let before = hub.position();
        assert_eq!(missed_since(&hub, &before), Some(0));
        hub.hear(Word::Ticket(A, None));
        hub.hear(Word::Workshop(None));
        let (missed, mut next) = hub.since(Some(&before));
        assert_eq!(missed.unwrap(), [(1, Word::Ticket(A, None)), (2, Word::Workshop(None))]);
        hub.hear(Word::Here(B));
        assert_eq!(next.try_recv().unwrap(), (3, Word::Here(B)));
    }

    #[test]
    fn whoever_cannot_know_is_told_to_look() {
        let hub = Hub::default();
        let before = hub.position();
        for _ in 0..KEPT {
            hub.hear(Word::Look);
        }
        assert_eq!(missed_since(&hub, &before), Some(KEPT));
        hub.hear(Word::Look);
        assert_eq!(missed_since(&hub, &before), None, "too long ago");
        let now = hub.position();
        hub.missed();
        assert_eq!(missed_since(&hub, &now), None, "in between nothing was heard");
        for nonsense in ["", "x", "x.1", &Hub::default().position(), &hub.written(u64::MAX - 1)] {
            assert_eq!(missed_since(&hub, nonsense), None, "{nonsense}");
        }
        assert!(hub.since(None).0.is_none());
    }

    #[test]
    fn so_many_pages_hear_and_no_more() {
        let hub = Hub::default();
        let mut seats: Vec<_> = (0..PAGES).map(|_| hub.seat().unwrap()).collect();
        assert!(hub.seat().is_none());
        seats.pop();
        assert_eq!(hub.pages(), PAGES - 1);
        assert!(hub.seat().is_some());
    }
}
