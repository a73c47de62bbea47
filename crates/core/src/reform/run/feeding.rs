//! While the supply is on: which readings go on, which hold, which end it.

use serde::{Deserialize, Serialize};

use super::{ENOUGH, Ending, Phase, ReformMode, Run, Said};

/// How far the feeding is.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct Feeding {
    /// Which stage.
    pub stage: usize,
    /// Since when, in second of the run.
    pub since_s: f64,
    /// Whether it is held here by hand.
    pub hold: bool,
    /// Since when the part has followed the supply.
    pub(super) settled_s: Option<f64>,
    /// The least current since then.
    pub(super) least: Option<f64>,
    /// How many readings in a row were good enough to go on.
    pub(super) good: u8,
    /// How many in a row rose.
    pub(super) rising: u8,
    /// How many in a row were the very same.
    pub(super) same: u16,
    /// The last reading of this stage.
    pub(super) last_reading: Option<(f64, f64)>,
    /// Current every few minutes: when, and how much.
    pub(super) marks: Vec<(f64, f64)>,
}

/// How many marks are kept.
const MARKS: usize = 8;
/// How far they are apart.
const MARK_SECONDS: f64 = 300.0;
/// So little fall in [`MARKS`] marks is none.
const NO_FALL: f64 = 0.97;
/// The share of the order at which a part has followed it.
const FOLLOWED: f64 = 0.95;
/// The share of the aim at which leakage counts as measured at the aim: the rest falls off in the resistor.
pub(super) const AT_THE_AIM: f64 = 0.9;

impl Feeding {
    pub(super) fn begin(stage: usize, since_s: f64) -> Self {
        Self {
            stage,
            since_s,
            hold: false,
            settled_s: None,
            least: None,
            good: 0,
            rising: 0,
            same: 0,
            last_reading: None,
            marks: vec![],
        }
    }
}

impl Run {
    /// Judges a reading that came while the supply was on.
    pub(super) fn judge_reading(&mut self, volts: f64, amperes: f64, said: &mut Vec<Said>) {
        if let Some(ending) = self.unsafe_reading(volts, amperes) {
            self.end(ending, said);
            return;
        }
        let Phase::Feeding(f) = &mut self.phase else { return };
        let Some(stage) = self.plan.stages.get(f.stage).copied() else { return };
        let (now, ordered) = (self.now_s, stage.volts.volts());
        if volts > ordered * 1.05 + 2.0 && self.mode == ReformMode::Guided {
            let text = format!("turned too far: {} are asked for. Turn it back.", stage.volts);
            said.push(Said::warning(now, &text));
            f.good = 0;
            return;
        }
        let patient = 5.0 * self.plan.time_constant().seconds() + 30.0;
        let f_since = f.since_s;
        if f.settled_s.is_none() && (volts >= FOLLOWED * ordered || now - f_since > patient) {
            f.settled_s = Some(now);
        }
        let Some(settled) = f.settled_s else { return };
        f.mark(now, amperes);
        self.leak = Some((volts, amperes));
        let floor = 0.05 * self.plan.acceptance.below.amperes();
        let least = f.least.map_or(amperes, |l| l.min(amperes));
        f.least = Some(least);
        // Twice the least, and not by the meter's last digit.
        f.rising = if amperes > 2.0 * least + floor && now - settled > 30.0 {
            f.rising.saturating_add(1)
        } else {
            0
        };
        let below = amperes <= stage.go_on_below.amperes();
        let last = f.stage + 1 == self.plan.stages.len();
        let there = volts >= AT_THE_AIM * ordered;
        let long_enough = now - f_since >= stage.minimum.seconds();
        f.good = if below && there && long_enough { f.good.saturating_add(1) } else { 0 };
        let ending = if f.rising >= 3 {
            Some(Ending::Rising)
        } else if !(below && there) && f.falls_no_more(amperes) {
            Some(Ending::NotFalling)
        } else if now - f_since > self.plan.patience.seconds() && !f.hold {
            Some(Ending::TooSlow)
        } else {
            None
        };
        if let Some(ending) = ending {
            self.end(ending, said);
        } else if f.good >= ENOUGH && !f.hold {
            if last {
                self.met = true;
                self.end(Ending::Reformed, said);
            } else {
                let next = f.stage + 1;
                self.phase = Phase::Feeding(Feeding::begin(next, now));
                let text = self.stage_words(next);
                said.push(Said::note(now, &format!("up to {text}")));
            }
        }
    }
}

impl Feeding {
    fn mark(&mut self, now: f64, amperes: f64) {
        if self.marks.last().is_none_or(|(at, _)| now - at >= MARK_SECONDS) {
            self.marks.push((now, amperes));
            if self.marks.len() > MARKS {
                self.marks.remove(0);
            }
        }
    }

    /// Whether it has not fallen over as many marks as are kept.
    fn falls_no_more(&self, amperes: f64) -> bool {
        self.marks.len() == MARKS && self.marks.first().is_some_and(|(_, then)| amperes > NO_FALL * then)
    }
}
