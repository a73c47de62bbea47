//! Safety classes of capacitors that touch the mains (IEC 60384-14), and the places that ask for one.
//!
//! A class is a property that is marked on a part or is not known; it is never guessed from its value, its volts or
//! its maker.

use std::sync::LazyLock;

use serde::Deserialize;

use super::Position;
use crate::named::{Named, named};
use crate::source::Source;
use crate::table::rows;

named! {
    /// What a part may be put across, by IEC 60384-14.
    "safety class" SafetyClass {
        /// Across the line, high pulse.
        X1 = "X1",
        /// Across the line.
        X2 = "X2",
        /// From line to touchable metal, double insulation.
        Y1 = "Y1",
        /// From line to touchable metal, basic insulation.
        Y2 = "Y2",
    }
}

/// What a place asks for.
#[derive(Debug, Clone, Deserialize)]
pub struct ClassRule {
    /// The place.
    pub position: Position,
    #[serde(deserialize_with = "classes")]
    /// The classes that may sit there, the usual one first.
    pub classes: Vec<SafetyClass>,
    /// Where that comes from.
    pub source: Source,
}

fn classes<'de, D: serde::Deserializer<'de>>(d: D) -> Result<Vec<SafetyClass>, D::Error> {
    let text = String::deserialize(d)?;
    text.split(';').map(SafetyClass::from_name).collect::<Result<_, _>>().map_err(serde::de::Error::custom)
}

static RULES: LazyLock<Vec<ClassRule>> =
    LazyLock::new(|| rows("safety_class.csv", include_str!("../../data/safety_class.csv")));

/// What is wrong with a class in a place.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum ClassError {
    /// The place asks for a class, and none is known.
    #[error(
        "{position}: the part there protects people; say the safety class that is printed on it, {wanted}. Local electrical codes come first"
    )]
    Unknown {
        /// The place.
        position: Position,
        /// The classes that may sit there.
        wanted: String,
    },
    /// A class that does not belong there.
    #[error("class {class} {position}: it needs class {wanted}. Local electrical codes come first")]
    Wrong {
        /// The place.
        position: Position,
        /// What it is.
        class: SafetyClass,
        /// The classes that may sit there.
        wanted: String,
    },
}

impl Position {
    /// What a place asks of a capacitor's safety class; `None` where any part may sit (rule R4s).
    #[must_use]
    pub fn class_rule(self) -> Option<&'static ClassRule> {
        RULES.iter().find(|r| r.position == self)
    }

    /// Whether the part there protects people, so that it is a safety class part or goes.
    #[must_use]
    pub fn protects_people(self) -> bool {
        self.class_rule().is_some()
    }

    /// Whether a capacitor of that class may sit there.
    ///
    /// # Errors
    /// [`ClassError`], naming the classes that may.
    ///
    /// ```
    /// use owl_core::part::{Position, SafetyClass};
    /// assert!(Position::AcrossTheLine.takes_class(Some(SafetyClass::X2)).is_ok());
    /// assert!(Position::LineToChassis.takes_class(Some(SafetyClass::X2)).is_err());
    /// assert!(Position::LineToChassis.takes_class(None).is_err());
    /// assert!(Position::Coupling.takes_class(None).is_ok());
    /// ```
    pub fn takes_class(self, class: Option<SafetyClass>) -> Result<(), ClassError> {
        let Some(rule) = self.class_rule() else { return Ok(()) };
        let wanted = rule.wanted();
        match class {
            Some(c) if rule.classes.contains(&c) => Ok(()),
            Some(class) => Err(ClassError::Wrong { position: self, class, wanted }),
            None => Err(ClassError::Unknown { position: self, wanted }),
        }
    }
}

impl ClassRule {
    /// The classes in words: `X2 or X1`.
    #[must_use]
    pub fn wanted(&self) -> String {
        self.classes.iter().map(|c| c.name()).collect::<Vec<_>>().join(" or ")
    }
}
