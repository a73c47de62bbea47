//! Single faults ranked by how well each explains the readings; two at once where no single one does.

use nalgebra::DVector;

use super::fault::{Faulty, fixed, of_size, sized};
use super::overload::{Overload, overloads};
use super::separate::separate;
use super::shown::{amperes, volts};
use super::solve::Solved;
use super::weigh::{Readings, Weighed};
use super::{Fault, Feed, FeedError};
use crate::quantity::{Fraction, Ohm, Volt};

/// Faults whose scores are no further apart explain the readings equally well (practice: even odds are no knowledge).
const EVEN: f64 = 1.0;
/// The same further down the list, where only what is the same is called so.
const SAME: f64 = 0.02;
/// Good parts are believed until a fault is this much better (about 4 : 1; practice).
const DOUBT: f64 = 3.0;
/// What a load that draws too much pays beside a part that is at fault (practice: a valve seldom draws more by itself; what
/// makes it do so is behind another node).
const SELDOM: f64 = 1.5;
/// What a fault of free size pays for being free.
const FREE: f64 = 1.0;
/// The most suspects that are listed.
const MOST: usize = 12;
/// A fit below this is none.
const LEAST: f64 = 0.01;
/// How often the size of a fault is improved.
const STEPS: usize = 8;
/// A node below this share of the rail may have a starved load.
const STARVED: f64 = 0.03;
/// The sizes that are tried first there, against the resistance that the part sees.
const COARSE: [f64; 10] = [0.003, 0.01, 0.03, 0.1, 0.2, 0.5, 1.0, 3.0, 10.0, 30.0];
/// About how far these are apart.
const COARSE_STEP: f64 = 3.3;
/// How many pairs of parts are looked at closely.
const PAIRS: usize = 40;

/// What is asked of a feed.
#[derive(Debug, Clone, PartialEq)]
pub struct Question<'a> {
    /// The feed, on its rail by the sheet.
    pub feed: &'a Feed,
    /// What was read at which node; `rail` for what the rail has now.
    pub measured: &'a [(String, Volt)],
    /// The resistance of the meter, where it loads.
    pub meter: Option<Ohm>,
}

/// A fault that would explain the readings.
#[derive(Debug, Clone, PartialEq)]
pub struct Suspect {
    /// The part's number in the feed.
    pub part: usize,
    /// What would be wrong with it.
    pub fault: Fault,
    /// From 0 to 1: how well it explains the readings.
    pub explains: Fraction,
    /// Why, with the numbers.
    pub because: String,
    /// What it overloads.
    pub overloads: Vec<Overload>,
}

impl Suspect {
    /// What is wrong with its part, with its name and its numbers: `V2 drawing 14 mA, 2.3 times what it should`.
    #[must_use]
    pub fn says(&self, feed: &Feed) -> String {
        let Some(part) = feed.parts.get(self.part) else { return String::new() };
        let draws = |s: &Solved<'_>| s.carries(self.part).map_or(0.0, |c| c.1.amperes().abs());
        match self.fault {
            Fault::Overdrawing(_) => {
                let (now, should) = (draws(&self.state(feed)), draws(&feed.as_drawn().healthy()));
                let times = if should > 0.0 {
                    format!(", {:.1} times what it should", now / should)
                } else {
                    String::new()
                };
                format!("{} drawing {}{times}", part.name, amperes(now))
            }
            fault => format!("{} {}", part.name, fault.says(part.element)),
        }
    }

    /// Its part's state with this fault: what every part would carry.
    #[must_use]
    pub fn state<'a>(&self, feed: &'a Feed) -> Solved<'a> {
        feed.solve(&[(self.part, self.fault)])
    }
}

/// Two faults at once.
#[derive(Debug, Clone, PartialEq)]
pub struct Double {
    /// The parts and what would be wrong with them.
    pub faults: [(usize, Fault); 2],
    /// From 0 to 1.
    pub explains: Fraction,
    /// Why, with the numbers.
    pub because: String,
}

/// What the readings say.
#[derive(Debug, Clone, PartialEq)]
pub struct Findings {
    /// Every node with all parts as they should be, on the rail by the sheet.
    pub expected: Vec<(String, Volt)>,
    /// Whether good parts within their tolerance explain the readings; then nobody is suspected.
    pub agrees: bool,
    /// Best first.
    pub suspects: Vec<Suspect>,
    /// Two at once, best first, where no single fault explains the readings.
    pub doubles: Vec<Double>,
    /// Pairs of suspects, by their parts, that explain the readings equally well.
    pub cannot_separate: Vec<(usize, usize)>,
    /// The measurement that tells the best ones apart.
    pub separate_by: Option<String>,
}

