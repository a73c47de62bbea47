//! `/api/supply/…`: the bench sheets of supply arithmetic.

pub mod wire;

use axum::Json;
use owl_core::quantity::{Ampere, Farad, Henry, Hertz, Ohm, QuantityError, Volt, Watt};
use owl_core::supply::barretter::BarretterError;
use owl_core::supply::field_coil::{FieldCoil, Known};
use owl_core::supply::heater::{Ballast, Member};
use owl_core::supply::rectifier::{Load, RectifierKind, Supply};
use owl_core::supply::ripple::Section;
use owl_core::supply::switch_on::switch_on;
use owl_core::supply::{
    SupplyError, discharge, dropper, field_coil, heater, lamp, line, plausible, ripple, touch,
};
use owl_core::transistor::diode_device::{Device, DiodeJob, device};
use owl_core::verdict::Policy;

use self::wire::{
    ChainAnswer, ChainQuestion, ChartAnswer, ChartQuestion, DischargeAnswer, DischargeQuestion,
    FieldCoilAnswer, FieldCoilQuestion, LimiterAnswer, LimiterQuestion, RectifierAnswer, RectifierBody,
    RectifierLoad, RectifierQuestion, RippleAnswer, RippleQuestion, SectionBody, SeriesAnswer,
    SeriesQuestion, SettledView, TouchAnswer, TouchQuestion,
};
use crate::aside::aside;
use crate::body::Body;
use crate::error::ApiError;

/// Points of a chart, members of a chain or sections of a filter at most.
const MOST_ROWS: usize = 200;

/// A sum that makes no sense, with the input to blame.
fn refused(e: SupplyError) -> ApiError {
    match e.input() {
        Some(field) => ApiError::field(field, e),
        None => ApiError::Impossible { detail: e.to_string(), field: None },
    }
}

fn number<T>(field: &str, value: f64, new: impl Fn(f64) -> Result<T, QuantityError>) -> Result<T, ApiError> {
    new(value).map_err(|e| ApiError::field(field, e))
}

fn few(field: &str, rows: usize) -> Result<(), ApiError> {
    if rows <= MOST_ROWS { Ok(()) } else { Err(ApiError::field(field, format!("at most {MOST_ROWS} rows"))) }
}

/// A resistor that takes volts away from a steady load.
///
/// # Errors
/// 422 with the input to blame.
#[utoipa::path(post, path = "/api/supply/series", tag = "supply", request_body = SeriesQuestion, responses(
    (status = 200, body = SeriesAnswer, description = "the resistor")))]
pub async fn series(Body(q): Body<SeriesQuestion>) -> Result<Json<SeriesAnswer>, ApiError> {
    let supply = number("supply", q.supply, Volt::new)?;
    let load = number("load", q.load, Volt::new)?;
    let current = match (q.current, q.drop, q.through) {
        (Some(i), ..) => number("current", i, Ampere::new)?,
        (None, Some(v), Some(r)) => {
            dropper::current_through(number("drop", v, Volt::new)?, number("through", r, Ohm::new)?)
                .map_err(refused)?
        }
        _ => {
            let how = "say the current, or the volts across a resistor that carries it and its ohms";
            return Err(ApiError::field("current", how));
        }
    };
    Ok(Json(SeriesAnswer::of(&dropper::dropper(supply, load, current).map_err(refused)?)))
}

/// A rectifier with capacitor input, solved in time.
///
/// # Errors
/// 422 with the input to blame.
#[utoipa::path(post, path = "/api/supply/rectifier", tag = "supply", request_body = RectifierQuestion, responses(
    (status = 200, body = RectifierAnswer, description = "the steady state, and the resistor for a target")))]
pub async fn rectifier(Body(q): Body<RectifierQuestion>) -> Result<Json<RectifierAnswer>, ApiError> {
    let supply = supply_of(&q)?;
    let target = q.target.map(|t| number("target", t, Volt::new)).transpose()?;
    let mut odd: Vec<String> = target.and_then(|t| plausible::of_rail(supply.line, t)).into_iter().collect();
    if let Load::Current(i) = supply.load {
        odd.extend(plausible::of_power(supply.line, i));
    }
    let diode = diode_of(&q.rectifier)?;
    let silicon = q.rectifier.kind == RectifierKind::Silicon;
    // Some hundred thousand steps: not on the threads that serve.
    let solved = aside(move || {
        let steady = supply.steady()?;
        let for_target = target.map(|t| supply.for_target(t)).transpose()?.flatten();
        let at_once =
            if silicon { Some(switch_on(&supply, &steady, Policy::unchosen(), diode)?) } else { None };
        Ok::<_, SupplyError>((steady, for_target, at_once))
    });
    let (steady, for_target, at_once) = solved.await?.map_err(refused)?;
    Ok(Json(RectifierAnswer::of(&steady, for_target.as_ref(), &supply, at_once.as_ref(), odd)))
}

