//! A run of reforming as stored, and what is new of it.

use owl_core::part::Position;
use owl_core::reform::Sample;
use owl_core::reform::bench::Bench;
use owl_core::reform::run::{Run, Said};
use owl_core::verdict::School;
use time::OffsetDateTime;
use uuid::Uuid;

/// A run as stored.
#[derive(Debug, Clone)]
pub struct RunRow {
    /// Its id.
    pub id: Uuid,
    /// Its part.
    pub part_id: Uuid,
    /// The part's ticket.
    pub ticket_id: Uuid,
    /// The part's name.
    pub part: String,
    /// The set.
    pub set: String,
    /// Where the part sits.
    pub position: Option<Position>,
    /// Which section of a can.
    pub section: String,
    /// How fast the simulated bench runs.
    pub speed: f64,
    /// Whose limits decide.
    pub school: School,
    /// The state machine.
    pub run: Run,
    /// The simulated bench under it.
    pub bench: Option<Bench>,
    /// How long a part as assumed would take.
    pub expected_s: f64,
    /// How many readings are stored.
    pub samples: i64,
    /// How many things were said.
    pub words: i64,
    /// Where its clock stood at `advanced_at`.
    pub clock_s: f64,
    /// When its clock was last set.
    pub advanced_at: OffsetDateTime,
    /// Which server drives it.
    pub driver: Option<Uuid>,
    /// Until when that server holds it.
    pub driven_until: Option<OffsetDateTime>,
    /// When it was prepared.
    pub created_at: OffsetDateTime,
    /// When it was switched on.
    pub switched_on_at: Option<OffsetDateTime>,
    /// The file in which its whole curve is, where only a part of its readings was left.
    pub thinned: Option<String>,
    /// The database's time.
    pub now: OffsetDateTime,
}

/// What happened to a run since it was last stored.
#[derive(Debug, Default)]
pub struct News {
    /// Readings, oldest first, each with the key under which a hand sent it.
    pub samples: Vec<(Sample, Option<Uuid>)>,
    /// What was said.
    pub said: Vec<Said>,
}

pub(super) fn count(n: usize) -> i64 {
    i64::try_from(n).unwrap_or(i64::MAX)
}
