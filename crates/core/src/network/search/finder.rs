//! Walks through the networks that can be near enough.

use std::ops::ControlFlow;

use super::best::{Best, Candidate};
use super::load::Load;
use super::pairs::{Pair, Pairs, beside, bundle, seek};
use super::shape::Shape;
use super::{GoOn, Stock, Wanted, found};

/// Steps between two questions whether to go on.
const STEPS: u32 = 4096;

pub(super) struct Finder<'a> {
    wanted: &'a Wanted,
    stock: &'a [Stock],
    values: Vec<f64>,
    counted: bool,
    load: Option<Load<'a>>,
    pub(super) best: Best,
    steps: u32,
    go_on: &'a mut GoOn<'a>,
}

/// The pairs and single parts that are joined to a whole that is a chain, and to one that is a bundle: where a
/// load is known, what would burn there is left out beforehand.
#[derive(Clone)]
struct Lists {
    all: Pairs,
    kept: Option<(Pairs, Pairs)>,
    chained_single: Vec<u16>,
    bundled_single: Vec<u16>,
}

impl Lists {
    fn chained(&self) -> &Pairs {
        self.kept.as_ref().map_or(&self.all, |k| &k.0)
    }

    fn bundled(&self) -> &Pairs {
        self.kept.as_ref().map_or(&self.all, |k| &k.1)
    }
}

impl<'a> Finder<'a> {
    pub(super) fn new(wanted: &'a Wanted, stock: &'a [Stock], rated: bool, go_on: &'a mut GoOn<'a>) -> Self {
        Self {
            values: stock.iter().map(|s| s.value).collect(),
            counted: stock.iter().any(|s| s.count.is_some()) || wanted.pinned.is_some(),
            load: rated.then(|| Load::new(wanted, stock)),
            best: Best::new(wanted),
            steps: 0,
            wanted,
            stock,
            go_on,
        }
    }

    /// Looks at everything; breaks off where it is told to.
    pub(super) fn run(&mut self) -> ControlFlow<()> {
        let singles: Vec<u16> = match self.wanted.pinned {
            Some(p) => vec![p as u16],
            None => self.by_value(),
        };
        for &i in &singles {
            self.consider(self.values[usize::from(i)], Shape::One, &[i]);
        }
        if self.wanted.max_parts == 1 {
            return ControlFlow::Continue(());
        }
        let all = self.lists(None);
        let Some(pinned) = self.wanted.pinned else {
            self.two(&all)?;
            if self.wanted.max_parts >= 3 {
                self.three(&all, &all)?;
            }
            if self.wanted.max_parts >= 4 {
                self.two_pairs(&all, &all)?;
                self.pair_and_two(&all, &self.by_value(), &self.by_value())?;
            }
            return ControlFlow::Continue(());
        };
        // One of the places holds the pinned part; the others hold anything.
        let with = self.lists(Some(pinned as u16));
        let one = [pinned as u16];
        let any = self.by_value();
        self.two(&with)?;
        if self.wanted.max_parts >= 3 {
            let alone = Lists { chained_single: one.to_vec(), bundled_single: one.to_vec(), ..all.clone() };
            self.three(&with, &with)?;
            self.three(&alone, &alone)?;
        }
        if self.wanted.max_parts >= 4 {
            self.two_pairs(&with, &all)?;
            self.two_pairs(&all, &with)?;
            self.pair_and_two(&with, &any, &any)?;
            self.pair_and_two(&all, &one, &any)?;
            self.pair_and_two(&all, &any, &one)?;
        }
        ControlFlow::Continue(())
    }

    /// All places in the stock, the least value first.
    fn by_value(&self) -> Vec<u16> {
        let mut all: Vec<u16> = (0..self.values.len() as u16).collect();
        all.sort_by(|a, b| self.value(*a).total_cmp(&self.value(*b)));
        all
    }

    fn lists(&self, first: Option<u16>) -> Lists {
        // Of two alone only those that are near enough are of use; of more, every pair is a part of something.
        let (target, reach) = (self.wanted.target, self.best.reach());
        let of_use = match self.wanted.max_parts {
            2 => target * (1.0 - reach)..=target * (1.0 + reach),
            _ => 0.0..=f64::INFINITY,
        };
        let pairs = Pairs::new(&self.values, first, &of_use, |a, b| self.enough(&[a, b]));
        let singles = self.by_value();
        let Some(load) = self.load else {
            return Lists {
                all: pairs,
                kept: None,
                chained_single: singles.clone(),
                bundled_single: singles,
            };
        };
        let value = |i: u16| self.value(i);
        let (flow, effort) = (load.least_flow(), load.least_effort());
        let both = |p: &Pair, flow_of: &dyn Fn(u16) -> f64| {
            load.stands(p.a, flow_of(p.a)) && load.stands(p.b, flow_of(p.b))
        };
        let chained = pairs.only(
            |p| flow.is_none_or(|f| both(p, &|_| f)),
            |p| flow.is_none_or(|f| both(p, &|i| f * p.value / value(i))),
        );
        let bundled = pairs.only(
            |p| effort.is_none_or(|e| both(p, &|_| e / p.value)),
            |p| effort.is_none_or(|e| both(p, &|i| e / value(i))),
        );
        let chained_single =
            singles.iter().copied().filter(|i| flow.is_none_or(|f| load.stands(*i, f))).collect();
        let bundled_single =
            singles.into_iter().filter(|i| effort.is_none_or(|e| load.stands(*i, e / value(*i)))).collect();
        Lists { all: pairs, kept: Some((chained, bundled)), chained_single, bundled_single }
    }

