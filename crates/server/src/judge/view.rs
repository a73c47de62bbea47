//! A verdict as it is sent, with what the schools say side by side and the scale for its gauge.

use owl_core::part::{Position, Resistor};
use owl_core::quantity::Ohm;
use owl_core::quantity::write::{percent, signed_percent};
use owl_core::reading::{Reading, Shown};
use owl_core::verdict::gauge::{Gauge, gauge};
use owl_core::verdict::{Case, Limits, Partner, Policy, Reason, judge};
use serde::Serialize;
use utoipa::ToSchema;

use crate::amount::Amount;
use crate::name::{CallName, Name, SchoolName};

/// A verdict with its reasons.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct Judgement {
    /// What to do.
    pub verdict: CallName,
    /// How far the deciding reading is from the mark, as a fraction; null without one.
    pub deviation: Option<f64>,
    /// The same as shown: `+23.4 %`.
    pub deviation_text: Option<String>,
    /// The school's window, in ohm.
    pub limits: LimitsView,
    /// Whether the meter's own uncertainty leaves no doubt.
    pub certain: bool,
    /// Why, the weightiest first.
    pub reasons: Vec<ReasonView>,
    /// What to do next.
    pub next: Vec<String>,
    /// The school that it rests on, in words.
    pub rests_on: String,
    /// Which of the readings decided, counted from 0.
    pub decided_by: Option<usize>,
    /// What each school would say.
    pub schools: Vec<SchoolSays>,
    /// The scale on which the drift is drawn.
    pub gauge: GaugeView,
}

/// A window; null where none applies.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct LimitsView {
    /// Lower edge, in ohm.
    pub low: Option<f64>,
    /// Upper edge, in ohm.
    pub high: Option<f64>,
}

impl From<Limits> for LimitsView {
    fn from(l: Limits) -> Self {
        Self { low: Some(l.low.ohms()), high: Some(l.high.ohms()) }
    }
}

/// One reason.
#[derive(Debug, Clone, Serialize, serde::Deserialize, ToSchema)]
pub struct ReasonView {
    /// The rule's number.
    pub rule: String,
    /// The sum with its numbers, in words.
    pub text: String,
    /// Where the rule comes from.
    pub source: String,
    /// The same in a word or two.
    #[serde(default)]
    pub source_short: String,
}

impl From<&Reason> for ReasonView {
    fn from(r: &Reason) -> Self {
        Self {
            rule: r.rule.to_string(),
            text: r.text.clone(),
            source: r.source.to_string(),
            source_short: r.source.short().to_owned(),
        }
    }
}

/// What a school says.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct SchoolSays {
    /// The school.
    pub school: SchoolName,
    /// Its verdict.
    pub verdict: CallName,
    /// Its limit in words: `±20 %`.
    pub limit: String,
}

/// The scale of a gauge; all values in ohm.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct GaugeView {
    /// Left end.
    pub from: f64,
    /// Right end.
    pub to: f64,
    /// Unit of the labels.
    pub unit: &'static str,
    /// Ticks; those without a label are short.
    pub ticks: Vec<TickView>,
    /// The marked value.
    pub nominal: Amount,
    /// The marked tolerance.
    pub marked: Window,
    /// The school's window.
    pub school: Window,
    /// What was read, with the meter's least and most.
    pub reading: Option<ReadingBand>,
    /// Whether the reading lies beyond the right end.
    pub beyond: bool,
}

/// A tick.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct TickView {
    /// In ohm.
    pub at: f64,
    /// The number beside it.
    pub label: Option<String>,
}

/// A window with the text for its edges.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct Window {
    /// Lower edge, in ohm.
    pub low: f64,
    /// Upper edge, in ohm.
    pub high: f64,
    /// `10 %`.
    pub text: String,
}

/// A reading with its uncertainty.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct ReadingBand {
    /// The least it may be, in ohm.
    pub least: f64,
    /// What was shown.
    pub shown: Amount,
    /// The most it may be, in ohm.
    pub most: f64,
}

/// Judges by a policy and sets beside it what the schools would say.
#[must_use]
pub fn judgement(
    part: &Resistor,
    position: Option<Position>,
    readings: &[Reading],
    partner: Option<&Partner>,
    policy: &Policy,
) -> Judgement {
    let case = Case { part, position, readings, partner };
    let verdict = judge(case, policy);
    let schools = Policy::side_by_side()
        .map(|p| SchoolSays {
            school: Name(p.school),
            verdict: Name(judge(case, p).call),
            limit: format!("±{}", percent(p.limit_for(part.tolerance_fraction()))),
        })
        .collect();
    let shown = verdict.decided_by.and_then(|i| {
        let r = &readings[i];
        match (r.shown, r.band()) {
            (Shown::Value(v), Some((least, most))) => Some((least, v, most)),
            _ => None,
        }
    });
    Judgement {
        verdict: Name(verdict.call),
        deviation: verdict.deviation.map(|d| d.fraction()),
        deviation_text: verdict.deviation.map(|d| signed_percent(d.fraction())),
        limits: verdict.limits.into(),
        certain: verdict.certain,
        reasons: verdict.reasons.iter().map(ReasonView::from).collect(),
        next: verdict.next.clone(),
        rests_on: format!(
            "{}{}: {}",
            policy.school,
            if policy.tight { ", tight" } else { "" },
            policy.in_words
        ),
        decided_by: verdict.decided_by,
        schools,
        gauge: gauge_view(&gauge(part, verdict.limits, shown), part, policy),
    }
}

fn gauge_view(g: &Gauge, part: &Resistor, policy: &Policy) -> GaugeView {
    let window =
        |l: Limits, fraction: f64| Window { low: l.low.ohms(), high: l.high.ohms(), text: percent(fraction) };
    let marked = part.tolerance_fraction();
    GaugeView {
        from: g.from.ohms(),
        to: g.to.ohms(),
        unit: g.unit,
        ticks: g.ticks.iter().map(|t| TickView { at: t.at.ohms(), label: t.label.clone() }).collect(),
        nominal: g.nominal.into(),
        marked: window(g.marked, marked),
        school: window(g.school, policy.limit_for(marked)),
        reading: g.reading.map(|(least, shown, most): (Ohm, Ohm, Ohm)| ReadingBand {
            least: least.ohms(),
            shown: shown.into(),
            most: most.ohms(),
        }),
        beyond: g.beyond,
    }
}
