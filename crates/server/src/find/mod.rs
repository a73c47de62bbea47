//! One field that finds anything by its name: tickets, parts of open tickets, what lies in the drawers, rules.

use axum::Json;
use axum::extract::State;
use owl_core::drawers::search::words;
use owl_core::rulebook;
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;

use crate::app::App;
use crate::body::Query;
use crate::drawers::wire::LotView;
use crate::error::ApiError;
use crate::table::drawers::Question;
use crate::table::find;
use crate::text::checked_text;
use crate::ticket::wire::ShelfTicket;

/// So many of a kind are told where something was typed.
const MOST: u8 = 8;
/// So many tickets where nothing was.
const WHOLE_SHELF: usize = 300;

/// What is sought.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct Sought {
    /// As typed; nothing for the whole shelf.
    #[serde(default)]
    q: String,
    /// The open ticket: its parts come first.
    ticket: Option<Uuid>,
}

/// What was found, the best first.
#[derive(Debug, Serialize, ToSchema)]
pub struct FoundView {
    /// Tickets: the open ones first, by what waits.
    pub tickets: Vec<ShelfTicket>,
    /// Parts of open tickets.
    pub parts: Vec<FoundPart>,
    /// What lies in the drawers.
    pub lots: Vec<FoundLot>,
    /// Rules.
    pub rules: Vec<FoundRule>,
}

/// A part that was found.
#[derive(Debug, Serialize, ToSchema)]
pub struct FoundPart {
    /// Its ticket.
    pub ticket: Uuid,
    /// The set.
    pub set: String,
    /// Its name.
    pub name: String,
    /// What it is, as the line says it.
    #[serde(serialize_with = "crate::dialect::said")]
    pub what: String,
}

/// What was found in the drawers.
#[derive(Debug, Serialize, ToSchema)]
pub struct FoundLot {
    /// Its id.
    pub id: Uuid,
    /// What it is.
    pub description: String,
    /// How many there are.
    pub count: u32,
    /// Where.
    pub place: String,
}

/// A rule that was found.
#[derive(Debug, Serialize, ToSchema)]
pub struct FoundRule {
    /// Its number.
    pub number: String,
    /// What it is about.
    #[serde(serialize_with = "crate::dialect::said")]
    pub title: String,
}

/// Finds anything by its name. Nothing typed: the open tickets, by what waits.
///
/// # Errors
/// 422 for more than is looked at.
#[utoipa::path(get, path = "/api/find", operation_id = "find", tag = "workshop", params(Sought), responses(
    (status = 200, body = FoundView)))]
pub async fn find(State(app): State<App>, Query(asked): Query<Sought>) -> Result<Json<FoundView>, ApiError> {
    let q = checked_text("q", &asked.q, 80)?;
    let words_of_it = prefixes(&q);
    // Signs alone are no words, and not the whole shelf either.
    let sought = q.is_empty() || !words_of_it.is_empty();
    let mut rows = if sought { find::tickets(&app.db, &words_of_it).await? } else { vec![] };
    // The newest of what waits for the same comes first.
    rows.reverse();
    rows.sort_by_key(|r| r.counted().waits());
    rows.truncate(if q.is_empty() { WHOLE_SHELF } else { usize::from(MOST) });
    let tickets = rows.iter().map(ShelfTicket::of).collect::<Result<_, _>>()?;
    if q.is_empty() {
        return Ok(Json(FoundView { tickets, parts: vec![], lots: vec![], rules: vec![] }));
    }
    let parts = find::parts(&app.db, &q, &words_of_it, asked.ticket, i64::from(MOST)).await?;
    let question = Question { words: words(&q), kind: None, low: false, limit: i64::from(MOST), offset: 0 };
    let (lots, _) = crate::table::drawers::find_all(&app.db, &question).await?;
    let lots = lots.iter().map(LotView::of).collect::<Result<Vec<_>, _>>()?;
    let rules = rulebook::find(&q).into_iter().take(usize::from(MOST));
    Ok(Json(FoundView {
        tickets,
        parts: parts
            .into_iter()
            .map(|p| FoundPart { ticket: p.ticket_id, set: p.set_name, name: p.name, what: p.what })
            .collect(),
        lots: lots
            .into_iter()
            .map(|l| FoundLot { id: l.id, description: l.description, count: l.count, place: l.place })
            .collect(),
        rules: rules.map(|r| FoundRule { number: r.number.clone(), title: r.title.clone() }).collect(),
    }))
}

/// Every word by its beginning, as the database searches; empty where there is no word.
fn prefixes(q: &str) -> String {
    let words = q.split(|c: char| !c.is_alphanumeric()).filter(|w| !w.is_empty());
    words.map(|w| format!("'{w}':*")).collect::<Vec<_>>().join(" & ")
}

#[cfg(test)]
mod tests {
    use super::prefixes;

    #[test]
    fn words_are_sought_by_their_beginnings_and_nothing_of_a_query_is_left() {
        assert_eq!(prefixes("marsh  En"), "'marsh':* & 'En':*");
        assert_eq!(prefixes("7' | !(x) \\"), "'7':* & 'x':*");
        assert_eq!(prefixes(" - "), "");
    }
}
