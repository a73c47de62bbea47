//! Two to four parts where one will not do: from the drawers with their counts, or of preferred values to buy.
//!
//! Fewer parts first: more are only looked for while fewer bring nothing near enough. What each part carries is
//! held against its own rating, since unlike parts share unequally.

use super::assess::{Offer, Tally, deviation};
use super::load::{self, Load, body_volts};
use super::place::{self, Window};
use super::volts::asked;
use super::{Choice, ChoiceReason, Choices, Chosen, Need};
use crate::drawers::{Condition, Lot, Piece};
use crate::named::Named;
use crate::network::balance::{balancing, chain_stands};
use crate::network::{Drive, Found, Kind, Stock, Tree, Wanted, search, shares, spread, worst_volts};
use crate::part::size::at_least;
use crate::part::usual_tolerance;
use crate::part::{Capacitor, CapacitorFamily, MadeOf, PartKind, Resistor};
use crate::preferred::{Series, between};
use crate::quantity::format::{format, percent, signed_percent};
use crate::quantity::{Farad, Quantity, Volt, Watt};
use crate::source::Source;
use crate::verdict::Policy;

/// How far a network of three and more may be off.
const WITHIN: f64 = 0.02;
/// How far two may be off, at the most (practice: a tenth is what old parts were sold with).
const TWO_WITHIN: f64 = 0.1;
/// How far a bundle of capacitors is looked for from what is wanted.
const BUNDLE_WITHIN: f64 = 0.6;
/// Values near enough to the one wanted to be of use in a network, as a factor.
const SPAN: f64 = 100.0;
/// The most lots that a search takes; those with the most pieces are taken first.
const MOST_LOTS: usize = 300;
/// Networks that are enough of each sort.
const ENOUGH: usize = 3;

/// Resistors: from the drawers, and to buy.
pub(super) fn resistors(load: &Load, old: &Resistor, lots: &[Lot], parts: usize, out: &mut Choices) {
    let fits = |l: &Lot| {
        l.piece.kind == PartKind::Resistor
            && load.family(old, l.piece.family.and_then(MadeOf::resistor)).is_ok()
            && l.piece.watts.is_some()
            && near(l.piece.value_si, load.wanted)
    };
    let offers = most_pieces(Offer::of_lots(lots, fits));
    // The volts at which the whole carries its rating: from them come the shares.
    let drive = Volt::computed((load.least.watts() * load.wanted).sqrt());
    // The volts of one body are held against what stands there, not against that drive.
    let scale = load.volts.filter(|v| *v > 0.0).map(|v| drive.volts() / v);
    let stock: Vec<Stock> = offers
        .iter()
        .map(|o| Stock {
            value: o.piece.value_si.unwrap_or(1.0),
            count: o.count,
            tolerance: o.piece.tolerance,
            power: o.piece.watts,
            voltage: scale.zip(body_volts(&o.piece)).map(|(s, v)| Volt::computed(v * s)),
        })
        .collect();
    let wanted = Wanted {
        kind: Kind::Resistor,
        target: load.wanted,
        // Two that do need not hit it: what is inside the old part's tolerance is not trimmed.
        within: Some(load.window.min(TWO_WITHIN)),
        max_parts: 2,
        pinned: None,
        drive: Some(Drive::Voltage(drive)),
        power: None,
        voltage: None,
        limit: 24,
    };
    for found in fewest(&wanted, &stock, WITHIN, parts) {
        let pieces = found.picks.iter().filter_map(|i| offers.get(*i)).collect::<Vec<_>>();
        let ratings: Vec<Watt> = pieces.iter().filter_map(|o| o.piece.watts).collect();
        let chosen = pieces.iter().map(|o| o.chosen()).collect();
        let price = pieces.iter().map(|o| o.price_hundredths).sum();
        out.choices.extend(of_resistors(load, &found, &ratings, chosen, price));
    }
    // A single one to buy comes before every network to buy.
    if parts > 2 {
        bought_resistors(load, old, &Wanted { within: Some(WITHIN.min(load.window)), ..wanted }, out);
    }
}

