//! What would change a verdict: the number at which it thresholds, and how far away that is.

use super::{Limits, Outcome, Policy, PolicyNumber};
use crate::quantity::Fraction;
use crate::quantity::format::signed_percent;
use crate::reading::ReadQuantity;

/// A number at which a verdict would be another.
#[derive(Debug, Clone, PartialEq)]
pub struct Threshold {
    /// What the verdict would be.
    pub to: Outcome,
    /// What would have to read so.
    pub of: ReadQuantity,
    /// The number, in the base unit of what is read.
    pub at_si: f64,
    /// How far the reading is from it: 0.05 is 5 % up.
    pub away: Fraction,
    /// In words.
    pub text: String,
}

impl Threshold {
    /// The flip of a reading of `of` that now shows `now` (base unit) at `at_si`; `None` for a reading of zero,
    /// from which nothing is so many percent away.
    #[must_use]
    pub fn new(to: Outcome, of: ReadQuantity, now: f64, at_si: f64, beyond: &str) -> Option<Self> {
        let away = Fraction::new(at_si / now - 1.0).ok()?;
        let text = format!("{to} {beyond} {}: {}", of.written(at_si), distance(away.fraction()));
        Some(Self { to, of, at_si, away, text })
    }

    /// The edges of a window round `nominal` at which a reading of `now` would be judged otherwise: the nearest
    /// that is worse and the nearest that is better.
    #[must_use]
    pub fn of_window(of: ReadQuantity, nominal: f64, limits: Limits, now: f64, policy: &Policy) -> Vec<Self> {
        let share = policy.number_si(PolicyNumber::WatchFrom);
        let (low, high) = (limits.low_si, limits.high_si);
        let watch_low = nominal - share * (nominal - low);
        let watch_high = nominal + share * (high - nominal);
        let thresholds: Vec<Option<Self>> = if now >= high {
            vec![Self::new(Outcome::Watch, of, now, high, "below")]
        } else if now <= low {
            vec![Self::new(Outcome::Watch, of, now, low, "above")]
        } else if now >= watch_high {
            vec![
                Self::new(Outcome::Replace, of, now, high, "from"),
                Self::new(Outcome::Keep, of, now, watch_high, "below"),
            ]
        } else if now <= watch_low {
            vec![
                Self::new(Outcome::Replace, of, now, low, "down from"),
                Self::new(Outcome::Keep, of, now, watch_low, "above"),
            ]
        } else {
            let nearer_high = (watch_high - now).abs() <= (now - watch_low).abs();
            if nearer_high {
                vec![
                    Self::new(Outcome::Watch, of, now, watch_high, "from"),
                    Self::new(Outcome::Replace, of, now, high, "from"),
                ]
            } else {
                vec![
                    Self::new(Outcome::Watch, of, now, watch_low, "down from"),
                    Self::new(Outcome::Replace, of, now, low, "down from"),
                ]
            }
        };
        thresholds.into_iter().flatten().collect()
    }
}

/// `+5 % from here`, or times where percent would be hard to read.
fn distance(away: f64) -> String {
    if away >= 2.0 {
        format!("{:.1} times this reading", away + 1.0)
    } else if away <= -2.0 / 3.0 {
        format!("{:.1} times less than this", 1.0 / (1.0 + away))
    } else {
        format!("{} from here", signed_percent(away))
    }
}
