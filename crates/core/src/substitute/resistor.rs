//! A resistor for a resistor: the value within the mark, watts with headroom, volts within what one body stands,
//! no wound part where radio frequency flows.

use super::assess::{Offer, Tally};
use super::load::{Load, body_volts, bought_family, piece_of};
use super::{
    ChoiceReason, Choices, Depth, LOOKED_AT, Need, Refused, SubstituteError, effect_resistor, network, order,
    resistor_string,
};
use crate::drawers::{Lot, Piece};
use crate::part::size::sizes;
use crate::part::{Fact, Family, MadeOf, PartKind, Resistor};
use crate::preferred::{Series, is_member, neighbours};
use crate::quantity::format::{format, percent, signed_percent};
use crate::quantity::{Quantity, Watt};
use crate::source::Source;
use crate::verdict::Policy;

/// Proposes resistors.
pub(super) fn choose(
    need: &Need<'_>,
    old: &Resistor,
    policy: &Policy,
    lots: &[Lot],
    depth: Depth,
) -> Result<Choices, SubstituteError> {
    let load = Load::of(need, old, policy)?;
    let mut out = Choices::asking(need, &[Fact::Voltage]);
    // What is refused for its value is named where somebody looks, and cannot come first.
    let near = |v: f64| match depth {
        Depth::All => LOOKED_AT.contains(&(v / load.wanted)),
        Depth::First => (v / load.wanted - 1.0).abs() <= load.window + 1e-6,
    };
    let mut offers =
        Offer::of_lots(lots, |l| l.piece.kind == PartKind::Resistor && l.piece.value_si.is_some_and(near));
    offers.extend(to_buy(&load, old).into_iter().map(Offer::to_buy));
    for offer in &offers {
        let tally = assess(need, &load, old, offer);
        tally.settle(offer, describe(&offer.piece), Some(load.wanted), &mut out);
    }
    let parts = order::parts_worth_seeking(&out.choices, need, depth);
    if parts > 1 {
        network::resistors(&load, old, lots, parts, &mut out);
    }
    // A string is three and more.
    if parts > 2 {
        resistor_string::strings(&load, old, lots, &mut out);
    }
    // What its value does to the set is said of several together as of one.
    for c in out.choices.iter_mut().filter(|c| c.network.is_some()) {
        let mut t = Tally::default();
        c.value_si.into_iter().for_each(|v| effect_resistor::of(need, load.wanted, v, &mut t));
        c.effects.extend(t.effects);
    }
    refuse_by_family(need, &load, &mut out);
    Ok(out)
}

/// `1 W metal film, 220 kΩ`.
fn describe(piece: &Piece) -> String {
    let watts = piece.watts.map_or_else(String::new, |w| format!("{w} "));
    let family = piece.family.map_or("resistor", crate::named::Named::name);
    format!("{watts}{family}, {}", piece.value_text())
}

/// Holds an offer against what its place asks for.
pub(super) fn assess(need: &Need<'_>, load: &Load, old: &Resistor, offer: &Offer) -> Tally {
    let mut t = Tally { cautions: load.cautions.clone(), ..Tally::default() };
    let piece = &offer.piece;
    if let Err(because) = load.family(old, piece.family.and_then(MadeOf::resistor)) {
        t.refuse(because);
    }
    if let Some(value) = piece.value_si {
        let off = super::assess::deviation(load.wanted, value).fraction();
        let series = if is_member(Series::E24, value) { "of E24" } else { "of E96" };
        let window = format!("{series}, within the {} of the old part", percent(load.window));
        t.value(Quantity::Resistance, load.wanted, value, &window, Source::standard("IEC 60063:2015"));
        effect_resistor::of(need, load.wanted, value, &mut t);
        if off.abs() > load.window + 1e-9 {
            t.refuse(format!(
                "{} from {}: more than the {} of the old part",
                signed_percent(off),
                format(Quantity::Resistance, load.wanted),
                percent(load.window)
            ));
        }
    }
    t.passes.extend(load.lines.iter().cloned());
    t.margin("watts", Quantity::Power, piece.watts.map(Watt::watts), load.least.watts());
    if piece.watts.is_some_and(|w| w.watts() > load.least.watts() * (1.0 + 1e-9)) {
        t.passes.push(ChoiceReason::practice("a size up lives longer", "wattage up one size for life"));
    }
    if let (Some(v), Some(limit)) = (load.volts, body_volts(piece)) {
        if v > limit {
            t.refuse(format!(
                "{} across one body: {} is its limit; put several in series",
                format(Quantity::Voltage, v),
                format(Quantity::Voltage, limit)
            ));
        }
        t.margins.push(super::Margin {
            of: "volts",
            has: format(Quantity::Voltage, limit).to_string(),
            needs: format(Quantity::Voltage, v).to_string(),
            ratio: limit / v,
        });
    }
    t.condition(offer.condition);
    t
}

/// The nearest of E24 on both sides, and of E96 where none is the value itself.
fn to_buy(load: &Load, old: &Resistor) -> Vec<Piece> {
    let family = bought_family(load, old, load.proposed);
    let mut values = Vec::new();
    if let Some(n) = neighbours(Series::E24, load.wanted) {
        values.extend([n.nearest, n.below, n.above]);
    }
    if family == Family::MetalFilm
        && let Some(n) = neighbours(Series::E96, load.wanted)
    {
        values.push(n.nearest);
    }
    values.sort_by(f64::total_cmp);
    values.dedup();
    values.into_iter().map(|v| piece_of(v, load.proposed, family)).collect()
}

/// Names what a hurried hand would reach for and must not.
fn refuse_by_family(need: &Need<'_>, load: &Load, out: &mut Choices) {
    let wanted = format(Quantity::Resistance, load.wanted);
    let mut refuse = |description: String, because: String| {
        out.refused.push(Refused { description, because, lot: None, piece: None });
    };
    if load.radio_frequency {
        let place = need.position.map_or_else(String::new, |p| format!("{p}: "));
        refuse(
            format!("{} wirewound, {wanted}", load.proposed),
            format!("{place}a wound part has inductance, and radio frequency flows here"),
        );
    }
    let smaller = sizes().iter().rev().find(|s| s.power.watts() < load.least.watts() * (1.0 - 1e-9));
    if let Some(size) = smaller {
        refuse(
            format!("{} of any kind, {wanted}", size.power),
            format!("{} at least is needed here", load.least),
        );
    }
}
