//! Resistors: tolerance (R1), what an in-circuit reading proves (R2), heat (R3), pairs (R1p).
//!
//! The newest reading that can decide decides. Readings that cannot (inside the window but in
//! circuit) leave the decision to older ones; a hot reading does not, because the part may have
//! changed since.

use super::{Call, Limits, Policy, Reason, Rule, Verdict};
use crate::part::{Family, Position, Resistor};
use crate::quantity::write::{percent, signed_percent};
use crate::quantity::{Fraction, Ohm};
use crate::reading::{Mode, Reading, Shown, State};

/// The ceiling that is assumed of a meter that does not say (practice: most bench meters).
const COMMON_CEILING: f64 = 10e6;

/// The other half of a matched pair.
#[derive(Debug, Clone, PartialEq)]
pub struct Partner {
    /// What it is called on the tray.
    pub name: String,
    /// What it measures.
    pub measured: Ohm,
    /// What it is marked.
    pub marked: Ohm,
}

/// All that is judged.
#[derive(Debug, Clone, Copy)]
pub struct Case<'a> {
    /// The part as marked.
    pub part: &'a Resistor,
    /// Where it sits, where that is known.
    pub position: Option<Position>,
    /// Its readings, oldest first.
    pub readings: &'a [Reading],
    /// The other half of its pair, where it has one and that one was measured.
    pub partner: Option<&'a Partner>,
}

/// What one reading says by itself.
struct Opinion {
    call: Call,
    certain: bool,
    reasons: Vec<Reason>,
    next: Vec<String>,
    /// Whether an older reading may decide instead.
    yields: bool,
}

/// Judges a resistor by a school's policy.
#[must_use]
pub fn judge(case: Case<'_>, policy: &Policy) -> Verdict {
    let limits = limits(case.part, policy);
    let mut verdict = Verdict {
        call: Call::MeasureAgain,
        deviation: None,
        limits,
        certain: false,
        decided_by: None,
        reasons: vec![],
        next: vec![],
    };
    let mut first = None;
    let mut decided = None;
    for (i, reading) in case.readings.iter().enumerate().rev() {
        let opinion = of_reading(case, reading, limits, policy);
        if opinion.yields {
            first.get_or_insert((i, opinion));
        } else {
            decided = Some((i, opinion));
            break;
        }
    }
    let Some((i, opinion)) = decided.or(first) else {
        verdict.next.push("measure it".to_owned());
        return verdict;
    };
    verdict.call = opinion.call;
    verdict.certain = opinion.certain;
    verdict.reasons = opinion.reasons;
    verdict.next = opinion.next;
    verdict.decided_by = Some(i);
    verdict.deviation = deviation(case.part, &case.readings[i]);
    if let (Call::Keep | Call::Watch, Shown::Value(measured), Some(partner)) =
        (verdict.call, case.readings[i].shown, case.partner)
    {
        pair(&mut verdict, case.part, measured, partner, policy);
    }
    verdict
}

/// The window of a school round the marked value.
pub(super) fn limits(part: &Resistor, policy: &Policy) -> Limits {
    let t = policy.limit_for(part.tolerance_fraction());
    let v = part.value.ohms();
    let ohm = |x: f64| Ohm::new(x.max(0.0)).unwrap_or(part.value);
    Limits { low: ohm(v * (1.0 - t)), high: ohm(v * (1.0 + t)) }
}

fn deviation(part: &Resistor, reading: &Reading) -> Option<Fraction> {
    match reading.shown {
        Shown::Value(v) => Fraction::new(v.ohms() / part.value.ohms() - 1.0).ok(),
        Shown::Overrange { .. } => None,
    }
}

/// Where a reading with its uncertainty lies against the window. Edges count as out; a part in a
/// thousand million is not a difference.
#[derive(PartialEq, Clone, Copy)]
enum Against {
    Below,
    Inside,
    Above,
    Straddles,
}

