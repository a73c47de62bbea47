//! The value of an electrolytic: a wide window, dried out below half, and a leak test before a generous one is believed.

use crate::part::Capacitor;
use crate::quantity::Fraction;
use crate::quantity::format::signed_percent;
use crate::reading::{ReadQuantity, Reading};
use crate::verdict::finding::{Finding, Findings};
use crate::verdict::{Case, Dial, Limits, Outcome, Policy, PolicyNumber, Rule, Threshold};

/// Judges the value of an electrolytic by a window of its own. `leaks` says whether a leakage test passed.
pub(in crate::verdict) fn value(
    found: &mut Findings,
    case: Case<'_>,
    part: &Capacitor,
    leak_passed: bool,
    policy: &Policy,
) -> bool {
    let low = policy.number_si(PolicyNumber::ElectrolyticLow).max(part.minus.map_or(0.0, Fraction::fraction));
    let high =
        policy.number_si(PolicyNumber::ElectrolyticHigh).max(part.plus.map_or(0.0, Fraction::fraction));
    let nominal = part.value.farads();
    let limits = Limits { low_si: nominal * (1.0 - low), high_si: nominal * (1.0 + high) };
    found.limits = Some(limits);
    let Some((i, r)) = case.newest(ReadQuantity::Capacitance) else {
        let mut dial =
            Dial::new(ReadQuantity::Capacitance, None, limits.high_si, Rule::Electrolytic.source());
        dial.low_si = Some(limits.low_si);
        found.dials.insert(0, dial);
        return false;
    };
    let Some(v) = r.value_si() else {
        let text = "beyond the meter's capacitance range: shorted, or too large for it";
        found.push(
            Finding::new(Outcome::MeasureAgain, Rule::Electrolytic, text)
                .by(i)
                .next("measure its resistance: is it shorted?"),
        );
        return false;
    };
    found.deviation = Fraction::new(v / nominal - 1.0).ok();
    let (call, finding) = value_call(case, i, r, v, part, limits, leak_passed, policy);
    let mut dial = Dial::new(ReadQuantity::Capacitance, Some(v), limits.high_si, Rule::Electrolytic.source());
    dial.low_si = Some(limits.low_si);
    dial.call = Some(call);
    found.dials.insert(0, dial);
    if call != Outcome::MeasureAgain {
        found.thresholds.extend(Threshold::of_window(ReadQuantity::Capacitance, nominal, limits, v, policy));
    }
    found.push(finding.by(i));
    matches!(call, Outcome::Keep | Outcome::Watch)
}

#[allow(clippy::too_many_arguments, reason = "one reading with all that it is held against")]
fn value_call(
    case: Case<'_>,
    i: usize,
    r: &Reading,
    v: f64,
    part: &Capacitor,
    limits: Limits,
    leak_passed: bool,
    policy: &Policy,
) -> (Outcome, Finding) {
    let off = v / part.value.farads() - 1.0;
    let shown = ReadQuantity::Capacitance.written(v);
    let text = format!("{shown} for {} is {}", part.value, signed_percent(off));
    let dried = policy.number_si(PolicyNumber::DriedFraction);
    let make = |call: Outcome, text: String, next: &str| {
        (call, Finding::new(call, Rule::Electrolytic, text).by(i).next(next))
    };
    if r.still_connected() {
        return make(
            Outcome::MeasureAgain,
            format!("{shown} in circuit is no measurement"),
            "discharge it, lift one end and measure again",
        );
    }
    let (low, high) = (limits.low_si, limits.high_si);
    if v == 0.0 {
        make(Outcome::Replace, "open: no capacitance at all".to_owned(), "")
    } else if off < -dried {
        make(Outcome::Replace, format!("{text}: dried out"), "")
    } else if v <= low {
        make(Outcome::Replace, format!("{text}, below {}", ReadQuantity::Capacitance.written(low)), "")
    } else if v >= high && !leak_passed {
        let text =
            format!("{text}: a part that leaks reads high on a low-voltage meter, and is not generous");
        let volts = part.rated.or(case.working()).map_or_else(String::new, |v| format!(" of {v}"));
        make(Outcome::MeasureAgain, text, &format!("leak test at its voltage{volts} first"))
    } else if v >= high {
        make(
            Outcome::Watch,
            format!("{text}, and it does not leak"),
            "note it; look again at the next repair",
        )
    } else {
        let window = if off < 0.0 { part.value.farads() - low } else { high - part.value.farads() };
        let used = (v - part.value.farads()).abs() / window;
        if used >= policy.number_si(PolicyNumber::WatchFrom) {
            make(
                Outcome::Watch,
                format!("{text}: {:.0} % of its window is used up", used * 100.0),
                "look again at the next repair",
            )
        } else {
            make(
                Outcome::Keep,
                format!(
                    "{text}, within {} to {}",
                    signed_percent(low / part.value.farads() - 1.0),
                    signed_percent(high / part.value.farads() - 1.0)
                ),
                "",
            )
        }
    }
}
