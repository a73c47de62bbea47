//! A part with everything that is known of it, for the station.

use owl_core::named::Named;
use owl_core::part::{Fact, MadeOf, PartKind, VisualSign};
use owl_core::quantity::format::{percent, signed_percent};
use owl_core::quantity::{Ohm, Quantity};
use owl_core::reading::pitfall::pitfalls;
use owl_core::reading::{Setting, readable, usual, usual_state};
use owl_core::say::line::Described;
use owl_core::transistor::after;
use owl_core::transistor::place::stage_at;
use owl_core::tray::goes_in::not_measured;
use owl_core::tray::installed::newest_junctions;
use owl_core::tray::verdict::{Judged, judged, latest, overloaded};
use owl_core::tray::{NewPart, Tray, TrayPart, question, stage, status};
use owl_core::verdict::{Policy, PolicyNumber};
use sqlx::PgConnection;
use uuid::Uuid;

use super::load::{Loaded, around, of_ticket};
use super::pins::CircuitView;
use super::reading_view::ReadingView;
use super::strip::{PairView, strip_of};
use super::valve_data::ValveDataView;
use super::wire::{
    AnswerView, CauseView, CheckView, DecisionView, DisagreementView, ExplanationView, FamilyView,
    FirstAskedView, FittingView, PartView, ProofView, ReadableView, SuspectView, UnnamedView,
    explanation_view,
};
use super::{id, uuid};
use crate::amount::Amount;
use crate::decode::wire::MeaningView;
use crate::error::ApiError;
use crate::judge::view::{FactView, ReasonView, judgement};
use crate::table::fitting::FittingRow;
use crate::table::part::PartRow;
use crate::table::ticket::TicketRow;
use crate::transistor::junction_view::JunctionView;

/// A part of a ticket as a transaction sees it.
///
/// # Errors
/// 404; [`ApiError::Internal`] for rows that cannot be.
pub async fn part_in(db: &mut PgConnection, part: Uuid) -> Result<PartView, ApiError> {
    let row = crate::table::part::find(&mut *db, part).await?;
    let ticket = crate::table::ticket::find(&mut *db, row.ticket_id).await?;
    let policy = crate::table::policy::of_ticket(&mut *db, &ticket).await?;
    let loaded = around(&mut *db, row.id).await?;
    Ok(viewed(db, &row, &ticket, loaded, &policy).await?.0)
}

/// A part that was loaded with its neighbours. What could have overloaded it is sought on the whole tray, which is
/// loaded only then.
///
/// # Errors
/// [`ApiError::Internal`] for rows that cannot be.
pub async fn viewed(
    db: &mut PgConnection,
    row: &PartRow,
    ticket: &TicketRow,
    loaded: Loaded,
    policy: &Policy,
) -> Result<(PartView, Loaded), ApiError> {
    let hot = {
        let part = loaded.part(row.id)?;
        overloaded(&loaded.tray, part, judged(&loaded.tray, part, policy).verdict.as_ref(), policy)
    };
    let loaded = if hot { of_ticket(db, ticket.id).await? } else { loaded };
    Ok((part_view(row, &loaded, policy)?, loaded))
}

/// All parts of a ticket with everything that is known of them: for its record and its reports.
///
/// # Errors
/// 404; [`ApiError::Internal`] for rows that cannot be.
pub async fn parts_in(db: &mut PgConnection, ticket: &TicketRow) -> Result<Vec<PartView>, ApiError> {
    let policy = crate::table::policy::of_ticket(&mut *db, ticket).await?;
    let loaded = of_ticket(&mut *db, ticket.id).await?;
    loaded.parts.iter().map(|row| part_view(row, &loaded, &policy)).collect()
}

