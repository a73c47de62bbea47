//! What is seen on a part counts whatever it reads: a vented can goes, and a scorched resistor inside its
//! tolerance is watched, with the question what cooked it.

use super::{Case, Outcome, Reason, Rule, Verdict};

/// Lets the looks count in a verdict that rests on readings so far.
pub(super) fn weigh(verdict: &mut Verdict, case: Case<'_>) {
    let kind = case.part.kind();
    for meaning in case.looks.iter().filter_map(|l| l.on(kind)) {
        let reason =
            Reason::from(Rule::VisualSign, format!("{}: {}", meaning.look, meaning.text), &meaning.source);
        verdict.overloaded |= meaning.burnt;
        let worse = match (meaning.call, verdict.call) {
            (Outcome::Replace, was) => was != Outcome::Replace,
            (Outcome::Watch, was) => was == Outcome::Keep,
            (Outcome::Keep | Outcome::MeasureAgain, _) => false,
        };
        if worse {
            verdict.call = meaning.call;
            verdict.reasons.insert(0, reason);
            if meaning.call == Outcome::Replace {
                verdict.certain = true;
                verdict.next = vec!["find what fits".to_owned()];
                verdict.asks.clear();
                // No reading would change it.
                verdict.thresholds.clear();
            }
        } else {
            verdict.reasons.push(reason);
        }
        // A test that was to settle a doubt is of no use once the part goes.
        let settled = verdict.call == Outcome::Replace && meaning.call == Outcome::Watch && !meaning.burnt;
        if !settled && !meaning.next.is_empty() && !verdict.next.contains(&meaning.next) {
            verdict.next.push(meaning.next.clone());
        }
    }
}
