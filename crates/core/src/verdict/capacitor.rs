//! Capacitors: what protects people, what a school condemns unmeasured, what is left alone without evidence, and
//! otherwise value, losses and leakage together.

use super::finding::{Finding, Findings};
use super::{Case, Limits, Outcome, Policy, PolicyNumber, Rule, Threshold, Verdict, electrolytic, leakage};
use crate::part::usual_tolerance;
use crate::part::{Capacitor, CapacitorFamily, MadeOf, PartKind, Position};
use crate::quantity::format::signed_percent;
use crate::quantity::{Fraction, Volt};
use crate::reading::{ReadQuantity, Setting, State};

/// Judges a capacitor by a school's policy.
pub(super) fn judge(case: Case<'_>, part: &Capacitor, policy: &Policy) -> Verdict {
    let mut found = Findings::default();
    protects(&mut found, case, part);
    condemned(&mut found, part, policy);
    shorted(&mut found, case, policy);
    if is_electrolytic(part) {
        let leak = electrolytic::leakage(&mut found, case, part, policy);
        let loss = electrolytic::losses(&mut found, case, part, policy);
        let value = electrolytic::value(&mut found, case, part, leak, policy);
        missing_of_electrolytic(&mut found, case, part, [value, loss, leak], policy);
    } else {
        let leak = leakage::judge(&mut found, case, part, policy);
        value(&mut found, case, part, leak, policy);
        losses_of_others(&mut found, case);
        missing(&mut found, case, part, leak, policy);
    }
    warm(&mut found, case, part);
    found.settle("measure its leakage at its working voltage, and its capacitance")
}

fn is_electrolytic(part: &Capacitor) -> bool {
    matches!(part.family, Some(CapacitorFamily::Electrolytic | CapacitorFamily::Tantalum))
}

fn leave_alone(part: &Capacitor) -> bool {
    part.family.and_then(|f| MadeOf::Capacitor(f).facts()).is_some_and(|f| f.leave_alone)
}

/// Common to all schools: what protects people is a safety class part or goes, whatever it reads.
fn protects(found: &mut Findings, case: Case<'_>, part: &Capacitor) {
    let Some((position, rule)) = case.position.and_then(|p| Some((p, p.class_rule()?))) else { return };
    let old_family = part.family == Some(CapacitorFamily::MetallisedPaper) && !part.new;
    let text = match (position.takes_class(part.safety), part.safety) {
        (Ok(()), Some(class)) if old_family => format!(
            "{position}: class {class} of metallised paper; its resin cracks, and it smokes and burns across the line, \
             whatever it reads"
        ),
        (Ok(()), class) => {
            let class = class.map_or(String::new(), |c| format!(" {c}"));
            let text = format!("{position}: a safety class part{class}, as it must be");
            found.push(Finding::new(Outcome::Keep, Rule::Protects, text));
            return;
        }
        (Err(_), Some(class)) => {
            format!("{position}: class {class} is the wrong class there, and it goes whatever it reads")
        }
        (Err(_), None) => format!("{position}: it protects people and goes whatever it reads"),
    };
    let next =
        format!("fit a part of class {} and nothing else; local electrical code comes first", rule.wanted());
    found.push(Finding::new(Outcome::Replace, Rule::Protects, text).next(next));
}

/// A family that a school does not measure.
fn condemned(found: &mut Findings, part: &Capacitor, policy: &Policy) {
    let Some(family) = part.family.map(MadeOf::Capacitor) else { return };
    if part.new || !policy.condemns.contains(&family) {
        return;
    }
    let Some(facts) = family.facts() else { return };
    let age = policy.number_si(PolicyNumber::ElectrolyticYears);
    if is_electrolytic(part)
        && let Some(years) = part.years.filter(|y| f64::from(*y) < age)
    {
        let text = format!("{years} years old, under the {age:.0} at which {} condemns it", policy.called());
        found.push(Finding::new(Outcome::Keep, Rule::Family, text));
        return;
    }
    let name = crate::named::Named::name(family);
    let text =
        format!("{name} {}: {} is replaced without testing by '{}'", facts.failure, name, policy.called());
    let finding = Finding::new(Outcome::Replace, Rule::Family, text);
    found.push(finding);
}

