//! How a value would be marked: as bands, in letters, on a chip, as a capacitor's digit code.

use super::{Colour, chip_code, digit_code, letter_code};
use crate::named::Named;
use crate::preferred::{Series, numbers};
use crate::quantity::{Farad, Fraction, Ohm};

/// The bands of a value: two digits where two are enough, three otherwise; no tolerance band
/// for 20 %. `None` where the value has more than three digits, is out of the multipliers'
/// reach, or the tolerance has no colour.
#[must_use]
pub fn bands(value: Ohm, tolerance: Option<Fraction>) -> Option<Vec<Colour>> {
    let (digits, exponent) = significant(value.ohms())?;
    let percent = tolerance.map_or(20.0, |t| t.fraction() * 100.0);
    let tolerance = Colour::ALL
        .iter()
        .copied()
        .filter(|c| *c != Colour::Absent)
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
    let (digits, exponent) = significant(value.ohms())?;
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

/// The three- or four-digit code of a chip: `393`, `3902`; `R` as the point below 10 or 100 Ω. `None`
/// where the digits are not enough.
#[must_use]
pub fn chip(value: Ohm, four: bool) -> Option<String> {
    let (digits, exponent) = significant(value.ohms())?;
    let (shown, zeros) = if four {
        (digits.to_string(), exponent)
    } else if digits % 10 == 0 {
        ((digits / 10).to_string(), exponent + 1)
    } else {
        return None;
    };
    match zeros {
        0..=7 => Some(format!("{shown}{zeros}")),
        // 4R7, 47R5, R47: the point stands inside the digits.
        -3..=-1 => {
            let behind = usize::try_from(-zeros).ok()?;
            let at = shown.len().checked_sub(behind)?;
            Some(format!("{}R{}", &shown[..at], &shown[at..]))
        }
        _ => None,
    }
}

/// The EIA-96 code of a 1 % value: `51C` for 332 × 100 Ω. `None` for a value that is not in E96.
#[must_use]
pub fn eia96(value: Ohm) -> Option<String> {
    let (digits, exponent) = significant(value.ohms())?;
    let at = numbers(Series::E96).binary_search(&digits).ok()? + 1;
    let letter =
        chip_code::multipliers().iter().find(|m| m.exponent == exponent && m.lettering != "other")?;
    Some(format!("{at:02}{}", letter.letter))
}

/// The digit code of a capacitor: `333K`, `4R7C` is not used below 10 pF, `4p7` is. `None` where two
/// digits are not enough or the tolerance has no letter.
#[must_use]
pub fn digits(value: Farad, tolerance: Option<Fraction>) -> Option<String> {
    let (digits, exponent) = significant(value.farads())?;
    if digits % 10 != 0 {
        return None;
    }
    let pair = digits / 10;
    // In picofarad: pair × 10^zeros.
    let zeros = exponent + 1 + 12;
    let code = match zeros {
        0..=7 => format!("{pair}{zeros}"),
        -1 => format!("{}p{}", pair / 10, pair % 10),
        -2 => format!("p{pair}"),
        _ => return None,
    };
    let letter = match tolerance {
        None => String::new(),
        Some(t) => {
            let percent = t.fraction() * 100.0;
            let same = |l: &&digit_code::ToleranceLetter| {
                l.unit == super::scheme::CellUnit::Percent
                    && l.minus == l.plus
                    && (l.plus - percent).abs() < 1e-6
            };
            digit_code::tolerances().iter().find(same)?.letter.to_string()
        }
    };
    Some(format!("{code}{letter}"))
}

/// `value` as three digits and a power of ten; `None` where it has more digits than that.
fn significant(value: f64) -> Option<(u16, i32)> {
    if value <= 0.0 {
        return None;
    }
    let text = format!("{value:.9e}");
    let (mantissa, exponent) = text.split_once('e')?;
    let digits: String = mantissa.chars().filter(char::is_ascii_digit).collect();
    let (head, tail) = digits.split_at(3);
    let exact = tail.chars().all(|c| c == '0');
    if !exact {
        return None;
    }
    Some((head.parse().ok()?, exponent.parse::<i32>().ok()? - 2))
}