fn against(limits: Limits, (least, most): (Ohm, Ohm)) -> Against {
    let slack = 1e-9 * limits.high.ohms();
    let (low, high) = (limits.low.ohms() + slack, limits.high.ohms() - slack);
    if least.ohms() >= high {
        Against::Above
    } else if most.ohms() <= low {
        Against::Below
    } else if least.ohms() > low && most.ohms() < high {
        Against::Inside
    } else {
        Against::Straddles
    }
}

fn of_reading(case: Case<'_>, reading: &Reading, limits: Limits, policy: &Policy) -> Opinion {
    let again = |rule, text: String, next: String, yields| Opinion {
        call: Call::MeasureAgain,
        certain: false,
        reasons: vec![Reason::new(rule, text)],
        next: vec![next],
        yields,
    };
    let value = match reading.shown {
        Shown::Value(value) => value,
        Shown::Overrange { ceiling } => return overrange(reading.state, ceiling, limits),
    };
    let band = reading.band().unwrap_or((value, value));
    let place = against(limits, band);
    let tolerance = policy.limit_for(case.part.tolerance_fraction());
    let edge = |sign: &str, edge: Ohm| format!("{} {sign} {} = {edge}", case.part.value, percent(tolerance));

    if reading.mode == Mode::Ac && case.part.family == Family::Wirewound {
        let text = format!("{value} was measured with alternating current, and a wound part has inductance");
        return again(Rule::Method, text, "measure it with direct current".to_owned(), false);
    }
    if reading.state == State::InCircuit {
        if place == Against::Above {
            let text = format!(
                "{value} in circuit is above {}; what lies in parallel can only lower it",
                edge("+", limits.high)
            );
            return out(case, Rule::InCircuit, text, reading);
        }
        let text = format!("{value} in circuit proves nothing unless it is above {}", edge("+", limits.high));
        return again(Rule::InCircuit, text, free_one_end(case.position), true);
    }
    let hot = reading.hot || reading.since_soldering.is_some_and(|t| t < policy.cool_after);
    if hot && case.part.family == Family::CarbonComposition && place != Against::Above {
        let minutes = policy.cool_after.seconds() / 60.0;
        let text = format!(
            "{value} was measured hot: carbon composition reads low then, for up to {minutes:.0} minutes"
        );
        return again(Rule::Heat, text, "let it cool and measure again".to_owned(), false);
    }
    match place {
        Against::Above => {
            let mut text = format!("{value} is above {}", edge("+", limits.high));
            if hot && case.part.family == Family::CarbonComposition {
                text.push_str("; hot, so it will be higher still when cool");
            }
            out(case, Rule::Tolerance, text, reading)
        }
        Against::Below => {
            out(case, Rule::Tolerance, format!("{value} is below {}", edge("−", limits.low)), reading)
        }
        Against::Straddles => {
            let text = format!(
                "the meter allows {} to {}, and {} lies between",
                band.0,
                band.1,
                if band.1.ohms() >= limits.high.ohms() * (1.0 - 1e-9) {
                    edge("+", limits.high)
                } else {
                    edge("−", limits.low)
                }
            );
            again(Rule::Tolerance, text, "measure with a closer meter; this one cannot tell".to_owned(), true)
        }
        Against::Inside => inside(case.part, value, tolerance, policy, reading),
    }
}

fn inside(part: &Resistor, value: Ohm, tolerance: f64, policy: &Policy, reading: &Reading) -> Opinion {
    let off = value.ohms() / part.value.ohms() - 1.0;
    let used = if tolerance > 0.0 { off.abs() / tolerance } else { 0.0 };
    let watch = used >= policy.watch_from;
    let text = format!(
        "{value} is {} {}, inside ±{}{}",
        off_mark(off),
        part.value,
        percent(tolerance),
        if watch { format!("; {:.0} % of that is used up", used * 100.0) } else { String::new() }
    );
    Opinion {
        call: if watch { Call::Watch } else { Call::Keep },
        certain: reading.accuracy.is_some(),
        reasons: vec![Reason::new(Rule::Tolerance, text)],
        next: if watch { vec!["note it; look again at the next repair".to_owned()] } else { vec![] },
        yields: false,
    }
}

