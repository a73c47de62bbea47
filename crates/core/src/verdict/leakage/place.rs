//! What a leak does where the part sits: on a grid, behind a feed, on the AVC line, in a tuned circuit, to people.

use super::{Leak, as_new, avc_loss, feed_drop, feed_power, grid_shift, insulation, ohms, volts, watts};
use crate::part::{Capacitor, Circuit, Fact, Position};
use crate::quantity::format::{format, percent};
use crate::quantity::{Ohm, Quantity, Volt};
use crate::reading::ReadQuantity;
use crate::verdict::{Case, Outcome, Policy, PolicyNumber, Threshold};

/// A bias that is taken for the smallest in use, in volt (practice: contact bias of a first stage).
const SMALLEST_BIAS: f64 = 1.0;
/// Grid resistors in use, in ohm (practice).
const GRID_RESISTORS: (f64, f64) = (10e3, 10e6);
/// Feed resistors in use, in ohm (practice).
const FEED_RESISTORS: (f64, f64) = (100.0, 1e6);
/// AVC sources in use, in ohm (practice).
const AVC_SOURCES: (f64, f64) = (100e3, 5e6);

/// What a leak does, and what would change that.
pub(super) struct Consequence {
    pub call: Outcome,
    pub text: String,
    pub next: Vec<String>,
    pub asks: Vec<Fact>,
    pub thresholds: Vec<Threshold>,
}

impl Consequence {
    fn of(call: Outcome, text: String) -> Self {
        Self { call, text, next: vec![], asks: vec![], thresholds: vec![] }
    }

    fn next(mut self, next: &str) -> Self {
        self.next.push(next.to_owned());
        self
    }
}

/// What the leak does where the part sits.
pub(super) fn in_place(case: Case<'_>, part: &Capacitor, leak: &Leak, policy: &Policy) -> Consequence {
    if leak.ohms <= policy.number_si(PolicyNumber::ShortOhms) {
        return Consequence::of(Outcome::Replace, format!("{}: shorted", ohms(leak.ohms)));
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
            Consequence::of(Outcome::Keep, format!("{} is as new", insulation(part, leak)))
        }
        None => unknown_place(leak, policy),
    }
}
fn protecting(part: &Capacitor, leak: &Leak, policy: &Policy) -> Consequence {
    if as_new(part, leak, policy) {
        return Consequence::of(Outcome::Keep, format!("{} is as new", insulation(part, leak)));
    }
    Consequence::of(
        Outcome::Replace,
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
        Consequence::of(Outcome::Replace, text).next("realign after it")
    } else {
        Consequence::of(Outcome::Keep, format!("{} is above {}", ohms(leak.ohms), ohms(least)))
    }
}

/// What stands across the part: as said, or else as tested, or else as rated.
fn across(case: Case<'_>, part: &Capacitor, leak: &Leak) -> Option<f64> {
    case.circuit.get_si(Fact::Voltage).or(leak.tested_at).or(part.rated.map(Volt::volts))
}

/// The leak at which a sum comes out at its limit, as a flip of what was read.
fn flip(leak: &Leak, to: Outcome, limit_ohms: f64) -> Option<Threshold> {
    match (leak.amperes, leak.tested_at) {
        (Some(now), Some(at)) if limit_ohms > 0.0 => {
            let word = if leak.ohms > limit_ohms { "from" } else { "below" };
            Threshold::new(to, ReadQuantity::LeakageCurrent, now, at / limit_ohms, word)
        }
        _ if limit_ohms > 0.0 => {
            let word = if leak.ohms > limit_ohms { "down from" } else { "above" };
            Threshold::new(to, ReadQuantity::LeakageResistance, leak.ohms, limit_ohms, word)
        }
        _ => None,
    }
}