struct Tried<'a> {
    faults: Vec<Faulty>,
    solved: Solved<'a>,
    weighed: Weighed,
    score: f64,
}

/// Which part is guilty.
///
/// Each rail counts as what was read at it, where it was read.
///
/// # Errors
/// [`FeedError`] where nothing was measured, or at a node that there is not.
pub fn diagnose(q: &Question<'_>) -> Result<Findings, FeedError> {
    let feed = &q.feed.as_measured(q.measured)?;
    let readings = readings(feed, q)?;
    let healthy = tried(feed, &readings, vec![], None).ok_or(FeedError::NothingMeasured)?;
    let mut all: Vec<Tried<'_>> =
        fixed(feed).into_iter().filter_map(|f| tried(feed, &readings, vec![f], Some(&healthy))).collect();
    let free: Vec<_> = sized(feed).into_iter().filter_map(|i| fitted(feed, &readings, i, &healthy)).collect();
    // As good as open or shorted is open or shorted: the size then says nothing.
    let free = free.into_iter().filter(|s| {
        let part = s.faults[0].0;
        all.iter().all(|f| f.faults[0].0 != part || f.score > s.score + EVEN)
    });
    let free: Vec<_> = free.collect();
    all.extend(free);
    all.sort_by(|a, b| a.score.total_cmp(&b.score));
    let m = readings.nodes.len();
    let best = all.first();
    let agrees = healthy.weighed.chi_squared <= bearable(m, 3.0)
        && best.is_none_or(|b| healthy.score <= b.score + DOUBT);
    let expected = expected(q.feed);
    if agrees {
        return Ok(Findings {
            expected,
            agrees,
            suspects: vec![],
            doubles: vec![],
            cannot_separate: vec![],
            separate_by: None,
        });
    }
    let doubles = match best {
        Some(b) if b.weighed.chi_squared <= bearable(m, 4.0) => vec![],
        _ => doubles(feed, &readings, &healthy),
    };
    let (suspects, groups) = ranked(feed, &readings, &all);
    let even: Vec<&Tried<'_>> = all.iter().take(groups.first().copied().unwrap_or(0)).collect();
    Ok(Findings {
        expected,
        agrees,
        cannot_separate: inseparable(&suspects, &groups),
        separate_by: separate(
            feed,
            &readings,
            &even.iter().map(|t| (&t.faults[0], &t.solved)).collect::<Vec<_>>(),
        ),
        suspects,
        doubles,
    })
}

/// The most that squares of so many readings come to without a fault, but for luck of so many widths.
fn bearable(readings: usize, widths: f64) -> f64 {
    let m = readings as f64;
    m + widths * (2.0 * m).sqrt()
}

fn readings(feed: &Feed, q: &Question<'_>) -> Result<Readings, FeedError> {
    let mut nodes = Vec::new();
    let mut volts = Vec::new();
    for (name, v) in q.measured.iter().filter(|(n, _)| !feed.is_rail(n)) {
        let node = feed.node(name).ok_or_else(|| FeedError::NoSuchNode {
            node: name.clone(),
            known: feed.nodes.iter().map(|n| format!("'{n}'")).collect::<Vec<_>>().join(", "),
        })?;
        nodes.push(node);
        volts.push(v.volts());
    }
    if nodes.is_empty() {
        return Err(FeedError::NothingMeasured);
    }
    let meter = q.meter.map_or(f64::INFINITY, Ohm::ohms);
    Ok(Readings { nodes, volts: DVector::from_vec(volts), meter })
}

fn expected(feed: &Feed) -> Vec<(String, Volt)> {
    let drawn = feed.as_drawn();
    let solved = drawn.healthy();
    feed.nodes.iter().filter_map(|n| Some((n.clone(), solved.volts(n)?))).collect()
}

/// A state of the network with its score: the less, the better it explains the readings.
fn tried<'a>(
    feed: &'a Feed,
    readings: &Readings,
    faults: Vec<Faulty>,
    healthy: Option<&Tried<'_>>,
) -> Option<Tried<'a>> {
    let solved = feed.solve(&faults);
    let parts: Vec<usize> = faults.iter().map(|f| f.0).collect();
    let weighed = readings.weigh(feed, &solved, &parts)?;
    let mut score = weighed.chi_squared + weighed.log_determinant;
    for (part, fault) in &faults {
        let free =
            matches!(fault, Fault::Drifted(_) | Fault::Leaking(_) | Fault::Risen(_) | Fault::Overdrawing(_));
        if let Some(healthy) = healthy.filter(|_| free) {
            score += freedom(&readings.answer(&solved, *part), &weighed, &healthy.weighed);
        }
        if matches!(fault, Fault::Overdrawing(_)) {
            score += SELDOM;
            // Less than it should draw is not too much.
            let should = healthy.map_or(0.0, |h| h.solved.through(*part).abs());
            if solved.through(*part).abs() < should * (1.0 + feed.tolerance(*part)) {
                return None;
            }
        }
    }
    Some(Tried { faults, solved, weighed, score })
}

