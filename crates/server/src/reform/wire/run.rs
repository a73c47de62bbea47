//! The JSON shapes of runs.

use owl_core::named::Named;
use owl_core::quantity::{Ampere, Second, Volt};
use owl_core::reform::Sample;
use owl_core::reform::forecast::Forecast;
use owl_core::reform::look::look;
use owl_core::reform::run::{Ending, Phase, Touch};
use serde::{Deserialize, Serialize};
use time::OffsetDateTime;
use utoipa::ToSchema;
use uuid::Uuid;

use super::plan::PlanQuestion;
use crate::amount::Amount;
use crate::error::ApiError;
use crate::name::{
    ClipName, CurveLookName, EndingName, MeterFaultName, Name, ReformCommandName, ReformWayName, WeightName,
};
use crate::reform::store::{RunRow, SaidRow, SampleRow};

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
    pub way: ReformWayName,
    /// What lies on the simulated bench; an old part that reforms where it is not said.
    pub clip: Option<ClipName>,
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
    pub fault: MeterFaultName,
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
    pub command: ReformCommandName,
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
pub struct RunLine {
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
    pub way: ReformWayName,
    /// `ready`, `feeding`, `emptying` or `over`.
    pub phase: String,
    /// `4 of 7`, `1 h 30 min`, `interrupted`.
    pub state: String,
    /// Whether a hand may go near.
    pub safe: bool,
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
    pub refused: Option<String>,
}

/// The reforming desk.
#[derive(Debug, Serialize, ToSchema)]
pub struct Desk {
    /// Those under way and those prepared, in their order.
    pub queue: Vec<RunLine>,
    /// Electrolytics on the trays that nothing is prepared for.
    pub candidates: Vec<Candidate>,
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
    pub word: String,
    /// Why.
    pub why: String,
}

/// One of the limits.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct AcceptanceRow {
    /// What it is called.
    pub name: String,
    /// As shown.
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
    pub weight: WeightName,
    /// In words.
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
    pub look: CurveLookName,
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
    pub line: RunLine,
    /// What to do now, in a sentence.
    pub sentence: String,
    /// Whether a hand may go near.
    pub touch: TouchView,
    /// How it ended.
    pub ending: Option<EndingName>,
    /// Whether the part is finished by that.
    pub scrap: bool,
    /// Across the part.
    pub volts: Option<Amount>,
    /// Into the part.
    pub amperes: Option<Amount>,
    /// What the supply is set to, as shown.
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
    pub rests_on: String,
    /// The voltages.
    pub stages: Vec<StageRow>,
    /// Where the hand goes.
    pub cautions: Vec<String>,
    /// What was said, latest first.
    pub said: Vec<SaidView>,
    /// What is foreseen; null unless it is fed.
    pub forecast: Option<ForecastView>,
    /// The last readings, as they could be taken for the part's: `0.82 mA at 286 V`.
    pub leakage: Option<String>,
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
    pub refused: Option<String>,
    /// The supply that was used last, as it would be typed: volts, ohm, watt, ampere.
    pub supply: Vec<String>,
    /// Runs so far, latest first.
    pub runs: Vec<PastRun>,
}

/// Volts as they stand on the sign.
#[must_use]
pub fn shown_volts(volts: f64) -> String {
    if volts.abs() >= 100.0 { format!("{volts:.0} V") } else { live_volts(volts).text }
}

fn span(seconds: f64) -> String {
    let minutes = (seconds / 60.0).round().max(0.0);
    if minutes < 60.0 {
        format!("{minutes:.0} min")
    } else {
        format!("{:.0} h {:.0} min", (minutes / 60.0).floor(), minutes % 60.0)
    }
}

