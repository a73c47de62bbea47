//! First power: the set comes up through a lamp and a variable transformer, step by step, and the lamp's story is read.
//!
//! What the lamp should do follows from its filament and from what a good set of so many watts draws
//! ([`crate::supply::lamp`]); what it did, from the person at the bench. The model takes the set as a resistance, so the
//! numbers are a guide, and it says where a step is too low for the lamp to tell anything.

mod story;

pub use story::read;

use std::sync::LazyLock;

use serde::Deserialize;

use crate::named::{Named, named};
use crate::quantity::{Ampere, Second, Volt, Watt};
use crate::set::{Devices, Hazard, SetClass};
use crate::source::Source;
use crate::supply::SupplyError;
use crate::table::rows;

named! {
    /// What the lamp in series did.
    "lamp story" LampStory {
        /// No glow at all.
        Dark = "dark",
        /// A flash while capacitors fill and filaments are cold, then dim.
        BrightThenDim = "bright, then dim",
        /// The same, and a little more as heaters warm and the set begins to draw.
        BrightThenDimThenUp = "bright, then dim, then up a little",
        /// A dull glow that does not change.
        Dim = "dim",
        /// Half bright and staying so.
        HalfBright = "half bright",
        /// As bright as on the line itself.
        Bright = "bright and stays bright",
        /// It comes and goes.
        Flickers = "flickers",
        /// No lamp is in series.
        NoLamp = "no lamp in series",
    }
}

named! {
    /// By which sense something was noticed.
    "sense" Sense {
        /// With the ears.
        Heard = "heard",
        /// With the nose.
        Smelt = "smelt",
        /// With the eyes.
        Seen = "seen",
    }
}

named! {
    /// Something that is heard, smelt or seen while a set comes up.
    "sign" PowerSign {
        /// Heard.
        Plays = "plays",
        /// Heard.
        Hum = "hum",
        /// Heard.
        LoudHum = "loud hum",
        /// Heard.
        Crackle = "crackle",
        /// Heard.
        HissOrSizzle = "hiss or sizzle",
        /// Heard.
        Bang = "bang",
        /// Smelt.
        SmellOfHeat = "smell of heat",
        /// Smelt.
        SmellOfBurning = "smell of burning",
        /// Smelt.
        RottenSmell = "rotten smell",
        /// Seen.
        HeatersGlow = "heaters glow",
        /// Seen.
        HeatersDark = "heaters dark",
        /// Seen.
        Arc = "arc",
        /// Seen.
        Smoke = "smoke",
        /// Seen.
        RedPlate = "red plate",
        /// Seen.
        FuseBlew = "fuse blew",
        /// Seen.
        ResidualCurrentDeviceTripped = "residual-current device tripped",
    }
}

named! {
    /// How much a sign says.
    "weight of a sign" SignWeight {
        /// Off at once.
        Stop = "stop",
        /// VisualSign closer before the next step.
        VisualSign = "look",
        /// As it should be.
        Good = "good",
    }
}

named! {
    /// What to do after a step.
    "advice after a step" PowerAdvice {
        /// Off; find the fault cold.
        Stop = "stop",
        /// Off or held: something is to be looked at first.
        VisualSign = "look first",
        /// The next step.
        GoOn = "go on",
        /// On full line, and nothing speaks against it.
        Up = "it is up",
    }
}

/// Something heard, smelt or seen, with what it says.
#[derive(Debug, Clone, Deserialize)]
pub struct Sign {
    /// Which.
    pub sign: PowerSign,
    /// Only in sets that work with these.
    pub devices: Option<Devices>,
    /// By which sense.
    pub sense: Sense,
    /// How much it says.
    pub weight: SignWeight,
    /// What it says.
    pub says: String,
    /// Where that comes from.
    pub source: Source,
}

/// A step of the way up.
#[derive(Debug, Clone, Deserialize)]
pub struct PowerStep {
    /// For sets that come up so.
    pub hazard: Hazard,
    /// Of the line.
    pub share: f64,
    /// How long to stay, at least.
    pub hold_s: f64,
    /// What to watch.
    pub watch: String,
    /// Where that comes from.
    pub source: Source,
}

