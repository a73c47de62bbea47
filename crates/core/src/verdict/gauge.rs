//! The scale on which drift is drawn: how far it reaches, where its ticks stand and what they
//! are called. Drawing it is the page's work; choosing it is a sum, and sums are done here.

use super::Limits;
use crate::part::Resistor;
use crate::quantity::write::write;
use crate::quantity::{Ohm, Quantity};

/// A tick of the scale.
#[derive(Debug, Clone, PartialEq)]
pub struct Tick {
    /// Where it stands.
    pub at: Ohm,
    /// Its label; `None` for a short tick.
    pub label: Option<String>,
}

/// A scale with everything that is drawn on it.
#[derive(Debug, Clone, PartialEq)]
pub struct Gauge {
    /// Left end.
    pub from: Ohm,
    /// Right end.
    pub to: Ohm,
    /// The ticks between.
    pub ticks: Vec<Tick>,
    /// The unit of the labels.
    pub unit: &'static str,
    /// The marked value.
    pub nominal: Ohm,
    /// The marked tolerance.
    pub marked: Limits,
    /// The school's window.
    pub school: Limits,
    /// The reading with its least and most, where there is one that fits a scale.
    pub reading: Option<(Ohm, Ohm, Ohm)>,
    /// A reading that lies beyond the scale's right end: it is drawn as an arrow.
    pub beyond: bool,
}

/// The scale for a part, the school's window and a reading (least, shown, most).
///
/// The scale holds the window and the reading with room beside them; a reading of more than
/// three times the mark stays outside it and is pointed at, so that the window can still be seen.
#[must_use]
pub fn gauge(part: &Resistor, school: Limits, reading: Option<(Ohm, Ohm, Ohm)>) -> Gauge {
    let nominal = part.value.ohms();
    let t = part.tolerance_fraction();
    let ohm = |x: f64| Ohm::new(x.max(0.0)).unwrap_or(part.value);
    let marked = Limits { low: ohm(nominal * (1.0 - t)), high: ohm(nominal * (1.0 + t)) };
    let mut low = marked.low.ohms().min(school.low.ohms());
    let mut high = marked.high.ohms().max(school.high.ohms());
    let beyond = reading.is_some_and(|(_, shown, _)| shown.ohms() > 3.0 * nominal);
    if let (Some((least, _, most)), false) = (reading, beyond) {
        low = low.min(least.ohms());
        high = high.max(most.ohms());
    }
    let margin = (high - low) * 0.15;
    let (low, high) = ((low - margin).max(0.0), high + margin);
    let step = step(high - low);
    let (from, to) = ((low / step).floor() * step, (high / step).ceil() * step);
    // All labels in the unit of the right end, so that they can be compared.
    let unit = write(Quantity::Resistance, to).unit;
    let scale = [(1e12, "TΩ"), (1e9, "GΩ"), (1e6, "MΩ"), (1e3, "kΩ")]
        .into_iter()
        .find_map(|(s, u)| (u == unit).then_some(s))
        .unwrap_or(1.0);
    let count = ((to - from) / step).round() as usize;
    let every = if count > 12 { 4 } else { 2 };
    let ticks = (0..=count)
        .map(|i| {
            let at = from + step * i as f64;
            let whole = (at / step).round() as i64;
            let label = (whole % every == 0).then(|| trimmed(at / scale));
            Tick { at: ohm(at), label }
        })
        .collect();
    Gauge { from: ohm(from), to: ohm(to), ticks, unit, nominal: part.value, marked, school, reading, beyond }
}

/// 1, 2 or 5 times a power of ten, so that there are eight to twenty steps.
fn step(span: f64) -> f64 {
    let raw = span / 20.0;
    let decade = 10f64.powf(raw.log10().floor());
    [1.0, 2.0, 5.0, 10.0].into_iter().map(|m| m * decade).find(|s| *s >= raw).unwrap_or(decade * 10.0)
}

fn trimmed(value: f64) -> String {
    let text = format!("{value:.4}");
    text.trim_end_matches('0').trim_end_matches('.').to_owned()
}