/// A run in a line.
///
/// # Errors
/// [`ApiError::Internal`] for a row that cannot be.
pub fn line(row: &RunRow) -> Result<RunLine, ApiError> {
    let run = &row.run;
    let section = if row.section.is_empty() { String::new() } else { format!(" {}", row.section) };
    let place = row.position.as_deref().map(|p| format!(" · {p}")).unwrap_or_default();
    let state = match &run.phase {
        Phase::Ready { .. } => span(row.expected_s),
        Phase::Feeding(f) => format!("{} of {}", f.stage + 1, run.plan.stages.len()),
        Phase::Emptying(e) if e.connected => "emptying".to_owned(),
        Phase::Emptying(_) => "may be charged".to_owned(),
        Phase::Over { ending } => ending.to_string(),
    };
    Ok(RunLine {
        id: row.id,
        part_id: row.part_id,
        ticket_id: row.ticket_id,
        part: format!("{}{section}", row.part),
        set: row.set.clone(),
        what: format!("{} {}{place}", run.plan.capacitance, run.plan.rated),
        way: Name(run.way),
        phase: row.phase().to_owned(),
        state,
        safe: run.touch() == Touch::Safe && !row.adrift(),
        planned_at: None,
    })
}

/// A run with everything but its curve.
///
/// # Errors
/// [`ApiError::Internal`] for a row that cannot be.
pub fn view(
    row: &RunRow,
    said: &[SaidRow],
    foreseen: Option<&(Forecast, Vec<Sample>)>,
) -> Result<RunView, ApiError> {
    let run = &row.run;
    let from = run.fed_from_s.unwrap_or(run.now_s);
    let feeding = match &run.phase {
        Phase::Feeding(f) => Some(f),
        Phase::Ready { .. } | Phase::Emptying(_) | Phase::Over { .. } => None,
    };
    let ending: Option<Ending> = match &run.phase {
        Phase::Emptying(e) => Some(e.ending),
        Phase::Over { ending } => Some(*ending),
        Phase::Ready { .. } | Phase::Feeding(_) => None,
    };
    let a = &run.plan.acceptance;
    let limit_row = |name: &str, limit: Ampere| AcceptanceRow {
        name: name.to_owned(),
        limit: live_current(limit.amperes()).text,
        decides: limit == a.below,
    };
    let now_stage = match (feeding, ending) {
        (Some(f), _) => Some(f.stage),
        (None, Some(_)) if run.met => Some(run.plan.stages.len()),
        _ => None,
    };
    let adrift = row.adrift();
    Ok(RunView {
        line: line(row)?,
        sentence: if adrift { ADRIFT.to_owned() } else { run.sentence() },
        touch: touch(row),
        ending: ending.map(Name),
        scrap: ending.is_some_and(Ending::scrap),
        volts: run.volts.map(live_volts),
        amperes: run.amperes.map(live_current),
        ordered: match run.order() {
            owl_core::reform::run::Order::Feed(v) => Some(v.to_string()),
            owl_core::reform::run::Order::Off | owl_core::reform::run::Order::Discharge => None,
        },
        stage_s: feeding.map(|f| run.now_s - f.since_s),
        empty_in_s: run.empty_in().map(Second::seconds),
        held: feeding.is_some_and(|f| f.hold),
        adrift,
        speed: row.speed,
        at_s: run.now_s - from,
        aim: run.plan.aim.volts(),
        limit: a.below.amperes(),
        peak: run.plan.peak_current.amperes(),
        expected_s: row.expected_s,
        acceptance: vec![
            limit_row("bench figure", a.bench),
            limit_row("older military", a.military),
            limit_row("new parts", a.modern),
        ],
        rests_on: format!(
            "{} asks for {} at {}",
            row.school,
            live_current(a.below.amperes()).text,
            run.plan.aim
        ),
        stages: run
            .plan
            .stages
            .iter()
            .enumerate()
            .map(|(n, s)| StageRow {
                volts: s.volts.to_string(),
                go_on_below: live_current(s.go_on_below.amperes()).text,
                state: match now_stage {
                    Some(now) if n < now => "done",
                    Some(now) if n == now => "now",
                    _ => "to come",
                },
            })
            .collect(),
        cautions: run.plan.cautions.clone(),
        said: said
            .iter()
            .map(|s| {
                Ok(SaidView {
                    at_s: s.at_s - from,
                    weight: Name(crate::name::stored(&s.weight)?),
                    text: s.text.clone(),
                })
            })
            .collect::<Result<_, ApiError>>()?,
        forecast: foreseen.map(|(f, samples)| forecast(row, f, samples, from)),
        leakage: row.leakage().map(|(volts, amperes)| format!("{amperes} at {volts}")),
    })
}

