//! The JSON shapes of supply arithmetic. Numbers are in base units; beside them stands the text in which they are
//! shown.

mod chain;
mod chart;
mod rectifier;
mod rest;

pub use chain::{ChainAnswer, ChainQuestion, SettledView};
pub use chart::{ChartAnswer, ChartQuestion};
pub use rectifier::{RectifierAnswer, RectifierBody, RectifierLoad, RectifierQuestion};
pub use rest::{
    LimiterAnswer, LimiterQuestion, RippleAnswer, RippleQuestion, SectionBody, TouchAnswer, TouchQuestion,
};

use owl_core::quantity::format::signed_percent;
use owl_core::quantity::{Quantity, Volt, Watt};
use owl_core::supply::discharge::{Danger, Discharge, cautions};
use owl_core::supply::dropper::Dropper;
use owl_core::supply::field_coil::MadeUp;
use owl_core::supply::{Preferred, Rating};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

/// What a resistor should be rated at, in watt.
#[derive(Debug, Serialize, ToSchema)]
pub struct RatingView {
    /// Twice what it dissipates.
    pub low: f64,
    /// Five times: it stays cool.
    pub high: f64,
    /// As shown.
    #[serde(serialize_with = "crate::dialect::said")]
    pub text: String,
}

impl From<&Rating> for RatingView {
    fn from(r: &Rating) -> Self {
        Self { low: r.low.watts(), high: r.high.watts(), text: r.to_string() }
    }
}

/// What can be bought.
#[derive(Debug, Serialize, ToSchema)]
pub struct PreferredView {
    /// In ohm, of E24.
    pub value: f64,
    /// What it dissipates, in watt.
    pub power: f64,
    /// The smallest size sold that is enough, in watt; null beyond the largest.
    pub size: Option<f64>,
    /// The volts that result with it.
    pub volts: f64,
    /// As shown.
    pub text: String,
}

impl From<&Preferred> for PreferredView {
    fn from(p: &Preferred) -> Self {
        let size = p.size.map_or_else(|| "share it among several".to_owned(), |w| format!("{w} or more"));
        Self {
            value: p.value.ohms(),
            power: p.dissipated.watts(),
            size: p.size.map(Watt::watts),
            volts: p.volts.volts(),
            text: format!("{}, {} in it, {size}: {}", p.value, p.dissipated, p.volts),
        }
    }
}

/// A supply, a load, and its current.
#[derive(Debug, Deserialize, ToSchema)]
pub struct SeriesQuestion {
    /// Volts of the supply.
    pub supply: f64,
    /// Volts of the load.
    pub load: f64,
    /// Amperes of the load; left out, they follow from `drop` and `through`.
    pub current: Option<f64>,
    /// Volts across a resistor that carries the load's current, such as the old one.
    pub drop: Option<f64>,
    /// Its ohms.
    pub through: Option<f64>,
}

/// The dropping resistor.
#[derive(Debug, Serialize, ToSchema)]
pub struct SeriesAnswer {
    /// In ohm.
    pub resistor: f64,
    /// What it dissipates, in watt.
    pub power: f64,
    /// What it should be rated at.
    pub rating: RatingView,
    /// What can be bought; its volts are those of the load.
    pub preferred: Option<PreferredView>,
    /// The sum in a line.
    #[serde(serialize_with = "crate::dialect::said")]
    pub text: String,
}

impl SeriesAnswer {
    pub(in crate::supply) fn of(d: &Dropper) -> Self {
        Self {
            resistor: d.resistor.ohms(),
            power: d.dissipated.watts(),
            rating: (&d.rating).into(),
            preferred: d.preferred.as_ref().map(PreferredView::from),
            text: format!("{}, {} in it", d.resistor, d.dissipated),
        }
    }
}

/// A label and a number.
#[derive(Debug, Serialize, ToSchema)]
pub struct ShownView {
    /// What it is.
    #[serde(serialize_with = "crate::dialect::said")]
    pub label: String,
    /// As shown.
    pub text: String,
}

