//! What is done with a part, as it is said: `R3 replace`, `R3 fitted 22k 5% 1 W metal film measured 22.1k`,
//! `R3 proven plays, hum gone`.

use std::sync::LazyLock;

use serde::Deserialize;

use super::chip::{Chip, ChipSlot};
use super::hear::{Word, hear};
use super::subject::subject;
use super::{LONGEST, Tray};
use crate::phrase::longest;
use crate::proof::{ProofOutcome, heard};
use crate::source::Source;
use crate::table::rows;
use crate::verdict::Outcome;

#[derive(Debug, Clone, Copy, PartialEq, Eq, Deserialize)]
enum Verb {
    #[serde(rename = "keep")]
    Keep,
    #[serde(rename = "watch")]
    Watch,
    #[serde(rename = "replace")]
    Replace,
    #[serde(rename = "measure again")]
    MeasureAgain,
    #[serde(rename = "fit")]
    Fit,
    #[serde(rename = "prove")]
    Prove,
}

#[derive(Deserialize)]
struct Row {
    phrase: String,
    deed: Verb,
    #[allow(dead_code, reason = "read so that a row without a source is refused")]
    source: Source,
}

static VERBS: LazyLock<Vec<Row>> =
    LazyLock::new(|| rows("deed_word.csv", include_str!("../../data/deed_word.csv")));

/// Words behind which it is said why.
const WHY: [&str; 5] = ["because", "although", "since", "weil", "obwohl"];
/// Words behind which it is said what went in measures.
const MEASURES: [&str; 4] = ["measured", "measures", "reads", "misst"];

/// What is done with a part.
#[derive(Debug, Clone, PartialEq)]
pub enum Deed {
    /// It is decided on.
    Decide {
        /// What is decided.
        decided: Outcome,
        /// Why; empty where it was not said.
        why: String,
    },
    /// Something went in.
    Fit {
        /// What, in the words that said it; empty where the step is only to be opened.
        description: String,
        /// What it measured, as it was said.
        measured: String,
        /// Why it goes in all the same.
        why: String,
    },
    /// The set was powered.
    Prove {
        /// What was seen, heard and measured; empty where the step is only to be opened.
        seen: String,
        /// How the set is by that, where it says so.
        outcome: Option<ProofOutcome>,
    },
}

/// A deed with the part that it is done to.
#[derive(Debug, Clone, PartialEq)]
pub struct OfDeed {
    /// The part.
    pub name: String,
    /// What is done.
    pub deed: Deed,
    /// The same piece by piece.
    pub chips: Vec<Chip>,
}

/// Understands what is done with a part; `None` for a sentence about anything else.
///
/// ```
/// use owl_core::say::{Deed, Tray, of_deed};
/// use owl_core::verdict::Outcome;
/// let said = of_deed("R9 stays because it is the old one", &Tray::default()).unwrap();
/// assert_eq!(said.deed, Deed::Decide { decided: Outcome::Keep, why: "it is the old one".to_owned() });
/// assert!(of_deed("R9 22k", &Tray::default()).is_none());
/// ```
#[must_use]
pub fn of_deed(typed: &str, tray: &Tray) -> Option<OfDeed> {
    let (name, own, rest) = about(typed, tray)?;
    let (verb, used) = verb_at_head(&rest)?;
    let behind = from(typed, &rest[used..]);
    let span = rest[0].at.start..rest[used - 1].at.end;
    let (said, why) = apart(behind, &WHY);
    let decide = |decided| said.is_empty().then(|| Deed::Decide { decided, why: why.to_owned() });
    let deed = match verb {
        Verb::Keep => decide(Outcome::Keep)?,
        Verb::Watch => decide(Outcome::Watch)?,
        Verb::Replace => decide(Outcome::Replace)?,
        Verb::MeasureAgain => decide(Outcome::MeasureAgain)?,
        Verb::Fit => {
            let (description, measured) = apart(said, &MEASURES);
            let [description, measured, why] = [description, measured, why].map(str::to_owned);
            Deed::Fit { description, measured, why }
        }
        Verb::Prove => proof(behind),
    };
    let mut chips =
        own.map(|w| Chip::of(ChipSlot::Name, &*name, typed, &w.at)).into_iter().collect::<Vec<_>>();
    chips.push(Chip::of(ChipSlot::Deed, deed.in_words(), typed, &span));
    Some(OfDeed { name, deed, chips })
}

/// What a sentence without a verb says of a set in which that part was fitted: `R3 plays, hum gone`; `None` where it says
/// nothing of how the set is.
#[must_use]
pub fn of_proof(typed: &str, tray: &Tray) -> Option<OfDeed> {
    let (name, own, rest) = about(typed, tray)?;
    let seen = from(typed, &rest);
    heard(seen)?;
    let deed = proof(seen);
    let mut chips =
        own.map(|w| Chip::of(ChipSlot::Name, &*name, typed, &w.at)).into_iter().collect::<Vec<_>>();
    chips.push(Chip::of(ChipSlot::Deed, deed.in_words(), typed, &(rest.first()?.at.start..typed.len())));
    Some(OfDeed { name, deed, chips })
}

fn proof(seen: &str) -> Deed {
    Deed::Prove { seen: seen.to_owned(), outcome: heard(seen) }
}

/// The one part that a sentence is about, its word, and the words behind.
fn about(typed: &str, tray: &Tray) -> Option<(String, Option<Word>, Vec<Word>)> {
    if typed.chars().count() > LONGEST {
        return None;
    }
    let subject = subject(hear(typed), tray).ok()?;
    let [(name, own)] = subject.names.as_slice() else { return None };
    (!subject.rest.is_empty()).then(|| (name.clone(), own.clone(), subject.rest))
}

/// The text from the first of some words on, as it was typed.
fn from<'t>(typed: &'t str, words: &[Word]) -> &'t str {
    words.first().and_then(|w| typed.get(w.at.start..)).unwrap_or_default().trim()
}

fn verb_at_head(words: &[Word]) -> Option<(Verb, usize)> {
    let texts: Vec<&str> = words.iter().map(|w| w.text.as_str()).collect();
    longest(&texts, VERBS.iter().map(|r| (r.phrase.as_str(), r.deed)))
}

/// A text before and behind the first of some words.
fn apart<'t>(text: &'t str, words: &[&str]) -> (&'t str, &'t str) {
    let mut at = 0;
    for word in text.split_inclusive(char::is_whitespace) {
        let bare = word.trim().trim_end_matches([',', ':']);
        if words.iter().any(|w| bare.eq_ignore_ascii_case(w)) {
            let before = text[..at].trim().trim_end_matches(',');
            return (before, text[at + word.len()..].trim());
        }
        at += word.len();
    }
    (text.trim(), "")
}

impl Deed {
    /// What is done, in words.
    #[must_use]
    pub fn in_words(&self) -> String {
        let because = |why: &str| if why.is_empty() { String::new() } else { format!(", because {why}") };
        match self {
            Self::Decide { decided, why } => format!("decide: {decided}{}", because(why)),
            Self::Fit { description, .. } if description.is_empty() => "to the Fit step".to_owned(),
            Self::Fit { description, measured, why } => {
                let measured =
                    if measured.is_empty() { String::new() } else { format!(", measured {measured}") };
                format!("fit {description}{measured}{}", because(why))
            }
            Self::Prove { seen, .. } if seen.is_empty() => "to the Prove step".to_owned(),
            Self::Prove { outcome: Some(outcome), seen } => format!("prove, {outcome}: {seen}"),
            Self::Prove { outcome: None, seen } => {
                format!("prove: {seen}; say whether the set is better, as before or worse")
            }
        }
    }
}
