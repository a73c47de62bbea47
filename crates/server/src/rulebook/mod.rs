//! The rule book, served: what a rule says, with the numbers of the school that a ticket follows.

use axum::Json;
use axum::extract::{Path, State};
use owl_core::named::Named;
use owl_core::quantity::format::format;
use owl_core::rulebook::{Publication, RuleText, register, rule, rules};
use owl_core::verdict::number::row;
use owl_core::verdict::{Policy, PolicyNumber};
use serde::{Deserialize, Serialize};
use utoipa::{IntoParams, ToSchema};
use uuid::Uuid;

use crate::app::App;
use crate::body::Query;
use crate::error::{ApiError, Problem};

/// One rule.
#[derive(Debug, Serialize, ToSchema)]
pub struct RuleView {
    /// Its number: `R4s`.
    pub number: String,
    /// What it is about.
    #[serde(serialize_with = "crate::dialect::said")]
    pub title: String,
    /// What it says.
    #[serde(serialize_with = "crate::dialect::said")]
    pub says: String,
    /// Its formula.
    #[serde(serialize_with = "crate::dialect::said")]
    pub formula: String,
    /// The units of what goes in, and its range.
    #[serde(serialize_with = "crate::dialect::said")]
    pub units: String,
    /// Where it comes from.
    pub source: String,
    /// What it cannot tell.
    #[serde(serialize_with = "crate::dialect::said")]
    pub limits: String,
    /// The numbers in it that are judgement, as the school has them.
    pub judgement: Vec<JudgementNumber>,
    /// The tests that hold it.
    pub held_by: String,
}

/// A number that is judgement.
#[derive(Debug, Serialize, ToSchema)]
pub struct JudgementNumber {
    /// What it is.
    #[serde(serialize_with = "crate::dialect::said")]
    pub label: String,
    /// As shown.
    pub value: String,
    /// Where it comes from.
    pub source: String,
}

/// The rule book and the register of its sources.
#[derive(Debug, Serialize, ToSchema)]
pub struct RulebookView {
    /// The rules, in order.
    pub rules: Vec<RuleView>,
    /// What they and the tables point to.
    pub publications: Vec<PublicationView>,
}

/// A publication that tables point to.
#[derive(Debug, Serialize, ToSchema)]
pub struct PublicationView {
    /// Its title.
    pub title: String,
    /// Its edition; `as recalled` where nobody looked it up.
    pub edition: String,
    /// What it is about.
    pub what: String,
}

/// Whose numbers are shown.
#[derive(Debug, Deserialize, IntoParams)]
#[into_params(parameter_in = Query)]
pub struct WhoseNumbers {
    /// The ticket whose school it is; 'test first' where it does not say.
    pub ticket: Option<Uuid>,
}

impl RuleView {
    fn of(r: &RuleText, policy: &Policy) -> Self {
        let number = |name: &String| {
            let number = PolicyNumber::from_name(name).ok()?;
            let row = row(number)?;
            Some(JudgementNumber {
                label: row.label.clone(),
                value: format(row.quantity, policy.number_si(number)).to_string(),
                source: row.source.to_string(),
            })
        };
        Self {
            number: r.number.clone(),
            title: r.title.clone(),
            says: r.says.clone(),
            formula: r.formula.clone(),
            units: r.units.clone(),
            source: r.source.clone(),
            limits: r.limits.clone(),
            judgement: r.judgement.iter().filter_map(number).collect(),
            held_by: r.held_by.clone(),
        }
    }
}

impl From<&Publication> for PublicationView {
    fn from(p: &Publication) -> Self {
        Self { title: p.title.clone(), edition: p.edition.clone(), what: p.what.clone() }
    }
}

async fn policy(app: &App, whose: &WhoseNumbers) -> Result<Policy, ApiError> {
    match whose.ticket {
        Some(id) => {
            let ticket = crate::table::ticket::find(&app.db, id).await?;
            Ok(crate::table::policy::of_ticket(&app.db, &ticket).await?)
        }
        None => Ok(Policy::unchosen().clone()),
    }
}

/// The whole rule book.
///
/// # Errors
/// 404 for a ticket that is not there.
#[utoipa::path(get, path = "/api/rules", operation_id = "rulebook", tag = "rules", params(WhoseNumbers), responses(
    (status = 200, body = RulebookView), (status = 404, body = Problem)))]
pub async fn all(
    State(app): State<App>,
    Query(whose): Query<WhoseNumbers>,
) -> Result<Json<RulebookView>, ApiError> {
    let policy = policy(&app, &whose).await?;
    Ok(Json(RulebookView {
        rules: rules().iter().map(|r| RuleView::of(r, &policy)).collect(),
        publications: register().iter().map(PublicationView::from).collect(),
    }))
}

/// One rule.
///
/// # Errors
/// 404.
#[utoipa::path(get, path = "/api/rules/{number}", operation_id = "rule", tag = "rules",
    params(("number" = String, Path, description = "`R4s`"), WhoseNumbers), responses(
    (status = 200, body = RuleView), (status = 404, body = Problem)))]
pub async fn one(
    State(app): State<App>,
    Path(number): Path<String>,
    Query(whose): Query<WhoseNumbers>,
) -> Result<Json<RuleView>, ApiError> {
    let found = rule(&number).ok_or_else(|| ApiError::no_such("rule"))?;
    Ok(Json(RuleView::of(found, &policy(&app, &whose).await?)))
}
