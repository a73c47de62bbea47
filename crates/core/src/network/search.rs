//! The networks of one to three parts nearest to a target: all topologies, exact.
//!
//! One part; two in series or in parallel; three in series, three in parallel, a pair in parallel
//! with one in series, a pair in series with one in parallel. For three parts the pairs are sorted
//! once, and for each third part the pair that is missing is looked up by bisection, walking
//! outwards until enough are found: nothing is left out, and E192 over seven decades stays fast.

use super::share::{Drive, Share, shares};
use super::{Kind, Tree};
use crate::quantity::{Volt, Watt};

/// The most values that a search of three parts takes.
pub const MOST_VALUES: usize = 1400;
/// The most networks that are returned.
pub const MOST_RESULTS: usize = 100;

/// How far from the target a network may be when ratings rule many out and nothing else is said.
pub const WITHIN_WITH_RATING: f64 = 0.25;

/// One value that may be used.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Stock {
    /// In ohm or farad; above zero.
    pub value: f64,
    /// How many there are; `None` for as many as needed.
    pub count: Option<u32>,
}

/// What is wanted of the whole and of each part.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Wanted {
    /// What it is made of.
    pub kind: Kind,
    /// In ohm or farad.
    pub target: f64,
    /// The greatest error that is of use, as a fraction of the target; with a rating and without
    /// this, [`WITHIN_WITH_RATING`].
    pub within: Option<f64>,
    /// One to three.
    pub max_parts: usize,
    /// What the whole is driven by.
    pub drive: Option<Drive>,
    /// The most that each part may carry: networks that ask more are left out.
    pub power: Option<Watt>,
    /// The most volts across each part.
    pub voltage: Option<Volt>,
    /// How many networks to return, up to [`MOST_RESULTS`].
    pub limit: usize,
}

/// A network that was found.
#[derive(Debug, Clone, PartialEq)]
pub struct Found {
    /// The network.
    pub tree: Tree,
    /// Its value, in ohm or farad.
    pub value: f64,
    /// How far it is from the target, as a fraction of the target, with its sign.
    pub error: f64,
    /// What each part carries.
    pub shares: Vec<Share>,
}

/// The result of a search.
#[derive(Debug, Clone, PartialEq)]
pub struct Search {
    /// Least absolute error first; of equal ones the fewest parts.
    pub networks: Vec<Found>,
    /// How many networks there are to choose from, weighed one by one or ruled out by order.
    pub searched: u64,
}

/// Why there is nothing to search.
#[derive(Debug, Clone, Copy, PartialEq, thiserror::Error)]
pub enum SearchError {
    /// A target that is zero, negative or not a number.
    #[error("a target above zero is needed")]
    Target,
    /// A number of parts that is not supported.
    #[error("networks of 1 to 3 parts can be searched, not of {0}")]
    Parts(usize),
    /// No value to build from.
    #[error("there is no value to build from in that range")]
    NoValues,
    /// A value that is zero, negative or not a number.
    #[error("every value must be above zero")]
    Value,
    /// Too many values.
    #[error("{0} values are more than the {MOST_VALUES} that can be searched; narrow the range")]
    TooMany(usize),
    /// An error limit that is not above zero.
    #[error("'within' must be above zero")]
    Within,
    /// A limit of results out of bounds.
    #[error("1 to {MOST_RESULTS} networks can be listed, not {0}")]
    Limit(usize),
    /// Ratings without a load to compare them with.
    #[error("a rating needs a load to compare it with: say the voltage across or the current through")]
    RatingWithoutLoad,
}

/// Searches for networks.
///
/// # Errors
/// [`SearchError`] when the question makes no sense; an empty answer is no error.
pub fn search(wanted: &Wanted, stock: &[Stock]) -> Result<Search, SearchError> {
    check(wanted, stock)?;
    let rated = wanted.power.is_some() || wanted.voltage.is_some();
    let within = wanted.within.or(rated.then_some(WITHIN_WITH_RATING));
    let wanted = &Wanted { within, ..*wanted };
    // A chain adds where the unit adds: ohm in series, farad in parallel. The other arrangement
    // is its dual, so one search serves both kinds.
    let mut finder = Finder { wanted, stock, found: Vec::new(), searched: 0 };
    let indices: Vec<usize> = (0..stock.len()).collect();
    for &i in &indices {
        finder.searched += 1;
        finder.consider(&[i], Shape::One);
    }
    finder.keep_best();
    if wanted.max_parts >= 2 {
        let pairs = finder.pairs();
        finder.twos(&pairs);
        if wanted.max_parts >= 3 {
            finder.threes(&pairs);
        }
    }
    finder.keep_best();
    Ok(Search { networks: finder.found, searched: finder.searched })
}

