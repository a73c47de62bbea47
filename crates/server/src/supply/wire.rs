//! The JSON shapes of supply arithmetic. Numbers are in base units; beside them stands the text in which they are
//! shown.

use owl_core::quantity::write::{percent, signed_percent};
use owl_core::quantity::{Ampere, Fraction, Ohm, Quantity, Volt, Watt};
use owl_core::supply::discharge::Discharge;
use owl_core::supply::dropper::Dropper;
use owl_core::supply::field_coil::MadeUp;
use owl_core::supply::heater::{Chain, Member};
use owl_core::supply::lamp::{Limited, proposed};
use owl_core::supply::line::{HEATER_WINDOW, Scaled};
use owl_core::supply::rectifier::{ForTarget, Steady, Supply};
use owl_core::supply::touch::Touch;
use owl_core::supply::{Preferred, Rating};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::name::{ArrangementName, RectifierKindName};

/// What a resistor should be rated at, in watt.
#[derive(Debug, Serialize, ToSchema)]
pub struct RatingView {
    /// Twice what it dissipates.
    pub low: f64,
    /// Five times: it stays cool.
    pub high: f64,
    /// As shown.
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
    /// Amperes of the load.
    pub current: f64,
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
    pub text: String,
}

impl SeriesAnswer {
    pub(super) fn of(d: &Dropper) -> Self {
        Self {
            resistor: d.resistor.ohms(),
            power: d.dissipated.watts(),
            rating: (&d.rating).into(),
            preferred: d.preferred.as_ref().map(PreferredView::from),
            text: format!("{}, {} in it", d.resistor, d.dissipated),
        }
    }
}

/// A supply with capacitor input.
#[derive(Debug, Deserialize, ToSchema)]
pub struct RectifierQuestion {
    /// How the rectifiers are arranged.
    pub circuit: ArrangementName,
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
    pub kind: RectifierKindName,
    /// Volts that one drops at any current.
    #[schema(minimum = 0)]
    pub drop: Option<f64>,
    /// Ohm of one in series with that.
    #[schema(minimum = 0)]
    pub resistance: Option<f64>,
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
    /// One line period.
    pub waveform: WaveformView,
    /// The series resistance that brings the average to the target; null where nothing does.
    pub for_target: Option<ForTargetView>,
    /// As shown: a label and a number for each.
    pub shown: Vec<ShownView>,
}

/// A label and a number.
#[derive(Debug, Serialize, ToSchema)]
pub struct ShownView {
    /// What it is.
    pub label: String,
    /// As shown.
    pub text: String,
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
    pub text: String,
}

