//! What a meter said of a part, in what state the part was, and how far the meter is to be believed.

pub mod choose;
pub mod doubt;
pub mod instrument;
pub mod pitfall;
mod readable;

use crate::named::named;
use crate::quantity::format::{CapacitanceStyle, format, format_as};
use crate::quantity::{Fraction, Hertz, Ohm, Quantity, Second, Volt};

pub use instrument::{Instrument, InstrumentKind, MeterFunction, Range, Setting};
pub use readable::{Readable, expected_si, is_read_live, is_readable, readable, usual, usual_state};

named! {
    /// How the part sat when it was measured.
    "state" State {
        /// Both ends still connected.
        InCircuit = "in circuit",
        /// Both ends connected, but the valve that hangs on it is pulled.
        ValvePulled = "valve pulled",
        /// One end free: unsoldered, or a capacitor blocks it.
        Lifted = "lifted",
        /// Out of the set.
        OutOfCircuit = "out of circuit",
    }
}

named! {
    /// How the meter measures.
    "mode" Mode {
        /// With direct current.
        Dc = "dc",
        /// With alternating current.
        Ac = "ac",
    }
}

named! {
    /// What can be read of a part.
    "read quantity" ReadQuantity {
        /// In ohm.
        Resistance = "resistance",
        /// In farad.
        Capacitance = "capacitance",
        /// Equivalent series resistance, in ohm.
        Esr = "esr",
        /// The tangent of the loss angle.
        DissipationFactor = "dissipation_factor",
        /// In ampere.
        LeakageCurrent = "leakage_current",
        /// Insulation, in ohm.
        LeakageResistance = "leakage_resistance",
        /// As a tester shows it, a fraction.
        LeakagePercent = "leakage_percent",
        /// On a go/no-go eye: one where it opens, zero where it stays closed.
        LeakageEye = "leakage_eye",
        /// Collector to base with the emitter open, in ampere.
        CutOffCurrent = "cut_off_current",
        /// In henry.
        Inductance = "inductance",
        /// On a meter's diode range, in volt.
        ForwardVoltage = "forward_voltage",
        /// Of the windings of a transformer.
        TurnsRatio = "turns_ratio",
        /// Collector current over base current.
        Gain = "gain",
        /// At which a junction breaks down with the current limited, in volt.
        BreakdownVoltage = "breakdown_voltage",
        /// At a pin of a circuit or a valve against the chassis, in volt.
        PinVoltage = "pin_voltage",
        /// What a valve's tester shows of a good one, a fraction.
        Emission = "emission",
        /// Of a valve, in siemens.
        Transconductance = "transconductance",
        /// Of a valve: what its cathode gives, in ampere.
        CathodeCurrent = "cathode_current",
        /// Of a valve: what flows in its control grid, in ampere.
        GridCurrent = "grid_current",
        /// Of a valve: heater to cathode, in ohm.
        HeaterCathode = "heater_cathode",
    }
}

impl ReadQuantity {
    /// Everything that says how much a part leaks.
    pub const LEAKAGE: [Self; 4] =
        [Self::LeakageCurrent, Self::LeakageResistance, Self::LeakagePercent, Self::LeakageEye];

    /// What its number measures.
    #[must_use]
    pub fn quantity(self) -> Quantity {
        match self {
            Self::Resistance | Self::Esr | Self::LeakageResistance | Self::HeaterCathode => {
                Quantity::Resistance
            }
            Self::Capacitance => Quantity::Capacitance,
            Self::DissipationFactor | Self::TurnsRatio | Self::Gain | Self::LeakageEye => Quantity::Ratio,
            Self::LeakageCurrent | Self::CutOffCurrent | Self::CathodeCurrent | Self::GridCurrent => {
                Quantity::Current
            }
            Self::LeakagePercent | Self::Emission => Quantity::Fraction,
            Self::Transconductance => Quantity::Conductance,
            Self::Inductance => Quantity::Inductance,
            Self::ForwardVoltage | Self::BreakdownVoltage | Self::PinVoltage => Quantity::Voltage,
        }
    }

    /// Its name in a sentence.
    #[must_use]
    pub fn called(self) -> &'static str {
        match self {
            Self::Resistance => "resistance",
            Self::Capacitance => "capacitance",
            Self::Esr => "ESR",
            Self::DissipationFactor => "dissipation factor",
            Self::LeakageCurrent => "leakage current",
            Self::LeakageResistance => "insulation",
            Self::LeakagePercent => "leakage",
            Self::LeakageEye => "leakage by the eye",
            Self::CutOffCurrent => "I_CBO",
            Self::Inductance => "inductance",
            Self::ForwardVoltage => "forward drop",
            Self::TurnsRatio => "turns ratio",
            Self::Gain => "gain",
            Self::BreakdownVoltage => "breakdown",
            Self::PinVoltage => "volts at a pin",
            Self::Emission => "emission",
            Self::Transconductance => "transconductance",
            Self::CathodeCurrent => "cathode current",
            Self::GridCurrent => "grid current",
            Self::HeaterCathode => "heater to cathode",
        }
    }

    /// Whether it says how much the part leaks.
    #[must_use]
    pub fn is_leakage(self) -> bool {
        match self {
            Self::LeakageCurrent | Self::LeakageResistance | Self::LeakagePercent | Self::LeakageEye => true,
            Self::Resistance
            | Self::Capacitance
            | Self::Esr
            | Self::DissipationFactor
            | Self::CutOffCurrent
            | Self::Inductance
            | Self::ForwardVoltage
            | Self::TurnsRatio
            | Self::Gain
            | Self::BreakdownVoltage
            | Self::PinVoltage
            | Self::Emission
            | Self::Transconductance
            | Self::CathodeCurrent
            | Self::GridCurrent
            | Self::HeaterCathode => false,
        }
    }

    /// What an instrument measures that shows this: a cut-off current is read on a leakage tester.
    #[must_use]
    pub fn measured_as(self) -> Self {
        match self {
            Self::CutOffCurrent => Self::LeakageCurrent,
            Self::HeaterCathode => Self::LeakageResistance,
            other => other,
        }
    }

    /// `value` (base unit) as it is written: `2.2 µA`, `85 MΩ`, `eye opens`.
    #[must_use]
    pub fn written(self, value: f64) -> String {
        if self == Self::LeakageEye {
            return if value > 0.0 { "eye opens" } else { "eye stays closed" }.to_owned();
        }
        format(self.quantity(), value).to_string()
    }
}

