//! Tries every code that fits a marking, weighs the meanings and ranks them.

use std::sync::LazyLock;

use serde::Deserialize;

use super::hints::Hints;
use super::{
    Code, Colour, MarkingError, Meaning, Scheme, can, chip_code, choke, colours, diode, fuse, lamp,
    letter_code, loudspeaker, mil_capacitor, mil_style, plain_text, printed, scheme, transistor, type_number,
    valve, weigh,
};
use crate::part::PartKind;
use crate::source::Source;
use crate::table::rows;

/// The longest marking that is looked at, in characters.
pub const LONGEST: usize = 120;

/// How usual a code of letters and digits is.
#[derive(Debug, Clone, Deserialize)]
pub struct TextCode {
    /// The code.
    pub code: Code,
    /// How usual it is on a bench, 0 to 1.
    pub weight: f64,
    /// Where the row comes from.
    pub source: Source,
}

static TEXT_CODES: LazyLock<Vec<TextCode>> =
    LazyLock::new(|| rows("marking/text_code.csv", include_str!("../../data/marking/text_code.csv")));

/// The most readings that are told, beside those that take the marking as it is seen.
const MOST: usize = 12;

/// The meanings of what is printed or of colours named in words, likeliest first, never empty.
///
/// # Errors
/// [`MarkingError`], in words for the person who typed it.
///
/// ```
/// use owl_core::marking::{Hints, read_text};
/// let m = read_text("4K7J", Hints::default()).unwrap();
/// assert_eq!(m[0].value.number().unwrap().1, 4700.0);
/// assert!(read_text("gold gold gold", Hints::default()).is_err());
/// ```
pub fn read_text(text: &str, hints: Hints) -> Result<Vec<Meaning>, MarkingError> {
    let length = text.chars().count();
    if length > LONGEST {
        return Err(MarkingError::TooLong(length, LONGEST));
    }
    let text = text.trim();
    if text.is_empty() {
        return Err(MarkingError::Empty);
    }
    if let Some(row) = Colour::body_end_dot(text) {
        return read_colours(&row, Hints { scheme: Some(Scheme::BodyEndDot), ..hints });
    }
    if let Some(row) = Colour::list(text)? {
        let lower = text.to_lowercase();
        let wide_first = hints.wide_first || lower.starts_with("wide") || lower.starts_with("broad");
        return read_colours(&row, Hints { wide_first, ..hints });
    }
    let found = candidates(text, &hints);
    if found.is_empty() {
        return Err(not_understood(text, hints.part));
    }
    let weighed = found.into_iter().filter_map(|(share, mut m)| {
        let tolerance = m.tolerance_fraction().map(|t| t.fraction());
        let of_value = match m.value.number() {
            Some((_, n)) => weigh::prior(m.part, n, tolerance, 0) * weigh::given(m.part, n, &hints),
            None => 1.0,
        };
        weigh::explain(&mut m, &hints, 0);
        let code = TEXT_CODES.iter().find(|c| c.code == m.code).map_or(1.0, |c| c.weight);
        let weight = share * code * of_value;
        (weight > 0.0).then_some((weight, m))
    });
    let mut ranked = ranked(weighed.collect());
    if hints.allows(PartKind::Resistor) && !ranked.is_empty() {
        later(&mut ranked, letter_code::american_thousand(text));
    }
    if ranked.is_empty() { Err(not_understood(text, hints.part)) } else { Ok(ranked) }
}

