//! Real HTTP against a throw-away database.
#![allow(clippy::unwrap_used, clippy::panic, missing_docs)]

#[path = "../support/mod.rs"]
mod support;

mod demo;
mod guard;
mod kinds;
mod nonsense;
mod races;
mod tickets;
mod tools;
mod upgrade;
