//! Capacitors in digits and letters: `104`, `473K`, `2A104J`, `4n7`, `p47`, `R47`, `22J`, `104K100V`.
//!
//! Two digits and the number of zeros in picofarad; 8 and 9 in the last place are × 0.01 and × 0.1.
//! Cannot tell `R47` in microfarad (tantalum, film) from picofarad (ceramic), nor `220` as 22 pF from
//! a plain 220 pF: both are given.

use std::sync::LazyLock;

use serde::Deserialize;

use super::{Code, Meaning, Tolerance, Value, VoltsKind, volts};
use crate::part::PartKind;
use crate::quantity::Farad;
use crate::source::Source;
use crate::table::rows;

use super::scheme::CellUnit;

/// A tolerance letter of a capacitor.
#[derive(Debug, Clone, Deserialize)]
pub struct ToleranceLetter {
    /// The letter.
    pub letter: char,
    /// Downwards.
    pub minus: f64,
    /// Upwards.
    pub plus: f64,
    /// Percent, or picofarad for values up to 10 pF.
    pub unit: CellUnit,
    /// Where the row comes from.
    pub source: Source,
}

static TOLERANCES: LazyLock<Vec<ToleranceLetter>> = LazyLock::new(|| {
    rows("marking/capacitor_tolerance.csv", include_str!("../../data/marking/capacitor_tolerance.csv"))
});

/// The tolerance letters; some have a row for small values and one for the rest.
#[must_use]
pub fn tolerances() -> &'static [ToleranceLetter] {
    &TOLERANCES
}

/// The tolerance that a letter stands for on a capacitor of `value`.
#[must_use]
pub fn tolerance(letter: char, value: Farad) -> Option<Tolerance> {
    let small = value.farads() < 10e-12 * (1.0 - 1e-9);
    let of = |unit| TOLERANCES.iter().find(|t| t.letter == letter && t.unit == unit);
    let row = if small { of(CellUnit::Picofarad).or(of(CellUnit::Percent)) } else { of(CellUnit::Percent) }?;
    if row.unit == CellUnit::Picofarad {
        return Some(Tolerance::Absolute(Farad::new(row.plus / 1e12).ok()?));
    }
    Tolerance::from_percents(row.minus, row.plus)
}

/// The meanings of a digit code, each with its weight among them; empty if `text` is none.
#[must_use]
pub fn meanings(text: &str) -> Vec<(f64, Meaning)> {
    let text: String = text.trim().chars().map(|c| if matches!(c, 'µ' | 'μ') { 'u' } else { c }).collect();
    // Volts ahead, and always three digits behind them: 2A104J. Nobody prints 1J103 for 1 pF of ±5 % at 103 V.
    if let Some((head, rest)) = text.split_at_checked(2)
        && let Some(v) = volts::of_letters(head).filter(|v| *v < 1e4)
        && rest.bytes().take_while(u8::is_ascii_digit).count() == 3
    {
        let ahead = body(rest, Some((head, v)));
        if !ahead.is_empty() {
            return ahead;
        }
    }
    body(&text, None)
}

/// What is said of digits that are no code.
const PLAIN: &str = "a plain number of picofarad";

/// A value: its number in farad, its weight, and why.
struct Reading {
    farads: f64,
    weight: f64,
    because: String,
}

fn body(text: &str, ahead: Option<(&str, f64)>) -> Vec<(f64, Meaning)> {
    let Some((values, tail)) = split(text) else { return vec![] };
    let Some(tail) = Tail::of(tail) else { return vec![] };
    if tail == Tail::default() && ahead.is_none() && values.iter().all(|v| v.because.is_empty()) {
        return vec![];
    }
    values
        .into_iter()
        .filter_map(|reading| {
            let value = Farad::new(reading.farads).ok()?;
            let source = Source::standard("IEC 60062:2016, clauses 5 and 6");
            let mut m = Meaning::new(PartKind::Capacitor, Code::DigitCode, Value::Capacitance(value), source);
            if !reading.because.is_empty() {
                m.because.push(reading.because.clone());
            }
            // With a letter behind them three digits are the code, not a plain number.
            let plain = reading.because == PLAIN && tail.letter.is_some();
            let weight = if plain { 0.1 } else { reading.weight };
            if let Some(letter) = tail.letter {
                let t = tolerance(letter, value)?;
                m.tolerance = Some(t);
                m.because.push(format!("{letter} is {t}"));
            }
            if let Some((code, v)) = ahead {
                m.rating = super::Rating::new(v, VoltsKind::Direct);
                m.because.push(format!("{code} is {v} V"));
            }
            if let Some(v) = tail.volts {
                m.rating = v.rating();
            }
            Some((weight, m))
        })
        .collect()
}

/// What stands behind the value: a tolerance letter, and perhaps volts.
#[derive(Default, PartialEq)]
struct Tail {
    letter: Option<char>,
    volts: Option<volts::Printed>,
}

