//! The JSON shapes of rectifiers.

use owl_core::quantity::Ohm;
use owl_core::supply::rectifier::{Arrangement, ForTarget, RectifierKind, Steady, Supply};
use owl_core::supply::switch_on::SwitchOn;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use super::{PreferredView, RatingView, ShownView};

/// A supply with capacitor input.
#[derive(Debug, Deserialize, ToSchema)]
pub struct RectifierQuestion {
    /// How the rectifiers are arranged.
    pub circuit: Arrangement,
    /// Volts rms at the rectifier; of one half where the winding has a middle tap.
    #[schema(exclusive_minimum = 0)]
    pub line: f64,
    /// In hertz.
    #[schema(minimum = 10, maximum = 1000)]
    pub frequency: f64,
    /// What rectifies.
    pub rectifier: RectifierBody,
    /// Ohm of transformer and line.
    #[schema(minimum = 0)]
    pub source_resistance: Option<f64>,
    /// Ohm of the series resistor.
    #[schema(minimum = 0)]
    pub series: Option<f64>,
    /// The first capacitor, in farad.
    #[schema(exclusive_minimum = 0)]
    pub capacitance: f64,
    /// What hangs on the rail.
    pub load: RectifierLoad,
    /// The average that is wanted.
    pub target: Option<f64>,
}

/// What rectifies; drop and resistance by its kind where they do not say.
#[derive(Debug, Deserialize, ToSchema)]
pub struct RectifierBody {
    /// Of what.
    pub kind: RectifierKind,
    /// Volts that one drops at any current.
    #[schema(minimum = 0)]
    pub drop: Option<f64>,
    /// Ohm of one in series with that.
    #[schema(minimum = 0)]
    pub resistance: Option<f64>,
    /// Of silicon: its type, where it is chosen.
    #[serde(rename = "type")]
    pub type_number: Option<String>,
}

/// What hangs on the rail.
#[derive(Debug, Deserialize, ToSchema)]
#[serde(untagged, expecting = "say the load as a current or as a resistance")]
pub enum RectifierLoad {
    /// A constant current.
    Current {
        /// In ampere.
        current: f64,
    },
    /// A resistance.
    Resistance {
        /// In ohm.
        resistance: f64,
    },
}

/// The steady state.
#[derive(Debug, Serialize, ToSchema)]
pub struct RectifierAnswer {
    /// Average on the capacitor.
    pub volts: f64,
    /// Peak to peak.
    pub ripple: f64,
    /// The most.
    pub peak: f64,
    /// The least.
    pub low: f64,
    /// Peak of the charging current.
    pub peak_current: f64,
    /// Its root mean square.
    pub rms_current: f64,
    /// Ripple current of the capacitor, rms.
    pub capacitor_current: f64,
    /// What the series resistor dissipates.
    pub series_power: f64,
    /// What stands across a rectifier the wrong way.
    pub reverse: f64,
    /// What flows at the worst moment of switching on.
    pub inrush: f64,
    /// Of silicon: what stands on the filter before the valves draw.
    pub switch_on: Option<f64>,
    /// What cannot well hold together, and of silicon what is wrong at switch-on, in words.
    #[serde(serialize_with = "crate::dialect::said")]
    pub warnings: Vec<String>,
    /// One line period.
    pub waveform: WaveformView,
    /// The series resistance that brings the average to the target; null where nothing does.
    pub for_target: Option<ForTargetView>,
    /// As shown: a label and a number for each.
    pub shown: Vec<ShownView>,
}

/// One line period.
#[derive(Debug, Serialize, ToSchema)]
pub struct WaveformView {
    /// In seconds.
    pub time: Vec<f64>,
    /// On the capacitor.
    pub volts: Vec<f64>,
    /// Charging it.
    pub current: Vec<f64>,
}

/// The series resistor for a target.
#[derive(Debug, Serialize, ToSchema)]
pub struct ForTargetView {
    /// In ohm.
    pub series: f64,
    /// What it dissipates, in watt.
    pub series_power: f64,
    /// What it should be rated at.
    pub rating: RatingView,
    /// What can be bought; its volts are the average with it.
    pub preferred: Option<PreferredView>,
    /// The average with `series`.
    pub volts: f64,
    /// In a line.
    #[serde(serialize_with = "crate::dialect::said")]
    pub text: String,
}

impl RectifierAnswer {
    pub(in crate::supply) fn of(
        s: &Steady,
        t: Option<&ForTarget>,
        supply: &Supply,
        at_once: Option<&SwitchOn>,
        mut warnings: Vec<String>,
    ) -> Self {
        let mut list = vec![
            ShownView::new("rail, average", s.average),
            ShownView::new("ripple, peak to peak", s.ripple),
            ShownView::new("peak charging current", s.peak_current),
            ShownView::new("charging current, rms", s.rms_current),
            ShownView::new("ripple current of the capacitor", s.capacitor_current),
            ShownView::new("across a rectifier, the wrong way", s.reverse),
            ShownView::new("worst inrush", s.inrush),
        ];
        if supply.series > Ohm::ZERO {
            list.insert(4, ShownView::new("in the series resistor", s.series_power));
        }
        if let Some(on) = at_once {
            list.push(ShownView::new("before the valves draw", on.volts));
            warnings.extend(on.warnings.iter().cloned());
        }
        Self {
            switch_on: at_once.map(|on| on.volts.volts()),
            warnings,
            volts: s.average.volts(),
            ripple: s.ripple.volts(),
            peak: s.peak.volts(),
            low: s.low.volts(),
            peak_current: s.peak_current.amperes(),
            rms_current: s.rms_current.amperes(),
            capacitor_current: s.capacitor_current.amperes(),
            series_power: s.series_power.watts(),
            reverse: s.reverse.volts(),
            inrush: s.inrush.amperes(),
            waveform: WaveformView {
                time: s.waveform.seconds.clone(),
                volts: s.waveform.volts.clone(),
                current: s.waveform.amperes.clone(),
            },
            for_target: t.map(|t| ForTargetView {
                series: t.series.ohms(),
                series_power: t.series_power.watts(),
                rating: (&t.rating).into(),
                preferred: t.preferred.as_ref().map(PreferredView::from),
                volts: t.volts.volts(),
                text: format!("{} in series, {} in it", t.series, t.series_power),
            }),
            shown: list,
        }
    }
}
