//! Series-parallel networks: what a target is made of, how each part shares the load, and how far the whole may
//! be off.
//!
//! Values are plain numbers in one unit, ohm for resistors and farad for capacitors; which of the
//! two a network is made of ([`Kind`]) decides which of series and parallel adds.

pub mod balance;
pub mod search;
pub mod share;
mod spread;
mod tree;

pub use search::{Found, Search, SearchError, Stock, Wanted, search, search_while};
pub use share::{Drive, Share, shares, worst_volts};
pub use spread::{Spread, spread};
pub use tree::{Kind, Tree};
