//! What is left to do on a ticket's parts.

use super::stage::{asks_names, may_be_shorted, unnamed};
use super::status::goes;
use super::verdict::{Judged, judged};
use super::{Moment, Status, Tray, TrayPart, installed};
use crate::caution::Step;
use crate::named::Named;
use crate::part::position::FreedBy;
use crate::part::{PartKind, Position};
use crate::plan::Left;
use crate::reading::{ReadQuantity, is_read_live, readable};
use crate::verdict::{Outcome, Policy};

/// Whether a part goes and nothing has gone in: by the decision that holds, else by the verdict.
#[must_use]
pub fn is_needed(judged: &Judged<'_>) -> bool {
    let decided = judged.status.progress.decided;
    let says = decided.or(judged.verdict.as_ref().map(|v| v.call));
    !judged.status.progress.fitted && says == Some(Outcome::Replace)
}

/// What is left to do on a part; `None` where nothing is. `to_buy`: nothing in the drawers fits. `reforming`: it lies on
/// the reforming bench.
#[must_use]
pub fn left(judged: &Judged<'_>, to_buy: bool, reforming: bool) -> Option<Left> {
    if reforming {
        return Some(Left::Reform);
    }
    let p = judged.part;
    let by_valve = FreedBy::of(p.kind, p.position) == FreedBy::Valve;
    let measure = Left::Measure { warm: p.test_warm, by_valve };
    match (judged.status.progress.status().0, judged.status.step) {
        // What left the set as it was waits for the fault to be found elsewhere.
        (Status::Proven | Status::AsBefore, _) => None,
        (Status::Fitted, _) => Some(Left::Prove),
        // What is read with the set on is read where it is suspected.
        (Status::Unread | Status::Unmeasured, _) if is_read_live(p.kind) => None,
        (Status::Unread | Status::Unmeasured | Status::Worse, _) => {
            (!readable(p.kind).is_empty()).then_some(measure)
        }
        (Status::Judged, _) => match judged.verdict.as_ref().map(|v| v.call) {
            Some(Outcome::MeasureAgain) => Some(measure),
            _ => Some(Left::Decide),
        },
        (Status::Decided, Step::Fit) => Some(Left::Fit { to_buy }),
        (Status::Decided, Step::Measure) => Some(measure),
        (Status::Decided, _) => None,
    }
}

/// Tuned parts that something was fitted for, unless the set was aligned since (rule R7: realign after).
#[must_use]
pub fn alignment_due(tray: &Tray, aligned: Option<Moment>) -> Vec<&str> {
    let tuned = |p: &&TrayPart| {
        let at = p.position.is_some_and(|x| matches!(x, Position::Tuned | Position::Padder));
        at && matches!(p.kind, PartKind::Capacitor | PartKind::Coil | PartKind::Resistor)
    };
    let changed = |p: &&TrayPart| p.fitting().is_some_and(|f| aligned.is_none_or(|a| a < f.fitted_at));
    tray.parts().iter().filter(tuned).filter(changed).map(|p| p.name.as_str()).collect()
}

/// What keeps a ticket from being closed without a question: names by what is left on them.
#[must_use]
pub fn unfinished<'a>(all: &'a [Judged<'a>]) -> Vec<(&'static str, Vec<&'a str>)> {
    let named = |s: Status| -> Vec<&str> {
        let at = |j: &&Judged<'_>| {
            let live = s == Status::Unmeasured && is_read_live(j.part.kind);
            j.status.progress.status().0 == s && !live
        };
        all.iter().filter(at).map(|j| j.part.name.as_str()).collect()
    };
    [
        (Status::Unmeasured, "to measure"),
        (Status::Judged, "to decide"),
        (Status::AsBefore, "as before: prove anew"),
        (Status::Worse, "worse for it"),
    ]
    .into_iter()
    .map(|(s, what)| (what, named(s)))
    .filter(|(_, names)| !names.is_empty())
    .collect()
}

/// Whether a part can be put on the reforming bench: an electrolytic that is not replaced and not decided to go.
#[must_use]
pub fn can_reform(tray: &Tray, part: &TrayPart) -> bool {
    use crate::part::{CapacitorFamily, Part};
    let sits = installed::installed(tray, part);
    let electrolytic = matches!(
        sits.part,
        Some(Part::Capacitor(c)) if c.family == Some(CapacitorFamily::Electrolytic)
    );
    electrolytic && part.fitting().is_none() && !goes(part)
}

/// What speaks against any power now, in words; `None` where nothing does: a capacitor, a diode or a transistor that is
/// known to be bad and still sits there may be a short, and so may what died with a part and was not looked at (practice).
#[must_use]
pub fn holds_power(tray: &Tray, policy: &Policy) -> Option<String> {
    let bad = |part: &&TrayPart| {
        let j = judged(tray, part, policy);
        (conducts(&j) && is_needed(&j)) || (part.suspect_of.is_some() && may_be_shorted(tray, part))
    };
    let names: Vec<&str> = tray.parts().iter().filter(bad).map(|p| p.name.as_str()).collect();
    let (are, sit, they) = match names.len() {
        0 => return not_all_named(tray),
        1 => ("is", "sits", "it"),
        _ => ("are", "sit", "each"),
    };
    Some(format!(
        "{} {are} bad or not looked at, and still {sit} there: {they} may be a short. No power before that is out or \
         another one in.",
        names.join(", ")
    ))
}

/// A stage that shorted is not powered while nobody has said what else of it may be shorted.
fn not_all_named(tray: &Tray) -> Option<String> {
    let first = tray.parts().iter().find(|p| asks_names(p))?;
    let roles: Vec<&str> = unnamed(first).iter().map(|s| s.role.name()).collect();
    Some(format!(
        "What may have died with {} is not all looked for: {}. No power before each is named, or said not to be there.",
        first.name,
        roles.join(", ")
    ))
}

/// Whether what is bad about a part may be that it conducts: not where its value or its losses alone condemn it.
fn conducts(j: &Judged<'_>) -> bool {
    match j.part.kind {
        PartKind::Diode | PartKind::Transistor => true,
        PartKind::Capacitor => {
            let by = j.verdict.as_ref().and_then(|v| v.decided_by).and_then(|i| j.sits.readings.get(i));
            by.is_none_or(|r| r.quantity.is_leakage() || r.quantity == ReadQuantity::Resistance)
        }
        PartKind::Resistor
        | PartKind::Coil
        | PartKind::Lamp
        | PartKind::Ic
        | PartKind::Valve
        | PartKind::Fuse
        | PartKind::Switch
        | PartKind::Loudspeaker => false,
    }
}
