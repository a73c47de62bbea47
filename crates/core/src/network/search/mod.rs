//! The networks of one to four parts nearest to a target: all topologies, exact.
//!
//! Two parts can be joined in 2 ways, three in 4, four in 10. Nothing is tried that can be solved for: the
//! pairs are sorted once, a network of four is two pairs or a pair with two single parts, and the last pair is
//! looked up where the sum comes out, walking outwards until nothing nearer is left. So the search leaves nothing
//! out and a thousand million networks are chosen from in the time of a key press.

mod best;
mod count;
mod finder;
mod load;
mod pairs;
mod shape;

use std::ops::ControlFlow;

pub use self::shape::Shape;

use self::finder::Finder;
use super::share::{Drive, Share, shares, worst_volts};
use super::{Kind, Spread, Tree, spread};
use crate::quantity::{Fraction, Volt, Watt};

/// The most values that a search takes.
pub const MOST_VALUES: usize = 1400;
/// The most networks that are returned.
pub const MOST_RESULTS: usize = 100;
/// The most parts of a network.
pub const MOST_PARTS: usize = 4;

/// How far from the target a network may be when ratings rule many out and nothing else is said.
pub const WITHIN_WITH_RATING: f64 = 0.25;

/// One value that may be used.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Stock {
    /// In ohm or farad; above zero.
    pub value: f64,
    /// How many there are; `None` for as many as needed.
    pub count: Option<u32>,
    /// How far such a part may be off its value; `None` where that is not known.
    pub tolerance: Option<Fraction>,
    /// What such a part may carry; where it does not say, what [`Wanted::power`] says.
    pub power: Option<Watt>,
    /// The volts that it stands; where it does not say, what [`Wanted::voltage`] says.
    pub voltage: Option<Volt>,
}

impl Stock {
    /// As many as needed of a value (ohm or farad), of which no more is known.
    #[must_use]
    pub fn plenty(value: f64) -> Self {
        Self { value, count: None, tolerance: None, power: None, voltage: None }
    }

    /// So many of a value (ohm or farad), of which no more is known.
    #[must_use]
    pub fn of(value: f64, count: u32) -> Self {
        Self { count: Some(count), ..Self::plenty(value) }
    }
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
    /// One to four.
    pub max_parts: usize,
    /// A part that must be in it, "I have a 180": a place in the stock.
    pub pinned: Option<usize>,
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
    /// What each part carries, in the order of [`Tree::parts`].
    pub shares: Vec<Share>,
    /// Which of the stock each part is, in the same order.
    pub picks: Vec<usize>,
    /// How far the whole may be off, where the tolerance of every part is known.
    pub spread: Option<Spread>,
}

/// The result of a search.
#[derive(Debug, Clone, PartialEq)]
pub struct Search {
    /// Least absolute error first; of equal ones the fewest parts.
    pub networks: Vec<Found>,
    /// How many networks there are to choose from, if there are enough of each value.
    pub searched: u64,
    /// Whether it went to its end; otherwise a better one may be left.
    pub complete: bool,
}

