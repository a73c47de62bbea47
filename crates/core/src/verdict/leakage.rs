//! R4: what a leak does in its place. The same microampere is nothing across a supply and ruinous on a grid.
//!
//! Each sum is public, so that a circuit simulator can be asked whether it is right. All of them take the leak as a
//! resistance at the working voltage; a leak that grows with voltage or heat is worse than its reading.

use super::finding::{Finding, Findings};
use super::{Call, Case, Flip, Policy, PolicyNumber, Rule};
use crate::part::{Capacitor, CapacitorFamily, Circuit, Fact, Position};
use crate::quantity::write::{CapacitanceStyle, percent, write, write_as};
use crate::quantity::{Fraction, Ohm, Quantity, Volt, Watt};
use crate::reading::{ReadQuantity, Reading};

/// A bias that is taken for the smallest in use, in volt (practice: contact bias of a first stage).
const SMALLEST_BIAS: f64 = 1.0;
/// Grid resistors in use, in ohm (practice).
const GRID_RESISTORS: (f64, f64) = (10e3, 10e6);
/// Feed resistors in use, in ohm (practice).
const FEED_RESISTORS: (f64, f64) = (100.0, 1e6);
/// AVC sources in use, in ohm (practice).
const AVC_SOURCES: (f64, f64) = (100e3, 5e6);
/// Up to here a film part is judged by its insulation alone, in farad (IEC 60384-2, -16: memory).
const SMALL_FILM: f64 = 0.33e-6;

/// How far a coupling capacitor's leak lifts the grid: V · Rg / (Rg + Rleak).
///
/// ```
/// use owl_core::quantity::{Ohm, Volt};
/// use owl_core::verdict::leakage::grid_shift;
/// let shift = grid_shift(Volt::new(200.0).unwrap(), Ohm::new(1e6).unwrap(), Ohm::new(199e6).unwrap());
/// assert!((shift.volts() - 1.0).abs() < 1e-9);
/// ```
#[must_use]
pub fn grid_shift(across: Volt, grid_resistor: Ohm, leak: Ohm) -> Volt {
    Volt::new(across.volts() * share(grid_resistor, leak)).unwrap_or(Volt::ZERO)
}

/// How far a leak pulls down what is fed through a resistor: V · Rf / (Rf + Rleak), V being what stands there
/// without the leak. Exact where the load draws a constant current.
#[must_use]
pub fn feed_drop(across: Volt, feed: Ohm, leak: Ohm) -> Volt {
    Volt::new(across.volts() * share(feed, leak)).unwrap_or(Volt::ZERO)
}

/// What the feed dissipates with the leak: ((rail − V)/Rf + drop/Rf)² · Rf.
#[must_use]
pub fn feed_power(rail: Volt, across: Volt, feed: Ohm, leak: Ohm) -> Watt {
    let over = (rail.volts() - across.volts()).max(0.0) + feed_drop(across, feed, leak).volts();
    Watt::new(over * over / feed.ohms()).unwrap_or(Watt::ZERO)
}

/// The share of the AVC voltage that a leak takes: Rs / (Rs + Rleak).
#[must_use]
pub fn avc_loss(source: Ohm, leak: Ohm) -> Fraction {
    Fraction::new(share(source, leak)).unwrap_or(Fraction::ZERO)
}

fn share(series: Ohm, leak: Ohm) -> f64 {
    let sum = series.ohms() + leak.ohms();
    if sum > 0.0 { series.ohms() / sum } else { 1.0 }
}

/// A leak as it was measured.
struct Leak {
    /// At the voltage of the test.
    ohms: f64,
    /// What flowed, where a current was read.
    amperes: Option<f64>,
    /// In words: `3.1 µA at 250 V`.
    said: String,
    /// The voltage of the test.
    tested_at: Option<f64>,
}

