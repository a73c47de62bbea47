//! The JSON shapes of parts.

use serde::{Deserialize, Deserializer, Serialize};
use time::OffsetDateTime;
use utoipa::ToSchema;
use uuid::Uuid;

use crate::amount::Amount;
use crate::decode::wire::{DecodeQuestion, MeaningView};
use crate::explanation::{DisagreementView, ExplanationView};
use crate::judge::view::{Judgement, ReasonView};
use crate::name::{
    CallName, ColourName, MadeOfName, ModeName, PartKindName, PositionName, SchoolName, StandingName,
    StateName, StepName,
};

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
    /// The other half of its pair, by name; empty parts them.
    #[schema(max_length = 10)]
    pub pair: Option<String>,
}

/// Tells `null` from left out.
fn present<'de, D: Deserializer<'de>, T: Deserialize<'de>>(d: D) -> Result<Option<Option<T>>, D::Error> {
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
    /// The other half of its pair.
    pub pair: Option<PairView>,
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

/// The other half of a pair.
#[derive(Debug, Serialize, ToSchema)]
pub struct PairView {
    /// Its id.
    pub id: Uuid,
    /// Its name.
    pub name: String,
}

/// A reading as it was taken.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct ReadingView {
    /// Its id.
    pub id: Uuid,
    /// The value; null beyond the meter's range.
    pub measured: Option<Amount>,
    /// Whether it is beyond the meter's range.
    pub overrange: bool,
    /// How the part sat.
    pub state: StateName,
    /// Whether it was hot.
    pub hot: bool,
    /// How the meter measured.
    pub mode: ModeName,
    /// The meter.
    pub instrument: String,
    /// Its uncertainty at this reading: `±1.2 Ω`.
    pub accuracy: Option<String>,
    /// What was typed.
    pub typed: String,
    /// When.
    #[serde(with = "time::serde::rfc3339")]
    pub taken_at: OffsetDateTime,
    /// Whether it is of a part that has been taken out since.
    pub before_fitting: bool,
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
    pub value: Amount,
    /// Its tolerance, as shown.
    pub tolerance: String,
    /// What it measured before it went in.
    pub measured: Amount,
    /// How far that is from its value, as shown.
    pub deviation: String,
    /// A note.
    pub note: String,
    /// When.
    #[serde(with = "time::serde::rfc3339")]
    pub fitted_at: OffsetDateTime,
    /// The proof, where there is one.
    pub proof: Option<ProofView>,
}

/// How a fitting was proven.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct ProofView {
    /// Whether it worked.
    pub worked: bool,
    /// What was seen and heard.
    pub seen: String,
    /// When.
    #[serde(with = "time::serde::rfc3339")]
    pub proven_at: OffsetDateTime,
}