fn check(wanted: &Wanted, stock: &[Stock]) -> Result<(), SearchError> {
    if !(wanted.target > 0.0 && wanted.target.is_finite()) {
        return Err(SearchError::Target);
    }
    if !(1..=3).contains(&wanted.max_parts) {
        return Err(SearchError::Parts(wanted.max_parts));
    }
    if stock.is_empty() {
        return Err(SearchError::NoValues);
    }
    if stock.iter().any(|s| !(s.value > 0.0 && s.value.is_finite())) {
        return Err(SearchError::Value);
    }
    if stock.len() > MOST_VALUES {
        return Err(SearchError::TooMany(stock.len()));
    }
    if wanted.within.is_some_and(|w| w.is_nan() || w <= 0.0) {
        return Err(SearchError::Within);
    }
    if !(1..=MOST_RESULTS).contains(&wanted.limit) {
        return Err(SearchError::Limit(wanted.limit));
    }
    if (wanted.power.is_some() || wanted.voltage.is_some()) && wanted.drive.is_none() {
        return Err(SearchError::RatingWithoutLoad);
    }
    Ok(())
}

/// How the parts are joined: "adding" is series for ohm and parallel for farad.
#[derive(Clone, Copy, PartialEq, Eq)]
enum Shape {
    One,
    /// All adding.
    Chain,
    /// All in the other arrangement.
    Bundle,
    /// A bundle of the first two, adding to the third.
    BundleAndOne,
    /// A chain of the first two, bundled with the third.
    ChainAndOne,
}

/// Two values and what they make, bundled or chained.
struct Pairs {
    chains: Vec<(f64, u16, u16)>,
    bundles: Vec<(f64, u16, u16)>,
}

struct Finder<'a> {
    wanted: &'a Wanted,
    stock: &'a [Stock],
    found: Vec<Found>,
    searched: u64,
}

fn bundle(a: f64, b: f64) -> f64 {
    a * b / (a + b)
}

