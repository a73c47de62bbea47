//! What a resistor must carry in its place: watts, volts, what flows through it, and how such a part is made.

use super::{ChoiceReason, Need, SubstituteError};
use crate::drawers::Piece;
use crate::part::size::{at_least, one_up};
use crate::part::{Family, MadeOf, PartKind, Position, Resistor};
use crate::quantity::format::format;
use crate::quantity::{Fraction, Quantity, Volt, Watt};
use crate::verdict::{Policy, PolicyNumber};

/// Networks that are no further off are as good as exact (practice).
pub(super) const EXACT: f64 = 0.006;
/// The rating that is assumed of a part whose size is not known (practice: the usual size).
const ASSUMED_WATTS: f64 = 0.5;
/// How far a single part may be off before it is refused, at the least (practice).
const LEAST_WINDOW: f64 = 0.05;
/// What a panel meter is off of its scale (memory: class 2 of IEC 60051).
const METER_ERROR: f64 = 0.02;

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
    pub(super) lines: Vec<ChoiceReason>,
    pub(super) cautions: Vec<ChoiceReason>,
}

impl Load {
    pub(super) fn of(need: &Need<'_>, part: &Resistor, policy: &Policy) -> Result<Self, SubstituteError> {
        let wanted = need.value_si.filter(|v| *v > 0.0).ok_or(SubstituteError::NoValue)?;
        let volts = need.circuit.across(need.position).map(Volt::volts);
        let (mut lines, mut cautions) = (vec![], vec![]);
        let old = part.power.map_or(ASSUMED_WATTS, Watt::watts);
        if part.power.is_none() {
            cautions.push(ChoiceReason::practice(
                "the old part's watts are not known: ½ W is assumed; compare its size",
                "usual size",
            ));
        }
        let factor = policy.number_si(PolicyNumber::WattFactor);
        let dissipated = volts.map(|v| v * v / wanted);
        let needed = dissipated.map_or(0.0, |p| p * factor);
        let least = Watt::computed(old.max(needed));
        let proposed = if needed > old { at_least(least) } else { one_up(least).or_else(|| at_least(least)) };
        let proposed = proposed.ok_or(SubstituteError::TooManyWatts(least))?.power;
        if let (Some(p), Some(v)) = (dissipated, volts) {
            lines.push(ChoiceReason::r7(
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
        // One that stands alone has no other half.
        if need.paired && facts.is_some_and(|f| f.matched) {
            cautions.push(ChoiceReason::practice(
                "its other half must agree with it: measure both and pick two alike",
                "as identical as possible",
            ));
        }
        Ok(Self {
            wanted,
            window: window(need.position, part),
            volts,
            least,
            proposed,
            radio_frequency: facts.is_some_and(|f| f.radio_frequency),
            pulses: need.position.is_some_and(Position::takes_pulses),
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

/// How far off a single part may be; what sets a meter's scale no further than the meter's own error.
fn window(position: Option<Position>, part: &Resistor) -> f64 {
    let marked = part.tolerance_fraction();
    match position {
        Some(Position::MeterMultiplier) => marked.min(METER_ERROR),
        _ => marked.max(LEAST_WINDOW),
    }
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
        tolerance: Some(Fraction::computed(tolerance)),
        watts: Some(watts),
        ..Piece::new(PartKind::Resistor)
    }
}
