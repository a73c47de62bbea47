//! Transistors and diodes (rule R11): three leads without a print identified, gain corrected, a substitute found and
//! its leads mapped, a lot paired, a bought part inspected.

pub mod after;
pub mod bias;
pub mod circuit;
pub mod csv;
pub mod device;
pub mod diode_device;
pub mod diode_equivalent;
pub mod diode_kind;
pub mod equivalent;
pub mod fellows;
pub mod gain;
pub mod identify;
pub mod inspect;
pub mod package;
pub mod pairs;
pub mod pin_map;
pub mod place;
pub mod rule;
pub mod suspect;
pub mod type_family;

pub use device::{Device, DeviceKind, Material, Polarity};
