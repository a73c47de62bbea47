//! The JSON shapes of tickets.

use owl_core::caution::CautionAt;
use owl_core::quantity::{Quantity, Volt};
use owl_core::set::{Devices, PowerSource, SetClass};
use owl_core::tray::shelf::Waits;
use owl_core::verdict::School;
use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use super::set::{SetBody, SetView};
use crate::amount::Amount;
use crate::error::ApiError;
use crate::table::ticket::{ShelfRow, TicketRow};
use crate::tray::strip::StripView;

/// A new ticket.
#[derive(Debug, Deserialize, ToSchema)]
pub struct NewTicket {
    /// Chosen by the client, so that sending twice opens one ticket.
    pub id: Option<Uuid>,
    /// The set, in the technician's words.
    #[schema(min_length = 1, max_length = 80)]
    pub name: String,
    /// How the set is fed.
    pub source: PowerSource,
    /// What it works with.
    pub devices: Devices,
    /// The highest volts in it, as typed; empty where they are not known.
    #[serde(default)]
    #[schema(max_length = 40)]
    pub highest: String,
    /// Whose limits decide.
    pub school: School,
    /// The tight variant of 'test first'.
    #[serde(default)]
    pub tight: bool,
    /// The workshop's copy of a school to follow; it brings its school with it.
    pub policy: Option<Uuid>,
    /// What is wrong with it.
    #[schema(max_length = 2000)]
    pub complaint: Option<String>,
    /// What else is said at intake.
    #[serde(default)]
    pub intake: Option<IntakeBody>,
    /// What is said of its supply.
    #[serde(default)]
    pub set: Option<SetBody>,
}

/// A change to a ticket; what is left out stays.
#[derive(Debug, Deserialize, ToSchema)]
pub struct TicketChange {
    /// The version that was seen.
    pub version: i32,
    /// The set.
    #[schema(min_length = 1, max_length = 80)]
    pub name: Option<String>,
    /// How it is fed.
    pub source: Option<PowerSource>,
    /// What it works with.
    pub devices: Option<Devices>,
    /// The highest volts in it, as typed; empty where they are not known.
    #[schema(max_length = 40)]
    pub highest: Option<String>,
    /// Whose limits decide.
    pub school: Option<School>,
    /// The tight variant.
    pub tight: Option<bool>,
    /// The workshop's copy of a school to follow; null for the school as it is.
    #[serde(default, deserialize_with = "crate::part::wire::present")]
    pub policy: Option<Option<Uuid>>,
    /// What is wrong with it.
    #[schema(max_length = 2000)]
    pub complaint: Option<String>,
    /// What else is said at intake.
    #[serde(default)]
    pub intake: Option<IntakeBody>,
    /// What is said of its supply.
    #[serde(default)]
    pub set: Option<SetBody>,
}

/// What is said at intake, as typed; what is left out stays, empty is unknown.
#[derive(Debug, Default, Deserialize, ToSchema)]
pub struct IntakeBody {
    /// What it does.
    #[schema(max_items = 40)]
    pub symptoms: Option<Vec<String>>,
    /// What the owner wants.
    #[schema(max_length = 400)]
    pub wants: Option<String>,
    /// Its supply, in words.
    #[schema(max_length = 200)]
    pub supply: Option<String>,
    /// What somebody did to it before.
    #[schema(max_length = 2000)]
    pub earlier_work: Option<String>,
    /// The line or battery that it is made for.
    #[schema(max_length = 40)]
    pub line: Option<String>,
    /// What it draws there.
    #[schema(max_length = 40)]
    pub watts: Option<String>,
    /// The line that its sheet assumes.
    #[schema(max_length = 40)]
    pub sheet_line: Option<String>,
    /// Ohms for each volt of the sheet's meter.
    #[schema(max_length = 40)]
    pub sheet_ohms_per_volt: Option<String>,
}

/// What was said at intake.
#[derive(Debug, Serialize, ToSchema)]
pub struct IntakeView {
    /// What it does.
    pub symptoms: Vec<String>,
    /// What the owner wants.
    pub wants: String,
    /// Its supply, in words.
    pub supply: String,
    /// What somebody did to it before.
    pub earlier_work: String,
    /// The line or battery that it is made for.
    pub line: Option<Amount>,
    /// What it draws there.
    pub watts: Option<Amount>,
    /// The line that its sheet assumes.
    pub sheet_line: Option<Amount>,
    /// Ohms for each volt of the sheet's meter.
    pub sheet_ohms_per_volt: Option<Amount>,
}

