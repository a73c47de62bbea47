//! What a type number says of a transistor that no table knows: its series, and by it material, polarity and use.
//!
//! Cannot tell what a maker numbered by himself: a house number is a type of its own, and nothing follows from it.

use std::sync::LazyLock;

use serde::Deserialize;

use super::device::{Material, Polarity, with_prefix};
use crate::source::Source;
use crate::table::{rows, yes};

/// A series of type numbers.
#[derive(Debug, Clone, PartialEq, Deserialize)]
pub struct TypeFamily {
    start: String,
    digits_low: usize,
    digits_high: usize,
    /// Letters that may stand behind the digits: a group of gain, an improved type.
    suffix: usize,
    /// A letter that may stand before the digits, of types for professional use.
    serial: String,
    /// Whether so short a number is one of these only where it is known to be a transistor's.
    #[serde(deserialize_with = "yes")]
    surely: bool,
    /// What all of the series are made of, where that is one.
    pub material: Option<Material>,
    /// Which way round all of them are.
    pub polarity: Option<Polarity>,
    #[serde(rename = "power")]
    power_as_said: String,
    /// In words.
    pub says: String,
    /// Where that comes from.
    pub source: Source,
}

static FAMILIES: LazyLock<Vec<TypeFamily>> =
    LazyLock::new(|| rows("type_family.csv", include_str!("../../data/type_family.csv")));

impl TypeFamily {
    /// Whether they are made for power; `None` where the series has both.
    #[must_use]
    pub fn power(&self) -> Option<bool> {
        match self.power_as_said.as_str() {
            "yes" => Some(true),
            "no" => Some(false),
            _ => None,
        }
    }

    fn has(&self, text: &str, surely: bool) -> bool {
        let Some(rest) = text.strip_prefix(self.start.as_str()).filter(|_| surely || !self.surely) else {
            return false;
        };
        let serial = |c: char| {
            let mut ends = self.serial.split('-').filter_map(|e| e.chars().next());
            ends.next().zip(ends.next()).is_some_and(|(a, z)| (a..=z).contains(&c))
        };
        let rest = rest.strip_prefix(serial).unwrap_or(rest);
        let n = rest.chars().take_while(char::is_ascii_digit).count();
        let tail = rest.get(n..).unwrap_or_default();
        (self.digits_low..=self.digits_high).contains(&n)
            && tail.len() <= self.suffix
            && tail.chars().all(|c| c.is_ascii_uppercase())
    }
}

/// A type number in the capitals and letters of the table: without blanks and dashes, Cyrillic as it is transcribed.
///
/// ```
/// use owl_core::transistor::type_family::plain;
/// assert_eq!(plain("кт315б"), "KT315B");
/// assert_eq!(plain("2n-2219 a"), "2N2219A");
/// ```
#[must_use]
pub fn plain(type_number: &str) -> String {
    type_number
        .to_uppercase()
        .chars()
        .filter(|c| !c.is_whitespace() && *c != '-')
        .map(|c| match c {
            'А' => 'A',
            'Б' => 'B',
            'В' => 'V',
            'Г' => 'G',
            'Д' => 'D',
            'Е' => 'E',
            'Ж' => 'J',
            'И' => 'I',
            'К' => 'K',
            'М' => 'M',
            'П' => 'P',
            'Т' => 'T',
            other => other,
        })
        .collect()
}

/// The series of a type number, also printed without the 2S of a JIS type where `surely` says that it is a transistor's;
/// `None` of a house number.
///
/// ```
/// use owl_core::part::Material;
/// use owl_core::transistor::type_family::type_family;
/// assert_eq!(type_family("GT308V", false).unwrap().material, Some(Material::Germanium));
/// assert!(type_family("XA 101", true).is_none());
/// ```
#[must_use]
pub fn type_family(type_number: &str, surely: bool) -> Option<&'static TypeFamily> {
    let text = plain(type_number);
    let of = |t: &str| FAMILIES.iter().find(|f| f.has(t, surely));
    of(&text).or_else(|| of(&with_prefix(&text)?).filter(|_| surely))
}
