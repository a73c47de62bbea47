//! What makes no feed.

use crate::quantity::{QuantityError, Volt};

/// Why a feed cannot be solved.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
pub enum FeedError {
    /// Nothing feeds.
    #[error("without volts on the rail there is nothing to solve")]
    NoRail,
    /// No parts.
    #[error("say at least one part: from where to where it goes, and its value")]
    Empty,
    /// Too many parts.
    #[error("{0} parts are more than a feed: 200 at most; leave out what hangs on other rails")]
    TooMany(usize),
    /// A name that stands there twice.
    #[error("{name} stands there twice")]
    Twice {
        /// Which part, from 0.
        part: usize,
        /// Its name.
        name: String,
    },
    /// Both ends on one node.
    #[error("both ends of {name} are on the same node: nothing flows in it")]
    Looped {
        /// Which part, from 0.
        part: usize,
        /// Its name.
        name: String,
    },
    /// Nothing leads away from the source.
    #[error("no part has an end on 'rail': say which one leads away from it")]
    NothingOnRail,
    /// A reading at a node that no part has an end on.
    #[error("no part has an end on '{node}'; there are {known}")]
    NoSuchNode {
        /// The node that was read.
        node: String,
        /// Those that there are.
        known: String,
    },
    /// No reading to explain.
    #[error("say what was measured, at one node at least")]
    NothingMeasured,
    /// A load whose current is to be taken from the sheet, which does not give it.
    #[error("the current of {name} is not said, and the sheet's volts do not give it: {why}")]
    LoadUnknown {
        /// Which part, from 0.
        part: usize,
        /// Its name.
        name: String,
        /// What is missing.
        why: String,
    },
    /// The load would have to feed.
    #[error(
        "by the sheet's volts {name} would feed its node instead of drawing from it ({volts} there): check them"
    )]
    LoadFeeds {
        /// Which part, from 0.
        part: usize,
        /// Its name.
        name: String,
        /// The sheet's volts at its node.
        volts: Volt,
    },
    /// A number that cannot be.
    #[error(transparent)]
    Quantity(#[from] QuantityError),
}

impl FeedError {
    /// The part to blame, from 0.
    #[must_use]
    pub fn part(&self) -> Option<usize> {
        match self {
            Self::Twice { part, .. }
            | Self::Looped { part, .. }
            | Self::LoadUnknown { part, .. }
            | Self::LoadFeeds { part, .. } => Some(*part),
            Self::NoRail
            | Self::Empty
            | Self::TooMany(_)
            | Self::NothingOnRail
            | Self::NoSuchNode { .. }
            | Self::NothingMeasured
            | Self::Quantity(_) => None,
        }
    }
}
