//! What may be asked of an instrument. Nothing in this list puts volts on anything: the voltage and the switch of a
//! leakage tester or a reforming supply are read, never set.

use owl_core::quantity::Hertz;
use owl_core::reading::{Mode, ReadQuantity};

/// What an instrument is to measure.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Measure {
    /// A quantity of a part.
    Part {
        /// Which.
        quantity: ReadQuantity,
        /// With direct or alternating current.
        mode: Mode,
        /// At which frequency.
        frequency: Option<Hertz>,
    },
    /// Direct volts across what is on the clips.
    Volts,
    /// Direct current into it.
    Current,
}

impl Measure {
    /// The commands that choose it (SCPI-1999 style). `None` for what no instrument is asked for.
    #[must_use]
    pub fn chooses(self) -> Option<Vec<String>> {
        let function = match self {
            Self::Volts => "VOLT:DC",
            Self::Current => "CURR:DC",
            Self::Part { quantity, mode, .. } => match (quantity, mode) {
                (ReadQuantity::Resistance, Mode::Dc) => "RES",
                (ReadQuantity::Resistance, Mode::Ac) => "RES:AC",
                (ReadQuantity::Capacitance, _) => "CAP",
                (ReadQuantity::Esr, _) => "ESR",
                (ReadQuantity::DissipationFactor, _) => "DISS",
                (ReadQuantity::LeakageCurrent | ReadQuantity::CutOffCurrent, _) => "LEAK:CURR",
                (ReadQuantity::LeakageResistance, _) => "LEAK:RES",
                (ReadQuantity::LeakagePercent, _) => "LEAK:PERC",
                (ReadQuantity::Inductance, _) => "IND",
                (ReadQuantity::ForwardVoltage, _) => "DIOD",
                (ReadQuantity::PinVoltage, _) => "VOLT:DC",
                (ReadQuantity::Gain, _) => "HFE",
                (ReadQuantity::CathodeCurrent, _) => "CURR:DC",
                (ReadQuantity::HeaterCathode, _) => "RES",
                (
                    ReadQuantity::TurnsRatio
                    | ReadQuantity::BreakdownVoltage
                    | ReadQuantity::LeakageEye
                    | ReadQuantity::Emission
                    | ReadQuantity::Transconductance
                    | ReadQuantity::GridCurrent,
                    _,
                ) => return None,
            },
        };
        let mut commands = vec![format!("CONF:{function}")];
        if let Self::Part { frequency: Some(f), mode: Mode::Ac, .. } = self {
            commands.push(format!("SENS:FREQ {}", f.hertz()));
        }
        Some(commands)
    }

    /// Whether its frequency is asked afterwards.
    #[must_use]
    pub fn has_frequency(self) -> bool {
        matches!(self, Self::Part { mode: Mode::Ac, .. })
    }

    /// Whether its voltage and its switch are asked afterwards.
    #[must_use]
    pub fn has_voltage(self) -> bool {
        matches!(self, Self::Part { quantity, .. } if quantity.measured_as().is_leakage())
    }
}
