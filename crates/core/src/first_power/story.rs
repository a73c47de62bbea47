//! What the lamp's story means for a set of that class and wattage.

use super::{
    Healthy, LampStory, PowerAdvice, PowerError, PowerReason, PowerSign, PowerUp, Sign, SignWeight,
    StepReading, signs, steps,
};
use crate::quantity::{Ampere, Ohm, Second, Volt, Watt};
use crate::set::{Hazard, SetClass};
use crate::source::Source;
use crate::supply::lamp::{in_series, lamp_volts, limiter, proposed};

/// A filament glows from about this share of its watts (memory: dull red near 900 K).
const GLOWS: f64 = 0.05;
/// It is called bright from this share.
const BRIGHT: f64 = 0.5;
/// Drawing so many times what a good set would is too much (practice: the model is rough).
const TOO_MUCH: f64 = 1.8;
/// Drawing less than this share is next to nothing.
const NOTHING: f64 = 0.25;
/// A step no further below the line counts as the whole line.
const WHOLE: f64 = 0.97;
/// More over its line than this no set should see.
const MOST_OVER: f64 = 1.1;

/// Reads a step: what it says, and the next one.
///
/// # Errors
/// [`PowerError`] with the input to blame.
pub fn read(p: &PowerUp) -> Result<StepReading, PowerError> {
    if p.volts.volts() > p.line.volts() * MOST_OVER {
        return Err(PowerError::TooMuch { volts: p.volts, line: p.line });
    }
    if p.bulb.is_none() && p.story != LampStory::NoLamp {
        return Err(PowerError::WhichLamp);
    }
    let noticed = noticed(p);
    let healthy = healthy(p)?;
    let drawn = drawn(p)?;
    let mut calls: Vec<(PowerAdvice, PowerReason)> = noticed.iter().map(|s| of_sign(s)).collect();
    calls.extend(of_story(p, healthy.as_ref()));
    calls.extend(of_current(p, healthy.as_ref(), drawn));
    calls.extend(of_heaters(p, &noticed));
    calls.extend(of_nothing(p));
    calls.sort_by_key(|(call, _)| *call);
    let worst = calls.first().map_or(PowerAdvice::GoOn, |c| c.0);
    let next = next(p, worst);
    let up = next.is_none() && worst == PowerAdvice::GoOn;
    let reached =
        healthy.is_none_or(|h| h.set_volts.volts() >= crate::supply::lamp::HEALTHY * p.line.volts());
    let call = if up && reached { PowerAdvice::Up } else { worst };
    let bulb = if matches!(worst, PowerAdvice::Stop) { None } else { larger(p, healthy.as_ref(), up)? };
    if let (Some(b), true) = (bulb, up && !reached) {
        let text =
            format!("the lamp keeps volts from the set: {b} next, or none once nothing speaks against it");
        calls.push((PowerAdvice::GoOn, because(text, "the series lamp's model")));
    }
    Ok(StepReading {
        call,
        because: calls.into_iter().map(|(_, r)| r).collect(),
        next_volts: next.map(|s| p.line * s.share),
        hold: next.map(|s| Second::computed(s.hold_s)),
        watch: next.map(|s| s.watch.clone()),
        next_bulb: bulb,
        healthy,
        drawn,
    })
}

/// A step at which nothing was observed proves nothing: neither lamp nor meter nor senses.
fn of_nothing(p: &PowerUp) -> Option<(PowerAdvice, PowerReason)> {
    let blind = p.story == LampStory::NoLamp && p.current.is_none() && p.signs.is_empty();
    let text =
        "nothing was observed: read the current, or say what the set did; a silent step proves nothing";
    blind.then(|| (PowerAdvice::VisualSign, because(text, "evidence for each step")))
}

fn because(text: impl Into<String>, source: &str) -> PowerReason {
    PowerReason { text: text.into(), source: Source::practice(source) }
}

fn noticed(p: &PowerUp) -> Vec<&'static Sign> {
    let known = signs(p.class);
    p.signs.iter().filter_map(|wanted| known.iter().copied().find(|s| s.sign == *wanted)).collect()
}

fn of_sign(s: &Sign) -> (PowerAdvice, PowerReason) {
    let call = match s.weight {
        SignWeight::Stop => PowerAdvice::Stop,
        SignWeight::VisualSign => PowerAdvice::VisualSign,
        SignWeight::Good => PowerAdvice::GoOn,
    };
    (call, PowerReason { text: s.says.clone(), source: s.source.clone() })
}

