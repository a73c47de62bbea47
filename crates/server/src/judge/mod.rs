//! `POST /api/judge`: a verdict on a part from its readings.

pub mod view;
pub mod wire;

use axum::Json;
use owl_core::marking::fuse::speed_of;
use owl_core::named::Named;
use owl_core::part::{
    Capacitor, Circuit, Coil, Diode, Fact, Fuse, Loudspeaker, MadeOf, Part, PartKind, Position, Resistor,
    Transistor, Valve,
};
use owl_core::quantity::{
    Ampere, Farad, Fraction, Henry, Hertz, Ohm, Quantity, QuantityError, Second, Volt, Watt,
};
use owl_core::reading::{Accuracy, Mode, Reading, Shown};
use owl_core::transistor::Material;
use owl_core::transistor::device::{by_sheet, device, meant};
use owl_core::valve::valve_type;
use owl_core::verdict::{Case, Partner, Policy};

use self::view::{Judgement, judgement};
use self::wire::{JudgeQuestion, PairBody, PartBody, ReadingBody};
use crate::body::Body;
use crate::error::ApiError;

/// Judges a part.
///
/// # Errors
/// 422 with the input to blame.
#[utoipa::path(post, path = "/api/judge", tag = "tools", request_body = JudgeQuestion, responses(
    (status = 200, body = Judgement, description = "the verdict with its reasons")))]
pub async fn judge(Body(q): Body<JudgeQuestion>) -> Result<Json<Judgement>, ApiError> {
    let part = part(&q.part)?;
    let readings: Vec<Reading> =
        q.readings.iter().enumerate().map(|(i, r)| reading(i, r)).collect::<Result<_, _>>()?;
    if readings.len() > 1000 {
        return Err(ApiError::field("readings", "at most 1000 readings are judged at once"));
    }
    let policy = Policy::of(q.school, q.tight).map_err(|e| ApiError::field("tight", e))?;
    let mut partners: Vec<Partner> = Vec::new();
    for (i, p) in q.group.iter().enumerate() {
        partners.push(partner(&format!("group[{i}]"), p)?);
    }
    if let Some(p) = &q.pair {
        partners.push(partner("pair", p)?);
    }
    let circuit = circuit(&q)?;
    let position = match q.position {
        Some(p) => Some(sits(p, part.kind())?),
        None => None,
    };
    let case = Case {
        part: &part,
        position,
        readings: &readings,
        partners: &partners,
        circuit: &circuit,
        looks: &q.looks,
    };
    Ok(Json(judgement(case, policy)))
}

fn partner(field: &str, p: &PairBody) -> Result<Partner, ApiError> {
    Ok(Partner {
        name: p.name.chars().take(40).collect(),
        measured_si: positive(&format!("{field}.measured"), p.measured)?.ohms(),
        marked_si: positive(&format!("{field}.marked"), p.marked)?.ohms(),
        base_volts: None,
    })
}

/// Refuses a place where such parts do not sit.
///
/// # Errors
/// 422 with the places that there are.
pub fn sits(position: Position, kind: PartKind) -> Result<Position, ApiError> {
    if position.facts(kind).is_some() {
        return Ok(position);
    }
    let places: Vec<&str> = Position::of(kind).map(Named::name).collect();
    let why = format!("no {kind} sits in the place '{position}'; its places are: {}", places.join(", "));
    Err(ApiError::field("position", why))
}

fn circuit(q: &JudgeQuestion) -> Result<Circuit, ApiError> {
    let mut circuit = Circuit::default();
    for (name, value) in q.circuit.iter().flatten() {
        // Facts of later rules are sent along by scripts; they are not looked at.
        if let (Ok(fact), Some(v)) = (Fact::from_name(name), value) {
            circuit.set_si(fact, *v).map_err(|e| ApiError::field(format!("circuit.{name}"), e))?;
        }
    }
    Ok(circuit)
}

fn positive(field: &str, value: f64) -> Result<Ohm, ApiError> {
    match Ohm::new(value) {
        Ok(v) if v > Ohm::ZERO => Ok(v),
        Ok(_) => Err(ApiError::field(field, "a value above zero is needed")),
        Err(e) => Err(ApiError::field(field, e)),
    }
}