const ADRIFT: &str = "Nobody drives this run: the server that did is gone. It may be charged: do not touch.";

fn touch(row: &RunRow) -> TouchView {
    let run = &row.run;
    let safe = run.touch() == Touch::Safe && !row.adrift();
    let on = run.volts.map(|v| format!("{} on the capacitor", shown_volts(v)));
    let why = match &run.phase {
        _ if row.adrift() => "not measured since".to_owned(),
        Phase::Ready { .. } if run.volts.is_none() => "not measured yet".to_owned(),
        Phase::Emptying(e) if !e.connected => "it may be charged".to_owned(),
        Phase::Ready { .. } | Phase::Over { .. } if safe => {
            format!("{} measured, supply off", run.volts.map_or_else(String::new, shown_volts))
        }
        _ => on.unwrap_or_else(|| "it may be charged".to_owned()),
    };
    TouchView { safe, word: if safe { "Safe to touch" } else { "Do not touch" }.to_owned(), why }
}

fn forecast(row: &RunRow, f: &Forecast, samples: &[Sample], from: f64) -> ForecastView {
    let run = &row.run;
    let left = f.done_s.map(|d| (d - run.now_s).max(0.0));
    let since = match &run.phase {
        Phase::Feeding(stage) => stage.since_s,
        Phase::Ready { .. } | Phase::Emptying(_) | Phase::Over { .. } => 0.0,
    };
    let first = samples.partition_point(|s| s.at_s < since);
    let looks = look(&samples[first..]);
    let give_or_take = f.done_s.map(|_| format!("± {}", span(f.give_or_take_s)));
    let words = match (left, f.ending) {
        (Some(left), _) => format!("About {} more", span(left)),
        (None, Some(e)) => format!("As it looks it ends: {e}"),
        (None, None) => "No end in sight".to_owned(),
    };
    ForecastView {
        done_at: left.map(|l| OffsetDateTime::now_utc() + time::Duration::seconds_f64(l / row.speed)),
        give_or_take,
        words,
        look: Name(looks),
        look_words: looks.sentence().to_owned(),
        band: f
            .band
            .iter()
            .map(|(t, least, most)| BandView { at_s: t - from, least: *least, most: *most })
            .collect(),
    }
}

/// Volts as they are read across a room: one decimal, whatever the size.
fn live_volts(value: f64) -> Amount {
    amount(value, format!("{value:.1}"), "V")
}

/// A current as it is read across a room: always in milliampere, so that no prefix jumps while it falls.
fn live_current(value: f64) -> Amount {
    let milli = value * 1000.0;
    let number = match milli.abs() {
        m if m >= 10.0 => format!("{milli:.1}"),
        m if m >= 1.0 => format!("{milli:.2}"),
        _ => format!("{milli:.3}"),
    };
    amount(value, number, "mA")
}

fn amount(value: f64, number: String, unit: &str) -> Amount {
    // A meter's minus zero is nothing.
    let number = if number.trim_start_matches('-').chars().all(|c| c == '0' || c == '.') {
        number.trim_start_matches('-').to_owned()
    } else {
        number.replace('-', "−")
    };
    Amount { value, text: format!("{number} {unit}"), number, unit: unit.to_owned() }
}

impl RunRow {
    /// What it leaks at its last fed reading, where that says something of the part.
    #[must_use]
    pub fn leakage(&self) -> Option<(Volt, Ampere)> {
        self.run.leak.and_then(|(v, i)| Some((Volt::new(v).ok()?, Ampere::new(i.max(0.0)).ok()?)))
    }

    /// The phase as it is stored.
    #[must_use]
    pub fn phase(&self) -> &'static str {
        match self.run.phase {
            Phase::Ready { .. } => "ready",
            Phase::Feeding(_) => "feeding",
            Phase::Emptying(_) => "emptying",
            Phase::Over { .. } => "over",
        }
    }

    /// How it ended, as it is stored.
    #[must_use]
    pub fn ending(&self) -> Option<&'static str> {
        match &self.run.phase {
            Phase::Over { ending } => Some(ending.name()),
            Phase::Emptying(e) => Some(e.ending.name()),
            Phase::Ready { .. } | Phase::Feeding(_) => None,
        }
    }
}
