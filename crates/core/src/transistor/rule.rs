//! The numbers of taste of this desk, each with its source (`data/transistor_rule.csv`).

use std::sync::LazyLock;

use serde::Deserialize;

use crate::named::named;
use crate::source::Source;
use crate::table::rows;

named! {
    /// A number of taste.
    "transistor rule" RuleNumber {
        /// Volts by which the base bias is raised where silicon replaces germanium.
        SiliconForGermanium = "silicon for germanium",
        /// Transition frequency over working frequency.
        FrequencyFactor = "frequency factor",
        /// Transition frequency over working frequency where power is what is asked.
        PowerFrequencyFactor = "power frequency factor",
        /// Collector volts of a modulated final over its supply.
        ModulatedVolts = "modulated volts",
        /// Volts and current that a loudspeaker may ask over a resistor of its ohms.
        LoudspeakerMargin = "loudspeaker margin",
        /// Least share of the old transition frequency.
        TransitionLow = "transition low",
        /// Most times the old transition frequency.
        TransitionHigh = "transition high",
        /// °C of a heat sink that nobody measured.
        CaseTemperature = "case temperature",
        /// Decades of current over which the gain model is carried.
        GainDecades = "gain decades",
        /// The gain model's doubt for each decade.
        GainDoubt = "gain doubt",
        /// Least share of the old least gain.
        GainWindow = "gain window",
        /// Most times the old output capacitance at radio frequency.
        CapacitanceFactor = "capacitance factor",
        /// The most that a gain tester feeds through a collector, ampere.
        TesterCurrent = "tester current",
        /// How far a pair may be apart, by [`crate::transistor::pairs::distance`].
        PairDistance = "pair distance",
        /// How far the quiescent currents of a pair may be apart, as a share of their mean.
        IdleMismatch = "idle mismatch",
        /// Volts that a base needs less for each kelvin.
        BaseVoltsPerKelvin = "base volts per kelvin",
        /// Ohm across each diode of a string for each volt of its rating.
        EqualisingOhms = "equalising ohms",
        /// Farad across each diode of a string.
        EqualisingFarads = "equalising farads",
        /// Watts from which it counts as a power type.
        PowerSize = "power size",
    }
}

#[derive(Deserialize)]
struct Row {
    rule: RuleNumber,
    value: f64,
    text: String,
    source: Source,
}

static ROWS: LazyLock<Vec<Row>> =
    LazyLock::new(|| rows("transistor_rule.csv", include_str!("../../data/transistor_rule.csv")));

fn row(rule: RuleNumber) -> Option<&'static Row> {
    ROWS.iter().find(|r| r.rule == rule)
}

/// The number, in the unit that its name says.
pub(crate) fn number(rule: RuleNumber) -> f64 {
    row(rule).map_or(f64::NAN, |r| r.value)
}

/// What it means and where it comes from.
#[must_use]
pub fn about(rule: RuleNumber) -> Option<(&'static str, &'static Source)> {
    row(rule).map(|r| (r.text.as_str(), &r.source))
}

#[cfg(test)]
mod tests {
    use super::*;
    use crate::named::Named;

    #[test]
    fn every_number_has_a_row() {
        for r in RuleNumber::ALL {
            assert!(number(*r).is_finite() && about(*r).is_some(), "{r}");
        }
    }
}
