//! Contacts of switches and relays (rule R25): cleaned before they are condemned, and read closed.

use super::finding::{Finding, Findings};
use super::{Case, Outcome, Rule, Verdict};
use crate::quantity::Ohm;
use crate::reading::ReadQuantity;

/// Up to this a contact is clean, the leads taken off (practice).
const CLEAN: Ohm = Ohm::computed(0.1);
/// Up to this it is heard in signal circuits and holds elsewhere (practice).
const POOR: Ohm = Ohm::computed(1.0);

/// Judges a contact by its resistance while it is closed.
pub(super) fn judge(case: Case<'_>) -> Verdict {
    let mut found = Findings::default();
    let closed: Vec<_> =
        case.readings.iter().enumerate().filter(|(_, r)| r.quantity == ReadQuantity::Resistance).collect();
    let rule = Rule::Contact;
    if let Some((i, r)) = closed.last().copied() {
        let before = closed.len() > 1;
        let cleaned = "work it twenty times with a drop of cleaner, leave the silver on, and read it again";
        let worn = "read again after cleaning: worn or pitted";
        found.push(
            match r.ohms() {
                None if before => Finding::new(Outcome::Replace, rule, format!("closed and open: {worn}")),
                None => Finding::new(Outcome::MeasureAgain, rule, "closed, and nothing flows").next(cleaned),
                Some(ohms) if ohms <= CLEAN => Finding::new(Outcome::Keep, rule, format!("{ohms} closed")),
                Some(ohms) if ohms <= POOR => {
                    let text = format!("{ohms} closed, above {CLEAN}: it crackles where little flows");
                    Finding::new(Outcome::Watch, rule, text).next(cleaned)
                }
                Some(ohms) if before => {
                    Finding::new(Outcome::Replace, rule, format!("{ohms} closed, {worn}"))
                }
                Some(ohms) => {
                    Finding::new(Outcome::MeasureAgain, rule, format!("{ohms} closed, above {POOR}"))
                        .next(cleaned)
                }
            }
            .by(i),
        );
    }
    found.settle("close it and read it in ohms, the leads held together first")
}
