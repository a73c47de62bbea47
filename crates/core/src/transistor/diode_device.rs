//! Registered diodes: what they are for and what they stand.

use std::sync::LazyLock;

use serde::Deserialize;

use super::device::Sure;
use crate::named::named;
use crate::part::DiodeFamily;
use crate::source::Source;
use crate::table::{rows, yes};

named! {
    /// What a diode is for.
    "diode job" DiodeJob {
        /// It carries a supply.
        Rectifier = "rectifier",
        /// It carries a signal.
        Signal = "signal",
        /// It tunes: its capacitance hangs on its reverse volts.
        Varicap = "varicap",
    }
}

/// A registered diode.
#[derive(Debug, Clone, PartialEq, Deserialize)]
pub struct Device {
    /// Its type number.
    #[serde(rename = "type")]
    pub type_number: String,
    /// What it is made of.
    pub family: DiodeFamily,
    /// What it is for.
    pub job: DiodeJob,
    /// Repetitive reverse volts.
    pub reverse_volts: f64,
    /// Average forward amperes.
    pub amperes: Option<f64>,
    /// One surge of a half wave, amperes, where it is known.
    pub surge_amperes: Option<f64>,
    /// Volts at its current, where they are known.
    pub drop: Option<f64>,
    /// Whether it is fast enough for radio frequency or a switching supply.
    #[serde(deserialize_with = "yes")]
    pub fast: bool,
    /// Its registered outline; empty where it is not known.
    pub package: String,
    /// How far the row is to be trusted.
    pub sure: Sure,
    /// Where the row comes from.
    pub source: Source,
}

static DEVICES: LazyLock<Vec<Device>> =
    LazyLock::new(|| rows("diode_device.csv", include_str!("../../data/diode_device.csv")));

/// All registered diodes of the table.
#[must_use]
pub fn devices() -> &'static [Device] {
    &DEVICES
}

/// The diode of that type number; `None` where the table has none.
#[must_use]
pub fn device(type_number: &str) -> Option<&'static Device> {
    DEVICES.iter().find(|d| d.type_number.eq_ignore_ascii_case(type_number.trim()))
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_table_is_whole() {
        assert!(devices().iter().all(|d| {
            let surge = d.surge_amperes.zip(d.amperes);
            d.reverse_volts > 0.0 && surge.is_none_or(|(s, a)| s > a)
        }));
        assert!(device("1n4007").is_some_and(|d| d.reverse_volts == 1000.0));
    }
}
