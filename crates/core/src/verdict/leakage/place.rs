//! What a leak does where the part sits: on a grid, behind a feed, on the AVC line, in a tuned circuit, to people.

use super::{Leak, as_new, avc_loss, feed_drop, feed_power, grid_shift, insulation, volts};
use crate::part::{Capacitor, Circuit, Fact, Position};
use crate::quantity::format::percent;
use crate::quantity::{Fraction, Ohm, Volt, Watt};
use crate::reading::ReadQuantity;
use crate::verdict::{Case, Outcome, Policy, PolicyNumber, Threshold};

/// A bias that is taken for the smallest in use (practice: contact bias of a first stage).
const SMALLEST_BIAS: Volt = Volt::computed(1.0);
/// Grid resistors in use (practice).
const GRID_RESISTORS: (Ohm, Ohm) = (Ohm::computed(10e3), Ohm::computed(10e6));
/// Feed resistors in use (practice).
const FEED_RESISTORS: (Ohm, Ohm) = (Ohm::computed(100.0), Ohm::computed(1e6));
/// AVC sources in use (practice).
const AVC_SOURCES: (Ohm, Ohm) = (Ohm::computed(100e3), Ohm::computed(5e6));

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
    if leak.resistance <= policy.get(PolicyNumber::ShortOhms) {
        return Consequence::of(Outcome::Replace, format!("{}: shorted", leak.resistance));
    }
    match case.position {
        Some(p) if p.protects_people() => protecting(part, leak, policy),
        Some(Position::Coupling) => coupling(case, part, leak, policy),
        Some(Position::Avc) => avc(case, leak, policy),
        Some(p) if p.makes_a_frequency() => tuned(leak, policy),
        Some(p) if p.blocks_a_plate() => tuned(leak, policy),
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
    let (leak, least) = (leak.resistance, policy.get::<Ohm>(PolicyNumber::TunedOhms));
    if leak < least {
        let text = format!("{leak} is under {least}: in a tuned circuit that is silver migration or damp");
        Consequence::of(Outcome::Replace, text).next("realign after it")
    } else {
        Consequence::of(Outcome::Keep, format!("{leak} is above {least}"))
    }
}

/// What stands across the part: as said, or else as tested, or else as rated.
fn across(case: Case<'_>, part: &Capacitor, leak: &Leak) -> Option<Volt> {
    case.circuit.get(Fact::Voltage).or(leak.tested_at).or(part.rated)
}

/// `leak` at which a sum comes out at its limit, as a threshold of what was read; none where no leak does.
fn threshold(read: &Leak, to: Outcome, leak: Option<Ohm>) -> Option<Threshold> {
    let at = leak.filter(|r| *r > Ohm::ZERO)?;
    let falls = read.resistance > at;
    if let (Some(now), Some(tested)) = (read.current, read.tested_at) {
        let word = if falls { "from" } else { "below" };
        let limit = tested / at;
        return Threshold::new(to, ReadQuantity::LeakageCurrent, now.amperes(), limit.amperes(), word);
    }
    let word = if falls { "down from" } else { "above" };
    Threshold::new(to, ReadQuantity::LeakageResistance, read.resistance.ohms(), at.ohms(), word)
}