/// What the meter showed, in the base unit of what was read.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Shown {
    /// A value, in the base unit; finite, and zero or more except a forward drop and volts at a pin.
    Value {
        /// In the base unit.
        si: f64,
    },
    /// Beyond the meter's range, which ends at the given value where it is known.
    Overrange {
        /// The most that the meter can show, in the base unit.
        ceiling_si: Option<f64>,
    },
}

/// The uncertainty of a meter at one reading: ±(`of_reading` + `counts` × `resolution_si`).
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Accuracy {
    /// Share of the reading.
    pub of_reading: Fraction,
    /// Counts in the last digit; zero or more.
    pub counts: f64,
    /// What one count is worth, in the base unit of what is read.
    pub resolution_si: f64,
}

impl Accuracy {
    /// How far the part may be to either side, in the base unit, if the meter shows `value`.
    #[must_use]
    pub fn half_si(&self, value: f64) -> f64 {
        value.abs() * self.of_reading.fraction().abs() + self.counts.abs() * self.resolution_si
    }

    /// The least and the most, in the base unit, that the part may have if the meter shows `value`.
    #[must_use]
    pub fn band_si(&self, value: f64) -> (f64, f64) {
        let half = self.half_si(value);
        ((value - half).max(0.0), value + half)
    }
}

/// One reading.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Reading {
    /// What was read.
    pub quantity: ReadQuantity,
    /// What the meter showed.
    pub shown: Shown,
    /// At which pin, of a circuit or a valve.
    pub pin: Option<u8>,
    /// How the part sat.
    pub state: State,
    /// Marked hot by whoever measured.
    pub hot: bool,
    /// Time since the iron was last on it, where that is known.
    pub since_soldering: Option<Second>,
    /// How the meter measures.
    pub mode: Mode,
    /// The meter's test voltage, where it is known.
    pub test_voltage: Option<Volt>,
    /// The meter's test frequency, where it is known.
    pub test_frequency: Option<Hertz>,
    /// How a leakage tester's switch stood, where it has one.
    pub setting: Option<Setting>,
    /// The meter's uncertainty, where it is known.
    pub accuracy: Option<Accuracy>,
}

impl Reading {
    /// A reading of `quantity` with direct current and nothing else known of it, the part out of circuit.
    #[must_use]
    pub fn of(quantity: ReadQuantity, shown: Shown) -> Self {
        Self {
            quantity,
            shown,
            pin: None,
            state: State::OutOfCircuit,
            hot: false,
            since_soldering: None,
            mode: Mode::Dc,
            test_voltage: None,
            test_frequency: None,
            setting: None,
            accuracy: None,
        }
    }

    /// Whether it is of volts at that pin, in the set or with what hangs on it lifted.
    #[must_use]
    pub fn is_at_pin(&self, pin: u8, lifted: bool) -> bool {
        self.quantity == ReadQuantity::PinVoltage && self.pin == Some(pin) && self.still_connected() != lifted
    }

    /// The value in the base unit; `None` beyond the range.
    #[must_use]
    pub fn value_si(&self) -> Option<f64> {
        match self.shown {
            Shown::Value { si } => Some(si),
            Shown::Overrange { .. } => None,
        }
    }

    /// The least and the most that the part may have, in the base unit; `None` beyond the range.
    #[must_use]
    pub fn band_si(&self) -> Option<(f64, f64)> {
        self.value_si().map(|v| self.accuracy.map_or((v, v), |a| a.band_si(v)))
    }

    /// Its value in ohm where it is one.
    #[must_use]
    pub fn ohms(&self) -> Option<Ohm> {
        if self.quantity.quantity() != Quantity::Resistance {
            return None;
        }
        self.value_si().and_then(|v| Ohm::new(v).ok())
    }

    /// Whether what lies in parallel in the set is still in the reading. A pulled valve frees a resistor's
    /// end, but not the end of a part that hangs on resistors too.
    #[must_use]
    pub fn still_connected(&self) -> bool {
        match self.state {
            State::InCircuit => true,
            State::ValvePulled => self.quantity != ReadQuantity::Resistance,
            State::Lifted | State::OutOfCircuit => false,
        }
    }

    /// Whether a go/no-go eye opened.
    #[must_use]
    pub fn eye_opens(&self) -> bool {
        self.quantity == ReadQuantity::LeakageEye && self.value_si().is_some_and(|v| v > 0.0)
    }

    /// The value as it is written; "overrange" beyond the range.
    #[must_use]
    pub fn written(&self) -> String {
        self.value_si().map_or_else(|| "overrange".to_owned(), |v| self.quantity.written(v))
    }

    /// Its uncertainty in the meter's hands as it is written: `±1.2 Ω`.
    #[must_use]
    pub fn uncertainty(&self) -> Option<String> {
        let half = self.accuracy?.half_si(self.value_si()?);
        Some(format!("±{}", format_as(self.quantity.quantity(), half, 2, CapacitanceStyle::WithNano)))
    }
}
