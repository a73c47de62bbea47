//! Real HTTP against a throw-away database.
#![allow(clippy::unwrap_used, clippy::panic, missing_docs)]

#[path = "../support/mod.rs"]
mod support;

mod backup;
mod bank;
mod bench_cases;
mod circuit;
mod curves;
mod deed;
mod demo;
mod dialect;
mod docs;
mod door;
mod drawers;
mod feed;
mod find;
mod fit;
mod guard;
mod job;
mod kinds;
mod measure;
mod nonsense;
mod once;
mod past;
mod people;
mod pictures;
mod races;
mod record;
mod reform;
mod remote;
mod say;
mod schema;
mod schools;
mod set;
mod stage;
mod supply;
mod tickets;
mod together;
mod tools;
mod transistors;
mod upgrade;
mod valves;
mod verdicts;
