//! What was said of a set and cannot both hold: named, so that a slip is found before a part is chosen by it.

use std::collections::BTreeSet;

use super::facts::LINE_FROM;
use super::{SetClass, SetFacts};
use crate::part::Fact;
use crate::quantity::format::percent;
use crate::quantity::{Ampere, Hertz, Volt, Watt};
use crate::supply::heater::MISMATCH;

/// The most that a rectifier makes of its volts AC, at the peak of a line at its highest (√2 × 1.1).
const PEAK: f64 = std::f64::consts::SQRT_2 * 1.1;
/// How far the line may be off the one that the set is made for (practice: 10 %, and a little for the meter).
const LINE_OFF: f64 = 0.12;
/// How far the current of a chain may be off what its heaters want (memory: makers of series valves, 6 %; twice that is a
/// fault or a slip).
const CHAIN_OFF: f64 = 2.0 * MISMATCH;
/// Lines that there are, in hertz (practice: 50 and 60; older networks and vehicles).
const LINES_HZ: [(f64, f64); 4] = [(16.0, 17.0), (24.0, 26.0), (40.0, 62.0), (380.0, 420.0)];

/// What is known of a set when it is looked at as a whole.
#[derive(Debug, Clone, Copy)]
pub struct KnownSet<'a> {
    /// What it is.
    pub class: SetClass,
    /// The line or battery that it is made for.
    pub rated: Option<Volt>,
    /// What it draws there.
    pub watts: Option<Watt>,
    /// Its supply.
    pub facts: &'a SetFacts,
}

/// The entries that cannot both hold, each pair in a sentence; empty where nothing speaks against another.
#[must_use]
pub fn contradictions(set: &KnownSet<'_>) -> Vec<String> {
    let mut said = Vec::new();
    said.extend(line(set));
    said.extend(frequency(set));
    said.extend(rectifier(set));
    said.extend(power(set));
    said.extend(highest(set));
    said.extend(names(set));
    said.extend(chain(set));
    said
}

fn line(set: &KnownSet<'_>) -> Option<String> {
    let (now, rated) =
        set.facts.shared().get::<Volt>(Fact::Line).zip(set.rated.filter(|v| *v >= LINE_FROM))?;
    let off = now / rated - 1.0;
    (off.abs() > LINE_OFF).then(|| {
        let how = if off > 0.0 { "never straight in: a transformer first" } else { "it will be weak" };
        format!("the mains is {now} and the set is made for {rated}: {how}, or one of the two is wrong")
    })
}

fn frequency(set: &KnownSet<'_>) -> Option<String> {
    let hertz: Hertz = set.facts.shared().get(Fact::Frequency)?;
    if !set.class.is_on_the_mains() {
        return Some(format!("{hertz}, and the set runs on batteries only: one of the two is wrong"));
    }
    let known = LINES_HZ.iter().any(|(low, high)| (*low..=*high).contains(&hertz.hertz()));
    (!known).then(|| format!("no mains has {hertz}: 50 or 60 Hz, on old networks 16⅔, 25 or 42"))
}

fn rectifier(set: &KnownSet<'_>) -> Vec<String> {
    let shared = set.facts.shared();
    let Some(ac) = shared.get::<Volt>(Fact::Secondary) else { return vec![] };
    let mut said = Vec::new();
    let peak = ac * PEAK;
    for rail in set.facts.rails.iter().filter(|r| r.volts.abs() > peak) {
        said.push(format!(
            "{} at {} cannot come out of {ac} AC, whose highest peak is {peak}: one of the two is wrong, or its rectifier \
             is a doubler or another one",
            rail.name, rail.volts
        ));
    }
    let line = set.facts.line(set.rated);
    // Without a transformer the rectifier sees the line itself.
    if let Some(line) = line.filter(|l| set.class.has_live_chassis() && (ac / *l - 1.0).abs() > LINE_OFF) {
        said.push(format!(
            "without a transformer the rectifier has the line of {line} itself, and not {ac} AC: one of them is wrong"
        ));
    }
    said
}

fn power(set: &KnownSet<'_>) -> Option<String> {
    let current: Ampere = set.facts.shared().get(Fact::LoadCurrent)?;
    let rail =
        set.facts.rails.iter().max_by(|a, b| a.volts.abs().volts().total_cmp(&b.volts.abs().volts()))?;
    let (watts, drawn) = (set.watts?, rail.volts.abs() * current);
    (drawn > watts).then(|| {
        format!("{current} at {} of {} are {drawn}, and the whole set draws {watts}", rail.volts, rail.name)
    })
}

fn highest(set: &KnownSet<'_>) -> Option<String> {
    let most = set.class.highest?;
    let rail = set.facts.rails.iter().find(|r| r.volts.abs() > most)?;
    Some(format!("{} at {} is more than the highest volts that were said, {most}", rail.name, rail.volts))
}

fn names(set: &KnownSet<'_>) -> Option<String> {
    let mut seen = BTreeSet::new();
    let twice = set.facts.rails.iter().find(|r| !seen.insert(r.name.to_lowercase()))?;
    Some(format!("two rails are called {}: which of them does a part hang on?", twice.name))
}

/// The chain as it is: with its ballast, at one of its positions, the current must be what the heaters want.
fn chain(set: &KnownSet<'_>) -> Option<String> {
    let line = set.facts.line(set.rated)?;
    let all = set.facts.settled(set.rated).into_iter().map(|(_, s)| s);
    // One of its positions is right.
    let best = all.min_by(|a, b| a.off().abs().total_cmp(&b.off().abs()))?;
    (best.off().abs() > CHAIN_OFF).then(|| {
        format!(
            "the chain with its ballast carries {} on {line}, and its heaters want {}: {} too {}; heaters, ballast and line \
             do not go together",
            best.current,
            best.wanted,
            percent(best.off().abs()),
            if best.off() > 0.0 { "much" } else { "little" }
        )
    })
}
