//! From when on a valve is weak, and what that means in its place (practice: by what is heard of it).

use std::sync::LazyLock;

use serde::Deserialize;

use crate::part::Position;
use crate::quantity::{Ampere, Fraction};
use crate::source::Source;
use crate::table::rows;

/// What a place asks of a valve.
#[derive(Debug, Clone, PartialEq)]
pub struct PlaceLimit {
    /// The place.
    pub position: Position,
    /// Below this share of a good one it is weak.
    pub weak_below: Fraction,
    /// Below this share it goes.
    pub gone_below: Fraction,
    /// From this grid current on it is watched.
    pub gas_watch: Option<Ampere>,
    /// From this grid current on it goes.
    pub gas_gone: Option<Ampere>,
    /// What is heard or seen of a weak one there.
    pub consequence: String,
    /// Where that comes from.
    pub source: Source,
}

#[derive(Deserialize)]
struct Row {
    position: Position,
    weak_below: f64,
    gone_below: f64,
    gas_watch_microamps: Option<f64>,
    gas_gone_microamps: Option<f64>,
    consequence: String,
    source: Source,
}

static LIMITS: LazyLock<Vec<PlaceLimit>> = LazyLock::new(|| {
    let microamps = |m: Option<f64>| m.map(|m| Ampere::computed(m * 1e-6));
    let limit = |r: Row| PlaceLimit {
        position: r.position,
        weak_below: Fraction::computed(r.weak_below),
        gone_below: Fraction::computed(r.gone_below),
        gas_watch: microamps(r.gas_watch_microamps),
        gas_gone: microamps(r.gas_gone_microamps),
        consequence: r.consequence,
        source: r.source,
    };
    rows("valve_limit.csv", include_str!("../../data/valve_limit.csv")).into_iter().map(limit).collect()
});

/// Every place.
#[must_use]
pub fn limits() -> &'static [PlaceLimit] {
    &LIMITS
}

/// What a place asks; where no place is known, what a small audio stage does. `None` of a place where nothing wears so: a
/// regulator's.
#[must_use]
pub fn limit(position: Option<Position>) -> Option<&'static PlaceLimit> {
    let position = position.unwrap_or(Position::AudioStage);
    LIMITS.iter().find(|l| l.position == position)
}
