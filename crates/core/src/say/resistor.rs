//! Sentences about resistors: a value is a mark or a reading.

use std::ops::Range;

use super::chip::{Chip, ChipSlot};
use super::everyday;
use super::extras::{About, Extras, others, which};
use super::hear::{Word, begins_a_number};
use super::measured::{found, is_beyond, measured};
use super::{Entered, Known, Mark, Meant, SayError, Understood};
use crate::marking::plain_text::{Piece, pieces};
use crate::marking::{Colour, Hints, read_colours};
use crate::part::PartKind;
use crate::quantity::format::percent;
use crate::quantity::{Fraction, Ohm, Quantity, Watt, parse};
use crate::reading::ReadQuantity;
use crate::reading::doubt::doubt;

/// Watts that resistors are made for, in so many that a bare number can be meant (practice: usual sizes).
const WATTS: &[f64] = &[
    0.1, 0.125, 0.2, 0.25, 0.33, 0.4, 0.5, 0.6, 1.0, 2.0, 3.0, 4.0, 5.0, 6.0, 7.0, 8.0, 9.0, 10.0, 11.0,
    15.0, 17.0, 20.0, 25.0, 50.0, 100.0,
];
/// Tolerances in percent that they are made to (IEC 60062:2016, table 2).
const PERCENTS: &[f64] = &[1.0, 2.0, 5.0, 10.0, 20.0];

/// A value with what else it could be, and where it stands.
struct Value {
    ohms: Ohm,
    others: Vec<Meant>,
    at: Range<usize>,
}

/// The sentence taken apart, before it is known whether a value is a mark or a reading.
#[derive(Default)]
struct Taken {
    value: Option<Value>,
    mark: Mark,
    /// Where what is said of the mark stands.
    mark_at: Option<Range<usize>>,
    sheet: Option<(Ohm, Range<usize>)>,
    reading: Option<Value>,
    marked: bool,
}

/// Understands what is said of a resistor.
pub(super) fn understood(
    about: &About<'_>,
    mut extras: Extras,
    known: Option<&Known>,
) -> Result<Understood, SayError> {
    let name = about.name.to_owned();
    let mut taken = Taken::of(about, &extras)?;
    let describes = taken.marked || !taken.mark.is_empty() || says_what_it_is(&extras);
    let mut could_also_be = vec![];
    if let Some(value) = taken.value.take() {
        // A known part with a bare value is measured; otherwise the value is its mark.
        let taken_as_read = extras.hot.is_some() || extras.state.is_some() || !extras.at.is_empty();
        let read = known.is_some()
            && (!describes || (taken_as_read && taken.mark.is_empty()))
            && taken.reading.is_none()
            && extras.beyond.is_none();
        if read {
            taken.reading = Some(value);
        } else {
            taken.widen(&value.at);
            taken.mark.value = Some(value.ohms);
            could_also_be = value.others;
        }
    }
    if known.is_none() && taken.mark.value.is_none() && taken.sheet.is_none() {
        return Err(SayError::NewWithoutValue(name));
    }
    let of = ReadQuantity::Resistance;
    let mut question = None;
    let entered = match (&taken.reading, &extras.beyond) {
        (Some(value), _) => {
            could_also_be.clone_from(&value.others);
            let known_si = known.and_then(|k| k.marked_si.or(k.sheet_si));
            let expected = taken.mark.value.map(Ohm::ohms).or(known_si);
            question = expected.and_then(|e| doubt(of, value.ohms.ohms(), e));
            let entered = Entered::of(of, Some(value.ohms.ohms()));
            Some((entered, value.at.clone()))
        }
        (None, Some((beyond, at))) => Some((found(PartKind::Resistor, about.name, *beyond)?, at.clone())),
        (None, None) if extras.state.is_some() || extras.hot.is_some() => {
            return Err(SayError::NoReading(name));
        }
        (None, None) => None,
    };
    taken.chips(about, &mut extras);
    let condition = extras.at.first().map(|(_, at)| *at);
    let measured: Vec<_> = entered
        .into_iter()
        .map(|(e, at)| {
            let m = measured(about.kind, &e, condition, &extras, known);
            extras.chips.push(Chip::of(ChipSlot::Reading, m.value_in_words(), about.typed, &at));
            m
        })
        .collect();
    Ok(Understood {
        kind: PartKind::Resistor,
        fresh: known.is_none(),
        mark: taken.mark,
        other: None,
        sheet_si: taken.sheet.map(|(v, _)| v.ohms()),
        measured,
        said: extras.said,
        doubt: question,
        in_words: String::new(),
        could_also_be,
        was: vec![],
        chips: extras.chips,
        name,
    })
}