/// Judges the leakage of a paper, film, ceramic or mica part. Says whether it passed.
pub(super) fn judge(found: &mut Findings, case: Case<'_>, part: &Capacitor, policy: &Policy) -> bool {
    let newest = [ReadQuantity::LeakageCurrent, ReadQuantity::LeakageResistance]
        .into_iter()
        .filter_map(|q| case.newest(q))
        .max_by_key(|(i, r)| (!r.still_connected(), *i));
    if let Some((i, r)) = case.newest(ReadQuantity::LeakagePercent) {
        let text = format!("{} by a percent scale says nothing of such a part", r.written());
        let finding = Finding::new(Call::MeasureAgain, Rule::Method, text).by(i);
        found.push(finding.next("measure its leakage current at its working voltage"));
    }
    let Some((i, r)) = newest else { return false };
    let bars: Vec<_> = case.traps(r, policy).into_iter().filter(|w| w.bars).collect();
    let Some(leak) = leak_of(r) else {
        match r.value_si() {
            // Nothing shown on an insulation range is as good as it gets.
            None if r.quantity == ReadQuantity::LeakageResistance && bars.is_empty() => {
                let text = "no leakage up to the end of the range";
                found.push(Finding::new(Call::Keep, Rule::Leakage, text).by(i));
                return true;
            }
            None if r.quantity == ReadQuantity::LeakageCurrent => {
                let text = "the leakage is beyond the meter";
                found.push(Finding::new(Call::Replace, Rule::Leakage, text).by(i));
            }
            _ => {
                let bar = bars.first().map_or_else(
                    || Finding::new(Call::MeasureAgain, Rule::Method, "the leakage cannot be told"),
                    Finding::trap,
                );
                found.push(bar.by(i));
            }
        }
        return false;
    };
    if r.still_connected() {
        found.extend_first(bars.first().map(Finding::trap), i);
        return false;
    }
    let consequence = in_place(case, part, &leak, policy);
    for fact in &consequence.asks {
        found.ask(*fact);
    }
    found.flips.extend(consequence.flips);
    let mut finding = Finding::new(consequence.call, Rule::Leakage, consequence.text).by(i);
    finding.next = consequence.next;
    finding.certain = consequence.asks.is_empty();
    let passes = matches!(consequence.call, Call::Keep | Call::Watch);
    if passes && !bars.is_empty() {
        for bar in &bars {
            found.push(Finding::trap(bar).by(i));
        }
        finding.call = Call::Keep;
        finding.certain = false;
    }
    found.push(finding);
    let finished = finished(part, &leak, policy);
    if let Some(text) = &finished {
        found.push(Finding::new(Call::Replace, Rule::Leakage, text).by(i));
        // No place would change it.
        found.flips.retain(|f| !f.of.is_leakage());
    }
    passes && bars.is_empty() && finished.is_none()
}

fn leak_of(r: &Reading) -> Option<Leak> {
    let v = r.value_si()?;
    let at = r.test_voltage.map(|v| v.volts().abs()).filter(|v| *v > 0.0);
    let at_text = at.map(|v| format!(" at {}", volts(v))).unwrap_or_default();
    let warm = if r.hot { ", warm" } else { "" };
    match r.quantity {
        ReadQuantity::LeakageResistance => {
            Some(Leak { ohms: v, amperes: None, said: format!("{}{at_text}{warm}", ohms(v)), tested_at: at })
        }
        ReadQuantity::LeakageCurrent => Some(Leak {
            // No current at all is an insulation beyond any meter.
            ohms: if v > 0.0 { at? / v } else { 1e15 },
            amperes: Some(v),
            said: format!("{}{at_text}{warm}", r.written()),
            tested_at: at,
        }),
        _ => None,
    }
}

struct Consequence {
    call: Call,
    text: String,
    next: Vec<String>,
    asks: Vec<Fact>,
    flips: Vec<Flip>,
}

impl Consequence {
    fn of(call: Call, text: String) -> Self {
        Self { call, text, next: vec![], asks: vec![], flips: vec![] }
    }

    fn next(mut self, next: &str) -> Self {
        self.next.push(next.to_owned());
        self
    }
}

/// What the leak does where the part sits.
fn in_place(case: Case<'_>, part: &Capacitor, leak: &Leak, policy: &Policy) -> Consequence {
    if leak.ohms <= policy.number_si(PolicyNumber::ShortOhms) {
        return Consequence::of(Call::Replace, format!("{}: shorted", ohms(leak.ohms)));
    }
    match case.position {
        Some(p) if p.protects_people() => protecting(part, leak, policy),
        Some(Position::Coupling) => coupling(case, part, leak, policy),
        Some(Position::Avc) => avc(case, leak, policy),
        Some(Position::Tuned | Position::Padder | Position::Neutralising | Position::PlateBlocking) => {
            tuned(leak, policy)
        }
        Some(_) => fed(case, part, leak, policy),
        None if as_new(part, leak, policy) => {
            Consequence::of(Call::Keep, format!("{} is as new", insulation(part, leak)))
        }
        None => unknown_place(leak, policy),
    }
}