/// Of E12, each of the smallest size that carries its share.
fn bought_resistors(load: &Load, old: &Resistor, wanted: &Wanted, out: &mut Choices) {
    let values: Vec<Stock> =
        between(Series::E12, load.wanted / 30.0, load.wanted * 30.0).into_iter().map(Stock::plenty).collect();
    let volts = Volt::computed((load.proposed.watts() * load.wanted).sqrt());
    let mut kept = 0;
    for parts in 2..=4 {
        let question = Wanted { max_parts: parts, drive: Some(Drive::Voltage(volts)), limit: 60, ..*wanted };
        let Ok(found) = search(&question, &values) else { return };
        let mut all: Vec<Found> = found.networks.into_iter().filter(|f| f.shares.len() == parts).collect();
        // Strings and bundles of equals besides: they share the volts evenly, whatever their error.
        all.extend(equals(load, wanted, volts, parts));
        // Even shares first: parts of half the watts are what is in a shop.
        let uneven = |f: &Found| f.shares.iter().filter_map(|s| s.watts).fold(0.0, f64::max);
        all.sort_by(|a, b| {
            let class = |f: &Found| u8::from(f.error.abs() > load::EXACT);
            class(a).cmp(&class(b)).then(uneven(a).total_cmp(&uneven(b)))
        });
        all.dedup_by(|a, b| a.tree == b.tree);
        for f in all {
            if kept == ENOUGH {
                return;
            }
            let ratings: Option<Vec<Watt>> = f
                .shares
                .iter()
                .map(|s| at_least(Watt::computed(s.watts? * (1.0 - WITHIN))).map(|size| size.power))
                .collect();
            let Some(ratings) = ratings else { continue };
            let chosen = f
                .tree
                .parts()
                .iter()
                .zip(&ratings)
                .map(|(v, w)| Chosen {
                    piece: load::piece_of(*v, *w, load::bought_family(load, old, *w)),
                    lot: None,
                    condition: Condition::New,
                })
                .collect();
            if let Some(choice) = of_resistors(load, &f, &ratings, chosen, None) {
                out.choices.push(choice);
                kept += 1;
            }
        }
        if kept > 0 {
            return;
        }
    }
}

/// So many equal resistors of E24, in series and in parallel.
fn equals(load: &Load, wanted: &Wanted, drive: Volt, parts: usize) -> Vec<Found> {
    let mut out = Vec::new();
    for (each, series) in [(load.wanted / parts as f64, true), (load.wanted * parts as f64, false)] {
        let Some(n) = crate::preferred::neighbours(Series::E24, each) else { continue };
        let leaves = vec![Tree::Part(n.nearest); parts];
        let tree = if series { Tree::Series(leaves) } else { Tree::Parallel(leaves) };
        let value = tree.value(Kind::Resistor);
        let error = value / load.wanted - 1.0;
        // What one body cannot stand is shared by equals even if they are a little further off.
        if error.abs() <= wanted.within.unwrap_or(WITHIN).max(load.window.min(0.05)) {
            let shares = shares(&tree, Kind::Resistor, Some(Drive::Voltage(drive)));
            out.push(Found { tree, value, error, shares, picks: vec![], spread: None });
        }
    }
    out
}

