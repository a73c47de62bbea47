//! Resistors: tolerance (R1), what an in-circuit reading proves (R2), heat (R3), pairs (R1p).
//!
//! The newest reading that can decide decides. Readings that cannot (inside the window but in
//! circuit) leave the decision to older ones; a hot reading does not, because the part may have
//! changed since.

use super::pair::{self, Own};
use super::{Against, Case, Limits, Outcome, Policy, PolicyNumber, Reason, Rule, Threshold, Verdict, window};
use crate::part::position::isolate;
use crate::part::size::at_least;
use crate::part::{Family, PartKind, Position, Resistor};
use crate::quantity::Fraction;
use crate::quantity::format::{percent, signed_percent};
use crate::reading::{Mode, ReadQuantity, Reading, Shown, State};

/// How far composition climbs with age alone (practice: a quarter in some decades, and no cause to look for).
const AGED: f64 = 1.25;
/// The ceiling that is assumed of a meter that does not say (practice: most bench meters).
const COMMON_CEILING: f64 = 10e6;

/// What one reading says by itself.
struct Opinion {
    call: Outcome,
    certain: bool,
    reasons: Vec<Reason>,
    next: Vec<String>,
    /// Whether an older reading may decide instead.
    yields: bool,
}

/// Judges a resistor by a school's policy.
pub(super) fn judge(case: Case<'_>, part: &Resistor, policy: &Policy) -> Verdict {
    let limits = window(part, policy);
    let mut verdict = Verdict {
        call: Outcome::MeasureAgain,
        deviation: None,
        limits: Some(limits),
        certain: false,
        decided_by: None,
        reasons: vec![],
        next: vec![],
        thresholds: vec![],
        dials: vec![],
        asks: vec![],
        overloaded: false,
    };
    let repeated = repeated(case);
    let mut first = None;
    let mut decided = None;
    for (i, reading) in case.readings.iter().enumerate().rev() {
        if reading.quantity != ReadQuantity::Resistance {
            continue;
        }
        let opinion = of_reading(Judged { part, position: case.position, repeated }, reading, limits, policy);
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
    let reading = &case.readings[i];
    verdict.overloaded =
        opinion.call == Outcome::Replace && carries_a_feed(case.position) && cooked(reading, part);
    let Some(v) = reading.value_si() else { return verdict };
    verdict.deviation = Fraction::new(v / part.value.ohms() - 1.0).ok();
    if verdict.call != Outcome::MeasureAgain {
        verdict.thresholds =
            Threshold::of_window(ReadQuantity::Resistance, part.value.ohms(), limits, v, policy);
    }
    if matches!(verdict.call, Outcome::Keep | Outcome::Watch) {
        let own = Own {
            of: ReadQuantity::Resistance,
            measured: v,
            marked: part.value.ohms(),
            allowed: policy.number_si(PolicyNumber::PairFraction),
        };
        pair::weigh(&mut verdict, own, case.partners);
    }
    body(&mut verdict, case, part);
    for warning in case.pitfalls(reading, policy) {
        verdict.reasons.push(Reason::from(Rule::Method, warning.text, &warning.source));
    }
    verdict
}

/// A good value says nothing of the volts that its body stands.
fn body(verdict: &mut Verdict, case: Case<'_>, part: &Resistor) {
    let size = part.power.and_then(at_least);
    let (Some(volts), Some(size)) = (case.circuit.across(case.position), size) else { return };
    if volts <= size.volts {
        return;
    }
    let text = format!(
        "{volts} across one body of {}: {} is what such a one stands, whatever it measures",
        size.power, size.volts
    );
    verdict.reasons.push(Reason::from(Rule::Tolerance, text, &size.source));
    if verdict.call == Outcome::Keep {
        verdict.call = Outcome::Watch;
    }
    verdict.next.push("when it goes, put several in series that share the volts".to_owned());
}

/// What is judged, as far as a single reading is concerned.
#[derive(Clone, Copy)]
struct Judged<'a> {
    part: &'a Resistor,
    position: Option<Position>,
    /// Whether the same was read in circuit more than once, as with the leads swapped.
    repeated: bool,
}