/// The meanings of a row of colours, likeliest first, never empty.
///
/// # Errors
/// [`MarkingError`] for a number of colours or an order that no code has.
pub fn read_colours(row: &[Colour], hints: Hints) -> Result<Vec<Meaning>, MarkingError> {
    if row.is_empty() || row.iter().all(|c| *c == Colour::Absent) {
        return Err(MarkingError::Empty);
    }
    if row.len() > colours::MOST {
        return Err(MarkingError::TooManyColours(row.len(), colours::MOST));
    }
    if let (Some(scheme), Some(part)) = (hints.scheme, hints.part)
        && part_of(scheme) != part
    {
        return Err(MarkingError::SchemeOfOther { scheme, part });
    }
    let mut found = match hints.scheme {
        Some(Scheme::DiodeBands) => vec![],
        _ => colours::meanings(row, &hints),
    };
    let diodes = hints.scheme == Some(Scheme::DiodeBands) || hints.part == Some(PartKind::Diode);
    if diodes {
        found.extend(diode::of_colours(row)?);
    } else if hints.scheme.is_none() && hints.allows(PartKind::Diode) && !found.is_empty() {
        // Any digits could be a diode's: a faint possibility unless it is known to be one.
        let of_diode = diode::of_colours(row).unwrap_or_default();
        let top = found.first().map_or(0.0, |(w, _)| *w);
        found.extend(of_diode.into_iter().map(|(w, m)| (w * top * 0.01, m)));
    }
    if found.is_empty() {
        return Err(colours::refused(row, &hints));
    }
    Ok(ranked(found))
}

/// What kind of part a scheme is used on.
#[must_use]
pub fn part_of(scheme: Scheme) -> PartKind {
    let layout = scheme::layouts().iter().find(|l| l.scheme == scheme);
    layout.map_or(PartKind::Diode, |l| l.part)
}

/// Every meaning that any code of letters and digits gives, with its share within that code.
fn candidates(text: &str, hints: &Hints) -> Vec<(f64, Meaning)> {
    let mut found: Vec<(f64, Meaning)> = Vec::new();
    if hints.allows(PartKind::Resistor) {
        match letter_code::meaning(text) {
            Some(m) => found.push((1.0, m)),
            None => {
                let bare = text.bytes().all(|b| b.is_ascii_digit());
                let share = if bare { 0.5 } else { 1.0 };
                let plain = plain_text::meanings(text).unwrap_or_default();
                found.extend(plain.into_iter().map(|m| (share * m.likelihood, m)));
            }
        }
        found.retain(|(_, m)| m.resistance().is_some_and(|r| r.ohms() > 0.0));
        found.extend(chip_code::meanings(text));
        found.extend(mil_style::meaning(text).map(|m| (1.0, m)));
        found.extend(letter_code::behind_watts(text).map(|m| (1.0, m)));
    }
    if hints.allows(PartKind::Capacitor) {
        match can::meaning(text) {
            Some(m) => {
                found.push((1.0, m));
                found.extend(can::value_and_volts(text));
            }
            None => found.extend(printed::meanings(text).unwrap_or_default()),
        }
        found.extend(mil_capacitor::meaning(text).map(|m| (1.0, m)));
    }
    if hints.allows(PartKind::Coil) {
        let share = if hints.part.is_some() { 20.0 } else { 1.0 };
        found.extend(choke::meanings(text).into_iter().map(|(w, m)| (w * share, m)));
    }
    if hints.allows(PartKind::Lamp) {
        found.extend(lamp::meaning(text, hints.part == Some(PartKind::Lamp)).map(|m| (1.0, m)));
    }
    if hints.allows(PartKind::Diode) {
        found.extend(diode::printed(text).map(|m| (1.0, m)));
        if hints.part == Some(PartKind::Diode) {
            found.extend(diode::by_current(text).map(|m| (1.0, m)));
        }
    }
    if hints.allows(PartKind::Transistor) {
        found.extend(transistor::printed(text, hints.part == Some(PartKind::Transistor)).map(|m| (1.0, m)));
    }
    if hints.part == Some(PartKind::Ic) {
        found.extend(transistor::circuit(text).map(|m| (1.0, m)));
    }
    if hints.part == Some(PartKind::Valve) {
        found.extend(valve::meaning(text).map(|m| (1.0, m)));
    }
    if hints.part == Some(PartKind::Fuse) {
        found.extend(fuse::meaning(text).map(|m| (1.0, m)));
    }
    if hints.part == Some(PartKind::Loudspeaker) {
        found.extend(loudspeaker::meaning(text).map(|m| (1.0, m)));
    }
    if hints.part == Some(PartKind::Switch) {
        found.extend(type_number::meaning(PartKind::Switch, text).map(|m| (1.0, m)));
    }
    found
}

