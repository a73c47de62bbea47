//! Collector from emitter by gain, and everything in words: why, what else it could be, what would settle it.

use super::{Conditions, Further, Health, Identified, SixReadings, ToldBy, What};
use crate::transistor::device::Polarity;

/// A gain this many times the other way's is the right way round (practice).
const RIGHT_WAY: f64 = 1.5;

pub(super) fn settle(f: &mut Identified, six: &SixReadings, names: [&str; 3], how: Conditions<'_>) {
    let name = |lead: usize| names.get(lead).copied().unwrap_or("?");
    by_gain(f, how);
    why(f, six, &name);
    what_else(f, how, &name);
    if how.in_circuit {
        f.next.insert(
            0,
            "take it out, or lift two of its leads: what lies across it in the set pulls readings down"
                .to_owned(),
        );
        if f.health == Health::Shorted {
            f.or.push(
                "a transformer's winding or a small resistor across two leads reads as a short".to_owned(),
            );
        } else if f.health == Health::Leaky || f.what == What::Jfet {
            f.or.push("resistors in the set conduct both ways and read as a leak".to_owned());
        }
    }
}

/// The gain that is higher is that of the right way round.
fn by_gain(f: &mut Identified, how: Conditions<'_>) {
    let (Some(base), true) = (f.base, matches!(f.what, What::Bipolar | What::Darlington)) else { return };
    let of_this = |t: &&super::GainTry| {
        t.collector != base && t.emitter != base && t.collector != t.emitter && t.gain.is_finite()
    };
    let tries: Vec<_> = how.gains.iter().filter(of_this).collect();
    let best = tries.iter().max_by(|a, b| a.gain.total_cmp(&b.gain));
    let Some(best) = best else { return };
    let reversed = tries.iter().find(|t| t.collector == best.emitter);
    let Some(reversed) = reversed else {
        f.next.push("measure the gain the other way round too: the higher one is right".to_owned());
        return;
    };
    if best.gain < 1.0 {
        f.because.push("no gain either way round".to_owned());
        f.or.push("two diodes in one case have no gain".to_owned());
        f.collector = None;
        f.emitter = None;
        f.told_by = None;
        return;
    }
    f.because.push(format!("gain {:.0} one way round, {:.0} the other", best.gain, reversed.gain));
    if best.gain >= RIGHT_WAY * reversed.gain {
        (f.collector, f.emitter, f.told_by) = (Some(best.collector), Some(best.emitter), Some(ToldBy::Gain));
    } else {
        f.next.push(
            "the two gains are too near each other: it may be one made to work both ways round".to_owned(),
        );
    }
}

fn why<'a>(f: &mut Identified, six: &SixReadings, name: &impl Fn(usize) -> &'a str) {
    let mut lines = Vec::new();
    for (red, black, shown) in six.all() {
        if let Some(v) = shown {
            lines.push(format!("red on {}, black on {}: {v:.3} V", name(red), name(black)));
        }
    }
    if lines.is_empty() {
        lines.push("nothing conducts between any two leads".to_owned());
    }
    if let Some((a, b)) = f.shorted {
        lines.push(format!("{} and {} are one", name(a), name(b)));
    }
    if let (Some(base), Some(p)) = (f.base, f.polarity) {
        lines.push(match p {
            Polarity::Npn => {
                format!("{} is positive to both others where they conduct: base, NPN", name(base))
            }
            Polarity::Pnp => {
                format!("{} is negative to both others where they conduct: base, PNP", name(base))
            }
            Polarity::NChannel => {
                format!("{} is positive to both ends of a channel: gate, N-channel", name(base))
            }
            Polarity::PChannel => {
                format!("{} is negative to both ends of a channel: gate, P-channel", name(base))
            }
        });
    }
    if let Some(m) = f.material {
        lines.push(format!("the junctions drop as {m} does"));
    }
    if let (Some(ToldBy::Drop), Some(e), true) = (f.told_by, f.emitter, f.what != What::WithResistors) {
        lines.push(format!("the drop to {} is higher: emitter", name(e)));
    }
    lines.append(&mut f.because);
    f.because = lines;
}

