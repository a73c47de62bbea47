//! The JSON shapes of runs.

use owl_core::reform::bench::{Clip, MeterFault};
use owl_core::reform::run::{Command, Ending, ReformMode, Weight};
use owl_core::reform::shape::CurveShape;
use serde::{Deserialize, Serialize};
use time::OffsetDateTime;
use utoipa::ToSchema;
use uuid::Uuid;

use super::plan::PlanQuestion;
use crate::amount::Amount;
use crate::table::reform_samples::SampleRow;

/// A run to be prepared.
#[derive(Debug, Deserialize, ToSchema)]
pub struct NewRun {
    /// Chosen by the client, so that sending twice prepares one.
    pub id: Uuid,
    /// Which part.
    pub part_id: Uuid,
    /// The plan that is asked for.
    pub plan: PlanQuestion,
    /// Who turns the supply.
    pub mode: ReformMode,
    /// What lies on the simulated bench; an old part that reforms where it is not said.
    pub clip: Option<Clip>,
    /// How fast the simulated bench runs: 1 to 600.
    #[schema(minimum = 1, maximum = 600)]
    pub speed: Option<f64>,
    /// Which part of its kind lies on the simulated bench.
    pub seed: Option<u64>,
    /// What goes wrong on the simulated bench: which, from when, until when, in second of the run.
    #[serde(default)]
    #[schema(max_items = 10)]
    pub faults: Vec<FaultBody>,
}

/// Something that goes wrong on the simulated bench.
#[derive(Debug, Deserialize, ToSchema)]
pub struct FaultBody {
    /// What.
    pub fault: MeterFault,
    /// From when on, in second since the run was prepared.
    pub from_s: f64,
    /// Until when.
    pub to_s: f64,
}

/// Switching on.
#[derive(Debug, Deserialize, ToSchema)]
pub struct NewStart {
    /// The session at the bench: one for each window.
    pub session: Uuid,
    /// Who has read the cautions; needed at the first switch-on of a session.
    #[schema(max_length = 80)]
    pub name: Option<String>,
}

/// Something to be done with a run.
#[derive(Debug, Deserialize, ToSchema)]
pub struct NewCommand {
    /// What.
    pub command: Command,
    /// How fast the simulated bench runs, with `speed`.
    #[schema(minimum = 1, maximum = 600)]
    pub speed: Option<f64>,
    /// What to write into the record, with `note`.
    #[schema(max_length = 400)]
    pub text: Option<String>,
}

/// What a hand read.
#[derive(Debug, Deserialize, ToSchema)]
pub struct NewMeter {
    /// Chosen by the client, so that sending twice takes it once.
    pub key: Uuid,
    /// Across the part, as typed: `198.4`.
    #[schema(min_length = 1, max_length = 40)]
    pub volts: String,
    /// Into the part, as typed: `1.37m`; not needed with the supply off.
    #[schema(max_length = 40)]
    pub current: Option<String>,
}

/// A run in a line.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct QueuedRun {
    /// Its id.
    pub id: Uuid,
    /// The part.
    pub part_id: Uuid,
    /// Its ticket.
    pub ticket_id: Uuid,
    /// `C18 A`.
    pub part: String,
    /// The set.
    pub set: String,
    /// `24 µF 350 V · reservoir`.
    pub what: String,
    /// Who turns the supply.
    pub mode: ReformMode,
    /// `ready`, `feeding`, `emptying` or `over`.
    pub phase: String,
    /// `4 of 7`, `1 h 30 min`, `interrupted`.
    pub state: String,
    /// Whether a hand may go near.
    pub safe: bool,
    /// Whether it has volts on it, or had and was not proven empty since.
    pub charged: bool,
    /// When it is planned to begin or to be done.
    #[serde(with = "time::serde::rfc3339::option")]
    pub planned_at: Option<OffsetDateTime>,
}

