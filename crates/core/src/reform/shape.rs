//! Whether a curve looks like reforming: within a stage the leak falls, first quickly, then slowly.

use super::Sample;
use crate::named::named;

named! {
    /// How the curve of one stage looks.
    "shape of a curve" CurveShape {
        /// Too few readings to tell.
        TooFew = "too few readings",
        /// It falls.
        Falling = "falling",
        /// It stays, within the noise.
        NoFall = "no fall",
        /// It rises.
        Rise = "rising",
        /// It jumps.
        Steps = "steps",
        /// It scatters.
        Noise = "noisy",
    }
}

impl CurveShape {
    /// What to make of it.
    #[must_use]
    pub fn sentence(self) -> &'static str {
        match self {
            Self::TooFew => "Too few readings at this voltage to tell.",
            Self::Falling => "It falls as a part that reforms does.",
            Self::NoFall => "It does not fall: a leak that does not heal, or a meter that hangs.",
            Self::Rise => "It rises: watch it, a part that breaks down begins so.",
            Self::Steps => "It jumps: sparks in the oxide, or a loose lead.",
            Self::Noise => "It scatters: a loose lead, or something else on the line.",
        }
    }
}

/// Fewest readings that say anything.
const FEWEST: usize = 8;
/// A jump is so many times the usual distance between neighbours, and a fifth of the value.
const JUMP: f64 = 8.0;
/// So much scatter round the trend is noise.
const SCATTER: f64 = 0.15;
/// So much change between first and last third counts as one.
const CHANGE: f64 = 0.03;

/// Looks at the readings of one stage (practice, no source: what an eye does with such a curve). Those while the part
/// still takes charge are left out: from the first that is within a tenth of the last volts.
#[must_use]
pub fn curve_shape(stage: &[Sample]) -> CurveShape {
    let end = stage.last().map_or(0.0, |s| s.volts);
    let currents: Vec<f64> =
        stage.iter().skip_while(|s| s.volts < 0.9 * end).map(|s| s.amperes).filter(|i| *i > 0.0).collect();
    if currents.len() < FEWEST {
        return CurveShape::TooFew;
    }
    let logs: Vec<f64> = currents.iter().map(|i| i.ln()).collect();
    let mut steps: Vec<f64> = logs.windows(2).map(|w| (w[1] - w[0]).abs()).collect();
    let largest = steps.iter().copied().fold(0.0, f64::max);
    let middle = median(&mut steps);
    // The scatter round a running middle of three.
    let mut off: Vec<f64> = logs
        .windows(3)
        .map(|w| (w[1] - median(&mut w.to_vec())).abs().max((w[1] - (w[0] + w[2]) / 2.0).abs()))
        .collect();
    let scatter = median(&mut off);
    let third = logs.len() / 3;
    let mean = |part: &[f64]| part.iter().sum::<f64>() / part.len().max(1) as f64;
    let change = mean(&logs[logs.len() - third..]) - mean(&logs[..third]);
    if scatter > SCATTER {
        CurveShape::Noise
    } else if largest > 0.2 && largest > JUMP * middle.max(1e-3) && jumped_up(&logs, largest) {
        CurveShape::Steps
    } else if change > CHANGE {
        CurveShape::Rise
    } else if change < -CHANGE {
        CurveShape::Falling
    } else {
        CurveShape::NoFall
    }
}

/// The first readings of a stage fall fast by themselves: only a jump upwards is one.
fn jumped_up(logs: &[f64], largest: f64) -> bool {
    logs.windows(2).any(|w| (w[1] - w[0]) >= largest - 1e-12)
}

fn median(values: &mut [f64]) -> f64 {
    values.sort_by(f64::total_cmp);
    values.get(values.len() / 2).copied().unwrap_or(0.0)
}
