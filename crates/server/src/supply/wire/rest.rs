//! The JSON shapes of touch current, ripple and lamp limiters.

use owl_core::quantity::Volt;
use owl_core::quantity::format::percent;
use owl_core::supply::lamp::{Limited, proposed};
use owl_core::supply::touch::Touch;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::ShownView;

/// A capacitor between line and chassis.
#[derive(Debug, Deserialize, ToSchema)]
pub struct TouchQuestion {
    /// In farad.
    pub capacitance: f64,
    /// In volt rms.
    pub line: f64,
    /// In hertz.
    pub frequency: f64,
}

/// What flows through a person.
#[derive(Debug, Serialize, ToSchema)]
pub struct TouchAnswer {
    /// In ampere rms.
    pub current: f64,
    /// Whether that is within the published limit.
    pub within: bool,
    /// The greatest capacitance within it, in farad.
    pub most: f64,
    /// As shown.
    pub shown: Vec<ShownView>,
}

impl TouchAnswer {
    pub(in crate::supply) fn of(t: &Touch) -> Self {
        let limit = owl_core::supply::touch::LIMIT;
        let verdict = if t.within { format!("within {limit}") } else { format!("more than {limit}") };
        Self {
            current: t.current.amperes(),
            within: t.within,
            most: t.most.farads(),
            shown: vec![
                ShownView::new("flows through a hand", t.current),
                ShownView::new("published limit", verdict),
                ShownView::new("most that stays within it", t.most),
            ],
        }
    }
}

/// A ripple and the sections behind it.
#[derive(Debug, Deserialize, ToSchema)]
pub struct RippleQuestion {
    /// Peak to peak, in volt.
    pub ripple: f64,
    /// Of the ripple, in hertz: the line's for half-wave, twice that otherwise.
    pub frequency: f64,
    /// One after the other.
    #[schema(max_items = 200)]
    pub sections: Vec<SectionBody>,
}

/// A filter section.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(untagged, expecting = "a section has a resistor or a choke, and a capacitance")]
pub enum SectionBody {
    /// With a resistor.
    Resistor {
        /// In ohm.
        resistor: f64,
        /// In farad.
        capacitance: f64,
    },
    /// With a choke.
    Choke {
        /// In henry.
        choke: f64,
        /// In farad.
        capacitance: f64,
    },
}

impl SectionBody {
    pub(in crate::supply) fn capacitance(&self) -> f64 {
        match self {
            Self::Resistor { capacitance, .. } | Self::Choke { capacitance, .. } => *capacitance,
        }
    }
}

/// What is left.
#[derive(Debug, Serialize, ToSchema)]
pub struct RippleAnswer {
    /// Behind each section, in volt.
    pub left: Vec<f64>,
    /// As shown.
    pub shown: Vec<ShownView>,
}

impl RippleAnswer {
    pub(in crate::supply) fn of(left: &[Volt]) -> Self {
        let shown = |(i, v): (usize, &Volt)| ShownView {
            label: format!("behind section {}", i + 1),
            text: v.to_string(),
        };
        Self {
            left: left.iter().map(|v| v.volts()).collect(),
            shown: left.iter().enumerate().map(shown).collect(),
        }
    }
}

/// A set behind a bulb.
#[derive(Debug, Deserialize, ToSchema)]
pub struct LimiterQuestion {
    /// Volts of the line.
    pub line: f64,
    /// What the set draws, in watt.
    pub watts: f64,
}

/// What each bulb does.
#[derive(Debug, Serialize, ToSchema)]
pub struct LimiterAnswer {
    /// The smallest first.
    pub bulbs: Vec<BulbView>,
    /// Watts of the one that is proposed; null where none is large enough.
    pub proposed: Option<f64>,
}

/// What a bulb does.
#[derive(Debug, Serialize, ToSchema)]
pub struct BulbView {
    /// In watt, at the line's volts.
    pub bulb: f64,
    /// What the set sees, in volt.
    pub set_volts: f64,
    /// As a share of the line.
    pub share: f64,
    /// What flows when the set is a short, in ampere.
    pub short_current: f64,
    /// Whether the set sees enough to play.
    pub enough: bool,
    /// As shown: bulb, set's volts, short's current.
    pub shown: Vec<String>,
}

impl LimiterAnswer {
    pub(in crate::supply) fn of(all: &[Limited]) -> Self {
        let bulb = |l: &Limited| BulbView {
            bulb: l.bulb.watts(),
            set_volts: l.set_volts.volts(),
            share: l.share.fraction(),
            short_current: l.short_current.amperes(),
            enough: l.enough,
            shown: vec![
                l.bulb.to_string(),
                format!(
                    "{} V, {}",
                    l.set_volts.volts().round(),
                    percent((l.share.fraction() * 100.0).round() / 100.0)
                ),
                l.short_current.to_string(),
            ],
        };
        Self { bulbs: all.iter().map(bulb).collect(), proposed: proposed(all).map(|l| l.bulb.watts()) }
    }
}
