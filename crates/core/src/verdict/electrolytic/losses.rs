//! ESR and dissipation factor against those of a new part.

use super::limits::{esr_limit, losses_source, tan_delta};
use crate::part::Capacitor;
use crate::quantity::{Hertz, Ohm, Volt};
use crate::reading::pitfall::Pitfall;
use crate::reading::{ReadQuantity, Reading};
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
        let frequency = reading.and_then(|(_, r)| r.test_frequency).map_or(USUAL_FREQUENCY, |f| {
            // 100 Hz and 120 Hz both stand in sheets; from elsewhere the limit holds at twice the line's.
            if (f.hertz() - 100.0).abs() < 1.0 { 100.0 } else { USUAL_FREQUENCY }
        });
        let Some(limit) = loss_limit(of, part, rated, frequency, policy) else { continue };
        let Some((i, r)) = reading else {
            if of == ReadQuantity::Esr {
                found.dials.push(Dial::new(of, None, limit, losses_source(rated)));
            }
            continue;
        };
        let (finding, call) = loss(of, i, r, limit, rated, frequency, policy);
        let mut dial = Dial::new(of, r.value_si(), limit, losses_source(rated));
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

fn loss_limit(of: ReadQuantity, part: &Capacitor, rated: Volt, f: f64, policy: &Policy) -> Option<f64> {
    let factor = policy.number_si(PolicyNumber::EsrFactor);
    if of == ReadQuantity::Esr {
        let at = Hertz::new(f).ok()?;
        esr_limit(part.value, rated, at, factor).map(Ohm::ohms)
    } else {
        tan_delta(rated).map(|t| factor * t.fraction())
    }
}

fn loss(
    of: ReadQuantity,
    i: usize,
    r: &Reading,
    limit: f64,
    rated: Volt,
    frequency: f64,
    policy: &Policy,
) -> (Finding, Outcome) {
    let name = of.called();
    let most = of.written(limit);
    let how = format!("{most} at {frequency:.0} Hz for {rated}");
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
    finding.reason = Reason::from(Rule::Electrolytic, text, &losses_source(rated));
    if call == Outcome::Watch {
        finding = finding.next("measure its ESR again at the next repair");
    }
    (finding, call)
}
