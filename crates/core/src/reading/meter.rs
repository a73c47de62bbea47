//! A meter's resistance function: its accuracy in the range that it would choose for a reading.

use super::Accuracy;
use crate::quantity::{Fraction, Ohm};

/// An auto-ranging meter of so many counts, with the same ±(% + counts) in all ranges.
///
/// Cannot describe a meter whose accuracy differs from range to range; that needs a row for
/// each range.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Meter {
    /// Share of the reading.
    pub of_reading: Fraction,
    /// Counts in the last digit.
    pub counts: f64,
    /// The counts of the display, such as 2 000 or 6 000; at least 100.
    pub display: u32,
    /// Resolution of the lowest range.
    pub finest: Ohm,
    /// The most that it can show.
    pub ceiling: Ohm,
}

impl Meter {
    /// The accuracy in the lowest range that holds `value`; ranges are a factor of ten apart.
    ///
    /// ```
    /// use owl_core::quantity::{Fraction, Ohm};
    /// use owl_core::reading::Meter;
    /// let ohm = |v| Ohm::new(v).unwrap();
    /// let meter = Meter { of_reading: Fraction::new(0.01).unwrap(), counts: 2.0, display: 2000, finest: ohm(0.1), ceiling: ohm(20e6) };
    /// assert_eq!(meter.accuracy_at(ohm(1500.0)).resolution, ohm(1.0));
    /// ```
    #[must_use]
    pub fn accuracy_at(&self, value: Ohm) -> Accuracy {
        let mut resolution = self.finest.ohms();
        while value.ohms() >= resolution * f64::from(self.display) && resolution < 1e12 && resolution > 0.0 {
            resolution *= 10.0;
        }
        Accuracy {
            of_reading: self.of_reading,
            counts: self.counts,
            resolution: Ohm::new(resolution).unwrap_or(self.finest),
        }
    }
}
