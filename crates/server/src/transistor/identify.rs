//! Three leads and no print, and two: `POST /api/transistors/identify` and `POST /api/transistors/diode`.

use axum::Json;
use owl_core::part::JunctionTest;
use owl_core::quantity::format::format;
use owl_core::quantity::{Quantity, parse};
use owl_core::transistor::Material;
use owl_core::transistor::device::Polarity;
use owl_core::transistor::diode_kind::{DiodeHealth, DiodeKind, diode};
use owl_core::transistor::identify::{
    Conditions, Further, GainTry, Health, Identified, ReadingsError, SixReadings, ToldBy, What,
    identify as core_identify, with_parallel,
};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::body::Body;
use crate::error::ApiError;

/// What a meter's diode range showed between three leads.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct IdentifyQuestion {
    /// Six readings: red and black on each pair of leads, both ways round.
    #[schema(min_items = 6, max_items = 6)]
    pub readings: Vec<DiodeReading>,
    /// Gain with the leads either way round, where it was measured.
    #[serde(default)]
    #[schema(max_items = 6)]
    pub gains: Vec<GainReading>,
    /// Whether the part is still in the set.
    #[serde(default)]
    pub in_circuit: bool,
    /// How warm it is, °C; 25 where it does not say.
    pub celsius: Option<f64>,
    /// The meter's current on that range, ampere; one milliampere where it does not say.
    pub meter_current: Option<f64>,
    /// What one more measurement showed.
    pub further: Option<Further>,
}

/// One way round.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct DiodeReading {
    /// The lead with the red probe, by any name of a few letters.
    #[schema(max_length = 12)]
    pub red: String,
    /// The lead with the black probe.
    #[schema(max_length = 12)]
    pub black: String,
    /// What was shown; null where nothing was.
    pub volts: Option<f64>,
    /// The same as it is typed, "0.62", "620" for millivolt or "OL"; counts where there are no `volts`.
    #[serde(default)]
    #[schema(max_length = 20)]
    pub typed: Option<String>,
}

/// Gain with the leads one way round.
#[derive(Debug, Clone, Serialize, Deserialize, ToSchema)]
pub struct GainReading {
    /// The lead in the collector's hole.
    #[schema(max_length = 12)]
    pub collector: String,
    /// The lead in the emitter's hole.
    #[schema(max_length = 12)]
    pub emitter: String,
    /// What the tester showed.
    #[schema(minimum = 0)]
    pub hfe: f64,
}

/// What three leads are.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct IdentifiedView {
    /// What it is.
    pub what: What,
    /// In what state.
    pub state: Health,
    /// The base or the gate, by its name; null where the readings do not say.
    pub base: Option<String>,
    /// The collector or the drain.
    pub collector: Option<String>,
    /// The emitter or the source.
    pub emitter: Option<String>,
    /// What told collector from emitter.
    pub told_by: Option<ToldBy>,
    /// Its polarity.
    pub polarity: Option<Polarity>,
    /// Its material.
    pub material: Option<Material>,
    /// Two leads that are one.
    pub shorted: Option<Vec<String>>,
    /// The leads as letters in the order of their names, such as EBC for leads 1, 2, 3; null until all three are known.
    pub pinout: Option<String>,
    /// In a sentence.
    pub summary: String,
    /// Why, one line each.
    pub because: Vec<String>,
    /// What else shows the same numbers.
    pub or: Vec<String>,
    /// What one more measurement would settle, the most telling first.
    pub next: Vec<String>,
    /// What one more measurement can have shown, as far as it would settle something here.
    pub can_settle: Vec<Further>,
    /// What resistors across the base's junction would make of its reading in the set.
    pub in_circuit: Vec<ParallelView>,
}

/// What a resistor across a junction makes of its reading.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct ParallelView {
    /// The resistor, as it is written.
    pub resistor: String,
    /// What the diode range then shows, as it is written.
    pub shows: String,
}

/// The names of three leads and their six readings, from a question.
struct Asked {
    names: [String; 3],
    six: SixReadings,
    gains: Vec<GainTry>,
}

