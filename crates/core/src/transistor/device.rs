//! What is known of a registered transistor: its limits, its gain and where that is quoted, its leads.
//!
//! What nobody knows is `None`: never guessed, never zero.

use std::sync::LazyLock;

use serde::Deserialize;

use super::package::{Lead, Pinout};
use crate::named::named;
use crate::part::{JunctionTest, Transistor};
pub use crate::part::{Material, Polarity};
use crate::quantity::{Ampere, Volt};
use crate::source::Source;
use crate::table::{rows, yes};

named! {
    /// What kind of transistor it is.
    "transistor kind" DeviceKind {
        /// Two junctions.
        Bipolar = "bipolar",
        /// Two bipolar ones in one case, the second driven by the first.
        Darlington = "darlington",
        /// A channel under a junction.
        Jfet = "jfet",
        /// A channel under an insulated gate.
        Mosfet = "mosfet",
    }
}

impl DeviceKind {
    /// Whether it has a base, an emitter and a collector.
    #[must_use]
    pub fn has_base(self) -> bool {
        match self {
            Self::Bipolar | Self::Darlington => true,
            Self::Jfet | Self::Mosfet => false,
        }
    }
}

named! {
    /// Where the temperature of a power rating is held.
    "power reference" PowerReference {
        /// In free air.
        Ambient = "ambient",
        /// At the case.
        Case = "case",
    }
}

named! {
    /// What the case is connected to.
    "case connection" CaseLead {
        /// To the collector: it is live.
        Collector = "collector",
        /// To the emitter.
        Emitter = "emitter",
        /// To the base.
        Base = "base",
        /// To the drain.
        Drain = "drain",
        /// To the gate.
        Gate = "gate",
        /// To a lead of its own.
        Shield = "shield",
        /// To nothing.
        Insulated = "insulated",
    }
}

named! {
    /// How far a row is to be trusted.
    "sureness" Sure {
        /// Well known.
        Sure = "sure",
        /// Known, not beyond doubt.
        Fair = "fair",
        /// Look it up before relying on it.
        Doubtful = "doubtful",
    }
}

/// A registered transistor. Of a field-effect type `vcbo` is drain to gate, `vceo` drain to source, `vebo` gate to
/// source, `ic` the drain's current.
#[derive(Debug, Clone, PartialEq, Deserialize)]
pub struct Device {
    /// Its type number.
    #[serde(rename = "type")]
    pub type_number: String,
    /// Its kind.
    pub kind: DeviceKind,
    /// Its polarity.
    pub polarity: Polarity,
    /// Its material.
    pub material: Option<Material>,
    /// Collector to base with the emitter open, volt.
    #[serde(rename = "vcbo")]
    pub vcbo_volts: Option<f64>,
    /// Collector to emitter with the base open, volt.
    #[serde(rename = "vceo")]
    pub vceo_volts: Option<f64>,
    /// Collector to emitter with a resistor from base to emitter, volt: what is registered in place of `vceo` where the
    /// base is never open.
    #[serde(rename = "vcer")]
    pub vcer_volts: Option<f64>,
    /// Emitter to base the wrong way, volt.
    #[serde(rename = "vebo")]
    pub vebo_volts: Option<f64>,
    /// Greatest collector current, ampere.
    #[serde(rename = "ic")]
    pub ic_amperes: Option<f64>,
    /// Greatest dissipation, watt.
    #[serde(rename = "p")]
    pub power_watts: Option<f64>,
    /// Where that temperature is held.
    #[serde(rename = "p_ref")]
    pub power_reference: Option<PowerReference>,
    /// At which temperature the power is quoted, °C.
    #[serde(rename = "p_at")]
    pub power_at_celsius: Option<f64>,
    /// Greatest junction temperature, °C.
    #[serde(rename = "tj")]
    pub junction_celsius: Option<f64>,
    /// Thermal resistance from the junction to the reference, K/W, where it is published.
    #[serde(rename = "rth")]
    pub rth_kelvin_per_watt: Option<f64>,
    /// Least gain.
    #[serde(rename = "hfe_min")]
    pub gain_min: Option<f64>,
    /// Greatest gain.
    #[serde(rename = "hfe_max")]
    pub gain_max: Option<f64>,
    /// At which collector current the gain is quoted, ampere.
    #[serde(rename = "hfe_ic")]
    pub gain_at_amperes: Option<f64>,
    /// At which collector voltage the gain is quoted, volt.
    #[serde(rename = "hfe_vce")]
    pub gain_at_volts: Option<f64>,
    /// Transition frequency, hertz.
    #[serde(rename = "ft")]
    pub ft_hertz: Option<f64>,
    /// Output capacitance, farad.
    #[serde(rename = "cob")]
    pub cob_farads: Option<f64>,
    /// Of a field-effect type: least drain current at zero gate volts, ampere.
    #[serde(rename = "idss_min")]
    pub idss_min_amperes: Option<f64>,
    /// Of a field-effect type: greatest drain current at zero gate volts, ampere.
    #[serde(rename = "idss_max")]
    pub idss_max_amperes: Option<f64>,
    /// Of a field-effect type: least transconductance, siemens.
    #[serde(rename = "gfs")]
    pub gfs_siemens: Option<f64>,
    /// Its package by its registered outline; empty where it is not known.
    pub package: String,
    /// Its leads in the order of the package, seen from below.
    pub pinout: Option<Pinout>,
    /// Whether makers have it with their leads in another order: then the order here is one of several.
    #[serde(deserialize_with = "yes")]
    pub leads_vary: bool,
    /// What its case is connected to.
    pub case: Option<CaseLead>,
    /// What it is usually used for.
    #[serde(rename = "use")]
    pub usual_use: String,
    /// How far the row is to be trusted.
    pub sure: Sure,
    /// Where the row comes from.
    pub source: Source,
}

