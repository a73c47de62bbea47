//! R5: electrolytics by value, by ESR or dissipation, and by leakage.
//!
//! The limits are public, because reforming and buying ask for the same numbers.

use std::sync::LazyLock;

use serde::Deserialize;

use super::finding::{Finding, Findings};
use super::{Call, Case, Dial, Flip, LeakageRule, Limits, Policy, PolicyNumber, Reason, Rule};
use crate::part::Capacitor;
use crate::quantity::write::{percent, signed_percent};
use crate::quantity::{Ampere, Farad, Fraction, Hertz, Ohm, Volt};
use crate::reading::trap::Trap;
use crate::reading::{ReadQuantity, Reading};
use crate::source::Source;
use crate::table::rows;

/// The frequency at which ESR limits hold where the meter does not say (practice: twice the line's).
const USUAL_FREQUENCY: f64 = 120.0;
/// The least leakage that any part may have, in ampere (IEC 60384-4: memory).
const LEAST_LEAKAGE: f64 = 3e-6;

#[derive(Deserialize)]
struct TanRow {
    over_volts: f64,
    to_volts: f64,
    tan_delta: f64,
    source: Source,
}

#[derive(Deserialize)]
struct MilitaryRow {
    over_volts: f64,
    to_volts: f64,
    per_microfarad_ma: f64,
    plus_ma: f64,
    source: Source,
}

static TAN: LazyLock<Vec<TanRow>> =
    LazyLock::new(|| rows("tan_delta.csv", include_str!("../../data/tan_delta.csv")));
static MILITARY: LazyLock<Vec<MilitaryRow>> =
    LazyLock::new(|| rows("military_leakage.csv", include_str!("../../data/military_leakage.csv")));

/// tan δ of a new general-purpose part of that rating, at 100 or 120 Hz; `None` for no volts.
///
/// ```
/// use owl_core::quantity::Volt;
/// use owl_core::verdict::electrolytic::tan_delta;
/// assert_eq!(tan_delta(Volt::new(25.0).unwrap()).map(|t| t.fraction()), Some(0.16));
/// assert_eq!(tan_delta(Volt::ZERO), None);
/// ```
#[must_use]
pub fn tan_delta(rated: Volt) -> Option<Fraction> {
    let v = rated.volts();
    let row = TAN.iter().find(|r| v > r.over_volts && v <= r.to_volts)?;
    Fraction::new(row.tan_delta).ok()
}

/// Where the limits of losses for a rating come from.
fn losses_source(rated: Volt) -> Source {
    let v = rated.volts();
    let row = TAN.iter().find(|r| v > r.over_volts && v <= r.to_volts);
    row.map_or_else(|| Rule::Electrolytic.source(), |r| r.source.clone())
}

/// The ESR that passes: `factor` × tan δ / (2π f C). `None` without volts, frequency or capacitance.
#[must_use]
pub fn esr_limit(capacitance: Farad, rated: Volt, at: Hertz, factor: f64) -> Option<Ohm> {
    let tan = tan_delta(rated)?.fraction();
    Ohm::new(factor * tan / (2.0 * std::f64::consts::PI * at.hertz() * capacitance.farads())).ok()
}

/// The three leakage limits of a part.
#[derive(Debug, Clone, PartialEq)]
pub struct LeakageLimits {
    /// Of a new part: 0.01 · C · V, not below 3 µA, after five minutes at rated voltage (IEC 60384-4: memory).
    pub modern: Ampere,
    /// Of the older military specification: k · C + 0.3 mA (memory).
    pub military: Ampere,
    /// The bench figure: 8 µF about 1 mA (practice).
    pub bench: Ampere,
    /// Where they come from.
    pub source: Source,
}

/// The three limits for a capacitance and a rating. `bench_ma_per_microfarad` is the policy's bench figure.
#[must_use]
pub fn leakage_limits(
    capacitance: Farad,
    rated: Volt,
    bench_ma_per_microfarad: f64,
) -> Option<LeakageLimits> {
    let (uf, v) = (capacitance.farads() * 1e6, rated.volts());
    let row = MILITARY.iter().find(|r| v > r.over_volts && v <= r.to_volts)?;
    let military = (row.per_microfarad_ma * uf + row.plus_ma) / 1000.0;
    Some(LeakageLimits {
        modern: Ampere::new((0.01 * uf * v * 1e-6).max(LEAST_LEAKAGE)).ok()?,
        military: Ampere::new(military).ok()?,
        bench: Ampere::new(bench_ma_per_microfarad * uf / 1000.0).ok()?,
        source: Source::memory(&format!(
            "IEC 60384-4 for new parts; {}; practice for the bench figure",
            row.source.clause
        )),
    })
}

impl LeakageLimits {
    /// The one by which a school judges; a new part always by that of new parts.
    #[must_use]
    pub fn deciding(&self, rule: LeakageRule, new: bool) -> (Ampere, &'static str) {
        let later = |a: Ampere, b: Ampere| a.amperes() >= b.amperes();
        match rule {
            LeakageRule::Modern => (self.modern, "limit of new parts"),
            _ if new => (self.modern, "limit of new parts"),
            LeakageRule::OlderMilitary => (self.military, "older military limit"),
            LeakageRule::BenchOrMilitary if later(self.bench, self.military) => (self.bench, "bench figure"),
            LeakageRule::BenchOrMilitary => (self.military, "older military limit"),
        }
    }
}