fn volts(r: &DiodeReading, field: &str) -> Result<Option<f64>, ApiError> {
    let typed = r.typed.as_deref().unwrap_or("").trim();
    if r.volts.is_some() || typed.is_empty() {
        return Ok(r.volts);
    }
    let nothing = ["ol", "o.l", "open", "over", "-", "—", "none", "no", "∞", "1."];
    if nothing.iter().any(|n| typed.eq_ignore_ascii_case(n)) {
        return Ok(None);
    }
    if typed.chars().count() > 20 {
        return Err(ApiError::field(field, "at most 20 characters"));
    }
    // A meter that shows 620 means millivolt.
    let bare = typed.replace(',', ".").parse::<f64>().ok();
    match bare.map_or_else(|| parse::best(Quantity::Voltage, typed), Ok) {
        Ok(v) if v > 10.0 && bare.is_some() => Ok(Some(v / 1000.0)),
        Ok(v) => Ok(Some(v)),
        Err(e) => Err(ApiError::field(field, e)),
    }
}

fn asked(q: &IdentifyQuestion, field: &str) -> Result<Asked, ApiError> {
    let mut names: Vec<String> = Vec::new();
    let mut readings = Vec::new();
    let place = |names: &mut Vec<String>, n: &str, at: String| -> Result<usize, ApiError> {
        let n = n.trim();
        if n.is_empty() || n.chars().count() > 12 || n.chars().any(char::is_control) {
            return Err(ApiError::field(at, "each lead needs a name of a few letters, such as 1, 2, 3"));
        }
        if let Some(i) = names.iter().position(|k| k == n) {
            return Ok(i);
        }
        if names.len() == 3 {
            return Err(ApiError::field(at, format!("'{n}' is a fourth lead; three are tested at once")));
        }
        names.push(n.to_owned());
        Ok(names.len() - 1)
    };
    if q.gains.len() > 6 {
        return Err(ApiError::field(format!("{field}gains"), "three leads have six ways round"));
    }
    for (i, r) in q.readings.iter().enumerate().take(12) {
        let at = format!("{field}readings[{i}]");
        let red = place(&mut names, &r.red, format!("{at}.red"))?;
        let black = place(&mut names, &r.black, format!("{at}.black"))?;
        readings.push((red, black, volts(r, &format!("{at}.volts"))?));
    }
    let six = SixReadings::new(&readings).map_err(|e| match e {
        ReadingsError::NoDrop(v) => {
            let at =
                readings.iter().position(|(_, _, r)| r.is_some_and(|r| r == v || r.is_nan())).unwrap_or(0);
            ApiError::field(format!("{field}readings[{at}].volts"), e)
        }
        _ => ApiError::field(format!("{field}readings"), e),
    })?;
    let mut gains = Vec::new();
    for (i, g) in q.gains.iter().enumerate() {
        let at = format!("{field}gains[{i}]");
        let of = |n: &str| {
            let why = || ApiError::field(at.clone(), format!("'{n}' is none of the three leads"));
            names.iter().position(|k| k == n.trim()).ok_or_else(why)
        };
        if !(0.0..1e6).contains(&g.hfe) {
            return Err(ApiError::field(format!("{at}.hfe"), "a gain is 0 or more"));
        }
        gains.push(GainTry { collector: of(&g.collector)?, emitter: of(&g.emitter)?, gain: g.hfe });
    }
    let names = names
        .try_into()
        .map_err(|_| ApiError::field(format!("{field}readings"), "three leads are needed"))?;
    Ok(Asked { names, six, gains })
}

fn celsius(q: &IdentifyQuestion, field: &str) -> Result<f64, ApiError> {
    let c = q.celsius.unwrap_or(25.0);
    if (-40.0..=150.0).contains(&c) {
        Ok(c)
    } else {
        Err(ApiError::field(format!("{field}celsius"), "a part is between −40 and 150 °C"))
    }
}

