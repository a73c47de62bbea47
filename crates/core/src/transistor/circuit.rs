//! What the circuit really asks of a transistor, from its supply, load, current, heat and frequency.
//!
//! The original's sheet says what it can do; the circuit often asks for much less.

use super::rule::{RuleNumber, number};
use crate::named::named;
use crate::quantity::Quantity;
use crate::quantity::format::format;
use crate::source::Source;

named! {
    /// What the stage does.
    "stage" Stage {
        /// Little signals at audio.
        SmallSignal = "small signal",
        /// One output transistor that always conducts.
        ClassA = "class A output",
        /// Two output transistors on a transformer.
        TransformerPushPull = "push-pull output with transformer",
        /// Two of opposite polarity without one.
        Complementary = "complementary output",
        /// Two of the same polarity without one, behind a complementary driver pair.
        QuasiComplementary = "quasi-complementary output",
        /// Before the output stage, on a transformer or on its bases.
        Driver = "driver",
        /// Radio frequency, little signals.
        RadioFrequency = "radio frequency",
        /// Intermediate frequency.
        Intermediate = "intermediate frequency",
        /// Mixer or oscillator.
        Mixer = "mixer or oscillator",
        /// Before the last stage of a transmitter.
        RadioDriver = "radio frequency driver",
        /// Power at radio frequency, unmodulated or at a collector that is not modulated.
        RadioPower = "radio frequency power",
        /// Power at radio frequency with the modulation on its collector.
        ModulatedFinal = "AM final",
        /// In a supply.
        Regulator = "regulator",
        /// On or off.
        Switch = "switch",
    }
}

impl Stage {
    /// Whether a coil or a transformer is its load, so that its collector swings above the supply.
    #[must_use]
    pub fn swings_above(self) -> bool {
        match self {
            Self::ClassA
            | Self::TransformerPushPull
            | Self::Driver
            | Self::RadioFrequency
            | Self::Intermediate
            | Self::Mixer
            | Self::RadioDriver
            | Self::RadioPower
            | Self::ModulatedFinal => true,
            Self::SmallSignal
            | Self::Complementary
            | Self::QuasiComplementary
            | Self::Regulator
            | Self::Switch => false,
        }
    }

    /// Whether radio frequency flows in it.
    #[must_use]
    pub fn is_radio(self) -> bool {
        match self {
            Self::RadioFrequency
            | Self::Intermediate
            | Self::Mixer
            | Self::RadioDriver
            | Self::RadioPower
            | Self::ModulatedFinal => true,
            Self::SmallSignal
            | Self::Driver
            | Self::ClassA
            | Self::TransformerPushPull
            | Self::Complementary
            | Self::QuasiComplementary
            | Self::Regulator
            | Self::Switch => false,
        }
    }

    /// Whether it is radio frequency power: its base returns through a choke, so that what is registered with a resistor
    /// there counts.
    #[must_use]
    pub fn is_radio_power(self) -> bool {
        matches!(self, Self::RadioDriver | Self::RadioPower | Self::ModulatedFinal)
    }

    /// Whether it always conducts, a coil or a transformer being its load: what it draws at rest is what it dissipates.
    fn always_conducts(self) -> bool {
        matches!(self, Self::ClassA | Self::Driver)
    }

    /// Whether a loudspeaker is its load, which is no resistor.
    fn drives_a_loudspeaker(self) -> bool {
        matches!(
            self,
            Self::ClassA | Self::TransformerPushPull | Self::Complementary | Self::QuasiComplementary
        )
    }
}

/// What is known of the circuit; `None` is not known.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub struct CircuitNeed {
    /// What the stage does.
    pub stage: Option<Stage>,
    /// The highest supply, volt.
    pub supply_volts: Option<f64>,
    /// The load at the collector, ohm.
    pub load_ohms: Option<f64>,
    /// The greatest collector current, ampere.
    pub peak_amperes: Option<f64>,
    /// The collector current at rest, at which gain counts, ampere.
    pub rest_amperes: Option<f64>,
    /// What it dissipates, watt.
    pub dissipated_watts: Option<f64>,
    /// The heat sink's or case's temperature, °C.
    pub case_celsius: Option<f64>,
    /// The highest frequency, hertz.
    pub hertz: Option<f64>,
    /// The least gain that does.
    pub least_gain: Option<f64>,
    /// From the supply to the base, ohm.
    pub upper_ohms: Option<f64>,
    /// From the base to the other rail, ohm.
    pub lower_ohms: Option<f64>,
    /// Whether another material is taken, the bias being changed.
    pub other_material: bool,
}

