//! How far a part has come, and which of the five steps is next.

use crate::caution::Step;
use crate::named::named;
use crate::verdict::Call;

named! {
    /// How far a part has come.
    "standing" Standing {
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
    pub verdict: Option<Call>,
    /// What was decided, unless something was measured since.
    pub decided: Option<Call>,
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
        match (self.standing().0, self.decided.or(self.verdict)) {
            (Standing::Failed, _) => 9,
            (Standing::Judged | Standing::Decided, Some(Call::Replace)) => 8,
            (Standing::Fitted, _) => 7,
            (Standing::Judged | Standing::Decided, Some(Call::MeasureAgain)) => 6,
            (Standing::Unread | Standing::Unmeasured, _) => 5,
            (Standing::Judged, Some(Call::Watch)) => 4,
            (Standing::Decided, Some(Call::Watch)) => 3,
            (Standing::Judged, _) => 2,
            (Standing::Decided, _) => 1,
            (Standing::Proven, _) => 0,
        }
    }

    /// The standing and the step that is next.
    #[must_use]
    pub fn standing(self) -> (Standing, Step) {
        match (self.fitted, self.proven) {
            (true, Some(true)) => return (Standing::Proven, Step::Prove),
            (true, Some(false)) => return (Standing::Failed, Step::Measure),
            (true, None) => return (Standing::Fitted, Step::Prove),
            (false, _) => {}
        }
        match (self.marked, self.decided, self.verdict) {
            (false, _, _) => (Standing::Unread, Step::Read),
            (true, Some(Call::Replace), _) => (Standing::Decided, Step::Fit),
            (true, Some(Call::MeasureAgain), _) => (Standing::Decided, Step::Measure),
            (true, Some(Call::Keep | Call::Watch), _) => (Standing::Decided, Step::Judge),
            (true, None, None) => (Standing::Unmeasured, Step::Measure),
            (true, None, Some(_)) => (Standing::Judged, Step::Judge),
        }
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_steps_follow_each_other() {
        let mut p = Progress::default();
        assert_eq!(p.standing(), (Standing::Unread, Step::Read));
        p.marked = true;
        assert_eq!(p.standing(), (Standing::Unmeasured, Step::Measure));
        p.verdict = Some(Call::Replace);
        assert_eq!(p.standing(), (Standing::Judged, Step::Judge));
        p.decided = Some(Call::Replace);
        assert_eq!(p.standing(), (Standing::Decided, Step::Fit));
        p.fitted = true;
        assert_eq!(p.standing(), (Standing::Fitted, Step::Prove));
        p.proven = Some(true);
        assert_eq!(p.standing(), (Standing::Proven, Step::Prove));
        let urgent = p.urgency();
        p.proven = Some(false);
        assert_eq!(p.standing(), (Standing::Failed, Step::Measure));
        assert!(p.urgency() > urgent);
    }
}
