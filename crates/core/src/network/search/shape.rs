//! The seventeen ways in which one to four parts are joined.
//!
//! "Chain" is what adds: series for ohm, parallel for farad. "Bundle" is the other one. A network of
//! capacitors is the dual of one of resistors, so one search serves both.

use super::super::{Kind, Tree};

/// How the parts are joined. The first letters of each picture are the parts in the order of the picks; + is
/// a chain, | a bundle.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub enum Shape {
    /// a
    One,
    /// a + b …
    Chain,
    /// a | b …
    Bundle,
    /// (a | b) + c
    BundleAndOne,
    /// (a + b) | c
    ChainAndOne,
    /// (a | b) + c + d
    BundleAndTwo,
    /// (a + b) | c | d
    ChainAndTwo,
    /// (a | b | c) + d
    ThreeBundledAndOne,
    /// (a + b + c) | d
    ThreeChainedAndOne,
    /// (a | b) + (c | d)
    TwoBundles,
    /// (a + b) | (c + d)
    TwoChains,
    /// ((a + b) | c) + d
    LadderChained,
    /// ((a | b) + c) | d
    LadderBundled,
}

impl Shape {
    /// Parts that change places without a change of the network, in runs of so many.
    fn runs(self) -> &'static [usize] {
        match self {
            Self::One => &[1],
            Self::Chain | Self::Bundle => &[4],
            Self::BundleAndOne | Self::ChainAndOne => &[2, 1],
            Self::BundleAndTwo | Self::ChainAndTwo | Self::TwoBundles | Self::TwoChains => &[2, 2],
            Self::ThreeBundledAndOne | Self::ThreeChainedAndOne => &[3, 1],
            Self::LadderChained | Self::LadderBundled => &[2, 1, 1],
        }
    }

    /// Puts the picks in the one order in which this network is written: in each run the greatest first.
    pub(super) fn settle(self, picks: &mut [u16], value: impl Fn(u16) -> f64) {
        let mut rest = &mut *picks;
        for run in self.runs() {
            let (head, tail) = rest.split_at_mut((*run).min(rest.len()));
            head.sort_by(|a, b| value(*b).total_cmp(&value(*a)).then(a.cmp(b)));
            rest = tail;
        }
        if matches!(self, Self::TwoBundles | Self::TwoChains)
            && let [a, b, c, d] = picks
            && (value(*a), value(*b)) < (value(*c), value(*d))
        {
            std::mem::swap(a, c);
            std::mem::swap(b, d);
        }
    }

    /// The network as a tree, and the picks in the order in which the tree has its parts: single parts
    /// before groups.
    pub(super) fn tree(self, kind: Kind, picks: &[u16], value: impl Fn(u16) -> f64) -> (Tree, Vec<u16>) {
        let leaf = |i: &u16| Tree::Part(value(*i));
        let leaves = |of: &[u16]| of.iter().map(leaf).collect::<Vec<_>>();
        let chain = |parts| match kind {
            Kind::Resistor => Tree::Series(parts),
            Kind::Capacitor => Tree::Parallel(parts),
        };
        let bundle = |parts| match kind {
            Kind::Resistor => Tree::Parallel(parts),
            Kind::Capacitor => Tree::Series(parts),
        };
        let order = |of: &[usize]| of.iter().filter_map(|i| picks.get(*i).copied()).collect::<Vec<_>>();
        match (self, picks) {
            (Self::Bundle, _) => (bundle(leaves(picks)), picks.to_vec()),
            (Self::BundleAndOne, [a, b, c]) => {
                (chain(vec![leaf(c), bundle(vec![leaf(a), leaf(b)])]), order(&[2, 0, 1]))
            }
            (Self::ChainAndOne, [a, b, c]) => {
                (bundle(vec![leaf(c), chain(vec![leaf(a), leaf(b)])]), order(&[2, 0, 1]))
            }
            (Self::BundleAndTwo, [a, b, c, d]) => {
                (chain(vec![leaf(c), leaf(d), bundle(vec![leaf(a), leaf(b)])]), order(&[2, 3, 0, 1]))
            }
            (Self::ChainAndTwo, [a, b, c, d]) => {
                (bundle(vec![leaf(c), leaf(d), chain(vec![leaf(a), leaf(b)])]), order(&[2, 3, 0, 1]))
            }
            (Self::ThreeBundledAndOne, [a, b, c, d]) => {
                (chain(vec![leaf(d), bundle(leaves(&[*a, *b, *c]))]), order(&[3, 0, 1, 2]))
            }
            (Self::ThreeChainedAndOne, [a, b, c, d]) => {
                (bundle(vec![leaf(d), chain(leaves(&[*a, *b, *c]))]), order(&[3, 0, 1, 2]))
            }
            (Self::TwoBundles, [a, b, c, d]) => {
                (chain(vec![bundle(leaves(&[*a, *b])), bundle(leaves(&[*c, *d]))]), picks.to_vec())
            }
            (Self::TwoChains, [a, b, c, d]) => {
                (bundle(vec![chain(leaves(&[*a, *b])), chain(leaves(&[*c, *d]))]), picks.to_vec())
            }
            (Self::LadderChained, [a, b, c, d]) => {
                (chain(vec![leaf(d), bundle(vec![leaf(c), chain(leaves(&[*a, *b]))])]), order(&[3, 2, 0, 1]))
            }
            (Self::LadderBundled, [a, b, c, d]) => {
                (bundle(vec![leaf(d), chain(vec![leaf(c), bundle(leaves(&[*a, *b]))])]), order(&[3, 2, 0, 1]))
            }
            (_, [a]) => (leaf(a), picks.to_vec()),
            _ => (chain(leaves(picks)), picks.to_vec()),
        }
    }
}