/// The part of a question.
///
/// # Errors
/// 422 with the input to blame.
pub fn part(body: &PartBody) -> Result<Part, ApiError> {
    let kind = body.kind;
    let family = body.family;
    if let Some(f) = family.filter(|f| !f.suits(kind)) {
        return Err(ApiError::field("part.family", format!("'{}' is no family of a {kind}", f.name())));
    }
    let tolerance = match body.tolerance {
        Some(t) if t > 0.0 && t < 1.0 => Fraction::new(t).ok(),
        Some(_) => {
            return Err(ApiError::field("part.tolerance", "a tolerance is between 0 and 1: 0.1 is 10 %"));
        }
        None => None,
    };
    let needed = || {
        let value =
            body.value.ok_or_else(|| ApiError::field("part.value", format!("a {kind} needs a value")))?;
        positive("part.value", value)
    };
    Ok(match kind {
        PartKind::Resistor => Part::Resistor(Resistor {
            family: family
                .and_then(MadeOf::resistor)
                .ok_or_else(|| ApiError::field("part.family", "a resistor needs its family"))?,
            value: needed()?,
            tolerance,
            power: quantity("part.power", body.power, Watt::new)?,
        }),
        PartKind::Capacitor => Part::Capacitor(Capacitor {
            family: family.and_then(MadeOf::capacitor),
            value: quantity("part.value", Some(needed()?.ohms()), Farad::new)?.unwrap_or(Farad::ZERO),
            minus: tolerance,
            plus: tolerance,
            rated: quantity("part.voltage", body.voltage.map(f64::abs), Volt::new)?
                .filter(|v| *v > Volt::ZERO),
            safety: body.safety,
            years: body.years,
            new: body.new,
            test_warm: body.test_warm,
            ppm_per_kelvin: None,
        }),
        PartKind::Coil => Part::Coil(Coil {
            family: family.and_then(MadeOf::coil),
            resistance: body.resistance.map(|v| positive("part.resistance", v)).transpose()?,
            inductance: quantity("part.inductance", body.inductance.or(body.value), Henry::new)?
                .filter(|l| *l > Henry::ZERO),
        }),
        PartKind::Diode => Part::Diode(Diode {
            family: family.and_then(MadeOf::diode),
            plates: body.plates.unwrap_or(1).max(1),
        }),
        PartKind::Transistor => Part::Transistor(transistor(body, family)?),
        PartKind::Ic => {
            return Err(ApiError::field(
                "part.kind",
                "a circuit is judged in its socket, pin by pin, and not here",
            ));
        }
        PartKind::Valve => {
            Part::Valve(Valve { of: body.type_number.as_deref().and_then(valve_type), in_chain: false })
        }
        PartKind::Fuse => Part::Fuse(Fuse {
            rated: quantity("part.value", Some(needed()?.ohms()), Ampere::new)?.unwrap_or(Ampere::ZERO),
            speed: body.type_number.as_deref().and_then(speed_of),
            volts: quantity("part.voltage", body.voltage.map(f64::abs), Volt::new)?,
        }),
        PartKind::Switch => Part::Switch,
        PartKind::Loudspeaker => Part::Loudspeaker(Loudspeaker {
            impedance: needed()?,
            power: quantity("part.power", body.power, Watt::new)?,
        }),
        PartKind::Lamp => {
            return Err(ApiError::field("part.kind", "a lamp is read by its marking and not judged"));
        }
    })
}

/// A transistor by its type and what was read of its junctions.
fn transistor(body: &PartBody, family: Option<MadeOf>) -> Result<Transistor, ApiError> {
    let device = body.type_number.as_deref().and_then(|t| meant(t, device));
    let junctions = match &body.junctions {
        Some(q) => Some(crate::transistor::identify::test(q, "part.junctions")?),
        None => None,
    };
    let mut t = by_sheet(device, junctions);
    t.material = t.material.or(family.and_then(MadeOf::diode).and_then(Material::of));
    Ok(t)
}

fn quantity<T>(
    field: &str,
    value: Option<f64>,
    new: impl Fn(f64) -> Result<T, QuantityError>,
) -> Result<Option<T>, ApiError> {
    value.map(new).transpose().map_err(|e| ApiError::field(field, e))
}

fn reading(i: usize, r: &ReadingBody) -> Result<Reading, ApiError> {
    let field = |name: &str| format!("readings[{i}].{name}");
    let of = r.quantity;
    let shown = match (r.value, r.overrange.unwrap_or(false)) {
        (Some(_), true) => {
            return Err(ApiError::field(field("value"), "a reading beyond the range has no value"));
        }
        (Some(v), false) => {
            // A drop may be read the wrong way round; nothing else is below zero.
            let checked = match of.quantity() {
                Quantity::Voltage => Volt::new(v).map(|_| v),
                _ => Ohm::new(v).map(|_| v),
            };
            Shown::Value { si: checked.map_err(|e| ApiError::field(field("value"), e))? }
        }
        (None, true) => Shown::Overrange { ceiling_si: None },
        (None, false) => {
            return Err(ApiError::field(field("value"), "a value is needed, or overrange"));
        }
    };
    let accuracy = match &r.accuracy {
        Some(a) => Some(Accuracy {
            of_reading: Fraction::new(a.percent / 100.0)
                .ok()
                .filter(|f| (0.0..1.0).contains(&f.fraction()))
                .ok_or_else(|| {
                    ApiError::field(field("accuracy.percent"), "0 to 100 percent of the reading")
                })?,
            counts: (a.counts.is_finite() && a.counts >= 0.0)
                .then_some(a.counts)
                .ok_or_else(|| ApiError::field(field("accuracy.counts"), "0 or more counts"))?,
            resolution_si: (a.resolution.is_finite() && a.resolution >= 0.0)
                .then_some(a.resolution)
                .ok_or_else(|| ApiError::field(field("accuracy.resolution"), "0 or more"))?,
        }),
        None => None,
    };
    let volts = quantity(&field("test_voltage"), r.test_voltage.map(f64::abs), Volt::new)?;
    let hertz = quantity(&field("test_frequency"), r.test_frequency, Hertz::new)?;
    Ok(Reading {
        pin: None,
        quantity: of,
        shown,
        state: r.state,
        hot: r.hot.unwrap_or(false),
        since_soldering: quantity(&field("since_soldering"), r.since_soldering, Second::new)?,
        mode: r.mode.unwrap_or(Mode::Dc),
        test_voltage: volts.filter(|v| *v > Volt::ZERO),
        test_frequency: hertz.filter(|f| *f > Hertz::ZERO),
        setting: r.setting,
        accuracy,
    })
}
