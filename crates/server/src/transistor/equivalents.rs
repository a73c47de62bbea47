//! What goes in for a transistor, a diode or a circuit: `POST /api/transistors/equivalents`.

use std::collections::BTreeMap;

use axum::Json;
use axum::extract::State;
use owl_core::named::Named;
use owl_core::network::Stock;
use owl_core::part::{MadeOf, PartKind};
use owl_core::preferred::{Series, between};
use owl_core::quantity::Quantity;
use owl_core::quantity::write::write;
use owl_core::substitute::{device as diode_device, diode_devices, ic_advice};
use owl_core::transistor::bias::{made_of, new_divider};
use owl_core::transistor::circuit::{Asked, CircuitNeed};
use owl_core::transistor::device::{Device, DeviceKind, Material, Polarity};
use owl_core::transistor::diode_equivalent::{self, DiodeCandidate, DiodeCell, DiodeNeed};
use owl_core::transistor::equivalent::{
    Candidate, Cell, Fitness, MOST_SHOWN, equivalents as core_equivalents,
};
use owl_core::transistor::pin_map::PinMap;
use owl_core::transistor::rule::{RuleNumber, about};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::library::{Stocked, Types, stock};
use super::sheet::{OutlineView, StockView, TypeView};
use crate::amount::Amount;
use crate::body::Body;
use crate::error::ApiError;
use crate::name::{
    CellStateName, DeviceKindName, DiodeFamilyName, DiodeJobName, FitnessName, LeadFitName, LeadName,
    MaterialName, Name, PartKindName, PolarityName, PowerReferenceName, StageName,
};
use crate::router::App;

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
    pub kind: Option<PartKindName>,
    /// How many candidates; 40 where it does not say.
    #[schema(minimum = 1, maximum = 200)]
    pub limit: Option<usize>,
}

/// Ratings; null is not known.
#[derive(Debug, Default, Deserialize, ToSchema)]
pub struct WantedBody {
    /// Bipolar where it does not say.
    pub kind: Option<DeviceKindName>,
    /// Its polarity.
    pub polarity: Option<PolarityName>,
    /// Its crystal.
    pub material: Option<MaterialName>,
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
    pub power_reference: Option<PowerReferenceName>,
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
    pub stage: Option<StageName>,
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
    /// Whether another crystal is taken, the bias being changed.
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
    /// What the circuit asks for, each with its sum.
    pub asks: Vec<AskedView>,
    /// Best first: those that pass, then near misses.
    pub candidates: Vec<CandidateView>,
    /// The divider after a change of crystal, where supply and divider are known.
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
    pub material: DiodeFamilyName,
    /// What it is for.
    pub job: DiodeJobName,
    /// Lines as they are read on a sheet.
    pub lines: Vec<super::sheet::SheetLine>,
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
    /// Its crystal and polarity in words.
    pub what: String,
    /// Whether no hard limit is short.
    pub passes: bool,
    /// The same with what is not known told apart.
    pub fitness: FitnessName,
    /// Against the original's sheet alone.
    pub by_sheet: FitnessName,
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
    pub state: CellStateName,
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
    pub fit: LeadFitName,
    /// In words.
    pub text: String,
    /// The two that cross.
    pub crossed: Option<Vec<LeadName>>,
    /// Electrode by electrode.
    pub joined: Vec<JoinedView>,
}

/// One electrode.
#[derive(Debug, Serialize, ToSchema)]
pub struct JoinedView {
    /// Which.
    pub electrode: LeadName,
    /// Its lead on the old one, counted from 1; null is the case, or not known.
    pub old: Option<usize>,
    /// Its lead on the new one.
    pub new: Option<usize>,
}

/// The divider after a change of crystal.
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

fn positive(field: &str, v: Option<f64>, most: f64) -> Result<Option<f64>, ApiError> {
    match v {
        Some(v) if v > 0.0 && v < most => Ok(Some(v)),
        Some(_) => Err(ApiError::field(field, "a value above zero is needed; unknown is left out")),
        None => Ok(None),
    }
}

