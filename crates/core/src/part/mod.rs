//! What a part is, apart from what it measures: family, rating, and where it sits.

pub mod body;
pub mod circuit;
mod family;
mod junctions;
pub mod look;
mod material;
pub mod position;
pub mod safety;
pub mod size;

use crate::named::{Named, named};
use crate::quantity::{Ampere, Farad, Fraction, Henry, Ohm, Quantity, Volt, Watt};

pub use circuit::{Circuit, Fact};
pub use family::{CapacitorFamily, CoilFamily, DiodeFamily, Family, FamilyFacts, MadeOf, usual_tolerance};
pub use junctions::{
    Further, JunctionTest, ReadingsError, SixReadings, StoredDrop, StoredGain, StoredJunctions,
};
pub use look::VisualSign;
pub use material::{Material, Polarity};
pub use position::Position;
pub use safety::SafetyClass;

named! {
    /// A kind of part.
    "part kind" PartKind {
        /// A resistor.
        Resistor = "resistor",
        /// A capacitor.
        Capacitor = "capacitor",
        /// A coil or choke.
        Coil = "coil",
        /// A diode.
        Diode = "diode",
        /// A dial or pilot lamp.
        Lamp = "lamp",
        /// A transistor.
        Transistor = "transistor",
        /// An integrated circuit.
        Ic = "integrated circuit",
        /// A valve.
        Valve = "valve",
        /// A fuse.
        Fuse = "fuse",
        /// A switch's or a relay's contact.
        Switch = "switch",
        /// A loudspeaker.
        Loudspeaker = "loudspeaker",
    }
}

impl PartKind {
    /// What its value is a measure of; `None` where it has a type number instead.
    #[must_use]
    pub fn quantity(self) -> Option<Quantity> {
        match self {
            Self::Resistor | Self::Loudspeaker => Some(Quantity::Resistance),
            Self::Fuse => Some(Quantity::Current),
            Self::Capacitor => Some(Quantity::Capacitance),
            Self::Coil => Some(Quantity::Inductance),
            Self::Lamp => Some(Quantity::Voltage),
            Self::Diode | Self::Transistor | Self::Ic | Self::Valve | Self::Switch => None,
        }
    }

    /// Whether something can be read of such a part without a mark to be told apart from.
    #[must_use]
    pub fn is_read_unmarked(self) -> bool {
        match self {
            Self::Coil
            | Self::Diode
            | Self::Transistor
            | Self::Valve
            | Self::Fuse
            | Self::Switch
            | Self::Loudspeaker => true,
            Self::Resistor | Self::Capacitor | Self::Lamp | Self::Ic => false,
        }
    }

    /// What its name on a sheet begins with.
    #[must_use]
    pub fn letters(self) -> &'static str {
        match self {
            Self::Resistor => "R",
            Self::Capacitor => "C",
            Self::Coil => "L",
            Self::Diode => "D",
            Self::Lamp => "P",
            Self::Transistor => "Q",
            Self::Ic => "U",
            Self::Valve => "V",
            Self::Fuse => "F",
            Self::Switch => "S",
            Self::Loudspeaker => "LS",
        }
    }

    /// The kind of part that is called `name` on a sheet: R14, VR2, C3, L2, T1, D1 or CR1, P1 or LP1, Q5 or TR5, U2 or IC2,
    /// V3, F1, S2, SW2 or K1, LS1 or SP1.
    /// `None` for other letters.
    #[must_use]
    pub fn called(name: &str) -> Option<Self> {
        let letters: String =
            name.chars().take_while(char::is_ascii_alphabetic).collect::<String>().to_ascii_uppercase();
        match letters.as_str() {
            "TR" => return Some(Self::Transistor),
            "IC" => return Some(Self::Ic),
            // As American sheets have a crystal rectifier, and British ones a variable resistor.
            "CR" => return Some(Self::Diode),
            "VR" => return Some(Self::Resistor),
            "LP" => return Some(Self::Lamp),
            "T" => return Some(Self::Coil),
            "LS" | "SP" => return Some(Self::Loudspeaker),
            // A relay is known by its contacts.
            "SW" | "K" | "RL" => return Some(Self::Switch),
            _ => {}
        }
        let first = letters.get(..1)?;
        Self::ALL.iter().copied().find(|k| k.letters() == first)
    }
}

/// The tolerance of a resistor whose marking shows none (IEC 60062:2016, table 2: no band).
pub const NO_BAND: f64 = 0.2;

/// A resistor as it is marked.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Resistor {
    /// How it is made.
    pub family: Family,
    /// The marked value; above zero.
    pub value: Ohm,
    /// The marked tolerance; `None` where no band or letter shows one, which means 20 %.
    pub tolerance: Option<Fraction>,
    /// Rated power, where it is known.
    pub power: Option<Watt>,
}

impl Resistor {
    /// The tolerance that counts: as marked, or 20 % where nothing is marked.
    #[must_use]
    pub fn tolerance_fraction(&self) -> f64 {
        self.tolerance.map_or(NO_BAND, Fraction::fraction)
    }
}

