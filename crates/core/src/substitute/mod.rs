//! What to put in, and what not (rule R7): hard limits first, then rank.
//!
//! Everything that could go in, from the drawers, to buy, or as a network of two to four, passes the same
//! assessment: what its place asks for, what of that it has, what becomes better and worse with it. What fails stays
//! visible with the reason.

mod assess;
mod can;
mod capacitor;
mod catalogue;
mod coil;
mod contact;
mod diode;
mod diode_string;
mod effect;
mod effect_resistor;
mod first_filter;
mod fuse;
mod ic;
mod lamp;
mod load;
mod loudspeaker;
mod network;
mod order;
mod piece;
mod place;
mod resistor;
mod resistor_string;
mod transistor;
mod valve;
mod volts;
mod wanted;
pub mod worth;

pub use self::can::{Can, CanChoice, choose_can};
pub use self::catalogue::{RectifierValve, rectifier_valve};
pub use self::ic::ic_advice;
pub use self::lamp::LampFeed;
pub use self::piece::PieceFound;
pub use self::transistor::choose as choose_transistor;
pub use self::wanted::{Wanted, is_sought_by_value, lamp};

use crate::drawers::{Condition, Lot, Piece};
use crate::named::named;
use crate::network::Tree;
use crate::part::{Circuit, Coil, Diode, Fact, Part, PartKind, Position, SafetyClass};
use crate::quantity::{Ampere, Fraction, Volt, Watt};
use crate::source::Source;
use crate::verdict::Policy;

/// The part that goes.
#[derive(Debug, Clone, Copy, PartialEq)]
pub enum OldPart {
    /// One that is judged.
    Part(Part),
    /// A lamp.
    Lamp {
        /// Its volts.
        volts: Volt,
        /// Its current, where it is known.
        current: Option<Ampere>,
        /// How it is fed: in a chain of heaters its current must match.
        fed: LampFeed,
    },
}

impl OldPart {
    /// What it is.
    #[must_use]
    pub fn kind(&self) -> PartKind {
        match self {
            Self::Part(p) => p.kind(),
            Self::Lamp { .. } => PartKind::Lamp,
        }
    }
}

/// What is wanted in place of a part.
#[derive(Debug, Clone, Copy)]
pub struct Need<'a> {
    /// The part that goes.
    pub gone: &'a OldPart,
    /// Its type number, of a diode, a transistor, a circuit; empty where it is not known.
    pub type_number: &'a str,
    /// The value wanted, in the base unit of its kind: the sheet's where there is one, otherwise the mark.
    pub value_si: Option<f64>,
    /// Where it sits.
    pub position: Option<Position>,
    /// What is known of the circuit.
    pub circuit: &'a Circuit,
    /// Whether it is one of a pair or a group that must agree.
    pub paired: bool,
}

impl Need<'_> {
    fn fact(&self, fact: Fact) -> Option<f64> {
        self.circuit.get_si(fact)
    }
}

/// One line for or against a choice, with the rule behind it.
#[derive(Debug, Clone, PartialEq)]
pub struct ChoiceReason {
    /// The rule's number.
    pub rule: &'static str,
    /// In words, with numbers.
    pub text: String,
    /// Where the rule comes from.
    pub source: Source,
}

impl ChoiceReason {
    fn r7(text: impl Into<String>, source: Source) -> Self {
        Self { rule: "R7", text: text.into(), source }
    }

    fn practice(text: impl Into<String>, clause: &str) -> Self {
        Self::r7(text, Source::practice(clause))
    }
}

/// What becomes better or worse in the set.
#[derive(Debug, Clone, PartialEq)]
pub struct Effect {
    /// Whether it becomes better.
    pub better: bool,
    /// In words, with numbers before and after.
    pub text: String,
}

/// What a piece has of what its place asks for.
#[derive(Debug, Clone, PartialEq)]
pub struct Margin {
    /// Of what: volts, watts, amperes.
    pub of: &'static str,
    /// What it has, as it is written.
    pub has: String,
    /// What is needed, as it is written.
    pub needs: String,
    /// What it has over what is needed.
    pub ratio: f64,
}

/// A piece of a choice.
#[derive(Debug, Clone, PartialEq)]
pub struct Chosen {
    /// What it is.
    pub piece: Piece,
    /// Which of the lots it comes from; `None` where it is to be bought.
    pub lot: Option<usize>,
    /// In which condition it is.
    pub condition: Condition,
}

