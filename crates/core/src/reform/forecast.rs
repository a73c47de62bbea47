//! When it will be done: the run is led on in the model, by the same state machine, with a perfect meter.

use super::Sample;
use super::aged::Aged;
use super::bench::Bench;
use super::circuit::Condition;
use super::plan::Plan;
use super::regression::{Estimate, estimate};
use super::run::{Ending, Event, Phase, ReformMode, Run};
use crate::quantity::{Second, Volt};

/// Nobody waits longer.
const LONGEST_SECONDS: f64 = 36.0 * 3600.0;

/// A run as the model led it.
#[derive(Debug, Clone, PartialEq)]
pub struct Led {
    /// What the meters showed, until it was empty.
    pub samples: Vec<Sample>,
    /// How the feeding ended; none where it did not within a day and a half.
    pub ending: Option<Ending>,
    /// When the supply went off, in second of the run.
    pub fed_s: f64,
}

/// Leads a run on to its end. A reading every `every` at most as long as the meter may be silent.
#[must_use]
pub fn lead(mut run: Run, mut bench: Bench, every: Second) -> Led {
    let every = every.seconds().min(run.plan.silence.seconds() / 2.0).max(0.1);
    let mut led = Led { samples: vec![], ending: None, fed_s: run.now_s };
    while !matches!(run.phase, Phase::Over { .. }) && run.now_s < LONGEST_SECONDS {
        let order = run.order();
        let at = run.now_s + every;
        let until = Second::computed(at);
        bench.pass(&run.plan, order, until);
        let meter = bench.read(&run.plan, order);
        if let Some(m) = meter {
            led.samples.push(Sample {
                at_s: at,
                set_volts: order.fed().map(Volt::volts),
                volts: m.volts.unwrap_or(0.0),
                amperes: m.amperes.unwrap_or(0.0),
            });
        }
        run = run.step(until, meter.map_or(Event::Tick, Event::Read)).run;
        run = match run.phase {
            Phase::Ready { seen_empty: true } => run.step(until, Event::Start).run,
            Phase::Emptying(e) if !e.connected => run.step(until, Event::Discharge).run,
            _ => run,
        };
        if matches!(run.phase, Phase::Feeding(_)) {
            led.fed_s = at;
        }
    }
    led.ending = match run.phase {
        Phase::Over { ending } => Some(ending),
        Phase::Emptying(e) => Some(e.ending),
        Phase::Ready { .. } | Phase::Feeding(_) => None,
    };
    led
}

/// How a part that is as assumed would go through the plan.
#[must_use]
pub fn expected(plan: &Plan) -> Led {
    let part = Aged::assumed(plan.capacitance, plan.rated, plan.idle_years);
    lead(Run::new(plan.clone(), ReformMode::Simulated), Bench::of(part, 0).perfect(), COARSE)
}

/// How long readings are apart in what is only reckoned.
const COARSE: Second = Second::computed(5.0);

/// What is foreseen of a run.
#[derive(Debug, Clone, PartialEq)]
pub struct Forecast {
    /// When the supply goes off, in second of the run; none where that is not in sight.
    pub done_s: Option<f64>,
    /// How far that may be off, in second.
    pub give_or_take_s: f64,
    /// How it is expected to end.
    pub ending: Option<Ending>,
    /// The most likely curve.
    pub likely: Vec<Sample>,
    /// Between which currents it is expected: time in second, least and most ampere.
    pub band: Vec<(f64, f64, f64)>,
    /// The part as the readings say; none where too few say anything.
    pub estimated: Option<Estimate>,
}

/// How far the model may be off, as a share of what is left (judgement: no source).
const MODEL: f64 = 0.1;

/// How many points a band has.
const POINTS: usize = 60;

/// Foresees the rest of a run from its samples. `None` unless it is being fed.
#[must_use]
pub fn forecast(run: &Run, samples: &[Sample]) -> Option<Forecast> {
    if !matches!(run.phase, Phase::Feeding(_)) {
        return None;
    }
    let assumed = Aged::assumed(run.plan.capacitance, run.plan.rated, run.plan.idle_years);
    let estimated = estimate(&assumed, samples);
    let volts = Volt::computed(run.volts.unwrap_or(0.0).max(0.0));
    let run_now = run.now_s;
    let from = |part: Aged, formed: Volt| {
        let mut condition = Condition::rested(&part, volts);
        condition.formed_volts = formed.volts();
        condition.kelvin = estimated.as_ref().map_or(part.warm_kelvin, |f| f.kelvin);
        let mut on = run.clone();
        (on.mode, on.read_s) = (ReformMode::Simulated, run_now);
        lead(on, Bench::beginning_at(part, condition, run_now), COARSE)
    };
    let (likely, others) = match &estimated {
        Some(f) => {
            (from(f.part, f.formed), f.neighbours.iter().map(|(p, v)| from(*p, *v)).collect::<Vec<_>>())
        }
        None => {
            // Nothing is known but what is assumed: a part with half and with twice as much to grow.
            let off = |times: f64| Aged { coulombs_per_volt: assumed.coulombs_per_volt * times, ..assumed };
            (
                from(assumed, assumed.formed),
                vec![from(off(0.5), assumed.formed), from(off(2.0), assumed.formed)],
            )
        }
    };
    let good = |l: &Led| l.ending == Some(Ending::Reformed);
    let give_or_take: f64 = others
        .chunks(2)
        .map(|pair| {
            let far = pair.iter().map(|l| (l.fed_s - likely.fed_s).abs()).fold(0.0, f64::max);
            far * far
        })
        .sum::<f64>();
    // The model itself is no better than that.
    let model = MODEL * (likely.fed_s - run_now);
    let give_or_take = (give_or_take + model * model).sqrt();
    Some(Forecast {
        done_s: good(&likely).then_some(likely.fed_s),
        give_or_take_s: give_or_take,
        ending: likely.ending,
        band: band(&likely, &others, run_now),
        likely: likely.samples,
        estimated,
    })
}

/// The least and the most current of all that may come, at times evenly apart.
fn band(likely: &Led, others: &[Led], from: f64) -> Vec<(f64, f64, f64)> {
    let end = others.iter().map(|l| l.fed_s).fold(likely.fed_s, f64::max);
    let at = |led: &Led, t: f64| {
        let i = led.samples.partition_point(|s| s.at_s < t);
        led.samples.get(i).filter(|s| s.set_volts.is_some()).map(|s| s.amperes)
    };
    (0..=POINTS)
        .filter_map(|n| {
            let t = from + (end - from) * n as f64 / POINTS as f64;
            let currents = others.iter().chain([likely]).filter_map(|l| at(l, t));
            let (low, high) = currents.fold((f64::INFINITY, 0.0_f64), |(l, h), i| (l.min(i), h.max(i)));
            (low <= high).then_some((t, low, high))
        })
        .collect()
}
