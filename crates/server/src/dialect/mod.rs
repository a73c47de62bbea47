//! The workshop's own words: chosen once, and every sentence that goes out is put into them on its way. Sentences are
//! stored and computed as they are written; what somebody typed goes out as it was typed.

use std::sync::{PoisonError, RwLock};
use std::time::Duration;

use axum::Json;
use axum::extract::{Request, State};
use axum::middleware::Next;
use axum::response::Response;
use owl_core::dialect::{Dialect, Term};
use owl_core::named::Named;
use serde::{Serialize, Serializer};
use sqlx::PgPool;
use utoipa::ToSchema;

use crate::app::App;
use crate::body::Body;
use crate::error::{ApiError, Problem};

tokio::task_local! {
    static CHOSEN: Dialect;
}

/// How long a request waits to be told the workshop's words, while the database is away.
const PATIENCE: Duration = Duration::from_millis(300);

/// The workshop's words, kept in memory.
#[derive(Debug, Default)]
pub struct Chosen(RwLock<Option<Dialect>>);

impl Chosen {
    async fn of(&self, pool: &PgPool) -> Dialect {
        if let Some(known) = *self.0.read().unwrap_or_else(PoisonError::into_inner) {
            return known;
        }
        match tokio::time::timeout(PATIENCE, crate::table::workshop::dialect(pool)).await {
            Ok(Ok(chosen)) => {
                self.set(chosen);
                chosen
            }
            _ => Dialect::BRITISH,
        }
    }

    fn set(&self, chosen: Dialect) {
        *self.0.write().unwrap_or_else(PoisonError::into_inner) = Some(chosen);
    }
}

/// Every request is answered in the workshop's words.
pub async fn in_the_workshops_words(State(app): State<App>, request: Request, next: Next) -> Response {
    let chosen = app.words.of(&app.pool).await;
    CHOSEN.scope(chosen, next.run(request)).await
}

/// Does in the words of the request that asked for it what outlives that request.
pub fn in_the_same_words<F: Future>(work: F) -> impl Future<Output = F::Output> {
    CHOSEN.scope(chosen(), work)
}

fn chosen() -> Dialect {
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

/// The workshop's words, and what there is to choose from.
#[derive(Debug, Serialize, ToSchema)]
pub struct DialectView {
    /// What is chosen.
    pub chosen: Dialect,
    /// What is then said otherwise than it is written: for the page's own words.
    pub terms: Vec<Term>,
    /// The usual choices.
    pub usual: Vec<UsualDialect>,
    /// What can be chosen, pair by pair.
    pub pairs: Vec<WordPair>,
}

/// A usual choice.
#[derive(Debug, Serialize, ToSchema)]
pub struct UsualDialect {
    /// Whose.
    pub name: &'static str,
    /// Its words.
    pub words: Dialect,
}

/// Two words for one thing.
#[derive(Debug, Serialize, ToSchema)]
pub struct WordPair {
    /// Which of the choices.
    pub choice: WordChoice,
    /// The words.
    pub words: Vec<&'static str>,
}

/// What is chosen between.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub enum WordChoice {
    /// Valve or tube.
    Valve,
    /// HT or B+.
    Supply,
    /// Anode or plate.
    Anode,
    /// Earth or ground.
    Earth,
    /// Heater or filament.
    Heater,
}

impl DialectView {
    /// Of what is chosen.
    #[must_use]
    pub fn of(chosen: Dialect) -> Self {
        fn pair<T: Named>(choice: WordChoice) -> WordPair {
            WordPair { choice, words: T::ALL.iter().map(|w| w.name()).collect() }
        }
        use owl_core::dialect::{AnodeWord, EarthWord, HeaterWord, SupplyWord, ValveWord};
        Self {
            chosen,
            terms: chosen.terms().cloned().collect(),
            usual: vec![
                UsualDialect { name: "British", words: Dialect::BRITISH },
                UsualDialect { name: "American", words: Dialect::AMERICAN },
            ],
            pairs: vec![
                pair::<ValveWord>(WordChoice::Valve),
                pair::<SupplyWord>(WordChoice::Supply),
                pair::<AnodeWord>(WordChoice::Anode),
                pair::<EarthWord>(WordChoice::Earth),
                pair::<HeaterWord>(WordChoice::Heater),
            ],
        }
    }
}

/// Chooses the workshop's words: from now on everything is said in them.
///
/// # Errors
/// 422 for a word that is none of the pair.
#[utoipa::path(put, path = "/api/workshop/dialect", tag = "workshop", request_body = Dialect, responses(
    (status = 200, body = DialectView),
    (status = 422, body = Problem)))]
pub async fn choose(
    State(app): State<App>,
    Body(chosen): Body<Dialect>,
) -> Result<Json<DialectView>, ApiError> {
    crate::table::workshop::choose_dialect(&app.pool, chosen).await?;
    app.words.set(chosen);
    Ok(Json(DialectView::of(chosen)))
}
