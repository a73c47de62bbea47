//! Gain: corrected for leakage, and carried from one collector current to another by a stated model.
//!
//! The model: relative gain r(I) = 1 / (1 + (a·Ic/I)^n + I/(b·Ic)), with the rated current Ic and three numbers for
//! each group of types (`data/gain_model.csv`): recombination at little current, high injection at much. It is good
//! to some tenths over a decade, which is why a doubt is added for each decade, and why it is not carried far.

use std::sync::LazyLock;

use serde::Deserialize;

use super::device::{Device, DeviceKind, Material};
use super::rule::{RuleNumber, number};
use crate::named::named;
use crate::source::Source;
use crate::table::rows;

named! {
    /// A group of types with one gain curve.
    "gain group" Group {
        /// Small silicon types.
        SmallSilicon = "small silicon",
        /// Silicon power types.
        PowerSilicon = "power silicon",
        /// Small germanium types.
        SmallGermanium = "small germanium",
        /// Germanium power types.
        PowerGermanium = "power germanium",
    }
}

#[derive(Deserialize)]
struct Curve {
    group: Group,
    low_knee: f64,
    low_exponent: f64,
    high_knee: f64,
    source: Source,
}

static CURVES: LazyLock<Vec<Curve>> =
    LazyLock::new(|| rows("gain_model.csv", include_str!("../../data/gain_model.csv")));

/// The group of a type; `None` of a field-effect type, and where the material is not known.
#[must_use]
pub fn group(device: &Device) -> Option<Group> {
    if device.kind != DeviceKind::Bipolar {
        return None;
    }
    device.material.map(|m| match (m, device.is_power()) {
        (Material::Silicon, false) => Group::SmallSilicon,
        (Material::Silicon, true) => Group::PowerSilicon,
        (Material::Germanium, false) => Group::SmallGermanium,
        (Material::Germanium, true) => Group::PowerGermanium,
    })
}

/// A span of gain at one current.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Span {
    /// The least; `None` where it is not known.
    pub min: Option<f64>,
    /// The most; `None` where it is not known.
    pub max: Option<f64>,
}

/// Why gain cannot be carried to another current.
#[derive(Debug, Clone, Copy, PartialEq, Eq, thiserror::Error)]
pub enum NotComparable {
    /// Neither least nor greatest gain.
    #[error("its gain is not known")]
    NoGain,
    /// The sheet does not say at which current.
    #[error("the current of its gain is not known")]
    NoCurrent,
    /// No curve.
    #[error("there is no model of its gain against current")]
    NoModel,
    /// Too far.
    #[error("the currents lie too far apart for the model")]
    TooFar,
    /// More than it stands.
    #[error("the current is above its rating")]
    AboveRating,
}

/// The gain of a type at `amperes`, widened by the model's doubt for the distance.
///
/// # Errors
/// [`NotComparable`] with the reason.
pub fn at(device: &Device, amperes: f64) -> Result<Span, NotComparable> {
    if device.gain_min.is_none() && device.gain_max.is_none() {
        return Err(NotComparable::NoGain);
    }
    let quoted = device.gain_at_amperes.filter(|i| *i > 0.0).ok_or(NotComparable::NoCurrent)?;
    if (amperes / quoted - 1.0).abs() < 0.02 {
        return Ok(Span { min: device.gain_min, max: device.gain_max });
    }
    let group = group(device).ok_or(NotComparable::NoModel)?;
    let curve = CURVES.iter().find(|c| c.group == group).ok_or(NotComparable::NoModel)?;
    let rated = device.ic_amperes.ok_or(NotComparable::NoModel)?;
    if amperes > rated * 1.000_001 {
        return Err(NotComparable::AboveRating);
    }
    let decades = (amperes / quoted).log10().abs();
    if decades > number(RuleNumber::GainDecades) {
        return Err(NotComparable::TooFar);
    }
    let relative = |i: f64| {
        1.0 / (1.0 + (curve.low_knee * rated / i).powf(curve.low_exponent) + i / (curve.high_knee * rated))
    };
    let carried = relative(amperes) / relative(quoted);
    let doubt = 1.0 + number(RuleNumber::GainDoubt) * decades;
    Ok(Span {
        min: device.gain_min.map(|g| g * carried / doubt),
        max: device.gain_max.map(|g| g * carried * doubt),
    })
}

