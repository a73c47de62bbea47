//! Registered diodes: what they are for and what they stand.

use std::sync::LazyLock;

use serde::Deserialize;

use super::device::Sure;
use crate::named::named;
use crate::part::DiodeFamily;
use crate::quantity::{Ampere, Volt};
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

/// The silicon rectifiers of the table, by their type numbers.
#[must_use]
pub fn rectifiers() -> Vec<&'static Device> {
    let of = |d: &&Device| d.job == DiodeJob::Rectifier && d.family == DiodeFamily::Silicon;
    let mut all: Vec<&Device> = DEVICES.iter().filter(of).collect();
    all.sort_by(|a, b| a.type_number.cmp(&b.type_number));
    all
}

impl Device {
    /// What it stands: `1 A, 1 kV, fast`.
    #[must_use]
    pub fn stands(&self) -> String {
        let amperes = self.amperes.map(|a| format!("{}, ", Ampere::computed(a)));
        let fast = if self.fast { ", fast" } else { "" };
        format!("{}{}{fast}", amperes.unwrap_or_default(), Volt::computed(self.reverse_volts))
    }
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
        assert!(device("1n4007").is_some_and(|d| d.reverse_volts == 1000.0 && d.stands() == "1 A, 1 kV"));
        assert!(rectifiers().iter().all(|d| d.job == DiodeJob::Rectifier) && rectifiers().len() > 20);
    }
}
