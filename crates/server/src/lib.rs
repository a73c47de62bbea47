//! The server of Restless Owl: carries what the core computes to the screen and into PostgreSQL.
//!
//! Each feature is a folder of the same name as its core module: `mod.rs` the handlers, `wire.rs` the JSON shapes.
//! Below them [`table`] holds the rows and all SQL, and [`tray`] puts the rows of a ticket together as the core knows
//! them. Imports go one way: router, handlers, tray and wire, tables.

pub mod amount;
pub mod app;
pub mod attachment;
pub mod bank;
pub mod body;
pub mod cause;
pub mod change;
pub mod changed;
pub mod chart;
pub mod closing;
pub mod combine;
pub mod config;
mod csv_file;
pub mod decision;
pub mod decode;
pub mod deed;
pub mod demo;
mod demo_job;
mod demo_reform;
mod demo_transistors;
pub mod dialect;
pub mod door;
pub mod drawers;
pub mod error;
pub mod explanation;
pub mod fact;
pub mod feed;
pub mod first_power;
pub mod fitting;
pub mod guard;
pub mod health;
pub mod instrument;
pub mod judge;
pub mod part;
pub mod people;
pub mod plan;
pub mod policy;
pub mod proof;
pub mod reading;
pub mod record;
pub mod reform;
pub mod remote;
pub mod router;
pub mod rulebook;
pub mod safety;
pub mod say;
pub mod search;
pub mod serve;
pub mod settings;
pub mod share;
pub mod sites;
pub mod socket;
pub mod stage;
pub mod stand_in;
pub mod substitute;
pub mod supply;
pub mod table;
pub mod text;
pub mod ticket;
pub mod transistor;
pub mod tray;
pub mod values;
pub mod workshop;
