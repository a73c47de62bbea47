//! Parts as they are sent: rows put together, judged by the core.

use owl_core::caution::Step;
use owl_core::marking::Colour;
use owl_core::marking::disagreement::{Between, Disagreement, Values, find};
use owl_core::marking::encode::bands;
use owl_core::named::Named;
use owl_core::part::{PartKind, Progress, Resistor};
use owl_core::quantity::write::{percent, signed_percent};
use owl_core::quantity::{Fraction, Ohm, Watt};
use owl_core::reading::{Mode, Reading, Shown, State};
use owl_core::verdict::{Call, Partner, Policy};
use uuid::Uuid;

use super::store::{PartRow, TrayRows};
use super::wire::{DecisionView, FittingView, PairView, PartView, ProofView, ReadingView};
use crate::amount::Amount;
use crate::decision::store::DecisionRow;
use crate::decode::wire::MeaningView;
use crate::error::ApiError;
use crate::explanation::{DisagreementView, ExplanationView, explanation_view};
use crate::fitting::store::FittingRow;
use crate::judge::view::{Judgement, judgement};
use crate::name::{ColourName, Name, StepName, stored};
use crate::reading::store::ReadingRow;

/// What sits in a place now, and what was read of it.
struct Sitting<'a> {
    resistor: Option<Resistor>,
    against: Option<&'static str>,
    /// Readings of what sits there now, oldest first, with the row where there is one.
    readings: Vec<(Reading, Option<&'a ReadingRow>)>,
    last_fitting: Option<&'a FittingRow>,
}

fn corrupt(e: impl std::fmt::Display) -> ApiError {
    ApiError::Internal(format!("stored row: {e}"))
}

fn fraction(value: Option<f64>) -> Result<Option<Fraction>, ApiError> {
    value.map(Fraction::new).transpose().map_err(corrupt)
}

fn watt(value: Option<f64>) -> Result<Option<Watt>, ApiError> {
    value.map(Watt::new).transpose().map_err(corrupt)
}

fn sitting<'a>(row: &PartRow, tray: &'a TrayRows) -> Result<Sitting<'a>, ApiError> {
    let last_fitting = tray.fittings.iter().rfind(|f| f.part_id == row.id);
    let mut readings = Vec::new();
    let resistor = match last_fitting {
        Some(f) => {
            let measured = Shown::Value(Ohm::new(f.measured_ohm).map_err(corrupt)?);
            let reading = Reading {
                shown: measured,
                state: State::OutOfCircuit,
                hot: false,
                since_soldering: None,
                mode: Mode::Dc,
                accuracy: None,
            };
            readings.push((reading, None));
            Some(Resistor {
                family: stored(&f.family)?,
                value: Ohm::new(f.ohm).map_err(corrupt)?,
                tolerance: fraction(Some(f.tolerance))?,
                power: watt(f.watts)?,
            })
        }
        // Only resistors are judged so far.
        None if row.kind()? != PartKind::Resistor => None,
        None => match row.marked.or(row.sheet) {
            Some(v) => Some(Resistor {
                family: stored(row.family.as_deref().unwrap_or_default())?,
                value: Ohm::new(v).map_err(corrupt)?,
                tolerance: fraction(row.tolerance)?,
                power: watt(row.watts)?,
            }),
            None => None,
        },
    };
    let against = match (last_fitting, row.marked, row.sheet) {
        (Some(_), _, _) => Some("fitted"),
        (None, Some(_), _) => Some("marked"),
        (None, None, Some(_)) => Some("sheet"),
        (None, None, None) => None,
    };
    for r in tray.readings.iter().filter(|r| r.part_id == row.id) {
        if last_fitting.is_none_or(|f| r.taken_at > f.fitted_at) {
            readings.push((r.reading()?, Some(r)));
        }
    }
    Ok(Sitting { resistor, against, readings, last_fitting })
}

fn judged(
    sitting: &Sitting<'_>,
    row: &PartRow,
    partner: Option<&Partner>,
    policy: &Policy,
) -> Result<Option<Judgement>, ApiError> {
    let Some(resistor) = &sitting.resistor else { return Ok(None) };
    let position = row.position.as_deref().map(stored).transpose()?;
    let readings: Vec<Reading> = sitting.readings.iter().map(|(r, _)| *r).collect();
    Ok(Some(judgement(resistor, position, &readings, partner, policy)))
}