/// The model's source for a type.
#[must_use]
pub fn model_source(device: &Device) -> Option<&'static Source> {
    let group = group(device)?;
    CURVES.iter().find(|c| c.group == group).map(|c| &c.source)
}

/// Why a measured gain cannot be corrected.
#[derive(Debug, Clone, Copy, PartialEq, thiserror::Error)]
pub enum GainError {
    /// No base current.
    #[error("a base current above zero is needed")]
    NoBase,
    /// More leaks than flows.
    #[error(
        "more leaks than flows with the base fed: the leakage was measured warmer, or the leads are wrong"
    )]
    AllLeak,
}

/// The true gain: β = (Ic − Iceo) / Ib (R11). Without the correction a leaking germanium type looks better the worse
/// it is.
///
/// ```
/// use owl_core::transistor::gain::corrected;
/// // 3 mA with 20 µA into the base, 0.6 mA of it leaks without any base current.
/// assert_eq!(corrected(3.0e-3, 0.6e-3, 20e-6).map(f64::round), Ok(120.0));
/// assert!(corrected(0.5e-3, 0.6e-3, 20e-6).is_err());
/// ```
///
/// # Errors
/// [`GainError`] without a base current, and where more leaks than flows.
pub fn corrected(collector_amperes: f64, leakage_amperes: f64, base_amperes: f64) -> Result<f64, GainError> {
    if base_amperes.is_nan() || base_amperes <= 0.0 {
        return Err(GainError::NoBase);
    }
    if leakage_amperes >= collector_amperes {
        return Err(GainError::AllLeak);
    }
    Ok((collector_amperes - leakage_amperes) / base_amperes)
}

#[derive(Deserialize)]
struct Leakage {
    material: Material,
    size: String,
    cut_off_amperes: f64,
    open_base_most_amperes: f64,
    doubles_each_kelvin: f64,
    about: String,
    source: Source,
}

static LEAKAGE: LazyLock<Vec<Leakage>> =
    LazyLock::new(|| rows("transistor_leakage.csv", include_str!("../../data/transistor_leakage.csv")));

/// What may leak, at a temperature.
#[derive(Debug, Clone, PartialEq)]
pub struct LeakLimit {
    /// Collector to base with the emitter open, ampere.
    pub cut_off_amperes: f64,
    /// Collector to emitter with the base open, ampere: the same times the gain and one, and no more than such a device
    /// may whatever its gain is read as, because a leak reads as gain.
    pub open_base_amperes: f64,
    /// What is meant by it.
    pub about: &'static str,
    /// Where it comes from.
    pub source: &'static Source,
}

/// The most that a sound transistor leaks at `celsius`, with a gain of `gain`.
///
/// Iceo = (β + 1) × Icbo, at most what the table has for a device of its material and size; and Icbo doubles with every 8 to 10 K (`data/transistor_leakage.csv`).
#[must_use]
pub fn leak_limit(material: Material, power: bool, gain: f64, celsius: f64) -> Option<LeakLimit> {
    let size = if power { "power" } else { "small" };
    let row = LEAKAGE.iter().find(|r| r.material == material && r.size == size)?;
    let warmer = ((celsius - 25.0) / row.doubles_each_kelvin).exp2();
    let warm = row.cut_off_amperes * warmer;
    Some(LeakLimit {
        cut_off_amperes: warm,
        open_base_amperes: (warm * (gain.max(0.0) + 1.0)).min(row.open_base_most_amperes * warmer),
        about: &row.about,
        source: &row.source,
    })
}

/// What leaks at 25 °C when `amperes` leak at `celsius`.
#[must_use]
pub fn leak_cold(material: Material, amperes: f64, celsius: f64) -> Option<f64> {
    let row = LEAKAGE.iter().find(|r| r.material == material)?;
    Some(amperes / ((celsius - 25.0) / row.doubles_each_kelvin).exp2())
}
