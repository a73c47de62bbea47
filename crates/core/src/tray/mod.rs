//! A ticket's parts as one thing: their marks, readings, decisions, fittings, pairs and feeds; and from these, purely,
//! everything that the screens say of them.
//!
//! | question | where |
//! |---|---|
//! | what sits in the place now, and what was found there | [`installed`] |
//! | what is the verdict, beside the others of its pair or group | [`verdict`] |
//! | how far is it, and which step is next | [`status`] |
//! | what must be asked | [`question`] |
//! | what is one stage: died together, changed together | [`stage`] |
//! | what goes into all of a stage | [`together`] |
//! | what is said of a piece that goes in | [`goes_in`] |
//! | whether it may go in | [`assessed`] |
//! | what may be undone | [`undo`] |
//! | what is left to do | [`left`] |
//! | which of many tickets comes first | [`shelf`] |
//! | what hangs on what, as a supply branch | [`branch`] |
//! | what is in series and shares the volts | [`bank`] |
//!
//! The keeper of the rows gives the numbers by which parts and events are told apart, and the moments at which things
//! happened; the core only compares them.

pub mod assessed;
pub mod bank;
pub mod branch;
pub mod goes_in;
pub mod installed;
pub mod left;
mod progress;
pub mod question;
pub mod shelf;
pub mod sockets;
pub mod stage;
pub mod status;
pub mod together;
pub mod undo;
pub mod verdict;

pub use progress::{Progress, Status};

use std::collections::HashMap;

use crate::marking::Meaning;
use crate::marking::disagreement::Between;
use crate::part::{Circuit, JunctionTest, MadeOf, PartKind, Position, SafetyClass, VisualSign};
use crate::proof::ProofOutcome;
use crate::quantity::{Fraction, Ohm, Volt, Watt};
use crate::reading::{ReadQuantity, Reading, usual};
use crate::set::SetFacts;
use crate::transistor::Device;
use crate::transistor::device::{device, meant};
use crate::verdict::Outcome;

/// Tells one thing on the tray from another: whatever number its keeper gave it.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord, Hash)]
pub struct Id(pub u128);

/// When something happened, in microseconds on the keeper's clock; only the order counts.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
pub struct Moment(pub i64);

/// A reading that was taken of a part.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct TakenReading {
    /// Which.
    pub id: Id,
    /// What the meter said.
    pub reading: Reading,
    /// When.
    pub taken_at: Moment,
    /// When it was voided, where it was: it counts no more.
    pub voided_at: Option<Moment>,
}

/// A technician's word on a verdict.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub struct Decision {
    /// What was decided.
    pub decided: Outcome,
    /// When.
    pub decided_at: Moment,
}

/// What is said of a piece that goes in for a part.
#[derive(Debug, Clone, PartialEq)]
pub struct NewPart {
    /// What it is.
    pub kind: PartKind,
    /// How it is made, where that was said.
    pub family: Option<MadeOf>,
    /// Its value, in the base unit of its kind.
    pub value_si: Option<f64>,
    /// Its tolerance.
    pub tolerance: Option<Fraction>,
    /// Its rated watts.
    pub power: Option<Watt>,
    /// Its rated volts.
    pub volts: Option<Volt>,
    /// Its type number; empty where it has none.
    pub type_number: String,
    /// The safety class that is printed on it.
    pub safety: Option<SafetyClass>,
    /// What it measured before it went in, in the base unit of what such a part is read in.
    pub measured_si: Option<f64>,
}

impl NewPart {
    /// How far what it measured is from its value, as a fraction; `None` where the two are not values of the same
    /// thing, or one of them is not known.
    #[must_use]
    pub fn deviation(&self) -> Option<f64> {
        let same = self.kind.quantity() == Some(usual(self.kind).quantity());
        let (measured, value) = self.measured_si.zip(self.value_si).filter(|(_, v)| same && *v > 0.0)?;
        Some(measured / value - 1.0)
    }
}

/// What went in for a part.
#[derive(Debug, Clone, PartialEq)]
pub struct Fitting {
    /// Which.
    pub id: Id,
    /// What it is.
    pub piece: NewPart,
    /// When.
    pub fitted_at: Moment,
    /// How the set was for it, by its last proof.
    pub proof: Option<ProofOutcome>,
    /// When it was undone, where it was.
    pub withdrawn_at: Option<Moment>,
}

/// How a disagreement of sheet, mark and meter was explained, with the values that it was said about.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Explained {
    /// Which two values.
    pub between: Between,
    /// What the sheet said then.
    pub sheet_si: Option<f64>,
    /// What was marked then.
    pub marked_si: Option<f64>,
    /// What was measured then.
    pub measured_si: Option<f64>,
}

/// A test of a transistor's junctions.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct TestedJunctions {
    /// The six readings.
    pub test: JunctionTest,
    /// When.
    pub taken_at: Moment,
}

