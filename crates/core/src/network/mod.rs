//! Series-parallel networks: what a target is made of, and how each part shares the load.
//!
//! Values are plain numbers in one unit, ohm for resistors and farad for capacitors; which of the
//! two a network is made of ([`Kind`]) decides which of series and parallel adds.

pub mod search;
pub mod share;
mod tree;

pub use search::{Found, Search, SearchError, Stock, Wanted, search};
pub use share::{Drive, Share, shares};
pub use tree::{Kind, Tree};
