//! What is wanted, from a question or from a part on the tray.

use owl_core::caution::SetClass;
use owl_core::drawers::Lot;
use owl_core::named::Named;
use owl_core::part::{Circuit, Fact, Part, PartKind, Position};
use owl_core::quantity::{Ampere, Farad, Volt};
use owl_core::substitute::{
    Can, Choices, Gone, Need, SubstituteError, choose, choose_can, choose_transistor, facts, rectifier_valve,
};
use owl_core::transistor::Device;
use owl_core::verdict::Policy;
use serde_json::Value;

use super::wire::SubstituteQuestion;
use crate::error::ApiError;
use crate::judge::{part, sits};
use crate::part::sitting::before_any_fitting;
use crate::part::store::{PartRow, TrayRows};

/// What goes, and where it sat.
#[derive(Debug, Clone)]
pub struct Wanted {
    gone: Gone,
    type_number: String,
    value: Option<f64>,
    position: Option<Position>,
    circuit: Circuit,
    sections: Vec<Can>,
}

impl Wanted {
    /// From a question.
    ///
    /// # Errors
    /// 422 with the input to blame.
    pub fn asked(q: &SubstituteQuestion) -> Result<Self, ApiError> {
        let kind = q.part.kind.0;
        let gone = if kind == PartKind::Lamp {
            let volts = q.part.value.or(q.part.voltage);
            let volts = volts.ok_or_else(|| ApiError::field("part.value", "a lamp needs its volts"))?;
            lamp(volts, q.part.current, q.in_chain.unwrap_or(false))?
        } else if kind == PartKind::Ic {
            Gone::Ic
        } else {
            Gone::Part(part(&q.part)?)
        };
        let value = q.wanted.or(q.part.value);
        if let Some(v) = value
            && !(v > 0.0 && v < 1e15)
        {
            let field = if q.wanted.is_some() { "wanted" } else { "part.value" };
            return Err(ApiError::field(field, "a value above zero is needed"));
        }
        let position = match q.position {
            Some(p) => Some(sits(p.0, kind)?),
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
        Ok(Self {
            gone,
            type_number: q.part.type_number.clone().unwrap_or_default(),
            value: if kind.quantity().is_none() || kind == PartKind::Coil { None } else { value },
            position,
            circuit: circuit(q)?,
            sections: q.sections.iter().take(8).enumerate().map(section).collect::<Result<_, _>>()?,
        })
    }

    /// Of a part on the tray: the sheet's value where there is one, otherwise the mark.
    ///
    /// # Errors
    /// 422 for a part of which nothing is known.
    pub fn of_part(row: &PartRow, tray: &TrayRows, class: &str) -> Result<Self, ApiError> {
        let kind = row.kind()?;
        let found = before_any_fitting(row, tray)?;
        let mark = row.mark.as_ref();
        let of = |name: &str| mark.and_then(|m| m.get(name)).filter(|v| !v.is_null());
        let unread = || ApiError::field("value", "read its marking or say what the sheet has first");
        let gone = match (found.part, kind) {
            (Some(part), _) => Gone::Part(part),
            (None, PartKind::Lamp) => {
                let volts = row.marked.or(row.sheet).ok_or_else(unread)?;
                let chain = class == SetClass::LiveChassis.name();
                lamp(volts, of("current").and_then(Value::as_f64), chain)?
            }
            (None, PartKind::Ic) => Gone::Ic,
            (None, _) => return Err(unread()),
        };
        let sections = of("sections").and_then(Value::as_array).into_iter().flatten();
        let sections: Vec<Can> = sections
            .filter_map(|s| {
                let number = |name: &str| s.get(name).and_then(Value::as_f64);
                let capacitance = Farad::new(number("value").or_else(|| number("capacitance"))?).ok()?;
                Some(Can { capacitance, volts: number("voltage").and_then(|v| Volt::new(v).ok()) })
            })
            .collect();
        let value = match kind {
            PartKind::Resistor | PartKind::Capacitor | PartKind::Lamp => row.sheet.or(row.marked),
            PartKind::Coil | PartKind::Diode | PartKind::Transistor | PartKind::Ic => None,
        };
        Ok(Self {
            gone,
            type_number: of("type_number").and_then(Value::as_str).unwrap_or("").to_owned(),
            value,
            position: found.position,
            circuit: found.circuit,
            sections: if sections.len() > 1 { sections } else { vec![] },
        })
    }

    /// The kinds of lots that can be of use.
    #[must_use]
    pub fn kinds(&self) -> &'static [PartKind] {
        match self.gone.kind() {
            PartKind::Resistor => &[PartKind::Resistor],
            PartKind::Capacitor => &[PartKind::Capacitor],
            PartKind::Coil => &[PartKind::Coil, PartKind::Resistor],
            PartKind::Diode => &[PartKind::Diode],
            PartKind::Lamp => &[PartKind::Lamp],
            PartKind::Transistor => &[PartKind::Transistor],
            PartKind::Ic => &[PartKind::Ic],
        }
    }

    /// The value by which the drawers are searched.
    #[must_use]
    pub fn value_si(&self) -> Option<f64> {
        self.value.filter(|_| self.sections.is_empty())
    }

    /// What it is.
    #[must_use]
    pub fn kind(&self) -> PartKind {
        self.gone.kind()
    }

    /// Where it sits.
    #[must_use]
    pub fn position(&self) -> Option<Position> {
        self.position
    }

    /// What is known of the circuit.
    #[must_use]
    pub fn circuit(&self) -> &Circuit {
        &self.circuit
    }

    /// The facts of the circuit that count here.
    #[must_use]
    pub fn facts(&self) -> &'static [Fact] {
        facts(&self.gone, self.position)
    }

    /// What fits.
    ///
    /// # Errors
    /// [`SubstituteError`] where there is nothing to look for.
    pub fn choose(
        &self,
        policy: &Policy,
        lots: &[Lot],
        types: &[Device],
    ) -> Result<Choices, SubstituteError> {
        let need = Need {
            gone: &self.gone,
            type_number: &self.type_number,
            value_si: self.value,
            position: self.position,
            circuit: &self.circuit,
        };
        match (&self.gone, self.sections.is_empty()) {
            (Gone::Part(Part::Capacitor(old)), false) => choose_can(&need, old, &self.sections, policy, lots)
                .map(owl_core::substitute::CanChoice::choices),
            // With the workshop's own types beside those of the table.
            (Gone::Part(Part::Transistor(old)), _) => Ok(choose_transistor(&need, old, types, lots)),
            _ => choose(&need, policy, lots),
        }
    }
}

fn lamp(volts: f64, current: Option<f64>, in_chain: bool) -> Result<Gone, ApiError> {
    let volts = Volt::new(volts).map_err(|e| ApiError::field("part.value", e))?;
    if volts <= Volt::ZERO {
        return Err(ApiError::field("part.value", "a value above zero is needed"));
    }
    let current = current.map(Ampere::new).transpose().map_err(|e| ApiError::field("part.current", e))?;
    Ok(Gone::Lamp { volts, current: current.filter(|a| *a > Ampere::ZERO), in_chain })
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
                if let Some(valve) = rectifier_valve(valve) {
                    let limit = valve.first_filter_limit().farads();
                    circuit.set_si(Fact::FirstFilterLimit, limit).map_err(|e| ApiError::field(field, e))?;
                }
            }
            (Err(_), _) => {}
        }
    }
    Ok(circuit)
}
