//! What may go in for a part, and what holds it back: what is said of the piece, its safety class where the place asks
//! for one, the test of old stock, and what the rules refuse.

use super::installed::as_found;
use super::{NewPart, Tray, TrayPart};
use crate::drawers::Lot;
use crate::drawers::stock_test::TestError;
use crate::named::Named;
use crate::part::safety::ClassError;
use crate::part::{MadeOf, Part, PartKind, SafetyClass, Valve};
use crate::quantity::Volt;
use crate::quantity::format::{percent, signed_percent};
use crate::reading::doubt::doubt;
use crate::reading::usual;
use crate::set::SetClass;
use crate::substitute::{Can, LampFeed, OldPart, SubstituteError, Wanted, is_sought_by_value, lamp};

/// What is wanted in a part's place: the sheet's value where there is one, otherwise the mark; `None` for a part of
/// which nothing is known. In a set with a chain of heaters the lamps hang in it.
#[must_use]
pub fn wanted(tray: &Tray, part: &TrayPart, class: SetClass) -> Option<Wanted> {
    let found = as_found(tray, part);
    let mark = part.mark.as_ref();
    let gone = match (found.part, part.kind) {
        // Such a set has a chain, whether or not its members were told.
        (Some(Part::Valve(v)), _) => {
            OldPart::Part(Part::Valve(Valve { in_chain: v.in_chain || class.has_heater_chain(), ..v }))
        }
        (Some(p), _) => OldPart::Part(p),
        (None, PartKind::Lamp) => {
            let volts = Volt::new(part.marked_si.or(part.sheet_si)?).ok()?;
            let marked = mark.and_then(|m| m.current);
            match tray.set().around_a_lamp(&part.name, tray.rated()) {
                // What the chain carries decides: the lamp that was in it may have been the wrong one.
                Some((around, current)) => lamp(volts, Some(current), LampFeed::Chain(Some(around)))?,
                None if class.has_heater_chain() => lamp(volts, marked, LampFeed::Chain(None))?,
                None => lamp(volts, marked, LampFeed::Alone)?,
            }
        }
        (None, _) => return None,
    };
    let sections: Vec<Can> = mark
        .map(|m| m.sections.as_slice())
        .unwrap_or_default()
        .iter()
        .map(|s| Can { capacitance: s.capacitance, volts: s.rating.map(|r| r.volts) })
        .collect();
    Some(Wanted {
        gone,
        type_number: part.type_number().unwrap_or_default().to_owned(),
        value_si: part.sheet_si.or(part.marked_si).filter(|_| is_sought_by_value(part.kind)),
        position: found.position,
        circuit: found.circuit,
        sections: if sections.len() > 1 { sections } else { vec![] },
        paired: part.group.is_some(),
    })
}

/// Why a piece does not go in as it was said.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
pub enum OfferError {
    /// Of another kind than the part.
    #[error("a {kind} does not take the place of a {of}")]
    Kind {
        /// What it is.
        kind: PartKind,
        /// What the part is.
        of: PartKind,
    },
    /// Nothing says its value.
    #[error("say the value of the {0} that went in")]
    NoValue(PartKind),
    /// Nothing says its type.
    #[error("say the type number of the {0} that went in")]
    NoType(PartKind),
    /// No tolerance at all, or more than all.
    #[error("a tolerance lies between 0 and 100 %")]
    Tolerance,
    /// A family of another kind of part.
    #[error("'{}' is no family of a {kind}", family.name())]
    Family {
        /// The family.
        family: MadeOf,
        /// The kind.
        kind: PartKind,
    },
    /// A resistor of which nobody says how it is made.
    #[error("say how the resistor is made")]
    NoFamily,
    /// Nothing of it can be measured before it sits.
    #[error("{0}")]
    NotMeasured(&'static str),
    /// Its words and a field beside them name two values.
    #[error("the words say {words}, the field says {typed}: which of them is it?")]
    TwoValues {
        /// The field.
        field: &'static str,
        /// As the words say.
        words: String,
        /// As the field says.
        typed: String,
    },
    /// Only capacitors have a class.
    #[error("a {0} has no safety class")]
    NoClass(PartKind),
    /// The class does not belong there, or is not known where it must be.
    #[error(transparent)]
    Class(#[from] ClassError),
}

impl OfferError {
    /// The input that is to blame.
    #[must_use]
    pub fn field(&self) -> &'static str {
        match self {
            Self::Kind { .. } => "kind",
            Self::NoValue(_) => "value",
            Self::NoType(_) => "type_number",
            Self::Tolerance => "tolerance",
            Self::Family { .. } | Self::NoFamily => "family",
            Self::NotMeasured(_) => "measured",
            Self::TwoValues { field, .. } => field,
            Self::NoClass(_) | Self::Class(_) => "safety",
        }
    }
}

/// Why nothing is measured of such a part before it sits; `None` where something is.
#[must_use]
pub fn not_measured(kind: PartKind) -> Option<&'static str> {
    match kind {
        PartKind::Lamp => Some("a lamp has nothing to measure: it lights or not"),
        PartKind::Ic => Some("a circuit has nothing to measure before it is in its socket"),
        PartKind::Resistor
        | PartKind::Capacitor
        | PartKind::Coil
        | PartKind::Diode
        | PartKind::Transistor
        | PartKind::Valve
        | PartKind::Fuse
        | PartKind::Switch
        | PartKind::Loudspeaker => None,
    }
}

