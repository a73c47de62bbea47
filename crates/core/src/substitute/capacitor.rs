//! A capacitor for a capacitor: value and dielectric by its place, volts by what stands there.

use super::assess::{Offer, Tally};
use super::catalogue::sorts;
use super::place::{NEAR_ENOUGH, assess, facts, families, window};
use super::volts::asked;
use super::{Choice, ChoiceReason, Choices, Depth, LOOKED_AT, Need, SubstituteError, network, order};
use crate::drawers::{Lot, Piece};
use crate::part::{Capacitor, CapacitorFamily, Fact, MadeOf, PartKind, Position, SafetyClass};
use crate::preferred::{Series, neighbours};
use crate::quantity::Volt;
use crate::verdict::Policy;

/// Proposes capacitors.
pub(super) fn choose(
    need: &Need<'_>,
    old: &Capacitor,
    policy: &Policy,
    lots: &[Lot],
    depth: Depth,
) -> Result<Choices, SubstituteError> {
    let wanted = need.value_si.filter(|v| *v > 0.0).ok_or(SubstituteError::NoValue)?;
    let mut out = Choices::asking(need, facts(need.position));
    let window = window(need, old, policy);
    let near = |v: f64| LOOKED_AT.contains(&(v / wanted));
    let mut offers =
        Offer::of_lots(lots, |l| l.piece.kind == PartKind::Capacitor && l.piece.value_si.is_some_and(near));
    offers.extend(to_buy(need, old, wanted, policy).into_iter().map(Offer::to_buy));
    offers.extend(tempting(need, old, wanted, policy).into_iter().map(Offer::to_buy));
    for offer in &offers {
        let tally = assess(need, old, wanted, &window, offer, policy);
        tally.settle(offer, offer.piece.to_string(), Some(wanted), &mut out);
    }
    // Side by side only where no single one in the drawers is near.
    let near_single = |c: &Choice| {
        c.from_drawers() && c.deviation.is_some_and(|d| d.fraction().abs() <= NEAR_ENOUGH + 1e-9)
    };
    let parts = order::parts_worth_seeking(&out.choices, need, depth);
    if parts > 1 && !out.choices.iter().any(near_single) {
        let sought = network::Sought { wanted, window: &window, parts };
        network::capacitors(need, old, &sought, policy, lots, &mut out);
    }
    if out.choices.is_empty()
        && let Some(rule) = need.position.and_then(Position::class_rule)
    {
        out.advice.extend(nothing_of_the_class(need.position, rule.wanted()));
    }
    Ok(out)
}

/// Holds one offer, whatever its value, against what its place asks for.
pub(super) fn assess_any(
    need: &Need<'_>,
    old: &Capacitor,
    policy: &Policy,
    offer: &Offer,
) -> Result<Tally, SubstituteError> {
    let wanted = need.value_si.filter(|v| *v > 0.0).ok_or(SubstituteError::NoValue)?;
    Ok(assess(need, old, wanted, &window(need, old, policy), offer, policy))
}

/// What to do where no part of the class is near the value: never another class.
fn nothing_of_the_class(position: Option<Position>, class: String) -> Vec<ChoiceReason> {
    let say = |text: String| ChoiceReason::practice(text, "parts that protect people");
    let first = format!(
        "nothing of class {class} comes near this value: an ordinary part, or another class, is no substitute"
    );
    let then = match position {
        Some(Position::AcrossTheLine) => "a smaller one of the class does: it only keeps noise off the line",
        _ => {
            "a smaller one of class Y2 does (a few nF), or none at all: it only keeps noise and hum away. An isolating \
             transformer and the chassis to earth is another way; local code decides"
        }
    };
    vec![say(first), say(then.to_owned())]
}

/// What can be bought and is nearest, in each family that does, with the least rating that is enough.
fn to_buy(need: &Need<'_>, old: &Capacitor, wanted: f64, policy: &Policy) -> Vec<Piece> {
    let mut out = Vec::new();
    let classes: Vec<Option<SafetyClass>> = match need.position.and_then(Position::class_rule) {
        Some(rule) => rule.classes.iter().copied().map(Some).collect(),
        None => vec![None],
    };
    for family in families(need, old, wanted) {
        for class in &classes {
            let needed = match class {
                Some(_) => need.fact(Fact::Line),
                None => asked(need, old, family, policy).volts,
            };
            for sort in sorts(family, *class) {
                let enough = match needed {
                    Some(n) => sort.volts.iter().find(|v| **v >= n * (1.0 - 1e-9)),
                    // Nothing is known: the usual rating of a set with valves.
                    None => sort.volts.iter().find(|v| **v >= 400.0).or(sort.volts.last()),
                };
                let Some(volts) = enough else { continue };
                let Some(n) = neighbours(sort.series, wanted) else { continue };
                let mut values = vec![n.nearest];
                values.extend([n.below, n.above].into_iter().filter(|v| *v != n.nearest));
                for value in values {
                    let inside = value >= sort.low * (1.0 - 1e-9) && value <= sort.high * (1.0 + 1e-9);
                    let same = |p: &Piece| {
                        p.family == Some(MadeOf::Capacitor(family))
                            && p.safety == *class
                            && p.value_si.is_some_and(|v| (v / value - 1.0).abs() < 1e-9)
                    };
                    if inside && !out.iter().any(same) {
                        out.push(sort.piece(value, *volts));
                    }
                }
            }
        }
    }
    out
}

/// What a hurried hand would reach for and must not: shown with the reason, by the same rules.
fn tempting(need: &Need<'_>, old: &Capacitor, wanted: f64, policy: &Policy) -> Vec<Piece> {
    let rated = asked(need, old, CapacitorFamily::Polyester, policy).volts.unwrap_or(400.0);
    let piece = |family, value: f64, volts: f64| Piece {
        family: Some(MadeOf::Capacitor(family)),
        value_si: Some(value),
        volts: Some(Volt::computed(volts)),
        celsius: (family == CapacitorFamily::Electrolytic).then_some(105.0),
        ..Piece::new(PartKind::Capacitor)
    };
    let near = neighbours(Series::E6, wanted).map_or(wanted, |n| n.nearest);
    match need.position {
        Some(p) if p.protects_people() => vec![piece(CapacitorFamily::Polypropylene, near, 630.0)],
        Some(p) if p.makes_a_frequency() || p.blocks_a_plate() => {
            vec![piece(CapacitorFamily::CeramicClass2, near, 500f64.max(rated))]
        }
        Some(Position::Coupling | Position::Tone | Position::Avc) => {
            vec![piece(CapacitorFamily::CeramicClass2, near, 500f64.max(rated))]
        }
        Some(Position::Reservoir) => {
            vec![piece(CapacitorFamily::Electrolytic, near * 2.2, 450f64.max(rated))]
        }
        Some(p) if p.takes_pulses() || p == Position::RfBypass => {
            vec![piece(CapacitorFamily::Polyester, near, 630f64.max(rated))]
        }
        _ => {
            let family = families(need, old, wanted).first().copied().unwrap_or(CapacitorFamily::Polyester);
            // The next rating below what is needed.
            let low = sorts(family, None)
                .flat_map(|s| s.volts.iter().copied())
                .filter(|v| *v < rated * (1.0 - 1e-9))
                .fold(0.0, f64::max);
            if low > 0.0 { vec![piece(family, near, low)] } else { vec![] }
        }
    }
}
