//! What one piece of evidence says by itself, and how several settle into a verdict: the worst decides, and
//! what is not known yet weighs more than what is well.

use super::{Dial, Limits, Outcome, Reason, Rule, Threshold, Verdict};
use crate::part::Fact;
use crate::quantity::Fraction;
use crate::reading::pitfall::Warning;

/// What one piece of evidence says.
#[derive(Debug, Clone)]
pub(super) struct Finding {
    pub call: Outcome,
    pub certain: bool,
    pub reason: Reason,
    pub next: Vec<String>,
    pub reading: Option<usize>,
}

impl Finding {
    pub fn new(call: Outcome, rule: Rule, text: impl Into<String>) -> Self {
        Self { call, certain: true, reason: Reason::new(rule, text), next: vec![], reading: None }
    }

    pub fn next(mut self, next: impl Into<String>) -> Self {
        self.next.push(next.into());
        self
    }

    pub fn by(mut self, reading: usize) -> Self {
        self.reading = Some(reading);
        self
    }

    pub fn certain(mut self, certain: bool) -> Self {
        self.certain = certain;
        self
    }

    /// A trap: it bars a pass where the table says so, and is told in any case.
    pub fn trap(warning: &Warning) -> Self {
        Self {
            call: if warning.bars { Outcome::MeasureAgain } else { Outcome::Keep },
            certain: false,
            reason: Reason::from(Rule::Method, &warning.text, &warning.source),
            // What only colours a reading asks for nothing once it is taken.
            next: if warning.bars { vec![warning.next.clone()] } else { vec![] },
            reading: None,
        }
    }
}

/// All that was found of a part.
#[derive(Debug, Default)]
pub(super) struct Findings {
    pub all: Vec<Finding>,
    pub thresholds: Vec<Threshold>,
    pub dials: Vec<Dial>,
    pub asks: Vec<Fact>,
    pub limits: Option<Limits>,
    pub deviation: Option<Fraction>,
    pub overloaded: bool,
}

impl Findings {
    pub fn push(&mut self, finding: Finding) {
        self.all.push(finding);
    }

    /// Adds a trap that bars, if there is one.
    pub fn extend_first(&mut self, finding: Option<Finding>, reading: usize) {
        self.all.extend(finding.map(|f| f.by(reading)));
    }

    /// Asks for a fact once.
    pub fn ask(&mut self, fact: Fact) {
        if !self.asks.contains(&fact) {
            self.asks.push(fact);
        }
    }

    /// The verdict that they settle into. `nothing` is what to do where nothing was found at all.
    pub fn settle(mut self, nothing: &str) -> Verdict {
        self.all.sort_by_key(|f| std::cmp::Reverse(f.call.weight()));
        let call = self.all.first().map_or(Outcome::MeasureAgain, |f| f.call);
        let deciding: Vec<&Finding> = self.all.iter().filter(|f| f.call == call).collect();
        let certain = match call {
            Outcome::Replace => deciding.iter().any(|f| f.certain),
            Outcome::Keep | Outcome::Watch => !self.all.is_empty() && self.all.iter().all(|f| f.certain),
            Outcome::MeasureAgain => false,
        };
        let decided_by = deciding.iter().chain(&self.all.iter().collect::<Vec<_>>()).find_map(|f| f.reading);
        let mut next: Vec<String> = Vec::new();
        for text in deciding.iter().flat_map(|f| &f.next) {
            if !text.is_empty() && !next.contains(text) {
                next.push(text.clone());
            }
        }
        if call == Outcome::Replace && !next.iter().any(|n| n.starts_with("fit ")) {
            next.insert(0, "find what fits".to_owned());
        }
        if self.all.is_empty() {
            next.push(nothing.to_owned());
        }
        if call == Outcome::MeasureAgain {
            // What is not known yet is not changed by a better number, only by a bad one.
            self.thresholds.retain(|f| f.to == Outcome::Replace);
        }
        // What only asks for more facts has nothing to say once the part goes.
        let asks = if call == Outcome::Replace { vec![] } else { self.asks };
        Verdict {
            call,
            deviation: self.deviation,
            limits: self.limits,
            certain,
            decided_by,
            reasons: self.all.into_iter().map(|f| f.reason).collect(),
            next,
            thresholds: self.thresholds,
            dials: self.dials,
            asks,
            overloaded: self.overloaded,
        }
    }
}
