//! Which one measurement tells the best suspects apart: a node that was not read, else ohms with the set off.

use super::fault::Faulty;
use super::shown::volts;
use super::solve::Solved;
use super::weigh::Readings;
use super::{Fault, Feed, FeedKind};

/// Volts that two suspects must be apart at a node, as a share of the rail, so that a reading there decides.
const APART: f64 = 0.05;

/// The measurement; `None` where there is one suspect of whose kind of fault nothing else is known either.
pub(super) fn separate(feed: &Feed, readings: &Readings, even: &[(&Faulty, &Solved<'_>)]) -> Option<String> {
    let (first, rest) = even.split_first()?;
    let others: Vec<_> = rest.iter().filter(|(f, _)| f.0 != first.0.0).collect();
    if others.is_empty() {
        return alone(feed, *first.0);
    }
    at_a_node(feed, readings, even).or_else(|| Some(cold(feed, even)))
}

/// The node not yet read at which the suspects are furthest apart.
fn at_a_node(feed: &Feed, readings: &Readings, even: &[(&Faulty, &Solved<'_>)]) -> Option<String> {
    let spread = |n: usize| {
        let at = even.iter().map(|(_, s)| s.volts[n]);
        let (low, high) = at.fold((f64::INFINITY, f64::NEG_INFINITY), |(l, h), v| (l.min(v), h.max(v)));
        high - low
    };
    let open = (0..feed.nodes.len()).filter(|n| !readings.nodes.contains(n));
    let node = open.max_by(|a, b| spread(*a).total_cmp(&spread(*b)))?;
    if spread(node) < APART * feed.rail.abs() {
        return None;
    }
    let says: Vec<String> = even
        .iter()
        .take(4)
        .map(|((part, fault), s)| {
            format!("{} if {} is {}", volts(s.volts[node]), feed.parts[*part].name, word(*fault))
        })
        .collect();
    Some(format!("Measure the volts at {}: {}.", feed.nodes[node], says.join(", ")))
}

fn word(fault: Fault) -> &'static str {
    match fault {
        Fault::Open => "open",
        Fault::Short => "shorted",
        Fault::Drifted(_) => "drifted",
        Fault::Leaking(_) => "leaking",
        Fault::MissingLoad => "drawing nothing",
        Fault::Overdrawing(_) => "drawing too much",
        Fault::Risen(_) => "corroded",
    }
}

/// With the set off: each suspect by itself.
fn cold(feed: &Feed, even: &[(&Faulty, &Solved<'_>)]) -> String {
    let mut said: Vec<usize> = Vec::new();
    let mut each: Vec<String> = Vec::new();
    for ((part, fault), _) in even {
        if said.contains(part) || each.len() == 4 {
            continue;
        }
        said.push(*part);
        each.push(check(feed, (*part, *fault)));
    }
    let heat = heats(feed, even);
    format!("The volts cannot tell. Set off and discharged: {}{heat}", each.join(" "))
}

/// What a part shows once it is by itself.
fn check(feed: &Feed, (part, fault): Faulty) -> String {
    let p = &feed.parts[part];
    match fault {
        Fault::Leaking(_) => {
            let works = volts(feed.healthy().across(part).abs());
            format!("{} out of circuit at {works}, warm: does it leak?{}", p.name, beside(feed, part))
        }
        Fault::Short if p.element.kind() == FeedKind::Capacitor => {
            format!("ohms across {} with one end free: near zero?", p.name)
        }
        Fault::Short => format!("ohms of {} with one end free: near zero?", p.name),
        Fault::Open | Fault::Risen(_) if p.element.kind() == FeedKind::Contact => {
            format!("ohms from end to end of {}, moved and pressed: near zero and steady?", p.name)
        }
        Fault::Open | Fault::Risen(_) => format!("ohms of {} with one end free: open?", p.name),
        Fault::Drifted(_) => format!("ohms of {} with one end free: what it should have?", p.name),
        Fault::Overdrawing(_) => format!("{} pulled: do the volts come back?", p.name),
        Fault::MissingLoad => format!("{}: is it in its socket, does it glow, does it draw?", p.name),
    }
}

/// A load on the same node that draws too much looks the same.
fn beside(feed: &Feed, part: usize) -> String {
    let (a, b) = feed.ends[part];
    let load = (0..feed.parts.len()).find(|i| {
        let (c, d) = feed.ends[*i];
        let here = |e| matches!(e, super::End::Node(_)) && (e == a || e == b);
        feed.parts[*i].element.kind() == FeedKind::Load && (here(c) || here(d))
    });
    load.map_or_else(String::new, |i| {
        format!(" ({} drawing too much looks the same: pull it and read again)", feed.parts[i].name)
    })
}

/// Where one suspect heats a resistor and another does not, a hand near it or a smell already tells.
fn heats(feed: &Feed, even: &[(&Faulty, &Solved<'_>)]) -> String {
    let resistors = (0..feed.parts.len()).filter(|i| feed.parts[*i].element.kind() == FeedKind::Resistor);
    let watts = |s: &Solved<'_>, i: usize| (s.across(i) * s.through(i)).abs();
    for i in resistors {
        let each: Vec<f64> = even.iter().map(|(_, s)| watts(s, i)).collect();
        let (low, high) =
            (each.iter().copied().fold(f64::INFINITY, f64::min), each.iter().copied().fold(0.0, f64::max));
        let good = watts(&feed.healthy(), i);
        if high > 0.5 && high > 4.0 * low && high > 2.0 * good {
            let hot = even.iter().zip(&each).find(|(_, w)| **w == high);
            if let Some((((part, fault), _), w)) = hot {
                return format!(
                    " {} runs hot ({w:.1} W) only if {} is {}.",
                    feed.parts[i].name,
                    feed.parts[*part].name,
                    word(*fault)
                );
            }
        }
    }
    String::new()
}

/// A single best suspect is still proven by itself before it is condemned.
fn alone(feed: &Feed, faulty: Faulty) -> Option<String> {
    let asked = check(feed, faulty);
    let end = if asked.ends_with('?') { "" } else { "." };
    Some(format!("Set off and discharged: {asked}{end}"))
}
