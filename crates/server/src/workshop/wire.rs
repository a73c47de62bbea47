//! The JSON shapes of the workshop.

use owl_core::named::Named;
use owl_core::part::{MadeOf, PartKind};
use owl_core::quantity::write::percent;
use owl_core::verdict::{Policy, School};
use serde::Serialize;
use utoipa::ToSchema;
use uuid::Uuid;

use super::store::MeterRow;
use crate::name::{
    CallName, ColourName, MadeOfName, ModeName, Name, PartKindName, PositionName, SchoolName, SetClassName,
    StateName,
};

/// The workshop.
#[derive(Debug, Serialize, ToSchema)]
pub struct WorkshopView {
    /// Its name.
    pub name: String,
    /// Where it is.
    pub place: String,
    /// Its meters.
    pub meters: Vec<MeterView>,
    /// The schools that a ticket can follow.
    pub schools: Vec<SchoolView>,
    /// The vocabularies.
    pub words: Words,
}

/// A meter.
#[derive(Debug, Serialize, ToSchema)]
pub struct MeterView {
    /// Its id.
    pub id: Uuid,
    /// Its name.
    pub name: String,
    /// How it measures.
    pub mode: String,
    /// Its uncertainty, in words.
    pub accuracy: String,
}

impl From<&MeterRow> for MeterView {
    fn from(m: &MeterRow) -> Self {
        let counts = if m.counts == 1.0 { "count" } else { "counts" };
        Self {
            id: m.id,
            name: m.name.clone(),
            mode: m.mode.clone(),
            accuracy: format!("±({} + {} {counts})", percent(m.of_reading), m.counts),
        }
    }
}

/// A school.
#[derive(Debug, Serialize, ToSchema)]
pub struct SchoolView {
    /// Its name.
    pub school: SchoolName,
    /// The limit for resistors, in words.
    pub in_words: String,
    /// Whether it has a tight variant.
    pub has_tight: bool,
}

impl SchoolView {
    /// All schools.
    #[must_use]
    pub fn all() -> Vec<Self> {
        School::ALL
            .iter()
            .filter_map(|s| {
                let policy = Policy::of(*s, false).ok()?;
                let has_tight = Policy::of(*s, true).is_ok();
                Some(Self { school: Name(*s), in_words: policy.in_words.clone(), has_tight })
            })
            .collect()
    }
}

/// The families of a kind of part.
#[derive(Debug, Serialize, ToSchema)]
pub struct FamiliesOf {
    /// The kind.
    pub kind: PartKindName,
    /// Its families.
    pub families: Vec<MadeOfName>,
}

impl FamiliesOf {
    /// Of every kind that has any.
    #[must_use]
    pub fn all() -> Vec<Self> {
        [PartKind::Resistor, PartKind::Capacitor]
            .into_iter()
            .map(|kind| Self {
                kind: Name(kind),
                families: MadeOf::ALL.iter().filter(|f| f.kind() == kind).map(|f| Name(*f)).collect(),
            })
            .collect()
    }
}

/// The vocabularies.
#[derive(Debug, Serialize, ToSchema)]
pub struct Words {
    /// Classes of set.
    pub classes: Vec<SetClassName>,
    /// Families of every kind of part that has them.
    pub families: Vec<FamiliesOf>,
    /// Positions.
    pub positions: Vec<PositionName>,
    /// States of a part when measured.
    pub states: Vec<StateName>,
    /// Ways of measuring.
    pub modes: Vec<ModeName>,
    /// Verdicts.
    pub verdicts: Vec<CallName>,
    /// Band colours.
    pub colours: Vec<ColourName>,
}
