//! What a meter's diode range showed between three leads: the six readings that a transistor is told by.

use serde::{Deserialize, Serialize};

use crate::named::named;

/// The six readings: what the diode range showed with red on one lead and black on another.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct SixReadings {
    volts: [[Option<f64>; 3]; 3],
}

/// Why six readings are not six readings.
#[derive(Debug, Clone, Copy, PartialEq, thiserror::Error)]
pub enum ReadingsError {
    /// Both probes on one lead.
    #[error("red and black are on the same lead")]
    SameLead,
    /// A lead that there is not.
    #[error("a transistor has three leads here")]
    NoSuchLead,
    /// Twice the same.
    #[error("this way round stands there twice")]
    Twice,
    /// Not six.
    #[error("six readings are needed: red and black on each pair of leads both ways round; {0} are there")]
    Missing(usize),
    /// Not a drop.
    #[error("{0} V is no drop of a diode range: 0 to 10 V, or nothing shown")]
    NoDrop(f64),
}

impl SixReadings {
    /// Six readings as (red, black, volts), leads counted from zero; `None` where the meter showed nothing.
    ///
    /// # Errors
    /// [`ReadingsError`], in the technician's words.
    pub fn new(readings: &[(usize, usize, Option<f64>)]) -> Result<Self, ReadingsError> {
        let mut volts = [[None; 3]; 3];
        let mut seen = [[false; 3]; 3];
        for (red, black, shown) in readings {
            if red == black {
                return Err(ReadingsError::SameLead);
            }
            let (Some(row), Some(was)) = (volts.get_mut(*red), seen.get_mut(*red)) else {
                return Err(ReadingsError::NoSuchLead);
            };
            let (Some(cell), Some(was)) = (row.get_mut(*black), was.get_mut(*black)) else {
                return Err(ReadingsError::NoSuchLead);
            };
            if *was {
                return Err(ReadingsError::Twice);
            }
            if let Some(v) = shown.filter(|v| !(0.0..=10.0).contains(v)) {
                return Err(ReadingsError::NoDrop(v));
            }
            *was = true;
            *cell = *shown;
        }
        if readings.len() != 6 {
            return Err(ReadingsError::Missing(readings.len()));
        }
        Ok(Self { volts })
    }

    /// What was shown with red on one lead and black on another.
    #[must_use]
    pub fn volts(&self, red: usize, black: usize) -> Option<f64> {
        self.volts.get(red).and_then(|r| r.get(black)).copied().flatten()
    }

    /// All six as (red, black, volts).
    #[must_use]
    pub fn all(&self) -> Vec<(usize, usize, Option<f64>)> {
        let pairs = [(0, 1), (1, 0), (0, 2), (2, 0), (1, 2), (2, 1)];
        pairs.iter().map(|(r, b)| (*r, *b, self.volts(*r, *b))).collect()
    }
}

named! {
    /// What one more measurement showed.
    "further finding" Further {
        /// The two diode leads conduct both ways after the lone lead was touched to plus, and not after minus.
        OnAfterPlus = "conducts after plus on the lone lead",
        /// The same the other way round.
        OnAfterMinus = "conducts after minus on the lone lead",
        /// Once triggered it goes on conducting until the current is broken.
        Latches = "goes on conducting once triggered",
        /// The path that conducts both ways stops when the third lead is made negative or positive enough.
        ChannelStops = "channel stops",
        /// The path that conducts both ways stays.
        ChannelStays = "channel stays",
    }
}

/// The six readings of a meter's diode range that were taken of a transistor.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct JunctionTest {
    /// The readings.
    pub six: SixReadings,
    /// Whether it was still in the set.
    pub in_circuit: bool,
    /// How warm it was, °C.
    pub celsius: f64,
    /// What one more measurement showed.
    pub further: Option<Further>,
}

/// A test of three leads as it is kept: what was typed, by the names that the leads were given.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct StoredJunctions {
    /// The six readings.
    pub readings: Vec<StoredDrop>,
    /// Gain with the leads either way round, where it was measured.
    #[serde(default)]
    pub gains: Vec<StoredGain>,
    /// Whether it was still in the set.
    #[serde(default)]
    pub in_circuit: bool,
    /// How warm it was, °C, where that was said.
    pub celsius: Option<f64>,
    /// The meter's current on its diode range, ampere, where that was said.
    #[serde(alias = "meter_current")]
    pub meter_amperes: Option<f64>,
    /// What one more measurement showed.
    pub further: Option<Further>,
}

/// One way round.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct StoredDrop {
    /// The lead with the red probe.
    pub red: String,
    /// The lead with the black probe.
    pub black: String,
    /// What was shown, where it was taken off the meter as a number.
    pub volts: Option<f64>,
    /// What was typed.
    #[serde(default)]
    pub typed: Option<String>,
}

/// Gain with the leads one way round.
#[derive(Debug, Clone, PartialEq, Serialize, Deserialize)]
pub struct StoredGain {
    /// The lead in the collector's hole.
    pub collector: String,
    /// The lead in the emitter's hole.
    pub emitter: String,
    /// What the tester showed.
    pub hfe: f64,
}