/// A dead short is proven in circuit too, unless a coil lies across.
fn shorted(found: &mut Findings, case: Case<'_>, policy: &Policy) {
    // An insulation tester finds a short too, whatever its volts.
    let insulation = case.newest(ReadQuantity::LeakageResistance);
    let insulation = insulation
        .filter(|(_, r)| r.value_si().is_some_and(|v| v <= policy.number_si(PolicyNumber::ShortOhms)));
    let Some((i, r)) = insulation.or(case.newest(ReadQuantity::Resistance)) else { return };
    // A pulled valve frees a resistor's end and not a capacitor's.
    let connected = matches!(r.state, State::InCircuit | State::ValvePulled);
    let Some(v) = r.value_si() else {
        if !connected {
            found.push(
                Finding::new(Outcome::Keep, Rule::InCircuit, "not shorted: nothing shown on ohms").by(i),
            );
        }
        return;
    };
    let shown = r.written();
    let coil_across = case.position.is_some_and(|p| {
        p.makes_a_frequency() || p.takes_pulses() || matches!(p, Position::AcrossTheLine | Position::Detector)
    });
    if v <= policy.number_si(PolicyNumber::ShortOhms) {
        if connected && coil_across {
            let text = format!("{shown} in circuit: the coil across it would read so too");
            found.push(Finding::new(Outcome::MeasureAgain, Rule::InCircuit, text).by(i).next("lift one end"));
        } else {
            let rule = if connected { Rule::InCircuit } else { Rule::Leakage };
            found.push(Finding::new(Outcome::Replace, rule, format!("{shown}: a dead short")).by(i));
        }
    } else if connected {
        let text = format!("{shown} in circuit is what lies in parallel");
        found.push(
            Finding::new(Outcome::MeasureAgain, Rule::InCircuit, text)
                .by(i)
                .next("lift one end and measure again"),
        );
    } else {
        let text = format!("{shown} on ohms: not shorted, and a meter's volt proves no more");
        found.push(Finding::new(Outcome::Keep, Rule::Method, text).by(i).certain(false));
    }
}

/// The window of value: as marked, or as is usual in its family.
fn window(part: &Capacitor) -> Limits {
    let usual = usual_tolerance(part.family.map(MadeOf::Capacitor));
    let minus = part.minus.map_or(usual.0, Fraction::fraction);
    let plus = part.plus.map_or(usual.1, Fraction::fraction);
    let v = part.value.farads();
    Limits { low_si: v * (1.0 - minus), high_si: v * (1.0 + plus) }
}

fn value(found: &mut Findings, case: Case<'_>, part: &Capacitor, leak_passed: bool, policy: &Policy) {
    let limits = window(part);
    found.limits = Some(limits);
    let Some((i, r)) = case.newest(ReadQuantity::Capacitance) else { return };
    let nominal = part.value.farads();
    let Some(v) = r.value_si() else {
        let text = "beyond the meter's capacitance range: shorted, or too large for it";
        found.push(
            Finding::new(Outcome::MeasureAgain, Rule::Tolerance, text)
                .by(i)
                .next("measure its resistance: is it shorted?"),
        );
        return;
    };
    found.deviation = Fraction::new(v / nominal - 1.0).ok();
    let shown = r.written();
    if r.still_connected() {
        let text = format!("{shown} in circuit is no measurement");
        found.push(
            Finding::new(Outcome::MeasureAgain, Rule::InCircuit, text)
                .by(i)
                .next("discharge it, lift one end and measure again"),
        );
        return;
    }
    if v == 0.0 {
        found.push(Finding::new(Outcome::Replace, Rule::Tolerance, "open: no capacitance at all").by(i));
        return;
    }
    let off = signed_percent(v / nominal - 1.0);
    let text = format!("{shown} for {} is {off}", part.value);
    let band = r.band_si().unwrap_or((v, v));
    let certain = limits.against(band) != super::Against::Straddles;
    let facts = case.position.and_then(|p| p.facts(PartKind::Capacitor));
    let share = v / nominal;
    let works =
        facts.and_then(|f| f.value_low.zip(f.value_high)).is_some_and(|(l, h)| share > l && share < h);
    let (call, text, next) = if v > limits.low_si && v < limits.high_si {
        let room = if v < nominal { nominal - limits.low_si } else { limits.high_si - nominal };
        let watch = room > 0.0 && (v - nominal).abs() / room >= policy.number_si(PolicyNumber::WatchFrom);
        let call = if watch { Outcome::Watch } else { Outcome::Keep };
        let from = signed_percent(limits.low_si / nominal - 1.0);
        let to = signed_percent(limits.high_si / nominal - 1.0);
        (call, format!("{text}, within {from} to {to}"), "")
    } else if v >= limits.high_si && !leak_passed && !leave_alone(part) {
        let next = "leak test at its working voltage before any verdict";
        (Outcome::MeasureAgain, format!("{text}: a part that leaks reads high on a low-voltage meter"), next)
    } else if works {
        (Outcome::Watch, format!("{text}: outside its mark, and works in this place"), "")
    } else {
        (
            Outcome::Replace,
            format!("{text}: outside its mark"),
            if leave_alone(part) { "realign after it" } else { "" },
        )
    };
    found.push(Finding::new(call, Rule::Tolerance, text).by(i).next(next).certain(certain));
    if call != Outcome::MeasureAgain {
        found.thresholds.extend(Threshold::of_window(ReadQuantity::Capacitance, nominal, limits, v, policy));
    }
}

/// ESR and dissipation of paper and film: told, not judged, except a broken connection.
fn losses_of_others(found: &mut Findings, case: Case<'_>) {
    for of in [ReadQuantity::Esr, ReadQuantity::DissipationFactor] {
        let Some((i, r)) = case.newest(of) else { continue };
        if r.still_connected() {
            let text = format!("{} in circuit is no measurement", r.written());
            found.push(Finding::new(Outcome::MeasureAgain, Rule::InCircuit, text).by(i).next("lift one end"));
        } else {
            let text = format!("{} {}: no limit for this family here", of.called(), r.written());
            found.push(Finding::new(Outcome::Keep, Rule::Method, text).by(i).certain(false));
        }
    }
}