    fn value(&self, i: u16) -> f64 {
        self.values[usize::from(i)]
    }

    /// Whether there are enough of each.
    fn enough(&self, picks: &[u16]) -> bool {
        !self.counted
            || picks.iter().all(|i| {
                let needed = picks.iter().filter(|j| *j == i).count() as u32;
                let there = if self.wanted.pinned == Some(usize::from(*i)) {
                    Some(1)
                } else {
                    self.stock[usize::from(*i)].count
                };
                there.is_none_or(|c| c >= needed)
            })
    }

    /// Takes a network that is better than the worst of the best, if there are enough of its parts and none
    /// is overloaded. Says whether it was one that counts.
    fn consider(&mut self, value: f64, shape: Shape, picks: &[u16]) -> bool {
        let error = value / self.wanted.target - 1.0;
        if error.abs() > self.best.reach() {
            return false;
        }
        let mut settled = [0; 4];
        let settled = &mut settled[..picks.len()];
        settled.copy_from_slice(picks);
        shape.settle(settled, |i| self.values[usize::from(i)]);
        let candidate = Candidate::new(error, shape, settled);
        if !self.best.wants(&candidate) || !self.enough(picks) {
            return false;
        }
        if self.best.has(&candidate, self.stock) {
            return true;
        }
        if let Some(load) = self.load {
            let whole = found(self.wanted, self.stock, shape, candidate.picks());
            let stands = whole
                .shares
                .iter()
                .zip(&whole.picks)
                .all(|(s, i)| s.volts.is_none_or(|v| load.within_rating(*i as u16, v, s.watts)));
            if !stands {
                return false;
            }
        }
        self.best.put(candidate);
        true
    }

    /// Counts a step; asks every so often whether to go on.
    fn step(&mut self) -> ControlFlow<()> {
        self.steps += 1;
        if self.steps.is_multiple_of(STEPS) {
            let (best, wanted, stock) = (&self.best, self.wanted, self.stock);
            return (self.go_on)(&|| best.found(wanted, stock));
        }
        ControlFlow::Continue(())
    }

    /// The pairs next to `at` in a sorted list, outwards on both sides, until on each side either as many as
    /// are wanted were taken or the error passes what is still of use. `whole` gives the value of the network
    /// from the value of the pair; it rises with it, so nothing beyond can be nearer. Returns the place.
    fn walk(
        &mut self,
        sorted: &[Pair],
        at: f64,
        hint: usize,
        shape: Shape,
        whole: impl Fn(f64) -> f64,
        picks: impl Fn(&Pair) -> ([u16; 4], usize),
    ) -> ControlFlow<(), usize> {
        let middle = seek(sorted, at, hint);
        let target = self.wanted.target;
        for upwards in [true, false] {
            let (mut i, mut taken) = (middle, 0);
            while taken < self.wanted.limit && if upwards { i < sorted.len() } else { i > 0 } {
                let pair = if upwards { &sorted[i] } else { &sorted[i - 1] };
                let value = whole(pair.value);
                if (value / target - 1.0).abs() > self.best.reach() {
                    break;
                }
                // Values of a like error can go on for as long as the list: each is a step.
                self.step()?;
                let (all, n) = picks(pair);
                taken += usize::from(self.consider(value, shape, &all[..n]));
                i = if upwards { i + 1 } else { i - 1 };
            }
        }
        ControlFlow::Continue(middle)
    }

    fn two(&mut self, lists: &Lists) -> ControlFlow<()> {
        let target = self.wanted.target;
        let two = |p: &Pair| ([p.a, p.b, 0, 0], 2);
        // A pair is the whole: the chain of a whole that is a chain.
        self.walk(&lists.chained().chains, target, 0, Shape::Chain, |v| v, two)?;
        self.walk(&lists.bundled().bundles, target, 0, Shape::Bundle, |v| v, two)?;
        ControlFlow::Continue(())
    }

    /// A pair and a single part.
    fn three(&mut self, pairs: &Lists, singles: &Lists) -> ControlFlow<()> {
        let target = self.wanted.target;
        let mut hint = [0; 4];
        for &c in &singles.chained_single {
            self.step()?;
            let x = self.value(c);
            let three = |p: &Pair| ([p.a, p.b, c, 0], 3);
            let (list, rest) = (pairs.chained(), target - x);
            hint[0] = self.walk(&list.chains, rest, hint[0], Shape::Chain, |v| v + x, three)?;
            hint[1] = self.walk(&list.bundles, rest, hint[1], Shape::BundleAndOne, |v| v + x, three)?;
        }
        for &c in &singles.bundled_single {
            self.step()?;
            let x = self.value(c);
            let three = |p: &Pair| ([p.a, p.b, c, 0], 3);
            let (list, rest) = (pairs.bundled(), beside(target, x));
            hint[2] = self.walk(&list.bundles, rest, hint[2], Shape::Bundle, |v| bundle(v, x), three)?;
            hint[3] = self.walk(&list.chains, rest, hint[3], Shape::ChainAndOne, |v| bundle(v, x), three)?;
        }
        ControlFlow::Continue(())
    }