/// Judges ESR and dissipation. Says whether one of them passed.
pub(super) fn losses(found: &mut Findings, case: Case<'_>, part: &Capacitor, policy: &Policy) -> bool {
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
        passed |= matches!(call, Call::Keep | Call::Watch);
        found.push(finding);
        if let (Some(v), true) = (r.value_si(), call != Call::MeasureAgain) {
            let share = policy.number_si(PolicyNumber::WatchFrom);
            let flip = match call {
                Call::Keep => Flip::new(Call::Watch, of, v, share * limit, "from"),
                Call::Watch => Flip::new(Call::Replace, of, v, limit, "from"),
                Call::Replace | Call::MeasureAgain => Flip::new(Call::Watch, of, v, limit, "below"),
            };
            found.flips.extend(flip);
        }
        for warning in case.traps(r, policy).iter().filter(|w| !w.bars && w.trap != Trap::NotDischarged) {
            found.push(Finding::trap(warning).by(i));
        }
    }
    passed
}

/// Without its rated volts there is no limit to hold a reading against.
fn no_rating(of: ReadQuantity, i: usize, r: &Reading) -> Finding {
    if r.still_connected() {
        let text = format!("{} in circuit is no measurement", of.called());
        return Finding::new(Call::MeasureAgain, Rule::InCircuit, text)
            .by(i)
            .next("lift one end and measure again");
    }
    let text = format!("the limit for its {} hangs on its rated volts", of.called());
    Finding::new(Call::Watch, Rule::Electrolytic, text).by(i).certain(false).next("say its rated volts")
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
) -> (Finding, Call) {
    let name = of.called();
    let most = of.written(limit);
    let how = format!("{most} at {frequency:.0} Hz for {rated}");
    let Some(v) = r.value_si() else {
        let text = format!("{name} is beyond the meter: dried out or open");
        let call = if r.still_connected() { Call::MeasureAgain } else { Call::Replace };
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
            return (Finding::new(Call::Replace, Rule::InCircuit, text).by(i), Call::Replace);
        }
        let text = format!("{name} {shown} in circuit proves nothing below {}", of.written(clearly * limit));
        let finding = Finding::new(Call::MeasureAgain, Rule::InCircuit, text)
            .by(i)
            .next("lift one end and measure again");
        return (finding, Call::MeasureAgain);
    }
    let share = v / limit;
    let (call, text) = if share >= 1.0 - 1e-9 {
        (Call::Replace, format!("{name} {shown} is above {how}"))
    } else if share >= policy.number_si(PolicyNumber::WatchFrom) {
        (Call::Watch, format!("{name} {shown} is {:.0} % of {how}", share * 100.0))
    } else {
        (Call::Keep, format!("{name} {shown} is within {how}"))
    };
    let mut finding = Finding::new(call, Rule::Electrolytic, "").by(i);
    finding.reason = Reason::from(Rule::Electrolytic, text, &losses_source(rated));
    if call == Call::Watch {
        finding = finding.next("measure its ESR again at the next repair");
    }
    (finding, call)
}

