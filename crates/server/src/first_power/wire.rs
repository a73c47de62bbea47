//! The JSON shapes of first power.

use owl_core::first_power::{LampStory, PowerAdvice, PowerSign, PowerStep, Sense, Sign, StepReading};
use owl_core::quantity::Quantity;
use serde::{Deserialize, Serialize};
use time::OffsetDateTime;
use utoipa::ToSchema;
use uuid::Uuid;

use crate::amount::Amount;

/// A step of the way up, as typed.
#[derive(Debug, Deserialize, ToSchema)]
pub struct NewPowerUp {
    /// Chosen by the client, so that sending twice records once.
    pub key: Uuid,
    /// What the variable transformer gave.
    #[schema(max_length = 40)]
    pub volts: String,
    /// The lamp in series, in watts at the line; empty without one.
    #[schema(max_length = 40)]
    pub bulb: Option<String>,
    /// What flowed; empty where it was not read.
    #[schema(max_length = 40)]
    pub current: Option<String>,
    /// What the lamp did.
    pub story: LampStory,
    /// What was heard, smelt and seen.
    #[serde(default)]
    #[schema(max_items = 40)]
    pub signs: Vec<PowerSign>,
    /// In words.
    #[serde(default)]
    #[schema(max_length = 2000)]
    pub note: String,
    /// Although the list before first power was not gone through.
    #[serde(default)]
    pub confirmed: bool,
}

/// The way up.
#[derive(Debug, Serialize, ToSchema)]
pub struct PowerLogView {
    /// What was done, oldest first.
    pub ups: Vec<PowerUpView>,
    /// The steps of a set of that class.
    pub plan: Vec<StepPlanView>,
    /// The lamp for a set of those watts.
    pub bulb: Option<Amount>,
    /// What a lamp can do.
    pub stories: Vec<LampStory>,
    /// What can be noticed.
    pub signs: Vec<PowerSignView>,
    /// What speaks against any power now: a part that is known to be bad and still sits there.
    #[serde(serialize_with = "crate::dialect::said")]
    pub held: Option<String>,
    /// What is not known of the set yet.
    #[serde(serialize_with = "crate::dialect::said")]
    pub missing: Option<String>,
}

/// A step that is planned.
#[derive(Debug, Serialize, ToSchema)]
pub struct StepPlanView {
    /// Of the line, as a fraction.
    pub share: f64,
    /// In volt, where the line is known.
    pub volts: Option<Amount>,
    /// How long to stay at least, in seconds.
    pub hold: Amount,
    /// What to watch.
    #[serde(serialize_with = "crate::dialect::said")]
    pub watch: String,
}

impl StepPlanView {
    /// A step on a line.
    #[must_use]
    pub fn of(s: &PowerStep, line: Option<f64>) -> Self {
        Self {
            share: s.share,
            volts: line.map(|l| Amount::of(Quantity::Voltage, l * s.share)),
            hold: Amount::of(Quantity::Time, s.hold_s),
            watch: s.watch.clone(),
        }
    }
}

/// Something that can be noticed.
#[derive(Debug, Serialize, ToSchema)]
pub struct PowerSignView {
    /// Which.
    pub sign: PowerSign,
    /// By which sense.
    pub sense: Sense,
}

impl PowerSignView {
    /// A row of the table.
    #[must_use]
    pub fn of(s: &Sign) -> Self {
        Self { sign: s.sign, sense: s.sense }
    }
}

/// A step that was done.
#[derive(Debug, Serialize, ToSchema)]
pub struct PowerUpView {
    /// Its id.
    pub id: Uuid,
    /// What the variable transformer gave.
    pub volts: Amount,
    /// The lamp.
    pub bulb: Option<Amount>,
    /// What flowed.
    pub current: Option<Amount>,
    /// What the lamp did.
    pub story: LampStory,
    /// What was noticed.
    pub signs: Vec<PowerSign>,
    /// In words.
    pub note: String,
    /// When.
    #[serde(with = "time::serde::rfc3339")]
    pub done_at: OffsetDateTime,
    /// What it says; null where too little is known of the set.
    pub says: Option<StepSaysView>,
}

/// What a step says.
#[derive(Debug, Serialize, ToSchema)]
pub struct StepSaysView {
    /// What to do.
    pub call: PowerAdvice,
    /// Why, the weightiest first.
    pub because: Vec<PowerReasonView>,
    /// What to set the variable transformer to next.
    pub next_volts: Option<Amount>,
    /// How long to stay there at least.
    pub hold: Option<Amount>,
    /// What to watch there.
    #[serde(serialize_with = "crate::dialect::said")]
    pub watch: Option<String>,
    /// The lamp to take next.
    pub next_bulb: Option<Amount>,
    /// What a good set would have done here, in words.
    #[serde(serialize_with = "crate::dialect::said")]
    pub healthy: Option<String>,
    /// What the set drew.
    pub drawn: Option<Amount>,
}

/// A reason.
#[derive(Debug, Serialize, ToSchema)]
pub struct PowerReasonView {
    /// In words.
    #[serde(serialize_with = "crate::dialect::said")]
    pub text: String,
    /// Where it comes from.
    pub source: String,
}

impl StepSaysView {
    /// A reading as it is sent.
    #[must_use]
    pub fn of(r: &StepReading) -> Self {
        let healthy = r.healthy.map(|h| {
            format!(
                "A good set would see {} and leave the lamp at {:.0} % of its watts; a short would light it to {:.0} %.",
                h.set_volts,
                100.0 * h.lamp_share,
                100.0 * h.short_share
            )
        });
        Self {
            call: r.call,
            because: r
                .because
                .iter()
                .map(|b| PowerReasonView { text: b.text.clone(), source: b.source.to_string() })
                .collect(),
            next_volts: r.next_volts.map(|v| Amount::of(Quantity::Voltage, v.volts())),
            hold: r.hold.map(|s| Amount::of(Quantity::Time, s.seconds())),
            watch: r.watch.clone(),
            next_bulb: r.next_bulb.map(Amount::from),
            healthy,
            drawn: r.drawn.map(Amount::from),
        }
    }
}
