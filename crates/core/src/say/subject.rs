//! Whom a sentence is about: one part, several, or the one that is selected.

use super::everyday::{self, Everyday};
use super::hear::{Word, begins_a_number};
use super::{SayError, Tray, place};
use crate::named::Named;
use crate::part::{PartKind, VisualSign};
use crate::phrase::longest;

/// The parts that a sentence is about, and the words that say something of them.
#[derive(Debug)]
pub(super) struct Subject {
    /// Their names, in capitals, each with its word where it stands in the text.
    pub names: Vec<(String, Option<Word>)>,
    /// The other words.
    pub rest: Vec<Word>,
}

/// Finds the parts that are meant.
pub(super) fn subject(words: Vec<Word>, tray: &Tray) -> Result<Subject, SayError> {
    if words.is_empty() {
        return Err(SayError::Empty);
    }
    let Some(at) = first_name(&words) else {
        let Some(name) = &tray.selected else {
            return Err(SayError::NoPart(words[0].text.chars().take(20).collect()));
        };
        return Ok(Subject { names: vec![(name.clone(), None)], rest: words });
    };
    let mut names = Vec::new();
    let mut rest = Vec::new();
    // Where a further name can stand: behind the last one.
    let mut next = at;
    let printed = value_is_a_name(&words[at..], tray);
    for (i, word) in words.into_iter().enumerate() {
        // Names in a row: "R4 R5 22 10%", "R4, R5 and R6".
        let named = (i == next && (names.is_empty() || !printed)).then(|| part_name(&word.text)).flatten();
        // A value such as R33 stands behind the name that is the same.
        let again = named.as_ref().is_some_and(|n| names.iter().any(|(m, _)| m == n));
        // "R5 R47 5%" on a tray without an R47 says what is printed on R5; "R4 R5" are two where both have plain numbers.
        match named {
            Some(name) if !again && (names.is_empty() || is_another(&name, &names, tray)) => {
                names.push((name, Some(word)));
                next = i + 1;
            }
            _ if word.text.eq_ignore_ascii_case("and") && i == next && i > at => next = i + 1,
            _ => rest.push(word),
        }
    }
    Ok(Subject { names, rest })
}

/// Whether the second of two names of resistors is what is printed on the first: nothing else gives a value.
fn value_is_a_name(words: &[Word], tray: &Tray) -> bool {
    let is_code = |w: &Word| w.text.get(..1) == Some("R") && part_name(&w.text).is_some();
    let of_value = |w: &Word| {
        let unit =
            w.text.trim_start_matches(|c: char| c.is_ascii_digit() || ".,/".contains(c)).to_lowercase();
        begins_a_number(&w.text) && !["w", "%", "v"].contains(&unit.as_str())
    };
    let on_tray = |w: &Word| tray.parts.iter().any(|p| w.text.eq_ignore_ascii_case(&p.name));
    words.get(1).is_some_and(|w| is_code(w) && !on_tray(w))
        && !words[2..].iter().any(|w| of_value(w) || w.text == "=")
}

/// Whether a second name is a part as well and no value: on the tray, or next to the first in number.
fn is_another(name: &str, names: &[(String, Option<Word>)], tray: &Tray) -> bool {
    let number = |n: &str| n.trim_start_matches(|c: char| c.is_ascii_alphabetic()).parse::<i64>().ok();
    let last = names.last().and_then(|(n, _)| number(n));
    let near = last.zip(number(name)).is_some_and(|(a, b)| (b - a).abs() <= 9);
    let same_letter = names.last().is_some_and(|(n, _)| n.chars().next() == name.chars().next());
    tray.parts.iter().any(|p| p.name == name) || near && same_letter
}

/// Where the first part's name stands: at the head, or else the first that is neither another's nor a valve's place.
fn first_name(words: &[Word]) -> Option<usize> {
    if part_name(&words[0].text).is_some_and(|n| !is_place(&n) || words.len() == 1) {
        return Some(0);
    }
    if is_of_the_valve(words) {
        return Some(0);
    }
    let ties = ["pair", "group", "by", "with", "to", "from", "through", "behind", "of", "sheet", "="];
    let is_own = |i: usize| {
        let before = i.checked_sub(1).map(|b| words[b].text.to_lowercase());
        let tied = before.is_some_and(|b| ties.contains(&b.as_str()));
        !tied && part_name(&words[i].text).is_some_and(|n| !is_place(&n))
    };
    let found = (0..words.len()).find(|i| is_own(*i));
    // A valve and nothing else named: it is about the valve.
    found
        .or_else(|| part_name(&words[0].text).filter(|n| n.starts_with('V') && place_alone(words)).map(|_| 0))
}

/// "V2 heater open", "V2 grid current 3uA", "V2 cap loose": what is said of the valve itself. Nothing else hangs on a heater
/// that could be open, a current is nobody's place, and no other part looks so.
fn is_of_the_valve(words: &[Word]) -> bool {
    let is = |i: usize, all: &[&str]| {
        words.get(i).is_some_and(|w| all.iter().any(|a| w.text.eq_ignore_ascii_case(a)))
    };
    let heater = words.len() > 2 && is(1, &["heater", "filament", "heizung"]);
    is_place(&words[0].text.to_ascii_uppercase()) && (heater || is(2, &["current"]) || looks_so(&words[1..]))
}

/// Whether the words begin with what is seen on a valve alone.
fn looks_so(words: &[Word]) -> bool {
    let texts: Vec<&str> = words.iter().map(|w| w.text.as_str()).collect();
    let named = VisualSign::of(PartKind::Valve).map(|l| (l.name(), l));
    let look =
        longest(&texts, named).map(|(l, _)| l).or_else(|| match everyday::at_head(PartKind::Valve, &texts) {
            Some((Everyday::Look(look), _)) => Some(look),
            _ => None,
        });
    look.is_some_and(|l| l.on(PartKind::Resistor).is_none() && l.on(PartKind::Capacitor).is_none())
}

fn is_place(name: &str) -> bool {
    name.starts_with('V') && place::valve(name).is_some()
}

/// Whether the words behind a valve's name say nothing of where another part sits.
fn place_alone(words: &[Word]) -> bool {
    let texts: Vec<&str> = words.iter().map(|w| w.text.as_str()).collect();
    place::at_head(PartKind::Resistor, &texts).is_none_or(|(p, used)| used == 1 && p.electrode.is_none())
}

/// A designation such as R14, C3, VR2 or R101A, in capitals.
pub(super) fn part_name(word: &str) -> Option<String> {
    let letters = word.chars().take_while(char::is_ascii_alphabetic).count();
    let (head, tail) = word.split_at(letters);
    let digits = tail.chars().take_while(char::is_ascii_digit).count();
    let suffix = &tail[digits..];
    let fits = (1..=2).contains(&letters)
        && (1..=4).contains(&digits)
        && (suffix.is_empty() || (suffix.len() == 1 && suffix.chars().all(|c| c.is_ascii_alphabetic())));
    let designators = [
        "R", "RV", "C", "L", "P", "PL", "LP", "T", "V", "Q", "D", "CR", "TR", "VR", "IC", "U", "K", "S",
        "SW", "RL", "F", "SP", "LS",
    ];
    (fits && designators.iter().any(|d| head.eq_ignore_ascii_case(d))).then(|| word.to_ascii_uppercase())
}