fn what_else<'a>(f: &mut Identified, how: Conditions<'_>, name: &impl Fn(usize) -> &'a str) {
    let mut or = |t: &str| f.or.push(t.to_owned());
    match (f.what, f.health) {
        (What::Bipolar | What::Darlington, Health::Good | Health::Leaky) => {
            or("two diodes with a common lead read the same");
            if f.told_by != Some(ToldBy::Gain) {
                let text = if f.collector.is_none() {
                    "gain both ways round: it tells collector from emitter, and a transistor from two diodes"
                } else {
                    "gain both ways round: it confirms the emitter, and that it is a transistor at all"
                };
                f.next.push(text.to_owned());
            }
            if f.health == Health::Leaky {
                f.next.push(
                    "leakage from collector to emitter with the base open, at its working volts".to_owned(),
                );
            }
        }
        (What::Bipolar, Health::Open) => {
            or(
                "an insulated-gate type shows only its body diode: the lead that goes nowhere is then the gate",
            );
            or("a thyristor shows only gate to cathode: the lead that goes nowhere is then the anode");
            f.because.push("one junction conducts, the other is gone, or never was".to_owned());
            f.next.push(
                "touch the lone lead to the diode's cathode side, then to its anode side: if the diode's leads conduct \
                 both ways after one of them and not after the other, it is an insulated gate"
                    .to_owned(),
            );
        }
        (What::Bipolar, Health::Shorted) => {
            if f.base.is_some() {
                or("base and one of the others may be the shorted pair, with the polarity the other way");
                or("a line output type has 20 to 60 Ω built in from base to emitter: the ohms range tells");
            }
            f.next.push("the ohms range across the shorted pair: under an ohm is a short".to_owned());
        }
        (What::WithDamper, _) => {
            or("three diodes in one case read the same");
            f.next.push(
                if f.base.is_none() {
                    "gain with each end as the base: NPN and PNP with a diode look alike here"
                } else {
                    "gain with the leads as named: it confirms the base"
                }
                .to_owned(),
            );
        }
        (What::WithResistors, _) => {
            or("a leak from base to emitter reads the same");
            f.next.push(
                "the ohms range from base to emitter both ways: a built-in resistor is steady when warmed, a leak is \
                 not"
                    .to_owned(),
            );
        }
        (What::Mosfet, _) => {
            f.because.push("its gate holds what it was touched with, and has no junction".to_owned());
            f.next.push("keep its leads together: a charged sleeve can break the gate".to_owned());
        }
        (What::Scr, _) => f.because.push("gate to cathode is a junction, the anode leads nowhere".to_owned()),
        (What::Jfet, _) if how.further == Some(Further::ChannelStops) => {
            f.next.push("drain and source of most such types may be exchanged; the sheet tells".to_owned());
        }
        (What::Jfet, _) => {
            or("a bipolar transistor that leaks from collector to emitter reads the same");
            let gate = f.base.map_or("the gate", name);
            f.next.push(format!(
                "a cell's volts from {gate} to the channel, the wrong way for its junction: if the channel then stops \
                 conducting, it is a junction field-effect type"
            ));
            f.next.push("drain and source of most such types may be exchanged; the sheet tells".to_owned());
        }
        (What::DiodePair, _) => {
            f.because.push("the lead that both have in common is their joint".to_owned());
        }
        (What::Unknown, Health::Open) => {
            or("all junctions open");
            or(
                "an insulated-gate type without a body diode, or a transistor with resistors of some kΩ at its base",
            );
            f.next.push(
                "ohms between all leads, and gate volts from a cell: does anything then conduct?".to_owned(),
            );
        }
        (What::Unknown, Health::Leaky) => {
            or("a resistor network, or a transistor that leaks everywhere");
            f.next.push("the same six readings after a quarter of an hour in the cold".to_owned());
        }
        (What::Unknown | What::Darlington, _) => {}
    }
}

/// What a meter's diode range shows of a junction with a resistor across it, volt.
///
/// The meter feeds `meter_amperes` into both: V = R × (I − Is(e^(V/nVt) − 1)), with the junction's own curve through
/// its drop `volts` at that current; n = 1.3 for silicon and 1.1 for germanium are judgement, and change the answer
/// by some millivolts.
#[must_use]
pub fn with_parallel(volts: f64, ohms: f64, meter_amperes: f64) -> f64 {
    let thermal = 0.0257 * if volts < super::GERMANIUM_BELOW { 1.1 } else { 1.3 };
    let junction = |v: f64| meter_amperes * ((v - volts) / thermal).exp();
    let (mut low, mut high) = (0.0, volts);
    for _ in 0..60 {
        let v = f64::midpoint(low, high);
        if v / ohms + junction(v) < meter_amperes { low = v } else { high = v }
    }
    f64::midpoint(low, high)
}
