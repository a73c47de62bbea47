//! How a value would be marked: as bands, and in letters.

use super::{Colour, letter_code};
use crate::named::Named;
use crate::quantity::{Fraction, Ohm};

/// The bands of a value: two digits where two are enough, three otherwise; no tolerance band
/// for 20 %. `None` where the value has more than three digits, is out of the multipliers'
/// reach, or the tolerance has no colour.
#[must_use]
pub fn bands(value: Ohm, tolerance: Option<Fraction>) -> Option<Vec<Colour>> {
    let (digits, exponent) = significant(value)?;
    let percent = tolerance.map_or(20.0, |t| t.fraction() * 100.0);
    let tolerance = Colour::ALL
        .iter()
        .copied()
        .find(|c| c.row().tolerance_percent.is_some_and(|p| (p - percent).abs() < 1e-6));
    let none = (percent - 20.0).abs() < 1e-6;
    if tolerance.is_none() && !none {
        return None;
    }
    // Three digits always have a tolerance band; two digits need one only below 20 %.
    let three = digits % 10 != 0 || percent < 5.0 - 1e-9;
    let mut shown = vec![digits / 100, digits / 10 % 10];
    if three {
        shown.push(digits % 10);
    }
    let power = if three { exponent } else { exponent + 1 };
    let mut colours: Vec<Colour> = shown
        .iter()
        .map(|d| Colour::ALL.iter().copied().find(|c| c.row().digit.map(u16::from) == Some(*d)))
        .collect::<Option<_>>()?;
    colours.push(Colour::ALL.iter().copied().find(|c| c.row().exponent == Some(power))?);
    if three && none {
        return None;
    }
    colours.extend(tolerance);
    Some(colours)
}

/// The letter code of a value: `4K7J`, `R33`, `470RK`. `None` where it needs more than three
/// digits or a multiplier letter that there is not.
#[must_use]
pub fn letters(value: Ohm, tolerance: Option<Fraction>) -> Option<String> {
    let (digits, exponent) = significant(value)?;
    // digits × 10^exponent, digits of three places: the point stands behind digits/100.
    let power = exponent + 2;
    let step = power.div_euclid(3) * 3;
    let behind = usize::try_from(power - step).ok()? + 1;
    let letter = letter_code::multipliers().iter().find(|m| m.exponent == step)?.letter;
    let text = digits.to_string();
    let frac = text[behind.min(3)..].trim_end_matches('0');
    // R33 rather than 330L: below one ohm the trade writes R.
    let code = if letter == 'L' {
        format!("R{}{}", "0".repeat(3 - behind), text.trim_end_matches('0'))
    } else {
        format!("{}{letter}{frac}", &text[..behind])
    };
    match tolerance {
        None => Some(code),
        Some(t) => {
            let percent = t.fraction() * 100.0;
            let letter = letter_code::tolerances().iter().find(|l| (l.percent - percent).abs() < 1e-6)?;
            Some(format!("{code}{}", letter.letter))
        }
    }
}

/// `value` as three digits and a power of ten; `None` where it has more digits than that.
fn significant(value: Ohm) -> Option<(u16, i32)> {
    if value.ohms() <= 0.0 {
        return None;
    }
    let text = format!("{:.9e}", value.ohms());
    let (mantissa, exponent) = text.split_once('e')?;
    let digits: String = mantissa.chars().filter(char::is_ascii_digit).collect();
    let (head, tail) = digits.split_at(3);
    let exact = tail.chars().all(|c| c == '0');
    if !exact {
        return None;
    }
    Some((head.parse().ok()?, exponent.parse::<i32>().ok()? - 2))
}
