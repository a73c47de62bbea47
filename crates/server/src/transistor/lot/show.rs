//! A lot as it is sent, with its places in the chart.

use owl_core::quantity::Quantity;

use super::wire::{ChartMark, MatchLotView, MatchPieceView};
use crate::amount::Amount;
use crate::table::match_lot::{LotRow, PieceRow};

/// The span of some numbers, a little wider than they are.
pub fn span(all: impl Iterator<Item = f64> + Clone, least: f64) -> (f64, f64) {
    let (low, high) = all.fold((f64::INFINITY, f64::NEG_INFINITY), |(l, h), v| (l.min(v), h.max(v)));
    if !low.is_finite() {
        return (0.0, 1.0);
    }
    let more = ((high - low) * 0.12).max(least);
    (low - more, high + more)
}

/// A lot with its pieces.
pub fn view(l: &LotRow, pieces: &[PieceRow]) -> MatchLotView {
    let mine: Vec<&PieceRow> = pieces.iter().filter(|p| p.lot_id == l.id).collect();
    let (g0, g1) = span(mine.iter().map(|p| p.gain), 2.0);
    let (v0, v1) = span(mine.iter().map(|p| p.base_volts), 0.004);
    let amount = |q, v: Option<f64>| v.map(|v| Amount::of(q, v));
    MatchLotView {
        id: l.id,
        version: l.version,
        name: l.name.clone(),
        type_number: l.type_number.clone(),
        test_current: amount(Quantity::Current, l.test_amperes),
        emitter_resistor: amount(Quantity::Resistance, l.emitter_ohms),
        idle_current: amount(Quantity::Current, l.idle_amperes),
        pieces: mine
            .iter()
            .map(|p| MatchPieceView {
                label: p.label.clone(),
                gain: p.gain,
                base_volts: p.base_volts,
                text: format!("{} · {:.0} mV", gain_text(p.gain), p.base_volts * 1e3),
                x: (p.gain - g0) / (g1 - g0),
                y: (p.base_volts - v0) / (v1 - v0),
            })
            .collect(),
    }
}

/// A gain as it is written.
#[must_use]
pub fn gain_text(gain: f64) -> String {
    if gain < 10.0 { format!("{gain:.1}") } else { format!("{gain:.0}") }
}

/// Round numbers between two ends, some five of them.
pub fn marks(low: f64, high: f64, text: impl Fn(f64) -> String) -> Vec<ChartMark> {
    let rough = (high - low) / 5.0;
    let decade = 10f64.powf(rough.log10().floor());
    let step = [1.0, 2.0, 5.0, 10.0].iter().map(|m| m * decade).find(|s| *s >= rough).unwrap_or(rough);
    let first = (low / step).ceil();
    (0..12)
        .map(|i| (first + f64::from(i)) * step)
        .take_while(|v| *v <= high)
        .map(|v| ChartMark { at: (v - low) / (high - low), text: text(v) })
        .collect()
}
