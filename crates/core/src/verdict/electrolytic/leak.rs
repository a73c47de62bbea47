//! Leakage in current, insulation or percent against the limit that a school picks.

use super::limits::leakage_limits;
use super::losses::no_rating;
use crate::part::Capacitor;
use crate::quantity::format::percent;
use crate::quantity::{Ampere, Ohm};
use crate::reading::{ReadQuantity, Reading};
use crate::source::Source;
use crate::verdict::finding::{Finding, Findings};
use crate::verdict::leakage::eye;
use crate::verdict::{Case, Dial, Outcome, Policy, PolicyNumber, Reason, Rule, Threshold};

/// Judges leakage in current, resistance or percent. Says whether it passed.
pub(in crate::verdict) fn leakage(
    found: &mut Findings,
    case: Case<'_>,
    part: &Capacitor,
    policy: &Policy,
) -> bool {
    let mut passed = false;
    // The newest decides: a part that was reformed leaked before.
    let newest = case.newest_of(&ReadQuantity::LEAKAGE);
    if let Some((i, r)) = newest.filter(|(_, r)| r.quantity == ReadQuantity::LeakageEye) {
        return eye(found, case, part, (i, r), policy);
    }
    let (percent, reading) = match newest {
        Some((_, r)) if r.quantity == ReadQuantity::LeakagePercent => (newest, None),
        other => (None, other),
    };
    if let Some((i, r)) = percent {
        passed |= percent_shown(found, i, r, policy);
    }
    let rated = part.rated.or(case.working());
    let limits = rated
        .and_then(|v| leakage_limits(part.value, v, policy.number_si(PolicyNumber::BenchMaPerMicrofarad)));
    let Some(limits) = limits else {
        if let Some((i, r)) = reading {
            found.push(no_rating(r.quantity, i, r));
        }
        return passed;
    };
    let (limit, name) = limits.deciding(policy.leakage, part.new);
    let amperes = reading.and_then(|(_, r)| leak_current(r));
    let mut dial = Dial::new(
        ReadQuantity::LeakageCurrent,
        amperes.map(Ampere::amperes),
        limit.amperes(),
        limits.source.clone(),
    );
    dial.others =
        [("new parts", limits.modern), ("older military", limits.military), ("bench figure", limits.bench)]
            .into_iter()
            .map(|(n, a)| (n.to_owned(), a.amperes()))
            .collect();
    if let (Some((i, r)), Some(amperes)) = (reading, amperes) {
        let (finding, call) = by_limit(case, i, r, amperes, limit, name, policy);
        dial.call = Some(call);
        passed |= matches!(call, Outcome::Keep | Outcome::Watch);
        if call != Outcome::MeasureAgain {
            let to = if call == Outcome::Replace { Outcome::Watch } else { Outcome::Replace };
            let word = if call == Outcome::Replace { "up to" } else { "above" };
            found.thresholds.extend(Threshold::new(
                to,
                ReadQuantity::LeakageCurrent,
                amperes.amperes(),
                limit.amperes(),
                word,
            ));
        }
        found.push(finding.by(i));
        let others = format!(
            "limits: {} new parts, {} older military, {} bench figure; the {name} decides",
            limits.modern, limits.military, limits.bench
        );
        found.push(Finding {
            reason: Reason::from(Rule::Electrolytic, others, &limits.source),
            ..Finding::new(Outcome::Keep, Rule::Electrolytic, "")
        });
    }
    if let (Some((i, r)), None) = (reading, amperes) {
        let bar = case.pitfalls(r, policy).into_iter().find(|w| w.bars);
        passed |= bar.is_none() && r.value_si().is_none() && r.quantity == ReadQuantity::LeakageResistance;
        let finding = bar.map_or_else(
            || match (r.value_si(), r.quantity) {
                (None, ReadQuantity::LeakageResistance) => {
                    Finding::new(Outcome::Keep, Rule::Electrolytic, "no leakage up to the end of the range")
                }
                _ => Finding::new(Outcome::Replace, Rule::Electrolytic, "the leakage is beyond the meter"),
            },
            |w| Finding::trap(&w),
        );
        found.push(finding.by(i));
    }
    if !case.readings.is_empty() && percent.is_none() {
        found.dials.push(dial);
    }
    passed
}

/// What flows at the test voltage.
fn leak_current(r: &Reading) -> Option<Ampere> {
    match r.quantity {
        ReadQuantity::LeakageCurrent => r.value_si().and_then(|v| Ampere::new(v).ok()),
        ReadQuantity::LeakageResistance => {
            let (v, ohm) = (r.test_voltage?, Ohm::new(r.value_si()?).ok()?);
            (ohm > Ohm::ZERO).then(|| v / ohm)
        }
        _ => None,
    }
}

fn by_limit(
    case: Case<'_>,
    i: usize,
    r: &Reading,
    leak: Ampere,
    limit: Ampere,
    name: &str,
    policy: &Policy,
) -> (Finding, Outcome) {
    let at = r.test_voltage.map(|v| format!(" at {v}")).unwrap_or_default();
    let bars: Vec<_> = case.pitfalls(r, policy).into_iter().filter(|w| w.bars).collect();
    if r.still_connected() {
        let finding = bars.first().map_or_else(
            || Finding::new(Outcome::MeasureAgain, Rule::InCircuit, "in circuit leakage is no measurement"),
            Finding::trap,
        );
        return (finding.by(i), Outcome::MeasureAgain);
    }
    if leak.amperes() > limit.amperes() {
        let text = format!("{leak}{at} leaks more than {limit}, the {name}");
        return (Finding::new(Outcome::Replace, Rule::Electrolytic, text), Outcome::Replace);
    }
    if let Some(bar) = bars.first() {
        return (Finding::trap(bar), Outcome::MeasureAgain);
    }
    let share = leak.amperes() / limit.amperes();
    if share >= policy.number_si(PolicyNumber::WatchFrom) {
        let text = format!("{leak}{at} is {:.0} % of {limit}, the {name}", share * 100.0);
        let finding =
            Finding::new(Outcome::Watch, Rule::Electrolytic, text).next("measure its leakage again soon");
        return (finding, Outcome::Watch);
    }
    (
        Finding::new(Outcome::Keep, Rule::Electrolytic, format!("{leak}{at} is within {limit}, the {name}")),
        Outcome::Keep,
    )
}

fn percent_shown(found: &mut Findings, i: usize, r: &Reading, policy: &Policy) -> bool {
    let limit = policy.number_si(PolicyNumber::LeakagePercent);
    let Some(v) = r.value_si() else { return false };
    let mut dial =
        Dial::new(ReadQuantity::LeakagePercent, Some(v), limit, Source::practice("under 3 % is reused"));
    if r.still_connected() {
        let text = "leakage in circuit is no measurement";
        found.push(Finding::new(Outcome::MeasureAgain, Rule::InCircuit, text).by(i).next("lift one end"));
        return false;
    }
    let call = if v >= limit { Outcome::Replace } else { Outcome::Keep };
    dial.call = Some(call);
    found.dials.push(dial);
    let word = if v >= limit { "is not under" } else { "is under" };
    let text = format!("leakage {} {word} {}", percent(v), percent(limit));
    found.push(Finding::new(call, Rule::Electrolytic, text).by(i));
    let (to, beyond) = if v >= limit { (Outcome::Keep, "under") } else { (Outcome::Replace, "from") };
    found.thresholds.extend(Threshold::new(to, ReadQuantity::LeakagePercent, v, limit, beyond));
    call == Outcome::Keep
}
