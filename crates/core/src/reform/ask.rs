//! What a plan is asked for, and how far it goes.

use serde::{Deserialize, Serialize};

use crate::quantity::{Ampere, Farad, Ohm, Volt, Watt};
use crate::verdict::{Policy, PolicyNumber};

/// The supply and what stands between it and the part.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
pub struct Supply {
    /// The most that it is set to give, in volt.
    pub volts: Volt,
    /// The resistor in series.
    pub series: Option<Ohm>,
    /// What that resistor is rated at.
    pub series_rating: Option<Watt>,
    /// Its current limit.
    pub limit: Option<Ampere>,
}

/// What a plan is asked for.
#[derive(Debug, Clone, PartialEq)]
pub struct Ask {
    /// The section's capacitance.
    pub capacitance: Farad,
    /// Its rating.
    pub rated: Volt,
    /// What stands across it in its place.
    pub working: Option<Volt>,
    /// How long it has lain idle, in years.
    pub idle_years: f64,
    /// What it is called where a can has several: `A`.
    pub section: Option<String>,
    /// The supply.
    pub supply: Supply,
    /// Whether plus and minus are known beyond doubt.
    pub polarity_known: bool,
    /// Whether it has vented, bulges or drips.
    pub vented: bool,
}

/// The voltage to be reached.
pub(super) fn aim(ask: &Ask, policy: &Policy) -> Volt {
    let high = policy.number_si(PolicyNumber::LineHigh);
    let wanted = ask.working.map_or(ask.rated.volts(), |w| (w.volts() * high).min(ask.rated.volts()));
    // A supply that reaches the working voltage and not the tenth above it is used as it is.
    let reached = ask.working.map_or(wanted, |w| wanted.min(ask.supply.volts.volts().max(w.volts())));
    // Whole volts, as a knob is set, but never less than works across it.
    let whole = if reached < 20.0 { reached } else { reached.floor() };
    Volt::computed(ask.working.map_or(whole, |w| whole.max(w.volts())))
}
