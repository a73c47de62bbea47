//! One change at a time: whoever changes five parts and gets a new fault does not know which one.
//!
//! A change is open until it is proven or undone. The next one asks to prove the open one first; with a reason it may be
//! begun all the same, and then neither was proven alone.

use crate::named::named;
use crate::proof::ProofOutcome;

named! {
    /// What a hand does to a set.
    "kind of change" ChangeKind {
        /// A part went in.
        Part = "part",
        /// A wire was drawn, cut or renewed.
        Wire = "wire",
        /// A joint was made anew.
        Joint = "joint",
        /// A track was bridged.
        Track = "track",
        /// Contacts of a switch or a socket were cleaned or bent.
        SwitchContact = "switch contact",
        /// Something was tuned.
        Alignment = "alignment",
        /// Dirt was taken off.
        Cleaning = "cleaning",
        /// A change was taken back.
        Undo = "undo",
        /// Anything else.
        Other = "other",
    }
}

/// A change, as far as the order of changes is concerned. The list is in the order in which they were begun.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Begun<K> {
    /// Its key.
    pub key: K,
    /// What was done.
    pub kind: ChangeKind,
    /// When it was begun: a number that only rises.
    pub at: i64,
    /// When it was proven last, on the same scale, and how the set was for it.
    pub proven: Option<(i64, ProofOutcome)>,
    /// When it was undone.
    pub undone: Option<i64>,
    /// The stage that it is of: what is changed of one stage is one change.
    pub stage: Option<K>,
}

impl<K> Begun<K> {
    /// When it was closed: proven or undone, whichever came first.
    fn closed(&self) -> Option<i64> {
        let proven = self.proven.map(|p| p.0);
        match (proven, self.undone) {
            (Some(p), Some(u)) => Some(p.min(u)),
            (p, u) => p.or(u),
        }
    }

    /// Open: begun, neither proven nor undone. An undo puts back what was there, and needs no proof of its own.
    #[must_use]
    pub fn is_open(&self) -> bool {
        self.kind != ChangeKind::Undo && self.closed().is_none()
    }
}

/// The change that is to be proven before the next one, the last that was begun.
#[must_use]
pub fn open<K>(all: &[Begun<K>]) -> Option<&Begun<K>> {
    all.iter().rfind(|c| c.is_open())
}

/// Whether a change was proven with no other one open at that time or begun since it was; those of its own stage are no
/// others.
#[must_use]
pub fn proven_alone<K: PartialEq>(all: &[Begun<K>], key: &K) -> bool {
    let Some(it) = all.iter().find(|c| c.key == *key) else { return false };
    let Some((until, ProofOutcome::Better)) = it.proven else { return false };
    let beside = |c: &Begun<K>| {
        let closed = c.closed().unwrap_or(i64::MAX);
        let apart = c.stage.is_none() || c.stage != it.stage;
        c.key != it.key && apart && c.kind != ChangeKind::Undo && c.at < until && closed > it.at
    };
    !all.iter().any(beside)
}

/// The changes since the set was last proven good, the newest first: one of them brought a fault that appears now.
///
/// A proof that worked clears what was begun before it and closed; what was open beside it stays suspect, and what made the
/// set worse.
#[must_use]
pub fn since_last_good<K>(all: &[Begun<K>]) -> Vec<&Begun<K>> {
    let good = all.iter().filter_map(|c| c.proven.filter(|p| p.1 == ProofOutcome::Better).map(|p| p.0)).max();
    let mut found: Vec<&Begun<K>> = all
        .iter()
        .filter(|c| match good {
            None => true,
            Some(good) => {
                c.at > good
                    || (c.is_open() || c.proven.is_some_and(|p| p.1 == ProofOutcome::Worse))
                        && c.undone.is_none()
            }
        })
        .collect();
    found.sort_by_key(|c| std::cmp::Reverse(c.at));
    found
}
