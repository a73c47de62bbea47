//! Where a part sits in a set, by the trade's name, and what matters there.

use std::sync::LazyLock;

use serde::Deserialize;

use super::PartKind;
use crate::dialect::Dialect;
use crate::named::{Named, named};
use crate::source::Source;
use crate::table::{rows, yes};

named! {
    /// The place of a part in the circuit.
    "position" Position {
        /// From cathode to chassis.
        Cathode = "cathode",
        /// From the rail to a plate.
        PlateLoad = "plate load",
        /// From the rail to a screen grid.
        ScreenFeed = "screen feed",
        /// From a control grid to its return.
        GridLeak = "grid leak",
        /// In series with a grid, against parasitic oscillation.
        Stopper = "stopper",
        /// One of two that set a voltage between them.
        Divider = "divider",
        /// From an emitter to its return.
        Emitter = "emitter",
        /// From one point of a supply to the next.
        Feed = "feed",
        /// Across a supply, to empty it.
        Bleeder = "bleeder",
        /// In series with a meter, to read volts.
        MeterMultiplier = "meter multiplier",
        /// Across one of several capacitors in series.
        Balancing = "balancing",
        /// In a bias supply.
        Bias = "bias",
        /// The first filter capacitor.
        Reservoir = "reservoir",
        /// A later filter part.
        Smoothing = "smoothing",
        /// Across a cathode resistor.
        CathodeBypass = "cathode bypass",
        /// Across an emitter resistor.
        EmitterBypass = "emitter bypass",
        /// From a screen grid to chassis.
        ScreenBypass = "screen bypass",
        /// From a stage's supply to chassis.
        PlateDecoupling = "plate decoupling",
        /// From one stage to the next grid.
        Coupling = "coupling",
        /// In the automatic volume control line.
        Avc = "AVC",
        /// In a tone control.
        Tone = "tone",
        /// Leads radio frequency to chassis.
        RfBypass = "RF bypass",
        /// Across a coil that is tuned.
        Tuned = "tuned",
        /// In series with the oscillator's tuning.
        Padder = "padder",
        /// From output back to input, against oscillation.
        Neutralising = "neutralising",
        /// Across a winding or a contact, against pulses, of which nobody said which.
        Snubber = "snubber",
        /// Across a rectifier or its winding.
        RectifierSnubber = "rectifier snubber",
        /// Across the winding of a vibrator's transformer: it times the contacts.
        VibratorBuffer = "vibrator buffer",
        /// Across an output transformer's primary.
        OutputSnubber = "output snubber",
        /// Across a switch or a contact in the line.
        MainsContact = "mains contact",
        /// Between the two sides of the line.
        AcrossTheLine = "across the line",
        /// From the line to the chassis.
        LineToChassis = "line to chassis",
        /// Between the aerial and a chassis that may be live.
        AntennaIsolation = "antenna isolation",
        /// Between a plate and a tank circuit.
        PlateBlocking = "plate blocking",
        /// The same where the plate is modulated.
        ModulatedBlocking = "modulated plate blocking",
        /// The primary of an output transformer.
        OutputPrimary = "output primary",
        /// A secondary of a power transformer.
        Secondary = "secondary",
        /// In the supply.
        Rectifier = "rectifier",
        /// Behind the last IF stage.
        Detector = "detector",
        /// The last stage of an amplifier or transmitter.
        Output = "output stage",
        /// One output transistor that always conducts, on a transformer or a choke.
        SingleEnded = "single-ended output",
        /// One of two output transistors on a transformer.
        PushPull = "push-pull output",
        /// One of two output transistors in a row from rail to rail, the loudspeaker at their middle.
        HalfBridge = "output without transformer",
        /// The same with two of one polarity, behind a complementary pair of drivers.
        QuasiComplementary = "quasi-complementary output",
        /// Before a transmitter's final.
        RfDriver = "RF driver",
        /// Power at radio frequency: a transmitter's final.
        RfPower = "RF power",
        /// A transmitter's final whose collector is modulated.
        AmFinal = "AM final",
        /// Before the output stage.
        Driver = "driver",
        /// A small stage at audio.
        AudioStage = "audio stage",
        /// A small stage at radio frequency.
        RfStage = "RF stage",
        /// A small stage at the intermediate frequency.
        IfStage = "IF stage",
        /// Makes the intermediate frequency.
        Mixer = "mixer",
        /// Makes a frequency of its own.
        Oscillator = "oscillator",
        /// Holds a supply's volts.
        Regulator = "regulator",
        /// On or off.
        Switch = "switch",
        /// Shows how a set is tuned.
        TuningIndicator = "tuning indicator",
    }
}

