//! How parts are made.

use std::sync::LazyLock;

use serde::Deserialize;

use crate::named::{Named, by_name, named};
use crate::part::PartKind;
use crate::source::Source;
use crate::table::{rows, yes};

named! {
    /// How a resistor is made.
    "resistor family" Family {
        /// Moulded carbon composition, old body-end-dot parts too.
        CarbonComposition = "carbon composition",
        /// Carbon film.
        CarbonFilm = "carbon film",
        /// Metal film and metal oxide.
        MetalFilm = "metal film",
        /// Wound.
        Wirewound = "wirewound",
        /// Made to open safely.
        Fusible = "fusible",
    }
}

named! {
    /// How a capacitor is made.
    "capacitor family" CapacitorFamily {
        /// Paper and wax.
        WaxPaper = "wax paper",
        /// Paper and pitch.
        BitumenPaper = "bitumen paper",
        /// Paper moulded in plastic.
        MouldedPaper = "moulded paper",
        /// Paper with a film of metal, moulded or in resin: line filters of the 1960s to 1980s.
        MetallisedPaper = "metallised paper",
        /// Stacked mica.
        Mica = "mica",
        /// Mica with fired silver.
        SilverMica = "silver mica",
        /// Ceramic with a stated temperature coefficient.
        CeramicClass1 = "ceramic class 1",
        /// Ceramic of high permittivity.
        CeramicClass2 = "ceramic class 2",
        /// Polyester film.
        Polyester = "polyester",
        /// Polypropylene film.
        Polypropylene = "polypropylene",
        /// Polystyrene film.
        Polystyrene = "polystyrene",
        /// Aluminium electrolytic.
        Electrolytic = "electrolytic",
        /// Tantalum electrolytic.
        Tantalum = "tantalum",
        /// Ceramic for transmitters.
        HighVoltageCeramic = "high-voltage ceramic",
    }
}

named! {
    /// How a coil is made, or what it is for.
    "coil family" CoilFamily {
        /// The loudspeaker's field, which is also a choke.
        FieldCoil = "field coil",
        /// On iron, for direct current with ripple.
        Choke = "choke",
        /// Of a power, output or interstage transformer.
        TransformerWinding = "transformer winding",
        /// For signals: aerial, oscillator, IF.
        SignalCoil = "signal coil",
    }
}

named! {
    /// What a diode or rectifier is made of.
    "diode family" DiodeFamily {
        /// A stack of selenium plates.
        Selenium = "selenium",
        /// Germanium.
        Germanium = "germanium",
        /// Silicon.
        Silicon = "silicon",
    }
}

/// How a part of any kind is made.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum MadeOf {
    /// A resistor.
    Resistor(Family),
    /// A capacitor.
    Capacitor(CapacitorFamily),
    /// A coil.
    Coil(CoilFamily),
    /// A diode.
    Diode(DiodeFamily),
}

/// What is known of a family (rule R6).
#[derive(Debug, Clone, Deserialize)]
pub struct FamilyFacts {
    /// The family.
    pub family: MadeOf,
    /// Whether its age alone makes it suspect.
    #[serde(deserialize_with = "yes")]
    pub known_bad: bool,
    /// Whether it is left alone without evidence, because changing it moves the alignment.
    #[serde(deserialize_with = "yes")]
    pub leave_alone: bool,
    /// How far below its mark it may be where no tolerance is marked; of capacitors, a fraction.
    pub usual_minus: Option<f64>,
    /// How far above its mark it may be where no tolerance is marked.
    pub usual_plus: Option<f64>,
    /// How it fails.
    pub failure: String,
    /// The year from which it is reliable, where there is one.
    pub reliable_from: Option<u16>,
    /// What goes in its place.
    pub replaced_by: String,
    /// Where that comes from.
    pub source: Source,
}

static FACTS: LazyLock<Vec<FamilyFacts>> =
    LazyLock::new(|| rows("family.csv", include_str!("../../data/family.csv")));

/// The tolerance of a part of which neither family nor marking tells one (practice).
const USUAL_TOLERANCE: f64 = 0.2;

/// How far a part without a marked tolerance may be below and above its value, as fractions: as is usual of its family.
#[must_use]
pub fn usual_tolerance(family: Option<MadeOf>) -> (f64, f64) {
    let facts = family.and_then(MadeOf::facts);
    let usual = |of: Option<f64>| of.unwrap_or(USUAL_TOLERANCE);
    (usual(facts.and_then(|f| f.usual_minus)), usual(facts.and_then(|f| f.usual_plus)))
}

