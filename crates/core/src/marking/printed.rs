//! What is printed on a capacitor, word by word: value, tolerance, volts, class, safety mark, date.
//!
//! `0.05 MFD 400 WVDC` · `184K 250V` · `X2 0.1µF 275V~` · `47n 10% 630V` · `104K X7R 50V 8523`

use std::sync::LazyLock;

use serde::Deserialize;

use super::volts::{self, Printed};
use super::{Code, Meaning, Rating, Tolerance, Value, VoltsKind, date, digit_code, temperature};
use crate::named::Named;
use crate::part::{CapacitorFamily, MadeOf, PartKind, SafetyClass};
use crate::quantity::parse::{parse, quantity_of_unit};
use crate::quantity::{Farad, Fraction, Quantity};
use crate::source::Source;
use crate::table::rows;

#[derive(Deserialize)]
struct FamilyWord {
    word: String,
    family: CapacitorFamily,
    #[allow(dead_code, reason = "read so that a row without a source is refused")]
    source: Source,
}

static FAMILY_WORDS: LazyLock<Vec<FamilyWord>> =
    LazyLock::new(|| rows("marking/family_word.csv", include_str!("../../data/marking/family_word.csv")));

/// More than this no ceramic of class 1 of a set has, in farad (practice).
const CLASS_1_MOST: f64 = 0.1e-6;

/// What the words beside the value say.
#[derive(Default)]
struct Beside {
    tolerance: Option<Tolerance>,
    rating: Option<Printed>,
    surge: Option<Printed>,
    safety: Vec<SafetyClass>,
    temperature: Option<temperature::Behaviour>,
    family: Option<CapacitorFamily>,
    notes: Vec<String>,
}

/// The meanings of a capacitor's print, each with its weight among them.
///
/// # Errors
/// The first word that says nothing about a capacitor; empty where there is no value.
pub fn meanings(text: &str) -> Result<Vec<(f64, Meaning)>, String> {
    let mut values: Option<Vec<(f64, Meaning)>> = None;
    let mut beside = Beside::default();
    let words = words(text);
    let mut loose: Vec<String> = Vec::new();
    for word in &words {
        if beside.take(word) {
            continue;
        }
        match values_of(word) {
            found if values.is_none() && !found.is_empty() => values = Some(found),
            _ => loose.push(word.clone()),
        }
    }
    let values = values.ok_or_else(String::new)?;
    for word in loose {
        beside.take_loose(&word).ok_or(word)?;
    }
    let electrolytic = beside.rating.is_some() && beside.temperature.is_none();
    let mut values = values;
    // A class 1 part has picofarads: N750 47.
    if beside.temperature.as_ref().is_some_and(|t| t.family == CapacitorFamily::CeramicClass1) {
        values.retain(|(_, m)| m.value.number().is_some_and(|(_, v)| v < CLASS_1_MOST));
    }
    if let Some(more) = microfarads_beside_volts(&words, electrolytic) {
        values.push(more);
    }
    Ok(values.into_iter().map(|(w, m)| (w, beside.put_on(m))).collect())
}

/// Splits at blanks and puts units that stand apart to their numbers.
fn words(text: &str) -> Vec<String> {
    let spaced = text.replace('±', " ").replace("+/-", " ").replace(['(', ')', ';'], " ").replace('@', " @");
    let mut words: Vec<String> = Vec::new();
    for word in spaced.split_whitespace() {
        if let Some(last) = words.last_mut() {
            let number = last.ends_with(|c: char| c.is_ascii_digit() || c == '.') && !last.contains('/');
            let letters = !word.starts_with(|c: char| c.is_ascii_digit() || c == '.');
            let capacitance = quantity_of_unit(word) == Some(Quantity::Capacitance);
            if last == "@" || (number && letters && (volts::is_unit(word) || word == "%" || capacitance)) {
                last.push_str(word);
                continue;
            }
        }
        words.push(word.to_owned());
    }
    words
}

impl Beside {
    /// Takes a word that can be nothing else; `false` for a value or a number that may be several.
    fn take(&mut self, word: &str) -> bool {
        let upper = word.to_ascii_uppercase();
        if let Some(v) = volts::printed(word) {
            if v.surge {
                self.surge = Some(v);
            } else if let Some(first) = self.rating {
                self.second_rating(first, v);
            } else {
                self.rating = Some(v);
            }
        } else if let Some(t) = percent(word) {
            self.tolerance = Some(t);
        } else if upper == "GMV" {
            self.tolerance = Tolerance::from_percents(0.0, 100.0);
            self.notes.push("GMV: what is marked is guaranteed, and it may be twice as much".to_owned());
        } else if let Some(classes) = safety(&upper) {
            self.safety.extend(classes);
        } else if let Some(b) = temperature::behaviour(&upper) {
            self.temperature = Some(b);
        } else if let Some(f) = FAMILY_WORDS.iter().find(|f| f.word.eq_ignore_ascii_case(word)) {
            self.family = Some(f.family);
        } else if let Some(note) = climate(word) {
            self.notes.push(note);
        } else {
            return false;
        }
        true
    }

