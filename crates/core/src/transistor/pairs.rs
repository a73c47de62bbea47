//! Pairs and quads out of a lot: the least total distance of all ways to pair it, exactly.
//!
//! Distance of two: |ln(h1/h2)| / 0.1 + |V1 − V2| / 10 mV (rule R11). A quad's distance is the sum of its six.
//! What is best for each piece alone is not best for the lot, so nothing is taken greedily: of every way to pair the
//! lot the least is found by going through them with what is common to them looked at once.

use std::collections::HashMap;

use crate::named::named;

/// The most pieces of which all are paired.
pub const MOST_EXACT: usize = 24;
/// The most pieces among which the single best pair is looked for.
pub const MOST_PIECES: usize = 500;

/// Steps between two questions whether to go on.
const ASK_EVERY: u32 = 256;

/// kT/q at 25 °C, volt (physics).
pub const THERMAL_VOLTS: f64 = 0.0257;

/// A piece of a lot.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Piece {
    /// Gain; above zero.
    pub gain: f64,
    /// Base to emitter, volt.
    pub base_volts: f64,
}

/// How far two pieces are apart: |ln(h1/h2)| / 0.1 + |V1 − V2| / 10 mV.
///
/// ```
/// use owl_core::transistor::pairs::{distance, Piece};
/// let (a, b) = (Piece { gain: 100.0, base_volts: 0.620 }, Piece { gain: 100.0, base_volts: 0.630 });
/// assert!((distance(a, b) - 1.0).abs() < 1e-9);
/// assert_eq!(distance(a, a), 0.0);
/// ```
#[must_use]
pub fn distance(a: Piece, b: Piece) -> f64 {
    (a.gain / b.gain).ln().abs() / 0.1 + (a.base_volts - b.base_volts).abs() / 0.010
}

/// Why a lot cannot be paired.
#[derive(Debug, Clone, Copy, PartialEq, thiserror::Error)]
pub enum PairError {
    /// Too few.
    #[error("at least {0} pieces are needed")]
    TooFew(usize),
    /// Too many for an exact answer.
    #[error("{0} pieces: up to {MOST_EXACT} are paired as a whole; for more, ask for the one best pair")]
    TooMany(usize),
    /// Too many altogether.
    #[error("{0} pieces: up to {MOST_PIECES} are compared at once")]
    FarTooMany(usize),
    /// More pairs than there can be.
    #[error("{asked} pairs need {} pieces; there are {there}", asked * 2)]
    MorePairs {
        /// Pairs asked for.
        asked: usize,
        /// Pieces there.
        there: usize,
    },
    /// None.
    #[error("at least one pair is needed")]
    NoPairs,
    /// A gain or voltage that cannot be.
    #[error("piece {0}: a gain above zero and a base voltage from 0 to 5 V are needed")]
    Piece(usize),
}

/// A group of two or four, by their places in the lot.
#[derive(Debug, Clone, PartialEq)]
pub struct Group {
    /// Which.
    pub members: Vec<usize>,
    /// Their distance.
    pub distance: f64,
}

/// A lot in groups.
#[derive(Debug, Clone, PartialEq)]
pub struct Grouped {
    /// The nearest first.
    pub groups: Vec<Group>,
    /// Whether no other way can be better; otherwise the search was broken off.
    pub complete: bool,
}

fn check(lot: &[Piece], least: usize) -> Result<(), PairError> {
    if lot.len() < least {
        return Err(PairError::TooFew(least));
    }
    if lot.len() > MOST_PIECES {
        return Err(PairError::FarTooMany(lot.len()));
    }
    let possible = |p: &Piece| p.gain.is_finite() && p.gain > 0.0 && (0.0..=5.0).contains(&p.base_volts);
    match lot.iter().position(|p| !possible(p)) {
        Some(i) => Err(PairError::Piece(i + 1)),
        None => Ok(()),
    }
}

/// The one best pair of up to [`MOST_PIECES`].
///
/// # Errors
/// [`PairError`].
pub fn best_pair(lot: &[Piece]) -> Result<Group, PairError> {
    check(lot, 2)?;
    let mut best = Group { members: vec![0, 1], distance: f64::INFINITY };
    for (i, a) in lot.iter().enumerate() {
        for (j, b) in lot.iter().enumerate().skip(i + 1) {
            let d = distance(*a, *b);
            if d < best.distance {
                best = Group { members: vec![i, j], distance: d };
            }
        }
    }
    Ok(best)
}