    /// Two pairs, joined either way.
    fn two_pairs(&mut self, one: &Lists, other: &Lists) -> ControlFlow<()> {
        let target = self.wanted.target;
        let chained = [
            (&one.chained().chains, &other.chained().chains, Shape::Chain),
            (&one.chained().bundles, &other.chained().bundles, Shape::TwoBundles),
            (&one.chained().bundles, &other.chained().chains, Shape::BundleAndTwo),
        ];
        for (outer, inner, shape) in chained {
            let Some(least) = inner.first().map(|p| p.value) else { continue };
            let mut hint = inner.len();
            for p in outer {
                self.step()?;
                // The outer ones only grow: with the least inner one this is past what is of use; and of two
                // from the same list one is no more than half.
                let most = target * (1.0 + self.best.reach());
                if p.value + least > most || (std::ptr::eq(outer, inner) && 2.0 * p.value > most) {
                    break;
                }
                let x = p.value;
                let four = |q: &Pair| ([p.a, p.b, q.a, q.b], 4);
                hint = self.walk(inner, target - x, hint, shape, |v| v + x, four)?;
            }
        }
        let bundled = [
            (&one.bundled().bundles, &other.bundled().bundles, Shape::Bundle),
            (&one.bundled().chains, &other.bundled().chains, Shape::TwoChains),
            (&one.bundled().chains, &other.bundled().bundles, Shape::ChainAndTwo),
        ];
        for (outer, inner, shape) in bundled {
            let Some(most) = inner.last().map(|p| p.value) else { continue };
            let mut hint = 0;
            for p in outer.iter().rev() {
                self.step()?;
                let least = target * (1.0 - self.best.reach());
                if bundle(p.value, most) < least || (std::ptr::eq(outer, inner) && p.value < 2.0 * least) {
                    break;
                }
                let x = p.value;
                let four = |q: &Pair| ([p.a, p.b, q.a, q.b], 4);
                hint = self.walk(inner, beside(target, x), hint, shape, |v| bundle(v, x), four)?;
            }
        }
        ControlFlow::Continue(())
    }

    /// A pair joined with `c`, and that joined the other way with `d`; also three joined alike and one.
    fn pair_and_two(&mut self, pairs: &Lists, c: &[u16], d: &[u16]) -> ControlFlow<()> {
        let target = self.wanted.target;
        // Inside a whole of one kind the pair sits deeper, where what it carries is not known beforehand:
        // all pairs are looked at, and each network is weighed when it is found.
        let (chains, bundles) = (&pairs.all.chains, &pairs.all.bundles);
        for &d in d {
            let x = self.value(d);
            let rest = target - x;
            let reach = self.best.reach();
            if self.load.is_some_and(|l| l.least_flow().is_some_and(|f| !l.stands(d, f))) {
                continue;
            }
            if x > target * (1.0 + reach) {
                continue;
            }
            let mut hint = [chains.len(), bundles.len()];
            for &c in c {
                self.step()?;
                let y = self.value(c);
                // Bundled with c, no pair makes more than c.
                if y + x < target * (1.0 - self.best.reach()) {
                    continue;
                }
                let four = |p: &Pair| ([p.a, p.b, c, d], 4);
                let at = if rest > 0.0 { beside(rest, y) } else { 0.0 };
                hint[0] = self.walk(chains, at, hint[0], Shape::LadderChained, |v| bundle(v, y) + x, four)?;
                hint[1] =
                    self.walk(bundles, at, hint[1], Shape::ThreeBundledAndOne, |v| bundle(v, y) + x, four)?;
            }
        }
        for &d in d {
            let x = self.value(d);
            let rest = beside(target, x);
            if self.load.is_some_and(|l| l.least_effort().is_some_and(|e| !l.stands(d, e / x))) {
                continue;
            }
            if x < target * (1.0 - self.best.reach()) {
                continue;
            }
            let mut hint = [chains.len(), bundles.len()];
            for &c in c {
                self.step()?;
                let y = self.value(c);
                // Chained with c, no pair makes less than c.
                if bundle(y, x) > target * (1.0 + self.best.reach()) {
                    continue;
                }
                let four = |p: &Pair| ([p.a, p.b, c, d], 4);
                let whole = |v: f64| bundle(v + y, x);
                hint[0] = self.walk(bundles, rest - y, hint[0], Shape::LadderBundled, whole, four)?;
                hint[1] = self.walk(chains, rest - y, hint[1], Shape::ThreeChainedAndOne, whole, four)?;
            }
        }
        ControlFlow::Continue(())
    }
}
