//! What is reckoned from all of the past: kept for as long as the reckoning is worth, so that looking at it costs no
//! more than a hundredth of the time, however much there is.

use std::future::Future;
use std::sync::Arc;
use std::sync::atomic::{AtomicBool, Ordering};
use std::time::{Duration, Instant};

use time::OffsetDateTime;
use tokio::sync::Mutex;

use crate::error::ApiError;

/// What takes less is reckoned for everybody who asks.
const SOON: Duration = Duration::from_millis(100);
/// A reckoning is good for so many times what it took.
const WORTH: u32 = 100;

/// What was reckoned last.
#[derive(Debug)]
pub struct Remembered<T> {
    last: Mutex<Option<Last<T>>>,
    busy: AtomicBool,
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
        Self { last: Mutex::new(None), busy: AtomicBool::new(false) }
    }
}

impl<T: Clone + Send + Sync + 'static> Remembered<T> {
    /// What was reckoned, and since when it stands where that is not now. What was quick last time is reckoned anew; what
    /// was not is answered from before, and reckoned in the background once it is old.
    ///
    /// # Errors
    /// Those of the reckoning, of the first one.
    pub async fn get<F, R>(self: &Arc<Self>, reckon: F) -> Result<(T, Option<OffsetDateTime>), ApiError>
    where
        F: FnOnce() -> R,
        R: Future<Output = Result<T, ApiError>> + Send + 'static,
    {
        // Whoever comes while the first reckoning runs waits for it and does not begin a second one.
        let mut last = self.last.lock().await;
        if let Some(known) = last.as_ref().filter(|l| l.took > SOON) {
            let answer = (known.what.clone(), Some(known.said_at));
            if known.at.elapsed() > known.took * WORTH && !self.busy.swap(true, Ordering::AcqRel) {
                let (to, work) = (self.clone(), timed(reckon()));
                tokio::spawn(async move {
                    match work.await {
                        Ok(new) => *to.last.lock().await = Some(new),
                        Err(e) => tracing::warn!(why = %e, "what was reckoned stays as it was"),
                    }
                    to.busy.store(false, Ordering::Release);
                });
            }
            return Ok(answer);
        }
        let new = timed(reckon()).await?;
        let what = new.what.clone();
        *last = Some(new);
        Ok((what, None))
    }
}

async fn timed<T>(work: impl Future<Output = Result<T, ApiError>>) -> Result<Last<T>, ApiError> {
    let from = Instant::now();
    let what = work.await?;
    Ok(Last { what, at: Instant::now(), said_at: OffsetDateTime::now_utc(), took: from.elapsed() })
}

#[cfg(test)]
mod tests {
    use std::sync::atomic::AtomicU32;

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
        assert_eq!(asked(&r, &times, true).await, (2, false));
        // Now it is known to be slow.
        assert_eq!(asked(&r, &times, true).await, (2, true));
        assert_eq!(times.load(Ordering::Relaxed), 2);
        // Once it is old, the old one is answered at once and a new one is made behind it.
        if let Some(l) = r.last.lock().await.as_mut() {
            l.took = SOON + Duration::from_millis(1);
            l.at -= (SOON + Duration::from_millis(2)) * WORTH;
        }
        assert_eq!(asked(&r, &times, true).await, (2, true));
        while r.busy.load(Ordering::Acquire) {
            tokio::time::sleep(Duration::from_millis(5)).await;
        }
        assert_eq!(asked(&r, &times, true).await, (3, true));
    }
}
