//! What is known of a set's supply, as typed and as shown: asked once, taken over by every part that it counts for.

use std::collections::BTreeMap;

use owl_core::named::Named;
use owl_core::part::Fact;
use owl_core::quantity::{Ampere, Ohm, Quantity, Volt};
use owl_core::set::contradiction::{KnownSet, contradictions};
use owl_core::set::facts::{LONGEST_NAME, MOST_ROWS};
use owl_core::set::{Heaters, Rail, SetFacts};
use owl_core::stored::Stored;
use owl_core::supply::heater::Member;
use owl_core::supply::rectifier::Arrangement;
use serde::{Deserialize, Serialize};
use sqlx::types::Json;
use utoipa::ToSchema;

use crate::amount::{Amount, above_zero_below, typed_optional};
use crate::error::ApiError;
use crate::fact::say_fact;
use crate::judge::view::FactView;
use crate::supply::wire::SettledView;
use crate::table::ticket::TicketRow;
use crate::text::checked_text;

/// What is said of a set's supply, as typed; what is left out stays, empty is unknown.
#[derive(Debug, Default, Deserialize, ToSchema)]
pub struct SetBody {
    /// By the fact's name; empty takes a fact away, what is left out stays.
    #[serde(default)]
    pub facts: BTreeMap<String, String>,
    /// How the rectifier is connected; null for unknown.
    #[serde(default, deserialize_with = "crate::part::wire::present")]
    pub rectifier: Option<Option<Arrangement>>,
    /// All rails, in the place of those that were known.
    #[schema(max_items = 40)]
    pub rails: Option<Vec<RailBody>>,
    /// All of the heater chain, in the place of what was known.
    #[schema(max_items = 40)]
    pub heaters: Option<Vec<HeaterBody>>,
    /// Ohms in series with the heaters.
    #[schema(max_length = 40)]
    pub ballast: Option<String>,
    /// The same at the position for the higher line.
    #[schema(max_length = 40)]
    pub ballast_high: Option<String>,
    /// A barretter: its current and its volts from and to.
    #[schema(max_length = 60)]
    pub barretter: Option<String>,
}

/// A rail, as typed.
#[derive(Debug, Deserialize, ToSchema)]
pub struct RailBody {
    /// What it is called.
    #[schema(max_length = 40)]
    pub name: String,
    /// Its volts.
    #[schema(max_length = 40)]
    pub volts: String,
}

/// A heater or a lamp, as typed.
#[derive(Debug, Deserialize, ToSchema)]
pub struct HeaterBody {
    /// What it is called.
    #[schema(max_length = 40)]
    pub name: String,
    /// Its volts.
    #[schema(max_length = 40)]
    pub volts: String,
    /// Its current.
    #[schema(max_length = 40)]
    pub current: String,
    /// Whether it is a lamp.
    #[serde(default)]
    pub lamp: bool,
}

/// What is known of a set's supply.
#[derive(Debug, Serialize, ToSchema)]
pub struct SetView {
    /// The facts that all of its parts share, those that nobody has said with an empty text.
    pub facts: Vec<FactView>,
    /// How the rectifier is connected.
    pub rectifier: Option<Arrangement>,
    /// Its rails.
    pub rails: Vec<RailView>,
    /// Its heater chain.
    pub heaters: Vec<HeaterView>,
    /// Ohms in series with the heaters.
    pub ballast: Option<Amount>,
    /// The same at the position for the higher line.
    pub ballast_high: Option<Amount>,
    /// A barretter, as it can be typed.
    pub barretter: Option<String>,
    /// The ripple's frequency behind its rectifier.
    pub ripple: Option<Amount>,
    /// How its heater chain settles, at each position of the ballast.
    pub settled: Vec<SettledView>,
    /// Entries that cannot both hold, each pair in a sentence.
    #[serde(serialize_with = "crate::dialect::said")]
    pub contradictions: Vec<String>,
}

/// A rail.
#[derive(Debug, Serialize, ToSchema)]
pub struct RailView {
    /// What it is called.
    pub name: String,
    /// Its volts.
    pub volts: Amount,
}

/// A heater or a lamp.
#[derive(Debug, Serialize, ToSchema)]
pub struct HeaterView {
    /// What it is called.
    pub name: String,
    /// Its volts.
    pub volts: Amount,
    /// Its current.
    pub current: Amount,
    /// Whether it is a lamp.
    pub lamp: bool,
}

impl SetView {
    /// What a row says.
    #[must_use]
    pub fn of(row: &TicketRow) -> Self {
        let set = row.set();
        let ohms = |r: Option<Ohm>| r.map(Amount::from);
        let known = KnownSet {
            class: row.said_class(),
            rated: row.rated(),
            watts: row.set_watts.and_then(|w| owl_core::quantity::Watt::new(w).ok()),
            facts: set,
        };
        Self {
            facts: Fact::said()
                .filter(|f| f.is_of_the_set())
                .map(|f| FactView::of(f, set.shared().get_si(f)))
                .collect(),
            rectifier: set.rectifier,
            rails: set.rails.iter().map(RailView::of).collect(),
            heaters: set.heaters.members.iter().map(HeaterView::of).collect(),
            ballast: ohms(set.heaters.ballast),
            ballast_high: ohms(set.heaters.ballast_high),
            barretter: set.heaters.barretter.map(|b| b.to_string()),
            ripple: set.ripple().map(|f| Amount::of(Quantity::Frequency, f.hertz())),
            settled: set
                .settled(row.rated())
                .iter()
                .map(|(r, s)| SettledView::of(*r, s, &set.heaters.members))
                .collect(),
            contradictions: contradictions(&known),
        }
    }
}

