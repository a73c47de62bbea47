//! Parts as they are sent: rows put together, judged by the core.

use owl_core::caution::Step;
use owl_core::marking::Colour;
use owl_core::marking::disagreement::{Between, Disagreement, Values, find};
use owl_core::marking::encode::bands;
use owl_core::named::Named;
use owl_core::part::position::isolate;
use owl_core::part::{Fact, Look, MadeOf, Part, PartKind, Progress};
use owl_core::quantity::write::{percent, signed_percent};
use owl_core::quantity::{Fraction, Ohm, Quantity, Volt, Watt};
use owl_core::reading::trap::traps;
use owl_core::reading::{ReadQuantity, Reading, Setting, State};
use owl_core::transistor::after;
use owl_core::verdict::cause::OnTray;
use owl_core::verdict::{Call, Case, Partner, Policy, PolicyNumber, Verdict, judge};

use serde::Deserialize;

use super::sitting::{Sitting, before_any_fitting, corrupt, fraction, sitting, watt};
use super::store::{PartRow, TrayRows};
use super::wire::{
    CheckView, DecisionView, FactView, FamilyView, FittingView, PairView, PartView, ProofView, ReadableView,
};
use crate::amount::Amount;
use crate::cause::{on_tray, question};
use crate::decision::store::DecisionRow;
use crate::decode::wire::MeaningView;
use crate::error::ApiError;
use crate::explanation::{DisagreementView, ExplanationView, explanation_view};
use crate::fitting::store::FittingRow;
use crate::judge::view::{Judgement, ReasonView, judgement};
use crate::name::{ColourName, Name, StepName, stored};
use crate::reading;
use crate::reading::store::ReadingRow;
use crate::reading::wire::ReadingView;
use crate::transistor::junction::JunctionView;

/// The verdict on what sits there, and what the schools would say.
fn judged(sitting: &Sitting<'_>, partners: &[Partner], policy: &Policy) -> Option<Judgement> {
    let part = sitting.part.as_ref()?;
    let readings: Vec<Reading> = sitting.readings.iter().map(|(r, _)| *r).collect();
    Some(judgement(case(sitting, part, &readings, partners), policy))
}

fn case<'a>(
    sitting: &'a Sitting<'_>,
    part: &'a Part,
    readings: &'a [Reading],
    partners: &'a [Partner],
) -> Case<'a> {
    Case {
        part,
        position: sitting.position,
        readings,
        partners,
        circuit: &sitting.circuit,
        looks: &sitting.looks,
    }
}

/// A verdict alone, without what is drawn beside it.
fn verdict(sitting: &Sitting<'_>, policy: &Policy) -> Option<Verdict> {
    let part = sitting.part.as_ref()?;
    let readings: Vec<Reading> = sitting.readings.iter().map(|(r, _)| *r).collect();
    Some(judge(case(sitting, part, &readings, &[]), policy))
}

/// The others of a group as far as they have a reading that decides.
fn partners(row: &PartRow, tray: &TrayRows, policy: &Policy) -> Result<Vec<Partner>, ApiError> {
    let mut found = Vec::new();
    for other in others_of(row, tray) {
        let sitting = sitting(other, tray)?;
        let Some(verdict) = verdict(&sitting, policy) else { continue };
        let measured = verdict.decided_by.and_then(|i| sitting.readings[i].0.value_si());
        let marked = match &sitting.part {
            Some(Part::Resistor(r)) => Some(r.value.ohms()),
            Some(Part::Coil(c)) => c.resistance.map(Ohm::ohms).or(measured),
            _ => None,
        };
        let decided = matches!(verdict.call, Call::Keep | Call::Watch | Call::Replace);
        if let (Some(measured_si), Some(marked_si), true) = (measured.filter(|v| *v > 0.0), marked, decided) {
            found.push(Partner { name: other.name.clone(), measured_si, marked_si });
        }
    }
    Ok(found)
}

fn others_of<'a>(row: &'a PartRow, tray: &'a TrayRows) -> impl Iterator<Item = &'a PartRow> {
    let group = row.group_id;
    tray.parts.iter().filter(move |p| group.is_some() && p.group_id == group && p.id != row.id)
}

/// From here on a tray is judged by all cores: below, starting a thread takes longer than the work.
const LONG_TRAY: usize = 60;