/// An electrolytic on a tray that could be reformed, or could not.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct Candidate {
    /// The part.
    pub part_id: Uuid,
    /// Its ticket.
    pub ticket_id: Uuid,
    /// Its name.
    pub part: String,
    /// The set.
    pub set: String,
    /// `24 µF 350 V · reservoir`.
    pub what: String,
    /// Why it is not reformed; null where it can be.
    #[serde(serialize_with = "crate::dialect::said")]
    pub refused: Option<String>,
}

/// The reforming desk.
#[derive(Debug, Serialize, ToSchema)]
pub struct Desk {
    /// Those under way and those prepared, in their order.
    pub queue: Vec<QueuedRun>,
    /// When the evening is done; null with nothing to do.
    #[serde(with = "time::serde::rfc3339::option")]
    pub done_at: Option<OffsetDateTime>,
}

/// Whether a hand may go near.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct TouchView {
    /// Whether it is safe.
    pub safe: bool,
    /// In a word or three.
    #[serde(serialize_with = "crate::dialect::said")]
    pub word: String,
    /// Why.
    #[serde(serialize_with = "crate::dialect::said")]
    pub why: String,
}

/// One of the limits.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct AcceptanceRow {
    /// What it is called.
    pub name: String,
    /// As shown.
    #[serde(serialize_with = "crate::dialect::said")]
    pub limit: String,
    /// Whether the school goes by it.
    pub decides: bool,
}

/// One voltage of the plan.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct StageRow {
    /// As shown.
    pub volts: String,
    /// As shown.
    pub go_on_below: String,
    /// `done`, `now`, `to come`.
    pub state: &'static str,
}

/// Something that was said.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct SaidView {
    /// When, in second since it was switched on.
    pub at_s: f64,
    /// How pressing.
    pub weight: Weight,
    /// In words.
    #[serde(serialize_with = "crate::dialect::said")]
    pub text: String,
}

/// A reading.
#[derive(Debug, Clone, Copy, Serialize, ToSchema)]
pub struct SampleView {
    /// In second since it was switched on.
    pub at_s: f64,
    /// Across the part, in volt.
    pub volts: f64,
    /// Into the part, in ampere.
    pub amperes: f64,
    /// What the supply was set to, in volt; null when it was off.
    pub ordered: Option<f64>,
}

impl SampleView {
    /// A stored reading of a run that was switched on at `from`.
    #[must_use]
    pub fn of(s: &SampleRow, from: f64) -> Self {
        Self { at_s: s.at_s - from, volts: s.volts, amperes: s.amperes, ordered: s.set_volts }
    }
}

/// Between which currents one is expected, at a moment.
#[derive(Debug, Clone, Copy, Serialize, ToSchema)]
pub struct BandView {
    /// In second since it was switched on.
    pub at_s: f64,
    /// In ampere.
    pub least: f64,
    /// In ampere.
    pub most: f64,
}

/// What is foreseen.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct ForecastView {
    /// When the supply goes off; null where that is not in sight.
    #[serde(with = "time::serde::rfc3339::option")]
    pub done_at: Option<OffsetDateTime>,
    /// `± 15 min`.
    pub give_or_take: Option<String>,
    /// In a sentence.
    pub words: String,
    /// How the present stage looks.
    pub look: CurveShape,
    /// What to make of that.
    pub look_words: String,
    /// Between which currents it is expected.
    pub band: Vec<BandView>,
}

