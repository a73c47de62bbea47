//! The three schools: by which limits a workshop judges. The numbers are data, not code, and a workshop can
//! keep copies with numbers of its own.

use std::sync::LazyLock;

use serde::Deserialize;

use super::number::{PolicyNumber, row};
pub use super::school_name::School;
use crate::named::{Named, named};
use crate::part::MadeOf;
use crate::quantity::{Second, Unit};
use crate::source::Source;
use crate::table::rows;

named! {
    /// How a school's own limit meets the marked tolerance.
    "limit rule" LimitRule {
        /// The marked tolerance alone.
        Marked = "marked",
        /// The lesser of the two.
        Lesser = "lesser",
        /// The greater of the two.
        Greater = "greater",
    }
}

named! {
    /// Which of the three leakage limits decides on an old electrolytic. A new one is judged as new.
    "leakage rule" LeakageRule {
        /// The limit of new parts.
        Modern = "modern",
        /// The older military one.
        OlderMilitary = "older military",
        /// The bench figure or the older military one, whichever allows more.
        BenchOrMilitary = "bench or older military",
    }
}

/// A school as numbers and rules.
#[derive(Debug, Clone, PartialEq)]
pub struct Policy {
    /// The school.
    pub school: School,
    /// The tight variant.
    pub tight: bool,
    /// What the workshop calls its own copy; `None` for the school as it is.
    pub copy: Option<String>,
    /// How its limit for resistors meets the marked tolerance.
    pub limit: LimitRule,
    /// Which leakage limit decides.
    pub leakage: LeakageRule,
    /// The families that are replaced without testing.
    pub condemns: Vec<MadeOf>,
    /// The limit in words.
    pub in_words: String,
    /// Where the rules come from.
    pub source: Source,
    /// One for each [`PolicyNumber`], in the order of that list.
    numbers: Vec<f64>,
}

/// A school without the variant that was asked for.
#[derive(Debug, Clone, Copy, PartialEq, Eq, thiserror::Error)]
#[error("'{0}' has no tight variant; tight limits go with 'test first'")]
pub struct SchoolError(pub School);

/// A number that a school cannot have.
#[derive(Debug, Clone, Copy, PartialEq, thiserror::Error)]
#[error("{value} will not do: {least} to {most} is possible")]
pub struct NumberError {
    /// Which one.
    pub number: PolicyNumber,
    /// What was given.
    pub value: f64,
    /// The least possible.
    pub least: f64,
    /// The most possible.
    pub most: f64,
}

#[derive(Deserialize)]
struct Row {
    school: School,
    tight: String,
    limit: LimitRule,
    leakage: LeakageRule,
    condemns: String,
    in_words: String,
    source: Source,
}

static POLICIES: LazyLock<Vec<Policy>> = LazyLock::new(|| {
    rows::<Row>("school_rule.csv", include_str!("../../data/school_rule.csv"))
        .into_iter()
        .map(|r| {
            let tight = r.tight == "yes";
            let number = |n: &PolicyNumber| row(*n).map_or(0.0, |row| row.of(r.school, tight));
            Policy {
                school: r.school,
                tight,
                copy: None,
                limit: r.limit,
                leakage: r.leakage,
                condemns: r.condemns.split('|').filter_map(|f| MadeOf::from_name(f).ok()).collect(),
                in_words: r.in_words,
                source: r.source,
                numbers: PolicyNumber::ALL.iter().map(number).collect(),
            }
        })
        .collect()
});

impl Policy {
    /// The policy of a school, in its tight variant or not.
    ///
    /// # Errors
    /// [`SchoolError`] where the school has no tight variant.
    pub fn of(school: School, tight: bool) -> Result<&'static Self, SchoolError> {
        POLICIES.iter().find(|p| p.school == school && p.tight == tight).ok_or(SchoolError(school))
    }

    /// The policy where nobody has chosen one: the table's first, which tests first.
    #[must_use]
    pub fn unchosen() -> &'static Self {
        &POLICIES[0]
    }

    /// The policies to show beside each other: each school in its plain variant.
    pub fn side_by_side() -> impl Iterator<Item = &'static Self> {
        POLICIES.iter().filter(|p| !p.tight)
    }

    /// One of its numbers, in the base unit of that number.
    #[must_use]
    pub fn number_si(&self, number: PolicyNumber) -> f64 {
        self.numbers[number as usize]
    }

    /// One of its numbers in its unit.
    ///
    /// # Panics
    /// Where the table has that number in another unit.
    #[must_use]
    #[track_caller]
    pub fn get<U: Unit>(&self, number: PolicyNumber) -> U {
        assert!(row(number).is_some_and(|r| r.quantity == U::QUANTITY), "{number} is of another unit");
        U::of_known(self.number_si(number))
    }

    /// Sets one of a copy's numbers.
    ///
    /// # Errors
    /// [`NumberError`] outside what the table allows.
    pub fn set_si(&mut self, number: PolicyNumber, value: f64) -> Result<(), NumberError> {
        let (least, most) = row(number).map_or((f64::MIN, f64::MAX), |r| (r.least, r.most));
        // Rounded numbers of a form meet the ends of their range.
        if !value.is_finite() || value < least * (1.0 - 1e-9) || value > most * (1.0 + 1e-9) {
            return Err(NumberError { number, value, least, most });
        }
        if let Some(n) = self.numbers.get_mut(number as usize) {
            *n = value;
        }
        Ok(())
    }

    /// The name under which it is shown.
    #[must_use]
    pub fn called(&self) -> String {
        match &self.copy {
            Some(name) => name.clone(),
            None if self.tight => format!("{}, tight", self.school),
            None => self.school.to_string(),
        }
    }

    /// The fraction to either side of the mark within which a resistor of that marked tolerance stays.
    #[must_use]
    pub fn limit_for(&self, marked_fraction: f64) -> f64 {
        let own = self.number_si(PolicyNumber::LimitFraction);
        match self.limit {
            LimitRule::Marked => marked_fraction,
            LimitRule::Lesser => marked_fraction.min(own),
            LimitRule::Greater => marked_fraction.max(own),
        }
    }

    /// How long after the iron a composition part counts as hot.
    #[must_use]
    pub fn cool_after(&self) -> Second {
        self.get(PolicyNumber::CoolSeconds)
    }
}