/// A network as a choice, where each body stands its share.
pub(super) fn of_resistors(
    load: &Load,
    found: &Found,
    ratings: &[Watt],
    pieces: Vec<Chosen>,
    price_hundredths: Option<u32>,
) -> Option<Choice> {
    let tree = &found.tree;
    let mut t = Tally { cautions: load.cautions.clone(), ..Tally::default() };
    if let Some(v) = load.volts {
        let limits: Vec<(f64, f64)> = pieces.iter().map(|p| tolerance(&p.piece)).collect();
        let worst = worst_volts(tree, Kind::Resistor, Drive::Voltage(Volt::computed(v)), &limits)?;
        for (volts, piece) in worst.iter().zip(&pieces) {
            if body_volts(&piece.piece).is_some_and(|most| *volts > most) {
                return None;
            }
        }
    }
    // The whole carries as much as its weakest part lets it.
    let whole = found
        .shares
        .iter()
        .zip(ratings)
        .filter_map(|(s, r)| Some(r.watts() / s.watts?))
        .fold(f64::INFINITY, f64::min)
        * found.shares.iter().filter_map(|s| s.watts).sum::<f64>();
    let total: f64 = found.shares.iter().filter_map(|s| s.watts).sum();
    let each: Vec<String> = tree
        .parts()
        .iter()
        .zip(ratings)
        .zip(&found.shares)
        .map(|((v, r), s)| {
            let share = s.watts.unwrap_or(0.0) / total;
            format!(
                "{} {r} carries {}",
                format(Quantity::Resistance, *v),
                percent((share * 100.0).round() / 100.0)
            )
        })
        .collect();
    let off = deviation(load.wanted, found.value);
    t.value(
        Quantity::Resistance,
        load.wanted,
        found.value,
        "what is left of the error",
        Source::standard("IEC 60063:2015"),
    );
    t.passes.push(ChoiceReason { rule: "R8", text: each.join("; "), source: Source::handbook("Ohm's law") });
    let tolerances: Option<Vec<_>> =
        pieces.iter().map(|p| p.piece.tolerance.map(|t| (t.fraction(), t.fraction()))).collect();
    if let Some(tolerances) = tolerances {
        let s = spread(tree, Kind::Resistor, &tolerances);
        t.passes.push(ChoiceReason {
            rule: "R8",
            text: format!(
                "{} to {} at worst, ±{} by the sum of squares",
                format(Quantity::Resistance, s.low),
                format(Quantity::Resistance, s.high),
                percent(s.root_sum_square)
            ),
            source: Source::handbook("propagation of tolerances"),
        });
    }
    // What the error of the network takes from its watts is no reason against it.
    let enough = whole >= load.least.watts() * (1.0 - WITHIN);
    let whole = if enough { whole.max(load.least.watts()) } else { whole };
    t.margin("watts", Quantity::Power, Some(whole), load.least.watts());
    pieces.iter().for_each(|p| t.condition(p.condition));
    t.cautions.dedup();
    if !t.short.is_empty() {
        return None;
    }
    let family = made_of(pieces.iter().map(|p| &p.piece));
    let flat = |parts: &[Tree]| parts.iter().all(|p| matches!(p, Tree::Part(_)));
    let how = match tree {
        Tree::Parallel(p) if flat(p) => " in parallel",
        Tree::Series(p) if flat(p) => " in series",
        Tree::Parallel(_) | Tree::Series(_) | Tree::Part(_) => "",
    };
    Some(Choice {
        description: format!("{}{how}, {family}", tree.expression(Kind::Resistor)),
        value_si: Some(found.value),
        deviation: Some(off),
        volts: None,
        watts: Some(Watt::computed(whole)),
        network: Some(tree.clone()),
        pieces,
        passes: t.passes,
        cautions: t.cautions,
        effects: vec![],
        margins: t.margins,
        price_hundredths,
    })
}

/// Which capacitors are looked for.
#[derive(Debug, Clone, Copy)]
pub(super) struct Sought<'a> {
    /// In farad.
    pub wanted: f64,
    /// How far it may be off.
    pub window: &'a Window,
    /// Of so many parts at the most.
    pub parts: usize,
}

