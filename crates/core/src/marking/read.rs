//! Tries every code that fits a marking, weighs the meanings and ranks them.

use super::colour_bands::{self, End};
use super::{Colour, MarkingError, Meaning, letter_code, plain_text, weigh};
use crate::quantity::Ohm;

/// The longest marking that is looked at, in characters.
pub const LONGEST: usize = 120;

/// What else is known of the part, to weigh the meanings with.
#[derive(Debug, Clone, Copy, Default)]
pub struct Hints {
    /// What the meter says.
    pub measured: Option<Ohm>,
    /// What the sheet says.
    pub expected: Option<Ohm>,
}

/// The meanings of what is printed or of colours named in words, likeliest first, never empty.
///
/// # Errors
/// [`MarkingError`], in words for the person who typed it.
///
/// ```
/// use owl_core::marking::{Hints, read_text};
/// let m = read_text("4K7J", Hints::default()).unwrap();
/// assert_eq!(m[0].value.ohms(), 4700.0);
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
    if let Some(colours) = Colour::list(text)? {
        return read_colours(&colours, hints);
    }
    let meanings = match letter_code::meaning(text) {
        Some(m) => vec![(1.0, m)],
        None => plain_text::meanings(text)?.into_iter().map(|m| (m.likelihood, m)).collect(),
    };
    if meanings.iter().any(|(_, m)| m.value.ohms() == 0.0) {
        let why = "zero ohm is a link, not a resistor with a value".to_owned();
        return Err(MarkingError::NotUnderstood { text: text.to_owned(), why });
    }
    let weighed = meanings.into_iter().map(|(share, mut m)| {
        let prior = share * weigh::prior(&mut m, End::First);
        (prior, m)
    });
    Ok(ranked(weighed.collect(), hints))
}

/// The meanings of a row of bands, likeliest first, never empty.
///
/// # Errors
/// [`MarkingError`] for a number of bands or an order that no code has.
pub fn read_colours(colours: &[Colour], hints: Hints) -> Result<Vec<Meaning>, MarkingError> {
    if colours.is_empty() {
        return Err(MarkingError::Empty);
    }
    let weighed = colour_bands::meanings(colours)?.into_iter().map(|(end, mut m)| {
        let prior = weigh::prior(&mut m, end);
        (prior, m)
    });
    Ok(ranked(weighed.collect(), hints))
}

fn ranked(weighed: Vec<(f64, Meaning)>, hints: Hints) -> Vec<Meaning> {
    let mut all: Vec<Meaning> = weighed
        .into_iter()
        .map(|(mut weight, mut m)| {
            if let Some(measured) = hints.measured {
                weight *= weigh::given_measured(&mut m, measured);
            }
            if let Some(sheet) = hints.expected {
                weight *= weigh::given_sheet(&mut m, sheet);
            }
            m.likelihood = weight;
            m
        })
        .collect();
    let sum: f64 = all.iter().map(|m| m.likelihood).sum();
    for m in &mut all {
        m.likelihood = if sum > 0.0 { m.likelihood / sum } else { 1.0 };
    }
    all.sort_by(|a, b| b.likelihood.total_cmp(&a.likelihood));
    all
}