/// Old paper that is finished whatever the place.
fn finished(part: &Capacitor, leak: &Leak, policy: &Policy) -> Option<String> {
    let seconds = leak.ohms * part.value.farads();
    let least = policy.number_si(PolicyNumber::FinishedSeconds);
    (part.family.is_some_and(is_paper) && seconds <= least).then(|| {
        format!(
            "{} × {} = {}: paper at {} or less is finished whatever the place",
            ohms(leak.ohms),
            part.value,
            time(seconds),
            time(least)
        )
    })
}

fn is_paper(family: CapacitorFamily) -> bool {
    matches!(
        family,
        CapacitorFamily::WaxPaper | CapacitorFamily::BitumenPaper | CapacitorFamily::MouldedPaper
    )
}

fn as_new(part: &Capacitor, leak: &Leak, policy: &Policy) -> bool {
    let by_time = leak.ohms * part.value.farads() >= policy.number_si(PolicyNumber::NewSeconds);
    let small = part.value.farads() <= SMALL_FILM;
    by_time || (small && leak.ohms >= policy.number_si(PolicyNumber::NewOhms))
}

fn insulation(part: &Capacitor, leak: &Leak) -> String {
    if part.value.farads() <= SMALL_FILM {
        ohms(leak.ohms)
    } else {
        format!("{} × {} = {}", ohms(leak.ohms), part.value, time(leak.ohms * part.value.farads()))
    }
}

fn protecting(part: &Capacitor, leak: &Leak, policy: &Policy) -> Consequence {
    if as_new(part, leak, policy) {
        return Consequence::of(Call::Keep, format!("{} is as new", insulation(part, leak)));
    }
    Consequence::of(
        Call::Replace,
        format!("{}: any measurable leak to what a hand can touch is too much", leak.said),
    )
}

fn tuned(leak: &Leak, policy: &Policy) -> Consequence {
    let least = policy.number_si(PolicyNumber::TunedOhms);
    if leak.ohms < least {
        let text = format!(
            "{} is under {}: in a tuned circuit that is silver migration or damp",
            ohms(leak.ohms),
            ohms(least)
        );
        Consequence::of(Call::Replace, text).next("realign after it")
    } else {
        Consequence::of(Call::Keep, format!("{} is above {}", ohms(leak.ohms), ohms(least)))
    }
}

/// What stands across the part: as said, or else as tested, or else as rated.
fn across(case: Case<'_>, part: &Capacitor, leak: &Leak) -> Option<f64> {
    case.circuit.get_si(Fact::Voltage).or(leak.tested_at).or(part.rated.map(Volt::volts))
}

/// The leak at which a sum comes out at its limit, as a flip of what was read.
fn flip(leak: &Leak, to: Call, limit_ohms: f64) -> Option<Flip> {
    match (leak.amperes, leak.tested_at) {
        (Some(now), Some(at)) if limit_ohms > 0.0 => {
            let word = if leak.ohms > limit_ohms { "from" } else { "below" };
            Flip::new(to, ReadQuantity::LeakageCurrent, now, at / limit_ohms, word)
        }
        _ if limit_ohms > 0.0 => {
            let word = if leak.ohms > limit_ohms { "down from" } else { "above" };
            Flip::new(to, ReadQuantity::LeakageResistance, leak.ohms, limit_ohms, word)
        }
        _ => None,
    }
}

