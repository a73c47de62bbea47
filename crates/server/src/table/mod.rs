//! The tables: the rows as they are stored, and all SQL. Nothing here knows of a request or of a sentence.

pub mod attachment;
pub mod cause;
pub mod change;
pub mod chart;
pub mod closing;
pub mod decision;
pub mod drawers;
pub mod explanation;
pub mod feed;
pub mod first_power;
pub mod fitting;
pub mod instrument;
pub mod junction;
pub mod match_lot;
pub mod part;
pub mod plan;
pub mod policy;
pub mod reading;
pub mod record;
pub mod reform;
mod reform_row;
pub mod reform_samples;
pub mod safety;
pub mod search;
pub mod ticket;
pub mod workshop;