fn circuit(c: &CircuitBody) -> Result<CircuitNeed, ApiError> {
    let p = |name: &str, v, most| positive(&format!("circuit.{name}"), v, most);
    let celsius = c.case_temperature;
    if celsius.is_some_and(|t| !(-40.0..=200.0).contains(&t)) {
        return Err(ApiError::field("circuit.case_temperature", "a heat sink is between −40 and 200 °C"));
    }
    Ok(CircuitNeed {
        stage: c.stage.map(|s| s.0),
        supply_volts: p("supply", c.supply, 1e5)?,
        load_ohms: p("load", c.load, 1e9)?,
        peak_amperes: p("current", c.current, 1e4)?,
        rest_amperes: p("rest_current", c.rest_current, 1e4)?,
        dissipated_watts: p("dissipation", c.dissipation, 1e5)?,
        case_celsius: celsius,
        hertz: p("frequency", c.frequency, 1e12)?,
        least_gain: p("least_gain", c.least_gain, 1e6)?,
        upper_ohms: p("upper", c.upper, 1e12)?,
        lower_ohms: p("lower", c.lower, 1e12)?,
        other_material: c.other_material,
    })
}

fn ratings(w: &WantedBody) -> Result<Device, ApiError> {
    let p = |name: &str, v, most| positive(&format!("wanted.{name}"), v, most);
    let polarity = w.polarity.map(|p| p.0).ok_or_else(|| {
        ApiError::field("wanted.polarity", "say its polarity: three leads on the meter tell it")
    })?;
    let field = matches!(polarity, Polarity::NChannel | Polarity::PChannel);
    let kind = w.kind.map_or(if field { DeviceKind::Jfet } else { DeviceKind::Bipolar }, |k| k.0);
    if kind.has_base() == field {
        return Err(ApiError::field("wanted.polarity", format!("no {kind} type is {polarity}")));
    }
    let mut d = Device::unknown(kind, polarity);
    d.material = w.material.map(|m| m.0);
    d.vcbo_volts = p("vcbo", w.vcbo, 1e5)?;
    d.vceo_volts = p("vceo", w.vceo, 1e5)?;
    d.vebo_volts = p("vebo", w.vebo, 1e5)?;
    d.ic_amperes = p("ic", w.ic, 1e4)?;
    d.power_watts = p("power", w.power, 1e5)?;
    d.power_reference = d
        .power_watts
        .map(|_| w.power_reference.map_or(owl_core::transistor::device::PowerReference::Ambient, |r| r.0));
    d.power_at_celsius = d.power_watts.map(|_| w.power_at.unwrap_or(25.0));
    d.junction_celsius = w.tj;
    d.gain_min = p("hfe_min", w.hfe_min, 1e6)?;
    d.gain_max = p("hfe_max", w.hfe_max, 1e6)?;
    d.gain_at_amperes = p("hfe_ic", w.hfe_ic, 1e4)?;
    d.ft_hertz = p("ft", w.ft, 1e12)?;
    d.cob_farads = p("cob", w.cob, 1e-3)?;
    d.package = w.package.clone().unwrap_or_default().trim().chars().take(20).collect();
    d.pinout = match w.pinout.as_deref().map(str::trim) {
        None | Some("") => None,
        Some(text) => Some(text.parse().map_err(|e| ApiError::field("wanted.pinout", e))?),
    };
    Ok(d)
}

/// Finds what goes in for a transistor or a diode; of a circuit, where the same one lies.
///
/// # Errors
/// 404 for a type that nobody knows, 422 with the input to blame.
#[utoipa::path(post, path = "/api/transistors/equivalents", tag = "transistors", operation_id = "find_equivalents",
    request_body = EquivalentsQuestion, responses(
    (status = 200, body = EquivalentsAnswer), (status = 404, body = crate::error::Problem)))]
