//! What turns the supply off whatever the plan says: silence, a frozen meter, reversal, a short, too much of anything.

use super::{Ending, Phase, ReformMode, Run, Said};

/// A meter may be off by so much before its volts count as above the rating (practice: 1 % meters, twice).
const METER: f64 = 1.02;
/// Below this the volts are the wrong way round and not the meter's zero.
const REVERSED_VOLTS: f64 = -1.0;
/// So many readings in a row that are the very same are no readings of a live part.
const SAME: u16 = 60;

impl Run {
    /// The ending that a reading calls for at once.
    pub(super) fn unsafe_reading(&mut self, volts: f64, amperes: f64) -> Option<Ending> {
        let peak = self.plan.peak_current.amperes();
        if volts < REVERSED_VOLTS || amperes < -0.1 * peak - 1e-4 {
            return Some(Ending::Reversed);
        }
        if volts > self.plan.rated.volts() * METER + 0.2 {
            return Some(Ending::AboveRating);
        }
        if amperes > 1.1 * peak + 2e-4 {
            return Some(Ending::TooMuchCurrent);
        }
        let Phase::Feeding(f) = &mut self.phase else { return None };
        let stage = self.plan.stages.get(f.stage)?;
        let (ordered, in_stage) = (stage.volts.volts(), self.now_s - f.since_s);
        // What can flow into a short at this setting.
        let short = self.plan.supply.series.map_or(peak, |r| (ordered / r.ohms().max(1e-3)).min(peak));
        let settle = 5.0 * self.plan.time_constant().seconds() + 30.0;
        if in_stage > settle && volts < 0.1 * ordered && amperes > 0.5 * short {
            return Some(Ending::Shorted);
        }
        let last = f.last_reading.replace((volts, amperes));
        f.same = if last == Some((volts, amperes)) { f.same.saturating_add(1) } else { 0 };
        // A hand rounds, and types the same twice.
        (self.mode == ReformMode::Simulated && f.same >= SAME).then_some(Ending::Frozen)
    }

    /// Turns the supply off when no reading comes, and warns at half that time.
    pub(super) fn watch_silence(&mut self, said: &mut Vec<Said>) {
        if !matches!(self.phase, Phase::Feeding(_)) {
            return;
        }
        let allowed = match self.mode {
            ReformMode::Guided => self.plan.silence_by_hand.seconds(),
            ReformMode::Simulated => self.plan.silence.seconds(),
        };
        let silent = self.now_s - self.read_s;
        if silent > allowed {
            self.end(Ending::Silent, said);
        } else if silent > allowed / 2.0 && !self.warned {
            self.warned = true;
            said.push(Said::warning(self.now_s, "no reading for a while: read volts and current"));
        }
    }
}