/// "3.2 % above", "exactly".
fn off_mark(off: f64) -> String {
    let text = signed_percent(off);
    match text.strip_prefix('+') {
        Some("0 %") => "exactly".to_owned(),
        Some(above) => format!("{above} above"),
        None => format!("{} below", text.trim_start_matches('−')),
    }
}

fn out(case: Case<'_>, rule: Rule, text: String, reading: &Reading) -> Opinion {
    let mut reasons = vec![Reason::new(rule, text)];
    if let (Some(_), Some((least, most))) = (reading.accuracy, reading.band()) {
        reasons.push(Reason::new(
            Rule::Tolerance,
            format!("the meter's worst case, {least} to {most}, is out as well"),
        ));
    }
    let high = matches!(reading.shown, Shown::Value(v) if v > case.part.value)
        || matches!(reading.shown, Shown::Overrange { .. });
    let mut next = vec!["find what fits".to_owned()];
    if high && matches!(case.position, Some(Position::Feed | Position::ScreenFeed | Position::PlateLoad)) {
        next.push("before the new one goes in: what behind it draws too much?".to_owned());
    }
    Opinion { call: Call::Replace, certain: reading.accuracy.is_some(), reasons, next, yields: false }
}

fn overrange(state: State, ceiling: Option<Ohm>, limits: Limits) -> Opinion {
    let ceiling = ceiling.map_or(COMMON_CEILING, Ohm::ohms);
    let end = Ohm::new(ceiling).unwrap_or(limits.high);
    if ceiling >= limits.high.ohms() {
        let parallel = if state == State::InCircuit { ", with all that lies in parallel" } else { "" };
        let text = format!("nothing shown up to {end}{parallel}: open");
        Opinion {
            call: Call::Replace,
            certain: true,
            reasons: vec![Reason::new(
                if state == State::InCircuit { Rule::InCircuit } else { Rule::Tolerance },
                text,
            )],
            next: vec!["find what fits".to_owned()],
            yields: false,
        }
    } else {
        let text = format!("the meter ends at {end}, and the part may have up to {}", limits.high);
        Opinion {
            call: Call::MeasureAgain,
            certain: false,
            reasons: vec![Reason::new(Rule::Tolerance, text)],
            next: vec![format!("measure with a meter that reaches {}", limits.high)],
            yields: true,
        }
    }
}

fn free_one_end(position: Option<Position>) -> String {
    match position.and_then(Position::facts) {
        Some(facts) => format!("free one end: {}", facts.isolate),
        None => "free one end: pull the valve that it hangs on, or lift it, and measure again".to_owned(),
    }
}

/// R1p: the one further from its mark goes; the nearer one is watched until the pair matches.
fn pair(verdict: &mut Verdict, part: &Resistor, measured: Ohm, partner: &Partner, policy: &Policy) {
    let (a, b) = (measured.ohms(), partner.measured.ohms());
    let apart = (a - b).abs() / ((a + b) / 2.0);
    let off = |value: Ohm, mark: Ohm| (value.ohms() / mark.ohms() - 1.0).abs();
    let (own, other) = (off(measured, part.value), off(partner.measured, partner.marked));
    let (apart_text, wanted) =
        (signed_percent(apart).trim_start_matches('+').to_owned(), percent(policy.pair_fraction));
    if apart <= policy.pair_fraction + 1e-9 {
        verdict.reasons.push(Reason::new(
            Rule::Pair,
            format!("pair with {}: {apart_text} apart, {wanted} allowed", partner.name),
        ));
        return;
    }
    let text =
        format!("pair with {} at {}: {apart_text} apart, {wanted} wanted", partner.name, partner.measured);
    verdict.reasons.push(Reason::new(Rule::Pair, text));
    let equally_far = (own - other).abs() <= 1e-9;
    if equally_far || own > other {
        verdict.call = Call::Replace;
        verdict.next = vec![if equally_far {
            format!("fit a matched pair for this one and {}", partner.name)
        } else {
            format!("fit one that matches {} at {}", partner.name, partner.measured)
        }];
        verdict.reasons.rotate_right(1);
    } else {
        verdict.next.push(format!(
            "{} is the one that is further off; match its successor to this one",
            partner.name
        ));
    }
}
