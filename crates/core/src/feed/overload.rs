//! What a fault does to the resistors that feed it.

use super::solve::Solved;
use super::{Element, Feed};
use crate::quantity::Watt;

/// Without a rating, a resistor counts as overloaded from so many times what it dissipates in a good set: it was made
/// for at least twice (rule R7).
const WITHOUT_RATING: f64 = 2.0;
/// Below this, in watt, nothing gets hot (practice: the smallest size of its time).
const COOL: f64 = 0.1;

/// A resistor that carries more than it is made for.
#[derive(Debug, Clone, PartialEq)]
pub struct Overload {
    /// Its number in the feed.
    pub part: usize,
    /// What it dissipates.
    pub power: Watt,
    /// What it may, where that is known.
    pub rating: Option<Watt>,
    /// What it dissipates in a good set.
    pub healthy: Watt,
}

impl Overload {
    /// In words: how many times its rating it carries, or what it dissipates instead of what it should.
    #[must_use]
    pub fn says(&self, feed: &Feed) -> String {
        let name = &feed.parts[self.part].name;
        match self.rating {
            Some(r) => format!("{name} then carries {:.1} times its rating", self.power.watts() / r.watts()),
            None => format!("{name} then dissipates {} instead of {}", self.power, self.healthy),
        }
    }
}

/// The resistors that a state of the network overloads, the worst first; not those that are faulty themselves.
pub(super) fn overloads(feed: &Feed, solved: &Solved<'_>, faulty: &[usize]) -> Vec<Overload> {
    let good = feed.healthy();
    let mut all: Vec<Overload> = (0..feed.parts.len())
        .filter(|i| !faulty.contains(i) && matches!(feed.parts[*i].element, Element::Resistor(_)))
        .filter_map(|i| {
            let (power, healthy) = (solved.carries(i)?.2, good.carries(i)?.2);
            let rating = feed.parts[i].rating;
            let over = match rating {
                Some(r) => power > r,
                None => power.watts() > COOL && power.watts() > WITHOUT_RATING * healthy.watts(),
            };
            over.then_some(Overload { part: i, power, rating, healthy })
        })
        .collect();
    let times = |o: &Overload| o.power.watts() / o.rating.unwrap_or(o.healthy).watts().max(1e-9);
    all.sort_by(|a, b| times(b).total_cmp(&times(a)));
    all
}
