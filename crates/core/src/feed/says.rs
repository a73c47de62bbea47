//! The findings in a sentence or two, as one would say them across the bench.

use super::search::{Findings, Suspect};
use super::{Element, Feed};

/// In plain words: what explains the readings, what it overloads, what to do next.
#[must_use]
pub fn says(feed: &Feed, found: &Findings, readings: usize) -> String {
    let off = read_off(feed);
    if found.agrees && !off.is_empty() {
        return format!("{off}: with that these readings are explained, and nobody else is suspected.");
    }
    if found.agrees {
        return "Good parts within their tolerance explain these readings: nobody is suspected.".to_owned();
    }
    let lead = if off.is_empty() { String::new() } else { format!("{off}, and that is not all. ") };
    let all = match readings {
        1 => "the reading".to_owned(),
        2 => "both readings".to_owned(),
        n => format!("all {n} readings"),
    };
    let best = found.suspects.first().filter(|s| s.explains.fraction() >= EXPLAINS);
    let mut text = lead;
    text.push_str(&match best {
        Some(best) => single(feed, found, best, &all),
        None => double(feed, found, readings),
    });
    if let Some(by) = &found.separate_by {
        text.push(' ');
        text.push_str(by);
    }
    text
}

/// The resistors that were read and are off, in words: `R9 reads 5.2 kΩ for 3.3 kΩ`.
fn read_off(feed: &Feed) -> String {
    let each = feed.read_off().into_iter().filter_map(|(i, r)| {
        let part = feed.parts.get(i)?;
        match part.element {
            Element::Resistor(v) => Some(format!("{} reads {r} for {v}", part.name)),
            _ => None,
        }
    });
    each.collect::<Vec<_>>().join(", ")
}

/// From this fit on a fault is said to explain the readings.
const EXPLAINS: f64 = 0.1;

fn single(feed: &Feed, found: &Findings, best: &Suspect, all: &str) -> String {
    let even: Vec<&Suspect> =
        found.suspects.iter().take_while(|s| s.explains == best.explains).take(MOST_NAMED).collect();
    let named: Vec<String> = even.iter().map(|s| said(feed, s)).collect();
    let mut text = match named.as_slice() {
        [one] => format!("{one} explains {all}."),
        several => format!("{} explain {all} equally well.", several.join(", or ")),
    };
    let over = even.iter().find_map(|s| s.overloads.first().map(|o| (*s, o)));
    if let Some((suspect, over)) = over {
        let cause = if even.len() > 1 {
            format!(" if it is {}", feed.parts[suspect.part].name)
        } else {
            String::new()
        };
        text.push_str(&format!(" {}{cause}.", over.says(feed)));
    }
    text
}

/// More suspects than this in a sentence are no help.
const MOST_NAMED: usize = 3;

fn said(feed: &Feed, s: &Suspect) -> String {
    s.says(feed)
}

fn double(feed: &Feed, found: &Findings, readings: usize) -> String {
    let Some(best) = found.doubles.first() else {
        let more = if readings < 3 { "; read more nodes" } else { ": is the feed drawn as it is wired?" };
        return format!("No single fault explains these readings{more}.");
    };
    let each: Vec<String> = best
        .faults
        .iter()
        .map(|(i, f)| format!("{} {}", feed.parts[*i].name, f.says(feed.parts[*i].element)))
        .collect();
    format!("No single fault explains these readings; {} together do.", each.join(" and "))
}