/// The disjoint pairs of least total distance: as many as `count` says, otherwise all that there can be; of an odd lot
/// the piece is left over that is best left.
///
/// # Errors
/// [`PairError`], also above [`MOST_EXACT`] pieces unless one pair is asked for.
pub fn pairs(lot: &[Piece], count: Option<usize>) -> Result<Vec<Group>, PairError> {
    pairs_while(lot, count, &mut || true).map(|g| g.groups)
}

/// [`pairs`], as long as `go_on` says so: broken off, it answers with the best that it knows by then.
///
/// # Errors
/// [`PairError`].
pub fn pairs_while(
    lot: &[Piece],
    count: Option<usize>,
    go_on: &mut dyn FnMut() -> bool,
) -> Result<Grouped, PairError> {
    check(lot, 2)?;
    let wanted = count.unwrap_or(lot.len() / 2);
    match wanted {
        0 => return Err(PairError::NoPairs),
        n if n * 2 > lot.len() => return Err(PairError::MorePairs { asked: n, there: lot.len() }),
        1 => return Ok(Grouped { groups: vec![best_pair(lot)?], complete: true }),
        _ => {}
    }
    groups(lot, 2, wanted, go_on)
}

/// The disjoint quads of least total distance: all that there can be.
///
/// # Errors
/// [`PairError`], also above [`MOST_EXACT`] pieces.
pub fn quads(lot: &[Piece]) -> Result<Vec<Group>, PairError> {
    quads_while(lot, &mut || true).map(|g| g.groups)
}

/// [`quads`], as long as `go_on` says so: broken off, it answers with the best that it knows by then.
///
/// # Errors
/// [`PairError`].
pub fn quads_while(lot: &[Piece], go_on: &mut dyn FnMut() -> bool) -> Result<Grouped, PairError> {
    check(lot, 4)?;
    groups(lot, 4, lot.len() / 4, go_on)
}

named! {
    /// How many belong together.
    "group size" GroupSize {
        /// Two.
        Pairs = "pairs",
        /// Four.
        Quads = "quads",
    }
}

/// A way to what is decided so far: what it costs, how it came about.
#[derive(Clone, Copy)]
struct Step {
    cost: f64,
    before: u32,
    group: u32,
}

