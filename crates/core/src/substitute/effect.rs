//! What becomes better and worse in the set with another value: corner, time constant, ripple, the rectifier's
//! strain, touch current, alignment.

use super::assess::Tally;
use super::{ChoiceReason, Need};
use crate::part::{Fact, Position};
use crate::quantity::format::{CapacitanceStyle, format_as, percent};
use crate::quantity::{Farad, Hertz, Ohm, Quantity, Volt};
use crate::source::Source;
use crate::supply::ripple::corner;
use crate::supply::touch::touch;

/// Where the line is not known: the line that most sets see (practice).
const USUAL_LINE: (Volt, Hertz) = (Volt::computed(230.0), Hertz::computed(50.0));

/// As it is shown beside a choice: three figures.
pub(super) fn short(of: Quantity, v: f64) -> String {
    format_as(of, v, 3, CapacitanceStyle::WithNano).to_string()
}

pub(super) fn of(need: &Need<'_>, wanted: f64, value: f64, t: &mut Tally) {
    let ratio = value / wanted;
    let same = (ratio - 1.0).abs() < 1e-5;
    match need.position {
        Some(Position::Coupling) => {
            let Some(r) = need.circuit.get::<Ohm>(Fact::GridResistor) else { return };
            let at = |c: f64| corner(r, Farad::computed(c)).map_or(0.0, Hertz::hertz);
            let (before, after) = (at(wanted), at(value));
            let (was, is) = (short(Quantity::Frequency, before), short(Quantity::Frequency, after));
            if was == is {
                return;
            }
            let text = format!("−3 dB corner {was} before, {is} after");
            if after <= before { t.better(text) } else { t.worse(text) }
        }
        Some(Position::Avc) => {
            let Some(r) = need.fact(Fact::SourceResistance) else { return };
            let (was, is) = (short(Quantity::Time, r * wanted), short(Quantity::Time, r * value));
            if was == is {
                return;
            }
            let text = format!("time constant {was} before, {is} after");
            if ratio < 1.0 { t.better(text) } else { t.worse(format!("{text}: it follows more slowly")) }
        }
        Some(Position::Reservoir) if !same => {
            if ratio > 1.0 {
                t.better(format!("hum falls to {} of what it was", percent(1.0 / ratio)));
                t.worse(format!(
                    "the rectifier charges {} more at switch-on and in sharper pulses",
                    percent(ratio - 1.0)
                ));
            } else {
                t.better("the rectifier's pulses are a little softer");
                t.worse(format!("hum rises to {} of what it was", percent(1.0 / ratio)));
            }
        }
        Some(Position::Smoothing | Position::PlateDecoupling | Position::ScreenBypass) if !same => {
            let text = format!("ripple there becomes {} of what it was", percent(1.0 / ratio));
            if ratio > 1.0 { t.better(text) } else { t.worse(text) }
        }
        Some(Position::CathodeBypass | Position::EmitterBypass) if !same => {
            let text = format!("the bass reaches down to {} of the frequency", percent(1.0 / ratio));
            if ratio > 1.0 { t.better(text) } else { t.worse(text) }
        }
        Some(Position::LineToChassis | Position::AntennaIsolation) => touched(need, wanted, value, t),
        Some(p) if p.makes_a_frequency() => {
            t.worse("the alignment moves with it: align the stage afterwards");
        }
        Some(Position::Tone) if !same => {
            let text = format!("the tone's corner moves to {} of the frequency", percent(1.0 / ratio));
            if ratio > 1.0 { t.worse(text) } else { t.better(text) }
        }
        _ => {}
    }
}

fn touched(need: &Need<'_>, wanted: f64, value: f64, t: &mut Tally) {
    let line = need.circuit.get(Fact::Line).unwrap_or(USUAL_LINE.0);
    let hertz = need.circuit.get(Fact::Frequency).unwrap_or(USUAL_LINE.1);
    let at = |c: f64| touch(Farad::computed(c), line, hertz).ok();
    let (Some(before), Some(after)) = (at(wanted), at(value)) else { return };
    let text = format!(
        "touch current {} before, {} after, at {line} and {hertz}",
        short(Quantity::Current, before.current.amperes()),
        short(Quantity::Current, after.current.amperes())
    );
    if after.current <= before.current {
        t.better(text)
    } else {
        t.worse(text)
    }
    if !after.within {
        let most = short(Quantity::Capacitance, after.most.farads());
        t.cautions.push(ChoiceReason {
            rule: "R9",
            text: format!("more than 0.5 mA can flow through whoever touches it; up to {most} stays below"),
            source: Source::memory("IEC 62368-1, 0.5 mA; local electrical codes come first"),
        });
    }
}
