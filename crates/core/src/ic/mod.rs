//! Integrated circuits of radio and audio sets: what each pin does, what volts it shows, and which take each other's place.

pub mod expected;

use std::sync::LazyLock;

use serde::Deserialize;

use crate::named::named;
use crate::quantity::{Volt, Watt};
use crate::reading::ReadQuantity;
use crate::source::Source;
use crate::table::rows;

named! {
    /// What a circuit does.
    "job of a circuit" Job {
        /// It drives a loudspeaker.
        AudioOutput = "audio output",
        /// Limiter and detector of an FM set.
        FmIntermediate = "FM intermediate frequency",
        /// Mixer and oscillator.
        Mixer = "mixer",
        /// An operational amplifier.
        OperationalAmplifier = "operational amplifier",
        /// It holds a supply steady.
        Regulator = "regulator",
    }
}

named! {
    /// What a pin does.
    "function of a pin" Function {
        /// The plus of its supply.
        Supply = "supply",
        /// The minus of its supply; ground in sets with one supply.
        NegativeSupply = "negative supply",
        /// The chassis.
        Ground = "ground",
        /// A signal goes out.
        Output = "output",
        /// A signal comes in.
        Input = "input",
        /// A steady voltage that it makes.
        Reference = "reference",
        /// A capacitor to ground hangs there.
        Bypass = "bypass",
        /// It sets the gain.
        Feedback = "feedback",
        /// Lifted by the output, so that it swings to the rail.
        Bootstrap = "bootstrap",
        /// A small capacitor keeps it from singing.
        Compensation = "compensation",
        /// The oscillator's.
        Oscillator = "oscillator",
        /// A voltage there sets something.
        Control = "control",
    }
}

/// A pin of a circuit.
#[derive(Debug, Clone, PartialEq, Deserialize)]
pub struct Pin {
    /// Of which connection of pins.
    pub pinout: String,
    /// Its number, from the notch on, seen from above against the clock.
    #[serde(rename = "pin")]
    pub number: u8,
    /// What it does.
    pub function: Function,
    /// Its name in the set.
    pub name: String,
    /// What it shows: so much of the supply.
    of_supply: Option<f64>,
    /// And so many volts more.
    volts: Option<f64>,
    /// How far that may be off: so much of the supply.
    within_of_supply: Option<f64>,
    /// And so many volts.
    within_volts: Option<f64>,
    /// What hangs on it and is looked at before the circuit is condemned.
    pub hangs: String,
    /// Where that comes from.
    pub source: Source,
}

/// A circuit.
#[derive(Debug, Clone, PartialEq)]
pub struct Device {
    /// Its type number.
    pub type_number: String,
    /// What it does.
    pub job: Job,
    /// How its pins are connected; circuits of one connection and job go into each other's socket.
    pub pinout: String,
    /// The least that it works with, from its minus pin to its plus pin.
    pub supply_least: Volt,
    /// The most that it stands there.
    pub supply_most: Volt,
    /// What it gives, of an audio output.
    pub watts: Option<Watt>,
    /// What is to be known of it.
    pub note: String,
    /// Where the row comes from.
    pub source: Source,
}

#[derive(Deserialize)]
struct Row {
    #[serde(rename = "type")]
    type_number: String,
    job: Job,
    pinout: String,
    supply_least: f64,
    supply_most: f64,
    watts: Option<f64>,
    note: String,
    source: Source,
}

static PINS: LazyLock<Vec<Pin>> = LazyLock::new(|| rows("ic_pin.csv", include_str!("../../data/ic_pin.csv")));

static DEVICES: LazyLock<Vec<Device>> = LazyLock::new(|| {
    let device = |r: Row| Device {
        type_number: r.type_number,
        job: r.job,
        pinout: r.pinout,
        supply_least: Volt::computed(r.supply_least),
        supply_most: Volt::computed(r.supply_most),
        watts: r.watts.map(Watt::computed),
        note: r.note,
        source: r.source,
    };
    rows("ic.csv", include_str!("../../data/ic.csv")).into_iter().map(device).collect()
});