impl MadeOf {
    /// The kind of part that is made so.
    #[must_use]
    pub fn kind(self) -> PartKind {
        match self {
            Self::Resistor(_) => PartKind::Resistor,
            Self::Capacitor(_) => PartKind::Capacitor,
            Self::Coil(_) => PartKind::Coil,
            Self::Diode(_) => PartKind::Diode,
        }
    }

    /// Whether parts of a kind are made so; a transistor's material is a diode's.
    #[must_use]
    pub fn suits(self, kind: PartKind) -> bool {
        let material = matches!(self, Self::Diode(DiodeFamily::Germanium | DiodeFamily::Silicon));
        self.kind() == kind || (kind == PartKind::Transistor && material)
    }

    /// What is known of it; `None` only if the table lacks it, which a test rules out.
    #[must_use]
    pub fn facts(self) -> Option<&'static FamilyFacts> {
        FACTS.iter().find(|f| f.family == self)
    }

    /// The resistor's family; `None` for other parts.
    #[must_use]
    pub fn resistor(self) -> Option<Family> {
        match self {
            Self::Resistor(f) => Some(f),
            Self::Capacitor(_) | Self::Coil(_) | Self::Diode(_) => None,
        }
    }

    /// The capacitor's family; `None` for other parts.
    #[must_use]
    pub fn capacitor(self) -> Option<CapacitorFamily> {
        match self {
            Self::Capacitor(f) => Some(f),
            Self::Resistor(_) | Self::Coil(_) | Self::Diode(_) => None,
        }
    }

    /// The coil's family; `None` for other parts.
    #[must_use]
    pub fn coil(self) -> Option<CoilFamily> {
        match self {
            Self::Coil(f) => Some(f),
            Self::Resistor(_) | Self::Capacitor(_) | Self::Diode(_) => None,
        }
    }

    /// The diode's family; `None` for other parts.
    #[must_use]
    pub fn diode(self) -> Option<DiodeFamily> {
        match self {
            Self::Diode(f) => Some(f),
            Self::Resistor(_) | Self::Capacitor(_) | Self::Coil(_) => None,
        }
    }
}

impl Named for MadeOf {
    const NOUN: &'static str = "part family";
    const ALL: &'static [Self] = &[
        Self::Resistor(Family::CarbonComposition),
        Self::Resistor(Family::CarbonFilm),
        Self::Resistor(Family::MetalFilm),
        Self::Resistor(Family::Wirewound),
        Self::Resistor(Family::Fusible),
        Self::Capacitor(CapacitorFamily::WaxPaper),
        Self::Capacitor(CapacitorFamily::BitumenPaper),
        Self::Capacitor(CapacitorFamily::MouldedPaper),
        Self::Capacitor(CapacitorFamily::MetallisedPaper),
        Self::Capacitor(CapacitorFamily::Mica),
        Self::Capacitor(CapacitorFamily::SilverMica),
        Self::Capacitor(CapacitorFamily::CeramicClass1),
        Self::Capacitor(CapacitorFamily::CeramicClass2),
        Self::Capacitor(CapacitorFamily::Polyester),
        Self::Capacitor(CapacitorFamily::Polypropylene),
        Self::Capacitor(CapacitorFamily::Polystyrene),
        Self::Capacitor(CapacitorFamily::Electrolytic),
        Self::Capacitor(CapacitorFamily::Tantalum),
        Self::Capacitor(CapacitorFamily::HighVoltageCeramic),
        Self::Coil(CoilFamily::FieldCoil),
        Self::Coil(CoilFamily::Choke),
        Self::Coil(CoilFamily::TransformerWinding),
        Self::Coil(CoilFamily::SignalCoil),
        Self::Diode(DiodeFamily::Selenium),
        Self::Diode(DiodeFamily::Germanium),
        Self::Diode(DiodeFamily::Silicon),
    ];

    fn name(self) -> &'static str {
        match self {
            Self::Resistor(f) => f.name(),
            Self::Capacitor(f) => f.name(),
            Self::Coil(f) => f.name(),
            Self::Diode(f) => f.name(),
        }
    }
}

by_name!(MadeOf);

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_list_of_families_is_whole_and_each_is_known_of() {
        let all =
            Family::ALL.len() + CapacitorFamily::ALL.len() + CoilFamily::ALL.len() + DiodeFamily::ALL.len();
        assert_eq!(MadeOf::ALL.len(), all);
        assert!(MadeOf::ALL.iter().all(|f| f.facts().is_some()));
    }
}
