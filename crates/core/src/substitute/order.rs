//! The order in which a good hand reaches for what fits (rule R7): first how near it lies, then how much its error counts in
//! the place, then whether it must be tested, how far it is oversized, how it is made, and last the error itself.

use super::place::moved_to;
use super::{Choice, Depth, Need, OldPart};
use crate::drawers::{Leads, Lot};
use crate::network::Tree;
use crate::part::position::Care;
use crate::part::{CapacitorFamily, Family, MadeOf, Part, PartKind};
use crate::preferred::{Series, is_member};

/// From so many times the watts or the volts that are needed a part is a size that nobody would choose (practice).
const LARGE: f64 = 3.5;
/// Below so many times what its heat asks for it is as small as may be: a size up lives longer (practice).
const SMALL: f64 = 1.5;
/// From so many times it is out of proportion (practice: not ten times over).
const OUTSIZED: f64 = 9.0;
/// The most parts of a network (ours: more is a rat's nest).
const MOST_PARTS: usize = 4;
/// The error of what is made now for an older value (ours: behind the value itself, before every other).
const NEXT_TO_IT: f64 = 1e-4;
/// Up to these watts a wound part is no successor of one that was not wound (practice).
const WOUND_FROM: f64 = 2.0;

/// Errors up to the first are one class, up to the second the next: by how close the place looks at the value.
pub(super) fn classes(need: &Need<'_>) -> (f64, f64) {
    match (need.gone.kind(), care(need)) {
        (_, Care::Exact) => (0.0125, 0.025),
        (PartKind::Capacitor, Care::Near) => (0.1, 0.2),
        (PartKind::Capacitor, Care::Loose) => (0.25, 1.0),
        (_, Care::Near) => (0.055, 0.1),
        (_, Care::Loose) => (0.1, 0.2),
    }
}

fn care(need: &Need<'_>) -> Care {
    need.position.map_or(Care::Near, |p| p.care(need.gone.kind()))
}

/// How a choice is come by, the nearest to hand first.
#[derive(Debug, Clone, Copy, PartialEq, Eq, PartialOrd, Ord)]
enum Reach {
    /// One from the drawers that does.
    OneHere,
    /// Two from there.
    TwoHere,
    /// One to buy.
    OneToBuy,
    /// One from the drawers that is out of proportion.
    OutsizedHere,
    /// More from the drawers.
    MoreHere,
    /// A network to buy.
    MoreToBuy,
    /// Last, and never while a single part does.
    StringOfElectrolytics,
}

fn reach(choice: &Choice, need: &Need<'_>) -> Reach {
    match (choice.from_drawers(), choice.pieces.len()) {
        _ if is_string_of_electrolytics(choice) => Reach::StringOfElectrolytics,
        (true, 0 | 1) if size(choice, need) == 2 => Reach::OutsizedHere,
        (true, 0 | 1) => Reach::OneHere,
        (true, 2) => Reach::TwoHere,
        (false, 0 | 1) => Reach::OneToBuy,
        (true, _) => Reach::MoreHere,
        (false, _) => Reach::MoreToBuy,
    }
}

/// Of how many parts a network is worth being looked for, beside the single parts that do.
pub(super) fn parts_worth_seeking(singles: &[Choice], need: &Need<'_>, depth: Depth) -> usize {
    match (depth, singles.iter().map(|c| reach(c, need)).min()) {
        (Depth::First, Some(Reach::OneHere)) => 1,
        (Depth::First, Some(Reach::OneToBuy)) => 2,
        _ => MOST_PARTS,
    }
}

fn is_string_of_electrolytics(choice: &Choice) -> bool {
    let electrolytic = Some(MadeOf::Capacitor(CapacitorFamily::Electrolytic));
    matches!(choice.network, Some(Tree::Series(_)))
        && choice.pieces.iter().all(|p| p.piece.family == electrolytic)
}

/// 0 where it is of a size that one would choose, 1 where it is large, or as small as its heat allows, 2 out of proportion.
/// Film stands more volts than is asked for as a matter of course.
fn size(choice: &Choice, need: &Need<'_>) -> u8 {
    let polar =
        choice.pieces.iter().filter_map(|p| p.piece.family?.capacitor()).any(|f| sort(f) == Sort::Polar);
    let counts = match need.gone.kind() {
        PartKind::Resistor => "watts",
        PartKind::Capacitor if polar => "volts",
        _ => return 0,
    };
    let over = choice.margins.iter().find(|m| m.of == counts).map_or(1.0, |m| m.ratio);
    let hot = counts == "watts" && need.circuit.across(need.position).is_some();
    u8::from(over >= LARGE || hot && over < SMALL) + u8::from(over >= OUTSIZED)
}

