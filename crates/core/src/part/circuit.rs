//! What is known of the circuit round a part, as far as a verdict depends on it.

use std::collections::BTreeMap;
use std::sync::LazyLock;

use serde::{Deserialize, Serialize};

use crate::named::{Named, named};
use crate::part::Position;
use crate::quantity::format::format;
use crate::quantity::{Quantity, Unit, Volt};
use crate::source::Source;
use crate::table::rows;

named! {
    /// A fact of the circuit round a part.
    "circuit fact" Fact {
        /// Volts across the part when the set runs.
        Voltage = "voltage",
        /// Volts ahead of its feed.
        Rail = "rail",
        /// From the grid to its return.
        GridResistor = "grid_resistor",
        /// Grid against cathode.
        Bias = "bias",
        /// Between the rail and the part.
        FeedResistor = "feed_resistor",
        /// Watts of that resistor.
        FeedPower = "feed_power",
        /// From the detector to the AVC line.
        SourceResistance = "source_resistance",
        /// Of a transformer, as the sheet has it.
        TurnsRatio = "turns_ratio",
        /// Of the line at the wall.
        Line = "line",
        /// Of the line.
        Frequency = "frequency",
        /// Volts rms at the rectifier, of one half where the winding has a middle tap.
        Secondary = "secondary",
        /// Direct current that the supply gives.
        LoadCurrent = "load_current",
        /// Ohm of winding, line and series resistor together.
        ChargingPath = "charging_path",
        /// The most that the rectifier valve takes as its first filter.
        FirstFilterLimit = "first_filter_limit",
        /// The peak that one plate of the rectifier valve stands.
        RectifierPeak = "rectifier_peak",
        /// Plates of the rectifier valve that conduct by turns.
        RectifierPlates = "rectifier_plates",
        /// Times of the switch-on surge that the rectifier lets through: 1 of a fast one, 0 of one whose cathode is heated
        /// as slowly as those of the set.
        RectifierSurge = "rectifier_surge",
        /// Of the ripple behind the rectifier.
        RippleFrequency = "ripple_frequency",
        /// What a collector works into.
        LoadResistance = "load_resistance",
        /// The most that a collector carries.
        PeakCurrent = "peak_current",
        /// What a collector carries without a signal.
        RestCurrent = "rest_current",
        /// Of a heat sink or case at work, °C.
        CaseTemperature = "case_temperature",
        /// The highest at which a stage works.
        WorkingFrequency = "working_frequency",
        /// Under an emitter.
        EmitterResistor = "emitter_resistor",
        /// From the supply to a base.
        BaseUpper = "base_upper",
        /// From a base to the other rail.
        BaseLower = "base_lower",
        /// Of a transistor, the least that does in its place.
        LeastGain = "least_gain",
    }
}

/// What is said of a fact on the screen.
#[derive(Debug, Clone, Deserialize)]
pub struct Labelled {
    /// The fact.
    pub fact: Fact,
    /// What it is measured in.
    pub quantity: Quantity,
    /// Its name in a form.
    pub label: String,
    /// What is meant by it.
    pub meaning: String,
    /// Whether somebody says it; otherwise it follows from another, as from a valve's type.
    #[serde(deserialize_with = "crate::table::yes")]
    pub said: bool,
    /// Where its use comes from.
    pub source: Source,
}

static LABELS: LazyLock<Vec<Labelled>> =
    LazyLock::new(|| rows("fact.csv", include_str!("../../data/fact.csv")));

impl Fact {
    /// What it is measured in.
    #[must_use]
    pub fn quantity(self) -> Quantity {
        match self {
            Self::Voltage | Self::Rail | Self::Bias | Self::Line | Self::Secondary => Quantity::Voltage,
            Self::GridResistor
            | Self::FeedResistor
            | Self::SourceResistance
            | Self::ChargingPath
            | Self::LoadResistance
            | Self::EmitterResistor
            | Self::BaseUpper
            | Self::BaseLower => Quantity::Resistance,
            Self::FeedPower => Quantity::Power,
            Self::TurnsRatio | Self::RectifierPlates | Self::RectifierSurge | Self::LeastGain => {
                Quantity::Ratio
            }
            Self::Frequency | Self::RippleFrequency | Self::WorkingFrequency => Quantity::Frequency,
            Self::LoadCurrent | Self::RectifierPeak | Self::PeakCurrent | Self::RestCurrent => {
                Quantity::Current
            }
            Self::CaseTemperature => Quantity::Temperature,
            Self::FirstFilterLimit => Quantity::Capacitance,
        }
    }

