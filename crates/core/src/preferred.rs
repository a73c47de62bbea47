//! Preferred numbers: E3 to E192 of IEC 60063.
//!
//! E3 to E24 are a table, because the published numbers are not the rounded formula (27, 30, 33,
//! 36, 39, 43, 47 and 82 differ). E48 to E192 are the formula, with its one published exception:
//! 9.20 in E192, where the formula gives 9.19.

use std::sync::LazyLock;

use serde::Deserialize;

use crate::named::named;
use crate::source::Source;
use crate::table::rows;

named! {
    /// A series of preferred numbers.
    "series" Series {
        /// 3 numbers a decade.
        E3 = "E3",
        /// 6 numbers a decade, for 20 %.
        E6 = "E6",
        /// 12 numbers a decade, for 10 %.
        E12 = "E12",
        /// 24 numbers a decade, for 5 %.
        E24 = "E24",
        /// 48 numbers a decade, for 2 %.
        E48 = "E48",
        /// 96 numbers a decade, for 1 %.
        E96 = "E96",
        /// 192 numbers a decade, for 0.5 % and closer.
        E192 = "E192",
    }
}

#[derive(Deserialize)]
struct Row {
    number: u16,
    e3: String,
    e6: String,
    e12: String,
    #[allow(dead_code, reason = "every row is in E24; read so that the column is complete")]
    e24: String,
    #[allow(dead_code, reason = "read so that a row without a source is refused")]
    source: Source,
}

/// The three-digit numbers of each series, 100 to 999, in [`Series`] order.
static NUMBERS: LazyLock<[Vec<u16>; 7]> = LazyLock::new(|| {
    let table: Vec<Row> = rows("preferred.csv", include_str!("../data/preferred.csv"));
    let those = |keep: fn(&Row) -> bool| -> Vec<u16> {
        table.iter().filter(|r| keep(r)).map(|r| r.number * 10).collect()
    };
    [
        those(|r| r.e3 == "yes"),
        those(|r| r.e6 == "yes"),
        those(|r| r.e12 == "yes"),
        those(|_| true),
        formula(48),
        formula(96),
        formula(192),
    ]
});

fn formula(count: u16) -> Vec<u16> {
    (0..count)
        .map(|i| {
            let n = (100.0 * 10f64.powf(f64::from(i) / f64::from(count))).round() as u16;
            // IEC 60063:2015, table 3: the published number, not the computed one.
            if n == 919 { 920 } else { n }
        })
        .collect()
}

/// The numbers of a series in one decade, as three digits: 100 to 999.
#[must_use]
pub fn numbers(series: Series) -> &'static [u16] {
    &NUMBERS[series as usize]
}

/// The series that goes with a tolerance (IEC 60063: E6 with 20 %, E12 with 10 %, E24 with 5 %,
/// E48 with 2 %, E96 with 1 %, E192 with 0.5 % and closer).
#[must_use]
pub fn series_of(tolerance_fraction: f64) -> Series {
    match tolerance_fraction {
        t if t > 0.15 => Series::E6,
        t if t > 0.07 => Series::E12,
        t if t > 0.03 => Series::E24,
        t if t > 0.015 => Series::E48,
        t if t > 0.007 => Series::E96,
        _ => Series::E192,
    }
}

/// Every member of `series` from `low` to `high`, both included, in the unit of `low` and `high`.
/// Empty when the bounds are not positive and ordered, or span more than 24 decades.
#[must_use]
pub fn between(series: Series, low: f64, high: f64) -> Vec<f64> {
    if !(low > 0.0 && high >= low && high.is_finite() && high / low < 1e24) {
        return vec![];
    }
    let (first, last) = (low.log10().floor() as i32, high.log10().floor() as i32);
    let slack = 1e-9;
    (first..=last)
        .flat_map(|decade| numbers(series).iter().map(move |&n| member(n, decade)))
        .filter(|v| *v >= low * (1.0 - slack) && *v <= high * (1.0 + slack))
        .collect()
}

/// `n` (three digits) in the decade 10^`decade`, rounded the way a typed number is.
fn member(n: u16, decade: i32) -> f64 {
    let shift = decade - 2;
    if shift < 0 { f64::from(n) / 10f64.powi(-shift) } else { f64::from(n) * 10f64.powi(shift) }
}

/// The members on either side of a value.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Neighbours {
    /// The greatest member that is not above the value.
    pub below: f64,
    /// The member with the least difference; the lower one of two equally near.
    pub nearest: f64,
    /// The least member that is not below the value.
    pub above: f64,
}

/// The members of `series` next to `value` (any unit, above zero); all three are the value
/// itself when it is a member. `None` for zero, negative and infinite values.
///
/// ```
/// use owl_core::preferred::{Series, neighbours};
/// let n = neighbours(Series::E12, 50_000.0).unwrap();
/// assert_eq!((n.below, n.nearest, n.above), (47_000.0, 47_000.0, 56_000.0));
/// assert!(neighbours(Series::E12, 0.0).is_none());
/// ```
#[must_use]
pub fn neighbours(series: Series, value: f64) -> Option<Neighbours> {
    let candidates = between(series, value / 10.0, value * 10.0);
    let same = |v: f64| (v - value).abs() <= 1e-9 * value;
    let below = candidates.iter().copied().rfind(|v| *v < value || same(*v))?;
    let above = candidates.iter().copied().find(|v| *v > value || same(*v))?;
    let nearest = if value - below <= above - value { below } else { above };
    Some(Neighbours { below, nearest, above })
}

/// The first three digits of a value that has no more, 100 to 999: 470 for 47 kΩ. `None` for zero, and
/// for a value that needs more digits than that (to one part in a million).
#[must_use]
pub fn three_digits(value: f64) -> Option<u16> {
    if !(value > 0.0 && value.is_finite()) {
        return None;
    }
    let shift = 2 - value.log10().floor() as i32;
    let digits = if shift < 0 { value / 10f64.powi(-shift) } else { value * 10f64.powi(shift) };
    let near = digits.round();
    if (digits - near).abs() > 1e-6 * digits {
        return None;
    }
    // 999.9999 rounds into the next decade.
    Some(if near >= 1000.0 { 100 } else { near as u16 })
}

/// Whether `value` is a member of `series`, to one part in a million.
#[must_use]
pub fn is_member(series: Series, value: f64) -> bool {
    three_digits(value).is_some_and(|n| numbers(series).binary_search(&n).is_ok())
}