static SIGNS: LazyLock<Vec<Sign>> =
    LazyLock::new(|| rows("power_sign.csv", include_str!("../../data/power_sign.csv")));
static STEPS: LazyLock<Vec<PowerStep>> =
    LazyLock::new(|| rows("power_step.csv", include_str!("../../data/power_step.csv")));

/// What can be noticed on a set of that class: each sign once, and none of a device that it has not.
#[must_use]
pub fn signs(class: SetClass) -> Vec<&'static Sign> {
    let mut all: Vec<&Sign> = Vec::new();
    for sign in SIGNS.iter().filter(|s| class.works_with(s.devices)) {
        if !all.iter().any(|s| s.sign == sign.sign) {
            all.push(sign);
        }
    }
    all
}

/// The steps of a class of set, the lowest first.
pub fn steps(class: SetClass) -> impl Iterator<Item = &'static PowerStep> {
    STEPS.iter().filter(move |s| s.hazard == class.comes_up_as())
}

/// What a lamp can do that is in series with such a set: a set that runs on batteries alone comes up on a bench supply with
/// a current limit, and not through a lamp.
pub fn stories(class: SetClass) -> impl Iterator<Item = LampStory> {
    let lamp = class.is_on_the_mains();
    LampStory::ALL.iter().copied().filter(move |s| lamp || *s == LampStory::NoLamp)
}

/// A step as it was done.
#[derive(Debug, Clone, PartialEq)]
pub struct PowerUp {
    /// What the set is.
    pub class: SetClass,
    /// The line or battery that the set is made for.
    pub line: Volt,
    /// What it should draw at that line, where it is known.
    pub watts: Option<Watt>,
    /// What the variable transformer or the bench supply gave.
    pub volts: Volt,
    /// The lamp in series, in watts at the line; none without one.
    pub bulb: Option<Watt>,
    /// What flowed, where it was read.
    pub current: Option<Ampere>,
    /// What the lamp did.
    pub story: LampStory,
    /// What was noticed.
    pub signs: Vec<PowerSign>,
}

/// Why, with where that comes from.
#[derive(Debug, Clone, PartialEq, Eq)]
pub struct PowerReason {
    /// In words.
    pub text: String,
    /// Its source.
    pub source: Source,
}

/// What a good set would do at this step.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Healthy {
    /// Through lamp and set.
    pub current: Ampere,
    /// What reaches the set.
    pub set_volts: Volt,
    /// In the lamp, as a share of its watts.
    pub lamp_share: f64,
    /// The same of a set that is a short.
    pub short_share: f64,
}

/// What the step says.
#[derive(Debug, Clone, PartialEq)]
pub struct StepReading {
    /// What to do.
    pub call: PowerAdvice,
    /// Why, the weightiest first.
    pub because: Vec<PowerReason>,
    /// What to set the variable transformer to next.
    pub next_volts: Option<Volt>,
    /// How long to stay there, at least.
    pub hold: Option<Second>,
    /// What to watch there.
    pub watch: Option<String>,
    /// The lamp to take next, where it should be another.
    pub next_bulb: Option<Watt>,
    /// What a good set would do here; none where its watts or the lamp are not known.
    pub healthy: Option<Healthy>,
    /// What the set drew, from the current and the lamp's own volts.
    pub drawn: Option<Watt>,
}

/// Why a step makes no sense.
#[derive(Debug, Clone, PartialEq, thiserror::Error)]
pub enum PowerError {
    /// More than the line of the set.
    #[error("{volts} are more than a set for {line} should ever see: at most a tenth over")]
    TooMuch {
        /// What was set.
        volts: Volt,
        /// What the set is for.
        line: Volt,
    },
    /// A lamp's story without a lamp.
    #[error("say the watts of the lamp in series, or that there is none")]
    WhichLamp,
    /// A number that makes no sense.
    #[error(transparent)]
    Supply(#[from] SupplyError),
}

impl PowerError {
    /// The input to blame.
    #[must_use]
    pub fn input(&self) -> Option<&'static str> {
        match self {
            Self::TooMuch { .. } => Some("volts"),
            Self::WhichLamp => Some("bulb"),
            Self::Supply(e) => e.input(),
        }
    }
}