/// The resistance that leaves `share` of the volts across `beside`; none where all of them are allowed there.
fn leaving(share: f64, beside: Ohm) -> Option<Ohm> {
    (share > 0.0 && share < 1.0).then(|| beside * (1.0 / share - 1.0))
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
    let most: Volt = policy.get(PolicyNumber::GridShiftVolts);
    let of_bias = policy.number_si(PolicyNumber::GridShiftOfBias);
    let bias = case.circuit.get::<Volt>(Fact::Bias);
    let limit = bias.filter(|b| *b != Volt::ZERO).map_or(most, |b| (b.abs() * of_bias).min(most));
    let Some(rg) = case.circuit.get::<Ohm>(Fact::GridResistor) else {
        return missing_grid(leak, v, limit);
    };
    let shift = grid_shift(v, rg, leak.resistance);
    let measured = leak.current.filter(|_| leak.tested_at == Some(v));
    let current = measured.unwrap_or_else(|| v / (rg + leak.resistance));
    let biased = bias.map_or_else(
        || "a grid whose bias is not known".to_owned(),
        |b| format!("a grid biased at {}", volts(b)),
    );
    let sum = format!("{current} × {rg} = {} on {biased}", volts(shift));
    let (call, why) = judged_against(shift, limit, policy);
    let mut c = Consequence::of(call, format!("{sum}: {why}, {} allowed", volts(limit)));
    // Rleak at which the shift meets the limit, and a third of it.
    let at = |shift: Volt| leaving(shift / v, rg);
    let watch = limit * policy.number_si(PolicyNumber::GridWatchShare);
    c.thresholds = match call {
        Outcome::Keep => {
            vec![threshold(leak, Outcome::Watch, at(watch)), threshold(leak, Outcome::Replace, at(limit))]
        }
        Outcome::Watch => {
            vec![threshold(leak, Outcome::Replace, at(limit)), threshold(leak, Outcome::Keep, at(watch))]
        }
        Outcome::Replace | Outcome::MeasureAgain => vec![threshold(leak, Outcome::Watch, at(limit))],
    }
    .into_iter()
    .flatten()
    .collect();
    // A smaller bias would tighten the limit: ask only where that could change the call.
    let tightest = SMALLEST_BIAS * of_bias;
    if bias.is_none() && call != Outcome::Replace && judged_against(shift, tightest, policy).0 != call {
        c.asks.push(Fact::Bias);
        let need = shift / of_bias;
        c.text.push_str(&format!("; keep if the bias is more than {}, replace if it is less", volts(need)));
        c.call = Outcome::Watch;
    }
    c
}

fn judged_against(shift: Volt, limit: Volt, policy: &Policy) -> (Outcome, &'static str) {
    if shift > limit {
        (Outcome::Replace, "too much")
    } else if shift >= limit * policy.number_si(PolicyNumber::GridWatchShare) {
        (Outcome::Watch, "not yet too much")
    } else {
        (Outcome::Keep, "harmless")
    }
}

/// No grid resistor is known: the one up to which the leak may stay.
fn missing_grid(leak: &Leak, v: Volt, limit: Volt) -> Consequence {
    let at = bearable(leak, limit / v);
    missing(leak, at, GRID_RESISTORS, Fact::GridResistor, "the grid resistor")
}

/// The resistor across which the leak puts `share` of the volts; none where any may stand.
fn bearable(leak: &Leak, share: f64) -> Option<Ohm> {
    (share < 1.0).then(|| leak.resistance * (share / (1.0 - share)))
}

/// Keep if under, replace if over; settled where no resistor in use could change it.
fn missing(leak: &Leak, at: Option<Ohm>, (least, most): (Ohm, Ohm), fact: Fact, what: &str) -> Consequence {
    let Some(at) = at.filter(|r| *r <= most) else {
        return Consequence::of(
            Outcome::Keep,
            format!("{}: harmless with any {} in use", leak.said, what.trim_start_matches("the ")),
        );
    };
    if at < least {
        return Consequence::of(
            Outcome::Replace,
            format!("{}: too much with any {} in use", leak.said, what.trim_start_matches("the ")),
        );
    }
    let text = format!("{}: keep if {what} is under {at}, replace if it is over", leak.said);
    let mut c = Consequence::of(Outcome::Watch, text);
    c.asks = vec![fact];
    c
}