impl ShownView {
    fn new(label: &str, text: impl ToString) -> Self {
        Self { label: label.to_owned(), text: text.to_string() }
    }
}

/// A charged capacitor and a resistor.
#[derive(Debug, Deserialize, ToSchema)]
pub struct DischargeQuestion {
    /// In farad.
    pub capacitance: f64,
    /// In volt.
    pub voltage: f64,
    /// In ohm.
    pub resistor: f64,
    /// What counts as empty, in volt; 5 where it does not say, and no more than that.
    pub safe: Option<f64>,
}

/// How it goes.
#[derive(Debug, Serialize, ToSchema)]
pub struct DischargeAnswer {
    /// Until it is safe.
    pub seconds: f64,
    /// In joule.
    pub energy: f64,
    /// In the first moment, in watt.
    pub peak_power: f64,
    /// In the first moment, in ampere.
    pub peak_current: f64,
    /// What it can do to a hand.
    pub danger: Danger,
    /// What to mind before a hand goes in.
    #[serde(serialize_with = "crate::dialect::said")]
    pub cautions: Vec<String>,
    /// As shown.
    pub shown: Vec<ShownView>,
}

impl DischargeAnswer {
    pub(in crate::supply) fn of(d: &Discharge, voltage: Volt) -> Self {
        let joule = owl_core::quantity::format::format(Quantity::Ratio, d.energy_joules).number;
        Self {
            seconds: d.time.seconds(),
            energy: d.energy_joules,
            peak_power: d.peak.watts(),
            peak_current: d.peak_current.amperes(),
            danger: d.danger,
            cautions: cautions(d, voltage),
            shown: vec![
                ShownView::new("until it is safe", d.time),
                ShownView::new("stored", format!("{joule} J")),
                ShownView::new("in the resistor at first", d.peak),
                ShownView::new("flows at first", d.peak_current),
            ],
        }
    }
}

/// A field coil that is short of its resistance.
#[derive(Debug, Deserialize, ToSchema)]
pub struct FieldCoilQuestion {
    /// Ohm by the sheet.
    pub wanted: f64,
    /// Ohm that are there; none where the coil is left out.
    pub present: Option<f64>,
    /// Amperes through it.
    pub current: Option<f64>,
    /// Or the volts across what makes up.
    pub drop: Option<f64>,
}

/// What makes up.
#[derive(Debug, Serialize, ToSchema)]
pub struct FieldCoilAnswer {
    /// Ohm that are missing.
    pub missing: f64,
    /// What goes in; its volts are those across it.
    pub resistor: PreferredView,
    /// Amperes.
    pub current: f64,
    /// What it dissipates, in watt.
    pub power: f64,
    /// What it should be rated at.
    pub rating: RatingView,
    /// Whether a coil stays that still smooths.
    pub choke_kept: bool,
    /// The whole against the sheet, as a fraction.
    pub deviation: f64,
    /// As shown.
    pub shown: Vec<ShownView>,
}

impl FieldCoilAnswer {
    pub(in crate::supply) fn of(m: &MadeUp) -> Self {
        let choke = if m.choke_kept {
            "kept: the coil still smooths"
        } else {
            "lost: hum rises; a choke or a larger capacitor behind it takes it back"
        };
        Self {
            missing: m.missing.ohms(),
            resistor: (&m.resistor).into(),
            current: m.current.amperes(),
            power: m.resistor.dissipated.watts(),
            rating: (&m.rating).into(),
            choke_kept: m.choke_kept,
            deviation: m.deviation,
            shown: vec![
                ShownView::new("missing", m.missing),
                ShownView::new("fit", m.resistor.value),
                ShownView::new("across it", m.resistor.volts),
                ShownView::new("flows", m.current),
                ShownView::new("in it", m.resistor.dissipated),
                ShownView::new("rated", m.rating),
                ShownView::new("choke", choke.to_owned()),
                ShownView::new("whole against the sheet", signed_percent(m.deviation)),
            ],
        }
    }
}
