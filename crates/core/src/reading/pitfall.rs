//! What a way of measuring cannot tell: the pitfalls in which readings are caught. Half of all wrong calls
//! are wrong measurements.

use std::sync::LazyLock;

use serde::Deserialize;

use super::{Mode, ReadQuantity, Reading, Setting, Shown};
use crate::named::named;
use crate::part::{CapacitorFamily, Coil, DiodeFamily, Part};
use crate::quantity::{Quantity, Volt, format::format};
use crate::source::Source;
use crate::table::{rows, yes};

named! {
    /// A way of being fooled.
    "pitfall" Pitfall {
        /// Impedance taken for resistance.
        AcOhmsOnACoil = "AC ohms on a coil",
        /// Capacitance at a volt taken for health.
        LowTestVoltage = "low test voltage",
        /// Leakage below the working voltage taken for health.
        BelowWorkingVoltage = "below working voltage",
        /// Leakage at an unknown voltage.
        VoltageNotSaid = "voltage not said",
        /// ESR at 100 kHz held against a limit at 120 Hz.
        EsrAtHighFrequency = "ESR at high frequency",
        /// The end of a range taken for a value.
        Overrange = "overrange",
        /// A charged part on the meter.
        NotDischarged = "not discharged",
        /// The leads' ohms taken for the part's.
        LeadResistance = "lead resistance",
        /// A paper part on the electrolytic setting.
        ElectrolyticSetting = "electrolytic setting",
        /// What lies in parallel taken for the part.
        InCircuit = "in circuit",
        /// An instrument that nobody has checked for long.
        CheckOverdue = "check overdue",
        /// Several junctions in series on a meter's two volts.
        StackOnADiodeRange = "stack on a diode range",
    }
}

#[derive(Deserialize)]
struct Row {
    pitfall: Pitfall,
    #[serde(deserialize_with = "yes")]
    bars: bool,
    text: String,
    next: String,
    source: Source,
}

static ROWS: LazyLock<Vec<Row>> =
    LazyLock::new(|| rows("pitfall.csv", include_str!("../../data/pitfall.csv")));

/// A pitfall with what is to be said of it here.
#[derive(Debug, Clone, PartialEq)]
pub struct Warning {
    /// The pitfall.
    pub pitfall: Pitfall,
    /// Whether the reading can pass nothing because of it.
    pub bars: bool,
    /// In words, with the numbers.
    pub text: String,
    /// What to do about it.
    pub next: String,
    /// Where that comes from.
    pub source: Source,
}

impl Warning {
    /// The table's words on a pitfall, with `more` about this case behind them.
    fn of(pitfall: Pitfall, more: &str) -> Option<Self> {
        let row = ROWS.iter().find(|r| r.pitfall == pitfall)?;
        let text = if more.is_empty() { row.text.clone() } else { format!("{}: {more}", row.text) };
        Some(Self { pitfall, bars: row.bars, text, next: row.next.clone(), source: row.source.clone() })
    }
}

/// From so many times the low test voltage on a volt says nothing of an electrolytic either (practice).
const ELECTROLYTIC_FROM: f64 = 10.0;
/// What is taken for the meter's test voltage where it does not say, for capacitance (practice).
const USUAL_CAPACITANCE_TEST: f64 = 1.0;
/// From here on a meter measures ESR "at high frequency" (practice: 100 kHz is usual, 1 kHz is not).
const HIGH_FREQUENCY: f64 = 10e3;
/// The handling limit in volts; a capacitor rated above it is discharged before it is measured.
const HANDLING_VOLTS: f64 = 5.0;
/// Below this a capacitor holds too little to matter on the bench, in farad (practice).
const HOLDS_CHARGE_FROM: f64 = 0.1e-6;

