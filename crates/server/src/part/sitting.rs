//! What sits in a place now, as the core judges it: the part as marked or as fitted, what was read of it, and what
//! is known of the circuit round it.

use owl_core::named::Named;
use owl_core::part::{
    Capacitor, Circuit, Coil, Diode, Fact, JunctionTest, Look, MadeOf, Part, PartKind, Position, Resistor,
    Transistor,
};
use owl_core::quantity::{Farad, Fraction, Henry, Ohm, Volt, Watt};
use owl_core::reading::{Reading, Shown};
use owl_core::transistor::Material;
use serde_json::Value;
use time::OffsetDateTime;
use uuid::Uuid;

use super::store::{PartRow, TrayRows};
use crate::error::ApiError;
use crate::fitting::store::FittingRow;
use crate::name::stored;
use crate::reading::store::ReadingRow;

/// What sits in a place now, and what was read of it.
pub struct Sitting<'a> {
    /// The part; `None` without anything to judge against.
    pub part: Option<Part>,
    /// Whether that is the mark, the sheet's value or what was fitted.
    pub against: Option<&'static str>,
    /// Where it sits.
    pub position: Option<Position>,
    /// What is known of the circuit.
    pub circuit: Circuit,
    /// What is seen on it.
    pub looks: Vec<Look>,
    /// Readings that count, oldest first, with the row where there is one.
    pub readings: Vec<(Reading, Option<&'a ReadingRow>)>,
    /// What was fitted last.
    pub last_fitting: Option<&'a FittingRow>,
}

pub(super) fn corrupt(e: impl std::fmt::Display) -> ApiError {
    ApiError::Internal(format!("stored row: {e}"))
}

pub(super) fn fraction(value: Option<f64>) -> Result<Option<Fraction>, ApiError> {
    value.map(Fraction::new).transpose().map_err(corrupt)
}

pub(super) fn watt(value: Option<f64>) -> Result<Option<Watt>, ApiError> {
    value.map(Watt::new).transpose().map_err(corrupt)
}

/// What sits in a part's place now.
///
/// # Errors
/// [`ApiError::Internal`] for rows that cannot be.
pub fn sitting<'a>(row: &PartRow, tray: &'a TrayRows) -> Result<Sitting<'a>, ApiError> {
    let last_fitting = tray.fittings.iter().rfind(|f| f.part_id == row.id);
    let mut readings = Vec::new();
    let (part, against) = match last_fitting {
        Some(f) => {
            let kind: PartKind = stored(&f.kind)?;
            if let (Some(si), false) = (f.measured, matches!(kind, PartKind::Lamp | PartKind::Ic)) {
                let free = Reading::of(crate::reading::usual(kind), Shown::Value { si });
                readings.push((free, None));
            }
            (fitted(f, tray)?, Some("fitted"))
        }
        None => as_found(row, tray)?,
    };
    for r in tray.readings_of(row.id).filter(|r| r.struck.is_none()) {
        if last_fitting.is_none_or(|f| r.taken_at > f.fitted_at) {
            readings.push((r.reading()?, Some(r)));
        }
    }
    // What is seen on a part that was taken out is not seen on what was fitted.
    let looks = if last_fitting.is_some() { vec![] } else { looks(row)? };
    let position = row.position.as_deref().map(stored).transpose()?;
    Ok(Sitting { part, against, position, circuit: circuit(row, tray)?, looks, readings, last_fitting })
}

/// The part as it was found, whatever was fitted since: for the question why it failed.
///
/// # Errors
/// [`ApiError::Internal`] for rows that cannot be.
pub fn before_any_fitting<'a>(row: &PartRow, tray: &'a TrayRows) -> Result<Sitting<'a>, ApiError> {
    let first = tray.fittings.iter().find(|f| f.part_id == row.id);
    let (part, against) = as_found(row, tray)?;
    let readings = tray
        .readings_of(row.id)
        .filter(|r| r.struck.is_none())
        .filter(|r| first.is_none_or(|f| r.taken_at <= f.fitted_at))
        .map(|r| Ok((r.reading()?, Some(r))))
        .collect::<Result<_, ApiError>>()?;
    Ok(Sitting {
        part,
        against,
        position: row.position.as_deref().map(stored).transpose()?,
        circuit: circuit(row, tray)?,
        looks: looks(row)?,
        readings,
        last_fitting: None,
    })
}

