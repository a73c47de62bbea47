//! What goes into the places of a stage, chosen together (rule R14): what one place takes is not there for the next, and
//! halves of a pair get two of one lot.

use super::goes_in::wanted;
use super::stage::to_fit;
use super::{Tray, TrayPart};
use crate::drawers::Lot;
use crate::set::SetClass;
use crate::substitute::{Choices, SubstituteError, Wanted};
use crate::transistor::Device;
use crate::verdict::Policy;

/// A place of a stage for which something has to go in.
#[derive(Debug, Clone)]
pub struct Place<'a> {
    /// The part that goes.
    pub part: &'a TrayPart,
    /// What is wanted there; `None` where nothing is known of it.
    pub wanted: Option<Wanted>,
    /// The first place that wants the same, by its number; its own where it is the first.
    like: usize,
}

/// The places of a part's stage for which something has to go in, in the order of the tray.
#[must_use]
pub fn places<'a>(tray: &'a Tray, part: &TrayPart, class: SetClass) -> Vec<Place<'a>> {
    let members = to_fit(tray, part);
    let like = |i: usize, p: &TrayPart| members.iter().position(|other| alike(other, p)).unwrap_or(i);
    members
        .iter()
        .enumerate()
        .map(|(i, p)| Place { part: p, wanted: wanted(tray, p, class), like: like(i, p) })
        .collect()
}

/// Whether two parts of a stage want the same: kind, place, type and value.
fn alike(a: &TrayPart, b: &TrayPart) -> bool {
    let wants = |p: &TrayPart| (p.kind, p.position, p.sheet_si.or(p.marked_si));
    wants(a) == wants(b) && a.type_number() == b.type_number()
}

/// What goes into each place, best first; nothing where nothing is known of its part.
#[must_use]
pub fn choose(
    places: &[Place<'_>],
    policy: &Policy,
    lots: &[Lot],
    types: &[Device],
) -> Vec<Option<Result<Choices, SubstituteError>>> {
    let mut left = lots.to_vec();
    let mut out: Vec<Option<Result<Choices, SubstituteError>>> = Vec::new();
    for (i, place) in places.iter().enumerate() {
        // As many as its fellows need beside it.
        let fellows = places.iter().skip(i + 1).filter(|p| p.like == place.like).count();
        let mut enough = left.clone();
        for lot in &mut enough {
            lot.count = lot.count.saturating_sub(u32::try_from(fellows).unwrap_or(u32::MAX));
        }
        let mut found = place.wanted.as_ref().map(|w| w.choose(policy, &enough, types));
        if let Some(Ok(found)) = &mut found {
            if let Some(Some(Ok(first))) = out.get(place.like)
                && let Some(first) = first.choices.first()
            {
                found.choices.sort_by_key(|c| !c.is_alike(first));
            }
            if let Some(best) = found.choices.first() {
                best.take_from(&mut left);
            }
        }
        out.push(found);
    }
    out
}