pub async fn find(
    State(app): State<App>,
    Body(q): Body<EquivalentsQuestion>,
) -> Result<Json<EquivalentsAnswer>, ApiError> {
    let limit = q.limit.unwrap_or(40);
    if !(1..=MOST_SHOWN).contains(&limit) {
        return Err(ApiError::field("limit", format!("1 to {MOST_SHOWN} candidates can be listed")));
    }
    let asked = q.type_number.as_deref().map(str::trim).filter(|t| !t.is_empty()).map(str::to_owned);
    let body = q.circuit.unwrap_or_default();
    let need = circuit(&body)?;
    let types = app.types.all(&app.pool).await?;
    let stocked = stock(&app.pool).await?;
    let kind = q.kind.map(|k| k.0);
    if kind == Some(PartKind::Ic) {
        let name =
            asked.ok_or_else(|| ApiError::field("type", "a circuit is found by its type number alone"))?;
        return Ok(Json(of_circuit(&name, &stocked)));
    }
    let (wanted, read_as) = match (&asked, &q.wanted) {
        (Some(name), _) => match types.meant(name) {
            Some(d) => {
                let other = !d.is_called(name);
                (d.clone(), other.then(|| format!("{name} is read as {}", d.type_number)))
            }
            None => match diode_device(name) {
                Some(d) => return Ok(Json(of_diode(d, &body, &stocked, limit)?)),
                None => {
                    return Err(ApiError::NotFound(format!(
                        "{name} is not in the table: add its row, or say its ratings or what its circuit asks for"
                    )));
                }
            },
        },
        (None, Some(w)) => (ratings(w)?, None),
        (None, None) => {
            return Err(ApiError::field("type", "say the original's type, or its ratings"));
        }
    };
    let answer =
        tokio::task::spawn_blocking(move || of_transistor(&wanted, read_as, &need, &types, &stocked, limit))
            .await
            .map_err(|e| ApiError::Internal(e.to_string()))?;
    Ok(Json(answer))
}

type ByType = std::collections::HashMap<String, Vec<Stocked>>;

fn count_of(stocked: &ByType, name: &str) -> u32 {
    let all = stocked.get(&name.to_ascii_uppercase());
    all.map_or(0, |s| s.iter().map(|s| u32::try_from(s.count).unwrap_or(0)).sum())
}

fn of_transistor(
    wanted: &Device,
    read_as: Option<String>,
    need: &CircuitNeed,
    types: &Types,
    stocked: &ByType,
    limit: usize,
) -> EquivalentsAnswer {
    // Only what lies in the drawers is counted there; most types do not.
    let found = core_equivalents(
        wanted,
        need,
        types.devices(),
        |name| if stocked.is_empty() { 0 } else { count_of(stocked, name) },
        limit,
    );
    let none: Vec<Stocked> = vec![];
    let of = |name: &str| stocked.get(&name.to_ascii_uppercase()).unwrap_or(&none);
    let mut advice = Vec::new();
    let sheet = |f: Fitness| found.iter().filter(|c| c.by_sheet == f).count();
    if wanted.vceo_volts.is_none() && wanted.ic_amperes.is_none() && !need.says_something() {
        advice.push(
            "what it must stand is not known yet: say the stage, its supply and its load, or the greatest current"
                .to_owned(),
        );
    } else if !found.iter().any(Candidate::passes) {
        advice.push(
            "nothing in the table passes: say what the circuit really asks for, take another crystal with the bias \
             changed, or look for the original"
                .to_owned(),
        );
    } else if need.says_something() {
        let humbler = found.iter().filter(|c| c.is_humbler()).count();
        advice.push(format!(
            "of those shown {} do as the original's sheet asks, {humbler} more for what the circuit asks",
            sheet(Fitness::Fits) + sheet(Fitness::AsFarAsKnown)
        ));
    } else {
        advice.push("held against the original's sheet; the circuit often asks for less".to_owned());
    }
    let rules = [
        RuleNumber::TransitionLow,
        RuleNumber::TransitionHigh,
        RuleNumber::GainWindow,
        RuleNumber::CaseTemperature,
    ];
    EquivalentsAnswer {
        asks: asks(need),
        divider: divider(wanted, need),
        candidates: found.iter().map(|c| candidate(c, of(&c.device.type_number))).collect(),
        wanted: Some(TypeView::of(wanted, Some(types), of(&wanted.type_number))),
        diode: None,
        read_as,
        same: vec![],
        advice,
        searched: types.devices().len(),
        rules: rules
            .iter()
            .filter_map(|r| about(*r))
            .map(|(text, source)| format!("{text} ({source})"))
            .collect(),
    }
}

