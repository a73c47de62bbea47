//! The scale on which drift is drawn: how far it reaches, where its ticks stand and what they
//! are called. Drawing it is the page's work; choosing it is a sum, and sums are done here.

use super::Limits;
use crate::quantity::Quantity;
use crate::quantity::format::format;

/// A tick of the scale.
#[derive(Debug, Clone, PartialEq)]
pub struct Tick {
    /// Where it stands, in the base unit.
    pub at_si: f64,
    /// Its label; `None` for a short tick.
    pub label: Option<String>,
}

/// A reading with its least and most, in the base unit.
#[derive(Debug, Clone, Copy, PartialEq)]
pub struct Band {
    /// The least that the part may have.
    pub least_si: f64,
    /// What the meter showed.
    pub shown_si: f64,
    /// The most that the part may have.
    pub most_si: f64,
}

/// A scale with everything that is drawn on it, in the base unit of the quantity.
#[derive(Debug, Clone, PartialEq)]
pub struct Gauge {
    /// Left end.
    pub from_si: f64,
    /// Right end.
    pub to_si: f64,
    /// The ticks between.
    pub ticks: Vec<Tick>,
    /// The unit of the labels.
    pub unit: &'static str,
    /// The marked value.
    pub nominal_si: f64,
    /// The marked tolerance.
    pub marked: Limits,
    /// The school's window.
    pub school: Limits,
    /// The reading, where there is one that fits a scale.
    pub reading: Option<Band>,
    /// A reading that lies beyond the scale's right end: it is drawn as an arrow.
    pub beyond: bool,
}

/// The scale for a value of `quantity` marked `nominal_si` within `marked`, the school's window and a reading.
///
/// The scale holds the window and the reading with room beside them; a reading of more than
/// three times the mark stays outside it and is pointed at, so that the window can still be seen.
#[must_use]
pub fn gauge(
    quantity: Quantity,
    nominal_si: f64,
    marked: Limits,
    school: Limits,
    reading: Option<Band>,
) -> Gauge {
    let mut low = marked.low_si.min(school.low_si);
    let mut high = marked.high_si.max(school.high_si);
    let beyond = reading.is_some_and(|r| r.shown_si > 3.0 * nominal_si);
    if let (Some(r), false) = (reading, beyond) {
        low = low.min(r.least_si);
        high = high.max(r.most_si);
    }
    let margin = (high - low) * 0.15;
    let (low, high) = ((low - margin).max(0.0), high + margin);
    let step = step(high - low);
    let (from, to) = ((low / step).floor() * step, (high / step).ceil() * step);
    // All labels in the unit of the right end, so that they can be compared.
    let end = format(quantity, to);
    let scale = scale_of(quantity, end.unit, to);
    let count = ((to - from) / step).round() as usize;
    let every = if count > 12 { 4 } else { 2 };
    let ticks = (0..=count)
        .map(|i| {
            let at = from + step * i as f64;
            let whole = (at / step).round() as i64;
            let label = (whole % every == 0).then(|| trimmed(at / scale));
            Tick { at_si: at.max(0.0), label }
        })
        .collect();
    Gauge { from_si: from, to_si: to, ticks, unit: end.unit, nominal_si, marked, school, reading, beyond }
}

/// What one of `unit` is worth in the base unit: the power of a thousand that is written with it.
fn scale_of(quantity: Quantity, unit: &str, near: f64) -> f64 {
    let power = (near.abs().log10() / 3.0).floor() as i32;
    (-2..=2)
        .map(|k| 1000f64.powi(power + k))
        .find(|s| format(quantity, *s).unit == unit && format(quantity, *s).number == "1")
        .unwrap_or(1.0)
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
