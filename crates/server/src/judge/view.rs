//! A verdict as it is sent, with what the schools say side by side and the scale for its gauge.

use owl_core::part::{Circuit, Fact, Part};
use owl_core::quantity::Quantity;
use owl_core::quantity::format::{format, label_unit, percent, signed_percent};
use owl_core::reading::{ReadQuantity, Reading};
use owl_core::verdict::{
    Case, Dial, Limits, Outcome, Policy, Reason, School, StoredReason, Threshold, Verdict, judge,
};
use serde::Serialize;
use utoipa::ToSchema;

use crate::amount::Amount;
use crate::dialect::chosen;

/// A verdict with its reasons.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct Judgement {
    /// What to do.
    pub verdict: Outcome,
    /// How far the deciding reading is from the mark, as a fraction; null without one.
    pub deviation: Option<f64>,
    /// The same as shown: `+23.4 %`.
    pub deviation_text: Option<String>,
    /// The school's window, in the base unit of the part's value; null where there is no value to be inside of.
    pub limits: Option<LimitsView>,
    /// Whether the meter's own uncertainty leaves no doubt.
    pub certain: bool,
    /// Why, the weightiest first.
    pub reasons: Vec<ReasonView>,
    /// What to do next.
    #[serde(serialize_with = "crate::dialect::said")]
    pub next: Vec<String>,
    /// The school that it rests on, in words.
    #[serde(serialize_with = "crate::dialect::said")]
    pub rests_on: String,
    /// Which of the readings decided, counted from 0.
    pub decided_by: Option<usize>,
    /// What each school would say.
    pub schools: Vec<SchoolSays>,
    /// Which numbers would change it, the nearest first.
    pub would_change: Vec<ThresholdView>,
    /// Value, ESR and leakage of an electrolytic against their limits.
    pub dials: Vec<DialView>,
    /// Facts of the circuit that it depends on and nobody has said.
    pub asks: Vec<FactView>,
    /// Whether something has fed too much through the part.
    pub overloaded: bool,
    /// Whether what decided it rests on a number that was recalled and not looked up.
    pub from_memory: bool,
    /// What is different by the schools, in one line; null where they agree.
    #[serde(serialize_with = "crate::dialect::said")]
    pub schools_differ: Option<String>,
    /// The scale on which the drift is drawn; null without a value to drift from.
    pub gauge: Option<GaugeView>,
}

/// A number at which the verdict would be another.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct ThresholdView {
    /// What it would be.
    pub verdict: Outcome,
    /// What would have to read so.
    pub quantity: ReadQuantity,
    /// The number.
    pub at: Amount,
    /// How far it is from the reading, as a fraction.
    pub away: f64,
    /// In words.
    #[serde(serialize_with = "crate::dialect::said")]
    pub text: String,
}

impl From<&Threshold> for ThresholdView {
    fn from(f: &Threshold) -> Self {
        Self {
            verdict: f.to,
            quantity: f.of,
            at: Amount::of(f.of.quantity(), f.at_si),
            away: f.away.fraction(),
            text: f.text.clone(),
        }
    }
}

/// One read quantity against its limit.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct DialView {
    /// What it shows.
    pub quantity: ReadQuantity,
    /// What it shows, in words.
    #[serde(serialize_with = "crate::dialect::said")]
    pub called: String,
    /// What was read; null where nothing was.
    pub value: Option<Amount>,
    /// The least that passes; null where less is always better.
    pub low: Option<DialMark>,
    /// The most that passes.
    pub high: DialMark,
    /// Other limits beside it.
    pub others: Vec<DialMark>,
    /// What it says by itself; null where nothing was read.
    pub verdict: Option<Outcome>,
    /// Where the limit comes from.
    pub source: String,
}

/// A mark on a dial.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct DialMark {
    /// Its value.
    pub value: Amount,
    /// What it is; empty for the limit itself.
    #[serde(serialize_with = "crate::dialect::said")]
    pub name: String,
}

impl From<&Dial> for DialView {
    fn from(d: &Dial) -> Self {
        let quantity = d.of.quantity();
        let mark = |name: &str, v: f64| DialMark { value: Amount::of(quantity, v), name: name.to_owned() };
        Self {
            quantity: d.of,
            called: d.of.called().to_owned(),
            value: d.value_si.map(|v| Amount::of(quantity, v)),
            low: d.low_si.map(|v| mark("", v)),
            high: mark("", d.high_si),
            others: d.others.iter().map(|(name, v)| mark(name, *v)).collect(),
            verdict: d.call,
            source: d.source.to_string(),
        }
    }
}

/// A window, in the base unit of the part's value.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct LimitsView {
    /// Lower edge.
    pub low: f64,
    /// Upper edge.
    pub high: f64,
}

impl From<Limits> for LimitsView {
    fn from(l: Limits) -> Self {
        Self { low: l.low_si, high: l.high_si }
    }
}