/// The other half of a pair as far as it has a reading that decides.
fn partner(row: &PartRow, tray: &TrayRows, policy: &Policy) -> Result<Option<Partner>, ApiError> {
    let Some(other) = row.pair_id.and_then(|id| tray.parts.iter().find(|p| p.id == id)) else {
        return Ok(None);
    };
    let sitting = sitting(other, tray)?;
    let Some(judgement) = judged(&sitting, other, None, policy)? else { return Ok(None) };
    let deciding = judgement.decided_by.map(|i| sitting.readings[i].0.shown);
    Ok(match (deciding, judgement.verdict.0, &sitting.resistor) {
        (Some(Shown::Value(measured)), Call::Keep | Call::Watch | Call::Replace, Some(r))
            if measured > Ohm::ZERO =>
        {
            Some(Partner { name: other.name.clone(), measured, marked: r.value })
        }
        _ => None,
    })
}

/// All parts of a tray as they are sent.
///
/// # Errors
/// [`ApiError::Internal`] for rows that cannot be.
pub fn part_views(tray: &TrayRows, policy: &Policy) -> Result<Vec<PartView>, ApiError> {
    tray.parts.iter().map(|row| part_view(row, tray, policy)).collect()
}

fn part_view(row: &PartRow, tray: &TrayRows, policy: &Policy) -> Result<PartView, ApiError> {
    let sitting = sitting(row, tray)?;
    let partner = partner(row, tray, policy)?;
    let judgement = judged(&sitting, row, partner.as_ref(), policy)?;
    let deciding = judgement.as_ref().and_then(|j| sitting.readings[j.decided_by?].1);
    let measured_any = !sitting.readings.is_empty();
    let decision = tray.decisions.iter().rfind(|d| d.part_id == row.id);
    let decision = decision.map(|d| decision_view(d, row, tray)).transpose()?;
    let proven = sitting.last_fitting.and_then(|f| f.worked);
    let progress = Progress {
        marked: sitting.resistor.is_some() || row.mark.is_some() || row.marked.or(row.sheet).is_some(),
        verdict: judgement.as_ref().filter(|_| measured_any).map(|j| j.verdict.0),
        decided: decision.as_ref().filter(|d| d.stands).map(|d| d.decided.0),
        fitted: sitting.last_fitting.is_some(),
        proven,
    };
    let kind = row.kind()?;
    let (standing, step) = progress.standing();
    let steps: Vec<StepName> = match kind {
        PartKind::Resistor => Step::ALL.iter().map(|s| Name(*s)).collect(),
        _ => vec![Name(Step::Read)],
    };
    let step = if steps.contains(&Name(step)) { step } else { Step::Read };
    let last_fitted_at = sitting.last_fitting.map(|f| f.fitted_at);
    let readings: Vec<ReadingView> = tray
        .readings
        .iter()
        .filter(|r| r.part_id == row.id)
        .map(|r| r.view(last_fitted_at.is_some_and(|at| r.taken_at <= at)))
        .collect::<Result<_, _>>()?;
    let tolerance = fraction(row.tolerance)?;
    let power = watt(row.watts)?;
    let amount = |v: Option<f64>| kind.quantity().zip(v).map(|(q, v)| Amount::of(q, v));
    let mark: Option<MeaningView> =
        row.mark.clone().map(serde_json::from_value).transpose().map_err(corrupt)?;
    let marked = match kind {
        PartKind::Resistor => row.marked.map(Ohm::new).transpose().map_err(corrupt)?,
        _ => None,
    };
    let explanations: Vec<ExplanationView> = tray
        .explanations
        .iter()
        .filter(|e| e.part_id == row.id)
        .map(explanation_view)
        .collect::<Result<_, _>>()?;
    let pair = row
        .pair_id
        .and_then(|id| tray.parts.iter().find(|p| p.id == id))
        .map(|p| PairView { id: p.id, name: p.name.clone() });
    Ok(PartView {
        id: row.id,
        version: row.version,
        name: row.name.clone(),
        kind: Name(kind),
        family: row.family.as_deref().map(stored).transpose()?.map(Name),
        position: row.position.as_deref().map(stored).transpose()?.map(Name),
        place: row.place.clone(),
        note: row.note.clone(),
        pair,
        sheet: amount(row.sheet),
        marked: amount(row.marked),
        tolerance: row.tolerance,
        in_words: in_words(row, mark.as_ref(), marked, tolerance, power),
        disagreement: disagreement(row, tray)?.map(|d| DisagreementView::of(&d)),
        explanations,
        mark,
        power: power.map(Amount::from),
        marking: row.marking.clone(),
        bands: drawn(row, marked, tolerance),
        measured: latest(&readings),
        deciding: deciding.map(|r| r.view(false)).transpose()?,
        readings,
        judgement,
        judged_against: sitting.against,
        decision,
        fittings: tray
            .fittings
            .iter()
            .filter(|f| f.part_id == row.id)
            .map(fitting_view)
            .collect::<Result<_, _>>()?,
        standing: Name(standing),
        step: Name(step),
        steps,
    })
}

