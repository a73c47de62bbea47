//! Everyday words for what a part is made of, where it sits, how it looks and how it sat: `lytic`, `dog bone`, `burnt`.
//! Where one of them has two meanings it is asked about with both.

use std::sync::LazyLock;

use serde::Deserialize;

use crate::named::Named;
use crate::part::{MadeOf, PartKind, Position, VisualSign};
use crate::reading::State;
use crate::source::Source;
use crate::table::rows;

#[derive(Debug, Clone, Copy, PartialEq, Eq, Deserialize)]
#[serde(rename_all = "lowercase")]
enum Slot {
    Family,
    Position,
    Look,
    State,
    Ask,
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
        }
    }
}

/// The everyday phrase of a kind of part that opens `words`, the longest, and how many of them it takes.
pub(super) fn at_head(kind: PartKind, words: &[&str]) -> Option<(Everyday, usize)> {
    SPEECH
        .iter()
        .filter(|r| r.kind.is_none_or(|k| k == kind))
        .filter_map(|r| {
            let parts: Vec<&str> = r.phrase.split(' ').collect();
            let fits = words.len() >= parts.len()
                && parts.iter().zip(words).all(|(a, b)| a.to_lowercase() == b.to_lowercase());
            fits.then(|| Some((r.meaning(kind)?, parts.len()))).flatten()
        })
        .max_by_key(|(_, used)| *used)
}