/// Capacitors side by side where the value is not in one; in a string with balancing resistors where the volts are
/// not, of electrolytics only.
pub(super) fn capacitors(
    need: &Need<'_>,
    old: &Capacitor,
    sought: &Sought<'_>,
    policy: &Policy,
    lots: &[Lot],
    out: &mut Choices,
) {
    let Sought { wanted, window, parts } = *sought;
    if need.position.is_some_and(crate::part::Position::protects_people) {
        return;
    }
    // Everything but its value and its volts must do: those are the network's.
    let fits = |o: &Offer| {
        let mut alone = o.clone();
        alone.piece.value_si = None;
        alone.piece.volts = Some(Volt::computed(1e6));
        place::assess(need, old, wanted, window, &alone, policy).short.is_empty()
    };
    let of_kind = |l: &Lot| l.piece.kind == PartKind::Capacitor && near(l.piece.value_si, wanted);
    let offers = most_pieces(Offer::of_lots(lots, of_kind).into_iter().filter(|o| fits(o)).collect());
    let first = offers.first().and_then(|o| o.piece.family).and_then(MadeOf::capacitor);
    let needed = asked(need, old, first.unwrap_or(CapacitorFamily::Polyester), policy).volts;
    let stock: Vec<Stock> = offers
        .iter()
        .map(|o| Stock {
            value: o.piece.value_si.unwrap_or(1e-9),
            count: o.count,
            tolerance: o.piece.tolerance,
            power: None,
            voltage: o.piece.volts,
        })
        .collect();
    let centre = if window.low <= 1.0 && window.high >= 1.0 { wanted } else { wanted * window.low };
    let question = Wanted {
        kind: Kind::Capacitor,
        target: centre,
        within: Some((1.0 - window.low).max(window.high - 1.0).clamp(0.02, BUNDLE_WITHIN)),
        max_parts: 2,
        pinned: None,
        drive: needed.map(Volt::computed).map(Drive::Voltage),
        power: None,
        voltage: None,
        limit: 60,
    };
    for found in fewest(&question, &stock, 1.0 - window.low, parts) {
        let pieces: Vec<&Offer> = found.picks.iter().filter_map(|i| offers.get(*i)).collect();
        out.choices.extend(of_capacitors(need, wanted, window, policy, needed, &found, &pieces));
    }
}

fn of_capacitors(
    need: &Need<'_>,
    wanted: f64,
    window: &Window,
    policy: &Policy,
    needed: Option<f64>,
    found: &Found,
    offers: &[&Offer],
) -> Option<Choice> {
    let side_by_side =
        matches!(&found.tree, Tree::Parallel(p) if p.iter().all(|x| matches!(x, Tree::Part(_))));
    let string = matches!(&found.tree, Tree::Series(p) if p.iter().all(|x| matches!(x, Tree::Part(_))));
    let electrolytic =
        offers.iter().all(|o| o.piece.family == Some(MadeOf::Capacitor(CapacitorFamily::Electrolytic)));
    let ratio = found.value / wanted;
    let inside = ratio >= window.low * (1.0 - 1e-6) && ratio <= window.high * (1.0 + 1e-6);
    if !inside || !(side_by_side || string && electrolytic && needed.is_some()) {
        return None;
    }
    let mut t = Tally::default();
    t.value(Quantity::Capacitance, wanted, found.value, &window.why, window.source.clone());
    super::first_filter::judge(need, found.value, policy, &mut t);
    super::effect::of(need, wanted, found.value, &mut t);
    let volts = if side_by_side {
        offers.iter().filter_map(|o| o.piece.volts).map(Volt::volts).fold(f64::INFINITY, f64::min)
    } else {
        string_stands(&found.tree, offers)?
    };
    if let Some(n) = needed {
        t.margin("volts", Quantity::Voltage, Some(volts).filter(|v| v.is_finite()), n);
    }
    if string {
        let least = found.tree.parts().into_iter().fold(f64::INFINITY, f64::min);
        let b = balancing(Farad::computed(least), Volt::computed(needed?), offers.len())?;
        t.cautions.push(ChoiceReason {
            rule: "R8",
            text: format!(
                "in series on direct volts: {} across each, {} in it; leakage shares the volts otherwise",
                b.resistor, b.dissipated
            ),
            source: Source::practice("ten times the leak through the balancing resistors"),
        });
        t.cautions
            .push(ChoiceReason::practice("the middle is live: insulate every can", "capacitors in series"));
    }
    offers.iter().for_each(|o| t.condition(o.condition));
    t.cautions.dedup();
    if !t.short.is_empty() {
        return None;
    }
    let off = deviation(wanted, found.value);
    let how = if side_by_side { "side by side" } else { "in series" };
    let family = made_of(offers.iter().map(|o| &o.piece));
    Some(Choice {
        description: format!(
            "{} {how}, {family}, {}",
            found.tree.expression(Kind::Capacitor),
            signed_percent(off.fraction())
        ),
        value_si: Some(found.value),
        deviation: Some(off),
        volts: Some(volts).filter(|v| v.is_finite()).map(Volt::computed),
        watts: None,
        network: Some(found.tree.clone()),
        pieces: offers.iter().map(|o| o.chosen()).collect(),
        passes: t.passes,
        cautions: t.cautions,
        effects: t.effects,
        margins: t.margins,
        price_hundredths: offers.iter().map(|o| o.price_hundredths).sum(),
    })
}

