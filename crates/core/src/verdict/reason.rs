//! One line of a verdict: the rule, the sum with its numbers, the source.

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
    }
}

impl Rule {
    /// Where the rule comes from.
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
}
