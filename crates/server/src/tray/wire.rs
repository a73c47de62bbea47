//! The JSON shape of a part with all that is known of it.

use owl_core::marking::disagreement::{Between, Disagreement, Explanation};
use owl_core::part::{SafetyClass, VisualSign};
use owl_core::proof::ProofOutcome;
use owl_core::reading::{ReadQuantity, Setting, State};
use owl_core::transistor::after::{Check, CheckKind};
use owl_core::transistor::circuit::Stage;
use owl_core::transistor::suspect::{Role, Suspect};
use owl_core::tray::installed::Against;
use owl_core::tray::question::{Asked, FirstAsked};
use owl_core::verdict::cause;
use owl_core::verdict::{Outcome, School};
use serde::Serialize;
use time::OffsetDateTime;
use utoipa::ToSchema;
use uuid::Uuid;

use super::pins::CircuitView;
use super::reading_view::ReadingView;
use super::strip::{PairView, StripView};
use super::valve_data::ValveDataView;
use crate::amount::Amount;
use crate::decode::wire::MeaningView;
use crate::error::ApiError;
use crate::judge::view::{FactView, Judgement, ReasonView};
use crate::table::explanation::ExplanationRow;
use crate::transistor::junction_view::JunctionView;

/// A part with everything that is known of it: what its strip shows, and its readings, reasons and history.
#[derive(Debug, Serialize, ToSchema)]
pub struct PartView {
    /// What its strip on the tray shows.
    #[serde(flatten)]
    pub strip: StripView,
    /// The other half of its pair, where it is one of two.
    pub pair: Option<PairView>,
    /// Of a circuit whose type the table knows: its pins.
    pub circuit: Option<CircuitView>,
    /// Of a valve: what the tables have of its type.
    pub valve_data: Option<ValveDataView>,
    /// What can be seen on such a part.
    pub can_look: Vec<VisualSign>,
    /// Of a transistor: the stage that its position is, as the transistor desk names it.
    pub stage: Option<Stage>,
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
    /// What matters where it sits.
    #[serde(serialize_with = "crate::dialect::said")]
    pub matters: Option<String>,
    /// The safety classes that may sit there, the usual one first; empty where any part may.
    pub safety_classes: Vec<SafetyClass>,
    /// What is known of its family.
    pub family_known: Option<FamilyView>,
    /// What can be read of it, the usual first.
    pub readable: Vec<ReadableView>,
    /// How the switch of a leakage tester belongs for it.
    pub tester_setting: Option<Setting>,
    /// Suspects of this part on which nobody has decided yet: they would kill what goes in.
    #[serde(serialize_with = "crate::dialect::said")]
    pub suspects_open: Vec<String>,
    /// What may have died with it, of which nobody has said which part that is.
    pub suspects_unnamed: Vec<UnnamedView>,
    /// The parts of its stage that go and for which nothing has gone in, by name, itself among them.
    #[serde(serialize_with = "crate::dialect::said")]
    pub stage_to_fit: Vec<String>,
    /// The parts of its stage that were fitted and are not proven, by name, itself among them.
    #[serde(serialize_with = "crate::dialect::said")]
    pub stage_to_prove: Vec<String>,
    /// What is to be answered before something is fitted, or before power is put on what was.
    pub first_asked: Option<FirstAskedView>,
    /// The newest test of its junctions, of a transistor.
    pub junctions: Option<JunctionView>,
    /// What is checked after fitting, of a transistor.
    pub checks: Vec<CheckView>,
    /// Why it failed, where it was overloaded: open until it is answered.
    pub cause: Option<CauseView>,
    /// The marked tolerance as a fraction.
    pub tolerance: Option<f64>,
    /// The reading of its marking that was accepted.
    pub mark: Option<MeaningView>,
    /// What sheet, mark and meter disagree about; null where they agree or it was answered.
    pub disagreement: Option<DisagreementView>,
    /// How disagreements were explained, oldest first.
    pub explanations: Vec<ExplanationView>,
    /// Its rated watts.
    pub power: Option<Amount>,
    /// Value, tolerance, watts and family in one line.
    #[serde(serialize_with = "crate::dialect::said")]
    pub in_words: String,
    /// What was typed for its marking.
    pub marking: String,
    /// The sentence of the line that would make it as it is.
    pub line: String,
    /// Its readings, oldest first; those before a fitting belong to the part that was taken out.
    pub readings: Vec<ReadingView>,
    /// What was read last of what now sits there.
    pub measured: Option<ReadingView>,
    /// The reading that decided the verdict; null where none did, or where it was the measurement that was taken before
    /// fitting.
    pub deciding: Option<ReadingView>,
    /// The verdict on what now sits there; null without a value to judge against.
    pub judgement: Option<Judgement>,
    /// Whether the judged value is the mark, the sheet's or that of the fitted part.
    pub judged_against: Option<Against>,
    /// The last decision.
    pub decision: Option<DecisionView>,
    /// What was fitted, latest last.
    pub fittings: Vec<FittingView>,
}

/// What is known of a family.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct FamilyView {
    /// Whether its age alone makes it suspect.
    pub known_bad: bool,
    /// How it fails.
    #[serde(serialize_with = "crate::dialect::said")]
    pub failure: String,
    /// The year from which it is reliable, where there is one.
    pub reliable_from: Option<u16>,
    /// What goes in its place.
    #[serde(serialize_with = "crate::dialect::said")]
    pub replaced_by: String,
    /// Where that comes from.
    pub source: String,
}