/// Something that can go in.
#[derive(Debug, Clone, PartialEq)]
pub struct Choice {
    /// In words: `1 W metal film, 220 kΩ`.
    pub description: String,
    /// What it is made of, in the order of the network.
    pub pieces: Vec<Chosen>,
    /// The value of the whole, in the base unit of its kind.
    pub value_si: Option<f64>,
    /// How far it is from what is wanted.
    pub deviation: Option<Fraction>,
    /// The rated volts of the whole.
    pub volts: Option<Volt>,
    /// The rated watts of the whole.
    pub watts: Option<Watt>,
    /// The network, where it is more than one part.
    pub network: Option<Tree>,
    /// What speaks for it.
    pub passes: Vec<ChoiceReason>,
    /// What to mind.
    pub cautions: Vec<ChoiceReason>,
    /// What becomes better and worse.
    pub effects: Vec<Effect>,
    /// What it has of what is needed.
    pub margins: Vec<Margin>,
    /// What all of it costs, in hundredths, where that is known.
    pub price_hundredths: Option<u32>,
}

impl Choice {
    /// Whether all of it is in the drawers.
    #[must_use]
    pub fn from_drawers(&self) -> bool {
        self.pieces.iter().all(|p| p.lot.is_some())
    }

    /// The safety class of the whole; `None` where its pieces are not all of one class.
    #[must_use]
    pub fn safety(&self) -> Option<SafetyClass> {
        let first = self.pieces.first()?.piece.safety?;
        self.pieces.iter().all(|p| p.piece.safety == Some(first)).then_some(first)
    }

    /// Takes its pieces out of the drawers, so that what is chosen next does not count on them.
    pub fn take_from(&self, left: &mut [Lot]) {
        for lot in self.pieces.iter().filter_map(|p| p.lot) {
            if let Some(lot) = left.get_mut(lot) {
                lot.count = lot.count.saturating_sub(1);
            }
        }
    }

    /// Whether it is made of the same pieces of the same lots as another.
    #[must_use]
    pub fn is_alike(&self, other: &Self) -> bool {
        let lots = |c: &Self| c.pieces.iter().map(|p| p.lot).collect::<Vec<_>>();
        self.description == other.description && lots(self) == lots(other)
    }

    /// Whether a piece of it must be tested before it is fitted.
    #[must_use]
    pub fn needs_test(&self) -> bool {
        self.pieces.iter().any(|p| p.condition.needs_test())
    }
}

named! {
    /// How hard it is to come by what goes in.
    "rarity" Rarity {
        /// All of it is in the drawers.
        InDrawers = "in the drawers",
        /// It can be bought.
        ToBuy = "to buy",
        /// Nothing off the shelf goes in.
        Rare = "rare",
    }
}

impl Rarity {
    /// Of the best that there is for a part.
    #[must_use]
    pub fn of(best: Option<&Choice>) -> Self {
        match best {
            Some(c) if c.from_drawers() => Self::InDrawers,
            Some(_) => Self::ToBuy,
            None => Self::Rare,
        }
    }
}

/// Something that must not go in.
#[derive(Debug, Clone, PartialEq)]
pub struct Refused {
    /// In words.
    pub description: String,
    /// Why not.
    pub because: String,
    /// Which of the lots it is, where it lies in a drawer.
    pub lot: Option<usize>,
    /// What it is, where it is one piece.
    pub piece: Option<Piece>,
}

/// What fits and what does not.
#[derive(Debug, Clone, PartialEq, Default)]
pub struct Choices {
    /// Best first.
    pub choices: Vec<Choice>,
    /// What was looked at and must not go in, with the reason: out of the drawers first, the nearest first.
    pub refused: Vec<Refused>,
    /// Facts of the circuit that would make the answer better.
    pub asks: Vec<Fact>,
    /// What else there is to do, where nothing off the shelf goes in.
    pub advice: Vec<ChoiceReason>,
}

impl Choices {
    /// Whether a choice is a network of three and more while something simpler does: it stands behind a line.
    #[must_use]
    pub fn is_folded(&self, choice: &Choice) -> bool {
        choice.pieces.len() >= 3 && self.choices.iter().any(|c| c.pieces.len() < 3)
    }

    /// No choice yet, asking for those of the facts that nobody has said.
    fn asking(need: &Need<'_>, facts: &[Fact]) -> Self {
        let asks = facts.iter().copied().filter(|f| need.fact(*f).is_none()).collect();
        Self { asks, ..Self::default() }
    }
}

/// Why nothing can be proposed.
#[derive(Debug, Clone, Copy, PartialEq, thiserror::Error)]
pub enum SubstituteError {
    /// No value to look for.
    #[error("a value above zero is needed to look for a substitute")]
    NoValue,
    /// More watts than any size.
    #[error("{0} is more than the largest resistor in the table; share it among several by a network")]
    TooManyWatts(Watt),
}

