//! What people type, in SI base units: `4k7`, `4,700`, `.05mfd`, `½W`, `1M`, `R33`.
//!
//! An entry can have more than one meaning; [`read`] gives all of them, likeliest first, each
//! with its reason. Cannot tell a capacitor's bare number apart from a digit code without more
//! knowledge of the part: both are given.

use std::sync::LazyLock;

use serde::Deserialize;

use super::{Quantity, QuantityError};
use crate::named::Named;
use crate::source::Source;
use crate::table::rows;

/// The longest entry that is looked at, in characters.
pub const LONGEST: usize = 200;

/// One meaning of what was typed.
#[derive(Debug, Clone, PartialEq)]
pub struct Entry {
    /// In the base unit of the quantity (a fraction for percent).
    pub value: f64,
    /// Share of belief in this meaning, 0 to 1; all meanings of one entry sum to 1.
    pub likelihood: f64,
    /// Why it is read so; empty where nothing needs saying.
    pub because: Vec<String>,
}

/// Why an entry cannot be read.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
pub enum EntryError {
    /// Nothing was typed.
    #[error("nothing was typed; a {0} is needed")]
    Empty(Quantity),
    /// Longer than [`LONGEST`].
    #[error("that is {0} characters long; a value has at most {LONGEST}")]
    TooLong(usize),
    /// No number at its head.
    #[error("'{0}' is not a number with a unit, such as 4k7, 0.5 or 1M")]
    NotANumber(String),
    /// A unit or prefix that is in no table.
    #[error("'{suffix}' is no unit of {quantity}")]
    UnknownUnit {
        /// What stood behind the number.
        suffix: String,
        /// What was expected.
        quantity: Quantity,
    },
    /// The number runs past what a number can hold.
    #[error("'{0}' is not finite; if the meter shows overrange, say OL")]
    NotFinite(String),
    /// Smaller or larger than anything on a bench.
    #[error("'{0}' is out of all reason: check the digits and the prefix")]
    Absurd(String),
    /// A bare number in a field of current, which could be either.
    #[error("{0} mA or {0} A? Write the unit")]
    WhichUnit(String),
    /// The number is none for this quantity.
    #[error(transparent)]
    Quantity(#[from] QuantityError),
}

#[derive(Deserialize)]
struct Prefix {
    quantity: Quantity,
    spelling: String,
    exponent: i32,
    infix: String,
    weight: f64,
    because: String,
    #[allow(dead_code, reason = "read so that a row without a source is refused")]
    source: Source,
}

#[derive(Deserialize)]
struct UnitRow {
    quantity: Quantity,
    spelling: String,
    exponent: i32,
    #[allow(dead_code, reason = "read so that a row without a source is refused")]
    source: Source,
}

static PREFIXES: LazyLock<Vec<Prefix>> =
    LazyLock::new(|| rows("prefix_read.csv", include_str!("../../data/prefix_read.csv")));
static UNITS: LazyLock<Vec<UnitRow>> =
    LazyLock::new(|| rows("unit_read.csv", include_str!("../../data/unit_read.csv")));

/// Every meaning of `text` as a `quantity`, likeliest first; never empty.
///
/// # Errors
/// [`EntryError`] where nothing legal can be made of it.
///
/// ```
/// use owl_core::quantity::{Quantity, parse::parse};
/// assert_eq!(parse(Quantity::Resistance, "4k7").unwrap()[0].value, 4700.0);
/// assert!(parse(Quantity::Resistance, "lots").is_err());
/// ```
pub fn parse(quantity: Quantity, text: &str) -> Result<Vec<Entry>, EntryError> {
    let length = text.chars().count();
    if length > LONGEST {
        return Err(EntryError::TooLong(length));
    }
    let text = plain(text);
    if text.is_empty() {
        return Err(EntryError::Empty(quantity));
    }
    if matches!(text.to_lowercase().as_str(), "inf" | "infinite" | "infinity" | "∞" | "nan") {
        return Err(EntryError::NotFinite(text));
    }
    let mut found = infix(quantity, &text);
    if found.is_empty() {
        found = suffixed(quantity, &text)?;
    }
    if found.iter().any(|e| !e.value.is_finite()) {
        return Err(EntryError::NotFinite(text));
    }
    if found.iter().any(|e| super::is_absurd(e.value)) {
        return Err(EntryError::Absurd(text));
    }
    Ok(ranked(found))
}

/// The likeliest meaning of `text`, in the base unit.
///
/// # Errors
/// As [`read`].
pub fn best(quantity: Quantity, text: &str) -> Result<f64, EntryError> {
    let mut entries = parse(quantity, text)?;
    Ok(entries.swap_remove(0).value)
}

/// The likeliest value of what was typed into a field; a bare number that could be milliampere is asked about.
///
/// # Errors
/// As [`parse`], and [`EntryError::WhichUnit`].
pub fn typed(quantity: Quantity, text: &str) -> Result<f64, EntryError> {
    let value = best(quantity, text)?;
    let bare = !plain(text).contains(|c: char| c.is_alphabetic());
    if quantity == Quantity::Current && bare && value.abs() >= 1.0 {
        return Err(EntryError::WhichUnit(text.trim().to_owned()));
    }
    Ok(value)
}

/// One spelling for each sign that has several code points.
fn plain(text: &str) -> String {
    text.trim()
        .chars()
        .map(|c| match c {
            '\u{b5}' | '\u{3bc}' => 'u',
            '\u{2126}' => 'Ω',
            '\u{2212}' => '-',
            '\u{a0}' | '\u{202f}' | '\u{2009}' | '\t' => ' ',
            c => c,
        })
        .collect()
}

/// `value` × 10^`exponent` without the rounding error of a multiplication by 1e-12.
fn scale(value: f64, exponent: i32) -> f64 {
    if exponent < 0 { value / 10f64.powi(-exponent) } else { value * 10f64.powi(exponent) }
}

/// The letter as the decimal point: `4k7`, `R33`, `5n6`, `0R22`, with or without a unit behind.
fn infix(quantity: Quantity, text: &str) -> Vec<Entry> {
    let whole_end = text.find(|c: char| !c.is_ascii_digit()).unwrap_or(text.len());
    let (whole, rest) = text.split_at(whole_end);
    let mut found = Vec::new();
    for prefix in PREFIXES.iter().filter(|p| p.quantity == quantity && p.infix == "yes") {
        // The bare prefix of volts is written as its unit: 3V3.
        let letter = if prefix.spelling.is_empty() { "V" } else { prefix.spelling.as_str() };
        let Some(rest) = rest.strip_prefix(letter) else { continue };
        let frac_end = rest.find(|c: char| !c.is_ascii_digit()).unwrap_or(rest.len());
        let (frac, unit) = rest.split_at(frac_end);
        if frac.is_empty() || !(unit.is_empty() || is_unit(quantity, unit)) {
            continue;
        }
        if let Ok(number) = format!("0{whole}.{frac}").parse::<f64>() {
            found.push(entry(scale(number, prefix.exponent), prefix.weight, &prefix.because));
        }
    }
    found
}

fn is_unit(quantity: Quantity, text: &str) -> bool {
    let text = text.trim().to_lowercase();
    UNITS.iter().any(|u| u.quantity == quantity && u.spelling.to_lowercase() == text)
}

fn entry(value: f64, weight: f64, because: &str) -> Entry {
    let because = if because.is_empty() { vec![] } else { vec![because.to_owned()] };
    Entry { value, likelihood: weight, because }
}

/// A number and then a prefix and unit: `4.7 k`, `470R`, `1meg`, `1/2W`.
fn suffixed(quantity: Quantity, text: &str) -> Result<Vec<Entry>, EntryError> {
    let (numbers, digits, suffix) = number(text)?;
    let suffix = suffix.trim();
    let mut found = Vec::new();
    if quantity == Quantity::Capacitance && suffix.is_empty() {
        for n in &numbers {
            found.extend(bare_capacitor(n, digits));
        }
        return Ok(found);
    }
    for (exponent, weight, because) in suffix_meanings(quantity, suffix) {
        for n in &numbers {
            let mut e = entry(scale(n.value, exponent), weight * n.likelihood, because);
            e.because.extend(n.because.iter().cloned());
            found.push(e);
        }
    }
    if found.is_empty() {
        return Err(EntryError::UnknownUnit { suffix: suffix.chars().take(20).collect(), quantity });
    }
    Ok(found)
}

/// What may stand behind the number: prefix exactly as spelled, unit in any case; failing that,
/// the prefix in any case too.
fn suffix_meanings(quantity: Quantity, suffix: &str) -> Vec<(i32, f64, &'static str)> {
    let units: Vec<(&str, i32)> = std::iter::once(("", 0))
        .chain(UNITS.iter().filter(|u| u.quantity == quantity).map(|u| (u.spelling.as_str(), u.exponent)))
        .collect();
    let matching = |exact: bool| {
        let mut all: Vec<(i32, f64, &'static str)> = Vec::new();
        for p in PREFIXES.iter().filter(|p| p.quantity == quantity) {
            let head = suffix.get(..p.spelling.len());
            let fits = head
                .is_some_and(|h| if exact { h == p.spelling } else { h.eq_ignore_ascii_case(&p.spelling) });
            if !fits {
                continue;
            }
            let tail = suffix.get(p.spelling.len()..).unwrap_or("").trim().to_lowercase();
            for (unit, exponent) in &units {
                let known = all.iter().any(|a| a.0 == p.exponent + exponent);
                if unit.to_lowercase() == tail && !known {
                    all.push((p.exponent + exponent, p.weight, &p.because));
                }
            }
        }
        all
    };
    let exact = matching(true);
    if !exact.is_empty() {
        return exact;
    }
    // Whole farads are written with their unit or not at all.
    if quantity == Quantity::Capacitance && is_unit(quantity, suffix) {
        return vec![(0, 1.0, "whole farads, as written")];
    }
    matching(false)
}

/// Common practice: below 1 is µF; 1 to 99 is ambiguous; from 100 it is pF or
/// a digit code.
fn bare_capacitor(n: &Entry, digits: usize) -> Vec<Entry> {
    let v = n.value;
    let with = |value: f64, weight: f64, why: &str| entry(value, weight * n.likelihood, why);
    if v < 1.0 {
        return vec![with(v / 1e6, 1.0, "a bare number below 1 is µF")];
    }
    if v < 100.0 {
        return vec![
            with(v / 1e6, 0.5, "µF if the part is an electrolytic"),
            with(v / 1e12, 0.5, "pF if it is anything else"),
        ];
    }
    let mut all = vec![with(v / 1e12, 0.6, "a bare number from 100 is pF")];
    if digits == 3 && v < 1000.0 && v.fract() == 0.0 {
        let (significant, zeros) = ((v / 10.0).floor(), (v % 10.0) as i32);
        // A trailing zero is a plain number more often than the code's "no zeros".
        let weight = if zeros == 0 { 0.3 } else { 1.8 };
        if zeros <= 6 {
            all.push(with(
                scale(significant, zeros - 12),
                weight,
                "as a three-digit code: two digits and the number of zeros, in pF",
            ));
        }
    }
    all
}

/// Splits off the number at the head: its meanings, how many digits were typed, and the rest.
fn number(text: &str) -> Result<(Vec<Entry>, usize, &str), EntryError> {
    let refuse = || EntryError::NotANumber(text.chars().take(40).collect());
    let is_number = |c: char| c.is_ascii_digit() || ".,+-/½¼¾⅛⅓⅔".contains(c);
    let mut end = text.find(|c| !is_number(c) && c != ' ').unwrap_or(text.len());
    let after = &text[end..];
    // 4.7e3, but not 10 electrolytics.
    if after.starts_with(['e', 'E']) {
        let tail = &after[1..];
        let sign = usize::from(tail.starts_with(['+', '-']));
        let digits = tail[sign..].find(|c: char| !c.is_ascii_digit()).unwrap_or(tail.len() - sign);
        if digits > 0 {
            end += 1 + sign + digits;
        }
    }
    let (head, rest) = text.split_at(end);
    let head = head.trim();
    let digits = head.chars().filter(char::is_ascii_digit).count();
    if head.is_empty() {
        return Err(refuse());
    }
    let meanings = if head.contains(['/', '½', '¼', '¾', '⅛', '⅓', '⅔']) {
        vec![entry(fraction(head).ok_or_else(refuse)?, 1.0, "")]
    } else if head.contains(',') {
        comma(head).ok_or_else(refuse)?
    } else {
        vec![entry(head.replace(' ', "").parse().map_err(|_| refuse())?, 1.0, "")]
    };
    Ok((meanings, digits, rest))
}

/// `1/2`, `1 1/2`, `½`, `1½`.
fn fraction(head: &str) -> Option<f64> {
    let spelled = head
        .replace('½', " 1/2")
        .replace('¼', " 1/4")
        .replace('¾', " 3/4")
        .replace('⅛', " 1/8")
        .replace('⅓', " 1/3")
        .replace('⅔', " 2/3");
    let mut sum = 0.0;
    for (i, piece) in spelled.split_whitespace().enumerate() {
        let value = match piece.split_once('/') {
            Some((a, b)) => {
                let (a, b) = (a.parse::<u32>().ok()?, b.parse::<u32>().ok()?);
                (b != 0).then(|| f64::from(a) / f64::from(b))?
            }
            None if i == 0 => f64::from(piece.parse::<u32>().ok()?),
            None => return None,
        };
        sum += value;
    }
    Some(sum)
}

/// A comma is a decimal comma, or it groups thousands, or both are possible.
fn comma(head: &str) -> Option<Vec<Entry>> {
    let parse = |s: String| s.replace(' ', "").parse::<f64>().ok();
    if head.contains('.') {
        let decimal_comma = head.rfind(',') > head.rfind('.');
        let (group, point) = if decimal_comma { ('.', ',') } else { (',', '.') };
        if head.matches(point).count() > 1 {
            return None;
        }
        let value = parse(head.replace(group, "").replace(point, "."))?;
        return Some(vec![entry(value, 1.0, "")]);
    }
    let groups: Vec<&str> = head.trim_start_matches(['+', '-']).split(',').collect();
    let (first, others) = groups.split_first()?;
    let grouped = (1..=3).contains(&first.len()) && *first != "0" && others.iter().all(|g| g.len() == 3);
    let decimal = || parse(head.replace(',', "."));
    match (grouped, others.len()) {
        (true, 1) => Some(vec![
            entry(parse(head.replace(',', ""))?, 0.9, "the comma groups thousands"),
            entry(decimal()?, 0.1, "the comma is a decimal comma"),
        ]),
        (true, _) => Some(vec![entry(parse(head.replace(',', ""))?, 1.0, "")]),
        (false, 1) => Some(vec![entry(decimal()?, 1.0, "the comma is a decimal comma")]),
        (false, _) => None,
    }
}

/// Merges equal values, makes the weights sum to 1, likeliest first.
fn ranked(found: Vec<Entry>) -> Vec<Entry> {
    let mut merged: Vec<Entry> = Vec::new();
    for e in found {
        match merged.iter_mut().find(|m| m.value == e.value) {
            Some(m) => m.likelihood += e.likelihood,
            None => merged.push(e),
        }
    }
    let sum: f64 = merged.iter().map(|e| e.likelihood).sum();
    for e in &mut merged {
        e.likelihood /= sum;
    }
    merged.sort_by(|a, b| b.likelihood.total_cmp(&a.likelihood));
    merged
}

/// The quantity whose unit `suffix` is, as in "V" → voltage: for telling typed words apart.
#[must_use]
pub fn quantity_of_unit(suffix: &str) -> Option<Quantity> {
    let suffix = plain(suffix);
    Quantity::ALL.iter().copied().find(|&q| {
        let unit_at_the_end = UNITS
            .iter()
            .filter(|u| u.quantity == q)
            .any(|u| suffix.to_lowercase().ends_with(&u.spelling.to_lowercase()));
        unit_at_the_end && !suffix_meanings(q, &suffix).is_empty()
    })
}