/// A charge that is left in a capacitor reads as more ohms one way and fewer the other (practice).
const SWAP: &str = "swap the leads and read it again in circuit: it is believed when both read the same";
/// How far two readings in circuit may be apart to be the same (practice).
const SAME: f64 = 0.05;

/// What condemns in circuit is believed once it was read twice alike.
fn unless_charged(case: Judged<'_>, reading: &Reading, mut found: Opinion) -> Opinion {
    if reading.state == State::InCircuit && found.call == Outcome::Replace && !case.repeated {
        found.next.insert(0, SWAP.to_owned());
    }
    found
}

/// Whether two readings in circuit say the same.
fn repeated(case: Case<'_>) -> bool {
    let mut all = case
        .readings
        .iter()
        .filter(|r| r.quantity == ReadQuantity::Resistance && r.state == State::InCircuit);
    let last = all.next_back();
    let before = all.next_back();
    match (last.map(|r| r.shown), before.map(|r| r.shown)) {
        (Some(Shown::Value { si: a }), Some(Shown::Value { si: b })) => (a - b).abs() <= SAME * a.max(b),
        (Some(Shown::Overrange { .. }), Some(Shown::Overrange { .. })) => true,
        _ => false,
    }
}

fn carries_a_feed(position: Option<Position>) -> bool {
    matches!(position, Some(Position::Feed | Position::ScreenFeed | Position::PlateLoad))
}

/// Whether it is so far above its mark that something must have fed too much through it. Composition climbs with age alone;
/// one that was cooked says so by its look.
fn cooked(reading: &Reading, part: &Resistor) -> bool {
    let age = if part.family == Family::CarbonComposition { AGED } else { 1.0 };
    reading.value_si().is_none_or(|v| v > part.value.ohms() * age)
}

fn of_reading(case: Judged<'_>, reading: &Reading, limits: Limits, policy: &Policy) -> Opinion {
    let again = |rule, text: String, next: String, yields| Opinion {
        call: Outcome::MeasureAgain,
        certain: false,
        reasons: vec![Reason::new(rule, text)],
        next: vec![next],
        yields,
    };
    let shown = match reading.shown {
        Shown::Value { si } => si,
        Shown::Overrange { ceiling_si } => {
            return unless_charged(case, reading, overrange(reading.state, ceiling_si, limits));
        }
    };
    let value = ohms(shown);
    let band = reading.band_si().unwrap_or((shown, shown));
    let place = limits.against(band);
    let tolerance = policy.limit_for(case.part.tolerance_fraction());
    let edge =
        |sign: &str, edge: f64| format!("{} {sign} {} = {}", case.part.value, percent(tolerance), ohms(edge));

    if reading.mode == Mode::Ac && case.part.family == Family::Wirewound {
        let text = format!("{value} was measured with alternating current, and a wound part has inductance");
        return again(Rule::Method, text, "measure it with direct current".to_owned(), false);
    }
    if reading.state == State::InCircuit {
        if place == Against::Above {
            let text = format!(
                "{value} in circuit is above {}; what lies in parallel can only lower it",
                edge("+", limits.high_si)
            );
            return unless_charged(case, reading, out(case, Rule::InCircuit, text, reading));
        }
        let text =
            format!("{value} in circuit proves nothing unless it is above {}", edge("+", limits.high_si));
        return again(Rule::InCircuit, text, free_one_end(case.position), true);
    }
    let hot = reading.hot || reading.since_soldering.is_some_and(|t| t < policy.cool_after());
    if hot && case.part.family == Family::CarbonComposition && place != Against::Above {
        let minutes = policy.cool_after().seconds() / 60.0;
        let text = format!(
            "{value} was measured hot: carbon composition reads low then, for up to {minutes:.0} minutes"
        );
        return again(Rule::Heat, text, "let it cool and measure again".to_owned(), false);
    }
    match place {
        Against::Above => {
            let mut text = format!("{value} is above {}", edge("+", limits.high_si));
            if hot && case.part.family == Family::CarbonComposition {
                text.push_str("; hot, so it will be higher still when cool");
            }
            out(case, Rule::Tolerance, text, reading)
        }
        Against::Below => {
            out(case, Rule::Tolerance, format!("{value} is below {}", edge("−", limits.low_si)), reading)
        }
        Against::Straddles => {
            let text = format!(
                "the meter allows {} to {}, and {} lies between",
                ohms(band.0),
                ohms(band.1),
                if band.1 >= limits.high_si * (1.0 - 1e-9) {
                    edge("+", limits.high_si)
                } else {
                    edge("−", limits.low_si)
                }
            );
            again(Rule::Tolerance, text, "measure with a closer meter; this one cannot tell".to_owned(), true)
        }
        Against::Inside => inside(case, shown, tolerance, policy, reading),
    }
}

