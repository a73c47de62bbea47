//! A ticket's tray: its rows put together in one place as the core knows them, what the screens say of it, and what a
//! write answers with.

pub mod load;
pub mod pins;
pub mod reading_view;
pub mod strip;
mod valve_data;
pub mod view;
pub mod wire;
pub mod written;

use owl_core::tray::{Id, Moment};
use time::OffsetDateTime;
use uuid::Uuid;

pub use load::Loaded;
pub use written::{Written, touched, written};

use crate::error::{ApiError, Changed};
use crate::table::part::PartRow;

/// The core's number of a row.
#[must_use]
pub fn id(row: Uuid) -> Id {
    Id(row.as_u128())
}

/// The row of a number of the core's.
#[must_use]
pub fn uuid(id: Id) -> Uuid {
    Uuid::from_u128(id.0)
}

/// A moment as the core compares it: PostgreSQL keeps microseconds.
#[must_use]
pub fn moment(at: OffsetDateTime) -> Moment {
    Moment(i64::try_from(at.unix_timestamp_nanos() / 1000).unwrap_or(i64::MAX))
}

/// Refuses a change that was made with an older version in view.
///
/// # Errors
/// 409 with what changed.
pub async fn unchanged_since(
    db: &mut sqlx::PgConnection,
    row: &PartRow,
    version: i32,
) -> Result<(), ApiError> {
    if row.version == version {
        return Ok(());
    }
    Err(conflict(&row.name, crate::changed::of_part(db, row.id, version).await?))
}

/// The error for a change that came too late.
#[must_use]
pub fn conflict(what: &str, changed: Vec<Changed>) -> ApiError {
    ApiError::Conflict {
        detail: format!(
            "{what} was changed in another window since you saw it; look at it, then do it again"
        ),
        changed,
    }
}
