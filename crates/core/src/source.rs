//! Where a number comes from. A rule without a source is an opinion, and is marked as one.

use std::fmt;
use std::str::FromStr;

use serde::Deserialize;

use crate::named::{Named, named};

named! {
    /// How much a source can be relied on.
    "kind of source" SourceKind {
        /// A published standard.
        Standard = "standard",
        /// A published handbook or data sheet.
        Handbook = "handbook",
        /// Common bench practice, no publication behind it.
        Practice = "practice",
        /// Recalled; to be checked before it is relied on.
        Memory = "memory",
    }
}

/// The source of a rule or of a table row: its kind and where to look.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Source {
    /// How much it can be relied on.
    pub kind: SourceKind,
    /// Standard and clause, title and page, or what is remembered.
    pub clause: String,
}

impl Source {
    /// Common practice with a word about it.
    #[must_use]
    pub fn practice(clause: &str) -> Self {
        Self { kind: SourceKind::Practice, clause: clause.to_owned() }
    }

    /// A published handbook or a law of physics, and where to look.
    #[must_use]
    pub fn handbook(clause: &str) -> Self {
        Self { kind: SourceKind::Handbook, clause: clause.to_owned() }
    }

    /// Recalled, to be checked before it is relied on.
    #[must_use]
    pub fn memory(clause: &str) -> Self {
        Self { kind: SourceKind::Memory, clause: clause.to_owned() }
    }

    /// A published standard and clause.
    #[must_use]
    pub fn standard(clause: &str) -> Self {
        Self { kind: SourceKind::Standard, clause: clause.to_owned() }
    }
}

impl Source {
    /// Whether it was recalled and not looked up: memory, or a publication that the row admits to have from memory.
    #[must_use]
    pub fn is_recalled(&self) -> bool {
        self.kind == SourceKind::Memory || self.clause.contains("memory")
    }

    /// In a word or two: the standard's number, or the kind.
    #[must_use]
    pub fn short(&self) -> &str {
        match self.kind {
            SourceKind::Standard | SourceKind::Handbook => {
                self.clause.split([',', ':', ';']).next().unwrap_or(&self.clause)
            }
            SourceKind::Practice | SourceKind::Memory => self.kind.name(),
        }
    }
}

impl Source {
    /// `kind: clause`, as the data files write it; [`Source::from_stored`] reads it again.
    #[must_use]
    pub fn stored(&self) -> String {
        format!("{}: {}", self.kind, self.clause)
    }

    /// What was kept: `kind: clause`, or what older releases kept of standards and handbooks, the clause alone.
    #[must_use]
    pub fn from_stored(text: &str) -> Self {
        let standards = ["IEC", "EIA", "MIL", "RMA", "RETMA", "JIS", "DIN", "BS "];
        text.parse().unwrap_or_else(|_| {
            if standards.iter().any(|s| text.starts_with(s)) {
                Self::standard(text)
            } else {
                Self::handbook(text)
            }
        })
    }
}

impl fmt::Display for Source {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        match (self.kind, self.clause.is_empty()) {
            (SourceKind::Standard | SourceKind::Handbook, false) => f.write_str(&self.clause),
            (kind, true) => write!(f, "{kind}"),
            (kind, false) => write!(f, "{kind}: {}", self.clause),
        }
    }
}

/// A source that names no kind.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
#[error("a source is written 'standard: …', 'handbook: …', 'practice: …' or 'memory: …', not '{0}'")]
pub struct SourceError(String);

impl FromStr for Source {
    type Err = SourceError;

    /// Reads `kind: clause`, as the data files write it.
    fn from_str(text: &str) -> Result<Self, SourceError> {
        let (kind, clause) = text.split_once(':').unwrap_or((text, ""));
        let kind = kind.parse().map_err(|_| SourceError(text.to_owned()))?;
        Ok(Self { kind, clause: clause.trim().to_owned() })
    }
}

impl<'de> Deserialize<'de> for Source {
    fn deserialize<D: serde::Deserializer<'de>>(d: D) -> Result<Self, D::Error> {
        String::deserialize(d)?.parse().map_err(serde::de::Error::custom)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn a_source_is_written_and_read_the_same_way() {
        let s: Source = "practice: on the edge counts as out".parse().expect("legal");
        assert_eq!(s, Source::practice("on the edge counts as out"));
        assert_eq!(s.to_string(), "practice: on the edge counts as out");
        let iec: Source = "standard: IEC 60062:2016, table 1".parse().expect("legal");
        assert_eq!(iec.to_string(), "IEC 60062:2016, table 1");
        assert_eq!((iec.short(), s.short()), ("IEC 60062", "practice"));
        assert!("hearsay: a man in a pub".parse::<Source>().is_err());
    }
}