/// All parts of a tray as they are sent.
///
/// # Errors
/// [`ApiError::Internal`] for rows that cannot be.
pub fn part_views(tray: &TrayRows, policy: &Policy) -> Result<Vec<PartView>, ApiError> {
    let on_tray = on_tray(&tray.parts)?;
    let of = |rows: &[PartRow]| -> Result<Vec<PartView>, ApiError> {
        rows.iter().map(|row| part_view(row, tray, &on_tray, policy)).collect()
    };
    let cores = std::thread::available_parallelism().map_or(1, usize::from).min(8);
    if tray.parts.len() < LONG_TRAY || cores == 1 {
        return of(&tray.parts);
    }
    let share = tray.parts.len().div_ceil(cores);
    let judged: Vec<Result<Vec<PartView>, ApiError>> = std::thread::scope(|scope| {
        let threads: Vec<_> = tray.parts.chunks(share).map(|rows| scope.spawn(|| of(rows))).collect();
        let panicked = |_| Err(ApiError::Internal("a thread that judges parts panicked".to_owned()));
        threads.into_iter().map(|t| t.join().unwrap_or_else(panicked)).collect()
    });
    let mut views = Vec::with_capacity(tray.parts.len());
    for part in judged {
        views.extend(part?);
    }
    Ok(views)
}