    /// Whether it is one of the whole set, which every part of it shares.
    #[must_use]
    pub fn is_of_the_set(self) -> bool {
        match self {
            Self::Line
            | Self::Frequency
            | Self::Secondary
            | Self::LoadCurrent
            | Self::ChargingPath
            | Self::FirstFilterLimit
            | Self::RectifierPeak
            | Self::RectifierPlates
            | Self::RectifierSurge
            | Self::RippleFrequency => true,
            Self::Voltage
            | Self::Rail
            | Self::GridResistor
            | Self::Bias
            | Self::FeedResistor
            | Self::FeedPower
            | Self::SourceResistance
            | Self::TurnsRatio
            | Self::LoadResistance
            | Self::PeakCurrent
            | Self::RestCurrent
            | Self::CaseTemperature
            | Self::WorkingFrequency
            | Self::EmitterResistor
            | Self::BaseUpper
            | Self::BaseLower
            | Self::LeastGain => false,
        }
    }

    /// Whether a rectifier valve's type says it beside its limit.
    #[must_use]
    pub fn comes_with_the_rectifier(self) -> bool {
        matches!(self, Self::RectifierPeak | Self::RectifierPlates | Self::RectifierSurge)
    }

    /// The facts that somebody says, in the table's order.
    pub fn said() -> impl Iterator<Item = Self> {
        Self::ALL.iter().copied().filter(|f| f.label().is_some_and(|l| l.said))
    }

    /// Its label; `None` only if the table lacks it, which a test rules out.
    #[must_use]
    pub fn label(self) -> Option<&'static Labelled> {
        LABELS.iter().find(|l| l.fact == self)
    }
}

/// A number that cannot be that fact.
#[derive(Debug, Clone, Copy, PartialEq, thiserror::Error)]
pub enum CircuitError {
    /// Not a number, or infinite.
    #[error("a number is needed, not infinity and not nothing")]
    NotFinite,
    /// Zero or below where only more is possible.
    #[error("a value above zero is needed")]
    NotPositive,
    /// Colder or hotter than any heat sink.
    #[error("a heat sink is between −40 and 200 °C")]
    NotATemperature,
}

/// The facts that are known, in SI base units. Written as a map of them; what cannot be a fact is not read.
#[derive(Debug, Clone, Default, PartialEq, Serialize, Deserialize)]
#[serde(try_from = "BTreeMap<Fact, f64>")]
pub struct Circuit(BTreeMap<Fact, f64>);

impl TryFrom<BTreeMap<Fact, f64>> for Circuit {
    type Error = CircuitError;

    fn try_from(facts: BTreeMap<Fact, f64>) -> Result<Self, CircuitError> {
        let mut circuit = Self::default();
        facts.into_iter().try_for_each(|(fact, value)| circuit.set_si(fact, value))?;
        Ok(circuit)
    }
}

impl Circuit {
    /// What stands across a resistor: what was said, else all of the rail where it lies across the whole supply.
    #[must_use]
    pub fn across(&self, position: Option<Position>) -> Option<Volt> {
        let whole = || {
            let across = position.is_some_and(Position::lies_across_the_rail);
            self.get_si(Fact::Rail).filter(|_| across)
        };
        self.get_si(Fact::Voltage).or_else(whole).map(Volt::computed)
    }

