//! What two of a pair differ by, and what that means in their stage: one voice for the tray's verdict, for lots that are
//! paired and for bought parts that are inspected.
//!
//! Gain and base volts add up to the distance of rule R11. How much of the volts counts is the stage's: two on one bias
//! share the current by them, unless a resistor under each emitter evens it; two in a row carry one current whatever
//! their base volts are.

use super::circuit::Stage;
use super::device::Material;
use super::pairs::{IdleShare, Piece, THERMAL_VOLTS, distance, idle_share};
use super::rule::{RuleNumber, number};
use crate::named::named;
use crate::preferred::{Series, between};
use crate::quantity::Quantity;
use crate::quantity::format::{format, percent};

/// What is known of the stage that two share; `None` is not known.
#[derive(Debug, Clone, Copy, PartialEq, Default)]
pub struct Shared {
    /// What the stage does.
    pub stage: Option<Stage>,
    /// What both are made of.
    pub material: Option<Material>,
    /// The resistor under each emitter, ohm; 0 for none.
    pub emitter_ohms: Option<f64>,
    /// What each draws at rest, ampere.
    pub idle_amperes: Option<f64>,
    /// At which collector current the base volts were measured, ampere.
    pub test_amperes: Option<f64>,
}

named! {
    /// Whether two go together.
    "pair" Fellowship {
        /// Near enough.
        Passes = "passes as a pair",
        /// Over what passes, by less than as much again.
        Watched = "at the edge of a pair",
        /// Farther than that.
        Apart = "no pair",
    }
}

/// Two held against each other.
#[derive(Debug, Clone, PartialEq)]
pub struct Compared {
    /// Whether they go together in that stage.
    pub call: Fellowship,
    /// How far they are apart, as far as it counts there: a tenth in gain is 1, and so are 10 mV.
    pub distance: f64,
    /// What each draws at rest, where that can be said.
    pub idle: Option<IdleShare>,
    /// What the difference means in that stage, in words.
    pub means: Vec<String>,
    /// What to take care of with heat.
    pub cares: Vec<String>,
}

impl Stage {
    /// Whether one current flows through both halves, so that their base volts do not share it.
    #[must_use]
    pub fn is_in_a_row(self) -> bool {
        matches!(self, Self::Complementary | Self::QuasiComplementary)
    }
}

/// How many times the current the one draws whose base needs `volts` less, both bases at one voltage and no resistor
/// under the emitters: e^(V/Vt), the diode law at 25 °C.
///
/// ```
/// use owl_core::transistor::fellows::times_the_current;
/// // 18 mV are a factor of two, 60 mV of ten (textbook values of the diode law at room temperature).
/// assert!((times_the_current(0.0178) - 2.0).abs() < 0.01 && (times_the_current(0.0592) - 10.0).abs() < 0.02);
/// ```
#[must_use]
pub fn times_the_current(volts: f64) -> f64 {
    (volts.abs() / THERMAL_VOLTS).exp()
}

/// What a difference of base volts is on one bias, in words.
#[must_use]
pub fn on_one_bias(volts: f64) -> String {
    let kelvin = volts.abs() / number(RuleNumber::BaseVoltsPerKelvin);
    format!(
        "on one bias {:.0} mV are {:.1} times the current in the one, and as much as {kelvin:.0} K between them",
        volts.abs() * 1e3,
        times_the_current(volts)
    )
}

/// Holds two against each other, `volts` being whether their base volts were measured.
#[must_use]
pub fn compare(a: Piece, b: Piece, volts: bool, shared: &Shared) -> Compared {
    let in_a_row = shared.stage.is_some_and(Stage::is_in_a_row);
    let off = if volts { (a.base_volts - b.base_volts).abs() } else { 0.0 };
    let idle = shared
        .idle_amperes
        .filter(|_| volts && !in_a_row)
        .map(|i| share(a, b, i, shared.emitter_ohms.unwrap_or(0.0), shared));
    // What is left of the volts once the resistors have evened the currents.
    let left = match idle {
        _ if in_a_row => 0.0,
        Some(s) => THERMAL_VOLTS * (s.a_amperes / s.b_amperes).ln().abs(),
        None => off,
    };
    let apart = distance(Piece { base_volts: 0.0, ..a }, Piece { base_volts: left, ..b });
    let most = number(RuleNumber::PairDistance);
    let call = match apart {
        d if d <= most + 1e-9 => Fellowship::Passes,
        d if d <= 2.0 * most => Fellowship::Watched,
        _ => Fellowship::Apart,
    };
    let mut means = Vec::new();
    if volts && in_a_row {
        means.push(format!(
            "one current flows through both halves: {:.0} mV shift the middle, they do not share it",
            off * 1e3
        ));
    } else if let Some(s) = idle {
        let under = match shared.emitter_ohms {
            Some(r) if r > 0.0 => format!(", {} under each", format(Quantity::Resistance, r)),
            Some(_) => ", nothing under the emitters".to_owned(),
            None => ", not counting what lies under the emitters".to_owned(),
        };
        means.push(format!(
            "{} and {} at rest on one bias{under}: {} apart",
            format(Quantity::Current, s.a_amperes),
            format(Quantity::Current, s.b_amperes),
            percent((s.mismatch() * 1e3).round() / 1e3)
        ));
        means.extend(evened(a, b, shared));
    } else if volts && off * 1e3 >= 0.5 {
        means.push(on_one_bias(off));
    }
    let mut cares = Vec::new();
    if volts && !in_a_row && off > number(RuleNumber::BaseVoltsPerKelvin) {
        cares.push("both on one heat sink, and measured equally warm: 2 mV are one kelvin".to_owned());
    }
    if shared.material == Some(Material::Germanium) {
        cares.push(
            "germanium: its leak doubles with every 10 K; the bias follows by a thermistor or diode that touches them"
                .to_owned(),
        );
    }
    Compared { call, distance: apart, idle, means, cares }
}

fn share(a: Piece, b: Piece, idle: f64, ohms: f64, shared: &Shared) -> IdleShare {
    // Base volts that were measured at another current differ by the same.
    let test = shared.test_amperes.unwrap_or(idle);
    idle_share(a.base_volts, b.base_volts, test, ohms, idle)
}

/// The least usual resistor under each emitter with which they draw alike, where they do not yet.
fn evened(a: Piece, b: Piece, shared: &Shared) -> Option<String> {
    let (idle, most) = (shared.idle_amperes?, number(RuleNumber::IdleMismatch));
    let now = shared.emitter_ohms.unwrap_or(0.0);
    if share(a, b, idle, now, shared).mismatch() <= most {
        return None;
    }
    // More than a volt across it at rest is another stage.
    let ohms = between(Series::E12, 0.1, 1.0 / idle)
        .into_iter()
        .find(|r| *r > now && share(a, b, idle, *r, shared).mismatch() <= most)?;
    Some(format!(
        "{} under each brings them within {} of each other",
        format(Quantity::Resistance, ohms),
        percent(most)
    ))
}
