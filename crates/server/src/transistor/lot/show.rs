//! A lot as it is sent.

use owl_core::quantity::Quantity;

use super::wire::{MatchLotView, MatchPieceView};
use crate::amount::Amount;
use crate::table::match_lot::{LotRow, PieceRow};

/// A lot with its pieces.
pub fn view(l: &LotRow, pieces: &[PieceRow]) -> MatchLotView {
    let mine: Vec<&PieceRow> = pieces.iter().filter(|p| p.lot_id == l.id).collect();
    let amount = |q, v: Option<f64>| v.map(|v| Amount::of(q, v));
    MatchLotView {
        id: l.id,
        version: l.version,
        name: l.name.clone(),
        type_number: l.type_number.clone(),
        stage: l.stage,
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
            })
            .collect(),
    }
}

/// A gain as it is written.
#[must_use]
pub fn gain_text(gain: f64) -> String {
    if gain < 10.0 { format!("{gain:.1}") } else { format!("{gain:.0}") }
}