/// Groups of `size`, `wanted` of them, of least total distance.
///
/// The first piece that is not decided yet is either left over or grouped with some of those behind it. Ways that have
/// decided the same pieces and left over as many go on alike, so only the cheapest of them is kept; and what cannot
/// come below a way already known is not gone at all.
fn groups(
    lot: &[Piece],
    size: usize,
    wanted: usize,
    go_on: &mut dyn FnMut() -> bool,
) -> Result<Grouped, PairError> {
    let n = lot.len();
    if n > MOST_EXACT {
        return Err(PairError::TooMany(n));
    }
    let table: Vec<Vec<f64>> = lot.iter().map(|a| lot.iter().map(|b| distance(*a, *b)).collect()).collect();
    let d = |i: usize, j: usize| table.get(i).and_then(|r| r.get(j)).copied().unwrap_or(0.0);
    let inside = |members: &[usize]| -> f64 {
        members
            .iter()
            .enumerate()
            .map(|(k, i)| members.iter().skip(k + 1).map(|j| d(*i, *j)).sum::<f64>())
            .sum()
    };
    // What a piece costs at the least, half of each distance being its own.
    let floor: Vec<f64> = (0..n)
        .map(|i| {
            let mut near: Vec<f64> = (0..n).filter(|j| *j != i).map(|j| d(i, j)).collect();
            near.sort_by(f64::total_cmp);
            near.iter().take(size - 1).sum::<f64>() / 2.0
        })
        .collect();
    let first_guess = better_by_exchange(greedy(n, size, wanted, &inside), n, &inside);
    let known: f64 = first_guess.iter().map(|g| g.distance).sum();
    let mut steps = 0_u32;
    let to_leave = n - size * wanted;
    // By pieces decided (bits), and how many of them are left over.
    let mut layers: Vec<HashMap<(u32, u32), Step>> =
        vec![HashMap::from([((0, 0), Step { cost: 0.0, before: 0, group: 0 })])];
    layers.resize_with(n + 1, HashMap::new);
    let mut came: HashMap<(u32, u32), Step> = HashMap::new();
    for decided in 0..n {
        let layer = std::mem::take(layers.get_mut(decided).unwrap_or(&mut HashMap::new()));
        for ((mask, left), step) in layer {
            came.insert((mask, left), step);
            steps = steps.wrapping_add(1);
            if steps.is_multiple_of(ASK_EVERY) && !go_on() {
                return Ok(Grouped { groups: first_guess, complete: false });
            }
            let first = mask.trailing_ones() as usize;
            let mut go = |members: u32, add: f64, leave: u32| {
                let (mask2, left2) = (mask | members, left + leave);
                let cost = step.cost + add;
                let open: f64 = rest(mask2, n, to_leave - left2 as usize, &floor);
                if cost + open > known + 1e-9 {
                    return;
                }
                let next = Step { cost, before: mask, group: if leave == 1 { 0 } else { members } };
                if let Some(layer) = layers.get_mut(mask2.count_ones() as usize) {
                    let slot = layer.entry((mask2, left2)).or_insert(next);
                    if cost < slot.cost {
                        *slot = next;
                    }
                }
            };
            if (left as usize) < to_leave {
                go(1 << first, 0.0, 1);
            }
            let free: Vec<usize> = (first + 1..n).filter(|j| mask & (1 << j) == 0).collect();
            choose(&free, size - 1, &mut vec![first], &mut |members| {
                let bits = members.iter().fold(0u32, |m, i| m | 1 << i);
                go(bits, inside(members), 0);
            });
        }
    }
    let end = layers.get(n).and_then(|l| l.get(&(full(n), to_leave as u32))).copied();
    Ok(Grouped { groups: walk_back(end, &came, n, to_leave as u32, &inside), complete: true })
}

fn full(n: usize) -> u32 {
    (1u32 << n) - 1
}

/// The least that the pieces not decided yet can cost, the dearest of them being left over.
fn rest(mask: u32, n: usize, leave: usize, floor: &[f64]) -> f64 {
    let open = || (0..n).filter(|i| mask & (1 << i) == 0).filter_map(|i| floor.get(i).copied());
    if leave == 0 {
        return open().sum();
    }
    let mut open: Vec<f64> = open().collect();
    open.sort_by(|a, b| b.total_cmp(a));
    open.iter().skip(leave).sum()
}

/// Every choice of `more` out of `free`, added to `taken`.
fn choose(free: &[usize], more: usize, taken: &mut Vec<usize>, each: &mut impl FnMut(&[usize])) {
    if more == 0 {
        each(taken);
        return;
    }
    for (k, i) in free.iter().enumerate() {
        taken.push(*i);
        choose(free.get(k + 1..).unwrap_or(&[]), more - 1, taken, each);
        taken.pop();
    }
}

/// The nearest first: a way that is possible.
fn greedy(n: usize, size: usize, wanted: usize, inside: &impl Fn(&[usize]) -> f64) -> Vec<Group> {
    let mut free: Vec<usize> = (0..n).collect();
    let mut out = Vec::new();
    for _ in 0..wanted {
        let mut best: Option<Group> = None;
        choose(&free, size, &mut vec![], &mut |members| {
            let distance = inside(members);
            if best.as_ref().is_none_or(|b| distance < b.distance) {
                best = Some(Group { members: members.to_vec(), distance });
            }
        });
        let Some(best) = best else { break };
        free.retain(|i| !best.members.contains(i));
        out.push(best);
    }
    out
}