/// What a string stands: the weakest decides, with the greatest share that it may get as the string charges (by the
/// tolerances of all) and afterwards (by those of the balancing resistors), and never more than so many times the weakest.
fn string_stands(tree: &Tree, offers: &[&Offer]) -> Option<f64> {
    let limits: Vec<(f64, f64)> = offers.iter().map(|o| tolerance(&o.piece)).collect();
    let of_one = worst_volts(tree, Kind::Capacitor, Drive::Voltage(Volt::computed(1.0)), &limits)?;
    let ratings = offers.iter().map(|o| o.piece.volts.unwrap_or(Volt::ZERO));
    let weakest = ratings.clone().reduce(Volt::min)?;
    let balanced = chain_stands(weakest, u32::try_from(offers.len()).ok()?).volts();
    Some(ratings.zip(of_one).map(|(rating, share)| rating.volts() / share).fold(balanced, f64::min))
}

/// What the pieces are made of, each making once: `metal film`, `metal film and wirewound`.
fn made_of<'a>(pieces: impl Iterator<Item = &'a Piece>) -> String {
    let mut names: Vec<&str> = pieces.map(|p| p.family.map_or(p.kind.name(), Named::name)).collect();
    names.sort_unstable();
    names.dedup();
    names.join(" and ")
}

/// How far a piece may be off: as marked, or as is usual of its family.
fn tolerance(piece: &Piece) -> (f64, f64) {
    let marked = piece.tolerance.map(|t| (t.fraction(), t.fraction()));
    marked.unwrap_or_else(|| usual_tolerance(piece.family))
}

fn near(value: Option<f64>, wanted: f64) -> bool {
    value.is_some_and(|v| v >= wanted / SPAN && v <= wanted * SPAN)
}

/// Those with the most pieces, as many as a search takes at once.
fn most_pieces(mut offers: Vec<Offer>) -> Vec<Offer> {
    offers.sort_by_key(|o| (o.condition.needs_test(), std::cmp::Reverse(o.count)));
    offers.truncate(MOST_LOTS);
    offers
}

/// Networks of as few parts as bring enough that are near, and of no more than so many; of three and more no further off
/// than `most`.
fn fewest(question: &Wanted, stock: &[Stock], most: f64, most_parts: usize) -> Vec<Found> {
    let mut out: Vec<Found> = Vec::new();
    for parts in 2..=most_parts {
        let within = if parts == 2 { question.within } else { question.within.map(|w| w.min(most)) };
        let Ok(found) = search(&Wanted { max_parts: parts, within, ..*question }, stock) else { return out };
        out.extend(found.networks.into_iter().filter(|f| f.shares.len() == parts).take(ENOUGH * 2));
        if out.len() >= ENOUGH {
            break;
        }
    }
    out
}
