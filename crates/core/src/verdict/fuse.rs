//! Fuses (rule R24): one that is open has done its work, and the question is what made it.

use super::finding::{Finding, Findings};
use super::{Case, Outcome, Rule, Verdict};
use crate::part::{Fuse, VisualSign};
use crate::quantity::Volt;
use crate::reading::ReadQuantity;

/// What a fuse's wire drops at its current at the most (practice: small ones a volt or two).
const DROP: Volt = Volt::computed(3.0);

/// Judges a fuse by its resistance.
pub(super) fn judge(case: Case<'_>, part: &Fuse) -> Verdict {
    let mut found = Findings::default();
    if let Some((i, r)) = case.newest(ReadQuantity::Resistance) {
        let rated = part.rated;
        match r.ohms() {
            None => {
                found.overloaded = true;
                let next = if case.looks.contains(&VisualSign::Scorched) {
                    "black inside: a dead short behind it; find it in ohms before another goes in"
                } else {
                    "a fine break: tired, or a surge at switch-on; read what it fed in ohms before another goes in"
                };
                found.push(
                    Finding::new(Outcome::Replace, Rule::Fuse, "it is open: it has blown").by(i).next(next),
                );
            }
            Some(ohms) if ohms * rated <= DROP => {
                let text = format!("{ohms}: {} at its {rated}", ohms * rated);
                found.push(Finding::new(Outcome::Keep, Rule::Fuse, text).by(i));
            }
            Some(ohms) => {
                let text = format!("{ohms}: {} at its {rated}, more than {DROP}", ohms * rated);
                let next = "clean its caps and its holder, and read it again";
                found.push(Finding::new(Outcome::Watch, Rule::Fuse, text).by(i).next(next));
            }
        }
    }
    found.settle("read it in ohms, out of its holder")
}