fn latest(readings: &[ReadingView]) -> Option<ReadingView> {
    readings.iter().rfind(|r| !r.before_fitting).cloned()
}

/// What sheet, mark and meter disagree about now, unless somebody has answered it for these values.
pub fn disagreement(row: &PartRow, tray: &TrayRows) -> Result<Option<Disagreement>, ApiError> {
    let last_fitting = tray.fittings.iter().rfind(|f| f.part_id == row.id);
    // What was fitted since is another part.
    let reading = tray
        .readings
        .iter()
        .rfind(|r| r.part_id == row.id && r.ohm.is_some())
        .filter(|_| last_fitting.is_none());
    let values = Values {
        part: row.kind()?,
        sheet_si: row.sheet,
        marked_si: row.marked,
        measured_si: reading.and_then(|r| r.ohm),
        in_circuit: reading.is_some_and(|r| r.state == State::InCircuit.name()),
    };
    let Some(found) = find(&values) else { return Ok(None) };
    let answered = tray.explanations.iter().any(|e| {
        let same = match found.between {
            Between::SheetAndMark => e.sheet == values.sheet_si && e.marked == values.marked_si,
            Between::MarkAndMeter => e.marked == values.marked_si && e.measured == values.measured_si,
            Between::SheetAndMeter => e.sheet == values.sheet_si && e.measured == values.measured_si,
        };
        e.part_id == row.id && e.pair == found.between.name() && same
    });
    Ok((!answered).then_some(found))
}

/// The bands as they were seen, or as the mark would be banded.
fn drawn(row: &PartRow, marked: Option<Ohm>, tolerance: Option<Fraction>) -> Vec<ColourName> {
    let seen: Vec<Colour> = row.colours.iter().filter_map(|c| Colour::from_name(c).ok()).collect();
    let colours =
        if seen.is_empty() { marked.and_then(|v| bands(v, tolerance)).unwrap_or_default() } else { seen };
    colours.into_iter().map(Name).collect()
}

fn in_words(
    row: &PartRow,
    mark: Option<&MeaningView>,
    marked: Option<Ohm>,
    tolerance: Option<Fraction>,
    power: Option<Watt>,
) -> String {
    if let (Some(m), true) = (mark, row.kind != PartKind::Resistor.name()) {
        return m.in_words.replace(", ", " · ");
    }
    let mut words = Vec::new();
    if let Some(v) = marked {
        let t =
            tolerance.map_or_else(|| "no band, ±20 %".to_owned(), |t| format!("±{}", percent(t.fraction())));
        words.push(format!("{v} {t}"));
    }
    words.extend(power.map(|p| p.to_string()));
    words.push(row.family.clone().unwrap_or_else(|| row.kind.clone()));
    words.join(" · ")
}

fn decision_view(d: &DecisionRow, row: &PartRow, tray: &TrayRows) -> Result<DecisionView, ApiError> {
    let of_part = |id: Uuid| id == row.id;
    let measured_since = tray.readings.iter().any(|r| of_part(r.part_id) && r.taken_at > d.decided_at);
    let fitted_since = tray.fittings.iter().any(|f| of_part(f.part_id) && f.fitted_at > d.decided_at);
    Ok(DecisionView {
        offered: Name(stored(&d.offered)?),
        decided: Name(stored(&d.decided)?),
        why: d.why.clone(),
        school: Name(stored(&d.school)?),
        reasons: serde_json::from_value(d.reasons.clone()).map_err(corrupt)?,
        decided_at: d.decided_at,
        stands: !measured_since && !fitted_since,
    })
}

fn fitting_view(f: &FittingRow) -> Result<FittingView, ApiError> {
    let value = Ohm::new(f.ohm).map_err(corrupt)?;
    let measured = Ohm::new(f.measured_ohm).map_err(corrupt)?;
    let proof = match (f.worked, &f.seen, f.proven_at) {
        (Some(worked), Some(seen), Some(proven_at)) => {
            Some(ProofView { worked, seen: seen.clone(), proven_at })
        }
        _ => None,
    };
    Ok(FittingView {
        id: f.id,
        description: f.description.clone(),
        value: value.into(),
        tolerance: format!("±{}", percent(f.tolerance)),
        measured: measured.into(),
        deviation: signed_percent(measured.ohms() / value.ohms() - 1.0),
        note: f.note.clone(),
        fitted_at: f.fitted_at,
        proof,
    })
}
