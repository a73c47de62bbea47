//! The best networks so far, in order, no two alike.

use super::shape::Shape;
use super::{Found, Stock, Wanted, found};

/// A network by its parts' places in the stock.
#[derive(Debug, Clone, Copy)]
pub(super) struct Candidate {
    /// The absolute error in parts of a million million, so that the arithmetic's noise makes no difference.
    error: u64,
    parts: u8,
    shape: Shape,
    picks: [u16; 4],
}

impl Candidate {
    pub(super) fn new(error: f64, shape: Shape, picks: &[u16]) -> Self {
        let mut all = [0; 4];
        all[..picks.len()].copy_from_slice(picks);
        Self { error: (error.abs() * 1e12).round() as u64, parts: picks.len() as u8, shape, picks: all }
    }

    pub(super) fn picks(&self) -> &[u16] {
        &self.picks[..usize::from(self.parts)]
    }

    fn key(&self) -> (u64, u8, Shape, [u16; 4]) {
        (self.error, self.parts, self.shape, self.picks)
    }

    fn made_as(&self, other: &Self, stock: &[Stock]) -> bool {
        let value = |i: &u16| stock[usize::from(*i)].value;
        self.shape == other.shape
            && self.parts == other.parts
            && self.picks().iter().zip(other.picks()).all(|(a, b)| a == b || value(a) == value(b))
    }
}

/// A list of at most so many, the best first.
pub(super) struct Best {
    list: Vec<Candidate>,
    limit: usize,
    within: f64,
    reach: f64,
}

impl Best {
    pub(super) fn new(wanted: &Wanted) -> Self {
        let within = wanted.within.unwrap_or(f64::INFINITY);
        Self { list: Vec::with_capacity(wanted.limit + 1), limit: wanted.limit, within, reach: within }
    }

    /// The error beyond which a network is of no use: the worst of the best so far once there are enough of
    /// them, what was asked before.
    pub(super) fn reach(&self) -> f64 {
        self.reach
    }

    /// Whether a network would come into the list.
    pub(super) fn wants(&self, c: &Candidate) -> bool {
        self.list.len() < self.limit || self.list.last().is_some_and(|worst| c.key() < worst.key())
    }

    /// Whether the same network is in the list, be it of other pieces of the same value.
    pub(super) fn has(&self, c: &Candidate, stock: &[Stock]) -> bool {
        self.list.iter().any(|b| b.made_as(c, stock))
    }

    pub(super) fn put(&mut self, c: Candidate) {
        let at = self.list.partition_point(|b| b.key() < c.key());
        self.list.insert(at, c);
        self.list.truncate(self.limit);
        if self.list.len() == self.limit
            && let Some(worst) = self.list.last()
        {
            // One step of the rounding more, so that those that are as good are looked at too.
            self.reach = self.within.min((worst.error as f64 + 1.0) * 1e-12);
        }
    }

    pub(super) fn found(&self, wanted: &Wanted, stock: &[Stock]) -> Vec<Found> {
        self.list.iter().map(|c| found(wanted, stock, c.shape, c.picks())).collect()
    }
}