static DEVICES: LazyLock<Vec<Device>> =
    LazyLock::new(|| rows("device.csv", include_str!("../../data/device.csv")));

/// The transistors of the built-in table.
#[must_use]
pub fn devices() -> &'static [Device] {
    &DEVICES
}

/// The built-in transistor of that type number, capitals or not; `None` where there is none.
///
/// ```
/// use owl_core::transistor::device::{device, Polarity};
/// assert_eq!(device("bc547").map(|d| d.polarity), Some(Polarity::Npn));
/// assert!(device("nonesuch").is_none());
/// ```
#[must_use]
pub fn device(type_number: &str) -> Option<&'static Device> {
    DEVICES.iter().find(|d| d.is_called(type_number))
}

/// The whole of a Japanese type that is printed without its first two characters: 2SC945 of C945 (JIS C 7012); `None` of
/// what is none. Capitals as given.
#[must_use]
pub fn with_prefix(printed: &str) -> Option<String> {
    let letter = printed.starts_with(['A', 'B', 'C', 'D', 'J', 'K', 'a', 'b', 'c', 'd', 'j', 'k']);
    let number = printed.get(1..).is_some_and(|n| n.starts_with(|c: char| c.is_ascii_digit()));
    (letter && number)
        .then(|| format!("{}{printed}", if printed.starts_with(char::is_uppercase) { "2S" } else { "2s" }))
}

/// The type among `devices` that is meant by a print: of that number, of that number with 2S before it, as JIS types are
/// printed, or, where a letter behind it stands for a group of gain, of the number without that letter.
#[must_use]
pub fn meant<'a>(type_number: &str, devices: impl Fn(&str) -> Option<&'a Device>) -> Option<&'a Device> {
    let text: String =
        type_number.trim().to_ascii_uppercase().chars().filter(|c| !c.is_whitespace()).collect();
    let full = |t: &str| devices(t).or_else(|| devices(&with_prefix(t)?));
    full(&text).or_else(|| {
        let shorter = text.strip_suffix(|c: char| c.is_ascii_alphabetic())?;
        full(shorter.trim_end_matches('-'))
    })
}