/// What can be read of a part.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct ReadableView {
    /// What it is called.
    #[serde(serialize_with = "crate::dialect::said")]
    pub called: String,
    /// The quantities that one entry takes, told apart by their units; the usual first.
    pub quantities: Vec<ReadQuantity>,
    /// How the part sits while that is read, where it goes without saying.
    pub state: Option<State>,
}

/// A decision with the verdict's reasons as they were.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct DecisionView {
    /// What the verdict was.
    pub offered: Outcome,
    /// What was decided.
    pub decided: Outcome,
    /// Why, where it was decided otherwise.
    pub why: String,
    /// Whose limits decided.
    pub school: School,
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
    /// Its rated volts.
    pub volts: Option<Amount>,
    /// The safety class that is printed on it.
    pub safety: Option<SafetyClass>,
    /// What it measured before it went in, where it was measured.
    pub measured: Option<Amount>,
    /// How far that is from its value, as shown.
    pub deviation: Option<String>,
    /// How old stock was tested.
    pub test: String,
    /// Why it went in although it fell short of its place; empty where it did not.
    pub despite: String,
    /// Whether it went in without having been measured, though such a part can be.
    pub unmeasured: bool,
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

/// What is to be answered first.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct FirstAskedView {
    /// The question.
    pub question: FirstAsked,
    /// The parts to look at, by name.
    pub parts: Vec<String>,
}

impl From<Asked<'_>> for FirstAskedView {
    fn from(a: Asked<'_>) -> Self {
        Self { question: a.question, parts: a.parts.into_iter().map(str::to_owned).collect() }
    }
}

/// What may have died with an output transistor, and is not named yet.
#[derive(Debug, Serialize, ToSchema)]
pub struct UnnamedView {
    /// What it is to the transistor.
    pub role: Role,
    /// Why it is suspect.
    #[serde(serialize_with = "crate::dialect::said")]
    pub why: String,
    /// How it is looked at.
    #[serde(serialize_with = "crate::dialect::said")]
    pub look: String,
}

impl From<&Suspect> for UnnamedView {
    fn from(s: &Suspect) -> Self {
        Self { role: s.role, why: s.why.clone(), look: s.look.clone() }
    }
}

/// A check after fitting.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct CheckView {
    /// Which.
    pub check: Check,
    /// How it is answered.
    pub kind: CheckKind,
    /// What to do.
    #[serde(serialize_with = "crate::dialect::said")]
    pub ask: String,
}

/// How a fitting was proven.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct ProofView {
    /// What was checked, in words.
    #[serde(serialize_with = "crate::dialect::said")]
    pub checks: Vec<String>,
    /// How the set was for it.
    pub outcome: ProofOutcome,
    /// What was seen, heard and measured.
    pub seen: String,
    /// What earlier proofs said, the first first.
    pub earlier: Vec<String>,
    /// When.
    #[serde(with = "time::serde::rfc3339")]
    pub proven_at: OffsetDateTime,
}

/// The question why a part failed.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct CauseView {
    /// In words.
    #[serde(serialize_with = "crate::dialect::said")]
    pub question: String,
    /// What could have done it, as far as the ticket knows the connections, the likeliest first.
    pub suspects: Vec<SuspectView>,
    /// The answer that was given last; null while it is open.
    pub answer: Option<AnswerView>,
}

/// A part that could have overloaded another.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct SuspectView {
    /// Its name on the tray.
    pub name: String,
    /// Whether it is known to hang there.
    pub known: bool,
    /// Why.
    #[serde(serialize_with = "crate::dialect::said")]
    pub because: String,
}

impl From<cause::Suspect> for SuspectView {
    fn from(s: cause::Suspect) -> Self {
        Self { name: s.name, known: s.known, because: s.because }
    }
}

/// An answer.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct AnswerView {
    /// In words.
    pub text: String,
    /// The part that did it, where it is one on the tray.
    pub culprit: Option<String>,
    /// When.
    #[serde(with = "time::serde::rfc3339")]
    pub answered_at: OffsetDateTime,
}

/// A disagreement that nobody has answered.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct DisagreementView {
    /// Which two values.
    pub between: Between,
    /// The greater over the lesser.
    pub ratio: f64,
    /// In words.
    #[serde(serialize_with = "crate::dialect::said")]
    pub question: String,
    /// Whether nothing is fitted before it is answered.
    pub holds: bool,
    /// What can be answered.
    pub answers: Vec<Explanation>,
    /// Where the rule comes from.
    pub source: String,
}

impl DisagreementView {
    /// As it is sent.
    #[must_use]
    pub fn of(d: &Disagreement) -> Self {
        Self {
            between: d.between,
            ratio: d.ratio,
            question: d.question.clone(),
            holds: d.holds,
            answers: d.answers.to_vec(),
            source: d.source.to_string(),
        }
    }
}

/// An answer that was given.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct ExplanationView {
    /// Which two values.
    pub between: Between,
    /// The question as it was.
    #[serde(serialize_with = "crate::dialect::said")]
    pub question: String,
    /// The answer.
    pub answer: Explanation,
    /// What was added to it.
    pub note: String,
    /// When.
    #[serde(with = "time::serde::rfc3339")]
    pub answered_at: OffsetDateTime,
}

/// An explanation as it is sent.
///
/// # Errors
/// [`ApiError::Internal`] for rows that cannot be.
pub fn explanation_view(row: &ExplanationRow) -> Result<ExplanationView, ApiError> {
    Ok(ExplanationView {
        between: row.pair,
        question: row.question.clone(),
        answer: row.answer,
        note: row.note.clone(),
        answered_at: row.answered_at,
    })
}
