//! A row of colours, read by every layout that fits: as seen, from the other end, and with colours
//! that may have become others.
//!
//! Cannot tell apart codes that give the same colours the same places; the likelier one is named.

mod explain;
mod pick;
mod refuse;

pub(super) use refuse::refused;

use smallvec::SmallVec;

use self::pick::Pick;
use super::hints::Hints;
use super::scheme::{Layout, Scheme, layouts};
use super::weigh::{self, Weight, weight};
use super::{Colour, Meaning, fading};

/// The most colours that any code has.
pub const MOST: usize = 6;

/// A row of colours as a layout takes it.
type Row = SmallVec<[Colour; MOST]>;

/// The most readings that are told, beside those that take the colours as they are seen.
const MOST_TOLD: usize = 12;

/// In which order the colours were taken.
#[derive(Debug, Clone, Copy, PartialEq, Eq)]
pub enum Turn {
    /// As given.
    None,
    /// From the other end.
    OtherEnd,
    /// The lower row of a mica block from the other side.
    LowerRow,
}

/// What is being read.
struct Search<'a> {
    layout: &'static Layout,
    turn: Turn,
    seen: &'a [Colour],
    /// How many colours were given.
    count: usize,
    hints: &'a Hints,
    /// Of the scheme, and of the order.
    weight: f64,
    /// The most that the measurement and the sheet can say for a value.
    given: f64,
    /// Whether colours are taken for others: first everything is read as it is seen.
    changed: Changed,
    found: &'a mut Vec<Pick>,
    /// The score of the likeliest so far.
    best: &'a mut f64,
}

/// Which readings are sought.
#[derive(Clone, Copy, PartialEq, Eq)]
enum Changed {
    /// None but those that take the colours as they are seen.
    None,
    /// Those that take some for others.
    Some,
    /// Those that take less than half for others: where nothing is legal as it is seen, so much was hardly changed.
    Few,
}

/// The meanings of a row of colours with their weights, heaviest first; empty where nothing is legal.
pub(super) fn meanings(colours: &[Colour], hints: &Hints) -> Vec<(f64, Meaning)> {
    let mut found = Vec::new();
    let mut best = 0.0;
    seek(colours, hints, Changed::None, &mut found, &mut best);
    // Nothing legal as seen: colours may have changed, but hardly most of them.
    let changed = if found.is_empty() { Changed::Few } else { Changed::Some };
    seek(colours, hints, changed, &mut found, &mut best);
    found.sort_by(|a, b| b.score.total_cmp(&a.score));
    let least = best * weight(Weight::Told);
    // What says the same by another way only adds to its weight; only what is told is explained.
    let mut told: Vec<(f64, &Pick)> = Vec::new();
    for pick in found.iter().filter(|p| p.score >= least || p.as_seen()) {
        if let Some((score, _)) = told.iter_mut().find(|(_, t)| t.says_the_same(pick)) {
            *score += pick.score;
        } else if pick.as_seen() || told.len() < MOST_TOLD {
            told.push((pick.score, pick));
        }
    }
    told.into_iter().map(|(score, pick)| (score, pick.explain(colours, hints))).collect()
}

/// Seeks readings by every layout that fits. What is too unlikely beside `best` to be told need not be found.
fn seek(colours: &[Colour], hints: &Hints, changed: Changed, found: &mut Vec<Pick>, best: &mut f64) {
    for layout in layouts() {
        if hints.scheme.is_some_and(|s| s != layout.scheme) || hints.part.is_some_and(|p| p != layout.part) {
            continue;
        }
        let Some(row) = fitted(layout, colours) else { continue };
        // Nobody sees a body-end-dot in two colours unless he knows that it is one.
        if hints.scheme.is_none() && layout.scheme == Scheme::BodyEndDot && colours.len() < 3 {
            continue;
        }
        // A scheme that was named is the right one, however rare.
        let of_scheme = if hints.scheme.is_some() { layout.weight.max(0.05) } else { layout.weight };
        let count = colours.len();
        let mut search = |turn: Turn, seen: &[Colour], weight: f64| {
            let given = weigh::given_at_most(layout.part, hints);
            let weight = of_scheme * weight;
            Search { layout, turn, seen, count, hints, weight, given, changed, found, best }.run();
        };
        search(Turn::None, &row, 1.0);
        let n = row.len();
        let mut turned = row.clone();
        turned.reverse();
        if layout.turns && turned != row {
            search(Turn::OtherEnd, &turned, weight(Weight::OtherEnd));
        }
        if layout.scheme == Scheme::MicaSixDot && row[3] != row[5] {
            let mut lower = row.clone();
            lower.swap(3, n - 1);
            search(Turn::LowerRow, &lower, weight(Weight::LowerRow));
        }
    }
}