/// A run with everything that a station shows but its curve.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct RunView {
    /// In a line.
    #[serde(flatten)]
    pub line: QueuedRun,
    /// What to do now, in a sentence.
    #[serde(serialize_with = "crate::dialect::said")]
    pub sentence: String,
    /// Whether a hand may go near.
    pub touch: TouchView,
    /// How it ended.
    pub ending: Option<Ending>,
    /// Whether the part is finished by that.
    pub scrap: bool,
    /// Across the part.
    pub volts: Option<Amount>,
    /// Into the part.
    pub amperes: Option<Amount>,
    /// What the supply is set to, as shown.
    #[serde(serialize_with = "crate::dialect::said")]
    pub ordered: Option<String>,
    /// How long the stage has run, in second.
    pub stage_s: Option<f64>,
    /// Until it is safe by reckoning, in second.
    pub empty_in_s: Option<f64>,
    /// Whether it is held by hand.
    pub held: bool,
    /// Whether the server that drove it is gone.
    pub adrift: bool,
    /// How fast the simulated bench runs.
    pub speed: f64,
    /// The run's time, in second since it was switched on.
    pub at_s: f64,
    /// The voltage to be reached, in volt.
    pub aim: f64,
    /// The limit that decides, in ampere.
    pub limit: f64,
    /// What flows into a short, in ampere.
    pub peak: f64,
    /// How long a part as assumed would take, in second.
    pub expected_s: f64,
    /// When it is good.
    pub acceptance: Vec<AcceptanceRow>,
    /// Which limit the school goes by.
    #[serde(serialize_with = "crate::dialect::said")]
    pub rests_on: String,
    /// The voltages.
    pub stages: Vec<StageRow>,
    /// Where the hand goes.
    #[serde(serialize_with = "crate::dialect::said")]
    pub cautions: Vec<String>,
    /// What was said, latest first.
    pub said: Vec<SaidView>,
    /// What is foreseen; null unless it is fed.
    pub forecast: Option<ForecastView>,
    /// The last readings, as they could be taken for the part's: `0.82 mA at 286 V`.
    pub leakage: Option<String>,
    /// The file in which its whole curve is, where only a part of its readings was left here.
    pub thinned: Option<String>,
}

/// What comes down the stream.
#[derive(Debug, Serialize, ToSchema)]
pub struct LiveEvent {
    /// The run as it is.
    pub run: RunView,
    /// New readings.
    pub samples: Vec<SampleView>,
    /// The number of the last of them.
    pub last: i64,
}

/// A curve, thinned out.
#[derive(Debug, Serialize, ToSchema)]
pub struct CurveView {
    /// Its readings.
    pub samples: Vec<SampleView>,
}

/// A past run of a part.
#[derive(Debug, Serialize, ToSchema)]
pub struct PastRun {
    /// Its id.
    pub id: Uuid,
    /// When it was switched on, or prepared.
    #[serde(with = "time::serde::rfc3339")]
    pub at: OffsetDateTime,
    /// How it ended, or where it is.
    #[serde(serialize_with = "crate::dialect::said")]
    pub ended: String,
    /// Its curve.
    pub curve: CurveView,
}

/// A section of a can.
#[derive(Debug, Serialize, ToSchema)]
pub struct CanSection {
    /// What it is called: `A`, `B`.
    pub name: String,
    /// Its capacitance, as it would be typed.
    pub capacitance: String,
    /// Its rating, as it would be typed.
    pub rated: Option<String>,
}

/// What is known of a part for reforming it.
#[derive(Debug, Serialize, ToSchema)]
pub struct OfPart {
    /// Its name.
    pub part: String,
    /// `24 µF 350 V · reservoir`.
    pub what: String,
    /// Its capacitance, as it would be typed.
    pub capacitance: Option<String>,
    /// Its rating, as it would be typed.
    pub rated: Option<String>,
    /// Its sections, of a can that has several: each is reformed by itself.
    pub sections: Vec<CanSection>,
    /// What stands across it in its place, as it would be typed.
    pub working: Option<String>,
    /// Years since it was made.
    pub idle_years: Option<u16>,
    /// Whether it has vented.
    pub vented: bool,
    /// Why it is not reformed.
    #[serde(serialize_with = "crate::dialect::said")]
    pub refused: Option<String>,
    /// The supply that was used last, as it would be typed: volts, ohm, watt, ampere.
    #[serde(serialize_with = "crate::dialect::said")]
    pub supply: Vec<String>,
    /// Runs so far, latest first.
    pub runs: Vec<PastRun>,
}
