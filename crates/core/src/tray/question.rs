//! What must be asked of a part: values that disagree, what overloaded it, and suspects that would kill what goes in.

use super::stage::{asks_names, suspects_open, unsettled};
use super::{TakenReading, Tray, TrayPart};
use crate::marking::disagreement::{Between, Disagreement, Values, all};
use crate::named::named;
use crate::part::{CapacitorFamily, MadeOf, PartKind};
use crate::proof::ProofOutcome;
use crate::reading::{ReadQuantity, State};
use crate::verdict::cause::{OnTray, Suspect, suspects};

/// How many suspects are named: a longer list is no help.
const MOST_SUSPECTS: usize = 8;

/// Whether a reading can be held against sheet and mark: a value of what they are a value of.
fn comparable(part: &TrayPart, r: &TakenReading) -> bool {
    let of = match part.kind {
        PartKind::Resistor => ReadQuantity::Resistance,
        PartKind::Capacitor => ReadQuantity::Capacitance,
        PartKind::Coil => ReadQuantity::Inductance,
        PartKind::Diode
        | PartKind::Transistor
        | PartKind::Lamp
        | PartKind::Ic
        | PartKind::Valve
        | PartKind::Fuse
        | PartKind::Switch
        | PartKind::Loudspeaker => {
            return false;
        }
    };
    r.voided_at.is_none() && r.reading.quantity == of && r.reading.value_si().is_some()
}

/// The newest reading that can be held against sheet and mark, in the base unit.
#[must_use]
pub fn compared_si(part: &TrayPart) -> Option<f64> {
    part.readings.iter().rfind(|r| comparable(part, r))?.reading.value_si()
}

/// What sheet, mark and meter disagree about now, unless somebody has answered it for these values.
#[must_use]
pub fn disagreement(part: &TrayPart) -> Option<Disagreement> {
    // What was fitted since is another part.
    let reading = part.readings.iter().rfind(|r| comparable(part, r)).filter(|_| part.fitting().is_none());
    let values = Values {
        part: part.kind,
        sheet_si: part.sheet_si,
        marked_si: part.marked_si,
        measured_si: reading.and_then(|r| r.reading.value_si()),
        in_circuit: reading.is_some_and(|r| r.reading.state == State::InCircuit),
    };
    all(&values, named_from(part)).into_iter().find(|found| !answered(part, found.between, &values))
}

/// From which ratio of sheet and mark the difference is named (practice): a neighbour in E12 of a resistor, a quarter of
/// a capacitor, whose older values are made no more (0.25 µF became 0.22), half of an electrolytic.
fn named_from(part: &TrayPart) -> f64 {
    match (part.kind, part.family) {
        (PartKind::Resistor, _) => 1.09,
        (_, Some(MadeOf::Capacitor(CapacitorFamily::Electrolytic))) => 1.5,
        _ => 1.25,
    }
}

/// Whether somebody has explained it for these values.
fn answered(part: &TrayPart, between: Between, values: &Values) -> bool {
    part.explained.iter().any(|e| {
        e.between == between
            && match between {
                Between::SheetAndMark => e.sheet_si == values.sheet_si && e.marked_si == values.marked_si,
                Between::MarkAndMeter => {
                    e.marked_si == values.marked_si && e.measured_si == values.measured_si
                }
                Between::SheetAndMeter => {
                    e.sheet_si == values.sheet_si && e.measured_si == values.measured_si
                }
            }
    })
}

named! {
    /// A question that is answered before something is fitted.
    "question" FirstAsked {
        /// Sheet, mark and meter disagree by more than 2 : 1.
        Disagreement = "disagreement",
        /// A part cooked, and nobody has said of what.
        Cause = "cause",
        /// Parts that may have died with it, or killed it, are not decided.
        Suspects = "suspects",
    }
}

/// Whether a part was seen to be burnt; a fuse that is open has blown, whatever is seen of it.
fn burnt(part: &TrayPart) -> bool {
    let last = part.readings.iter().rfind(|r| r.voided_at.is_none());
    let blown = part.kind == PartKind::Fuse && last.is_some_and(|r| r.reading.value_si().is_none());
    blown || part.looks.iter().filter_map(|l| l.on(part.kind)).any(|m| m.burnt)
}

/// What is to be answered first, and the parts that it is about.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct Asked<'a> {
    /// The question.
    pub question: FirstAsked,
    /// The parts to look at, by name; none where it is about the part itself.
    pub parts: Vec<&'a str>,
}

/// What is to be answered before something is fitted for a part; and once something was, before it is put to the proof: its
/// stage is proven as one, and not beside a short.
#[must_use]
pub fn first_asked<'a>(tray: &'a Tray, part: &'a TrayPart) -> Option<Asked<'a>> {
    let itself = |question| Some(Asked { question, parts: vec![] });
    let about =
        |parts: Vec<&'a str>| (!parts.is_empty()).then_some(Asked { question: FirstAsked::Suspects, parts });
    if let Some(fitted) = part.fitting() {
        let open = about(unsettled(tray, part)).or_else(|| names_asked(part));
        return open.filter(|_| fitted.proof != Some(ProofOutcome::Better));
    }
    if disagreement(part).is_some_and(|d| d.holds) {
        return itself(FirstAsked::Disagreement);
    }
    if burnt(part) && !part.cause_said {
        return itself(FirstAsked::Cause);
    }
    names_asked(part).or_else(|| about(suspects_open(tray, part.id)))
}

/// What may have died with a part is named first: only then can it be looked at.
fn names_asked(part: &TrayPart) -> Option<Asked<'_>> {
    asks_names(part).then_some(Asked { question: FirstAsked::Suspects, parts: vec![] })
}

/// The question about a part that was overloaded.
#[must_use]
pub fn overload_question(part: &TrayPart) -> String {
    format!("What fed too much through {}?", part.name)
}

/// What could have fed too much through a part, as far as the tray knows the connections, the likeliest first.
#[must_use]
pub fn overloaders(tray: &Tray, part: &TrayPart) -> Vec<Suspect> {
    let on_tray: Vec<OnTray<'_>> = tray
        .parts()
        .iter()
        .map(|p| OnTray {
            name: &p.name,
            kind: p.kind,
            family: p.family,
            position: p.position,
            fed_by: p.fed_by.and_then(|id| tray.part(id)).map(|f| f.name.as_str()),
        })
        .collect();
    let mut found = suspects(&part.name, &on_tray);
    found.truncate(MOST_SUSPECTS);
    found
}
