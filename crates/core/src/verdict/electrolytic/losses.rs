//! ESR and dissipation factor against those of a new part.

use super::limits::{esr_100khz, esr_limit, losses_source, tan_delta};
use crate::part::Capacitor;
use crate::quantity::format::format;
use crate::quantity::{Hertz, Quantity, Volt};
use crate::reading::pitfall::Pitfall;
use crate::reading::{ReadQuantity, Reading};
use crate::source::Source;
use crate::verdict::finding::{Finding, Findings};
use crate::verdict::{Case, Dial, Outcome, Policy, PolicyNumber, Reason, Rule, Threshold};

/// The frequency at which ESR limits hold where the meter does not say (practice: twice the line's).
const USUAL_FREQUENCY: f64 = 120.0;

/// Judges ESR and dissipation. Says whether one of them passed.
pub(in crate::verdict) fn losses(
    found: &mut Findings,
    case: Case<'_>,
    part: &Capacitor,
    policy: &Policy,
) -> bool {
    let rated = part.rated.or(case.working());
    let mut passed = false;
    for of in [ReadQuantity::Esr, ReadQuantity::DissipationFactor] {
        let reading = case.newest(of);
        let Some(rated) = rated else {
            if let Some((i, r)) = reading {
                found.push(no_rating(of, i, r));
            }
            continue;
        };
        let at = Band::of(reading.and_then(|(_, r)| r.test_frequency));
        let frequency = at.hertz();
        let Some((limit, source)) = at.limit(of, part, rated, policy) else {
            found.all.extend(reading.map(|(i, r)| no_limit(of, i, r, frequency)));
            continue;
        };
        let Some((i, r)) = reading else {
            if of == ReadQuantity::Esr {
                found.dials.push(Dial::new(of, None, limit, source));
            }
            continue;
        };
        let (finding, call) = loss(of, (i, r), (limit, &source), rated, frequency, policy);
        let mut dial = Dial::new(of, r.value_si(), limit, source);
        dial.call = Some(call);
        found.dials.push(dial);
        passed |= matches!(call, Outcome::Keep | Outcome::Watch);
        found.push(finding);
        if let (Some(v), true) = (r.value_si(), call != Outcome::MeasureAgain) {
            let share = policy.number_si(PolicyNumber::WatchFrom);
            let flip = match call {
                Outcome::Keep => Threshold::new(Outcome::Watch, of, v, share * limit, "from"),
                Outcome::Watch => Threshold::new(Outcome::Replace, of, v, limit, "from"),
                Outcome::Replace | Outcome::MeasureAgain => {
                    Threshold::new(Outcome::Watch, of, v, limit, "below")
                }
            };
            found.thresholds.extend(flip);
        }
        // Leads only add to ESR: a pass is a pass with them.
        let harmless = |t: Pitfall| {
            t == Pitfall::NotDischarged || (t == Pitfall::LeadResistance && call == Outcome::Keep)
        };
        for warning in case.pitfalls(r, policy).iter().filter(|w| !w.bars && !harmless(w.pitfall)) {
            found.push(Finding::trap(warning).by(i));
        }
    }
    passed
}

/// Without its rated volts there is no limit to hold a reading against.
pub(super) fn no_rating(of: ReadQuantity, i: usize, r: &Reading) -> Finding {
    if r.still_connected() {
        let text = format!("{} in circuit is no measurement", of.called());
        return Finding::new(Outcome::MeasureAgain, Rule::InCircuit, text)
            .by(i)
            .next("lift one end and measure again");
    }
    let text = format!("the limit for its {} hangs on its rated volts", of.called());
    Finding::new(Outcome::Watch, Rule::Electrolytic, text).by(i).certain(false).next("say its rated volts")
}

/// Where a meter's frequency lies: each has limits of its own.
#[derive(Debug, Clone, Copy, PartialEq)]
enum Band {
    /// At or near twice the line's: 100 or 120 Hz.
    Line(f64),
    /// Where ESR meters measure, around 100 kHz.
    High,
    /// Anywhere else: no limit is known there.
    Elsewhere(f64),
}

