//! Reforming an electrolytic: planning it, running it, knowing when to stop, and emptying it.
//!
//! [`plan`] says which voltages and when it is good, or refuses ([`refusal`]). [`run`] is the state machine that
//! leads through it: a reading in, an order and a sentence out. [`aged`] and [`circuit`] are the physics of an old part on
//! a supply; [`bench`] puts a meter with its errors in front of them. [`fit`] finds from the readings so far how
//! such a part is, [`forecast`] when it will be done, and [`shape`] whether the curve looks like reforming at all.
//! [`evening`] says when each part of the queue begins.

pub mod aged;
mod ask;
pub mod bench;
pub mod circuit;
pub mod evening;
pub mod forecast;
pub mod plan;
pub mod refusal;
pub mod regression;
pub mod run;
pub mod shape;

use serde::{Deserialize, Serialize};

/// What the meters showed at a moment of a run.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
pub struct Sample {
    /// Since the run's start, in second.
    pub at_s: f64,
    /// What the supply was set to, in volt; none when it was off.
    pub set_volts: Option<f64>,
    /// Across the part.
    pub volts: f64,
    /// Into the part.
    pub amperes: f64,
}
