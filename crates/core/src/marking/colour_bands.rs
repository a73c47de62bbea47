//! Rings of colour, three to six (IEC 60062:2016, clause 4).
//!
//! | bands | meaning |
//! |---|---|
//! | 3 | two digits, multiplier; no tolerance band means 20 % |
//! | 4 | two digits, multiplier, tolerance |
//! | 5 | three digits, multiplier, tolerance |
//! | 6 | three digits, multiplier, tolerance, temperature coefficient |
//!
//! Cannot tell which end is first where both are legal: both are given.

use super::{Code, Colour, MarkingError, Meaning};
use crate::named::Named;
use crate::part::NO_BAND;
use crate::quantity::{Fraction, Ohm};

/// From which end the bands were read.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum End {
    /// In the order given.
    First,
    /// In the opposite order.
    Other,
}

/// The meanings of `colours`, in the order given and from the other end, as far as each is legal.
/// Likelihoods are not set here.
///
/// # Errors
/// [`MarkingError::BandCount`], or [`MarkingError::Order`] when neither direction is legal.
pub fn meanings(colours: &[Colour]) -> Result<Vec<(End, Meaning)>, MarkingError> {
    if !(3..=6).contains(&colours.len()) {
        return Err(MarkingError::BandCount(colours.len()));
    }
    let back: Vec<Colour> = colours.iter().rev().copied().collect();
    match (one(colours), one(&back)) {
        (Ok(a), Ok(b)) if back == colours => {
            drop(b);
            Ok(vec![(End::First, a)])
        }
        (Ok(a), Ok(b)) => Ok(vec![(End::First, a), (End::Other, b)]),
        (Ok(mut a), Err(why)) => {
            a.because.push(format!("it cannot be read from the other end: {why}"));
            Ok(vec![(End::First, a)])
        }
        (Err(why), Ok(mut b)) => {
            b.because.push(format!("{why}, so it was read from the other end"));
            Ok(vec![(End::Other, b)])
        }
        (Err(a), Err(b)) if a == b => Err(MarkingError::Order(format!("{a}, from either end"))),
        (Err(a), Err(b)) => Err(MarkingError::Order(format!("{a}; and from the other end {b}"))),
    }
}

/// What each of these bands stands for, as it is written below it: `4`, `7`, `× 1 k`, `±10 %`,
/// `50 ppm`. A band that means nothing in its place is a question mark.
#[must_use]
pub fn places(colours: &[Colour]) -> Vec<String> {
    let digits = if colours.len() >= 5 { 3 } else { 2 };
    let unknown = || "?".to_owned();
    colours
        .iter()
        .enumerate()
        .map(|(i, c)| {
            let row = c.row();
            match i.checked_sub(digits) {
                None => row.digit.map_or_else(unknown, |d| d.to_string()),
                Some(0) => row.exponent.map_or_else(unknown, times),
                Some(1) => row.tolerance_percent.map_or_else(unknown, |p| format!("±{p} %")),
                Some(_) => row.ppm.map_or_else(unknown, |p| format!("{p} ppm")),
            }
        })
        .collect()
}

/// A power of ten as a multiplier: `× 1`, `× 10 k`, `× 0.01`.
fn times(exponent: i32) -> String {
    match exponent {
        ..=0 => format!("× {}", 10f64.powi(exponent)),
        1..=2 => format!("× {}", 10i32.pow(exponent.unsigned_abs())),
        _ => {
            let letter = ["k", "M", "G"].get((exponent / 3 - 1) as usize).unwrap_or(&"?");
            format!("× {} {letter}", 10i32.pow((exponent % 3).unsigned_abs()))
        }
    }
}

/// One direction; the error says what cannot be.
fn one(colours: &[Colour]) -> Result<Meaning, String> {
    let digit_count = if colours.len() >= 5 { 3 } else { 2 };
    let (digits, rest) = colours.split_at(digit_count);
    let mut significant = 0u32;
    for (i, c) in digits.iter().enumerate() {
        let place = ["first", "second", "third"][i];
        let digit = c.row().digit.ok_or_else(|| format!("{c} cannot be a {place} digit"))?;
        if i == 0 && digit == 0 {
            return Err(format!("{c} cannot be the first digit: no value begins with 0"));
        }
        significant = significant * 10 + u32::from(digit);
    }
    let multiplier = rest[0];
    let exponent = multiplier.row().exponent.ok_or_else(|| format!("{multiplier} is no multiplier"))?;
    let value = if exponent < 0 {
        f64::from(significant) / 10f64.powi(-exponent)
    } else {
        f64::from(significant) * 10f64.powi(exponent)
    };
    let tolerance = match rest.get(1) {
        Some(c) => c.row().tolerance_percent.ok_or_else(|| format!("{c} is no tolerance"))? / 100.0,
        None => NO_BAND,
    };
    let temperature_ppm = match rest.get(2) {
        Some(c) => Some(c.row().ppm.ok_or_else(|| format!("{c} is no temperature coefficient"))?),
        None => None,
    };
    let count = ["three", "four", "five", "six"][colours.len() - 3];
    let mut because = vec![format!("{count} bands: {}", spelled(colours))];
    if rest.len() == 1 {
        because.push("no fourth band means 20 %".to_owned());
    }
    Ok(Meaning {
        code: Code::ColourBands,
        value: Ohm::new(value).map_err(|e| e.to_string())?,
        tolerance: Some(Fraction::new(tolerance).map_err(|e| e.to_string())?),
        power: None,
        temperature_ppm,
        colours: colours.to_vec(),
        likelihood: 0.0,
        because,
        source: multiplier.row().source.clone(),
    })
}

fn spelled(colours: &[Colour]) -> String {
    colours.iter().map(|c| c.name()).collect::<Vec<_>>().join(" ")
}