/// The type that is chosen.
fn diode_of(body: &RectifierBody) -> Result<Option<&'static Device>, ApiError> {
    let Some(name) = body.type_number.as_deref().map(str::trim).filter(|t| !t.is_empty()) else {
        return Ok(None);
    };
    let known = device(name).filter(|d| d.job == DiodeJob::Rectifier);
    known
        .map(Some)
        .ok_or_else(|| ApiError::field("rectifier.type", format!("{name} is no rectifier of the table")))
}

fn supply_of(q: &RectifierQuestion) -> Result<Supply, ApiError> {
    let usual = q.rectifier.kind.usual();
    let drop = q.rectifier.drop.unwrap_or(usual.map_or(0.0, |u| u.drop));
    let resistance = q.rectifier.resistance.unwrap_or(usual.map_or(0.0, |u| u.resistance));
    Ok(Supply {
        arrangement: q.circuit,
        line: number("line", q.line, Volt::new)?,
        frequency: number("frequency", q.frequency, Hertz::new)?,
        drop: number("rectifier.drop", drop, Volt::new)?,
        resistance: number("rectifier.resistance", resistance, Ohm::new)?,
        source: number("source_resistance", q.source_resistance.unwrap_or(0.0), Ohm::new)?,
        series: number("series", q.series.unwrap_or(0.0), Ohm::new)?,
        capacitance: number("capacitance", q.capacitance, Farad::new)?,
        load: match q.load {
            RectifierLoad::Current { current } => {
                Load::Current(number("load.current", current, Ampere::new)?)
            }
            RectifierLoad::Resistance { resistance } => {
                Load::Resistance(number("load.resistance", resistance, Ohm::new)?)
            }
        },
    })
}

/// Emptying a capacitor through a resistor.
///
/// # Errors
/// 422 with the input to blame.
#[utoipa::path(post, path = "/api/supply/discharge", tag = "supply", request_body = DischargeQuestion, responses(
    (status = 200, body = DischargeAnswer, description = "time, energy and peaks")))]
pub async fn discharge(Body(q): Body<DischargeQuestion>) -> Result<Json<DischargeAnswer>, ApiError> {
    let voltage = number("voltage", q.voltage, Volt::new)?;
    let d = discharge::discharge(
        number("capacitance", q.capacitance, Farad::new)?,
        voltage,
        number("resistor", q.resistor, Ohm::new)?,
        number("safe", q.safe.unwrap_or(discharge::SAFE_VOLTS), Volt::new)?,
    );
    Ok(Json(DischargeAnswer::of(&d.map_err(refused)?, voltage)))
}

/// A field coil made up with a resistor.
///
/// # Errors
/// 422 with the input to blame.
#[utoipa::path(post, path = "/api/supply/field-coil", tag = "supply", request_body = FieldCoilQuestion, responses(
    (status = 200, body = FieldCoilAnswer, description = "what makes up")))]
pub async fn field_coil(Body(q): Body<FieldCoilQuestion>) -> Result<Json<FieldCoilAnswer>, ApiError> {
    let known = match (q.current, q.drop) {
        (Some(i), _) => Known::Current(number("current", i, Ampere::new)?),
        (None, Some(v)) => Known::Drop(number("drop", v, Volt::new)?),
        (None, None) => {
            return Err(ApiError::field("current", "say the current, or the volts across what is missing"));
        }
    };
    let coil = FieldCoil {
        wanted: number("wanted", q.wanted, Ohm::new)?,
        present: number("present", q.present.unwrap_or(0.0), Ohm::new)?,
        known,
    };
    Ok(Json(FieldCoilAnswer::of(&field_coil::made_up(coil).map_err(refused)?)))
}

/// A chain of heaters and lamps across the line.
///
/// # Errors
/// 422 with the input to blame.
#[utoipa::path(post, path = "/api/supply/heaters", tag = "supply", request_body = ChainQuestion, responses(
    (status = 200, body = ChainAnswer, description = "dropper, surge, and who does not match")))]
pub async fn heaters(Body(q): Body<ChainQuestion>) -> Result<Json<ChainAnswer>, ApiError> {
    few("members", q.members.len())?;
    let mut members = Vec::new();
    for (i, m) in q.members.iter().enumerate() {
        let above = |name: &str, v: f64| {
            if v > 0.0 {
                Ok(v)
            } else {
                Err(ApiError::field(format!("members[{i}].{name}"), "a value above zero is needed"))
            }
        };
        members.push(Member {
            name: m.name.chars().take(40).collect(),
            volts: number(&format!("members[{i}].volts"), above("volts", m.volts)?, Volt::new)?,
            current: number(&format!("members[{i}].current"), above("current", m.current)?, Ampere::new)?,
            lamp: m.lamp,
        });
    }
    let line = number("line", q.line, Volt::new)?;
    let chain = heater::chain(line, &members).map_err(refused)?;
    few("ballasts", q.ballasts.len())?;
    let ohms = q.ballasts.iter().enumerate();
    let ohms = ohms.map(|(i, r)| number(&format!("ballasts[{i}]"), *r, Ohm::new).map(Ballast::Resistor));
    let typed = q.barretter.as_deref().map(str::trim).filter(|t| !t.is_empty());
    let barretter = typed.map(|t| {
        t.parse().map(Ballast::Barretter).map_err(|e: BarretterError| ApiError::field("barretter", e))
    });
    let settled = ohms.chain(barretter).map(|ballast| {
        let ballast = ballast?;
        let settled = heater::settled(line, &members, ballast).map_err(refused)?;
        Ok::<_, ApiError>(SettledView::of(ballast, &settled, &members))
    });
    let settled = settled.collect::<Result<_, _>>()?;
    Ok(Json(ChainAnswer { settled, ..ChainAnswer::of(&chain, &members) }))
}

