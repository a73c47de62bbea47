//! What another resistor does to the set, in numbers, by its place: the stage's current, the divider's volts, the corner,
//! the scale (Ohm's law; what the valve or the transistor does about it is left out, and said).

use super::Need;
use super::assess::Tally;
use super::effect::short;
use crate::part::{Fact, Position};
use crate::quantity::format::{percent, signed_percent};
use crate::quantity::{Quantity, Volt};

/// Within this share a corner or a time is as it was (practice: a third is not heard).
const UNHEARD: std::ops::RangeInclusive<f64> = 0.75..=1.34;
/// Within this share a divider and a bias do as before (practice).
const CLOSE: f64 = 0.05;
/// Within this share a meter shows as before (practice: half of a panel meter's own error).
const SCALE: f64 = 0.01;

/// What changes where `value` goes in and `wanted` was there.
pub(super) fn of(need: &Need<'_>, wanted: f64, value: f64, t: &mut Tally) {
    let ratio = value / wanted;
    if (ratio - 1.0).abs() < 1e-5 {
        return;
    }
    let volts = |v: f64| short(Quantity::Voltage, v);
    let across = need.circuit.across(need.position).map(Volt::volts);
    // Where both are known: what stands across it, and what is left of the rail.
    let split = across.zip(need.fact(Fact::Rail)).filter(|(v, rail)| rail > v).map(|(v, rail)| (v, rail - v));
    match need.position {
        Some(Position::Cathode | Position::Emitter) => {
            let text = across.map_or_else(
                || format!("the stage's current moves by up to {}", signed_percent(1.0 / ratio - 1.0)),
                |v| {
                    let amperes = |r: f64| short(Quantity::Current, v / r);
                    let word = if ratio < 1.0 { "at most" } else { "at least" };
                    let (before, after) = (amperes(wanted), amperes(value));
                    format!("stage current {before} before, {word} {after} after: its bias follows")
                },
            );
            t.changed(ratio >= 1.0, text);
        }
        Some(Position::PlateLoad | Position::ScreenFeed | Position::Feed) => {
            let text = split.map_or_else(
                || format!("it drops {} of what it did", percent(ratio)),
                |(v, behind)| {
                    let after = (behind + v * (1.0 - ratio)).max(0.0);
                    format!("{} behind it before, {} after, at the same current", volts(behind), volts(after))
                },
            );
            t.changed(ratio <= 1.0, text);
        }
        Some(Position::Divider) => match split {
            Some((v, other)) => {
                let after = (v + other) * ratio * v / (ratio * v + other);
                let text = format!("{} across it before, {} after", volts(v), volts(after));
                t.changed((after / v - 1.0).abs() < CLOSE, text);
            }
            None => {
                t.changed(false, format!("the divider's ratio moves with {}", signed_percent(ratio - 1.0)))
            }
        },
        Some(Position::GridLeak | Position::Tone) => {
            let text = format!("its corner becomes {} of what it was", percent(1.0 / ratio));
            t.changed(UNHEARD.contains(&ratio.recip()), text);
        }
        Some(Position::Avc) => {
            let text = format!("its time constant becomes {} of what it was", percent(ratio));
            t.changed(UNHEARD.contains(&ratio), text);
        }
        Some(Position::Bias) => {
            let text = format!("the bias becomes {} of what it was", percent(ratio));
            t.changed((ratio - 1.0).abs() < CLOSE, text);
        }
        Some(Position::MeterMultiplier) => {
            let text = format!("the meter shows {} of what is there", percent(1.0 / ratio));
            t.changed((ratio - 1.0).abs() <= SCALE, text);
        }
        Some(Position::Bleeder) => {
            let heat = across.map(|v| format!(", {} in it", short(Quantity::Power, v * v / value)));
            let text =
                format!("empties the supply in {} of the time{}", percent(ratio), heat.unwrap_or_default());
            t.changed(ratio <= 1.0, text);
        }
        _ => {}
    }
}
