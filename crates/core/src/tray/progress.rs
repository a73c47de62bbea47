//! How far a part has come, and which of the five steps is next.

use crate::caution::Step;
use crate::named::named;
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
        /// What was fitted does not work.
        Failed = "failed",
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
    /// Whether that was proven, and whether it worked.
    pub proven: Option<bool>,
}

impl Progress {
    /// How much the part needs a hand: what failed or goes first, then what is not decided, then what nobody has
    /// measured; what is done last (practice).
    #[must_use]
    pub fn urgency(self) -> u8 {
        match (self.status().0, self.decided.or(self.verdict)) {
            (Status::Failed, _) => 9,
            (Status::Judged | Status::Decided, Some(Outcome::Replace)) => 8,
            (Status::Fitted, _) => 7,
            (Status::Judged | Status::Decided, Some(Outcome::MeasureAgain)) => 6,
            (Status::Unread | Status::Unmeasured, _) => 5,
            (Status::Judged, Some(Outcome::Watch)) => 4,
            (Status::Decided, Some(Outcome::Watch)) => 3,
            (Status::Judged, _) => 2,
            (Status::Decided, _) => 1,
            (Status::Proven, _) => 0,
        }
    }

    /// The status and the step that is next.
    #[must_use]
    pub fn status(self) -> (Status, Step) {
        match (self.fitted, self.proven) {
            (true, Some(true)) => return (Status::Proven, Step::Prove),
            (true, Some(false)) => return (Status::Failed, Step::Measure),
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
        p.proven = Some(true);
        assert_eq!(p.status(), (Status::Proven, Step::Prove));
        let urgent = p.urgency();
        p.proven = Some(false);
        assert_eq!(p.status(), (Status::Failed, Step::Measure));
        assert!(p.urgency() > urgent);
    }
}
