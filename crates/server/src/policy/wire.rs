//! The JSON shapes of policies.

use owl_core::part::MadeOf;
use std::collections::BTreeMap;

use owl_core::named::Named;
use owl_core::quantity::Quantity;
use owl_core::quantity::format::format;
use owl_core::quantity::parse::best;
use owl_core::verdict::number::{NumberRow, numbers};
use owl_core::verdict::{LeakageRule, LimitRule, Policy, PolicyNumber, School};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use crate::error::ApiError;
use crate::table::policy::PolicyRow;

/// The schools, and the workshop's own copies of them.
#[derive(Debug, Serialize, ToSchema)]
pub struct PoliciesView {
    /// The schools as they are, the tight variant among them.
    pub schools: Vec<PolicyView>,
    /// The workshop's copies.
    pub copies: Vec<PolicyView>,
    /// What each number is.
    pub numbers: Vec<NumberView>,
    /// Families that a school can condemn unmeasured.
    pub families: Vec<MadeOf>,
    /// How a limit can meet the marked tolerance.
    pub limits: Vec<LimitRule>,
    /// Which leakage limits can decide.
    pub leakages: Vec<LeakageRule>,
}

/// What a number is.
#[derive(Debug, Serialize, ToSchema)]
pub struct NumberView {
    /// Its name.
    pub number: PolicyNumber,
    /// In words.
    #[serde(serialize_with = "crate::dialect::said")]
    pub label: String,
    /// The least that it may be, as shown.
    pub least: String,
    /// The most that it may be, as shown.
    pub most: String,
    /// Where it comes from.
    pub source: String,
}

/// A school or a copy of one.
#[derive(Debug, Serialize, ToSchema)]
pub struct PolicyView {
    /// Of a copy.
    pub id: Option<Uuid>,
    /// Of a copy; rises with every change.
    pub version: Option<i32>,
    /// What it is called.
    pub name: String,
    /// The school.
    pub school: School,
    /// The tight variant.
    pub tight: bool,
    /// How its limit meets the marked tolerance.
    pub limit: LimitRule,
    /// Which leakage limit decides.
    pub leakage: LeakageRule,
    /// Families that are replaced without testing.
    pub condemns: Vec<MadeOf>,
    /// Its numbers, as shown, in the order of the table.
    pub values: Vec<ValueView>,
    /// The school in a line.
    #[serde(serialize_with = "crate::dialect::said")]
    pub in_words: String,
    /// Where its rules come from.
    pub source: String,
}

/// One number.
#[derive(Debug, Serialize, ToSchema)]
pub struct ValueView {
    /// Which.
    pub number: PolicyNumber,
    /// As shown, and as it can be typed.
    pub text: String,
    /// Whether a copy has it other than its school.
    pub differs: bool,
}

/// A copy to be made or changed.
#[derive(Debug, Deserialize, ToSchema)]
pub struct PolicyBody {
    /// Chosen by the client, so that sending twice makes one.
    pub id: Option<Uuid>,
    /// The version that was seen, where it is changed.
    pub version: Option<i32>,
    /// What the workshop calls it.
    #[schema(min_length = 1, max_length = 40)]
    pub name: String,
    /// The school that it is a copy of.
    pub school: School,
    /// Of the tight variant.
    #[serde(default)]
    pub tight: bool,
    /// How its limit meets the marked tolerance; the school's way where it does not say.
    pub limit: Option<LimitRule>,
    /// Which leakage limit decides; the school's where it does not say.
    pub leakage: Option<LeakageRule>,
    /// Families that are replaced without testing; the school's where it does not say.
    pub condemns: Option<Vec<MadeOf>>,
    /// Numbers as typed, by name; those left out are the school's.
    #[serde(default)]
    pub numbers: BTreeMap<String, String>,
}

impl PoliciesView {
    /// All schools and copies.
    ///
    /// # Errors
    /// [`ApiError::Internal`] for rows that cannot be.
    pub fn of(copies: &[PolicyRow]) -> Result<Self, ApiError> {
        let tight = Policy::of(owl_core::verdict::School::TestFirst, true).ok();
        Ok(Self {
            schools: Policy::side_by_side().chain(tight).map(|p| PolicyView::of(p, None)).collect(),
            copies: copies
                .iter()
                .map(|row| Ok(PolicyView::of(&row.policy()?, Some(row))))
                .collect::<Result<_, ApiError>>()?,
            numbers: numbers().iter().map(NumberView::of).collect(),
            families: owl_core::part::MadeOf::ALL.to_vec(),
            limits: owl_core::verdict::LimitRule::ALL.to_vec(),
            leakages: owl_core::verdict::LeakageRule::ALL.to_vec(),
        })
    }
}

impl NumberView {
    fn of(row: &NumberRow) -> Self {
        Self {
            number: row.setting,
            label: row.label.clone(),
            least: format(row.quantity, row.least).to_string(),
            most: format(row.quantity, row.most).to_string(),
            source: row.source.to_string(),
        }
    }
}

impl PolicyView {
    fn of(p: &Policy, row: Option<&PolicyRow>) -> Self {
        let school = Policy::of(p.school, p.tight).ok();
        Self {
            id: row.map(|r| r.id),
            version: row.map(|r| r.version),
            name: p.called(),
            school: p.school,
            tight: p.tight,
            limit: p.limit,
            leakage: p.leakage,
            condemns: p.condemns.to_vec(),
            values: numbers()
                .iter()
                .map(|n| ValueView {
                    number: n.setting,
                    text: format(n.quantity, p.number_si(n.setting)).to_string(),
                    differs: school.is_some_and(|s| s.number_si(n.setting) != p.number_si(n.setting)),
                })
                .collect(),
            in_words: p.in_words.clone(),
            source: p.source.to_string(),
        }
    }
}

impl PolicyBody {
    /// The policy that was typed.
    ///
    /// # Errors
    /// 422 with the input to blame.
    pub fn policy(&self) -> Result<Policy, ApiError> {
        let school = Policy::of(self.school, self.tight).map_err(|e| ApiError::field("tight", e))?;
        let mut policy = school.clone();
        policy.limit = self.limit.unwrap_or(policy.limit);
        policy.leakage = self.leakage.unwrap_or(policy.leakage);
        if let Some(condemns) = &self.condemns {
            policy.condemns = condemns.clone();
        }
        for (name, text) in &self.numbers {
            let field = || format!("numbers.{name}");
            let number = PolicyNumber::from_name(name).map_err(|e| ApiError::field(field(), e))?;
            let quantity =
                numbers().iter().find(|n| n.setting == number).map_or(Quantity::Ratio, |n| n.quantity);
            // What was shown and not touched is not read back with its digits lost.
            if format(quantity, policy.number_si(number)).to_string() == text.trim() {
                continue;
            }
            let bare = quantity == Quantity::Fraction && text.trim().parse::<f64>().is_ok();
            let text = if bare { format!("{}%", text.trim()) } else { text.clone() };
            let value = best(quantity, &text).map_err(|e| ApiError::field(field(), e))?;
            policy.set_si(number, value).map_err(|e| {
                let (least, most) = (format(quantity, e.least), format(quantity, e.most));
                ApiError::field(field(), format!("{least} to {most} is possible"))
            })?;
        }
        Ok(policy)
    }
}