impl IntakeView {
    /// What a row says.
    #[must_use]
    pub fn of(t: &TicketRow) -> Self {
        let of = |q: Quantity, v: Option<f64>| v.map(|v| Amount::of(q, v));
        Self {
            symptoms: t.symptoms.clone(),
            wants: t.wants.clone(),
            supply: t.supply.clone(),
            earlier_work: t.earlier_work.clone(),
            line: of(Quantity::Voltage, t.line_volts),
            watts: of(Quantity::Power, t.set_watts),
            sheet_line: of(Quantity::Voltage, t.sheet_line_volts),
            sheet_ohms_per_volt: of(Quantity::Resistance, t.sheet_ohms_per_volt),
        }
    }
}

/// A ticket on the shelf.
#[derive(Debug, Serialize, ToSchema)]
pub struct ShelfTicket {
    /// Its id.
    pub id: Uuid,
    /// The set.
    pub name: String,
    /// What can hurt in it, in a word: `live chassis`, `1.2 kV`.
    pub class: String,
    /// How many parts are on its tray.
    pub parts: i64,
    /// What it waits for; the vocabulary stands in the order in which tickets are to be taken up.
    pub waits: Waits,
    /// What is left to do: `3 to measure`.
    #[serde(serialize_with = "crate::dialect::said")]
    pub left: String,
    /// Whether it is closed and filed away.
    pub closed: bool,
}

impl ShelfTicket {
    /// A line as it is sent.
    ///
    /// # Errors
    /// [`ApiError::Internal`] for a row that cannot be.
    pub fn of(row: &ShelfRow) -> Result<Self, ApiError> {
        let counted = row.counted();
        let highest = row.highest_volts.and_then(|v| Volt::new(v).ok());
        let class = SetClass { source: row.source, devices: row.devices, highest };
        Ok(Self {
            id: row.id,
            name: row.name.clone(),
            class: class.in_short(),
            parts: row.parts,
            waits: counted.waits(),
            left: counted.left(),
            closed: row.closed,
        })
    }
}

/// What a set is: three answers.
#[derive(Debug, Serialize, ToSchema)]
pub struct SetClassView {
    /// How it is fed.
    pub source: PowerSource,
    /// What it works with.
    pub devices: Devices,
    /// The highest volts in it, where they were said.
    pub highest: Option<Amount>,
    /// All of it in words.
    #[serde(serialize_with = "crate::dialect::said")]
    pub in_words: String,
    /// Whether it hangs on the mains.
    pub mains: bool,
    /// Whether there are valves in it.
    pub valves: bool,
    /// As the core knows it.
    #[serde(skip)]
    pub known: SetClass,
}

impl SetClassView {
    /// What a row says.
    #[must_use]
    pub fn of(row: &TicketRow) -> Self {
        let known = row.class();
        Self {
            source: row.source,
            devices: row.devices,
            highest: row.highest_volts.map(|v| Amount::of(Quantity::Voltage, v)),
            in_words: known.in_words(),
            mains: known.is_on_the_mains(),
            valves: known.has_valves(),
            known,
        }
    }
}

/// A warning at a step.
#[derive(Debug, Serialize, ToSchema)]
pub struct CautionView {
    /// Where.
    pub step: CautionAt,
    /// What to mind.
    #[serde(serialize_with = "crate::dialect::said")]
    pub text: String,
    /// Where it comes from.
    pub source: String,
}

/// A workshop's copy of a school.
#[derive(Debug, Serialize, ToSchema)]
pub struct PolicyRef {
    /// Its id.
    pub id: Uuid,
    /// What the workshop calls it.
    pub name: String,
}

/// A ticket with all that is on its tray.
#[derive(Debug, Serialize, ToSchema)]
pub struct TicketView {
    /// Its id.
    pub id: Uuid,
    /// Rises with every change.
    pub version: i32,
    /// The set.
    pub name: String,
    /// What it is.
    pub class: SetClassView,
    /// Whose limits decide.
    pub school: School,
    /// The tight variant.
    pub tight: bool,
    /// The workshop's copy of a school that it follows instead.
    pub policy: Option<PolicyRef>,
    /// What is wrong with it.
    pub complaint: String,
    /// What was said at intake.
    pub intake: IntakeView,
    /// What is known of its supply.
    pub set: SetView,
    /// Warnings, by step.
    pub cautions: Vec<CautionView>,
    /// The parts as the tray shows them, in the order of their names; what else is known of one comes with the part.
    pub parts: Vec<StripView>,
}