/// One reason.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct ReasonView {
    /// The rule's number.
    pub rule: String,
    /// The sum with its numbers, in words.
    #[serde(serialize_with = "crate::dialect::said")]
    pub text: String,
    /// Where the rule comes from.
    pub source: String,
    /// The same in a word or two.
    pub source_short: String,
    /// Whether it was recalled and not looked up.
    pub from_memory: bool,
}

impl From<&Reason> for ReasonView {
    fn from(r: &Reason) -> Self {
        Self::from(StoredReason::from(r))
    }
}

impl From<StoredReason> for ReasonView {
    fn from(r: StoredReason) -> Self {
        Self {
            rule: r.rule,
            text: r.text,
            source: r.source,
            source_short: r.source_short,
            from_memory: r.from_memory,
        }
    }
}

/// What a school says.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct SchoolSays {
    /// The school.
    pub school: School,
    /// Its verdict.
    pub verdict: Outcome,
    /// Its limit for resistors in words: `±20 %`; empty for other parts.
    #[serde(serialize_with = "crate::dialect::said")]
    pub limit: String,
    /// What decided it there.
    #[serde(serialize_with = "crate::dialect::said")]
    pub because: String,
}

/// What is drawn on the scale of a part's drift; all values in the base unit of the part.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct GaugeView {
    /// Unit of the labels.
    pub unit: UnitView,
    /// The marked value.
    pub nominal: Amount,
    /// The marked tolerance.
    pub marked: Window,
    /// The school's window.
    pub school: Window,
    /// What was read, with the meter's least and most.
    pub reading: Option<ReadingBand>,
}

/// A unit with its prefix.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct UnitView {
    /// As it is written.
    pub name: &'static str,
    /// What one of it is, in the base unit.
    pub size: f64,
}

/// A window with the text for its edges.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct Window {
    /// Lower edge, in the base unit.
    pub low: f64,
    /// Upper edge, in the base unit.
    pub high: f64,
    /// `10 %`, or `−20 % … +50 %`.
    #[serde(serialize_with = "crate::dialect::said")]
    pub text: String,
    /// What stands at its lower edge: `−10 %`.
    #[serde(serialize_with = "crate::dialect::said")]
    pub low_text: String,
    /// What stands at its upper edge: `+10 %`.
    #[serde(serialize_with = "crate::dialect::said")]
    pub high_text: String,
}

/// A reading with its uncertainty.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct ReadingBand {
    /// The least it may be, in the base unit.
    pub least: f64,
    /// What was shown.
    pub shown: Amount,
    /// The most it may be, in the base unit.
    pub most: f64,
}

/// Judges by a policy and sets beside it what the schools would say.
#[must_use]
pub fn judgement(case: Case<'_>, policy: &Policy) -> Judgement {
    let verdict = judge(case, policy);
    let schools: Vec<SchoolSays> = Policy::side_by_side()
        .map(|p| match p == policy {
            true => school_says(p, case, &verdict),
            false => school_says(p, case, &judge(case, p)),
        })
        .collect();
    let differ = schools_differ(&verdict, policy, &schools);
    Judgement {
        verdict: verdict.call,
        deviation: verdict.deviation.map(|d| d.fraction()),
        deviation_text: verdict.deviation.map(|d| signed_percent(d.fraction())),
        limits: verdict.limits.map(LimitsView::from),
        certain: verdict.certain,
        reasons: verdict.reasons.iter().map(ReasonView::from).collect(),
        next: verdict.next.clone(),
        rests_on: format!("{}: {}", policy.called(), policy.in_words),
        decided_by: verdict.decided_by,
        schools,
        would_change: verdict.thresholds.iter().map(ThresholdView::from).collect(),
        dials: verdict.dials.iter().map(DialView::from).collect(),
        asks: verdict.asks.iter().map(|f| FactView::of(*f, None)).collect(),
        overloaded: verdict.overloaded,
        from_memory: verdict.reasons.first().is_some_and(|r| r.source.is_recalled()),
        schools_differ: differ,
        gauge: drawn(case, &verdict, policy),
    }
}

fn school_says(policy: &Policy, case: Case<'_>, verdict: &Verdict) -> SchoolSays {
    SchoolSays {
        school: policy.school,
        verdict: verdict.call,
        limit: match case.part {
            Part::Resistor(r) => format!("±{}", percent(policy.limit_for(r.tolerance_fraction()))),
            _ => String::new(),
        },
        because: verdict.reasons.first().map(|r| r.text.clone()).unwrap_or_default(),
    }
}

/// "test first: keep; replace on sight would replace".
fn schools_differ(verdict: &Verdict, policy: &Policy, schools: &[SchoolSays]) -> Option<String> {
    let others: Vec<String> = schools
        .iter()
        .filter(|s| s.school != policy.school && s.verdict != verdict.call)
        .map(|s| {
            let would = match s.verdict {
                Outcome::MeasureAgain => "would measure again".to_owned(),
                call => format!("would {call}"),
            };
            format!("{} {would}", s.school)
        })
        .collect();
    (!others.is_empty()).then(|| format!("{}: {}; {}", policy.called(), verdict.call, others.join(", ")))
}

