//! The set as a whole (rule R19): how it is fed, what it works with and how far its volts reach ([`class`]); what is known of its
//! supply, asked once and used by every part ([`facts`]); and which of it cannot both hold ([`contradiction`]).

pub mod class;
pub mod contradiction;
pub mod facts;

pub use class::{Devices, Hazard, PowerSource, SetClass};
pub use facts::{Heaters, Rail, SetFacts};