fn coupling(case: Case<'_>, part: &Capacitor, leak: &Leak, policy: &Policy) -> Consequence {
    let Some(v) = across(case, part, leak) else {
        let mut c = Consequence::of(
            Outcome::Watch,
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
    let shift = grid_shift(volt(v), ohm(rg), ohm(leak.ohms)).volts();
    let current = leak.amperes.map_or_else(
        || v / (rg + leak.ohms),
        |i| if leak.tested_at == Some(v) { i } else { v / (rg + leak.ohms) },
    );
    let biased = bias.map_or_else(
        || "a grid whose bias is not known".to_owned(),
        |b| format!("a grid biased at {}", volts(b)),
    );
    let sum = format!("{} × {} = {} on {biased}", format(Quantity::Current, current), ohms(rg), volts(shift));
    let (call, why) = judged_against(shift, limit, policy);
    let mut c = Consequence::of(call, format!("{sum}: {why}, {} allowed", volts(limit)));
    // Rleak at which the shift meets the limit, and a third of it.
    let at = |shift: f64| rg * (v / shift - 1.0);
    let watch = limit * policy.number_si(PolicyNumber::GridWatchShare);
    c.thresholds = match call {
        Outcome::Keep => vec![flip(leak, Outcome::Watch, at(watch)), flip(leak, Outcome::Replace, at(limit))],
        Outcome::Watch => vec![flip(leak, Outcome::Replace, at(limit)), flip(leak, Outcome::Keep, at(watch))],
        Outcome::Replace | Outcome::MeasureAgain => vec![flip(leak, Outcome::Watch, at(limit))],
    }
    .into_iter()
    .flatten()
    .collect();
    // A smaller bias would tighten the limit: ask only where that could change the call.
    let tightest = of_bias * SMALLEST_BIAS;
    if bias.is_none() && call != Outcome::Replace && judged_against(shift, tightest, policy).0 != call {
        c.asks.push(Fact::Bias);
        let need = shift / of_bias;
        c.text.push_str(&format!("; keep if the bias is more than {}, replace if it is less", volts(need)));
        c.call = Outcome::Watch;
    }
    c
}

fn judged_against(shift: f64, limit: f64, policy: &Policy) -> (Outcome, &'static str) {
    if shift > limit {
        (Outcome::Replace, "too much")
    } else if shift >= limit * policy.number_si(PolicyNumber::GridWatchShare) {
        (Outcome::Watch, "not yet too much")
    } else {
        (Outcome::Keep, "harmless")
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
            Outcome::Keep,
            format!("{}: harmless with any {} in use", leak.said, what.trim_start_matches("the ")),
        );
    }
    if at < least {
        return Consequence::of(
            Outcome::Replace,
            format!("{}: too much with any {} in use", leak.said, what.trim_start_matches("the ")),
        );
    }
    let text = format!("{}: keep if {what} is under {}, replace if it is over", leak.said, ohms(at));
    let mut c = Consequence::of(Outcome::Watch, text);
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
    let loss = avc_loss(ohm(rs), ohm(leak.ohms)).fraction();
    let call = if loss > most {
        Outcome::Replace
    } else if loss >= most * policy.number_si(PolicyNumber::WatchFrom) {
        Outcome::Watch
    } else {
        Outcome::Keep
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
    let to = if call == Outcome::Replace { Outcome::Watch } else { Outcome::Replace };
    c.thresholds.extend(flip(leak, to, rs * (1.0 / most - 1.0)));
    c
}

/// Across something that is fed through a resistor.
fn fed(case: Case<'_>, part: &Capacitor, leak: &Leak, policy: &Policy) -> Consequence {
    let share = policy.number_si(PolicyNumber::FeedDropFraction);
    let Some(rf) = case.circuit.get_si(Fact::FeedResistor) else {
        if as_new(part, leak, policy) {
            return Consequence::of(Outcome::Keep, format!("{} is as new", insulation(part, leak)));
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
            Outcome::Watch,
            format!("{}: what it does to its feed hangs on its volts", leak.said),
        );
        c.asks = vec![Fact::Voltage];
        return c;
    };
    let rail = case.circuit.get_si(Fact::Rail);
    let drop = feed_drop(volt(v), ohm(rf), ohm(leak.ohms)).volts();
    let most = share * rail.unwrap_or(v);
    let mut text = format!(
        "{} through {} drops {} of {} allowed ({} of {})",
        format(Quantity::Current, drop / rf),
        ohms(rf),
        volts(drop),
        volts(most),
        percent(share),
        volts(rail.unwrap_or(v))
    );
    let mut call = if drop > most {
        Outcome::Replace
    } else if drop >= most * policy.number_si(PolicyNumber::WatchFrom) {
        Outcome::Watch
    } else {
        Outcome::Keep
    };
    if let Some((power, rating)) = overload(case.circuit, v, rf, leak.ohms) {
        let allowed = policy.number_si(PolicyNumber::FeedRatingShare) * rating;
        text.push_str(&format!("; the feed then burns {} of its {}", watts(power), watts(rating)));
        if power > allowed {
            call = Outcome::Replace;
        }
    }
    let mut c = Consequence::of(call, text);
    if call == Outcome::Replace {
        c = c.next("measure its feed resistor: it has carried the leak");
    }
    let to = if call == Outcome::Replace { Outcome::Watch } else { Outcome::Replace };
    c.thresholds.extend(flip(leak, to, rf * (v / most - 1.0)));
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
    Consequence::of(Outcome::Watch, text)
        .next("say where it sits: the same leak is fine in one place and ruinous in another")
}

/// The sums take what a reading or a fact has been checked to be: finite, and no resistance below zero.
fn ohm(v: f64) -> Ohm {
    Ohm::new(v).unwrap_or(Ohm::ZERO)
}

fn volt(v: f64) -> Volt {
    Volt::new(v).unwrap_or(Volt::ZERO)
}