/// Whether a kind of piece takes the place of a kind of part: its own, and a resistor that of a field coil.
///
/// # Errors
/// [`OfferError::Kind`].
pub fn takes_place_of(kind: PartKind, of: PartKind) -> Result<(), OfferError> {
    if kind == of || (of == PartKind::Coil && kind == PartKind::Resistor) {
        Ok(())
    } else {
        Err(OfferError::Kind { kind, of })
    }
}

/// Whether what is said of a piece can go in for a part at all (rule R7).
///
/// # Errors
/// [`OfferError`] with the input to blame.
pub fn check(part: &TrayPart, offered: &NewPart) -> Result<(), OfferError> {
    let kind = offered.kind;
    takes_place_of(kind, part.kind)?;
    if offered.value_si.is_none()
        && matches!(
            kind,
            PartKind::Resistor
                | PartKind::Capacitor
                | PartKind::Lamp
                | PartKind::Fuse
                | PartKind::Loudspeaker
        )
    {
        return Err(OfferError::NoValue(kind));
    }
    if offered.type_number.is_empty() && matches!(kind, PartKind::Transistor | PartKind::Ic | PartKind::Valve)
    {
        return Err(OfferError::NoType(kind));
    }
    if offered.tolerance.is_some_and(|t| t.fraction() >= 1.0) {
        return Err(OfferError::Tolerance);
    }
    if let Some(family) = offered.family.filter(|f| !f.suits(kind)) {
        return Err(OfferError::Family { family, kind });
    }
    if offered.family.is_none() && kind == PartKind::Resistor {
        return Err(OfferError::NoFamily);
    }
    if offered.measured_si.is_some()
        && let Some(why) = not_measured(kind)
    {
        return Err(OfferError::NotMeasured(why));
    }
    match (kind, offered.safety) {
        (PartKind::Capacitor, class) => part.position.map_or(Ok(()), |p| Ok(p.takes_class(class)?)),
        (_, Some(_)) => Err(OfferError::NoClass(kind)),
        (_, None) => Ok(()),
    }
}

/// A new part outside of half to twice its value is asked about (common bench practice): it is no part that drifted.
const NEW_PART: std::ops::RangeInclusive<f64> = 0.5..=2.0;

/// What a meter may add to a part's tolerance before a new part is called outside its mark (practice).
const METER: f64 = 0.01;

/// The question about a measured value that is far from what the piece should have; `None` where it is not.
#[must_use]
pub fn far_off(offered: &NewPart) -> Option<String> {
    let of = usual(offered.kind);
    // Only what is a value of the same thing can be far off.
    if offered.kind.quantity() != Some(of.quantity()) {
        return None;
    }
    let (measured, value) = (offered.measured_si?, offered.value_si?);
    if let Some(d) = doubt(of, measured, value) {
        return Some(d.question);
    }
    if !NEW_PART.contains(&(measured / value)) {
        return Some(format!(
            "it measures {} and should have {}: is it the right one? Record it anyway?",
            of.written(measured),
            of.written(value)
        ));
    }
    let (off, own) = (measured / value - 1.0, offered.tolerance?.fraction());
    (off.abs() > own + METER).then(|| {
        format!(
            "it measures {}, {} from its own {} ±{}: outside its mark. Record it anyway?",
            of.written(measured),
            signed_percent(off),
            of.written(value),
            percent(own)
        )
    })
}

/// A lot of which pieces are taken.
#[derive(Debug, Clone, PartialEq)]
pub struct Taken {
    /// The lot.
    pub lot: Lot,
    /// How many of its pieces.
    pub count: u32,
}

/// What stands against a piece.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
pub enum Objection {
    /// Old stock that did not pass its test, or had none.
    #[error("{why}")]
    Test {
        /// Why.
        why: TestError,
        /// The input to blame.
        field: &'static str,
    },
    /// The rules refuse it where a part protects people: it does not go in.
    #[error("this does not go in: {0}")]
    Refused(String),
    /// It falls short of its place: it goes in only when somebody says why.
    #[error("{0}. Take another, or say why this one goes in all the same")]
    Short(String),
    /// What its place asks for is not known of it.
    #[error("{0}. Say what is printed on it, or why it goes in all the same")]
    Unknown(String),
    /// There is nothing to hold it against.
    #[error(transparent)]
    Nothing(#[from] SubstituteError),
}

/// The class of what goes in: that of the drawers, or as it was said where a drawer does not know; `None` where the
/// pieces are not all of one class.
#[must_use]
pub fn class_of(said: Option<SafetyClass>, taken: &[Taken]) -> Option<SafetyClass> {
    let mut classes = taken.iter().map(|t| t.lot.piece.safety.or(said));
    let Some(first) = classes.next() else { return said };
    first.filter(|f| classes.all(|c| c == Some(*f)))
}