impl RectifierAnswer {
    pub(super) fn of(s: &Steady, t: Option<&ForTarget>, supply: &Supply) -> Self {
        let shown = |label: &str, text: String| ShownView { label: label.to_owned(), text };
        let mut list = vec![
            shown("rail, average", s.average.to_string()),
            shown("ripple, peak to peak", s.ripple.to_string()),
            shown("peak charging current", s.peak_current.to_string()),
            shown("charging current, rms", s.rms_current.to_string()),
            shown("ripple current of the capacitor", s.capacitor_current.to_string()),
            shown("across a rectifier, the wrong way", s.reverse.to_string()),
            shown("worst inrush", s.inrush.to_string()),
        ];
        if supply.series > Ohm::ZERO {
            list.insert(4, shown("in the series resistor", s.series_power.to_string()));
        }
        Self {
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

/// A charged capacitor and a resistor.
#[derive(Debug, Deserialize, ToSchema)]
pub struct DischargeQuestion {
    /// In farad.
    pub capacitance: f64,
    /// In volt.
    pub voltage: f64,
    /// In ohm.
    pub resistor: f64,
    /// What counts as empty, in volt; 5 where it does not say.
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
    /// As shown.
    pub shown: Vec<ShownView>,
}

impl DischargeAnswer {
    pub(super) fn of(d: &Discharge) -> Self {
        let shown = |label: &str, text: String| ShownView { label: label.to_owned(), text };
        let joule = owl_core::quantity::write::write(Quantity::Ratio, d.energy_joules).number;
        Self {
            seconds: d.time.seconds(),
            energy: d.energy_joules,
            peak_power: d.peak.watts(),
            peak_current: d.peak_current.amperes(),
            shown: vec![
                shown("until it is safe", d.time.to_string()),
                shown("stored", format!("{joule} J")),
                shown("in the resistor at first", d.peak.to_string()),
                shown("flows at first", d.peak_current.to_string()),
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
    pub(super) fn of(m: &MadeUp) -> Self {
        let shown = |label: &str, text: String| ShownView { label: label.to_owned(), text };
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
                shown("missing", m.missing.to_string()),
                shown("fit", m.resistor.value.to_string()),
                shown("across it", m.resistor.volts.to_string()),
                shown("flows", m.current.to_string()),
                shown("in it", m.resistor.dissipated.to_string()),
                shown("rated", m.rating.to_string()),
                shown("choke", choke.to_owned()),
                shown("whole against the sheet", signed_percent(m.deviation)),
            ],
        }
    }
}

/// A heater chain.
#[derive(Debug, Deserialize, ToSchema)]
pub struct ChainQuestion {
    /// Volts of the line.
    pub line: f64,
    /// In their order.
    #[schema(max_items = 200)]
    pub members: Vec<MemberBody>,
}

/// A heater or a lamp.
#[derive(Debug, Deserialize, ToSchema)]
pub struct MemberBody {
    /// What it is called.
    #[schema(max_length = 40)]
    pub name: String,
    /// Its volts.
    pub volts: f64,
    /// Its amperes.
    pub current: f64,
    /// Whether it is a lamp.
    #[serde(default)]
    pub lamp: bool,
}

/// The sums of a chain.
#[derive(Debug, Serialize, ToSchema)]
pub struct ChainAnswer {
    /// Amperes of the chain.
    pub current: f64,
    /// Of all members together.
    pub volts: f64,
    /// What takes up the rest, in ohm; null where nothing is left.
    pub dropper: Option<f64>,
    /// What it dissipates, in watt.
    pub dropper_power: f64,
    /// What it should be rated at.
    pub rating: RatingView,
    /// Volts that the line lacks.
    pub short_of: Option<f64>,
    /// Amperes in the first moment.
    pub surge: f64,
    /// In the order of the question.
    pub members: Vec<FateView>,
    /// As shown.
    pub shown: Vec<ShownView>,
}

/// What becomes of one.
#[derive(Debug, Serialize, ToSchema)]
pub struct FateView {
    /// What it is called.
    pub name: String,
    /// Against the chain's current, as a fraction.
    pub mismatch: f64,
    /// Whether it matches.
    pub matches: bool,
    /// Of a lamp: volts in the first moment.
    pub surge_volts: Option<f64>,
    /// What goes across it, in ohm, where it takes less than the chain.
    pub shunt: Option<f64>,
    /// In words.
    pub text: String,
}

impl ChainAnswer {
    pub(super) fn of(c: &Chain, members: &[Member]) -> Self {
        let shown = |label: &str, text: String| ShownView { label: label.to_owned(), text };
        let mut list = vec![
            shown("chain", format!("{} at {}", c.volts, c.current)),
            shown("cold, at first", c.surge.to_string()),
        ];
        if let Some(r) = c.dropper {
            list.push(shown("dropper", format!("{r}, {} in it", c.dropper_power)));
            list.push(shown("rated", c.rating.to_string()));
        }
        if let Some(v) = c.short_of {
            list.push(shown("the line lacks", v.to_string()));
        }
        let fate = |(f, m): (&owl_core::supply::heater::Fate, &Member)| {
            let mut words = Vec::new();
            if !f.matches {
                words.push(format!("{} of the chain's current", signed_percent(f.mismatch.fraction())));
            }
            if let Some(v) = f.surge_volts {
                words.push(format!("{v} across it while the heaters are cold"));
            }
            if let Some(r) = f.shunt {
                words.push(format!("{r} across it takes the rest"));
            }
            if words.is_empty() {
                words.push(format!("matches; {} hot, {} cold", f.hot, f.cold));
            }
            FateView {
                name: m.name.clone(),
                mismatch: f.mismatch.fraction(),
                matches: f.matches,
                surge_volts: f.surge_volts.map(Volt::volts),
                shunt: f.shunt.map(Ohm::ohms),
                text: words.join("; "),
            }
        };
        Self {
            current: c.current.amperes(),
            volts: c.volts.volts(),
            dropper: c.dropper.map(Ohm::ohms),
            dropper_power: c.dropper_power.watts(),
            rating: (&c.rating).into(),
            short_of: c.short_of.map(Volt::volts),
            surge: c.surge.amperes(),
            members: c.fates.iter().zip(members).map(fate).collect(),
            shown: list,
        }
    }
}

/// A chart of volts.
#[derive(Debug, Deserialize, ToSchema)]
pub struct ChartQuestion {
    /// Volts of the line that the sheet assumes.
    pub sheet_line: f64,
    /// Volts of the line now, at the wall or behind the variable transformer.
    pub line: f64,
    /// The points.
    #[schema(max_items = 200)]
    pub points: Vec<PointBody>,
    /// One half of a secondary.
    pub half_a: Option<f64>,
    /// The other half.
    pub half_b: Option<f64>,
}

/// A point of the chart.
#[derive(Debug, Deserialize, ToSchema)]
pub struct PointBody {
    /// What it is called.
    #[schema(max_length = 60)]
    pub name: String,
    /// By the sheet.
    pub volts: f64,
    /// What it has.
    pub measured: Option<f64>,
    /// Whether it is a heater, which must be close.
    #[serde(default)]
    pub heater: bool,
}

/// The chart at today's line.
#[derive(Debug, Serialize, ToSchema)]
pub struct ChartAnswer {
    /// In the order of the question.
    pub points: Vec<PointView>,
    /// How far the halves of the secondary are apart, as a fraction.
    pub halves_apart: Option<f64>,
    /// In words.
    pub halves_text: Option<String>,
}

/// A point at today's line.
#[derive(Debug, Serialize, ToSchema)]
pub struct PointView {
    /// What it is called.
    pub name: String,
    /// What it should have.
    pub expected: f64,
    /// As shown.
    pub expected_text: String,
    /// What it has against that, as a fraction.
    pub deviation: Option<f64>,
    /// As shown.
    pub deviation_text: Option<String>,
    /// Whether a heater is too far off.
    pub heater_off: bool,
}

/// Halves that are further apart are a fault (rules.md, R9).
const HALVES: f64 = 0.03;

impl ChartAnswer {
    pub(super) fn of(points: &[Scaled], q: &ChartQuestion, halves: Option<Fraction>) -> Self {
        let point = |(s, p): (&Scaled, &PointBody)| PointView {
            name: p.name.chars().take(60).collect(),
            expected: s.expected.volts(),
            expected_text: s.expected.to_string(),
            deviation: s.deviation.map(Fraction::fraction),
            deviation_text: s.deviation.map(|d| signed_percent(d.fraction())),
            heater_off: p.heater && s.deviation.is_some_and(|d| d.fraction().abs() > HEATER_WINDOW),
        };
        Self {
            points: points.iter().zip(&q.points).map(point).collect(),
            halves_apart: halves.map(Fraction::fraction),
            halves_text: halves.map(|h| {
                let h = h.fraction();
                let verdict =
                    if h <= HALVES { "they agree" } else { "more than 3 %: a shorted turn or a bad joint" };
                format!("{} apart: {verdict}", percent(h))
            }),
        }
    }
}

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
    pub(super) fn of(t: &Touch) -> Self {
        let shown = |label: &str, text: String| ShownView { label: label.to_owned(), text };
        let limit =
            Ampere::new(owl_core::supply::touch::LIMIT).map_or_else(|_| String::new(), |a| a.to_string());
        let verdict = if t.within { format!("within {limit}") } else { format!("more than {limit}") };
        Self {
            current: t.current.amperes(),
            within: t.within,
            most: t.most.farads(),
            shown: vec![
                shown("flows through a hand", t.current.to_string()),
                shown("published limit", verdict),
                shown("most that stays within it", t.most.to_string()),
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
    pub(super) fn capacitance(&self) -> f64 {
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
    pub(super) fn of(left: &[Volt]) -> Self {
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
    pub(super) fn of(all: &[Limited]) -> Self {
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