/// The most that is shown of what fits.
const MOST_SHOWN: usize = 12;
/// What is looked at and refused with its reason, as shares of what is wanted (practice: a decade).
const LOOKED_AT: std::ops::RangeInclusive<f64> = 0.1..=10.0;

/// Proposes what to fit, best first, and names near misses that must not be fitted.
///
/// # Errors
/// [`SubstituteError`] where there is nothing to look for.
pub fn choose(need: &Need<'_>, policy: &Policy, lots: &[Lot]) -> Result<Choices, SubstituteError> {
    look_for(need, policy, lots, Depth::All)
}

/// The same as [`choose`] up to the first of them: what cannot come first is not looked for. Networks take longest, and
/// none comes before a single part from the drawers.
///
/// # Errors
/// Those of [`choose`].
pub fn first(need: &Need<'_>, policy: &Policy, lots: &[Lot]) -> Result<Choices, SubstituteError> {
    look_for(need, policy, lots, Depth::First)
}

/// How much is looked for.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
enum Depth {
    /// Everything that could go in.
    All,
    /// What may come first.
    First,
}

fn look_for(
    need: &Need<'_>,
    policy: &Policy,
    lots: &[Lot],
    depth: Depth,
) -> Result<Choices, SubstituteError> {
    let (mut out, classes) = match need.gone {
        OldPart::Part(Part::Resistor(r)) => {
            (resistor::choose(need, r, policy, lots, depth)?, order::classes(need))
        }
        OldPart::Part(Part::Capacitor(c)) => {
            (capacitor::choose(need, c, policy, lots, depth)?, order::classes(need))
        }
        OldPart::Part(Part::Coil(c)) => (coil::choose(need, c, policy, lots)?, (0.05, 0.2)),
        OldPart::Part(Part::Diode(d)) => (diode::choose(need, d, policy, lots), (0.0, 0.0)),
        OldPart::Part(Part::Transistor(t)) => {
            (transistor::choose(need, t, crate::transistor::device::devices(), lots), (0.0, 0.0))
        }
        OldPart::Part(Part::Ic(old)) => (ic::choose(need, old, lots), (0.0, 0.0)),
        OldPart::Part(Part::Valve(old)) => (valve::choose(need, old, lots), (0.0, 0.0)),
        OldPart::Part(Part::Fuse(old)) => (fuse::choose(old, lots), (0.0, 0.0)),
        OldPart::Part(Part::Switch) => (contact::choose(need, lots), (0.0, 0.0)),
        OldPart::Part(Part::Loudspeaker(old)) => (loudspeaker::choose(old, lots), (0.0, 0.0)),
        OldPart::Lamp { volts, current, fed } => (lamp::choose(*volts, *current, *fed, lots), (0.02, 0.1)),
    };
    // A transistor's come in the order of its own desk, a circuit's by its type.
    if !matches!(
        need.gone.kind(),
        PartKind::Transistor
            | PartKind::Ic
            | PartKind::Valve
            | PartKind::Fuse
            | PartKind::Switch
            | PartKind::Loudspeaker
    ) {
        order::in_order(&mut out.choices, need, lots, classes);
    }
    out.choices.truncate(MOST_SHOWN);
    // What lies in the drawers tempts first, the nearest value before the others: whoever looks for one finds it.
    let far = |r: &Refused| {
        let value = r.lot.and_then(|i| lots.get(i)).and_then(|l| l.piece.value_si);
        let off = value.zip(need.value_si).map_or(0.0, |(v, wanted)| (v / wanted).ln().abs());
        (r.lot.is_none(), (off * 1e6) as i64)
    };
    out.refused.sort_by_cached_key(far);
    Ok(out)
}

/// The circuit's facts that count for a substitute of such a part in such a place.
#[must_use]
pub fn facts(gone: &OldPart, position: Option<Position>) -> &'static [Fact] {
    match gone {
        OldPart::Part(Part::Resistor(_)) => &[Fact::Voltage],
        OldPart::Part(Part::Capacitor(_)) => place::facts(position),
        OldPart::Part(Part::Coil(Coil { .. })) => &[Fact::LoadCurrent],
        OldPart::Part(Part::Diode(Diode { .. })) => match position {
            Some(Position::Rectifier) => &diode::FACTS,
            _ => &[],
        },
        OldPart::Part(Part::Transistor(_)) => {
            crate::transistor::place::asks(position.and_then(crate::transistor::place::stage_at))
        }
        OldPart::Part(Part::Ic(_)) => &ic::FACTS,
        OldPart::Part(Part::Switch) => &contact::FACTS,
        OldPart::Part(Part::Valve(_) | Part::Fuse(_) | Part::Loudspeaker(_)) | OldPart::Lamp { .. } => &[],
    }
}
