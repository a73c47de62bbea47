//! The value and voltage of a capacitor as one entry: `8/450`, `8uF450V`, `20+20/350`,
//! `20/20/20@450`, `2x8/450`.
//!
//! Cannot tell "20/20" (two sections) from "20 at 20 volts": the last number after a slash is
//! taken as volts only when it is more than twice the largest section, otherwise as a section.

use super::read::{EntryError, LONGEST, read};
use super::{Farad, Quantity, Volt};

/// The sections of one can, with the voltage that they share.
#[derive(Debug, Clone, PartialEq)]
pub struct Sections {
    /// One capacitance for each section, in the order in which they are printed.
    pub capacitances: Vec<Farad>,
    /// The rated voltage, where it was given.
    pub voltage: Option<Volt>,
}

/// Reads a capacitance of one or more sections with its voltage. Bare numbers of an entry that
/// gives a voltage from 1 up are µF, because only electrolytics are written so (practice).
///
/// # Errors
/// [`EntryError`] where a piece is no capacitance or no voltage.
///
/// ```
/// use owl_core::quantity::section::read_sections;
/// let can = read_sections("20+20/350").unwrap();
/// assert_eq!(can.capacitances.len(), 2);
/// assert!(read_sections("20+/350").is_err());
/// ```
pub fn read_sections(text: &str) -> Result<Sections, EntryError> {
    let length = text.chars().count();
    if length > LONGEST {
        return Err(EntryError::TooLong(length));
    }
    let text = text.trim().replace(['µ', 'μ'], "u");
    let (values, volts) = split_voltage(&text);
    let mut pieces = Vec::new();
    for piece in values.split(['+', '/', '-']).map(str::trim) {
        let (times, piece) = repeated(piece);
        pieces.extend(std::iter::repeat_n(piece.to_owned(), times));
    }
    let unit =
        pieces.last().map(|p| p.trim_start_matches(|c: char| c.is_ascii_digit() || c == '.').to_owned());
    let unit = unit.filter(|u| !u.is_empty()).unwrap_or_default();
    let mut capacitances = Vec::new();
    for piece in &pieces {
        let bare = piece.chars().all(|c| c.is_ascii_digit() || c == '.');
        let entry = match (bare, unit.is_empty(), volts.is_some()) {
            (true, false, _) => format!("{piece}{unit}"),
            (true, true, true) if piece.parse::<f64>().is_ok_and(|v| v >= 1.0) => format!("{piece}uF"),
            _ => piece.clone(),
        };
        let value = read(Quantity::Capacitance, &entry)?.swap_remove(0).value;
        capacitances.push(Farad::new(value)?);
    }
    let voltage = match volts {
        Some(v) => Some(v.parse::<Volt>()?),
        None => None,
    };
    Ok(Sections { capacitances, voltage })
}

/// `2x8` is two sections of 8; at most six sections are believed.
fn repeated(piece: &str) -> (usize, &str) {
    match piece.split_once(['x', 'X', '×']) {
        Some((n, rest)) => match n.trim().parse::<usize>() {
            Ok(n) if (1..=6).contains(&n) => (n, rest.trim()),
            _ => (1, piece),
        },
        None => (1, piece),
    }
}

/// Parts the capacitances from the voltage: behind `@`, behind the last `/`, behind a blank or
/// run on, as in `8uF450V`.
fn split_voltage(text: &str) -> (&str, Option<&str>) {
    if let Some((values, volts)) = text.split_once('@') {
        return (values.trim(), Some(volts.trim()));
    }
    let leading = |s: &str| {
        let digits: String = s.trim().chars().take_while(|c| c.is_ascii_digit() || *c == '.').collect();
        digits.parse::<f64>().unwrap_or(0.0)
    };
    if let Some((values, volts)) = text.rsplit_once('/') {
        let largest = values.split(['+', '/', '-']).map(|p| leading(repeated(p).1)).fold(0.0, f64::max);
        if leading(volts) > 2.0 * largest {
            return (values.trim(), Some(volts.trim()));
        }
        return (text, None);
    }
    // 8uF450V, 8 uF 450 V: the volts are the digits before a V at the end.
    if let Some(head) = text.strip_suffix(['V', 'v']) {
        let head = head.trim_end();
        let digits = head.len() - head.trim_end_matches(|c: char| c.is_ascii_digit()).len();
        if digits > 0 && digits < head.len() {
            let at = head.len() - digits;
            return (head[..at].trim(), Some(text[at..].trim()));
        }
    }
    (text, None)
}
