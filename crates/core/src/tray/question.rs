//! What must be asked of a part: values that disagree, what overloaded it, and suspects that would kill what goes in.

use super::{Id, TakenReading, Tray, TrayPart};
use crate::marking::disagreement::{Between, Disagreement, Values, find};
use crate::part::PartKind;
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
        PartKind::Diode | PartKind::Transistor | PartKind::Lamp | PartKind::Ic => return false,
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
    let found = find(&values)?;
    let answered = part.explained.iter().any(|e| {
        e.between == found.between
            && match found.between {
                Between::SheetAndMark => e.sheet_si == values.sheet_si && e.marked_si == values.marked_si,
                Between::MarkAndMeter => {
                    e.marked_si == values.marked_si && e.measured_si == values.measured_si
                }
                Between::SheetAndMeter => {
                    e.sheet_si == values.sheet_si && e.measured_si == values.measured_si
                }
            }
    });
    (!answered).then_some(found)
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

/// The suspects of a part on which nobody has decided yet, by name: they would kill what goes in.
#[must_use]
pub fn suspects_open(tray: &Tray, part: Id) -> Vec<&str> {
    let open = |p: &&TrayPart| p.suspect_of == Some(part) && p.decisions.is_empty();
    tray.parts().iter().filter(open).map(|p| p.name.as_str()).collect()
}
