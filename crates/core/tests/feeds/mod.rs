//! Feeds for tests.
#![allow(clippy::unwrap_used, missing_docs)]

use owl_core::feed::{Element, Feed, FeedPart};
use owl_core::quantity::{Ampere, Farad, Ohm, Volt};

fn part(name: &str, a: &str, b: &str, element: Element) -> FeedPart {
    FeedPart { name: name.into(), element, a: a.into(), b: b.into(), tolerance: None, rating: None }
}

pub fn resistor(name: &str, a: &str, b: &str, ohms: f64) -> FeedPart {
    part(name, a, b, Element::Resistor(Ohm::new(ohms).unwrap()))
}

pub fn capacitor(name: &str, a: &str, b: &str) -> FeedPart {
    part(name, a, b, Element::Capacitor(Farad::new(1e-7).ok()))
}

pub fn load(name: &str, a: &str, b: &str, amperes: f64) -> FeedPart {
    part(name, a, b, Element::Current(Ampere::new(amperes).unwrap()))
}

pub fn feed(rail: f64, parts: Vec<FeedPart>) -> Feed {
    Feed::new(Volt::new(rail).unwrap(), "ground", parts).unwrap()
}

pub fn measured(read: &[(&str, f64)]) -> Vec<(String, Volt)> {
    read.iter().map(|(n, v)| ((*n).to_owned(), Volt::new(*v).unwrap())).collect()
}

pub fn volts(feed: &Feed, node: &str) -> f64 {
    feed.healthy().volts(node).unwrap().volts()
}