    /// DC and AC are two ratings; the one that is direct is the part's, unless it is a safety part.
    fn second_rating(&mut self, first: Printed, second: Printed) {
        let (main, other) = if second.kind == VoltsKind::Direct && first.kind == VoltsKind::Alternating {
            (second, first)
        } else {
            (first, second)
        };
        self.rating = Some(main);
        if let Some(r) = other.rating() {
            self.notes.push(format!("also rated {r}: the two do not stand for each other"));
        }
    }

    /// A word that is only understood beside a value: bare volts, a tolerance letter, a date.
    fn take_loose(&mut self, word: &str) -> Option<()> {
        let letter = |c: char| digit_code::tolerance(c, Farad::new(1e-9).ok()?);
        let mut chars = word.chars();
        if let (Some(c), None) = (chars.next(), chars.next())
            && self.tolerance.is_none()
            && let Some(t) = letter(c.to_ascii_uppercase())
        {
            self.tolerance = Some(t);
            return Some(());
        }
        if let Ok(v) = word.trim_start_matches('/').parse::<f64>()
            && self.rating.is_none()
            && (2.0..=50e3).contains(&v)
        {
            self.rating = Some(Printed { volts: v, kind: VoltsKind::Unstated, surge: false });
            return Some(());
        }
        if let Some((v, letter)) = volts_and_letter(word)
            && self.rating.is_none()
        {
            self.rating = Some(Printed { volts: v, kind: VoltsKind::Unstated, surge: false });
            let tolerance =
                digit_code::tolerance(letter, Farad::new(1e-9).ok()?).filter(|_| self.tolerance.is_none());
            match tolerance {
                Some(t) => self.tolerance = Some(t),
                None => self
                    .notes
                    .push(format!("{letter} behind the volts: a class of temperature, in no table here")),
            }
            return Some(());
        }
        if let Some(v) = volts::of_letters(word)
            && self.rating.is_none()
        {
            self.rating = Some(Printed { volts: v, kind: VoltsKind::Direct, surge: false });
            return Some(());
        }
        self.notes.push(date::perhaps(word)?);
        Some(())
    }

    fn put_on(&self, mut m: Meaning) -> Meaning {
        m.tolerance = self.tolerance.or(m.tolerance);
        let rating = self.rating.and_then(Printed::rating).or(m.rating);
        m.rating =
            rating.map(|r| Rating { surge: self.surge.and_then(Printed::rating).map(|s| s.volts), ..r });
        m.safety = self.safety.first().copied();
        m.temperature = self.temperature.as_ref().map(|b| b.in_words.clone());
        let family = self.family.or(self.temperature.as_ref().map(|b| b.family));
        m.made = family.map(MadeOf::Capacitor);
        m.notes.extend(self.notes.iter().cloned());
        self.say_safety(&mut m);
        m
    }

    fn say_safety(&self, m: &mut Meaning) {
        if self.safety.is_empty() {
            if m.rating.is_some_and(|r| r.kind == VoltsKind::Unstated) {
                m.because.push("volts without AC beside them are direct volts".to_owned());
            }
            return;
        }
        let names = self.safety.iter().map(|s| s.name()).collect::<Vec<_>>().join(" and ");
        // A safety part is rated for the line: volts beside the mark are alternating.
        match &mut m.rating {
            Some(r) if r.kind == VoltsKind::Unstated => {
                r.kind = VoltsKind::Alternating;
                m.because.push(format!("class {names}: the volts beside it are alternating"));
            }
            Some(_) => m.because.push(format!("class {names} by IEC 60384-14")),
            None => m.notes.push(format!("class {names}, but its AC rating is not in what was typed")),
        }
    }
}

/// `50Z`: volts of a made rating and a letter behind them, as on everyday ceramic discs.
fn volts_and_letter(word: &str) -> Option<(f64, char)> {
    let letter = word.chars().last()?.to_ascii_uppercase();
    let volts: f64 = word.strip_suffix(word.chars().last()?)?.parse().ok()?;
    (volts::is_made(CapacitorFamily::CeramicClass2, volts) && letter.is_ascii_uppercase() && letter != 'V')
        .then_some((volts, letter))
}

/// `±10%`, `-20+80%`, `+80-20%`.
fn percent(word: &str) -> Option<Tolerance> {
    let body = word.strip_suffix('%')?;
    let split = body.char_indices().skip(1).find(|(_, c)| matches!(c, '+' | '-' | '−' | '/'));
    let number = |s: &str| -> Option<f64> {
        let s = s.trim_matches(['/', '%']).replace('−', "-");
        s.parse::<f64>().ok().filter(|v| v.abs() <= 500.0)
    };
    match split {
        Some((at, _)) => {
            let (a, b) = (number(&body[..at])?, number(&body[at..])?);
            (a * b <= 0.0).then(|| Tolerance::from_percents(a.min(b).abs(), a.max(b).abs()))?
        }
        None => Tolerance::of_percent(number(body)?.abs()),
    }
}

