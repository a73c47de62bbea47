//! The JSON shapes of equivalents.

use owl_core::part::{DiodeFamily, Fact, PartKind};
use owl_core::transistor::circuit::Stage;
use owl_core::transistor::device::PowerReference;
use owl_core::transistor::diode_device::DiodeJob;
use owl_core::transistor::equivalent::{Fitness, LimitState};
use owl_core::transistor::package::Lead;
use owl_core::transistor::pin_map::LeadMatch;
use owl_core::transistor::{DeviceKind, Material, Polarity};
use std::collections::BTreeMap;

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::amount::Amount;
use crate::transistor::sheet::{OutlineView, SheetLine, StockView, TypeView};

/// What something is to be found for: a type, or ratings.
#[derive(Debug, Deserialize, ToSchema)]
pub struct EquivalentsQuestion {
    /// The original's type number: of a transistor or a diode.
    #[serde(rename = "type")]
    #[schema(max_length = 40)]
    pub type_number: Option<String>,
    /// The original's ratings, where its type is not known.
    pub wanted: Option<WantedBody>,
    /// What the circuit really asks for.
    pub circuit: Option<CircuitBody>,
    /// What kind of part it is, where the number alone does not tell: a circuit's number looks like any other.
    pub kind: Option<PartKind>,
    /// How many candidates; 40 where it does not say.
    #[schema(minimum = 1, maximum = 200)]
    pub limit: Option<usize>,
}

/// Ratings; null is not known.
#[derive(Debug, Default, Deserialize, ToSchema)]
pub struct WantedBody {
    /// Bipolar where it does not say.
    pub kind: Option<DeviceKind>,
    /// Its polarity.
    pub polarity: Option<Polarity>,
    /// Its material.
    pub material: Option<Material>,
    /// Collector to base, volt.
    #[schema(exclusive_minimum = 0)]
    pub vcbo: Option<f64>,
    /// Collector to emitter, volt.
    #[schema(exclusive_minimum = 0)]
    pub vceo: Option<f64>,
    /// Emitter to base, volt.
    #[schema(exclusive_minimum = 0)]
    pub vebo: Option<f64>,
    /// Collector current, ampere.
    #[schema(exclusive_minimum = 0)]
    pub ic: Option<f64>,
    /// Dissipation, watt.
    #[schema(exclusive_minimum = 0)]
    pub power: Option<f64>,
    /// Where the temperature of that is held; in free air where it does not say.
    pub power_reference: Option<PowerReference>,
    /// At how many °C; 25 where it does not say.
    pub power_at: Option<f64>,
    /// The junction's limit, °C.
    pub tj: Option<f64>,
    /// Least gain.
    #[schema(exclusive_minimum = 0)]
    pub hfe_min: Option<f64>,
    /// Greatest gain.
    #[schema(exclusive_minimum = 0)]
    pub hfe_max: Option<f64>,
    /// At which current, ampere.
    #[schema(exclusive_minimum = 0)]
    pub hfe_ic: Option<f64>,
    /// Transition frequency, hertz.
    #[schema(exclusive_minimum = 0)]
    pub ft: Option<f64>,
    /// Output capacitance, farad.
    #[schema(exclusive_minimum = 0)]
    pub cob: Option<f64>,
    /// Its package.
    #[schema(max_length = 20)]
    pub package: Option<String>,
    /// Its leads, such as EBC.
    #[schema(max_length = 4)]
    pub pinout: Option<String>,
}

/// What the circuit asks for; null is not known.
#[derive(Debug, Default, Deserialize, ToSchema)]
pub struct CircuitBody {
    /// What the stage does.
    pub stage: Option<Stage>,
    /// The highest supply, volt.
    #[schema(exclusive_minimum = 0)]
    pub supply: Option<f64>,
    /// The load at the collector, ohm.
    #[schema(exclusive_minimum = 0)]
    pub load: Option<f64>,
    /// The greatest collector current, or a diode's average current, ampere.
    #[schema(exclusive_minimum = 0)]
    pub current: Option<f64>,
    /// The collector current at rest, ampere.
    #[schema(exclusive_minimum = 0)]
    pub rest_current: Option<f64>,
    /// What it dissipates, watt.
    #[schema(exclusive_minimum = 0)]
    pub dissipation: Option<f64>,
    /// Of a regulator's transistor: the volts across it at work.
    #[schema(exclusive_minimum = 0)]
    pub across: Option<f64>,
    /// The temperature of heat sink or case, °C.
    pub case_temperature: Option<f64>,
    /// The highest frequency, hertz.
    #[schema(exclusive_minimum = 0)]
    pub frequency: Option<f64>,
    /// The least gain that does.
    #[schema(exclusive_minimum = 0)]
    pub least_gain: Option<f64>,
    /// From the supply to the base, ohm.
    #[schema(exclusive_minimum = 0)]
    pub upper: Option<f64>,
    /// From the base to the other rail, ohm.
    #[schema(exclusive_minimum = 0)]
    pub lower: Option<f64>,
    /// Of a diode: the reverse volts that it sees.
    #[schema(exclusive_minimum = 0)]
    pub reverse: Option<f64>,
    /// Whether another material is taken, the bias being changed.
    #[serde(default)]
    pub other_material: bool,
}

