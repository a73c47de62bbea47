//! The test that old stock must pass before it is fitted.

use super::Piece;
use crate::part::{Capacitor, CapacitorFamily, Circuit, Fact, MadeOf, Part, PartKind, Position};
use crate::quantity::{Farad, Quantity, Volt, format, parse};
use crate::reading::{ReadQuantity, Reading, Shown, State};
use crate::say::{SayError, read_entry};
use crate::verdict::{Case, Outcome, Policy, PolicyNumber, judge};

/// Why a test is none, or was not passed.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
pub enum TestError {
    /// Nothing was said of a test.
    #[error("{0}")]
    Missing(&'static str),
    /// What was said cannot be read.
    #[error("say its leakage and the volts of the test, such as 1.5 µA at 350 V")]
    Unclear,
    /// The leakage cannot be read.
    #[error(transparent)]
    Leak(#[from] SayError),
    /// A test below the volts at work proves only failure (rule R4).
    #[error("{test} is below the {work} that stand there: such a test proves only failure")]
    TooLow {
        /// Of the test.
        test: Volt,
        /// At work.
        work: Volt,
    },
    /// It failed.
    #[error("do not fit it: {0}")]
    Failed(String),
}

/// Whether a piece that lay for years passed the test that was typed: leakage at its volts for a capacitor, which is
/// judged as it would be in its place; for the others anything that was seen (drop, light, ohms).
///
/// # Errors
/// [`TestError`] in words.
pub fn passed(
    piece: &Piece,
    measured_si: Option<f64>,
    position: Option<Position>,
    circuit: &Circuit,
    policy: &Policy,
    typed: &str,
) -> Result<(), TestError> {
    let typed = typed.trim();
    let missing = |why| if typed.is_empty() { Err(TestError::Missing(why)) } else { Ok(()) };
    match piece.kind {
        PartKind::Resistor => {
            if measured_si.is_some() {
                Ok(())
            } else {
                Err(TestError::Missing("measure it first: it is not new"))
            }
        }
        PartKind::Coil => missing("old or out of another set: say what its winding measured"),
        PartKind::Diode => {
            missing("old or out of another set: say its drop, and that nothing flows the other way")
        }
        PartKind::Transistor => {
            missing("old or out of another set: say its gain and that no junction leaks or is shorted")
        }
        PartKind::Ic => missing("old or out of another set: say in which set it was heard to work"),
        PartKind::Valve => missing(
            "old or out of another set: say how it tested, shorts first, or in which set it was heard to work",
        ),
        PartKind::Fuse => missing("old or out of another set: say what it measured"),
        PartKind::Switch => {
            missing("old or out of another set: say what its contact measured, worked a few times")
        }
        PartKind::Loudspeaker => {
            missing("old or out of another set: say what its coil measured, and that the cone moves free")
        }
        PartKind::Lamp => missing("old or out of another set: say that it lights"),
        PartKind::Capacitor => {
            missing(
                "old or out of another set: say its leakage and the volts of the test, such as 1.5 µA at 350 V",
            )?;
            capacitor(piece, measured_si, position, circuit, policy, typed)
        }
    }
}

fn capacitor(
    piece: &Piece,
    measured_si: Option<f64>,
    position: Option<Position>,
    circuit: &Circuit,
    policy: &Policy,
    typed: &str,
) -> Result<(), TestError> {
    let (leak, volts) =
        typed.split_once('@').or_else(|| typed.split_once(" at ")).ok_or(TestError::Unclear)?;
    let leak = read_entry(ReadQuantity::LeakageCurrent, leak)?;
    let test = parse::best(Quantity::Voltage, volts)
        .ok()
        .and_then(|v| Volt::new(v).ok())
        .filter(|v| *v > Volt::ZERO)
        .ok_or(TestError::Unclear)?;
    let work: Option<Volt> = circuit.get(Fact::Voltage).or_else(|| circuit.get(Fact::Rail));
    if let Some(work) = work.filter(|w| test < *w * 0.99) {
        return Err(TestError::TooLow { test, work });
    }
    let Some(value) = piece.value_si.and_then(|v| Farad::new(v).ok()) else { return Ok(()) };
    let part = Part::Capacitor(Capacitor {
        family: piece.family.and_then(MadeOf::capacitor),
        value,
        minus: piece.tolerance,
        plus: piece.tolerance,
        rated: piece.volts,
        safety: piece.safety,
        years: None,
        new: false,
        test_warm: false,
        ppm_per_kelvin: None,
    });
    // What is not an electrolytic goes in only as good as new (rule R4).
    if piece.family != Some(MadeOf::Capacitor(CapacitorFamily::Electrolytic))
        && let Some(amperes) = leak.value_si.filter(|a| *a > 0.0)
    {
        let ohms = test.volts() / amperes;
        let (seconds, enough) =
            (policy.number_si(PolicyNumber::NewSeconds), policy.number_si(PolicyNumber::NewOhms));
        if ohms < enough && ohms * value.farads() < seconds {
            let text = |q, v| format::format(q, v).to_string();
            return Err(TestError::Failed(format!(
                "{} of insulation make {}, and as new it has {} or {}",
                text(Quantity::Resistance, ohms),
                text(Quantity::Time, ohms * value.farads()),
                text(Quantity::Time, seconds),
                text(Quantity::Resistance, enough)
            )));
        }
    }
    let free = |of, shown| Reading { state: State::OutOfCircuit, ..Reading::of(of, shown) };
    let shown = leak.value_si.map_or(Shown::Overrange { ceiling_si: None }, |si| Shown::Value { si });
    let mut readings = vec![Reading { test_voltage: Some(test), ..free(leak.quantity, shown) }];
    readings.extend(measured_si.map(|si| free(ReadQuantity::Capacitance, Shown::Value { si })));
    let case = Case { part: &part, position, readings: &readings, partners: &[], circuit, looks: &[] };
    let verdict = judge(case, policy);
    match verdict.call {
        Outcome::Replace => {
            let why = verdict.reasons.first().map_or_else(String::new, |r| r.text.clone());
            Err(TestError::Failed(why))
        }
        Outcome::Keep | Outcome::Watch | Outcome::MeasureAgain => Ok(()),
    }
}
