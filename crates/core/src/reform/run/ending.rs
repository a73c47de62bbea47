//! How a run can end.

use crate::named::named;

named! {
    /// How a run ends.
    "ending" Ending {
        /// The limits were met at the last voltage.
        Reformed = "reformed",
        /// Somebody stopped it.
        ByHand = "stopped by hand",
        /// It was felt to be hot, or it hissed.
        Hot = "hot",
        /// No reading came.
        Silent = "no reading",
        /// The same reading came for ever.
        Frozen = "meter frozen",
        /// Volts or current the wrong way round.
        Reversed = "reversed",
        /// More than the rating was measured.
        AboveRating = "above its rating",
        /// More than the supply's limit flowed.
        TooMuchCurrent = "too much current",
        /// Nothing builds up across it.
        Shorted = "shorted",
        /// The current rose.
        Rising = "rising current",
        /// The current fell no more and is too high.
        NotFalling = "not falling",
        /// It took too long.
        TooSlow = "too slow",
        /// The station was away.
        Interrupted = "interrupted",
    }
}

impl Ending {
    /// What it means, in a sentence.
    #[must_use]
    pub fn sentence(self) -> &'static str {
        match self {
            Self::Reformed => {
                "Reformed: it stands at its voltage within its limit. Measure C, ESR and leakage, then judge."
            }
            Self::ByHand => "Stopped by hand: not reformed.",
            Self::Hot => "It got hot or hissed: it is scrap. Replace it.",
            Self::Silent => {
                "No reading came from the meter: nobody reforms blind. Look at the leads, then start again."
            }
            Self::Frozen => {
                "The meter shows the same for ever: it is held or hung. Look at it, then start again."
            }
            Self::Reversed => {
                "The volts are the wrong way round: part or leads are reversed. Turn them, then start again."
            }
            Self::AboveRating => {
                "More than its rating was measured. Look at the supply before anything else."
            }
            Self::TooMuchCurrent => {
                "More flows than the supply should let through. Look at resistor and limit."
            }
            Self::Shorted => "Nothing builds up across it: shorted. Replace it.",
            Self::Rising => "The current rises instead of falling: it is breaking down. Replace it.",
            Self::NotFalling => {
                "The current falls no more and is above the limit: a leak that does not heal. Replace it."
            }
            Self::TooSlow => {
                "It did not get there in the time allowed. Replace it, or try once more on another day."
            }
            Self::Interrupted => {
                "The station was away: supply off. It may be charged: discharge and measure it."
            }
        }
    }

    /// Whether the part is finished by it.
    #[must_use]
    pub fn scrap(self) -> bool {
        match self {
            Self::Hot | Self::Shorted | Self::Rising | Self::NotFalling => true,
            Self::Reformed
            | Self::ByHand
            | Self::Silent
            | Self::Frozen
            | Self::Reversed
            | Self::AboveRating
            | Self::TooMuchCurrent
            | Self::TooSlow
            | Self::Interrupted => false,
        }
    }

    /// Whether the last volts read are what is on the part.
    pub(super) fn trusts_meter(self) -> bool {
        match self {
            Self::Silent | Self::Frozen | Self::Interrupted | Self::Reversed => false,
            Self::Reformed
            | Self::ByHand
            | Self::Hot
            | Self::AboveRating
            | Self::TooMuchCurrent
            | Self::Shorted
            | Self::Rising
            | Self::NotFalling
            | Self::TooSlow => true,
        }
    }
}
