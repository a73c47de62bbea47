//! Three leads and no print: what six readings of a meter's diode range between them say (rule R11).
//!
//! Cannot tell a bipolar transistor from two diodes with a common lead, nor a field-effect transistor from a bipolar
//! one that leaks from collector to emitter: both show the same six numbers. Each answer says so, and which single
//! measurement would settle it.

mod path;
mod shape;
mod words;

pub use crate::part::{Further, ReadingsError, SixReadings};
pub use words::with_parallel;

use super::device::{Material, Polarity};
use crate::named::named;

named! {
    /// What three leads turn out to be.
    "find" What {
        /// A bipolar transistor.
        Bipolar = "bipolar",
        /// Two bipolar ones in one case.
        Darlington = "darlington",
        /// A bipolar one with a diode from emitter to collector.
        WithDamper = "with damper diode",
        /// A bipolar one with resistors at its base.
        WithResistors = "with base resistors",
        /// A junction field-effect transistor.
        Jfet = "jfet",
        /// An insulated-gate field-effect transistor.
        Mosfet = "mosfet",
        /// Two diodes.
        DiodePair = "diode pair",
        /// A thyristor.
        Scr = "scr",
        /// The readings do not say.
        Unknown = "unknown",
    }
}

named! {
    /// In what state it is.
    "junction state" Health {
        /// Both junctions conduct one way.
        Good = "good",
        /// Two leads are one.
        Shorted = "shorted",
        /// A junction that should conduct does not.
        Open = "open",
        /// Something comes back the wrong way.
        Leaky = "leaky",
    }
}

named! {
    /// What told collector from emitter.
    "told by" ToldBy {
        /// Gain both ways round.
        Gain = "gain",
        /// The emitter's drop is a little higher.
        Drop = "drop",
        /// A diode from emitter to collector.
        Damper = "damper diode",
    }
}

/// Gain with the leads one way round.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct GainTry {
    /// The lead that was in the collector's hole.
    pub collector: usize,
    /// The lead that was in the emitter's hole.
    pub emitter: usize,
    /// What the tester showed.
    pub gain: f64,
}

/// How the readings were taken.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Conditions<'a> {
    /// Whether the part is still in the set.
    pub in_circuit: bool,
    /// The meter's current on that range, ampere.
    pub meter_amperes: f64,
    /// The part's temperature, °C.
    pub celsius: f64,
    /// Gain both ways round, where it was measured.
    pub gains: &'a [GainTry],
    /// What one more measurement showed, where it was made.
    pub further: Option<Further>,
}

impl Default for Conditions<'_> {
    /// Out of the set, a milliampere, 25 °C, no gain measured.
    fn default() -> Self {
        Self { in_circuit: false, meter_amperes: 1e-3, celsius: 25.0, gains: &[], further: None }
    }
}

/// What the readings say. Leads are counted from zero in the order in which they were given.
#[derive(Debug, Clone, PartialEq)]
pub struct Identified {
    /// What it is.
    pub what: What,
    /// In what state.
    pub health: Health,
    /// The base, or the gate.
    pub base: Option<usize>,
    /// The collector, or the drain; `None` where it is not told from the other.
    pub collector: Option<usize>,
    /// The emitter, or the source.
    pub emitter: Option<usize>,
    /// What told collector from emitter.
    pub told_by: Option<ToldBy>,
    /// Its polarity.
    pub polarity: Option<Polarity>,
    /// Its material.
    pub material: Option<Material>,
    /// Two leads that are shorted, where two are.
    pub shorted: Option<(usize, usize)>,
    /// Why, one line each.
    pub because: Vec<String>,
    /// What else shows the same numbers.
    pub or: Vec<String>,
    /// What one more measurement would settle, the most telling first.
    pub next: Vec<String>,
}

impl Identified {
    fn of(what: What, health: Health) -> Self {
        Self {
            what,
            health,
            base: None,
            collector: None,
            emitter: None,
            told_by: None,
            polarity: None,
            material: None,
            shorted: None,
            because: vec![],
            or: vec![],
            next: vec![],
        }
    }
}

/// Below this a junction is germanium, above the next it is silicon, in volt at 25 °C; between them neither (R11).
pub(super) const GERMANIUM_BELOW: f64 = 0.42;
pub(super) const SILICON_FROM: f64 = 0.45;
/// A junction's drop falls by so much with each kelvin, volt (handbook value for a constant current).
pub const VOLTS_PER_KELVIN: f64 = 0.002;

/// The material that a junction's drop tells, `celsius` warm. `None` between the two, and outside of both.
#[must_use]
pub fn material(volts: f64, celsius: f64) -> Option<Material> {
    let cold = volts + VOLTS_PER_KELVIN * (celsius - 25.0);
    if (0.08..GERMANIUM_BELOW).contains(&cold) {
        Some(Material::Germanium)
    } else if (SILICON_FROM..0.95).contains(&cold) {
        Some(Material::Silicon)
    } else {
        None
    }
}

/// Says what three leads are.
///
/// `names` are the leads' names for the sentences. R11: two junctions with one lead in common are base and polarity;
/// their drop is the material; gain both ways round, or the slightly higher drop, is the emitter.
///
/// ```
/// use owl_core::transistor::identify::{identify, Conditions, Health, SixReadings};
/// use owl_core::transistor::device::Polarity;
/// // Red on lead 1 conducts to both others.
/// let six = SixReadings::new(&[(0, 1, Some(0.66)), (0, 2, Some(0.64)), (1, 0, None), (1, 2, None), (2, 0, None),
///     (2, 1, None)])?;
/// let found = identify(&six, ["1", "2", "3"], Conditions::default());
/// assert_eq!((found.base, found.polarity, found.health), (Some(0), Some(Polarity::Npn), Health::Good));
/// assert_eq!(found.emitter, Some(1));
/// # Ok::<(), owl_core::transistor::identify::ReadingsError>(())
/// ```
#[must_use]
pub fn identify(six: &SixReadings, names: [&str; 3], how: Conditions<'_>) -> Identified {
    let mut found = shape::shape(six, how);
    words::settle(&mut found, six, names, how);
    found
}