/// `X2`, `Y1`, `X1Y2`, `X1/Y2`.
fn safety(upper: &str) -> Option<Vec<SafetyClass>> {
    let marks: String = upper.chars().filter(|c| *c != '/').collect();
    let pairs: Option<Vec<SafetyClass>> = marks
        .as_bytes()
        .chunks(2)
        .map(|p| SafetyClass::from_name(std::str::from_utf8(p).ok()?).ok())
        .collect();
    pairs.filter(|p| (1..=2).contains(&p.len()))
}

/// `40/085/21`: −40 to +85 °C, 21 days of damp heat (IEC 60068-1).
fn climate(word: &str) -> Option<String> {
    let parts: Vec<&str> = word.split('/').collect();
    let [cold, hot, days] = parts[..] else { return None };
    if cold.len() != 2 || hot.len() != 3 || days.len() != 2 {
        return None;
    }
    let (cold, hot, days): (u32, u32, u32) = (cold.parse().ok()?, hot.parse().ok()?, days.parse().ok()?);
    Some(format!("climatic category: −{cold} to {hot} °C, {days} days of damp heat (IEC 60068-1)"))
}

fn of_value(farads: f64, because: Vec<String>) -> Option<Meaning> {
    let value = Value::Capacitance(Farad::new(farads).ok().filter(|f| *f > Farad::ZERO)?);
    let source = Source::practice("how values were printed; SI brochure for the prefixes");
    let mut m = Meaning::new(PartKind::Capacitor, Code::PlainText, value, source);
    m.because = because;
    Some(m)
}

/// The value that a word may be: a number with its unit, a digit code, a bare number.
fn values_of(word: &str) -> Vec<(f64, Meaning)> {
    let code = digit_code::meanings(word);
    if !code.is_empty() {
        return code;
    }
    if let Some(m) = trimmer(word) {
        return vec![(1.0, m)];
    }
    // 0.1/400 is 0.1 µF at 400 V; a can with sections has a file of its own.
    let (number, volts) = match word.split_once('/') {
        Some((n, v)) if v.chars().all(|c| c.is_ascii_digit()) && !v.is_empty() => (n, v.parse().ok()),
        Some(_) => return vec![],
        None => (word, None),
    };
    let mut number = number.to_owned();
    // Between old capitals and SI: MFD, MF, mf are micro; a bare number is read by its size.
    if number.ends_with(['.', ',']) {
        number.pop();
    }
    let Ok(entries) = parse(Quantity::Capacitance, &number) else { return vec![] };
    entries
        .into_iter()
        .filter(|e| !e.because.iter().any(|b| b.starts_with("as a three-digit code")))
        .filter_map(|e| {
            let mut m = of_value(e.value, e.because)?;
            m.rating = volts.and_then(|v| Rating::new(v, VoltsKind::Unstated));
            Some((e.likelihood, m))
        })
        .collect()
}

/// Above this no trimmer goes (practice: compression types end at some nanofarads).
const TRIMMER_MOST: f64 = 5e-9;

/// `5-50pf`: a trimmer by its least and its most; anything between them is as it should be.
fn trimmer(word: &str) -> Option<Meaning> {
    let (low, high) = word.split_once('-')?;
    if low.is_empty() || !low.chars().all(|c| c.is_ascii_digit() || c == '.') {
        return None;
    }
    let unit = high.trim_start_matches(|c: char| c.is_ascii_digit() || c == '.');
    let of = |number: &str| parse(Quantity::Capacitance, number).ok()?.into_iter().next().map(|e| e.value);
    let (least, most) = (of(&format!("{low}{unit}"))?, of(high)?);
    if unit.is_empty() || !(least > 0.0 && least < most && most <= TRIMMER_MOST) {
        return None;
    }
    let range = format!("a trimmer from {low} to {high}");
    let mut m = of_value(most, vec![range.clone()])?;
    let minus = Fraction::new(1.0 - least / most).ok()?;
    m.tolerance = Some(Tolerance::Relative { minus, plus: Fraction::computed(0.1) });
    m.notes.push(range);
    Some(m)
}

/// A bare number from 1 up beside volts is mostly an electrolytic's microfarads: `100 25V`.
fn microfarads_beside_volts(words: &[String], volts: bool) -> Option<(f64, Meaning)> {
    let bare = words.iter().find(|w| w.chars().all(|c| c.is_ascii_digit()) && w.len() <= 5)?;
    let number: f64 = bare.parse().ok()?;
    let low_voltage = words.iter().filter_map(|w| volts::printed(w)).any(|v| v.volts <= 100.0);
    let weight = match (number < 100.0, low_voltage) {
        (true, _) => 1.0,
        (false, true) if number.rem_euclid(10.0) == 0.0 => 1.5,
        _ => return None,
    };
    volts.then(|| {
        let m =
            of_value(number / 1e6, vec!["beside volts a bare number is µF on an electrolytic".to_owned()])?;
        Some((weight, m))
    })?
}
