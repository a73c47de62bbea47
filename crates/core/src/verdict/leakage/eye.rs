//! A go/no-go eye: it opens where a part takes the volts of the test, and stays closed where it leaks or is shorted
//! (practice). It proves some megohms and no more.

use crate::part::{Capacitor, CapacitorFamily, Position};
use crate::quantity::Volt;
use crate::reading::Reading;
use crate::verdict::finding::{Finding, Findings};
use crate::verdict::{Case, Outcome, Policy, Rule};

/// What an eye showed of a capacitor, reading `i` of the case. Says whether it passed.
pub(in crate::verdict) fn eye(
    found: &mut Findings,
    case: Case<'_>,
    part: &Capacitor,
    (i, r): (usize, &Reading),
    policy: &Policy,
) -> bool {
    if r.still_connected() {
        let bars = case.pitfalls(r, policy).into_iter().find(|w| w.bars);
        found.extend_first(bars.as_ref().map(Finding::trap), i);
        return false;
    }
    let at = r.test_voltage.map(Volt::abs).filter(|v| *v > Volt::ZERO);
    let said = at.map(|v| format!(" at {v}")).unwrap_or_default();
    let forms = matches!(part.family, Some(CapacitorFamily::Electrolytic | CapacitorFamily::Tantalum));
    let needs = case.working().or(part.rated).map(Volt::abs);
    let small = case.position.is_some_and(little_is_much);
    let (call, text, next) = match (r.eye_opens(), at, needs) {
        (false, ..) if forms => (
            Outcome::MeasureAgain,
            format!("the eye stays closed{said}: not formed, leaking or shorted"),
            "reform it, or read its leakage current",
        ),
        (false, ..) => (Outcome::Replace, format!("the eye stays closed{said}: it leaks or is shorted"), ""),
        (true, None, _) => (
            Outcome::MeasureAgain,
            "the eye opens, at volts that nobody said".to_owned(),
            "say at which volts it opened",
        ),
        (true, Some(at), Some(needs)) if at < needs => (
            Outcome::MeasureAgain,
            format!("the eye opens at {at}, and the part works at {needs}"),
            "test its leakage at its working voltage",
        ),
        (true, Some(_), _) if small => (
            Outcome::MeasureAgain,
            format!("the eye opens{said}: that proves some megohms, and here little is too much"),
            "read its leakage current at its working voltage",
        ),
        (true, Some(_), _) => (Outcome::Keep, format!("the eye opens{said}"), ""),
    };
    let finding = Finding::new(call, if forms { Rule::Electrolytic } else { Rule::Leakage }, text).by(i);
    found.push(if next.is_empty() { finding } else { finding.next(next) });
    call == Outcome::Keep
}

/// Where a leak that no eye shows still does harm: on grids, lines of high resistance, tuned circuits, and to people.
fn little_is_much(p: Position) -> bool {
    matches!(p, Position::Coupling | Position::Avc)
        || p.protects_people()
        || p.makes_a_frequency()
        || p.blocks_a_plate()
}
