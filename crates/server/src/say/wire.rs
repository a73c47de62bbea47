//! The JSON shapes of the owl line.

use owl_core::caution::Step;
use owl_core::say::{Chip, ChipSlot, Meant, SayError};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use crate::tray::Written;

/// A sentence as far as it is typed.
#[derive(Debug, Deserialize, ToSchema)]
pub struct Understand {
    /// The sentence.
    #[schema(max_length = 200)]
    pub text: String,
    /// The part that is selected.
    pub selected: Option<Uuid>,
}

/// How it is understood; either words or a problem.
#[derive(Debug, Default, Serialize, ToSchema)]
pub struct Understanding {
    /// The part that it is about.
    pub part: Option<String>,
    /// Its id, if it is on the tray.
    pub part_id: Option<Uuid>,
    /// Further parts that it is about.
    pub also: Vec<String>,
    /// What would be taken.
    #[serde(serialize_with = "crate::dialect::said")]
    pub in_words: Option<String>,
    /// The same piece by piece, each with where it stands in the sentence.
    pub pieces: Vec<ChipView>,
    /// What is known and would be another, as it was.
    #[serde(serialize_with = "crate::dialect::said")]
    pub was: Vec<String>,
    /// Meanings of which one is to be chosen.
    pub which: Vec<MeantView>,
    /// Other meanings that it could have, less likely.
    pub could_also_be: Vec<MeantView>,
    /// A question to be answered before it is taken.
    #[serde(serialize_with = "crate::dialect::said")]
    pub question: Option<String>,
    /// Why it is not understood.
    #[serde(serialize_with = "crate::dialect::said")]
    pub problem: Option<String>,
}

impl Understanding {
    /// Something that is understood: about whom, what would be taken, and the same piece by piece.
    #[must_use]
    pub fn of(about: &str, in_words: String, chips: &[Chip]) -> Self {
        Self {
            part: Some(about.to_owned()),
            in_words: Some(in_words),
            pieces: chips.iter().map(ChipView::from).collect(),
            ..Self::default()
        }
    }

    /// Something that is not, or that has two meanings.
    #[must_use]
    pub fn refused(e: &SayError) -> Self {
        let which = match e {
            SayError::Which(all) => all.iter().map(MeantView::from).collect(),
            _ => vec![],
        };
        Self { problem: Some(e.to_string()), which, ..Self::default() }
    }
}

/// A piece of a sentence.
#[derive(Debug, Serialize, ToSchema)]
pub struct ChipView {
    /// What it was taken for.
    pub slot: ChipSlot,
    /// What was understood.
    #[serde(serialize_with = "crate::dialect::said")]
    pub text: String,
    /// Where it begins in the sentence, in UTF-16 units.
    pub from: usize,
    /// Where it ends.
    pub to: usize,
}

impl From<&Chip> for ChipView {
    fn from(c: &Chip) -> Self {
        Self { slot: c.slot, text: c.text.clone(), from: c.at.start, to: c.at.end }
    }
}

/// One of the meanings that a sentence can have.
#[derive(Debug, Serialize, ToSchema)]
pub struct MeantView {
    /// In a word or two.
    #[serde(serialize_with = "crate::dialect::said")]
    pub label: String,
    /// The sentence that has no other.
    pub sentence: String,
}

impl From<&Meant> for MeantView {
    fn from(m: &Meant) -> Self {
        Self { label: m.label.clone(), sentence: m.sentence.clone() }
    }
}

/// A sentence to be taken.
#[derive(Debug, Deserialize, ToSchema)]
pub struct Say {
    /// The sentence.
    #[schema(max_length = 200)]
    pub text: String,
    /// The part that is selected.
    pub selected: Option<Uuid>,
    /// Chosen by the client, so that sending twice takes it once.
    pub key: Uuid,
    /// The version of the part that was seen, where the sentence changes a part.
    pub version: Option<i32>,
    /// The meter; the one last used on the ticket where it does not say.
    pub instrument: Option<Uuid>,
    /// With what it was measured: one of the choices of the question, or in own words.
    #[serde(default)]
    #[schema(max_length = 60)]
    pub with: String,
    /// Takes a value far off that was asked about.
    #[serde(default)]
    pub confirmed: bool,
}

/// What was taken.
#[derive(Debug, Serialize, ToSchema)]
pub struct Said {
    /// The ticket that it opened.
    pub ticket: Option<Uuid>,
    /// The part that it was about; null of a valve.
    pub part_id: Option<Uuid>,
    /// The valve that it was about: what it did stands in the voltage chart.
    pub valve: Option<String>,
    /// The step that it only opens.
    pub step: Option<Step>,
    /// In words.
    #[serde(serialize_with = "crate::dialect::said")]
    pub in_words: String,
    /// What changed with it; of the first part where it was about several; null of a valve.
    pub written: Option<Written>,
    /// Further parts that it was about: the ticket is to be read again where there are any.
    pub also: Vec<Uuid>,
}

impl Said {
    /// What was done, in words, and nothing else.
    #[must_use]
    pub fn of(in_words: String) -> Self {
        Self { ticket: None, part_id: None, valve: None, step: None, in_words, written: None, also: vec![] }
    }
}
