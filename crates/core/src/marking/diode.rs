//! Diodes: bands to a type number (the digits behind 1N by EIA, or Pro Electron letters by two wide
//! bands), and type numbers as printed.
//!
//! Cannot tell a 1N diode of two digits from one of three whose first band is black: by the rule the
//! black band means two digits.

use std::sync::LazyLock;

use serde::Deserialize;

use super::colour::spelled;
use super::{Code, Colour, MarkingError, Meaning, Scheme, Value};
use crate::named::named;
use crate::part::PartKind;
use crate::quantity::{Ampere, Quantity, parse};
use crate::source::Source;
use crate::table::rows;

named! {
    /// What a band of a diode stands for.
    "place of a diode band" Place {
        /// The two letters at the head of a Pro Electron number.
        Family = "family",
        /// The letter of its series.
        Serial = "serial",
        /// The letter behind a 1N number.
        Suffix = "suffix",
    }
}

/// What a colour means on a diode, beside digits.
#[derive(Debug, Clone, Deserialize)]
pub struct Row {
    /// The place.
    pub place: Place,
    /// The colour.
    pub colour: Colour,
    /// The letters.
    pub text: String,
    /// What they mean.
    pub meaning: String,
    /// Where the row comes from.
    pub source: Source,
}

/// A letter of a Pro Electron type number.
#[derive(Debug, Clone, Deserialize)]
pub struct Letter {
    /// `material` or `use`.
    pub place: String,
    /// The letter.
    pub letter: char,
    /// What it means.
    pub meaning: String,
    /// Where the row comes from.
    pub source: Source,
}

static ROWS: LazyLock<Vec<Row>> =
    LazyLock::new(|| rows("marking/diode.csv", include_str!("../../data/marking/diode.csv")));
static LETTERS: LazyLock<Vec<Letter>> =
    LazyLock::new(|| rows("marking/diode_letter.csv", include_str!("../../data/marking/diode_letter.csv")));

/// The colours.
#[must_use]
pub fn table() -> &'static [Row] {
    &ROWS
}

/// The letters.
#[must_use]
pub fn letters() -> &'static [Letter] {
    &LETTERS
}

fn of(place: Place, colour: Colour) -> Option<&'static Row> {
    ROWS.iter().find(|r| r.place == place && r.colour == colour)
}

fn of_type(number: String, code: Code, source: Source) -> Meaning {
    Meaning::new(PartKind::Diode, code, Value::TypeNumber(number), source)
}

/// The type numbers that bands may mean, cathode band first, each with its weight.
///
/// # Errors
/// [`MarkingError`] where they mean none.
pub fn of_colours(colours: &[Colour]) -> Result<Vec<(f64, Meaning)>, MarkingError> {
    if !(2..=5).contains(&colours.len()) {
        return Err(MarkingError::ColourCount {
            given: colours.len(),
            scheme: Scheme::DiodeBands,
            known: "2, 3, 4, 5".to_owned(),
        });
    }
    let mut found = Vec::new();
    found.extend(jedec(colours).map(|m| (1.0, m)));
    found.extend(pro_electron(colours).map(|m| (0.3, m)));
    for (_, m) in &mut found {
        m.scheme = Some(Scheme::DiodeBands);
        m.colours = colours.to_vec();
        m.because.insert(0, format!("bands from the cathode: {}", spelled(colours)));
    }
    if found.is_empty() {
        let wrong = colours.iter().find(|c| c.row().digit.is_none()).copied().unwrap_or(colours[0]);
        return Err(MarkingError::Order(format!("{wrong} is no digit of a diode's number")));
    }
    Ok(found)
}

fn digits(colours: &[Colour]) -> Option<String> {
    colours.iter().map(|c| c.row().digit.map(|d| d.to_string())).collect()
}