impl RailView {
    fn of(r: &Rail) -> Self {
        Self { name: r.name.clone(), volts: Amount::of(Quantity::Voltage, r.volts.volts()) }
    }
}

impl HeaterView {
    fn of(m: &Member) -> Self {
        Self {
            name: m.name.clone(),
            volts: Amount::of(Quantity::Voltage, m.volts.volts()),
            current: Amount::of(Quantity::Current, m.current.amperes()),
            lamp: m.lamp,
        }
    }
}

/// Takes what was said of the supply over into a ticket; what was not said stays.
///
/// # Errors
/// 422 with the input to blame.
pub fn take(row: &mut TicketRow, said: &SetBody) -> Result<(), ApiError> {
    let was = row.set();
    let mut shared = was.shared().clone();
    for (name, text) in &said.facts {
        let field = format!("set.facts.{name}");
        let fact = Fact::from_name(name).map_err(|e| ApiError::field(field.clone(), e))?;
        if !fact.is_of_the_set() {
            return Err(ApiError::field(field, "that is said of a part, and not of the whole set"));
        }
        say_fact(&mut shared, fact, text, &field)?;
    }
    let heaters = Heaters {
        members: match &said.heaters {
            Some(all) => rows("set.heaters", all)?
                .iter()
                .enumerate()
                .map(|(i, h)| member(&format!("set.heaters[{i}]"), h))
                .collect::<Result<_, _>>()?,
            None => was.heaters.members.clone(),
        },
        ballast: ballast("set.ballast", said.ballast.as_deref(), was.heaters.ballast)?,
        ballast_high: ballast("set.ballast_high", said.ballast_high.as_deref(), was.heaters.ballast_high)?,
        barretter: match said.barretter.as_deref().map(str::trim) {
            None => was.heaters.barretter,
            Some("") => None,
            Some(text) => Some(text.parse().map_err(|e| ApiError::field("set.barretter", e))?),
        },
    };
    if heaters.barretter.is_some() && (heaters.ballast.is_some() || heaters.ballast_high.is_some()) {
        let why = "either holds the current: say the ballast or the barretter, and not both";
        return Err(ApiError::field("set.barretter", why));
    }
    let rails = match &said.rails {
        Some(all) => rows("set.rails", all)?
            .iter()
            .enumerate()
            .map(|(i, r)| rail(&format!("set.rails[{i}]"), r))
            .collect::<Result<_, _>>()?,
        None => was.rails.clone(),
    };
    let rectifier = said.rectifier.unwrap_or(was.rectifier);
    row.facts = Json(Stored(SetFacts::new(&shared, rectifier, rails, heaters)));
    Ok(())
}

fn rows<'a, T>(field: &str, all: &'a [T]) -> Result<&'a [T], ApiError> {
    if all.len() > MOST_ROWS {
        return Err(ApiError::field(field, format!("at most {MOST_ROWS} of them")));
    }
    Ok(all)
}

fn named(field: &str, name: &str) -> Result<String, ApiError> {
    let field = format!("{field}.name");
    let name = checked_text(&field, name, LONGEST_NAME)?;
    if name.is_empty() { Err(ApiError::field(field, "say what it is called")) } else { Ok(name) }
}

/// A number that must be said, above zero and of a size that there is.
fn needed(field: &str, of: Quantity, text: &str, most: f64) -> Result<f64, ApiError> {
    above_zero_below(field, of, Some(text), most)?
        .ok_or_else(|| ApiError::field(field, format!("say its {}", of.name())))
}

fn rail(field: &str, said: &RailBody) -> Result<Rail, ApiError> {
    let name = named(field, &said.name)?;
    let field = format!("{field}.volts");
    let volts =
        typed_optional(Quantity::Voltage, Some(&said.volts)).map_err(|e| ApiError::field(&field, e))?;
    // A bias rail is negative.
    let volts = volts.filter(|v| *v != 0.0 && v.abs() < 1e5);
    let volts = volts.ok_or_else(|| ApiError::field(&field, "say its volts, below 100 kV and not zero"))?;
    Ok(Rail { name, volts: Volt::new(volts).map_err(|e| ApiError::field(field, e))? })
}

fn member(field: &str, said: &HeaterBody) -> Result<Member, ApiError> {
    let number = |name: &str, of, text: &str, most| needed(&format!("{field}.{name}"), of, text, most);
    Ok(Member {
        name: named(field, &said.name)?,
        volts: Volt::new(number("volts", Quantity::Voltage, &said.volts, 1e3)?)
            .map_err(|e| ApiError::field(format!("{field}.volts"), e))?,
        current: Ampere::new(number("current", Quantity::Current, &said.current, 100.0)?)
            .map_err(|e| ApiError::field(format!("{field}.current"), e))?,
        lamp: said.lamp,
    })
}

fn ballast(field: &str, said: Option<&str>, was: Option<Ohm>) -> Result<Option<Ohm>, ApiError> {
    let Some(text) = said else { return Ok(was) };
    let ohms = above_zero_below(field, Quantity::Resistance, Some(text), 1e6)?;
    ohms.map(Ohm::new).transpose().map_err(|e| ApiError::field(field, e))
}