named! {
    /// What frees one end of a part in its place.
    "way to free an end" FreedBy {
        /// Its valve is pulled.
        Valve = "valve",
        /// One end is lifted.
        End = "end",
    }
}

named! {
    /// How close a place looks at the value of what goes in (practice: what hangs on it).
    "care for the value" Care {
        /// A ratio, a scale, a frequency hangs on it.
        Exact = "exact",
        /// A current or a time hangs on it.
        Near = "near",
        /// Anything within the window does the same.
        Loose = "loose",
    }
}

impl FreedBy {
    /// What frees a part of that kind in that position; a resistor of which nothing is said hangs on some valve.
    #[must_use]
    pub fn of(kind: PartKind, position: Option<Position>) -> Self {
        match position.and_then(|p| p.facts(kind)) {
            Some(facts) => facts.freed_by,
            None if kind == PartKind::Resistor => Self::Valve,
            None => Self::End,
        }
    }
}

/// What is known of a kind of part in a position.
#[derive(Debug, Clone, Deserialize)]
pub struct Facts {
    /// The kind of part.
    pub kind: PartKind,
    /// The position.
    pub position: Position,
    /// Whether two of them in opposite halves must agree with each other.
    #[serde(deserialize_with = "yes")]
    pub matched: bool,
    /// Whether radio frequency flows in it, so that a wound part is refused.
    #[serde(deserialize_with = "yes")]
    pub radio_frequency: bool,
    /// The least share of the sheet's value that works there (rule R7); of capacitors.
    pub value_low: Option<f64>,
    /// The greatest share of the sheet's value that works there.
    pub value_high: Option<f64>,
    /// How close the value of what goes in is looked at.
    pub care: Care,
    /// What frees one end.
    pub freed_by: FreedBy,
    /// How to free one end, without the iron where that is usually possible.
    pub isolate: String,
    /// What matters there, in one line.
    pub matters: String,
    /// Where that comes from.
    pub source: Source,
}

static FACTS: LazyLock<Vec<Facts>> =
    LazyLock::new(|| rows("position.csv", include_str!("../../data/position.csv")));