/// What `reading` of `part` cannot tell. `working` is what stands across the part when the set runs, where
/// that is known; `lead_ohms` and `low_test_volts` come from the school.
#[must_use]
pub fn pitfalls(
    part: &Part,
    working: Option<Volt>,
    reading: &Reading,
    lead_ohms: f64,
    low_test_volts: f64,
) -> Vec<Warning> {
    let mut found: Vec<Option<Warning>> = Vec::new();
    let q = reading.quantity;
    if reading.still_connected() && bars_in_circuit(part, q) {
        found.push(Warning::of(Pitfall::InCircuit, ""));
    }
    match part {
        Part::Coil(coil) if q == ReadQuantity::Resistance && reading.mode == Mode::Ac => {
            found.push(Warning::of(Pitfall::AcOhmsOnACoil, &predicted(coil, reading)));
        }
        Part::Capacitor(c) => {
            let paper = c.family.is_some_and(is_not_electrolytic);
            if q.is_leakage() && reading.setting == Some(Setting::Electrolytic) && paper {
                found.push(Warning::of(Pitfall::ElectrolyticSetting, ""));
            }
            let at = reading.test_voltage.map(|v| v.volts().abs());
            let needs = working.map(|v| v.volts().abs()).or(c.rated.map(Volt::volts));
            if q == ReadQuantity::Capacitance {
                let at = at.unwrap_or(USUAL_CAPACITANCE_TEST);
                // Value and ESR tell enough of a low-voltage electrolytic.
                let from = if paper { low_test_volts } else { ELECTROLYTIC_FROM * low_test_volts };
                if needs.is_some_and(|n| at < low_test_volts && n > from) {
                    let needs = needs.unwrap_or(0.0);
                    let numbers = format!("{} across a part that works at {}", volts(at), volts(needs));
                    found.push(Warning::of(Pitfall::LowTestVoltage, &numbers));
                }
            } else if q == ReadQuantity::LeakageCurrent || q == ReadQuantity::LeakageResistance {
                match (at, needs) {
                    (None, _) => found.push(Warning::of(Pitfall::VoltageNotSaid, "")),
                    (Some(at), Some(needs)) if at < needs * (1.0 - 1e-9) => {
                        let numbers = format!("{} and not {}", volts(at), volts(needs));
                        found.push(Warning::of(Pitfall::BelowWorkingVoltage, &numbers));
                    }
                    (Some(_), _) => {}
                }
            } else if q == ReadQuantity::Esr || q == ReadQuantity::DissipationFactor {
                let high = reading.test_frequency.is_some_and(|f| f.hertz() >= HIGH_FREQUENCY);
                if high
                    && matches!(
                        c.family,
                        Some(CapacitorFamily::Electrolytic | CapacitorFamily::Tantalum) | None
                    )
                {
                    found.push(Warning::of(Pitfall::EsrAtHighFrequency, ""));
                }
            }
            let charged = c.value.farads() >= HOLDS_CHARGE_FROM
                && needs.is_none_or(|n| n > HANDLING_VOLTS)
                && reading.state != super::State::OutOfCircuit;
            if charged && !q.is_leakage() {
                found.push(Warning::of(Pitfall::NotDischarged, ""));
            }
        }
        Part::Diode(d) if q == ReadQuantity::ForwardVoltage && d.family == Some(DiodeFamily::Selenium) => {
            // A current that the meter itself supplies does not open a stack.
            if !reading.still_connected() && d.plates > 1 && reading.test_voltage.is_none() {
                found.push(Warning::of(Pitfall::StackOnADiodeRange, &format!("{} plates", d.plates)));
            }
        }
        Part::Resistor(_)
        | Part::Coil(_)
        | Part::Diode(_)
        | Part::Transistor(_)
        | Part::Ic(_)
        | Part::Valve(_)
        | Part::Fuse(_)
        | Part::Switch
        | Part::Loudspeaker(_) => {}
    }
    if let Some(v) = reading.value_si()
        && q.quantity() == Quantity::Resistance
        && q != ReadQuantity::LeakageResistance
        && v < lead_ohms
        && v > 0.0
    {
        found.push(Warning::of(
            Pitfall::LeadResistance,
            &format!("{} of leads would be {:.0} % of it", "0.2 Ω", 20.0 / v),
        ));
    }
    if let Shown::Overrange { ceiling_si } = reading.shown {
        let end = ceiling_si.map(|c| format!("it ends at {}", q.written(c))).unwrap_or_default();
        found.push(Warning::of(Pitfall::Overrange, &end));
    }
    found.into_iter().flatten().collect()
}

/// An instrument whose last check lies `days` back; `None` within a year.
#[must_use]
pub fn overdue(days: i64) -> Option<Warning> {
    (days > 366).then(|| Warning::of(Pitfall::CheckOverdue, "")).flatten()
}

/// Capacitance, ESR and leakage in circuit are no measurement; nor is a coil's inductance. A resistance can
/// prove something (R2), and a diode's drop too.
fn bars_in_circuit(part: &Part, q: ReadQuantity) -> bool {
    match part {
        Part::Capacitor(_) => true,
        Part::Coil(_) => q == ReadQuantity::Inductance,
        // A stage's gain and what lies across the junctions are not the transistor's.
        Part::Transistor(_) => true,
        // Volts at a pin are read in the set.
        Part::Resistor(_)
        | Part::Diode(_)
        | Part::Ic(_)
        | Part::Valve(_)
        | Part::Fuse(_)
        | Part::Switch
        | Part::Loudspeaker(_) => false,
    }
}

fn is_not_electrolytic(family: CapacitorFamily) -> bool {
    !matches!(family, CapacitorFamily::Electrolytic | CapacitorFamily::Tantalum)
}

fn volts(v: f64) -> String {
    format(Quantity::Voltage, v).to_string()
}

/// |Z| = √(R² + (2πfL)²) of the coil by the sheet at the meter's frequency, where L is known.
fn predicted(coil: &Coil, reading: &Reading) -> String {
    // Before anything is read there is nothing shown yet.
    let shown =
        reading.value_si().filter(|v| v.is_finite()).map(|_| format!("{} shown, ", reading.written()));
    let shown = shown.unwrap_or_default();
    let (Some(l), Some(f)) = (coil.inductance, reading.test_frequency) else {
        return format!("{shown}it may be mostly inductance");
    };
    let x = 2.0 * std::f64::consts::PI * f.hertz() * l.henries();
    let r = coil.resistance.map_or(0.0, |r| r.ohms());
    let z = r.hypot(x);
    format!("{shown}{l} at {f} makes {}", format(Quantity::Resistance, z))
}