/// A part, with all that happened to it, each list oldest first.
#[derive(Debug, Clone, PartialEq)]
pub struct TrayPart {
    /// Which.
    pub id: Id,
    /// Its name on the sheet.
    pub name: String,
    /// What it is.
    pub kind: PartKind,
    /// How it is made, where that is known.
    pub family: Option<MadeOf>,
    /// Where it sits.
    pub position: Option<Position>,
    /// Where it is found, in words: `V3, pin 8`.
    pub place: String,
    /// What it shares with the others that it must agree with.
    pub group: Option<Id>,
    /// The resistor that it is fed through.
    pub fed_by: Option<Id>,
    /// The part with which it may have died.
    pub suspect_of: Option<Id>,
    /// What may have died with it, where it is an output transistor that shorted.
    pub roles: Option<stage::Roles>,
    /// What is seen on it.
    pub looks: Vec<VisualSign>,
    /// What was said of the circuit round it.
    pub said: Circuit,
    /// Whether it is to be tested warm.
    pub test_warm: bool,
    /// Years since it was made, where that is known.
    pub years: Option<u16>,
    /// Plates of a selenium stack.
    pub plates: Option<u16>,
    /// A winding's resistance by the sheet.
    pub winding: Option<Ohm>,
    /// What the sheet says, in the base unit of its kind.
    pub sheet_si: Option<f64>,
    /// What is marked, in the base unit of its kind.
    pub marked_si: Option<f64>,
    /// The marked tolerance.
    pub tolerance: Option<Fraction>,
    /// Its rated watts.
    pub power: Option<Watt>,
    /// The reading of its marking that was accepted.
    pub mark: Option<Meaning>,
    /// What was read of it, the voided among it.
    pub readings: Vec<TakenReading>,
    /// What was decided.
    pub decisions: Vec<Decision>,
    /// What went in, what was undone among it.
    pub fittings: Vec<Fitting>,
    /// How disagreements were explained.
    pub explained: Vec<Explained>,
    /// Whether somebody has said what overloaded it.
    pub cause_said: bool,
    /// Tests of its junctions.
    pub junctions: Vec<TestedJunctions>,
}

impl TrayPart {
    /// A part of which nothing is known but its name and kind. A resistor is carbon composition until it is said
    /// otherwise: nine in ten on old sets are (common bench practice).
    #[must_use]
    pub fn new(id: Id, name: &str, kind: PartKind) -> Self {
        let usual = MadeOf::Resistor(crate::part::Family::CarbonComposition);
        Self {
            id,
            name: name.to_owned(),
            kind,
            family: (kind == PartKind::Resistor).then_some(usual),
            position: None,
            place: String::new(),
            group: None,
            fed_by: None,
            suspect_of: None,
            roles: None,
            looks: vec![],
            said: Circuit::default(),
            test_warm: false,
            years: None,
            plates: None,
            winding: None,
            sheet_si: None,
            marked_si: None,
            tolerance: None,
            power: None,
            mark: None,
            readings: vec![],
            decisions: vec![],
            fittings: vec![],
            explained: vec![],
            cause_said: false,
            junctions: vec![],
        }
    }

    /// Where it lies on the tray, as a text that sorts so: resistors first, R2 before R10.
    ///
    /// ```
    /// use owl_core::part::PartKind::{Capacitor, Resistor};
    /// use owl_core::tray::{Id, TrayPart};
    /// let key = |name, kind| TrayPart::new(Id(1), name, kind).order_key();
    /// assert!(key("R2", Resistor) < key("R10", Resistor));
    /// assert!(key("R10", Resistor) < key("C1", Capacitor));
    /// ```
    #[must_use]
    pub fn order_key(&self) -> String {
        let rank = match self.kind {
            PartKind::Resistor => 0,
            PartKind::Capacitor => 1,
            PartKind::Coil => 2,
            PartKind::Diode => 3,
            PartKind::Transistor => 4,
            PartKind::Ic => 5,
            PartKind::Valve => 7,
            PartKind::Loudspeaker => 8,
            PartKind::Switch => 9,
            // One digit in all: what protects comes last.
            PartKind::Fuse => 9,
            PartKind::Lamp => 6,
        };
        let letters: String = self.name.chars().take_while(|c| !c.is_ascii_digit()).collect();
        let rest = self.name.get(letters.len()..).unwrap_or_default();
        let digits: String = rest.chars().take_while(char::is_ascii_digit).collect();
        let number: u32 = digits.parse().unwrap_or(u32::MAX);
        format!("{rank}{letters:<2}{number:06}{}", self.name)
    }

    /// What was fitted last and not undone.
    #[must_use]
    pub fn fitting(&self) -> Option<&Fitting> {
        self.fittings.iter().rfind(|f| f.withdrawn_at.is_none())
    }

    /// What was fitted first and not undone: what was read before it belongs to the part that was found.
    #[must_use]
    pub fn first_fitting(&self) -> Option<&Fitting> {
        self.fittings.iter().find(|f| f.withdrawn_at.is_none())
    }

    /// Whether a reading is one of what sits there now, and counts.
    #[must_use]
    pub fn is_of_what_sits(&self, reading: &TakenReading) -> bool {
        let since = self.fitting().map(|f| f.fitted_at);
        reading.voided_at.is_none() && since.is_none_or(|at| reading.taken_at > at)
    }