/// The test of a part's junctions, from a question.
///
/// # Errors
/// 422 with the input to blame, below `field`.
pub fn test(q: &IdentifyQuestion, field: &str) -> Result<JunctionTest, ApiError> {
    let below = format!("{field}.");
    Ok(JunctionTest {
        six: asked(q, &below)?.six,
        in_circuit: q.in_circuit,
        celsius: celsius(q, &below)?,
        further: q.further,
    })
}

/// What the readings of a question say.
///
/// # Errors
/// 422 with the input to blame.
pub fn identified(q: &IdentifyQuestion) -> Result<IdentifiedView, ApiError> {
    let Asked { names, six, gains } = asked(q, "")?;
    let current = q.meter_current.unwrap_or(1e-3);
    if !(1e-6..=1.0).contains(&current) {
        return Err(ApiError::field("meter_current", "a meter's diode range feeds from 1 µA to 1 A"));
    }
    let how = Conditions {
        in_circuit: q.in_circuit,
        meter_amperes: current,
        celsius: celsius(q, "")?,
        gains: &gains,
        further: q.further,
    };
    let [a, b, c] = &names;
    let found = core_identify(&six, [a, b, c], how);
    Ok(view(&found, &six, &names, current))
}

fn view(f: &Identified, six: &SixReadings, names: &[String; 3], current: f64) -> IdentifiedView {
    let name = |l: Option<usize>| l.and_then(|l| names.get(l)).cloned();
    let junction = f.base.and_then(|b| {
        let others = [f.collector, f.emitter, Some((b + 1) % 3)];
        others.iter().flatten().filter(|o| **o != b).find_map(|o| six.volts(b, *o).or(six.volts(*o, b)))
    });
    let in_circuit = junction
        .filter(|v| (0.1..1.0).contains(v) && f.health == Health::Good)
        .map(|v| {
            [100.0, 470.0, 1e3, 4.7e3, 22e3]
                .iter()
                .map(|r| ParallelView {
                    resistor: format(Quantity::Resistance, *r).to_string(),
                    shows: format!("{:.2} V", with_parallel(v, *r, current)),
                })
                .collect()
        })
        .unwrap_or_default();
    let can_settle = match (f.what, f.health) {
        (What::Bipolar, Health::Open) => vec![Further::OnAfterPlus, Further::OnAfterMinus, Further::Latches],
        (What::Jfet, _) => vec![Further::ChannelStops, Further::ChannelStays],
        (What::Bipolar, Health::Leaky) if f.base.is_some() => {
            vec![Further::ChannelStops, Further::ChannelStays]
        }
        _ => vec![],
    };
    IdentifiedView {
        what: f.what,
        state: f.health,
        base: name(f.base),
        collector: name(f.collector),
        emitter: name(f.emitter),
        told_by: f.told_by,
        polarity: f.polarity,
        material: f.material,
        shorted: f.shorted.map(|(a, b)| [a, b].iter().filter_map(|l| name(Some(*l))).collect()),
        pinout: pinout(f, names),
        summary: summary(f),
        because: f.because.clone(),
        or: f.or.clone(),
        next: f.next.clone(),
        can_settle: can_settle.into_iter().collect(),
        in_circuit,
    }
}

/// E B C or S G D in the order of the leads' names.
fn pinout(f: &Identified, names: &[String; 3]) -> Option<String> {
    use owl_core::transistor::identify::What;
    let field = matches!(f.what, What::Jfet | What::Mosfet);
    if matches!(f.what, What::Scr | What::DiodePair | What::Unknown) {
        return None;
    }
    let letters = if field { ['G', 'D', 'S'] } else { ['B', 'C', 'E'] };
    let mut leads = vec![(f.base?, letters[0]), (f.collector?, letters[1]), (f.emitter?, letters[2])];
    leads.sort_by(|a, b| names.get(a.0).cmp(&names.get(b.0)));
    Some(leads.into_iter().map(|(_, l)| l).collect())
}

