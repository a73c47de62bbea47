//! What goes in for a transistor: hard limits first, then how near it comes (rule R11).
//!
//! Every limit is a cell: passes, short by how much, or unknown. What is not known neither passes nor falls short; a
//! candidate with nothing short and something unknown is told as "as far as known". With the circuit's real needs
//! the same candidate is held against both, because a humbler part often does.

mod cell;
mod current;
mod limit;
mod power;
mod rank;

pub use limit::{LimitCheck, LimitName, LimitState};

use std::cmp::Ordering;

use super::circuit::CircuitNeed;
use super::device::Device;
use super::pin_map::{PinMap, mounting, pin_map};
use super::{bias, circuit::Stage};
use crate::named::named;

named! {
    /// What a candidate's limits come to.
    "fitness" Fitness {
        /// Nothing is short and everything hard is known.
        Fits = "fits",
        /// Every hard limit holds, something soft (gain, speed, emitter to base) is short.
        LimitsHold = "the limits hold",
        /// Nothing is short, something hard is not known.
        AsFarAsKnown = "fits as far as known",
        /// Nothing is short, and what decides in that stage is not known: not passed.
        Undecided = "what decides is not known",
        /// Something hard is short.
        Short = "does not fit",
    }
}

impl Fitness {
    /// What the cells of a candidate add up to: each with its state, whether it is a hard limit, and whether it counts
    /// when it is a soft one that is short.
    pub(super) fn of(cells: impl Iterator<Item = (LimitState, bool, bool)>) -> Self {
        cells
            .map(|(state, hard, counts)| match (state, hard) {
                (LimitState::Short, true) => Self::Short,
                (LimitState::Unknown, true) => Self::AsFarAsKnown,
                (LimitState::Short, false) if counts => Self::LimitsHold,
                (LimitState::Pass | LimitState::Short | LimitState::Unknown, _) => Self::Fits,
            })
            .max()
            .unwrap_or(Self::Fits)
    }
}

/// A candidate held against what is wanted.
#[derive(Debug, Clone, PartialEq)]
pub struct Candidate<'a> {
    /// Which.
    pub device: &'a Device,
    /// Against what counts: the circuit's needs where they are known, otherwise the original's sheet.
    pub fitness: Fitness,
    /// Against the original's sheet alone.
    pub by_sheet: Fitness,
    /// How near it comes, 0 to 1.
    pub score: f64,
    /// How many lie in the drawers.
    pub in_drawers: u32,
    /// Limit by limit.
    pub cells: Vec<LimitCheck>,
    /// Its leads.
    pub pin_map: PinMap,
    /// What changes with it: bias, mounting, stage.
    pub notes: Vec<String>,
}

impl Candidate<'_> {
    /// Whether no hard limit is short, and what decides is known.
    #[must_use]
    pub fn passes(&self) -> bool {
        self.fitness < Fitness::Undecided
    }

    /// Whether it does for the circuit and is less than the original.
    #[must_use]
    pub fn is_humbler(&self) -> bool {
        self.passes() && self.by_sheet == Fitness::Short
    }
}

/// Holds one candidate against what is wanted.
///
/// R11. Hard: kind, polarity, material unless another is taken, VCBO, VCEO, IC, power at the real temperature, and the
/// transition frequency with the circuit's frequency or where radio frequency flows. What decides there (collector to
/// emitter volts and transition frequency of a radio stage, a gain that is asked for) is not passed when it is unknown.
/// The original itself fits its own place. Soft: VEBO, gain at a common
/// current, transition frequency from 0.7 to 10 times, output capacitance, package, leads.
#[must_use]
pub fn compare<'a>(
    wanted: &Device,
    need: &CircuitNeed,
    candidate: &'a Device,
    in_drawers: u32,
) -> Candidate<'a> {
    let cells = cell::cells(wanted, need, candidate);
    let sheet = CircuitNeed { other_material: need.other_material, ..CircuitNeed::default() };
    let by_sheet = cell::fitness(&cell::cells(wanted, &sheet, candidate), &sheet);
    let pin_map = pin_map(wanted, candidate);
    let score = rank::score(wanted, candidate, &cells, pin_map.leads);
    Candidate {
        device: candidate,
        fitness: cell::fitness(&cells, need),
        by_sheet,
        score,
        in_drawers,
        notes: notes(wanted, need, candidate),
        cells,
        pin_map,
    }
}