/// What goes in.
#[derive(Debug, Serialize, ToSchema)]
pub struct EquivalentsAnswer {
    /// What is wanted; null of a diode or a circuit.
    pub wanted: Option<TypeView>,
    /// Of a diode, what is wanted.
    pub diode: Option<DiodeView>,
    /// How the question was read where the type was found by less than its whole print.
    pub read_as: Option<String>,
    /// The facts that the stage hangs on, in the order in which they are asked.
    pub facts: Vec<Fact>,
    /// What the circuit asks for, each with its sum.
    pub asks: Vec<AskedView>,
    /// Best first: those that pass, then near misses.
    pub candidates: Vec<CandidateView>,
    /// The divider after a change of material, where supply and divider are known.
    pub divider: Option<DividerView>,
    /// Of a circuit: where pieces of the same number lie.
    pub same: Vec<StockView>,
    /// What else is to be said.
    pub advice: Vec<String>,
    /// How many types were looked through.
    pub searched: usize,
    /// Rules of taste that counted, each with its source.
    pub rules: Vec<String>,
}

/// A diode.
#[derive(Debug, Serialize, ToSchema)]
pub struct DiodeView {
    /// Its number.
    #[serde(rename = "type")]
    pub type_number: String,
    /// What it is made of.
    pub material: DiodeFamily,
    /// What it is for.
    pub job: DiodeJob,
    /// Lines as they are read on a sheet.
    pub lines: Vec<SheetLine>,
    /// Where the row comes from.
    pub source: String,
}

/// Something that the circuit asks for.
#[derive(Debug, Serialize, ToSchema)]
pub struct AskedView {
    /// Of what.
    pub of: String,
    /// How much.
    pub amount: Amount,
    /// The sum.
    pub because: String,
    /// Where the sum comes from.
    pub source: String,
}

/// A candidate.
#[derive(Debug, Serialize, ToSchema)]
pub struct CandidateView {
    /// Its number.
    #[serde(rename = "type")]
    pub type_number: String,
    /// Its material and polarity in words.
    pub what: String,
    /// Whether no hard limit is short.
    pub passes: bool,
    /// The same with what is not known told apart.
    pub fitness: Fitness,
    /// Against the original's sheet alone.
    pub by_sheet: Fitness,
    /// Whether it does for the circuit and is less than the original.
    pub humbler: bool,
    /// How near it comes, 0 to 1.
    pub score: f64,
    /// Limit by limit, by name.
    pub cells: BTreeMap<&'static str, CellView>,
    /// The names of the cells, in the order in which they are read.
    pub order: Vec<&'static str>,
    /// Its leads against the original's.
    pub pin_map: Option<PinMapView>,
    /// Its package from below.
    pub outline: Option<OutlineView>,
    /// What changes with it.
    pub notes: Vec<String>,
    /// Where pieces of it lie.
    pub drawers: Vec<StockView>,
    /// How far its row is to be trusted.
    pub sure: &'static str,
    /// Where its row comes from.
    pub source: String,
    /// What it is usually used for.
    #[serde(rename = "use")]
    pub usual_use: String,
}

/// A limit or property.
#[derive(Debug, Serialize, ToSchema)]
pub struct CellView {
    /// What it is called on a sheet.
    pub label: &'static str,
    /// Whether it must pass.
    pub hard: bool,
    /// How it stands.
    pub state: LimitState,
    /// What the candidate has, in the base unit.
    pub value: Option<f64>,
    /// What is needed, in the base unit.
    pub needed: Option<f64>,
    /// What the candidate has, as it is written; empty where it is not known.
    pub has: String,
    /// What is needed, as it is written.
    pub needs: String,
    /// By how much it is short, or why it is unknown.
    pub why: String,
}

/// The map of leads.
#[derive(Debug, Serialize, ToSchema)]
pub struct PinMapView {
    /// How they lie.
    pub leads: LeadMatch,
    /// In words.
    pub text: String,
    /// The two that cross.
    pub crossed: Option<Vec<Lead>>,
    /// Electrode by electrode.
    pub joined: Vec<JoinedView>,
}

/// One electrode.
#[derive(Debug, Serialize, ToSchema)]
pub struct JoinedView {
    /// Which.
    pub electrode: Lead,
    /// Its lead on the old one, counted from 1; null is the case, or not known.
    pub old: Option<usize>,
    /// Its lead on the new one.
    pub new: Option<usize>,
}

/// The divider after a change of material.
#[derive(Debug, Serialize, ToSchema)]
pub struct DividerView {
    /// Base volts now.
    pub before: Amount,
    /// Base volts wanted.
    pub wanted: Amount,
    /// The new lower resistor, the upper one staying.
    pub lower: Amount,
    /// What makes it.
    pub lower_made_of: Vec<String>,
    /// The new upper resistor, the lower one staying.
    pub upper: Amount,
    /// What makes it.
    pub upper_made_of: Vec<String>,
    /// In a sentence.
    pub text: String,
}