/// A number that the circuit asks for, and how it comes about.
#[derive(Debug, Clone, PartialEq)]
pub struct Asked {
    /// In the base unit.
    pub si: f64,
    /// The sum in words.
    pub because: String,
    /// Where the sum comes from.
    pub source: Source,
}

/// Volts of a junction that conducts, for what a resistor drives into a base (handbook value of silicon).
const JUNCTION: f64 = 0.7;

impl CircuitNeed {
    /// Whether anything that limits is known.
    #[must_use]
    pub fn says_something(&self) -> bool {
        self.volts().is_some()
            || self.amperes().is_some()
            || self.watts().is_some()
            || self.transition().is_some()
    }

    /// Collector volts: the supply; 1.3 times it in a half-bridge on a loudspeaker, twice where a coil or transformer is
    /// the load, four times where the collector is modulated (R11, practice).
    #[must_use]
    pub fn volts(&self) -> Option<Asked> {
        let supply = self.supply_volts?;
        let v = format(Quantity::Voltage, supply);
        let (factor, because) = if self.stage == Some(Stage::ModulatedFinal) {
            let factor = number(RuleNumber::ModulatedVolts);
            (
                factor,
                format!("{factor} × {v}: modulation doubles the supply, and the coil doubles that again"),
            )
        } else if matches!(self.stage, Some(Stage::Complementary | Stage::QuasiComplementary)) {
            let factor = number(RuleNumber::LoudspeakerMargin);
            (factor, format!("{factor} × {v}: a loudspeaker is no resistor"))
        } else if self.stage.is_some_and(Stage::swings_above) {
            (2.0, format!("2 × {v}: the collector swings above the supply by as much as below"))
        } else {
            (1.0, format!("the whole supply of {v}"))
        };
        Some(Asked {
            si: supply * factor,
            because,
            source: Source::handbook("transistor stages: collector swing"),
        })
    }

    /// Collector current: as said, or what the supply drives through the load.
    #[must_use]
    pub fn amperes(&self) -> Option<Asked> {
        if let Some(i) = self.peak_amperes {
            let because = format!("the circuit's {}", format(Quantity::Current, i));
            return Some(Asked { si: i, because, source: Source::practice("as said") });
        }
        let load = self.load_ohms?;
        let (swing, factor) = self.swing()?;
        let speaker = self.stage.is_some_and(Stage::drives_a_loudspeaker);
        let margin = if speaker { number(RuleNumber::LoudspeakerMargin) } else { 1.0 };
        let si = factor * swing / load * margin;
        let (v, r) = (format(Quantity::Voltage, swing), format(Quantity::Resistance, load));
        let because = if factor > 1.0 {
            format!("2 × {v} / {r}: twice the current at rest")
        } else {
            format!("{v} / {r}")
        };
        let because =
            if speaker { format!("{because}, × {margin}: a loudspeaker is no resistor") } else { because };
        Some(Asked { si, because, source: Source::handbook("Ohm's law") })
    }

    /// The volts that swing across the load, and how many times the current that they drive flows at most.
    fn swing(&self) -> Option<(f64, f64)> {
        let supply = self.supply_volts?;
        Some(match self.stage {
            Some(Stage::Complementary | Stage::QuasiComplementary) => (supply / 2.0, 1.0),
            Some(Stage::ClassA | Stage::Driver) => (supply, 2.0),
            _ => (supply, 1.0),
        })
    }

