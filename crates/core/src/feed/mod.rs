//! Finding the guilty part in a direct-current feed (rule R10): a rail, what hangs on it, what was measured.
//!
//! The network is solved by nodal analysis with every part right, then with each single fault, ranked by how well it
//! explains the readings ([`search`]); two faults at once only where no single one does. Good parts are within their
//! tolerance, not exact, and a meter has an error: a fit is weighed by both ([`weigh`]).
//!
//! What this cannot know: rails are taken as stiff; a valve is a load of constant current that never pulls its node
//! below zero; an open capacitor shows nothing in direct voltages; a load that draws too much looks like a leak beside
//! it, and stands behind it.

pub mod error;
mod fault;
pub mod loads;
mod netlist;
pub mod overload;
mod says;
pub mod search;
pub mod sentence;
mod separate;
pub mod shown;
mod solve;
mod weigh;

pub use error::FeedError;
pub use fault::{Fault, FaultKind};
pub use netlist::{Netlist, netlist};
pub use says::says;
pub use solve::Solved;

use crate::named::named;
use crate::quantity::{Ampere, Farad, Fraction, Ohm, Volt, Watt};

named! {
    /// What hangs in a feed.
    "kind of part in a feed" FeedKind {
        /// Passes current.
        Resistor = "resistor",
        /// Passes none while it is good.
        Capacitor = "capacitor",
        /// A valve, a transistor, a bleeder: what the feed is for.
        Load = "load",
        /// A track, a wire, a joint, a switch's contact, a fuse, a diode the way it conducts: next to no resistance while it is
        /// good.
        Contact = "contact",
    }
}

/// What a part does to direct current.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Element {
    /// A resistor.
    Resistor(Ohm),
    /// A good capacitor passes nothing, whatever its value.
    Capacitor(Option<Farad>),
    /// Draws so much from `a` to `b` while there are volts for it.
    Current(Ampere),
    /// A load said as a resistance.
    Resistance(Ohm),
    /// A track, a wire, a joint, a switch's contact.
    Contact,
}

impl Element {
    /// Resistor, capacitor or load.
    #[must_use]
    pub fn kind(self) -> FeedKind {
        match self {
            Self::Resistor(_) => FeedKind::Resistor,
            Self::Capacitor(_) => FeedKind::Capacitor,
            Self::Current(_) | Self::Resistance(_) => FeedKind::Load,
            Self::Contact => FeedKind::Contact,
        }
    }
}

/// A part of a feed, with the nodes that it joins by name.
#[derive(Debug, Clone, PartialEq)]
pub struct FeedPart {
    /// What it is called.
    pub name: String,
    /// What it does.
    pub element: Element,
    /// One end.
    pub a: String,
    /// The other.
    pub b: String,
    /// How far a good one may be off; [`TOLERANCE`] where nothing is said.
    pub tolerance: Option<Fraction>,
    /// What a resistor may dissipate, where that is known.
    pub rating: Option<Watt>,
}

/// How far a part may be off of which nothing is said (practice: a silver band; a sheet's current is no better).
pub const TOLERANCE: f64 = 0.1;
/// The name of the node that is the source.
pub const RAIL: &str = "rail";
/// More parts than this are no feed, but a set.
pub const MOST_PARTS: usize = 200;

/// Whether a rail of the set feeds a branch by itself: something leaves from it, and nothing that is drawn leads to it, as
/// where it is made out of the branch's own rail. `ends` are the parts', from where to where.
///
/// ```
/// use owl_core::feed::feeds_by_itself;
/// let drawn = [("rail", "plate"), ("HT 2", "screen"), ("rail", "HT 3"), ("HT 3", "grid")];
/// assert!(feeds_by_itself("HT 2", drawn) && !feeds_by_itself("HT 3", drawn) && !feeds_by_itself("HT 4", drawn));
/// ```
#[must_use]
pub fn feeds_by_itself<'a>(rail: &str, ends: impl IntoIterator<Item = (&'a str, &'a str)>) -> bool {
    let mut leaves = false;
    for (from, to) in ends {
        if to == rail {
            return false;
        }
        leaves |= from == rail;
    }
    leaves
}

/// One end of a part.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum End {
    Ground,
    Rail,
    /// One of the other rails that reach into it.
    Other(usize),
    Node(usize),
}

/// A feed that can be solved.
#[derive(Debug, Clone, PartialEq)]
pub struct Feed {
    rail: f64,
    /// Other rails by their names.
    others: Vec<(String, f64)>,
    nodes: Vec<String>,
    parts: Vec<FeedPart>,
    ends: Vec<(End, End)>,
    /// What a resistor was read as with an end free; nothing of others.
    read: Vec<Option<Ohm>>,
}

impl Feed {
    /// A feed on a rail of so many volts against the node called `ground`.
    ///
    /// # Errors
    /// [`FeedError`] that names the part: no rail, two of one name, both ends on one node, nothing on the rail.
    pub fn new(rail: Volt, ground: &str, parts: Vec<FeedPart>) -> Result<Self, FeedError> {
        Self::on_rails(rail, &[], ground, parts)
    }

