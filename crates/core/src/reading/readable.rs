//! What can be read of a kind of part, and what such a part is read in first.

use super::{ReadQuantity, State};
use crate::part::PartKind;

/// What such a part is read in first.
#[must_use]
pub fn usual(kind: PartKind) -> ReadQuantity {
    match kind {
        PartKind::Capacitor => ReadQuantity::Capacitance,
        PartKind::Diode => ReadQuantity::ForwardVoltage,
        PartKind::Transistor => ReadQuantity::Gain,
        PartKind::Ic => ReadQuantity::PinVoltage,
        PartKind::Valve => ReadQuantity::Emission,
        PartKind::Resistor
        | PartKind::Coil
        | PartKind::Lamp
        | PartKind::Fuse
        | PartKind::Switch
        | PartKind::Loudspeaker => ReadQuantity::Resistance,
    }
}

/// Whether such a part is measured in the set with its supply on, and not with the power off and its ends free.
#[must_use]
pub fn is_read_live(kind: PartKind) -> bool {
    kind == PartKind::Ic
}

/// How such a part sits while that is read of it, where it goes without saying: a valve and a fuse are taken out, but for what
/// is read of a valve at its pins and in its cathode.
#[must_use]
pub fn usual_state(kind: PartKind, quantity: ReadQuantity) -> Option<State> {
    let live = matches!(quantity, ReadQuantity::PinVoltage | ReadQuantity::CathodeCurrent);
    match kind {
        PartKind::Valve if live => Some(State::InCircuit),
        PartKind::Valve | PartKind::Fuse => Some(State::OutOfCircuit),
        _ => None,
    }
}

/// Quantities that one entry field takes, because their units tell them apart.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Readable {
    /// What the field is called.
    pub called: &'static str,
    /// The quantities, the usual first.
    pub quantities: &'static [ReadQuantity],
}

/// What can be read of such a part, the usual first (common bench practice).
///
/// ```
/// use owl_core::part::PartKind;
/// use owl_core::reading::{ReadQuantity, is_readable, readable};
/// assert_eq!(readable(PartKind::Capacitor)[0].quantities, [ReadQuantity::Capacitance]);
/// assert!(!is_readable(PartKind::Resistor, ReadQuantity::Esr));
/// ```
#[must_use]
pub fn readable(kind: PartKind) -> &'static [Readable] {
    use ReadQuantity as Q;
    const fn of(called: &'static str, quantities: &'static [Q]) -> Readable {
        Readable { called, quantities }
    }
    const RESISTOR: &[Readable] = &[of("resistance", &[Q::Resistance])];
    const CAPACITOR: &[Readable] = &[
        of("capacitance", &[Q::Capacitance]),
        of("leakage", &[Q::LeakageCurrent, Q::LeakageResistance, Q::LeakagePercent, Q::LeakageEye]),
        of("ESR", &[Q::Esr]),
        of("dissipation factor D", &[Q::DissipationFactor]),
        of("ohms", &[Q::Resistance]),
    ];
    const COIL: &[Readable] =
        &[of("ohms", &[Q::Resistance]), of("inductance", &[Q::Inductance]), of("ratio", &[Q::TurnsRatio])];
    const DIODE: &[Readable] = &[
        of("drop", &[Q::ForwardVoltage]),
        of("reverse leakage", &[Q::LeakageResistance, Q::LeakageCurrent]),
    ];
    const TRANSISTOR: &[Readable] = &[
        of("gain", &[Q::Gain]),
        of("V_BE", &[Q::ForwardVoltage]),
        of("I_CEO", &[Q::LeakageCurrent]),
        of("I_CBO", &[Q::CutOffCurrent]),
        of("breakdown", &[Q::BreakdownVoltage]),
    ];
    const VALVE: &[Readable] = &[
        of("emission", &[Q::Emission]),
        of("transconductance", &[Q::Transconductance]),
        of("heater, cold", &[Q::Resistance]),
        of("between electrodes", &[Q::LeakageResistance]),
        of("heater to cathode", &[Q::HeaterCathode]),
        of("grid current", &[Q::GridCurrent]),
        of("cathode current", &[Q::CathodeCurrent]),
        of("volts at a pin", &[Q::PinVoltage]),
    ];
    const CIRCUIT: &[Readable] = &[of("volts at a pin", &[Q::PinVoltage])];
    match kind {
        PartKind::Resistor => RESISTOR,
        PartKind::Capacitor => CAPACITOR,
        PartKind::Coil => COIL,
        PartKind::Diode => DIODE,
        PartKind::Transistor => TRANSISTOR,
        PartKind::Ic => CIRCUIT,
        PartKind::Valve => VALVE,
        PartKind::Fuse | PartKind::Switch | PartKind::Loudspeaker => RESISTOR,
        PartKind::Lamp => &[],
    }
}

/// Whether `quantity` is read of such a part.
#[must_use]
pub fn is_readable(kind: PartKind, quantity: ReadQuantity) -> bool {
    readable(kind).iter().any(|r| r.quantities.contains(&quantity))
}

/// What a reading of `quantity` can be held against: the winding of a coil, the mark or the sheet of a resistor, a
/// capacitance or an inductance. `None` where the mark is a value of something else.
#[must_use]
pub fn expected_si(
    kind: PartKind,
    quantity: ReadQuantity,
    named_si: Option<f64>,
    winding_si: Option<f64>,
) -> Option<f64> {
    match quantity {
        ReadQuantity::Resistance if kind == PartKind::Coil => winding_si,
        ReadQuantity::Resistance if kind == PartKind::Resistor => named_si,
        ReadQuantity::Capacitance | ReadQuantity::Inductance => named_si,
        _ => None,
    }
}
