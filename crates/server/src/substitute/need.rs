//! What is wanted, from a question or from a part on the tray.

use owl_core::named::Named;
use owl_core::part::{Circuit, Fact, Ic, Part, PartKind, Valve};
use owl_core::quantity::{Ampere, Farad, Volt};
use owl_core::set::SetClass;
use owl_core::substitute::{Can, LampFeed, OldPart, Wanted, is_sought_by_value, rectifier_valve};
use owl_core::tray::goes_in::wanted;
use serde_json::Value;
use uuid::Uuid;

use super::wire::SubstituteQuestion;
use crate::amount::part_value;
use crate::error::ApiError;
use crate::judge::{part, sits};
use crate::tray::Loaded;

/// What goes, and where it sat, from a question.
///
/// # Errors
/// 422 with the input to blame.
pub fn asked(q: &SubstituteQuestion) -> Result<Wanted, ApiError> {
    let kind = q.part.kind;
    let gone = if kind == PartKind::Lamp {
        let volts = q.part.value.or(q.part.voltage);
        let volts = volts.ok_or_else(|| ApiError::field("part.value", "a lamp needs its volts"))?;
        let fed = if q.in_chain == Some(true) { LampFeed::Chain(None) } else { LampFeed::Alone };
        lamp(volts, q.part.current, fed)?
    } else if kind == PartKind::Ic {
        OldPart::Part(Part::Ic(Ic { device: q.part.type_number.as_deref().and_then(owl_core::ic::device) }))
    } else {
        let in_chain = q.in_chain == Some(true);
        OldPart::Part(match part(&q.part)? {
            Part::Valve(v) => Part::Valve(Valve { in_chain, ..v }),
            other => other,
        })
    };
    let value = q.wanted.or(q.part.value);
    if let Some(v) = value {
        part_value(if q.wanted.is_some() { "wanted" } else { "part.value" }, v)?;
    }
    let position = match q.position {
        Some(p) => Some(sits(p, kind)?),
        None => None,
    };
    let section = |(i, s): (usize, &super::wire::SectionBody)| {
        let field = format!("part.sections[{i}]");
        let capacitance = Farad::new(s.value).map_err(|e| ApiError::field(field.clone(), e))?;
        if capacitance == Farad::ZERO {
            return Err(ApiError::field(field, "a value above zero is needed"));
        }
        Ok(Can { capacitance, volts: s.voltage.and_then(|v| Volt::new(v.abs()).ok()) })
    };
    Ok(Wanted {
        gone,
        type_number: q.part.type_number.clone().unwrap_or_default(),
        value_si: value.filter(|_| is_sought_by_value(kind)),
        position,
        circuit: circuit(q)?,
        sections: q.sections.iter().take(8).enumerate().map(section).collect::<Result<_, _>>()?,
        paired: false,
    })
}

/// Nothing is known of a part.
#[must_use]
pub fn unread() -> ApiError {
    ApiError::field("value", "read its marking or say what the sheet has first")
}

/// What is wanted in the place of a part on the tray, in a set of the class that its ticket says.
///
/// # Errors
/// 422 for a part of which nothing is known.
pub fn of_part(loaded: &Loaded, part: Uuid, class: SetClass) -> Result<Wanted, ApiError> {
    wanted(&loaded.tray, loaded.part(part)?, class).ok_or_else(unread)
}

fn lamp(volts: f64, current: Option<f64>, fed: LampFeed) -> Result<OldPart, ApiError> {
    let volts = Volt::new(volts).map_err(|e| ApiError::field("part.value", e))?;
    let current = current.map(Ampere::new).transpose().map_err(|e| ApiError::field("part.current", e))?;
    owl_core::substitute::lamp(volts, current, fed)
        .ok_or_else(|| ApiError::field("part.value", "a value above zero is needed"))
}

/// The facts of a question; the limit of a rectifier valve by its type. What no rule asks for is not looked at.
fn circuit(q: &SubstituteQuestion) -> Result<Circuit, ApiError> {
    let mut circuit = Circuit::default();
    for (name, value) in q.circuit.iter().flatten() {
        let field = format!("circuit.{name}");
        match (Fact::from_name(name), value) {
            (_, Value::Null) => {}
            (Ok(fact), Value::Number(n)) => {
                let v = n.as_f64().unwrap_or(f64::NAN);
                circuit.set_si(fact, v).map_err(|e| ApiError::field(field, e))?;
            }
            (Ok(_), _) => return Err(ApiError::field(field, "a number is needed")),
            (Err(_), Value::String(valve)) if name == "rectifier" => {
                let Some(known) = rectifier_valve(valve) else {
                    let why = format!(
                        "{valve} is not in the table of rectifier valves: say what it takes as its first filter"
                    );
                    return Err(ApiError::field(field, why));
                };
                known.tell(&mut circuit).map_err(|e| ApiError::field(field, e))?;
            }
            (Err(_), _) => {}
        }
    }
    Ok(circuit)
}