fn inside(case: Judged<'_>, shown: f64, tolerance: f64, policy: &Policy, reading: &Reading) -> Opinion {
    let part = case.part;
    let off = shown / part.value.ohms() - 1.0;
    let used = if tolerance > 0.0 { off.abs() / tolerance } else { 0.0 };
    let watch = used >= policy.number_si(PolicyNumber::WatchFrom);
    let text = format!(
        "{} is {} {}, inside ±{}{}",
        ohms(shown),
        off_mark(off),
        part.value,
        percent(tolerance),
        if watch { format!("; {:.0} % of that is used up", used * 100.0) } else { String::new() }
    );
    Opinion {
        call: if watch { Outcome::Watch } else { Outcome::Keep },
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

fn out(case: Judged<'_>, rule: Rule, text: String, reading: &Reading) -> Opinion {
    let mut reasons = vec![Reason::new(rule, text)];
    if let (Some(_), Some((least, most))) = (reading.accuracy, reading.band_si()) {
        reasons.push(Reason::new(
            Rule::Tolerance,
            format!("the meter's worst case, {} to {}, is out as well", ohms(least), ohms(most)),
        ));
    }
    let mut next = vec!["find what fits".to_owned()];
    if cooked(reading, case.part) && carries_a_feed(case.position) {
        next.push("before the new one goes in, find what behind it draws too much".to_owned());
    }
    Opinion { call: Outcome::Replace, certain: reading.accuracy.is_some(), reasons, next, yields: false }
}

fn overrange(state: State, ceiling: Option<f64>, limits: Limits) -> Opinion {
    let ceiling = ceiling.unwrap_or(COMMON_CEILING);
    let high = ohms(limits.high_si);
    if ceiling >= limits.high_si {
        let parallel = if state == State::InCircuit { ", with all that lies in parallel" } else { "" };
        let text = format!("nothing shown up to {}{parallel}: open", ohms(ceiling));
        let rule = if state == State::InCircuit { Rule::InCircuit } else { Rule::Tolerance };
        Opinion {
            call: Outcome::Replace,
            certain: true,
            reasons: vec![Reason::new(rule, text)],
            next: vec!["find what fits".to_owned()],
            yields: false,
        }
    } else {
        let text = format!("the meter ends at {}, and the part may have up to {high}", ohms(ceiling));
        Opinion {
            call: Outcome::MeasureAgain,
            certain: false,
            reasons: vec![Reason::new(Rule::Tolerance, text)],
            next: vec![format!("measure with a meter that reaches {high}")],
            yields: true,
        }
    }
}

fn ohms(value: f64) -> String {
    ReadQuantity::Resistance.written(value)
}

fn free_one_end(position: Option<Position>) -> String {
    format!("free one end: {}", isolate(PartKind::Resistor, position, ""))
}
