//! Sums that take their time: beside the threads that serve, so many at once, and no longer than somebody waits for them.

use std::sync::atomic::{AtomicBool, Ordering};
use std::sync::{Arc, LazyLock};
use std::time::{Duration, Instant};

use tokio::sync::Semaphore;

use crate::error::ApiError;

/// What a search may take while somebody waits for the whole answer; then it answers with the best so far.
pub const AT_ONCE: Duration = Duration::from_millis(800);
/// What a search may take that shows the best so far as it goes.
pub const STREAMED: Duration = Duration::from_secs(60);

static TURNS: LazyLock<Semaphore> = LazyLock::new(|| Semaphore::new(2 * cores()));
static LONG_TURNS: LazyLock<Semaphore> = LazyLock::new(|| Semaphore::new(cores()));

fn cores() -> usize {
    std::thread::available_parallelism().map_or(2, std::num::NonZeroUsize::get)
}

/// Whoever waits for a search.
#[derive(Debug, Clone)]
pub struct Asker {
    gone: Arc<AtomicBool>,
    until: Instant,
}

impl Asker {
    /// One who waits so long.
    #[must_use]
    pub fn waiting(budget: Duration) -> Self {
        Self { gone: Arc::default(), until: Instant::now() + budget }
    }

    /// Whether the answer is still waited for.
    #[must_use]
    pub fn waits(&self) -> bool {
        !self.gone.load(Ordering::Relaxed) && Instant::now() < self.until
    }
}

/// Says that nobody waits any more when the request is dropped.
struct Request(Arc<AtomicBool>);

impl Drop for Request {
    fn drop(&mut self) {
        self.0.store(true, Ordering::Relaxed);
    }
}

/// Sums beside the threads that serve.
///
/// # Errors
/// 500 where they panic.
pub async fn aside<T: Send + 'static>(work: impl FnOnce() -> T + Send + 'static) -> Result<T, ApiError> {
    let turn = TURNS.acquire().await.map_err(|e| ApiError::Internal(e.to_string()))?;
    // The turn goes with the sums: whoever hangs up does not make room for more of them.
    let done = tokio::task::spawn_blocking(move || {
        let _turn = turn;
        work()
    });
    done.await.map_err(|e| ApiError::Internal(e.to_string()))
}

/// A search that asks whether it is still waited for: no longer than the budget, and not at all once the asker is gone.
///
/// # Errors
/// 500 where it panics.
pub async fn search<T: Send + 'static>(
    budget: Duration,
    work: impl FnOnce(&Asker) -> T + Send + 'static,
) -> Result<T, ApiError> {
    let gone = Arc::new(AtomicBool::new(false));
    let _request = Request(gone.clone());
    aside(move || work(&Asker { gone, until: Instant::now() + budget })).await
}

/// A long search, which shows what it has and stops by itself once nobody listens.
pub fn streamed(work: impl FnOnce(&Asker) + Send + 'static) {
    tokio::spawn(async move {
        let Ok(turn) = LONG_TURNS.acquire().await else { return };
        tokio::task::spawn_blocking(move || {
            let _turn = turn;
            work(&Asker::waiting(STREAMED));
        });
    });
}

#[cfg(test)]
mod tests {
    use super::*;

    #[tokio::test]
    async fn a_search_ends_when_its_asker_goes_or_its_time_is_over() {
        let ended = Arc::new(AtomicBool::new(false));
        let seen = ended.clone();
        let until_gone = search(Duration::from_secs(3600), move |asker| {
            while asker.waits() {
                std::thread::yield_now();
            }
            seen.store(true, Ordering::Relaxed);
        });
        let task = tokio::spawn(until_gone);
        tokio::time::sleep(Duration::from_millis(20)).await;
        task.abort();
        while !ended.load(Ordering::Relaxed) {
            tokio::time::sleep(Duration::from_millis(5)).await;
        }
        let counted = search(Duration::from_millis(5), |asker| {
            let mut n = 0_u64;
            while asker.waits() {
                n += 1;
            }
            n
        });
        assert!(counted.await.unwrap() > 0);
    }
}
