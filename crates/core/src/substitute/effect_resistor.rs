//! What another resistor does to the set, in numbers, by its place: the stage's current, the divider's volts, the corner,
//! the scale (Ohm's law; what the valve or the transistor does about it is left out, and said).

use super::Need;
use super::assess::Tally;
use crate::part::{Fact, Position};
use crate::quantity::Quantity;
use crate::quantity::format::{format, percent, signed_percent};

fn short(of: Quantity, v: f64) -> String {
    use crate::quantity::format::{CapacitanceStyle, format_as};
    format_as(of, v, 3, CapacitanceStyle::WithNano).to_string()
}

/// What changes where `value` goes in and `wanted` was there.
pub(super) fn of(need: &Need<'_>, wanted: f64, value: f64, t: &mut Tally) {
    let ratio = value / wanted;
    if (ratio - 1.0).abs() < 1e-5 {
        return;
    }
    let (across, rail) =
        (need.circuit.across(need.position).map(crate::quantity::Volt::volts), need.fact(Fact::Rail));
    let amperes = across.map(|v| v / wanted);
    match need.position {
        Some(Position::Cathode | Position::Emitter) => match amperes {
            Some(i) => {
                let after = short(Quantity::Current, i / ratio);
                let (before, word) =
                    (short(Quantity::Current, i), if ratio < 1.0 { "at most" } else { "at least" });
                t.changed(
                    ratio >= 1.0,
                    format!("stage current {before} before, {word} {after} after: its bias follows"),
                );
            }
            None => t.changed(
                ratio >= 1.0,
                format!("the stage's current moves by up to {}", signed_percent(1.0 / ratio - 1.0)),
            ),
        },
        Some(Position::PlateLoad | Position::ScreenFeed | Position::Feed) => {
            if let (Some(i), Some(v), Some(rail)) =
                (amperes, across, rail.filter(|r| across.is_some_and(|v| *r > v)))
            {
                let (before, after) = (rail - v, (rail - i * value).max(0.0));
                t.changed(
                    ratio <= 1.0,
                    format!(
                        "{} behind it before, {} after, at the same current",
                        short(Quantity::Voltage, before),
                        short(Quantity::Voltage, after)
                    ),
                );
            } else {
                t.changed(ratio <= 1.0, format!("it drops {} of what it did", percent(ratio)));
            }
        }
        Some(Position::Divider) => {
            if let (Some(v), Some(rail)) = (across, rail.filter(|r| across.is_some_and(|v| *r > v))) {
                let other = wanted * (rail - v) / v;
                let after = rail * value / (value + other);
                let text = format!(
                    "{} across it before, {} after",
                    short(Quantity::Voltage, v),
                    short(Quantity::Voltage, after)
                );
                t.changed((after / v - 1.0).abs() < 0.05, text);
            } else {
                t.changed(false, format!("the divider's ratio moves with {}", signed_percent(ratio - 1.0)));
            }
        }
        Some(Position::GridLeak | Position::Tone | Position::Avc) => {
            let what = if need.position == Some(Position::Avc) { "time constant" } else { "corner" };
            let moves = if need.position == Some(Position::Avc) { ratio } else { 1.0 / ratio };
            t.changed(
                (0.75..=1.34).contains(&moves),
                format!("its {what} becomes {} of what it was", percent(moves)),
            );
        }
        Some(Position::Bias) => t.changed(
            (ratio - 1.0).abs() < 0.05,
            format!("the bias becomes {} of what it was", percent(ratio)),
        ),
        Some(Position::MeterMultiplier) => {
            t.changed(
                (ratio - 1.0).abs() <= 0.01,
                format!("the meter shows {} of what is there", percent(1.0 / ratio)),
            );
        }
        Some(Position::Bleeder) => {
            let heat = across
                .map_or_else(String::new, |v| format!(", {} in it", format(Quantity::Power, v * v / value)));
            t.changed(ratio <= 1.0, format!("empties the supply in {} of the time{heat}", percent(ratio)));
        }
        _ => {}
    }
}
