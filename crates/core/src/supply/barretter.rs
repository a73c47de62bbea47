//! A barretter: an iron filament in hydrogen that holds the current of a heater chain over a range of volts.

use serde::{Deserialize, Serialize};

use crate::quantity::parse::{self, EntryError};
use crate::quantity::{Ampere, Quantity, Volt};

/// What is printed on one, or in its data: `300 mA 80-200 V`.
#[derive(Debug, Clone, Copy, PartialEq, Serialize, Deserialize)]
pub struct Barretter {
    /// What it holds.
    pub current: Ampere,
    /// The least volts at which it does.
    pub least: Volt,
    /// The most.
    pub most: Volt,
}

/// What is typed and is no barretter.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
pub enum BarretterError {
    /// Current and two voltages are not there.
    #[error("a barretter is said by its current and its volts from and to, such as 0.2 A 60-120 V")]
    Form,
    /// A number that is none.
    #[error(transparent)]
    Entry(#[from] EntryError),
    /// The range is none, or nothing is held.
    #[error("its volts go from the lower to the higher, and its current is above zero")]
    Range,
}

impl std::str::FromStr for Barretter {
    type Err = BarretterError;

    /// Reads a current and the two ends of a range of volts, with or without their units.
    ///
    /// ```
    /// use owl_core::supply::barretter::Barretter;
    /// let b: Barretter = "0.15A 40 to 90 V".parse().expect("as data has it");
    /// assert_eq!(b.to_string(), "150 mA, 40 V to 90 V");
    /// assert!("0.15A".parse::<Barretter>().is_err());
    /// ```
    fn from_str(text: &str) -> Result<Self, BarretterError> {
        let spaced = text.replace(['–', '…', ';'], " ").replace(" to ", " ").replace(", ", " ");
        let mut parts: Vec<String> = Vec::new();
        for word in spaced.split_whitespace().flat_map(|w| w.split('-')).filter(|w| !w.is_empty()) {
            match parts.last_mut() {
                // "80 V" is one number typed as two words.
                Some(last) if word.chars().all(char::is_alphabetic) => last.push_str(word),
                _ => parts.push(word.to_owned()),
            }
        }
        let [current, least, most] = parts.as_slice() else { return Err(BarretterError::Form) };
        let volts = |t: &str| parse::best(Quantity::Voltage, t);
        let (current, least, most) = (parse::best(Quantity::Current, current)?, volts(least)?, volts(most)?);
        if !(current > 0.0 && current < 100.0 && least > 0.0 && most > least && most < 1e3) {
            return Err(BarretterError::Range);
        }
        let volt = |v: f64| Volt::new(v).map_err(|e| BarretterError::Entry(EntryError::Quantity(e)));
        let current = Ampere::new(current).map_err(|e| BarretterError::Entry(EntryError::Quantity(e)))?;
        Ok(Self { current, least: volt(least)?, most: volt(most)? })
    }
}

impl std::fmt::Display for Barretter {
    fn fmt(&self, f: &mut std::fmt::Formatter<'_>) -> std::fmt::Result {
        write!(f, "{}, {} to {}", self.current, self.least, self.most)
    }
}
