//! Diodes as they are answered.

use owl_core::named::Named;
use owl_core::part::MadeOf;
use owl_core::quantity::Quantity;
use owl_core::quantity::format::format;
use owl_core::transistor::diode_device::devices as diode_devices;
use owl_core::transistor::diode_equivalent::{self, DiodeCandidate, DiodeCell, DiodeNeed};
use owl_core::transistor::equivalent::Fitness;

use super::asked::positive;
use super::show::{ByType, count_of};
use super::wire::{CandidateView, CellView, CircuitBody, DiodeView, EquivalentsAnswer};
use crate::error::ApiError;
use crate::table::device::Stocked;
use crate::transistor::sheet::{SheetLine, StockView};

/// What goes in for a diode.
///
/// # Errors
/// 422 with the input to blame.
pub fn of_diode(
    wanted: &'static owl_core::transistor::diode_device::Device,
    body: &CircuitBody,
    stocked: &ByType,
    limit: usize,
) -> Result<EquivalentsAnswer, ApiError> {
    let need = DiodeNeed {
        reverse_volts: positive("circuit.reverse", body.reverse, 1e6)?,
        amperes: positive("circuit.current", body.current, 1e4)?,
        other_material: body.other_material,
    };
    let found =
        diode_equivalent::equivalents(wanted, &need, diode_devices(), |n| count_of(stocked, n), limit);
    let text = |q, v: Option<f64>| v.map_or_else(String::new, |v| format(q, v).to_string());
    let line = |label: &str, text: String| SheetLine { label: label.to_owned(), text };
    Ok(EquivalentsAnswer {
        wanted: None,
        diode: Some(DiodeView {
            type_number: wanted.type_number.clone(),
            material: wanted.family,
            job: wanted.job,
            lines: vec![
                line("reverse volts", text(Quantity::Voltage, Some(wanted.reverse_volts))),
                line("current", text(Quantity::Current, wanted.amperes)),
                line("one surge", text(Quantity::Current, wanted.surge_amperes)),
                line("drop", text(Quantity::Voltage, wanted.drop)),
                line("package", wanted.package.clone()),
            ],
            source: wanted.source.to_string(),
        }),
        read_as: None,
        facts: vec![],
        asks: vec![],
        candidates: found
            .iter()
            .map(|c| {
                diode_candidate(
                    c,
                    stocked.get(&c.device.type_number.to_ascii_uppercase()).map_or(&[], |s| s.as_slice()),
                )
            })
            .collect(),
        divider: None,
        same: vec![],
        advice: vec![
            "held against the original's sheet unless the circuit's volts and current are said".to_owned(),
        ],
        searched: diode_devices().len(),
        rules: vec![],
    })
}

fn diode_candidate(c: &DiodeCandidate, stocked: &[Stocked]) -> CandidateView {
    let d = c.device;
    let cell = |c: &DiodeCell| CellView {
        label: c.name.name(),
        hard: c.hard,
        state: c.state,
        value: c.value_si,
        needed: c.needed_si,
        has: c.has.clone(),
        needs: c.needs.clone(),
        why: c.why.clone(),
    };
    CandidateView {
        type_number: d.type_number.clone(),
        what: format!("{} {}", MadeOf::Diode(d.family).name(), d.job),
        passes: c.fitness < Fitness::Undecided,
        fitness: c.fitness,
        by_sheet: c.fitness,
        humbler: false,
        score: c.score,
        order: c.cells.iter().map(|c| c.name.name()).collect(),
        cells: c.cells.iter().map(|x| (x.name.name(), cell(x))).collect(),
        pin_map: None,
        outline: None,
        notes: c.notes.clone(),
        drawers: stocked.iter().map(StockView::from).collect(),
        sure: d.sure.name(),
        source: d.source.to_string(),
        usual_use: String::new(),
    }
}
