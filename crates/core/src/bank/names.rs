//! Parts named in one breath: `C11-C18`, `C11 to C18`, `R4 R5 R9`.

use crate::part::PartKind;

/// What cannot be read as names of parts.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum NamesError {
    /// No name of a part.
    #[error("'{0}' is no name of a part: such as {1}11-{1}18, or {1}11 {1}12 {1}15")]
    NoName(String, &'static str),
    /// Of another kind than asked.
    #[error("{0} is no {1}: such as {letter}11", letter = .1.letters())]
    Kind(String, PartKind),
    /// From one to another of other letters, backwards, or over too many.
    #[error("'{0}' is no row of parts: from the lower number to the higher, of one letter")]
    Row(String),
    /// Twice.
    #[error("{0} stands there twice")]
    Twice(String),
    /// No bridge has so many.
    #[error("a bridge has two, four or six legs")]
    NoBridge,
    /// So many do not make so many equal legs.
    #[error("{names} of them do not make {legs} equal legs")]
    Legs {
        /// How many were named.
        names: usize,
        /// How many legs.
        legs: usize,
    },
}

/// The parts of a bridge, named in one breath, cut into its legs.
///
/// # Errors
/// [`NamesError::NoBridge`] for a number of legs that no bridge has, [`NamesError::Legs`] where they would not be equal.
///
/// ```
/// use owl_core::bank::names::in_legs;
/// let names = ["D1", "D2", "D3", "D4"].map(str::to_owned);
/// assert_eq!(in_legs(&names, 2).unwrap()[1], ["D3", "D4"]);
/// assert!(in_legs(&names, 3).is_err() && in_legs(&names[..3], 2).is_err());
/// ```
pub fn in_legs(names: &[String], legs: usize) -> Result<Vec<Vec<String>>, NamesError> {
    if !matches!(legs, 2 | 4 | 6) {
        return Err(NamesError::NoBridge);
    }
    if names.is_empty() || !names.len().is_multiple_of(legs) {
        return Err(NamesError::Legs { names: names.len(), legs });
    }
    Ok(names.chunks(names.len() / legs).map(<[String]>::to_vec).collect())
}

/// The parts of one kind that a text names, in its order: names with spaces or commas between, rows with a dash or `to`.
///
/// # Errors
/// [`NamesError`] with the word to blame.
///
/// ```
/// use owl_core::bank::names::named_parts;
/// use owl_core::part::PartKind::Capacitor;
/// assert_eq!(named_parts("c11-13, C20", Capacitor).unwrap(), ["C11", "C12", "C13", "C20"]);
/// ```
pub fn named_parts(text: &str, kind: PartKind) -> Result<Vec<String>, NamesError> {
    let text = text.to_ascii_uppercase().replace(['–', '—'], "-").replace(" TO ", "-").replace(" - ", "-");
    let mut all: Vec<String> = Vec::new();
    for word in text.split([' ', ',', ';', '\n', '\t']).filter(|w| !w.is_empty()) {
        for name in row(word, kind)? {
            if all.contains(&name) {
                return Err(NamesError::Twice(name));
            }
            all.push(name);
        }
    }
    Ok(all)
}

fn row(word: &str, kind: PartKind) -> Result<Vec<String>, NamesError> {
    let (first, last) = word.split_once('-').map_or((word, None), |(a, b)| (a, Some(b)));
    let (letters, from, tail) = name(first, kind)?;
    let Some(last) = last else { return Ok(vec![format!("{letters}{from}{tail}")]) };
    // `C11-18` means `C11-C18`.
    let spelt = if last.starts_with(|c: char| c.is_ascii_digit()) {
        format!("{letters}{last}")
    } else {
        last.to_owned()
    };
    let (other, to, end) = name(&spelt, kind)?;
    let is_row = letters == other && tail.is_empty() && end.is_empty() && from < to && to - from < 40;
    if !is_row {
        return Err(NamesError::Row(word.to_owned()));
    }
    Ok((from..=to).map(|n| format!("{letters}{n}")).collect())
}

/// Letters, number and what stands behind it: `R101A`.
fn name(word: &str, kind: PartKind) -> Result<(String, u32, String), NamesError> {
    let wrong = || NamesError::NoName(word.to_owned(), kind.letters());
    let letters: String = word.chars().take_while(char::is_ascii_alphabetic).collect();
    let rest = word.get(letters.len()..).ok_or_else(wrong)?;
    let digits: String = rest.chars().take_while(char::is_ascii_digit).collect();
    let tail = rest.get(digits.len()..).ok_or_else(wrong)?;
    let short = (1..=4).contains(&digits.len()) && letters.len() <= 2 && !letters.is_empty();
    if !short || tail.len() > 1 || !tail.chars().all(|c| c.is_ascii_alphabetic()) {
        return Err(wrong());
    }
    if PartKind::called(word) != Some(kind) {
        return Err(NamesError::Kind(word.to_owned(), kind));
    }
    Ok((letters, digits.parse().map_err(|_| wrong())?, tail.to_owned()))
}

/// Names in one breath again: `C11-C13, C20`.
#[must_use]
pub fn in_one_breath(names: &[&str]) -> String {
    let numbered = |n: &str| {
        let letters = n.len() - n.trim_start_matches(|c: char| c.is_ascii_alphabetic()).len();
        let (head, digits) = n.split_at(letters);
        digits.parse::<u32>().ok().map(|d| (head.to_owned(), d))
    };
    let mut out: Vec<String> = Vec::new();
    let mut at = 0;
    while let Some(first) = names.get(at) {
        let mut run = 1;
        if let Some((head, n)) = numbered(first) {
            let next =
                |k: usize| names.get(at + k).and_then(|m| numbered(m)) == Some((head.clone(), n + k as u32));
            while next(run) {
                run += 1;
            }
        }
        match run {
            1 => out.push((*first).to_owned()),
            2 => out.extend([(*first).to_owned(), names[at + 1].to_owned()]),
            _ => out.push(format!("{first}-{}", names[at + run - 1])),
        }
        at += run;
    }
    out.join(", ")
}
