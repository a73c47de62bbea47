//! What is reckoned from all of the past: kept for as long as the reckoning is worth, so that looking at it costs no
//! more than a hundredth of the time, however much there is.

use std::future::Future;
use std::sync::{Arc, Mutex, PoisonError};
use std::time::{Duration, Instant};

use time::OffsetDateTime;

use crate::error::ApiError;

/// What takes less is reckoned for everybody who asks.
const SOON: Duration = Duration::from_millis(100);
/// A reckoning is good for so many times what it took.
const WORTH: u32 = 100;

/// What was reckoned last.
#[derive(Debug)]
pub struct Remembered<T> {
    last: Mutex<Option<Last<T>>>,
    /// One reckons at a time.
    turn: Arc<tokio::sync::Mutex<()>>,
}

#[derive(Debug, Clone)]
struct Last<T> {
    what: T,
    at: Instant,
    said_at: OffsetDateTime,
    took: Duration,
}

impl<T> Default for Remembered<T> {
    fn default() -> Self {
        Self { last: Mutex::new(None), turn: Arc::default() }
    }
}

impl<T: Clone + Send + 'static> Remembered<T> {
    /// What was reckoned, and since when it stands where that is not now. What was quick last time is reckoned anew; what
    /// was not is answered from before, and reckoned in the background once it is old.
    ///
    /// # Errors
    /// Those of the reckoning, where nothing is known from before.
    pub async fn get<F, R>(self: &Arc<Self>, reckon: F) -> Result<(T, Option<OffsetDateTime>), ApiError>
    where
        F: FnOnce() -> R,
        R: Future<Output = Result<T, ApiError>> + Send + 'static,
    {
        let asked = Instant::now();
        let (to, work) = (self.clone(), reckon());
        if let Some(known) = self.known().filter(|l| l.took > SOON) {
            if known.at.elapsed() > known.took * WORTH
                && let Ok(turn) = self.turn.clone().try_lock_owned()
            {
                tokio::spawn(async move {
                    if let Err(e) = to.reckoned(work).await {
                        tracing::warn!(why = %e, "what was reckoned stays as it was");
                    }
                    drop(turn);
                });
            }
            return Ok((known.what, Some(known.said_at)));
        }
        // It goes on even if whoever asked is gone: the next one finds it.
        let done = tokio::spawn(async move {
            let _turn = to.turn.lock().await;
            match to.known().filter(|l| l.took > SOON && l.at > asked) {
                Some(by_another) => Ok(by_another.what),
                None => to.reckoned(work).await,
            }
        });
        Ok((done.await.map_err(|e| ApiError::Internal(e.to_string()))??, None))
    }

    fn known(&self) -> Option<Last<T>> {
        self.last.lock().unwrap_or_else(PoisonError::into_inner).clone()
    }

    /// Reckons, and keeps what comes out.
    async fn reckoned(&self, work: impl Future<Output = Result<T, ApiError>>) -> Result<T, ApiError> {
        let from = Instant::now();
        let what = work.await?;
        let (at, said_at, took) = (Instant::now(), OffsetDateTime::now_utc(), from.elapsed());
        let last = Last { what: what.clone(), at, said_at, took };
        *self.last.lock().unwrap_or_else(PoisonError::into_inner) = Some(last);
        Ok(what)
    }
}

#[cfg(test)]
mod tests {
    use std::sync::atomic::{AtomicU32, Ordering};

    use super::*;

    async fn asked(r: &Arc<Remembered<u32>>, times: &Arc<AtomicU32>, slow: bool) -> (u32, bool) {
        let times = times.clone();
        let work = move || async move {
            if slow {
                tokio::time::sleep(SOON + Duration::from_millis(10)).await;
            }
            Ok(times.fetch_add(1, Ordering::Relaxed) + 1)
        };
        let (n, since) = r.get(work).await.unwrap();
        (n, since.is_some())
    }

    #[tokio::test]
    async fn what_is_quick_is_reckoned_anew_and_what_is_slow_is_remembered() {
        let (r, times) = (Arc::default(), Arc::default());
        assert_eq!(asked(&r, &times, false).await, (1, false));
        // Whoever hangs up has it reckoned nevertheless.
        let gone = tokio::time::timeout(Duration::from_millis(20), asked(&r, &times, true)).await;
        assert!(gone.is_err());
        while times.load(Ordering::Relaxed) < 2 || r.turn.try_lock().is_err() {
            tokio::time::sleep(Duration::from_millis(5)).await;
        }
        // Now it is known to be slow.
        assert_eq!(asked(&r, &times, true).await, (2, true));
        assert_eq!(times.load(Ordering::Relaxed), 2);
        // Once it is old, the old one is answered at once and a new one is made behind it.
        if let Some(l) = r.last.lock().unwrap().as_mut() {
            l.took = SOON + Duration::from_millis(1);
            l.at -= (SOON + Duration::from_millis(2)) * WORTH;
        }
        assert_eq!(asked(&r, &times, true).await, (2, true));
        while times.load(Ordering::Relaxed) < 3 || r.turn.try_lock().is_err() {
            tokio::time::sleep(Duration::from_millis(5)).await;
        }
        assert_eq!(asked(&r, &times, true).await, (3, true));
    }
}