impl Position {
    /// What is known of such a part in this position; `None` where such parts do not sit there.
    #[must_use]
    pub fn facts(self, kind: PartKind) -> Option<&'static Facts> {
        FACTS.iter().find(|f| f.position == self && f.kind == kind)
    }

    /// The positions in which a kind of part sits, in the table's order.
    pub fn of(kind: PartKind) -> impl Iterator<Item = Self> {
        FACTS.iter().filter(move |f| f.kind == kind).map(|f| f.position)
    }

    /// Whether the supply's own volts stand there before the heaters are warm.
    #[must_use]
    pub fn hangs_on_the_rail(self) -> bool {
        matches!(
            self,
            Self::Reservoir
                | Self::Smoothing
                | Self::PlateDecoupling
                | Self::ScreenBypass
                | Self::Coupling
                | Self::PlateBlocking
                | Self::ModulatedBlocking
        )
    }

    /// Whether a resistor there has the whole supply across it.
    #[must_use]
    pub fn lies_across_the_rail(self) -> bool {
        matches!(self, Self::Bleeder | Self::MeterMultiplier)
    }

    /// Whether such a part there hangs on the rail of a set that has only one: not where a resistor stands between, as at a
    /// cathode, and not on the line's side.
    #[must_use]
    pub fn hangs_on_the_only_rail(self, kind: PartKind) -> bool {
        self.hangs_on_the_rail()
            || self.lies_across_the_rail()
            || matches!(self, Self::PlateLoad | Self::ScreenFeed | Self::Feed)
            || matches!(self, Self::VibratorBuffer | Self::OutputSnubber)
            || kind == PartKind::Transistor
    }

    /// Whether it takes pulses: what lies across a winding, a rectifier or a contact.
    #[must_use]
    pub fn takes_pulses(self) -> bool {
        matches!(
            self,
            Self::Snubber
                | Self::RectifierSnubber
                | Self::VibratorBuffer
                | Self::OutputSnubber
                | Self::MainsContact
        )
    }

    /// Whether the value there makes a frequency.
    #[must_use]
    pub fn makes_a_frequency(self) -> bool {
        matches!(self, Self::Tuned | Self::Padder | Self::Neutralising)
    }

    /// How close the value of such a part is looked at there; where nothing is known, as where a current hangs on it.
    #[must_use]
    pub fn care(self, kind: PartKind) -> Care {
        self.facts(kind).map_or(Care::Near, |f| f.care)
    }

    /// Whether it holds a plate's volts off a tank circuit.
    #[must_use]
    pub fn blocks_a_plate(self) -> bool {
        matches!(self, Self::PlateBlocking | Self::ModulatedBlocking)
    }

    /// Whether it is an audio output stage, of whatever class.
    #[must_use]
    pub fn is_output(self) -> bool {
        matches!(
            self,
            Self::Output | Self::SingleEnded | Self::PushPull | Self::HalfBridge | Self::QuasiComplementary
        )
    }

    /// The position of a kind of part whose name opens `words`, in either trade's words, with the number of words that it
    /// takes.
    #[must_use]
    pub fn at_head(kind: PartKind, words: &[&str]) -> Option<(Self, usize)> {
        // "emitter bypass" before "emitter": the longest name counts.
        Self::of(kind)
            .filter_map(|p| {
                let name: Vec<&str> = p.name().split(' ').collect();
                let fits = words.len() >= name.len()
                    && name.iter().zip(words).all(|(a, b)| a.eq_ignore_ascii_case(&Dialect::written(b)));
                fits.then_some((p, name.len()))
            })
            .max_by_key(|(_, words)| *words)
    }
}

/// How to free one end of a part: what its position suggests, with the valve of its place by name.
///
/// ```
/// use owl_core::part::position::{isolate, Position};
/// use owl_core::part::PartKind;
/// let how = isolate(PartKind::Resistor, Some(Position::Cathode), "V4, pin 8");
/// assert!(how.starts_with("pull V4:"));
/// ```
#[must_use]
pub fn isolate(kind: PartKind, position: Option<Position>, place: &str) -> String {
    let how = match position.and_then(|p| p.facts(kind)) {
        Some(facts) => facts.isolate.clone(),
        None if kind == PartKind::Resistor => {
            "pull the valve that it hangs on, or lift one end, and measure again".to_owned()
        }
        None => "lift one end".to_owned(),
    };
    match valve(place) {
        Some(v) => how.replacen("pull its valve", &format!("pull {v}"), 1),
        None => how,
    }
}

/// The valve that a place names first: V4 of "V4 cathode, pin 8".
fn valve(place: &str) -> Option<&str> {
    place.split(|c: char| !c.is_ascii_alphanumeric()).find(|w| {
        let digits = w.trim_start_matches(['V', 'v']);
        w.len() == digits.len() + 1 && !digits.is_empty() && digits.chars().all(|c| c.is_ascii_digit())
    })
}
