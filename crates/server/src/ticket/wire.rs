//! The JSON shapes of tickets.

use serde::{Deserialize, Serialize};
use utoipa::ToSchema;
use uuid::Uuid;

use super::store::LineRow;
use crate::error::ApiError;
use crate::name::{Name, SchoolName, SetClassName, StepName, stored};
use crate::part::wire::PartView;

/// A new ticket.
#[derive(Debug, Deserialize, ToSchema)]
pub struct NewTicket {
    /// Chosen by the client, so that sending twice opens one ticket.
    pub id: Option<Uuid>,
    /// The set, in the technician's words.
    #[schema(min_length = 1, max_length = 80)]
    pub name: String,
    /// How the set is supplied.
    pub class: SetClassName,
    /// Whose limits decide.
    pub school: SchoolName,
    /// The tight variant of 'test first'.
    #[serde(default)]
    pub tight: bool,
    /// The workshop's copy of a school to follow; it brings its school with it.
    pub policy: Option<Uuid>,
    /// What is wrong with it.
    #[schema(max_length = 2000)]
    pub complaint: Option<String>,
}

/// A change to a ticket; what is left out stays.
#[derive(Debug, Deserialize, ToSchema)]
pub struct TicketChange {
    /// The version that was seen.
    pub version: i32,
    /// The set.
    #[schema(min_length = 1, max_length = 80)]
    pub name: Option<String>,
    /// How it is supplied.
    pub class: Option<SetClassName>,
    /// Whose limits decide.
    pub school: Option<SchoolName>,
    /// The tight variant.
    pub tight: Option<bool>,
    /// The workshop's copy of a school to follow; null for the school as it is.
    #[serde(default, deserialize_with = "crate::part::wire::present")]
    pub policy: Option<Option<Uuid>>,
    /// What is wrong with it.
    #[schema(max_length = 2000)]
    pub complaint: Option<String>,
}

/// A ticket on the shelf.
#[derive(Debug, Serialize, ToSchema)]
pub struct TicketLine {
    /// Its id.
    pub id: Uuid,
    /// The set.
    pub name: String,
    /// How it is supplied.
    pub class: SetClassName,
    /// How many parts are on its tray.
    pub parts: i64,
    /// What is left to do: `3 to measure`.
    pub left: String,
}

impl TicketLine {
    /// A line as it is sent.
    ///
    /// # Errors
    /// [`ApiError::Internal`] for a row that cannot be.
    pub fn of(row: &LineRow) -> Result<Self, ApiError> {
        let left = match row {
            LineRow { parts: 0, .. } => "nothing on the tray yet".to_owned(),
            LineRow { to_measure: n @ 1.., .. } => format!("{n} to measure"),
            LineRow { to_fit: n @ 1.., .. } => format!("{n} to fit"),
            LineRow { to_prove: n @ 1.., .. } => format!("{n} to prove"),
            LineRow { undecided: n @ 1.., .. } => format!("{n} to decide"),
            _ => "all done".to_owned(),
        };
        Ok(Self {
            id: row.id,
            name: row.name.clone(),
            class: Name(stored(&row.class)?),
            parts: row.parts,
            left,
        })
    }
}

/// A warning at a step.
#[derive(Debug, Serialize, ToSchema)]
pub struct CautionView {
    /// At which step.
    pub step: StepName,
    /// What to mind.
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
    /// How it is supplied.
    pub class: SetClassName,
    /// Whose limits decide.
    pub school: SchoolName,
    /// The tight variant.
    pub tight: bool,
    /// The workshop's copy of a school that it follows instead.
    pub policy: Option<PolicyRef>,
    /// What is wrong with it.
    pub complaint: String,
    /// Warnings, by step.
    pub cautions: Vec<CautionView>,
    /// The parts, in order of their names.
    pub parts: Vec<PartView>,
}