/// How likely a choice is that is only told after all others.
const LATER: f64 = 0.1;

/// Adds what is told after all others.
fn later(ranked: &mut Vec<Meaning>, meaning: Option<Meaning>) {
    let Some(mut m) = meaning.filter(|m| ranked.iter().all(|r| r.value != m.value)) else { return };
    let least = ranked.last().map_or(1.0, |r| r.likelihood);
    m.likelihood = LATER.min(least / 2.0);
    ranked.iter_mut().for_each(|r| r.likelihood *= 1.0 - m.likelihood);
    ranked.push(m);
}

/// Why no code fits, in words for whoever typed it.
fn not_understood(text: &str, part: Option<PartKind>) -> MarkingError {
    let capacitor = || match printed::meanings(text) {
        Err(word) if !word.is_empty() => {
            let word: String = word.chars().take(20).collect();
            format!("'{word}' is no value, tolerance, volts, class or date")
        }
        _ => "there is no value in it, such as 0.02 MFD, 47n or 333K".to_owned(),
    };
    let why = match part {
        Some(PartKind::Resistor) => match plain_text::meanings(text) {
            Err(MarkingError::NotUnderstood { why, .. }) => why,
            _ => "zero ohm is a link, not a resistor with a value".to_owned(),
        },
        Some(PartKind::Capacitor) => capacitor(),
        Some(PartKind::Coil) => "there is no inductance in it, such as 330uH, 2.5mH or 331K".to_owned(),
        Some(PartKind::Lamp) => "no lamp of that number is in the table".to_owned(),
        Some(PartKind::Diode) => "it is no type number such as 1N60 or AA112".to_owned(),
        Some(PartKind::Transistor) => "it is no type number such as 2N2219, AF121, OC72 or 2SC829".to_owned(),
        Some(PartKind::Ic) => "a type number has letters and digits".to_owned(),
        Some(PartKind::Fuse) => "it is no fuse such as T500mA, F1A 250V or 2A slow".to_owned(),
        Some(PartKind::Switch) => "a type number has letters and digits".to_owned(),
        Some(PartKind::Loudspeaker) => "it is no impedance, such as 4 ohm or 3.2 ohm 5 W".to_owned(),
        Some(PartKind::Valve) => "it is no type number of a valve, such as 6K7, EF89 or 0A2".to_owned(),
        None => match (plain_text::meanings(text), printed::meanings(text)) {
            (_, Err(word)) if !word.is_empty() => capacitor(),
            (Err(MarkingError::NotUnderstood { why, .. }), _) => why,
            _ => capacitor(),
        },
    };
    MarkingError::NotUnderstood { text: text.chars().take(40).collect(), why }
}

/// Merges what is the same, makes the likelihoods sum to 1, likeliest first; drops what is too unlikely
/// to be told.
fn ranked(mut found: Vec<(f64, Meaning)>) -> Vec<Meaning> {
    found.sort_by(|a, b| b.0.total_cmp(&a.0));
    let mut merged: Vec<(f64, Meaning)> = Vec::new();
    for (weight, m) in found {
        let same = merged.iter_mut().find(|(_, o)| {
            o.part == m.part && o.value == m.value && o.tolerance == m.tolerance && o.rating == m.rating
        });
        match same {
            Some((w, _)) => *w += weight,
            None => merged.push((weight, m)),
        }
    }
    let least = merged.first().map_or(0.0, |(w, _)| *w) * weigh::weight(weigh::Weight::Told);
    merged.retain(|(w, m)| *w >= least || m.as_seen);
    let mut told = 0;
    merged.retain(|(_, m)| {
        told += 1;
        told <= MOST || m.as_seen
    });
    let sum: f64 = merged.iter().map(|(w, _)| *w).sum();
    let mut all: Vec<Meaning> = merged
        .into_iter()
        .map(|(w, mut m)| {
            m.likelihood = if sum > 0.0 { w / sum } else { 1.0 };
            m
        })
        .collect();
    all.sort_by(|a, b| b.likelihood.total_cmp(&a.likelihood));
    all
}
