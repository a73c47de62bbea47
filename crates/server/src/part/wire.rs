//! The JSON shapes of parts.

use std::collections::BTreeMap;

use owl_core::part::Fact;
use owl_core::quantity::write::write;
use serde::{Deserialize, Deserializer, Serialize};
use time::OffsetDateTime;
use utoipa::ToSchema;
use uuid::Uuid;

use crate::amount::Amount;
use crate::cause::CauseView;
use crate::decode::wire::{DecodeQuestion, MeaningView};
use crate::explanation::{DisagreementView, ExplanationView};
use crate::judge::view::{Judgement, ReasonView};
use crate::name::{
    AfterCheckName, CallName, CheckKindName, ColourName, FactName, LookName, MadeOfName, Name, PartKindName,
    PositionName, ReadQuantityName, SchoolName, StandingName, StepName, TesterSettingName,
};
use crate::reading::wire::ReadingView;

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
    pub family: Option<MadeOfName>,
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
    /// What the sheet says, as typed; empty takes it away.
    #[schema(max_length = 200)]
    pub sheet: Option<String>,
    /// Rated watts, as typed; empty takes them away.
    #[schema(max_length = 200)]
    pub watts: Option<String>,
    /// How it is made.
    pub family: Option<MadeOfName>,
    /// Where it sits; null takes it away.
    #[serde(default, deserialize_with = "present")]
    pub position: Option<Option<PositionName>>,
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
    pub looks: Option<Vec<LookName>>,
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

/// Tells `null` from left out.
///
/// # Errors
/// As the inner value.
pub fn present<'de, D: Deserializer<'de>, T: Deserialize<'de>>(d: D) -> Result<Option<Option<T>>, D::Error> {
    Option::<T>::deserialize(d).map(Some)
}

/// A part on the tray.
#[derive(Debug, Serialize, ToSchema)]
pub struct PartView {
    /// Its id.
    pub id: Uuid,
    /// Rises with everything that happens to it.
    pub version: i32,
    /// Its name on the sheet.
    pub name: String,
    /// What it is.
    pub kind: PartKindName,
    /// How it is made, where that is known.
    pub family: Option<MadeOfName>,
    /// Where it sits.
    pub position: Option<PositionName>,
    /// Where it is found.
    pub place: String,
    /// What was seen on it.
    pub note: String,
    /// The other half of its pair, where it is one of two.
    pub pair: Option<PairView>,
    /// The others that it must agree with.
    pub group: Vec<PairView>,
    /// What is seen on it.
    pub looks: Vec<LookName>,
    /// What can be seen on such a part.
    pub can_look: Vec<LookName>,
    /// What is known of the circuit.
    pub facts: Vec<FactView>,
    /// Facts that the verdict depends on and nobody has said.
    pub asks: Vec<FactView>,
    /// The resistor that it is fed through.
    pub fed_by: Option<PairView>,
    /// Whether it is to be tested warm.
    pub test_warm: bool,
    /// The year in which it was made.
    pub made: Option<i32>,
    /// Plates of a selenium stack.
    pub plates: Option<i32>,
    /// A winding's resistance by the sheet.
    pub winding: Option<Amount>,
    /// What matters where it sits.
    pub matters: Option<String>,
    /// What is known of its family.
    pub family_known: Option<FamilyView>,
    /// How to free one end of it.
    pub isolate: String,
    /// What can be read of it, the usual first.
    pub readable: Vec<ReadableView>,
    /// How the switch of a leakage tester belongs for it.
    pub tester_setting: Option<TesterSettingName>,
    /// How much it needs a hand, for a tray with the worst first: the more, the sooner.
    pub urgency: u8,
    /// The part with which it may have died.
    pub suspect_of: Option<PairView>,
    /// Suspects of this part on which nobody has decided yet: they would kill what goes in.
    pub suspects_open: Vec<String>,
    /// The type number that was read on it or fitted.
    pub type_number: Option<String>,
    /// The newest test of its junctions, of a transistor.
    pub junctions: Option<crate::transistor::junction::JunctionView>,
    /// What is checked after fitting, of a transistor.
    pub checks: Vec<CheckView>,
    /// Why it failed, where it was overloaded: open until it is answered.
    pub cause: Option<CauseView>,
    /// What the sheet says.
    pub sheet: Option<Amount>,
    /// What is marked on it.
    pub marked: Option<Amount>,
    /// The marked tolerance as a fraction.
    pub tolerance: Option<f64>,
    /// The reading of its marking that was accepted, as it was.
    pub mark: Option<MeaningView>,
    /// What sheet, mark and meter disagree about; null where they agree or it was answered.
    pub disagreement: Option<DisagreementView>,
    /// How disagreements were explained, oldest first.
    pub explanations: Vec<ExplanationView>,
    /// Its rated watts.
    pub power: Option<Amount>,
    /// Value, tolerance, watts and family in one line.
    pub in_words: String,
    /// What was typed for its marking.
    pub marking: String,
    /// Its bands, or those that it would have.
    pub bands: Vec<ColourName>,
    /// Its readings, oldest first; those before a fitting belong to the part that was taken out.
    pub readings: Vec<ReadingView>,
    /// What was read last of what now sits there.
    pub measured: Option<ReadingView>,
    /// The reading that decided the verdict; null where none did, or where it was the measurement
    /// that was taken before fitting.
    pub deciding: Option<ReadingView>,
    /// The verdict on what now sits there; null without a value to judge against.
    pub judgement: Option<Judgement>,
    /// Whether the judged value is the mark, the sheet's or that of the fitted part.
    pub judged_against: Option<&'static str>,
    /// The last decision that still stands.
    pub decision: Option<DecisionView>,
    /// What was fitted, latest last.
    pub fittings: Vec<FittingView>,
    /// How far it has come.
    pub standing: StandingName,
    /// The step that is next.
    pub step: StepName,
    /// The steps that there are for such a part.
    pub steps: Vec<StepName>,
}