/// What the direction in which a fault is free costs: the width that good parts have there, whatever that of this state
/// is, so that two faults that move the nodes alike cost alike.
fn freedom(answer: &DVector<f64>, here: &Weighed, healthy: &Weighed) -> f64 {
    let length = answer.norm();
    if length == 0.0 {
        return FREE;
    }
    let u = answer / length;
    let precision = u.dot(&here.cholesky.solve(&u));
    let width = healthy.cholesky.l().tr_mul(&u).norm_squared();
    precision.ln() + width.ln() + FREE
}

/// The size of a fault that explains the readings best: Newton's steps along the one direction in which it moves them.
///
/// A load that is starved on the way leaves the straight line; where a node reads next to nothing, the sizes are
/// tried, coarsely and then more and more finely.
fn fitted<'a>(feed: &'a Feed, readings: &Readings, part: usize, healthy: &Tried<'_>) -> Option<Tried<'a>> {
    let straight = stepped(feed, readings, part, healthy);
    let starved = readings.volts.iter().any(|v| v.abs() < STARVED * feed.rail.abs());
    if !starved
        || straight.as_ref().is_some_and(|t| t.weighed.chi_squared < bearable(readings.nodes.len(), 3.0))
    {
        return straight;
    }
    let seen = healthy.solved.seen_by(part);
    let of = |ohms: f64| {
        let fault = of_size(feed, part, 1.0 / ohms)?;
        Some((ohms, tried(feed, readings, vec![(part, fault)], Some(healthy))?))
    };
    let lower = |a: &(f64, Tried<'a>), b: &(f64, Tried<'a>)| a.1.score.total_cmp(&b.1.score);
    let mut best = COARSE.iter().filter_map(|share| of(share * seen)).min_by(lower)?;
    let mut step = COARSE_STEP;
    while step > 1.0 + 1e-4 {
        step = step.sqrt();
        for ohms in [best.0 / step, best.0 * step] {
            best = of(ohms).into_iter().chain([best]).min_by(lower)?;
        }
    }
    straight.into_iter().chain([best.1]).min_by(|a, b| a.score.total_cmp(&b.score))
}

fn stepped<'a>(feed: &'a Feed, readings: &Readings, part: usize, healthy: &Tried<'_>) -> Option<Tried<'a>> {
    let (mut solved, mut weighed) = (feed.healthy(), healthy.weighed.clone());
    let mut best: Option<Tried<'a>> = None;
    for _ in 0..STEPS {
        let siemens = solved.siemens[part];
        let Some(next) = better(readings, part, &solved, &weighed) else { break };
        let Some(fault) = of_size(feed, part, next) else { break };
        let Some(now) = tried(feed, readings, vec![(part, fault)], Some(healthy)) else { break };
        (solved, weighed) = (now.solved.clone(), now.weighed.clone());
        if best.as_ref().is_none_or(|b| now.score < b.score) {
            best = Some(now);
        }
        if siemens > 0.0 && (next / siemens).ln().abs() < 1e-6 {
            break;
        }
    }
    best
}

/// The conductance of a part with which the readings would be explained best, as far as the network answers in
/// proportion.
fn better(readings: &Readings, part: usize, solved: &Solved<'_>, weighed: &Weighed) -> Option<f64> {
    let u = readings.answer(solved, part);
    let weighted = weighed.cholesky.solve(&u);
    let (along, own) = (weighted.dot(&weighed.residual), weighted.dot(&u));
    if own <= 0.0 {
        return None;
    }
    // More current in the part takes it out of one end and puts it into the other.
    Some(solved.with_current(part, -along / own))
}