/// Why there is nothing to search.
#[derive(Debug, Clone, Copy, PartialEq, thiserror::Error)]
pub enum SearchError {
    /// A target that is zero, negative or not a number.
    #[error("a target above zero is needed")]
    Target,
    /// A number of parts that is not supported.
    #[error("networks of 1 to 4 parts can be searched, not of {0}")]
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
    /// A pinned part that is not in the stock.
    #[error("the part that must be in it is not among the values")]
    Pinned,
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

/// Searches for networks to the end.
///
/// ```
/// use owl_core::network::{Kind, Stock, Wanted, search};
/// let wanted = Wanted { kind: Kind::Resistor, target: 130.0, within: None, max_parts: 2, pinned: None,
///     drive: None, power: None, voltage: None, limit: 1 };
/// let found = search(&wanted, &[Stock::plenty(100.0), Stock::plenty(30.0)]).unwrap();
/// assert_eq!(found.networks[0].tree.expression(Kind::Resistor), "100 + 30");
/// assert!(search(&Wanted { target: 0.0, ..wanted }, &[Stock::plenty(100.0)]).is_err());
/// ```
///
/// # Errors
/// [`SearchError`] when the question makes no sense; an empty answer is no error.
pub fn search(wanted: &Wanted, stock: &[Stock]) -> Result<Search, SearchError> {
    search_while(wanted, stock, &mut |_| ControlFlow::Continue(()))
}

/// Whether to go on with a search; given a way to the best so far.
pub type GoOn<'a> = dyn FnMut(&dyn Fn() -> Vec<Found>) -> ControlFlow<()> + 'a;

/// Searches for networks and asks every so often, a few thousand steps, whether to go on; what it asks is
/// given a way to the best so far. Stopped, it returns the best so far, marked as not complete.
///
/// # Errors
/// As [`search`].
pub fn search_while(wanted: &Wanted, stock: &[Stock], go_on: &mut GoOn<'_>) -> Result<Search, SearchError> {
    check(wanted, stock)?;
    let rated = wanted.drive.is_some()
        && (wanted.power.is_some()
            || wanted.voltage.is_some()
            || stock.iter().any(|s| s.power.is_some() || s.voltage.is_some()));
    let within = wanted.within.or(rated.then_some(WITHIN_WITH_RATING));
    let wanted = Wanted { within, ..*wanted };
    let mut finder = Finder::new(&wanted, stock, rated, go_on);
    let complete = finder.run().is_continue();
    let mut networks = finder.best.found(&wanted, stock);
    networks.retain(|f| volts_hold(f, &wanted, stock));
    Ok(Search {
        networks,
        searched: count::networks(stock.len() as u64, wanted.max_parts, wanted.pinned.is_some()),
        complete,
    })
}

/// A network of the stock, with what each part carries and how far it may be off.
fn found(wanted: &Wanted, stock: &[Stock], shape: Shape, picks: &[u16]) -> Found {
    let (tree, picks) = shape.tree(wanted.kind, picks, |i| stock[usize::from(i)].value);
    let value = tree.value(wanted.kind);
    let shares = shares(&tree, wanted.kind, wanted.drive);
    let picks: Vec<usize> = picks.into_iter().map(usize::from).collect();
    let tolerances: Option<Vec<_>> =
        picks.iter().map(|i| stock[*i].tolerance.map(|t| (t.fraction(), t.fraction()))).collect();
    let spread = tolerances.map(|t| spread(&tree, wanted.kind, &t));
    Found { value, error: value / wanted.target - 1.0, tree, shares, picks, spread }
}

/// Whether each part stands the most volts that it may get by the tolerances of all; what has none counts as exact.
fn volts_hold(f: &Found, wanted: &Wanted, stock: &[Stock]) -> bool {
    let tolerance = |i: &usize| stock[*i].tolerance.map_or((0.0, 0.0), |t| (t.fraction(), t.fraction()));
    let tolerances: Vec<(f64, f64)> = f.picks.iter().map(tolerance).collect();
    // The shares of exact values were looked at on the way.
    let exact = tolerances.iter().all(|t| *t == (0.0, 0.0));
    let Some(drive) = wanted.drive.filter(|_| !exact) else { return true };
    let worst = worst_volts(&f.tree, wanted.kind, drive, &tolerances);
    worst.is_none_or(|volts| {
        volts.iter().zip(&f.picks).all(|(volts, i)| {
            let rating = stock[*i].voltage.or(wanted.voltage).map(Volt::volts);
            rating.is_none_or(|r| *volts <= r * (1.0 + 1e-9))
        })
    })
}

/// Whether a question makes sense, without searching.
///
/// # Errors
/// As [`search`].
pub fn check(wanted: &Wanted, stock: &[Stock]) -> Result<(), SearchError> {
    if !(wanted.target > 0.0 && wanted.target.is_finite()) {
        return Err(SearchError::Target);
    }
    if !(1..=MOST_PARTS).contains(&wanted.max_parts) {
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
    if wanted.pinned.is_some_and(|p| p >= stock.len()) {
        return Err(SearchError::Pinned);
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
