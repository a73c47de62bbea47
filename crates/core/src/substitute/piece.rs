//! One piece held against its place, wherever it comes from (rule R7): from a drawer, bought, a network as a whole, or
//! typed by hand. These are the same limits that rank the choices; what falls short is named, all of it.

use super::assess::{Offer, Tally};
use super::load::Load;
use super::{
    ChoiceReason, Need, OldPart, SubstituteError, capacitor, coil, contact, diode, fuse, ic, lamp,
    loudspeaker, resistor, transistor, valve,
};
use crate::drawers::Piece;
use crate::part::Part;
use crate::transistor::Device;
use crate::verdict::Policy;

/// What the rules say of a piece in its place.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct PieceFound {
    /// What falls short of the place, each with its numbers; empty where nothing does.
    pub short: Vec<String>,
    /// What the place asks for and nobody has said of the piece: `its volts are not known: it needs 350 V`.
    pub unknown: Vec<String>,
    /// What to mind.
    pub cautions: Vec<ChoiceReason>,
}

impl From<Tally> for PieceFound {
    fn from(t: Tally) -> Self {
        Self { short: t.short, unknown: t.unknown, cautions: t.cautions }
    }
}

/// Holds a piece against the place `need`; `types` are the workshop's transistors beside those of the table.
///
/// # Errors
/// [`SubstituteError`] where there is nothing to hold it against.
pub(super) fn assess(
    need: &Need<'_>,
    piece: &Piece,
    policy: &Policy,
    types: &[Device],
) -> Result<PieceFound, SubstituteError> {
    let offer = Offer::to_buy(piece.clone());
    let tally = match need.gone {
        OldPart::Part(Part::Resistor(old)) => {
            resistor::assess(need, &Load::of(need, old, policy)?, old, &offer)
        }
        OldPart::Part(Part::Capacitor(old)) => capacitor::assess_any(need, old, policy, &offer)?,
        OldPart::Part(Part::Coil(old)) => coil::assess_any(need, old, policy, &offer)?,
        OldPart::Part(Part::Diode(old)) => diode::assess_any(need, old, policy, &offer),
        OldPart::Lamp { volts, current, fed } => lamp::assess(*volts, *current, *fed, &offer),
        OldPart::Part(Part::Transistor(old)) => transistor::assess(need, old, types, &offer),
        OldPart::Part(Part::Ic(old)) => ic::assess(need, old, &offer),
        OldPart::Part(Part::Valve(old)) => valve::assess(need, old, &offer),
        OldPart::Part(Part::Fuse(old)) => fuse::assess(old, &offer),
        OldPart::Part(Part::Switch) => contact::assess(need, &offer),
        OldPart::Part(Part::Loudspeaker(old)) => loudspeaker::assess(old, &offer),
    };
    Ok(tally.into())
}