/// All circuits of the table.
#[must_use]
pub fn devices() -> &'static [Device] {
    &DEVICES
}

/// A type number without what makers put before and behind it: blanks, dashes and the letter of a plastic case.
fn bare(type_number: &str) -> String {
    type_number.chars().filter(char::is_ascii_alphanumeric).collect::<String>().to_ascii_uppercase()
}

/// The circuit of that type number; `None` where the table has none. Letters of its case behind the number are let go
/// (practice: N, P and CN name the plastic case).
///
/// ```
/// use owl_core::ic::device;
/// assert!(device("lm 386n").is_some_and(|d| d.type_number == "LM386"));
/// assert!(device("TBA810S").is_some_and(|d| d.supply_most == owl_core::quantity::Volt::computed(20.0)));
/// assert!(device("LM38").is_none());
/// ```
#[must_use]
pub fn device(type_number: &str) -> Option<&'static Device> {
    let wanted = bare(type_number);
    let exact = |t: &str| DEVICES.iter().find(|d| bare(&d.type_number) == t);
    exact(&wanted).or_else(|| {
        let cases = ["CN", "CP", "N", "P"];
        cases.iter().filter_map(|c| wanted.strip_suffix(c)).find_map(exact)
    })
}

/// Why a reading names no pin, or one where none is.
#[derive(Debug, Clone, PartialEq, Eq, thiserror::Error)]
pub enum PinError {
    /// Volts at a pin, and no pin.
    #[error(
        "say at which pin of {0}: 1 to {MOST_PINS}, from the notch on, seen from above against the clock"
    )]
    NoPin(String),
    /// A pin, and no volts at one.
    #[error("only volts are read at a pin")]
    NotVolts,
}

/// The most pins of a circuit.
pub const MOST_PINS: u8 = 64;

/// The pin of a reading of the part of that name: volts at a pin have one, all else has none.
///
/// # Errors
/// [`PinError`].
pub fn pin_of(name: &str, quantity: ReadQuantity, pin: Option<u8>) -> Result<Option<u8>, PinError> {
    match (quantity, pin) {
        (ReadQuantity::PinVoltage, Some(n)) if (1..=MOST_PINS).contains(&n) => Ok(Some(n)),
        (ReadQuantity::PinVoltage, _) => Err(PinError::NoPin(name.to_owned())),
        (_, Some(_)) => Err(PinError::NotVolts),
        (_, None) => Ok(None),
    }
}

impl Device {
    /// Its pins that are connected, by their number.
    pub fn pins(&self) -> impl Iterator<Item = &'static Pin> {
        PINS.iter().filter(|p| p.pinout == self.pinout)
    }

    /// A pin by its number.
    #[must_use]
    pub fn pin(&self, number: u8) -> Option<&'static Pin> {
        self.pins().find(|p| p.number == number)
    }

    /// Its pins in the order in which they are probed: what feeds it, what grounds it, what comes out, and the rest.
    #[must_use]
    pub fn in_probing_order(&self) -> Vec<&'static Pin> {
        let mut all: Vec<&Pin> = self.pins().collect();
        all.sort_by_key(|p| {
            let rank = match p.function {
                Function::Supply => 0,
                Function::NegativeSupply => 1,
                Function::Ground => 2,
                Function::Output => 3,
                Function::Reference => 4,
                _ if p.is_known() => 5,
                _ => 6,
            };
            (rank, p.number)
        });
        all
    }

    /// Its supply in words: `4 V to 20 V`.
    #[must_use]
    pub fn supply_in_words(&self) -> String {
        format!("{} to {}", self.supply_least, self.supply_most)
    }

    /// Whether another goes into its socket: of the same connection of pins and job.
    #[must_use]
    pub fn is_like(&self, other: &Self) -> bool {
        self.pinout == other.pinout && self.job == other.job
    }
}
