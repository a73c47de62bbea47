//! The JSON shapes of the drawers.

use owl_core::drawers::{Condition, Leads};
use owl_core::part::{MadeOf, PartKind, SafetyClass};
use std::collections::BTreeMap;

use owl_core::drawers::csv::{COLUMNS, price_text, write_row};
use owl_core::drawers::shopping::ShoppingRow;
use owl_core::named::Named;
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;

use crate::dialect::put;
use crate::error::ApiError;
use crate::table::drawers::LotRow;

/// What is asked of the drawers.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct DrawerSearch {
    /// Value, volts, type, place, in any order: `0.047 630`.
    #[param(max_length = 200)]
    pub search: Option<String>,
    /// Of one kind only.
    #[param(inline)]
    pub kind: Option<PartKind>,
    /// Only what has run low.
    pub low: Option<bool>,
    /// At most so many, up to 500.
    #[param(minimum = 1, maximum = 500)]
    pub limit: Option<i64>,
    /// After so many.
    #[param(minimum = 0)]
    pub offset: Option<i64>,
}

/// What lies in the drawers.
#[derive(Debug, Serialize, ToSchema)]
pub struct DrawersView {
    /// By kind and value.
    pub lots: Vec<LotView>,
    /// How many fit the question.
    pub total: i64,
    /// How many lots there are in all.
    pub all: i64,
    /// How many have run low.
    pub low: i64,
    /// The columns of a row of CSV, and the words that some of them take.
    pub columns: Vec<ColumnView>,
}

/// A column of a row.
#[derive(Debug, Serialize, ToSchema)]
pub struct ColumnView {
    /// As it is called in CSV.
    pub name: String,
    /// The words that it takes; empty for anything.
    pub words: Vec<String>,
}

/// The columns with their words.
#[must_use]
pub fn columns() -> Vec<ColumnView> {
    fn names<T: Named>() -> Vec<String> {
        T::ALL.iter().map(|t| t.name().to_owned()).collect()
    }
    let words = |column: &str| match column {
        "kind" => names::<owl_core::part::PartKind>(),
        "family" => names::<owl_core::part::MadeOf>(),
        "safety" => names::<owl_core::part::SafetyClass>(),
        "leads" => names::<owl_core::drawers::Leads>(),
        "condition" => names::<owl_core::drawers::Condition>(),
        _ => vec![],
    };
    COLUMNS.iter().map(|c| ColumnView { name: (*c).to_owned(), words: words(c) }).collect()
}

/// Pieces of one sort in one place.
#[derive(Debug, Serialize, ToSchema)]
pub struct LotView {
    /// Its id.
    pub id: Uuid,
    /// Rises with every change.
    pub version: i32,
    /// What it is.
    pub kind: PartKind,
    /// How it is made.
    pub family: Option<MadeOf>,
    /// Its value as shown; its type number where it has none.
    #[serde(serialize_with = "crate::dialect::said")]
    pub value_text: String,
    /// All of it in a line.
    #[serde(serialize_with = "crate::dialect::said")]
    pub description: String,
    /// The same without the value.
    #[serde(serialize_with = "crate::dialect::said")]
    pub rest_text: String,
    /// How many.
    pub count: u32,
    /// Where.
    pub place: String,
    /// In which condition.
    pub condition: Condition,
    /// Whether it must be tested before it is fitted.
    pub needs_test: bool,
    /// Its safety class.
    pub safety: Option<SafetyClass>,
    /// How its leads come out.
    pub leads: Option<Leads>,
    /// What one costs.
    pub price: Option<String>,
    /// Whether it has run low.
    pub low: bool,
    /// Every column as it is written in CSV, for the form.
    pub fields: BTreeMap<String, String>,
}

impl LotView {
    /// A lot as it is sent.
    ///
    /// # Errors
    /// [`ApiError::Internal`] for a row that cannot be.
    pub fn of(row: &LotRow) -> Result<Self, ApiError> {
        let lot = row.lot()?;
        let written = write_row(&row.id.to_string(), &lot);
        // What is a number is written as the workshop writes it; what was typed stays as it was.
        let shown = |c: &str, v: String| if matches!(c, "value" | "measured") { put(&v) } else { v };
        let fields =
            COLUMNS.iter().zip(written).skip(1).map(|(c, v)| ((*c).to_owned(), shown(c, v))).collect();
        let p = &lot.piece;
        Ok(Self {
            id: row.id,
            version: row.version,
            kind: p.kind,
            family: p.family,
            value_text: p.value_text(),
            description: p.to_string(),
            rest_text: p.rest_text(),
            count: lot.count,
            place: lot.place.clone(),
            condition: lot.condition,
            needs_test: lot.condition.needs_test(),
            safety: p.safety,
            leads: p.leads,
            price: lot.price_hundredths.map(price_text),
            low: lot.count < lot.low_water,
            fields,
        })
    }
}

/// A new lot: each column as it is typed.
#[derive(Debug, Deserialize, ToSchema)]
pub struct NewLot {
    /// Chosen by the client, so that sending twice adds one lot.
    pub id: Uuid,
    /// By the names of the columns; `kind`, `count` and a value or type are needed.
    pub fields: BTreeMap<String, String>,
}

/// A change of a lot; columns that are left out stay.
#[derive(Debug, Deserialize, ToSchema)]
pub struct LotChange {
    /// The version that was seen.
    pub version: i32,
    /// By the names of the columns.
    pub fields: BTreeMap<String, String>,
}

/// Pieces taken out of a drawer by hand, or put into it.
#[derive(Debug, Deserialize, ToSchema)]
pub struct CountChange {
    /// Chosen by the client, so that sending twice counts once.
    pub key: Option<Uuid>,
    /// More, or with a minus less.
    #[schema(minimum = -1000, maximum = 1000)]
    pub by: i32,
}

/// What is to be bought.
#[derive(Debug, Serialize, ToSchema)]
pub struct ShoppingView {
    /// Equal pieces in one line.
    pub lines: Vec<ShoppingLine>,
    /// What all of it costs, where every price is known.
    pub cost: Option<String>,
    /// Parts for which nothing is known to buy.
    pub without: Vec<String>,
}

/// A line of the list.
#[derive(Debug, Serialize, ToSchema)]
pub struct ShoppingLine {
    /// What.
    #[serde(serialize_with = "crate::dialect::said")]
    pub description: String,
    /// How many are lacking.
    pub lacking: u32,
    /// How many to order.
    pub order: u32,
    /// For which parts and drawers.
    pub wanted_for: Vec<String>,
    /// What one costs.
    pub price: Option<String>,
}

impl From<&ShoppingRow> for ShoppingLine {
    fn from(l: &ShoppingRow) -> Self {
        Self {
            description: l.piece.to_string(),
            lacking: l.lacking,
            order: l.order,
            wanted_for: l.wanted_for.clone(),
            price: l.price_hundredths.map(price_text),
        }
    }
}