impl Finder<'_> {
    fn value(&self, i: usize) -> f64 {
        self.stock[i].value
    }

    /// Whether the drawers hold enough of each.
    fn enough(&self, which: &[usize]) -> bool {
        which.iter().all(|i| {
            let needed = which.iter().filter(|j| *j == i).count();
            self.stock[*i].count.is_none_or(|c| c as usize >= needed)
        })
    }

    fn tree(&self, which: &[usize], shape: Shape) -> Tree {
        let leaf = |i: &usize| Tree::Part(self.value(*i));
        let all = || which.iter().map(leaf).collect::<Vec<_>>();
        let adding = |parts| match self.wanted.kind {
            Kind::Resistor => Tree::Series(parts),
            Kind::Capacitor => Tree::Parallel(parts),
        };
        let other = |parts| match self.wanted.kind {
            Kind::Resistor => Tree::Parallel(parts),
            Kind::Capacitor => Tree::Series(parts),
        };
        match (shape, which) {
            (Shape::One, _) => leaf(&which[0]),
            (Shape::Chain, _) => adding(all()),
            (Shape::Bundle, _) => other(all()),
            (Shape::BundleAndOne, [a, b, c]) => adding(vec![leaf(c), other(vec![leaf(a), leaf(b)])]),
            (Shape::ChainAndOne, [a, b, c]) => other(vec![leaf(c), adding(vec![leaf(a), leaf(b)])]),
            (Shape::BundleAndOne | Shape::ChainAndOne, _) => adding(all()),
        }
    }

    /// Takes a network if it is near enough, in stock and inside its ratings; says whether it was.
    fn consider(&mut self, which: &[usize], shape: Shape) -> bool {
        let mut which = which.to_vec();
        let head = if matches!(shape, Shape::BundleAndOne | Shape::ChainAndOne) { 2 } else { which.len() };
        which[..head].sort_by(|a, b| self.value(*b).total_cmp(&self.value(*a)));
        if !self.enough(&which) {
            return false;
        }
        let tree = self.tree(&which, shape);
        // A chain of three comes up once for each of its parts; counted twice it would crowd out
        // another network.
        if self.found.iter().any(|f| f.tree == tree) {
            return true;
        }
        let value = tree.value(self.wanted.kind);
        let error = value / self.wanted.target - 1.0;
        if self.wanted.within.is_some_and(|w| error.abs() > w) {
            return false;
        }
        let shares = shares(&tree, self.wanted.kind, self.wanted.drive);
        let over = |limit: Option<f64>, carried: fn(&Share) -> Option<f64>| {
            limit.is_some_and(|l| {
                shares.iter().any(|s| carried(s).is_some_and(|c| c.abs() > l * (1.0 + 1e-9)))
            })
        };
        if over(self.wanted.power.map(Watt::watts), |s| s.watts)
            || over(self.wanted.voltage.map(Volt::volts), |s| s.volts)
        {
            return false;
        }
        self.found.push(Found { tree, value, error, shares });
        true
    }

    fn keep_best(&mut self) {
        let kind = self.wanted.kind;
        self.found.sort_by(|a, b| {
            let (x, y) = (rounded(a.error), rounded(b.error));
            x.total_cmp(&y)
                .then(a.shares.len().cmp(&b.shares.len()))
                .then_with(|| a.tree.expression(kind).cmp(&b.tree.expression(kind)))
        });
        self.found.truncate(self.wanted.limit);
    }

    fn pairs(&self) -> Pairs {
        let n = self.stock.len();
        let mut chains = Vec::with_capacity(n * (n + 1) / 2);
        let mut bundles = Vec::with_capacity(n * (n + 1) / 2);
        for i in 0..n {
            for j in i..n {
                if self.enough(&[i, j]) {
                    let (a, b) = (self.value(i), self.value(j));
                    chains.push((a + b, i as u16, j as u16));
                    bundles.push((bundle(a, b), i as u16, j as u16));
                }
            }
        }
        chains.sort_by(|a, b| a.0.total_cmp(&b.0));
        bundles.sort_by(|a, b| a.0.total_cmp(&b.0));
        Pairs { chains, bundles }
    }

    fn twos(&mut self, pairs: &Pairs) {
        let target = self.wanted.target;
        self.searched += 2 * pairs.chains.len() as u64;
        self.nearest(&pairs.chains, target, None, Shape::Chain, |pair| pair);
        self.nearest(&pairs.bundles, target, None, Shape::Bundle, |pair| pair);
        self.keep_best();
    }

    fn threes(&mut self, pairs: &Pairs) {
        let target = self.wanted.target;
        for third in 0..self.stock.len() {
            let c = self.value(third);
            self.searched += 4 * pairs.chains.len() as u64;
            // Adding to c: the pair makes up the rest; a c above the target is best with the least.
            let rest = target - c;
            self.nearest(&pairs.chains, rest, Some(third), Shape::Chain, |pair| pair + c);
            self.nearest(&pairs.bundles, rest, Some(third), Shape::BundleAndOne, |pair| pair + c);
            // Bundled with c: 1/pair = 1/target − 1/c; a c below the target is best with the most.
            let rest = if c > target { 1.0 / (1.0 / target - 1.0 / c) } else { f64::INFINITY };
            self.nearest(&pairs.bundles, rest, Some(third), Shape::Bundle, |pair| bundle(pair, c));
            self.nearest(&pairs.chains, rest, Some(third), Shape::ChainAndOne, |pair| bundle(pair, c));
            self.keep_best();
        }
    }

    /// The pairs next to `at` in a sorted list, outwards on both sides, until on each side either
    /// `limit` were taken or the error passes what is still of use. `whole` gives the value of the
    /// network from the value of the pair; it rises with it, so nothing beyond can be nearer.
    fn nearest(
        &mut self,
        sorted: &[(f64, u16, u16)],
        at: f64,
        third: Option<usize>,
        shape: Shape,
        whole: impl Fn(f64) -> f64,
    ) {
        let middle = sorted.partition_point(|p| p.0 < at);
        let upwards = sorted[middle..].iter();
        let downwards = sorted[..middle].iter().rev();
        let sides: [&mut dyn Iterator<Item = &(f64, u16, u16)>; 2] = [&mut { upwards }, &mut { downwards }];
        for side in sides {
            let reach = self.reach();
            let mut taken = 0;
            for &(pair, i, j) in side {
                let error = (whole(pair) / self.wanted.target - 1.0).abs();
                if taken >= self.wanted.limit || error > reach {
                    break;
                }
                let which: Vec<usize> = [usize::from(i), usize::from(j)].into_iter().chain(third).collect();
                taken += usize::from(self.consider(&which, shape));
            }
        }
    }

    /// The error beyond which a network is of no use: the worst of the best so far once there are
    /// enough of them, what was asked before.
    fn reach(&self) -> f64 {
        if self.found.len() < self.wanted.limit {
            return self.wanted.within.unwrap_or(f64::INFINITY);
        }
        let mut errors: Vec<f64> = self.found.iter().map(|f| f.error.abs()).collect();
        errors.sort_by(f64::total_cmp);
        errors[self.wanted.limit - 1] * (1.0 + 1e-9) + 1e-12
    }
}

/// Errors that differ by less than the arithmetic's own noise are equal.
fn rounded(error: f64) -> f64 {
    (error.abs() * 1e12).round()
}
