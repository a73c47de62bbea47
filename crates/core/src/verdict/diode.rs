//! Diodes and rectifiers by their forward drop and their way back. Two-way conduction is a short.

use std::sync::LazyLock;

use serde::Deserialize;

use super::finding::{Finding, Findings};
use super::{Case, Limits, Outcome, Policy, Reason, Rule, Threshold, Verdict};
use crate::part::position::isolate;
use crate::part::{Diode, DiodeFamily, MadeOf, PartKind};
use crate::reading::pitfall::Pitfall;
use crate::reading::{ReadQuantity, Reading};
use crate::source::Source;
use crate::table::rows;

/// Below this a junction is a piece of wire, in volt (practice).
const SHORT_VOLTS: f64 = 0.05;
/// Up to this many times its drop a junction is aged and not yet gone (practice).
const AGED: f64 = 1.5;

#[derive(Deserialize)]
struct Drop {
    family: DiodeFamily,
    low: f64,
    high: f64,
    reverse_ohms: f64,
    #[serde(rename = "for")]
    how: String,
    source: Source,
}

static DROPS: LazyLock<Vec<Drop>> =
    LazyLock::new(|| rows("diode_drop.csv", include_str!("../../data/diode_drop.csv")));

/// Judges a diode by a school's policy.
pub(super) fn judge(case: Case<'_>, part: &Diode, policy: &Policy) -> Verdict {
    let mut found = Findings::default();
    if let Some(family) = part.family.map(MadeOf::Diode)
        && policy.condemns.contains(&family)
        && let Some(facts) = family.facts()
    {
        let name = crate::named::Named::name(family);
        let text =
            format!("{name}: {}; it is replaced without testing by '{}'", facts.failure, policy.called());
        let next = format!("fit {}", facts.replaced_by);
        found.push(Finding::new(Outcome::Replace, Rule::Family, text).next(next));
    }
    forward(&mut found, case, part, policy);
    reverse(&mut found, case, part);
    found.settle("measure its forward drop, then its way back")
}

fn forward(found: &mut Findings, case: Case<'_>, part: &Diode, policy: &Policy) {
    let Some((i, r)) = case.newest(ReadQuantity::ForwardVoltage) else { return };
    if let Some(stack) = case.pitfalls(r, policy).iter().find(|w| w.pitfall == Pitfall::StackOnADiodeRange) {
        found.push(Finding::trap(stack).by(i));
        return;
    }
    let Some(v) = r.value_si() else {
        found.push(Finding::new(Outcome::Replace, Rule::Drop, "nothing shown forward: open").by(i));
        return;
    };
    let shown = r.written();
    if v.abs() < SHORT_VOLTS {
        let finding = if r.still_connected() {
            let text = format!("{shown} in circuit: shorted, or something across it is");
            Finding::new(Outcome::MeasureAgain, Rule::InCircuit, text).by(i).next(isolate(
                PartKind::Diode,
                case.position,
                "",
            ))
        } else {
            found.overloaded = true;
            Finding::new(Outcome::Replace, Rule::Drop, format!("{shown} forward: shorted")).by(i)
        };
        found.push(finding);
        return;
    }
    let Some(drop) = part.family.and_then(|f| DROPS.iter().find(|d| d.family == f)) else {
        let text = format!("{shown} forward: it conducts; what it is made of is not known");
        found.push(
            Finding::new(Outcome::Watch, Rule::Drop, text)
                .by(i)
                .certain(false)
                .next("say what it is made of"),
        );
        return;
    };
    let plates = f64::from(part.plates.max(1));
    let limits = Limits { low_si: drop.low * plates, high_si: drop.high * plates };
    found.limits = Some(limits);
    found.push(against(i, r, v, drop, limits));
    found.thresholds.extend(if v > limits.high_si {
        Threshold::new(Outcome::Keep, ReadQuantity::ForwardVoltage, v, limits.high_si, "up to")
    } else if v < limits.low_si {
        Threshold::new(Outcome::Keep, ReadQuantity::ForwardVoltage, v, limits.low_si, "from")
    } else {
        Threshold::new(Outcome::Watch, ReadQuantity::ForwardVoltage, v, limits.high_si, "above")
    });
}

fn against(i: usize, r: &Reading, v: f64, drop: &Drop, limits: Limits) -> Finding {
    let of = ReadQuantity::ForwardVoltage;
    let window = format!(
        "{} to {} of {} {}",
        of.written(limits.low_si),
        of.written(limits.high_si),
        drop.family,
        drop.how
    );
    let shown = r.written();
    let (call, text) = if v > limits.high_si * AGED {
        (Outcome::Replace, format!("{shown} is far above {window}"))
    } else if v > limits.high_si {
        let call = if drop.family == DiodeFamily::Selenium { Outcome::Replace } else { Outcome::Watch };
        (call, format!("{shown} is above {window}: its drop has risen"))
    } else if v < limits.low_si && r.still_connected() {
        (Outcome::MeasureAgain, format!("{shown} in circuit is below {window}: something lies across it"))
    } else if v < limits.low_si {
        (Outcome::Replace, format!("{shown} is below {window}: it leaks, or is not what it is marked"))
    } else {
        (Outcome::Keep, format!("{shown} is within {window}"))
    };
    let mut finding = Finding::new(call, Rule::Drop, "").by(i);
    finding.reason = Reason::from(Rule::Drop, text, &drop.source);
    if call == Outcome::MeasureAgain {
        finding = finding.next("lift one end and measure again");
    }
    finding
}

fn reverse(found: &mut Findings, case: Case<'_>, part: &Diode) {
    let back = [ReadQuantity::LeakageResistance, ReadQuantity::LeakageCurrent];
    let Some((i, r)) = case.newest_of(&back) else {
        if case.newest(ReadQuantity::ForwardVoltage).is_some() {
            let text = "its way back is not measured";
            found.push(Finding::new(Outcome::Keep, Rule::Drop, text).certain(false));
        }
        return;
    };
    let ohms = match r.quantity {
        ReadQuantity::LeakageResistance => r.value_si(),
        _ => r.test_voltage.zip(r.value_si()).filter(|(_, a)| *a > 0.0).map(|(v, a)| v.volts().abs() / a),
    };
    let Some(ohms) = ohms else {
        found.push(Finding::new(Outcome::Keep, Rule::Drop, "nothing comes back through it").by(i));
        return;
    };
    let shown = ReadQuantity::LeakageResistance.written(ohms);
    if r.still_connected() {
        let text = format!("{shown} backwards in circuit is what lies across it");
        found.push(Finding::new(Outcome::MeasureAgain, Rule::InCircuit, text).by(i).next("lift one end"));
        return;
    }
    let Some(drop) = part.family.and_then(|f| DROPS.iter().find(|d| d.family == f)) else { return };
    let least = drop.reverse_ohms * f64::from(part.plates.max(1));
    let wanted = ReadQuantity::LeakageResistance.written(least);
    let (call, text) = if ohms < least / 1000.0 {
        (Outcome::Replace, format!("{shown} backwards: it conducts both ways, shorted"))
    } else if ohms < least {
        (Outcome::Replace, format!("{shown} backwards is under {wanted}: it leaks"))
    } else {
        (Outcome::Keep, format!("{shown} backwards is above {wanted}"))
    };
    found.push(Finding::new(call, Rule::Drop, text).by(i));
}
