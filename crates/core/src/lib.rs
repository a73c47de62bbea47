//! The rules and sums of a radio repair bench.
//!
//! Pure: no clock, no files, no network, no randomness. What goes in decides what comes out.
//! SI base units inside; what people type and what people read are translated at the edges
//! ([`quantity::read`] and [`quantity::write`]). Every rule and table row carries its
//! [`source::Source`].
//!
//! The order of the modules is the order of the work: a marking is read ([`marking`]), a
//! reading is taken ([`reading`]), judged ([`verdict`]), a substitute chosen ([`substitute`],
//! [`network`], [`preferred`]). [`say`] understands the sentences typed on the way.

pub mod bank;
pub mod caution;
pub mod change;
pub mod chart;
pub mod dialect;
pub mod drawers;
pub mod feed;
pub mod first_power;
pub mod header;
pub mod ic;
pub mod marking;
pub mod named;
pub mod network;
pub mod part;
pub mod people;
mod phrase;
pub mod plan;
pub mod preferred;
pub mod proof;
pub mod quantity;
pub mod reading;
pub mod reform;
pub mod rulebook;
pub mod say;
pub mod search;
pub mod set;
pub mod site;
pub mod socket;
pub mod source;
pub mod stored;
pub mod substitute;
pub mod supply;
mod table;
pub mod transistor;
pub mod tray;
pub mod valve;
pub mod verdict;
