//! One limit or property of a candidate, and how two values are held against each other.

use crate::named::named;
use crate::quantity::Quantity;
use crate::quantity::format::format;

named! {
    /// Which limit or property.
    "cell" LimitName {
        /// Bipolar, field-effect.
        Kind = "kind",
        /// NPN or PNP.
        Polarity = "polarity",
        /// Germanium or silicon.
        Material = "material",
        /// Collector to base.
        Vcbo = "vcbo",
        /// Collector to emitter.
        Vceo = "vceo",
        /// Emitter to base.
        Vebo = "vebo",
        /// Collector current.
        Ic = "ic",
        /// Dissipation.
        Power = "power",
        /// Gain at a common current.
        Gain = "hfe",
        /// Transition frequency.
        Transition = "ft",
        /// Output capacitance.
        Capacitance = "cob",
        /// Drain current at zero gate volts, of field-effect types.
        Idss = "idss",
        /// Transconductance, of field-effect types.
        Transconductance = "gfs",
        /// Package.
        Package = "package",
    }
}

named! {
    /// How a cell stands.
    "cell state" LimitState {
        /// Enough.
        Pass = "pass",
        /// Too little, too much, or another.
        Short = "short",
        /// One of the two is not known.
        Unknown = "unknown",
    }
}

/// One limit or property of a candidate.
#[derive(Debug, Clone, PartialEq)]
pub struct LimitCheck {
    /// Which.
    pub name: LimitName,
    /// Whether it must pass.
    pub hard: bool,
    /// How it stands.
    pub state: LimitState,
    /// What the candidate has, in the base unit, where it is a number.
    pub value_si: Option<f64>,
    /// What is needed, in the base unit, where it is a number.
    pub needed_si: Option<f64>,
    /// What the candidate has, as it is written.
    pub has: String,
    /// What is needed, as it is written; empty where it is not known.
    pub needs: String,
    /// By how much it is short, or why it is unknown, or where the need comes from.
    pub why: String,
}

/// A share that rounding may cost.
pub(super) const SLACK: f64 = 1e-9;

/// A limit with nothing said of it yet.
pub(super) fn cell(name: LimitName, hard: bool, state: LimitState) -> LimitCheck {
    LimitCheck {
        name,
        hard,
        state,
        value_si: None,
        needed_si: None,
        has: String::new(),
        needs: String::new(),
        why: String::new(),
    }
}

/// The same of both.
pub(super) fn same<T: crate::named::Named>(
    name: LimitName,
    hard: bool,
    wanted: Option<T>,
    has: Option<T>,
) -> LimitCheck {
    let state = match (wanted, has) {
        (Some(w), Some(h)) if w == h => LimitState::Pass,
        (Some(_), Some(_)) => LimitState::Short,
        _ => LimitState::Unknown,
    };
    let text = |v: Option<T>| v.map_or_else(String::new, |v| v.name().to_owned());
    LimitCheck { has: text(has), needs: text(wanted), ..cell(name, hard, state) }
}

/// At least so much.
pub(super) fn least(
    name: LimitName,
    hard: bool,
    q: Quantity,
    has: Option<f64>,
    needed: Option<f64>,
    why: String,
) -> LimitCheck {
    let text = |v: Option<f64>| v.map_or_else(String::new, |v| format(q, v).to_string());
    let (state, why) = match (has, needed) {
        (Some(h), Some(n)) if h >= n * (1.0 - SLACK) => (LimitState::Pass, why),
        (Some(h), Some(n)) => {
            let short = format!("short by {}", format(q, n - h));
            (LimitState::Short, if why.is_empty() { short } else { format!("{short}; {why}") })
        }
        (None, Some(_)) => (LimitState::Unknown, "not known of this type".to_owned()),
        (_, None) => (LimitState::Unknown, "not known of the original".to_owned()),
    };
    LimitCheck {
        value_si: has,
        needed_si: needed,
        has: text(has),
        needs: text(needed),
        why,
        ..cell(name, hard, state)
    }
}
