//! The three schools: which limits a workshop judges by. The numbers are data, not code.

use std::sync::LazyLock;

use serde::Deserialize;

use crate::named::named;
use crate::quantity::Second;
use crate::source::Source;
use crate::table::rows;

named! {
    /// A way of judging parts.
    "school" School {
        /// Evidence decides.
        TestFirst = "test first",
        /// Known-bad families go unmeasured.
        ReplaceOnSight = "replace on sight",
        /// Everything that is safe and works stays.
        KeepOriginal = "keep original",
    }
}

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

/// A school as numbers.
#[derive(Debug, Clone, PartialEq)]
pub struct Policy {
    /// The school.
    pub school: School,
    /// The tight variant.
    pub tight: bool,
    /// How its limit meets the marked tolerance.
    pub limit: LimitRule,
    /// Its own limit, as a fraction; not used by [`LimitRule::Marked`].
    pub limit_fraction: f64,
    /// From this share of the limit on a part is watched.
    pub watch_from: f64,
    /// How far the halves of a pair may be apart, as a fraction of their mean.
    pub pair_fraction: f64,
    /// A new part's watts are at least this times what it dissipates; 2 to 5.
    pub watt_factor: f64,
    /// How long after the iron a composition part counts as hot.
    pub cool_after: Second,
    /// The limit in words.
    pub in_words: String,
    /// Where the numbers come from.
    pub source: Source,
}

/// A school without the variant that was asked for.
#[derive(Debug, Clone, Copy, PartialEq, Eq, thiserror::Error)]
#[error("'{0}' has no tight variant; tight limits go with 'test first'")]
pub struct SchoolError(pub School);

#[derive(Deserialize)]
struct Row {
    school: School,
    tight: String,
    limit: LimitRule,
    limit_fraction: Option<f64>,
    watch_from: f64,
    pair_fraction: f64,
    watt_factor: f64,
    cool_seconds: f64,
    in_words: String,
    source: Source,
}

static POLICIES: LazyLock<Vec<Policy>> = LazyLock::new(|| {
    rows::<Row>("school.csv", include_str!("../../data/school.csv"))
        .into_iter()
        .filter_map(|r| {
            Some(Policy {
                school: r.school,
                tight: r.tight == "yes",
                limit: r.limit,
                limit_fraction: r.limit_fraction.unwrap_or(0.0),
                watch_from: r.watch_from,
                pair_fraction: r.pair_fraction,
                watt_factor: r.watt_factor,
                cool_after: Second::new(r.cool_seconds).ok()?,
                in_words: r.in_words,
                source: r.source,
            })
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

    /// The policies to show beside each other: each school in its plain variant.
    pub fn side_by_side() -> impl Iterator<Item = &'static Self> {
        POLICIES.iter().filter(|p| !p.tight)
    }

    /// The fraction to either side of the mark within which a part of that marked tolerance stays.
    #[must_use]
    pub fn limit_for(&self, marked_fraction: f64) -> f64 {
        match self.limit {
            LimitRule::Marked => marked_fraction,
            LimitRule::Lesser => marked_fraction.min(self.limit_fraction),
            LimitRule::Greater => marked_fraction.max(self.limit_fraction),
        }
    }
}