    /// Dissipation: as said, or the worst of the stage.
    ///
    /// Without a stage: all the volts at all the current. Class B: each half at most V² / (π² R) with V from rail to middle; class A with a coil: V² / R at rest; a
    /// resistive load at most V² / (4 R).
    #[must_use]
    pub fn watts(&self) -> Option<Asked> {
        if let Some(p) = self.dissipated_watts {
            let because = format!("the circuit's {}", format(Quantity::Power, p));
            return Some(Asked { si: p, because, source: Source::practice("as said") });
        }
        let supply = self.supply_volts?;
        if let Some(rest) = self.rest_amperes.filter(|_| self.stage.is_some_and(Stage::always_conducts)) {
            let because = format!(
                "{} × {} at rest",
                format(Quantity::Voltage, supply),
                format(Quantity::Current, rest)
            );
            return Some(Asked { si: supply * rest, because, source: Source::handbook("class A stages") });
        }
        // A load that nobody measured is what draws the greatest current.
        let load = self.load_ohms.or_else(|| {
            let (swing, factor) = self.swing()?;
            Some(factor * swing / self.peak_amperes?)
        })?;
        let r = format(Quantity::Resistance, load);
        let pi2 = std::f64::consts::PI.powi(2);
        let Some(stage) = self.stage else {
            // Whatever the stage does, it is no more than all the volts at all the current.
            let amperes = supply / load;
            let because = format!(
                "at most {} × {}; less once the stage is said",
                format(Quantity::Voltage, supply),
                format(Quantity::Current, amperes)
            );
            return Some(Asked { si: supply * amperes, because, source: Source::handbook("Joule's law") });
        };
        let (si, because) = match stage {
            Stage::Complementary | Stage::QuasiComplementary => {
                let v = supply / 2.0;
                (
                    v * v / (pi2 * load),
                    format!("({})² / (π² × {r}) for each half", format(Quantity::Voltage, v)),
                )
            }
            Stage::TransformerPushPull => (
                supply * supply / (pi2 * load),
                format!("({})² / (π² × {r}) for each half", format(Quantity::Voltage, supply)),
            ),
            Stage::ClassA | Stage::Driver => {
                (supply * supply / load, format!("({})² / {r} at rest", format(Quantity::Voltage, supply)))
            }
            Stage::SmallSignal => (
                supply * supply / (4.0 * load),
                format!(
                    "({})² / (4 × {r}), the worst of a resistive load",
                    format(Quantity::Voltage, supply)
                ),
            ),
            Stage::RadioFrequency
            | Stage::Intermediate
            | Stage::Mixer
            | Stage::RadioDriver
            | Stage::RadioPower
            | Stage::ModulatedFinal
            | Stage::Regulator
            | Stage::Switch => return None,
        };
        Some(Asked { si, because, source: Source::handbook("class A and B stages") })
    }

    /// Transition frequency: so many times the working frequency, fewer where power is all that is asked.
    #[must_use]
    pub fn transition(&self) -> Option<Asked> {
        let f = self.hertz?;
        let power = self.stage.is_some_and(Stage::is_radio_power);
        let (rule, source) = if power {
            (RuleNumber::PowerFrequencyFactor, "radio frequency power: at least twice")
        } else {
            (RuleNumber::FrequencyFactor, "gain of ten left at the working frequency")
        };
        let factor = number(rule);
        let because = format!("{factor} × {}", format(Quantity::Frequency, f));
        Some(Asked { si: f * factor, because, source: Source::practice(source) })
    }

    /// The least gain that does: as said, or of a switch what its base resistors leave it, Ic / Ib, with the current at
    /// which it is asked.
    #[must_use]
    pub fn gain_asked(&self) -> Option<(f64, Option<f64>)> {
        if let Some(g) = self.least_gain {
            return Some((g, self.rest_amperes));
        }
        if self.stage != Some(Stage::Switch) {
            return None;
        }
        let (supply, upper, amperes) = (self.supply_volts?, self.upper_ohms?, self.amperes()?.si);
        let base = (supply - JUNCTION) / upper - self.lower_ohms.map_or(0.0, |r| JUNCTION / r);
        (base > 0.0).then(|| (amperes / base, Some(amperes)))
    }

    /// The temperature of heat sink or case: as said, or what is taken for one that nobody measured.
    #[must_use]
    pub fn celsius(&self) -> f64 {
        self.case_celsius.unwrap_or_else(|| number(RuleNumber::CaseTemperature))
    }
}