/// Judges leakage in current, resistance or percent. Says whether it passed.
pub(super) fn leakage(found: &mut Findings, case: Case<'_>, part: &Capacitor, policy: &Policy) -> bool {
    let mut passed = false;
    if let Some((i, r)) = case.newest(ReadQuantity::LeakagePercent) {
        passed |= percent_shown(found, i, r, policy);
    }
    let rated = part.rated.or(case.working());
    let limits = rated
        .and_then(|v| leakage_limits(part.value, v, policy.number_si(PolicyNumber::BenchMaPerMicrofarad)));
    let current = case.newest(ReadQuantity::LeakageCurrent);
    let by_resistance = case.newest(ReadQuantity::LeakageResistance);
    let reading = current.or(by_resistance);
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
        passed |= matches!(call, Call::Keep | Call::Watch);
        if call != Call::MeasureAgain {
            let to = if call == Call::Replace { Call::Watch } else { Call::Replace };
            let word = if call == Call::Replace { "up to" } else { "above" };
            found.flips.extend(Flip::new(
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
            ..Finding::new(Call::Keep, Rule::Electrolytic, "")
        });
    }
    if let (Some((i, r)), None) = (reading, amperes) {
        let bar = case.traps(r, policy).into_iter().find(|w| w.bars);
        passed |= bar.is_none() && r.value_si().is_none() && r.quantity == ReadQuantity::LeakageResistance;
        let finding = bar.map_or_else(
            || match (r.value_si(), r.quantity) {
                (None, ReadQuantity::LeakageResistance) => {
                    Finding::new(Call::Keep, Rule::Electrolytic, "no leakage up to the end of the range")
                }
                _ => Finding::new(Call::Replace, Rule::Electrolytic, "the leakage is beyond the meter"),
            },
            |w| Finding::trap(&w),
        );
        found.push(finding.by(i));
    }
    if reading.is_some() || !found.dials.is_empty() {
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
) -> (Finding, Call) {
    let at = r.test_voltage.map(|v| format!(" at {v}")).unwrap_or_default();
    let bars: Vec<_> = case.traps(r, policy).into_iter().filter(|w| w.bars).collect();
    if r.still_connected() {
        let finding = bars.first().map_or_else(
            || Finding::new(Call::MeasureAgain, Rule::InCircuit, "in circuit leakage is no measurement"),
            Finding::trap,
        );
        return (finding.by(i), Call::MeasureAgain);
    }
    if leak.amperes() > limit.amperes() {
        let text = format!("{leak}{at} leaks more than {limit}, the {name}");
        return (Finding::new(Call::Replace, Rule::Electrolytic, text), Call::Replace);
    }
    if let Some(bar) = bars.first() {
        return (Finding::trap(bar), Call::MeasureAgain);
    }
    let share = leak.amperes() / limit.amperes();
    if share >= policy.number_si(PolicyNumber::WatchFrom) {
        let text = format!("{leak}{at} is {:.0} % of {limit}, the {name}", share * 100.0);
        let finding =
            Finding::new(Call::Watch, Rule::Electrolytic, text).next("measure its leakage again soon");
        return (finding, Call::Watch);
    }
    (
        Finding::new(Call::Keep, Rule::Electrolytic, format!("{leak}{at} is within {limit}, the {name}")),
        Call::Keep,
    )
}

fn percent_shown(found: &mut Findings, i: usize, r: &Reading, policy: &Policy) -> bool {
    let limit = policy.number_si(PolicyNumber::LeakagePercent);
    let Some(v) = r.value_si() else { return false };
    let mut dial =
        Dial::new(ReadQuantity::LeakagePercent, Some(v), limit, Source::practice("under 3 % is reused"));
    if r.still_connected() {
        let text = "leakage in circuit is no measurement";
        found.push(Finding::new(Call::MeasureAgain, Rule::InCircuit, text).by(i).next("lift one end"));
        return false;
    }
    let call = if v >= limit { Call::Replace } else { Call::Keep };
    dial.call = Some(call);
    found.dials.push(dial);
    let word = if v >= limit { "is not under" } else { "is under" };
    let text = format!("leakage {} {word} {}", percent(v), percent(limit));
    found.push(Finding::new(call, Rule::Electrolytic, text).by(i));
    let (to, beyond) = if v >= limit { (Call::Keep, "under") } else { (Call::Replace, "from") };
    found.flips.extend(Flip::new(to, ReadQuantity::LeakagePercent, v, limit, beyond));
    call == Call::Keep
}

/// Judges the value of an electrolytic by a window of its own. `leaks` says whether a leakage test passed.
pub(super) fn value(
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
            Finding::new(Call::MeasureAgain, Rule::Electrolytic, text)
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
    if call != Call::MeasureAgain {
        found.flips.extend(Flip::of_window(ReadQuantity::Capacitance, nominal, limits, v, policy));
    }
    found.push(finding.by(i));
    matches!(call, Call::Keep | Call::Watch)
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
) -> (Call, Finding) {
    let off = v / part.value.farads() - 1.0;
    let shown = ReadQuantity::Capacitance.written(v);
    let text = format!("{shown} for {} is {}", part.value, signed_percent(off));
    let dried = policy.number_si(PolicyNumber::DriedFraction);
    let make = |call: Call, text: String, next: &str| {
        (call, Finding::new(call, Rule::Electrolytic, text).by(i).next(next))
    };
    if r.still_connected() {
        return make(
            Call::MeasureAgain,
            format!("{shown} in circuit is no measurement"),
            "discharge it, lift one end and measure again",
        );
    }
    let (low, high) = (limits.low_si, limits.high_si);
    if off < -dried {
        make(Call::Replace, format!("{text}: dried out"), "")
    } else if v <= low {
        make(Call::Replace, format!("{text}, below {}", ReadQuantity::Capacitance.written(low)), "")
    } else if v >= high && !leak_passed {
        let text =
            format!("{text}: a part that leaks reads high on a low-voltage meter, and is not generous");
        let volts = part.rated.or(case.working()).map_or_else(String::new, |v| format!(" of {v}"));
        make(Call::MeasureAgain, text, &format!("leak test at its voltage{volts} first"))
    } else if v >= high {
        make(Call::Watch, format!("{text}, and it does not leak"), "note it; look again at the next repair")
    } else {
        let window = if off < 0.0 { part.value.farads() - low } else { high - part.value.farads() };
        let used = (v - part.value.farads()).abs() / window;
        if used >= policy.number_si(PolicyNumber::WatchFrom) {
            make(
                Call::Watch,
                format!("{text}: {:.0} % of its window is used up", used * 100.0),
                "look again at the next repair",
            )
        } else {
            make(
                Call::Keep,
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
