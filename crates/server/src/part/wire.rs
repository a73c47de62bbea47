//! The JSON shapes of parts.

use owl_core::named::Named;
use owl_core::part::{Fact, MadeOf, Position, VisualSign};
use owl_core::transistor::circuit::Stage;
use std::collections::BTreeMap;

use serde::{Deserialize, Deserializer};
use utoipa::ToSchema;
use uuid::Uuid;

use crate::decode::wire::DecodeQuestion;

/// A new part.
#[derive(Debug, Deserialize, ToSchema)]
pub struct NewPart {
    /// Chosen by the client, so that sending twice adds one part.
    pub id: Option<Uuid>,
    /// From the sheet: R14.
    #[schema(min_length = 1, max_length = 10)]
    pub name: String,
    /// What is marked on it, as typed.
    #[schema(max_length = 120)]
    pub marking: Option<String>,
    /// A reading of its marking that was chosen.
    pub mark: Option<MarkChoice>,
    /// How it is made; a resistor is carbon composition where it does not say.
    pub family: Option<MadeOf>,
}

/// One of the readings of a marking: the question that was asked, and which answer is meant.
#[derive(Debug, Clone, Deserialize, ToSchema)]
pub struct MarkChoice {
    /// The question as it was put to `/api/decode`.
    pub question: DecodeQuestion,
    /// Which reading, counted from 0.
    #[serde(default)]
    pub reading: usize,
}

/// A change to a part; what is left out stays.
#[derive(Debug, Deserialize, ToSchema)]
pub struct PartChange {
    /// The version that was seen.
    pub version: i32,
    /// What is marked on it, as typed; empty takes the mark away.
    #[schema(max_length = 120)]
    pub marking: Option<String>,
    /// A reading of its marking that was chosen.
    pub mark: Option<MarkChoice>,
    /// Takes what was asked about: a mark that is another than the one that was known.
    #[serde(default)]
    pub confirmed: bool,
    /// Why it is no suspect of the part that it is one of.
    #[schema(max_length = 200)]
    pub no_suspect: Option<String>,
    /// What the sheet says, as typed; empty takes it away.
    #[schema(max_length = 200)]
    pub sheet: Option<String>,
    /// Rated watts, as typed; empty takes them away.
    #[schema(max_length = 200)]
    pub watts: Option<String>,
    /// How it is made.
    pub family: Option<MadeOf>,
    /// Where it sits; null takes it away.
    #[serde(default, deserialize_with = "present")]
    pub position: Option<Option<Position>>,
    /// The stage of a transistor, whose place it is.
    pub stage: Option<Stage>,
    /// Where it is found: V3, pin 8.
    #[schema(max_length = 120)]
    pub place: Option<String>,
    /// What was seen on it.
    #[schema(max_length = 2000)]
    pub note: Option<String>,
    /// The other half of its pair, by name; empty takes it out of its pair or group.
    #[schema(max_length = 10)]
    pub pair: Option<String>,
    /// A part whose group it joins, by name.
    #[schema(max_length = 10)]
    pub group: Option<String>,
    /// What is seen on it; what is left out of the list is seen no more.
    #[schema(max_items = 10)]
    pub looks: Option<Vec<VisualSign>>,
    /// What is known of the circuit, as typed, by the fact's name; empty takes a fact away, what is left out stays.
    pub facts: Option<BTreeMap<String, String>>,
    /// The resistor that it is fed through, by name; empty for none.
    #[schema(max_length = 10)]
    pub fed_by: Option<String>,
    /// Whether it is to be tested warm.
    pub test_warm: Option<bool>,
    /// The year in which it was made; empty for not known.
    #[schema(max_length = 10)]
    pub made: Option<String>,
    /// Plates of a selenium stack; empty for not known.
    #[schema(max_length = 10)]
    pub plates: Option<String>,
    /// A winding's resistance by the sheet, as typed; empty takes it away.
    #[schema(max_length = 40)]
    pub winding: Option<String>,
}

impl PartChange {
    /// Whether it says something of the whole set.
    #[must_use]
    pub fn says_of_the_set(&self) -> bool {
        let named = self.facts.iter().flat_map(|f| f.keys()).filter_map(|n| Fact::from_name(n).ok());
        named.into_iter().any(Fact::is_of_the_set)
    }
}

/// Tells `null` from left out.
///
/// # Errors
/// As the inner value.
pub fn present<'de, D: Deserializer<'de>, T: Deserialize<'de>>(d: D) -> Result<Option<Option<T>>, D::Error> {
    Option::<T>::deserialize(d).map(Some)
}
