//! Coils: the copper by direct current, and the hints at shorted turns: inductance, ratio, and the other half.

use super::finding::{Finding, Findings};
use super::pair::{self, Own};
use super::{Against, Case, Limits, Outcome, Policy, PolicyNumber, Rule, Threshold, Verdict};
use crate::part::position::isolate;
use crate::part::{Coil, Fact, PartKind};
use crate::quantity::Fraction;
use crate::quantity::format::{percent, signed_percent};
use crate::reading::{Mode, ReadQuantity, Reading};

/// Below this share of its mark an inductance is that of shorted turns and not of another meter (practice).
const SHORTED: f64 = 0.5;

/// Judges a coil by a school's policy.
pub(super) fn judge(case: Case<'_>, part: &Coil, policy: &Policy) -> Verdict {
    let mut found = Findings::default();
    resistance(&mut found, case, part, policy);
    inductance(&mut found, case, part, policy);
    ratio(&mut found, case, policy);
    let mut verdict = found.settle("measure its resistance with direct current");
    let measured = case.newest(ReadQuantity::Resistance).and_then(|(_, r)| r.value_si());
    if let (Some(measured), Outcome::Keep | Outcome::Watch) = (measured, verdict.call) {
        let own = Own {
            of: ReadQuantity::Resistance,
            measured,
            marked: part.resistance.map_or(measured, |r| r.ohms()),
            allowed: policy.number_si(PolicyNumber::WindingFraction),
        };
        pair::weigh(&mut verdict, own, case.partners);
        if verdict.call == Outcome::Replace {
            verdict.next =
                vec!["suspect shorted turns: compare both halves' volts, lightly loaded".to_owned()];
        }
    }
    verdict
}

fn resistance(found: &mut Findings, case: Case<'_>, part: &Coil, policy: &Policy) {
    let limits = part.resistance.map(|r| {
        let t = policy.number_si(PolicyNumber::CoilFraction);
        Limits { low_si: r.ohms() * (1.0 - t), high_si: r.ohms() * (1.0 + t) }
    });
    found.limits = limits;
    // A winding is measured with direct current or not at all.
    let Some((i, r)) = case
        .readings
        .iter()
        .enumerate()
        .rev()
        .filter(|(_, r)| r.quantity == ReadQuantity::Resistance)
        .max_by_key(|(i, r)| (r.mode == Mode::Dc, !r.still_connected(), *i))
    else {
        return;
    };
    if r.mode == Mode::Ac {
        for warning in case.pitfalls(r, policy).iter().filter(|w| w.bars) {
            found.push(Finding::trap(warning).by(i));
        }
        return;
    }
    let Some(v) = r.value_si() else {
        let text = "nothing shown on ohms: open";
        found.push(
            Finding::new(Outcome::Replace, Rule::Winding, text)
                .by(i)
                .next("look at its ends first: a broken end can be soldered"),
        );
        found.overloaded = r.state != crate::reading::State::InCircuit;
        return;
    };
    let Some((limits, nominal)) = limits.zip(part.resistance) else {
        let text = format!("{} conducts; what it should have is not known", r.written());
        found.push(
            Finding::new(Outcome::Watch, Rule::Winding, text)
                .by(i)
                .certain(false)
                .next("say its resistance by the sheet, or compare its other half"),
        );
        return;
    };
    found.deviation = Fraction::new(v / nominal.ohms() - 1.0).ok();
    found.push(against_sheet(i, r, v, nominal.ohms(), limits, policy));
    found.thresholds.extend(Threshold::of_window(
        ReadQuantity::Resistance,
        nominal.ohms(),
        limits,
        v,
        policy,
    ));
    for warning in case.pitfalls(r, policy).iter().filter(|w| !w.bars) {
        found.push(Finding::trap(warning).by(i));
    }
}

