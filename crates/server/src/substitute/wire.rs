//! The JSON shapes of substitutes.

use owl_core::quantity::write::signed_percent;
use owl_core::substitute::{Choice, Choices, Line};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;

use crate::amount::Amount;
use crate::combine::wire::TreeView;
use crate::judge::wire::PartBody;
use crate::name::{FamilyName, Name, PositionName, SchoolName};

/// What goes, and where it sat.
#[derive(Debug, Deserialize, ToSchema)]
pub struct SubstituteQuestion {
    /// The part that goes, as marked.
    pub part: PartBody,
    /// The value wanted, in ohm, where it is not the mark: the sheet's.
    #[schema(exclusive_minimum = 0)]
    pub wanted: Option<f64>,
    /// Where it sits.
    pub position: Option<PositionName>,
    /// What is known of the circuit.
    pub circuit: Option<CircuitBody>,
    /// Whose factors decide.
    pub school: SchoolName,
}

/// What is known of the circuit.
#[derive(Debug, Deserialize, ToSchema)]
pub struct CircuitBody {
    /// Volts across the part at work.
    pub voltage: Option<f64>,
    /// The same as typed: `180 V`; counts where `voltage` is not given.
    #[schema(max_length = 200)]
    pub voltage_typed: Option<String>,
}

/// What fits, best first, and near misses.
#[derive(Debug, Serialize, ToSchema)]
pub struct SubstituteAnswer {
    /// May be empty.
    pub choices: Vec<ChoiceView>,
    /// What must not go in.
    pub refused: Vec<RefusedView>,
}

/// Something that can go in.
#[derive(Debug, Serialize, ToSchema)]
pub struct ChoiceView {
    /// In words.
    pub description: String,
    /// In ohm.
    pub value: f64,
    /// As shown.
    pub shown: Amount,
    /// Not used for resistors.
    pub voltage: Option<f64>,
    /// Rating of the whole, in watt.
    pub power: f64,
    /// As shown.
    pub power_text: String,
    /// How it is made.
    pub family: FamilyName,
    /// From what is wanted, as a fraction.
    pub deviation: f64,
    /// As shown.
    pub deviation_text: String,
    /// Where it comes from.
    pub from: &'static str,
    /// The network, where it is more than one part.
    pub network: Option<TreeView>,
    /// What speaks for it.
    pub passes: Vec<PassView>,
    /// What to mind.
    pub cautions: Vec<String>,
}

/// A line that speaks for a choice.
#[derive(Debug, Serialize, ToSchema)]
pub struct PassView {
    /// The rule's number.
    pub rule: &'static str,
    /// In words, with numbers.
    pub text: String,
    /// Where it comes from.
    pub source: String,
}

/// Something that must not go in.
#[derive(Debug, Serialize, ToSchema)]
pub struct RefusedView {
    /// In words.
    pub description: String,
    /// Why not.
    pub because: String,
}

impl SubstituteAnswer {
    /// Choices as they are sent.
    #[must_use]
    pub fn of(choices: &Choices) -> Self {
        let refused = choices
            .refused
            .iter()
            .map(|r| RefusedView { description: r.description.clone(), because: r.because.clone() })
            .collect();
        Self { choices: choices.choices.iter().map(ChoiceView::of).collect(), refused }
    }
}

impl ChoiceView {
    fn of(c: &Choice) -> Self {
        let pass = |l: &Line| PassView { rule: "R7", text: l.text.clone(), source: l.source.to_string() };
        Self {
            description: c.description.clone(),
            value: c.value.ohms(),
            shown: c.value.into(),
            voltage: None,
            power: c.power.watts(),
            power_text: c.power.to_string(),
            family: Name(c.family),
            deviation: c.deviation.fraction(),
            deviation_text: if c.deviation.fraction() == 0.0 {
                "exact".to_owned()
            } else {
                signed_percent(c.deviation.fraction())
            },
            from: "to buy",
            network: c.network.as_ref().map(TreeView::from),
            passes: c.passes.iter().map(pass).collect(),
            cautions: c.cautions.iter().map(|l| l.text.clone()).collect(),
        }
    }
}
