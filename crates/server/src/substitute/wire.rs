//! The JSON shapes of substitutes.

use owl_core::drawers::Condition;
use owl_core::drawers::search::{Word, is_meant};
use owl_core::verdict::School;
use std::collections::BTreeMap;

use owl_core::drawers::csv::price_text;
use owl_core::part::{MadeOf, PartKind, Position, SafetyClass};
use owl_core::quantity::format::{percent, signed_percent};
use owl_core::quantity::{Fraction, Quantity, Volt, Watt};
use owl_core::substitute::worth::worth;
use owl_core::substitute::{Choice, ChoiceReason, Choices, Chosen, Refused, Wanted};
use serde::{Deserialize, Serialize};
use serde_json::Value;
use utoipa::ToSchema;
use uuid::Uuid;

use crate::amount::Amount;
use crate::combine::wire::TreeView;
use crate::error::ApiError;
use crate::judge::view::FactView;
use crate::judge::wire::PartBody;
use crate::table::drawers::LotRow;

/// What goes, and where it sat.
#[derive(Debug, Deserialize, ToSchema)]
pub struct SubstituteQuestion {
    /// The part that goes, as marked.
    pub part: PartBody,
    /// The value wanted, in the base unit, where it is not the mark: the sheet's.
    #[schema(exclusive_minimum = 0)]
    pub wanted: Option<f64>,
    /// The sections of a can.
    #[serde(default)]
    #[schema(max_items = 8)]
    pub sections: Vec<SectionBody>,
    /// Where it sits.
    pub position: Option<Position>,
    /// What is known of the circuit: `voltage`, `rail`, `grid_resistor`, `source_resistance`, `line`, `frequency`,
    /// `secondary`, `load_current`, `first_filter_limit` in base units, and `rectifier`, a valve's type. Unknown is null
    /// or left out.
    #[schema(value_type = Option<Object>)]
    pub circuit: Option<BTreeMap<String, Value>>,
    /// Of a lamp: whether it is in a chain of heaters.
    pub in_chain: Option<bool>,
    /// Whose factors decide.
    pub school: School,
    /// The tight variant of 'test first'.
    #[serde(default)]
    pub tight: bool,
}

/// A section of a can.
#[derive(Debug, Deserialize, ToSchema)]
pub struct SectionBody {
    /// In farad.
    #[schema(exclusive_minimum = 0)]
    pub value: f64,
    /// Rated volts.
    pub voltage: Option<f64>,
}

/// What fits, best first, and near misses.
#[derive(Debug, Serialize, ToSchema)]
pub struct SubstituteAnswer {
    /// May be empty.
    pub choices: Vec<ChoiceView>,
    /// What must not go in.
    pub refused: Vec<RefusedView>,
    /// Facts of the circuit that count here, known and unknown.
    pub facts: Vec<FactView>,
    /// What else there is to do.
    pub advice: Vec<PassView>,
}

/// Something that can go in.
#[derive(Debug, Serialize, ToSchema)]
pub struct ChoiceView {
    /// In words.
    #[serde(serialize_with = "crate::dialect::said")]
    pub description: String,
    /// What it is.
    pub kind: PartKind,
    /// In the base unit of its kind.
    pub value: Option<f64>,
    /// As shown.
    pub shown: Option<Amount>,
    /// Rated volts of the whole.
    pub voltage: Option<f64>,
    /// Rated watts of the whole.
    pub power: Option<f64>,
    /// How it is made.
    pub family: Option<MadeOf>,
    /// From what is wanted, as a fraction.
    pub deviation: Option<f64>,
    /// As shown.
    pub deviation_text: Option<String>,
    /// Where it comes from: `drawers` or `to buy`.
    pub from: &'static str,
    /// The network, where it is more than one part.
    pub network: Option<TreeView>,
    /// What speaks for it.
    pub passes: Vec<PassView>,
    /// What to mind.
    #[serde(serialize_with = "crate::dialect::said")]
    pub cautions: Vec<String>,
    /// What becomes better and worse.
    pub effects: Vec<EffectView>,
    /// What it has of what is needed.
    pub margins: Vec<MarginView>,
    /// What it is made of.
    pub pieces: Vec<PieceView>,
    /// Whether a piece must be tested before it is fitted.
    pub needs_test: bool,
    /// What all of it costs.
    pub price: Option<String>,
    /// What this kind buys in the place; null where it is the usual one.
    #[serde(serialize_with = "crate::dialect::said")]
    pub worth: Option<String>,
    /// Whether it is a network of three and more while something simpler does.
    pub folded: bool,
    /// Value, tolerance, watts, volts and type as they can be typed into the record of a fitting.
    pub entry: EntryView,
}