fn notes(wanted: &Device, need: &CircuitNeed, candidate: &Device) -> Vec<String> {
    let mut notes = Vec::new();
    if candidate.is_called(&wanted.type_number) {
        notes.push("the same type".to_owned());
    }
    if candidate.leads_vary {
        let name = &candidate.type_number;
        notes.push(format!(
            "makers have {name} with its leads in another order: test the piece before it goes in"
        ));
    }
    if let Some((by, text)) = bias::shift(wanted, candidate) {
        notes.push(text);
        if let (Some(v), Some(up), Some(low)) = (need.supply_volts, need.upper_ohms, need.lower_ohms) {
            notes.push(bias::new_divider(v, up, low, by).map_or_else(
                || "no divider on that supply reaches the new base voltage".to_owned(),
                |d| d.text(),
            ));
        }
    }
    if need.stage == Some(Stage::QuasiComplementary) {
        notes.push(format!(
            "quasi-complementary: both output transistors are {}, the drivers are of both polarities; change the pair \
             together",
            wanted.polarity
        ));
    }
    notes.extend(mounting(wanted, candidate));
    notes
}

/// Which of two comes first: what passes, the drawers, the same type, what is known, the nearest.
#[must_use]
pub fn before(wanted: &Device, need: &CircuitNeed, a: &Candidate<'_>, b: &Candidate<'_>) -> Ordering {
    let radio = need.stage.is_some_and(Stage::is_radio);
    let key = |c: &Candidate<'_>| {
        // A part meant for audio never stands before one meant for radio frequency.
        let audio = radio && c.device.is_for_audio() && !c.device.is_called(&wanted.type_number);
        (!c.passes(), audio, c.in_drawers == 0, !c.device.is_called(&wanted.type_number), c.fitness)
    };
    key(a)
        .cmp(&key(b))
        .then(b.score.total_cmp(&a.score))
        .then_with(|| a.device.type_number.cmp(&b.device.type_number))
}

/// How many candidates are looked at closely.
pub const MOST_SHOWN: usize = 200;

/// The candidates among `devices`, best first: those that pass, then near misses; of those that pass the drawers
/// first, then what is known, then the nearest. `in_drawers` says how many of a type there are.
///
/// Kinds and polarities that are other are left out altogether.
#[must_use]
pub fn equivalents<'a>(
    wanted: &Device,
    need: &CircuitNeed,
    devices: impl IntoIterator<Item = &'a Device>,
    in_drawers: impl Fn(&str) -> u32,
    limit: usize,
) -> Vec<Candidate<'a>> {
    let sheet = rank::Limits::of(wanted, need);
    let mut ranked: Vec<(rank::Rank, &Device, u32)> = devices
        .into_iter()
        .filter(|d| d.kind == wanted.kind && d.polarity == wanted.polarity)
        .filter(|d| {
            let other = d.material.is_some() && wanted.material.is_some() && d.material != wanted.material;
            need.other_material || !other
        })
        .map(|d| {
            let count = in_drawers(&d.type_number);
            (sheet.rank(wanted, need, d, count), d, count)
        })
        .collect();
    let limit = limit.min(MOST_SHOWN);
    if ranked.len() > limit {
        ranked.select_nth_unstable_by(limit, |a, b| {
            a.0.cmp(&b.0).then_with(|| a.1.type_number.cmp(&b.1.type_number))
        });
        ranked.truncate(limit);
    }
    let mut out: Vec<Candidate<'a>> =
        ranked.into_iter().map(|(_, d, count)| compare(wanted, need, d, count)).collect();
    out.sort_by(|a, b| before(wanted, need, a, b));
    out
}