/// The colours as the layout takes them; `None` where their number does not fit.
fn fitted(layout: &Layout, colours: &[Colour]) -> Option<Row> {
    let n = layout.places.len();
    let mut row = Row::from_slice(colours);
    match layout.scheme {
        Scheme::BodyEndDot => {
            let &body = row.first()?;
            if row.len() < 2 || body == Colour::Absent {
                return None;
            }
            row.resize(row.len().max(n), Colour::Absent);
            // A missing end or dot is of the body's colour.
            for place in row.iter_mut().take(3).filter(|c| **c == Colour::Absent) {
                *place = body;
            }
        }
        Scheme::Bands | Scheme::ChokeBands => {
            while row.last() == Some(&Colour::Absent) {
                row.pop();
            }
            if row.contains(&Colour::Absent) {
                return None;
            }
        }
        _ => {}
    }
    (row.len() == n).then_some(row)
}

/// The colours as seen, in the order in which a reading took them.
fn taken(layout: &Layout, turn: Turn, colours: &[Colour]) -> Row {
    let mut row = fitted(layout, colours).unwrap_or_default();
    match turn {
        Turn::None => {}
        Turn::OtherEnd => row.reverse(),
        Turn::LowerRow => row.swap(3, 5),
    }
    row
}

impl Search<'_> {
    fn run(&mut self) {
        let mut pick = Pick {
            layout: self.layout,
            turn: self.turn,
            colours: [Colour::Absent; MOST],
            cells: [None; MOST],
            faded: false,
            number: 0.0,
            score: 0.0,
        };
        self.place(0, 1.0, 1.0, &mut pick);
    }

    /// Takes every colour that may stand in `place`, then goes on to the next. `cells` is the weight
    /// of the meanings chosen so far, `faded` the chance that the colours look so if colours of this
    /// part have changed.
    fn place(&mut self, place: usize, cells: f64, faded: f64, pick: &mut Pick) {
        let Some(&seen) = self.seen.get(place) else {
            self.leaf(cells, faded, pick);
            return;
        };
        if self.is_hopeless(cells, faded, self.given) {
            return;
        }
        let origins = fading::origins(seen);
        // The first is the colour itself.
        let origins = if self.changed == Changed::None { &origins[..1] } else { origins };
        for &(colour, chance) in origins {
            let known = (0..place).any(|i| self.seen[i] == seen && pick.colours[i] == colour);
            let chance = if known { faded } else { faded * chance };
            // Too unlikely to be told, whatever the rest says.
            if chance < 2e-3 && (pick.faded || colour != seen) {
                continue;
            }
            let was = pick.faded;
            pick.faded |= colour != seen;
            for cell in self.layout.cells(place, colour) {
                pick.colours[place] = colour;
                pick.cells[place] = Some(cell);
                self.place(place + 1, cells * cell.weight, chance, pick);
            }
            pick.faded = was;
        }
    }

    /// Whether a reading with changed colours can no longer become likely enough to be told. Every other weight is at most 1.
    fn is_hopeless(&self, cells: f64, faded: f64, given: f64) -> bool {
        // A hair more, because products are rounded in another order here.
        let most = self.weight * cells * weight(Weight::Faded) * faded * given * (1.0 + 1e-9);
        self.changed != Changed::None && most < *self.best * weight(Weight::Told)
    }

    fn leaf(&mut self, cells: f64, faded: f64, pick: &mut Pick) {
        if pick.faded == (self.changed == Changed::None) {
            return;
        }
        if self.changed == Changed::Few {
            let changed = self.seen.iter().zip(&pick.colours).filter(|(a, b)| a != b).count();
            if changed * 2 >= self.count {
                return;
            }
        }
        let Some(number) = pick.value_number() else { return };
        let given = weigh::given(self.layout.part, number, self.hints);
        if self.is_hopeless(cells, faded, given) {
            return;
        }
        let share = weight(Weight::Faded);
        let clean = if pick.faded { 0.0 } else { 1.0 - share };
        pick.number = number;
        pick.score = self.weight * cells * (clean + share * faded);
        let tolerance = pick.tolerance();
        pick.score *= weigh::prior(self.layout.part, number, tolerance, pick.digits());
        pick.score *= given;
        if pick.score > 0.0 {
            *self.best = self.best.max(pick.score);
            self.found.push(pick.clone());
        }
    }
}
