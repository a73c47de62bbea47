//! Several benches, whichever server they came by: what one does appears on the others.
//!
//! Every row that is written tells of its ticket as its transaction commits (LISTEN and NOTIFY, migration 0035);
//! [`ear`] hears it, [`hub`] keeps the latest of it and hands it on, [`events`] tells the pages. Whoever missed
//! something, and nobody can say what, is told to look at everything anew.

pub mod ear;
pub mod events;
pub mod hub;