/// What a good set and a short would do here.
fn healthy(p: &PowerUp) -> Result<Option<Healthy>, PowerError> {
    let (Some(watts), Some(bulb)) = (p.watts.filter(|w| w.watts() > 0.0), p.bulb) else { return Ok(None) };
    if p.volts <= Volt::ZERO || p.line <= Volt::ZERO {
        return Ok(None);
    }
    let good = in_series(p.volts, p.line, bulb, p.line / (watts / p.line))?;
    let short = in_series(p.volts, p.line, bulb, Ohm::ZERO)?;
    let share = |w: Watt| w.watts() / bulb.watts();
    Ok(Some(Healthy {
        current: good.current,
        set_volts: good.set_volts,
        lamp_share: share(good.lamp_watts),
        short_share: share(short.lamp_watts),
    }))
}

/// What the set drew: what the lamp did not take.
fn drawn(p: &PowerUp) -> Result<Option<Watt>, PowerError> {
    let Some(i) = p.current else { return Ok(None) };
    let lamp = p.bulb.map_or(Ok(Volt::ZERO), |b| lamp_volts(p.line, b, i))?;
    Ok(Some((p.volts - lamp).max(Volt::ZERO) * i.max(Ampere::ZERO)))
}

fn of_story(p: &PowerUp, healthy: Option<&Healthy>) -> Vec<(PowerAdvice, PowerReason)> {
    let practice = "the lamp's story";
    let model = "the series lamp's model";
    let at = p.volts;
    let one = |call, text: String, source: &str| vec![(call, because(text, source))];
    let small = healthy.filter(|h| h.lamp_share >= BRIGHT);
    let blind = healthy.filter(|h| h.short_share < BRIGHT);
    match p.story {
        LampStory::Bright => match (small, p.bulb) {
            (Some(_), Some(b)) => one(
                PowerAdvice::VisualSign,
                format!("a lamp of {b} would be bright with a good set as well: it is too small to tell"),
                model,
            ),
            _ => {
                let most = p.bulb.map(|b| b.watts() / p.line.volts());
                let held = most.map_or(String::new(), |a| format!("; the lamp holds it to {a:.2} A"));
                one(
                    PowerAdvice::Stop,
                    format!("bright and staying bright is a short{held}: {}", short(p.class)),
                    practice,
                )
            }
        },
        LampStory::Dark => match healthy.filter(|h| h.lamp_share < GLOWS) {
            Some(h) => one(
                PowerAdvice::GoOn,
                format!(
                    "dark says nothing at {at}: a good set would leave the lamp at {:.0} % of its watts",
                    100.0 * h.lamp_share
                ),
                model,
            ),
            None => {
                one(PowerAdvice::VisualSign, format!("dark: nothing is drawn; {}", open(p.class)), practice)
            }
        },
        LampStory::BrightThenDim => one(PowerAdvice::GoOn, then_dim(p.class).to_owned(), practice),
        LampStory::BrightThenDimThenUp if p.class.has_valves() => one(
            PowerAdvice::GoOn,
            "bright, then dim, then up a little as heaters warm and the rail begins to draw: as it should be".to_owned(),
            practice,
        ),
        LampStory::BrightThenDimThenUp => one(
            PowerAdvice::VisualSign,
            "bright, then dim, then up: nothing in a transistor set warms up so slowly but a quiescent current that runs \
             away; measure it before the next step"
                .to_owned(),
            practice,
        ),
        LampStory::Dim => match blind {
            Some(h) => one(
                PowerAdvice::GoOn,
                format!(
                    "at {at} even a short would light the lamp to no more than {:.0} %: dim does not clear the set yet",
                    100.0 * h.short_share
                ),
                model,
            ),
            None => one(PowerAdvice::GoOn, "dim: the set draws, and not too much".to_owned(), practice),
        },
        LampStory::HalfBright => half_bright(p, healthy),
        LampStory::Flickers => one(
            PowerAdvice::VisualSign,
            "it comes and goes: a joint, a switch, or something that arcs".to_owned(),
            practice,
        ),
        LampStory::NoLamp => Vec::new(),
    }
}

fn then_dim(class: SetClass) -> &'static str {
    if class.has_valves() {
        "bright, then dim: cold filaments and empty capacitors, then what the set draws"
    } else {
        "bright, then dim: empty capacitors, then what the set draws"
    }
}

