//! The JSON shapes of plans.

use owl_core::quantity::{Ampere, Farad, Ohm, QuantityError, Volt, Watt};
use owl_core::reform::forecast::{Led, expected};
use owl_core::reform::plan::{Ask, Plan, Supply, UNKNOWN_YEARS};
use owl_core::supply::Rating;
use owl_core::verdict::{Policy, School};
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use crate::error::ApiError;

/// An electrolytic to be reformed.
#[derive(Debug, Clone, Deserialize, ToSchema)]
pub struct PlanQuestion {
    /// The section's capacitance, in farad.
    pub capacitance: f64,
    /// Its rating, in volt.
    pub rated: f64,
    /// What stands across it in its place, in volt.
    pub working: Option<f64>,
    /// How long it has lain idle, in years; thirty where nobody knows.
    pub idle_years: Option<f64>,
    /// What the section is called, of a can that has several.
    #[schema(max_length = 12)]
    pub section: Option<String>,
    /// The supply.
    pub supply: SupplyBody,
    /// Whether plus and minus are known beyond doubt; yes where it is not said.
    pub polarity_known: Option<bool>,
    /// Whether it has vented, bulges or drips.
    #[serde(default)]
    pub vented: bool,
    /// The part that it is about: then its ticket's school decides.
    pub part_id: Option<Uuid>,
    /// Whose limits decide; `test first` where it is not said.
    pub school: Option<School>,
}

/// A reforming supply.
#[derive(Debug, Clone, Copy, Deserialize, ToSchema)]
pub struct SupplyBody {
    /// The most that it is set to give, in volt.
    pub voltage: f64,
    /// The resistor in series, in ohm.
    pub series: Option<f64>,
    /// What that resistor is rated at, in watt.
    pub series_power: Option<f64>,
    /// Its current limit, in ampere.
    pub current_limit: Option<f64>,
}

/// A plan.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct PlanAnswer {
    /// The voltages, lowest first.
    pub stages: Vec<StageView>,
    /// The three limits of leakage.
    pub limits: LeakageLimitsView,
    /// What flows into a short, in ampere.
    pub peak_current: f64,
    /// What the resistor takes then, in watt; null without one.
    pub resistor_power: Option<f64>,
    /// What it should be rated at, as shown; null without one.
    pub resistor_rating: Option<String>,
    /// The voltage to be reached, in volt.
    pub aim: f64,
    /// How long a part as assumed would take, in second; null where it would not get there.
    pub expected_s: Option<f64>,
    /// How it is emptied.
    pub discharge: DischargeView,
    /// Where the hand goes.
    #[serde(serialize_with = "crate::dialect::said")]
    pub cautions: Vec<String>,
    /// The plan in lines to be read.
    #[serde(serialize_with = "crate::dialect::said")]
    pub lines: Vec<String>,
}

/// One voltage of a plan.
#[derive(Debug, Clone, Copy, Serialize, ToSchema)]
pub struct StageView {
    /// What the supply is set to, in volt.
    pub volts: f64,
    /// For how long at least, in second.
    pub minimum_s: f64,
    /// The leakage below which it goes on, in ampere.
    pub go_on_below: f64,
}

/// The limits of leakage, in ampere.
#[derive(Debug, Clone, Serialize, ToSchema)]
pub struct LeakageLimitsView {
    /// Of new parts.
    pub modern: f64,
    /// Of the older military specification.
    pub military: f64,
    /// The bench figure.
    pub bench: f64,
    /// The one that decides.
    pub decides: f64,
    /// Where they come from.
    pub source: String,
}

/// How a part is emptied.
#[derive(Debug, Clone, Copy, Serialize, ToSchema)]
pub struct DischargeView {
    /// In ohm.
    pub resistor: f64,
    /// What it takes in the first moment, in watt.
    pub power: f64,
    /// Until it is safe, in second.
    pub seconds: f64,
    /// What is stored, in joule.
    pub energy: f64,
}

/// A plan, and how a part as assumed would go through it.
#[derive(Debug, Serialize, ToSchema)]
pub struct SimulateAnswer {
    /// The plan.
    #[serde(flatten)]
    pub plan: PlanAnswer,
    /// In second.
    pub time: Vec<f64>,
    /// Across the part, in volt.
    pub volts: Vec<f64>,
    /// Into the part, in ampere.
    pub current: Vec<f64>,
    /// How it ends.
    #[serde(serialize_with = "crate::dialect::said")]
    pub outcome: String,
}

/// At most so many points of a simulated curve are sent.
const MOST_POINTS: usize = 1500;

fn number<T>(field: &str, value: f64, new: impl Fn(f64) -> Result<T, QuantityError>) -> Result<T, ApiError> {
    new(value).map_err(|e| ApiError::field(field, e))
}

fn optional<T>(
    field: &str,
    value: Option<f64>,
    new: impl Fn(f64) -> Result<T, QuantityError>,
) -> Result<Option<T>, ApiError> {
    value.map(|v| number(field, v, new)).transpose()
}