fn asks(need: &CircuitNeed) -> Vec<AskedView> {
    let all: [(&str, Quantity, Option<Asked>); 4] = [
        ("collector volts", Quantity::Voltage, need.volts()),
        ("collector current", Quantity::Current, need.amperes()),
        ("dissipation", Quantity::Power, need.watts()),
        ("transition frequency", Quantity::Frequency, need.transition()),
    ];
    all.into_iter()
        .filter_map(|(of, q, asked)| {
            let a = asked?;
            Some(AskedView {
                of: of.to_owned(),
                amount: Amount::of(q, a.si),
                because: a.because,
                source: a.source.to_string(),
            })
        })
        .collect()
}

fn divider(wanted: &Device, need: &CircuitNeed) -> Option<DividerView> {
    let (supply, upper, lower) = (need.supply_volts?, need.upper_ohms?, need.lower_ohms?);
    let other = match wanted.material? {
        Material::Germanium => Material::Silicon,
        Material::Silicon => Material::Germanium,
    };
    if !need.other_material {
        return None;
    }
    let new = Device { material: Some(other), ..wanted.clone() };
    let (by, _) = owl_core::transistor::bias::shift(wanted, &new)?;
    let d = new_divider(supply, upper, lower, by)?;
    let stock: Vec<Stock> = between(Series::E24, 10.0, 1e7).into_iter().map(Stock::plenty).collect();
    let made = |ohms: f64| -> Vec<String> {
        made_of(ohms, &stock).map_or_else(
            |_| vec![],
            |s| {
                s.networks
                    .iter()
                    .map(|n| {
                        format!(
                            "{} = {}",
                            n.tree.expression(owl_core::network::Kind::Resistor),
                            write(Quantity::Resistance, n.value)
                        )
                    })
                    .collect()
            },
        )
    };
    Some(DividerView {
        before: Amount::of(Quantity::Voltage, d.before_volts),
        wanted: Amount::of(Quantity::Voltage, d.wanted_volts),
        lower: Amount::of(Quantity::Resistance, d.lower_ohms),
        lower_made_of: made(d.lower_ohms),
        upper: Amount::of(Quantity::Resistance, d.upper_ohms),
        upper_made_of: made(d.upper_ohms),
        text: d.text(),
    })
}

fn candidate(c: &Candidate<'_>, stocked: &[Stocked]) -> CandidateView {
    let d = c.device;
    let crystal = d.material.map_or_else(String::new, |m| format!("{} ", m.name()));
    CandidateView {
        type_number: d.type_number.clone(),
        what: format!(
            "{crystal}{}{}",
            d.polarity,
            if d.kind == DeviceKind::Darlington { " Darlington" } else { "" }
        ),
        passes: c.passes(),
        fitness: Name(c.fitness),
        by_sheet: Name(c.by_sheet),
        humbler: c.is_humbler(),
        score: c.score,
        order: c.cells.iter().map(|c| c.name.name()).collect(),
        cells: c.cells.iter().map(|cell| (cell.name.name(), cell_view(cell, d.kind.has_base()))).collect(),
        pin_map: Some(pin_map(&c.pin_map)),
        outline: OutlineView::of(d),
        notes: c.notes.clone(),
        drawers: stocked.iter().map(StockView::from).collect(),
        sure: d.sure.name(),
        source: d.source.to_string(),
        usual_use: d.usual_use.clone(),
    }
}

fn cell_view(c: &Cell, base: bool) -> CellView {
    use owl_core::transistor::equivalent::CellName as N;
    let label = match (c.name, base) {
        (N::Kind, _) => "kind",
        (N::Polarity, _) => "polarity",
        (N::Material, _) => "crystal",
        (N::Vcbo, true) => "C–B",
        (N::Vceo, true) => "C–E",
        (N::Vebo, true) => "E–B",
        (N::Vcbo, false) => "D–G",
        (N::Vceo, false) => "D–S",
        (N::Vebo, false) => "G–S",
        (N::Ic, true) => "IC",
        (N::Ic, false) => "ID",
        (N::Power, _) => "power",
        (N::Gain, _) => "gain",
        (N::Transition, _) => "fT",
        (N::Capacitance, _) => "Cob",
        (N::Idss, _) => "IDSS",
        (N::Transconductance, _) => "gfs",
        (N::Package, _) => "package",
    };
    CellView {
        label,
        hard: c.hard,
        state: Name(c.state),
        value: c.value_si,
        needed: c.needed_si,
        has: c.has.clone(),
        needs: c.needs.clone(),
        why: c.why.clone(),
    }
}