/// A part of a tray.
///
/// # Errors
/// [`ApiError::Internal`] for rows that cannot be.
pub fn part_view(row: &PartRow, loaded: &Loaded, policy: &Policy) -> Result<PartView, ApiError> {
    let (tray, part) = (&loaded.tray, loaded.part(row.id)?);
    let judged = judged(tray, part, policy);
    let strip = strip_of(row, loaded, &judged, policy);
    let judgement = judged.sits.case(&judged.partners).map(|case| judgement(case, policy));
    let deciding = judgement.as_ref().and_then(|j| *judged.sits.taken.get(j.decided_by?)?).map(uuid);
    let readings = reading_views(loaded, &judged, policy)?;
    let found = |wanted: Uuid| readings.iter().find(|r| r.id == wanted).map(ReadingView::in_short);
    let kind = part.kind;
    let asked = overloaded(tray, part, judged.verdict.as_ref(), policy);
    Ok(PartView {
        pair: (strip.group.len() == 1).then(|| strip.group[0].clone()),
        circuit: CircuitView::of(part),
        valve_data: ValveDataView::of(part),
        can_look: VisualSign::of(kind).collect(),
        stage: part.position.filter(|_| kind == PartKind::Transistor).and_then(stage_at),
        facts: facts(tray, part),
        asks: judgement.as_ref().map(|j| j.asks.clone()).unwrap_or_default(),
        fed_by: part.fed_by.and_then(|f| tray.part(f)).map(PairView::of),
        test_warm: row.test_warm,
        made: row.made,
        plates: row.plates,
        matters: part.position.and_then(|p| p.facts(kind)).map(|f| f.matters.clone()),
        safety_classes: part
            .position
            .filter(|_| kind == PartKind::Capacitor)
            .and_then(|p| p.class_rule())
            .map(|r| r.classes.to_vec())
            .unwrap_or_default(),
        family_known: part.family.and_then(MadeOf::facts).map(|f| FamilyView {
            known_bad: f.known_bad,
            failure: f.failure.clone(),
            reliable_from: f.reliable_from,
            replaced_by: f.replaced_by.clone(),
            source: f.source.to_string(),
        }),
        readable: readable(kind)
            .iter()
            .map(|r| ReadableView {
                called: r.called.to_owned(),
                quantities: r.quantities.to_vec(),
                state: usual_state(kind, r.quantities[0]),
            })
            .collect(),
        tester_setting: part.family.and_then(Setting::of),
        first_asked: question::first_asked(tray, part).map(FirstAskedView::from),
        suspects_open: stage::suspects_open(tray, part.id).into_iter().map(str::to_owned).collect(),
        suspects_unnamed: stage::unnamed(part).into_iter().map(UnnamedView::from).collect(),
        stage_to_fit: names(stage::to_fit(tray, part)),
        stage_to_prove: names(stage::to_prove(tray, part)),
        junctions: junctions(loaded, part)?,
        checks: checks(part),
        cause: asked.then(|| cause(loaded, part)),
        tolerance: row.tolerance,
        in_words: in_words(part),
        mark: part.mark.as_ref().map(MeaningView::of),
        disagreement: question::disagreement(part).map(|d| DisagreementView::of(&d)),
        explanations: loaded
            .explanations(row.id)
            .iter()
            .map(explanation_view)
            .collect::<Result<Vec<ExplanationView>, _>>()?,
        power: part.power.map(Amount::from),
        marking: row.marking.clone(),
        line: line(row, part),
        measured: latest(part).and_then(|r| found(uuid(r.id))),
        deciding: deciding.and_then(found),
        judgement,
        judged_against: judged.sits.against,
        decision: decision(loaded, part),
        fittings: (loaded.fittings(row.id).iter().zip(&part.fittings))
            .map(|(row, f)| fitting_view(row, &f.piece))
            .collect(),
        readings,
        strip,
    })
}

/// The newest test of the junctions of what sits there.
fn junctions(loaded: &Loaded, part: &TrayPart) -> Result<Option<JunctionView>, ApiError> {
    let newest = newest_junctions(part, part.fitting()).and_then(|i| loaded.junctions(uuid(part.id)).get(i));
    newest.map(JunctionView::of).transpose()
}

/// What is checked after such a part was fitted.
fn checks(part: &TrayPart) -> Vec<CheckView> {
    if part.kind != PartKind::Transistor {
        return vec![];
    }
    let view = |c: &after::AfterCheck| CheckView { check: c.check, kind: c.kind, ask: c.ask.clone() };
    after::checks(part.position.and_then(stage_at)).map(view).collect()
}

/// The readings of a part, those voided and those of what was taken out among them.
fn reading_views(
    loaded: &Loaded,
    judged: &Judged<'_>,
    policy: &Policy,
) -> Result<Vec<ReadingView>, ApiError> {
    let part = judged.part;
    let since = part.fitting().map(|f| f.fitted_at);
    let working = judged.sits.working();
    let (leads, low) =
        (policy.number_si(PolicyNumber::LeadOhms), policy.number_si(PolicyNumber::LowTestVolts));
    let rows = loaded.readings(uuid(part.id));
    let views = rows.iter().zip(&part.readings).map(|(row, taken)| {
        let before = since.is_some_and(|at| taken.taken_at <= at);
        let warnings = match &judged.sits.part {
            Some(p) if taken.voided_at.is_none() && !before => {
                pitfalls(p, working, &taken.reading, leads, low)
            }
            _ => vec![],
        };
        ReadingView::of(row, before, &warnings)
    });
    views.collect()
}