impl PlanQuestion {
    /// The question as the core knows it.
    ///
    /// # Errors
    /// 422 with the input to blame.
    pub fn ask(&self) -> Result<Ask, ApiError> {
        let section = self.section.as_deref().map(str::trim).filter(|s| !s.is_empty());
        if section.is_some_and(|s| s.chars().count() > 12) {
            return Err(ApiError::field(
                "section",
                "a section is called A, B or the like: 12 characters at most",
            ));
        }
        Ok(Ask {
            capacitance: number("capacitance", self.capacitance, Farad::new)?,
            rated: number("rated", self.rated, Volt::new)?,
            working: optional("working", self.working, Volt::new)?,
            idle_years: self.idle_years.unwrap_or(UNKNOWN_YEARS),
            section: section.map(|s| s.replace('\0', "")),
            supply: Supply {
                volts: number("supply.voltage", self.supply.voltage, Volt::new)?,
                series: optional("supply.series", self.supply.series, Ohm::new)?,
                series_rating: optional("supply.series_power", self.supply.series_power, Watt::new)?,
                limit: optional("supply.current_limit", self.supply.current_limit, Ampere::new)?,
            },
            polarity_known: self.polarity_known.unwrap_or(true),
            vented: self.vented,
        })
    }

    /// The school that it names.
    ///
    /// # Errors
    /// Never: every school has a plain variant.
    pub fn policy(&self) -> Result<&'static Policy, ApiError> {
        let Some(school) = self.school else { return Ok(Policy::unchosen()) };
        Policy::of(school, false).map_err(|e| ApiError::field("school", e))
    }
}

/// The plan, or the refusal with the input to blame.
///
/// # Errors
/// 422.
pub fn planned(ask: &Ask, policy: &Policy) -> Result<Plan, ApiError> {
    Plan::make(ask, policy).map_err(|e| ApiError::field(e.input(), e))
}

impl PlanAnswer {
    /// A plan and how it is expected to go.
    #[must_use]
    pub fn of(plan: &Plan, led: &Led) -> Self {
        let a = &plan.acceptance;
        let rating = plan.resistor_power.map(|p| Rating::of(p).to_string());
        Self {
            stages: plan
                .stages
                .iter()
                .map(|s| StageView {
                    volts: s.volts.volts(),
                    minimum_s: s.minimum.seconds(),
                    go_on_below: s.go_on_below.amperes(),
                })
                .collect(),
            limits: LeakageLimitsView {
                modern: a.modern.amperes(),
                military: a.military.amperes(),
                bench: a.bench.amperes(),
                decides: a.below.amperes(),
                source: a.source.clone(),
            },
            peak_current: plan.peak_current.amperes(),
            resistor_power: plan.resistor_power.map(Watt::watts),
            aim: plan.aim.volts(),
            expected_s: (led.ending == Some(owl_core::reform::run::Ending::Reformed)).then_some(led.fed_s),
            discharge: DischargeView {
                resistor: plan.emptying.resistor.ohms(),
                power: plan.emptying.power.watts(),
                seconds: plan.emptying.time.seconds(),
                energy: plan.emptying.energy_joules,
            },
            cautions: plan.cautions.clone(),
            lines: lines(plan, rating.as_deref()),
            resistor_rating: rating,
        }
    }
}

/// What a technician wants to read of a plan.
fn lines(plan: &Plan, rating: Option<&str>) -> Vec<String> {
    let volts: Vec<String> =
        plan.stages.iter().map(|s| s.volts.to_string().trim_end_matches(" V").to_owned()).collect();
    let e = plan.emptying;
    let mut all = vec![
        format!("up to {} in {} steps: {} V", plan.aim, volts.len(), volts.join(", ")),
        format!("good below {}, the {}", plan.acceptance.below, plan.acceptance.called),
        format!("taken as {:.0} years idle", plan.idle_years),
        format!("into a short flow {}", plan.peak_current),
    ];
    if let (Some(power), Some(rating)) = (plan.resistor_power, rating) {
        all.push(format!("the resistor takes {power} then: rate it {rating}"));
    }
    all.push(format!(
        "then empty it through {}: {:.0} s from {}",
        e.resistor,
        e.time.seconds().ceil(),
        plan.aim
    ));
    all
}

impl SimulateAnswer {
    /// A plan led through by a part as assumed.
    #[must_use]
    pub fn of(plan: &Plan) -> Self {
        let led = expected(plan);
        let every = led.samples.len().div_ceil(MOST_POINTS).max(1);
        let thin = || led.samples.iter().step_by(every);
        Self {
            plan: PlanAnswer::of(plan, &led),
            time: thin().map(|s| s.at_s).collect(),
            volts: thin().map(|s| s.volts).collect(),
            current: thin().map(|s| s.amperes).collect(),
            outcome: led.ending.map_or_else(|| "not done in a day and a half".to_owned(), |e| e.to_string()),
        }
    }
}
