//! A workshop's instruments: what each can measure, in which ways, and how closely in each range.

use super::{Accuracy, Mode, ReadQuantity};
use crate::named::named;
use crate::part::{CapacitorFamily, MadeOf};
use crate::quantity::{Fraction, Hertz, Volt};

named! {
    /// What kind of instrument it is.
    "instrument kind" InstrumentKind {
        /// Volts, ohms, diode drops.
        Multimeter = "multimeter",
        /// Inductance, capacitance and resistance with alternating current.
        LcrMeter = "LCR meter",
        /// Equivalent series resistance, mostly at 100 kHz.
        EsrMeter = "ESR meter",
        /// Leakage at the part's own voltage.
        LeakageTester = "leakage tester",
        /// Gain and leakage of transistors.
        TransistorTester = "transistor tester",
        /// Emission, transconductance, gas and shorts of valves.
        ValveTester = "valve tester",
        /// Insulation at hundreds of volts.
        InsulationTester = "insulation tester",
        /// Volts through a current limit, with a meter; it is read and never set.
        ReformingSupply = "reforming supply",
    }
}

named! {
    /// How the switch of a leakage tester stands.
    "tester setting" Setting {
        /// For paper, film, mica and ceramic: microamperes matter.
        Paper = "paper",
        /// For electrolytics: milliamperes pass.
        Electrolytic = "electrolytic",
    }
}

impl Setting {
    /// How the switch belongs for a family; `None` for parts that are not tested so.
    #[must_use]
    pub fn of(family: MadeOf) -> Option<Self> {
        match family {
            MadeOf::Capacitor(CapacitorFamily::Electrolytic | CapacitorFamily::Tantalum) => {
                Some(Self::Electrolytic)
            }
            MadeOf::Capacitor(_) => Some(Self::Paper),
            MadeOf::Resistor(_) | MadeOf::Coil(_) | MadeOf::Diode(_) => None,
        }
    }
}

/// One range of one way of measuring.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Range {
    /// The most that it can show, in the base unit.
    pub up_to_si: f64,
    /// Share of the reading.
    pub of_reading: Fraction,
    /// Counts in the last digit.
    pub counts: f64,
    /// What one count is worth, in the base unit.
    pub resolution_si: f64,
}

/// One way in which an instrument measures one thing.
#[derive(Debug, Clone, PartialEq)]
pub struct MeterFunction {
    /// What the instrument calls it: `ohms`, `C 1 kHz`.
    pub name: String,
    /// What it measures.
    pub quantity: ReadQuantity,
    /// With direct or alternating current.
    pub mode: Mode,
    /// Its test frequency.
    pub test_frequency: Option<Hertz>,
    /// Its test voltage.
    pub test_voltage: Option<Volt>,
    /// How a leakage tester's switch stands for it.
    pub setting: Option<Setting>,
    /// Its ranges, the lowest first; empty where nobody has entered them.
    pub ranges: Vec<Range>,
}

/// An instrument.
#[derive(Debug, Clone, PartialEq)]
pub struct Instrument {
    /// What the workshop calls it.
    pub name: String,
    /// What it is.
    pub kind: InstrumentKind,
    /// What it measures.
    pub ways: Vec<MeterFunction>,
}

/// A way of measuring that cannot be.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum RangeError {
    /// Ranges out of order, or one that ends at nothing.
    #[error("each range must end above zero and above the one before it")]
    Order,
    /// A range whose counts are worth nothing or more than the range.
    #[error("what a count is worth must be above zero and below the range's end")]
    Resolution,
    /// An accuracy that is none.
    #[error("an accuracy is 0 to 100 percent of the reading and 0 or more counts")]
    Accuracy,
}

impl MeterFunction {
    /// Checks that the ranges can be.
    ///
    /// # Errors
    /// [`RangeError`] for the first thing that cannot.
    pub fn check(&self) -> Result<(), RangeError> {
        let mut before = 0.0;
        for r in &self.ranges {
            if !r.up_to_si.is_finite() || r.up_to_si <= before {
                return Err(RangeError::Order);
            }
            if !(r.resolution_si > 0.0 && r.resolution_si < r.up_to_si) {
                return Err(RangeError::Resolution);
            }
            let share = r.of_reading.fraction();
            if !((0.0..1.0).contains(&share) && r.counts >= 0.0 && r.counts.is_finite()) {
                return Err(RangeError::Accuracy);
            }
            before = r.up_to_si;
        }
        Ok(())
    }

    /// The most that it can show, in the base unit; `None` without ranges.
    #[must_use]
    pub fn ceiling_si(&self) -> Option<f64> {
        self.ranges.last().map(|r| r.up_to_si)
    }

    /// The accuracy in the lowest range that holds `value`; `None` without ranges or beyond them.
    ///
    /// ```
    /// use owl_core::quantity::Fraction;
    /// use owl_core::reading::{Mode, Range, ReadQuantity, MeterFunction};
    /// let range = |up_to_si, resolution_si| Range { up_to_si, of_reading: Fraction::new(0.01).unwrap(), counts: 2.0, resolution_si };
    /// let ohms = MeterFunction { name: "ohms".to_owned(), quantity: ReadQuantity::Resistance, mode: Mode::Dc, test_frequency: None,
    ///     test_voltage: None, setting: None, ranges: vec![range(200.0, 0.1), range(2000.0, 1.0)] };
    /// assert_eq!(ohms.accuracy_at_si(1500.0).unwrap().resolution_si, 1.0);
    /// assert_eq!(ohms.accuracy_at_si(2500.0), None);
    /// ```
    #[must_use]
    pub fn accuracy_at_si(&self, value: f64) -> Option<Accuracy> {
        let range = self.ranges.iter().find(|r| value.abs() <= r.up_to_si)?;
        Some(Accuracy {
            of_reading: range.of_reading,
            counts: range.counts,
            resolution_si: range.resolution_si,
        })
    }
}

/// The ranges of a meter that picks them itself: `display` counts, a factor of ten apart, with one
/// accuracy, from a resolution of `finest_si` to `ceiling_si` (all in the base unit).
#[must_use]
pub fn decades(
    of_reading: Fraction,
    counts: f64,
    display: u32,
    finest_si: f64,
    ceiling_si: f64,
) -> Vec<Range> {
    let mut ranges = Vec::new();
    let mut resolution = finest_si;
    while resolution > 0.0 && ceiling_si.is_finite() && ranges.len() < 20 {
        let end = resolution * f64::from(display.max(2));
        let up_to = if end < ceiling_si * (1.0 - 1e-9) { end } else { ceiling_si };
        ranges.push(Range { up_to_si: up_to, of_reading, counts, resolution_si: resolution });
        if up_to >= ceiling_si {
            break;
        }
        resolution *= 10.0;
    }
    ranges
}