/// What is recorded of a fitting, as it can be typed.
#[derive(Debug, Serialize, ToSchema)]
pub struct EntryView {
    /// The value.
    pub value: String,
    /// The tolerance.
    pub tolerance: String,
    /// Rated watts.
    pub watts: String,
    /// Rated volts.
    pub volts: String,
    /// The type number.
    pub type_number: String,
    /// The safety class that is printed on all of it.
    pub safety: Option<SafetyClass>,
}

/// A line that speaks for a choice.
#[derive(Debug, Serialize, ToSchema)]
pub struct PassView {
    /// The rule's number.
    pub rule: &'static str,
    /// In words, with numbers.
    #[serde(serialize_with = "crate::dialect::said")]
    pub text: String,
    /// Where it comes from.
    pub source: String,
}

impl From<&ChoiceReason> for PassView {
    fn from(l: &ChoiceReason) -> Self {
        Self { rule: l.rule, text: l.text.clone(), source: l.source.to_string() }
    }
}

/// What becomes better or worse.
#[derive(Debug, Serialize, ToSchema)]
pub struct EffectView {
    /// Whether it becomes better.
    pub better: bool,
    /// In words.
    #[serde(serialize_with = "crate::dialect::said")]
    pub text: String,
}

/// What a piece has of what is needed.
#[derive(Debug, Serialize, ToSchema)]
pub struct MarginView {
    /// Of what.
    pub of: &'static str,
    /// What it has, as shown.
    #[serde(serialize_with = "crate::dialect::said")]
    pub has: String,
    /// What is needed, as shown.
    #[serde(serialize_with = "crate::dialect::said")]
    pub needs: String,
    /// What it has over what is needed.
    pub ratio: f64,
}

/// A piece of a choice.
#[derive(Debug, Serialize, ToSchema)]
pub struct PieceView {
    /// In a line.
    #[serde(serialize_with = "crate::dialect::said")]
    pub description: String,
    /// Its value, or its type number.
    #[serde(serialize_with = "crate::dialect::said")]
    pub value_text: String,
    /// Its lot; null where it is to be bought.
    pub lot: Option<Uuid>,
    /// Where it lies.
    pub place: Option<String>,
    /// How many lie there.
    pub count: Option<u32>,
    /// In which condition.
    pub condition: Condition,
    /// What one of them measures, as it can be typed, where that was measured.
    pub measured: Option<String>,
}

/// Something that must not go in.
#[derive(Debug, Serialize, ToSchema)]
pub struct RefusedView {
    /// In words.
    #[serde(serialize_with = "crate::dialect::said")]
    pub description: String,
    /// Why not.
    #[serde(serialize_with = "crate::dialect::said")]
    pub because: String,
    /// Where it lies, when it is in a drawer.
    pub place: Option<String>,
}

/// The most that is named of what does not fit.
const MOST_REFUSED: usize = 120;

/// What is looked for among what does not fit.
#[derive(Debug, Deserialize, utoipa::IntoParams)]
#[into_params(parameter_in = Query)]
pub struct SoughtAmong {
    /// As it is typed: `68u`, `0.022 400`, `row 3`.
    #[serde(default)]
    #[param(max_length = 100)]
    pub refused: String,
}

