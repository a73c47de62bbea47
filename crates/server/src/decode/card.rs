//! The codes as the screen needs them: what can be clicked where, and the tables as bench cards.

use axum::Json;
use owl_core::marking::read::part_of;
use owl_core::marking::scheme::{Layout, Scheme, layouts};
use owl_core::marking::table::{Card, card};
use owl_core::marking::{Colour, diode};
use owl_core::named::Named;
use owl_core::part::PartKind;
use serde::Serialize;
use utoipa::ToSchema;

use crate::body::Query;
use crate::error::ApiError;

/// A way to read a row of colours.
#[derive(Debug, Serialize, ToSchema)]
pub struct SchemeView {
    /// Its name.
    pub scheme: Scheme,
    /// What the part is.
    pub part: PartKind,
    /// The orders in which its colours may stand; the longest shows every place.
    pub orders: Vec<OrderView>,
}

/// An order of colours.
#[derive(Debug, Serialize, ToSchema)]
pub struct OrderView {
    /// The code, as it is told.
    pub code: String,
    /// The places, first to last.
    pub places: Vec<PlaceView>,
}

/// A place for a colour.
#[derive(Debug, Serialize, ToSchema)]
pub struct PlaceView {
    /// What it stands for.
    pub place: String,
    /// The colours that mean something there.
    pub colours: Vec<Colour>,
}

/// The schemes in the order in which a bench meets them.
#[derive(Debug, Serialize, ToSchema)]
pub struct SchemesView {
    /// All of them.
    pub schemes: Vec<SchemeView>,
    /// The names of the bench cards.
    pub cards: Vec<Card>,
}

/// Every scheme with the colours that each of its places can have.
#[utoipa::path(get, path = "/api/schemes", tag = "tools", responses((status = 200, body = SchemesView)))]
pub async fn schemes() -> Json<SchemesView> {
    let schemes = Scheme::ALL.iter().map(|s| scheme_view(*s)).collect();
    Json(SchemesView { schemes, cards: Card::ALL.to_vec() })
}

fn scheme_view(scheme: Scheme) -> SchemeView {
    let orders = if scheme == Scheme::DiodeBands {
        vec![diode_order()]
    } else {
        layouts().iter().filter(|l| l.scheme == scheme).map(order).collect()
    };
    SchemeView { scheme, part: part_of(scheme), orders }
}

fn order(layout: &Layout) -> OrderView {
    let places = layout
        .places
        .iter()
        .enumerate()
        .map(|(i, role)| PlaceView { place: role.name().to_owned(), colours: layout.colours(i) })
        .collect();
    OrderView { code: layout.code.to_string(), places }
}

fn diode_order() -> OrderView {
    let digits: Vec<Colour> = Colour::ALL.iter().filter(|c| c.row().digit.is_some()).copied().collect();
    let place = |name: &str| PlaceView { place: name.to_owned(), colours: digits.clone() };
    let mut places: Vec<PlaceView> = ["digit", "digit", "digit", "digit"].iter().map(|n| place(n)).collect();
    let suffixes = diode::table().iter().filter(|r| r.place == diode::Place::Suffix);
    places.push(PlaceView { place: "letter".to_owned(), colours: suffixes.map(|r| r.colour).collect() });
    OrderView { code: "diode bands".to_owned(), places }
}

/// Which card.
#[derive(Debug, serde::Deserialize, utoipa::IntoParams)]
#[into_params(parameter_in = Query)]
pub struct CardQuestion {
    /// Its name.
    pub name: Card,
}

/// A table of a code, to be looked at or printed.
#[derive(Debug, Serialize, ToSchema)]
pub struct CardView {
    /// Its name.
    pub name: Card,
    /// In what order the colours or characters stand.
    pub order: Vec<String>,
    /// What stands over the columns.
    pub columns: Vec<String>,
    /// The rows.
    pub rows: Vec<CardRow>,
    /// Where the rows come from; rows name these by number, from 0.
    pub sources: Vec<String>,
}

/// A row of a card.
#[derive(Debug, Serialize, ToSchema)]
pub struct CardRow {
    /// The colour that it is about.
    pub colour: Option<Colour>,
    /// One text for each column.
    pub cells: Vec<String>,
    /// Where it comes from, as numbers in the list of sources.
    pub sources: Vec<usize>,
}

/// One table.
///
/// # Errors
/// 422 for a name that is none.
#[utoipa::path(get, path = "/api/card", tag = "tools", params(CardQuestion), responses(
    (status = 200, body = CardView)))]
pub async fn read_card(Query(question): Query<CardQuestion>) -> Result<Json<CardView>, ApiError> {
    let printed = card(question.name);
    let mut sources: Vec<String> = Vec::new();
    let rows = printed
        .rows
        .iter()
        .map(|row| CardRow {
            colour: row.colour,
            cells: row.cells.clone(),
            sources: row
                .sources
                .iter()
                .map(|s| {
                    let text = s.to_string();
                    sources.iter().position(|known| *known == text).unwrap_or_else(|| {
                        sources.push(text);
                        sources.len() - 1
                    })
                })
                .collect(),
        })
        .collect();
    let columns = printed.columns.iter().map(|c| (*c).to_owned()).collect();
    Ok(Json(CardView { name: question.name, order: printed.order, columns, rows, sources }))
}