/// How far the making is from what one would put there, as a place in a list: of the old one's kind first.
fn making(choice: &Choice, need: &Need<'_>) -> usize {
    let Some(family) = choice.pieces.first().and_then(|p| p.piece.family) else { return 0 };
    match (need.gone, family) {
        (OldPart::Part(Part::Resistor(old)), MadeOf::Resistor(new)) => {
            let small = old.power.is_none_or(|w| w.watts() <= WOUND_FROM);
            let odd = match new {
                Family::Wirewound => old.family != Family::Wirewound && small,
                Family::Fusible => old.family != Family::Fusible,
                Family::CarbonComposition | Family::CarbonFilm | Family::MetalFilm => false,
            };
            usize::from(odd)
        }
        (OldPart::Part(Part::Capacitor(old)), MadeOf::Capacitor(new)) => {
            if old.family.is_some_and(|f| sort(f) == sort(new)) {
                return 0;
            }
            let wanted = need.value_si.unwrap_or(old.value.farads());
            let all = super::place::families(need, old, wanted);
            1 + all.iter().position(|f| *f == new).unwrap_or(all.len())
        }
        _ => 0,
    }
}

/// Kinds of which one does what the other did: film is what is made now for paper, silver mica for mica.
#[derive(PartialEq, Eq)]
enum Sort {
    Film,
    Mica,
    Stable,
    Ceramic,
    Polar,
}

fn sort(family: CapacitorFamily) -> Sort {
    use CapacitorFamily as F;
    match family {
        F::WaxPaper
        | F::BitumenPaper
        | F::MouldedPaper
        | F::MetallisedPaper
        | F::Polyester
        | F::Polypropylene => Sort::Film,
        F::Mica | F::SilverMica => Sort::Mica,
        F::CeramicClass1 | F::Polystyrene => Sort::Stable,
        F::CeramicClass2 | F::HighVoltageCeramic => Sort::Ceramic,
        F::Electrolytic | F::Tantalum => Sort::Polar,
    }
}

/// How far a choice is off. What is made now for an older value comes next to that value itself, where nothing exact hangs
/// on it; resistors are made in E24.
fn error(choice: &Choice, need: &Need<'_>) -> f64 {
    let off = choice.deviation.map_or(0.0, |d| d.fraction().abs());
    let single = need.value_si.zip(choice.value_si).filter(|_| choice.pieces.len() == 1);
    let made = |wanted| need.gone.kind() == PartKind::Resistor && is_member(Series::E24, wanted);
    let moved = |(wanted, value): (f64, f64)| !made(wanted) && moved_to(wanted, value);
    if care(need) != Care::Exact && single.is_some_and(moved) { off.min(NEXT_TO_IT) } else { off }
}

type Rank = (Reach, u8, bool, u8, usize, i64, u8, std::cmp::Reverse<u32>);

fn rank(choice: &Choice, need: &Need<'_>, lots: &[Lot], classes: (f64, f64)) -> Rank {
    let error = error(choice, need);
    let class = u8::from(error > classes.0 + 1e-9) + u8::from(error > classes.1 + 1e-9);
    let first = choice.pieces.first();
    let lies = first.and_then(|p| p.lot).and_then(|i| lots.get(i)).map_or(0, |l| l.count);
    // Old sets are wired from tag to tag.
    let leads = u8::from(first.and_then(|p| p.piece.leads).is_some_and(|l| l != Leads::Axial));
    (
        reach(choice, need),
        class,
        choice.needs_test(),
        size(choice, need),
        making(choice, need) + choice.pieces.len(),
        (error * 1e6) as i64,
        leads,
        std::cmp::Reverse(lies),
    )
}

/// Puts choices in the order in which a hand reaches for them: where nothing single lies in the drawers, the best two from
/// there with the one to buy beside them; no string of electrolytics while a single part does.
pub(super) fn in_order(choices: &mut Vec<Choice>, need: &Need<'_>, lots: &[Lot], classes: (f64, f64)) {
    choices.sort_by_cached_key(|c| rank(c, need, lots, classes));
    let one = |c: &Choice| matches!(reach(c, need), Reach::OneHere | Reach::OneToBuy | Reach::OutsizedHere);
    if choices.iter().any(one) {
        choices.retain(|c| reach(c, need) != Reach::StringOfElectrolytics);
    }
    if choices.first().is_some_and(|c| reach(c, need) == Reach::TwoHere)
        && let Some(to_buy) = choices.iter().position(|c| reach(c, need) == Reach::OneToBuy)
    {
        choices[1..=to_buy].rotate_right(1);
    }
}