fn against_sheet(i: usize, r: &Reading, v: f64, nominal: f64, limits: Limits, policy: &Policy) -> Finding {
    let off = v / nominal - 1.0;
    let shown = r.written();
    let sheet = ReadQuantity::Resistance.written(nominal);
    let text = format!("{shown} for {sheet} by the sheet is {}", signed_percent(off));
    let place = limits.against(r.band_si().unwrap_or((v, v)));
    let free = !r.still_connected();
    match place {
        Against::Above => {
            Finding::new(Outcome::Replace, Rule::Winding, format!("{text}: a bad joint, or another winding"))
                .by(i)
        }
        _ if !free => Finding::new(
            Outcome::MeasureAgain,
            Rule::InCircuit,
            format!("{shown} in circuit proves nothing unless it is too high"),
        )
        .by(i)
        .next(isolate(PartKind::Coil, None, "")),
        Against::Below => {
            Finding::new(Outcome::Replace, Rule::Winding, format!("{text}: shorted turns")).by(i)
        }
        Against::Straddles => Finding::new(
            Outcome::MeasureAgain,
            Rule::Winding,
            format!("{text}: on the edge of what the meter can tell"),
        )
        .by(i)
        .next("measure with a closer meter"),
        Against::Inside => {
            let room = policy.number_si(PolicyNumber::CoilFraction);
            let watch = off.abs() / room >= policy.number_si(PolicyNumber::WatchFrom);
            let call = if watch { Outcome::Watch } else { Outcome::Keep };
            let hot = if r.hot { "; copper reads 0.4 % more for each degree" } else { "" };
            Finding::new(call, Rule::Winding, format!("{text}, inside ±{}{hot}", percent(room))).by(i)
        }
    }
}

fn inductance(found: &mut Findings, case: Case<'_>, part: &Coil, policy: &Policy) {
    let Some((i, r)) = case.newest(ReadQuantity::Inductance) else { return };
    let (Some(v), Some(nominal)) = (r.value_si(), part.inductance) else { return };
    if r.still_connected() {
        let text = format!("{} in circuit is no measurement", r.written());
        found.push(Finding::new(Outcome::MeasureAgain, Rule::InCircuit, text).by(i).next("lift one end"));
        return;
    }
    let off = v / nominal.henries() - 1.0;
    let text = format!("{} for {nominal} is {}", r.written(), signed_percent(off));
    let may = policy.number_si(PolicyNumber::InductanceFraction);
    if part.resistance.is_none() {
        found.limits = Some(Limits {
            low_si: nominal.henries() * (1.0 - may),
            high_si: nominal.henries() * (1.0 + may),
        });
        found.deviation = Fraction::new(off).ok();
    }
    let finding = if v < SHORTED * nominal.henries() {
        Finding::new(Outcome::Replace, Rule::Winding, format!("{text}: shorted turns"))
    } else if off < -may {
        Finding::new(
            Outcome::Watch,
            Rule::Winding,
            format!("{text}: shorted turns, or a meter at another level"),
        )
        .next("compare it with its other half, or with a known one")
    } else {
        Finding::new(Outcome::Keep, Rule::Winding, format!("{text}: no sign of shorted turns"))
    };
    found.push(finding.by(i));
}

fn ratio(found: &mut Findings, case: Case<'_>, policy: &Policy) {
    let Some((i, v)) = case.newest(ReadQuantity::TurnsRatio).and_then(|(i, r)| Some((i, r.value_si()?)))
    else {
        return;
    };
    let Some(sheet) = case.circuit.get_si(Fact::TurnsRatio) else {
        found.ask(Fact::TurnsRatio);
        let text =
            format!("a ratio of {} means something beside the sheet's", ReadQuantity::TurnsRatio.written(v));
        found.push(Finding::new(Outcome::Watch, Rule::Winding, text).by(i).certain(false));
        return;
    };
    let off = v / sheet - 1.0;
    let may = policy.number_si(PolicyNumber::ShortedTurnsFraction);
    let of = ReadQuantity::TurnsRatio;
    let text = format!("ratio {} for {} is {}", of.written(v), of.written(sheet), signed_percent(off));
    let finding = if off.abs() >= may {
        Finding::new(Outcome::Replace, Rule::Winding, format!("{text}: shorted turns on one side"))
    } else {
        Finding::new(Outcome::Keep, Rule::Winding, format!("{text}, inside ±{}", percent(may)))
    };
    found.push(finding.by(i));
}
