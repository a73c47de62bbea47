//! A resistor for a resistor: the value within the mark, watts with headroom, volts within what one body stands,
//! no wound part where radio frequency flows.

use super::assess::{Offer, Tally};
use super::{Choices, Line, Need, Refused, SubstituteError, network};
use crate::drawers::{Lot, Piece};
use crate::part::size::{at_least, one_up, sizes};
use crate::part::{Fact, Family, MadeOf, PartKind, Position, Resistor};
use crate::preferred::{Series, is_member, neighbours};
use crate::quantity::format::{format, percent, signed_percent};
use crate::quantity::{Fraction, Quantity, Volt, Watt};
use crate::source::Source;
use crate::verdict::{Policy, PolicyNumber};

/// Errors up to the first are one class, up to the second the next.
pub(super) const CLASSES: (f64, f64) = (0.006, 0.025);
/// The rating that is assumed of a part whose size is not known (practice: the usual size).
const ASSUMED_WATTS: f64 = 0.5;
/// How far a single part may be off before it is refused, at the least (practice).
const LEAST_WINDOW: f64 = 0.05;

/// What the new part must carry.
pub(super) struct Load {
    /// The value wanted, ohm.
    pub(super) wanted: f64,
    /// How far off it may be.
    pub(super) window: f64,
    /// Volts across it at work, where they are known.
    pub(super) volts: Option<f64>,
    /// The least rating allowed.
    pub(super) least: Watt,
    /// The rating proposed.
    pub(super) proposed: Watt,
    /// Whether radio frequency flows in it.
    pub(super) radio_frequency: bool,
    /// Whether it takes pulses.
    pulses: bool,
    /// Why.
    pub(super) lines: Vec<Line>,
    pub(super) cautions: Vec<Line>,
}

/// Proposes resistors.
pub(super) fn choose(
    need: &Need<'_>,
    old: &Resistor,
    policy: &Policy,
    lots: &[Lot],
) -> Result<Choices, SubstituteError> {
    let load = Load::of(need, old, policy)?;
    let mut out = Choices::asking(need, &[Fact::Voltage]);
    let near = |v: f64| (0.5..=2.0).contains(&(v / load.wanted));
    let mut offers =
        Offer::of_lots(lots, |l| l.piece.kind == PartKind::Resistor && l.piece.value_si.is_some_and(near));
    offers.extend(to_buy(&load, old).into_iter().map(Offer::to_buy));
    for offer in &offers {
        let tally = assess(&load, old, offer);
        tally.settle(offer, describe(&offer.piece), Some(load.wanted), &mut out);
    }
    network::resistors(&load, old, lots, &mut out);
    refuse_by_family(need, &load, &mut out);
    Ok(out)
}

/// `1 W metal film, 220 kΩ`.
fn describe(piece: &Piece) -> String {
    let watts = piece.watts.map_or_else(String::new, |w| format!("{w} "));
    let family = piece.family.map_or("resistor", crate::named::Named::name);
    format!("{watts}{family}, {}", piece.value_text())
}

impl Load {
    fn of(need: &Need<'_>, part: &Resistor, policy: &Policy) -> Result<Self, SubstituteError> {
        let wanted = need.value_si.filter(|v| *v > 0.0).ok_or(SubstituteError::NoValue)?;
        let volts = need.fact(Fact::Voltage);
        let (mut lines, mut cautions) = (vec![], vec![]);
        let old = part.power.map_or(ASSUMED_WATTS, Watt::watts);
        if part.power.is_none() {
            cautions.push(Line::practice(
                "the old part's watts are not known: ½ W is assumed; compare its size",
                "usual size",
            ));
        }
        let factor = policy.number_si(PolicyNumber::WattFactor);
        let dissipated = volts.map(|v| v * v / wanted);
        let needed = dissipated.map_or(0.0, |p| p * factor);
        let least = Watt::new(old.max(needed)).map_err(|_| SubstituteError::NoValue)?;
        let proposed = if needed > old { at_least(least) } else { one_up(least).or_else(|| at_least(least)) };
        let proposed = proposed.ok_or(SubstituteError::TooManyWatts(least))?.power;
        if let (Some(p), Some(v)) = (dissipated, volts) {
            lines.push(Line::r7(
                format!(
                    "{} across {} is {}; × {factor} = {}",
                    format(Quantity::Voltage, v),
                    format(Quantity::Resistance, wanted),
                    format(Quantity::Power, p),
                    format(Quantity::Power, needed)
                ),
                policy.source.clone(),
            ));
        }
        let facts = need.position.and_then(|p| p.facts(PartKind::Resistor));
        if facts.is_some_and(|f| f.matched) {
            cautions.push(Line::practice(
                "its other half must agree with it: measure both and pick two alike",
                "as identical as possible",
            ));
        }
        Ok(Self {
            wanted,
            window: part.tolerance_fraction().max(LEAST_WINDOW),
            volts,
            least,
            proposed,
            radio_frequency: facts.is_some_and(|f| f.radio_frequency),
            pulses: need.position == Some(Position::Snubber),
            lines,
            cautions,
        })
    }

    /// Whether a family does here; otherwise why not.
    pub(super) fn family(&self, old: &Resistor, family: Option<Family>) -> Result<(), String> {
        match family {
            None => Err("nobody knows how it is made".to_owned()),
            Some(Family::Wirewound) if self.radio_frequency => {
                Err("a wound part has inductance, and radio frequency flows here".to_owned())
            }
            Some(f) if old.family == Family::Fusible && f != Family::Fusible => {
                Err("it must open safely: fusible only".to_owned())
            }
            Some(Family::CarbonComposition) if !self.radio_frequency && !self.pulses => {
                Err("composition drifts as the old one did: only where pulses or radio frequency call for it"
                    .to_owned())
            }
            Some(_) => Ok(()),
        }
    }
}

/// Holds an offer against what its place asks for.
fn assess(load: &Load, old: &Resistor, offer: &Offer) -> Tally {
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
        t.passes.push(Line::practice("a size up lives longer", "wattage up one size for life"));
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

/// The volts that one body stands: its own rating, or what its size usually does.
pub(super) fn body_volts(piece: &Piece) -> Option<f64> {
    let by_size = || piece.watts.and_then(at_least).map(|s| s.volts);
    piece.volts.or_else(by_size).map(Volt::volts)
}

/// How a bought one is made.
pub(super) fn bought_family(load: &Load, old: &Resistor, watts: Watt) -> Family {
    match old.family {
        Family::Fusible => Family::Fusible,
        Family::Wirewound if !load.radio_frequency && watts.watts() >= 2.0 => Family::Wirewound,
        _ if load.radio_frequency => Family::CarbonFilm,
        _ if watts.watts() > 5.0 => Family::Wirewound,
        Family::Wirewound | Family::CarbonComposition | Family::CarbonFilm | Family::MetalFilm => {
            Family::MetalFilm
        }
    }
}

/// The tolerance of a bought one by its making (memory: usual catalogues).
pub(super) fn piece_of(value: f64, watts: Watt, family: Family) -> Piece {
    let tolerance = match family {
        Family::MetalFilm => 0.01,
        Family::CarbonFilm | Family::Wirewound | Family::Fusible | Family::CarbonComposition => 0.05,
    };
    Piece {
        family: Some(MadeOf::Resistor(family)),
        value_si: Some(value),
        tolerance: Fraction::new(tolerance).ok(),
        watts: Some(watts),
        ..Piece::new(PartKind::Resistor)
    }
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
        out.refused.push(Refused { description, because, lot: None });
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