/// The suspects with their fits, and how many stand in each group that explains the readings equally well.
fn ranked(feed: &Feed, readings: &Readings, all: &[Tried<'_>]) -> (Vec<Suspect>, Vec<usize>) {
    let Some(best) = all.first() else { return (vec![], vec![]) };
    let m = readings.nodes.len() as f64;
    let share_of = |score: f64| (-(best.weighed.chi_squared + score - best.score).max(0.0) / (2.0 * m)).exp();
    let (mut suspects, mut groups): (Vec<Suspect>, Vec<usize>) = (vec![], vec![]);
    let mut leader = best.score;
    for t in all.iter().take(MOST) {
        let together = if groups.len() <= 1 { EVEN } else { SAME };
        match groups.last_mut() {
            Some(n) if t.score - leader <= together => *n += 1,
            _ => {
                leader = t.score;
                groups.push(1);
            }
        }
        let explains = (share_of(leader) * 1000.0).round() / 1000.0;
        if explains < LEAST && !suspects.is_empty() {
            groups.pop();
            break;
        }
        let (part, fault) = t.faults[0];
        suspects.push(Suspect {
            part,
            fault,
            explains: Fraction::computed(explains),
            because: because(feed, readings, &t.weighed),
            overloads: overloads(feed, &t.solved, &[part]),
        });
    }
    (suspects, groups)
}

fn inseparable(suspects: &[Suspect], groups: &[usize]) -> Vec<(usize, usize)> {
    let mut pairs = Vec::new();
    let mut rest = suspects;
    for n in groups {
        let (group, after) = rest.split_at((*n).min(rest.len()));
        for (i, a) in group.iter().enumerate() {
            for b in group.iter().skip(i + 1).filter(|b| b.part != a.part) {
                if !pairs.contains(&(a.part, b.part)) {
                    pairs.push((a.part, b.part));
                }
            }
        }
        rest = after;
    }
    pairs
}

fn because(feed: &Feed, readings: &Readings, weighed: &Weighed) -> String {
    let mut nodes: Vec<usize> = (0..readings.nodes.len()).collect();
    let miss = |i: &usize| weighed.residual[*i].abs();
    nodes.sort_by(|a, b| miss(b).total_cmp(&miss(a)));
    let say = |i: &usize| {
        format!(
            "{} would show {} and shows {}",
            feed.nodes[readings.nodes[*i]],
            volts(weighed.predicted[*i]),
            volts(readings.volts[*i])
        )
    };
    nodes.iter().take(3).map(say).collect::<Vec<_>>().join("; ")
}

/// Two faults at once: what two currents along two parts would explain, made into faults, and solved exactly.
fn doubles(feed: &Feed, readings: &Readings, healthy: &Tried<'_>) -> Vec<Double> {
    let m = readings.nodes.len();
    if m < 3 {
        return vec![];
    }
    let mut parts: Vec<usize> = fixed(feed).into_iter().map(|f| f.0).collect();
    parts.dedup();
    let w = &healthy.weighed;
    let answers: Vec<DVector<f64>> = parts.iter().map(|i| readings.answer(&healthy.solved, *i)).collect();
    let weighted: Vec<DVector<f64>> = answers.iter().map(|u| w.cholesky.solve(u)).collect();
    let mut pairs: Vec<(f64, [usize; 2], [f64; 2])> = Vec::new();
    for i in 0..parts.len() {
        for j in i + 1..parts.len() {
            let (aa, ab, bb) =
                (weighted[i].dot(&answers[i]), weighted[i].dot(&answers[j]), weighted[j].dot(&answers[j]));
            let (ya, yb) = (weighted[i].dot(&w.residual), weighted[j].dot(&w.residual));
            let det = aa * bb - ab * ab;
            // Two parts that move the nodes alike are one.
            if det <= 1e-6 * aa * bb {
                continue;
            }
            let (ta, tb) = ((ya * bb - yb * ab) / det, (yb * aa - ya * ab) / det);
            pairs.push((w.chi_squared - (ya * ta + yb * tb), [parts[i], parts[j]], [-ta, -tb]));
        }
    }
    pairs.sort_by(|a, b| a.0.total_cmp(&b.0));
    let mut found: Vec<Tried<'_>> = Vec::new();
    for (_, [a, b], amperes) in pairs.into_iter().take(PAIRS) {
        let options = |part: usize, amps: f64| {
            let sized = of_size(feed, part, healthy.solved.with_current(part, amps))
                .filter(|f| !matches!(f, Fault::Overdrawing(_)));
            let known = fixed(feed).into_iter().filter(move |f| f.0 == part);
            sized.map(|f| (part, f)).into_iter().chain(known).collect::<Vec<_>>()
        };
        for first in options(a, amperes[0]) {
            for second in options(b, amperes[1]) {
                found.extend(tried(feed, readings, vec![first, second], Some(healthy)));
            }
        }
    }
    found.retain(|t| t.weighed.chi_squared <= bearable(m, 4.0));
    found.sort_by(|a, b| a.score.total_cmp(&b.score));
    let worth = |t: &Tried<'_>| (-t.weighed.chi_squared / (2.0 * m as f64)).exp();
    found
        .iter()
        .take(5)
        .map(|t| Double {
            faults: [t.faults[0], t.faults[1]],
            explains: Fraction::computed((worth(t) * 1000.0).round() / 1000.0),
            because: because(feed, readings, &t.weighed),
        })
        .collect()
}