/// The volts that it must stand, as far as they are known.
fn stands(case: Case<'_>, part: &Capacitor) -> Option<f64> {
    case.working().map(Volt::volts).or(part.rated.map(Volt::volts))
}

/// What has not been measured of a paper, film, ceramic or mica part.
fn missing(found: &mut Findings, case: Case<'_>, part: &Capacitor, leak_passed: bool, policy: &Policy) {
    let any_leak = case.readings.iter().any(|r| r.quantity.is_leakage());
    if leave_alone(part) {
        if case.readings.is_empty() {
            let facts = part.family.and_then(|f| MadeOf::Capacitor(f).facts());
            let text = format!(
                "{} {}: left alone without evidence, because changing it moves the alignment",
                part.family.map(crate::named::Named::name).unwrap_or_default(),
                facts.map(|f| f.failure.as_str()).unwrap_or_default()
            );
            found.push(Finding::new(Outcome::Keep, Rule::Family, text));
        }
        return;
    }
    if leak_passed || any_leak || case.readings.is_empty() {
        return;
    }
    let volts = stands(case, part);
    if case.newest(ReadQuantity::Capacitance).is_none() {
        let text = "neither its leakage nor its capacitance is known yet";
        found.push(
            Finding::new(Outcome::MeasureAgain, Rule::Leakage, text)
                .next("measure its leakage at its working voltage, and its capacitance"),
        );
    } else if let Some((i, warning)) = case.newest(ReadQuantity::Capacitance).and_then(|(i, r)| {
        case.pitfalls(r, policy)
            .into_iter()
            .find(|w| w.pitfall == crate::reading::pitfall::Pitfall::LowTestVoltage)
            .map(|w| (i, w))
    }) {
        found.push(Finding::trap(&warning).by(i));
    } else if volts.is_none() || volts.is_some_and(|v| v >= policy.number_si(PolicyNumber::UnprovenVolts)) {
        let text = "its value alone says nothing of its leakage at work";
        found.push(
            Finding::new(Outcome::Watch, Rule::Leakage, text).next("test its leakage at its working voltage"),
        );
    }
}

/// What has not been measured of an electrolytic: above a few volts it must pass a leakage test.
fn missing_of_electrolytic(
    found: &mut Findings,
    case: Case<'_>,
    part: &Capacitor,
    [value, loss, leak]: [bool; 3],
    policy: &Policy,
) {
    if case.readings.is_empty() {
        return;
    }
    let has = |of: ReadQuantity| case.newest(of).is_some();
    let leak_read = case.readings.iter().any(|r| r.quantity.is_leakage());
    let volts = stands(case, part);
    let at = volts.map(|v| format!(" of {v:.0} V")).unwrap_or_default();
    let high = volts.is_some_and(|v| v >= policy.number_si(PolicyNumber::UnprovenVolts));
    if !leak_read && high {
        let text = format!("not proven at its voltage{at}: a volt or so says nothing of its leakage");
        found.push(
            Finding::new(Outcome::MeasureAgain, Rule::Electrolytic, text)
                .next(format!("leak test at its working voltage{at}")),
        );
    } else if !leak_read && !loss {
        let text = "neither its ESR nor its leakage is known yet";
        found.push(
            Finding::new(Outcome::Watch, Rule::Electrolytic, text)
                .next("measure its ESR, and its leakage at its working voltage"),
        );
    }
    if leak && !has(ReadQuantity::Capacitance) {
        let text = "its leakage passes; its capacitance is not known yet";
        found.push(
            Finding::new(Outcome::MeasureAgain, Rule::Electrolytic, text).next("measure its capacitance"),
        );
    } else if loss && !value && !has(ReadQuantity::Capacitance) {
        let text = "its losses pass; its capacitance is not known yet";
        found.push(
            Finding::new(Outcome::MeasureAgain, Rule::Electrolytic, text).next("measure its capacitance"),
        );
    } else if leak && value && !has(ReadQuantity::Esr) && !has(ReadQuantity::DissipationFactor) {
        let text = "its ESR is not known";
        found.push(Finding::new(Outcome::Watch, Rule::Electrolytic, text).next("measure its ESR"));
    }
}

/// A part that leaks only when warm is proven only by a warm test at its voltage.
fn warm(found: &mut Findings, case: Case<'_>, part: &Capacitor) {
    if !part.test_warm {
        return;
    }
    let tested = case.readings.iter().any(|r| {
        r.hot && r.quantity.is_leakage() && !r.still_connected() && r.setting != Some(Setting::Electrolytic)
    });
    if !tested {
        let at = stands(case, part).map(|v| format!(" at {v:.0} V")).unwrap_or_default();
        let text = "suspected to leak only when warm: a cool reading proves nothing";
        found.push(
            Finding::new(Outcome::MeasureAgain, Rule::Leakage, text)
                .next(format!("test its leakage{at}, warm")),
        );
    }
}