/// The gauge of the value that the verdict has a window for.
fn drawn(case: Case<'_>, verdict: &Verdict, policy: &Policy) -> Option<GaugeView> {
    let school = verdict.limits?;
    let around = |v: f64, t: f64| Limits { low_si: (v * (1.0 - t)).max(0.0), high_si: v * (1.0 + t) };
    let (quantity, nominal, marked, text) = match case.part {
        Part::Resistor(r) => {
            let t = r.tolerance_fraction();
            (Quantity::Resistance, r.value.ohms(), around(r.value.ohms(), t), percent(policy.limit_for(t)))
        }
        Part::Capacitor(c) => {
            (Quantity::Capacitance, c.value.farads(), school, span(school, c.value.farads()))
        }
        Part::Coil(c) => match (c.resistance, c.inductance) {
            (Some(r), _) => (Quantity::Resistance, r.ohms(), school, span(school, r.ohms())),
            (None, Some(l)) => (Quantity::Inductance, l.henries(), school, span(school, l.henries())),
            (None, None) => return None,
        },
        // Gain has a window and no mark.
        Part::Transistor(_) => {
            let middle = f64::midpoint(school.low_si, school.high_si);
            (Quantity::Ratio, middle, school, span(school, middle))
        }
        // Each pin, and each thing that is read of a valve, has its own window.
        Part::Ic(_) | Part::Valve(_) | Part::Fuse(_) | Part::Switch | Part::Loudspeaker(_) => return None,
        // A drop has a window and no mark.
        Part::Diode(_) => {
            let middle = f64::midpoint(school.low_si, school.high_si);
            (Quantity::Voltage, middle, school, span(school, middle))
        }
    };
    let of_value = |r: &Reading| r.quantity.quantity() == quantity && !r.quantity.is_leakage();
    let decided = verdict.decided_by.and_then(|i| case.readings.get(i)).filter(|r| of_value(r));
    let reading = decided.or_else(|| case.readings.iter().rfind(|r| of_value(r)));
    let band = reading.and_then(|r| {
        let (least_si, most_si) = r.band_si()?;
        Some(ReadingBand { least: least_si, shown: Amount::of(quantity, r.value_si()?), most: most_si })
    });
    let window = |l: Limits, text: String| Window {
        low: l.low_si,
        high: l.high_si,
        text,
        low_text: signed_percent(l.low_si / nominal - 1.0),
        high_text: signed_percent(l.high_si / nominal - 1.0),
    };
    let unit = label_unit(quantity, marked.high_si.max(school.high_si), chosen().capacitance);
    Some(GaugeView {
        unit: UnitView { name: unit.name, size: unit.size },
        nominal: Amount::of(quantity, nominal),
        marked: window(marked, span(marked, nominal)),
        school: window(school, text),
        reading: band,
    })
}

/// `−20 % … +50 %`, or `15 %` where both sides are the same.
fn span(limits: Limits, nominal: f64) -> String {
    let (low, high) = (limits.low_si / nominal - 1.0, limits.high_si / nominal - 1.0);
    if (low + high).abs() < 1e-6 {
        percent(high)
    } else {
        format!("{} … {}", signed_percent(low), signed_percent(high))
    }
}

/// A fact of the circuit.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct FactView {
    /// Which.
    pub fact: Fact,
    /// What it is called.
    #[serde(serialize_with = "crate::dialect::said")]
    pub label: String,
    /// What is meant by it.
    #[serde(serialize_with = "crate::dialect::said")]
    pub meaning: String,
    /// As shown, and as it can be typed; empty where it is not known.
    #[serde(serialize_with = "crate::dialect::said")]
    pub text: String,
    /// Whether the part takes it over from what is known of the whole set.
    pub of_set: bool,
}

impl FactView {
    /// A fact with its value in the base unit, where it is known.
    #[must_use]
    pub fn of(fact: Fact, value_si: Option<f64>) -> Self {
        let label = fact.label();
        Self {
            fact,
            label: label.map(|l| l.label.clone()).unwrap_or_default(),
            meaning: label.map(|l| l.meaning.clone()).unwrap_or_default(),
            text: value_si.map(|v| format(fact.quantity(), v).to_string()).unwrap_or_default(),
            of_set: false,
        }
    }

    /// The same, marked where `set` and nothing that was said of the part itself (`own`) says it.
    #[must_use]
    pub fn within(self, set: &Circuit, own: &Circuit) -> Self {
        let of_set = set.get_si(self.fact).is_some() && own.get_si(self.fact).is_none();
        Self { of_set, ..self }
    }
}