/// A fact of the circuit.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct FactView {
    /// Which.
    pub fact: FactName,
    /// What it is called.
    pub label: String,
    /// What is meant by it.
    pub meaning: String,
    /// As shown, and as it can be typed; empty where it is not known.
    pub text: String,
}

impl FactView {
    /// A fact with its value in the base unit, where it is known.
    #[must_use]
    pub fn of(fact: Fact, value_si: Option<f64>) -> Self {
        let label = fact.label();
        Self {
            fact: Name(fact),
            label: label.map(|l| l.label.clone()).unwrap_or_default(),
            meaning: label.map(|l| l.meaning.clone()).unwrap_or_default(),
            text: value_si.map(|v| write(fact.quantity(), v).to_string()).unwrap_or_default(),
        }
    }
}

/// What is known of a family.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct FamilyView {
    /// Whether its age alone makes it suspect.
    pub known_bad: bool,
    /// How it fails.
    pub failure: String,
    /// The year from which it is reliable, where there is one.
    pub reliable_from: Option<u16>,
    /// What goes in its place.
    pub replaced_by: String,
    /// Where that comes from.
    pub source: String,
}

/// What can be read of a part.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct ReadableView {
    /// What it is called.
    pub called: String,
    /// The quantities that one entry takes, told apart by their units; the usual first.
    pub quantities: Vec<ReadQuantityName>,
}

/// Another part of a pair or group, or a feed.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct PairView {
    /// Its id.
    pub id: Uuid,
    /// Its name.
    pub name: String,
}

/// A decision with the verdict's reasons as they were.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct DecisionView {
    /// What the verdict was.
    pub offered: CallName,
    /// What was decided.
    pub decided: CallName,
    /// Why, where it was decided otherwise.
    pub why: String,
    /// Whose limits decided.
    pub school: SchoolName,
    /// The workshop's copy of that school, where one decided.
    pub policy: String,
    /// The reasons as they were.
    pub reasons: Vec<ReasonView>,
    /// When.
    #[serde(with = "time::serde::rfc3339")]
    pub decided_at: OffsetDateTime,
    /// Whether it still stands: nothing was measured since.
    pub stands: bool,
}

/// What was fitted.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct FittingView {
    /// Its id.
    pub id: Uuid,
    /// In words.
    pub description: String,
    /// Its value.
    pub value: Option<Amount>,
    /// Its tolerance, as shown.
    pub tolerance: Option<String>,
    /// What it measured before it went in, where it was measured.
    pub measured: Option<Amount>,
    /// How far that is from its value, as shown.
    pub deviation: Option<String>,
    /// How old stock was tested.
    pub test: String,
    /// What was taken for it, and where it lay.
    pub taken: Vec<String>,
    /// When it was undone.
    #[serde(with = "time::serde::rfc3339::option")]
    pub withdrawn_at: Option<OffsetDateTime>,
    /// Why.
    pub withdrawn_why: Option<String>,
    /// A note.
    pub note: String,
    /// When.
    #[serde(with = "time::serde::rfc3339")]
    pub fitted_at: OffsetDateTime,
    /// Where the old part lies; empty where that was not said.
    pub bag: String,
    /// The proof, where there is one.
    pub proof: Option<ProofView>,
}

/// A check after fitting.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct CheckView {
    /// Which.
    pub check: AfterCheckName,
    /// How it is answered.
    pub kind: CheckKindName,
    /// What to do.
    pub ask: String,
}

/// How a fitting was proven.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct ProofView {
    /// What was checked, in words.
    pub checks: Vec<String>,
    /// Whether it worked.
    pub worked: bool,
    /// What was seen and heard.
    pub seen: String,
    /// When.
    #[serde(with = "time::serde::rfc3339")]
    pub proven_at: OffsetDateTime,
}