fn pin_map(m: &PinMap) -> PinMapView {
    PinMapView {
        fit: Name(m.fit),
        text: m.text.clone(),
        crossed: m.crossed.map(|(a, b)| vec![Name(a), Name(b)]),
        joined: m
            .joined
            .iter()
            .map(|j| JoinedView { electrode: Name(j.electrode), old: j.old, new: j.new })
            .collect(),
    }
}

fn of_diode(
    wanted: &'static owl_core::substitute::Device,
    body: &CircuitBody,
    stocked: &ByType,
    limit: usize,
) -> Result<EquivalentsAnswer, ApiError> {
    let need = DiodeNeed {
        reverse_volts: positive("circuit.reverse", body.reverse, 1e6)?,
        amperes: positive("circuit.current", body.current, 1e4)?,
        other_material: body.other_material,
    };
    let found =
        diode_equivalent::equivalents(wanted, &need, diode_devices(), |n| count_of(stocked, n), limit);
    let text = |q, v: Option<f64>| v.map_or_else(String::new, |v| write(q, v).to_string());
    let line = |label: &str, text: String| super::sheet::SheetLine { label: label.to_owned(), text };
    Ok(EquivalentsAnswer {
        wanted: None,
        diode: Some(DiodeView {
            type_number: wanted.type_number.clone(),
            material: Name(wanted.family),
            job: Name(wanted.job),
            lines: vec![
                line("reverse volts", text(Quantity::Voltage, Some(wanted.reverse_volts))),
                line("current", text(Quantity::Current, wanted.amperes)),
                line("one surge", text(Quantity::Current, wanted.surge_amperes)),
                line("drop", text(Quantity::Voltage, wanted.drop)),
                line("package", wanted.package.clone()),
            ],
            source: wanted.source.to_string(),
        }),
        read_as: None,
        asks: vec![],
        candidates: found
            .iter()
            .map(|c| {
                diode_candidate(
                    c,
                    stocked.get(&c.device.type_number.to_ascii_uppercase()).map_or(&[], |s| s.as_slice()),
                )
            })
            .collect(),
        divider: None,
        same: vec![],
        advice: vec![
            "held against the original's sheet unless the circuit's volts and current are said".to_owned(),
        ],
        searched: diode_devices().len(),
        rules: vec![],
    })
}

fn diode_candidate(c: &DiodeCandidate, stocked: &[Stocked]) -> CandidateView {
    let d = c.device;
    let cell = |c: &DiodeCell| CellView {
        label: c.name.name(),
        hard: c.hard,
        state: Name(c.state),
        value: c.value_si,
        needed: c.needed_si,
        has: c.has.clone(),
        needs: c.needs.clone(),
        why: c.why.clone(),
    };
    CandidateView {
        type_number: d.type_number.clone(),
        what: format!("{} {}", MadeOf::Diode(d.family).name(), d.job),
        passes: c.fitness != Fitness::Short,
        fitness: Name(c.fitness),
        by_sheet: Name(c.fitness),
        humbler: false,
        score: c.score,
        order: c.cells.iter().map(|c| c.name.name()).collect(),
        cells: c.cells.iter().map(|x| (x.name.name(), cell(x))).collect(),
        pin_map: None,
        outline: None,
        notes: c.notes.clone(),
        drawers: stocked.iter().map(StockView::from).collect(),
        sure: d.sure.name(),
        source: d.source.to_string(),
        usual_use: String::new(),
    }
}

fn of_circuit(name: &str, stocked: &ByType) -> EquivalentsAnswer {
    let same = stocked
        .get(&name.to_ascii_uppercase())
        .map_or_else(Vec::new, |s| s.iter().map(StockView::from).collect());
    EquivalentsAnswer {
        wanted: None,
        diode: None,
        read_as: None,
        asks: vec![],
        candidates: vec![],
        divider: None,
        same,
        advice: ic_advice().iter().map(|t| (*t).to_owned()).collect(),
        searched: 0,
        rules: vec![],
    }
}
