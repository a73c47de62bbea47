//! A feed as a SPICE netlist, to be read by ngspice and others.
//!
//! SPICE knows elements by their first letter and ends a name at a blank: names are written anew, and the old ones stand
//! beside them in comments. A load is a constant current here, without the bottom that a starved valve has.

use std::fmt::Write as _;

use super::fault::SHORT;
use super::{Element, Feed, RAIL};
use crate::quantity::Farad;

/// A netlist and what its nodes are called in it.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Netlist {
    /// The whole file.
    pub text: String,
    nodes: Vec<(String, String)>,
}

impl Netlist {
    /// The name in the netlist of a node of the feed.
    #[must_use]
    pub fn node(&self, name: &str) -> Option<&str> {
        self.nodes.iter().find(|(n, _)| n == name).map(|(_, s)| s.as_str())
    }
}

/// A feed with all parts as they should be, an operating point asked for.
#[must_use]
pub fn netlist(feed: &Feed, title: &str) -> Netlist {
    let all: Vec<String> =
        feed.nodes.iter().cloned().chain(feed.others().map(|(n, _)| n.to_owned())).collect();
    let nodes: Vec<(String, String)> =
        all.iter().enumerate().map(|(i, n)| (n.clone(), unique(n, i, &all))).collect();
    let of = |name: &str| match nodes.iter().find(|(n, _)| n == name) {
        Some((_, s)) => s.as_str(),
        None if name == RAIL => RAIL,
        None => "0",
    };
    // Writing into a String cannot fail.
    let mut text = format!("* {}\n", one_line(title));
    let _ = writeln!(text, "Vrail rail 0 {}", feed.rail);
    for (i, (name, volts)) in feed.others().enumerate() {
        let _ = writeln!(text, "Vrail{} {} 0 {}", i + 2, of(name), volts.volts());
    }
    for (i, p) in feed.parts.iter().enumerate() {
        let (a, b) = (of(&p.a), of(&p.b));
        let name = format!("{}_{}", plain(&p.name), i + 1);
        let _ = match p.element {
            Element::Resistor(r) | Element::Resistance(r) => writeln!(text, "R{name} {a} {b} {}", r.ohms()),
            Element::Contact => writeln!(text, "R{name} {a} {b} {SHORT}"),
            Element::Current(i) => writeln!(text, "I{name} {a} {b} {}", i.amperes() * feed.rail.signum()),
            // Direct volts do not ask for its value.
            Element::Capacitor(c) => writeln!(text, "C{name} {a} {b} {}", c.map_or(1e-6, Farad::farads)),
        };
        let _ = writeln!(text, "* {} from {} to {}", one_line(&p.name), one_line(&p.a), one_line(&p.b));
    }
    text.push_str(".op\n.end\n");
    Netlist { text, nodes }
}

/// Letters and digits of a name, for SPICE.
fn plain(name: &str) -> String {
    name.chars()
        .map(|c| if c.is_ascii_alphanumeric() { c.to_ascii_lowercase() } else { '_' })
        .take(24)
        .collect()
}

fn unique(name: &str, at: usize, all: &[String]) -> String {
    let own = plain(name);
    let clash = all.iter().enumerate().any(|(i, n)| i != at && plain(n) == own);
    let starts = own.starts_with(|c: char| c.is_ascii_alphabetic());
    match clash || !starts || own == RAIL || own == "gnd" {
        true => format!("n{at}_{own}"),
        false => own,
    }
}

/// A comment ends at its line, whatever is in the name.
fn one_line(text: &str) -> String {
    text.chars().map(|c| if c.is_control() { ' ' } else { c }).collect()
}