fn part_view(
    row: &PartRow,
    tray: &TrayRows,
    on_tray: &[OnTray<'_>],
    policy: &Policy,
) -> Result<PartView, ApiError> {
    let sitting = sitting(row, tray)?;
    let partners = partners(row, tray, policy)?;
    let judgement = judged(&sitting, &partners, policy);
    let deciding = judgement.as_ref().and_then(|j| sitting.readings[j.decided_by?].1);
    let decision = tray.decisions.iter().rfind(|d| d.part_id == row.id);
    let decision = decision.map(|d| decision_view(d, row, tray)).transpose()?;
    let kind = row.kind()?;
    let (progress, step, steps) = progress(kind, row, &sitting, judgement.as_ref(), decision.as_ref());
    let readings = reading_views(row, tray, &sitting, policy)?;
    let tolerance = fraction(row.tolerance)?;
    let power = watt(row.watts)?;
    let amount = |v: Option<f64>| kind.quantity().zip(v).map(|(q, v)| Amount::of(q, v));
    let mark: Option<MeaningView> =
        row.mark.as_ref().map(MeaningView::deserialize).transpose().map_err(corrupt)?;
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
    let group: Vec<PairView> =
        others_of(row, tray).map(|p| PairView { id: p.id, name: p.name.clone() }).collect();
    let family: Option<MadeOf> = row.family.as_deref().map(stored).transpose()?;
    let measured = latest(&readings, reading::usual(kind));
    let deciding = deciding.and_then(|r| readings.iter().find(|v| v.id == r.id)).map(ReadingView::in_short);
    Ok(PartView {
        id: row.id,
        version: row.version,
        name: row.name.clone(),
        kind: Name(kind),
        family: family.map(Name),
        position: sitting.position.map(Name),
        place: row.place.clone(),
        note: row.note.clone(),
        pair: (group.len() == 1).then(|| group[0].clone()),
        group,
        looks: row.looks.iter().map(|l| stored(l).map(Name)).collect::<Result<_, _>>()?,
        can_look: Look::of(kind).map(Name).collect(),
        facts: facts(row),
        asks: judgement.as_ref().map(|j| j.asks.clone()).unwrap_or_default(),
        fed_by: row
            .feed_id
            .and_then(|id| tray.parts.iter().find(|p| p.id == id))
            .map(|p| PairView { id: p.id, name: p.name.clone() }),
        test_warm: row.test_warm,
        made: row.made,
        plates: row.plates,
        winding: row.winding.map(|v| Amount::of(Quantity::Resistance, v)),
        matters: sitting.position.and_then(|p| p.facts(kind)).map(|f| f.matters.clone()),
        family_known: family.and_then(MadeOf::facts).map(|f| FamilyView {
            known_bad: f.known_bad,
            failure: f.failure.clone(),
            reliable_from: f.reliable_from,
            replaced_by: f.replaced_by.clone(),
            source: f.source.to_string(),
        }),
        isolate: isolate(kind, sitting.position, &row.place),
        readable: reading::readable(kind)
            .iter()
            .map(|(called, all)| ReadableView {
                called: (*called).to_owned(),
                quantities: all.iter().map(|q| Name(*q)).collect(),
            })
            .collect(),
        tester_setting: family.and_then(Setting::of).map(Name),
        suspect_of: row
            .suspect_of
            .and_then(|id| tray.parts.iter().find(|p| p.id == id))
            .map(|p| PairView { id: p.id, name: p.name.clone() }),
        suspects_open: crate::transistor::suspect::open(row.id, tray),
        type_number: type_number(row, &sitting),
        junctions: junctions(row, tray, &sitting)?,
        checks: checks(kind),
        urgency: progress.urgency(),
        cause: overloaded(row, tray, &sitting, judgement.as_ref(), policy)?
            .then(|| question(row, tray, on_tray)),
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
        measured,
        deciding,
        readings,
        judgement,
        judged_against: sitting.against,
        decision,
        fittings: fittings(row, tray)?,
        standing: Name(progress.standing().0),
        step: Name(step),
        steps,
    })
}

/// The type number of what sits there.
fn type_number(row: &PartRow, sitting: &Sitting<'_>) -> Option<String> {
    let fitted = sitting.last_fitting.map(|f| f.type_number.clone()).filter(|t| !t.is_empty());
    fitted.or_else(|| row.type_number().map(str::to_owned))
}

/// The newest test of the junctions of what sits there.
fn junctions(
    row: &PartRow,
    tray: &TrayRows,
    sitting: &Sitting<'_>,
) -> Result<Option<JunctionView>, ApiError> {
    let since = sitting.last_fitting.map(|f| f.fitted_at);
    let newest =
        tray.junctions.iter().rfind(|j| j.part_id == row.id && since.is_none_or(|at| j.taken_at > at));
    newest.map(JunctionView::of).transpose()
}

/// What is checked after such a part was fitted.
fn checks(kind: PartKind) -> Vec<CheckView> {
    if kind != PartKind::Transistor {
        return vec![];
    }
    let view = |c: &after::Line| CheckView { check: Name(c.check), kind: Name(c.kind), ask: c.ask.clone() };
    after::lines().iter().map(view).collect()
}

/// How far the part has come, the step that is next, and the steps that there are for such a part.
fn progress(
    kind: PartKind,
    row: &PartRow,
    sitting: &Sitting<'_>,
    judgement: Option<&Judgement>,
    decision: Option<&DecisionView>,
) -> (Progress, Step, Vec<StepName>) {
    // A school can condemn what nobody has measured, and a look can too.
    let settled = judgement.filter(|j| !sitting.readings.is_empty() || j.verdict.0 != Call::MeasureAgain);
    let progress = Progress {
        marked: sitting.part.is_some() || row.mark.is_some() || row.marked.or(row.sheet).is_some(),
        verdict: settled.map(|j| j.verdict.0),
        decided: decision.filter(|d| d.stands).map(|d| d.decided.0),
        fitted: sitting.last_fitting.is_some(),
        proven: sitting.last_fitting.and_then(|f| f.worked),
    };
    let (_, step) = progress.standing();
    let steps: Vec<StepName> = match kind {
        PartKind::Resistor
        | PartKind::Capacitor
        | PartKind::Coil
        | PartKind::Diode
        | PartKind::Transistor => Step::ALL.iter().map(|s| Name(*s)).collect(),
        // A lamp lights or not, a circuit works in its socket: there is nothing to measure and judge.
        PartKind::Lamp | PartKind::Ic => [Step::Read, Step::Fit, Step::Prove].map(Name).to_vec(),
    };
    let step = if steps.contains(&Name(step)) { step } else { Step::Fit };
    (progress, step, steps)
}

/// The readings of a part, those struck out and those of what was taken out among them.
fn reading_views(
    row: &PartRow,
    tray: &TrayRows,
    sitting: &Sitting<'_>,
    policy: &Policy,
) -> Result<Vec<ReadingView>, ApiError> {
    let last_fitted_at = sitting.last_fitting.map(|f| f.fitted_at);
    let working = sitting.circuit.get_si(Fact::Voltage).and_then(|v| Volt::new(v).ok());
    let (leads, low) =
        (policy.number_si(PolicyNumber::LeadOhms), policy.number_si(PolicyNumber::LowTestVolts));
    tray.readings_of(row.id)
        .map(|r| {
            let before = last_fitted_at.is_some_and(|at| r.taken_at <= at);
            let warnings = match &sitting.part {
                Some(part) if r.struck.is_none() && !before => {
                    traps(part, working, &r.reading()?, leads, low)
                }
                _ => vec![],
            };
            ReadingView::of(r, before, &warnings)
        })
        .collect()
}

/// What is known of the circuit, as it was said, in the table's order.
fn facts(row: &PartRow) -> Vec<FactView> {
    let known = |f: &Fact| row.facts.get(f.name()).and_then(serde_json::Value::as_f64);
    Fact::ALL.iter().filter_map(|f| Some(FactView::of(*f, Some(known(f)?)))).collect()
}

/// Whether something overloaded what was found there, or somebody has said what did.
fn overloaded(
    row: &PartRow,
    tray: &TrayRows,
    sitting: &Sitting<'_>,
    judgement: Option<&Judgement>,
    policy: &Policy,
) -> Result<bool, ApiError> {
    let judged = match sitting.last_fitting {
        // What was found is what sits there.
        None => judgement.is_some_and(|j| j.overloaded),
        Some(_) => verdict(&before_any_fitting(row, tray)?, policy).is_some_and(|v| v.overloaded),
    };
    Ok(judged || tray.causes.iter().any(|c| c.part_id == row.id))
}

/// What was read last of what sits there now: what such a part is read in first, or else anything.
fn latest(readings: &[ReadingView], usual: ReadQuantity) -> Option<ReadingView> {
    let counts = |r: &&ReadingView| !r.before_fitting && r.struck.is_none();
    let of_usual = readings.iter().filter(counts).rfind(|r| r.quantity.0 == usual);
    of_usual.or_else(|| readings.iter().rfind(counts)).map(ReadingView::in_short)
}

/// What sheet, mark and meter disagree about now, unless somebody has answered it for these values.
pub fn disagreement(row: &PartRow, tray: &TrayRows) -> Result<Option<Disagreement>, ApiError> {
    let last_fitting = tray.fittings.iter().rfind(|f| f.part_id == row.id);
    // What was fitted since is another part.
    let reading = tray.readings_of(row.id).rfind(|r| counts(row, r)).filter(|_| last_fitting.is_none());
    let values = Values {
        part: row.kind()?,
        sheet_si: row.sheet,
        marked_si: row.marked,
        measured_si: reading.and_then(|r| r.value),
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

/// Whether a reading can be held against sheet and mark: a value of what they are a value of.
pub fn counts(row: &PartRow, r: &ReadingRow) -> bool {
    let of_the_mark = match PartKind::from_name(&row.kind) {
        Ok(PartKind::Resistor) => ReadQuantity::Resistance.name(),
        Ok(PartKind::Capacitor) => ReadQuantity::Capacitance.name(),
        Ok(PartKind::Coil) => ReadQuantity::Inductance.name(),
        _ => return false,
    };
    r.value.is_some() && r.struck.is_none() && r.quantity == of_the_mark
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
    let measured_since = tray.readings_of(row.id).any(|r| r.taken_at > d.decided_at);
    let struck_since = tray.readings_of(row.id).any(|r| r.struck_at.is_some_and(|at| at > d.decided_at));
    let tested_since = tray.junctions.iter().any(|j| j.part_id == row.id && j.taken_at > d.decided_at);
    let fitted_since = tray.fittings.iter().any(|f| f.part_id == row.id && f.fitted_at > d.decided_at);
    Ok(DecisionView {
        offered: Name(stored(&d.offered)?),
        decided: Name(stored(&d.decided)?),
        why: d.why.clone(),
        school: Name(stored(&d.school)?),
        policy: d.policy.clone(),
        reasons: Vec::<ReasonView>::deserialize(&d.reasons).map_err(corrupt)?,
        decided_at: d.decided_at,
        stands: !measured_since && !tested_since && !struck_since && !fitted_since,
    })
}

/// What went in, oldest first, what was undone among it.
fn fittings(row: &PartRow, tray: &TrayRows) -> Result<Vec<FittingView>, ApiError> {
    let all = tray.withdrawn.iter().chain(&tray.fittings).filter(|f| f.part_id == row.id);
    let mut views = all.map(fitting_view).collect::<Result<Vec<_>, _>>()?;
    views.sort_by_key(|f| f.fitted_at);
    Ok(views)
}

fn fitting_view(f: &FittingRow) -> Result<FittingView, ApiError> {
    let kind: PartKind = stored(&f.kind)?;
    let of = reading::usual(kind).quantity();
    let proof = match (f.worked, &f.seen, f.proven_at) {
        (Some(worked), Some(seen), Some(proven_at)) => {
            Some(ProofView { checks: f.checks.clone(), worked, seen: seen.clone(), proven_at })
        }
        _ => None,
    };
    let same = kind.quantity() == Some(of);
    let deviation = f.measured.zip(f.value).filter(|_| same).map(|(m, v)| signed_percent(m / v - 1.0));
    Ok(FittingView {
        id: f.id,
        description: f.description.clone(),
        value: kind.quantity().zip(f.value).map(|(q, v)| Amount::of(q, v)),
        tolerance: f.tolerance.map(|t| format!("±{}", percent(t))),
        measured: f.measured.map(|m| Amount::of(of, m)),
        deviation,
        test: f.test.clone(),
        taken: f.taken.clone(),
        note: f.note.clone(),
        bag: f.bag.clone(),
        fitted_at: f.fitted_at,
        proof,
        withdrawn_at: f.withdrawn_at,
        withdrawn_why: f.withdrawn_why.clone(),
    })
}