/// Whether something was said that only the mark stands beside: what is seen on it comes with a reading as well.
fn says_what_it_is(extras: &Extras) -> bool {
    let said = super::Said { looks: vec![], ..extras.said.clone() };
    !said.is_empty()
}

impl Taken {
    fn of(about: &About<'_>, extras: &Extras) -> Result<Self, SayError> {
        let words = &extras.rest;
        let mut taken = Self::default();
        let mut i = 0;
        let mut loose: Vec<&Word> = Vec::new();
        while i < words.len() {
            let word = words[i].text.as_str();
            i += if word == "=" {
                taken.take_reading(&words[i..], about, extras)?
            } else if word.eq_ignore_ascii_case("sheet") {
                let value = words.get(i + 1).ok_or_else(|| SayError::NoSheetValue(about.name.to_owned()))?;
                taken.sheet = Some((value_of(&value.text)?.0, words[i].at.start..value.at.end));
                2
            } else if word.eq_ignore_ascii_case("marked") {
                taken.marked = true;
                1
            } else {
                loose.push(&words[i]);
                1
            };
        }
        taken.take_loose(about, &loose)?;
        Ok(taken)
    }

    /// `= 9100`, `= 9.1 k`; what is beyond the range was taken before.
    fn take_reading(&mut self, rest: &[Word], about: &About<'_>, extras: &Extras) -> Result<usize, SayError> {
        let Some(word) = rest.get(1) else {
            return if extras.beyond.is_some() {
                Ok(1)
            } else {
                Err(SayError::NoReading(about.name.to_owned()))
            };
        };
        if is_beyond(&word.text) || extras.beyond.is_some() && !begins_a_number(&word.text) {
            return Ok(1);
        }
        let (ohms, all) = value_of(&word.text)?;
        let others = others(about.typed, &word.at, &all)?;
        self.reading = Some(Value { ohms, others, at: rest[0].at.start..word.at.end });
        Ok(2)
    }

    fn widen(&mut self, at: &Range<usize>) {
        let was = self.mark_at.take().unwrap_or_else(|| at.clone());
        self.mark_at = Some(was.start.min(at.start)..was.end.max(at.end));
    }

    fn take_loose(&mut self, about: &About<'_>, loose: &[&Word]) -> Result<(), SayError> {
        let rest = self.take_colours(loose)?;
        for word in rest {
            for piece in pieces(&word.text) {
                match piece {
                    Piece::Tolerance(t) => {
                        self.widen(&word.at);
                        self.mark.tolerance = Some(t);
                    }
                    Piece::Power(p) => {
                        self.widen(&word.at);
                        self.mark.power = Some(p);
                    }
                    Piece::Value(meanings) => {
                        let best = &meanings[0];
                        let Some(ohms) = best.resistance() else { continue };
                        if let Some(first) = self.value.as_ref().map(|v| v.ohms).or(self.mark.value) {
                            self.take_second(about, word, first, ohms, loose)?;
                            continue;
                        }
                        if let Some(t) = best.tolerance_fraction() {
                            self.mark.tolerance = Some(t);
                        }
                        let all: Vec<(String, f64)> =
                            meanings.iter().map(|m| (m.value.to_string(), m.likelihood)).collect();
                        let others = others(about.typed, &word.at, &all)?;
                        self.value = Some(Value { ohms, others, at: word.at.clone() });
                    }
                    Piece::Word(w) => {
                        // Say what is wrong with a number, rather than that it is no word.
                        if w.starts_with(|c: char| c.is_ascii_digit() || "-+.".contains(c)) {
                            value_of(&w)?;
                        }
                        return Err(everyday::unknown(&w, PartKind::Resistor));
                    }
                }
            }
        }
        Ok(())
    }

