//! Sentences about resistors: a value is a mark or a reading.

use super::extras::Extras;
use super::measured::{is_beyond, measured};
use super::{Entered, Known, Mark, SayError, Understood};
use crate::marking::plain_text::{Piece, pieces};
use crate::marking::{Colour, Hints, read_colours};
use crate::part::PartKind;
use crate::quantity::{Ohm, Quantity, parse};
use crate::reading::ReadQuantity;
use crate::reading::doubt::doubt;

/// The sentence taken apart, before it is known whether a value is a mark or a reading.
#[derive(Default)]
struct Taken {
    value: Option<(Ohm, Vec<String>)>,
    mark: Mark,
    sheet: Option<Ohm>,
    reading: Option<(Ohm, Vec<String>)>,
    beyond: bool,
    marked: bool,
}

/// Understands what is said of the resistor `name`.
pub(super) fn understood(
    name: String,
    extras: Extras<'_>,
    known: Option<&Known>,
) -> Result<Understood, SayError> {
    let mut taken = Taken::of(&extras.rest, &name, known.is_some())?;
    let describes = taken.marked || !taken.mark.is_empty() || !extras.said.is_empty();
    let mut could_also_be = vec![];
    if let Some((value, others)) = taken.value.take() {
        // A known part with a bare value is measured; otherwise the value is its mark.
        let taken_as_read = extras.hot.is_some() || extras.state.is_some() || extras.at.is_some();
        if known.is_some()
            && (!describes || (taken_as_read && taken.mark.is_empty()))
            && taken.reading.is_none()
        {
            taken.reading = Some((value, others));
        } else {
            taken.mark.value = Some(value);
            could_also_be = others;
        }
    }
    if known.is_none() && taken.mark.value.is_none() && taken.sheet.is_none() {
        return Err(SayError::NewWithoutValue(name));
    }
    let of = ReadQuantity::Resistance;
    let mut question = None;
    let entered = match (taken.reading, taken.beyond) {
        (Some((value, others)), _) => {
            could_also_be.clone_from(&others);
            let known_si = known.and_then(|k| k.marked_si.or(k.sheet_si));
            let expected = taken.mark.value.map(Ohm::ohms).or(known_si);
            question = expected.and_then(|e| doubt(of, value.ohms(), e));
            Some(Entered { quantity: of, value_si: Some(value.ohms()), others })
        }
        (None, true) => Some(Entered { quantity: of, value_si: None, others: vec![] }),
        (None, false) if extras.state.is_some() || extras.hot.is_some() => {
            return Err(SayError::NoReading(name));
        }
        (None, false) => None,
    };
    Ok(Understood {
        kind: PartKind::Resistor,
        fresh: known.is_none(),
        mark: taken.mark,
        other: None,
        sheet_si: taken.sheet.map(Ohm::ohms),
        measured: entered.map(|e| measured(&e, &extras, known)),
        said: extras.said,
        doubt: question,
        in_words: String::new(),
        could_also_be,
        name,
    })
}

impl Taken {
    fn of(words: &[&str], name: &str, known: bool) -> Result<Self, SayError> {
        let mut taken = Self::default();
        let mut i = 0;
        let mut loose: Vec<&str> = Vec::new();
        while i < words.len() {
            let rest = &words[i..];
            let word = rest[0];
            i += if word == "=" {
                taken.take_reading(rest, name)?
            } else if word.eq_ignore_ascii_case("sheet") {
                let text = rest.get(1).ok_or_else(|| SayError::NoSheetValue(name.to_owned()))?;
                taken.sheet = Some(value_of(text)?.0);
                2
            } else if word.eq_ignore_ascii_case("marked") {
                taken.marked = true;
                1
            } else if is_beyond(word) && known {
                taken.beyond = true;
                1
            } else {
                loose.push(word);
                1
            };
        }
        taken.take_loose(&loose)?;
        Ok(taken)
    }

    /// `= 9100`, `= 9.1 k`, `= OL`.
    fn take_reading(&mut self, rest: &[&str], name: &str) -> Result<usize, SayError> {
        if rest.get(1).is_some_and(|w| is_beyond(w)) {
            self.beyond = true;
            return Ok(2);
        }
        let word = rest.get(1).ok_or_else(|| SayError::NoReading(name.to_owned()))?;
        // A unit that stands apart belongs to the number.
        let joined = rest.get(2).map(|unit| format!("{word}{unit}"));
        let with_unit = joined.filter(|j| {
            word.ends_with(|c: char| c.is_ascii_digit())
                && !rest[2].starts_with(|c: char| c.is_ascii_digit())
                && parse::parse(Quantity::Resistance, j).is_ok()
        });
        let used = if with_unit.is_some() { 3 } else { 2 };
        let text = with_unit.unwrap_or_else(|| (*word).to_owned());
        self.reading = Some(value_of(&text)?);
        Ok(used)
    }

    fn take_loose(&mut self, loose: &[&str]) -> Result<(), SayError> {
        let text = loose.join(" ");
        if let Some(colours) = Colour::list(&text)? {
            let best = read_colours(&colours, Hints::of(PartKind::Resistor))?.swap_remove(0);
            self.mark.value = best.resistance();
            self.mark.tolerance = best.tolerance_fraction();
            self.mark.colours = best.colours;
            return Ok(());
        }
        for piece in pieces(&text) {
            match piece {
                Piece::Tolerance(t) => self.mark.tolerance = Some(t),
                Piece::Power(p) => self.mark.power = Some(p),
                Piece::Value(meanings) => {
                    let best = &meanings[0];
                    let Some(ohms) = best.resistance() else { continue };
                    if let Some((first, _)) = self.value {
                        return Err(SayError::TwoValues(first.to_string(), ohms.to_string()));
                    }
                    if let Some(t) = best.tolerance_fraction() {
                        self.mark.tolerance = Some(t);
                    }
                    let others = meanings[1..].iter().map(|m| m.value.to_string()).collect();
                    self.value = Some((ohms, others));
                }
                Piece::Word(w) => {
                    // Say what is wrong with a number, rather than that it is no word.
                    if w.starts_with(|c: char| c.is_ascii_digit() || "-+.".contains(c)) {
                        value_of(&w)?;
                    }
                    return Err(SayError::Word(w.chars().take(20).collect()));
                }
            }
        }
        Ok(())
    }
}

fn value_of(text: &str) -> Result<(Ohm, Vec<String>), SayError> {
    let entries = parse::parse(Quantity::Resistance, text)?;
    let ohm = |v: f64| Ohm::new(v).map_err(parse::EntryError::Quantity);
    let best = ohm(entries[0].value)?;
    let others = entries[1..].iter().filter_map(|e| ohm(e.value).ok()).map(|o| o.to_string()).collect();
    Ok((best, others))
}
