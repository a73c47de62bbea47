//! A set that is taken in, as it is said: `new ticket Skarholm Tern, AC/DC, valves, hums and is weak`.

use std::sync::LazyLock;

use serde::Deserialize;

use super::chip::{Chip, ChipSlot};
use super::{LONGEST, Meant, SayError};
use crate::named::Named;
use crate::phrase::longest;
use crate::set::{Devices, PowerSource};
use crate::source::Source;
use crate::table::rows;

#[derive(Debug, Clone, Copy, PartialEq, Eq, Deserialize)]
#[serde(rename_all = "lowercase")]
enum Says {
    Source,
    Devices,
}

#[derive(Deserialize)]
struct Row {
    phrase: String,
    says: Says,
    meaning: String,
    #[allow(dead_code, reason = "read so that a row without a source is refused")]
    source: Source,
}

static WORDS: LazyLock<Vec<Row>> =
    LazyLock::new(|| rows("set_word.csv", include_str!("../../data/set_word.csv")));

/// What opens such a sentence.
const OPENS: [&str; 3] = ["new ticket ", "ticket ", "new set "];
/// The longest name of a set.
const LONGEST_NAME: usize = 80;

/// A set that is taken in.
#[derive(Debug, Clone, PartialEq)]
pub struct OfSet {
    /// What it is called.
    pub name: String,
    /// How it is fed.
    pub source: PowerSource,
    /// What it works with.
    pub devices: Devices,
    /// What is wrong with it; empty where that was not said.
    pub complaint: String,
    /// The same piece by piece.
    pub chips: Vec<Chip>,
}

/// Understands a set that is taken in; `None` for a sentence about anything else. How it is fed and what it works with is
/// never guessed: the cautions hang on it.
///
/// # Errors
/// [`SayError::Which`] with both as whole sentences where one of the two was not said.
///
/// ```
/// use owl_core::say::of_set;
/// let said = of_set("new ticket Skarholm Tern, AC/DC valves, hums").unwrap().unwrap();
/// assert_eq!((said.name.as_str(), said.complaint.as_str()), ("Skarholm Tern", "hums"));
/// assert!(of_set("ticket Skarholm Tern, hums").unwrap().is_err());
/// assert!(of_set("R4 22k").is_none());
/// ```
#[must_use]
pub fn of_set(typed: &str) -> Option<Result<OfSet, SayError>> {
    if typed.chars().count() > LONGEST {
        return None;
    }
    let opens = |o: &&&str| typed.get(..o.len()).is_some_and(|head| head.eq_ignore_ascii_case(o));
    let begins = OPENS.iter().filter(opens).map(|o| o.len()).max()?;
    let (mut source, mut devices, mut complaint) = (None, None, Vec::new());
    let mut chips = Vec::new();
    let mut name = "";
    let mut at = begins;
    for (i, piece) in typed[begins..].split(',').enumerate() {
        let from = at + piece.len() - piece.trim_start().len();
        let span = from..from + piece.trim().len();
        at += piece.len() + 1;
        let said = piece.trim();
        if i == 0 {
            name = said;
            chips.push(Chip::of(ChipSlot::Name, name, typed, &span));
        } else if let Some(all) = class_words(said) {
            for (row, meaning) in all {
                match row {
                    Says::Source => source = PowerSource::from_name(meaning).ok(),
                    Says::Devices => devices = Devices::from_name(meaning).ok(),
                }
                chips.push(Chip::of(ChipSlot::Fact, meaning, typed, &span));
            }
        } else if !said.is_empty() {
            complaint.push(said);
            chips.push(Chip::of(ChipSlot::Look, said, typed, &span));
        }
    }
    if name.is_empty() || name.chars().count() > LONGEST_NAME {
        return Some(Err(SayError::SetName));
    }
    let asked = |all: &[&str]| {
        let one = |word: &&str| Meant {
            label: (*word).to_owned(),
            sentence: format!("{}, {word}", typed.trim().trim_end_matches(',')),
        };
        Some(Err(SayError::Which(all.iter().map(one).collect())))
    };
    let Some(source) = source else { return asked(&["mains transformer", "live chassis", "battery"]) };
    let Some(devices) = devices else { return asked(&["valves", "transistors"]) };
    let (name, complaint) = (name.to_owned(), complaint.join(", "));
    Some(Ok(OfSet { name, source, devices, complaint, chips }))
}

/// What a piece says of the class of a set; `None` where a word of it says anything else.
fn class_words(piece: &str) -> Option<Vec<(Says, &'static str)>> {
    let filler = |w: &&str| ["and", "set", "und"].iter().any(|f| f.eq_ignore_ascii_case(w));
    let words: Vec<&str> = piece.split_whitespace().filter(|w| !filler(w)).collect();
    let mut found = Vec::new();
    let mut at = 0;
    while at < words.len() {
        let (row, used) = longest(&words[at..], WORDS.iter().map(|r| (r.phrase.as_str(), r)))?;
        found.push((row.says, row.meaning.as_str()));
        at += used;
    }
    (!found.is_empty()).then_some(found)
}

impl OfSet {
    /// What is taken in, in words.
    #[must_use]
    pub fn in_words(&self) -> String {
        let complaint =
            if self.complaint.is_empty() { String::new() } else { format!(": {}", self.complaint) };
        format!("new ticket {}, {}, {}{complaint}", self.name, self.source, self.devices)
    }
}