fn half_bright(p: &PowerUp, healthy: Option<&Healthy>) -> Vec<(PowerAdvice, PowerReason)> {
    match healthy {
        Some(h) if h.lamp_share < 0.5 * BRIGHT => {
            let text = format!(
                "half bright, where a good set would leave the lamp at {:.0} % of its watts: it draws too much; \
                 leaking filter capacitors first",
                100.0 * h.lamp_share
            );
            vec![(PowerAdvice::VisualSign, because(text, "the series lamp's model"))]
        }
        Some(_) => vec![(
            PowerAdvice::GoOn,
            because("half bright is what a good set does with this lamp", "the series lamp's model"),
        )],
        None => {
            let text =
                format!("half bright may be right or too much: what does this set draw at {}?", p.line);
            vec![(PowerAdvice::VisualSign, because(text, "the lamp's story"))]
        }
    }
}

fn short(class: SetClass) -> &'static str {
    match class.comes_up_as() {
        Hazard::Mains => {
            "transformer without its rectifier first, then rectifier, then first filter capacitor"
        }
        Hazard::LiveChassis => "rectifier, first filter capacitor, a heater against its cathode",
        Hazard::Battery => "a filter capacitor, or the battery the wrong way round",
        Hazard::Transistors => "rectifier bridge, filter capacitors, output transistors",
        Hazard::HighVoltage => "locked out and discharged: rectifier stack, doorknob capacitors, arc traces",
    }
}

fn open(class: SetClass) -> &'static str {
    match class.comes_up_as() {
        Hazard::Mains => "cord, switch, fuse, primary of the transformer",
        Hazard::LiveChassis => {
            "cord, switch, dropper, and the heater chain: an open anywhere in it is dark everywhere"
        }
        Hazard::Battery => "switch, fuse, contacts",
        Hazard::Transistors => "cord, switch, fuse, primary, thermal fuse inside the winding",
        Hazard::HighVoltage => "interlocks, contactor, fuses, with the set locked out",
    }
}

fn of_current(
    p: &PowerUp,
    healthy: Option<&Healthy>,
    drawn: Option<Watt>,
) -> Option<(PowerAdvice, PowerReason)> {
    let i = p.current?.amperes();
    let watts = p.watts.filter(|w| w.watts() > 0.0)?.watts();
    let good =
        healthy.map_or(p.volts.volts() / (p.line.volts() * p.line.volts() / watts), |h| h.current.amperes());
    let says = |text: String| because(text, "the series lamp's model");
    let milli = |a: f64| format!("{:.0} mA", 1e3 * a);
    let took = drawn.map_or(String::new(), |w| format!(", {:.0} W in the set", w.watts()));
    Some(if i > TOO_MUCH * good {
        (
            PowerAdvice::Stop,
            says(format!("{}{took}, where a good set would draw {}: far too much", milli(i), milli(good))),
        )
    } else if i < NOTHING * good {
        (
            PowerAdvice::VisualSign,
            says(format!("{}, where a good set would draw {}: next to nothing", milli(i), milli(good))),
        )
    } else {
        (PowerAdvice::GoOn, says(format!("{}{took}; a good set would draw about {}", milli(i), milli(good))))
    })
}

/// A chain that is dark at a step where it should glow.
fn of_heaters(p: &PowerUp, noticed: &[&Sign]) -> Option<(PowerAdvice, PowerReason)> {
    let dark = noticed.iter().any(|s| s.sign == PowerSign::HeatersDark);
    let chain = p.class.has_heater_chain();
    (dark && chain).then(|| {
        let text = "heaters in a chain: one open heater, lamp or ballast is dark everywhere; ohms from end to end, then \
                    each by itself";
        (PowerAdvice::VisualSign, because(text, "heater chains"))
    })
}

fn next(p: &PowerUp, call: PowerAdvice) -> Option<&'static super::PowerStep> {
    if call != PowerAdvice::GoOn {
        return None;
    }
    let share = p.volts.volts() / p.line.volts();
    steps(p.class).find(|s| s.share > share / WHOLE)
}

/// Another lamp, where this one tells nothing or keeps the volts from the set.
fn larger(p: &PowerUp, healthy: Option<&Healthy>, up: bool) -> Result<Option<Watt>, PowerError> {
    let (Some(h), Some(watts), Some(now)) = (healthy, p.watts, p.bulb) else { return Ok(None) };
    if !(h.lamp_share >= BRIGHT || up) {
        return Ok(None);
    }
    let all = limiter(p.line, watts)?;
    Ok(proposed(&all).map(|l| l.bulb).filter(|b| *b > now))
}