impl SubstituteAnswer {
    /// Choices as they are sent.
    ///
    /// # Errors
    /// [`ApiError::Internal`] for a stored row that cannot be.
    pub fn of(
        choices: &Choices,
        rows: &[LotRow],
        wanted: &Wanted,
        sought: &[Word],
    ) -> Result<Self, ApiError> {
        let place = |lot: Option<usize>| -> Result<Option<String>, ApiError> {
            Ok(lot.and_then(|i| rows.get(i)).map(|r| r.lot().map(|l| l.place)).transpose()?)
        };
        let meant = |r: &&Refused| {
            let lies = || place(r.lot).ok().flatten().unwrap_or_default();
            let said = || format!("{} {}", r.description, lies());
            sought.is_empty() || is_meant(sought, r.piece.as_ref(), &said())
        };
        let refused = choices
            .refused
            .iter()
            .filter(meant)
            .take(MOST_REFUSED)
            .map(|r| {
                Ok(RefusedView {
                    description: r.description.clone(),
                    because: r.because.clone(),
                    place: place(r.lot)?,
                })
            })
            .collect::<Result<_, ApiError>>()?;
        let facts = wanted.facts().iter().map(|f| FactView::of(*f, wanted.circuit.get_si(*f))).collect();
        Ok(Self {
            choices: choices
                .choices
                .iter()
                .map(|c| ChoiceView::of(c, rows, wanted, choices.is_folded(c)))
                .collect::<Result<_, _>>()?,
            refused,
            facts,
            advice: choices.advice.iter().map(PassView::from).collect(),
        })
    }
}

impl ChoiceView {
    fn of(c: &Choice, rows: &[LotRow], wanted: &Wanted, folded: bool) -> Result<Self, ApiError> {
        let first = c.pieces.first().map(|p| &p.piece);
        let kind = first.map_or(wanted.gone.kind(), |p| p.kind);
        let buys = worth(wanted.position, first.and_then(|p| p.family)).map(|w| w.buys.clone());
        let shown = kind.quantity().zip(c.value_si).map(|(q, v)| Amount::of(q, v));
        let pieces = c.pieces.iter().map(|p| piece(p, rows)).collect::<Result<Vec<_>, _>>()?;
        // Only what all pieces share can be said of the whole.
        let tolerance = first
            .and_then(|p| p.tolerance)
            .filter(|t| c.pieces.iter().all(|p| p.piece.tolerance == Some(*t)));
        let text = |q: Quantity, v: Option<f64>| v.map_or_else(String::new, |v| Amount::of(q, v).text);
        Ok(Self {
            description: c.description.clone(),
            kind,
            value: c.value_si,
            entry: EntryView {
                value: shown.as_ref().map(|s| s.text.clone()).unwrap_or_default(),
                tolerance: tolerance.map_or_else(String::new, |t| percent(t.fraction())),
                watts: text(Quantity::Power, c.watts.map(Watt::watts)),
                volts: text(Quantity::Voltage, c.volts.map(Volt::volts)),
                type_number: first.map(|p| p.type_number.clone()).unwrap_or_default(),
                safety: c.safety(),
            },
            shown,
            voltage: c.volts.map(Volt::volts),
            power: c.watts.map(Watt::watts),
            family: first.and_then(|p| p.family),
            worth: buys,
            folded,
            deviation: c.deviation.map(Fraction::fraction),
            deviation_text: c.deviation.map(|d| match d.fraction() {
                0.0 => "exact".to_owned(),
                off => signed_percent(off),
            }),
            from: if c.from_drawers() { "drawers" } else { "to buy" },
            network: c.network.as_ref().map(TreeView::from),
            passes: c.passes.iter().map(PassView::from).collect(),
            cautions: c.cautions.iter().map(|l| l.text.clone()).collect(),
            effects: c
                .effects
                .iter()
                .map(|e| EffectView { better: e.better, text: e.text.clone() })
                .collect(),
            margins: c
                .margins
                .iter()
                .map(|m| MarginView { of: m.of, has: m.has.clone(), needs: m.needs.clone(), ratio: m.ratio })
                .collect(),
            needs_test: c.needs_test(),
            pieces,
            price: c.price_hundredths.map(price_text),
        })
    }
}

fn piece(p: &Chosen, rows: &[LotRow]) -> Result<PieceView, ApiError> {
    let row = p.lot.and_then(|i| rows.get(i));
    let lot = row.map(LotRow::lot).transpose()?;
    let measured = lot.as_ref().and_then(|l| l.measured_si.first().copied());
    Ok(PieceView {
        description: p.piece.to_string(),
        value_text: p.piece.value_text(),
        lot: row.map(|r| r.id),
        place: lot.as_ref().map(|l| if l.place.is_empty() { "drawer".to_owned() } else { l.place.clone() }),
        count: lot.as_ref().map(|l| l.count),
        condition: p.condition,
        measured: p.piece.kind.quantity().zip(measured).map(|(q, v)| Amount::of(q, v).text),
    })
}
