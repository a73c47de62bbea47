//! Which lead of a substitute goes into which hole, and whether leads must cross.
//!
//! Three leads in a row fit a row with the same lead in the middle, as they are or turned by half. Three leads round a
//! circle fit any row, because any of them may be bent into the middle from either side; two circles fit where their
//! order round the circle is the same. Everything else crosses two leads, which then need sleeves.

use super::device::Device;
use super::package::{Lead, Package, Shape, package};
use crate::named::named;

named! {
    /// How a substitute's leads lie over the holes.
    "lead match" LeadMatch {
        /// As they are.
        Straight = "straight",
        /// As they are when it is turned.
        Turned = "turned",
        /// Each to its hole by bending, none across another.
        Bent = "bent",
        /// Two leads cross.
        Crossed = "crossed",
        /// By wires.
        Wired = "wired",
        /// A pinout or a package is not known.
        Unknown = "unknown",
    }
}

/// One electrode: from which lead of the old to which of the new, counted from 1; `None` is the case.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Joined {
    /// The electrode.
    pub electrode: Lead,
    /// Its lead on the old one.
    pub old: Option<usize>,
    /// Its lead on the new one.
    pub new: Option<usize>,
}

/// The map of leads.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct PinMap {
    /// How they lie.
    pub leads: LeadMatch,
    /// The two that cross, where two do.
    pub crossed: Option<(Lead, Lead)>,
    /// Electrode by electrode.
    pub joined: Vec<Joined>,
    /// In words.
    pub text: String,
}

/// Maps the leads of `new` to those of `old`.
#[must_use]
pub fn pin_map(old: &Device, new: &Device) -> PinMap {
    let electrodes: &[Lead] = if old.kind.has_base() {
        &[Lead::Emitter, Lead::Base, Lead::Collector]
    } else {
        &[Lead::Source, Lead::Gate, Lead::Drain]
    };
    let joined: Vec<Joined> = electrodes
        .iter()
        .map(|e| Joined { electrode: *e, old: old.lead_of(*e), new: new.lead_of(*e) })
        .collect();
    let (leads, crossed) = matched(old, new);
    let text = words(leads, crossed, old, new);
    PinMap { leads, crossed, joined, text }
}

/// The three that work, in the order of the package, without the shield.
fn working(device: &Device) -> Option<Vec<Lead>> {
    let leads: Vec<Lead> = device.pinout?.leads().iter().copied().filter(|l| *l != Lead::Shield).collect();
    Some(leads)
}

fn matched(old: &Device, new: &Device) -> (LeadMatch, Option<(Lead, Lead)>) {
    let shapes = package(&old.package).zip(package(&new.package));
    let (Some((a, b)), Some(x), Some(y)) = (shapes, working(old), working(new)) else {
        return (LeadMatch::Unknown, None);
    };
    if a.shape == Shape::Flange
        || b.shape == Shape::Flange
        || a.shape == Shape::Stud
        || b.shape == Shape::Stud
    {
        let same = a.package == b.package && x == y;
        return (if same { LeadMatch::Straight } else { LeadMatch::Wired }, None);
    }
    let ([x1, x2, x3], [y1, y2, y3]) = (x.as_slice(), y.as_slice()) else {
        return (LeadMatch::Unknown, None);
    };
    match (a.shape.is_round(), b.shape.is_round()) {
        _ if x == y && a.shape == b.shape => (LeadMatch::Straight, None),
        (true, true) => {
            let turned = [[y2, y3, y1], [y3, y1, y2], [y1, y2, y3]].contains(&[x1, x2, x3]);
            if turned { (LeadMatch::Turned, None) } else { (LeadMatch::Crossed, Some(swapped(&x, &y))) }
        }
        (false, false) if x == y => (LeadMatch::Straight, None),
        (false, false) if [x3, x2, x1] == [y1, y2, y3] => (LeadMatch::Turned, None),
        (false, false) => (LeadMatch::Crossed, Some(swapped(&x, &y))),
        _ => (LeadMatch::Bent, None),
    }
}