/// A capacitor as it is marked.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Capacitor {
    /// How it is made, where that is known.
    pub family: Option<CapacitorFamily>,
    /// The marked value; above zero.
    pub value: Farad,
    /// How far below the mark it may be, where it is marked.
    pub minus: Option<Fraction>,
    /// How far above the mark it may be, where it is marked.
    pub plus: Option<Fraction>,
    /// Rated volts, where they are known.
    pub rated: Option<Volt>,
    /// The safety class for the line that is marked on it; `None` where none is known.
    pub safety: Option<SafetyClass>,
    /// Years since it was made, where that is known.
    pub years: Option<u16>,
    /// Whether it is a new part, judged by the limits of new parts.
    pub new: bool,
    /// Whether it is to be tested warm, because it leaks only then.
    pub test_warm: bool,
    /// How its value goes with heat, in parts per million for each kelvin, where a code on it says so.
    pub ppm_per_kelvin: Option<f64>,
}

/// A coil or a winding.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Coil {
    /// What it is, where that is known.
    pub family: Option<CoilFamily>,
    /// Its direct-current resistance by the sheet, where it is known.
    pub resistance: Option<Ohm>,
    /// Its inductance by sheet or mark, where it is known.
    pub inductance: Option<Henry>,
}

/// A diode or a rectifier.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Diode {
    /// What it is made of, where that is known.
    pub family: Option<DiodeFamily>,
    /// Plates of a selenium stack that conduct one after the other; 1 otherwise.
    pub plates: u16,
}

/// A transistor.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Transistor {
    /// What it is made of, where that is known.
    pub material: Option<Material>,
    /// Its polarity by the sheet, where that is known.
    pub polarity: Option<Polarity>,
    /// Whether it is a power type.
    pub power: bool,
    /// Least gain by the sheet.
    pub gain_min: Option<f64>,
    /// Greatest gain by the sheet.
    pub gain_max: Option<f64>,
    /// At which collector current the sheet quotes its gain.
    pub gain_at: Option<Ampere>,
    /// Collector to emitter by the sheet.
    pub vceo: Option<Volt>,
    /// Its junctions, where they were tested.
    pub junctions: Option<JunctionTest>,
}

/// An integrated circuit.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Ic {
    /// What the table knows of its type.
    pub device: Option<&'static crate::ic::Device>,
}

/// A valve.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Valve {
    /// What the table knows of its type.
    pub of: Option<&'static crate::valve::ValveType>,
    /// Whether its heater hangs in a chain with others.
    pub in_chain: bool,
}

named! {
    /// How fast a fuse is (IEC 60127-1: the letter before its current).
    "speed of a fuse" FuseSpeed {
        /// Very quick acting.
        VeryQuick = "FF",
        /// Quick acting.
        Quick = "F",
        /// Medium.
        Medium = "M",
        /// Time lag.
        TimeLag = "T",
        /// Long time lag.
        LongTimeLag = "TT",
    }
}

impl FuseSpeed {
    /// How slow it is, 0 the quickest.
    #[must_use]
    pub fn rank(self) -> usize {
        Self::ALL.iter().position(|s| *s == self).unwrap_or(0)
    }
}

/// A fuse.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Fuse {
    /// What it carries for ever.
    pub rated: Ampere,
    /// How fast it is, where that is marked.
    pub speed: Option<FuseSpeed>,
    /// The volts that it interrupts, where they are marked.
    pub volts: Option<Volt>,
}

/// A loudspeaker.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Loudspeaker {
    /// Its impedance by mark or sheet.
    pub impedance: Ohm,
    /// What it takes, where that is known.
    pub power: Option<Watt>,
}

/// A part of any kind that is judged.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum Part {
    /// A resistor.
    Resistor(Resistor),
    /// A capacitor.
    Capacitor(Capacitor),
    /// A coil.
    Coil(Coil),
    /// A diode.
    Diode(Diode),
    /// A transistor.
    Transistor(Transistor),
    /// An integrated circuit.
    Ic(Ic),
    /// A valve.
    Valve(Valve),
    /// A fuse.
    Fuse(Fuse),
    /// A contact.
    Switch,
    /// A loudspeaker.
    Loudspeaker(Loudspeaker),
}

impl Part {
    /// What it is.
    #[must_use]
    pub fn kind(&self) -> PartKind {
        match self {
            Self::Resistor(_) => PartKind::Resistor,
            Self::Capacitor(_) => PartKind::Capacitor,
            Self::Coil(_) => PartKind::Coil,
            Self::Diode(_) => PartKind::Diode,
            Self::Transistor(_) => PartKind::Transistor,
            Self::Ic(_) => PartKind::Ic,
            Self::Valve(_) => PartKind::Valve,
            Self::Fuse(_) => PartKind::Fuse,
            Self::Switch => PartKind::Switch,
            Self::Loudspeaker(_) => PartKind::Loudspeaker,
        }
    }

    /// How it is made, where that is known.
    #[must_use]
    pub fn family(&self) -> Option<MadeOf> {
        match self {
            Self::Resistor(r) => Some(MadeOf::Resistor(r.family)),
            Self::Capacitor(c) => c.family.map(MadeOf::Capacitor),
            Self::Coil(c) => c.family.map(MadeOf::Coil),
            Self::Diode(d) => d.family.map(MadeOf::Diode),
            Self::Transistor(t) => t.material.map(|m| MadeOf::Diode(m.family())),
            Self::Ic(_) | Self::Valve(_) | Self::Fuse(_) | Self::Switch | Self::Loudspeaker(_) => None,
        }
    }
}