/// What is known of the circuit, as it was said of the part or of the set, in the table's order.
fn facts(tray: &Tray, part: &TrayPart) -> Vec<FactView> {
    let set = tray.shared(part);
    let mut all = set.clone();
    all.overlay(&part.said);
    let said: Vec<(Fact, f64)> = all.known().collect();
    let known = |f: &Fact| said.iter().find(|(k, _)| k == f).map(|(_, v)| *v);
    let view = |f: Fact| Some(FactView::of(f, Some(known(&f)?)).within(&set, &part.said));
    Fact::said().filter_map(view).collect()
}

/// The question why a part failed, and the answer that was given last.
fn cause(loaded: &Loaded, part: &TrayPart) -> CauseView {
    let name = |culprit: Uuid| loaded.tray.part(id(culprit)).map(|p| p.name.clone());
    CauseView {
        question: question::overload_question(part),
        suspects: question::overloaders(&loaded.tray, part).into_iter().map(SuspectView::from).collect(),
        answer: loaded.causes(uuid(part.id)).last().map(|c| AnswerView {
            text: c.answer.clone(),
            culprit: c.culprit_id.and_then(name),
            answered_at: c.answered_at,
        }),
    }
}

fn names(parts: Vec<&TrayPart>) -> Vec<String> {
    parts.into_iter().map(|p| p.name.clone()).collect()
}

fn in_words(part: &TrayPart) -> String {
    if let Some(m) = part.mark.as_ref().filter(|_| part.kind != PartKind::Resistor) {
        return m.in_words().replace(", ", " · ");
    }
    let mut words = Vec::new();
    let marked = part.marked_si.filter(|_| part.kind == PartKind::Resistor).and_then(|v| Ohm::new(v).ok());
    if let Some(v) = marked {
        let none = || "no band, ±20 %".to_owned();
        let t = part.tolerance.map_or_else(none, |t| format!("±{}", percent(t.fraction())));
        words.push(format!("{v} {t}"));
    }
    words.extend(part.power.map(|p| p.to_string()));
    words.push(part.family.map_or(part.kind.name(), Named::name).to_owned());
    words.join(" · ")
}

fn decision(loaded: &Loaded, part: &TrayPart) -> Option<DecisionView> {
    let d = loaded.decisions(uuid(part.id)).last()?;
    Some(DecisionView {
        offered: d.offered,
        decided: d.decided,
        why: d.why.clone(),
        school: d.school,
        policy: d.policy.clone(),
        reasons: d.reasons.0.0.iter().cloned().map(ReasonView::from).collect(),
        decided_at: d.decided_at,
        stands: status::decided(part).is_some(),
    })
}

fn fitting_view(f: &FittingRow, piece: &NewPart) -> FittingView {
    let kind = f.kind;
    let of = usual(kind).quantity();
    let proof = match (f.outcome, &f.seen, f.proven_at) {
        (Some(outcome), Some(seen), Some(proven_at)) => Some(ProofView {
            checks: f.checks.clone(),
            outcome,
            seen: seen.clone(),
            earlier: f.earlier.clone(),
            proven_at,
        }),
        _ => None,
    };
    FittingView {
        id: f.id,
        description: f.description.clone(),
        value: kind.quantity().zip(f.value).map(|(q, v)| Amount::of(q, v)),
        tolerance: f.tolerance.map(|t| format!("±{}", percent(t))),
        volts: f.volts.map(|v| Amount::of(Quantity::Voltage, v)),
        safety: f.safety,
        measured: f.measured.map(|m| Amount::of(of, m)),
        deviation: piece.deviation().map(signed_percent),
        test: f.test.clone(),
        despite: f.despite.clone(),
        unmeasured: f.measured.is_none() && not_measured(kind).is_none(),
        taken: f.taken.clone(),
        note: f.note.clone(),
        bag: f.bag.clone(),
        fitted_at: f.fitted_at,
        proof,
        withdrawn_at: f.withdrawn_at,
        withdrawn_why: f.withdrawn_why.clone(),
    }
}

/// The sentence that would make it.
fn line(row: &PartRow, part: &TrayPart) -> String {
    let whole = |n: Option<i32>| n.and_then(|n| u16::try_from(n).ok());
    Described {
        name: &part.name,
        kind: part.kind,
        marking: &row.marking,
        marked_si: part.marked_si,
        tolerance: part.tolerance,
        power: part.power,
        family: part.family,
        position: part.position,
        place: &part.place,
        looks: &part.looks,
        sheet_si: part.sheet_si,
        winding: part.winding,
        made: whole(row.made),
        plates: whole(row.plates),
    }
    .sentence()
}
