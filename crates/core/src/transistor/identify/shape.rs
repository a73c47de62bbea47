//! From three paths between three leads to what they are.

use super::path::{Conduction, Path, path};
use super::{Conditions, Further, Health, Identified, SILICON_FROM, SixReadings, ToldBy, What, material};
use crate::transistor::device::{Material, Polarity};

/// Drops that differ by less than this are the same, volt: a count or two of the meter (practice).
const SAME: f64 = 0.0015;
/// From here on a drop is that of two junctions after each other, volt.
const TWO_JUNCTIONS: f64 = 0.95;
/// Up to here a two-way path is a channel and not a leak, volt at a milliampere (practice).
const CHANNEL: f64 = 0.7;

/// The third lead.
fn other(a: usize, b: usize) -> usize {
    3 - a - b
}

pub(super) fn shape(six: &SixReadings, how: Conditions<'_>) -> Identified {
    let pairs = [(0, 1), (0, 2), (1, 2)];
    let paths = pairs.map(|(a, b)| (a, b, path(six, a, b)));
    let mut ways: Vec<Conduction> = Vec::new();
    let mut back: Vec<(Conduction, f64)> = Vec::new();
    let mut shorts = Vec::new();
    let mut resistive = Vec::new();
    for (a, b, path) in paths {
        match path {
            Path::Nothing => {}
            Path::OneWay(w) => ways.push(w),
            Path::Short => shorts.push((a, b)),
            Path::Resistive(v) => resistive.push((a, b, v)),
            Path::Leaky(w, v) => {
                ways.push(w);
                back.push((w, v));
            }
        }
    }
    let mut found = match (shorts.as_slice(), resistive.as_slice()) {
        ([], []) => junctions(&ways, how),
        ([], [(a, b, v)]) => one_resistive((*a, *b), *v, &ways, how),
        ([], _) => {
            let mut f = Identified::of(What::Unknown, Health::Leaky);
            f.because.push("two pairs of leads conduct alike both ways".to_owned());
            f
        }
        ([(a, b)], _) => one_short((*a, *b), &ways, how),
        (_, _) => {
            let mut f = Identified::of(What::Unknown, Health::Shorted);
            f.because.push("all three leads are one".to_owned());
            f
        }
    };
    if let Some(further) = how.further {
        settled(&mut found, &ways, further);
    }
    if let Some((way, v)) = back.first()
        && found.health == Health::Good
    {
        found.health = Health::Leaky;
        found.because.push(format!("{:.2} V forward and {v:.2} V backwards: it leaks", way.volts));
    }
    found
}

/// What one more measurement makes of it.
fn settled(f: &mut Identified, ways: &[Conduction], further: Further) {
    match (further, ways) {
        (Further::OnAfterPlus | Further::OnAfterMinus, [diode]) => {
            let n = further == Further::OnAfterPlus;
            // The body diode points from source to drain in an N-channel type.
            let (source, drain) = if n { (diode.from, diode.to) } else { (diode.to, diode.from) };
            (f.what, f.health, f.material) = (What::Mosfet, Health::Good, Some(Material::Silicon));
            f.polarity = Some(if n { Polarity::NChannel } else { Polarity::PChannel });
            f.base = Some(other(source, drain));
            (f.emitter, f.collector) = (Some(source), Some(drain));
        }
        (Further::Latches, [gate]) => {
            (f.what, f.health, f.polarity) = (What::Scr, Health::Good, None);
            f.base = Some(gate.from);
            f.emitter = Some(gate.to);
            f.collector = Some(other(gate.from, gate.to));
        }
        (Further::ChannelStays, _) if f.what == What::Jfet => {
            (f.what, f.health) = (What::Bipolar, Health::Leaky);
            f.polarity = match f.polarity {
                Some(Polarity::NChannel) => Some(Polarity::Npn),
                Some(Polarity::PChannel) => Some(Polarity::Pnp),
                same => same,
            };
        }
        (Further::ChannelStops, _) if f.what == What::Bipolar && f.health == Health::Leaky => {
            (f.what, f.health) = (What::Jfet, Health::Good);
            f.polarity = match f.polarity {
                Some(Polarity::Npn) => Some(Polarity::NChannel),
                Some(Polarity::Pnp) => Some(Polarity::PChannel),
                same => same,
            };
        }
        _ => {}
    }
}

fn polarity(from_base: bool) -> Polarity {
    if from_base { Polarity::Npn } else { Polarity::Pnp }
}

/// The lead that two ways have in common, and whether they come from it.
fn common(a: &Conduction, b: &Conduction) -> Option<(usize, bool)> {
    if a.from == b.from {
        Some((a.from, true))
    } else if a.to == b.to {
        Some((a.to, false))
    } else {
        None
    }
}

fn far(way: &Conduction, base: usize) -> usize {
    if way.from == base { way.to } else { way.from }
}

fn junctions(ways: &[Conduction], how: Conditions<'_>) -> Identified {
    match ways {
        [] => Identified::of(What::Unknown, Health::Open),
        [one] => {
            let mut f = Identified::of(What::Bipolar, Health::Open);
            f.material = material(one.volts, how.celsius);
            f
        }
        [a, b] => match common(a, b) {
            Some((base, from)) => bipolar(base, from, a, b, how),
            None => Identified::of(What::DiodePair, Health::Good),
        },
        _ => three(ways, how),
    }
}

