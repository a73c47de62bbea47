//! The JSON shapes of the workshop.

use owl_core::marking::Colour;
use owl_core::named::Named;
use owl_core::part::{MadeOf, PartKind, Position, SafetyClass};
use owl_core::reading::{InstrumentKind, Mode, Setting, State};
use owl_core::set::{Devices, PowerSource};
use owl_core::supply::rectifier::Arrangement;
use owl_core::transistor::diode_device::{Device, rectifiers};
use owl_core::verdict::{Outcome, Policy, School};
use serde::Serialize;
use utoipa::ToSchema;

use super::words::DialectView;
use crate::backup::schedule::BackupView;
use crate::instrument::wire::InstrumentView;
use crate::judge::view::FactView;
use crate::tray::wire::ReadableView;

/// The workshop.
#[derive(Debug, Serialize, ToSchema)]
pub struct WorkshopView {
    /// Its name.
    pub name: String,
    /// Where it is.
    pub place: String,
    /// The words that it has chosen.
    pub dialect: DialectView,
    /// How its backups stand, where the server writes them itself.
    pub backup: Option<BackupView>,
    /// Its instruments.
    pub instruments: Vec<InstrumentView>,
    /// The schools that a ticket can follow.
    pub schools: Vec<SchoolView>,
    /// The vocabularies.
    pub words: Words,
}

/// A school.
#[derive(Debug, Serialize, ToSchema)]
pub struct SchoolView {
    /// Its name.
    pub school: School,
    /// The limit for resistors, in words.
    #[serde(serialize_with = "crate::dialect::said")]
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
                Some(Self { school: *s, in_words: policy.in_words.clone(), has_tight })
            })
            .collect()
    }
}

/// The families of a kind of part.
#[derive(Debug, Serialize, ToSchema)]
pub struct FamiliesOf {
    /// The kind.
    pub kind: PartKind,
    /// Its families.
    pub families: Vec<MadeOf>,
}

impl FamiliesOf {
    /// Of every kind that has any.
    #[must_use]
    pub fn all() -> Vec<Self> {
        [PartKind::Resistor, PartKind::Capacitor, PartKind::Coil, PartKind::Diode, PartKind::Transistor]
            .into_iter()
            .map(|kind| Self {
                kind,
                families: MadeOf::ALL.iter().filter(|f| f.suits(kind)).copied().collect(),
            })
            .collect()
    }
}

/// The positions of a kind of part.
#[derive(Debug, Serialize, ToSchema)]
pub struct PositionsOf {
    /// The kind.
    pub kind: PartKind,
    /// Where it sits.
    pub positions: Vec<Position>,
}

impl PositionsOf {
    /// Of every kind that has any.
    #[must_use]
    pub fn all() -> Vec<Self> {
        PartKind::ALL
            .iter()
            .map(|kind| Self { kind: *kind, positions: Position::of(*kind).collect() })
            .filter(|p| !p.positions.is_empty())
            .collect()
    }
}

/// The vocabularies.
#[derive(Debug, Serialize, ToSchema)]
pub struct Words {
    /// Classes of set.
    pub sources: Vec<PowerSource>,
    /// What a set can work with.
    pub devices: Vec<Devices>,
    /// How a rectifier can be connected.
    pub arrangements: Vec<Arrangement>,
    /// What a set does when it comes in, to be picked from.
    pub symptoms: Vec<String>,
    /// Families of every kind of part that has them.
    pub families: Vec<FamiliesOf>,
    /// Positions of every kind of part that has them.
    pub positions: Vec<PositionsOf>,
    /// What a part that protects people may have printed on it.
    pub safety_classes: Vec<SafetyClass>,
    /// What can be known of the circuit round a part.
    pub facts: Vec<FactView>,
    /// Silicon rectifiers that can be chosen.
    pub rectifiers: Vec<RectifierView>,
    /// Kinds of instrument.
    pub instrument_kinds: Vec<InstrumentKind>,
    /// Everything that can be read.
    pub quantities: Vec<ReadableView>,
    /// How a leakage tester's switch can stand.
    pub settings: Vec<Setting>,
    /// States of a part when measured.
    pub states: Vec<State>,
    /// Ways of measuring.
    pub modes: Vec<Mode>,
    /// Verdicts.
    pub verdicts: Vec<Outcome>,
    /// Band colours.
    pub colours: Vec<Colour>,
}

/// A silicon rectifier that can be chosen.
#[derive(Debug, Serialize, ToSchema)]
pub struct RectifierView {
    /// Its type number.
    #[serde(rename = "type")]
    pub type_number: String,
    /// What it stands: `1 A, 1 kV, fast`.
    pub stands: String,
}

impl RectifierView {
    /// All of them, by their type numbers.
    pub fn all() -> Vec<Self> {
        let view = |d: &Device| Self { type_number: d.type_number.clone(), stands: d.stands() };
        rectifiers().into_iter().map(view).collect()
    }
}