fn avc(case: Case<'_>, leak: &Leak, policy: &Policy) -> Consequence {
    let most: Fraction = policy.get(PolicyNumber::AvcLossFraction);
    let source = [Fact::SourceResistance, Fact::FeedResistor, Fact::GridResistor]
        .into_iter()
        .find_map(|f| case.circuit.get::<Ohm>(f));
    let Some(rs) = source else {
        let at = bearable(leak, most.fraction());
        return missing(leak, at, AVC_SOURCES, Fact::SourceResistance, "the AVC source");
    };
    let loss = avc_loss(rs, leak.resistance);
    let call = if loss > most {
        Outcome::Replace
    } else if loss >= most * policy.number_si(PolicyNumber::WatchFrom) {
        Outcome::Watch
    } else {
        Outcome::Keep
    };
    let text = format!(
        "{rs} / ({rs} + {}) = {} of the AVC voltage is lost, {} allowed",
        leak.resistance,
        percent(loss.fraction()),
        percent(most.fraction())
    );
    let mut c = Consequence::of(call, text);
    let to = if call == Outcome::Replace { Outcome::Watch } else { Outcome::Replace };
    c.thresholds.extend(threshold(leak, to, leaving(most.fraction(), rs)));
    c
}

/// Across something that is fed through a resistor.
fn fed(case: Case<'_>, part: &Capacitor, leak: &Leak, policy: &Policy) -> Consequence {
    let share = policy.number_si(PolicyNumber::FeedDropFraction);
    let Some(rf) = case.circuit.get::<Ohm>(Fact::FeedResistor) else {
        if as_new(part, leak, policy) {
            return Consequence::of(Outcome::Keep, format!("{} is as new", insulation(part, leak)));
        }
        let at = bearable(leak, share);
        return missing(leak, at, FEED_RESISTORS, Fact::FeedResistor, "the feed resistor");
    };
    let Some(v) = across(case, part, leak) else {
        let mut c = Consequence::of(
            Outcome::Watch,
            format!("{}: what it does to its feed hangs on its volts", leak.said),
        );
        c.asks = vec![Fact::Voltage];
        return c;
    };
    let rail = case.circuit.get::<Volt>(Fact::Rail);
    let drop = feed_drop(v, rf, leak.resistance);
    let most = rail.unwrap_or(v) * share;
    let mut text = format!(
        "{} through {rf} drops {} of {} allowed ({} of {})",
        drop / rf,
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
    if let Some((power, rating)) = overload(case.circuit, v, rf, leak.resistance) {
        let allowed = rating * policy.number_si(PolicyNumber::FeedRatingShare);
        text.push_str(&format!("; the feed then burns {power} of its {rating}"));
        if power > allowed {
            call = Outcome::Replace;
        }
    }
    let mut c = Consequence::of(call, text);
    if call == Outcome::Replace {
        c = c.next("measure its feed resistor: it has carried the leak");
    }
    let to = if call == Outcome::Replace { Outcome::Watch } else { Outcome::Replace };
    c.thresholds.extend(threshold(leak, to, leaving(most / v, rf)));
    c
}

/// What the feed burns with the leak against its rating, where rail and rating are known.
fn overload(circuit: &Circuit, v: Volt, rf: Ohm, leak: Ohm) -> Option<(Watt, Watt)> {
    Some((feed_power(circuit.get(Fact::Rail)?, v, rf, leak), circuit.get(Fact::FeedPower)?))
}

fn unknown_place(leak: &Leak, policy: &Policy) -> Consequence {
    let share = policy.number_si(PolicyNumber::FeedDropFraction);
    let feed = bearable(leak, share).map_or_else(|| "any size".to_owned(), |r| format!("less than {r}"));
    let limit: Volt = policy.get(PolicyNumber::GridShiftVolts);
    let grid = leak.tested_at.and_then(|v| bearable(leak, limit / v));
    let on_a_grid =
        grid.map(|g| format!(", replace if it feeds a grid with more than {g}")).unwrap_or_default();
    let text = format!("{} without its place: keep if it decouples a feed of {feed}{on_a_grid}", leak.said);
    Consequence::of(Outcome::Watch, text)
        .next("say where it sits: the same leak is fine in one place and ruinous in another")
}
