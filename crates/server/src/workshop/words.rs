//! The workshop's own words: what there is to choose from, choosing, and every request answered in them.

use axum::Json;
use axum::extract::{Request, State};
use axum::middleware::Next;
use axum::response::Response;
use owl_core::dialect::{Dialect, Term};
use owl_core::named::Named;
use owl_core::quantity::format::CapacitanceStyle;
use serde::Serialize;
use utoipa::ToSchema;

use crate::app::App;
use crate::body::Body;
use crate::dialect::in_words;
use crate::error::{ApiError, Problem};

/// Every request is answered in the workshop's words.
pub async fn in_the_workshops_words(State(app): State<App>, request: Request, next: Next) -> Response {
    let chosen = app.words.of(&app.db).await;
    in_words(chosen, next.run(request)).await
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
    /// With nanofarads or without.
    Capacitance,
}

impl DialectView {
    /// Of what is chosen.
    #[must_use]
    pub fn of(chosen: Dialect) -> Self {
        fn pair<T: Named>(choice: WordChoice) -> WordPair {
            WordPair { choice, words: T::ALL.iter().map(|w| w.name()).collect() }
        }
        // How capacitors are written hangs on the sheets that lie there, not on the trade's words.
        let usual = |name, words: Dialect| UsualDialect {
            name,
            words: Dialect { capacitance: chosen.capacitance, ..words },
        };
        use owl_core::dialect::{AnodeWord, EarthWord, HeaterWord, SupplyWord, ValveWord};
        Self {
            chosen,
            terms: chosen.terms().cloned().collect(),
            usual: vec![usual("British", Dialect::BRITISH), usual("American", Dialect::AMERICAN)],
            pairs: vec![
                pair::<ValveWord>(WordChoice::Valve),
                pair::<SupplyWord>(WordChoice::Supply),
                pair::<AnodeWord>(WordChoice::Anode),
                pair::<EarthWord>(WordChoice::Earth),
                pair::<HeaterWord>(WordChoice::Heater),
                pair::<CapacitanceStyle>(WordChoice::Capacitance),
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
    let mut tx = app.begin().await?;
    crate::table::workshop::choose_dialect(&mut *tx, chosen).await?;
    tx.commit().await?;
    app.words.set(chosen);
    Ok(Json(DialectView::of(chosen)))
}
