//! A part's verdict as it stands on the tray: beside the others of its pair or group, by the ticket's school.

use super::installed::{Installed, as_found, installed};
use super::status::{PartStatus, decided, status};
use super::{Status, TakenReading, Tray, TrayPart};
use crate::caution::Step;
use crate::part::{Part, PartKind};
use crate::quantity::{Ohm, Quantity, Volt};
use crate::reading::{ReadQuantity, is_read_live, usual};
use crate::verdict::valve::left;
use crate::verdict::{Outcome, Partner, Policy, Verdict, judge};

/// The others of a part's pair or group, as far as they have a reading that decides (rule R1, matched positions).
#[must_use]
pub fn partners(tray: &Tray, part: &TrayPart, policy: &Policy) -> Vec<Partner> {
    let partner = |other: &TrayPart| {
        let sits = installed(tray, other);
        if matches!(sits.part, Some(Part::Transistor(_))) {
            let read =
                |of| sits.readings.iter().rfind(|r| r.quantity == of && !r.still_connected())?.value_si();
            let gain = read(ReadQuantity::Gain).filter(|g| *g > 0.0)?;
            let base_volts = read(ReadQuantity::ForwardVoltage).map(Volt::computed);
            return Some(Partner {
                name: other.name.clone(),
                measured_si: gain,
                marked_si: gain,
                base_volts,
            });
        }
        if let Some(Part::Valve(v)) = &sits.part {
            let share = left(v, &sits.readings).filter(|s| *s > 0.0)?;
            return Some(Partner {
                name: other.name.clone(),
                measured_si: share,
                marked_si: 1.0,
                base_volts: None,
            });
        }
        let verdict = alone(&sits, policy)?;
        let measured = verdict.decided_by.and_then(|i| sits.readings.get(i)?.value_si());
        let marked = match &sits.part {
            Some(Part::Resistor(r)) => Some(r.value.ohms()),
            Some(Part::Coil(c)) => c.resistance.map(Ohm::ohms).or(measured),
            _ => None,
        };
        let decided = matches!(verdict.call, Outcome::Keep | Outcome::Watch | Outcome::Replace);
        let measured_si = measured.filter(|v| decided && *v > 0.0)?;
        Some(Partner { name: other.name.clone(), measured_si, marked_si: marked?, base_volts: None })
    };
    tray.others(part).filter_map(partner).collect()
}

/// The verdict on what sits there, by itself.
fn alone(sits: &Installed, policy: &Policy) -> Option<Verdict> {
    sits.case(&[]).map(|case| judge(case, policy))
}

/// Whether something has fed too much through what was found there, or somebody has said what did: then the question
/// what did it stays with the part.
#[must_use]
pub fn overloaded(tray: &Tray, part: &TrayPart, now: Option<&Verdict>, policy: &Policy) -> bool {
    let then = match part.fitting() {
        // What was found is what sits there.
        None => now.is_some_and(|v| v.overloaded),
        Some(_) => alone(&as_found(tray, part), policy).is_some_and(|v| v.overloaded),
    };
    then || part.cause_said
}

/// A part as it stands: what sits there, the verdict on that, and how far it is.
#[derive(Debug, Clone)]
pub struct Judged<'a> {
    /// The part.
    pub part: &'a TrayPart,
    /// What sits there.
    pub sits: Installed,
    /// The others of its pair or group that it is judged beside.
    pub partners: Vec<Partner>,
    /// The verdict; `None` without a value to judge against.
    pub verdict: Option<Verdict>,
    /// How far it is.
    pub status: PartStatus,
}

/// Judges a part where it lies on the tray.
#[must_use]
pub fn judged<'a>(tray: &Tray, part: &'a TrayPart, policy: &Policy) -> Judged<'a> {
    let sits = installed(tray, part);
    let partners = partners(tray, part, policy);
    let verdict = sits.case(&partners).map(|case| judge(case, policy));
    let status = status(part, &sits, verdict.as_ref());
    Judged { part, sits, partners, verdict, status }
}

impl Judged<'_> {
    /// What its strip says in a word: the decision that holds, else the verdict; of what was fitted, whether it works.
    /// `None` where nothing was judged.
    #[must_use]
    pub fn says(&self) -> Option<Outcome> {
        match self.status.progress.status().0 {
            Status::Judged | Status::Decided => {
                let holds = decided(self.part).map(|d| d.decided);
                Some(holds.or(self.verdict.as_ref().map(|v| v.call)).unwrap_or(Outcome::MeasureAgain))
            }
            Status::Proven => Some(Outcome::Keep),
            Status::Worse => Some(Outcome::Replace),
            Status::Unread | Status::Unmeasured | Status::Fitted | Status::AsBefore => None,
        }
    }

    /// Whether it is among those that are still to be measured.
    #[must_use]
    pub fn to_measure(&self) -> bool {
        let settled = decided(self.part).is_some_and(|d| d.decided != Outcome::MeasureAgain);
        let again = self.verdict.as_ref().is_some_and(|v| v.call == Outcome::MeasureAgain);
        let open = match self.status.progress.status().0 {
            // What is read with the set on is not put on the tray to be measured.
            Status::Unmeasured => !is_read_live(self.part.kind),
            Status::Worse => true,
            Status::Proven => false,
            Status::Unread | Status::Judged | Status::Decided | Status::Fitted | Status::AsBefore => again,
        };
        self.status.steps.contains(&Step::Measure) && !settled && open
    }

    /// The steps that it has behind it.
    #[must_use]
    pub fn done(&self) -> Vec<Step> {
        let p = self.part;
        let fitted = !p.fittings.is_empty();
        let named = p.marked_si.is_some()
            || p.sheet_si.is_some()
            || p.winding.is_some()
            || p.family.is_some()
            || p.installed_type().is_some();
        [
            (Step::Read, named),
            (Step::Measure, fitted || latest(p).is_some() || !p.junctions.is_empty()),
            (Step::Judge, fitted || decided(p).is_some()),
            (Step::Fit, fitted),
            (Step::Prove, self.status.progress.status().0 == Status::Proven),
        ]
        .into_iter()
        .filter_map(|(step, done)| done.then_some(step))
        .collect()
    }
}

/// What was read last of what sits there now: what such a part is read in first, or else anything.
#[must_use]
pub fn latest(part: &TrayPart) -> Option<&TakenReading> {
    let of_usual = |r: &&TakenReading| r.reading.quantity == usual(part.kind);
    let all = || part.readings.iter().filter(|r| part.is_of_what_sits(r));
    all().rfind(of_usual).or_else(|| all().next_back())
}

/// What a strip shows as measured: what was read last of what sits there, or what it measured before it went in; a value
/// of `None` is beyond the meter's range.
#[must_use]
pub fn measured(part: &TrayPart) -> Option<(Quantity, Option<f64>)> {
    // One pin says nothing of a circuit.
    if part.kind == PartKind::Ic {
        return None;
    }
    if let Some(r) = latest(part).map(|r| r.reading) {
        return Some((r.quantity.quantity(), r.value_si()));
    }
    let piece = &part.fitting()?.piece;
    piece.measured_si.map(|si| (usual(piece.kind).quantity(), Some(si)))
}
