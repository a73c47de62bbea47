//! R1p: pairs and groups agree with each other better than with the sheet. The part that is further from its
//! mark goes; one that is itself near its limit goes with it.

use super::{Outcome, Partner, Reason, Rule, Verdict};
use crate::quantity::format::{percent, signed_percent};
use crate::reading::ReadQuantity;

/// How a part of a pair stands by itself.
#[derive(Debug, Clone, Copy)]
pub(super) struct Own {
    /// What was read.
    pub of: ReadQuantity,
    /// What it measures, in the base unit.
    pub measured: f64,
    /// Its mark, in the base unit.
    pub marked: f64,
    /// How far the halves may be apart, as a fraction of their mean.
    pub allowed: f64,
}

/// Counts the agreement with the others in a verdict of keep or watch.
pub(super) fn weigh(verdict: &mut Verdict, own: Own, partners: &[Partner]) {
    let off = |value: f64, mark: f64| (value / mark - 1.0).abs();
    let apart = |p: &Partner| {
        let (a, b) = (own.measured, p.measured_si);
        (a - b).abs() / f64::midpoint(a, b)
    };
    let Some(worst) = partners.iter().max_by(|a, b| apart(a).total_cmp(&apart(b))) else { return };
    let distance = signed_percent(apart(worst)).trim_start_matches('+').to_owned();
    let wanted = percent(own.allowed);
    let group = if partners.len() > 1 { "group" } else { "pair" };
    if apart(worst) <= own.allowed + 1e-9 {
        let text = format!("{group} with {}: {distance} apart, {wanted} allowed", names(partners));
        verdict.reasons.push(Reason::new(Rule::Pair, text));
        return;
    }
    let other = own.of.written(worst.measured_si);
    let text = format!("{group} with {} at {other}: {distance} apart, {wanted} wanted", worst.name);
    let (mine, theirs) = (off(own.measured, own.marked), off(worst.measured_si, worst.marked_si));
    let equally_far = (mine - theirs).abs() <= 1e-9;
    let near_its_limit = verdict.call == Outcome::Watch;
    verdict.reasons.insert(0, Reason::new(Rule::Pair, text));
    if equally_far || mine > theirs || near_its_limit {
        verdict.call = Outcome::Replace;
        verdict.next = vec![if equally_far || mine <= theirs {
            format!("fit a matched {group} for this one and {}", worst.name)
        } else {
            format!("fit one that matches {} at {other}", worst.name)
        }];
    } else {
        let at_first = verdict.reasons.remove(0);
        verdict.reasons.push(at_first);
        verdict.next.push(format!("{} is further off; match its successor to this one", worst.name));
    }
}

fn names(partners: &[Partner]) -> String {
    partners.iter().map(|p| p.name.as_str()).collect::<Vec<_>>().join(", ")
}