/// Two junctions with a lead in common.
fn bipolar(base: usize, from_base: bool, a: &Conduction, b: &Conduction, how: Conditions<'_>) -> Identified {
    let mut f = Identified::of(What::Bipolar, Health::Good);
    f.base = Some(base);
    f.polarity = Some(polarity(from_base));
    let (low, high) = if a.volts <= b.volts { (a, b) } else { (b, a) };
    f.material = material(low.volts, how.celsius);
    if high.volts > TWO_JUNCTIONS && (SILICON_FROM..TWO_JUNCTIONS).contains(&low.volts) {
        f.what = What::Darlington;
    }
    if high.volts - low.volts >= SAME {
        (f.emitter, f.collector) = (Some(far(high, base)), Some(far(low, base)));
        f.told_by = Some(ToldBy::Drop);
    }
    f
}

/// Three junctions: a diode beside the transistor, two in series, or a leak.
fn three(ways: &[Conduction], how: Conditions<'_>) -> Identified {
    let reds = |lead: usize| ways.iter().filter(|w| w.from == lead).count();
    let first = (0..3).find(|l| reds(*l) == 2);
    let last = (0..3).find(|l| ways.iter().filter(|w| w.to == *l).count() == 2);
    let (Some(r), Some(k)) = (first, last) else {
        return Identified::of(What::Unknown, Health::Leaky);
    };
    let m = other(r, k);
    let volts =
        |from: usize, to: usize| ways.iter().find(|w| w.from == from && w.to == to).map_or(0.0, |w| w.volts);
    let (rm, mk, rk) = (volts(r, m), volts(m, k), volts(r, k));
    let way = |from: usize, to: usize| Conduction { from, to, volts: volts(from, to) };
    // A leak from collector to emitter shows far more volts than a junction.
    let least = rm.min(mk).min(rk);
    let leak = |v: f64| v > 0.8 && v > 2.5 * least;
    // The leak lies between the two that are not the base.
    for (base, from, a, b, across) in [(r, true, (r, m), (r, k), mk), (k, false, (r, k), (m, k), rm)] {
        if leak(across) && !leak(rk) {
            let (a, b) = (way(a.0, a.1), way(b.0, b.1));
            let mut f = bipolar(base, from, &a, &b, how);
            f.because.push(format!("{across:.2} V from one end to the other: a leak, not a junction"));
            if f.material != Some(Material::Germanium) {
                f.health = Health::Leaky;
            }
            return f;
        }
    }
    let sum = rm + mk;
    if (rk - sum).abs() < 0.1 * sum {
        return Identified::of(What::DiodePair, Health::Good);
    }
    // NPN: base, emitter, collector are r, m, k; the diode is m to k. PNP: k, m, r; the diode is r to m. The
    // emitter's junction drops more than the diode, which is large.
    let npn = rm >= mk;
    let mut f = Identified::of(What::WithDamper, Health::Good);
    f.base = Some(if npn { r } else { k });
    f.collector = Some(if npn { k } else { r });
    f.emitter = Some(m);
    f.told_by = Some(ToldBy::Damper);
    f.polarity = Some(polarity(npn));
    f.material = material(rk, how.celsius);
    if rm.max(mk) > TWO_JUNCTIONS {
        f.because.push("two junctions after each other from base to emitter: a Darlington".to_owned());
    } else if (rm - mk).abs() < 4.0 * SAME {
        f.polarity = None;
        f.base = None;
        f.collector = None;
    }
    f
}

/// One pair conducts alike both ways.
fn one_resistive((x, y): (usize, usize), v: f64, ways: &[Conduction], how: Conditions<'_>) -> Identified {
    let z = other(x, y);
    let Some(first) = ways.first() else {
        let mut f = Identified::of(What::Unknown, Health::Leaky);
        f.because.push("one pair conducts alike both ways, the third lead goes nowhere".to_owned());
        return f;
    };
    let from = first.from == z;
    let material = material(ways.iter().map(|w| w.volts).fold(f64::INFINITY, f64::min), how.celsius);
    if let [a, b] = ways {
        let (low, high) = if a.volts <= b.volts { (a, b) } else { (b, a) };
        // Through a resistor at the base the other way is higher by the resistor's own volts.
        let through = (high.volts - low.volts - v).abs() < 0.3 * v && v > 0.06;
        if through {
            let mut f = with_resistors(low, z, material);
            f.emitter = Some(far(high, z));
            return f;
        }
        let (what, health) = if material == Some(Material::Germanium) || v > CHANNEL {
            (What::Bipolar, Health::Leaky)
        } else {
            (What::Jfet, Health::Good)
        };
        let mut f = Identified::of(what, health);
        f.base = Some(z);
        f.material = material;
        f.polarity = Some(match (what, from) {
            (What::Jfet, true) => Polarity::NChannel,
            (What::Jfet, false) => Polarity::PChannel,
            (_, from) => polarity(from),
        });
        return f;
    }
    let mut f = with_resistors(first, z, material);
    f.emitter = Some(other(far(first, z), z));
    f
}

/// A junction from the base to the lone lead, which is the collector; the base hangs on the emitter by a resistor.
fn with_resistors(junction: &Conduction, z: usize, material: Option<Material>) -> Identified {
    let mut f = Identified::of(What::WithResistors, Health::Good);
    f.collector = Some(z);
    f.base = Some(far(junction, z));
    f.polarity = Some(polarity(junction.to == z));
    f.material = material;
    f.told_by = Some(ToldBy::Drop);
    f
}

/// One pair is a piece of wire.
fn one_short((a, b): (usize, usize), ways: &[Conduction], how: Conditions<'_>) -> Identified {
    let mut f = Identified::of(What::Bipolar, Health::Shorted);
    f.shorted = Some((a, b));
    let z = other(a, b);
    if let [one, two] = ways
        && let Some((lead, from)) = common(one, two)
        && lead == z
    {
        f.base = Some(z);
        f.polarity = Some(polarity(from));
        f.material = material(one.volts.min(two.volts), how.celsius);
    }
    f
}
