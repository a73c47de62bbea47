//! The workshop's own words: chosen once, and every sentence that goes out is put into them on its way. Sentences are
//! stored and computed as they are written; what somebody typed goes out as it was typed.

use std::sync::{PoisonError, RwLock};
use std::time::Duration;

use owl_core::dialect::Dialect;
use serde::{Serialize, Serializer};

use crate::database::Database;

tokio::task_local! {
    static CHOSEN: Dialect;
}

/// How long a request waits to be told the workshop's words, while the database is away.
const PATIENCE: Duration = Duration::from_millis(300);

/// The workshop's words, kept in memory.
#[derive(Debug, Default)]
pub struct Chosen(RwLock<Option<Dialect>>);

impl Chosen {
    /// What is chosen; as they are written in Britain while the database is away.
    pub async fn of(&self, db: &Database) -> Dialect {
        if let Some(known) = *self.0.read().unwrap_or_else(PoisonError::into_inner) {
            return known;
        }
        match tokio::time::timeout(PATIENCE, crate::table::workshop::dialect(db)).await {
            Ok(Ok(chosen)) => {
                self.set(chosen);
                chosen
            }
            _ => Dialect::BRITISH,
        }
    }

    /// Takes a choice over.
    pub fn set(&self, chosen: Dialect) {
        *self.0.write().unwrap_or_else(PoisonError::into_inner) = Some(chosen);
    }
}

/// Does `work` in those words.
pub fn in_words<F: Future>(chosen: Dialect, work: F) -> impl Future<Output = F::Output> {
    CHOSEN.scope(chosen, work)
}

/// Does in the words of the request that asked for it what outlives that request.
pub fn in_the_same_words<F: Future>(work: F) -> impl Future<Output = F::Output> {
    in_words(chosen(), work)
}

/// What this request is answered in.
pub fn chosen() -> Dialect {
    CHOSEN.try_with(|d| *d).unwrap_or(Dialect::AS_WRITTEN)
}

/// A sentence in the workshop's words.
#[must_use]
pub fn put(sentence: &str) -> String {
    chosen().say(sentence).into_owned()
}

/// For `serialize_with`: a sentence, or several, in the workshop's words.
///
/// # Errors
/// The serializer's own.
pub fn said<T: Said, S: Serializer>(sentence: &T, to: S) -> Result<S::Ok, S::Error> {
    sentence.said(chosen()).serialize(to)
}

/// What goes out in the workshop's words.
pub trait Said {
    /// How it goes out.
    type Out: Serialize;
    /// In those words.
    fn said(&self, words: Dialect) -> Self::Out;
}

impl Said for String {
    type Out = String;
    fn said(&self, words: Dialect) -> String {
        words.say(self).into_owned()
    }
}

impl<T: Said> Said for Option<T> {
    type Out = Option<T::Out>;
    fn said(&self, words: Dialect) -> Self::Out {
        self.as_ref().map(|t| t.said(words))
    }
}

impl<T: Said> Said for Vec<T> {
    type Out = Vec<T::Out>;
    fn said(&self, words: Dialect) -> Self::Out {
        self.iter().map(|t| t.said(words)).collect()
    }
}