    /// A feed into which other rails reach as well: the nodes of those names have their volts, whatever is drawn.
    ///
    /// # Errors
    /// As [`Feed::new`].
    pub fn on_rails(
        rail: Volt,
        others: &[(String, Volt)],
        ground: &str,
        parts: Vec<FeedPart>,
    ) -> Result<Self, FeedError> {
        if rail.volts() == 0.0 {
            return Err(FeedError::NoRail);
        }
        if parts.is_empty() {
            return Err(FeedError::Empty);
        }
        if parts.len() > MOST_PARTS {
            return Err(FeedError::TooMany(parts.len()));
        }
        let mut nodes: Vec<String> = Vec::new();
        let mut end = |name: &str| match name {
            n if n == ground => End::Ground,
            RAIL => End::Rail,
            n if others.iter().any(|(o, _)| o == n) => {
                End::Other(others.iter().position(|(o, _)| o == n).unwrap_or(0))
            }
            n => End::Node(nodes.iter().position(|k| k == n).unwrap_or_else(|| {
                nodes.push(n.to_owned());
                nodes.len() - 1
            })),
        };
        let mut ends = Vec::with_capacity(parts.len());
        for (i, p) in parts.iter().enumerate() {
            if parts[..i].iter().any(|q| q.name == p.name) {
                return Err(FeedError::Twice { part: i, name: p.name.clone() });
            }
            if p.a == p.b {
                return Err(FeedError::Looped { part: i, name: p.name.clone() });
            }
            ends.push((end(&p.a), end(&p.b)));
        }
        if !ends.iter().any(|(a, b)| *a == End::Rail || *b == End::Rail) {
            return Err(FeedError::NothingOnRail);
        }
        let read = vec![None; parts.len()];
        let others = others.iter().map(|(n, v)| (n.clone(), v.volts())).collect();
        Ok(Self { rail: rail.volts(), others, nodes, parts, ends, read })
    }

    /// The same feed with its resistors as they were read with an end free: what was read is what it is, and no suspect. A
    /// capacitor stays one whatever it read: at work and warm it leaks more than at a meter (rule R3m).
    #[must_use]
    pub fn with_read(mut self, read: &[(String, Ohm)]) -> Self {
        for (part, own) in self.parts.iter().zip(&mut self.read) {
            let ohms = read.iter().find(|(n, r)| *n == part.name && *r > Ohm::ZERO).map(|(_, r)| *r);
            *own = ohms.filter(|_| part.element.kind() == FeedKind::Resistor);
        }
        self
    }

    /// The same feed with every part as it is drawn.
    #[must_use]
    pub fn as_drawn(&self) -> Self {
        Self { read: vec![None; self.parts.len()], ..self.clone() }
    }

    /// The resistors that were read outside their tolerance.
    #[must_use]
    pub fn read_off(&self) -> Vec<(usize, Ohm)> {
        let off = |part: &FeedPart, r: Ohm| match part.element {
            Element::Resistor(v) => {
                (r / v - 1.0).abs() > part.tolerance.map_or(TOLERANCE, Fraction::fraction)
            }
            Element::Capacitor(_) | Element::Current(_) | Element::Resistance(_) | Element::Contact => false,
        };
        let read = self.parts.iter().zip(&self.read).enumerate();
        read.filter_map(|(i, (part, r))| Some((i, (*r)?)).filter(|(_, r)| off(part, *r))).collect()
    }

    /// The same feed at another rail.
    ///
    /// # Errors
    /// [`FeedError::NoRail`] for none.
    pub fn at(&self, rail: Volt) -> Result<Self, FeedError> {
        self.as_measured(&[(RAIL.to_owned(), rail)])
    }

    /// The same feed with each of its rails as it was read, where it was.
    ///
    /// # Errors
    /// [`FeedError::NoRail`] where its own rail has none.
    pub fn as_measured(&self, measured: &[(String, Volt)]) -> Result<Self, FeedError> {
        let read = |name: &str| measured.iter().find(|(n, _)| n == name).map(|(_, v)| v.volts());
        let rail = read(RAIL).unwrap_or(self.rail);
        if rail == 0.0 {
            return Err(FeedError::NoRail);
        }
        let others = self.others.iter().map(|(n, v)| (n.clone(), read(n).unwrap_or(*v))).collect();
        Ok(Self { rail, others, ..self.clone() })
    }

    /// Whether a node is one of its rails.
    #[must_use]
    pub fn is_rail(&self, node: &str) -> bool {
        node == RAIL || self.others.iter().any(|(n, _)| n == node)
    }

    /// Its nodes but the rail and ground, in the order in which they were named.
    #[must_use]
    pub fn nodes(&self) -> &[String] {
        &self.nodes
    }

    /// Its parts.
    #[must_use]
    pub fn parts(&self) -> &[FeedPart] {
        &self.parts
    }

    /// The other rails that reach into it, with their volts.
    pub fn others(&self) -> impl Iterator<Item = (&str, Volt)> {
        self.others.iter().map(|(n, v)| (n.as_str(), Volt::computed(*v)))
    }

    /// The volts of its rail.
    #[must_use]
    pub fn rail(&self) -> Volt {
        Volt::computed(self.rail)
    }

    fn node(&self, name: &str) -> Option<usize> {
        self.nodes.iter().position(|n| n == name)
    }
}
