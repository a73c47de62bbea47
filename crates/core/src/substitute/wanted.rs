//! What is looked for in place of a part, as something that can be kept and carried: the owned form of a [`Need`].

use super::can::place_of;
use super::{
    Can, CanChoice, Choices, LampFeed, Need, OldPart, PieceFound, SubstituteError, choose, choose_can,
    choose_transistor, facts, first, piece,
};
use crate::drawers::{Lot, Piece};
use crate::part::{Capacitor, Circuit, Fact, Part, PartKind, Position};
use crate::quantity::{Ampere, Volt};
use crate::transistor::Device;
use crate::verdict::Policy;

/// What goes, and where it sat.
#[derive(Debug, Clone)]
pub struct Wanted {
    /// The part that goes.
    pub gone: OldPart,
    /// Its type number; empty where it is not known.
    pub type_number: String,
    /// The value wanted, in the base unit of its kind.
    pub value_si: Option<f64>,
    /// Where it sits.
    pub position: Option<Position>,
    /// What is known of the circuit.
    pub circuit: Circuit,
    /// The sections of a can; empty for a single part.
    pub sections: Vec<Can>,
    /// Whether it is one of a pair or a group that must agree.
    pub paired: bool,
}

impl Wanted {
    /// The kinds of lots that can be of use.
    #[must_use]
    pub fn kinds(&self) -> &'static [PartKind] {
        match self.gone.kind() {
            PartKind::Resistor => &[PartKind::Resistor],
            PartKind::Capacitor => &[PartKind::Capacitor],
            // A resistor can stand for a field coil.
            PartKind::Coil => &[PartKind::Coil, PartKind::Resistor],
            PartKind::Diode => &[PartKind::Diode],
            PartKind::Lamp => &[PartKind::Lamp],
            PartKind::Transistor => &[PartKind::Transistor],
            PartKind::Ic => &[PartKind::Ic],
            PartKind::Valve => &[PartKind::Valve],
            PartKind::Fuse => &[PartKind::Fuse],
            PartKind::Switch => &[PartKind::Switch],
            PartKind::Loudspeaker => &[PartKind::Loudspeaker],
        }
    }

    /// The value by which the drawers are searched, in the base unit; `None` for a can, whose sections differ.
    #[must_use]
    pub fn searched_si(&self) -> Option<f64> {
        self.value_si.filter(|_| self.sections.is_empty())
    }

    /// The facts of the circuit that count here.
    #[must_use]
    pub fn facts(&self) -> &'static [Fact] {
        facts(&self.gone, self.position)
    }

    /// What fits, best first; `types` are the workshop's transistors beside those of the table (rule R7).
    ///
    /// # Errors
    /// [`SubstituteError`] where there is nothing to look for.
    pub fn choose(
        &self,
        policy: &Policy,
        lots: &[Lot],
        types: &[Device],
    ) -> Result<Choices, SubstituteError> {
        self.look_for(policy, lots, types, choose)
    }

    /// The same up to the first of them, in a fraction of the time.
    ///
    /// # Errors
    /// Those of [`Self::choose`].
    pub fn first(&self, policy: &Policy, lots: &[Lot], types: &[Device]) -> Result<Choices, SubstituteError> {
        self.look_for(policy, lots, types, first)
    }

    fn look_for(
        &self,
        policy: &Policy,
        lots: &[Lot],
        types: &[Device],
        plain: fn(&Need<'_>, &Policy, &[Lot]) -> Result<Choices, SubstituteError>,
    ) -> Result<Choices, SubstituteError> {
        let need = self.need();
        match (&self.gone, self.sections.is_empty()) {
            (OldPart::Part(Part::Capacitor(old)), false) => {
                choose_can(&need, old, &self.sections, policy, lots).map(CanChoice::choices)
            }
            (OldPart::Part(Part::Transistor(old)), _) => Ok(choose_transistor(&need, old, types, lots)),
            _ => plain(&need, policy, lots),
        }
    }
}

impl Wanted {
    /// Holds one piece against the place, whatever it is and wherever it comes from (rule R7).
    ///
    /// # Errors
    /// [`SubstituteError`] where there is nothing to hold it against.
    pub fn assess(
        &self,
        piece: &Piece,
        policy: &Policy,
        types: &[Device],
    ) -> Result<PieceFound, SubstituteError> {
        piece::assess(&self.need(), piece, policy, types)
    }

    /// The place of one section of a can, as a part of its own; the whole where it is no can.
    #[must_use]
    pub fn section(&self, n: usize) -> Self {
        let (OldPart::Part(Part::Capacitor(old)), Some(can)) = (&self.gone, self.sections.get(n)) else {
            return self.clone();
        };
        let one = Capacitor { value: can.capacitance, rated: can.volts.or(old.rated), ..*old };
        Self {
            gone: OldPart::Part(Part::Capacitor(one)),
            value_si: Some(can.capacitance.farads()),
            sections: vec![],
            position: self.position.map(|p| place_of(p, n)),
            ..self.clone()
        }
    }

    fn need(&self) -> Need<'_> {
        Need {
            gone: &self.gone,
            type_number: &self.type_number,
            value_si: self.value_si,
            position: self.position,
            circuit: &self.circuit,
            paired: self.paired,
        }
    }
}

/// Whether what goes in for such a part is sought by a value: other kinds are sought by type, winding or rating.
#[must_use]
pub fn is_sought_by_value(kind: PartKind) -> bool {
    matches!(kind, PartKind::Resistor | PartKind::Capacitor | PartKind::Lamp)
}

/// A lamp that goes, and how it is fed. `None` for volts that are none.
#[must_use]
pub fn lamp(volts: Volt, current: Option<Ampere>, fed: LampFeed) -> Option<OldPart> {
    let current = current.filter(|a| *a > Ampere::ZERO);
    (volts > Volt::ZERO).then_some(OldPart::Lamp { volts, current, fed })
}
