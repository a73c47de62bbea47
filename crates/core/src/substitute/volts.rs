//! How many volts a capacitor must stand in its place.

use super::{ChoiceReason, Need};
use crate::part::{Capacitor, CapacitorFamily, Fact, Position};
use crate::quantity::Volt;
use crate::source::Source;
use crate::verdict::{Policy, PolicyNumber};

/// What a place asks for.
#[derive(Debug, Clone)]
pub(super) struct Asked {
    /// The rating needed; `None` where nothing is known.
    pub(super) volts: Option<f64>,
    /// Why.
    pub(super) line: ChoiceReason,
}

/// The rating that a family needs: in a place of low voltage a low one will do; otherwise the greatest of the old
/// rating, the rail with the line at its highest, and the surge at switch-on (√2 × the rectifier's volts) where a
/// supply's capacitor sees it.
pub(super) fn asked(need: &Need<'_>, old: &Capacitor, family: CapacitorFamily, policy: &Policy) -> Asked {
    let n = |which| policy.number_si(which);
    let rated = old.rated.map(Volt::volts);
    let across = need.fact(Fact::Voltage);
    let rail = need.fact(Fact::Rail);
    if let Some(v) = across.filter(|v| *v <= n(PolicyNumber::LowPlaceVolts)) {
        let usual = match family {
            CapacitorFamily::Polyester | CapacitorFamily::Polypropylene => n(PolicyNumber::LowPlaceFilm),
            _ => n(PolicyNumber::LowPlaceRating),
        };
        // What was enough before is enough now; twice what stands there in any case.
        let volts = usual.min(rated.unwrap_or(f64::INFINITY)).max(2.0 * v);
        let text = format!("{} across it: a place of low voltage, {} are enough", volt(v), volt(volts));
        return Asked {
            volts: Some(volts),
            line: ChoiceReason::practice(text, "in a place of a few volts a low rating will do"),
        };
    }
    let high = n(PolicyNumber::LineHigh);
    let surge = need.fact(Fact::Secondary).filter(|_| in_supply(need.position));
    let mut reasons: Vec<(f64, String)> = Vec::new();
    reasons.extend(rated.map(|v| (v, format!("the old part's {}", volt(v)))));
    reasons.extend(rail.map(|v| (v * high, format!("the rail of {} with the line at its highest", volt(v)))));
    reasons
        .extend(across.map(|v| (v * high, format!("{} across it, with the line at its highest", volt(v)))));
    reasons.extend(surge.map(|v| {
        let peak = v * std::f64::consts::SQRT_2;
        (peak, format!("the surge at switch-on, √2 × {} before the heaters are warm", volt(v)))
    }));
    let most = reasons.into_iter().max_by(|a, b| a.0.total_cmp(&b.0));
    match most {
        Some((v, why)) => Asked {
            volts: Some(v),
            line: ChoiceReason::practice(format!("{} needed: {why}", volt(v)), "same or higher voltage"),
        },
        None => Asked {
            volts: None,
            line: ChoiceReason::practice(
                "neither the old rating nor the volts across it are known: measure what stands there",
                "same or higher voltage",
            ),
        },
    }
}

/// Whether the supply's own volts stand there before the heaters are warm.
fn in_supply(position: Option<Position>) -> bool {
    matches!(position, Some(Position::Reservoir | Position::Smoothing | Position::PlateDecoupling))
}

fn volt(v: f64) -> String {
    Volt::computed(v).to_string()
}

/// The source of the limit of a first filter.
pub(super) fn valve_source() -> Source {
    Source::memory("published data of rectifier valves")
}
