//! How much a rectifier valve takes as its first filter: the typical figure of its data, which is always allowed, or more
//! where the peak of its charging current stays within what one plate stands (rules R7 and R9).

use super::assess::Tally;
use super::{ChoiceReason, Need};
use crate::part::{Fact, Position};
use crate::preferred::{Series, neighbours};
use crate::quantity::{Ampere, Farad, Hertz, Ohm, Volt};
use crate::source::Source;
use crate::supply::Rating;
use crate::supply::rectifier::{Arrangement, Load, RectifierKind, Steady, Supply};
use crate::verdict::{Policy, PolicyNumber};

/// The most that is put in series before more capacitance is given up, ohm (practice: beyond it the rail is lost).
const MOST_SERIES: f64 = 1000.0;
/// The line where nobody said, hertz: the slower one, whose pulses are the higher.
const USUAL_HERTZ: f64 = 50.0;

/// Not more than the rectifier valve stands.
pub(super) fn judge(need: &Need<'_>, farads: f64, policy: &Policy, t: &mut Tally) {
    if need.position != Some(Position::Reservoir) {
        return;
    }
    let Some(limit) = need.fact(Fact::FirstFilterLimit) else { return };
    let typical = Farad::computed(limit);
    if farads <= limit * (1.0 + 1e-6) {
        t.passes.push(ChoiceReason::r7(format!("within the {typical} that the rectifier takes"), source()));
        return;
    }
    let over = format!("more than the {typical} that the rectifier takes as its first filter");
    let Some(filter) = Filter::of(need, farads, policy) else {
        t.refuse(over);
        return;
    };
    let most = filter.most;
    let Some(now) = filter.peak(0.0) else {
        t.refuse(over);
        return;
    };
    if now.peak_current <= most {
        let text = format!(
            "more than the typical {typical}, and its peaks of {} are within the {most} that a plate stands",
            now.peak_current
        );
        t.passes.push(ChoiceReason { rule: "R9", text, source: source() });
        return;
    }
    let remedy = filter.series().map_or_else(String::new, |(r, s)| {
        let watts = Rating::of(s.series_power).size().map_or_else(String::new, |w| format!(" of {w}"));
        format!(
            "; {r}{watts} more in series brings them back to {}: say the longer charging path",
            s.peak_current
        )
    });
    t.refuse(format!(
        "{over}: its peaks of {} are over the {most} that a plate stands{remedy}",
        now.peak_current
    ));
}

fn source() -> Source {
    Source::memory("published data of rectifier valves")
}

/// The supply as it would be.
struct Filter {
    supply: Supply,
    most: Ampere,
}

impl Filter {
    /// `None` where the peak cannot be solved for: what it stands, its volts, its load or its charging path is not known.
    fn of(need: &Need<'_>, farads: f64, policy: &Policy) -> Option<Self> {
        let usual = RectifierKind::Valve.usual()?;
        let high = policy.number_si(PolicyNumber::LineHigh);
        // One plate takes all the charge in one pulse: the worse where nobody said.
        let two = need.fact(Fact::RectifierPlates).is_some_and(|p| p >= 2.0);
        Some(Self {
            most: Ampere::computed(need.fact(Fact::RectifierPeak)?),
            supply: Supply {
                arrangement: if two { Arrangement::FullWave } else { Arrangement::HalfWave },
                line: Volt::computed(need.fact(Fact::Secondary)? * high),
                frequency: Hertz::computed(need.fact(Fact::Frequency).unwrap_or(USUAL_HERTZ)),
                drop: Volt::computed(usual.drop),
                resistance: Ohm::computed(usual.resistance),
                source: Ohm::computed(need.fact(Fact::ChargingPath)?),
                series: Ohm::ZERO,
                capacitance: Farad::computed(farads),
                load: Load::Current(Ampere::computed(need.fact(Fact::LoadCurrent)?)),
            },
        })
    }

    /// The steady state with so many ohms more in series.
    fn peak(&self, series: f64) -> Option<Steady> {
        Supply { series: Ohm::computed(series), ..self.supply }.steady().ok()
    }

    /// The preferred resistor that brings the peaks back, and the steady state with it.
    fn series(&self) -> Option<(Ohm, Steady)> {
        let fits = |r: f64| self.peak(r).filter(|s| s.peak_current <= self.most);
        fits(MOST_SERIES)?;
        let (mut low, mut high) = (0.0, MOST_SERIES);
        while high - low > 0.5 {
            let middle = 0.5 * (low + high);
            if fits(middle).is_some() { high = middle } else { low = middle }
        }
        let r = neighbours(Series::E12, high)?.above;
        Some((Ohm::computed(r), fits(r)?))
    }
}