fn coupling(case: Case<'_>, part: &Capacitor, leak: &Leak, policy: &Policy) -> Consequence {
    let Some(v) = across(case, part, leak) else {
        let mut c = Consequence::of(
            Call::Watch,
            format!("{}: how far it lifts the grid hangs on its volts", leak.said),
        );
        c.asks = vec![Fact::Voltage];
        return c;
    };
    let most = policy.number_si(PolicyNumber::GridShiftVolts);
    let of_bias = policy.number_si(PolicyNumber::GridShiftOfBias);
    let bias = case.circuit.get_si(Fact::Bias);
    let limit = bias.filter(|b| *b != 0.0).map_or(most, |b| (of_bias * b.abs()).min(most));
    let Some(rg) = case.circuit.get_si(Fact::GridResistor) else {
        return missing_grid(leak, v, limit);
    };
    let shift = v * rg / (rg + leak.ohms);
    let current = leak.amperes.map_or_else(
        || v / (rg + leak.ohms),
        |i| if leak.tested_at == Some(v) { i } else { v / (rg + leak.ohms) },
    );
    let biased = bias.map_or_else(
        || "a grid whose bias is not known".to_owned(),
        |b| format!("a grid biased at {}", volts(b)),
    );
    let sum = format!("{} × {} = {} on {biased}", write(Quantity::Current, current), ohms(rg), volts(shift));
    let (call, why) = judged_against(shift, limit, policy);
    let mut c = Consequence::of(call, format!("{sum}: {why}, {} allowed", volts(limit)));
    // Rleak at which the shift meets the limit, and a third of it.
    let at = |shift: f64| rg * (v / shift - 1.0);
    let watch = limit * policy.number_si(PolicyNumber::GridWatchShare);
    c.flips = match call {
        Call::Keep => vec![flip(leak, Call::Watch, at(watch)), flip(leak, Call::Replace, at(limit))],
        Call::Watch => vec![flip(leak, Call::Replace, at(limit)), flip(leak, Call::Keep, at(watch))],
        Call::Replace | Call::MeasureAgain => vec![flip(leak, Call::Watch, at(limit))],
    }
    .into_iter()
    .flatten()
    .collect();
    // A smaller bias would tighten the limit: ask only where that could change the call.
    let tightest = of_bias * SMALLEST_BIAS;
    if bias.is_none() && call != Call::Replace && judged_against(shift, tightest, policy).0 != call {
        c.asks.push(Fact::Bias);
        let need = shift / of_bias;
        c.text.push_str(&format!("; keep if the bias is more than {}, replace if it is less", volts(need)));
        c.call = Call::Watch;
    }
    c
}

fn judged_against(shift: f64, limit: f64, policy: &Policy) -> (Call, &'static str) {
    if shift > limit {
        (Call::Replace, "too much")
    } else if shift >= limit * policy.number_si(PolicyNumber::GridWatchShare) {
        (Call::Watch, "not yet too much")
    } else {
        (Call::Keep, "harmless")
    }
}

/// No grid resistor is known: the one up to which the leak may stay.
fn missing_grid(leak: &Leak, v: f64, limit: f64) -> Consequence {
    let at = if v > limit { leak.ohms * limit / (v - limit) } else { f64::INFINITY };
    missing(leak, at, GRID_RESISTORS, Fact::GridResistor, "the grid resistor")
}

/// Keep if under, replace if over; settled where no resistor in use could change it.
fn missing(leak: &Leak, at: f64, (least, most): (f64, f64), fact: Fact, what: &str) -> Consequence {
    if at > most {
        return Consequence::of(
            Call::Keep,
            format!("{}: harmless with any {} in use", leak.said, what.trim_start_matches("the ")),
        );
    }
    if at < least {
        return Consequence::of(
            Call::Replace,
            format!("{}: too much with any {} in use", leak.said, what.trim_start_matches("the ")),
        );
    }
    let text = format!("{}: keep if {what} is under {}, replace if it is over", leak.said, ohms(at));
    let mut c = Consequence::of(Call::Watch, text);
    c.asks = vec![fact];
    c
}

fn avc(case: Case<'_>, leak: &Leak, policy: &Policy) -> Consequence {
    let most = policy.number_si(PolicyNumber::AvcLossFraction);
    let source = [Fact::SourceResistance, Fact::FeedResistor, Fact::GridResistor]
        .into_iter()
        .find_map(|f| case.circuit.get_si(f));
    let Some(rs) = source else {
        return missing(
            leak,
            leak.ohms * most / (1.0 - most),
            AVC_SOURCES,
            Fact::SourceResistance,
            "the AVC source",
        );
    };
    let loss = rs / (rs + leak.ohms);
    let call = if loss > most {
        Call::Replace
    } else if loss >= most * policy.number_si(PolicyNumber::WatchFrom) {
        Call::Watch
    } else {
        Call::Keep
    };
    let text = format!(
        "{} / ({} + {}) = {} of the AVC voltage is lost, {} allowed",
        ohms(rs),
        ohms(rs),
        ohms(leak.ohms),
        percent(loss),
        percent(most)
    );
    let mut c = Consequence::of(call, text);
    let to = if call == Call::Replace { Call::Watch } else { Call::Replace };
    c.flips.extend(flip(leak, to, rs * (1.0 / most - 1.0)));
    c
}