fn looks(row: &PartRow) -> Result<Vec<Look>, ApiError> {
    row.looks.iter().map(|l| stored(l)).collect()
}

/// What is known of the circuit: as said, and the feed as it stands on the tray.
fn circuit(row: &PartRow, tray: &TrayRows) -> Result<Circuit, ApiError> {
    let mut circuit = Circuit::default();
    if let Some(feed) = row.feed_id.and_then(|id| tray.parts.iter().find(|p| p.id == id)) {
        let fitted = tray.fittings.iter().rfind(|f| f.part_id == feed.id);
        let ohms = fitted.and_then(|f| f.value).or(feed.marked).or(feed.sheet);
        if let Some(v) = ohms {
            circuit.set_si(Fact::FeedResistor, v).map_err(corrupt)?;
        }
        if let Some(v) = fitted.and_then(|f| f.watts).or(feed.watts).filter(|w| *w > 0.0) {
            circuit.set_si(Fact::FeedPower, v).map_err(corrupt)?;
        }
    }
    for (name, value) in row.facts.as_object().into_iter().flatten() {
        let fact: Fact = stored(name)?;
        circuit.set_si(fact, value.as_f64().unwrap_or_default()).map_err(corrupt)?;
    }
    Ok(circuit)
}

/// The newest test of its junctions: of what was found, or of what was fitted.
fn junctions(
    part_id: Uuid,
    tray: &TrayRows,
    fitting: Option<&FittingRow>,
) -> Result<Option<JunctionTest>, ApiError> {
    let first = tray.fittings.iter().find(|f| f.part_id == part_id);
    let newest = tray.junctions.iter().rfind(|j| {
        j.part_id == part_id
            && match fitting {
                Some(f) => j.taken_at > f.fitted_at,
                None => first.is_none_or(|f| j.taken_at <= f.fitted_at),
            }
    });
    newest.map(|j| j.test()).transpose()
}

/// What was fitted, as it is judged; `None` of a lamp.
fn fitted(f: &FittingRow, tray: &TrayRows) -> Result<Option<Part>, ApiError> {
    let family: Option<MadeOf> = f.family.as_deref().map(stored).transpose()?;
    let tolerance = fraction(f.tolerance)?;
    Ok(match (stored::<PartKind>(&f.kind)?, f.value) {
        (PartKind::Resistor, Some(v)) => family
            .and_then(MadeOf::resistor)
            .map(|family| {
                Ok::<_, ApiError>(Part::Resistor(Resistor {
                    family,
                    value: Ohm::new(v).map_err(corrupt)?,
                    tolerance,
                    power: watt(f.watts)?,
                }))
            })
            .transpose()?,
        (PartKind::Capacitor, Some(v)) => Some(Part::Capacitor(Capacitor {
            family: family.and_then(MadeOf::capacitor),
            value: Farad::new(v).map_err(corrupt)?,
            minus: tolerance,
            plus: tolerance,
            rated: f.volts.and_then(|v| Volt::new(v).ok()),
            safety: f.safety,
            years: None,
            new: true,
            test_warm: false,
        })),
        (PartKind::Coil, v) => Some(Part::Coil(Coil {
            family: family.and_then(MadeOf::coil),
            resistance: None,
            inductance: v.map(Henry::new).transpose().map_err(corrupt)?,
        })),
        (PartKind::Diode, _) => {
            Some(Part::Diode(Diode { family: family.and_then(MadeOf::diode), plates: 1 }))
        }
        (PartKind::Transistor, _) => Some(Part::Transistor(Transistor::of(
            tray.device(&f.type_number),
            junctions(f.part_id, tray, Some(f))?,
        ))),
        (PartKind::Resistor | PartKind::Capacitor, None) | (PartKind::Lamp | PartKind::Ic, _) => None,
    })
}

