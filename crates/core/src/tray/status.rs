//! How far a part is on the tray, which step is next, and in which of the shelf's counts it stands.

use super::installed::Installed;
use super::{Decision, Progress, TrayPart};
use crate::caution::Step;
use crate::named::named;
use crate::part::PartKind;
use crate::proof::ProofOutcome;
use crate::verdict::{Outcome, Verdict};

named! {
    /// What is to be done on a part, as the shelf counts it.
    "to do" ToDo {
        /// Nothing was measured of it, or the set is worse for what was fitted.
        Measure = "to measure",
        /// Measured, and nobody has decided.
        Decide = "to decide",
        /// It goes, and nothing has gone in.
        Fit = "to fit",
        /// What went in is not proven, or left the set as it was.
        Prove = "to prove",
        /// Nothing.
        Nothing = "nothing",
    }
}

/// Where a part is.
#[derive(Debug, Clone, PartialEq)]
pub struct PartStatus {
    /// What has happened to it so far.
    pub progress: Progress,
    /// The step that is next.
    pub step: Step,
    /// The steps that there are for such a part.
    pub steps: Vec<Step>,
}

/// The last decision, while it holds: nothing was measured, tested, voided or fitted since.
#[must_use]
pub fn decided(part: &TrayPart) -> Option<Decision> {
    part.decisions.last().copied().filter(|d| holds(part, d))
}

/// Whether nothing happened to a part since a decision that would make it a decision about something else.
#[must_use]
pub fn holds(part: &TrayPart, decision: &Decision) -> bool {
    let at = decision.decided_at;
    let read = part.readings.iter().any(|r| r.taken_at > at || r.voided_at.is_some_and(|v| v > at));
    let tested = part.junctions.iter().any(|j| j.taken_at > at);
    let fitted = part.fittings.iter().any(|f| f.withdrawn_at.is_none() && f.fitted_at > at);
    !(read || tested || fitted)
}

/// Whether it was last decided that a part goes.
#[must_use]
pub fn goes(part: &TrayPart) -> bool {
    part.decisions.last().is_some_and(|d| d.decided == Outcome::Replace)
}

/// The steps that there are for a kind of part. A lamp lights or not: there is nothing to measure and judge.
#[must_use]
pub fn steps(kind: PartKind) -> Vec<Step> {
    use crate::named::Named;
    match kind {
        PartKind::Resistor
        | PartKind::Capacitor
        | PartKind::Coil
        | PartKind::Diode
        | PartKind::Transistor
        | PartKind::Ic
        | PartKind::Valve
        | PartKind::Fuse
        | PartKind::Switch
        | PartKind::Loudspeaker => Step::ALL.to_vec(),
        PartKind::Lamp => vec![Step::Read, Step::Fit, Step::Prove],
    }
}

/// How far a part has come, with the verdict on what sits there.
#[must_use]
pub fn status(part: &TrayPart, sits: &Installed, verdict: Option<&Verdict>) -> PartStatus {
    // A school can condemn what nobody has measured, and a look can too.
    let settled =
        verdict.map(|v| v.call).filter(|c| !sits.readings.is_empty() || *c != Outcome::MeasureAgain);
    let named = part.mark.is_some() || part.marked_si.or(part.sheet_si).is_some();
    let progress = Progress {
        marked: sits.part.is_some() || named,
        verdict: settled,
        decided: decided(part).map(|d| d.decided),
        fitted: part.fitting().is_some(),
        proof: part.fitting().and_then(|f| f.proof),
    };
    let (_, next) = progress.status();
    let steps = steps(part.kind);
    let step = if steps.contains(&next) { next } else { Step::Fit };
    PartStatus { progress, step, steps }
}

/// In which of the shelf's counts a part stands. It follows from what happened to the part alone, so that a ticket's
/// counts need no verdicts.
#[must_use]
pub fn to_do(part: &TrayPart) -> ToDo {
    if let Some(f) = part.fitting() {
        return match f.proof {
            None | Some(ProofOutcome::AsBefore) => ToDo::Prove,
            Some(ProofOutcome::Better) => ToDo::Nothing,
            Some(ProofOutcome::Worse) => ToDo::Measure,
        };
    }
    let measured = part.readings.iter().any(|r| r.voided_at.is_none());
    match (decided(part).map(|d| d.decided), measured) {
        (Some(Outcome::Replace), _) => ToDo::Fit,
        (Some(Outcome::MeasureAgain), _) => ToDo::Measure,
        (Some(Outcome::Keep | Outcome::Watch), _) => ToDo::Nothing,
        (None, true) => ToDo::Decide,
        (None, false) if matches!(part.kind, PartKind::Lamp | PartKind::Ic) => ToDo::Nothing,
        (None, false) => ToDo::Measure,
    }
}