/// Across something that is fed through a resistor.
fn fed(case: Case<'_>, part: &Capacitor, leak: &Leak, policy: &Policy) -> Consequence {
    let share = policy.number_si(PolicyNumber::FeedDropFraction);
    let Some(rf) = case.circuit.get_si(Fact::FeedResistor) else {
        if as_new(part, leak, policy) {
            return Consequence::of(Call::Keep, format!("{} is as new", insulation(part, leak)));
        }
        return missing(
            leak,
            leak.ohms * share / (1.0 - share),
            FEED_RESISTORS,
            Fact::FeedResistor,
            "the feed resistor",
        );
    };
    let Some(v) = across(case, part, leak) else {
        let mut c = Consequence::of(
            Call::Watch,
            format!("{}: what it does to its feed hangs on its volts", leak.said),
        );
        c.asks = vec![Fact::Voltage];
        return c;
    };
    let rail = case.circuit.get_si(Fact::Rail);
    let drop = v * rf / (rf + leak.ohms);
    let most = share * rail.unwrap_or(v);
    let mut text = format!(
        "{} through {} drops {}, {} of {} allowed",
        write(Quantity::Current, drop / rf),
        ohms(rf),
        volts(drop),
        percent(share),
        volts(rail.unwrap_or(v))
    );
    let mut call = if drop > most {
        Call::Replace
    } else if drop >= most * policy.number_si(PolicyNumber::WatchFrom) {
        Call::Watch
    } else {
        Call::Keep
    };
    if let Some((power, rating)) = overload(case.circuit, v, rf, leak.ohms) {
        let allowed = policy.number_si(PolicyNumber::FeedRatingShare) * rating;
        text.push_str(&format!("; the feed then burns {} of its {}", watts(power), watts(rating)));
        if power > allowed {
            call = Call::Replace;
        }
    }
    let mut c = Consequence::of(call, text);
    if call == Call::Replace {
        c = c.next("measure its feed resistor: it has carried the leak");
    }
    let to = if call == Call::Replace { Call::Watch } else { Call::Replace };
    c.flips.extend(flip(leak, to, rf * (v / most - 1.0)));
    c
}

/// What the feed burns with the leak against its rating, where rail and rating are known.
fn overload(circuit: &Circuit, v: f64, rf: f64, leak: f64) -> Option<(f64, f64)> {
    let (rail, rating) = (circuit.get_si(Fact::Rail)?, circuit.get_si(Fact::FeedPower)?);
    let power =
        feed_power(Volt::new(rail).ok()?, Volt::new(v).ok()?, Ohm::new(rf).ok()?, Ohm::new(leak).ok()?);
    Some((power.watts(), rating))
}

fn unknown_place(leak: &Leak, policy: &Policy) -> Consequence {
    let share = policy.number_si(PolicyNumber::FeedDropFraction);
    let feed = leak.ohms * share / (1.0 - share);
    let limit = policy.number_si(PolicyNumber::GridShiftVolts);
    let grid = leak.tested_at.filter(|v| *v > limit).map(|v| leak.ohms * limit / (v - limit));
    let on_a_grid =
        grid.map(|g| format!(", replace if it feeds a grid with more than {}", ohms(g))).unwrap_or_default();
    let text = format!(
        "{} without its place: keep if it decouples a feed of less than {}{on_a_grid}",
        leak.said,
        ohms(feed)
    );
    Consequence::of(Call::Watch, text)
        .next("say where it sits: the same leak is fine in one place and ruinous in another")
}

fn ohms(v: f64) -> String {
    write(Quantity::Resistance, v).to_string()
}

/// Volts with three digits and no millivolts: what lifts a grid is compared with volts.
fn volts(v: f64) -> String {
    if (0.001..1.0).contains(&v.abs()) {
        let sign = if v < 0.0 { "−" } else { "" };
        let digits = (2.0 - v.abs().log10().floor()) as usize;
        let text = format!("{:.*}", digits, v.abs());
        return format!("{sign}{} V", text.trim_end_matches('0').trim_end_matches('.'));
    }
    write_as(Quantity::Voltage, v, 3, CapacitanceStyle::WithNano).to_string()
}

fn watts(v: f64) -> String {
    write(Quantity::Power, v).to_string()
}

fn time(v: f64) -> String {
    write(Quantity::Time, v).to_string()
}
