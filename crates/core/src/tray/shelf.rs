//! What a ticket on the shelf waits for, and which of many comes first.

use crate::named::named;
use crate::quantity::Second;

named! {
    /// What a ticket waits for, the most urgent first: what is live, what has its time, what is nearly done, and then what
    /// only lies there. Practice: no source.
    "waits for" Waits {
        /// A part of it stands on the reforming bench and may be charged.
        Reforming = "reforming",
        /// It plays on the soak test, or the time of that is over and nobody has looked.
        Soak = "soak",
        /// Something went in that is not proven.
        Proof = "proof",
        /// Something goes, and nothing has gone in.
        Fitting = "fitting",
        /// Something was measured, and nobody has decided.
        Decision = "decision",
        /// Something is to be measured.
        Measuring = "measuring",
        /// Nothing lies on its tray yet.
        Parts = "parts",
        /// It can be closed.
        Closing = "closing",
        /// Nothing: it is closed.
        Nothing = "nothing",
    }
}

/// A ticket as the shelf counts it.
#[derive(Debug, Clone, Copy, Default)]
pub struct OnShelf {
    /// Whether it is closed.
    pub closed: bool,
    /// Parts on its tray.
    pub parts: i64,
    /// Of these, to measure.
    pub to_measure: i64,
    /// Decided to go, with nothing in their place.
    pub to_fit: i64,
    /// Fitted, and not proven.
    pub to_prove: i64,
    /// Measured, and not decided.
    pub undecided: i64,
    /// Whether one of them may be charged on the reforming bench.
    pub reforming: bool,
    /// What is left of the last soak test; nothing of one whose time is over, none where there was none.
    pub soak_left: Option<Second>,
    /// Whether somebody saw that one fail, or looked when its time was over.
    pub soak_ended: bool,
}

impl OnShelf {
    /// What it waits for.
    #[must_use]
    pub const fn waits(&self) -> Waits {
        match self {
            Self { closed: true, .. } => Waits::Nothing,
            Self { reforming: true, .. } => Waits::Reforming,
            Self { soak_left: Some(_), soak_ended: false, .. } => Waits::Soak,
            Self { to_prove: 1.., .. } => Waits::Proof,
            Self { to_fit: 1.., .. } => Waits::Fitting,
            Self { undecided: 1.., .. } => Waits::Decision,
            Self { to_measure: 1.., .. } => Waits::Measuring,
            Self { parts: 0, .. } => Waits::Parts,
            Self { .. } => Waits::Closing,
        }
    }

    /// What is left to do, in a word or two: `3 to measure`.
    #[must_use]
    pub fn left(&self) -> String {
        match self.waits() {
            Waits::Nothing => "closed".to_owned(),
            Waits::Reforming => "reforming".to_owned(),
            Waits::Soak => match self.soak_left {
                Some(left) if left.seconds() >= 1.0 => format!("soak test, {} left", spoken(left)),
                _ => "soak test is over: look at it".to_owned(),
            },
            Waits::Parts => "nothing on the tray yet".to_owned(),
            Waits::Closing => "all done".to_owned(),
            Waits::Proof => format!("{} to prove", self.to_prove),
            Waits::Fitting => format!("{} to fit", self.to_fit),
            Waits::Decision => format!("{} to decide", self.undecided),
            Waits::Measuring => format!("{} to measure", self.to_measure),
        }
    }
}

/// `3 h`, `40 min`: begun ones count.
fn spoken(left: Second) -> String {
    let minutes = (left.seconds() / 60.0).ceil();
    if minutes < 120.0 { format!("{minutes:.0} min") } else { format!("{:.0} h", (minutes / 60.0).ceil()) }
}
