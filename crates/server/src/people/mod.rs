//! The people of a workshop: who comes in, who may do what, and in whose name every row is written (rule R22).
//!
//! [`gate`] stands before every request and knows whom it comes from; [`actor`] carries that to whatever answers.

pub mod account;
pub mod actor;
pub mod countersign;
pub mod gate;
pub mod list;
pub mod permission;
pub mod secret;
pub mod sign_in;
pub mod store;
pub mod story;

use owl_core::people::Role;
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;

use self::actor::Person;

/// How people come in.
#[derive(Debug, Clone, Copy, PartialEq, Eq, Serialize, ToSchema)]
#[serde(rename_all = "lowercase")]
pub enum Access {
    /// One person on this machine alone: nobody signs in.
    Alone,
    /// Everybody signs in.
    Accounts,
}

/// Somebody of the workshop, as others see it.
#[derive(Debug, Clone, PartialEq, Eq, Serialize, ToSchema)]
pub struct PersonView {
    /// Its key.
    pub id: Uuid,
    /// The name.
    pub name: String,
    /// What this person is.
    pub role: Role,
}

impl From<&Person> for PersonView {
    fn from(p: &Person) -> Self {
        Self { id: p.id, name: p.name.clone(), role: p.role }
    }
}
