//! The transistor desk: three leads identified, types looked up and added, equivalents, pairs, bought parts inspected.

pub mod equivalents;
pub mod gain;
pub mod identify;
pub mod inspection;
pub mod junction;
pub mod junction_view;
pub mod library;
pub mod lot;
pub mod pairs;
pub mod sheet;
pub mod types;