/// A transistor by its sheet, where its type is known, with the test of its junctions.
#[must_use]
pub fn by_sheet(device: Option<&Device>, junctions: Option<JunctionTest>) -> Transistor {
    Transistor {
        material: device.and_then(|d| d.material),
        polarity: device.map(|d| d.polarity),
        power: device.is_some_and(Device::is_power),
        gain_min: device.and_then(|d| d.gain_min),
        gain_max: device.and_then(|d| d.gain_max),
        gain_at: device.and_then(|d| d.gain_at_amperes).and_then(|i| Ampere::new(i).ok()),
        vceo: device.and_then(Device::collector_volts).and_then(|v| Volt::new(v).ok()),
        junctions,
    }
}

impl Device {
    /// One of which nothing is known but its kind and polarity.
    #[must_use]
    pub fn unknown(kind: DeviceKind, polarity: Polarity) -> Self {
        Self {
            type_number: String::new(),
            kind,
            polarity,
            material: None,
            vcbo_volts: None,
            vceo_volts: None,
            vcer_volts: None,
            vebo_volts: None,
            ic_amperes: None,
            power_watts: None,
            power_reference: None,
            power_at_celsius: None,
            junction_celsius: None,
            rth_kelvin_per_watt: None,
            gain_min: None,
            gain_max: None,
            gain_at_amperes: None,
            gain_at_volts: None,
            ft_hertz: None,
            cob_farads: None,
            idss_min_amperes: None,
            idss_max_amperes: None,
            gfs_siemens: None,
            package: String::new(),
            pinout: None,
            leads_vary: false,
            case: None,
            usual_use: String::new(),
            sure: Sure::Doubtful,
            source: Source::memory(""),
        }
    }

    /// Whether that is its type number; capitals and spaces do not count.
    #[must_use]
    pub fn is_called(&self, type_number: &str) -> bool {
        self.type_number.eq_ignore_ascii_case(type_number.trim())
    }

    /// What it may dissipate in watts with its reference at `celsius`; `None` where its rating or its junction
    /// limit is not known.
    ///
    /// P(T) = P × (Tj − T) / (Tj − T₀) above the temperature T₀ at which it is quoted, and P below it (the
    /// published derating line).
    #[must_use]
    pub fn power_at(&self, celsius: f64) -> Option<f64> {
        let (watts, at) = (self.power_watts?, self.power_at_celsius?);
        if celsius <= at {
            return Some(watts);
        }
        let most = self.junction_celsius?;
        (most > at).then(|| watts * ((most - celsius) / (most - at)).max(0.0))
    }

    /// Thermal resistance from junction to reference in K/W: as published, otherwise what the rating means.
    #[must_use]
    pub fn thermal_resistance(&self) -> Option<f64> {
        self.rth_kelvin_per_watt.or_else(|| {
            let (w, at, tj) = (self.power_watts?, self.power_at_celsius?, self.junction_celsius?);
            (w > 0.0 && tj > at).then(|| (tj - at) / w)
        })
    }

    /// Collector to emitter as registered, volt: with the base open, or with a resistor there where that alone is
    /// registered.
    #[must_use]
    pub fn collector_volts(&self) -> Option<f64> {
        self.vceo_volts.or(self.vcer_volts)
    }

    /// Whether it is made for audio by its number (Pro Electron C and D, JIS B and D) or by its usual use.
    #[must_use]
    pub fn is_for_audio(&self) -> bool {
        let t = self.type_number.to_ascii_uppercase();
        let letter = if let Some(jis) = t.strip_prefix("2S") {
            jis.starts_with(['B', 'D'])
        } else {
            t.starts_with(['A', 'B']) && t[1..].starts_with(['C', 'D'])
        };
        let use_of = self.usual_use.as_str();
        let radio = ["frequency", "MHz", "mixer", "oscillator"].iter().any(|w| use_of.contains(w));
        !radio && (letter || use_of.contains("audio"))
    }

    /// Whether it counts as a power type: it is quoted at the case, or for a watt and more.
    #[must_use]
    pub fn is_power(&self) -> bool {
        self.power_watts.is_some_and(|w| w >= super::rule::number(super::rule::RuleNumber::PowerSize))
    }

    /// Which lead an electrode is on, counted from 1; `None` where the pinout is not known or it has none such.
    #[must_use]
    pub fn lead_of(&self, electrode: Lead) -> Option<usize> {
        self.pinout.and_then(|p| p.position(electrode)).map(|i| i + 1)
    }
}
