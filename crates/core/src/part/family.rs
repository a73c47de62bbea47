//! How parts are made.

use crate::named::{Named, named};
use crate::part::PartKind;

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

/// How a part of any kind is made.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum MadeOf {
    /// A resistor.
    Resistor(Family),
    /// A capacitor.
    Capacitor(CapacitorFamily),
}

impl MadeOf {
    /// The kind of part that is made so.
    #[must_use]
    pub fn kind(self) -> PartKind {
        match self {
            Self::Resistor(_) => PartKind::Resistor,
            Self::Capacitor(_) => PartKind::Capacitor,
        }
    }

    /// The resistor's family; `None` for other parts.
    #[must_use]
    pub fn resistor(self) -> Option<Family> {
        match self {
            Self::Resistor(f) => Some(f),
            Self::Capacitor(_) => None,
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
    ];

    fn name(self) -> &'static str {
        match self {
            Self::Resistor(f) => f.name(),
            Self::Capacitor(f) => f.name(),
        }
    }
}

impl<'de> serde::Deserialize<'de> for MadeOf {
    fn deserialize<D: serde::Deserializer<'de>>(d: D) -> Result<Self, D::Error> {
        let name = <std::borrow::Cow<'de, str> as serde::Deserialize>::deserialize(d)?;
        Self::from_name(&name).map_err(serde::de::Error::custom)
    }
}

#[cfg(test)]
mod tests {
    use super::*;

    #[test]
    fn the_list_of_families_is_whole() {
        assert_eq!(MadeOf::ALL.len(), Family::ALL.len() + CapacitorFamily::ALL.len());
    }
}
