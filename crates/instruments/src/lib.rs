//! Bench instruments that speak SCPI over TCP.
//!
//! [`meter`] asks one for a reading: only questions and the choice of what is measured are ever sent ([`question`]), so
//! that no instrument is made to put volts on anything. [`address`] says where an instrument may be, [`answer`] what its
//! words mean. [`stand_in`] is a bench of simulated instruments on loopback, with a simulated part on its clips.

pub mod address;
pub mod answer;
pub mod meter;
pub mod question;
pub mod stand_in;