/// A voltage chart scaled to today's line.
///
/// # Errors
/// 422 with the input to blame.
#[utoipa::path(post, path = "/api/supply/chart", tag = "supply", request_body = ChartQuestion, responses(
    (status = 200, body = ChartAnswer, description = "each point at today's line")))]
pub async fn chart(Body(q): Body<ChartQuestion>) -> Result<Json<ChartAnswer>, ApiError> {
    few("points", q.points.len())?;
    let (sheet_line, now) =
        (number("sheet_line", q.sheet_line, Volt::new)?, number("line", q.line, Volt::new)?);
    let mut points = Vec::new();
    for (i, p) in q.points.iter().enumerate() {
        let sheet = number(&format!("points[{i}].volts"), p.volts, Volt::new)?;
        let field = format!("points[{i}].measured");
        let measured = p.measured.map(|m| number(&field, m, Volt::new)).transpose()?;
        points.push(line::scaled(sheet_line, now, sheet, measured).map_err(refused)?);
    }
    let halves = match (q.half_a, q.half_b) {
        (Some(a), Some(b)) => {
            let (a, b) = (number("half_a", a, Volt::new)?, number("half_b", b, Volt::new)?);
            Some(line::halves_apart(a, b).map_err(refused)?)
        }
        _ => None,
    };
    Ok(Json(ChartAnswer::of(&points, &q, halves)))
}

/// Touch current through a capacitor between line and chassis.
///
/// # Errors
/// 422 with the input to blame.
#[utoipa::path(post, path = "/api/supply/touch", tag = "supply", request_body = TouchQuestion, responses(
    (status = 200, body = TouchAnswer, description = "the current, and the most that stays within the limit")))]
pub async fn touch(Body(q): Body<TouchQuestion>) -> Result<Json<TouchAnswer>, ApiError> {
    let t = touch::touch(
        number("capacitance", q.capacitance, Farad::new)?,
        number("line", q.line, Volt::new)?,
        number("frequency", q.frequency, Hertz::new)?,
    );
    Ok(Json(TouchAnswer::of(&t.map_err(refused)?)))
}

/// What filter sections leave of a ripple.
///
/// # Errors
/// 422 with the input to blame.
#[utoipa::path(post, path = "/api/supply/ripple", tag = "supply", request_body = RippleQuestion, responses(
    (status = 200, body = RippleAnswer, description = "the ripple behind each section")))]
pub async fn ripple(Body(q): Body<RippleQuestion>) -> Result<Json<RippleAnswer>, ApiError> {
    few("sections", q.sections.len())?;
    let mut sections = Vec::new();
    for (i, s) in q.sections.iter().enumerate() {
        let field = |name: &str| format!("sections[{i}].{name}");
        let section = match s {
            SectionBody::Resistor { resistor, .. } => {
                Section::Resistor(number(&field("resistor"), *resistor, Ohm::new)?)
            }
            SectionBody::Choke { choke, .. } => Section::Choke(number(&field("choke"), *choke, Henry::new)?),
        };
        sections.push((section, number(&field("capacitance"), s.capacitance(), Farad::new)?));
    }
    let before = number("ripple", q.ripple, Volt::new)?;
    let after = ripple::after(before, number("frequency", q.frequency, Hertz::new)?, &sections);
    Ok(Json(RippleAnswer::of(&after.map_err(refused)?)))
}

/// A bulb in series with a set.
///
/// # Errors
/// 422 with the input to blame.
#[utoipa::path(post, path = "/api/supply/limiter", tag = "supply", request_body = LimiterQuestion, responses(
    (status = 200, body = LimiterAnswer, description = "what each bulb does, and which is proposed")))]
pub async fn limiter(Body(q): Body<LimiterQuestion>) -> Result<Json<LimiterAnswer>, ApiError> {
    let all = lamp::limiter(number("line", q.line, Volt::new)?, number("watts", q.watts, Watt::new)?);
    Ok(Json(LimiterAnswer::of(&all.map_err(refused)?)))
}
