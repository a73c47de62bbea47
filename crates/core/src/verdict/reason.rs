//! One line of a verdict: the rule, the sum with its numbers, the source.

use serde::{Deserialize, Serialize};

use crate::named::named;
use crate::source::Source;

named! {
    /// The rule that a reason rests on.
    "rule" Rule {
        /// Tolerance.
        Tolerance = "R1",
        /// Agreement of a pair.
        Pair = "R1p",
        /// What an in-circuit reading proves.
        InCircuit = "R2",
        /// What heat does.
        Heat = "R3",
        /// What the meter's way of measuring hides.
        Method = "R3m",
        /// Leakage, by its consequence in its place.
        Leakage = "R4",
        /// What protects people.
        Protects = "R4s",
        /// Electrolytics.
        Electrolytic = "R5",
        /// What is known of the family.
        Family = "R6",
        /// Windings.
        Winding = "R6w",
        /// Diodes and rectifiers.
        Drop = "R6d",
        /// Transistors.
        Transistor = "R11",
        /// Integrated circuits.
        Circuit = "R21",
        /// Valves.
        Valve = "R23",
        /// Fuses.
        Fuse = "R24",
        /// Contacts.
        Contact = "R25",
        /// Loudspeakers.
        Loudspeaker = "R26",
        /// What is seen.
        VisualSign = "R6v",
    }
}

impl Rule {
    /// Where the rule comes from, where a reason has no closer source.
    #[must_use]
    pub fn source(self) -> Source {
        match self {
            Self::Tolerance => {
                Source::standard("IEC 60062:2016, tables 2 and 4; edge counts as out (practice)")
            }
            Self::Pair => Source::practice("halves of a pair as identical as possible"),
            Self::InCircuit => Source::practice("a parallel path can only lower an ohms reading"),
            Self::Heat => Source::practice("carbon composition reads low after the iron and creeps back"),
            Self::Method => Source::practice("alternating current measures impedance, not resistance"),
            Self::Leakage => Source::practice("leakage is judged by its consequence in its place"),
            Self::Protects => {
                Source::practice("parts that protect people go whatever they read; local code comes first")
            }
            Self::Electrolytic => Source::memory("general-purpose series, and IEC 60384-4"),
            Self::Family => Source::practice("what is known of the family"),
            Self::Winding => Source::practice("copper and temperature together"),
            Self::Drop => Source::memory("drops of healthy junctions"),
            Self::Transistor => Source::practice("two junctions, gain, leakage, breakdown"),
            Self::Circuit => Source::practice("feed, ground, what hangs on the pin, and the circuit last"),
            Self::Valve => Source::practice("what is seen, the heater, shorts, emission by its place, gas"),
            Self::Fuse => Source::practice("a fuse's wire drops a volt or two at its current"),
            Self::Contact => Source::practice("a clean contact has a few milliohms"),
            Self::Loudspeaker => {
                Source::practice("a voice coil's copper is about four fifths of its impedance")
            }
            Self::VisualSign => Source::practice("what is seen counts whatever is read"),
        }
    }
}

/// Why a verdict is what it is, in one line.
#[derive(Debug, Clone, PartialEq)]
pub struct Reason {
    /// The rule.
    pub rule: Rule,
    /// The sum with its numbers, in words.
    pub text: String,
    /// Where the rule comes from.
    pub source: Source,
}

impl Reason {
    /// A reason by `rule`, with the rule's own source.
    #[must_use]
    pub fn new(rule: Rule, text: impl Into<String>) -> Self {
        Self { rule, text: text.into(), source: rule.source() }
    }

    /// A reason by `rule` with a closer source.
    #[must_use]
    pub fn from(rule: Rule, text: impl Into<String>, source: &Source) -> Self {
        Self { rule, text: text.into(), source: source.clone() }
    }
}

/// A reason as it stood under a decision: rule and source by the names that they had then.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, Deserialize)]
pub struct StoredReason {
    /// The rule's number.
    pub rule: String,
    /// The sum with its numbers, in words.
    pub text: String,
    /// Where the rule came from.
    pub source: String,
    /// The same in a word or two.
    #[serde(default)]
    pub source_short: String,
    /// Whether it was recalled and not looked up.
    #[serde(default)]
    pub from_memory: bool,
}

impl From<&Reason> for StoredReason {
    fn from(r: &Reason) -> Self {
        Self {
            rule: r.rule.to_string(),
            text: r.text.clone(),
            source: r.source.to_string(),
            source_short: r.source.short().to_owned(),
            from_memory: r.source.is_recalled(),
        }
    }
}