/// Black and two digits; three digits; four digits; a letter may follow.
fn jedec(colours: &[Colour]) -> Option<Meaning> {
    let source = Source::standard("EIA RS-236, colour code of diode type numbers (memory)");
    let (number, suffix) = match colours {
        [Colour::Black, a, b] => (digits(&[*a, *b])?, None),
        [Colour::Black, a, b, s] => (digits(&[*a, *b])?, Some(*s)),
        [a, b, c] => (digits(&[*a, *b, *c])?, None),
        [a, b, c, d] => (digits(&[*a, *b, *c, *d])?, None),
        [a, b, c, d, Colour::Black] => (digits(&[*a, *b, *c, *d])?, None),
        [a, b, c, d, s] => (digits(&[*a, *b, *c, *d])?, Some(*s)),
        _ => return None,
    };
    if number.starts_with('0') {
        return None;
    }
    let suffix = match suffix {
        Some(colour) => of(Place::Suffix, colour)?.text.clone(),
        None => String::new(),
    };
    let mut m = of_type(format!("1N{number}{suffix}"), Code::DiodeBands, source);
    m.because.push("the digits behind 1N".to_owned());
    Some(m)
}

/// Two wide bands for the letters, then digits.
fn pro_electron(colours: &[Colour]) -> Option<Meaning> {
    let (first, rest) = colours.split_first()?;
    let family = of(Place::Family, *first)?;
    let (serial, number) = match rest {
        [s, a, b] => (of(Place::Serial, *s)?.text.clone(), digits(&[*a, *b])?),
        _ => return None,
    };
    let source = family.source.clone();
    let mut m = of_type(format!("{}{serial}{number}", family.text), Code::DiodeBands, source);
    m.because.push(format!("two wide bands for {}{serial}: {}", family.text, family.meaning));
    Some(m)
}

/// A rectifier by the current that is printed on it, as selenium stacks have it: `75 mA`. It is a type of its own.
#[must_use]
pub fn by_current(text: &str) -> Option<Meaning> {
    let unit = text.trim().trim_start_matches(|c: char| c.is_ascii_digit() || "., ".contains(c));
    if parse::quantity_of_unit(unit) != Some(Quantity::Current) {
        return None;
    }
    let amperes =
        Ampere::new(parse::best(Quantity::Current, text.trim()).ok()?).ok().filter(|a| *a > Ampere::ZERO)?;
    let source = Source::practice("the current of a stack is printed on it");
    let mut m = of_type(amperes.to_string(), Code::PlainText, source);
    m.because.push("no type number: what it carries".to_owned());
    Some(m)
}

/// A registered type number as printed: `1N34A`, `OA70`, `AA119`, `BAY41`. `None` for anything else.
#[must_use]
pub fn printed(text: &str) -> Option<Meaning> {
    let text: String = text.trim().to_ascii_uppercase().chars().filter(|c| !c.is_whitespace()).collect();
    if let Some(rest) = text.strip_prefix("1N") {
        let n = rest.chars().take_while(char::is_ascii_digit).count();
        let tail = &rest[n..];
        let suffix = tail.is_empty() || (tail.len() == 1 && tail.chars().all(|c| c.is_ascii_uppercase()));
        let source = Source::standard("JEDEC type registration: 1N and digits");
        return ((2..=4).contains(&n) && suffix).then(|| {
            let mut m = of_type(text.clone(), Code::TypeNumber, source);
            m.because.push("1N and digits: a registered diode".to_owned());
            m
        });
    }
    if let Some(rest) = text.strip_prefix("OA") {
        let fits = (1..=4).contains(&rest.len()) && rest.bytes().all(|b| b.is_ascii_digit());
        return fits.then(|| {
            let source = Source::memory("the older European type numbers");
            let mut m = of_type(text.clone(), Code::TypeNumber, source);
            m.because.push("OA and digits: the older European number of a diode".to_owned());
            m
        });
    }
    let mut chars = text.chars();
    let (material, usage) = (chars.next()?, chars.next()?);
    let of = |place: &str, letter| LETTERS.iter().find(|l| l.place == place && l.letter == letter);
    let (material, usage) = (of("material", material)?, of("use", usage)?);
    let rest = chars.as_str();
    let letter = rest.chars().take_while(|c| ('P'..='Z').contains(c)).count();
    let digits = &rest[letter..];
    let fits = letter <= 1 && (2..=3).contains(&digits.len()) && digits.bytes().all(|b| b.is_ascii_digit());
    fits.then(|| {
        let mut m = of_type(text.clone(), Code::TypeNumber, material.source.clone());
        m.because.push(format!("{}: {} {}", &text[..2], material.meaning, usage.meaning));
        m
    })
}