/// The same groups after every exchange of two pieces that makes them nearer, of two groups or with one left over.
fn better_by_exchange(mut groups: Vec<Group>, n: usize, inside: &impl Fn(&[usize]) -> f64) -> Vec<Group> {
    let with = |g: &Group, out: usize, put: usize| {
        let members: Vec<usize> = g.members.iter().map(|m| if *m == out { put } else { *m }).collect();
        Group { distance: inside(&members), members }
    };
    let mut again = true;
    while again {
        again = false;
        for a in 0..n {
            for b in 0..n {
                let at =
                    |piece: usize, groups: &[Group]| groups.iter().position(|g| g.members.contains(&piece));
                let (Some(i), other) = (at(a, &groups), at(b, &groups)) else { continue };
                if other == Some(i) {
                    continue;
                }
                let Some(mine) = groups.get(i).map(|g| (with(g, a, b), g.distance)) else { continue };
                let theirs = other.and_then(|j| groups.get(j)).map(|g| (with(g, b, a), g.distance));
                let (now, then) = theirs
                    .as_ref()
                    .map_or((mine.1, mine.0.distance), |t| (mine.1 + t.1, mine.0.distance + t.0.distance));
                if then < now - 1e-9 {
                    again = true;
                    if let Some(slot) = groups.get_mut(i) {
                        *slot = mine.0;
                    }
                    if let Some((slot, t)) = other.and_then(|j| groups.get_mut(j)).zip(theirs) {
                        *slot = t.0;
                    }
                }
            }
        }
    }
    for g in &mut groups {
        g.members.sort_unstable();
    }
    groups.sort_by(|a, b| a.distance.total_cmp(&b.distance));
    groups
}

fn walk_back(
    end: Option<Step>,
    came: &HashMap<(u32, u32), Step>,
    n: usize,
    left: u32,
    inside: &impl Fn(&[usize]) -> f64,
) -> Vec<Group> {
    let mut out = Vec::new();
    let (mut step, mut left) = (end, left);
    while let Some(s) = step {
        if s.group == 0 {
            if s.before == 0 && left == 0 {
                break;
            }
            left = left.saturating_sub(1);
        } else {
            let members: Vec<usize> = (0..n).filter(|i| s.group & (1 << i) != 0).collect();
            let distance = inside(&members);
            out.push(Group { members, distance });
        }
        if s.before == 0 {
            break;
        }
        step = came.get(&(s.before, left)).copied();
    }
    out.sort_by(|a, b| a.distance.total_cmp(&b.distance));
    out
}

/// How two pieces share a quiescent current, their bases at the same voltage.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct IdleShare {
    /// Through the first, ampere.
    pub a_amperes: f64,
    /// Through the second, ampere.
    pub b_amperes: f64,
}

impl IdleShare {
    /// The difference as a share of the mean.
    #[must_use]
    pub fn mismatch(&self) -> f64 {
        2.0 * (self.a_amperes - self.b_amperes).abs() / (self.a_amperes + self.b_amperes)
    }
}

/// The quiescent currents of two whose bases are at one voltage, with `emitter_ohms` under each, when together they draw
/// `2 × idle_amperes`.
///
/// I = I₀ e^((Vb − I·R − V)/Vt), with each one's V at I₀ = `test_amperes` (the diode law; Vt = 25.7 mV at 25 °C). The base
/// currents are left out: they change it by 1/β.
///
/// ```
/// use owl_core::transistor::pairs::idle_share;
/// // Without a resistor 18 mV are a factor of two in current.
/// let s = idle_share(0.610, 0.610 + 0.0257 * 2f64.ln(), 0.001, 0.0, 0.010);
/// assert!((s.a_amperes / s.b_amperes - 2.0).abs() < 1e-6);
/// ```
#[must_use]
pub fn idle_share(
    a_base_volts: f64,
    b_base_volts: f64,
    test_amperes: f64,
    emitter_ohms: f64,
    idle_amperes: f64,
) -> IdleShare {
    let together = 2.0 * idle_amperes;
    // I of one at a base voltage: rising with it, so it is halved upon.
    let through = |base: f64, volts: f64| {
        let (mut low, mut high) = (0.0, together.max(1e-12) * 2.0);
        for _ in 0..100 {
            let i = f64::midpoint(low, high);
            let needs = volts + THERMAL_VOLTS * (i.max(1e-300) / test_amperes).ln() + i * emitter_ohms;
            if needs < base { low = i } else { high = i }
        }
        f64::midpoint(low, high)
    };
    let (mut low, mut high) = (-1.0, 10.0 + together * emitter_ohms);
    for _ in 0..200 {
        let base = f64::midpoint(low, high);
        if through(base, a_base_volts) + through(base, b_base_volts) < together {
            low = base
        } else {
            high = base
        }
    }
    let base = f64::midpoint(low, high);
    IdleShare { a_amperes: through(base, a_base_volts), b_amperes: through(base, b_base_volts) }
}
