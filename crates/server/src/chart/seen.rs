//! Two benches at one point of a chart: what only the other one changed stays, what both changed is shown.

use owl_core::quantity::Quantity;
use uuid::Uuid;

use super::wire::{ChartPointBody, PointSeen};
use crate::error::ApiError;
use crate::overtaken::{overtaken, shown};
use crate::table::chart::PointRow;
use crate::tray::conflict;

/// Puts a point as it was typed, upon what was seen, together with the point as it stands.
///
/// # Errors
/// 409 with both where the same was changed at both benches.
pub fn together(
    typed: &ChartPointBody,
    seen: &PointSeen,
    mut new: (PointRow, Option<Uuid>),
    now: &PointRow,
    pair_now: &str,
) -> Result<(PointRow, Option<Uuid>), ApiError> {
    let mut changed = Vec::new();
    let row = &mut new.0;
    let texts = |t: &Option<String>| t.as_deref().unwrap_or("").trim().to_owned();
    let volts = shown(Quantity::Voltage, now.sheet);
    let ohms = shown(Quantity::Resistance, now.fed_through);
    if typed.valve.trim() == seen.valve.trim() {
        row.valve.clone_from(&now.valve);
    } else {
        changed.extend(overtaken("valve", &seen.valve, &now.valve, row.valve == now.valve));
    }
    if typed.note.trim() == seen.note.trim() {
        row.note.clone_from(&now.note);
    } else {
        changed.extend(overtaken("note", &seen.note, &now.note, row.note == now.note));
    }
    if texts(&typed.sheet) == seen.sheet.trim() {
        row.sheet = now.sheet;
    } else {
        changed.extend(overtaken("sheet", &seen.sheet, &volts, row.sheet == now.sheet));
    }
    if texts(&typed.fed_through) == seen.fed_through.trim() {
        row.fed_through = now.fed_through;
    } else {
        let same = row.fed_through == now.fed_through;
        changed.extend(overtaken("fed through", &seen.fed_through, &ohms, same));
    }
    // A yes or no that was turned twice is turned: there is no third.
    for (new, seen, now) in
        [(&mut row.heater, seen.heater, now.heater), (&mut row.steady, seen.steady, now.steady)]
    {
        if *new == seen {
            *new = now;
        }
    }
    if texts(&typed.pair) == seen.pair.trim() {
        new.1 = now.pair_id;
    } else {
        changed.extend(overtaken("belongs with", &seen.pair, pair_now, new.1 == now.pair_id));
    }
    if changed.is_empty() { Ok(new) } else { Err(conflict(&now.name, changed)) }
}
