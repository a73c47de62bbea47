//! What people read: engineering notation, `4.7 kΩ`, `47 nF` or `0.047 µF`, never `4.7e-08`.
//!
//! Rounding happens here and nowhere else: to the nearest in the last shown digit, as the decimal
//! expansion of the number has it; an exact tie goes to the even digit.

use std::fmt;
use std::sync::LazyLock;

use serde::Deserialize;

use super::Quantity;
use crate::named::{Named, named};
use crate::source::Source;
use crate::table::rows;

named! {
    /// Which prefixes a workshop writes for capacitance.
    "capacitance style" CapacitanceStyle {
        /// µF, nF and pF.
        WithNano = "with nF",
        /// µF and pF only, as old sheets do.
        MicroAndPico = "µF and pF only",
    }
}

/// A number as it is shown: digits and unit apart, so that columns can line up.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Written {
    /// The digits, with a true minus sign.
    pub number: String,
    /// Prefix and unit.
    pub unit: &'static str,
}

impl fmt::Display for Written {
    fn fmt(&self, f: &mut fmt::Formatter<'_>) -> fmt::Result {
        f.pad(format!("{} {}", self.number, self.unit).trim_end())
    }
}

#[derive(Deserialize)]
struct Row {
    quantity: Quantity,
    exponent: i32,
    /// The power of ten from which this prefix is used.
    from: i32,
    unit: String,
    style: String,
    #[allow(dead_code, reason = "read so that a row without a source is refused")]
    source: Source,
}

/// The rows of each quantity, in each style: looked up for every number that is shown.
static PREFIXES: LazyLock<Vec<[Vec<Row>; 2]>> = LazyLock::new(|| {
    let all = || rows::<Row>("prefix_write.csv", include_str!("../../data/prefix_write.csv"));
    let of = |q: Quantity, style: CapacitanceStyle| {
        all()
            .into_iter()
            .filter(|r| r.quantity == q && (r.style == "any" || r.style == style.name()))
            .collect()
    };
    Quantity::ALL
        .iter()
        .map(|q| [of(*q, CapacitanceStyle::WithNano), of(*q, CapacitanceStyle::MicroAndPico)])
        .collect()
});

/// Significant digits shown where nothing else is asked.
pub const DIGITS: usize = 4;

/// `value` (base unit) with four significant digits and nanofarads.
#[must_use]
pub fn format(quantity: Quantity, value: f64) -> Written {
    format_as(quantity, value, DIGITS, CapacitanceStyle::WithNano)
}

/// `value` (base unit) with 1 to 15 significant `digits`; trailing zeros are not shown.
///
/// ```
/// use owl_core::quantity::{Quantity, format::format};
/// assert_eq!(format(Quantity::Resistance, 4700.0).to_string(), "4.7 kΩ");
/// assert_eq!(format(Quantity::Capacitance, 4.7e-8).to_string(), "47 nF");
/// ```
#[must_use]
pub fn format_as(quantity: Quantity, value: f64, digits: usize, style: CapacitanceStyle) -> Written {
    let digits = digits.clamp(1, 15);
    let prefixes = &PREFIXES[quantity as usize][style as usize];
    let base = prefixes.iter().find(|r| r.exponent == 0).or(prefixes.first());
    let unit = |row: Option<&'static Row>| row.map_or("", |r| r.unit.as_str());
    if !value.is_finite() || value == 0.0 {
        let number = if value == 0.0 { "0" } else { "?" };
        return Written { number: number.to_owned(), unit: unit(base) };
    }
    // Decimal digits and exponent of the rounded value, taken from its text so that 999.96
    // becomes 1000 and moves to the next prefix.
    let text = format!("{:.*e}", digits - 1, value.abs());
    let (mantissa, exponent) = text.split_once('e').unwrap_or((&text, "0"));
    let exponent: i32 = exponent.parse().unwrap_or(0);
    let mantissa: String = mantissa.chars().filter(char::is_ascii_digit).collect();
    let chosen = prefixes.iter().rev().find(|r| r.from <= exponent).or(prefixes.first());
    let shift = exponent - chosen.map_or(0, |r| r.exponent);
    let sign = if value < 0.0 { "−" } else { "" };
    Written { number: format!("{sign}{}", place_point(&mantissa, shift)), unit: unit(chosen) }
}

/// A unit with its prefix, for labels that are to be compared: all of a scale in the same.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct LabelUnit {
    /// As it is written: `kΩ`.
    pub name: &'static str,
    /// What one of it is, in the base unit.
    pub size: f64,
}

/// The unit in which `value` (base unit) is written.
///
/// ```
/// use owl_core::quantity::{Quantity, format::{CapacitanceStyle, label_unit}};
/// let unit = label_unit(Quantity::Capacitance, 3.3e-5, CapacitanceStyle::WithNano);
/// assert_eq!((unit.name, unit.size), ("µF", 1e-6));
/// ```
#[must_use]
pub fn label_unit(quantity: Quantity, value: f64, style: CapacitanceStyle) -> LabelUnit {
    let name = format_as(quantity, value, DIGITS, style).unit;
    let rows = &PREFIXES[quantity as usize][style as usize];
    let exponent = rows.iter().find(|r| r.unit == name).map_or(0, |r| r.exponent);
    // Parsed, because 10⁻⁶ by multiplication is not the nearest number to it.
    LabelUnit { name, size: format!("1e{exponent}").parse().unwrap_or(1.0) }
}

/// Puts the point `shift` places behind the first digit and drops trailing zeros behind it.
fn place_point(mantissa: &str, shift: i32) -> String {
    let text = if shift < 0 {
        format!("0.{}{mantissa}", "0".repeat(shift.unsigned_abs() as usize - 1))
    } else {
        let whole = shift.unsigned_abs() as usize + 1;
        if whole >= mantissa.len() {
            return format!("{mantissa}{}", "0".repeat(whole - mantissa.len()));
        }
        format!("{}.{}", &mantissa[..whole], &mantissa[whole..])
    };
    text.trim_end_matches('0').trim_end_matches('.').to_owned()
}

/// A fraction as a signed percentage with one decimal at most: `+23.4 %`, `−5 %`.
#[must_use]
pub fn signed_percent(fraction: f64) -> String {
    let rounded = (fraction * 1000.0).round() / 10.0;
    let sign = if rounded < 0.0 { "−" } else { "+" };
    format!("{sign}{} %", rounded.abs())
}

/// A tolerance as a percentage without sign: `10 %`, `0.05 %`.
#[must_use]
pub fn percent(fraction: f64) -> String {
    format_as(Quantity::Fraction, fraction.abs(), 3, CapacitanceStyle::WithNano).to_string()
}
