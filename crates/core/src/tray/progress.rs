//! How far a part has come, and which of the five steps is next.

use crate::caution::Step;
use crate::named::named;
use crate::proof::ProofOutcome;
use crate::verdict::Outcome;

named! {
    /// How far a part has come.
    "status" Status {
        /// Its marking is not known.
        Unread = "unread",
        /// Nothing was measured yet.
        Unmeasured = "unmeasured",
        /// Measured, with a verdict that nobody has decided on.
        Judged = "judged",
        /// Decided: it stays, or goes, or is measured again.
        Decided = "decided",
        /// Something else was fitted and is not proven.
        Fitted = "fitted",
        /// What was fitted works.
        Proven = "proven",
        /// What was fitted left the set as it was: it is proven anew once something else is mended.
        AsBefore = "as before",
        /// The set is worse for what was fitted.
        Worse = "worse",
    }
}

/// What has happened to a part so far.
#[derive(Debug, Clone, Copy, Default, PartialEq, Eq)]
pub struct Progress {
    /// Whether there is a value to judge against.
    pub marked: bool,
    /// The verdict on its readings, where there are any.
    pub verdict: Option<Outcome>,
    /// What was decided, unless something was measured since.
    pub decided: Option<Outcome>,
    /// Whether something was fitted.
    pub fitted: bool,
    /// How the set was for it, by the last proof.
    pub proof: Option<ProofOutcome>,
}

impl Progress {
    /// How much the part needs a hand: what made it worse or goes first, then what is not decided, then what nobody has
    /// measured; what is done last (practice).
    #[must_use]
    pub fn urgency(self) -> u8 {
        match (self.status().0, self.decided.or(self.verdict)) {
            (Status::Worse, _) => 9,
            (Status::Judged | Status::Decided, Some(Outcome::Replace)) => 8,
            (Status::Fitted, _) => 7,
            (Status::Judged | Status::Decided, Some(Outcome::MeasureAgain)) => 6,
            (Status::Unread | Status::Unmeasured, _) => 5,
            (Status::Judged, Some(Outcome::Watch)) | (Status::AsBefore, _) => 4,
            (Status::Decided, Some(Outcome::Watch)) => 3,
            (Status::Judged, _) => 2,
            (Status::Decided, _) => 1,
            (Status::Proven, _) => 0,
        }
    }

    /// The status and the step that is next.
    #[must_use]
    pub fn status(self) -> (Status, Step) {
        match (self.fitted, self.proof) {
            (true, Some(ProofOutcome::Better)) => return (Status::Proven, Step::Prove),
            (true, Some(ProofOutcome::AsBefore)) => return (Status::AsBefore, Step::Prove),
            (true, Some(ProofOutcome::Worse)) => return (Status::Worse, Step::Measure),
            (true, None) => return (Status::Fitted, Step::Prove),
            (false, _) => {}
        }
        match (self.marked, self.decided, self.verdict) {
            (false, _, _) => (Status::Unread, Step::Read),
            (true, Some(Outcome::Replace), _) => (Status::Decided, Step::Fit),
            (true, Some(Outcome::MeasureAgain), _) => (Status::Decided, Step::Measure),
            (true, Some(Outcome::Keep | Outcome::Watch), _) => (Status::Decided, Step::Judge),
            (true, None, None) => (Status::Unmeasured, Step::Measure),
            (true, None, Some(_)) => (Status::Judged, Step::Judge),
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_steps_follow_each_other() {
        let mut p = Progress::default();
        assert_eq!(p.status(), (Status::Unread, Step::Read));
        p.marked = true;
        assert_eq!(p.status(), (Status::Unmeasured, Step::Measure));
        p.verdict = Some(Outcome::Replace);
        assert_eq!(p.status(), (Status::Judged, Step::Judge));
        p.decided = Some(Outcome::Replace);
        assert_eq!(p.status(), (Status::Decided, Step::Fit));
        p.fitted = true;
        assert_eq!(p.status(), (Status::Fitted, Step::Prove));
        p.proof = Some(ProofOutcome::Better);
        assert_eq!(p.status(), (Status::Proven, Step::Prove));
        let urgent = p.urgency();
        p.proof = Some(ProofOutcome::AsBefore);
        assert_eq!(p.status(), (Status::AsBefore, Step::Prove));
        let later = p.urgency();
        p.proof = Some(ProofOutcome::Worse);
        assert_eq!(p.status(), (Status::Worse, Step::Measure));
        assert!(p.urgency() > later && later > urgent);
    }
}