impl Tail {
    fn of(text: &str) -> Option<Self> {
        let mut tail = Self::default();
        let mut rest = text;
        if let Some(c) = rest.chars().next().filter(char::is_ascii_uppercase) {
            TOLERANCES.iter().find(|t| t.letter == c)?;
            tail.letter = Some(c);
            rest = &rest[1..];
        }
        if rest.is_empty() {
            return Some(tail);
        }
        let printed = volts::printed(rest).or_else(|| {
            let bare = tail.letter.is_some() && (2..=4).contains(&rest.len());
            let number = rest.parse().ok().filter(|v| bare && *v >= 6.0)?;
            Some(volts::Printed { volts: number, kind: VoltsKind::Unstated, surge: false })
        });
        let letters = || {
            let v = volts::of_letters(rest).filter(|_| tail.letter.is_some())?;
            Some(volts::Printed { volts: v, kind: VoltsKind::Direct, surge: false })
        };
        tail.volts = Some(printed.or_else(letters)?);
        Some(tail)
    }
}

/// The value at the head, in each of its meanings, and what stands behind it.
fn split(text: &str) -> Option<(Vec<Reading>, &str)> {
    let digits = text.find(|c: char| !c.is_ascii_digit()).unwrap_or(text.len());
    let (head, rest) = text.split_at(digits);
    if let Some(point) = rest.chars().next().filter(|c| "RpPnuUN".contains(*c)) {
        let behind = &rest[1..];
        let end = behind.find(|c: char| !c.is_ascii_digit()).unwrap_or(behind.len());
        let (frac, tail) = behind.split_at(end);
        if head.len() > 4 || frac.len() > 3 || head.len() + frac.len() == 0 || head.len() + frac.len() > 4 {
            return None;
        }
        // 5R is nothing; 47n, 47p are.
        if frac.is_empty() && point == 'R' {
            return None;
        }
        // 100uH is a coil.
        if tail == "H" {
            return None;
        }
        // The F of 22nF and 8uF450V is the farad, not ±1 %; that of 4n7F is a tolerance.
        let farad = if frac.is_empty() { tail.strip_prefix('F') } else { None };
        return Some((pointed(head, point, frac)?, farad.unwrap_or(tail)));
    }
    Some((zeros(head)?, rest))
}

fn pointed(whole: &str, point: char, frac: &str) -> Option<Vec<Reading>> {
    let number: f64 = format!("{whole}{frac}").parse().ok()?;
    let behind = i32::try_from(frac.len()).ok()?;
    let scale = |unit: i32| number / 10f64.powi(behind - unit);
    let one = |unit, name: &str| {
        let because = format!("{point} stands for the point and for {name}");
        vec![Reading { farads: scale(unit), weight: 1.0, because }]
    };
    Some(match point {
        'p' | 'P' => one(-12, "picofarad"),
        'n' | 'N' => one(-9, "nanofarad"),
        'u' | 'U' => one(-6, "microfarad"),
        _ => {
            let below_one = whole.is_empty() || whole == "0";
            let (micro, pico) = if below_one { (0.6, 0.4) } else { (0.3, 0.7) };
            vec![
                Reading {
                    farads: scale(-6),
                    weight: micro,
                    because: "R stands for the point, in microfarad as on tantalum and film".to_owned(),
                },
                Reading {
                    farads: scale(-12),
                    weight: pico,
                    because: "R stands for the point, in picofarad as on ceramic".to_owned(),
                },
            ]
        }
    })
}

/// Digits alone: two digits and zeros, three digits and zeros, or plain picofarad.
fn zeros(digits: &str) -> Option<Vec<Reading>> {
    let plain = |weight| -> Option<Reading> {
        Some(Reading { farads: digits.parse::<f64>().ok()? / 1e12, weight, because: String::new() })
    };
    match digits.len() {
        1 | 2 if !digits.starts_with('0') => Some(vec![plain(1.0)?]),
        3 | 4 if !digits.starts_with('0') => {
            let (head, last) = digits.split_at(digits.len() - 1);
            let (head, last): (f64, i32) = (head.parse().ok()?, last.parse().ok()?);
            let (exponent, told) = match last {
                8 => (-2, "8 in the last place is × 0.01".to_owned()),
                9 => (-1, "9 in the last place is × 0.1".to_owned()),
                0 => (0, "no zeros behind the digits, in pF".to_owned()),
                n => (n, format!("{head} and {n} zero{}, in pF", if n == 1 { "" } else { "s" })),
            };
            // A trailing zero is a plain number more often than "no zeros"; four digits are mostly plain.
            let weight = match (digits.len(), last) {
                (3, 0) => 0.4,
                (3, _) => 1.0,
                (_, 0) => 0.02,
                (_, _) => 0.3,
            };
            let code = Reading { farads: head * 10f64.powi(exponent) / 1e12, weight, because: told };
            let mut both = vec![code];
            if last == 0 || digits.len() == 4 {
                both.push(Reading { because: PLAIN.to_owned(), ..plain(0.6)? });
            }
            Some(both)
        }
        _ => None,
    }
}
