//! Nodal analysis: G·V = I, solved for every node at once.
//!
//! A load of constant current that would pull its node below the other end has not got the volts: it becomes a small
//! resistance, and the network is solved again. A node that nothing leads to reads 0 V, as a meter there would.

use nalgebra::{DMatrix, DVector};

use super::fault::{Faulty, SHORT};
use super::{Element, End, Feed};
use crate::quantity::{Ampere, Volt, Watt};

/// From every node to ground, in siemens: a meter finds 0 V at a node that nothing feeds.
const NOTHING: f64 = 1e-12;
/// A load is starved below this share of the rail.
const STARVED: f64 = 1e-6;

/// A feed with its volts.
#[derive(Debug, Clone)]
pub struct Solved<'a> {
    pub(super) feed: &'a Feed,
    /// Volts of the nodes.
    pub(super) volts: DVector<f64>,
    /// Ohms from each node to each: the inverse of the conductances.
    pub(super) ohms: DMatrix<f64>,
    /// Conductance of each part as solved.
    pub(super) siemens: Vec<f64>,
    /// Current that each part draws whatever its volts.
    pub(super) draws: Vec<f64>,
}

impl Feed {
    /// Every node's volts with all parts as they should be.
    #[must_use]
    pub fn healthy(&self) -> Solved<'_> {
        self.solve(&[])
    }

    /// Every node's volts with faults.
    pub(super) fn solve(&self, faults: &[Faulty]) -> Solved<'_> {
        let count = self.parts.len();
        let mut starved = vec![false; count];
        loop {
            let solved = self.once(faults, &starved);
            let more: Vec<usize> = (0..count)
                .filter(|i| !starved[*i] && solved.draws[*i] != 0.0)
                .filter(|i| solved.across(*i) * self.rail.signum() < 0.0)
                .collect();
            if more.is_empty() {
                return solved;
            }
            more.into_iter().for_each(|i| starved[i] = true);
        }
    }

    fn once(&self, faults: &[Faulty], starved: &[bool]) -> Solved<'_> {
        let (count, n) = (self.parts.len(), self.nodes.len());
        let (mut siemens, mut draws) = (vec![0.0; count], vec![0.0; count]);
        for (i, p) in self.parts.iter().enumerate() {
            if let Some(r) = self.read[i] {
                siemens[i] = 1.0 / r.ohms();
                continue;
            }
            match p.element {
                Element::Resistor(r) | Element::Resistance(r) => siemens[i] = 1.0 / r.ohms(),
                Element::Contact => siemens[i] = 1.0 / SHORT,
                Element::Capacitor(_) => {}
                Element::Current(a) if starved[i] => {
                    siemens[i] = a.amperes().abs() / (STARVED * self.rail.abs());
                }
                // From a negative rail a load draws the other way.
                Element::Current(a) => draws[i] = a.amperes() * self.rail.signum(),
            }
        }
        for (i, fault) in faults {
            siemens[*i] = fault.conductance(self.parts[*i].element);
            draws[*i] = 0.0;
        }
        let mut g = DMatrix::from_diagonal_element(n, n, NOTHING);
        let mut known = DVector::zeros(n);
        for (i, (a, b)) in self.ends.iter().enumerate() {
            for (here, there, sign) in [(*a, *b, 1.0), (*b, *a, -1.0)] {
                let End::Node(k) = here else { continue };
                g[(k, k)] += siemens[i];
                known[k] -= sign * draws[i];
                match there {
                    End::Node(other) => g[(k, other)] -= siemens[i],
                    End::Rail => known[k] += siemens[i] * self.rail,
                    End::Other(r) => known[k] += siemens[i] * self.others[r].1,
                    End::Ground => {}
                }
            }
        }
        // Every node has at least NOTHING to ground, so that there always is an inverse.
        let ohms = g.try_inverse().unwrap_or_else(|| DMatrix::zeros(n, n));
        let volts = &ohms * known;
        Solved { feed: self, volts, ohms, siemens, draws }
    }
}

impl Solved<'_> {
    pub(super) fn at(&self, end: End) -> f64 {
        match end {
            End::Ground => 0.0,
            End::Rail => self.feed.rail,
            End::Other(r) => self.feed.others[r].1,
            End::Node(n) => self.volts[n],
        }
    }

    /// Volts from `a` to `b` of a part.
    pub(super) fn across(&self, part: usize) -> f64 {
        let (a, b) = self.feed.ends[part];
        self.at(a) - self.at(b)
    }

    /// Amperes from `a` to `b` of a part.
    pub(super) fn through(&self, part: usize) -> f64 {
        self.siemens[part] * self.across(part) + self.draws[part]
    }

    /// How the nodes answer an ampere that flows from `a` to `b` outside of the network, in ohm.
    pub(super) fn answer(&self, part: usize) -> DVector<f64> {
        let column = |end: End| match end {
            End::Node(n) => Some(self.ohms.column(n)),
            End::Rail | End::Other(_) | End::Ground => None,
        };
        let (a, b) = self.feed.ends[part];
        let mut u = DVector::zeros(self.volts.len());
        if let Some(c) = column(a) {
            u += c;
        }
        if let Some(c) = column(b) {
            u -= c;
        }
        u
    }

    /// The resistance that a part sees between its ends, itself included, in ohm.
    pub(super) fn seen_by(&self, part: usize) -> f64 {
        let all = self.answer(part);
        let end = |e: End| if let End::Node(n) = e { all[n] } else { 0.0 };
        let (a, b) = self.feed.ends[part];
        end(a) - end(b)
    }

    /// The conductance of a part that carries so many amperes more than now, in siemens.
    pub(super) fn with_current(&self, part: usize, amperes: f64) -> f64 {
        self.siemens[part] + amperes / (self.across(part) - self.seen_by(part) * amperes)
    }

    /// The volts of a node, rail and ground among them; `None` for one that is not there.
    #[must_use]
    pub fn volts(&self, node: &str) -> Option<Volt> {
        if node == super::RAIL {
            return Some(self.feed.rail());
        }
        if let Some((_, v)) = self.feed.others().find(|(n, _)| *n == node) {
            return Some(v);
        }
        self.feed.node(node).map(|n| self.volts[n]).filter(|v| v.is_finite()).map(Volt::computed)
    }

    /// What a part carries: volts across it, amperes through it from its first end to its second, watts in it.
    #[must_use]
    pub fn carries(&self, part: usize) -> Option<(Volt, Ampere, Watt)> {
        if part >= self.feed.parts.len() {
            return None;
        }
        let (v, i) = (self.across(part), self.through(part));
        // A network so extreme that rounding ate it says nothing.
        (v * i).is_finite().then(|| (Volt::computed(v), Ampere::computed(i), Watt::computed((v * i).abs())))
    }
}
