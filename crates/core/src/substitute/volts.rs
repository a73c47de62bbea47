//! How many volts a capacitor must stand in its place.

use super::{ChoiceReason, Need};
use crate::part::{Capacitor, CapacitorFamily, Fact, Position};
use crate::quantity::Volt;
use crate::source::Source;
use crate::supply::before_the_valves_draw;
use crate::table::rows;
use crate::verdict::{Policy, PolicyNumber};
use serde::Deserialize;
use std::sync::LazyLock;

/// What a place asks for.
#[derive(Debug, Clone)]
pub(super) struct Asked {
    /// The rating needed; `None` where nothing is known.
    pub(super) volts: Option<f64>,
    /// Why.
    pub(super) line: ChoiceReason,
}

/// The rating that a family needs: in a place that is low by its job, or on a rail that is low, a low one will do; a
/// faulty set may read little anywhere. Otherwise the greatest of the old rating, the rail with the line at its highest,
/// what stands there, and what all that hangs on the rail sees before the valves draw.
pub(super) fn asked(need: &Need<'_>, old: &Capacitor, family: CapacitorFamily, policy: &Policy) -> Asked {
    let n = |which| policy.number_si(which);
    let rated = old.rated.map(Volt::volts);
    let across = need.fact(Fact::Voltage);
    let rail = need.fact(Fact::Rail);
    let pulses = need.position.is_some_and(Position::takes_pulses);
    if !pulses && let Some(v) = low(need.position, across, rail, n(PolicyNumber::LowPlaceVolts)) {
        let usual = match family {
            CapacitorFamily::Polyester | CapacitorFamily::Polypropylene => n(PolicyNumber::LowPlaceFilm),
            _ => n(PolicyNumber::LowPlaceRating),
        };
        // What was enough before is enough now; twice what stands there in any case.
        let volts = usual.min(rated.unwrap_or(f64::INFINITY)).max(2.0 * v);
        let text = format!("{} at most: a place of low voltage, {} are enough", volt(v), volt(volts));
        return Asked {
            volts: Some(volts),
            line: ChoiceReason::practice(text, "in a place of a few volts a low rating will do"),
        };
    }
    let high = n(PolicyNumber::LineHigh);
    let mut reasons: Vec<(f64, String)> = Vec::new();
    reasons.extend(rated.map(|v| (v, format!("the old part's {}", volt(v)))));
    if let Some(place) = need.position.filter(|p| p.blocks_a_plate()) {
        let modulated = place == Position::ModulatedBlocking;
        let factor = n(if modulated { PolicyNumber::ModulatedFactor } else { PolicyNumber::BlockingFactor });
        let of = rail.into_iter().chain(across).fold(0.0, f64::max);
        let text = if modulated {
            format!("{factor} × {} of the rail under plate modulation", volt(of))
        } else {
            let other = n(PolicyNumber::ModulatedFactor);
            format!("{factor} × {} of the rail; {other} × where the plate is modulated", volt(of))
        };
        reasons.extend((of > 0.0).then_some((of * factor, text)));
    }
    reasons.extend(pulse(need, policy));
    reasons.extend(rail.map(|v| (v * high, format!("the rail of {} with the line at its highest", volt(v)))));
    reasons
        .extend(across.map(|v| (v * high, format!("{} across it, with the line at its highest", volt(v)))));
    let there =
        need.position.is_some_and(Position::hangs_on_the_rail) && need.circuit.lets_the_surge_through();
    let surge = need.fact(Fact::Secondary).filter(|_| there);
    reasons.extend(surge.map(|v| {
        let no_load = n(PolicyNumber::NoLoad);
        let peak = before_the_valves_draw(Volt::computed(v), policy).volts();
        let text = format!(
            "before the valves draw, √2 × {} × {no_load} without load × {high} with the line at its highest",
            volt(v)
        );
        (peak, text)
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

/// What a place that takes pulses asks for beyond what stands there.
#[derive(Debug, Deserialize)]
struct PulseRow {
    position: Position,
    /// The fact that the pulses grow with.
    of: Fact,
    factor: f64,
    /// What it is at the least, V.
    least_volts: Option<f64>,
    because: String,
    #[serde(rename = "source")]
    _source: Source,
}

static PULSES: LazyLock<Vec<PulseRow>> =
    LazyLock::new(|| rows("pulse.csv", include_str!("../../data/pulse.csv")));

fn pulse(need: &Need<'_>, policy: &Policy) -> Option<(f64, String)> {
    let row = PULSES.iter().find(|r| Some(r.position) == need.position)?;
    let of = need.fact(row.of);
    let high = policy.number_si(PolicyNumber::LineHigh);
    // A winding without load gives more than its rating.
    let no_load = if row.of == Fact::Secondary { policy.number_si(PolicyNumber::NoLoad) } else { 1.0 };
    let sum = of.map(|v| {
        let text = format!("{:.3} × {}, with the line at its highest: {}", row.factor, volt(v), row.because);
        (v * row.factor * no_load * high, text)
    });
    let least = row.least_volts.map(|v| (v, format!("{} at the least: {}", volt(v), row.because)));
    sum.into_iter().chain(least).max_by(|a, b| a.0.total_cmp(&b.0))
}

/// The most that can stand in a place of low voltage; `None` where it is none. Low by its job is what sits across a
/// cathode's or an emitter's resistor or in the grids' own line; on anything else only a rail that is itself low counts,
/// never what a set reads there today.
fn low(position: Option<Position>, across: Option<f64>, rail: Option<f64>, most: f64) -> Option<f64> {
    let by_job = matches!(
        position,
        Some(Position::CathodeBypass | Position::EmitterBypass | Position::Avc | Position::Bias)
    );
    match (by_job, rail) {
        (_, Some(r)) if r <= most => Some(r.max(across.unwrap_or(0.0))).filter(|v| *v <= most),
        (true, _) => across.filter(|v| *v <= most),
        (false, _) => None,
    }
}

fn volt(v: f64) -> String {
    Volt::computed(v).to_string()
}