/// Two leads that change places, so that as few as possible cross.
fn swapped(x: &[Lead], y: &[Lead]) -> (Lead, Lead) {
    let wrong: Vec<Lead> = x.iter().zip(y).filter(|(a, b)| a != b).map(|(a, _)| *a).collect();
    match wrong.as_slice() {
        [a, b] => (*a, *b),
        // All three are elsewhere: turned by half, two of them cross.
        _ => match (x.get(1), y.get(1)) {
            (Some(a), Some(b)) => (*a, *b),
            _ => (Lead::Base, Lead::Collector),
        },
    }
}

fn words(lie: LeadMatch, crossed: Option<(Lead, Lead)>, old: &Device, new: &Device) -> String {
    let mut text = match lie {
        LeadMatch::Straight => "goes in as it is".to_owned(),
        LeadMatch::Turned => "goes in turned: follow the drawing, not the flat or the tab".to_owned(),
        LeadMatch::Bent => "each lead is bent to its hole, none crosses another".to_owned(),
        LeadMatch::Crossed => {
            let (a, b) = crossed.unwrap_or((Lead::Base, Lead::Collector));
            format!("{a} and {b} cross: a sleeve on both")
        }
        LeadMatch::Wired => "by short insulated wires, screwed down on its own".to_owned(),
        LeadMatch::Unknown => {
            let who = if working(old).is_none() || package(&old.package).is_none() { old } else { new };
            let name = if who.type_number.is_empty() { "the old one" } else { &who.type_number };
            format!("the leads of {name} are not known here: find them with the meter")
        }
    };
    let shield = |d: &Device| d.lead_of(Lead::Shield).is_some();
    if shield(old) && !shield(new) && lie != LeadMatch::Unknown {
        text.push_str("; the hole of the screen stays empty");
    } else if shield(new) && !shield(old) && lie != LeadMatch::Unknown {
        text.push_str("; its screen goes to chassis");
    }
    text
}

/// What mounting and insulation ask for when `new` goes where `old` was.
#[must_use]
pub fn mounting(old: &Device, new: &Device) -> Vec<String> {
    use super::device::CaseLead;
    let mut notes = Vec::new();
    if let (Some(a), Some(b)) = (package(&old.package), package(&new.package)) {
        if a.package != b.package {
            let held = if a.mount == b.mount { String::new() } else { format!(", held by its {}", b.mount) };
            notes.push(format!("{} in place of {}{held}: {}", b.package, a.package, b.about));
        }
        if let Some(text) = holes(a, b) {
            notes.push(text);
        }
    }
    let live = |c: Option<CaseLead>| match c {
        Some(CaseLead::Insulated | CaseLead::Shield) => Some(false),
        Some(CaseLead::Collector | CaseLead::Drain | CaseLead::Emitter | CaseLead::Base | CaseLead::Gate) => {
            Some(true)
        }
        None => None,
    };
    if let (Some(case), Some(true)) = (new.case, live(new.case)) {
        let screwed = package(&new.package).is_some_and(|p| match p.mount {
            super::package::Mount::Leads => false,
            super::package::Mount::Screw
            | super::package::Mount::Tab
            | super::package::Mount::Flange
            | super::package::Mount::Stud => true,
        });
        let was = live(old.case);
        if screwed {
            notes.push(format!(
                "its case is the {case} and live: mica washer and insulating bush, then measure from case to heat \
                 sink before power"
            ));
        } else if was != Some(true) {
            notes.push(format!("its case is the {case} and live: nothing may touch it"));
        }
        if let (Some(true), Some(old)) = (was, old.case.filter(|c| *c != case)) {
            notes.push(format!("the old case was the {old}: what touched it must not touch this one"));
        }
    }
    notes
}

/// Whether `new` is held by something else than `old` was: a flange or a screw where the wires held it, and the other way
/// round. Not where a package is not known.
#[must_use]
pub fn is_held_otherwise(old: &Device, new: &Device) -> bool {
    package(&old.package).zip(package(&new.package)).is_some_and(|(a, b)| a.mount != b.mount)
}

fn holes(a: &Package, b: &Package) -> Option<String> {
    match (a.hole_millimetres, b.hole_millimetres) {
        (Some(x), Some(y)) if (x - y).abs() > 0.2 => {
            Some(format!("its holes are {y} mm apart, the old ones {x} mm: drill, and take off the burr"))
        }
        (None, Some(y)) => Some(format!("it wants two holes {y} mm apart and a heat sink")),
        _ => None,
    }
}