fn as_found(row: &PartRow, tray: &TrayRows) -> Result<(Option<Part>, Option<&'static str>), ApiError> {
    let family: Option<MadeOf> = row.family.as_deref().map(stored).transpose()?;
    let against = match (row.marked, row.sheet) {
        (Some(_), _) => Some("marked"),
        (None, Some(_)) => Some("sheet"),
        (None, None) => None,
    };
    let value = row.marked.or(row.sheet);
    let part = match row.kind()? {
        PartKind::Resistor => match (value, family.and_then(MadeOf::resistor)) {
            (Some(v), Some(family)) => Some(Part::Resistor(Resistor {
                family,
                value: Ohm::new(v).map_err(corrupt)?,
                tolerance: fraction(row.tolerance)?,
                power: watt(row.watts)?,
            })),
            _ => None,
        },
        PartKind::Capacitor => match value {
            Some(v) => Some(Part::Capacitor(capacitor(row, v, family)?)),
            None => None,
        },
        PartKind::Coil => Some(Part::Coil(Coil {
            family: family.and_then(MadeOf::coil),
            resistance: row.winding.map(Ohm::new).transpose().map_err(corrupt)?,
            inductance: value.map(Henry::new).transpose().map_err(corrupt)?,
        })),
        PartKind::Diode => Some(Part::Diode(Diode {
            family: family.and_then(MadeOf::diode),
            plates: row.plates.and_then(|n| u16::try_from(n).ok()).unwrap_or(1),
        })),
        PartKind::Transistor => {
            let mut t = Transistor::of(
                row.type_number().and_then(|t| tray.device(t)),
                junctions(row.id, tray, None)?,
            );
            t.material = t.material.or(family.and_then(MadeOf::diode).and_then(Material::of));
            Some(Part::Transistor(t))
        }
        PartKind::Lamp | PartKind::Ic => None,
    };
    let against = match &part {
        Some(Part::Coil(c)) if c.resistance.is_some() => Some("sheet"),
        _ => against,
    };
    Ok((part, against))
}

fn capacitor(row: &PartRow, value: f64, family: Option<MadeOf>) -> Result<Capacitor, ApiError> {
    // Four fields of the accepted reading; the whole of it is only taken apart where it is shown.
    let mark = row.mark.as_ref();
    let of = |name: &str| mark.and_then(|m| m.get(name)).filter(|v| !v.is_null());
    let side = |name: &str| of("tolerance").and_then(|t| t.get(name)).and_then(Value::as_f64);
    // A can's sections carry their own volts; the least of them counts for the whole.
    let sections = of("sections").and_then(Value::as_array).into_iter().flatten();
    let least = sections.filter_map(|s| s.get("voltage").and_then(Value::as_f64)).min_by(f64::total_cmp);
    let rated = of("voltage").and_then(Value::as_f64).or(least);
    let this_year = OffsetDateTime::now_utc().year();
    Ok(Capacitor {
        family: family.and_then(MadeOf::capacitor),
        value: Farad::new(value).map_err(corrupt)?,
        minus: fraction(side("minus").or(row.tolerance))?,
        plus: fraction(side("plus").or(row.tolerance))?,
        rated: rated.and_then(|v| Volt::new(v).ok()).filter(|v| *v > Volt::ZERO),
        safety: of("safety").is_some(),
        years: row.made.and_then(|y| u16::try_from(this_year - y).ok()),
        new: false,
        test_warm: row.test_warm,
    })
}

/// What is known of the circuit, as it is stored.
#[must_use]
pub fn stored_facts(circuit: &Circuit) -> Value {
    Value::Object(circuit.known().map(|(f, v)| (f.name().to_owned(), Value::from(v))).collect())
}
