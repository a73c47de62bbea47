//! R5: electrolytics by value, by ESR or dissipation, and by leakage.
//!
//! The limits are public, because reforming and buying ask for the same numbers.

mod leak;
mod limits;
mod losses;
mod value;

pub use limits::{LeakageLimits, esr_limit, leakage_limits, tan_delta};

pub(super) use leak::leakage;
pub(super) use losses::losses;
pub(super) use value::value;