    /// Colours, where there are some; the words that are none are left.
    fn take_colours<'w>(&mut self, loose: &[&'w Word]) -> Result<Vec<&'w Word>, SayError> {
        let is_colour = |w: &&&Word| matches!(Colour::list(&w.text), Ok(Some(_)));
        let (coloured, rest): (Vec<&Word>, Vec<&Word>) = loose.iter().copied().partition(|w| is_colour(&w));
        let numbers = rest.iter().all(|w| begins_a_number(&w.text));
        if coloured.is_empty() {
            return Ok(rest);
        }
        // A word among colours that is none is said so.
        let all = if numbers { &coloured[..] } else { loose };
        let text = all.iter().map(|w| w.text.as_str()).collect::<Vec<_>>().join(" ");
        let Some(colours) = Colour::list(&text)? else { return Ok(loose.to_vec()) };
        let best = read_colours(&colours, Hints::of(PartKind::Resistor))?.swap_remove(0);
        self.mark.value = best.resistance();
        self.mark.tolerance = best.tolerance_fraction();
        self.mark.colours = best.colours;
        for w in all {
            self.widen(&w.at);
        }
        Ok(if numbers { rest } else { vec![] })
    }

    /// A second number without a unit is watts or percent, as far as either can be.
    fn take_second(
        &mut self,
        about: &About<'_>,
        word: &Word,
        first: Ohm,
        ohms: Ohm,
        loose: &[&Word],
    ) -> Result<(), SayError> {
        let says = |q: Quantity| loose.iter().any(|w| unit_of(&w.text) == Some(q));
        let number = parse::best(Quantity::Ratio, &word.text).ok();
        let is_in = |list: &[f64]| number.is_some_and(|n| list.iter().any(|l| (l - n).abs() < 1e-9));
        let watts = is_in(WATTS) && self.mark.power.is_none() && !says(Quantity::Power);
        let percents = is_in(PERCENTS) && self.mark.tolerance.is_none() && !says(Quantity::Fraction);
        let typed = &about.typed[word.at.clone()];
        // Nobody says half a percent so.
        let percents = percents && !typed.contains(['/', '½', '¼', '⅛']);
        match (number, watts, percents) {
            (Some(n), true, false) => self.mark.power = Watt::new(n).ok(),
            (Some(n), false, true) => self.mark.tolerance = Fraction::new(n / 100.0).ok(),
            (Some(_), true, true) => {
                let both = [format!("{typed} W"), format!("{typed} %")];
                return Err(SayError::Which(which(about.typed, &word.at, &[&both[0], &both[1]])));
            }
            _ => return Err(SayError::TwoValues(first.to_string(), ohms.to_string())),
        }
        self.widen(&word.at);
        Ok(())
    }

    /// What was said of the mark and by the sheet.
    fn chips(&self, about: &About<'_>, extras: &mut Extras) {
        let m = &self.mark;
        let tolerance = m.tolerance.map(|t| format!("±{}", percent(t.fraction())));
        let value = [m.value.map(|v| v.to_string()), tolerance];
        let value = value.into_iter().flatten().collect::<Vec<_>>().join(" ");
        let text = [Some(value).filter(|v| !v.is_empty()), m.power.map(|p| p.to_string())];
        let text = text.into_iter().flatten().collect::<Vec<_>>().join(", ");
        if let Some(at) = self.mark_at.as_ref().filter(|_| !text.is_empty()) {
            extras.chips.push(Chip::of(ChipSlot::Mark, text, about.typed, at));
        }
        if let Some((ohms, at)) = &self.sheet {
            extras.chips.push(Chip::of(ChipSlot::Sheet, format!("sheet {ohms}"), about.typed, at));
        }
    }
}

fn unit_of(word: &str) -> Option<Quantity> {
    parse::quantity_of_unit(word.trim_start_matches(|c: char| c.is_ascii_digit() || ".,/½¼¾⅛".contains(c)))
}

/// The likeliest value, and all of them with their likelihood.
fn value_of(text: &str) -> Result<(Ohm, Vec<(String, f64)>), SayError> {
    let entries = parse::parse(Quantity::Resistance, text)?;
    let ohm = |v: f64| Ohm::new(v).map_err(parse::EntryError::Quantity);
    let best = ohm(entries[0].value)?;
    let all = entries.iter().filter_map(|e| Some((ohm(e.value).ok()?.to_string(), e.likelihood))).collect();
    Ok((best, all))
}