    /// Sets a fact, in the base unit of its quantity.
    ///
    /// # Errors
    /// [`CircuitError`]; a bias may be negative or zero, volts may be negative but not zero, a heat sink is between −40 and 200 °C, all else is above
    /// zero.
    pub fn set_si(&mut self, fact: Fact, value_si: f64) -> Result<(), CircuitError> {
        if !value_si.is_finite() {
            return Err(CircuitError::NotFinite);
        }
        if fact == Fact::CaseTemperature && !(-40.0..=200.0).contains(&value_si) {
            return Err(CircuitError::NotATemperature);
        }
        let wrong = match fact {
            Fact::Bias | Fact::CaseTemperature => false,
            Fact::RectifierSurge => value_si < 0.0,
            Fact::Voltage | Fact::Rail => value_si == 0.0,
            Fact::GridResistor
            | Fact::FeedResistor
            | Fact::FeedPower
            | Fact::SourceResistance
            | Fact::TurnsRatio
            | Fact::Line
            | Fact::Frequency
            | Fact::Secondary
            | Fact::LoadCurrent
            | Fact::ChargingPath
            | Fact::RectifierPeak
            | Fact::RectifierPlates
            | Fact::FirstFilterLimit
            | Fact::RippleFrequency
            | Fact::LoadResistance
            | Fact::PeakCurrent
            | Fact::RestCurrent
            | Fact::WorkingFrequency
            | Fact::EmitterResistor
            | Fact::BaseUpper
            | Fact::BaseLower
            | Fact::LeastGain => value_si <= 0.0,
        };
        if wrong {
            return Err(CircuitError::NotPositive);
        }
        self.0.insert(fact, value_si);
        Ok(())
    }

    /// Takes a fact away.
    pub fn forget(&mut self, fact: Fact) {
        self.0.remove(&fact);
    }

    /// Takes over what `other` knows, in place of what was known.
    pub fn overlay(&mut self, other: &Self) {
        self.0.extend(other.0.iter().map(|(f, v)| (*f, *v)));
    }

    /// A fact in the base unit of its quantity; volts without their sign, except the bias.
    #[must_use]
    pub fn get_si(&self, fact: Fact) -> Option<f64> {
        let value = self.0.get(&fact).copied()?;
        let signed = matches!(fact, Fact::Bias | Fact::CaseTemperature);
        Some(if signed { value } else { value.abs() })
    }

    /// A fact in its unit; volts without their sign, except the bias.
    ///
    /// # Panics
    /// Where the fact is measured in another unit.
    #[must_use]
    #[track_caller]
    pub fn get<U: Unit>(&self, fact: Fact) -> Option<U> {
        assert_eq!(fact.quantity(), U::QUANTITY, "{fact} is of another unit");
        self.get_si(fact).map(U::of_known)
    }

    /// Whether the rectifier conducts before the set draws: not where its cathode is known to warm as slowly as theirs.
    #[must_use]
    pub fn lets_the_surge_through(&self) -> bool {
        self.get_si(Fact::RectifierSurge) != Some(0.0)
    }

    /// A fact as it is written.
    #[must_use]
    pub fn written(&self, fact: Fact) -> Option<String> {
        self.0.get(&fact).map(|v| format(fact.quantity(), *v).to_string())
    }

    /// All facts that are known.
    pub fn known(&self) -> impl Iterator<Item = (Fact, f64)> + '_ {
        self.0.iter().map(|(f, v)| (*f, *v))
    }
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::quantity::{Ohm, Volt};

    #[test]
    fn a_fact_comes_in_its_own_unit() {
        let mut circuit = Circuit::default();
        circuit.set_si(Fact::GridResistor, 220e3).unwrap();
        circuit.set_si(Fact::Rail, -60.0).unwrap();
        circuit.set_si(Fact::Bias, -7.5).unwrap();
        assert_eq!(circuit.get(Fact::GridResistor), Some(Ohm::computed(220e3)));
        assert_eq!(circuit.get(Fact::Rail), Some(Volt::computed(60.0)), "without its sign");
        assert_eq!(circuit.get(Fact::Bias), Some(Volt::computed(-7.5)), "with it");
        assert_eq!(circuit.get::<Ohm>(Fact::FeedResistor), None);
    }

    #[test]
    #[should_panic(expected = "another unit")]
    fn no_volt_is_read_as_an_ohm() {
        let _ = Circuit::default().get::<Ohm>(Fact::Rail);
    }
}
