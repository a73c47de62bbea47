//! What to do now, in one sentence.

use super::{Feeding, Phase, ReformMode, Run};
use crate::quantity::{Ampere, Volt};
use crate::supply::discharge::SAFE_VOLTS;

impl Run {
    /// What the plan says of a stage.
    pub(super) fn stage_words(&self, stage: usize) -> String {
        let Some(s) = self.plan.stages.get(stage) else { return String::new() };
        format!("{} until it leaks under {} mA", s.volts, milliamperes(s.go_on_below))
    }

    /// What to do now, in one sentence.
    #[must_use]
    pub fn sentence(&self) -> String {
        let guided = self.mode == ReformMode::Guided;
        match &self.phase {
            Phase::Ready { seen_empty: false } => {
                format!("Discharge it, then measure: under {SAFE_VOLTS} V before it is clipped on.")
            }
            Phase::Ready { seen_empty: true } => {
                "Clip it on, plus to plus, shield over it. Then switch on.".to_owned()
            }
            Phase::Feeding(f) => self.feeding_sentence(f, guided),
            Phase::Emptying(e) if !e.connected => {
                "It may be charged. Supply off, put the discharge resistor across it.".to_owned()
            }
            Phase::Emptying(_) if guided => format!(
                "Supply off, {} across it. Measure until it shows under {SAFE_VOLTS} V, twice.",
                self.plan.emptying.resistor
            ),
            Phase::Emptying(_) => {
                format!("Emptying through {}. Hands off until it is measured.", self.plan.emptying.resistor)
            }
            Phase::Over { ending } => ending.sentence().to_owned(),
        }
    }

    fn feeding_sentence(&self, f: &Feeding, guided: bool) -> String {
        let Some(stage) = self.plan.stages.get(f.stage) else { return String::new() };
        let next = self
            .plan
            .stages
            .get(f.stage + 1)
            .map_or_else(|| "it is good".to_owned(), |s| s.volts.to_string());
        let limit: Ampere = stage.go_on_below;
        if f.hold {
            return format!("Held at {} by hand. Go on when you like.", stage.volts);
        }
        let near = self.volts.is_some_and(|v| v >= 0.8 * stage.volts.volts());
        if guided && !near {
            return format!("Turn the supply up to {}, then read volts and current.", stage.volts);
        }
        let left = stage.minimum.seconds() - (self.now_s - f.since_s);
        if left > 0.0 && self.amperes.is_some_and(|i| i <= limit.amperes()) {
            return format!("Hold at {} for {} more, then {next}.", stage.volts, minutes(left));
        }
        format!("Hold at {} until it leaks under {} mA, then {next}.", stage.volts, milliamperes(limit))
    }
}

/// The digits of a current in milliampere, whatever its size: no prefix jumps while it falls, and it can be compared with
/// the meter at a glance.
///
/// ```
/// use owl_core::quantity::Ampere;
/// use owl_core::reform::run::milliamperes;
/// assert_eq!(milliamperes(Ampere::new(0.001_372)?), "1.37");
/// assert_eq!(milliamperes(Ampere::new(0.000_043)?), "0.043");
/// # Ok::<(), owl_core::quantity::QuantityError>(())
/// ```
#[must_use]
pub fn milliamperes(current: Ampere) -> String {
    let milli = current.amperes() * 1000.0;
    match milli.abs() {
        m if m >= 10.0 => format!("{milli:.1}"),
        m if m >= 1.0 => format!("{milli:.2}"),
        _ => format!("{milli:.3}"),
    }
}

pub(super) fn words(volts: f64) -> String {
    Volt::computed(volts).to_string()
}

fn minutes(seconds: f64) -> String {
    if seconds < 90.0 {
        format!("{:.0} s", seconds.max(1.0))
    } else {
        format!("{:.0} min", (seconds / 60.0).ceil())
    }
}
