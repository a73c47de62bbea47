//! Everyday words for what a part is made of, where it sits, how it looks and how it sat: `lytic`, `dog bone`, `burnt`.
//! Where one of them has two meanings it is asked about with both.

use std::sync::LazyLock;

use serde::Deserialize;

use super::SayError;
use crate::named::Named;
use crate::part::{MadeOf, PartKind, Position, VisualSign};
use crate::phrase::opens;
use crate::reading::State;
use crate::source::Source;
use crate::table::rows;

#[derive(Debug, Clone, Copy, PartialEq, Eq, Deserialize)]
#[serde(rename_all = "lowercase")]
pub(super) enum Slot {
    Family,
    Position,
    Look,
    State,
    /// Several meanings, `|` between them.
    Ask,
    /// A place that is no valve's.
    Place,
    /// One that is said behind "to" alone.
    Node,
    /// A unit in words.
    Unit,
    /// A verb of measuring: a value stands behind it.
    Verb,
    /// What carries no meaning of its own.
    Filler,
}

#[derive(Debug, Deserialize)]
struct Row {
    phrase: String,
    kind: Option<PartKind>,
    slot: Slot,
    meaning: String,
    #[allow(dead_code, reason = "read so that a row without a source is refused")]
    source: Source,
}

static SPEECH: LazyLock<Vec<Row>> =
    LazyLock::new(|| rows("speech.csv", include_str!("../../data/speech.csv")));

/// What an everyday phrase means.
#[derive(Debug, Clone, PartialEq)]
pub(super) enum Everyday {
    Family(MadeOf),
    Position(Position),
    Look(VisualSign),
    State(State),
    /// One of these, each said in a word that has one meaning.
    OneOf(Vec<&'static str>),
}

impl Row {
    fn meaning(&'static self, kind: PartKind) -> Option<Everyday> {
        match self.slot {
            Slot::Family => MadeOf::ALL
                .iter()
                .copied()
                .find(|f| f.suits(kind) && f.name() == self.meaning)
                .map(Everyday::Family),
            Slot::Position => Position::from_name(&self.meaning).ok().map(Everyday::Position),
            Slot::Look => {
                VisualSign::from_name(&self.meaning).ok().filter(|l| l.on(kind).is_some()).map(Everyday::Look)
            }
            Slot::State => State::from_name(&self.meaning).ok().map(Everyday::State),
            Slot::Ask => Some(Everyday::OneOf(self.meaning.split('|').collect())),
            Slot::Place | Slot::Node | Slot::Unit | Slot::Verb | Slot::Filler => None,
        }
    }
}

/// The place that opens `words` and is no valve's, and how many of them it takes; `alone` where no "to" stands before it.
pub(super) fn place_at_head(words: &[&str], alone: bool) -> Option<(&'static str, usize)> {
    SPEECH
        .iter()
        .filter(|r| r.slot == Slot::Place || r.slot == Slot::Node && !alone)
        .filter_map(|r| Some((r.phrase.as_str(), opens(&r.phrase, words)?)))
        .max_by_key(|(_, used)| *used)
}

/// The everyday phrase of a kind of part that opens `words`, the longest, and how many of them it takes.
pub(super) fn at_head(kind: PartKind, words: &[&str]) -> Option<(Everyday, usize)> {
    SPEECH
        .iter()
        .filter(|r| r.kind.is_none_or(|k| k == kind))
        .filter_map(|r| Some((r, opens(&r.phrase, words)?)))
        .filter_map(|(r, used)| Some((r.meaning(kind)?, used)))
        .max_by_key(|(_, used)| *used)
}

/// Whether a word is of that slot, whatever the part.
pub(super) fn is(word: &str, slot: Slot) -> bool {
    let lower = word.to_lowercase();
    SPEECH.iter().any(|r| r.slot == slot && r.kind.is_none() && r.phrase == lower)
}

/// Whether a word only says again what kind of part it is: `fuse` of F1.
pub(super) fn is_its_kind(word: &str, kind: PartKind) -> bool {
    let lower = word.to_lowercase();
    SPEECH.iter().any(|r| r.slot == Slot::Filler && r.kind == Some(kind) && r.phrase == lower)
}

/// The suffix that a unit in words stands for.
pub(super) fn unit(word: &str) -> Option<&'static str> {
    SPEECH.iter().find(|r| r.slot == Slot::Unit && r.phrase == word).map(|r| r.meaning.as_str())
}

/// How alike two words must be for one to be offered for the other (practice: a slip or two in a word).
const ALIKE: f64 = 0.75;

/// A word that is not understood of a kind of part, with the one that was meant where one looks like it.
pub(super) fn unknown(word: &str, kind: PartKind) -> SayError {
    let lower = word.to_lowercase();
    let spoken = SPEECH
        .iter()
        .filter(|r| r.kind.is_none_or(|k| k == kind) && !matches!(r.slot, Slot::Filler | Slot::Unit))
        .map(|r| r.phrase.as_str());
    let families = MadeOf::ALL.iter().filter(|f| f.suits(kind)).map(|f| f.name());
    let looks = VisualSign::of(kind).map(|l| l.name());
    let near = spoken
        .chain(families)
        .chain(Position::of(kind).map(|p| p.name()))
        .chain(looks)
        .map(|w| (strsim::normalized_damerau_levenshtein(&lower, w), w))
        .filter(|(alike, _)| *alike >= ALIKE)
        .max_by(|a, b| a.0.total_cmp(&b.0))
        .map(|(_, w)| w);
    SayError::Word { word: word.chars().take(20).collect(), near }
}