    /// The newest reading of that quantity, of what sits there and free of what lies across it.
    #[must_use]
    pub fn read_free(&self, of: ReadQuantity) -> Option<&Reading> {
        let counts = |r: &&TakenReading| self.is_of_what_sits(r) && r.reading.quantity == of;
        self.readings.iter().filter(counts).map(|r| &r.reading).rfind(|r| !r.still_connected())
    }

    /// The type number that was read on it.
    #[must_use]
    pub fn type_number(&self) -> Option<&str> {
        self.mark.as_ref()?.type_number()
    }

    /// The type number of what sits there: of what was fitted, else of what was read.
    #[must_use]
    pub fn installed_type(&self) -> Option<&str> {
        let fitted = self.fitting().map(|f| f.piece.type_number.as_str()).filter(|t| !t.is_empty());
        fitted.or_else(|| self.type_number())
    }
}

/// A ticket's parts.
#[derive(Debug, Clone, Default)]
pub struct Tray {
    parts: Vec<TrayPart>,
    places: HashMap<Id, usize>,
    own_types: Vec<Device>,
    set: SetFacts,
    rated: Option<Volt>,
    banks: Vec<bank::Bank>,
}

impl Tray {
    /// The parts in the order of the tray; the workshop's own rows of the types on it.
    #[must_use]
    pub fn new(parts: Vec<TrayPart>, own_types: Vec<Device>) -> Self {
        let places = parts.iter().enumerate().map(|(i, p)| (p.id, i)).collect();
        Self { parts, places, own_types, ..Self::default() }
    }

    /// The same tray in a set of which that is known, made for that line.
    #[must_use]
    pub fn in_set(self, set: SetFacts, rated: Option<Volt>) -> Self {
        Self { set, rated, ..self }
    }

    /// The same tray with its banks.
    #[must_use]
    pub fn with_banks(self, banks: Vec<bank::Bank>) -> Self {
        Self { banks, ..self }
    }

    /// Its banks, in the order in which they were put together.
    #[must_use]
    pub fn banks(&self) -> &[bank::Bank] {
        &self.banks
    }

    /// The bank that a part is of.
    #[must_use]
    pub fn bank_of(&self, part: Id) -> Option<&bank::Bank> {
        self.banks.iter().find(|b| b.has(part))
    }

    /// The line that the set is made for.
    #[must_use]
    pub fn rated(&self) -> Option<Volt> {
        self.rated
    }

    /// What is known of the set.
    #[must_use]
    pub fn set(&self) -> &SetFacts {
        &self.set
    }

    /// What a part takes over of what is known of the set; of a transistor also what was said of the other half of its
    /// pair, which sits in the same stage.
    #[must_use]
    pub fn shared(&self, part: &TrayPart) -> Circuit {
        let mut circuit = self.set.around(part.kind, part.position, self.rated);
        let of_a_stage = part.kind == PartKind::Transistor;
        for other in self.others(part).filter(|p| of_a_stage && p.kind == part.kind) {
            circuit.overlay(&other.said);
        }
        circuit
    }

    /// All parts, in the order of the tray.
    #[must_use]
    pub fn parts(&self) -> &[TrayPart] {
        &self.parts
    }

    /// A part.
    #[must_use]
    pub fn part(&self, id: Id) -> Option<&TrayPart> {
        self.places.get(&id).and_then(|i| self.parts.get(*i))
    }

    /// The part of that name.
    #[must_use]
    pub fn called(&self, name: &str) -> Option<&TrayPart> {
        self.parts.iter().find(|p| p.name == name)
    }

    /// The others of a part's pair or group.
    pub fn others<'a>(&'a self, part: &'a TrayPart) -> impl Iterator<Item = &'a TrayPart> {
        let group = part.group;
        self.parts.iter().filter(move |p| group.is_some() && p.group == group && p.id != part.id)
    }

    /// The parts whose verdict, steps or questions hang on this one: its pair or group, what is fed through it, what it
    /// may have killed, what may have killed it and what that may have killed beside it.
    #[must_use]
    pub fn neighbours(&self, part: &TrayPart) -> Vec<Id> {
        let bank = self.bank_of(part.id);
        let tied = |p: &&TrayPart| {
            p.id != part.id
                && ((part.group.is_some() && p.group == part.group)
                    || bank.is_some_and(|b| b.has(p.id))
                    || p.fed_by == Some(part.id)
                    || p.suspect_of == Some(part.id)
                    || part.suspect_of == Some(p.id)
                    || (part.suspect_of.is_some() && p.suspect_of == part.suspect_of))
        };
        self.parts.iter().filter(tied).map(|p| p.id).collect()
    }

    /// The transistor that a print means: the workshop's own row before the table's.
    #[must_use]
    pub fn device(&self, type_number: &str) -> Option<&Device> {
        meant(type_number, |t| self.own_types.iter().find(|d| d.is_called(t)).or_else(|| device(t)))
    }
}