fn summary(f: &Identified) -> String {
    use owl_core::transistor::identify::{Health, What};
    let material = match f.material {
        Some(Material::Germanium) => "germanium ",
        Some(Material::Silicon) => "silicon ",
        None => "",
    };
    let polarity = match f.polarity {
        Some(Polarity::Npn) => "NPN ",
        Some(Polarity::Pnp) => "PNP ",
        Some(Polarity::NChannel) => "N-channel ",
        Some(Polarity::PChannel) => "P-channel ",
        None => "",
    };
    let what = match f.what {
        What::Bipolar => "transistor",
        What::Darlington => "Darlington",
        What::WithDamper => "transistor with a damper diode",
        What::WithResistors => "transistor with resistors at its base",
        What::Jfet => "junction field-effect transistor",
        What::Mosfet => "insulated-gate field-effect transistor",
        What::DiodePair => "two diodes one after the other",
        What::Scr => "thyristor",
        What::Unknown => "not recognised",
    };
    match (f.what, f.health) {
        (What::Unknown, Health::Open) => "nothing conducts: open, or an insulated gate".to_owned(),
        (What::Unknown, h) => format!("{h}: {what}"),
        (What::Bipolar, Health::Open) => {
            "one junction only: open, or no bipolar transistor at all".to_owned()
        }
        (_, h) => format!("{h}: {material}{polarity}{what}"),
    }
}

/// Says what three leads are from six readings of a diode range.
///
/// # Errors
/// 422 with the input to blame.
#[utoipa::path(post, path = "/api/transistors/identify", tag = "transistors", operation_id = "identify_transistor",
    request_body = IdentifyQuestion, responses((status = 200, body = IdentifiedView)))]
pub async fn identify(Body(q): Body<IdentifyQuestion>) -> Result<Json<IdentifiedView>, ApiError> {
    Ok(Json(identified(&q)?))
}

/// What a diode range showed of two leads.
#[derive(Debug, Deserialize, ToSchema)]
pub struct DiodeQuestion {
    /// One way round; null where nothing was shown.
    pub one_way: Option<f64>,
    /// The other way round.
    pub other_way: Option<f64>,
    /// How warm it is, °C; 25 where it does not say.
    pub celsius: Option<f64>,
}

/// What two leads may be.
#[derive(Debug, Serialize, ToSchema)]
pub struct DiodeFoundView {
    /// In what state.
    pub state: DiodeHealth,
    /// In words.
    pub text: String,
    /// What it may be, the likeliest first.
    pub may_be: Vec<MayBeView>,
}

/// One thing that it may be.
#[derive(Debug, Serialize, ToSchema)]
pub struct MayBeView {
    /// What.
    pub kind: DiodeKind,
    /// The window of its drop, as it is written.
    pub window: String,
    /// What tells it from others.
    pub tell: String,
    /// Where that comes from.
    pub source: String,
}

/// Says what two leads may be from a diode's drop both ways.
///
/// # Errors
/// 422 with the input to blame.
#[utoipa::path(post, path = "/api/transistors/diode", tag = "transistors", operation_id = "identify_diode",
    request_body = DiodeQuestion, responses((status = 200, body = DiodeFoundView)))]
pub async fn two_leads(Body(q): Body<DiodeQuestion>) -> Result<Json<DiodeFoundView>, ApiError> {
    for (field, v) in [("one_way", q.one_way), ("other_way", q.other_way)] {
        if v.is_some_and(|v| !(0.0..=100.0).contains(&v)) {
            return Err(ApiError::field(field, "a drop is 0 to 100 V, or nothing shown"));
        }
    }
    let celsius = q.celsius.unwrap_or(25.0);
    if !(-40.0..=150.0).contains(&celsius) {
        return Err(ApiError::field("celsius", "a part is between −40 and 150 °C"));
    }
    let found = diode(q.one_way, q.other_way, celsius);
    Ok(Json(DiodeFoundView {
        state: found.health,
        text: found.text,
        may_be: found
            .may_be
            .iter()
            .map(|m| MayBeView {
                kind: m.kind,
                window: format!("{} to {} V", m.low_volts, m.high_volts),
                tell: m.tell.to_owned(),
                source: m.source.to_string(),
            })
            .collect(),
    }))
}