impl Band {
    fn of(frequency: Option<Hertz>) -> Self {
        let Some(f) = frequency.map(Hertz::hertz) else { return Self::Line(USUAL_FREQUENCY) };
        match f {
            // 100 Hz and 120 Hz both stand in sheets.
            _ if (f - 100.0).abs() < 1.0 => Self::Line(100.0),
            90.0..150.0 => Self::Line(USUAL_FREQUENCY),
            20e3..300e3 => Self::High,
            _ => Self::Elsewhere(f),
        }
    }

    fn hertz(self) -> f64 {
        match self {
            Self::Line(f) | Self::Elsewhere(f) => f,
            Self::High => 100e3,
        }
    }

    /// The limit in the base unit, and where it comes from; `None` where nothing can be held against it: tan δ at 120 Hz
    /// says nothing of 100 kHz.
    fn limit(
        self,
        of: ReadQuantity,
        part: &Capacitor,
        rated: Volt,
        policy: &Policy,
    ) -> Option<(f64, Source)> {
        let factor = policy.number_si(PolicyNumber::EsrFactor);
        match (self, of) {
            (Self::High, ReadQuantity::Esr) => {
                let (ohms, source) = esr_100khz(part.value, rated)?;
                Some((factor * ohms.ohms(), source))
            }
            (Self::Line(f), ReadQuantity::Esr) => {
                let limit = esr_limit(part.value, rated, Hertz::new(f).ok()?, factor)?;
                Some((limit.ohms(), losses_source(rated)))
            }
            (Self::Line(_), _) => {
                Some((factor * tan_delta(part.value, rated)?.fraction(), losses_source(rated)))
            }
            (Self::High | Self::Elsewhere(_), _) => None,
        }
    }
}

/// A loss for which no limit is known, at its frequency or for such a part, is measured again.
fn no_limit(of: ReadQuantity, i: usize, r: &Reading, f: f64) -> Finding {
    let shown = r.value_si().map_or_else(String::new, |v| format!(" {}", of.written(v)));
    let at = format(Quantity::Frequency, f);
    let text = format!("{}{shown} at {at}: no limit is known there", of.called());
    let next = match of {
        ReadQuantity::Esr => "measure its ESR at 100 or 120 Hz, or at 100 kHz",
        _ => "measure it at 100 or 120 Hz",
    };
    Finding::new(Outcome::MeasureAgain, Rule::Electrolytic, text).by(i).next(next)
}

fn loss(
    of: ReadQuantity,
    (i, r): (usize, &Reading),
    (limit, source): (f64, &Source),
    rated: Volt,
    frequency: f64,
    policy: &Policy,
) -> (Finding, Outcome) {
    let name = of.called();
    let most = of.written(limit);
    let how = format!("{most} at {} for {rated}", format(Quantity::Frequency, frequency));
    let Some(v) = r.value_si() else {
        let text = format!("{name} is beyond the meter: dried out or open");
        let call = if r.still_connected() { Outcome::MeasureAgain } else { Outcome::Replace };
        return (Finding::new(call, Rule::Electrolytic, text).by(i), call);
    };
    let shown = of.written(v);
    if r.still_connected() {
        let clearly = policy.number_si(PolicyNumber::EsrClearlyBad);
        if v > clearly * limit {
            let text = format!(
                "{name} {shown} in circuit is {:.1} times {how}; what lies in parallel only lowers it",
                v / limit
            );
            return (Finding::new(Outcome::Replace, Rule::InCircuit, text).by(i), Outcome::Replace);
        }
        let text = format!("{name} {shown} in circuit proves nothing below {}", of.written(clearly * limit));
        let finding = Finding::new(Outcome::MeasureAgain, Rule::InCircuit, text)
            .by(i)
            .next("lift one end and measure again");
        return (finding, Outcome::MeasureAgain);
    }
    let share = v / limit;
    let (call, text) = if share >= 1.0 - 1e-9 {
        (Outcome::Replace, format!("{name} {shown} is above {how}"))
    } else if share >= policy.number_si(PolicyNumber::WatchFrom) {
        (Outcome::Watch, format!("{name} {shown} is {:.0} % of {how}", share * 100.0))
    } else {
        (Outcome::Keep, format!("{name} {shown} is within {how}"))
    };
    let mut finding = Finding::new(call, Rule::Electrolytic, "").by(i);
    finding.reason = Reason::from(Rule::Electrolytic, text, source);
    if call == Outcome::Watch {
        finding = finding.next("measure its ESR again at the next repair");
    }
    (finding, call)
}
